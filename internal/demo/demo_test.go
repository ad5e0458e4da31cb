package demo

import (
	"testing"

	"github.com/stretchr/testify/require"

	"dynacor/core/plan"
)

// The demo's joints are ones that a sound engineer would issue: they seat
// their gaskets, also at the low end, and stay well below yield.
func TestTheDemosJointsAreSound(t *testing.T) {
	tags := map[string]bool{}
	for _, j := range outage() {
		require.False(t, tags[j.tag], j.tag)
		tags[j.tag] = true
		if j.upTo == fresh {
			continue
		}
		r, err := plan.Compute(j.in)
		require.NoError(t, err, j.tag)
		if j.upTo == draft {
			continue
		}
		require.False(t, r.Undecided, j.tag)
		for _, c := range r.Checks {
			require.True(t, c.Holds, "%s: %s: %.4g against %.4g %s", j.tag, c.Name, c.Value, c.Limit, c.Unit)
		}
		require.Less(t, r.Utilisation, 0.9, j.tag)
	}
	require.GreaterOrEqual(t, len(tags), 15)
}
