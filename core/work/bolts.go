package work

import (
	"slices"

	"dynacor/core/joint"
	"dynacor/core/recipe"
	"dynacor/core/record"
	"dynacor/core/unit"
)

// Bolt is what is known of one bolt. Mark is none, still, moved or trouble.
type Bolt struct {
	Group    string
	Position int
	Level    float64 // share of its target reached, 0 to 1
	Mark     string
	Locked   bool
	Left     bool    // the others of its stage come first
	Stage    float64 // the highest stage that it holds, percent
	Doubt    bool    // a pull on it is in doubt
}

// Bolts returns every bolt of every group that has bolts of its own, in order.
// Where the variant undoes the joint they begin full and are emptied.
func (s *State) Bolts() []Bolt { return s.from(0, len(s.bolts)) }

// Bolt is one of Bolts; false where no group of that name has such a bolt of its own.
func (s *State) Bolt(group string, position int) (Bolt, bool) {
	for _, own := range s.plan.owners {
		if own.group.Name == group && position > 0 && position <= own.group.Count {
			i := own.first + position - 1
			return s.from(i, i+1)[0], true
		}
	}
	return Bolt{}, false
}

// from returns some of Bolts, from first to before last.
func (s *State) from(first, last int) []Bolt {
	out := make([]Bolt, last-first)
	_, doubted := s.Doubted()
	for _, own := range s.plan.owners {
		for b := max(0, first-own.first); b < min(own.group.Count, last-own.first); b++ {
			x := s.bolts[own.first+b]
			o := &out[own.first+b-first]
			*o = Bolt{Group: own.group.Name, Position: b + 1, Mark: x.mark(), Left: x.left}
			o.Doubt = slices.Contains(doubted[own.group.Name], b+1)
			if own.group.Stands {
				o.Level = 1
			}
			if own.group.Portion > 0 {
				switch {
				case x.still:
					o.Level = 1
				case x.moved:
					o.Level, o.Mark = underWay, "none"
				}
				if x.trouble || x.spent {
					o.Mark = "trouble"
				}
			}
		}
	}
	for i := range s.plan.steps {
		st := &s.plan.steps[i]
		if st.owner < 0 {
			continue
		}
		full := s.full(i)
		for a := st.first; a < st.last; a++ {
			act := s.plan.acts[a]
			i := s.plan.owners[st.owner].first + act.Bolt - 1
			if i < first || i >= last {
				continue
			}
			if l, did := s.lineOf(a); did {
				out[i-first].count(st.group, act, l, full)
			}
		}
	}
	if s.plan.Undoes() {
		for i := range out {
			out[i].Level = 1 - out[i].Level
		}
	}
	return out
}

func (b bolt) mark() string {
	switch {
	case b.trouble || b.spent:
		return "trouble"
	case b.moved:
		return "moved"
	case b.still:
		return "still"
	}
	return "none"
}

// underWay is how far a bolt is drawn full that is turned by portions and does
// not hold yet: nobody knows its share.
const underWay = 0.5

// full is how far a step fills its bolts: not all the way where another works
// on them after it.
func (s *State) full(step int) float64 {
	own := s.plan.owners[s.plan.steps[step].owner].steps
	switch {
	case own[len(own)-1] == step:
		return 1
	case s.plan.Undoes():
		return 0.85 // slackened, and not off yet
	}
	return 0.3 // snug
}

func (b *Bolt) count(g joint.Group, a record.Act, l Line, full float64) {
	switch {
	case a.Lock:
		c, _ := l.Content.(record.Done)
		b.Locked = !c.Skipped
	case g.How == recipe.ByTurns:
		b.Level = max(b.Level, full*float64(a.Stroke)/float64(max(len(g.Strokes), 1)))
	case g.How == recipe.ByTorque, g.How == recipe.ByPressure:
		b.Level, b.Stage = max(b.Level, a.Share/100), max(b.Stage, a.Share)
	case g.How == recipe.ByTension:
		b.Level, b.Stage = 1, 100
	default:
		b.Level = max(b.Level, full)
	}
}

