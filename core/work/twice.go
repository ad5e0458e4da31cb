package work

import (
	"fmt"

	"dynacor/core/record"
	"dynacor/core/refusal"
)

// byAnother reports whether an act counts as done, and somebody else did it.
func (s *State) byAnother(a record.Act, person string) bool {
	for k := len(s.lines.list) - 1; k >= 0; k-- {
		l := s.lines.list[k]
		if c, ok := l.Content.(record.Done); ok && c.Act == a && l.counted && !l.Tried {
			return l.Entry.Person != person && s.counts(k)
		}
	}
	return false
}

// twice refuses what somebody else has done meanwhile, and says so; nil where nobody has.
func (s *State) twice(a record.Act, person string) error {
	if !s.byAnother(a, person) {
		return nil
	}
	return refusal.New(refusal.Twice, "act", fmt.Sprintf("%s was done by somebody else meanwhile.", capital(s.Describe(a))),
		"If you did it too, keep that: it stands on the record as done a second time. If not, take it back.")
}

// hadSet reports whether somebody has said, since the tool of an act was chosen, that it was set
// in their hand: whoever went on apart from the others did not hear who took it up since.
func (s *State) hadSet(st *step, a record.Act, person string) (had bool) {
	for _, l := range s.lines.list {
		switch c := l.Content.(type) {
		case record.Tooling:
			had = had && c.Group != st.group.Name
		case record.Setting:
			had = had || l.Entry.Person == person && c.Group == st.group.Name && c.Share == a.Share && c.Hand == s.HandOf(a)
		}
	}
	return had
}

// acceptTwice takes what was done a second time, whatever tool it was done with: it happened.
func (s *State) acceptTwice(c record.Twice, person string) error {
	if _, _, ok := s.plan.step(c.Step); !ok {
		return refusal.New(refusal.Unknown, "step", fmt.Sprintf("The recipe has no step %q in this variant.", c.Step), "Open the joint again.")
	}
	if !s.byAnother(c.Act, person) {
		return refusal.New(refusal.NotNext, "act", fmt.Sprintf("%s was done by nobody else.", capital(s.Describe(c.Act))),
			"Do it as what is next.")
	}
	return nil
}

// doneTwice counts what was done a second time: to a bolt it takes what was proven after that
// bolt's step. One that was turned by an angle has turned nobody knows how far; one that moved in
// a round is pulled again.
func (s *State) doneTwice(at int, c record.Twice) {
	st, i, ok := s.plan.step(c.Step)
	if !ok {
		return
	}
	s.note(at)
	l := &s.lines.list[at]
	l.counted = true
	if c.Bolt == 0 {
		if st.Works() && !c.Release {
			s.workedBy(l.Entry.Person, c.Qualified)
		}
		return
	}
	s.pulledBy(l.Entry.Person)
	switch {
	case st.owner < 0 || c.Lock:
	case s.plan.turned(st) || c.Turn > 0 && c.Round == 0:
		s.bolt(st.owner, c.Bolt).spent = true
		s.reopen(st.owner, c.Bolt, s.plan.owners[st.owner].steps[0], 0)
	case c.Moved:
		s.again(st.owner, c.Bolt)
	default:
		s.touch(st.owner, i)
	}
}
