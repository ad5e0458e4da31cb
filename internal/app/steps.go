package app

import (
	"context"
	"slices"
	"time"

	"dynacor/core/job"
	"dynacor/core/recipe"
	"dynacor/core/run"
)

// StepLine is a step of a run with how it was done.
type StepLine struct {
	Step     recipe.Step
	Acts     []recipe.Act // those offered now
	Done     bool
	Count    int // acts done, of All
	All      int
	By       string
	At       time.Time
	Readings string
	Values   []float64
	Outside  string
	Reason   string
	Skipped  bool
	Marks    []string // of a match: what was read on the parts
	Tries    []Try
	Entry    string // id of the entry that did it, of a step of one act
}

// Try is one measurement of a step that is adjusted until it is in its window.
type Try struct {
	Readings string
	Outside  string
	By       string
	At       time.Time
}

// Steps returns every step of a run's variant, in order, with who did it and
// when.
func (a *App) Steps(ctx context.Context, s *job.State) []StepLine {
	offered := s.Work.Offered()
	newest := map[string]run.Entry{}
	tries := map[string][]Try{}
	for _, x := range s.Effective {
		if c, ok := x.Content.(run.Step); ok {
			newest[c.Step] = x.Entry
			if len(c.Readings) > 0 {
				t := Try{Readings: readings(s.Work, c.Step, c.Readings, c.Bolts), By: a.Name(ctx, x.Entry.Person), At: x.Entry.AtTool}
				if w, ok := s.Work.WindowAt(c.Step, c.Bolts); ok {
					t.Outside, _ = w.Judge(c.Readings)
				}
				tries[c.Step] = append(tries[c.Step], t)
			}
		}
	}
	var out []StepLine
	for _, st := range s.Work.Steps() {
		l := StepLine{Step: st}
		for _, act := range s.Work.Acts(st.ID) {
			l.All++
			e, did := s.Work.Last(act)
			if slices.Contains(offered, act) {
				l.Acts = append(l.Acts, act)
			}
			if !did {
				continue
			}
			l.Count++
			if act.Bolt == 0 {
				l.Outside, l.Reason, l.Skipped, l.Values = e.Outside, e.Reason, e.Skipped, e.Readings
				if len(e.Readings) > 0 {
					l.Readings = readings(s.Work, st.ID, e.Readings, e.Bolts)
				}
			}
		}
		l.Done = l.Count == l.All && l.All > 0
		if e, ok := newest[st.ID]; ok && l.Count > 0 {
			l.By, l.At = a.Name(ctx, e.Person), e.AtTool
			if c, ok := e.Content.(run.Step); ok {
				l.Marks = c.Marks
			}
			if c, ok := e.Content.(run.Step); ok && c.Qualified != "" && c.Qualified != e.Person {
				l.By += ", with the PIN of " + a.Name(ctx, c.Qualified)
			}
			if l.All == 1 {
				l.Entry = e.ID
			}
		}
		if st.Does == recipe.Adjust || st.Sample != "" {
			l.Tries = tries[st.ID]
		}
		out = append(out, l)
	}
	return out
}
