package recipe

import (
	"fmt"

	"dynacor/core/kind"
	"dynacor/core/refusal"
	"dynacor/core/sequence"
)

// Lie is how the bolts of a group lie and where its order begins. Zero: as
// square as they can, from bolt 1.
type Lie struct {
	Grid  Grid // of a plate
	Start int  // of a ring: the bolt that is tightened first
}

// Order returns the bolts of a group of n in the order they are tightened in.
// chosen is the order where it is not the group's own; against its kind it
// needs a reason.
func (r Recipe) Order(g Group, n int, lie Lie, chosen sequence.Pattern, reason string) ([]int, error) {
	if g.Bolts == 0 && (n < g.Least || n > g.Most) {
		return nil, refusal.Number(refusal.OutOfRange, g.Name, float64(n), float64(g.Most), "bolts",
			fmt.Sprintf("%d bolts in %s; it has %d to %d.", n, g.Name, g.Least, g.Most), "Count them.")
	}
	k, err := kind.Named(r.Kind)
	if err != nil {
		return nil, err
	}
	p := r.Usual(g, n)
	if chosen != "" {
		if err := k.CheckReason(chosen, reason); err != nil {
			return nil, refusal.At(g.Name, err)
		}
		p = chosen
	}
	start := max(lie.Start, 1)
	switch {
	case n == 2 || g.Layout == Pair:
		return sequence.Pair(1)
	case g.Layout == Plate && (p == sequence.CentreOut || p == ""):
		at := lie.Grid
		if at == (Grid{}) {
			if at, err = GridOf(n, 0, 0, 0); err != nil {
				return nil, err
			}
		}
		return sequence.Grid(at.Rows, at.Cols, at.Across, at.Down)
	case n < 3 || p == "" || p == sequence.CentreOut || p == sequence.Alternating:
		return OneByOne(n, 1), nil
	}
	return sequence.Ring(p, n, start)
}

// OneByOne is 1 to n, from start on and round to the one before it: for a line,
// for what has no order of its own, and for a round.
func OneByOne(n, start int) []int {
	out := make([]int, n)
	for i := range out {
		out[i] = (start-1+i)%n + 1
	}
	return out
}

// Usual returns the order that a group of n is tightened in unless another is
// chosen; empty where it has none.
func (r Recipe) Usual(g Group, n int) sequence.Pattern {
	if g.Order != "" {
		return g.Order
	}
	if g.Layout == Line || g.Layout == Single {
		return ""
	}
	k, err := kind.Named(r.Kind)
	if err != nil {
		return ""
	}
	p, _ := k.Order(n)
	return p
}
