package app

import (
	"context"
	"slices"
	"time"

	"dynacor/core/recipe"
	"dynacor/core/rehearsal"
	"dynacor/internal/recipes"
	"dynacor/internal/words"
)

// RecipeDraft is a recipe file that is being edited, as it was read.
type RecipeDraft struct {
	Recipe  recipe.Recipe
	Read    bool // it can be read; else its one fault says why not
	Faults  []recipes.Fault
	Newest  int             // edition of its id; 0 where it is a new recipe
	Changes []recipe.Change // against that
	JSON    []byte          // the file written anew
	YAML    []byte
}

// CheckRecipe says what is wrong with a file that is being edited, and in what it differs
// from the newest edition of its id. Nothing is stored.
func (a *App) CheckRecipe(ctx context.Context, file []byte) (RecipeDraft, error) {
	var d RecipeDraft
	d.Recipe, d.Faults, d.Read = recipes.Draft(file)
	if !d.Read {
		return d, nil
	}
	var err error
	if d.JSON, err = recipes.JSON(d.Recipe); err != nil {
		return d, err
	}
	if d.YAML, err = recipes.Write(d.Recipe); err != nil {
		return d, err
	}
	newest, err := a.newestEditions(ctx)
	if err != nil {
		return d, err
	}
	if d.Newest = newest[d.Recipe.ID]; d.Newest == 0 {
		return d, nil
	}
	was, err := a.recipe(ctx, d.Recipe.ID, d.Newest)
	if _, torn := faultOf(err); torn {
		return d, nil // what does not hold is compared with nothing
	} else if err != nil {
		return d, err
	}
	d.Changes = recipe.Compare(was, d.Recipe)
	return d, nil
}

// Prose is a text of a recipe, and what the program's own words make of it by language, where
// they say all of it.
type Prose struct {
	Text string
	Says map[string]string
}

// ProseOf lists what a file that is being edited says to people. One that cannot be read is
// refused; nothing is stored.
func (a *App) ProseOf(file []byte) ([]Prose, error) {
	r, faults, ok := recipes.Draft(file)
	if !ok {
		return nil, &faults[0].Error
	}
	var out []Prose
	for _, text := range r.Prose() {
		if !words.Prose(text) {
			continue
		}
		p := Prose{Text: text, Says: map[string]string{}}
		for _, language := range words.Languages() {
			if says, whole := words.For(language).Said(text); whole {
				p.Says[language] = says
			}
		}
		out = append(out, p)
	}
	return out, nil
}

// Rehearse goes dry through a file in one variant. One that does not hold is refused as it
// would be when it is kept. Nothing is stored.
func (a *App) Rehearse(file []byte, choices map[string]string) (rehearsal.Walked, recipe.Recipe, error) {
	r, err := recipes.Read(file)
	if err != nil {
		return rehearsal.Walked{}, r, err
	}
	w, err := rehearsal.Walk(r, choices)
	return w, r, err
}

// EditionLine is an edition of a recipe with what differs from the one before.
type EditionLine struct {
	Edition int
	MadeBy  string // name; empty: it ships with the product
	MadeAt  time.Time
	Changes []recipe.Change
	Fault   string // where it is not what was added: what
}

// Editions lists the editions of a recipe, the newest first.
func (a *App) Editions(ctx context.Context, id string) ([]EditionLine, error) {
	if err := a.keepBook(ctx); err != nil {
		return nil, err
	}
	rows, err := a.store.RecipeEditions(ctx, id)
	if err != nil {
		return nil, err
	}
	if len(rows) == 0 {
		return nil, notFound("recipe")
	}
	var out []EditionLine
	var before *recipe.Recipe
	for _, row := range rows {
		l := EditionLine{Edition: row.Edition, MadeAt: row.MadeAt}
		if row.MadeBy != nil {
			if l.MadeBy, err = a.nameOf(ctx, *row.MadeBy); err != nil {
				return nil, err
			}
		}
		r, err := a.parse(row)
		what, torn := faultOf(err)
		if err != nil && !torn {
			return nil, err
		}
		if l.Fault = what; !torn {
			if before != nil {
				l.Changes = recipe.Compare(*before, r)
			}
			before = &r
		}
		out = append(out, l)
	}
	slices.Reverse(out)
	return out, nil
}
