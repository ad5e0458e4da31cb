package scenarios

import (
	"bytes"
	"errors"
	"fmt"
	"image"
	"image/png"
	"maps"
	"slices"

	"github.com/stretchr/testify/require"

	"dynacor/core/recipe"
	"dynacor/core/record"
	"dynacor/core/work"
	"dynacor/internal/judge"
)

// entry is what an act asks for. ready does what a person does before it:
// reading the cautions of its step, setting the tool.
func (g *stage) entry(a act) (n judge.NewEntry, ready func(record.Done) error, err error) {
	ready = func(d record.Done) error { return g.ready(a, d) }
	switch {
	case a.Pull != nil:
		d := record.Done{Act: g.pullOf(a.Pull.Group, a.Pull.Bolt, false), Reading: a.Pull.Reading.Quantity, NoTurn: a.Pull.NoTurn}
		n.Content = d
	case a.Check != nil:
		n.Content = record.Done{Act: g.pullOf(a.Check.Group, a.Check.Bolt, true), Moved: a.Check.Moved}
	case a.Read != nil:
		st := g.step(a.Read.Step)
		d := record.Done{Act: record.Act{Step: st.ID}, Readings: a.Read.Readings, Held: g.run.State.Hold(st.ID), Reason: a.Read.Reason,
			Bolts: g.run.State.Sample(st.ID), Marks: g.run.State.Seen(st.ID)}
		if a.Read.Held != nil {
			d.Held = *a.Read.Held
		}
		n.Content = d
		ready = func(d record.Done) error { // the lines of its list come first
			for {
				next, ok := g.run.State.Next()
				if !ok || next.Step != st.ID || next.Item == 0 {
					return g.ready(a, d)
				}
				if err := g.step1(act{As: a.As}); err != nil {
					return err
				}
			}
		}
	case a.Leave != nil:
		n.Content = record.Done{Act: record.Act{Step: g.step(a.Leave.Step).ID}, Skipped: true, Reason: a.Leave.Reason}
	case a.Trouble != nil:
		t := a.Trouble
		n.Content = record.Trouble{Group: t.Group, Bolt: t.Bolt, What: record.TroubleKind(t.What), Remedy: record.Remedy(t.Remedy)}
	case a.Correct != nil:
		n.Content, err = g.correction(*a.Correct)
	case a.Sign != "":
		n.Content = record.Signature{Part: record.Part(a.Sign), Reason: a.Reason}
	case a.Answer != nil:
		n.Content = record.Answer{Tool: a.Answer.Tool, Reason: a.Answer.Reason}
	case a.Pause != nil:
		n.Content = record.Pause{Note: a.Pause.Note, HandOverTo: a.Pause.To}
	case a.Resume != "":
		n.Content = record.Resume{Note: a.Resume}
	case a.Decide != nil:
		n.Content = record.Decision{Reason: *a.Decide}
	default:
		err = errors.New("an act that is none")
	}
	if d, ok := n.Content.(record.Done); ok {
		n.As = g.qualified(d.Step)
	}
	if c, ok := n.Content.(record.Correction); ok {
		if d, ok := c.Instead.(record.Done); ok {
			n.As = g.qualified(d.Step)
		}
	}
	return n, ready, err
}

// step is the step of that id, or the first open one that proves the
// requirement.
func (g *stage) step(word string) recipe.Step {
	if st, ok := g.run.State.Plan().Step(word); ok {
		return st
	}
	for _, o := range g.run.State.Open() {
		if o.Step.Proves == word {
			return o.Step
		}
	}
	require.FailNow(g.t, "no such step", word)
	return recipe.Step{}
}

