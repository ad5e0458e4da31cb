package work

import (
	"fmt"

	"dynacor/core/record"
)

// Deviations returns what the record shows first: what the plan departs from,
// then what happened on the way and what was kept outside its limit, in order.
func (s *State) Deviations() []record.Deviation {
	var out []record.Deviation
	for _, text := range s.plan.Result.Deviations {
		out = append(out, record.Deviation{Text: text})
	}
	for _, i := range s.noted.list {
		out = append(out, s.deviates(int(i))...)
	}
	return out
}

// Outside reports whether anything on the record is outside a limit or was left
// undone.
func (s *State) Outside() bool { return record.AnyOutside(s.Deviations()) }

// deviates lists what a line adds to the record's first page.
func (s *State) deviates(i int) []record.Deviation {
	l := s.lines.list[i]
	var out []record.Deviation
	add := func(group string, bolt int, outside bool, format string, args ...any) {
		out = append(out, record.Deviation{Entry: l.Entry.ID, Group: group, Bolt: bolt, Outside: outside, Text: fmt.Sprintf(format,
			args...)})
	}
	if l.Early {
		group, bolt := s.boltOf(l.Entry.Content)
		add(group, bolt, false, "%s: its time at the tool lies before that of the entry before it", s.what(l.Entry.Content))
	}
	if odd := s.plan.dated(l.Entry, l.Entry.AtServer); odd != "" {
		group, bolt := s.boltOf(l.Entry.Content)
		add(group, bolt, false, "%s: %s", s.what(l.Entry.Content), odd)
	}
	switch c := l.Content.(type) {
	case record.Done:
		s.doneDeviates(l, c, i, add)
	case record.Twice:
		group, bolt := s.boltOf(c)
		moved := ""
		if c.Moved {
			moved = ", and moved"
		}
		add(group, bolt, false, "%s: done a second time%s, by somebody who could not know of the first", s.Describe(c.Act), moved)
	case record.Trouble:
		if !l.counted {
			return out
		}
		text := fmt.Sprintf("%s: %s, %s", s.boltName(c.Group, c.Bolt), c.What, c.Remedy.Done())
		if c.Note != "" {
			text += ". " + c.Note
		}
		add(c.Group, c.Bolt, false, "%s", text)
	case record.Correction:
		k, ok := s.of(c.Of)
		if !ok || !l.counted {
			return out
		}
		how := "corrected"
		if c.Instead == nil {
			how = "struck out"
		}
		group, bolt := s.boltOf(s.lines.list[k].Entry.Content)
		was, _ := s.lines.list[k].Entry.Content.(record.Done)
		now, put := c.Instead.(record.Done)
		stayed := put && was.Moved && !now.Moved && was.Round > 0
		if stayed {
			how = "corrected to say that it did not move; its round stays one that moved"
		}
		add(group, bolt, false, "%s %s: %s", s.what(s.lines.list[k].Entry.Content), how, c.Reason)
	case record.Tooling:
		for _, stages := range c.Hands() {
			for k, t := range stages {
				if t.ByHand {
					add(c.Group, 0, true, "%s, stage %d: a tool that is not in the crib: %s", c.Group, k+1, t.Tools[0])
				}
			}
		}
	case record.Upset:
		add(c.Group, 0, false, "%s", s.upsetWords(i, c))
	case record.Report:
		add("", 0, false, "%s", s.reportWords(int32(i), c))
	case record.Gap:
		add("", 0, true, "%s", gapWords(c, l.Entry.AtServer.Location()))
	case record.Lubricant:
		o := s.found(i)
		add(c.Group, 0, true, "%s. %s%s", o.says(s), o.means(s), noteOf(c.Note))
	case record.Answer:
		add("", 0, c.How != record.Good, "%s", c.Words())
	case record.Recheck:
		text := fmt.Sprintf("in doubt because of %s, tried with %s: %s", c.Tool, c.With, c.Words())
		if l.Outside != "" {
			text += "; " + l.Outside
		}
		add(c.Group, 0, l.Outside != "", "%s", text)
	case record.Decision:
		if c.Tool != "" {
			add("", 0, true, "%s may be used past its date: %s", c.Tool, c.Reason)
			break
		}
		add("", 0, false, "the work had stopped and was let go on: %s", c.Reason)
	}
	return out
}

// doneDeviates lists what of an act is on the record's first page.
func (s *State) doneDeviates(l Line, c record.Done, i int, add func(group string, bolt int, outside bool, format string, args ...any)) {
	st, _, ok := s.plan.step(c.Step)
	if !ok || !l.counted {
		return
	}
	group := st.group.Name
	switch {
	case l.Fast && c.Taken != "":
		add(group, c.Bolt, false, "%s: within %g s of the pull before", s.Describe(c.Act), LinkedTime.Seconds())
	case l.Fast:
		add(group, c.Bolt, false, "%s: %d bolts in less than %g s", s.Describe(c.Act), PacePulls, PaceTime.Seconds())
	}
	if c.Moved && c.Turn == 0 {
		add(group, c.Bolt, false, "%s moved in round %d", st.group.BoltName(c.Bolt), c.Round)
	}
	if c.NoTurn && len(st.group.Stages) > 0 && c.Share == st.group.Stages[0] {
		add(group, c.Bolt, false, "%s did not turn in the first stage", st.group.BoltName(c.Bolt))
	}
	if why := s.offAngle(st, c); why != "" {
		add(group, c.Bolt, true, "%s turned %s", st.group.BoltName(c.Bolt), why)
	}
	if l.Tool != nil {
		if why := s.far(st, c, l.Tool); why != "" {
			add(group, c.Bolt, true, "%s: %s", st.group.BoltName(c.Bolt), record.Trim(why))
		}
	}
	if l.Outside == "" || l.Tried || (c.Round == 0 && s.done[s.plan.place[c.Act]] != int32(i)+1) {
		return
	}
	text := fmt.Sprintf("%s: %s", record.Trim(st.Text), l.Outside)
	if c.Bolt > 0 {
		text = fmt.Sprintf("%s: its lock was %s", st.group.BoltName(c.Bolt), l.Outside)
	}
	add(group, c.Bolt, true, "%s. Because: %s", record.Trim(text), c.Reason)
}

func (s *State) boltName(group string, bolt int) string {
	g, _ := s.plan.Result.Group(group)
	return g.BoltName(bolt)
}

// boltOf is the bolt that an entry is about, with its group; 0 for none.
func (s *State) boltOf(c record.Content) (group string, bolt int) {
	switch c := c.(type) {
	case record.Done:
		st, _, _ := s.plan.step(c.Step)
		return st.group.Name, c.Bolt
	case record.Twice:
		return s.boltOf(c.Done)
	case record.Trouble:
		return c.Group, c.Bolt
	}
	return "", 0
}

// what names an entry in a few words.
func (s *State) what(c record.Content) string {
	switch c := c.(type) {
	case record.Done:
		return s.Describe(c.Act)
	case record.Twice:
		return s.Describe(c.Act) + ", a second time"
	case record.Trouble:
		return "trouble at " + s.boltName(c.Group, c.Bolt)
	case nil:
		return "nothing"
	}
	return string(c.Kind())
}
