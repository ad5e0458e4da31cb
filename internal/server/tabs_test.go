package server_test

import (
	"net/http"
	"testing"

	"github.com/stretchr/testify/require"

	"dynacor/internal/contract"
)

// A tab that believes somebody else to be signed in does nothing in their name: neither
// entries nor lists; who it is, it is told.
func TestATabBelievesSomebodyElse(t *testing.T) {
	s := open(t)
	marta, jonas := s.as("marta"), s.as("jonas")
	believed := decode[contract.Session](t, marta.do("GET", "/api/session", nil)).Person.ID.String()
	in := func(c *client, method, path, body string) answer {
		var sent any
		if body != "" {
			sent = body
		}
		return c.do(method, path, sent, "X-Dynacor-Person", believed)
	}
	require.Equal(t, http.StatusOK, in(marta, "GET", "/api/wall", "").status)
	run := marta.get("IV-2 / BONNET").Run
	for _, x := range [][3]string{{"GET", "/api/wall", ""}, {"GET", "/api/joints/" + marta.get("RK / COOLER").ID.String(), ""},
		{"POST", "/api/runs/" + run.ID.String() + "/entries",
			`{"id":"11111111-1111-4111-8111-111111111111","at":"2026-11-25T10:00:00Z","content":{"kind":"pause"}}`},
		{"PUT", "/api/session/pin", `{"old":"4711","pin":"2580"}`}} {
		require.Equal(t, "another-person", in(jonas, x[0], x[1], x[2]).problem(t).Code, x[1])
	}
	require.Equal(t, run.Entries, marta.get("IV-2 / BONNET").Run.Entries)
	require.Equal(t, "Jonas Reedham", decode[contract.Session](t, in(jonas, "GET", "/api/session", "")).Person.Name)
}
