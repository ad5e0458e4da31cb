package e2e

import (
	"bufio"
	"context"
	"fmt"
	"os"
	"os/exec"
	"path/filepath"
	"slices"
	"strings"
	"syscall"
	"testing"
	"time"

	"github.com/go-rod/rod"
	"github.com/go-rod/rod/lib/input"
	"github.com/go-rod/rod/lib/utils"
	"github.com/jackc/pgx/v5"
	"github.com/stretchr/testify/require"

	"dynacor/e2e/browser"
	"dynacor/internal/app"
	"dynacor/internal/demo"
	"dynacor/internal/pgdev/pgtest"
	"dynacor/internal/store"
)

// patience is how long a test waits for what a user would see.
const patience = 20 * time.Second

var (
	binary string
	chrome *rod.Browser
)

func TestMain(m *testing.M) { os.Exit(runTests(m)) }

func runTests(m *testing.M) int {
	folder, err := os.MkdirTemp("", "dynacor-e2e-")
	if err != nil {
		return fail(err)
	}
	defer os.RemoveAll(folder)
	binary = filepath.Join(folder, "dynacor")
	if out, err := exec.Command("go", "build", "-o", binary, "dynacor/cmd/dynacor").CombinedOutput(); err != nil {
		return fail(fmt.Errorf("%w: %s", err, out))
	}
	var stop func()
	chrome, stop, err = browser.Start()
	if err != nil {
		return fail(err)
	}
	defer stop()
	// A measured run syncs to disk as a real server does.
	return pgtest.Run(m, pgtest.Options{Synced: os.Getenv("DYNACOR_BENCH") != "", Prepare: load})
}

func load(ctx context.Context, s *store.Store) error {
	demo.HashPin = demo.LightPin // they sign in hundreds of times
	return demo.Load(ctx, s, time.Now())
}

func fail(err error) int {
	fmt.Fprintln(os.Stderr, "e2e:", err)
	return 1
}

// site is one server with a demo database of its own.
type site struct {
	t        *testing.T
	database string
	address  string
	cmd      *exec.Cmd
	settings []string      // of the server, beside its database
	ahead    time.Duration // of the screens' clocks: a test pulls faster than a hand
	store    *store.Store  // its database, looked at with look
	look     *app.App
}

// clock is a page's clock, which a test sets ahead: its presses come faster than
// any hand's, and would be asked about.
const clock = `(() => {
	const Real = Date
	let ahead = Number(sessionStorage.getItem("ahead") ?? 0)
	window.aheadBy = ms => { ahead = ms; sessionStorage.setItem("ahead", ms) }
	window.Date = class extends Real {
		constructor(...a) { a.length ? super(...a) : super(Real.now() + ahead) }
		static now() { return Real.now() + ahead }
	}
})()`

// open serves a database of the cluster that the tests share.
func open(t *testing.T) *site {
	if os.Getenv("DYNACOR_BENCH") == "" { // what is measured has the machine to itself
		t.Parallel()
	}
	return serve(t, pgtest.URL(t))
}

// serve runs a server on a demo database.
func serve(t *testing.T, database string) *site {
	s := &site{t: t, database: database, address: "127.0.0.1:0"}
	s.start()
	t.Cleanup(func() {
		_ = s.cmd.Process.Signal(syscall.SIGTERM)
		_ = s.cmd.Wait()
	})
	return s
}

// start runs the server; a second time on the same address as before.
func (s *site) start() {
	s.cmd = s.command("serve", "--listen", s.address)
	out, err := s.cmd.StdoutPipe()
	require.NoError(s.t, err)
	require.NoError(s.t, s.cmd.Start())
	line, err := bufio.NewReader(out).ReadString('\n')
	require.NoError(s.t, err)
	s.address = strings.TrimPrefix(strings.TrimSpace(line[strings.Index(line, "http://"):]), "http://")
}

func (s *site) command(args ...string) *exec.Cmd {
	cmd := exec.Command(binary, args...)
	cmd.Env = append(slices.DeleteFunc(os.Environ(), func(e string) bool { return strings.HasPrefix(e, "DYNACOR_") }),
		append([]string{"DYNACOR_DATABASE=" + s.database, "DYNACOR_INSECURE=1"}, s.settings...)...)
	cmd.Stderr = os.Stderr
	return cmd
}

// kill ends the server as a power cut would.
func (s *site) kill() {
	require.NoError(s.t, s.cmd.Process.Kill())
	_ = s.cmd.Wait()
}

func (s *site) url(path string) string { return "http://" + s.address + path }

// query returns the rows of a query as text, its cells joined by "|".
func (s *site) query(sql string, args ...any) []string {
	ctx := context.Background()
	conn, err := pgx.Connect(ctx, s.database)
	require.NoError(s.t, err)
	defer conn.Close(ctx)
	rows, err := conn.Query(ctx, sql, args...)
	require.NoError(s.t, err)
	out, err := pgx.CollectRows(rows, func(r pgx.CollectableRow) (string, error) {
		v, err := r.Values()
		cells := make([]string, len(v))
		for i, x := range v {
			cells[i] = fmt.Sprint(x)
		}
		return strings.Join(cells, "|"), err
	})
	require.NoError(s.t, err)
	return out
}

