// Package uncertainty combines what is not known exactly into one figure.
//
// Each part gives a standard uncertainty: its own, an expanded one over 2, the
// half-width of a rectangle over √3, of a triangle over √6. They add as the root
// of the sum of their squares, each times its sensitivity c: u = √Σ(c·u_i)², and
// the expanded uncertainty is U = 2·u, about 95 % (GUM, JCGM 100). Valid for
// parts that do not depend on one another. All parts are in one unit, relative
// ones most often.
package uncertainty

import (
	"cmp"
	"fmt"
	"math"
	"slices"

	"dynacor/core/refusal"
)

// Kind is how a part is stated.
type Kind string

// The kinds.
const (
	Standard    Kind = "standard"
	Expanded    Kind = "expanded"    // k = 2: certificates, 2 sigma
	Rectangular Kind = "rectangular" // half-width: a limit, a resolution
	Triangular  Kind = "triangular"  // half-width, the middle likelier
)

// coverage is the factor of an expanded uncertainty.
const coverage = 2

// Part is one thing that is not known exactly.
type Part struct {
	Name  string
	Kind  Kind
	Value float64 // as it is stated
	C     float64 // how the result follows it; 1 where both are relative
}

// Standard returns what p adds to the standard uncertainty of the result.
func (p Part) Standard() float64 {
	by := 1.0
	switch p.Kind {
	case Expanded:
		by = coverage
	case Rectangular:
		by = math.Sqrt(3)
	case Triangular:
		by = math.Sqrt(6)
	}
	return math.Abs(p.C) * p.Value / by
}

// Budget is what parts come to.
type Budget struct {
	Parts    []Part
	Standard float64 // u
	Expanded float64 // U = 2·u
	Largest  int     // the part that adds most; the first at a tie
}

// Share returns how much of u² a part makes, a fraction; zero where all are zero.
func (b Budget) Share(i int) float64 {
	if b.Standard == 0 {
		return 0
	}
	x := b.Parts[i].Standard() / b.Standard
	return x * x
}

// Order returns the parts' places, the largest first.
func (b Budget) Order() []int {
	out := make([]int, len(b.Parts))
	for i := range out {
		out[i] = i
	}
	slices.SortStableFunc(out, func(i, j int) int { return cmp.Compare(b.Share(j), b.Share(i)) })
	return out
}

// Of combines parts.
func Of(parts []Part) (Budget, error) {
	if len(parts) == 0 {
		return Budget{}, refusal.New(refusal.Missing, "parts", "No parts are given.", "Name what is not known exactly.")
	}
	b := Budget{Parts: parts}
	sum, most := 0.0, 0.0
	for i, p := range parts {
		switch p.Kind {
		case Standard, Expanded, Rectangular, Triangular:
		default:
			return Budget{}, refusal.New(refusal.Unknown, part(i), fmt.Sprintf("Unknown kind %q.", string(p.Kind)),
				"Choose standard, expanded, rectangular or triangular.")
		}
		if err := refusal.First(refusal.NotNegative("part", p.Value, ""), refusal.Finite("part", p.C)); err != nil {
			return Budget{}, refusal.At(part(i), err)
		}
		u := p.Standard()
		sum += u * u
		if u > most {
			most, b.Largest = u, i
		}
	}
	b.Standard = math.Sqrt(sum)
	b.Expanded = coverage * b.Standard
	return b, nil
}

// part is the field of part i.
func part(i int) string { return fmt.Sprintf("parts.%d", i) }
