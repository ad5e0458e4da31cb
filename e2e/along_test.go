package e2e

import (
	"bytes"
	"fmt"
	"io"
	"net/http"
	"net/http/httptest"
	"net/http/httputil"
	"net/url"
	"os"
	"strconv"
	"strings"
	"sync/atomic"
	"testing"

	"github.com/go-rod/rod/lib/input"
	"github.com/stretchr/testify/require"

	"dynacor/core/record"
	"dynacor/core/sequence"
	"dynacor/core/work"
	"dynacor/e2e/browser"
	"dynacor/internal/demo"
)

// A joint that was taken along opens without a server, from its own address, and is worked
// at: the place is kept through reloads, what was stored just before the network went is
// counted, and in the end the record is the one that is made on line.
func TestAPageOpensWithoutAServer(t *testing.T) {
	s := open(t)
	soakRuns(t, s.opened(), 2, 8)
	tags := s.query("select tag from joints where tag like 'SOAK%' order by tag")
	marta := s.signIn("marta")
	order, err := sequence.Ring(sequence.Cross4, 8, 1)
	require.NoError(t, err)
	made := func(tag string) []string {
		return s.query("select e.kind, e.body from entries e join runs r on r.id = e.run join joints j on j.id = r.joint "+
			"where j.tag = $1 order by e.seq", tag)
	}
	begins := func(tag string) {
		marta.opens(tag, 1)
		marta.fast(tag, func(_ *work.State, a record.Act) bool { return a.Step == "pull" })
		marta.opens(tag, 3)
		marta.cautioned("in line with a stud")
	}
	begins(tags[0])
	for _, bolt := range order {
		marta.pull(bolt, 1, 0, input.Space)
	}
	marta.next(order[0], 2, 0)

	begins(tags[1])
	joint := s.query("select id::text from joints where tag = $1", tags[1])[0]
	marta.pull(order[0], 1, 0, input.Space)
	marta.next(order[1], 1, 0)
	marta.sees("header", "all stored")
	marta.el("[data-along=away]").MustClick()
	marta.sees("[data-along=here]", "Here, ")
	before := len(made(tags[1]))
	marta.pull(order[1], 1, 0, input.Space)
	marta.next(order[2], 1, 0)
	require.NoError(t, marta.until(func() bool { return len(made(tags[1])) > before }))
	marta.el("header [data-waiting='0']") // and this device was told so
	s.kill()

	// From its address, with no server there: two more, a reload, and one more from a page of its own.
	marta.MustNavigate(s.url("/joint/" + joint + "/3"))
	marta.sees("[data-kept]", "One entry made here since is counted")
	marta.sees("[role=status]", "no connection")
	for _, bolt := range order[2:4] {
		marta.pull(bolt, 1, 0, input.Space)
	}
	marta.next(order[4], 1, 0)
	marta.MustReload()
	marta.next(order[4], 1, 0)
	marta.sees("[role=status]", "2 kept here")
	marta.MustNavigate(s.url("/"))
	marta.sees("h1", "joints signed")
	marta.MustNavigate(s.url("/device"))
	marta.sees("[data-taken='"+tags[1]+"']", "as of ")
	marta.sees("li", tags[1]+"[^]*2 entries, since")
	marta.el("[data-taken='" + tags[1] + "'] a").MustClick()
	for _, bolt := range order[4:] {
		marta.pull(bolt, 1, 0, input.Space)
	}
	marta.el("[data-act=set]")
	require.Zero(t, marta.MustEval("() => { const w = document.querySelector('main'); return w.scrollHeight - w.clientHeight }").Int())
	marta.sees("[role=status]", "6 kept here")

	// The network comes back.
	s.start()
	marta.sees("[role=status]", "all stored")
	marta.next(order[0], 2, 0)
	require.NoError(t, marta.until(func() bool { return len(marta.MustElements("[data-kept]")) == 0 }))
	_ = marta.until(func() bool { return len(made(tags[1])) >= len(made(tags[0])) }) // the tool that was set is on its way
	require.Equal(t, made(tags[0]), made(tags[1]))

	// An area is taken at once, and dropped.
	marta.MustNavigate(s.url("/device"))
	marta.el("[data-take-area]").MustClick()
	marta.sees("[role=menuitem]", "^Turbine pit: [0-9]+ joints, about ").MustClick()
	marta.el("[data-taken='U2 / SHAFT SEAL']")
	marta.el("[data-drop-all]").MustClick()
	marta.sees("h1", "Nothing is taken along")
	marta.opens(tags[1], 3)
	marta.el("[data-along=away]").MustClick()
	marta.sees("[data-along=here]", "Here, ")

	// Another person at this device is shown nothing of hers without a network.
	require.Equal(t, marta.id(), marta.keptFor())
	marta.MustEval("() => fetch('/api/session', { method: 'DELETE' })")
	marta.MustReload()
	marta.el("input[name=login]")
	require.NoError(t, marta.until(func() bool { return marta.keptFor() == "" }))

	// A release that does not work is thrown off, and with it nothing else.
	marta.MustNavigate(s.url("/fresh.html"))
	marta.el("input[name=login]")
	require.Equal(t, "0 true", marta.MustEval(`async () => (await navigator.serviceWorker.getRegistrations()).length + " " +
		(await caches.keys()).includes("dynacor-along")`).Str())
}

