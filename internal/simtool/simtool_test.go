package simtool_test

import (
	"context"
	"encoding/json"
	"fmt"
	"net"
	"net/http"
	"net/http/httptest"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/require"

	"dynacor/core/crib"
	"dynacor/core/record"
	"dynacor/core/unit"
	"dynacor/core/work"
	"dynacor/internal/app"
	"dynacor/internal/simtool"
	"dynacor/internal/toollink"
)

// desk is a server that takes what a tool sends, and arms the next bolt.
type desk struct {
	mu    sync.Mutex
	taken map[uuid.UUID]app.ToolReading
	times map[uuid.UUID]int
	bad   int
	news  chan string
}

func (d *desk) HeardTool(context.Context, string) error { return nil }

func (d *desk) LinkTool(_ context.Context, tag, key string) (crib.Tool, error) {
	if key != "right" {
		return crib.Tool{}, &app.Error{Kind: app.NotSignedIn, Code: "no-link", Text: "no"}
	}
	return crib.Tool{Tag: tag}, nil
}

func (d *desk) ToolTarget(context.Context, string) (app.ToolTarget, bool, error) {
	d.mu.Lock()
	defer d.mu.Unlock()
	n := len(d.taken) + 1
	return app.ToolTarget{Target: work.Target{Act: record.Act{Bolt: n}, Value: 100, Low: 96, High: 110, Unit: unit.NewtonMetre},
		ID: fmt.Sprint("t", n)}, true, nil
}

func (d *desk) TakeReading(_ context.Context, _ string, r app.ToolReading) (app.TakenReading, error) {
	d.mu.Lock()
	defer d.mu.Unlock()
	d.taken[r.ID] = r
	d.times[r.ID]++
	return app.TakenReading{Verdict: app.ReadHeld}, nil
}

func (d *desk) KeepBadLine(context.Context, string, string, string, int) error {
	d.mu.Lock()
	defer d.mu.Unlock()
	d.bad++
	return nil
}

func (d *desk) Join() (chan string, bool) { return d.news, true }
func (d *desk) Leave(chan string)         {}

func serve(t *testing.T) (*desk, string) {
	d := &desk{taken: map[uuid.UUID]app.ToolReading{}, times: map[uuid.UUID]int{}, news: make(chan string)}
	l, err := net.Listen("tcp", "127.0.0.1:0")
	require.NoError(t, err)
	ctx, stop := context.WithCancel(context.Background())
	ended := make(chan error, 1)
	go func() { ended <- toollink.New(d, d, time.Now).Serve(ctx, l) }()
	t.Cleanup(func() {
		stop()
		require.NoError(t, <-ended)
	})
	return d, "tcp://" + l.Addr().String()
}

func (d *desk) has(so func() bool) func() bool {
	return func() bool {
		d.mu.Lock()
		defer d.mu.Unlock()
		return so()
	}
}

// Whatever goes wrong, each reading is taken, under one identity, and means what it meant.
func TestFaultsLoseNothing(t *testing.T) {
	for _, f := range simtool.Faults() {
		t.Run(string(f), func(t *testing.T) { losesNothing(t, f, time.Millisecond) })
	}
	// A pull that comes due before the one before it is acknowledged is made afterwards.
	t.Run("at once", func(t *testing.T) { losesNothing(t, simtool.Drop, time.Nanosecond) })
}

func losesNothing(t *testing.T, f simtool.Fault, pace time.Duration) {
	d, server := serve(t)
	ctx, stop := context.WithCancel(t.Context())
	tool := &simtool.Tool{Server: server, Tag: "EW-1", Key: "right", Pace: pace, Every: 2, Faults: []simtool.Fault{f}, Trace: 20}
	ended := make(chan error, 1)
	go func() { ended <- tool.Run(ctx) }()
	require.Eventually(t, d.has(func() bool { return len(d.taken) >= 8 }), 20*time.Second, 5*time.Millisecond)
	stop()
	require.NoError(t, <-ended)
	d.mu.Lock()
	defer d.mu.Unlock()
	twice, others := 0, 0
	for id, r := range d.taken {
		v, err := r.Peak.In(unit.NewtonMetre)
		require.NoError(t, err)
		require.InDelta(t, 100.5, v, 0.6)
		require.Len(t, r.Trace, 20)
		if d.times[id] > 1 {
			twice++
		}
		if r.Peak.Unit != unit.NewtonMetre {
			others++
		}
		if f == simtool.Clock {
			require.InDelta(t, time.Hour.Seconds(), r.Off.Seconds(), 5)
		}
	}
	require.Equal(t, f == simtool.Double || f == simtool.Drop, twice > 0 || f == simtool.Drop, "%d", twice)
	require.Equal(t, f == simtool.Unit, others > 0)
	require.Equal(t, f == simtool.Garbage, d.bad > 0)
}

func TestAWrongKeyIsTheEnd(t *testing.T) {
	_, server := serve(t)
	require.ErrorContains(t, (&simtool.Tool{Server: server, Tag: "EW-1", Key: "wrong"}).Run(t.Context()), "no-link")
}

func TestAToolMovedByHand(t *testing.T) {
	d, server := serve(t)
	tool := &simtool.Tool{Server: server, Tag: "EW-1", Key: "right", Trace: 30}
	p := simtool.ByHand(tool)
	ctx, stop := context.WithCancel(t.Context())
	defer stop()
	go func() { _ = tool.Run(ctx) }()
	ask := func(method, path, body string) *httptest.ResponseRecorder {
		w := httptest.NewRecorder()
		p.ServeHTTP(w, httptest.NewRequest(method, path, strings.NewReader(body)))
		return w
	}
	require.Contains(t, ask("GET", "/", "").Body.String(), "A made-up tool")
	state := func() (s struct {
		Target toollink.Out
		Heard  []string
	}) {
		require.NoError(t, json.Unmarshal(ask("GET", "/state", "").Body.Bytes(), &s))
		return s
	}
	require.Eventually(t, func() bool { return state().Target.ID == "t1" }, 10*time.Second, 5*time.Millisecond)
	for _, bad := range []string{"", "{}", `{"peak":-1}`, `{"peak":100,"fault":"rust"}`} {
		require.Equal(t, http.StatusUnprocessableEntity, ask("POST", "/pull", bad).Code, bad)
	}
	require.Equal(t, http.StatusNotFound, ask("GET", "/nothing", "").Code)
	require.Equal(t, http.StatusNoContent, ask("POST", "/pull", `{"peak":101.5,"angle":30,"fault":"unit"}`).Code)
	require.Eventually(t, func() bool { return state().Target.ID == "t2" }, 10*time.Second, 5*time.Millisecond)
	d.mu.Lock()
	defer d.mu.Unlock()
	require.Len(t, d.taken, 1)
	for _, r := range d.taken {
		require.Equal(t, unit.FootPound, r.Peak.Unit)
		require.Equal(t, "t1", r.Target)
	}
}
