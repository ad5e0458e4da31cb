package proof_test

import (
	"errors"
	"fmt"
	"math"
	"slices"
	"testing"
	"time"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"dynacor/core/proof"
	"dynacor/core/refusal"
	"dynacor/core/unit"
)

// one takes the verdict of a judge that gives a list.
func one(v []proof.Verdict, err error, i int) (proof.Verdict, error) {
	if err != nil {
		return proof.Verdict{}, err
	}
	return v[i], nil
}

// Each verdict at its limit, a hair within and clearly past it.
func TestVerdictsTurnAtTheirLimits(t *testing.T) {
	type judged struct {
		name   string
		judge  func() (proof.Verdict, error)
		holds  bool
		reason string
	}
	fit := func(a, b, c float64, i int) func() (proof.Verdict, error) {
		return func() (proof.Verdict, error) { v, err := proof.JudgeFitUp(a, b, c, 2); return one(v, err, i) }
	}
	clear := func(limit float64, gaps ...float64) func() (proof.Verdict, error) {
		return func() (proof.Verdict, error) { return proof.JudgeClearance(gaps, limit) }
	}
	run := func(i int) func() (proof.Verdict, error) {
		return func() (proof.Verdict, error) {
			v, err := proof.JudgeStraightRun(999, 500, 100, 10, 5)
			return one(v, err, i)
		}
	}
	for _, c := range []judged{
		{"no nut moved", func() (proof.Verdict, error) { return proof.JudgeRound(8, nil) }, true, "No nut moved"},
		{"two nuts moved", func() (proof.Verdict, error) { return proof.JudgeRound(8, []int{3, 8}) }, false, "2 of 8"},
		{"high-low at 1.5", fit(1.5, 0, 0, 0), true, "1.5 mm"}, {"high-low past", fit(1.6, 0, 0, 0), false, "1.6 mm"},
		{"holes at 3", fit(0, 3, 0, 1), true, ""}, {"holes past", fit(0, 3.1, 0, 1), false, ""},
		{"gap of two gaskets", fit(0, 0, 4, 2), true, ""}, {"gap past", fit(0, 0, 4.1, 2), false, "at most 4 mm"},
		{"open and even", clear(0.3, 1, 1.2, 1.3), true, "differ by 0.3"}, {"open, not even", clear(0.2, 1, 1.2, 1.3), false, ""},
		{"closed up", clear(2, 1, 0, 1), false, "Closed at place 2"},
		{"one thread past", func() (proof.Verdict, error) { return proof.JudgeProtrusion([]float64{2, 1}, false) }, true, ""},
		{"short", func() (proof.Verdict, error) { return proof.JudgeProtrusion([]float64{2, 0.5}, false) }, false, "0.5 threads"},
		{"flush", func() (proof.Verdict, error) { return proof.JudgeProtrusion([]float64{0, 0}, true) }, true, ""},
		{"sunk", func() (proof.Verdict, error) { return proof.JudgeProtrusion([]float64{-1}, true) }, false, ""},
		{"equal thread", func() (proof.Verdict, error) { return proof.JudgeEqualThread(4, 5) }, true, ""},
		{"unequal thread", func() (proof.Verdict, error) { return proof.JudgeEqualThread(6, 4.5) }, false, "1.5 threads"},
		{"run-out at its limit", func() (proof.Verdict, error) { return proof.JudgeRunOut([]float64{-0.05, 0.1, 0}, 0.15) }, true,
			"0.15 mm"},
		{"run-out past", func() (proof.Verdict, error) { return proof.JudgeRunOut([]float64{-0.06, 0.1, 0}, 0.15) }, false, ""},
		{"level", func() (proof.Verdict, error) { return proof.JudgeLevel(-2, 1000, 2) }, true, ""},
		{"not level", func() (proof.Verdict, error) { return proof.JudgeLevel(1.1, 500, 2) }, false, "2.2 mm/m"},
		{"upstream short", run(0), false, "9.99 pipe diameters"}, {"downstream enough", run(1), true, ""},
		{"at ten o'clock", func() (proof.Verdict, error) { return proof.JudgeClock(10.4, []float64{10, 2}) }, true, ""},
		{"at the top", func() (proof.Verdict, error) { return proof.JudgeClock(12, []float64{10, 2}) }, false, ""},
		{"over the top", func() (proof.Verdict, error) { return proof.JudgeClock(0.2, []float64{12}) }, true, "12 is the nearest"},
		{"on its mark", func() (proof.Verdict, error) { return proof.JudgeDepth(41, 40, 1) }, true, ""},
		{"off its mark", func() (proof.Verdict, error) { return proof.JudgeDepth(38.9, 40, 1) }, false, "1.1 mm"},
		{"opposite", func() (proof.Verdict, error) { return proof.JudgePhase(10, 190.5) }, true, ""},
		{"off by a degree and more", func() (proof.Verdict, error) { return proof.JudgePhase(10, 191.1) }, false, "1.1 °"},
		{"half an hour off", func() (proof.Verdict, error) { return proof.JudgeClock(10.5, []float64{10, 2}) }, true, ""},
		{"more than half an hour off", func() (proof.Verdict, error) { return proof.JudgeClock(10.6, []float64{10, 2}) }, false,
			"10 is the nearest"},
		{"in phase", func() (proof.Verdict, error) { return proof.JudgePhase(10, 370) }, false, "180 °"},
		{"parts match", func() (proof.Verdict, error) { return proof.JudgeParts([]string{"A", "B"}, []string{"A", "B"}) }, true, "All 2"},
		{"wrong part", func() (proof.Verdict, error) { return proof.JudgeParts([]string{"A", "C"}, []string{"A", "B"}) }, false, `"B"`},
		{"part missing", func() (proof.Verdict, error) { return proof.JudgeParts([]string{"A"}, []string{"A", "B"}) }, false, ""},
		{"part too many", func() (proof.Verdict, error) { return proof.JudgeParts([]string{"A", "B"}, []string{"A"}) }, false,
			"1 parts more"},
		{"locked", func() (proof.Verdict, error) { return proof.JudgeLocked(8, 8) }, true, ""},
		{"one open", func() (proof.Verdict, error) { return proof.JudgeLocked(7, 8) }, false, "7 of 8"},
		{"turned enough", func() (proof.Verdict, error) { return proof.JudgeTurned(120, 120, 60) }, true, ""},
		{"turned at most", func() (proof.Verdict, error) { return proof.JudgeTurned(180, 120, 60) }, true, ""},
		{"turned short", func() (proof.Verdict, error) { return proof.JudgeTurned(119, 120, 60) }, false, ""},
		{"turned too far", func() (proof.Verdict, error) { return proof.JudgeTurned(181, 120, 60) }, false, ""},
		{"feeler at half", func() (proof.Verdict, error) { return proof.JudgeFeeler(2, 4) }, false, ""},
		{"feeler at more", func() (proof.Verdict, error) { return proof.JudgeFeeler(3, 4) }, true, ""},
		{"stretched", func() (proof.Verdict, error) { return proof.JudgeStretch(0.33, 0.3, 0.1) }, true, ""},
		{"short of stretch", func() (proof.Verdict, error) { return proof.JudgeStretch(0.26, 0.3, 0.1) }, false, ""},
		{"at 4 h", func() (proof.Verdict, error) { return proof.JudgeRetorque(4*time.Hour, true, true) }, true, ""},
		{"at 24 h", func() (proof.Verdict, error) { return proof.JudgeRetorque(24*time.Hour, true, true) }, true, ""},
		{"too soon", func() (proof.Verdict, error) { return proof.JudgeRetorque(3*time.Hour, true, true) }, false, "3 h"},
		{"too late", func() (proof.Verdict, error) { return proof.JudgeRetorque(25*time.Hour, true, true) }, false, "25 h"},
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

func TestHotOrLiveIsRefused(t *testing.T) {
	for _, c := range [][2]bool{{false, true}, {true, false}, {false, false}} {
		_, err := proof.JudgeRetorque(5*time.Hour, c[0], c[1])
		require.ErrorIs(t, err, &refusal.Error{Code: refusal.NotNow, Field: "state"})
	}
	_, err := proof.JudgeRetorque(-time.Hour, true, true)
	require.ErrorIs(t, err, &refusal.Error{Code: refusal.Negative})
}

func TestMeasurementsThatMakeNoSense(t *testing.T) {
	bad := math.NaN()
	for name, judge := range map[string]func() error{
		"round of none":     func() error { _, err := proof.JudgeRound(0, nil); return err },
		"moved off":         func() error { _, err := proof.JudgeRound(8, []int{9}); return err },
		"fit-up":            func() error { _, err := proof.JudgeFitUp(bad, 0, 0, 1); return err },
		"no gasket":         func() error { _, err := proof.JudgeFitUp(0, 0, 0, 0); return err },
		"no gaps":           func() error { _, err := proof.JudgeClearance(nil, 1); return err },
		"negative gap":      func() error { _, err := proof.JudgeClearance([]float64{-1}, 1); return err },
		"no threads":        func() error { _, err := proof.JudgeProtrusion(nil, false); return err },
		"equal thread":      func() error { _, err := proof.JudgeEqualThread(-1, 2); return err },
		"no run-out":        func() error { _, err := proof.JudgeRunOut(nil, 1); return err },
		"no limit":          func() error { _, err := proof.JudgeRunOut([]float64{1}, 0); return err },
		"no length":         func() error { _, err := proof.JudgeLevel(1, 0, 2); return err },
		"no diameter":       func() error { _, err := proof.JudgeStraightRun(1, 1, 0, 1, 1); return err },
		"no hour":           func() error { _, err := proof.JudgeClock(bad, []float64{2}); return err },
		"nowhere":           func() error { _, err := proof.JudgeClock(2, nil); return err },
		"depth":             func() error { _, err := proof.JudgeDepth(math.Inf(1), 1, 1); return err },
		"phase":             func() error { _, err := proof.JudgePhase(bad, 1); return err },
		"no list":           func() error { _, err := proof.JudgeParts([]string{"A"}, nil); return err },
		"too many locked":   func() error { _, err := proof.JudgeLocked(9, 8); return err },
		"no value":          func() error { _, err := proof.JudgeTurned(1, 0, 1); return err },
		"feeler":            func() error { _, err := proof.JudgeFeeler(5, 4); return err },
		"stretch share":     func() error { _, err := proof.JudgeStretch(1, 1, 10); return err },
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

func TestPressureTestStopsWhereItFails(t *testing.T) {
	hold := func(p, start, end float64, held time.Duration) proof.Hold {
		return proof.Hold{Pressure: p, Most: 0.2, Need: 10 * time.Minute, Start: start, End: end, Held: held}
	}
	good := []proof.Hold{hold(5, 5, 4.9, 10*time.Minute), hold(10, 10.1, 9.9, 12*time.Minute)}
	v, err := proof.JudgePressureTest(good, unit.Bar)
	require.NoError(t, err)
	require.True(t, v[0].Holds && v[1].Holds)
	for says, first := range map[string]proof.Hold{"began at 4.8": hold(5, 4.8, 4.8, 10*time.Minute), "was held 9m0s": hold(5, 5, 5,
		9*time.Minute), "lost 0.3": hold(5, 5, 4.7, 10*time.Minute)} {
		v, err = proof.JudgePressureTest([]proof.Hold{first, good[1]}, unit.Bar)
		require.NoError(t, err)
		require.Len(t, v, 2)
		require.False(t, v[0].Holds)
		require.Contains(t, v[0].Reason, says)
		require.False(t, v[1].Holds)
		require.Contains(t, v[1].Reason, "not begun")
	}
	for _, bad := range [][]proof.Hold{nil, {good[1], good[0]}, {hold(0, 1, 1, time.Hour)}, {hold(5, math.NaN(), 1, time.Hour)}} {
		_, err = proof.JudgePressureTest(bad, unit.Bar)
		require.Error(t, err)
	}
	_, err = proof.JudgePressureTest(good, unit.NewtonMetre)
	require.ErrorIs(t, err, &refusal.Error{Code: refusal.Unknown, Field: "unit"})
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
		finite(proof.JudgeClearance([]float64{a, b}, c))
		finite(proof.JudgeProtrusion([]float64{a, b}, n > 0))
		finite(proof.JudgeRunOut([]float64{a, b}, c))
		finite(proof.JudgeLevel(a, b, c))
		finite(proof.JudgeClock(a, []float64{b, c}))
		finite(proof.JudgeDepth(a, b, c))
		finite(proof.JudgePhase(a, b))
		finite(proof.JudgeTurned(a, b, c))
		finite(proof.JudgeStretch(a, b, c))
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
