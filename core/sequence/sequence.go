// Package sequence gives the orders in which bolts are turned.
//
// Positions are 1…n, clockwise from the first bolt to the right of top centre,
// seen from the nut side.
//
//	cross4      n = 4q: for k = 0…q−1 take 1+k, 1+k+2q, 1+k+q, 1+k+3q
//	apart4      n = 4q, s = max(1, ⌊q/2⌋): as cross4, k from b in steps of s, b = 0…s−1
//	cross8      n = 8e: for k = 0…e−1 take 1+k+o·e, o in 0 4 2 6 1 5 3 7
//	star        odd n: steps of (n−1)/2; even n = 2h: opposite pairs (b, b+h), b in steps
//	            nearest h/2 that are coprime with h
//	circular    1, 2 … n, or 1, n … 2
//	alternating 1, 2, 1, 2 …
//	grid        nearest the centre first; among equals the farthest from the last
//
// A start turns any ring order. Apart4 is the list of the legacy cross pattern in
// ASME PCC-1; cross4 and cross8 go on to the neighbour in each quarter or eighth,
// as quadrant patterns do; star is its general form for other counts, ours. In all
// of them opposite bolts follow one another, so that the joint closes evenly.
// Plates are drawn together from the stiff middle outward (EN 1090-2). Valid for bolts evenly spaced on one circle, and for
// full rectangular grids; which order suits which joint the package kind says.
package sequence

import (
	"cmp"
	"fmt"
	"math"
	"slices"

	"dynacor/core/refusal"
)

// MostBolts is the largest ring or grid the core takes.
const MostBolts = 1000

// Pattern is a way of going round a joint.
type Pattern string

// The ring patterns.
const (
	Cross4   Pattern = "cross4"
	Apart4   Pattern = "apart4"
	Cross8   Pattern = "cross8"
	Star     Pattern = "star"
	Circular Pattern = "circular"
	Backward Pattern = "circular, counter-clockwise"
)

// The patterns of other joints: Pair and Grid give their orders.
const (
	Alternating Pattern = "alternating pair"
	CentreOut   Pattern = "grid"
)

// Words says an order as people do.
func (p Pattern) Words() string { return cmp.Or(wordsOfOrders[p], string(p)) }

var wordsOfOrders = map[Pattern]string{
	Cross4: "cross, four quarters", Apart4: "cross, foursomes apart",
	Cross8: "cross, eight eighths", Circular: "circular",
	Backward: "counter-clockwise", Alternating: "turn about", CentreOut: "from the middle outward",
}

// Patterns lists the ring patterns.
func Patterns() []Pattern { return []Pattern{Cross4, Apart4, Cross8, Star, Circular, Backward} }

// Ring returns the order of pattern p over n bolts, starting at position
// start (1 when there is no reason for another). Cross4 and apart4 need a
// multiple of 4, cross8 of 8, star at least 3.
func Ring(p Pattern, n, start int) ([]int, error) {
	if err := p.Fits(n); err != nil {
		return nil, err
	}
	if start < 1 || start > n {
		return nil, refusal.Number(refusal.OutOfRange, "start", float64(start), float64(n), "",
			fmt.Sprintf("Start position %d is not on a ring of %d.", start, n), fmt.Sprintf("Choose 1 to %d.", n))
	}
	var order []int
	switch p {
	case Cross4:
		order = quarters(n, fourths[:], 1)
	case Apart4:
		order = quarters(n, fourths[:], max(1, n/8)) // each foursome lies far from the last
	case Cross8:
		order = quarters(n, eighths[:], 1)
	case Star:
		order = star(n)
	case Circular:
		order = circular(n)
	case Backward:
		order = backward(n)
	}
	for i, b := range order {
		if b += start - 1; b > n {
			b -= n
		}
		order[i] = b
	}
	return order, nil
}

// The parts of a ring, in the order they are taken in.
var (
	fourths = [...]int{0, 2, 1, 3}
	eighths = [...]int{0, 4, 2, 6, 1, 5, 3, 7}
)

