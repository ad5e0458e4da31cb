package sequence_test

import (
	"fmt"
	"slices"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"dynacor/core/sequence"
)

// drawRing draws a pattern, a count that fits it and a start.
func drawRing(t *rapid.T) (sequence.Pattern, int, int) {
	p := rapid.SampledFrom(sequence.Patterns()).Draw(t, "pattern")
	n := rapid.IntRange(3, 200).Draw(t, "n")
	switch p {
	case sequence.Cross4, sequence.Apart4:
		n = 4 * (1 + n/4)
	case sequence.Cross8:
		n = 8 * (1 + n/8)
	}
	return p, n, rapid.IntRange(1, n).Draw(t, "start")
}

func TestEveryOrderVisitsEachBoltOnce(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		p, n, start := drawRing(t)
		order, err := sequence.Ring(p, n, start)
		require.NoError(t, err)
		require.Equal(t, start, order[0])
		seen := slices.Sorted(slices.Values(order))
		for i, b := range seen {
			require.Equal(t, i+1, b)
		}
	})
}

func TestGridVisitsEachBoltOnceFromTheMiddle(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		rows, cols := rapid.IntRange(1, 12).Draw(t, "rows"), rapid.IntRange(1, 12).Draw(t, "cols")
		order, err := sequence.Grid(rows, cols, 70, 90)
		require.NoError(t, err)
		require.Len(t, order, rows*cols)
		seen := slices.Sorted(slices.Values(order))
		require.Equal(t, rows*cols, len(slices.Compact(seen)))
	})
}

func TestOppositeBoltsFollowOneAnother(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		p, n, start := drawRing(t)
		if p == sequence.Circular || p == sequence.Backward || n%2 == 1 {
			t.Skip("no opposite bolts in this order")
		}
		order, err := sequence.Ring(p, n, start)
		require.NoError(t, err)
		for i := 0; i < n; i += 2 {
			require.Equal(t, n/2, (order[i+1]-order[i]+n)%n, "%v", order)
		}
	})
}

// A cross looks alike from each of its quarters (eighths): turned by one, the
// same steps follow one another in the same rounds.
func TestCrossesAreSymmetric(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		p, parts := sequence.Cross4, 4
		switch rapid.IntRange(0, 2).Draw(t, "pattern") {
		case 1:
			p, parts = sequence.Cross8, 8
		case 2:
			p = sequence.Apart4
		}
		n := parts * rapid.IntRange(1, 20).Draw(t, "part")
		order, err := sequence.Ring(p, n, 1)
		require.NoError(t, err)
		for k := 0; k < n; k += parts {
			step := slices.Sorted(slices.Values(order[k : k+parts]))
			for i, b := range step {
				require.Equal(t, step[0]+i*n/parts, b, "each round of %d takes one of each part", parts)
			}
		}
		place := make([]int, n+1)
		for i, b := range order {
			place[b] = i
		}
		for b := 1; b <= n; b++ { // in a part, the order numbers of neighbours differ by the parts
			if p != sequence.Apart4 && b%(n/parts) != 0 {
				require.Equal(t, parts, place[b+1]-place[b])
			}
		}
	})
}

func TestCounterClockwisePairAndQuarters(t *testing.T) {
	back, err := sequence.Ring(sequence.Backward, 5, 2)
	require.NoError(t, err)
	require.Equal(t, []int{2, 1, 5, 4, 3}, back)
	pair, err := sequence.Pair(3)
	require.NoError(t, err)
	require.Equal(t, []int{1, 2, 1, 2, 1, 2}, pair)
	_, err = sequence.Pair(0)
	require.Error(t, err)
	rapid.Check(t, func(t *rapid.T) {
		n := 4 * rapid.IntRange(1, 50).Draw(t, "quarter")
		four, others, err := sequence.Quarters(n, rapid.IntRange(1, n).Draw(t, "start"))
		require.NoError(t, err)
		all := slices.Concat(four, others)
		slices.Sort(all)
		require.Len(t, slices.Compact(all), n)
		corners := slices.Sorted(slices.Values(four))
		for i := 1; i < 4; i++ {
			require.Equal(t, n/4, corners[i]-corners[i-1], "at 90°")
		}
		if len(others) > 0 {
			others[0] = -1
			require.NotContains(t, four, -1)
		}
	})
	_, _, err = sequence.Quarters(6, 1)
	require.Error(t, err)
	_, err = sequence.Ring(sequence.CentreOut, 6, 1)
	require.Error(t, err, "no order of a ring")
}

