package recipe

import (
	"fmt"
	"slices"

	"dynacor/core/refusal"
	"dynacor/core/unit"
)

// entry judges an act as it is said to have been done.
func (w *Work) entry(a Act, d Done) (Entry, error) {
	s, _ := w.step(a.Step)
	e := Entry{Act: a, Person: d.Person, Readings: slices.Clone(d.Readings), Bolts: slices.Clone(d.Bolts), Moved: d.Moved, Reason: d.Reason, Skipped: d.Skipped}
	if d.Person == "" {
		return e, refusal.New(refusal.Missing, "person", "Nobody is named.", "Sign in.")
	}
	if s.By != "" && !slices.Contains(d.Qualifications, s.By) {
		return e, refusal.New(refusal.NotTheSame, "person", fmt.Sprintf("%q is for a %s.", s.Text, s.By), fmt.Sprintf("Ask a %s to do it and to enter their PIN.", s.By))
	}
	switch {
	case d.Skipped:
		return e, w.leave(a, s, &e)
	case s.Limit != nil:
		return e, refusal.First(w.read(s, &e), hold(s, d.Held, &e))
	case s.Does == Lock:
		return e, w.count(a, &e)
	case len(d.Readings) > 0:
		return e, refusal.New(refusal.Contradicts, "readings", fmt.Sprintf("%q asks for no reading.", s.Text), "Leave it out.")
	}
	return e, nil
}

// leave says whether an act may be left undone: never a pull, a signature or
// what must be, the rest with a reason.
func (w *Work) leave(a Act, s Step, e *Entry) error {
	what := w.describe(a)
	switch {
	case s.Must || s.Does == Sign || ((s.Does == Tighten || s.Does == Turn) && !a.Lock):
		return refusal.New(refusal.NotNow, "skipped", fmt.Sprintf("%s cannot be left undone.", what), "Do it, or stop the work here.")
	case e.Reason == "":
		return refusal.New(refusal.NeedsReason, "skipped", fmt.Sprintf("%s is left undone.", what), "Say why; it stands first on the record, and whoever checks it answers for it.")
	}
	e.Readings = nil
	e.Outside = "left undone"
	return nil
}

// Judge says why readings of a step, taken after so many minutes, would be
// outside; empty where they would not.
func (w *Work) Judge(step string, readings []float64, held float64) (outside string, err error) {
	s, ok := w.step(step)
	win, reads := w.Window(step)
	if !ok || !reads {
		return "", refusal.New(refusal.Unknown, "step", "Nothing is read at this step.", "")
	}
	e := Entry{}
	if e.Outside, err = win.Judge(readings); err != nil {
		return "", err
	}
	e.Reason = "only asked"
	err = hold(s, min(held, 1e9), &e)
	return e.Outside, err
}

// hold refuses a reading that was taken before the time was over, but for a
// reason.
func hold(s Step, held float64, e *Entry) error {
	if err := refusal.NotNegative("held", held, "min"); err != nil {
		return err
	}
	if e.Tried || unit.AtLeast(held, s.Hold) {
		return nil
	}
	short := fmt.Sprintf("held %.3g of %.3g min", held, s.Hold)
	if e.Reason == "" {
		return refusal.Number(refusal.NeedsReason, "held", held, s.Hold, "min", fmt.Sprintf("It was %s.", short), "Wait until the time is over, or keep it as a deviation and say why.")
	}
	if e.Outside != "" {
		short = e.Outside + " It was " + short
	}
	e.Outside = short
	return nil
}

// count refuses to say that all locks are on where one of a bolt was left, but
// for a reason.
func (w *Work) count(a Act, e *Entry) error {
	if len(e.Readings) > 0 {
		return refusal.New(refusal.Contradicts, "readings", "A lock asks for no reading.", "Leave it out.")
	}
	if a.Lock {
		return nil
	}
	on, all := w.Locks()
	if on == all {
		return nil
	}
	e.Outside = fmt.Sprintf("%d of %d locks are on", on, all)
	if e.Reason == "" {
		return refusal.Number(refusal.NeedsReason, "locks", float64(on), float64(all), "locks", fmt.Sprintf("%d of %d locks are on.", on, all), "Lock the others, or say why they are not.")
	}
	return nil
}

// read judges an act's readings. What is outside in an adjust step, or in a
// sample that can still widen, is a try.
func (w *Work) read(s Step, e *Entry) error {
	places := w.Places(s.ID)
	if len(e.Readings) != places {
		return refusal.Number(refusal.Missing, "readings", float64(len(e.Readings)), float64(places), "readings",
			fmt.Sprintf("%d readings; %q asks for %d.", len(e.Readings), s.Text, places), "Measure at each place.")
	}
	if asked := w.Sample(s.ID); !slices.Equal(e.Bolts, asked) {
		return refusal.New(refusal.Contradicts, "bolts", fmt.Sprintf("The readings are of bolts %v; the sample is of bolts %v.", e.Bolts, asked), "Measure at those.")
	}
	win, _ := w.WindowAt(s.ID, e.Bolts)
	outside, err := win.Judge(e.Readings)
	if err != nil {
		return err
	}
	if e.Outside = outside; outside == "" {
		return nil
	}
	if s.Does == Adjust || w.Widens(s.ID) {
		e.Tried = e.Reason == ""
		return nil
	}
	if e.Reason == "" {
		return refusal.New(refusal.NeedsReason, "readings", outside, "Put it right and measure again, or keep it as a deviation and say why.")
	}
	return nil
}
