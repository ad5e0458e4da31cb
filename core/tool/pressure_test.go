package tool_test

import (
	"fmt"
	"math"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"dynacor/core/refusal"
	"dynacor/core/thread"
	"dynacor/core/tool"
	"dynacor/core/unit"
)

func chart() tool.Chart { return tool.Chart{{10, 305}, {20, 618}, {35, 1091}, {50, 1560}, {70, 2190}} }

// A reading never leaves the chart, rises with the torque, and lands within
// half a mark of it.
func TestReadingsRiseAndStayOnTheChart(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		g := rapid.SampledFrom([]float64{0.1, 0.5, 1, 3, 7}).Draw(t, "graduation")
		a, b := rapid.Float64Range(305, 2190).Draw(t, "a"), rapid.Float64Range(305, 2190).Draw(t, "b")
		low, err := chart().At(math.Min(a, b), g)
		require.NoError(t, err)
		high, err := chart().At(math.Max(a, b), g)
		require.NoError(t, err)
		require.LessOrEqual(t, low.Pressure, high.Pressure)
		require.LessOrEqual(t, low.Torque, high.Torque)
		require.GreaterOrEqual(t, low.Pressure, 10*(1-1e-9))
		require.LessOrEqual(t, high.Pressure, 70*(1+1e-9))
		require.LessOrEqual(t, math.Abs(high.Torque-math.Max(a, b)), g*32, "the steepest row gives 31.5 N·m a MPa")
	})
}

func TestChartEndsRoundInward(t *testing.T) {
	s, err := chart().At(2190, 3) // 70 is no mark: 69 is the last below it
	require.NoError(t, err)
	require.InDelta(t, 69, s.Pressure, 1e-9)
	s, err = chart().At(305, 3) // 9 is off the chart: 12
	require.NoError(t, err)
	require.InDelta(t, 12, s.Pressure, 1e-9)
	_, err = chart().At(305, 100)
	require.ErrorIs(t, err, &refusal.Error{Code: refusal.TooLarge, Field: "graduation"})
}

func stud(t require.TestingT) thread.Thread {
	th, err := thread.Parse("M36")
	require.NoError(t, err)
	return th
}

func TestHalvesOfATensioning(t *testing.T) {
	th := stud(t)
	whole, err := tool.Tension(th, 205_000, 180, 3010, 720)
	require.NoError(t, err)
	require.True(t, whole.Holds)
	h, err := tool.TensionHalves(th, 205_000, 180, 3010, 720, 0.2)
	require.NoError(t, err)
	require.Equal(t, whole, h.Second)
	require.InEpsilon(t, whole.Pressure/0.8, h.First.Pressure, 1e-12)
	even, err := tool.TensionHalves(th, 205_000, 180, 3010, 720, 0)
	require.NoError(t, err)
	require.Equal(t, even.First, even.Second, "nothing lost, nothing more to apply")
	for _, lost := range []float64{-0.1, 0.51, math.NaN()} {
		_, err := tool.TensionHalves(th, 205_000, 180, 3010, 720, lost)
		require.Error(t, err)
	}
	edge, err := tool.Tension(th, 205_000, 180, 3010, whole.StressShare*720/0.95)
	require.NoError(t, err)
	require.False(t, edge.Holds, "must stay below 0.95 of yield")
}

func TestScaleReadsBothWays(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		s := tool.Scale{First: float64(rapid.IntRange(0, 50).Draw(t, "first")), Minor: rapid.SampledFrom([]float64{0.25, 0.5, 1,
			2}).Draw(t, "minor")}
		s.Major = s.Minor * float64(rapid.IntRange(1, 20).Draw(t, "turn"))
		r, err := s.Read(s.First + rapid.Float64Range(0.3, 500).Draw(t, "above"))
		require.NoError(t, err)
		back, err := s.Setting(r.Main, r.Minors)
		require.NoError(t, err)
		require.InDelta(t, r.Shown, back, 1e-9)
	})
	_, err := tool.Scale{First: 60, Major: 1, Minor: 10}.Read(100)
	require.ErrorIs(t, err, &refusal.Error{Code: refusal.Contradicts, Field: "minor"})
	s := tool.Scale{First: 60, Major: 10, Minor: 1}
	for _, c := range []struct {
		main   float64
		minors int
	}{{65, 0}, {50, 0}, {60, 10}, {60, -1}, {math.NaN(), 0}, {math.Inf(1), 1}} {
		_, err := s.Setting(c.main, c.minors)
		require.Error(t, err, "%v", c)
	}
}

func TestAccuraciesAndHandForce(t *testing.T) {
	require.InDelta(t, 0.05, tool.Together(0.03, 0.04), 1e-12)
	require.Equal(t, 0.06, tool.UsualAccuracy(10))
	require.Equal(t, 0.04, tool.UsualAccuracy(10.1))
	for most, want := range map[float64]float64{10: 0.06, 20: 0.04} {
		w := wrench("W", 2, most, 1, 0.1)
		w.Accuracy = 0
		s, err := tool.Chain{Wrench: w}.Set(1, 8, today)
		require.NoError(t, err)
		require.Equal(t, want, s.Accuracy, "what is not known is its class's, by the tool's greatest value")
	}
	inch := tool.Wrench{Tag: "I", RatedMin: 1, RatedMax: 7, Unit: unit.FootPound, Scale: tool.Scale{First: 1, Major: 1, Minor: 0.1}}
	s, err := tool.Chain{Wrench: inch}.Set(1, 8, today)
	require.NoError(t, err)
	require.Equal(t, 0.06, s.Accuracy, "7 ft·lbf is 9.5 N·m")
	f, err := tool.HandForce(200, 500)
	require.NoError(t, err)
	require.InDelta(t, tool.HeavyHandForce, f, 1e-9)
	_, err = tool.HandForce(200, 0)
	require.Error(t, err)
}

func FuzzPressure(f *testing.F) {
	f.Add(1300.0, 0.5, 10.0, 305.0, 70.0, 2190.0, 180.0, 0.2)
	f.Add(math.NaN(), 0.0, 10.0, 305.0, 10.0, 305.0, -1.0, math.Inf(1))
	f.Fuzz(func(t *testing.T, torque, graduation, p1, t1, p2, t2, length, lost float64) {
		s, err := tool.Chart{{p1, t1}, {p2, t2}}.At(torque, graduation)
		if err == nil && (s.Pressure < p1*(1-2e-9) || s.Pressure > p2*(1+2e-9) || s.Torque < t1 || s.Torque > t2) {
			t.Fatalf("%v is off the chart", s)
		}
		h, err := tool.TensionHalves(stud(t), torque, length, graduation, p1, lost)
		if err == nil && !(h.First.Pressure >= h.Second.Pressure && h.Second.Applied > torque && !math.IsInf(h.First.Pressure, 0)) {
			t.Fatalf("%v", h)
		}
		set, err := tool.Scale{First: p1, Major: t1, Minor: graduation}.Setting(torque, int(t2))
		if err == nil && math.IsNaN(set) {
			t.Fatalf("setting %v", set)
		}
	})
}

func ExampleChart_At() {
	s, _ := chart().At(1300, 0.5)
	fmt.Printf("%.1f MPa gives %.0f N·m\n", s.Pressure, s.Torque)
	// Output: 41.5 MPa gives 1294 N·m
}
