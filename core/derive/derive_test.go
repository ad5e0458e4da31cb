package derive_test

import (
	"fmt"
	"math"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"dynacor/core/derive"
)

var load = &derive.Formula{Name: "Load", Sign: "F", Unit: "N", Text: "1000·{T}/({K}·{d})", Source: "the trade", Valid: "below yield",
	Symbols: []derive.Symbol{{Sign: "T", Name: "torque", Unit: "N·m"}, {Sign: "K", Name: "nut factor"},
		{Sign: "d", Name: "diameter", Unit: "mm"}},
	Of: func(x []float64) float64 { return 1000 * x[0] / (x[1] * x[2]) }}

func of(torque, k, d float64) derive.Derivation {
	return derive.Derivation{Of: "bolts", Key: "load", Formula: load, Inputs: []derive.Input{{Value: torque, Uncertain: 0.04},
		{Value: k, Uncertain: 0.23}, {Value: d}}}
}

func TestADerivationSaysItself(t *testing.T) {
	d := of(260, 0.17, 20)
	require.Equal(t, "F = 1000·T/(K·d)", d.Written())
	require.Equal(t, "F = 1000·260 N·m/(0.17·20 mm)", d.Numbers())
	require.Equal(t, "76.47 kN", d.Comes())
	require.Equal(t, "± 23.3 % in nineteen of twenty; most of it is the nut factor.", d.Uncertainty())
	require.Equal(t, "1 % more of T, the torque: 1 % more.", d.Changes())
	require.Equal(t, "the trade", d.Origin())
	d.Source = "this very sheet"
	require.Equal(t, "this very sheet", d.Origin())
	for i := range d.Inputs {
		d.Inputs[i].Uncertain = 0
	}
	require.Contains(t, d.Uncertainty(), "No uncertainty is counted")
	still := derive.Derivation{Formula: &derive.Formula{Of: func([]float64) float64 { return 4 }}, Inputs: []derive.Input{{Value: 3}}}
	require.Contains(t, still.Changes(), "Nothing changes it")
}

func TestDigits(t *testing.T) {
	for v, want := range map[float64]string{0: "0", 260: "260", 0.17: "0.17", 76470.6: "76471", 1.2346: "1.235", -12.5: "-12.5",
		1.5e-6: "1.5·10⁻⁶",
		3e12:   "3·10¹²", 0.00123456: "0.001235"} {
		require.Equal(t, want, derive.Digits(v), "%v", v)
	}
	require.Equal(t, "15°", derive.Amount(15, "°"))
	require.Equal(t, "40 MPa", derive.Amount(40, "MPa"))
}

// How a product of powers follows its inputs is their powers; and what is uncertain of it
// is the root of their squares.
func TestAResultFollowsItsInputs(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		d := of(rapid.Float64Range(1e-3, 1e4).Draw(t, "T"), rapid.Float64Range(0.02, 1).Draw(t, "K"),
			rapid.Float64Range(1, 300).Draw(t, "d"))
		for i, want := range []float64{1, -1, -1} {
			require.InDelta(t, want, d.Follows(i), 1e-6)
		}
		u, largest := d.Uncertain()
		require.InEpsilon(t, math.Hypot(0.04, 0.23), u, 1e-6)
		require.Equal(t, 1, largest)
		require.False(t, strings.Contains(d.Numbers(), "{"))
	})
}

func FuzzDigits(f *testing.F) {
	f.Add(76470.588)
	f.Add(math.Inf(-1))
	f.Add(5e-324)
	f.Fuzz(func(t *testing.T, v float64) {
		if s := derive.Digits(v); s == "" {
			t.Fatalf("%v says nothing", v)
		}
	})
}

func ExampleDerivation_Numbers() {
	fmt.Println(of(260, 0.17, 20).Numbers())
	// Output: F = 1000·260 N·m/(0.17·20 mm)
}