// At a list of things to do, too, what was stored just before the network went is counted.
func TestAListIsGoneOnWithWithoutAServer(t *testing.T) {
	s := open(t)
	const tag = "GOV / GATE REDUCER"
	marta := s.signIn("marta")
	marta.opens(tag, 1)
	joint := s.query("select id::text from joints where tag = $1", tag)[0]
	marta.el("[data-along=away]").MustClick()
	marta.sees("[data-along=here]", "Here, ")
	marta.el("[data-current=kit]")
	is := func(item int, state string) {
		t.Helper()
		marta.el(fmt.Sprintf("li[data-state=%s] [data-tick='%d']", state, item))
	}
	n, err := strconv.Atoi(*marta.el("li[data-state=now] [data-tick]").MustAttribute("data-tick"))
	require.NoError(t, err)
	marta.press(input.Space)
	is(n+1, "now")
	marta.sees("header", "all stored")
	marta.el("header [data-waiting='0']")
	s.kill()
	marta.MustNavigate(s.url("/joint/" + joint + "/1"))
	marta.sees("[data-kept]", "One entry made here since is counted")
	is(n, "done")
	is(n+1, "now")
	marta.press(input.Space)
	is(n+2, "now")
	marta.sees("[role=status]", "1 kept here")
	s.start()
	marta.sees("[role=status]", "all stored")
	require.Equal(t, []string{strconv.Itoa(n), strconv.Itoa(n + 1)}, s.query("select item from (select e.seq, e.body::json->>'item' as item "+
		"from entries e join runs r on r.id = e.run where r.joint = $1 order by e.seq desc limit 2) last order by seq", joint))
}

// A tablet whose battery ends in the middle of a ring, with no network, keeps its place:
// each pull is on its disk before the next bolt is named.
func TestABatteryEndsWithoutANetwork(t *testing.T) {
	s := open(t)
	soakRuns(t, s.opened(), 1, 8)
	tag := s.query("select tag from joints where tag like 'SOAK%'")[0]
	joint := s.query("select id::text from joints where tag = $1", tag)[0]
	folder, err := os.MkdirTemp("", "dynacor-tablet-")
	require.NoError(t, err)
	var marta *user
	var dies func()
	tablet := func() {
		b, kill, err := browser.Device(folder)
		require.NoError(t, err)
		marta, dies = s.shownBy(b), kill
	}
	tablet()
	t.Cleanup(func() {
		dies()
		_ = os.RemoveAll(folder) // what still dies may still write
	})
	marta.enter("marta")
	marta.opens(tag, 1)
	marta.fast(tag, func(_ *work.State, a record.Act) bool { return a.Step == "pull" })
	marta.opens(tag, 3)
	marta.cautioned("in line with a stud")
	order, err := sequence.Ring(sequence.Cross4, 8, 1)
	require.NoError(t, err)
	marta.next(order[0], 1, 0)
	marta.sees("header", "all stored")
	marta.el("[data-along=away]").MustClick()
	marta.sees("[data-along=here]", "Here, ")
	s.kill()
	marta.sees("[role=status]", "no connection")
	for _, bolt := range order[:3] {
		marta.pull(bolt, 1, 0, input.Space)
	}
	marta.next(order[3], 1, 0)
	dies()

	tablet()
	marta.login = "marta"
	marta.MustNavigate(s.url("/joint/" + joint + "/3"))
	marta.sees("[role=status]", "3 kept here")
	marta.pull(order[3], 1, 0, input.Space)
	marta.next(order[4], 1, 0)

	// A session that was young may not have come to the disk: she signs in, and all of it is hers and stored.
	require.NoError(t, marta.Browser().SetCookies(nil))
	s.start()
	marta.el("input[name=login]").MustInput("marta")
	marta.el("input[name=pin]").MustInput(demo.Pin)
	marta.el("button[type=submit]").MustClick()
	marta.sees("[role=status]", "all stored")
	marta.next(order[4], 1, 0)
	var bolts []string
	for _, b := range order[:4] {
		bolts = append(bolts, strconv.Itoa(b))
	}
	require.Equal(t, bolts, s.query("select e.body::json->>'bolt' from entries e join runs r on r.id = e.run join joints j on j.id = r.joint "+
		"where j.tag = $1 and e.kind = 'done' and e.body::json->>'step' = 'pull' order by e.seq", tag))
}

