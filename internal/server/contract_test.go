package server_test

import (
	"io"
	"net/http"
	"strings"
	"testing"
	"testing/fstest"

	"github.com/getkin/kin-openapi/openapi3filter"
	"github.com/getkin/kin-openapi/routers/gorillamux"
	"github.com/stretchr/testify/require"

	"dynacor/internal/contract"
	"dynacor/internal/server"
)

// What the server answers is what the contract says, for joints in every
// state, and problems too.
func TestAnswersFitTheContract(t *testing.T) {
	spec, err := contract.GetSpec()
	require.NoError(t, err)
	spec.Servers = nil
	router, err := gorillamux.NewRouter(spec)
	require.NoError(t, err)
	s := open(t)
	c := s.as("marta")
	fits := func(method, path string, body any) {
		t.Helper()
		got := c.do(method, path, body)
		req, err := http.NewRequest(method, "http://localhost"+path, nil)
		require.NoError(t, err)
		route, params, err := router.FindRoute(req)
		require.NoError(t, err)
		err = openapi3filter.ValidateResponse(t.Context(), &openapi3filter.ResponseValidationInput{
			RequestValidationInput: &openapi3filter.RequestValidationInput{Request: req, PathParams: params, Route: route},
			Status:                 got.status, Header: got.header, Body: io.NopCloser(strings.NewReader(got.body)),
		})
		require.NoError(t, err, "%s %s: %d", method, path, got.status)
	}
	fits("GET", "/api/session", nil)
	fits("GET", "/api/wall", nil)
	fits("GET", "/api/words", nil)
	for _, a := range decode[contract.Wall](t, c.do("GET", "/api/wall", nil)).Areas {
		for _, j := range a.Joints {
			fits("GET", "/api/joints/"+j.ID.String(), nil)
			fits("POST", "/api/joints/"+j.ID.String()+"/ways", map[string]any{"group": "bolts"})
			fits("POST", "/api/joints/"+j.ID.String()+"/ways", map[string]any{"group": "none"})
			if run := decode[contract.Joint](t, c.do("GET", "/api/joints/"+j.ID.String(), nil)).Run; run != nil {
				fits("POST", "/api/runs/"+run.ID.String()+"/readings", map[string]any{"step": "gap", "readings": []float64{1, 2, 1, 1}})
				fits("POST", "/api/runs/"+run.ID.String()+"/readings", map[string]any{"step": "none", "readings": []float64{-1}})
			}
		}
	}
	fits("POST", "/api/session", map[string]string{"login": "marta", "pin": "nope"})
	fits("GET", "/api/joints/none", nil)
}

func TestTheFrontEndIsServed(t *testing.T) {
	files := fstest.MapFS{
		"index.html":             {Data: []byte("<!doctype html>page")},
		"assets/main-1a2b.js":    {Data: []byte("plain")},
		"assets/main-1a2b.js.gz": {Data: []byte("packed")},
		"icon.svg":               {Data: []byte("<svg/>")},
	}
	s := openWith(t, server.Options{Front: files})
	c := s.visitor()
	for path, want := range map[string]string{"/": "page", "/wall": "page", "/joint/x/3": "page", "/icon.svg": "<svg/>",
		"/../../etc/passwd": "page"} {
		got := c.do("GET", path, nil)
		require.Equal(t, http.StatusOK, got.status, path)
		require.Contains(t, got.body, want, path)
		require.Equal(t, "no-cache", got.header.Get("Cache-Control"), path)
	}
	got := c.do("GET", "/assets/main-1a2b.js", nil, "Accept-Encoding", "gzip")
	require.Equal(t, "packed", got.body)
	require.Equal(t, "gzip", got.header.Get("Content-Encoding"))
	require.Contains(t, got.header.Get("Cache-Control"), "immutable")
	require.Contains(t, got.header.Get("Content-Type"), "javascript")
	require.Equal(t, "plain", c.do("GET", "/assets/main-1a2b.js", nil, "Accept-Encoding", "identity").body)
	require.Equal(t, http.StatusNotFound, c.do("GET", "/assets/gone.js", nil).status)
	require.Equal(t, http.StatusMethodNotAllowed, c.do("POST", "/wall", "{}").status)
}
