package trace_test

import (
	"fmt"
	"math"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"dynacor/core/trace"
	"dynacor/core/unit"
)

// drawn is a trace of n points over so many degrees.
func drawn(n int, over float64, torque func(x float64) float64) []trace.Point {
	out := make([]trace.Point, n)
	for i := range out {
		x := float64(i) / float64(n-1)
		out[i] = trace.Point{Angle: x * over, Torque: torque(x)}
	}
	return out
}

// even is how a good one rises: little while the nut runs down, then straight to the peak.
func even(peak float64) func(x float64) float64 {
	return func(x float64) float64 { return peak * (0.05 + 0.95*math.Max(0, (x-0.3)/0.7)) }
}

func TestStories(t *testing.T) {
	for _, c := range []struct {
		name   string
		want   trace.Kind
		torque func(x float64) float64
	}{
		{"as it should", trace.Good, even(342)},
		{"let go early", trace.StoppedEarly, even(250)},
		{"yielding", trace.Yielding, func(x float64) float64 {
			if x > 0.83 {
				return 320 + 20*(x-0.83)
			}
			return 320 * x / 0.83
		}},
		{"bottomed", trace.Bottomed, func(x float64) float64 {
			if x > 0.85 {
				return 60 + 1900*(x-0.85)
			}
			return 70 * x
		}},
		{"galled", trace.Galled, func(x float64) float64 { return 340*x - 130*math.Max(0, math.Sin(20*x)) }},
		{"cross-threaded", trace.CrossThreaded, func(x float64) float64 { return 120 + 225*math.Max(0, (x-0.5)/0.5) }},
	} {
		got, err := trace.Tell(drawn(200, 90, c.torque), 340, 326, unit.NewtonMetre)
		require.NoError(t, err)
		require.Equal(t, c.want, got.Kind, "%s: %s", c.name, got.Why)
		require.NotEmpty(t, got.Why)
	}
	got, err := trace.Tell(drawn(5, 90, even(342)), 340, 326, unit.NewtonMetre)
	require.NoError(t, err)
	require.Equal(t, trace.TooShort, got.Kind)
}

func TestWhatIsNoTraceIsRefused(t *testing.T) {
	good := drawn(20, 90, even(340))
	for name, change := range map[string]func([]trace.Point) []trace.Point{
		"too long":   func([]trace.Point) []trace.Point { return drawn(trace.MostPoints+1, 90, even(340)) },
		"goes back":  func(p []trace.Point) []trace.Point { p[7].Angle = 0; return p },
		"no number":  func(p []trace.Point) []trace.Point { p[3].Torque = math.NaN(); return p },
		"no number ": func(p []trace.Point) []trace.Point { p[3].Angle = math.Inf(1); return p },
	} {
		_, err := trace.Tell(change(append([]trace.Point(nil), good...)), 340, 326, unit.NewtonMetre)
		require.Error(t, err, name)
	}
	_, err := trace.Tell(good, 0, 326, unit.NewtonMetre)
	require.Error(t, err)
	require.NoError(t, trace.Check(drawn(trace.MostPoints, 90, even(340))))
}

// A story does not depend on the unit the torque is in, nor on how fine the trace is.
func TestAStoryIsTheSameInEveryUnit(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		peak := rapid.Float64Range(200, 400).Draw(t, "peak")
		k := rapid.Float64Range(0.01, 100).Draw(t, "unit")
		n := rapid.IntRange(100, 1500).Draw(t, "points")
		one, err := trace.Tell(drawn(n, 90, even(peak)), 340, 326, unit.NewtonMetre)
		require.NoError(t, err)
		other, err := trace.Tell(drawn(n, 90, func(x float64) float64 { return k * even(peak)(x) }), 340*k, 326*k, unit.NewtonMetre)
		require.NoError(t, err)
		require.Equal(t, one.Kind, other.Kind)
	})
}

func FuzzTell(f *testing.F) {
	f.Add(10.0, 340.0, -3.0, 340.0, 326.0, 30)
	f.Fuzz(func(t *testing.T, a, b, c, target, low float64, n int) {
		if n < 0 || n > 3000 {
			return
		}
		points := make([]trace.Point, n)
		for i := range points {
			points[i] = trace.Point{Angle: float64(i), Torque: a*float64(i) + b*math.Sin(c*float64(i))}
		}
		s, err := trace.Tell(points, target, low, unit.NewtonMetre)
		if err == nil && (s.Kind == "" || s.Why == "") {
			t.Fatalf("%+v", s)
		}
	})
}

func ExampleTell() {
	s, _ := trace.Tell(drawn(100, 90, even(250)), 340, 326, unit.NewtonMetre)
	fmt.Println(s.Kind)
	// Output: stopped early
}
