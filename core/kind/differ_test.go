package kind_test

import (
	"testing"

	"github.com/stretchr/testify/require"

	"dynacor/core/kind"
)

func TestEveryDifferenceHasTwoSidesAndOurs(t *testing.T) {
	seen := map[string]bool{}
	for _, d := range kind.Differences() {
		require.False(t, seen[d.ID], d.ID)
		seen[d.ID] = true
		require.NotEmpty(t, d.Question)
		require.NotEmpty(t, d.Ours)
		require.GreaterOrEqual(t, len(d.Sides), 2, d.ID)
		for _, s := range d.Sides {
			require.NotEmpty(t, s.Good, s.Name)
			require.NotEmpty(t, s.Risk, s.Name)
		}
	}
	for _, id := range []string{"orders", "quarters", "labels", "lubrication", "rounds", "method", "reach"} {
		require.True(t, seen[id], id)
	}
}
