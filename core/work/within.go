package work

import (
	"math"

	"dynacor/core/recipe"
	"dynacor/core/record"
	"dynacor/core/unit"
)

// Careful returns what a careful hand says of an act: its readings within their limits, the
// time waited, each mark seen, and no nut that moves.
func (s *State) Careful(a record.Act) record.Done {
	st, _, _ := s.plan.step(a.Step)
	d := record.Done{Act: a}
	if g, _ := s.plan.Result.Group(st.Group); a.Round > 0 && g.Until == recipe.LetsGo {
		d.Moved, d.LetGo = a.Round == 1, a.Round > 1
	}
	if a.Item > 0 || a.Photo || a.Release || st.Tightens() {
		return d
	}
	d.Held, d.Bolts, d.Marks = s.Hold(st.ID), s.Sample(st.ID), s.Seen(st.ID)
	if st.From == recipe.AtJoint {
		d.Readings = s.Within(st.ID)
	}
	return d
}

// Beyond returns readings of a step that are just outside one of its limits, the others
// within; ok is false where nothing is, or nobody can read such a thing.
func (s *State) Beyond(step string) (raw []float64, ok bool) {
	st, at, _ := s.plan.step(step)
	if st.From != recipe.AtJoint {
		return nil, false
	}
	from, known := 0, s.knownAt(at, nil)
	for k, a := range s.Asks(step) {
		g, _ := s.given(&st.reads[k], known)
		for _, answer := range justPast(a.Window) {
			raw = s.Within(step)
			copy(raw[from:], st.reads[k].Form.Example(len(a.Fields), answer, g))
			if why, _, err := s.outside(st, at, raw, s.Sample(step)); err == nil && why != "" {
				return raw, true
			}
		}
		if n := len(a.Fields); a.Limited && n > 1 && !math.IsInf(a.Window.Even, 0) {
			raw = s.Within(step)
			raw[from] += 1.5*a.Window.Even + 1e-3
			if why, _, err := s.outside(st, at, raw, s.Sample(step)); err == nil && why != "" {
				return raw, true
			}
		}
		from += len(a.Fields)
	}
	return nil, false
}

// justPast are answers just outside a window, above it first.
func justPast(w recipe.Window) (out []float64) {
	by := func(v float64) float64 { return max(math.Abs(v)/10, 0.1) }
	if !math.IsInf(w.High, 0) {
		out = append(out, w.High+by(w.High))
	}
	if !math.IsInf(w.Low, 0) {
		out = append(out, w.Low-by(w.Low), w.Low)
	}
	return out
}

// Within returns readings of a step that hold, as a careful hand would take them: in the
// middle of each limit. It is what a dry run reads.
func (s *State) Within(step string) []float64 {
	st, at, _ := s.plan.step(step)
	var out []float64
	here := map[string]unit.Quantity{}
	known := s.knownAt(at, here)
	for k, a := range s.Asks(step) {
		r := &st.reads[k]
		if r.later {
			var missing string
			a.Window, missing = s.windowOf(r, known)
			a.Limited = missing == ""
		}
		g, _ := s.given(r, known)
		a.Raw = r.Form.Example(len(a.Fields), middle(a), g)
		a.Result, _ = r.Form.Answer(a.Raw, g)
		if q, ok := a.value(); ok && r.Keep != "" {
			here[r.Keep] = q
		}
		out = append(out, a.Raw...)
	}
	return out
}

// middle is an answer inside a window.
func middle(a Answered) float64 {
	w := a.Window
	if !a.Limited {
		return 1
	}
	if w.High < 0 {
		return w.High
	}
	low, high := !math.IsInf(w.Low, 0), !math.IsInf(w.High, 0)
	switch {
	case low && high:
		return (w.Low + w.High) / 2
	case low:
		return w.Low + 1
	case high:
		return w.High
	}
	return 1
}

// Seen returns marks of a step that go together, as a careful hand would find them.
func (s *State) Seen(step string) []string {
	st, _, _ := s.plan.step(step)
	hours := map[string]string{}
	for _, m := range st.marks {
		if m.Opposite != "" {
			hours[m.Of], hours[m.Opposite] = "12 o’clock", "6 o’clock"
		}
	}
	var out []string
	for _, m := range st.marks {
		says := "seen"
		switch {
		case m.Is != "":
			says = m.Is
		case hours[m.Of] != "":
			says = hours[m.Of]
		case len(m.From) > 0:
			says = m.From[0]
		case m.Alike != "":
			says = "A 17"
		case m.Unlike != "":
			says = "other"
		}
		out = append(out, m.Of+": "+says)
	}
	return out
}
