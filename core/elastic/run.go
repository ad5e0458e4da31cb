package elastic

import (
	"fmt"
	"math"

	"dynacor/core/refusal"
	"dynacor/core/unit"
)

// Pass is one go over some or all of the bolts at one load, N. Order names
// positions from 1; Together is how many tools take it at once, in the order's
// own groups (0 and 1 are one tool). Where each pull has a load of its own, Each
// has them, N, by its place in the order.
type Pass struct {
	Target   float64
	Order    []int
	Together int
	Each     []float64
}

// Schedule is how a joint is made: passes, then check rounds at the last
// target until a whole round moves no nut, at most MostRounds of them.
type Schedule struct {
	Name       string
	Passes     []Pass
	CheckOrder []int   // of the rounds; empty: 1 to n
	MostRounds int     // zero: no rounds
	Still      float64 // a nut whose load rises by no more than this share of the target has not moved; zero: UsualStill
	Relaxation float64 // share of load kept from one pass or round to the next; zero counts as 1
}

// UsualStill is the rise of load that nobody sees at the nut, as a share: on a
// bolt that takes 30° from snug it is a third of a degree.
const UsualStill = 0.01

// Effort is what the work takes, s: each pull, and getting ready for a pass.
type Effort struct{ Pull, Pass float64 }

// Outcome is one joint made by one schedule.
type Outcome struct {
	Loads    [][]float64 // at the end of each pass and round, before it relaxes, N
	Closures []float64   // at the bolts, of the last loads, mm
	Pulls    int         // nuts a tool was put on
	Moves    int         // of these, that turned
	Rounds   int         // check rounds made
	Still    bool        // the last round moved no nut
	Final    Spread
}

// Minutes returns how long an outcome takes.
func (o Outcome) Minutes(e Effort) float64 {
	return (float64(o.Pulls)*e.Pull + float64(len(o.Loads))*e.Pass) / 60
}

// Spread is how even the loads of a joint are.
type Spread struct {
	Least, Most, Mean float64 // N
	Ratio             float64 // Most/Least; zero when a bolt is loose
	Deviation         float64 // standard deviation over mean
	Loose             int     // bolts without load
}

// SpreadOf returns the spread of loads.
func SpreadOf(loads []float64) Spread {
	s := Spread{Least: math.Inf(1)}
	if len(loads) == 0 {
		return Spread{}
	}
	for _, f := range loads {
		s.Least, s.Most = min(s.Least, f), max(s.Most, f)
		if f == 0 {
			s.Loose++
		}
	}
	var variance float64
	s.Mean, variance = MeanVariance(loads)
	if s.Mean > 0 {
		s.Deviation = math.Sqrt(variance) / s.Mean
	}
	if s.Least > 0 {
		s.Ratio = s.Most / s.Least
	}
	return s
}

// Pulled is one pull as it happened: which bolts, how far the nut went down
// (the farthest of them), mm, and the loads of all bolts after it, N.
type Pulled struct {
	Pass    int // from 1, check rounds going on after the passes
	Bolts   []int
	Advance float64
	Loads   []float64
}

// Run makes the joint once, with no scatter. each, where it is not nil, sees
// every pull.
func (r Ring) Run(s Schedule, each func(Pulled)) (Outcome, error) {
	md, err := newModel(r)
	if err != nil {
		return Outcome{}, err
	}
	w, err := md.prepare(s)
	if err != nil {
		return Outcome{}, err
	}
	st := md.begin()
	out := Outcome{}
	pass := func(p *step) (moved bool) {
		out.Pulls += p.pulls
		for k, bolts := range p.turns {
			advance, rise, moves := st.take(bolts, p.targets[k])
			out.Moves += moves
			moved = moved || rise > w.still*p.target
			if each != nil {
				f := make([]float64, md.n)
				st.loads(f)
				positions := make([]int, len(bolts))
				for k, i := range bolts {
					positions[k] = i + 1
				}
				each(Pulled{len(out.Loads) + 1, positions, advance, f})
			}
		}
		f := make([]float64, md.n)
		st.loads(f)
		out.Loads = append(out.Loads, f)
		return moved
	}
	out.Rounds, out.Still = w.through(st, pass)
	out.Closures = st.closures()
	out.Final = SpreadOf(out.Loads[len(out.Loads)-1])
	return out, nil
}

// take brings bolts to load and returns the farthest advance, mm, the greatest
// rise of load, N, and how many of them turned.
func (s *state) take(bolts []int, load float64) (advance, rise float64, moves int) {
	each := make([]float64, len(bolts))
	for k, i := range bolts {
		each[k] = load
		if up := load - s.load(i); up > 0 {
			rise = max(rise, up)
			moves++
		}
	}
	if len(bolts) == 1 {
		return s.bring(bolts[0], load), rise, moves
	}
	return s.together(bolts, each), rise, moves
}

// step is a pass made ready: turns holds bolts from 0, those taken together in
// one turn, targets the load of each turn; alone holds them in a row where no
// two are.
type step struct {
	target  float64
	turns   [][]int
	targets []float64
	alone   []int
	pulls   int
}

