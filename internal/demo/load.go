package demo

import (
	"cmp"
	"context"
	"fmt"
	"maps"
	"math/rand/v2"
	"time"

	"github.com/google/uuid"

	"dynacor/core/joint"
	"dynacor/core/recipe"
	"dynacor/internal/app"
	"dynacor/internal/store"
)

// Site is the name of the demo's works.
const Site = "Ottermere Hydro"

// begun is how many days ago the outage began when the demo is loaded.
const begun = 5

// Load fills an empty, migrated database. Every history goes through the same
// use cases as real work does, with the clock set to when it happened.
func Load(ctx context.Context, s *store.Store, now time.Time) error {
	start := now.Truncate(24*time.Hour).AddDate(0, 0, -begun)
	who, steps, err := enter(store.Site{Name: Site, Outage: "Unit 2 autumn outage", Begins: start, Days: 14})
	if err == nil {
		err = s.Change(ctx, store.Logged{At: start, Kind: "init", Subject: Site, Words: "set up, with its people"}, steps...)
	}
	if err != nil {
		return err
	}
	l := &loader{store: s, people: who, rand: rand.New(rand.NewPCG(2, 26)), areas: map[string]uuid.UUID{}, start: start, now: now}
	l.app = app.New(s, func() time.Time { return l.clock })
	if err := l.addTools(ctx); err != nil {
		return err
	}
	if err := l.addOwn(ctx); err != nil {
		return err
	}
	if err := l.qualify(ctx); err != nil {
		return err
	}
	if err := l.hangSheets(ctx); err != nil {
		return err
	}
	for _, j := range append(flanges(), works()...) {
		if err := l.tell(ctx, j); err != nil {
			return fmt.Errorf("%s: %w", j.tag, err)
		}
	}
	if err := l.lend(ctx); err != nil {
		return err
	}
	if err := l.drills(ctx); err != nil {
		return err
	}
	if err := l.app.KeepCards(ctx); err != nil {
		return err
	}
	return l.lockPins(ctx)
}

type loader struct {
	store  *store.Store
	app    *app.App
	people map[string]store.Person
	areas  map[string]uuid.UUID
	rand   *rand.Rand
	start  time.Time
	now    time.Time
	clock  time.Time
}

func (l *loader) who(login string) app.Who {
	p := l.people[login]
	return app.Who{ID: p.ID, Roles: p.Roles, Qualifications: p.Qualifications}
}

// begin sets the clock to so many days after the outage began. What was begun
// today was begun within the last three hours, whatever the time of day: its tools
// are still in the hand.
func (l *loader) begin(days float64) {
	l.clock = l.start.Add(time.Duration(days * 24 * float64(time.Hour)))
	if today := days - begun; today >= 0 {
		l.clock = l.now.Add(-3*time.Hour + time.Duration(today*90*float64(time.Minute)))
	}
}

// pass lets between least and most seconds go by, never past now.
func (l *loader) pass(least, most int) {
	l.clock = l.clock.Add(time.Duration(least*1000+l.rand.IntN((most-least)*1000)) * time.Millisecond)
	if l.clock.After(l.now) {
		l.clock = l.now
	}
}

func (l *loader) area(ctx context.Context, name string) (uuid.UUID, error) {
	if id, ok := l.areas[name]; ok {
		return id, nil
	}
	id := uuid.New()
	l.areas[name] = id
	keeper := l.people["ruth"].ID
	return id, l.store.Change(ctx, store.Logged{At: l.start, By: &keeper, Kind: "area", Subject: name, Words: "added"}, store.NewArea(id,
		name))
}

// tell plays a joint's story, and those that follow on it.
func (l *loader) tell(ctx context.Context, j story) error {
	area, err := l.area(ctx, j.area)
	if err != nil {
		return err
	}
	l.begin(j.begun)
	fitter := l.people[j.fitter].ID
	v := store.Joint{ID: uuid.New(), Area: area, Tag: j.tag, Title: j.title, Assigned: &fitter, MadeAt: l.clock,
		Recipe: cmp.Or(j.recipe, ofFlanges)}
	if err := l.store.AddJoint(ctx, v); err != nil || j.upTo == fresh {
		return err
	}
	for next := &j; next != nil; next = next.tell.then {
		if err := l.once(ctx, v.ID, *next); err != nil {
			return err
		}
	}
	return nil
}

// once issues the plan of a story and works along it up to its stage.
func (l *loader) once(ctx context.Context, id uuid.UUID, j story) error {
	issued, err := l.plan(ctx, id, j)
	if err != nil || j.upTo <= issuedOnly {
		return err
	}
	w := &worker{loader: l, ctx: ctx, j: j, run: issued.Run.Head.ID, last: *issued.Run, tried: map[string]int{}}
	w.work()
	return w.err
}

func (l *loader) plan(ctx context.Context, id uuid.UUID, j story) (app.Joint, error) {
	if j.work != "" {
		l.pass(5*3600, 8*3600)
		return l.app.Follow(ctx, l.who("edda"), id, j.work, app.Issuing{Pin: Pin, Reason: j.tell.because})
	}
	l.pass(300, 900)
	before, err := l.app.Joint(ctx, id)
	if err != nil {
		return before, err
	}
	r := before.Draft.Recipe
	in := joint.Input{Recipe: r.ID, Edition: r.Edition, Size: j.size, Choices: chosen(r, j.choices), Groups: map[string]joint.Bolts{},
		Values: map[string]joint.Given{}}
	if j.size != "" {
		in.Type = r.Sheet.Types()[0]
	}
	for group, n := range j.counts {
		in.Groups[group] = joint.Bolts{Count: n}
	}
	for _, e := range []edit{j.edit, j.tell.edit} {
		if e != nil {
			e(&in)
		}
	}
	if d, err := l.app.SaveDraft(ctx, l.who(j.fitter), id, before.Draft.Version, in); err != nil || j.upTo == draft {
		return d, err
	}
	l.pass(600, 1500)
	return l.app.Issue(ctx, l.who("edda"), id, before.Draft.Version+1, app.Issuing{Pin: Pin, Reason: j.tell.because})
}

// chosen is what a story says of the variant; what it leaves out is the first option.
func chosen(r recipe.Recipe, told map[string]string) map[string]string {
	out := maps.Clone(told)
	if out == nil {
		out = map[string]string{}
	}
	for _, c := range r.Choices {
		if out[c.Name] == "" && c.When.Holds(out) {
			out[c.Name] = c.Options[0]
		}
	}
	return out
}