// Holds lists the bolts of each group with bolts of its own that count as done:
// every act on them made, their locks on, no trouble open. Rounds apart, but
// where there is nothing else.
func (s *State) Holds() map[string][]int {
	out := map[string][]int{}
	for o, own := range s.plan.owners {
		for b := 1; b <= own.group.Count; b++ {
			if s.holds(o, b) {
				out[own.group.Name] = append(out[own.group.Name], b)
			}
		}
	}
	return out
}

func (s *State) holds(owner, position int) bool {
	b := s.bolt(owner, position)
	if b.trouble || b.spent {
		return false
	}
	made := 0
	for _, i := range s.plan.owners[owner].steps {
		st := &s.plan.steps[i]
		for a := st.first; a < st.last; a++ {
			if s.plan.acts[a].Bolt != position {
				continue
			}
			l, did := s.lineOf(a)
			c, _ := l.Content.(record.Done)
			if !did || c.Skipped {
				return false
			}
			made++
		}
	}
	return made > 0 || b.still
}

// Anew lists the bolts that begin from nothing, of each group with bolts of its
// own.
func (s *State) Anew() map[string][]int {
	out := map[string][]int{}
	for _, own := range s.plan.owners {
		for b := range own.group.Count {
			if s.bolts[own.first+b].anew {
				out[own.group.Name] = append(out[own.group.Name], b+1)
			}
		}
	}
	return out
}

// Aim is what a pull by pressure goes to: its share of the group's value; empty
// for every other act.
func (s *State) Aim(a record.Act) unit.Quantity {
	st, _, _ := s.plan.step(a.Step)
	if st.owner < 0 || st.group.How != recipe.ByPressure {
		return unit.Quantity{}
	}
	share := a.Share
	if share == 0 {
		share = 100
	}
	q := s.plan.aims[st.group.Value]
	return unit.Of(q.Value*share/100, q.Unit)
}

// Preview is what a bolt shows once an act was done to it; moved: in a round, its
// nut turned.
func (s *State) Preview(b Bolt, a record.Act, moved bool) Bolt {
	st, step, _ := s.plan.step(a.Step)
	switch {
	case a.Round > 0 && a.Turn > 0 && moved:
		b.Level, b.Mark = max(b.Level, underWay), "none"
		return b
	case a.Round > 0 && moved:
		b.Mark = "moved"
		return b
	case a.Round > 0:
		b.Level, b.Mark = 1, "still"
		return b
	}
	if s.plan.Undoes() {
		b.Level = 1 - b.Level
	}
	if b.Mark == "trouble" && !a.Lock {
		b.Mark = "none"
	}
	b.count(st.group, a, Line{}, s.full(step))
	if s.plan.Undoes() {
		b.Level = 1 - b.Level
	}
	return b
}

// Legend is what the signs on the bolts mean at an act.
func (s *State) Legend(a record.Act) []Sign {
	switch {
	case a.Round > 0 && a.Turn > 0:
		return []Sign{{"turned, does not hold yet", underWay, "none"}, {"clicked: holds", 1, "still"}}
	case a.Round > 0, a.Bolt == 0 && s.round():
		return []Sign{{"did not move", 1, "still"}, {"moved", 1, "moved"}, {"trouble", 1, "trouble"}}
	case s.plan.Undoes():
		return []Sign{{"still holds", 1, "none"}, {"let go", 0, "none"}, {"trouble", 0.5, "trouble"}}
	}
	return []Sign{{"part of its value", underWay, "none"}, {"holds", 1, "none"}, {"trouble", underWay, "trouble"}}
}

// round reports whether the bolts show what rounds came to.
func (s *State) round() bool {
	return slices.ContainsFunc(s.going, func(g going) bool { return len(g.list) > 0 })
}

// Sign is one sign of a legend.
type Sign struct {
	Text  string
	Level float64
	Mark  string
}
