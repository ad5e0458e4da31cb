package app

import (
	"context"
	"errors"
	"fmt"
	"strings"

	"github.com/google/uuid"

	"dynacor/core/joint"
	"dynacor/core/recipe"
	"dynacor/core/refusal"
	"dynacor/internal/recipes"
	"dynacor/internal/store"
)

// Edition is a recipe as the Library keeps it.
type Edition struct {
	recipe.Recipe
	MadeBy  string // name; empty: it ships with the product
	Retired *store.Retired
	Earlier int    // editions before this one
	Fault   string // where it is not what was added: what
}

type editionKey struct {
	id      string
	edition int
}

// Library returns the newest edition of each recipe, the shipped ones first in
// the order of the craft's kinds.
func (a *App) Library(ctx context.Context) ([]Edition, error) {
	if err := a.keepBook(ctx); err != nil {
		return nil, err
	}
	rows, err := a.store.Recipes(ctx)
	if err != nil {
		return nil, err
	}
	gone, err := a.store.RetiredRecipes(ctx)
	if err != nil {
		return nil, err
	}
	newest := map[string]store.Recipe{}
	count := map[string]int{}
	var order []string
	book, err := recipes.Book()
	if err != nil {
		return nil, err
	}
	for _, r := range book {
		order = append(order, r.ID)
		count[r.ID] = 0
	}
	for _, row := range rows {
		if _, listed := count[row.ID]; !listed {
			order = append(order, row.ID)
		}
		newest[row.ID] = row
		count[row.ID]++
	}
	var out []Edition
	for _, id := range order {
		row, ok := newest[id]
		if !ok {
			continue
		}
		r, err := a.parse(row)
		what, torn := faultOf(err)
		if torn {
			r = recipe.Recipe{ID: row.ID, Edition: row.Edition, Title: row.ID}
		} else if err != nil {
			return nil, err
		}
		e := Edition{Recipe: r, Earlier: count[id] - 1, Fault: what}
		if row.MadeBy != nil {
			if e.MadeBy, err = a.nameOf(ctx, *row.MadeBy); err != nil {
				return nil, err
			}
		}
		for _, g := range gone {
			if g.ID == id {
				e.Retired = &g
			}
		}
		out = append(out, e)
	}
	return out, nil
}

// nameOf returns the name of one person.
func (a *App) nameOf(ctx context.Context, id uuid.UUID) (string, error) {
	names, err := a.Names(ctx)
	if err != nil {
		return "", err
	}
	if name, ok := names[id.String()]; ok {
		return name, nil
	}
	p, err := a.store.PersonByID(ctx, id)
	return p.Name, found(err, "person")
}

// edition returns the newest edition of a recipe.
func (a *App) edition(ctx context.Context, id string) (e Edition, found bool, err error) {
	all, err := a.Library(ctx)
	for _, e := range all {
		if e.ID == id {
			return e, true, nil
		}
	}
	return e, false, err
}

// usable returns the newest edition of a recipe that is not retired.
func (a *App) usable(ctx context.Context, id string) (recipe.Recipe, error) {
	e, found, err := a.edition(ctx, id)
	switch {
	case err != nil:
		return e.Recipe, err
	case !found:
		return e.Recipe, refusal.New(refusal.Unknown, "recipe", fmt.Sprintf("There is no recipe %q.", id), "Choose one from the Library.")
	case e.Fault != "":
		return e.Recipe, refusal.New(refusal.NotNow, "recipe", e.Fault, "Choose another recipe, and tell the administrator.")
	case e.Retired != nil:
		return e.Recipe, refusal.New(refusal.NotNow, "recipe", fmt.Sprintf("%s is retired: %s", e.Title, e.Retired.Reason),
			"Choose another recipe.")
	}
	return e.Recipe, nil
}

// recipeOf returns a joint with its recipe as they are worked with: what the nameplate
// decides chosen, what repeats written out.
func (a *App) recipeOf(ctx context.Context, in joint.Input) (joint.Input, recipe.Recipe, error) {
	r, err := a.recipe(ctx, in.Recipe, in.Edition)
	if err != nil {
		return in, r, err
	}
	in, r = joint.Whole(in, r)
	return in, r, nil
}

// recipe returns one edition. Editions never change, so what was read once is
// kept; who asks meanwhile waits for that.
func (a *App) recipe(ctx context.Context, id string, edition int) (recipe.Recipe, error) {
	if r, ok := a.editions.Load(editionKey{id, edition}); ok {
		return r.(recipe.Recipe), nil
	}
	r, err, _ := a.reads.Do(fmt.Sprint(id, " ", edition), func() (any, error) { return a.readRecipe(context.WithoutCancel(ctx), id, edition) })
	out, _ := r.(recipe.Recipe)
	return out, err
}

func (a *App) readRecipe(ctx context.Context, id string, edition int) (recipe.Recipe, error) {
	row, err := a.store.Recipe(ctx, id, edition)
	if errors.Is(err, store.ErrNotFound) {
		if err := a.keepBook(ctx); err != nil {
			return recipe.Recipe{}, err
		}
		row, err = a.store.Recipe(ctx, id, edition)
	}
	if err != nil {
		return recipe.Recipe{}, found(err, "recipe")
	}
	return a.parse(row)
}

