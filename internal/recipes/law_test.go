package recipes_test

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"dynacor/core/recipe"
	"dynacor/core/record"
	"dynacor/core/work"
	"dynacor/core/work/worktest"
)

// touched are the steps that rest on what an entry touches: those that the recipe
// says the group's bolts void, else every one that reads or shows something after
// the step that was worked on. What comes in its turn (anew is false) voids nothing
// before it. ok is false where it touches no bolt.
func touched(p *work.Plan, c record.Content, anew bool) (steps []string, ok bool) {
	group, from := "", ""
	switch c := c.(type) {
	case record.Done:
		if c.Bolt == 0 || c.Lock || c.Round > 0 && !c.Moved { // trying a nut that holds proves, and touches nothing
			return nil, false
		}
		st, _ := p.Step(c.Step)
		group, from = st.Group, st.ID
	case record.Trouble:
		if c.Remedy == record.Leave {
			return nil, false
		}
		group, anew = c.Group, c.Remedy != record.TryAgain
	default:
		return nil, false
	}
	of := func(name string) string {
		if g, ok := p.Result.Group(name); ok && g.Of != "" {
			return g.Of
		}
		return name
	}
	last := from
	if from == "" { // of trouble: at the latest, after the last step on those bolts
		for _, st := range p.Steps() {
			if st.Tightens() && of(st.Group) == of(group) {
				last = st.ID
			}
		}
	}
	behind := false
	for _, st := range p.Steps() {
		named := slices.ContainsFunc(st.Voided, func(v string) bool { return of(v) == of(group) })
		if !st.Tightens() && st.Does != recipe.Sign && (named && (anew || behind) || len(st.Voided) == 0 && behind) {
			steps = append(steps, st.ID)
		}
		behind = behind || st.ID == last
	}
	return steps, true
}

// The law: any work or change after a proof voids that proof and every signature;
// nothing is signed with anything open. For every recipe and variant, whatever is
// done, in whatever order it is offered, with corrections, trouble, tools that
// were dropped, moved nuts, samples that widen and signatures between.
func TestNoEntryThatTouchesABoltLeavesAProofOrASignature(t *testing.T) {
	all := shipped(t)
	rapid.Check(t, func(t *rapid.T) {
		r := all[rapid.IntRange(0, len(all)-1).Draw(t, "recipe")]
		choices := rapid.SampledFrom(r.Variants()).Draw(t, "variant")
		h := worktest.New(t, plan(t, r, choices))
		for n := 0; n < 300 && h.State.Standing != record.Signed; n++ {
			before := len(h.Entries)
			act(t, h)
			for _, e := range h.Entries[before:] {
				c, anew := e.Content, false
				if x, ok := c.(record.Correction); ok { // it touches what it stands for
					require.Empty(t, h.State.Signatures, "%s: %+v", r.ID, c)
					i := slices.IndexFunc(h.Entries, func(e record.Entry) bool { return e.ID == x.Of })
					if c = h.Entries[i].Content; !changes(c, x) {
						continue
					}
					anew = true
				}
				steps, ok := touched(h.State.Plan(), c, anew)
				if !ok {
					continue
				}
				require.Empty(t, h.State.Signatures, "%s: %+v", r.ID, c)
				for _, step := range steps {
					_, _, done := h.State.Count(step)
					require.False(t, done, "%s, %s: %s still stands after %+v", r.ID, variant(choices), step, c)
				}
			}
			if h.State.Standing == record.Signed || len(h.State.Signatures) > 0 {
				require.Empty(t, h.State.Open(), "%s, %s", r.ID, variant(choices))
			}
			if len(h.State.Open()) > 0 {
				require.Error(t, h.State.Accept(record.Entry{Person: h.Person, AtTool: h.Now,
					Content: record.Signature{Part: record.Made}}, h.Facts))
			}
		}
		again := h.Fold()
		require.Equal(t, h.State.Standing, again.Standing)
		require.Equal(t, h.State.Offered(), again.Offered())
		require.Equal(t, h.State.Bolts(), again.Bolts())
		require.Equal(t, h.State.Deviations(), again.Deviations())
		require.Equal(t, h.State.Open(), again.Open())
	})
}