func (s *site) exec(sql string, args ...any) {
	ctx := context.Background()
	conn, err := pgx.Connect(ctx, s.database)
	require.NoError(s.t, err)
	defer conn.Close(ctx)
	_, err = conn.Exec(ctx, sql, args...)
	require.NoError(s.t, err)
}

// user is one person at a screen of their own.
type user struct {
	*rod.Page
	s      *site
	login  string
	person string // their id, once it was asked for
	apart  *apart // nil: with a network
	ahead  time.Duration
}

// sync brings the clock of this screen to that of the others.
func (u *user) sync() {
	if u.ahead != u.s.ahead {
		u.ahead = u.s.ahead
		u.MustEval("ms => window.aheadBy?.(ms)", u.ahead.Milliseconds())
	}
}

// later lets the time pass that a hand needs for a bolt.
func (u *user) later() {
	u.s.ahead += 1300 * time.Millisecond
	u.sync()
}

// often looks again for what a user would see after some hundredths of a second.
func often() utils.Sleeper {
	return utils.BackoffSleeper(10*time.Millisecond, 60*time.Millisecond, nil)
}

func (s *site) signIn(login string) *user {
	u := s.visits()
	u.enter(login)
	return u
}

// visits opens a browser of its own before the sign-in.
func (s *site) visits() *user {
	b, err := chrome.Incognito()
	require.NoError(s.t, err)
	s.t.Cleanup(func() { _ = b.Close() })
	return s.shownBy(b)
}

// shownBy opens a page in a browser.
func (s *site) shownBy(b *rod.Browser) *user {
	p := b.MustPage("")
	p.MustSetViewport(1280, 800, 1, false)
	p.MustEvalOnNewDocument(clock)
	u := &user{Page: p.Timeout(5 * time.Minute).Sleeper(often), s: s}
	u.MustNavigate(s.url("/"))
	return u
}

func (u *user) enter(login string) {
	u.login = login
	u.el("input[name=login]").MustInput(login)
	u.el("input[name=pin]").MustInput(demo.Pin)
	u.el("button[type=submit]").MustClick()
	u.sees("h1", "joints signed")
}

// el waits for an element.
func (u *user) el(selector string) *rod.Element {
	u.s.t.Helper()
	u.sync()
	e, err := u.Page.Timeout(patience).Element(selector)
	if err != nil {
		u.broken("%s does not see %s: %v", u.login, selector, err)
	}
	return e.CancelTimeout().Timeout(patience)
}

// sees waits for an element with a text, a regular expression.
func (u *user) sees(selector, text string) *rod.Element {
	u.s.t.Helper()
	u.sync()
	e, err := u.Page.Timeout(patience).ElementR(selector, text)
	if err != nil {
		u.broken("%s does not see %s with %q: %v", u.login, selector, text, err)
	}
	return e.CancelTimeout().Timeout(patience)
}

// broken leaves a picture of what was on the screen and ends the test.
func (u *user) broken(format string, args ...any) {
	u.s.t.Helper()
	picture := filepath.Join(os.TempDir(), "dynacor-"+strings.ReplaceAll(u.s.t.Name(), "/", "-")+".png")
	if b, err := u.Page.Timeout(patience).Screenshot(false, nil); err == nil {
		_ = os.WriteFile(picture, b, 0o644)
		u.s.t.Logf("the screen is in %s", picture)
	}
	u.s.t.Fatalf(format, args...)
}

// press presses a key on the page as a whole.
func (u *user) press(k input.Key) { require.NoError(u.s.t, u.Keyboard.Type(k)) }

// next waits until a bolt is next, in a stage or a round; what has to be set for
// it is set.
func (u *user) next(bolt, stage, round int) {
	u.s.t.Helper()
	u.comes(fmt.Sprintf("[data-next-bolt='%d'][data-next-stage='%d'][data-next-round='%d']", bolt, stage, round))
}

// comes waits for a bolt, and says that its tool is set where that is asked.
func (u *user) comes(selector string) {
	u.s.t.Helper()
	for u.el(selector + ", [data-act=set]").MustMatches("[data-act=set]") {
		u.later()
		u.press(input.KeyS)
		require.NoError(u.s.t, u.Page.Timeout(patience).Wait(rod.Eval(`() => !document.querySelector("[data-act=set]")`)))
	}
}

// pull presses k for a bolt once the screen takes presses.
func (u *user) pull(bolt, stage, round int, k input.Key) {
	u.s.t.Helper()
	u.next(bolt, stage, round)
	u.el("[data-act=main][data-ready=true]")
	u.later()
	u.press(k)
}

// api asks the server in the name of whoever is signed in.
func (u *user) api(path string) string {
	return u.MustEval("p => fetch(p).then(r => r.text())", path).Str()
}

// sign presses a button that asks for the PIN, and gives it.
func (u *user) sign(button string) {
	u.s.t.Helper()
	u.sees("button", button).MustClick()
	u.pin("^Sign$")
}

// pin answers the dialog that asks for it.
func (u *user) pin(act string) {
	u.s.t.Helper()
	u.el("[role=dialog] input[name=pin]").MustInput(demo.Pin)
	u.sees("[role=dialog] button", act).MustClick()
}