// pullOf is the act of one bolt of a group: the one that is next for it.
func (g *stage) pullOf(group string, bolt int, round bool) record.Act {
	s := g.run.State
	next, _ := s.Next()
	if st, _ := s.Plan().Step(next.Step); st.Group == group && next.Bolt == bolt && (next.Round > 0) == round {
		return next
	}
	for _, st := range s.Plan().Steps() {
		if st.Group != group {
			continue
		}
		if round {
			number := 1
			if list := s.Rounds(st.ID); len(list) > 0 {
				if number = list[len(list)-1].Number; list[len(list)-1].Whole {
					number++
				}
			}
			grp, _ := s.Plan().Result.Group(group)
			return record.Act{Step: st.ID, Bolt: bolt, Share: 100, Turn: grp.Portion, Round: number}
		}
		last := record.Act{Step: st.ID, Bolt: bolt}
		for _, a := range s.Plan().Acts(st.ID) {
			if a.Bolt != bolt || a.Lock {
				continue
			}
			if last = a; !doneIs(s, a) {
				break
			}
		}
		return last
	}
	require.FailNow(g.t, "no such group", group)
	return record.Act{}
}

func (g *stage) correction(c correctOf) (record.Correction, error) {
	id, ok := g.ids[c.Act]
	if !ok {
		return record.Correction{}, fmt.Errorf("no act is labelled %q", c.Act)
	}
	out := record.Correction{Of: id.String(), Reason: c.Reason}
	if c.To == nil {
		return out, nil
	}
	for _, l := range g.run.State.Lines() {
		if l.Entry.ID != out.Of {
			continue
		}
		d, ok := l.Content.(record.Done)
		if !ok {
			return out, nil
		}
		if c.To.Reading != nil {
			d.Reading = c.To.Reading.Quantity
		}
		if c.To.NoTurn != nil {
			d.NoTurn = *c.To.NoTurn
		}
		if c.To.Moved != nil {
			d.Moved = *c.To.Moved
		}
		if c.To.Readings != nil {
			d.Readings = c.To.Readings
		}
		if c.To.Held != nil {
			d.Held = *c.To.Held
		}
		d.Reason = ""
		if c.To.Reason != nil {
			d.Reason = *c.To.Reason
		}
		out.Instead = d
	}
	return out, nil
}

// qualified is the login of somebody who may do a step, where it asks for one.
func (g *stage) qualified(step string) string {
	st, _ := g.run.State.Plan().Step(step)
	return g.whoMay(st.By, "")
}

// whoMay is somebody other who may answer for what is asked; empty where nothing is.
func (g *stage) whoMay(what, other string) string {
	switch what {
	case "":
		return ""
	case work.Checker:
		what = g.run.State.Plan().Checker()
	}
	for _, name := range slices.Sorted(maps.Keys(g.people)) {
		if name != other && (what == work.SecondPerson || g.people[name].May(what)) {
			return name
		}
	}
	return ""
}

// photo takes a photograph of what a step asks for.
func (g *stage) photo(st recipe.Step) record.Photo {
	var b bytes.Buffer
	require.NoError(g.t, png.Encode(&b, image.NewGray(image.Rect(0, 0, 8, 6))))
	p, err := g.app.KeepPhoto(ctx, g.people["marta"], b.Bytes())
	require.NoError(g.t, err)
	return record.Photo{Step: st.ID, Hash: p.Hash}
}

// ready does what a person does before an act, where it is what is next.
func (g *stage) ready(a act, d record.Done) error {
	s := g.run.State
	person := g.people[a.As].ID.String()
	plain := act{As: a.As}
	if _, known := s.Plan().Step(d.Step); known && !s.Cautioned(d.Step, person) && s.Paused == nil {
		if _, err := g.add(plain, judge.NewEntry{Content: record.Caution{Step: d.Step}}); err != nil {
			return err
		}
	}
	next, ok := g.run.State.Next()
	if !ok || next != d.Act {
		return nil
	}
	if set, unset := g.run.State.Unset(person, g.clock); unset && g.run.State.Paused == nil {
		if _, err := g.add(plain, judge.NewEntry{Content: g.run.State.Rigged(set)}); err != nil {
			return err
		}
	}
	return nil
}
