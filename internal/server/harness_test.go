package server_test

import (
	"bytes"
	"context"
	"encoding/json"
	"io"
	"net/http"
	"net/http/cookiejar"
	"net/http/httptest"
	"os"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"dynacor/internal/app"
	"dynacor/internal/contract"
	"dynacor/internal/demo"
	"dynacor/internal/pgdev/pgtest"
	"dynacor/internal/seal"
	"dynacor/internal/server"
	"dynacor/internal/store"
)

// load fills a database with the demo.
func load(ctx context.Context, s *store.Store) error {
	demo.HashPin = demo.LightPin // they sign in hundreds of times
	return demo.Load(ctx, s, time.Now())
}

// key seals what the servers of these tests store.
var key = must(seal.New())

func must[T any](v T, err error) T {
	if err != nil {
		panic(err)
	}
	return v
}

func TestMain(m *testing.M) {
	os.Exit(pgtest.Run(m, pgtest.Options{Prepare: load}))
}

// site is a server on a demo database of its own.
type site struct {
	t     *testing.T
	app   *app.App
	store *store.Store
	http  *httptest.Server
}

func open(t *testing.T) *site { return serve(t, pgtest.Store(t), server.Options{}) }

func openWith(t *testing.T, o server.Options) *site { return serve(t, pgtest.Store(t), o) }

// serve starts a server on a database that others may serve too.
func serve(t *testing.T, db *store.Store, o server.Options) *site {
	s := &site{t: t, store: db}
	a := app.New(s.store, time.Now)
	s.app = a
	require.NoError(t, a.SealWith(t.Context(), key, nil))
	hub := server.NewHub()
	h, err := server.New(a, s.store.Sessions(), hub, o)
	require.NoError(t, err)
	ctx, stop := context.WithCancel(context.Background())
	go hub.Follow(ctx, s.store)
	a.Start(ctx)
	s.http = httptest.NewServer(h)
	t.Cleanup(func() {
		stop()
		s.http.CloseClientConnections()
		s.http.Close()
	})
	return s
}

// exec changes the database behind the server's back.
func (s *site) exec(sql string) {
	s.t.Helper()
	_, err := s.store.Pool().Exec(s.t.Context(), sql)
	require.NoError(s.t, err)
}

// client is one browser.
type client struct {
	*site
	http *http.Client
}

func (s *site) visitor() *client {
	jar, err := cookiejar.New(nil)
	require.NoError(s.t, err)
	return &client{s, &http.Client{Jar: jar}}
}

func (s *site) as(login string) *client {
	c := s.visitor()
	r := c.do("POST", "/api/session", map[string]string{"login": login, "pin": demo.Pin})
	require.Equal(s.t, http.StatusOK, r.status, r.body)
	return c
}

type answer struct {
	status int
	body   string
	header http.Header
}

func (a answer) problem(t *testing.T) contract.Problem {
	t.Helper()
	require.Equal(t, "application/problem+json", a.header.Get("Content-Type"), a.body)
	return decode[contract.Problem](t, a)
}

func decode[T any](t *testing.T, a answer) T {
	t.Helper()
	var v T
	require.NoError(t, json.Unmarshal([]byte(a.body), &v), a.body)
	return v
}

func (c *client) do(method, path string, body any, headers ...string) answer {
	c.t.Helper()
	var b []byte
	switch v := body.(type) {
	case nil:
	case string:
		b = []byte(v)
	default:
		var err error
		b, err = json.Marshal(v)
		require.NoError(c.t, err)
	}
	req, err := http.NewRequest(method, c.site.http.URL+path, bytes.NewReader(b))
	require.NoError(c.t, err)
	if body != nil {
		req.Header.Set("Content-Type", "application/json")
	}
	for i := 0; i+1 < len(headers); i += 2 {
		req.Header.Set(headers[i], headers[i+1])
	}
	r, err := c.http.Do(req)
	require.NoError(c.t, err)
	defer r.Body.Close()
	if strings.HasPrefix(r.Header.Get("Content-Type"), "text/event-stream") {
		return answer{r.StatusCode, "", r.Header}
	}
	out, err := io.ReadAll(r.Body)
	require.NoError(c.t, err)
	return answer{r.StatusCode, string(out), r.Header}
}

// joint returns the id of the joint with that tag.
func (c *client) joint(tag string) string {
	c.t.Helper()
	w := decode[contract.Wall](c.t, c.do("GET", "/api/wall", nil))
	for _, a := range w.Areas {
		for _, j := range a.Joints {
			if j.Tag == tag {
				return j.ID.String()
			}
		}
	}
	require.Fail(c.t, "no joint "+tag)
	return ""
}

func (c *client) get(tag string) contract.Joint {
	c.t.Helper()
	return decode[contract.Joint](c.t, c.do("GET", "/api/joints/"+c.joint(tag), nil))
}
