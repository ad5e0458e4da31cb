package job

import (
	"fmt"

	"dynacor/core/recipe"
	"dynacor/core/run"
)

// note keeps what the record shows first of an entry.
func (s *State) note(e run.Entry) {
	add := func(bolt int, outside bool, format string, args ...any) {
		s.notes = append(s.notes, run.Deviation{Entry: e.ID, Bolt: bolt, Outside: outside, Text: fmt.Sprintf(format, args...)})
	}
	switch c := e.Content.(type) {
	case run.Correction:
		for _, x := range s.Effective {
			if was, ok := x.Entry.Content.(run.Step); ok && x.Entry.ID == c.Of {
				how := "corrected"
				if c.Instead == nil {
					how = "struck out"
				}
				add(was.Bolt, false, "%s %s: %s", s.Describe(was), how, c.Reason)
			}
		}
	case run.Trouble:
		text := fmt.Sprintf("%s, bolt %d: %s, %s", s.groupOf(c.Step), c.Bolt, c.What, c.Remedy.Done())
		if c.Note != "" {
			text += ". " + c.Note
		}
		add(c.Bolt, false, "%s", text)
	case run.Tooling:
		for _, p := range c.Passes {
			if p.ByHand {
				add(0, false, "%s, stage %d: a tool that is not in the crib: %s", c.Group, p.Pass, p.Tools[0])
			}
		}
	case run.Decision:
		add(0, false, "another round was allowed: %s", c.Reason)
	}
}

func (s *State) groupOf(step string) string {
	st, _ := s.Work.Step(recipe.Act{Step: step})
	return st.Group
}

// AllDeviations returns what the record shows first: what the plan departs from,
// what was left undone or kept outside its limit, and what happened on the way.
func (s *State) AllDeviations() []run.Deviation {
	var out []run.Deviation
	for _, text := range s.plan.Result.Deviations {
		out = append(out, run.Deviation{Text: text})
	}
	for _, e := range s.Work.Deviations() {
		st, _ := s.Work.Step(e.Act)
		text := fmt.Sprintf("%s: %s", st.Text, e.Outside)
		if e.Act.Bolt > 0 {
			text = fmt.Sprintf("%s, bolt %d: %s", st.Group, e.Act.Bolt, e.Outside)
			if e.Act.Lock {
				text = fmt.Sprintf("%s, bolt %d: its lock was %s", st.Group, e.Act.Bolt, e.Outside)
			}
		}
		out = append(out, run.Deviation{Bolt: e.Act.Bolt, Outside: true, Text: fmt.Sprintf("%s. Because: %s", trim(text), e.Reason)})
	}
	for _, x := range s.Effective {
		c, ok := x.Content.(run.Step)
		if !ok {
			continue
		}
		group := s.groupOf(c.Step)
		if c.Moved && c.Round > 0 && c.Turn == 0 {
			out = append(out, run.Deviation{Entry: x.Entry.ID, Bolt: c.Bolt, Text: fmt.Sprintf("%s: bolt %d moved in round %d", group, c.Bolt, c.Round)})
		}
		if at, setting, ok := s.setting(group, c); ok && !c.Reading.IsZero() {
			v, _ := c.Reading.In(setting.Unit)
			if why := s.outside(group, c, at, v/setting.Value); why != "" {
				out = append(out, run.Deviation{Entry: x.Entry.ID, Bolt: c.Bolt, Outside: true, Text: fmt.Sprintf("%s, bolt %d: %s", group, c.Bolt, trim(why))})
			}
		}
	}
	return append(out, s.notes...)
}

func trim(text string) string {
	if n := len(text); n > 0 && text[n-1] == '.' {
		return text[:n-1]
	}
	return text
}

// Outside reports whether anything on the record is outside a limit or was left
// undone.
func (s *State) Outside() bool { return run.AnyOutside(s.AllDeviations()) }

// Open lists what still keeps the record from being signed.
func (s *State) Open() []string {
	open := s.Work.Open()
	if s.Work.Stopped() {
		open = append([]string{"an engineer decides on another round"}, open...)
	}
	if s.Paused != nil {
		open = append(open, "the run is paused")
	}
	return open
}

// Describe names an act in a few words.
func (s *State) Describe(c run.Step) string {
	st, _ := s.Work.Step(recipe.Act{Step: c.Step})
	if c.Bolt == 0 {
		return trim(st.Text)
	}
	g, _ := s.plan.Group(st.Group)
	name := Name(g, c.Bolt)
	switch {
	case c.Lock:
		return name + ", lock"
	case c.Round > 0:
		return fmt.Sprintf("%s, round %d", name, c.Round)
	case c.Turn > 0:
		return fmt.Sprintf("%s, %g°", name, c.Turn)
	case c.Share > 0 && len(g.Stages) > 1:
		return fmt.Sprintf("%s, %g %%", name, c.Share)
	}
	return name
}

// Name names one bolt of a group: disc screw 3 of the disc screws, bolt 2 of end
// 1, the lock nut where there is one.
func Name(g Group, bolt int) string {
	n := len(g.Name)
	switch {
	case g.Count == 1:
		return One(g.Name)
	case n > 0 && g.Name[n-1] >= '0' && g.Name[n-1] <= '9':
		return fmt.Sprintf("%s, bolt %d", g.Name, bolt)
	}
	return fmt.Sprintf("%s %d", One(g.Name), bolt)
}

// One is a group's name for one of it: "disc screw" of "disc screws".
func One(group string) string {
	if n := len(group); n > 1 && group[n-1] == 's' && group[n-2] != 's' {
		return group[:n-1]
	}
	return group
}
