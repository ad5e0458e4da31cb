package app

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"math/rand/v2"
	"slices"
	"time"

	"github.com/google/uuid"

	"dynacor/core/crib"
	"dynacor/core/drill"
	"dynacor/core/person"
	"dynacor/core/recipe"
	"dynacor/core/refusal"
	"dynacor/internal/judge"
	"dynacor/internal/store"
)

// Drills are the drills as one person finds them.
type Drills struct {
	Drills  []Progress
	Asked   []DrillAsked
	Recipes []Edition // of which kinds of joint there are
}

// Material is what drills are drawn from here, with the recipes of its stacks.
type Material struct {
	drill.Material
	Recipes map[string]recipe.Recipe
}

// Progress is how somebody does at a drill.
type Progress struct {
	Kind   drill.Kind
	Went   []drill.Went // oldest first
	Memory drill.Memory
	Over   bool   // the day has come on which it is due
	Asked  bool   // a kind of joint asks it of whoever makes one, as they may
	Counts bool   // it counts as passed where it is asked for
	Until  string // and until which day, as 2026-11-25; empty: it has no end
}

// DrillAsked is a drill that is passed before a kind of joint is made.
type DrillAsked struct {
	store.DrillAsked
	Title string // of the recipe
	By    string // name
}

// The drills of a site, as they were read at a time.
type drillsAsked struct {
	list []store.DrillAsked
	read time.Time
}

// drillsAsked returns the drills that are asked for, read lately.
func (a *App) drillsAsked(ctx context.Context) ([]store.DrillAsked, error) {
	if d := a.asked.Load(); d != nil && time.Since(d.read) < readRulesFor {
		return d.list, nil
	}
	list, err := a.store.DrillsAsked(ctx)
	if err == nil {
		a.asked.Store(&drillsAsked{list, time.Now()})
	}
	return list, err
}

// drillsFor are the drills that are passed before a kind of joint is made.
func (a *App) drillsFor(ctx context.Context, recipe string) ([]string, error) {
	list, err := a.drillsAsked(ctx)
	var out []string
	for _, d := range list {
		if d.Recipe == recipe {
			out = append(out, d.Kind)
		}
	}
	return out, err
}

// Lacks are the drills that a fitter still passes before they make a kind of joint; nobody else makes one.
func (a *App) Lacks(ctx context.Context, who Who, recipe string) ([]string, error) {
	asked, err := a.drillsFor(ctx, recipe)
	if err != nil || !who.Is(person.Fitter) {
		return nil, err
	}
	return person.Lacks(who.Qualifications, asked), nil
}

// drilled is judge.Drilled for a joint of a recipe.
func (a *App) drilled(ctx context.Context, who Who, recipe string, n judge.NewEntry) error {
	asked, err := a.drillsFor(ctx, recipe)
	if err != nil {
		return err
	}
	if len(asked) > 0 && who.Remembered != "" {
		return errNotPlain // what they passed may have run out since they were looked up
	}
	return judge.Drilled(who, asked, n)
}

// material is what a kind of drill is drawn from here.
func (a *App) material(ctx context.Context, kind drill.Kind) (Material, error) {
	all, err := a.recipesInUse(ctx)
	if err != nil {
		return Material{}, err
	}
	m := Material{Recipes: map[string]recipe.Recipe{}}
	for _, e := range all {
		if parts := e.Recipe.Along(e.Recipe.FirstVariant()); len(parts) > 0 {
			m.Stacks = append(m.Stacks, drill.Stack{Recipe: e.ID, Title: e.Title, First: e.Axis.First, Last: e.Axis.Last, Parts: parts})
			m.Recipes[e.ID] = e.Recipe
		}
	}
	tools, err := a.store.Tools(ctx)
	for _, t := range tools {
		if d := t.Data(); t.Scrapped == "" && slices.Contains([]crib.Kind{crib.Wrench, crib.Gauge, crib.Socket, crib.Extension}, d.Kind) {
			m.Tools = append(m.Tools, d)
		}
	}
	m.Material = m.Of(kind)
	return m, err
}

