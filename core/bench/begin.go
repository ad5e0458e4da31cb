package bench

import (
	"slices"

	"dynacor/core/pass"
	"dynacor/core/sequence"
)

// Orders lists the orders that go round n bolts.
func Orders(n int) []sequence.Pattern {
	return slices.DeleteFunc(sequence.Patterns(), func(p sequence.Pattern) bool { return p.Fits(n) != nil })
}

// Schools lists the schools that can be tried: those that go by torque.
func Schools() []pass.Preset {
	return slices.DeleteFunc(pass.Schools(), func(p pass.Preset) bool { return p.Scheme == pass.EvenTurns })
}

// Worth returns ways that are worth comparing with a planned one on a ring of n
// bolts: four bolts first, then all at once, and round and round in full.
func Worth(n int, planned Way) []Way {
	out := []Way{planned}
	for _, w := range []Way{{School: "quarters first", Order: planned.Order, Start: planned.Start, Tools: 1, Rounds: 1, Every: 1},
		{School: "full value, round and round", Order: sequence.Circular, Start: planned.Start, Tools: 1, Rounds: planned.Rounds, Every: 1},
		{School: "50-100", Order: planned.Order, Start: planned.Start, Tools: 1, Rounds: planned.Rounds, Every: 1}} {
		if _, err := w.On(n, leastLoad); err == nil && w.School != planned.School && len(out) < MostWays {
			out = append(out, w)
		}
	}
	return out
}

// UsualWay is how a ring of n bolts is made where nothing is planned.
func UsualWay(n int) Way {
	w := Way{School: "30-60-100", Order: sequence.Star, Start: 1, Tools: 1, Rounds: 5, Every: 1}
	if sequence.Cross4.Fits(n) == nil {
		w.Order = sequence.Cross4
	}
	return w
}
