package app

import (
	"slices"
	"time"

	"dynacor/core/recipe"
	"dynacor/core/record"
	"dynacor/core/work"
)

// StepLine is a step of a run with how it was done.
type StepLine struct {
	Step     recipe.Step
	Offered  bool
	Done     bool
	Count    int // acts done, of All
	All      int
	By       string
	At       time.Time
	Reads    bool // something is read, within Window
	Window   recipe.Window
	Sample   []int  // the bolts that are measured, where not all are
	Limit    string // in words, with this joint's numbers; empty where nothing is read
	Readings string
	Comes    string // what readings round a circle come to
	Outside  string
	Reason   string
	Skipped  bool
	Marks    []string // of a match: what was read on the parts
	Tries    []Try
	Rounds   []string // of a step that is gone round until nothing moves: what came of each
	Entry    string   // id of the entry that did it, of a step of one act
}

// Try is one measurement of a step that is adjusted, or measured anew.
type Try struct {
	Readings string
	Outside  string
	By       string
	At       time.Time
}

// Steps returns every step of a run's variant, in order, with who did it and
// when.
func (r Run) Steps(names Names) []StepLine {
	s := r.State
	offered := s.Offered()
	newest := map[string]work.Line{}
	for _, x := range s.Lines() {
		if c, ok := x.Content.(record.Done); ok {
			newest[c.Step] = x
		}
	}
	var out []StepLine
	for _, st := range s.Plan().Steps() {
		l := StepLine{Step: st, Offered: slices.ContainsFunc(offered, func(a record.Act) bool { return a.Step == st.ID })}
		l.Count, l.All, l.Done = s.Count(st.ID)
		l.Sample = s.Sample(st.ID)
		if w, ok := s.WindowAt(st.ID, l.Sample); ok {
			l.Reads, l.Window, l.Limit = true, w, w.Words()
		}
		if x, ok := s.Done(record.Act{Step: st.ID}); ok {
			l.one(s, st, x, names)
		} else if x, ok := newest[st.ID]; ok && st.Tightens() && l.Count > 0 {
			l.By, l.At = names[x.Entry.Person], x.Entry.AtTool
		}
		if st.Does == recipe.Adjust || st.Sample != "" {
			for _, x := range s.Tries(st.ID) {
				c, _ := x.Content.(record.Done)
				t := Try{Readings: s.Says(st.ID, x.Readings, c.Bolts), By: names[x.Entry.Person], At: x.Entry.AtTool, Outside: x.Outside}
				l.Tries = append(l.Tries, t)
			}
		}
		l.Rounds = Rounds(s, st.ID)
		out = append(out, l)
	}
	return out
}

// Rounds says what came of each round of a step.
func Rounds(s *work.State, step string) (out []string) {
	for _, x := range s.Rounds(step) {
		out = append(out, x.String())
	}
	return out
}

// one fills in a step of one act.
func (l *StepLine) one(s *work.State, st recipe.Step, x work.Line, names Names) {
	c, _ := x.Content.(record.Done)
	l.By, l.At, l.Entry = names[x.Entry.Person], x.Entry.AtTool, x.Entry.ID
	if c.Qualified != "" && c.Qualified != x.Entry.Person {
		l.By += ", with the PIN of " + names[c.Qualified]
	}
	l.Outside, l.Reason, l.Skipped, l.Marks = x.Outside, c.Reason, c.Skipped, c.Marks
	if len(x.Readings) > 0 {
		l.Readings = s.Says(st.ID, x.Readings, c.Bolts)
		win, _ := s.WindowAt(st.ID, c.Bolts)
		l.Comes = win.Comes(x.Readings)
	}
}