// Fits refuses a ring of n bolts that p does not go round.
func (p Pattern) Fits(n int) error {
	parts := 1
	switch p {
	case Cross4, Apart4:
		parts = len(fourths)
	case Cross8:
		parts = len(eighths)
	case Star, Circular, Backward:
	default:
		return refusal.New(refusal.Unknown, "order", fmt.Sprintf("Unknown order %q.", string(p)), "Choose one from the list.")
	}
	if n < 1 || n > MostBolts {
		return refusal.Number(refusal.OutOfRange, "bolts", float64(n), MostBolts, "bolts",
			fmt.Sprintf("%d bolts; a ring has 1 to %d.", n, MostBolts), "Count the bolts.")
	}
	if n%parts != 0 {
		return refusal.Number(refusal.Contradicts, "order", float64(n), float64(parts), "bolts",
			fmt.Sprintf("A %s order needs a multiple of %d bolts; this ring has %d.", p, parts, n), "Choose the star order.")
	}
	if p == Star && n < 3 {
		return refusal.Number(refusal.TooSmall, "order", float64(n), 3, "bolts",
			fmt.Sprintf("A star order needs at least 3 bolts; this joint has %d.", n), "Choose the circular order.")
	}
	return nil
}

// quarters takes, for each k, the bolts 1+k+o·n/len(parts) for o in parts; k goes on
// by stride, and then begins one further.
func quarters(n int, parts []int, stride int) []int {
	q := n / len(parts)
	order := make([]int, 0, n)
	for first := range stride {
		for k := first; k < q; k += stride {
			for _, o := range parts {
				order = append(order, 1+k+o*q)
			}
		}
	}
	return order
}

// star steps (n−1)/2 round an odd ring; on an even one it takes opposite
// pairs, their bases in steps nearest a quarter turn.
func star(n int) []int {
	order := make([]int, 0, n)
	if n%2 == 1 {
		s := (n - 1) / 2
		for i := range n {
			order = append(order, i*s%n+1)
		}
		return order
	}
	h := n / 2
	s := coprimeNear(h)
	for i := range h {
		b := i*s%h + 1
		order = append(order, b, b+h)
	}
	return order
}

// coprimeNear returns the whole number nearest h/2 that is coprime with h,
// the lower at a tie.
func coprimeNear(h int) int {
	best, dist := 1, math.Inf(1)
	for s := 1; s <= h; s++ {
		if d := math.Abs(float64(s) - float64(h)/2); gcd(s, h) == 1 && d < dist {
			best, dist = s, d
		}
	}
	return best
}

func gcd(a, b int) int {
	for b != 0 {
		a, b = b, a%b
	}
	return a
}

func circular(n int) []int {
	order := make([]int, n)
	for i := range order {
		order[i] = i + 1
	}
	return order
}

// backward begins at 1 and goes counter-clockwise: 1, n, n−1 … 2.
func backward(n int) []int {
	order := make([]int, n)
	for i := range order {
		order[i] = (n-i)%n + 1
	}
	return order
}

// Pair returns the order of two bolts turned about, each one turns times: 1,
// 2, 1, 2 …
func Pair(turns int) ([]int, error) {
	if turns < 1 || turns > MostBolts {
		return nil, refusal.Number(refusal.OutOfRange, "turns", float64(turns), MostBolts, "",
			fmt.Sprintf("Each of the two bolts %d times; 1 to %d.", turns, MostBolts), "")
	}
	order := make([]int, 0, 2*turns)
	for range turns {
		order = append(order, 1, 2)
	}
	return order, nil
}

// Quarters splits the cross over n bolts, a multiple of 4, into the four at
// 90° and all the others.
func Quarters(n, start int) (four, others []int, err error) {
	order, err := Ring(Cross4, n, start)
	if err != nil {
		return nil, nil, err
	}
	return order[:4:4], order[4:], nil
}

