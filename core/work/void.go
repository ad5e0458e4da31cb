package work

import "dynacor/core/recipe"

// The law of the record, in one place: what no longer stands when something is
// touched. Everything that reopens anything goes through here.

// undo takes an act back: it is to be done again.
func (s *State) undo(i int, a int32) {
	if s.done[a] == 0 {
		return
	}
	s.done[a] = 0
	s.open[i]++
	s.cursor[i] = min(s.cursor[i], a)
	s.at = min(s.at, i)
}

// touch voids what rested on the bolts of an owner as they were: the rounds of
// its steps, every step after the one touched that its bolts void, and those
// before it that the recipe says they do. Signatures fell when the entry came.
func (s *State) touch(owner, from int) {
	for _, i := range s.plan.owners[owner].steps {
		if s.plan.steps[i].rounds != nil {
			s.voidRounds(i)
			if i < s.at && !s.complete(i) {
				s.at = i
			}
		}
	}
	s.voidSteps(owner, from)
}

// voidSteps takes back what was proven of an owner's bolts after a step.
func (s *State) voidSteps(owner, from int) {
	for i := range s.plan.steps {
		st := &s.plan.steps[i]
		if st.owner < 0 && st.voided[owner] && (i > from || st.named) {
			s.undo(i, st.first)
		}
	}
}

// reopen takes back what was done to a bolt from an act on: the act itself, what
// came after it in the bolt's chain, and its locks.
func (s *State) reopen(owner, position, from int, after int32) {
	for _, i := range s.plan.owners[owner].steps {
		st := &s.plan.steps[i]
		for a := max(st.first, after); a < st.last; a++ {
			if s.plan.acts[a].Bolt == position {
				s.undo(i, a)
			}
		}
	}
	w := &s.worst[owner]
	w.add(&w.anew, position)
	s.touch(owner, from)
}

// anew begins a bolt's whole chain anew, and those of its group with it where
// the recipe says so.
func (s *State) anew(at, owner, position int) {
	own := &s.plan.owners[owner]
	first, last := position, position
	if own.group.Replaced == recipe.WithAll {
		first, last = 1, own.group.Count
	}
	for b := first; b <= last; b++ {
		*s.bolt(owner, b) = bolt{anew: true, since: int32(at) + 1}
		s.reopen(owner, b, own.steps[0], 0)
	}
}

// again reopens the last pull of a bolt; where it has none yet, or is about to
// be pulled, that pull is it.
func (s *State) again(owner, position int) {
	if a, ok := s.Next(); ok && a.Bolt == position && a.Round == 0 {
		if st, _, _ := s.plan.step(a.Step); st.owner == owner {
			s.voidSteps(owner, s.plan.owners[owner].steps[0])
			return
		}
	}
	own := &s.plan.owners[owner]
	for k := len(own.steps) - 1; k >= 0; k-- {
		i := own.steps[k]
		st := &s.plan.steps[i]
		for a := st.last - 1; a >= st.first; a-- {
			if act := s.plan.acts[a]; act.Bolt == position && !act.Lock && s.done[a] != 0 {
				s.reopen(owner, position, i, a)
				return
			}
		}
		if st.rounds != nil && st.first == st.last && s.going[i].last() != nil { // it is only gone round
			s.touch(owner, i)
			return
		}
	}
}

// struck takes back a step without bolts that did not happen. What the pulls
// rested on takes them with it; other work takes what was proven after it.
func (s *State) struck(at, i int) {
	st := &s.plan.steps[i]
	s.undo(i, st.first)
	if st.Conditions() {
		for o, own := range s.plan.owners {
			if len(own.steps) == 0 || own.steps[0] < i {
				continue
			}
			for b := 1; b <= own.group.Count; b++ {
				switch {
				case s.bolt(o, b).turned: // not simply turned again
					s.bolt(o, b).spent = true
					s.reopen(o, b, own.steps[0], 0)
				case s.handled(o, b):
					s.anew(at, o, b)
				}
			}
		}
	}
	if !st.Works() {
		return
	}
	for k := i + 1; k < len(s.plan.steps); k++ {
		if later := &s.plan.steps[k]; later.owner < 0 && (later.Station == recipe.Prove || later.Station == recipe.AtBolts) {
			s.undo(k, later.first)
		}
	}
}

// handled reports whether anything was done to a bolt.
func (s *State) handled(owner, position int) bool {
	b := s.bolt(owner, position)
	if b.still || b.moved || b.turned {
		return true
	}
	for _, i := range s.plan.owners[owner].steps {
		st := &s.plan.steps[i]
		for a := st.first; a < st.last; a++ {
			if s.plan.acts[a].Bolt == position && s.done[a] != 0 {
				return true
			}
		}
	}
	return false
}
