package work

import (
	"fmt"
	"slices"
	"strings"

	"dynacor/core/record"
	"dynacor/core/refusal"
)

// of returns the place of the line with that id.
func (s *State) of(id string) (int, bool) {
	i := slices.IndexFunc(s.lines.list, func(l Line) bool { return l.Entry.ID == id })
	return i, i >= 0
}

// counts reports whether what a line did still counts.
func (s *State) counts(i int) bool {
	l := s.lines.list[i]
	c, ok := l.Content.(record.Done)
	if !ok {
		return l.Content != nil && l.counted
	}
	if !l.counted || l.Tried {
		return false
	}
	if c.Round == 0 {
		a, ok := s.plan.place[c.Act]
		return ok && s.done[a] == int32(i)+1
	}
	_, step, _ := s.plan.step(c.Step)
	list := s.going[step].list
	k := slices.IndexFunc(list, func(r Round) bool { return r.Number == c.Round })
	return k >= 0 && !list[k].Void
}

// Correctable reports whether a line may be put right, or struck out.
func (s *State) Correctable(i int) bool {
	if s.Standing == record.Signed {
		return false
	}
	switch s.lines.list[i].Content.(type) {
	case record.Done, record.Trouble:
		return s.counts(i)
	}
	return false
}

func (s *State) acceptCorrection(e record.Entry, c record.Correction, f Facts) (ask string, err error) {
	if strings.TrimSpace(c.Reason) == "" {
		return "", refusal.New(refusal.NeedsReason, "reason", "A correction needs its reason.", "Say in a few words what was wrong.")
	}
	i, ok := s.of(c.Of)
	if !ok {
		return "", refusal.New(refusal.Unknown, "of", "The entry to correct is not in this run.", "Choose it on the tape.")
	}
	l := s.lines.list[i]
	if l.Content == nil {
		return "", refusal.New(refusal.NotNow, "of", "This entry was struck out already.", "")
	}
	was, isDone := l.Content.(record.Done)
	if _, trouble := l.Content.(record.Trouble); !isDone && !trouble {
		return "", refusal.New(refusal.NotNow, "of", "Only what was done, read or went wrong can be put right.", "")
	}
	if !s.counts(i) {
		return "", refusal.New(refusal.NotNow, "of", "This does not count any more: it was to be done again.", "")
	}
	st, _, _ := s.plan.step(was.Step)
	if isDone && st.By != "" && !slices.Contains(f.Qualified, st.By) {
		return "", refusal.New(refusal.NotTheSame, "person", fmt.Sprintf("%q is for %s, and so is putting it right.", st.Text,
			Article(st.By)), "Ask one to enter their PIN.")
	}
	if c.Instead == nil {
		return "", nil
	}
	instead, ok := c.Instead.(record.Done)
	if !isDone || !ok || instead.Act != was.Act {
		return "", refusal.New(refusal.Contradicts, "instead", "A correction keeps the step and the bolt.",
			"Strike the entry out and do it again.")
	}
	if instead.Skipped != was.Skipped {
		return "", refusal.New(refusal.Contradicts, "instead", "What was left undone is not put right by a correction.",
			"Strike the entry out and do it.")
	}
	if was.Bolt == 0 {
		instead.Bolts = was.Bolts
	}
	if _, err := s.corrected(st, instead, l); err != nil {
		return "", err
	}
	return s.reading(st, instead, l.Tool)
}

// corrected judges what stands in the place of a line. A sample is judged at the
// bolts where it was taken.
func (s *State) corrected(st *step, c record.Done, l Line) (verdict, error) {
	if st.Sample == "" || c.Skipped {
		v, err := s.judge(st, c, l.Entry.AtTool)
		if err == nil && v.tried {
			err = refusal.New(refusal.NeedsReason, "readings", v.outside,
				"Strike it out and measure anew, or keep it as a deviation and say why.")
		}
		return v, err
	}
	win, _ := s.WindowAt(st.ID, c.Bolts)
	v := verdict{readings: c.Readings, held: c.Held}
	if len(c.Readings) != len(c.Bolts) {
		return v, refusal.Number(refusal.Missing, "readings", float64(len(c.Readings)), float64(len(c.Bolts)), "readings",
			"A reading is missing.", "Give each.")
	}
	var err error
	if v.outside, _, err = win.Judge(c.Readings); err != nil || v.outside == "" || strings.TrimSpace(c.Reason) != "" {
		return v, err
	}
	return v, refusal.New(refusal.NeedsReason, "readings", v.outside,
		"Strike it out and measure anew, or keep it as a deviation and say why.")
}