// Together returns the order for 2 or 4 tools at once, a list of steps: two
// tools take opposite bolts, four take a whole cross.
func Together(n, tools int) ([][]int, error) {
	if n < 2 {
		return nil, refusal.Number(refusal.TooSmall, "bolts", float64(n), 2, "bolts",
			fmt.Sprintf("%d bolts; tools working together need at least 2.", n), "")
	}
	if tools != 2 && tools != 4 {
		return nil, refusal.Number(refusal.OutOfRange, "tools", float64(tools), 4, "tools",
			fmt.Sprintf("%d tools at once; 2 or 4 can work together.", tools), "")
	}
	if n%2 == 1 {
		return nil, refusal.Number(refusal.Contradicts, "bolts", float64(n), 2, "bolts",
			fmt.Sprintf("An odd ring of %d has no opposite bolts.", n), "Use one tool.")
	}
	p := Cross4
	if tools == 2 && n%4 != 0 {
		p = Star
	}
	if n == 2 {
		return [][]int{{1, 2}}, nil
	}
	order, err := Ring(p, n, 1)
	if err != nil {
		return nil, err
	}
	var steps [][]int
	for i := 0; i < n; i += tools {
		steps = append(steps, order[i:i+tools])
	}
	return steps, nil
}

// AtOnce reports whether so many tools can take an order on a ring of n bolts at once, as it
// is: each time as many bolts, evenly spaced over the ring.
func AtOnce(order []int, n, tools int) bool {
	if tools < 2 || n%tools != 0 || len(order) == 0 || len(order)%tools != 0 {
		return false
	}
	for i := 0; i < len(order); i += tools {
		turn := slices.Sorted(slices.Values(order[i : i+tools]))
		for k := 1; k < tools; k++ {
			if turn[k]-turn[k-1] != n/tools {
				return false
			}
		}
	}
	return true
}

// Grid returns the order over rows × cols bolts, numbered row by row, with
// pitches px along a row and py between rows (1 when none are known): nearest
// the centre first, among equals the one farthest from the bolt last turned,
// at a tie the lowest number.
func Grid(rows, cols int, px, py float64) ([]int, error) {
	if rows < 1 || cols < 1 || rows > MostBolts || cols > MostBolts || rows*cols > MostBolts {
		return nil, refusal.Number(refusal.OutOfRange, "rows", float64(rows*cols), MostBolts, "bolts",
			fmt.Sprintf("A grid of %d by %d; it has 1 to %d bolts.", rows, cols, MostBolts), "")
	}
	if err := refusal.First(refusal.Positive("px", px, "mm"), refusal.Positive("py", py, "mm")); err != nil {
		return nil, err
	}
	n := rows * cols
	x := func(b int) float64 { return px * (float64((b-1)%cols) - float64(cols-1)/2) }
	y := func(b int) float64 { return py * (float64((b-1)/cols) - float64(rows-1)/2) }
	same := func(a, b float64) bool { return math.Abs(a-b) <= 1e-9*(1+math.Abs(a)) }
	done := make([]bool, n+1)
	order := make([]int, 0, n)
	for len(order) < n {
		best := 0
		var bestR, bestFar float64
		for b := 1; b <= n; b++ {
			if done[b] {
				continue
			}
			r, far := math.Hypot(x(b), y(b)), 0.0
			if len(order) > 0 {
				last := order[len(order)-1]
				far = math.Hypot(x(b)-x(last), y(b)-y(last))
			}
			if best == 0 || (r < bestR && !same(r, bestR)) || (same(r, bestR) && far > bestFar && !same(far, bestFar)) {
				best, bestR, bestFar = b, r, far
			}
		}
		done[best] = true
		order = append(order, best)
	}
	return order, nil
}

// Square returns the rows and columns of a grid of n that is as square as n
// allows, no more rows than columns.
func Square(n int) (rows, cols int) {
	rows = 1
	for r := 1; r*r <= n; r++ {
		if n%r == 0 {
			rows = r
		}
	}
	return rows, n / rows
}
