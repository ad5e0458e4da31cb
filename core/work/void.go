package work

import (
	"slices"

	"dynacor/core/recipe"
	"dynacor/core/record"
)

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
			s.undoStep(i)
		}
	}
}

// undoStep takes back all of a step without bolts.
func (s *State) undoStep(i int) {
	st := &s.plan.steps[i]
	for a := st.first; a < st.last; a++ {
		s.undo(i, a)
	}
	s.stopClock(st.ID)
}

// voidLater takes back the steps that the recipe says are void when this one is done:
// again, for before they were done there is nothing to take back.
func (s *State) voidLater(i int) {
	for _, k := range s.plan.steps[i].voids {
		s.undoStep(k)
	}
}

// otherTool takes back what another tool voids, where there is still something to pull
// with one.
func (s *State) otherTool() {
	for i := range s.plan.steps {
		pulls := slices.IndexFunc(s.plan.steps[i:], func(st step) bool { return st.owner >= 0 && !s.complete(s.plan.index[st.ID]) }) >= 0
		if s.plan.steps[i].byTool && pulls {
			s.undoStep(i)
		}
	}
}

// goBack takes back everything from the step that a failed try sends the work back to:
// steps are done again, bolts begin anew.
func (s *State) goBack(at, i int) {
	from, ok := s.plan.index[s.plan.steps[i].Back]
	if !ok || s.plan.steps[i].Back == "" {
		return
	}
	for k := from; k < i; k++ {
		st := &s.plan.steps[k]
		if st.owner < 0 {
			s.undoStep(k)
			continue
		}
		for b := 1; b <= s.plan.owners[st.owner].group.Count; b++ {
			if s.handled(st.owner, b) {
				s.anew(at, st.owner, b)
			}
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
	if a, ok := s.offeredOn(owner, position); ok && a.Round == 0 {
		s.voidSteps(owner, s.plan.owners[owner].steps[0])
		return
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
func (s *State) struck(at, i int, act record.Act) {
	st := &s.plan.steps[i]
	for a := st.first; a < st.last; a++ { // the line itself, and what was said of the whole list after it
		if x := s.plan.acts[a]; x == act || x.Item == 0 && !act.Photo && !act.Release || act.Item == 0 && x.Release {
			s.undo(i, a)
		}
	}
	s.voidLater(i)
	if act.Photo || act.Release {
		return
	}
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
			s.undoStep(k)
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