func TestStartTurnsTheOrder(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		p, n, start := drawRing(t)
		a, err := sequence.Ring(p, n, 1)
		require.NoError(t, err)
		b, err := sequence.Ring(p, n, start)
		require.NoError(t, err)
		for i := range a {
			require.Equal(t, (a[i]-1+start-1)%n+1, b[i])
		}
	})
}

// In each quadrant the order numbers of neighbours differ by 4.
func TestNeighboursInAQuadrantDifferByFour(t *testing.T) {
	order, err := sequence.Ring(sequence.Cross4, 20, 1)
	require.NoError(t, err)
	at := map[int]int{}
	for i, b := range order {
		at[b] = i + 1
	}
	for b := 1; b <= 20; b++ {
		if b%5 != 0 {
			require.Equal(t, 4, at[b+1]-at[b])
		}
	}
}

// Each foursome lies a quarter of a quarter or more from the last, while the cross
// goes on beside it.
func TestFoursomesLieApart(t *testing.T) {
	for n := 16; n <= 200; n += 4 {
		order, err := sequence.Ring(sequence.Apart4, n, 1)
		require.NoError(t, err)
		stride, near := n/8, 0
		for k := 4; k < n; k += 4 {
			step := (order[k] - order[k-4] + n) % n
			if step != stride {
				near++ // the list begins one further on
			}
		}
		require.Equal(t, stride-1, near, "%d bolts: %v", n, order)
	}
}

func TestRefusals(t *testing.T) {
	for _, c := range []struct {
		p        sequence.Pattern
		n, start int
	}{{"zigzag", 8, 1}, {sequence.Cross4, 10, 1}, {sequence.Apart4, 14, 1}, {sequence.Cross8, 12, 1}, {sequence.Star, 2, 1},
		{sequence.Circular, 0, 1}, {sequence.Circular, 8, 0}, {sequence.Circular, 1 << 30, 1}} {
		_, err := sequence.Ring(c.p, c.n, c.start)
		require.Error(t, err, "%v", c)
	}
	_, err := sequence.Together(9, 2)
	require.Error(t, err)
	_, err = sequence.Grid(0, 4, 1, 1)
	require.Error(t, err)
}

func BenchmarkRing200(b *testing.B) {
	b.ReportAllocs()
	for b.Loop() {
		if _, err := sequence.Ring(sequence.Cross8, 200, 1); err != nil {
			b.Fatal(err)
		}
	}
}

func ExampleRing() {
	order, _ := sequence.Ring(sequence.Cross4, 8, 1)
	fmt.Println(order)
	// Output: [1 5 3 7 2 6 4 8]
}

func FuzzOrders(f *testing.F) {
	f.Add("cross4", 16, 3, 2, 70.0, 90.0)
	f.Add("circular, counter-clockwise", -1, 0, 1_000_000_000, 0.0, 1e300)
	f.Fuzz(func(t *testing.T, pattern string, n, start, cols int, px, py float64) {
		if order, err := sequence.Ring(sequence.Pattern(pattern), n, start); err == nil && (len(order) != n || order[0] != start) {
			t.Fatalf("%s over %d from %d: %v", pattern, n, start, order)
		}
		if n <= 100 && cols <= 100 { // more is only slower
			if order, err := sequence.Grid(n, cols, px, py); err == nil && len(order) != n*cols {
				t.Fatalf("grid of %d by %d: %v", n, cols, order)
			}
		}
		if steps, err := sequence.Together(n, start); err == nil && len(steps)*start < n {
			t.Fatalf("%d tools over %d: %v", start, n, steps)
		}
		if order, err := sequence.Pair(n); err == nil && len(order) != 2*n {
			t.Fatalf("%d turns: %v", n, order)
		}
		if four, others, err := sequence.Quarters(n, start); err == nil && len(four)+len(others) != n {
			t.Fatalf("quarters of %d", n)
		}
	})
}