// changes reports whether a correction changes what was done to a bolt: a reading
// that is put right does not, nor does trouble that there never was, nor a nut that
// did not move after all: its round stays one that moved.
func changes(of record.Content, c record.Correction) bool {
	was, done := of.(record.Done)
	now, instead := c.Instead.(record.Done)
	return done && (!instead || !was.Moved && now.Moved)
}

// act does something that is offered, or something beside it.
func act(t *rapid.T, h *worktest.Hand) {
	s := h.State
	bolt := work.Bolt{}
	if bolts := s.Bolts(); len(bolts) > 0 {
		bolt = rapid.SampledFrom(bolts).Draw(t, "bolt")
	}
	kind := rapid.IntRange(0, 60).Draw(t, "kind")
	switch {
	case kind == 0 && len(h.Entries) > 0:
		_ = h.Confirm(record.Correction{Of: rapid.SampledFrom(h.Entries).Draw(t, "of").ID, Reason: "it did not happen"})
		return
	case kind == 1 && len(h.Entries) > 0: // a nut that moved did not, or the other way round
		e := rapid.SampledFrom(h.Entries).Draw(t, "of")
		if d, ok := e.Content.(record.Done); ok && d.Round > 0 {
			d.Moved = !d.Moved
			_ = h.Confirm(record.Correction{Of: e.ID, Reason: "looked again", Instead: d})
		}
		return
	case kind < 4 && bolt.Group != "":
		if remedies := s.Remedies(bolt.Group, bolt.Position); len(remedies) > 0 {
			h.Add(record.Trouble{Group: bolt.Group, Bolt: bolt.Position, What: record.Overshot, Remedy: rapid.SampledFrom(remedies).Draw(t,
				"remedy")})
		}
		return
	case kind == 4:
		_ = h.Try(record.Report{Tool: "TW-1", What: record.Dropped})
		return
	case kind == 5 && bolt.Group != "":
		_ = h.Try(record.Lubricant{Group: bolt.Group, Is: "another paste"})
		return
	}
	if tools, _ := s.Doubted(); len(tools) > 0 {
		h.Add(record.Answer{Tool: tools[0], Reason: "found good"})
	}
	if s.Standing == record.Stopped {
		h.Add(record.Decision{Reason: "looked at"})
		return
	}
	offered := h.State.Offered()
	if len(offered) == 0 {
		if len(h.State.Troubled()) > 0 {
			for _, b := range h.State.Bolts() {
				if b.Mark == "trouble" && slices.Contains(h.State.Remedies(b.Group, b.Position), record.Replaced) {
					h.Add(record.Trouble{Group: b.Group, Bolt: b.Position, What: record.Overshot, Remedy: record.Replaced})
					return
				}
			}
		}
		require.Empty(t, h.State.Open())
		if len(h.State.Signatures) == 0 {
			h.Made()
		} else {
			h.As("inspector", func() { h.Add(record.Signature{Part: record.Checked, Reason: "looked at"}) })
		}
		return
	}
	a := rapid.SampledFrom(offered).Draw(t, "act")
	if a.Photo || a.Release {
		h.Do(a)
		return
	}
	h.Ready(a)
	d := h.Done(a)
	st, _ := h.State.Plan().Step(a.Step)
	switch {
	case kind < 10 && a.Round > 0:
		d.Moved = true
	case kind < 13 && len(d.Readings) > 0:
		d.Readings[0] += 1000
		d.Reason = "the maker allows it"
		if h.State.Widens(st.ID) || st.Does == recipe.Adjust {
			d.Reason = ""
		}
		_ = h.Try(d)
		return
	}
	if h.Try(d) != nil { // what was read before lets nothing hold any more
		d.Reason = "as it was read before"
		h.Add(d)
	}
}
