package toollink_test

import (
	"bufio"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"net"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/require"

	"dynacor/core/crib"
	"dynacor/core/record"
	"dynacor/core/refusal"
	"dynacor/core/work"
	"dynacor/internal/app"
	"dynacor/internal/toollink"
)

// desk is a server behind a gateway, made up.
type desk struct {
	mu     sync.Mutex
	taken  []app.ToolReading
	bad    []string
	target string
	fails  error
}

func (d *desk) HeardTool(context.Context, string) error { return nil }

func (d *desk) LinkTool(_ context.Context, tag, key string) (crib.Tool, error) {
	if key != "right" {
		return crib.Tool{}, &app.Error{Kind: app.NotSignedIn, Code: "no-link", Text: "no", Way: "another key"}
	}
	return crib.Tool{Tag: tag, Name: "electronic wrench"}, nil
}

func (d *desk) ToolTarget(context.Context, string) (t app.ToolTarget, ok bool, err error) {
	d.mu.Lock()
	defer d.mu.Unlock()
	if d.target == "" {
		return t, false, nil
	}
	return app.ToolTarget{Target: work.Target{Act: record.Act{Bolt: 3}, Value: 100, Low: 96, High: 110, Unit: "N·m"}, ID: d.target}, true, nil
}

func (d *desk) TakeReading(_ context.Context, _ string, r app.ToolReading) (app.TakenReading, error) {
	d.mu.Lock()
	defer d.mu.Unlock()
	d.taken = append(d.taken, r)
	return app.TakenReading{Verdict: app.ReadHeld, Says: "held"}, d.fails
}

func (d *desk) KeepBadLine(_ context.Context, _, line, says string, more int) error {
	d.mu.Lock()
	defer d.mu.Unlock()
	d.bad = append(d.bad, fmt.Sprintf("%s +%d", says, more))
	return nil
}

// news never has any but those that are sent.
type news struct{ all chan string }

func (n news) Join() (chan string, bool) { return n.all, true }
func (n news) Leave(chan string)         {}

// line is a tool's end of a connection.
type line struct {
	t *testing.T
	net.Conn
	in *bufio.Reader
}

func open(t *testing.T, d *desk, n news) *line {
	l, err := net.Listen("tcp", "127.0.0.1:0")
	require.NoError(t, err)
	ctx, stop := context.WithCancel(t.Context())
	g := toollink.New(d, n, time.Now)
	ended := make(chan error, 1)
	go func() { ended <- g.Serve(ctx, l) }()
	c, err := net.Dial("tcp", l.Addr().String())
	require.NoError(t, err)
	t.Cleanup(func() {
		_ = c.Close()
		stop()
		require.NoError(t, <-ended)
	})
	return &line{t, c, bufio.NewReader(c)}
}

func (l *line) says(text string) {
	l.t.Helper()
	_, err := l.Write([]byte(text + "\n"))
	require.NoError(l.t, err)
}

func (l *line) hears() (out toollink.Out) {
	l.t.Helper()
	require.NoError(l.t, l.SetReadDeadline(time.Now().Add(10*time.Second)))
	b, err := l.in.ReadBytes('\n')
	require.NoError(l.t, err)
	require.NoError(l.t, json.Unmarshal(b, &out), "%s", b)
	return out
}

const hello = `{"kind":"hello","version":1,"tool":"EW-1","key":"right","clock":"2026-11-26T10:00:00Z"}`

func reading(id string, more string) string {
	return fmt.Sprintf(`{"kind":"reading","id":%q,"at":"2026-11-26T10:00:05Z","peak":{"value":101.5,"unit":"N·m"}%s}`, id, more)
}

func TestAToolIsLetInAndTold(t *testing.T) {
	d, n := &desk{}, news{make(chan string, 1)}
	l := open(t, d, n)
	l.says(hello)
	in := l.hears()
	require.Equal(t, toollink.Welcome, in.Kind)
	require.Equal(t, "electronic wrench", in.Name)
	require.NotNil(t, in.Clock)
	require.Equal(t, toollink.Rest, l.hears().Kind)
	d.mu.Lock()
	d.target = "t1"
	d.mu.Unlock()
	n.all <- "a joint"
	to := l.hears()
	require.Equal(t, toollink.Out{Kind: toollink.Target, ID: "t1", Bolt: 3, Value: 100, Low: 96, High: 110, Unit: "N·m"}, to)
	id := uuid.NewString()
	l.says(reading(id, `,"angle":31,"target":"t1","trace":[[0,1],[10,50],[31,101.5]]`))
	out := l.hears()
	require.Equal(t, []string{toollink.Taken, id, "held"}, []string{out.Kind, out.ID, out.Verdict})
	require.Len(t, d.taken, 1)
	r := d.taken[0]
	require.Equal(t, 31.0, *r.Angle)
	require.Len(t, r.Trace, 3)
	require.Greater(t, r.Off, time.Duration(0), "its clock is behind ours")
	l.says(`{"kind":"ping"}`)
	require.Equal(t, toollink.Pong, l.hears().Kind)
	d.fails = errors.New("the disk is full")
	l.says(reading(id, ""))
	out = l.hears()
	require.Equal(t, "unavailable", out.Code, "our fault: it is sent again")
	require.NotContains(t, out.Says, "disk")
	require.Empty(t, d.bad, "nor does the crib keeper hear of it")
	d.fails = refusal.New(refusal.Contradicts, "peak", "bar is no torque.", "Look at the tool's unit.")
	l.says(reading(id, ""))
	require.Equal(t, "bar is no torque.", l.hears().Says)
	l.says(`{"kind":"ping"}`)
	require.Equal(t, toollink.Pong, l.hears().Kind)
	require.Equal(t, []string{"bar is no torque. +0"}, d.bad, "what cannot be is kept for the crib keeper")
}