// recipesInUse are the recipes that joints are made by.
func (a *App) recipesInUse(ctx context.Context) ([]Edition, error) {
	all, err := a.Library(ctx)
	return slices.DeleteFunc(all, func(e Edition) bool { return e.Fault != "" || e.Retired != nil }), err
}

// Drills returns the drills as somebody finds them.
func (a *App) Drills(ctx context.Context, who Who) (out Drills, err error) {
	if out.Recipes, err = a.recipesInUse(ctx); err != nil {
		return out, err
	}
	if out.Drills, err = a.progress(ctx, who); err != nil {
		return out, err
	}
	asked, err := a.drillsAsked(ctx)
	if err != nil {
		return out, err
	}
	names, err := a.Names(ctx)
	for _, d := range asked {
		x := DrillAsked{DrillAsked: d, Title: d.Recipe, By: names[d.By.String()]}
		if i := slices.IndexFunc(out.Recipes, func(e Edition) bool { return e.ID == d.Recipe }); i >= 0 {
			x.Title = out.Recipes[i].Title
		}
		out.Asked = append(out.Asked, x)
	}
	return out, err
}

// progress is how somebody does at every drill.
func (a *App) progress(ctx context.Context, who Who) ([]Progress, error) {
	goes, err := a.store.DrillsOf(ctx, who.ID)
	if err != nil {
		return nil, err
	}
	p, err := a.store.PersonByID(ctx, who.ID)
	if err != nil {
		return nil, found(err, "person")
	}
	asked, err := a.drillsAsked(ctx)
	if err != nil {
		return nil, err
	}
	var out []Progress
	for _, k := range drill.Kinds() {
		x := Progress{Kind: k, Asked: who.Is(person.Fitter) &&
			slices.ContainsFunc(asked, func(d store.DrillAsked) bool { return d.Kind == string(k) })}
		for _, g := range goes {
			if g.Kind == string(k) {
				x.Went = append(x.Went, drill.Went{On: g.EndedAt.In(a.zone), Right: g.Held, Of: g.Tasks})
			}
		}
		x.Memory = drill.Remember(x.Went)
		x.Over = len(x.Went) > 0 && !a.now().Before(x.Memory.Due)
		if q := person.ByDrill(string(k)); slices.Contains(p.Qualifications, q) {
			x.Counts, x.Until = true, p.QualifiedUntil[q]
		}
		out = append(out, x)
	}
	return out, nil
}

// Go is a go at a drill that begins.
type Go struct {
	ID       uuid.UUID
	Kind     drill.Kind
	Seed     uint64
	Material Material
}

// BeginDrill begins a go at a drill: its tasks are drawn here.
func (a *App) BeginDrill(ctx context.Context, who Who, kind drill.Kind) (Go, error) {
	if err := kind.Check(); err != nil {
		return Go{}, err
	}
	m, err := a.material(ctx, kind)
	if err != nil {
		return Go{}, err
	}
	g := Go{uuid.New(), kind, uint64(rand.Uint32()), m}
	for i := range drill.Tasks { // what cannot be drawn is not begun
		if _, err := drill.New(kind, g.Seed+uint64(i), m.Material); err != nil {
			return Go{}, err
		}
	}
	text, err := json.Marshal(m.Material)
	if err != nil {
		return Go{}, err
	}
	return g, a.store.BeginDrill(ctx, store.DrillGo{ID: g.ID, Person: who.ID, Kind: string(kind), Seed: int64(g.Seed), Material: string(text),
		BegunAt: a.now(), Tasks: drill.Tasks})
}

