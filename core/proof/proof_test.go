package proof_test

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"dynacor/core/proof"
)

// Turning the joint turns the open side and changes nothing else.
func TestGapVerdictTurnsWithTheJoint(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		gaps := make([]float64, rapid.SampledFrom([]int{4, 8}).Draw(t, "places"))
		for i := range gaps {
			gaps[i] = float64(rapid.IntRange(0, 400).Draw(t, "gap")) / 100
		}
		gaps[0] += 5 // one widest place
		a, err := proof.JudgeGap(gaps, 300, 0.8)
		require.NoError(t, err)
		b, err := proof.JudgeGap(append(gaps[1:len(gaps):len(gaps)], gaps[0]), 300, 0.8)
		require.NoError(t, err)
		require.InDelta(t, a.Spread, b.Spread, 1e-12)
		require.Equal(t, 12.0, a.OpenSide)
		require.InDelta(t, 12-12/float64(len(gaps)), b.OpenSide, 1e-12)
	})
}

func ExampleJudgeGap() {
	g, _ := proof.JudgeGap([]float64{2.1, 2.3, 2.2, 3.4}, 285, 0.8)
	fmt.Printf("%.1f mm, parallel %v, open at %v\n", g.Spread, g.Parallel, g.OpenSide)
	// Output: 1.3 mm, parallel false, open at 9
}
