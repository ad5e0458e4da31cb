package demo

import (
	"testing"
	"time"

	"github.com/stretchr/testify/require"
)

// A joint in hand is so at any time of day: a tool that was set six hours ago has
// to be set anew, and nobody would see it pulled.
func TestTodaysWorkIsInTheHand(t *testing.T) {
	for _, clock := range []time.Duration{10 * time.Minute, 6 * time.Hour, 12*time.Hour + 30*time.Minute, 24*time.Hour - time.Minute} {
		now := time.Date(2026, 11, 25, 0, 0, 0, 0, time.UTC).Add(clock)
		l := &loader{now: now, start: now.Truncate(24*time.Hour).AddDate(0, 0, -begun)}
		for _, days := range []float64{5, 5.2, 5.9} {
			l.begin(days)
			require.WithinRange(t, l.clock, now.Add(-3*time.Hour), now.Add(-90*time.Minute), "%v after midnight, begun %v", clock, days)
		}
		l.begin(4.9)
		require.True(t, l.clock.Before(now), clock)
	}
}
