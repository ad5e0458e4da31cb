package server_test

import (
	"bytes"
	"context"
	"encoding/json"
	"log/slog"
	"net/http"
	"net/http/httptest"
	"net/url"
	"strings"
	"sync"
	"testing"

	"github.com/stretchr/testify/require"
)

type lines struct {
	sync.Mutex
	bytes.Buffer
}

func (l *lines) Write(b []byte) (int, error) {
	l.Lock()
	defer l.Unlock()
	return l.Buffer.Write(b)
}

// Each request has an id, in its answer and in its line of the log; a PIN is in none.
func TestTheLog(t *testing.T) {
	var out lines
	before := slog.Default()
	slog.SetDefault(slog.New(slog.NewJSONHandler(&out, &slog.HandlerOptions{Level: slog.LevelDebug})))
	t.Cleanup(func() { slog.SetDefault(before) })
	s := open(t)
	marta := s.as("marta")
	a := marta.do("GET", "/api/site", nil, "X-Request-Id", "from-the-proxy-7")
	require.Equal(t, "from-the-proxy-7", a.header.Get("X-Request-Id"))
	require.Len(t, marta.do("GET", "/api/wall", nil, "X-Request-Id", "a b\"{").header.Get("X-Request-Id"), 36,
		"another's that is none is not taken")
	require.Equal(t, http.StatusForbidden, s.visitor().signsIn("ines", "987123").status)
	out.Lock()
	defer out.Unlock()
	require.NotContains(t, out.String(), "987123")
	var line map[string]any
	for l := range strings.Lines(out.String()) {
		if strings.Contains(l, "from-the-proxy-7") {
			require.NoError(t, json.Unmarshal([]byte(l), &line))
		}
	}
	require.Equal(t, "/api/site", line["route"])
	require.EqualValues(t, http.StatusForbidden, line["status"])
	require.Equal(t, "INFO", line["level"])
	require.Positive(t, line["took"])
}

// What nobody waits for any more is no failure.
func TestAGivenUpRequest(t *testing.T) {
	s := open(t)
	marta := s.as("marta")
	at, err := url.Parse(s.http.URL)
	require.NoError(t, err)
	ctx, leave := context.WithCancel(t.Context())
	leave()
	r := httptest.NewRequestWithContext(ctx, http.MethodGet, "/api/wall", nil)
	for _, c := range marta.http.Jar.Cookies(at) {
		r.AddCookie(c)
	}
	w := httptest.NewRecorder()
	s.http.Config.Handler.ServeHTTP(w, r)
	require.Equal(t, 499, w.Code, w.Body)
	require.Equal(t, http.StatusOK, marta.do("GET", "/api/wall", nil).status)
}