// work is a schedule made ready.
type work struct {
	passes []step
	round  step
	most   int // rounds
	still  float64
	kept   float64
}

// through goes through the passes and then the rounds until one moves nothing,
// the loads relaxing before each but the first. pass makes one and reports
// whether a nut was seen to move.
func (w *work) through(st *state, pass func(*step) (moved bool)) (rounds int, still bool) {
	relax := func() {
		if w.kept < 1 {
			st.relax(w.kept)
		}
	}
	for i := range w.passes {
		if i > 0 {
			relax()
		}
		pass(&w.passes[i])
	}
	for rounds < w.most && !still {
		relax()
		still = !pass(&w.round)
		rounds++
	}
	return rounds, still
}

// The bounds of a schedule.
const (
	MostPasses = 60
	MostRounds = 200
)

func (md *model) prepare(s Schedule) (work, error) {
	w := work{most: s.MostRounds, still: s.Still, kept: s.Relaxation}
	if w.still == 0 {
		w.still = UsualStill
	}
	if w.kept == 0 {
		w.kept = 1
	}
	if len(s.Passes) == 0 {
		return work{}, refusal.New(refusal.Missing, "passes", "No passes are given.", "Choose a preset.")
	}
	if len(s.Passes) > MostPasses {
		return work{}, refusal.Number(refusal.TooLarge, "passes", float64(len(s.Passes)), MostPasses, "passes",
			fmt.Sprintf("%d passes; at most %d are simulated.", len(s.Passes), MostPasses), "Leave some out.")
	}
	if s.MostRounds < 0 || s.MostRounds > MostRounds {
		return work{}, refusal.Number(refusal.OutOfRange, "rounds", float64(s.MostRounds), MostRounds, "rounds",
			fmt.Sprintf("%d check rounds; 0 to %d are simulated.", s.MostRounds, MostRounds), "Usually up to 5.")
	}
	if err := refusal.First(refusal.Fraction("relaxation", w.kept), refusal.Fraction("still", w.still)); err != nil {
		return work{}, err
	}
	for i, p := range s.Passes {
		field := fmt.Sprintf("passes.%d", i)
		made, err := md.ready(field, p)
		if err != nil {
			return work{}, err
		}
		w.passes = append(w.passes, made)
	}
	order := s.CheckOrder
	if len(order) == 0 {
		for i := range md.n {
			order = append(order, i+1)
		}
	}
	var err error
	w.round, err = md.ready("checkOrder", Pass{Target: s.Passes[len(s.Passes)-1].Target, Order: order})
	return w, err
}

func (md *model) ready(field string, p Pass) (step, error) {
	if err := refusal.Positive(field+".target", p.Target, string(unit.Newton)); err != nil {
		return step{}, err
	}
	if len(p.Order) == 0 {
		return step{}, refusal.New(refusal.Missing, field+".order", "A pass names no bolts.", "Name positions 1 to n.")
	}
	if len(p.Order) > 100*md.n {
		return step{}, refusal.Number(refusal.TooLarge, field+".order", float64(len(p.Order)), float64(100*md.n), "pulls",
			"A pass of that many pulls is none.", "Name each bolt once.")
	}
	tools := max(p.Together, 1)
	if tools > md.n {
		return step{}, refusal.Number(refusal.TooLarge, field+".together", float64(tools), float64(md.n), "tools",
			fmt.Sprintf("%d tools on %d bolts.", tools, md.n), "Use fewer tools.")
	}
	if len(p.Each) > 0 && (len(p.Each) != len(p.Order) || tools > 1) {
		return step{}, refusal.Number(refusal.Contradicts, field+".each", float64(len(p.Each)), float64(len(p.Order)), "loads",
			fmt.Sprintf("%d loads for %d pulls, %d at once.", len(p.Each), len(p.Order), tools), "Give one for each pull, one at a time.")
	}
	for _, f := range p.Each {
		if err := refusal.Positive(field+".each", f, string(unit.Newton)); err != nil {
			return step{}, err
		}
	}
	out := step{target: p.Target, pulls: len(p.Order)}
	for at := 0; at < len(p.Order); at += tools {
		var turn []int
		for _, b := range p.Order[at:min(at+tools, len(p.Order))] {
			if b < 1 || b > md.n {
				return step{}, refusal.Number(refusal.OutOfRange, field+".order", float64(b), float64(md.n), "",
					fmt.Sprintf("Position %d is not on a ring of %d.", b, md.n), fmt.Sprintf("Name positions 1 to %d.", md.n))
			}
			for _, other := range turn {
				if other == b-1 {
					return step{}, refusal.Number(refusal.Contradicts, field+".order", float64(b), float64(md.n), "",
						fmt.Sprintf("Two tools are on bolt %d at once.", b), "Name different bolts.")
				}
			}
			turn = append(turn, b-1)
		}
		target := p.Target
		if len(p.Each) > 0 {
			target = p.Each[at]
		}
		out.turns, out.targets = append(out.turns, turn), append(out.targets, target)
		if tools == 1 {
			out.alone = append(out.alone, turn[0])
		}
	}
	return out, nil
}