// EndDrill ends a go: its answers are judged and kept, and who passed what is asked for is qualified.
func (a *App) EndDrill(ctx context.Context, who Who, id uuid.UUID, answers []drill.Answer) (Progress, error) {
	g, err := a.store.DrillGo(ctx, who.ID, id)
	if err != nil {
		return Progress{}, found(err, "go at a drill")
	}
	if g.EndedAt != nil {
		return Progress{}, endedAlready()
	}
	if len(answers) != g.Tasks {
		return Progress{}, refusal.Number(refusal.OutOfRange, "answers", float64(len(answers)), float64(g.Tasks), "tasks",
			fmt.Sprintf("%d tasks are answered of %d.", len(answers), g.Tasks), "Answer each of them.")
	}
	var m drill.Material
	if err := json.Unmarshal([]byte(g.Material), &m); err != nil {
		return Progress{}, err
	}
	went := drill.Went{Of: g.Tasks}
	for i, answer := range answers {
		t, err := drill.New(drill.Kind(g.Kind), uint64(g.Seed)+uint64(i), m)
		if err != nil {
			return Progress{}, err
		}
		j, err := t.Judge(answer)
		if err != nil {
			return Progress{}, err
		}
		if j.Holds {
			went.Right++
		}
	}
	if err := a.ended(ctx, who, g, went); err != nil {
		return Progress{}, err
	}
	all, err := a.progress(ctx, who)
	i := slices.IndexFunc(all, func(p Progress) bool { return string(p.Kind) == g.Kind })
	if err != nil || i < 0 {
		return Progress{}, err
	}
	return all[i], nil
}

func endedAlready() error {
	return &Error{Kind: Conflict, Code: "ended", Text: "This go has ended already.", Way: "Begin another."}
}

// ended keeps how a go went. Who passed what is asked for is qualified as long as the strictest of those who ask says.
func (a *App) ended(ctx context.Context, who Who, g store.DrillGo, went drill.Went) error {
	asked, err := a.store.DrillsAsked(ctx)
	if err != nil {
		return err
	}
	months := 0
	for _, d := range asked {
		if d.Kind == g.Kind && (months == 0 || d.Months < months) {
			months = d.Months
		}
	}
	p, err := a.store.PersonByID(ctx, who.ID)
	if err != nil {
		return found(err, "person")
	}
	until, longer := drill.Until(a.now().In(a.zone), months), false
	if q := person.ByDrill(g.Kind); slices.Contains(p.Qualifications, q) { // nobody loses by passing it once more
		day := p.QualifiedUntil[q]
		longer = day == "" || day >= until.Format(time.DateOnly)
	}
	if !went.Passed() || months == 0 || longer {
		err = a.store.EndDrill(ctx, g.ID, went.Right, a.now())
	} else {
		err = a.change(ctx, a.logged(who, "person", p.Name, fmt.Sprintf("passed the drill “%s”; it holds until %s", g.Kind,
			until.Format("2 Jan 2006"))), store.EndedDrill(g.ID, went.Right, a.now()),
			store.Qualified(who.ID, person.ByDrill(g.Kind), until.Format(time.DateOnly)))
	}
	if errors.Is(err, store.ErrStale) {
		return endedAlready()
	}
	return err
}

// AskDrill asks for a drill to be passed before a kind of joint is made; it holds for so many months.
func (a *App) AskDrill(ctx context.Context, who Who, id string, kind drill.Kind, months int) error {
	if err := refusal.First(kind.Check(), drill.CheckMonths(months)); err != nil {
		return err
	}
	r, err := a.usable(ctx, id)
	if err != nil {
		return err
	}
	err = a.change(ctx, a.logged(who, "drill", r.Title, fmt.Sprintf("the drill “%s” is passed first, and holds for %d months", kind, months)),
		store.AskedDrill(store.DrillAsked{Recipe: id, Kind: string(kind), Months: months, By: who.ID, At: a.now()}))
	a.asked.Store(nil)
	return err
}

// UnaskDrill asks for it no more.
func (a *App) UnaskDrill(ctx context.Context, who Who, id string, kind drill.Kind) error {
	title := id
	if e, ok, err := a.edition(ctx, id); err != nil {
		return err
	} else if ok {
		title = e.Title
	}
	err := a.change(ctx, a.logged(who, "drill", title, fmt.Sprintf("the drill “%s” is asked for no more", kind)),
		store.UnaskedDrill(id, string(kind)))
	a.asked.Store(nil)
	return found(err, "drill that is asked for")
}