func (a *App) parse(row store.Recipe) (recipe.Recipe, error) {
	key := editionKey{row.ID, row.Edition}
	if r, ok := a.editions.Load(key); ok {
		return r.(recipe.Recipe), nil
	}
	if what := row.Fault(); what != "" {
		return recipe.Recipe{}, doesNotHold(what)
	}
	r, err := recipes.Read([]byte(row.Body))
	if err != nil {
		return r, doesNotHold(fmt.Sprintf("the recipe %s, edition %d, cannot be read", row.ID, row.Edition))
	}
	a.editions.Store(key, r)
	return r, nil
}

// newestEditions returns the newest edition of every recipe.
func (a *App) newestEditions(ctx context.Context) (map[string]int, error) {
	if err := a.keepBook(ctx); err != nil {
		return nil, err
	}
	return a.store.NewestEditions(ctx)
}

// keepBook stores the shipped recipes that the database does not have yet, once
// for each App. A shipped recipe that differs from the last shipped edition in
// the database becomes the next edition there.
func (a *App) keepBook(ctx context.Context) error {
	a.bookMu.Lock()
	defer a.bookMu.Unlock()
	if a.bookKept {
		return nil
	}
	book, err := recipes.Book()
	if err != nil {
		return err
	}
	rows, err := a.store.Recipes(ctx)
	if err != nil {
		return err
	}
	last, shipped := map[string]int{}, map[string]store.Recipe{}
	for _, row := range rows {
		last[row.ID] = max(last[row.ID], row.Edition)
		if row.MadeBy == nil {
			shipped[row.ID] = row
		}
	}
	for _, r := range book {
		before, there := shipped[r.ID]
		r.Edition = max(last[r.ID]+1, r.Edition)
		if there {
			r.Edition = before.Edition
		}
		body, err := recipes.Shipped(r)
		if err != nil {
			return err
		}
		if there && before.Body == string(body) {
			continue
		}
		if there {
			r.Edition = last[r.ID] + 1
			if body, err = recipes.Shipped(r); err != nil {
				return err
			}
		}
		if err := a.store.AddRecipe(ctx, store.Recipe{ID: r.ID, Edition: r.Edition, Body: string(body), MadeAt: a.now()}); err != nil &&
			!errors.Is(err, store.ErrTaken) {
			return err
		}
	}
	a.bookKept = true
	return nil
}

// AddRecipe takes a recipe file, YAML or JSON, into the Library as the next
// edition of its id, or as a new recipe. What is wrong with the file is refused
// with its line, and nothing of it is taken; so is one that was made from an edition
// before the newest, where after says from which: nobody's edition is lost under another's.
func (a *App) AddRecipe(ctx context.Context, who Who, file []byte, after int) (Edition, error) {
	r, err := recipes.Read(file)
	if err != nil {
		return Edition{}, err
	}
	before, found, err := a.edition(ctx, r.ID)
	if err != nil {
		return Edition{}, err
	}
	if found && before.Kind != r.Kind {
		return Edition{}, refusal.New(refusal.Contradicts, "kind", fmt.Sprintf("%q is a recipe for a %s; this file is for a %s.", r.ID,
			before.Kind, r.Kind), "Give it an id of its own.")
	}
	if after != 0 && after != before.Edition {
		return Edition{}, newerEdition()
	}
	r.Edition = before.Edition + 1
	body, err := recipes.Kept(r)
	if err != nil {
		return Edition{}, err
	}
	by := who.ID
	if err := a.store.AddRecipe(ctx, store.Recipe{ID: r.ID, Edition: r.Edition, Body: string(body), MadeBy: &by,
		MadeAt: a.now()}); err != nil {
		if errors.Is(err, store.ErrTaken) {
			return Edition{}, newerEdition()
		}
		return Edition{}, err
	}
	name, err := a.nameOf(ctx, who.ID)
	return Edition{Recipe: r, MadeBy: name, Earlier: r.Edition - 1}, err
}

func newerEdition() error {
	return &Error{Kind: Conflict, Code: "changed-meanwhile", Text: "Somebody else added an edition in the meantime.",
		Way: "Look at what differs from theirs, then keep yours."}
}

// RecipeFile returns the newest edition of a recipe as a file.
func (a *App) RecipeFile(ctx context.Context, id, format string) ([]byte, recipe.Recipe, error) {
	e, found, err := a.edition(ctx, id)
	if err != nil {
		return nil, e.Recipe, err
	}
	if !found {
		return nil, e.Recipe, notFound("recipe")
	}
	write := recipes.Write
	if format == "json" {
		write = recipes.JSON
	}
	b, err := write(e.Recipe)
	return b, e.Recipe, err
}

// Retire takes a recipe out of use for new joints, with a reason; Return takes
// it in again. Plans that were issued by it go on.
func (a *App) Retire(ctx context.Context, who Who, id, reason string) error {
	if _, _, err := a.RecipeFile(ctx, id, "yaml"); err != nil {
		return err
	}
	reason = strings.TrimSpace(reason)
	if reason == "" {
		return refusal.New(refusal.NeedsReason, "reason", "A recipe is retired with a reason.", "Say why no new joint is made by it.")
	}
	err := a.store.RetireRecipe(ctx, store.Retired{ID: id, RetiredBy: who.ID, RetiredAt: a.now(), Reason: reason})
	if errors.Is(err, store.ErrTaken) {
		return nil
	}
	return err
}

// Return takes a retired recipe into use again.
func (a *App) Return(ctx context.Context, id string) error { return a.store.ReturnRecipe(ctx, id) }