// id is the person's own.
func (u *user) id() string {
	return u.s.query("select id::text from people where login = $1", u.login)[0]
}

// keptFor is whose session a page without a network would open with; empty: nobody's.
func (u *user) keptFor() string {
	return u.MustEval(`async () =>
		(await (await caches.open("dynacor-along")).match("/api/session"))?.headers.get("X-Dynacor-Person") ?? ""`).Str()
}

// A newer release never takes over by itself: it waits while somebody is at a joint, says so
// elsewhere, and takes over when asked to. What was taken along stays.
func TestANewerReleaseWaits(t *testing.T) {
	s := open(t)
	soakRuns(t, s.opened(), 1, 8)
	tag := s.query("select tag from joints where tag like 'SOAK%'")[0]
	var releases atomic.Int32
	to, err := url.Parse(s.url(""))
	require.NoError(t, err)
	proxy := &httputil.ReverseProxy{Rewrite: func(r *httputil.ProxyRequest) {
		r.SetURL(to)
		r.Out.Host = r.In.Host // whose origin changes are held to
		if r.In.URL.Path == "/worker.js" {
			r.Out.Header.Del("Accept-Encoding")
		}
	}}
	proxy.ModifyResponse = func(r *http.Response) error {
		if r.Request.URL.Path != "/worker.js" {
			return nil
		}
		b, err := io.ReadAll(r.Body)
		if err != nil {
			return err
		}
		b = append(b, fmt.Sprintf("\n// release %d", releases.Load())...)
		r.Body = io.NopCloser(bytes.NewReader(b))
		r.Header.Set("Content-Length", strconv.Itoa(len(b)))
		r.ContentLength = int64(len(b))
		return nil
	}
	public := httptest.NewServer(proxy)
	t.Cleanup(func() {
		public.CloseClientConnections() // the stream of changes never ends by itself
		public.Close()
	})
	marta := s.signIn("marta")
	marta.opens(tag, 1)
	marta.fast(tag, func(_ *work.State, a record.Act) bool { return a.Step == "pull" })
	s.address = strings.TrimPrefix(public.URL, "http://")
	marta.opens(tag, 3)
	marta.cautioned("in line with a stud")
	marta.el("[data-along=away]").MustClick()
	marta.sees("[data-along=here]", "Here, ")
	waits := `async () => Boolean((await navigator.serviceWorker.getRegistration())?.waiting)`
	require.False(t, marta.MustEval(waits).Bool())

	releases.Store(2)
	marta.MustReload()
	require.NoError(t, marta.until(func() bool { return marta.MustEval(waits).Bool() }))
	order, err := sequence.Ring(sequence.Cross4, 8, 1)
	require.NoError(t, err)
	marta.pull(order[0], 1, 0, input.Space)
	marta.next(order[1], 1, 0)
	require.Empty(t, marta.MustElements("[data-newer]"), "a hand is in the middle of a ring")
	require.True(t, marta.MustEval(waits).Bool())

	marta.el("header a[href='/wall']").MustClick()
	marta.el("[data-newer]").MustClick()
	require.NoError(t, marta.until(func() bool {
		there, err := marta.Eval(waits)
		return err == nil && !there.Value.Bool()
	}))
	marta.sees("h1", "joints signed")
	require.Empty(t, marta.MustElements("[data-newer]"))
	marta.MustNavigate(s.url("/device"))
	marta.el("[data-taken='" + tag + "']")
}

// A device that is nearly full says so before it refuses anything, on every page, and takes no
// more along than leaves room for what is done.
func TestADeviceThatIsNearlyFull(t *testing.T) {
	s := open(t)
	marta := s.visits()
	marta.MustEvalOnNewDocument(`navigator.storage.estimate = async () => ({ quota: 1e8, usage: 0.9e8 })`)
	marta.MustReload()
	marta.enter("marta")
	marta.sees("[data-scarce]", "room for 10 MB more")
	marta.el("[data-scarce] a").MustClick()
	marta.el("[data-take-next]").MustClick()
	marta.sees("[role=status]", "take fewer, or drop some")
	marta.sees("h1", "Nothing is taken along")
}
