package drill

import (
	"fmt"
	"math/rand/v2"
	"slices"

	"dynacor/core/bench"
	"dynacor/core/sequence"
	"dynacor/core/unit"
)

// pulled is one pull of a pass, as it was written down.
type pulled struct {
	bolt   int
	torque float64 // N·m
}

// passMade is a pass over a ring, as it was written down.
type passMade struct {
	order     []int
	low, high float64 // that a pull is to reach, N·m
	pulls     []pulled
}

// faults are the rows that are wrong, and why the first is.
func (p passMade) faults() (rows []int, why string) {
	done := map[int]bool{}
	for i, x := range p.pulls {
		is := ""
		switch {
		case x.torque < p.low || x.torque > p.high:
			is = fmt.Sprintf("Bolt %d got %.4g N·m; %.4g to %.4g N·m were to be reached.", x.bolt, x.torque, p.low, p.high)
		case done[x.bolt]:
			is = fmt.Sprintf("Bolt %d was pulled twice; bolt %d was left out.", x.bolt, p.order[i])
		case x.bolt != p.order[i]:
			is = fmt.Sprintf("Bolt %d was pulled where bolt %d was next.", x.bolt, p.order[i])
		}
		if done[x.bolt] = true; is == "" {
			continue
		}
		if rows = append(rows, i); why == "" {
			why = is
		}
	}
	return rows, why
}

func newRecord(r *rand.Rand) (Flawed, error) {
	n := 4 + r.IntN(5)
	orders := slices.DeleteFunc(bench.Orders(n), func(p sequence.Pattern) bool { return p == sequence.Backward })
	pattern, start := orders[r.IntN(len(orders))], 1+r.IntN(n)
	order, err := sequence.Ring(pattern, n, start)
	if err != nil {
		return Flawed{}, err
	}
	target := unit.Round(60+400*r.Float64(), 10)
	p := passMade{order: order, low: unit.Round(0.95*target, 1), high: unit.Round(1.05*target, 1)}
	for _, b := range order {
		p.pulls = append(p.pulls, pulled{b, unit.Round(target*(0.97+0.06*r.Float64()), 1)})
	}
	at := 1 + r.IntN(n-2)
	switch r.IntN(4) {
	case 0:
		p.pulls[at].torque = unit.Round(target*(0.75+0.12*r.Float64()), 1)
	case 1:
		p.pulls[at].bolt, p.pulls[at+1].bolt = p.pulls[at+1].bolt, p.pulls[at].bolt
	case 2:
		p.pulls[at+1].bolt = p.pulls[at-1].bolt
	}
	out := Flawed{About: APass, Bolts: n}
	out.Says = fmt.Sprintf("The last pass over a ring of %d: %s, from bolt %d. A pull is to reach %.4g to %.4g N·m.", n,
		pattern.Words(), start, p.low, p.high)
	for _, x := range p.pulls {
		out.Options = append(out.Options, fmt.Sprintf("Bolt %d, %.4g N·m", x.bolt, x.torque))
	}
	out.Options = append(out.Options, nothingWrong)
	if out.Right, out.Why = p.faults(); len(out.Right) == 0 {
		out.Right, out.Why = []int{n}, "Every bolt was pulled once, in its turn, and reached its value."
	}
	return out, nil
}
