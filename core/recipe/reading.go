package recipe

import (
	"fmt"

	"dynacor/core/refusal"
)

func (w *Work) isDone(a Act) bool {
	_, ok := w.done[a]
	return ok
}

// Acts returns every act of a step in its order, with the rounds so far.
func (w *Work) Acts(step string) []Act {
	var out []Act
	for _, b := range w.blocks {
		for _, a := range b {
			if a.Step == step {
				out = append(out, a)
			}
		}
	}
	return out
}

// Last returns how an act was done; ok is false where it is still to do.
func (w *Work) Last(a Act) (e Entry, ok bool) {
	i, ok := w.done[a]
	if !ok {
		return Entry{}, false
	}
	return w.Log[i], true
}

// Steps returns the steps of this variant, in order.
func (w *Work) Steps() []Step {
	var out []Step
	for _, s := range w.Recipe.Steps {
		if s.When.Holds(w.Joint.Choices) && (s.Group == "" || w.group(s.Group).When.Holds(w.Joint.Choices)) {
			out = append(out, s)
		}
	}
	return out
}

// Parts returns the parts of this variant.
func (w *Work) Parts() []Part {
	var out []Part
	for _, p := range w.Recipe.Parts {
		if p.When.Holds(w.Joint.Choices) {
			out = append(out, p)
		}
	}
	return out
}

// Groups returns the groups of this variant with their counts.
func (w *Work) Groups() []Group {
	var out []Group
	for _, g := range w.Recipe.Groups {
		if g.When.Holds(w.Joint.Choices) {
			g.Bolts = w.bolts(g)
			out = append(out, g)
		}
	}
	return out
}

// Step returns the step of an act; ok is false for an act of another recipe.
func (w *Work) Step(a Act) (s Step, ok bool) { return w.step(a.Step) }

// Window returns what a step's readings may be, and where they are taken; ok is
// false where it asks for none.
func (w *Work) Window(step string) (win Window, ok bool) {
	return w.WindowAt(step, w.Sample(step))
}

// WindowAt is Window for a sample that is taken at the given bolts; of a step
// that takes no sample there are none.
func (w *Work) WindowAt(step string, bolts []int) (win Window, ok bool) {
	win, ok = w.windows[step]
	if len(bolts) == 0 {
		return win, ok
	}
	win.Spots = make([]string, len(bolts))
	for i, b := range bolts {
		win.Spots[i] = fmt.Sprintf("at bolt %d", b)
	}
	return win, ok
}

// Places is how many readings a step asks for; none where it asks for no
// reading.
func (w *Work) Places(step string) int {
	s, _ := w.step(step)
	switch {
	case s.Limit == nil:
		return 0
	case s.Sample != "":
		return len(w.Sample(step))
	}
	return max(s.Places, 1)
}

// Stopped reports whether too many rounds have moved a nut: the work stops and
// asks, until GoOn.
func (w *Work) Stopped() bool { return w.stopped }

// Moving counts the rounds that moved a nut of the step that the work has stopped
// at; none where it goes on.
func (w *Work) Moving() int {
	if !w.stopped {
		return 0
	}
	return w.movedRounds(w.blocks[w.at-1][0].Step)
}

// Locks counts the locks of bolts that are on, and all there are.
func (w *Work) Locks() (on, all int) {
	for _, b := range w.blocks {
		if a := b[0]; a.Lock {
			all++
			if e, ok := w.Last(a); ok && !e.Skipped {
				on++
			}
		}
	}
	return on, all
}

// Open lists what is still to do, a line each, in order; each step once.
func (w *Work) Open() []string {
	var out []string
	seen := map[string]bool{}
	for _, block := range w.blocks[w.at:] {
		for _, a := range block {
			if s, _ := w.step(a.Step); !w.isDone(a) && s.Does != Sign && !seen[s.ID] {
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
		n := float64(w.Moving())
		return refusal.Number(refusal.NotNow, "rounds", n, n, "rounds", fmt.Sprintf("%g rounds have moved a nut.", n), "Stop and ask the engineer.")
	}
	if open := w.Open(); len(open) > 0 {
		return refusal.Number(refusal.NotNow, "open", float64(len(open)), 0, "steps", fmt.Sprintf("Still open: %s", open[0]), fmt.Sprintf("%d steps are open before it may be signed.", len(open)))
	}
	return nil
}

// Signed reports whether every signature is made.
func (w *Work) Signed() bool { return w.at == len(w.blocks) && !w.Stopped() }

// Deviations lists what stands as left undone or kept outside its limit, with
// the reasons: it comes first on the record.
func (w *Work) Deviations() []Entry {
	var out []Entry
	for i, e := range w.Log {
		if at, ok := w.done[e.Act]; ok && at == i && e.Outside != "" {
			out = append(out, e)
		}
	}
	return out
}

// Tries lists what was measured in an adjust step, in order, the one that was
// kept last.
func (w *Work) Tries(step string) []Entry {
	var out []Entry
	for _, e := range w.Log {
		if e.Act.Step == step && len(e.Readings) > 0 {
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
