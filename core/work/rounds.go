package work

import (
	"fmt"
	"slices"
	"strconv"
	"strings"

	"dynacor/core/recipe"
	"dynacor/core/record"
)

// MostRounds is how many rounds may move a nut before the work stops and asks.
const MostRounds = 5

// MostPortions is how many rounds may move a nut where a group is tightened in
// portions of a turn: many do, but not without end.
const MostPortions = 24

// Round is one going round the bolts of a step at the full value.
type Round struct {
	Number int
	Tried  int   // bolts
	Moved  []int // those that turned, also where an entry was corrected to say that one did not
	Whole  bool  // every bolt was tried
	Void   bool  // a bolt had to be worked on again: it does not count
}

// String says what came of a round.
func (r Round) String() string {
	moved := "none"
	if len(r.Moved) > 0 {
		bolts := make([]string, len(r.Moved))
		for i, b := range r.Moved {
			bolts[i] = strconv.Itoa(b)
		}
		moved = "bolt " + bolts[0]
		if len(bolts) > 1 {
			moved = "bolts " + strings.Join(bolts, ", ")
		}
	}
	text := fmt.Sprintf("Round %d: %d bolts tried, %s moved.", r.Number, r.Tried, moved)
	if !r.Whole || r.Void {
		text += " Does not count: not finished, or a bolt was worked on again."
	}
	return text
}

// going is the rounds of a step.
type going struct {
	list    []Round
	allowed int          // rounds beyond the most, that an engineer let be
	until   recipe.Until // what ends them
	free    bool         // what is drawn off came free
}

// last returns the last round; nil where none was begun.
func (g *going) last() *Round {
	if len(g.list) == 0 {
		return nil
	}
	return &g.list[len(g.list)-1]
}

// still reports whether the last round that counts moved nothing.
func (g *going) still() bool {
	r := g.last()
	if g.until == recipe.LetsGo {
		return g.free
	}
	return r != nil && r.Whole && !r.Void && len(r.Moved) == 0
}

// moves reports whether the round that is being made has moved a nut: another
// follows it.
func (g *going) moves() bool {
	r := g.last()
	return r != nil && !r.Whole && !r.Void && len(r.Moved) > 0
}

// number is the round that is being made, or is next.
func (g *going) number() int {
	r := g.last()
	switch {
	case r == nil:
		return 1
	case r.Whole || r.Void:
		return r.Number + 1
	}
	return r.Number
}

// place is where in its order the round stands.
func (g *going) place() int {
	if r := g.last(); r != nil && !r.Whole && !r.Void {
		return r.Tried
	}
	return 0
}

// moving counts the rounds that were gone through and moved a nut.
func (g *going) moving() int {
	n := 0
	for _, r := range g.list {
		if r.Whole && len(r.Moved) > 0 {
			n++
		}
	}
	return n
}

// mostRounds is how many rounds of a step may move a nut.
func (s *State) mostRounds(i int) int {
	most := MostRounds
	if s.plan.steps[i].group.Portion > 0 {
		most = MostPortions
	}
	return most + s.going[i].allowed
}

// stoppedAt returns the step whose rounds have moved nuts too often.
func (s *State) stoppedAt() (int, bool) {
	if s.at >= len(s.plan.steps) || s.plan.steps[s.at].rounds == nil || s.open[s.at] > 0 {
		return 0, false
	}
	g := &s.going[s.at]
	r := g.last()
	return s.at, r != nil && r.Whole && !r.Void && len(r.Moved) > 0 && g.moving() >= s.mostRounds(s.at)
}

// edit returns the last round of a step so that it may be changed; a new one
// where the one before is over.
func (s *State) edit(i int) *Round {
	g := &s.going[i]
	if r := g.last(); r == nil || r.Whole || r.Void {
		g.list = append(slices.Clip(g.list), Round{Number: g.number()})
		return g.last()
	}
	if !s.private {
		g.list = slices.Clone(g.list)
	}
	return g.last()
}

// tried counts a bolt as tried in a round.
func (s *State) tried(i, at int, c record.Done) {
	st := &s.plan.steps[i]
	first := s.going[i].place() == 0
	r := s.edit(i)
	if c.Round != r.Number || st.rounds == nil || c.Bolt != st.rounds[r.Tried] {
		return // refused before it was stored
	}
	if first { // a new round begins without the dots of the last
		for b := 1; b <= s.plan.owners[st.owner].group.Count; b++ {
			s.bolt(st.owner, b).still = false
		}
	}
	r.Tried++
	r.Whole = r.Tried == len(st.rounds) || c.LetGo
	s.going[i].free = c.LetGo
	b := s.bolt(st.owner, c.Bolt)
	b.still, b.moved, b.trouble, b.left, b.anew = !c.Moved, c.Moved, false, false, false
	w := &s.worst[st.owner]
	w.last = c.Bolt
	if c.Moved {
		r.Moved = append(slices.Clip(r.Moved), c.Bolt)
		if c.Turn == 0 {
			w.add(&w.moved, c.Bolt)
		}
	}
}

// voidRounds lets a step go round from the start: the last round, made or begun,
// does not count.
func (s *State) voidRounds(i int) {
	g := &s.going[i]
	if r := g.last(); r == nil || r.Void {
		return
	}
	g.free = false
	if !s.private {
		g.list = slices.Clone(g.list)
	}
	g.last().Void = true
	st := &s.plan.steps[i]
	for b := 1; b <= s.plan.owners[st.owner].group.Count; b++ {
		s.bolt(st.owner, b).still = false
	}
}

// Rounds returns the rounds of a step, those begun.
func (s *State) Rounds(step string) []Round {
	_, i, ok := s.plan.step(step)
	if !ok {
		return nil
	}
	return s.going[i].list
}

// Still returns the round of a step that moved nothing, where its last one is
// made and did not.
func (s *State) Still(step string) (round int, ok bool) {
	_, i, there := s.plan.step(step)
	if !there || !s.going[i].still() {
		return 0, false
	}
	return s.going[i].last().Number, true
}
