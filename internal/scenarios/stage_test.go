package scenarios

import (
	"context"
	"errors"
	"fmt"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/alexedwards/argon2id"
	"github.com/google/uuid"
	"github.com/stretchr/testify/require"

	"dynacor/core/crib"
	"dynacor/core/joint"
	"dynacor/core/person"
	"dynacor/core/recipe"
	"dynacor/core/record"
	"dynacor/core/refusal"
	"dynacor/core/tool"
	"dynacor/core/unit"
	"dynacor/internal/app"
	"dynacor/internal/judge"
	"dynacor/internal/pgdev/pgtest"
	"dynacor/internal/store"
)

const pin = "4711"

var ctx = context.Background()

// stage plays one story.
type stage struct {
	t      *testing.T
	story  story
	store  *store.Store
	app    *app.App
	people map[string]app.Who
	clock  time.Time
	last   time.Time // of the last entry, at the tool
	joint  uuid.UUID
	run    app.Run
	ids    map[string]uuid.UUID
	device device
}

func play(t *testing.T, s story) {
	g := &stage{t: t, story: s, store: pgtest.Store(t), people: map[string]app.Who{}, ids: map[string]uuid.UUID{}}
	start := s.Start
	if start == "" {
		start = "2026-11-02T07:00"
	}
	var err error
	g.clock, err = time.Parse("2006-01-02T15:04", start)
	require.NoError(t, err)
	g.app = app.New(g.store, func() time.Time { return g.clock })
	g.cast()
	g.tools()
	g.layOut()
	for i, a := range s.Acts {
		g.act(i, a)
	}
	g.close()
}

var usual = map[string][]string{"marta": {"fitter"}, "piet": {"fitter"}, "ines": {"inspector"}, "edda": {"engineer"}}

// cast brings the people on, each with a PIN that is quickly checked.
func (g *stage) cast() {
	if g.story.People == nil {
		g.story.People = usual
	}
	hash, err := argon2id.CreateHash(pin, &argon2id.Params{Memory: 64, Iterations: 1, Parallelism: 1, SaltLength: 8, KeyLength: 16})
	require.NoError(g.t, err)
	steps := []store.Step{store.NewSite(store.Site{Name: "Ottermere Hydro", Outage: "Unit 2", Begins: g.clock, Days: 14})}
	for name, may := range g.story.People {
		p := store.Person{ID: uuid.New(), Login: name, Name: strings.ToUpper(name[:1]) + name[1:], Initials: name[:1], PinHash: hash}
		for _, what := range may {
			if slices.Contains([]string{person.Fitter, person.Inspector, person.Engineer}, what) {
				p.Roles = append(p.Roles, what)
			} else {
				p.Qualifications = append(p.Qualifications, what)
			}
		}
		steps = append(steps, store.NewPerson(p))
		g.people[name] = app.Who{ID: p.ID, Roles: p.Roles, Qualifications: p.Qualifications}
	}
	require.NoError(g.t, g.store.Change(ctx, store.Logged{At: g.clock}, steps...))
}

// tools fills the crib: with the story's, or with what reaches everything.
func (g *stage) tools() {
	add := func(tag string, low, high float64, calibrated, due time.Time) {
		require.NoError(g.t, g.store.AddTool(ctx, store.Tool{Tag: tag, Kind: "wrench", Name: "wrench", Unit: "N·m", RatedMin: low,
			RatedMax: high, First: low,
			Major: high / 20, Minor: high / 400, DriveOut: "1/2", Length: 0.5, Accuracy: 0.04, Calibrated: &calibrated, Due: &due}))
	}
	if g.story.Tools == nil {
		for i, most := range []float64{1, 5, 20, 60, 200, 1000, 4000} {
			add(fmt.Sprintf("W-%d", i+1), most/20, most, g.clock.AddDate(0, -1, 0), g.clock.AddDate(1, 0, 0))
		}
	}
	keeper := app.Who{ID: g.people["marta"].ID, Roles: []string{person.CribKeeper}}
	for _, t := range []crib.Tool{ // what a recipe may ask for beside wrenches, whatever the story has
		{Tag: "HW-1", Kind: crib.Hydraulic, Name: "hydraulic wrench", DriveOut: "1", PressureUnit: unit.Bar, Graduation: 1, Accuracy: 0.03,
			Chart: tool.Chart{{Pressure: 10, Torque: 40}, {Pressure: 700, Torque: 2800}}},
		{Tag: "TN-36", Kind: crib.Tensioner, Name: "tensioner", Size: 36, RamArea: 3200, Stroke: 15, PressureUnit: unit.Bar, PressureMost: 1500,
			Graduation: 10, Accuracy: 0.03}} {
		require.NoError(g.t, g.app.AddTool(ctx, keeper, app.NewTool{Data: t, ID: uuid.New(), Bought: g.clock.AddDate(-1, 0, 0)}))
	}
	for tag, t := range g.story.Tools {
		require.Equal(g.t, "wrench", t.Kind)
		low, err := t.From.In(unit.NewtonMetre)
		require.NoError(g.t, err)
		high, err := t.To.In(unit.NewtonMetre)
		require.NoError(g.t, err)
		calibrated, err := time.Parse("2006-01-02", t.Calibrated)
		require.NoError(g.t, err)
		due, err := time.Parse("2006-01-02", t.Due)
		require.NoError(g.t, err)
		add(tag, low, high, calibrated, due)
	}
}

