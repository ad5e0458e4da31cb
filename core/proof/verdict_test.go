package proof_test

import (
	"errors"
	"fmt"
	"math"
	"slices"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"dynacor/core/proof"
	"dynacor/core/refusal"
)

// Each verdict at its limit, a hair within and clearly past it.
func TestVerdictsTurnAtTheirLimits(t *testing.T) {
	type judged struct {
		name   string
		judge  func() (proof.Verdict, error)
		holds  bool
		reason string
	}
	for _, c := range []judged{
		{"opposite", func() (proof.Verdict, error) { return proof.JudgePhase(10, 190.5) }, true, ""},
		{"off by a degree and more", func() (proof.Verdict, error) { return proof.JudgePhase(10, 191.1) }, false, "1.1 °"},
		{"in phase", func() (proof.Verdict, error) { return proof.JudgePhase(10, 370) }, false, "180 °"},
		{"parts match", func() (proof.Verdict, error) { return proof.JudgeParts([]string{"A", "B"}, []string{"A", "B"}) }, true, "All 2"},
		{"wrong part", func() (proof.Verdict, error) { return proof.JudgeParts([]string{"A", "C"}, []string{"A", "B"}) }, false, `"B"`},
		{"part missing", func() (proof.Verdict, error) { return proof.JudgeParts([]string{"A"}, []string{"A", "B"}) }, false, ""},
		{"part too many", func() (proof.Verdict, error) { return proof.JudgeParts([]string{"A", "B"}, []string{"A"}) }, false,
			"1 parts more"},
	} {
		v, err := c.judge()
		require.NoError(t, err, c.name)
		require.Equal(t, c.holds, v.Holds, "%s: %s", c.name, v.Reason)
		require.Contains(t, v.Reason, c.reason, c.name)
		require.Contains(t, proof.Requirements(), v.What, c.name)
	}
}

// What is usual where the maker gives nothing: domain section 9.
func TestUsualLimits(t *testing.T) {
	require.Equal(t, 0.8, proof.UsualGapLimit)
	require.Equal(t, [2]float64{0.85, 1.15}, [2]float64{proof.ResidualLow, proof.ResidualHigh})
	count, err := proof.SampleCount(24, proof.SampleShare, proof.SampleAtLeast)
	require.NoError(t, err)
	require.Equal(t, 3, count, "a tenth, rounded up")
	count, err = proof.SampleCount(8, proof.SampleShare, proof.SampleAtLeast)
	require.NoError(t, err)
	require.Equal(t, 2, count, "at least two")
}

func TestMeasurementsThatMakeNoSense(t *testing.T) {
	bad := math.NaN()
	for name, judge := range map[string]func() error{
		"phase":             func() error { _, err := proof.JudgePhase(bad, 1); return err },
		"no list":           func() error { _, err := proof.JudgeParts([]string{"A"}, nil); return err },
		"window":            func() error { _, err := proof.JudgeFunctional([]float64{1}, 1, 1.2, 0.8); return err },
		"window zero":       func() error { _, err := proof.JudgeResidual([]float64{1}, 1, 0, 1.2); return err },
		"reading":           func() error { _, err := proof.JudgeResidual([]float64{bad}, 1, 0.8, 1.2); return err },
		"sample of nothing": func() error { _, err := proof.SampleCount(0, 0.1, 2); return err },
		"sample negative":   func() error { _, err := proof.SampleCount(5, 0.1, -2); return err },
		"sample beyond":     func() error { _, err := proof.SampleOf(5, 6, nil); return err },
		"worst off":         func() error { _, err := proof.SampleOf(5, 2, []int{6}); return err },
	} {
		var r *refusal.Error
		require.True(t, errors.As(judge(), &r), name)
		require.NotEmpty(t, r.Text, name)
	}
}

// Adjust and measure: every try outside counts, and the last decides.
func TestAdjustAndMeasure(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		tries := rapid.SliceOfN(rapid.Float64Range(1, 40), 1, 12).Draw(t, "tries")
		f, err := proof.JudgeFunctional(tries, 20, 0.8, 1.2)
		require.NoError(t, err)
		outside := 0
		for _, r := range tries {
			if r < 16 || r > 24 {
				outside++
			}
		}
		last := tries[len(tries)-1]
		require.Equal(t, outside, f.FailedTries)
		require.Equal(t, last >= 16 && last <= 24, f.Holds)
		require.Equal(t, f.Holds, f.Next == "")
		if last < 16 {
			require.Contains(t, f.Next, "Tighten")
		}
	})
}

// A sample has as many as asked for, no bolt twice, the worst first.
func TestSamplesTakeTheWorstFirst(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		n := rapid.IntRange(1, 200).Draw(t, "n")
		count, err := proof.SampleCount(n, rapid.Float64Range(0.01, 1).Draw(t, "share"), rapid.IntRange(0, 5).Draw(t, "least"))
		require.NoError(t, err)
		worst := rapid.SliceOfNDistinct(rapid.IntRange(1, n), 0, min(n, 6), rapid.ID[int]).Draw(t, "worst")
		s, err := proof.SampleOf(n, count, worst)
		require.NoError(t, err)
		require.Len(t, s, count)
		require.Equal(t, worst[:min(len(worst), count)], s[:min(len(worst), count)])
		slices.Sort(s)
		require.Len(t, slices.Compact(s), count)
	})
	s, err := proof.SampleOf(24, 4, []int{7})
	require.NoError(t, err)
	require.Equal(t, []int{7, 1, 9, 17}, s, "the rest evenly round the ring")
}

func FuzzVerdicts(f *testing.F) {
	f.Add(2.1, 2.3, 285.0, 0.8, 0.1, 24)
	f.Add(math.NaN(), math.Inf(1), -1.0, 0.0, 1e300, -5)
	f.Fuzz(func(t *testing.T, a, b, c, d, e float64, n int) {
		finite := func(v proof.Verdict, err error) {
			if err == nil && (math.IsNaN(v.Value) || math.IsInf(v.Value, 0) || math.IsNaN(v.Limit)) {
				t.Fatalf("%+v", v)
			}
		}
		g, err := proof.JudgeGap([]float64{a, b, c}, d, e)
		if err == nil && !(g.Spread >= 0 && g.Tilt >= 0 && g.Tilt <= 90) {
			t.Fatalf("%+v", g)
		}
		finite(proof.JudgePhase(a, b))
		fn, err := proof.JudgeFunctional([]float64{a, b}, c, d, e)
		finite(fn.Verdict, err)
		rs, err := proof.JudgeResidual([]float64{a, b}, c, d, e)
		finite(rs.Verdict, err)
		if count, err := proof.SampleCount(n, a, 2); err == nil && (count < 1 || count > n) {
			t.Fatalf("%d of %d", count, n)
		}
	})
}

func ExampleJudgeFunctional() {
	f, _ := proof.JudgeFunctional([]float64{27.5, 22}, 20, 0.8, 1.2)
	fmt.Println(f.Holds, f.FailedTries, f.Reason)
	// Output: true 1 22 N·m; the window is 16 to 24 N·m.
}
