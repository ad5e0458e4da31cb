package server_test

import (
	"encoding/json"
	"io"
	"net/http"
	"net/http/httptest"
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"dynacor/internal/contract"
	"dynacor/internal/server"
	"dynacor/internal/store"
)

// Who came in and could not, what was refused, what of rights was changed and what went
// out is in the security log: on screen for the administrator, and as JSON lines.
func TestTheSecurityLog(t *testing.T) {
	s := open(t)
	stranger := s.visitor()
	stranger.do("POST", "/api/session", map[string]string{"login": "Marta", "pin": "0000"})
	marta, ruth := s.as("marta"), s.as("ruth")
	marta.do("POST", "/api/runs/"+marta.get("IV-2 / BONNET").Run.ID.String()+"/entries", map[string]any{"id": "x"})
	require.Equal(t, http.StatusForbidden, marta.do("GET", "/api/site", nil).status)
	marta.record(signedJoint, "pdf")
	marta.do("DELETE", "/api/session", nil)
	room := decode[contract.SiteRoom](t, ruth.do("GET", "/api/site", nil))
	jonas := room.People[0].ID.String()
	require.Equal(t, http.StatusOK, ruth.do("POST", "/api/site/people/"+jonas+"/pin", nil).status)
	log := decode[contract.SecurityLog](t, ruth.do("GET", "/api/site/security", nil)).Events
	var said []string
	for _, e := range log {
		said = append(said, strings.Join([]string{e.Kind, e.By, e.Login, e.Words}, "|"))
	}
	all := strings.Join(said, "\n")
	for _, line := range []string{"wrong PIN||marta|at the sign-in", "signed in|Marta Tolland|marta|",
		"refused|Marta Tolland||GET /api/site",
		"exported|Marta Tolland||PS-1 - MANWAY plan 1.pdf", "signed out|Marta Tolland||", "rights changed|Ruth"} {
		require.Contains(t, all, line)
	}
	first := log[len(log)-1]
	older := decode[contract.SecurityLog](t, ruth.do("GET", "/api/site/security?before="+strconv.Itoa(log[0].ID), nil)).Events
	require.Equal(t, log[1], older[0])
	file := ruth.do("GET", "/api/site/security/file", nil)
	lines := json.NewDecoder(strings.NewReader(file.body))
	var last store.SecurityEvent
	for {
		var e store.SecurityEvent
		if err := lines.Decode(&e); err == io.EOF {
			break
		} else {
			require.NoError(t, err)
		}
		last = e
	}
	require.Equal(t, int64(first.ID), last.ID, "to the first line")
	_, err := s.store.Pool().Exec(t.Context(), "delete from security_log")
	require.ErrorContains(t, err, "is only ever added to")
}

// What a server's keeper watches is told in figures.
func TestFigures(t *testing.T) {
	s := open(t)
	hub := server.NewHub()
	h, err := server.New(s.app, s.store.Sessions(), hub, server.Options{})
	require.NoError(t, err)
	web := httptest.NewServer(h)
	defer web.Close()
	s.http.Close()
	s.http = web
	marta := s.as("marta")
	run := marta.get("IV-2 / BONNET").Run
	marta.add(run.ID.String(), pull(run.Next, nil))
	marta.do("GET", "/api/wall", nil, "X-Dynacor-Waiting", "3 120")
	marta.do("GET", "/nowhere/at/all", nil)
	_, err = s.app.Audit(t.Context(), against())
	require.NoError(t, err)
	w := httptest.NewRecorder()
	h.Metrics().ServeHTTP(w, httptest.NewRequest("GET", "/metrics", nil))
	for _, line := range []string{`dynacor_request_seconds_count{method="GET",route="/api/wall",status="200"} 2`,
		`dynacor_request_seconds_count{method="GET",route="other",status="404"} 1`, "dynacor_entries_total 1", "dynacor_streams 0",
		"dynacor_outbox_acts 3", "dynacor_outbox_oldest_seconds 12", "dynacor_audit_faults 0", "dynacor_connections_most 16"} {
		require.Contains(t, w.Body.String(), line)
	}
	require.Equal(t, http.StatusNotFound, marta.do("GET", "/metrics", nil).status, "not to whoever passes by")
}
