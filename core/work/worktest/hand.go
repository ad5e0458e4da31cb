// Package worktest does the work of a joint in tests, as a careful hand does it:
// cautions read, tools set, readings within their limits, a minute for each act.
package worktest

import (
	"fmt"
	"slices"
	"strings"
	"time"

	"github.com/stretchr/testify/require"

	"dynacor/core/joint"
	"dynacor/core/recipe"
	"dynacor/core/record"
	"dynacor/core/work"
)

// Everybody is every qualification that a recipe asks for.
var Everybody = []string{"inspector", "pressure person", "rigger", "installer", "engineer"}

// Hand is one person at a joint, and the run as it grows.
type Hand struct {
	T       require.TestingT
	State   *work.State
	Entries []record.Entry
	Now     time.Time // at the tool; goes on with each entry
	Pace    time.Duration
	Person  string
	Facts   work.Facts
}

// New begins the work of a joint.
func New(t require.TestingT, p *work.Plan) *Hand {
	return &Hand{T: t, State: work.Begin(p), Now: time.Date(2026, 11, 3, 8, 0, 0, 0, time.UTC), Pace: time.Minute, Person: "fitter",
		Facts: work.Facts{Qualified: Everybody}}
}

// Lay computes a joint and lays its work.
func Lay(t require.TestingT, in joint.Input, r recipe.Recipe) *work.Plan {
	res, err := joint.Compute(in, r)
	require.NoError(t, err, r.ID)
	p, err := work.Lay(in, r, res)
	require.NoError(t, err, r.ID)
	return p
}

// Try adds an entry, and returns why it is not taken.
func (h *Hand) Try(c record.Content) error { return h.try(record.Entry{Content: c}) }

// Confirm adds an entry that is asked about, with the answer.
func (h *Hand) Confirm(c record.Content) error {
	return h.try(record.Entry{Content: c, Confirmed: true})
}

func (h *Hand) try(e record.Entry) error {
	h.Now = h.Now.Add(h.Pace)
	e.ID, e.Seq, e.Person, e.AtTool, e.AtServer = fmt.Sprint("e", len(h.Entries)+1), len(h.Entries)+1, h.Person, h.Now, h.Now
	if err := h.State.Accept(e, h.Facts); err != nil {
		return err
	}
	before := h.State
	h.State, h.Entries = h.State.Then(e), append(h.Entries, e)
	if h.State.Onward(before) {
		h.onward(before)
	}
	return nil
}

// onward holds a state of which it is said that nothing but one bolt differs to
// just that.
func (h *Hand) onward(before *work.State) {
	now, p := h.State, h.State.Plan()
	require.Equal(h.T, before.Standing, now.Standing)
	require.Equal(h.T, before.Open(), now.Open())
	require.Equal(h.T, before.Deviations(), now.Deviations())
	require.Equal(h.T, before.Troubled(), now.Troubled())
	require.Equal(h.T, before.Begun(), now.Begun())
	require.Equal(h.T, before.Worked(h.Person), now.Worked(h.Person))
	c, _ := before.Next()
	next, _ := now.Next()
	own, _ := p.Step(c.Step)
	bolts := now.Bolts()
	for i, b := range before.Bolts() {
		if b.Position == c.Bolt || b.Position == next.Bolt {
			continue
		}
		require.Equal(h.T, b, bolts[i])
		require.Equal(h.T, before.Remedies(b.Group, b.Position), now.Remedies(b.Group, b.Position))
	}
	for _, st := range p.Steps() {
		if st.ID == own.ID {
			continue
		}
		done, _, all := before.Count(st.ID)
		after, _, still := now.Count(st.ID)
		require.Equal(h.T, done, after, st.ID)
		require.Equal(h.T, all, still, st.ID)
	}
}

// Add adds an entry that is taken, and returns its id.
func (h *Hand) Add(c record.Content) string {
	require.NoError(h.T, h.Try(c), "%+v", c)
	return h.Entries[len(h.Entries)-1].ID
}

// As is somebody else at the same joint, for one act.
func (h *Hand) As(person string, act func()) {
	was := h.Person
	h.Person = person
	act()
	h.Person = was
}

// Tool chooses a tool for each group that is torqued, if none is chosen.
func (h *Hand) Tool() {
	for _, g := range h.State.Plan().Result.Groups {
		if g.How.Tooled() && len(h.State.Tooling[g.Name].Stages) == 0 {
			h.Add(Tooling(g, "TW-1"))
		}
	}
}

// Tooling is one wrench for every stage of a group.
func Tooling(g joint.Group, tag string) record.Tooling { return work.OneTool(g, tag) }

// Ready does what is done before an act: tools chosen, cautions read, the tool
// set.
func (h *Hand) Ready(a record.Act) {
	st, _ := h.State.Plan().Step(a.Step)
	if st.Tightens() || st.Station == recipe.ToolUp {
		h.Tool()
	}
	if len(st.Cautions) > 0 && !h.State.Cautioned(st.ID, h.Person) {
		h.Add(record.Caution{Step: st.ID})
	}
	if a.Bolt > 0 && !a.Lock {
		if c, unset := h.State.Unset(h.Person, h.Now.Add(2*h.Pace)); unset && st.Group == c.Group {
			h.Add(h.State.Rigged(c))
		}
	}
}

// Done is what a careful hand says of an act.
func (h *Hand) Done(a record.Act) record.Done { return h.State.Careful(a) }

// Do does an act, and returns the id of its entry.
func (h *Hand) Do(a record.Act) (id string) {
	h.Ready(a)
	switch {
	case a.Photo:
		return h.Add(record.Photo{Step: a.Step, Hash: strings.Repeat("a", 64), Width: 100, Height: 100, Size: 1000})
	case a.Release:
		h.As("another", func() { id = h.Add(h.Done(a)) })
		return id
	}
	return h.Add(h.Done(a))
}

// Move does an act of a round, and the nut moves.
func (h *Hand) Move(a record.Act) string {
	h.Ready(a)
	d := h.Done(a)
	d.Moved = true
	return h.Add(d)
}

// Next is the first act that is offered.
func (h *Hand) Next() record.Act {
	offered := h.State.Offered()
	require.NotEmpty(h.T, offered, "%v", h.State.Open())
	return offered[0]
}

// UpTo follows what is offered until it is a step's turn.
func (h *Hand) UpTo(step string) {
	for n := 0; h.Next().Step != step; n++ {
		require.Less(h.T, n, 20_000, "never comes to %s", step)
		h.Do(h.Next())
	}
}

// Finish follows what is offered until nothing is open.
func (h *Hand) Finish() {
	for n := 0; h.State.Standing != record.Sign && h.State.Standing != record.Signed; n++ {
		require.Less(h.T, n, 20_000)
		h.Do(h.Next())
	}
}

// Made signs that it was made, and Checked that it was checked, by somebody else.
func (h *Hand) Made() { h.Add(record.Signature{Part: record.Made}) }

// Checked is signed by an inspector who had no hand in it.
func (h *Hand) Checked() {
	h.As("inspector", func() { h.Add(record.Signature{Part: record.Checked, Reason: "looked at"}) })
}

// Fold folds all entries at once.
func (h *Hand) Fold() *work.State { return work.Fold(h.State.Plan(), h.Entries) }

// Acts are the acts offered of a bolt.
func (h *Hand) Acts(bolt int) []record.Act {
	return slices.DeleteFunc(slices.Clone(h.State.Offered()), func(a record.Act) bool { return a.Bolt != bolt })
}
