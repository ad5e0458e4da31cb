package work

import "dynacor/core/record"

// Onward reports whether s is before with one act more, of one bolt and as it was
// to be, or with the tool of that act set. Then nothing differs but that bolt, how
// far its step is, the newest line, what comes next and what the signs mean then: a
// screen that has seen before need not be told the rest.
func (s *State) Onward(before *State) bool {
	n := len(before.lines.list)
	next, _ := before.Next()
	if s.plan != before.plan || len(s.lines.list) != n+1 || len(s.noted.list) != len(before.noted.list) {
		return false
	}
	var c record.Act
	switch x := s.lines.list[n].Content.(type) {
	case record.Done:
		c = x.Act
	case record.Setting:
		c = next
	}
	if c.Bolt == 0 || c.Lock || c != next {
		return false
	}
	if len(s.doubts) > 0 || len(s.others) != len(before.others) || s.at != before.at || s.Standing != before.Standing ||
		s.dry != before.dry ||
		len(s.Signatures) != len(before.Signatures) || len(s.people) != len(before.people) ||
		len(s.pullers) != len(before.pullers) || len(s.failed) != len(before.failed) {
		return false
	}
	_, i, _ := s.plan.step(c.Step)
	for k := range s.plan.steps {
		if k == i && c.Round > 0 {
			continue
		}
		if (k != i && s.open[k] != before.open[k]) || !s.going[k].same(&before.going[k]) {
			return false
		}
	}
	if len(s.Tooling[s.plan.steps[i].group.Name].Beside) > 0 { // what one does changes what the others wait for
		return false
	}
	own := s.plan.owners[s.plan.steps[i].owner].first + c.Bolt - 1
	for b := range s.bolts {
		if b != own && s.bolts[b] != before.bolts[b] {
			return false
		}
	}
	if s.bolts[own].trouble != before.bolts[own].trouble || s.bolts[own].spent != before.bolts[own].spent {
		return false
	}
	now, _ := s.Next()
	// Of a round that comes because one moved a nut, nothing was said yet.
	return now.Bolt > 0 && (c.Round == 0 || now.Round == c.Round)
}

func (g *going) same(h *going) bool {
	if len(g.list) != len(h.list) || g.allowed != h.allowed {
		return false
	}
	a, b := g.last(), h.last()
	return a == nil || a.Number == b.Number && a.Tried == b.Tried && a.Whole == b.Whole && a.Void == b.Void && len(a.Moved) == len(b.Moved)
}
