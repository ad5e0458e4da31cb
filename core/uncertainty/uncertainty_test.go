package uncertainty_test

import (
	"math"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"dynacor/core/refusal"
	"dynacor/core/uncertainty"
)

// The shares of the parts make the whole, the largest is the largest, and nothing
// is less uncertain than its worst part.
func TestTheSharesMakeTheWhole(t *testing.T) {
	kinds := []uncertainty.Kind{uncertainty.Standard, uncertainty.Expanded, uncertainty.Rectangular, uncertainty.Triangular}
	rapid.Check(t, func(t *rapid.T) {
		parts := rapid.SliceOfN(rapid.Custom(func(t *rapid.T) uncertainty.Part {
			return uncertainty.Part{Kind: rapid.SampledFrom(kinds).Draw(t, "kind"), Value: rapid.Float64Range(1e-6, 1e3).Draw(t, "value"),
				C: math.Trunc(1e6*rapid.Float64Range(-5, 5).Draw(t, "c")) / 1e6} // the square of a smaller one is none
		}), 1, 8).Draw(t, "parts")
		b, err := uncertainty.Of(parts)
		require.NoError(t, err)
		if b.Standard == 0 {
			return
		}
		sum := 0.0
		for i, p := range parts {
			sum += b.Share(i)
			require.LessOrEqual(t, p.Standard(), b.Parts[b.Largest].Standard())
			require.LessOrEqual(t, p.Standard(), b.Standard*(1+1e-12))
		}
		require.InEpsilon(t, 1, sum, 1e-9)
		require.Equal(t, 2*b.Standard, b.Expanded)
	})
}

func TestRefusals(t *testing.T) {
	for name, p := range map[string]uncertainty.Part{"below zero": {Kind: uncertainty.Standard, Value: -1, C: 1},
		"no number": {Kind: uncertainty.Standard, Value: math.NaN(), C: 1}, "no sensitivity": {Kind: uncertainty.Standard, Value: 1,
			C: math.Inf(1)}} {
		_, err := uncertainty.Of([]uncertainty.Part{p})
		var r *refusal.Error
		require.ErrorAs(t, err, &r, name)
	}
}
