package work

import (
	"fmt"
	"slices"

	"dynacor/core/record"
	"dynacor/core/refusal"
)

// Remedies lists what may be done about a trouble of a bolt, as things stand.
func (s *State) Remedies(group string, position int) []record.Remedy {
	o, ok := s.plan.owner[group]
	if !ok || position < 1 || position > s.plan.owners[o].group.Count {
		return nil
	}
	b := s.bolt(o, position)
	if b.turned || b.spent {
		out := []record.Remedy{record.Replaced, record.Loosened}
		if b.turned && !b.spent && !b.upped {
			out = append(out, record.Upped)
		}
		return out
	}
	out := []record.Remedy{record.TryAgain, record.Replaced}
	if s.leavable(o, position) {
		out = append(out, record.Leave)
	}
	return out
}

// leavable reports whether a bolt may be left for the end of its stage: it is
// next, and others of the stage are open.
func (s *State) leavable(owner, position int) bool {
	a, ok := s.offeredOn(owner, position)
	if !ok || a.Round > 0 || a.Lock || a.Stroke > 1 {
		return false
	}
	st, i, _ := s.plan.step(a.Step)
	if s.bolt(owner, position).left {
		return false
	}
	for k := s.cursor[i]; k < st.last; k++ {
		if act := s.plan.acts[k]; s.done[k] == 0 && act.Share == a.Share && act.Bolt != position && !act.Lock {
			return true
		}
	}
	return false
}

func (s *State) acceptTrouble(t record.Trouble) error {
	if !slices.Contains(record.Troubles(), t.What) {
		return refusal.New(refusal.Unknown, "trouble", fmt.Sprintf("Unknown trouble %q.", string(t.What)), "Choose one from the list.")
	}
	o, ok := s.plan.owner[t.Group]
	if !ok {
		return refusal.New(refusal.Unknown, "group", fmt.Sprintf("The plan has no %q.", t.Group), "Choose one of its groups.")
	}
	if n := s.plan.owners[o].group.Count; t.Bolt < 1 || t.Bolt > n {
		return refusal.Number(refusal.OutOfRange, "bolt", float64(t.Bolt), float64(n), "", fmt.Sprintf("Bolt %d is none of the %d %s.",
			t.Bolt, n, t.Group), "Choose one of them.")
	}
	may := s.Remedies(t.Group, t.Bolt)
	switch {
	case slices.Contains(may, t.Remedy):
		return nil
	case t.Remedy == record.Upped && s.bolt(o, t.Bolt).upped:
		return refusal.New(refusal.NotNow, "remedy", fmt.Sprintf("Bolt %d was brought up once; a second time it would yield unseen.",
			t.Bolt),
			"Replace it.")
	case t.Remedy == record.TryAgain && s.bolt(o, t.Bolt).turned:
		return refusal.New(refusal.NotNow, "remedy", fmt.Sprintf("Bolt %d was turned by its angle; turned again it would yield unseen.",
			t.Bolt), "Replace it, or loosen it and begin anew where its maker allows that.")
	case t.Remedy == record.Leave:
		return refusal.New(refusal.NotNow, "remedy",
			fmt.Sprintf("Bolt %d cannot be left for the end of its stage: it is not next, or the last one open.", t.Bolt),
			"Make it good, replace it, or pause and hand over.")
	}
	return refusal.New(refusal.Unknown, "remedy", fmt.Sprintf("%q is no remedy here.", string(t.Remedy)), "Choose one from the list.")
}

// trouble takes what went wrong with a bolt. It stays open until the bolt is
// pulled again.
func (s *State) trouble(at int, t record.Trouble) {
	s.note(at)
	o, ok := s.plan.owner[t.Group]
	if !ok || t.Bolt < 1 || t.Bolt > s.plan.owners[o].group.Count {
		return
	}
	s.lines.list[at].counted = true
	switch t.Remedy {
	case record.Replaced, record.Loosened:
		s.anew(at, o, t.Bolt)
		s.bolt(o, t.Bolt).trouble = true
	case record.Upped: // that is the remedy: nothing of it stays open, but what was proven of it does not stand
		s.bolt(o, t.Bolt).upped = true
		from := s.plan.owners[o].steps[0]
		for _, i := range s.plan.owners[o].steps {
			if s.plan.turned(&s.plan.steps[i]) {
				from = i
			}
		}
		s.touch(o, from)
	case record.Leave:
		b := s.bolt(o, t.Bolt)
		b.trouble, b.left = true, true
	default:
		s.again(o, t.Bolt)
		s.bolt(o, t.Bolt).trouble = true
	}
}

// Troubled lists the bolts whose trouble is open, by the group whose bolts they
// are.
func (s *State) Troubled() map[string][]int {
	out := map[string][]int{}
	for _, own := range s.plan.owners {
		for b := range own.group.Count {
			if x := s.bolts[own.first+b]; x.trouble || x.spent {
				out[own.group.Name] = append(out[own.group.Name], b+1)
			}
		}
	}
	return out
}
