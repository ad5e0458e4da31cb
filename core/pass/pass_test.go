package pass_test

import (
	"fmt"
	"math"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"dynacor/core/pass"
	"dynacor/core/refusal"
	"dynacor/core/sequence"
)

func TestPassesRiseAndEndAtTheTarget(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		p := rapid.SampledFrom(pass.Presets()).Draw(t, "preset")
		graduation := rapid.SampledFrom([]float64{0.1, 0.5, 1, 2, 5}).Draw(t, "graduation")
		torque := rapid.Float64Range(100*graduation, 5000).Draw(t, "torque")
		v, err := pass.Values(torque, p.Shares, graduation)
		require.NoError(t, err)
		for i := 1; i < len(v); i++ {
			require.Greater(t, v[i].Torque, v[i-1].Torque)
		}
		require.LessOrEqual(t, math.Abs(v[len(v)-1].Torque-torque), graduation/2+1e-6)
	})
}

func TestSharesThatMakeNoSense(t *testing.T) {
	for _, s := range [][]float64{nil, {50}, {60, 20, 100}, {20, 20, 100}, {20, 60, 90}, {20, 60, 120}, {-10, 100}, {math.NaN(), 100},
		make([]float64, 20)} {
		require.Error(t, pass.CheckShares(s), "%v", s)
	}
	for _, p := range pass.Presets() {
		require.NoError(t, pass.CheckShares(p.Shares), p.Name)
	}
}

// Every school, over any number of bolts that it takes, brings every bolt to
// the whole value, its shares rising for each bolt.
func TestEverySchoolBringsEveryBoltToTheWhole(t *testing.T) {
	require.Len(t, pass.Schools(), 9)
	for _, p := range pass.Schools() {
		t.Run(p.Name, func(t *testing.T) {
			require.NotEmpty(t, p.Usual)
			require.NotEmpty(t, p.Risk)
			rapid.Check(t, func(t *rapid.T) {
				n := 4 * rapid.IntRange(1, 30).Draw(t, "quarter")
				if p.Scheme == pass.EvenTurns {
					n = 2
				}
				start := rapid.IntRange(1, n).Draw(t, "start")
				s, err := p.Schedule(n, sequence.Star, start, rapid.SampledFrom([]int{1, 4}).Draw(t, "strokes"))
				require.NoError(t, err)
				at := make([]float64, n+1)
				for _, g := range s.Passes {
					for _, b := range g.Order {
						require.True(t, (g.Share > 0) != (g.Turn > 0), "by a share or by a turn")
						if g.Share > 0 {
							require.Greater(t, g.Share, at[b])
							at[b] = g.Share
						}
					}
				}
				for b := 1; b <= n; b++ {
					require.Equal(t, 100.0, at[b], "bolt %d", b)
				}
				require.Len(t, s.CheckOrder, n)
				require.Equal(t, start, s.CheckOrder[0])
			})
		})
	}
}

func TestQuartersFirstAndEvenTurns(t *testing.T) {
	p, err := pass.SchoolNamed("quarters first")
	require.NoError(t, err)
	s, err := p.Schedule(12, sequence.Cross4, 1, 1)
	require.NoError(t, err)
	require.Equal(t, []pass.Go{{Share: 25, Order: []int{1, 7, 4, 10}}, {Share: 60, Order: []int{1, 7, 4, 10}}, {Share: 100,
		Order: []int{1, 7, 4, 10}}, {Share: 100, Order: []int{2, 8, 5, 11, 3, 9, 6, 12}}}, s.Passes)
	s, err = p.Schedule(4, sequence.Cross4, 1, 1)
	require.NoError(t, err)
	require.Len(t, s.Passes, 3, "there are no others")
	_, err = p.Schedule(10, sequence.Star, 1, 1)
	require.ErrorIs(t, err, &refusal.Error{Code: refusal.Contradicts})

	p, err = pass.SchoolNamed("even turns")
	require.NoError(t, err)
	s, err = p.Schedule(2, "", 1, 4)
	require.NoError(t, err)
	require.Equal(t, pass.Go{Turn: 360, Strokes: 4, Order: []int{1, 2}, Repeat: true}, s.Passes[0])
	for _, c := range [][2]int{{4, 1}, {2, 3}, {1, 1}} {
		_, err = p.Schedule(c[0], "", 1, c[1])
		require.Error(t, err, "%v", c)
	}
	p.Scheme = "by feel"
	_, err = p.Schedule(2, "", 1, 1)
	require.ErrorIs(t, err, &refusal.Error{Code: refusal.Unknown, Field: "scheme"})
	_, err = pass.SchoolNamed("by feel")
	require.Error(t, err)
}

func TestOnesOwnShares(t *testing.T) {
	require.NoError(t, pass.CheckShares([]float64{40, 100}))
	require.Error(t, pass.CheckShares([]float64{40, 90}))
	require.NoError(t, pass.CheckFirst(30, "spiral gasket"))
	require.ErrorIs(t, pass.CheckFirst(30.1, "spiral gasket"), &refusal.Error{Code: refusal.TooLarge, Field: "passes"})
	require.Error(t, pass.CheckFirst(math.NaN(), "spiral gasket"))
}

func FuzzValues(f *testing.F) {
	f.Add(749.0, 30.0, 60.0, 100.0, 1.0)
	f.Add(math.Inf(1), -1.0, math.NaN(), 1e300, 0.0)
	f.Fuzz(func(t *testing.T, torque, a, b, c, graduation float64) {
		v, err := pass.Values(torque, []float64{a, b, c}, graduation)
		if err == nil && (math.IsNaN(v[0].Torque) || v[2].Torque < v[1].Torque || v[1].Torque < v[0].Torque ||
			math.IsInf(v[2].ErrorPercent, 0)) {
			t.Fatalf("%v", v)
		}
	})
}

func ExamplePreset_Schedule() {
	p, _ := pass.SchoolNamed("quarters first")
	s, _ := p.Schedule(8, sequence.Cross4, 1, 1)
	for _, g := range s.Passes {
		fmt.Println(g.Share, g.Order)
	}
	// Output:
	// 25 [1 5 3 7]
	// 60 [1 5 3 7]
	// 100 [1 5 3 7]
	// 100 [2 6 4 8]
}

func ExampleValues() {
	v, _ := pass.Values(749, []float64{30, 60, 100}, 1)
	fmt.Println(v[0].Torque, v[1].Torque, v[2].Torque)
	// Output: 225 449 749
}
