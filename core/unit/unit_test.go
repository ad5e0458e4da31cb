package unit_test

import (
	"fmt"
	"math"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"dynacor/core/unit"
)

var families = [][]unit.Unit{
	{unit.Millimetre, unit.Inch},
	{unit.Newton, unit.Kilonewton, unit.PoundForce, unit.Kip},
	{unit.NewtonMetre, unit.CentiNewtonMetre, unit.FootPound, unit.InchPound, unit.KilogramMetre},
	{unit.Megapascal, unit.Bar, unit.PSI},
}

func TestConversionGoesThereAndBack(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		family := rapid.SampledFrom(families).Draw(t, "family")
		from, to := rapid.SampledFrom(family).Draw(t, "from"), rapid.SampledFrom(family).Draw(t, "to")
		v := rapid.Float64Range(-1e9, 1e9).Draw(t, "value")
		there, err := unit.Convert(v, from, to)
		require.NoError(t, err)
		back, err := unit.Convert(there, to, from)
		require.NoError(t, err)
		require.InDelta(t, v, back, 1e-12*math.Abs(v))
	})
}

// The factors are exact by definition: to the last digit, from the inch, the
// pound and standard gravity.
func TestFactorsAreExact(t *testing.T) {
	const inch, pound, gravity = 0.0254, 0.45359237, 9.80665
	lbf := pound * gravity
	for _, c := range []struct {
		from, to unit.Unit
		want     float64
	}{
		{unit.Inch, unit.Millimetre, 25.4}, {unit.PoundForce, unit.Newton, lbf}, {unit.Kip, unit.Newton, 1000 * lbf},
		{unit.Kilonewton, unit.Newton, 1000},
		{unit.FootPound, unit.NewtonMetre, 12 * inch * lbf}, {unit.CentiNewtonMetre, unit.NewtonMetre, 0.01}, {unit.InchPound,
			unit.NewtonMetre, inch * lbf},
		{unit.KilogramMetre, unit.NewtonMetre, gravity},
		{unit.PSI, unit.Megapascal, lbf / (inch * inch) / 1e6}, {unit.Bar, unit.Megapascal, 0.1},
	} {
		got, err := unit.Convert(1, c.from, c.to)
		require.NoError(t, err)
		require.InEpsilon(t, c.want, got, 4e-16, "%s in %s", c.from, c.to)
	}
}

func TestRoundIsNearestAndHalvesGoOut(t *testing.T) {
	for _, c := range []struct{ v, step, want float64 }{
		{34.5, 1, 35}, {-34.5, 1, -35}, {2.5, 5, 5}, {0.45, 0.1, 0.5}, {1.005, 0.01, 1.01}, {7, 2, 8}, {6.9, 2, 6},
	} {
		require.InDelta(t, c.want, unit.Round(c.v, c.step), 1e-12, "%v to %v", c.v, c.step)
	}
	rapid.Check(t, func(t *rapid.T) {
		v, step := rapid.Float64Range(0, 1e6).Draw(t, "v"), rapid.SampledFrom([]float64{0.01, 0.05, 0.1, 0.5, 1, 2, 5, 50}).Draw(t, "step")
		require.LessOrEqual(t, math.Abs(unit.Round(v, step)-v), step/2*(1+1e-6)+v*2e-9)
	})
}

func FuzzConvert(f *testing.F) {
	f.Add(1.0, "in", "mm")
	f.Add(math.Inf(1), "N·m", "ft·lbf")
	f.Fuzz(func(t *testing.T, v float64, from, to string) {
		got, err := unit.Convert(v, unit.Unit(from), unit.Unit(to))
		if err == nil && (math.IsNaN(v) || math.IsInf(v, 0)) {
			t.Fatalf("%v was converted to %v", v, got)
		}
	})
}

func ExampleQuantity_To() {
	q, _ := unit.Of(150, unit.FootPound).To(unit.NewtonMetre)
	fmt.Printf("%.1f %s\n", q.Value, q.Unit)
	// Output: 203.4 N·m
}

func TestEveryListedUnitIsKnown(t *testing.T) {
	for _, u := range unit.Units() {
		_, err := unit.DimensionOf(u)
		require.NoError(t, err, u)
	}
}
