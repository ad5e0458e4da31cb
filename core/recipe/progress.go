package recipe

import (
	"fmt"
	"maps"
	"slices"

	"dynacor/core/refusal"
)

// Done is what was done: who, with which qualifications, what was read (as
// many as the step asks for), whether a nut moved, whether the step was left
// undone, and why a reading outside its limit is kept or the step was left.
type Done struct {
	Person         string
	Qualifications []string
	Readings       []float64
	Bolts          []int   // of a sample: the bolts that were measured, a reading each
	Held           float64 // minutes waited before it was read
	Moved          bool
	Skipped        bool
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
		if !w.isDone(a) {
			out = append(out, a)
		}
	}
	return out
}

// GoOn lets stopped work go on for one more round; an engineer decides, with a
// reason, and both are logged.
func (w *Work) GoOn(person, reason string) (*Work, error) {
	if !w.stopped {
		return nil, refusal.New(refusal.NotNow, "rounds", "The work has not stopped.", w.instead())
	}
	if person == "" || reason == "" {
		return nil, refusal.New(refusal.NeedsReason, "reason", fmt.Sprintf("%d rounds have moved a nut.", w.Moving()), "Say why the work may go on.")
	}
	next := w.clone()
	last := w.blocks[w.at-1][0]
	next.Log = append(next.Log, Entry{Act: last, Person: person, Reason: reason})
	next.allowed[last.Step]++
	next.settle()
	return next, nil
}

// Do takes an act as done and returns the work after it. It refuses what is
// not offered, what needs another person or more readings, a reading outside
// its limit without a reason, and what may not be left undone; the work stays
// as it was. In an adjust step a reading outside is a try, and the step stays
// open.
func (w *Work) Do(a Act, d Done) (*Work, error) {
	if !slices.Contains(w.Offered(), a) {
		return nil, refusal.New(refusal.NotNext, "act", fmt.Sprintf("%s is not what is next.", w.describe(a)), w.instead())
	}
	e, err := w.entry(a, d)
	if err != nil {
		return nil, err
	}
	return w.with(e), nil
}

// Correct puts other readings, or whether the nut moved, in the place of how an
// act was done. It refuses what Do refuses.
func (w *Work) Correct(a Act, d Done) (*Work, error) {
	if !w.isDone(a) {
		return nil, refusal.New(refusal.NotNow, "act", fmt.Sprintf("%s is not done.", w.describe(a)), w.instead())
	}
	e, err := w.entry(a, d)
	if err != nil {
		return nil, err
	}
	return w.undo(a, false).with(e), nil
}

// Undo takes an act back: it is to be done again. A bolt that is pulled anew
// voids the rounds of its group, and what was proven after it.
func (w *Work) Undo(a Act) *Work {
	pull := (a.Does == Tighten || a.Does == Turn) && !a.Lock
	next := w.undo(a, pull)
	if pull && a.Round == 0 {
		next.rounds(a.Step)
	}
	next.settle()
	return next
}

// Anew begins one bolt of a step anew: all its pulls and its lock are to be
// made again, then the rounds.
func (w *Work) Anew(step string, bolt int) *Work {
	next := w.clone()
	for a := range w.done {
		if a.Step == step && a.Bolt == bolt && a.Round == 0 {
			next = next.undo(a, true)
		}
	}
	next.rounds(step)
	next.settle()
	return next
}

// Private returns a copy that Do, Undo and the rest change in place, for whoever
// plays a long list of acts and keeps only the end; Shared makes it as any other
// again.
func (w *Work) Private() *Work {
	next := w.clone()
	next.private = true
	return next
}

// Shared ends Private.
func (w *Work) Shared() *Work {
	w.private = false
	return w
}

func (w *Work) clone() *Work {
	if w.private {
		return w
	}
	next := *w
	next.Log = slices.Clip(w.Log)
	next.done = maps.Clone(w.done)
	next.allowed = maps.Clone(w.allowed)
	return &next
}

// with returns the work with e in it.
func (w *Work) with(e Entry) *Work {
	next := w.clone()
	next.Log = append(next.Log, e)
	if e.Tried {
		return next
	}
	next.done[e.Act] = len(next.Log) - 1
	next.advance(e.Act)
	return next
}

// undo takes an act back; reopen also what was proven after it.
func (w *Work) undo(a Act, reopen bool) *Work {
	next := w.clone()
	delete(next.done, a)
	if reopen {
		for b := range w.done {
			if s, _ := w.step(b.Step); s.Station == Prove || s.Station == AtRecord {
				delete(next.done, b)
			}
		}
	}
	return next
}
