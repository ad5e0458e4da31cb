package judge

import (
	"fmt"
	"strings"

	"dynacor/core/record"
	"dynacor/core/unit"
	"dynacor/core/work"
)

// TapeLine is an entry in words, with what it counts for now.
type TapeLine struct {
	Entry       record.Entry
	Content     record.Content // nil when struck out
	By          string
	Group       string
	Act         record.Act
	What        string
	Outcome     string
	Setting     unit.Quantity
	Reading     unit.Quantity
	Tools       string
	Struck      bool
	Note        string
	Correctable bool
}

// Tape writes out the last entries of a run, at most so many, oldest first.
func (r Run) Tape(names Names, most int) []TapeLine {
	s := r.State
	lines := s.Lines()
	from := max(0, len(lines)-most)
	out := make([]TapeLine, 0, len(lines)-from)
	for i, x := range lines[from:] {
		l := TapeLine{Entry: x.Entry, Content: x.Content, By: names[x.Entry.Person], What: string(x.Entry.Content.Kind()),
			Struck: x.Content == nil, Correctable: s.Correctable(from + i)}
		if x.Corrected != nil {
			l.Note = "corrected: " + x.Corrected.Content.(record.Correction).Reason
		}
		c := x.Content
		if c == nil {
			c = x.Entry.Content
		}
		l.write(s, x, c, names)
		out = append(out, l)
	}
	return out
}

// write says what a line's content is.
func (l *TapeLine) write(s *work.State, x work.Line, c record.Content, names Names) {
	switch c := c.(type) {
	case record.Done:
		l.done(s, x, c, names)
	case record.Twice:
		st, _ := s.Plan().Step(c.Step)
		l.Group, l.Act, l.What, l.Reading, l.Outcome = st.Group, c.Act, s.Describe(c.Act), c.Reading, "done a second time"
		if l.Note = Join(l.Note, c.Reason); len(c.Readings) > 0 {
			l.Note = Join(l.Note, "it read "+s.Says(c.Step, c.Readings, c.Bolts))
		}
	case record.Tooling:
		l.Group, l.What, l.Outcome = c.Group, "tool for the "+c.Group, handsWords(c)
	case record.Setting:
		l.Group, l.What, l.Outcome = c.Group, "tool set, "+c.Group, unit.Of(c.Share, "%").String()
		if t, ok := s.StageTool(c.Group, c.Share, c.Hand); ok && len(s.Tooling[c.Group].Beside) > 0 {
			l.Outcome += ", " + strings.Join(t.Tools, " + ")
		}
		if len(c.Readings) > 0 {
			l.What, l.Note = "rigged up, "+c.Group, Join(l.Note, s.RigWords(c))
		}
	case record.Upset:
		l.Group, l.What, l.Outcome, l.Note = c.Group, "rig of the "+c.Group, string(c.What), c.Note
	case record.Trouble:
		g, _ := s.Plan().Result.Group(c.Group)
		l.Group, l.Act.Bolt = c.Group, c.Bolt
		l.What, l.Outcome, l.Note = g.BoltName(c.Bolt)+", trouble", string(c.What)+", "+c.Remedy.Done(), Join(l.Note, c.Note)
	case record.Correction:
		l.What, l.Outcome, l.Note = "correction", "put right", c.Reason
		if c.Instead == nil {
			l.Outcome = "struck out"
		}
	case record.Report:
		l.What, l.Outcome, l.Note = "tool "+c.Tool, "reported "+string(c.What), c.Note
	case record.Gap:
		l.What, l.Outcome, l.Note = "device "+c.Device, "is lost", c.Why
	case record.Lubricant:
		l.Group, l.What, l.Outcome, l.Note = c.Group, "lubricant of the "+c.Group, c.Is+" is on it", c.Note
	case record.Answer:
		l.What, l.Outcome, l.Note = "pulls with "+c.Tool, c.How.Words(), c.Reason
	case record.Recheck:
		l.Group, l.What, l.Outcome, l.Tools = c.Group, "tried with "+c.With+", for "+c.Tool, c.Words(), c.With
		if x.Outside != "" {
			l.Note = Join(l.Note, x.Outside)
		}
	case record.Decision:
		l.What, l.Note = "let go on", c.Reason
		if c.Tool != "" {
			l.What = c.Tool + " may be used past its date"
		}
	case record.Pause:
		l.What, l.Note = "paused", Join(c.Note, c.HandOverTo)
	case record.Resume:
		l.What, l.Note = "taken up", c.Note
	case record.Signature:
		l.What, l.Note = "signed: "+string(c.Part), c.Reason
	case record.Started:
		st, _ := s.Plan().Step(c.Step)
		l.What, l.Outcome = record.Trim(st.Text), "clock started"
	case record.Photo:
		l.What, l.Outcome = "photograph", c.What
		if st, ok := s.Plan().Step(c.Step); ok && c.What == "" {
			l.Outcome = record.Trim(st.Text)
		}
	case record.Caution:
		st, _ := s.Plan().Step(c.Step)
		l.What, l.Outcome = "cautions read", record.Trim(st.Text)
	}
}

func (l *TapeLine) done(s *work.State, x work.Line, c record.Done, names Names) {
	st, _ := s.Plan().Step(c.Step)
	l.Group, l.Act, l.What, l.Reading, l.Outcome = st.Group, c.Act, s.Describe(c.Act), c.Reading, "done"
	if x.Tool != nil {
		l.Setting, l.Tools, l.Outcome = x.Tool.Setting, strings.Join(x.Tool.Tools, " + "), "held"
	}
	switch {
	case c.Skipped:
		l.Outcome = "left undone"
	case c.Release:
		l.Outcome = "released"
	case c.LetGo:
		l.Outcome = "it let go"
	case x.Tried && len(x.Readings) == 0:
		l.Outcome = x.Outside
	case c.Round > 0 && c.Turn > 0 && c.Moved:
		l.Outcome = "turned"
	case c.Round > 0 && c.Turn > 0:
		l.Outcome = "held"
	case c.Round > 0 && c.Moved:
		l.Outcome = "moved"
	case c.Round > 0:
		l.Outcome = "no turn"
	case c.NoTurn:
		l.Outcome = "held, no turn"
	case c.Lock:
		l.Outcome = "locked"
	case len(x.Readings) > 0:
		l.Outcome = s.Says(c.Step, x.Readings, c.Bolts)
	}
	if c.Angle > 0 {
		l.Outcome += fmt.Sprintf(", %.4g°", c.Angle)
	}
	if l.Note = Join(l.Note, c.Reason); c.Taken != "" && c.Bolt == 0 {
		l.Note = Join(l.Note, "sent by "+c.Taken)
	}
	if c.Qualified != "" && c.Qualified != x.Entry.Person {
		l.Note = Join(l.Note, "with the PIN of "+names[c.Qualified])
	}
}

// Join puts two remarks into one; either may be empty.
func Join(a, b string) string {
	if a == "" || b == "" {
		return a + b
	}
	return a + "; " + b
}

// handsWords names the tools of a choice: those that work at once by and.
func handsWords(t record.Tooling) string {
	var out []string
	for _, stages := range t.Hands() {
		out = append(out, strings.Join(stages[len(stages)-1].Tools, " + "))
	}
	return strings.Join(out, " and ")
}
