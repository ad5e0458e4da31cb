package judge

import (
	"cmp"
	"slices"
	"strings"
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
	Asks     []work.Answered // what is read, each with its limit
	Sample   []int           // the bolts that are measured, where not all are
	Limit    string          // in words, with this joint's numbers; empty where nothing is read
	Ticks    []TickLine
	Now      record.Act // what of it comes next, where it is offered
	Readings string
	Comes    string // what they come to
	Held     float64
	Released string // by whom
	Outside  string
	Reason   string
	Skipped  bool
	Marks    []string // of a match: what was read on the parts
	Tries    []Try
	Rounds   []string // of a step that is gone round until nothing moves: what came of each
	Entry    string   // id of the entry that did it, of a step of one act
}

// TickLine is a line of a list: whether it was ticked, or said not to be so.
type TickLine struct {
	recipe.Tick
	Done    bool
	Offered bool
	Missing bool
	Left    bool // left undone
	Reason  string
	By      string
	At      time.Time
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
	newest, missing := map[string]work.Line{}, map[record.Act]bool{}
	for _, x := range s.Lines() {
		if c, ok := x.Content.(record.Done); ok {
			newest[c.Step] = x
			missing[c.Act] = x.Tried
		}
	}
	var out []StepLine
	for _, st := range s.Plan().Steps() {
		l := StepLine{Step: st, Offered: slices.ContainsFunc(offered, func(a record.Act) bool { return a.Step == st.ID })}
		l.Count, l.All, l.Done = s.Count(st.ID)
		l.Sample, l.Asks = s.Sample(st.ID), s.Asks(st.ID)
		l.Limit = work.Limits(l.Asks)
		for k := len(offered) - 1; k >= 0; k-- {
			if offered[k].Step == st.ID {
				l.Now = offered[k]
			}
		}
		for i, t := range st.Ticks {
			l.Ticks = append(l.Ticks, r.tick(record.Act{Step: st.ID, Item: i + 1}, t, offered, missing, names))
		}
		if x, ok := s.Done(record.Act{Step: st.ID}); ok {
			l.one(s, st, x, names)
		} else if x, ok := newest[st.ID]; ok && (st.Tightens() || len(st.Ticks) > 0) && l.Count > 0 {
			l.By, l.At = names[x.Entry.Person], x.Entry.AtTool
		}
		l.left()
		if x, ok := s.Done(record.Act{Step: st.ID, Release: true}); ok {
			c, _ := x.Content.(record.Done)
			l.Released = names[cmp.Or(c.Qualified, x.Entry.Person)]
		}
		if tries := s.Tries(st.ID); st.Does == recipe.Adjust || st.Sample != "" || len(tries) > 1 || len(tries) == 1 && tries[0].Tried {
			for _, x := range tries {
				c, _ := x.Content.(record.Done)
				t := Try{Readings: s.Says(st.ID, x.Readings, c.Bolts), By: names[x.Entry.Person], At: x.Entry.AtTool, Outside: x.Outside}
				if t.Readings == "" {
					t.Readings = strings.Join(append([]string{s.Describe(c.Act)}, c.Marks...), "; ")
				}
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
	l.Held = x.Held
	if len(x.Readings) > 0 {
		l.Readings, l.Comes = s.Says(st.ID, x.Readings, c.Bolts), s.Comes(st.ID, x.Readings)
	}
}

func (r Run) tick(a record.Act, t recipe.Tick, offered []record.Act, missing map[record.Act]bool, names Names) TickLine {
	l := TickLine{Tick: t, Offered: slices.Contains(offered, a), Missing: missing[a]}
	x, ok := r.State.Done(a)
	if !ok {
		return l
	}
	c, _ := x.Content.(record.Done)
	l.Done, l.Left, l.Reason, l.By, l.At, l.Missing = true, c.Skipped, c.Reason, names[x.Entry.Person], x.Entry.AtTool, false
	return l
}

// left says of a list which of its lines were left undone.
func (l *StepLine) left() {
	var out, why []string
	for _, t := range l.Ticks {
		if t.Left {
			out, why = append(out, cmp.Or(t.Text, t.Part)), append(why, t.Reason)
		}
	}
	if len(out) > 0 && l.Outside == "" {
		l.Outside, l.Reason = "left undone: "+strings.Join(out, "; "), strings.Join(why, "; ")
	}
}
