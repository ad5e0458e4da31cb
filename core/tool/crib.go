package tool

import (
	"cmp"
	"slices"
	"time"

	"dynacor/core/unit"
)

// Crib is everything there is to choose from.
type Crib struct {
	Wrenches    []Wrench
	Multipliers []Multiplier
	Adapters    []Adapter
	Offsets     []OffsetEnd
	Extensions  []Extension
	Sockets     []Socket
	Hydraulics  []Hydraulic
	Pumps       []Pump
	Gauges      []Gauge
	Tensioners  []Tensioner
}

// Need is what a chain must do: the torque at the nut, N·m, and what the
// socket or bit must fit, mm. With Size zero sockets are left out of it.
type Need struct {
	Torque float64
	Prefer unit.Unit // the unit the joint's torque was given in
	Size   float64
	Inside bool
}

// Left is a tool that is in no chain, and why.
type Left struct {
	Tag string
	Why error
}

// Solution is what a crib offers for a need: settings best first, and every tool that is
// in no chain with its reason. Count is how many chains there are in all.
type Solution struct {
	Count    int
	Settings []Setting
	Left     []Left
	Refused  error // the need itself makes no sense
}

// Solve finds every chain of the crib that reaches the need with each link
// free, fitting its neighbours and within its rating, and ranks them. At most
// most of them are returned, all when it is zero.
func (c Crib) Solve(need Need, most int, today time.Time) Solution {
	s := search{Crib: c, need: need, today: today}
	if err := s.begin(); err != nil {
		return Solution{Refused: err}
	}
	s.byHand()
	s.byMultiplier()
	s.byOffset()
	out := Solution{}
	for _, g := range s.groups {
		out.Count += g.chains
	}
	if most <= 0 || most > out.Count {
		most = out.Count
	}
	out.Settings = make([]Setting, 0, most)
	for _, i := range s.ranked() {
		out.Settings = s.settings(s.groups[i], out.Settings, most)
		if len(out.Settings) == most {
			break
		}
	}
	out.Left = s.left()
	return out
}

// ranked returns the groups' places from best to worst, the earlier found
// first where two rank alike.
func (s *search) ranked() []int32 {
	order := make([]int32, len(s.groups))
	for i := range order {
		order[i] = int32(i)
	}
	slices.SortFunc(order, func(a, b int32) int {
		if d := s.groups[a].rank - s.groups[b].rank; d != 0 {
			return cmp.Compare(d, 0)
		}
		return cmp.Compare(a, b)
	})
	return order
}

// settings appends those of a group's chains until there are most.
func (s *search) settings(g group, to []Setting, most int) []Setting {
	for _, first := range g.firsts {
		for _, t := range g.tails {
			if len(to) == most {
				return to
			}
			if first != none && first == t.second {
				continue
			}
			// What the group has promised holds: each of its chains has this setting.
			if set, err := s.chain(g, first, t).Set(1, s.need.Torque, s.today); err == nil {
				to = append(to, set)
			}
		}
	}
	return to
}

func (s *search) chain(g group, first int16, t tail) Chain {
	c := Chain{Wrench: s.Wrenches[g.wrench]}
	if first != none {
		c.First = &s.Adapters[first]
	}
	if g.multiplier != none {
		c.Multiplier = &s.Multipliers[g.multiplier]
	}
	if t.second != none {
		c.Second = &s.Adapters[t.second]
	}
	if g.offset != none {
		c.Offset = &s.Offsets[g.offset]
	}
	if t.socket != none {
		c.Socket = &s.Sockets[t.socket]
	}
	return c
}