// correct puts something in the place of a line, or strikes it out. What was
// done after it and rested on it falls.
func (s *State) correct(at int, c record.Correction) {
	s.note(at)
	i, ok := s.of(c.Of)
	if !ok || !s.counts(i) {
		return
	}
	s.lines.list[at].counted = true
	by := s.lines.list[at].Entry
	was, isDone := s.lines.list[i].Content.(record.Done)
	l := s.line(i)
	l.Corrected, l.Content = &by, c.Instead
	if !isDone {
		s.closed(l.Entry.Content)
		return
	}
	st, k, _ := s.plan.step(was.Step)
	instead, replaced := c.Instead.(record.Done)
	if !replaced {
		s.strike(i, at, k, was)
		return
	}
	instead.Bolts = was.Bolts
	v, err := s.corrected(st, instead, *l)
	if err != nil {
		return
	}
	l.Content, l.Readings, l.Held, l.Outside = instead, v.readings, v.held, v.outside
	s.note(i)
	s.instead(k, was, instead, l)
}

// closed closes a trouble that was struck out; what was to be done again because
// of it stays so.
func (s *State) closed(c record.Content) {
	t, ok := c.(record.Trouble)
	if !ok {
		return
	}
	if o, ok := s.plan.owner[t.Group]; ok {
		b := s.bolt(o, t.Bolt)
		b.trouble, b.left = false, false
	}
}

// strike takes back what a line did.
func (s *State) strike(i, at, k int, was record.Done) {
	st := &s.plan.steps[k]
	switch {
	case was.Bolt == 0:
		s.struck(at, k, was.Act)
	case was.Round > 0:
		s.touch(st.owner, k)
	case was.Lock:
		s.undo(k, s.plan.place[was.Act])
		s.touch(st.owner, k)
	default:
		b := s.bolt(st.owner, was.Bolt)
		if s.plan.turned(st) {
			b.spent = true // nobody knows how far it has gone
		}
		s.reopen(st.owner, was.Bolt, k, s.plan.place[was.Act])
	}
}

// instead lets what stands in the place of a pull void what rested on it: where
// it moved after all, or read outside its limits. A nut that moved does not
// become still by a correction: its round stays what it was.
func (s *State) instead(k int, was, now record.Done, l *Line) {
	st := &s.plan.steps[k]
	if was.Bolt == 0 {
		return
	}
	if was.Round > 0 && now.Moved && !was.Moved {
		s.movedAfterAll(k, was)
	}
	if l.Tool != nil && s.far(st, now, l.Tool) != "" && now.Reading != was.Reading {
		s.touch(st.owner, k)
	}
}

// movedAfterAll counts a bolt as moved in a round that was thought to have left
// it still.
func (s *State) movedAfterAll(k int, was record.Done) {
	st := &s.plan.steps[k]
	g := &s.going[k]
	g.list = slices.Clone(g.list)
	for i := range g.list {
		if r := &g.list[i]; r.Number == was.Round {
			r.Moved = append(slices.Clip(r.Moved), was.Bolt)
		}
	}
	b := s.bolt(st.owner, was.Bolt)
	if last := g.last(); last.Number == was.Round {
		b.still, b.moved = false, true
		s.at = min(s.at, k)
	}
	w := &s.worst[st.owner]
	w.add(&w.moved, was.Bolt)
	if !g.still() {
		s.voidSteps(st.owner, k)
	}
}
