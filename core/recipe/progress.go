package recipe

import (
	"fmt"
	"maps"
	"slices"

	"dynacor/core/refusal"
)

// Done is what was done: who, with which qualifications, what was read (as
// many as the step asks for), whether a nut moved, and why a reading outside
// its limit is kept.
type Done struct {
	Person         string
	Qualifications []string
	Readings       []float64
	Moved          bool
	Reason         string
}

// Offered returns what may be done now, in the recipe's order; none when all
// is signed, or the work has stopped.
func (w *Work) Offered() []Act {
	if w.Stopped() || w.at == len(w.blocks) {
		return nil
	}
	var out []Act
	for _, a := range w.blocks[w.at] {
		if !w.done[a] {
			out = append(out, a)
		}
	}
	return out
}

// Step returns the step of an act; ok is false for an act of another recipe.
func (w *Work) Step(a Act) (s Step, ok bool) { return w.step(a.Step) }

// Window returns what a step's readings may be; ok is false where it asks for
// none.
func (w *Work) Window(step string) (win Window, ok bool) {
	win, ok = w.windows[step]
	return win, ok
}

// Stopped reports whether too many rounds have moved a nut: the work stops and
// asks, until GoOn.
func (w *Work) Stopped() bool { return w.stopped }

// GoOn lets stopped work go on for one more round; an engineer decides, with a
// reason, and both are logged.
func (w *Work) GoOn(person, reason string) (*Work, error) {
	if !w.stopped {
		return nil, refusal.New(refusal.NotNow, "rounds", "The work has not stopped.", w.instead())
	}
	if person == "" || reason == "" {
		return nil, refusal.New(refusal.NeedsReason, "reason", "Five rounds have moved a nut.", "Say why the work may go on.")
	}
	next := *w
	last := w.blocks[w.at-1][0]
	next.Log = append(slices.Clip(w.Log), Entry{Act: last, Person: person, Reason: reason})
	next.stopped = false
	next.again(last)
	return &next, nil
}

// Do takes an act as done and returns the work after it. It refuses what is
// not offered, what needs another person or more readings, and a reading
// outside its limit without a reason; the work stays as it was. In an adjust
// step a reading outside is a try, and the step stays open.
func (w *Work) Do(a Act, d Done) (*Work, error) {
	if !slices.Contains(w.Offered(), a) {
		return nil, refusal.New(refusal.NotNext, "act", fmt.Sprintf("%s is not what is next.", w.describe(a)), w.instead())
	}
	s, _ := w.step(a.Step)
	if d.Person == "" {
		return nil, refusal.New(refusal.Missing, "person", "Nobody is named.", "Sign in.")
	}
	if s.By != "" && !slices.Contains(d.Qualifications, s.By) {
		return nil, refusal.New(refusal.NotTheSame, "person", fmt.Sprintf("%q is for a %s.", s.Text, s.By), fmt.Sprintf("Ask a %s to do it and to enter their PIN.", s.By))
	}
	e := Entry{Act: a, Person: d.Person, Readings: slices.Clone(d.Readings), Moved: d.Moved, Reason: d.Reason}
	if s.Limit != nil {
		if err := w.read(s, &e); err != nil {
			return nil, err
		}
	} else if len(d.Readings) > 0 {
		return nil, refusal.New(refusal.Contradicts, "readings", fmt.Sprintf("%q asks for no reading.", s.Text), "Leave it out.")
	}
	next := *w
	next.Log = append(slices.Clip(w.Log), e)
	if e.Tried {
		return &next, nil
	}
	next.done = maps.Clone(w.done)
	next.done[a] = true
	next.advance(a, d.Moved)
	return &next, nil
}

// read judges an act's readings.
func (w *Work) read(s Step, e *Entry) error {
	places := max(s.Places, 1)
	if len(e.Readings) != places {
		return refusal.Number(refusal.Missing, "readings", float64(len(e.Readings)), float64(places), "readings",
			fmt.Sprintf("%d readings; %q asks for %d.", len(e.Readings), s.Text, places), "Measure at each place.")
	}
	outside, err := w.windows[s.ID].Judge(e.Readings)
	if err != nil {
		return err
	}
	if e.Outside = outside; outside == "" {
		return nil
	}
	if s.Does == Adjust {
		if e.Reason == "" {
			e.Tried = true
		}
		return nil
	}
	if e.Reason == "" {
		return refusal.New(refusal.NeedsReason, "readings", outside, "Put it right and measure again, or keep it as a deviation and say why.")
	}
	return nil
}

// advance moves on where the block is done. A round that moved a nut is
// followed by another, up to MostRounds.
func (w *Work) advance(a Act, moved bool) {
	for _, b := range w.blocks[w.at] {
		if !w.done[b] {
			return
		}
	}
	w.at++
	if a.Round == 0 {
		return
	}
	w.moved = moved || (w.moved && a.Bolt > 1)
	s, _ := w.step(a.Step)
	if a.Bolt < w.bolts(w.group(s.Group)) || !w.moved {
		return
	}
	if w.stopped = a.Round >= MostRounds; !w.stopped {
		w.again(a)
	}
}

// again puts another round after the one that ended with a.
func (w *Work) again(a Act) {
	s, _ := w.step(a.Step)
	var more [][]Act
	for _, x := range w.round(s, a.Round+1) {
		more = append(more, []Act{x})
	}
	w.blocks = slices.Concat(w.blocks[:w.at], more, w.blocks[w.at:])
}

// Open lists what is still to do, a line each, in order; each step once.
func (w *Work) Open() []string {
	var out []string
	seen := map[string]bool{}
	for _, block := range w.blocks[w.at:] {
		for _, a := range block {
			if s, _ := w.step(a.Step); !w.done[a] && s.Does != Sign && !seen[s.ID] {
				seen[s.ID] = true
				out = append(out, s.Text)
			}
		}
	}
	return out
}

// MaySign reports whether nothing but signatures is open; else the refusal
// says what is.
func (w *Work) MaySign() error {
	if w.Stopped() {
		return refusal.Number(refusal.NotNow, "rounds", MostRounds, MostRounds, "rounds", fmt.Sprintf("%d rounds have moved a nut.", MostRounds), "Stop and ask the engineer.")
	}
	if open := w.Open(); len(open) > 0 {
		return refusal.Number(refusal.NotNow, "open", float64(len(open)), 0, "steps", fmt.Sprintf("Still open: %s", open[0]), fmt.Sprintf("%d steps are open before it may be signed.", len(open)))
	}
	return nil
}

// Signed reports whether every signature is made.
func (w *Work) Signed() bool { return w.at == len(w.blocks) && !w.Stopped() }

// Deviations lists what was kept outside its limit, with the reasons: it
// stands first on the record.
func (w *Work) Deviations() []Entry {
	var out []Entry
	for _, e := range w.Log {
		if e.Outside != "" && !e.Tried {
			out = append(out, e)
		}
	}
	return out
}

func (w *Work) describe(a Act) string {
	s, ok := w.step(a.Step)
	if !ok {
		return fmt.Sprintf("Step %q", a.Step)
	}
	switch {
	case a.Lock:
		return fmt.Sprintf("The lock of bolt %d", a.Bolt)
	case a.Bolt > 0:
		return fmt.Sprintf("Bolt %d of %s", a.Bolt, s.Group)
	}
	return fmt.Sprintf("%q", s.Text)
}

func (w *Work) instead() string {
	offered := w.Offered()
	if len(offered) == 0 {
		return "Nothing is open."
	}
	return "Next: " + w.describe(offered[0]) + "."
}
