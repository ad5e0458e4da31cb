package server_test

import (
	"encoding/json"
	"net/http"
	"testing"

	"github.com/google/uuid"
	"github.com/stretchr/testify/require"

	"dynacor/internal/contract"
)

// A device says what it has; the Wall speaks of one on which acts wait, and of one that took
// joints in hand along and fell silent; and of no other. Who says that it is lost says why, and
// the site's log keeps what it had.
func TestDevicesThatHaveSomethingOnThem(t *testing.T) {
	s := open(t)
	marta, ruth := s.as("marta"), s.as("ruth")
	tablet, other := uuid.NewString(), uuid.NewString()
	inHand, signed := marta.joint("IV-2 / BONNET"), ""
	wall := func() (w contract.Wall) {
		a := marta.do("GET", "/api/wall", nil)
		require.NoError(t, json.Unmarshal([]byte(a.body), &w))
		return w
	}
	for _, area := range wall().Areas {
		for _, j := range area.Joints {
			if j.State == "signed" {
				signed = j.ID.String()
			}
		}
	}
	require.NotEmpty(t, signed)
	says := func(device string, body map[string]any) answer { return marta.do("PUT", "/api/devices/"+device, body) }

	along := []string{inHand, signed}
	require.Equal(t, http.StatusNoContent, says(tablet, map[string]any{"name": " T-07 ", "acts": 0, "joints": along}).status)
	require.Empty(t, wall().Devices, "it was heard of just now, and nothing waits on it")
	require.Equal(t, http.StatusNoContent, says(tablet, map[string]any{"name": "T-07", "acts": 3, "since": "2026-11-26T09:10:00Z",
		"joints": along, "waiting": []any{map[string]any{"joint": inHand, "acts": 3, "since": "2026-11-26T09:10:00Z"}}}).status)
	list := wall().Devices
	require.Len(t, list, 1)
	require.Equal(t, "T-07", list[0].Name)
	require.Equal(t, "Marta Tolland", list[0].By)
	require.Equal(t, 3, list[0].Acts)
	require.False(t, list[0].Silent)
	require.Len(t, list[0].Joints, 1, "what is signed lacks nothing")

	require.Equal(t, http.StatusNoContent, says(other, map[string]any{"name": "", "acts": 0, "joints": []string{signed}}).status)
	s.exec("update devices set seen = now() - interval '11 minutes'")
	list = wall().Devices
	require.Len(t, list, 1, "the other one has nothing that is in hand")
	require.True(t, list[0].Silent)

	for _, c := range []struct {
		body  map[string]any
		field string
	}{
		{map[string]any{"name": "a name that nobody could have written on a tablet", "acts": 0, "joints": []string{}}, "name"},
		{map[string]any{"name": "", "acts": 1_000_000, "joints": []string{}}, "acts"},
	} {
		a := says(tablet, c.body)
		require.Equal(t, http.StatusUnprocessableEntity, a.status)
		require.Equal(t, c.field, a.problem(t).Field)
	}
	require.Equal(t, http.StatusBadRequest, says(tablet, map[string]any{"name": "", "acts": -1, "joints": []string{}}).status)
	require.Len(t, wall().Devices, 1, "what was refused has changed nothing")

	gone := func(why string) answer {
		return ruth.do("DELETE", "/api/devices/"+tablet, map[string]any{"why": why, "lost": true})
	}
	before := marta.get("IV-2 / BONNET").Run
	require.Equal(t, "why", gone(" ").problem(t).Field)
	require.Equal(t, http.StatusNoContent, gone("fell into the sump").status)
	require.Empty(t, wall().Devices)
	require.Equal(t, http.StatusNotFound, gone("again").status)
	var words string
	require.NoError(t, s.store.Pool().QueryRow(t.Context(), "select words from site_log where kind = 'device'").Scan(&words))
	require.Contains(t, words, "fell into the sump. Of Marta Tolland")
	require.Contains(t, words, "with 3 acts that were not stored; it had")
	require.Contains(t, words, "IV-2 / BONNET")

	// The record of what was in hand names the gap, and the bolts that were pulled there are to pull.
	run := marta.get("IV-2 / BONNET").Run
	require.Equal(t, before.Entries+1, run.Entries)
	require.Equal(t, before.Next, run.Next)
	last := run.Deviations[len(run.Deviations)-1].Text
	require.Contains(t, last, "T-07 of Marta Tolland is lost: fell into the sump. Last heard of ")
	require.Contains(t, last, ", when 3 acts of this joint waited on it, the oldest of 26 Nov 2026 ")
	require.Contains(t, string(marta.record("IV-2 / BONNET", "json")), "What was done there and not sent is not in this record")
	var gaps int
	require.NoError(t, s.store.Pool().QueryRow(t.Context(), "select count(*) from entries where kind = 'gap'").Scan(&gaps))
	require.Equal(t, 1, gaps, "what is signed stays as it was")
	found, err := s.store.Audit(t.Context(), against())
	require.NoError(t, err)
	require.Empty(t, found.Faults)

	// One that was found, with all of it sent, leaves no gap.
	require.Equal(t, http.StatusNoContent, says(other, map[string]any{"name": "T-08", "acts": 0, "joints": []string{inHand}}).status)
	require.Equal(t, http.StatusNoContent, ruth.do("DELETE", "/api/devices/"+other, map[string]any{"why": "in the locker"}).status)
	require.Equal(t, run.Entries, marta.get("IV-2 / BONNET").Run.Entries)
}