// typical is what no sheet gives and a plan is worked out from, where a story does
// not say: the length of a splice's bolts, what they grip, and K of their lot.
var typical = map[string]unit.Quantity{"bolt length": unit.Of(70, unit.Millimetre), "grip": unit.Of(50, unit.Millimetre),
	"lot K": unit.Of(0.13, "")}

// layOut makes the joint and issues its plan.
func (g *stage) layOut() {
	area := uuid.New()
	require.NoError(g.t, g.store.Change(ctx, store.Logged{At: g.clock}, store.NewArea(area, "Hall")))
	j, err := g.app.AddJoint(ctx, g.people["marta"], area, "J-1", "Joint", g.story.Joint.Recipe)
	require.NoError(g.t, err)
	g.joint = j.ID
	r := j.Draft.Recipe
	in := joint.Input{Recipe: r.ID, Edition: r.Edition, Choices: map[string]string{}, Values: map[string]joint.Given{},
		Groups: map[string]joint.Bolts{}}
	for _, c := range r.Choices {
		if !c.When.Holds(in.Choices) {
			continue
		}
		in.Choices[c.Name] = c.Options[0]
		if option, ok := g.story.Joint.Choices[c.Name]; ok {
			require.Contains(g.t, c.Options, option)
			in.Choices[c.Name] = option
		}
	}
	for name := range g.story.Joint.Choices {
		require.Contains(g.t, in.Choices, name, "a choice of the recipe")
	}
	in.Type, in.Size = g.story.Joint.Size.Type, g.story.Joint.Size.Size
	for _, row := range r.Sheet.Rows {
		if in.Type == "" && row.When.Holds(in.Choices) {
			in.Type, in.Size = row.Type, row.Size
		}
	}
	for name, b := range g.story.Joint.Groups {
		group, ok := r.Group(name)
		require.True(g.t, ok, "no group %s", name)
		in.Groups[name] = joint.Bolts{Count: b.Count, Thread: b.Thread, Grade: b.Grade, SpecifiedFor: b.Lubricant, Lubrication: b.Lubricant}
		if !b.Torque.IsZero() {
			in.Values[group.Value] = joint.Given{Value: b.Torque.Quantity}
		}
	}
	for name, v := range typical {
		if i := slices.IndexFunc(r.Needs, func(n recipe.Need) bool { return n.Name == name && n.When.Holds(in.Choices) }); i >= 0 {
			in.Values[name] = joint.Given{Value: v}
		}
	}
	j, err = g.app.SaveDraft(ctx, g.people["marta"], g.joint, 0, in)
	require.NoError(g.t, err)
	// A story of how bolts are turned may take fewer than its sheet: the engineer answers for what they do not carry.
	in.Reasons = map[string]string{}
	for _, o := range j.Draft.Result.Open {
		if key, ok := strings.CutPrefix(o.Field, "reasons."); ok {
			in.Reasons[key] = "as the story has it"
		}
	}
	_, err = g.app.SaveDraft(ctx, g.people["marta"], g.joint, 1, in)
	require.NoError(g.t, err)
	j, err = g.app.Issue(ctx, g.people["edda"], g.joint, 2, app.Issuing{Pin: pin})
	require.NoError(g.t, err)
	g.run = *j.Run
}

