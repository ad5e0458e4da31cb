package pass_test

import (
	"fmt"
	"math"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"dynacor/core/pass"
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
	for _, s := range [][]float64{nil, {50}, {60, 20, 100}, {20, 20, 100}, {20, 60, 90}, {20, 60, 120}, {-10, 100}, {math.NaN(), 100}, make([]float64, 20)} {
		require.Error(t, pass.CheckShares(s), "%v", s)
	}
	for _, p := range pass.Presets() {
		require.NoError(t, pass.CheckShares(p.Shares), p.Name)
	}
}

func ExampleValues() {
	v, _ := pass.Values(749, []float64{30, 60, 100}, 1)
	fmt.Println(v[0].Torque, v[1].Torque, v[2].Torque)
	// Output: 225 449 749
}
