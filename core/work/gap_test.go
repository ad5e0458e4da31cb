package work_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"dynacor/core/record"
	"dynacor/core/refusal"
)

// A device that is lost leaves a gap, which the record says, whatever else goes on.
func TestALostDeviceLeavesAGap(t *testing.T) {
	h := pulled(t, 60)
	seen := time.Date(2026, 11, 22, 10, 1, 0, 0, time.UTC)
	gap := record.Gap{Device: "T-07", By: "Marta Tolland", Why: "fell into the sump.", Seen: seen, Acts: 3, Since: seen.Add(-3 * time.Minute)}
	for _, c := range []struct {
		gap  record.Gap
		code refusal.Code
	}{
		{record.Gap{By: "Marta Tolland", Seen: seen}, refusal.NeedsReason},
		{record.Gap{By: "Marta Tolland", Why: "lost"}, refusal.Missing},
		{record.Gap{By: "Marta Tolland", Why: "lost", Seen: seen, Acts: -1}, refusal.Missing},
	} {
		err := h.Try(c.gap)
		var no *refusal.Error
		require.ErrorAs(t, err, &no)
		require.Equal(t, c.code, no.Code)
	}
	next := h.Next()
	h.Add(record.Pause{})
	h.Add(gap)
	deviations := h.State.Deviations()
	last := deviations[len(deviations)-1]
	require.True(t, last.Outside, "whoever signs says why")
	require.Equal(t, "T-07 of Marta Tolland is lost: fell into the sump. Last heard of 22 Nov 2026 10:01, when 3 acts of this joint "+
		"waited on it, the oldest of 22 Nov 2026 09:58. What was done there and not sent is not in this record", last.Text)
	h.Add(record.Gap{By: "Haro Brandt-Nile", Why: "wiped", Seen: seen})
	deviations = h.State.Deviations()
	require.Equal(t, "a device of Haro Brandt-Nile is lost: wiped. Last heard of 22 Nov 2026 10:01. What was done there and not sent "+
		"is not in this record", deviations[len(deviations)-1].Text)
	h.Add(record.Resume{})
	require.Equal(t, next, h.Next(), "nothing that was stored is undone")
}
