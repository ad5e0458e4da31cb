package server_test

import (
	"net/http"
	"testing"

	"github.com/stretchr/testify/require"

	"dynacor/internal/demo"
	"dynacor/internal/pgdev/pgtest"
	"dynacor/internal/server"
	"dynacor/internal/store"
)

// Where the database is held up, or gone, requests are answered in time, with a word that
// says what may have become of them; once it is back, so is everything.
func TestTheDatabaseIsGoneForAWhile(t *testing.T) {
	power := pgtest.NewAlone(t, load)
	db, err := store.OpenWithin(t.Context(), power.URL(), store.Limits{Statement: "2s", Lock: "200ms"})
	require.NoError(t, err)
	defer db.Close()
	s := serve(t, db, server.Options{})
	marta := s.as("marta")
	stranger := s.visitor()
	require.Equal(t, http.StatusOK, stranger.do("GET", "/readyz", nil).status)

	other, err := store.Open(t.Context(), power.URL())
	require.NoError(t, err)
	tx, err := other.Pool().Begin(t.Context())
	require.NoError(t, err)
	_, err = tx.Exec(t.Context(), "lock table people in access exclusive mode")
	require.NoError(t, err)
	unavailable := func(a answer) {
		require.Equal(t, http.StatusServiceUnavailable, a.status, a.body)
		p := a.problem(t)
		require.Equal(t, "unavailable", p.Code)
		require.Contains(t, p.Way, "nothing is stored twice")
		require.NotEmpty(t, a.header.Get("Retry-After"))
	}
	unavailable(marta.do("GET", "/api/wall", nil))
	require.NoError(t, tx.Rollback(t.Context()))
	other.Close()
	require.Equal(t, http.StatusOK, marta.do("GET", "/api/wall", nil).status)

	power.Kill()
	unavailable(marta.do("GET", "/api/wall", nil))
	unavailable(stranger.signsIn("ines", demo.Pin))
	require.Equal(t, http.StatusServiceUnavailable, stranger.do("GET", "/readyz", nil).status)
	require.Equal(t, http.StatusOK, stranger.do("GET", "/healthz", nil).status, "it is alive, and says so")
	power.Start()
	require.Equal(t, http.StatusOK, marta.do("GET", "/api/wall", nil).status)
	require.Equal(t, http.StatusOK, stranger.do("GET", "/readyz", nil).status)
}
