package recipe

import (
	"fmt"
	"maps"
	"slices"

	"dynacor/core/refusal"
	"dynacor/core/unit"
)

// Done is what was done: who, with which qualifications, what was read (as
// many as the step asks for), whether a nut moved, whether the step was left
// undone, and why a reading outside its limit is kept or the step was left.
type Done struct {
	Person         string
	Qualifications []string
	Readings       []float64
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

// entry judges an act as it is said to have been done.
func (w *Work) entry(a Act, d Done) (Entry, error) {
	s, _ := w.step(a.Step)
	e := Entry{Act: a, Person: d.Person, Readings: slices.Clone(d.Readings), Moved: d.Moved, Reason: d.Reason, Skipped: d.Skipped}
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
	win, reads := w.windows[step]
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

// advance moves on past what is done. Where an act ends a round, or is none of
// the open block, everything is looked at anew.
func (w *Work) advance(a Act) {
	if w.at >= len(w.blocks) || !slices.Contains(w.blocks[w.at], a) {
		w.settle()
		return
	}
	ends := a.Round > 0 && (w.at+1 == len(w.blocks) || w.blocks[w.at+1][0].Step != a.Step)
	if ends {
		w.settle()
		return
	}
	for w.at < len(w.blocks) && !slices.ContainsFunc(w.blocks[w.at], func(b Act) bool { return !w.isDone(b) }) {
		w.at++
	}
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

// rounds lets a step go round from the start: those made or begun are void, and
// the next number is a new one.
func (w *Work) rounds(step string) {
	first, last := -1, 0
	for i, b := range w.blocks {
		if a := b[0]; a.Step == step && a.Round > 0 {
			if first < 0 {
				first = i
			}
			last = max(last, a.Round)
		}
	}
	if first < 0 {
		return
	}
	begun := false
	kept := slices.DeleteFunc(slices.Clone(w.blocks), func(b []Act) bool {
		void := b[0].Step == step && b[0].Round > 0
		if void {
			_, did := w.done[b[0]]
			begun = begun || did
			delete(w.done, b[0])
		}
		return void
	})
	if begun {
		last++
	}
	s, _ := w.step(step)
	w.blocks = slices.Insert(kept, first, alone(w.round(s, last))...)
}

func alone(acts []Act) [][]Act {
	out := make([][]Act, len(acts))
	for i, a := range acts {
		out[i] = []Act{a}
	}
	return out
}

// settle finds the first block with something to do. A step whose last round
// is made and moved a nut gets another, up to MostRounds.
func (w *Work) settle() {
	w.stopped = false
	for i := 0; i < len(w.blocks); i++ {
		a := w.blocks[i][0]
		ends := a.Round > 0 && (i+1 == len(w.blocks) || w.blocks[i+1][0].Step != a.Step)
		if !ends || !w.moved(a.Step, a.Round) {
			continue
		}
		if w.movedRounds(a.Step) >= MostRounds+w.allowed[a.Step] {
			w.stopped = true
			w.at = i + 1
			return
		}
		s, _ := w.step(a.Step)
		w.blocks = slices.Insert(slices.Clone(w.blocks), i+1, alone(w.round(s, a.Round+1))...)
	}
	w.at = slices.IndexFunc(w.blocks, func(b []Act) bool {
		return slices.ContainsFunc(b, func(a Act) bool { return !w.isDone(a) })
	})
	if w.at < 0 {
		w.at = len(w.blocks)
	}
}

// moved reports whether a round is made and has moved a nut.
func (w *Work) moved(step string, round int) bool {
	moved := false
	for _, b := range w.blocks {
		if a := b[0]; a.Step == step && a.Round == round {
			e, ok := w.Last(a)
			if !ok {
				return false
			}
			moved = moved || e.Moved
		}
	}
	return moved
}

func (w *Work) movedRounds(step string) int {
	n, last := 0, 0
	for _, b := range w.blocks {
		if a := b[0]; a.Step == step && a.Round > last {
			last = a.Round
			if w.moved(step, a.Round) {
				n++
			}
		}
	}
	return n
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
		return refusal.Number(refusal.NotNow, "rounds", MostRounds, MostRounds, "rounds", fmt.Sprintf("%d rounds have moved a nut.", MostRounds), "Stop and ask the engineer.")
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
