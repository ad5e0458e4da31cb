package server_test

import (
	"bytes"
	"context"
	"encoding/json"
	"net/http"
	"sync"
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
	t.Cleanup(db.Close) // once the server is gone
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

// A disk that is full refuses what is to be stored, and nothing else; once there is room,
// the same goes through.
func TestTheDiskIsFull(t *testing.T) {
	s := open(t)
	marta := s.as("marta")
	run := marta.get("IV-2 / BONNET").Run
	s.exec(`create function full_disk() returns trigger language plpgsql as $$ begin
		raise exception 'could not extend file: No space left on device' using errcode = 'disk_full'; end $$`)
	s.exec("create trigger full_disk before insert on entries for each row execute function full_disk()")
	e := pull(run.Next, nil)
	a := marta.add(run.ID.String(), e)
	require.Equal(t, http.StatusServiceUnavailable, a.status, a.body)
	require.Equal(t, "unavailable", a.problem(t).Code)
	require.NotEmpty(t, a.header.Get("Retry-After"))
	require.Equal(t, run.Entries, marta.get("IV-2 / BONNET").Run.Entries, "what is there is shown all the same")
	s.exec("drop trigger full_disk on entries")
	require.Equal(t, http.StatusOK, marta.add(run.ID.String(), e).status)
	require.Equal(t, run.Entries+1, marta.get("IV-2 / BONNET").Run.Entries)
}

// A connection that is cut after the commit leaves nobody knowing: the same entry, sent
// again, is answered as stored, and stored once.
func TestTheAnswerIsLost(t *testing.T) {
	s := open(t)
	marta := s.as("marta")
	run := marta.get("IV-2 / BONNET").Run
	e := pull(run.Next, nil)
	body, err := json.Marshal(e)
	require.NoError(t, err)
	for range 3 { // a hand that gives up waiting, however far the server is by then
		ctx, cancel := context.WithCancel(t.Context())
		r, err := http.NewRequestWithContext(ctx, "POST", s.http.URL+"/api/runs/"+run.ID.String()+"/entries",
			&cutting{bytes.NewReader(body), cancel})
		require.NoError(t, err)
		r.Header.Set("Content-Type", "application/json")
		r.ContentLength = int64(len(body))
		if a, err := marta.http.Do(r); err == nil {
			a.Body.Close()
		}
	}
	require.Equal(t, http.StatusOK, marta.add(run.ID.String(), e).status)
	require.Equal(t, run.Entries+1, marta.get("IV-2 / BONNET").Run.Entries)
	found, err := s.store.Audit(t.Context(), against())
	require.NoError(t, err)
	require.Empty(t, found.Faults)
}

// cutting breaks its request off once its body was sent.
type cutting struct {
	*bytes.Reader
	cut func()
}

func (c *cutting) Read(b []byte) (int, error) {
	n, err := c.Reader.Read(b)
	if c.Len() == 0 {
		go c.cut()
	}
	return n, err
}

// Two servers that store entries of one run as fast as they can get in each other's way,
// and try again: everybody is answered, and everything is stored once.
func TestTwoServersSaturateOneRun(t *testing.T) {
	one := open(t)
	two := serve(t, one.store, server.Options{})
	run := one.as("marta").get("IV-2 / BONNET").Run
	const clients, each = 12, 15
	var all sync.WaitGroup
	for i := range clients {
		c := []*site{one, two}[i%2].as("marta")
		all.Go(func() {
			for range each {
				if a := c.add(run.ID.String(), newEntry("caution", map[string]any{"step": "pull"})); a.status != http.StatusOK {
					t.Errorf("%d %s", a.status, a.body)
				}
			}
		})
	}
	all.Wait()
	require.Equal(t, run.Entries+clients*each, one.as("marta").get("IV-2 / BONNET").Run.Entries)
	found, err := one.store.Audit(t.Context(), against())
	require.NoError(t, err)
	require.Empty(t, found.Faults)
}