// add sends an entry, and again where the act says so; the answer is taken,
// refused or asked.
func (g *stage) add(a act, n judge.NewEntry) (answer string, err error) {
	if n.ID == uuid.Nil {
		n.ID = uuid.New()
	}
	n.Run, n.Confirmed, n.Pin = g.run.Head.ID, a.Confirmed || n.Confirmed, pin
	if n.At.IsZero() {
		n.At = g.clock
	}
	compare := g.device.judges(g, a.As, n)
	r, err := g.app.AddEntry(ctx, g.people[a.As], n)
	compare(r, err)
	answer = said(err)
	if a.Twice {
		compare := g.device.judges(g, a.As, n)
		r2, err2 := g.app.AddEntry(ctx, g.people[a.As], n)
		compare(r2, err2)
		require.Equal(g.t, answer, said(err2), "sent twice: %v", err2)
		if err == nil {
			require.Equal(g.t, r.Head, r2.Head, "sent twice, stored once")
		}
	}
	if err != nil {
		return answer, err
	}
	g.run, g.last = r, n.At
	if a.ID != "" {
		g.ids[a.ID] = n.ID
	}
	return answer, nil
}

// said is what came of an act.
func said(err error) string {
	var refused *refusal.Error
	var use *app.Error
	switch {
	case err == nil:
		return "taken"
	case errors.As(err, &refused):
		if refused.Code == refusal.Asked {
			return "asked"
		}
		return "refused"
	case errors.As(err, &use):
		return "refused"
	}
	return "failed: " + err.Error()
}

// tick lets the story's clock go on, and returns the time at the tool.
func (g *stage) tick(a act) time.Time {
	switch {
	case !a.After.given:
		g.clock = g.clock.Add(time.Minute)
	case a.After.Duration < 0:
		g.clock = g.clock.Add(time.Minute)
		return g.last.Add(a.After.Duration)
	default:
		g.clock = g.clock.Add(a.After.Duration)
	}
	return g.clock
}

func (g *stage) act(i int, a act) {
	where := fmt.Sprintf("act %d", i+1)
	if a.Expect != nil {
		if wrong := g.differs(*a.Expect); wrong != "" {
			g.t.Fatalf("%s, %+v: %s", where, a.Expect, wrong)
		}
		return
	}
	require.Contains(g.t, g.people, a.As, where)
	if a.Follow != "" || a.Plan != nil || a.Tool != nil && a.Tool.Back != "" {
		g.device.of = "" // what is not an entry of the run is told to a device with a network alone
	}
	if a.Follow != "" {
		g.follow(where, a)
		return
	}
	answer, err := g.does(a)
	want := a.Says
	if want == nil {
		want = words{"taken"}
	}
	for _, w := range want {
		require.Contains(g.t, []string{"taken", "refused", "asked"}, w, where)
	}
	require.Contains(g.t, want, answer, "%s: %v", where, err)
}

// does plays one act.
func (g *stage) does(a act) (answer string, err error) {
	at := g.tick(a)
	switch {
	case a.Plan != nil:
		j, err := g.app.Follow(ctx, g.people[a.As], g.joint, a.Plan.Work, app.Issuing{Pin: pin, Reason: a.Plan.Reason})
		if err == nil {
			g.run = *j.Run
		}
		return said(err), err
	case a.Tool != nil:
		return g.tool(a, *a.Tool)
	}
	n, ready, err := g.entry(a)
	if err != nil {
		return said(err), err
	}
	if d, ok := n.Content.(record.Done); ok {
		n.At = at
		if err := ready(d); err != nil {
			return said(err), err
		}
	}
	n.At = at
	return g.add(a, n)
}

// tool chooses, reports, holds or returns a tool.
func (g *stage) tool(a act, t toolAct) (answer string, err error) {
	switch {
	case t.Take != "":
		for _, group := range g.run.Plan.Result.Groups {
			if group.How != "torque" {
				continue
			}
			if answer, err = g.add(a, judge.NewEntry{Tools: &judge.ToolChoice{Group: group.Name, Wrench: t.Take}}); err != nil {
				return answer, err
			}
		}
		return answer, nil
	case t.Dropped != "":
		return g.add(a, judge.NewEntry{Content: record.Report{Tool: t.Dropped, What: record.Dropped}})
	case t.Held != "":
		return g.add(a, judge.NewEntry{Content: record.Report{Tool: t.Held, What: record.Doubtful}})
	}
	err = g.app.LiveTool(ctx, app.Who{ID: g.people[a.As].ID, Roles: []string{person.CribKeeper}}, t.Back, app.NewLife{ID: uuid.New(),
		Content: g.goodCheck(t.Back)})
	return said(err), err
}

// goodCheck is a check of a tool on a tester that gives just what was set.
func (g *stage) goodCheck(tag string) crib.Checked {
	t, err := g.store.ToolByTag(ctx, tag)
	require.NoError(g.t, err)
	at, in := t.Data().Marks()
	c := crib.Checked{Lab: "own tester", Unit: in}
	for _, m := range at {
		c.Marks = append(c.Marks, crib.Mark{At: m, Readings: []float64{m, m, m}})
	}
	return c
}