func TestLinesThatAreNone(t *testing.T) {
	d := &desk{}
	l := open(t, d, news{make(chan string)})
	l.says(hello)
	l.hears()
	l.hears()
	id := uuid.NewString()
	for _, c := range []struct{ line, says string }{
		{"", "no line"}, {"}{", "no line"}, {"[]", "no line"}, {`"hello"`, "no line"}, {`{"kind":"dance"}`, `"dance"`},
		{`{"kind":"ping"} {"kind":"ping"}`, "more behind"}, {`{"kind":"ping","colour":"red"}`, "colour"}, {hello, "signed in already"},
		{reading("7", ""), "no identity"}, {`{"kind":"reading","id":"` + id + `"}`, "when it was"},
		{`{"kind":"reading","id":"` + id + `","at":"2026-11-26T10:00:05Z"}`, "no peak"},
		{reading(id, `,"trace":[[0,1],[2]]`), "Point 2"}, {reading(id, `,"angle":"much"`), "no line"},
		{`{"kind":"` + strings.Repeat("x", toollink.MostLine) + `"}`, "too long"},
		{reading(id, `,"peak":{"value":1e400,"unit":"N·m"}`), "no line"},
	} {
		l.says(c.line)
		out := l.hears()
		require.Equal(t, toollink.Refused, out.Kind, "%.80s", c.line)
		require.Contains(t, out.Says, c.says)
		require.NotEmpty(t, out.Way)
	}
	require.Empty(t, d.taken)
	require.Len(t, d.bad, 1, "the first is kept at once")
	for range 200 {
		if _, err := l.Write([]byte("}{\n")); err != nil {
			break
		}
	}
	require.NoError(t, l.SetReadDeadline(time.Now().Add(10*time.Second)))
	for {
		if _, err := l.in.ReadBytes('\n'); err != nil {
			break // let go
		}
	}
	require.Eventually(t, func() bool { d.mu.Lock(); defer d.mu.Unlock(); return len(d.bad) == 2 }, 10*time.Second, 5*time.Millisecond)
	require.Contains(t, d.bad[1], "+199", "and how many followed, once")
}

func TestWhoIsNotLetIn(t *testing.T) {
	for line, code := range map[string]string{
		`{"kind":"hello","version":1,"tool":"EW-1","key":"wrong"}`: "no-link",
		`{"kind":"hello","version":2,"tool":"EW-1","key":"right"}`: "version",
		`{"kind":"ping"}`: "malformed", "GET / HTTP/1.1": "malformed", reading(uuid.NewString(), ""): "malformed",
	} {
		l := open(t, &desk{}, news{make(chan string)})
		l.says(line)
		require.Equal(t, code, l.hears().Code, line)
		require.NoError(t, l.SetReadDeadline(time.Now().Add(10*time.Second)))
		_, err := l.in.ReadByte()
		require.Error(t, err, "and is let go")
	}
}

// Whatever is sent, the gateway answers with lines of its own, or closes.
func FuzzLine(f *testing.F) {
	f.Add([]byte(hello))
	f.Add([]byte(reading("c0a80101-0000-4000-8000-000000000001", "")))
	f.Add([]byte("{}\n\x00\xff"))
	f.Fuzz(func(t *testing.T, b []byte) {
		d := &desk{}
		l := open(t, d, news{make(chan string)})
		l.says(hello)
		l.hears()
		l.hears()
		_, _ = l.Write(append(b, "\n"...))
		l.says(`{"kind":"ping"}`)
		for n := 0; ; n++ {
			if out := l.hears(); out.Kind == toollink.Pong {
				return
			}
			require.Less(t, n, len(b)+2)
		}
	})
}
