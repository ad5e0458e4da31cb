package e2e

import (
	"bufio"
	"bytes"
	"context"
	"encoding/json"
	"fmt"
	"io"
	"net"
	"net/http"
	"net/http/httputil"
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"slices"
	"sort"
	"strconv"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/go-rod/rod/lib/input"
	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"
	"github.com/stretchr/testify/require"

	"dynacor/core/joint"
	"dynacor/core/recipe"
	"dynacor/core/record"
	"dynacor/core/work/worktest"
	"dynacor/internal/app"
	"dynacor/internal/demo"
	"dynacor/internal/judge"
	"dynacor/internal/recipes"
	"dynacor/internal/store"
)

// The figures of `make bench` that need the whole application. They are
// printed, not judged: a test never depends on how fast a machine is.

func measured(t *testing.T) {
	if os.Getenv("DYNACOR_BENCH") == "" {
		t.Skip("measured by make bench")
	}
}

// From a key pressed to the next bolt on the screen, on the 40-bolt joint.
func TestMeasurePull(t *testing.T) {
	measured(t)
	s := open(t)
	u := s.signIn("sefa")
	id := s.query("select id::text from joints where tag = 'U2 / HEAD COVER'")[0]
	u.MustNavigate(s.url("/joint/" + id + "/3"))
	u.comes("[data-next-bolt]")
	// What comes next is another bolt, or a tool to set before it.
	u.MustEval(`() => {
		const shown = () => { const e = document.querySelector("[data-next-bolt]"), d = e?.dataset
			return e ? [d.nextBolt, d.nextStage, d.nextRound].join() : document.querySelector("[data-act=set]") ? "set" : "" }
		window.times = []; let since = 0, before = ""
		addEventListener("keydown", e => { if (e.key === " ") { since = performance.now(); before = shown() } }, true)
		new MutationObserver(() => {
			const now = shown()
			if (!since || now === "" || now === before) return
			const s = since; since = 0
			requestAnimationFrame(() => times.push(performance.now() - s))
		}).observe(document.querySelector("main"), { subtree: true, childList: true, attributes: true })
	}`)
	const pulls = 110
	for i := range pulls {
		u.comes("[data-next-bolt]")
		u.el("[data-act=main][data-ready=true]")
		u.later()
		u.press(input.Space)
		u.MustWait(fmt.Sprintf("() => times.length > %d", i))
	}
	var ms []float64
	require.NoError(t, u.MustEval("() => times").Unmarshal(&ms))
	sort.Float64s(ms)
	fmt.Printf("key to next bolt on screen, %d pulls: median %.1f ms, p99 %.1f ms, most %.1f ms\n", len(ms), ms[len(ms)/2],
		ms[(len(ms)*99+99)/100-1], ms[len(ms)-1])
}

const (
	turns      = 5
	clients    = 32
	eachClient = 4   // runs
	perRun     = 123 // entries: 24 bolts in three stages, each set first, and two rounds
)

// Entries stored per second by 32 clients over HTTP, and rows per second that
// pgbench inserts into the same server, by turns.
func TestMeasureEntries(t *testing.T) {
	measured(t)
	s := open(t)
	var use, web []float64 // of pgbench in the same turn: how fast the machine and its disk are differs from turn to turn
	for range turns {
		theirs, inside, over := pgbench(t, s), storeManyInside(t, s), storeMany(t, s)
		fmt.Printf("pgbench -c %d, rows of the same size: %.0f/s; use case: %.0f/s; over HTTP: %.0f/s\n", clients, theirs, inside, over)
		use, web = append(use, inside/theirs), append(web, over/theirs)
	}
	slices.Sort(use)
	slices.Sort(web)
	fmt.Printf("of pgbench, median of %d turns: use case %.2f %.2f, over HTTP %.2f %.2f\n", turns, use[turns/2], use, web[turns/2], web)
}

// storeManyInside does the same without HTTP: each client calls the use case
// that judges, chains and stores.
func storeManyInside(t *testing.T, s *site) float64 {
	ctx := context.Background()
	runs := makeRuns(t, s)
	db, err := store.Open(ctx, s.database)
	require.NoError(t, err)
	defer db.Close()
	a := app.New(db, time.Now)
	working, stop := context.WithCancel(ctx)
	defer stop()
	a.Start(working)
	p, err := db.PersonByLogin(ctx, "marta")
	require.NoError(t, err)
	fact, err := db.FactOf(ctx, store.PersonFact, p.ID.String())
	require.NoError(t, err)
	who := app.WhoOf(store.Session{Person: p.ID, Roles: p.Roles, Fact: fact})
	begun := time.Now()
	var wg sync.WaitGroup
	for k := range clients {
		wg.Go(func() {
			for _, run := range runs[k*eachClient : (k+1)*eachClient] {
				at := paced()
				r, err := a.Run(ctx, run.id)
				for range perRun {
					if err != nil {
						t.Error(err)
						return
					}
					n, _ := r.State.Next()
					now := at()
					var c record.Content = record.Done{Act: n, Moved: n.Round == 1 && n.Bolt == 5}
					if set, unset := r.State.Unset(who.ID.String(), now); unset {
						c = set
					}
					r, err = a.AddEntry(ctx, who, judge.NewEntry{Run: r.Head.ID, ID: uuid.New(), At: now, Content: c})
				}
			}
		})
	}
	wg.Wait()
	return clients * eachClient * perRun / time.Since(begun).Seconds()
}

// storeMany lets each client work through its runs, over a connection of its own,
// and returns entries/s.
func storeMany(t *testing.T, s *site) float64 {
	runs := makeRuns(t, s)
	signIn, err := json.Marshal(map[string]string{"login": "marta", "pin": demo.Pin})
	require.NoError(t, err)
	in, err := http.Post(s.url("/api/session"), "application/json", bytes.NewReader(signIn))
	require.NoError(t, err)
	require.NoError(t, in.Body.Close())
	cookie := in.Cookies()[0]
	writer, err := dial(s.address, cookie)
	require.NoError(t, err)
	defer writer.conn.Close()
	script, err := writer.scripted(runs[clients*eachClient])
	require.NoError(t, err)
	begun := time.Now()
	var wg sync.WaitGroup
	for k := range clients {
		wg.Go(func() {
			c, err := dial(s.address, cookie)
			if err != nil {
				t.Error(err)
				return
			}
			defer c.conn.Close()
			for _, r := range runs[k*eachClient : (k+1)*eachClient] {
				if err := c.pullAll(r, script); err != nil {
					t.Error(err)
					return
				}
			}
		})
	}
	wg.Wait()
	return clients * eachClient * perRun / time.Since(begun).Seconds()
}

// wire is a client that costs the machine little, so that the server has it to
// itself: as pgbench's statements, its requests are written beforehand, and of an
// answer it sees whether the entry was stored, and reads the rest away.
type wire struct {
	conn net.Conn
	in   *bufio.Reader
	head string // of each request, up to its length
	out  []byte // the request being written
}

func dial(address string, cookie *http.Cookie) (*wire, error) {
	conn, err := net.Dial("tcp", address)
	if err != nil {
		return nil, err
	}
	return &wire{conn: conn, in: bufio.NewReader(conn), head: fmt.Sprintf(" HTTP/1.1\r\nHost: %s\r\nCookie: %s=%s\r\n"+
		"Content-Type: application/json\r\nContent-Length: ", address, cookie.Name, cookie.Value)}, nil
}

// post sends one request and reads its answer, which lasts until the next.
func (w *wire) post(path string, body []byte) ([]byte, error) {
	w.out = append(append(append(w.out[:0], "POST "...), path...), w.head...)
	w.out = append(append(strconv.AppendInt(w.out, int64(len(body)), 10), "\r\n\r\n"...), body...)
	if _, err := w.conn.Write(w.out); err != nil {
		return nil, err
	}
	status, err := w.in.ReadString('\n')
	length := -1
	for err == nil {
		var line []byte
		if line, err = w.in.ReadSlice('\n'); len(line) == len("\r\n") {
			break
		}
		if n, ok := bytes.CutPrefix(line, []byte("Content-Length: ")); ok {
			length, err = strconv.Atoi(string(bytes.TrimSpace(n)))
		}
	}
	if err != nil {
		return nil, err
	}
	var answer []byte
	if length < 0 { // in parts
		if answer, err = io.ReadAll(httputil.NewChunkedReader(w.in)); err == nil {
			_, err = w.in.ReadSlice('\n')
		}
	} else {
		w.out = slices.Grow(w.out[:0], length)[:length]
		_, err = io.ReadFull(w.in, w.out)
		answer = w.out
	}
	if err == nil && !strings.HasPrefix(status, "HTTP/1.1 200") {
		err = fmt.Errorf("%s%s", status, answer)
	}
	return answer, err
}

// pullAll pulls every bolt of a run, as a screen does that has seen it: script
// holds the contents of its entries.
func (w *wire) pullAll(run readyRun, script []string) error {
	at, path := paced(), "/api/runs/"+run.id.String()+"/entries"
	var body []byte
	for k, content := range script {
		body = fmt.Appendf(body[:0], `{"id":"%s","at":"%s","content":%s,"known":%d}`, uuid.New(), at().UTC().Format(time.RFC3339Nano),
			content, run.entries+k)
		answer, err := w.post(path, body)
		if err != nil {
			return err
		}
		known := strconv.Itoa(run.entries + k) // an answer says this, or one more
		if !bytes.Contains(answer, []byte(`"after":`+known)) && !bytes.Contains(answer, fmt.Appendf(nil, `"entries":%d`, run.entries+k+1)) {
			return fmt.Errorf("entry %d was not stored: %s", k, answer)
		}
	}
	return nil
}

// scripted works through a run and returns the contents of its entries.
func (w *wire) scripted(run readyRun) ([]string, error) {
	type act struct {
		Step, Group string
		Bolt, Round int
		Share       float64
		Set         bool
	}
	var script []string
	next := &act{Step: first.Step, Bolt: first.Bolt, Share: 20, Set: true, Group: "bolts"}
	at, path := paced(), "/api/runs/"+run.id.String()+"/entries"
	for range perRun {
		content := map[string]any{"kind": "done", "step": next.Step, "bolt": next.Bolt, "share": next.Share, "round": next.Round,
			"moved": next.Round == 1 && next.Bolt == 5}
		if next.Set {
			content = map[string]any{"kind": "setting", "group": next.Group, "share": next.Share}
		}
		c, err := json.Marshal(content)
		if err != nil {
			return nil, err
		}
		answer, err := w.post(path, fmt.Appendf(nil, `{"id":"%s","at":"%s","content":%s}`, uuid.New(), at().UTC().Format(time.RFC3339Nano), c))
		if err != nil {
			return nil, err
		}
		var r struct{ Run struct{ Next *act } }
		if err := json.Unmarshal(answer, &r); err != nil {
			return nil, err
		}
		script, next = append(script, string(c)), r.Run.Next
	}
	return script, nil
}

// first is the first pull of a measured run.
var first = record.Act{Step: "pull", Bolt: 1, Share: 20}

// paced gives the times of pulls as a hand makes them.
func paced() func() time.Time {
	at := time.Now().Add(-30 * time.Minute)
	return func() time.Time {
		at = at.Add(10 * time.Second)
		return at
	}
}

// readyRun is a run at its first pull, with so many entries.
type readyRun struct {
	id      uuid.UUID
	entries int
}

// makeRuns issues a plan of 24 bolts for each run, and does what comes before its
// first pull.
func makeRuns(t *testing.T, s *site) []readyRun {
	ctx := context.Background()
	db, err := store.Open(ctx, s.database)
	require.NoError(t, err)
	defer db.Close()
	a := app.New(db, time.Now)
	working, stop := context.WithCancel(ctx)
	defer stop()
	a.Start(working)
	marta, err := db.PersonByLogin(ctx, "marta")
	require.NoError(t, err)
	areas, err := db.Areas(ctx)
	require.NoError(t, err)
	all, err := recipes.Book()
	require.NoError(t, err)
	flange := all[slices.IndexFunc(all, func(r recipe.Recipe) bool { return r.ID == "gasketed-flange" })]
	in := worktest.Flanged(24)
	in.Recipe, in.Edition = flange.ID, flange.Edition
	in.Choices = map[string]string{"work": "make", "gasket": "sheet", "faces": "raised", "bolts": "machine bolts"}
	in.Values["gasket thickness"] = in.Values["gap limit"]
	result, err := joint.Compute(in, flange)
	require.NoError(t, err)
	who := app.Who{ID: marta.ID, Roles: marta.Roles}
	ready := make([]readyRun, clients*eachClient+1) // the last is the pattern of the others
	var wg sync.WaitGroup
	for i := range ready {
		j := store.Joint{ID: uuid.New(), Area: areas[0].ID, Tag: "BENCH " + uuid.NewString(), Title: "bench", Recipe: flange.ID,
			MadeAt: time.Now()}
		require.NoError(t, db.AddJoint(ctx, j))
		_, err := db.SaveDraft(ctx, store.Draft{Joint: j.ID, Input: in}, marta.ID, time.Now())
		require.NoError(t, err)
		id := uuid.New()
		_, err = db.Issue(ctx, store.Plan{Joint: j.ID, Input: in, Result: result, CoreVersion: joint.Version, IssuedBy: marta.ID,
			IssuedAt: time.Now().Add(-2 * time.Hour)}, store.Seen{Draft: 1}, id)
		require.NoError(t, err)
		wg.Go(func() { ready[i] = readyRun{id, prepare(t, a, who, id)} })
	}
	wg.Wait()
	return ready
}

// prepare does the steps of a run up to its first pull, and chooses its tool.
func prepare(t *testing.T, a *app.App, who app.Who, id uuid.UUID) (entries int) {
	ctx, at := context.Background(), time.Now().Add(-time.Hour)
	r, err := a.Run(ctx, id)
	add := func(n judge.NewEntry) {
		at = at.Add(time.Second)
		n.Run, n.ID, n.At = id, uuid.New(), at
		if err == nil {
			r, err = a.AddEntry(ctx, who, n)
		}
	}
	add(judge.NewEntry{Tools: &judge.ToolChoice{Group: "bolts", Wrench: "TW-04"}})
	for err == nil {
		next, _ := r.State.Next()
		if st, _ := r.State.Plan().Step(next.Step); len(st.Cautions) > 0 && !r.State.Cautioned(st.ID, who.ID.String()) {
			add(judge.NewEntry{Content: record.Caution{Step: st.ID}})
		}
		if next.Step == first.Step {
			break
		}
		add(judge.NewEntry{Content: (&worktest.Hand{State: r.State}).Done(next)})
	}
	if err != nil {
		t.Error(err)
	}
	return r.Head.HeadSeq
}

var tps = regexp.MustCompile(`tps = ([\d.]+)`)

// pgbench inserts rows like those of entries, one a transaction.
func pgbench(t *testing.T, s *site) float64 {
	found, _ := filepath.Glob("/usr/lib/postgresql/*/bin/pgbench")
	require.NotEmpty(t, found, "pgbench is not installed")
	s.exec(`drop table if exists bench_rows; create table bench_rows (run uuid, seq bigserial, id uuid not null unique, kind text,
		at_tool timestamptz, at_server timestamptz, person uuid, tools text, body text, prev_hash bytea, hash bytea,
		primary key (run, seq))`)
	script := filepath.Join(t.TempDir(), "insert.sql")
	require.NoError(t, os.WriteFile(script, []byte(`insert into bench_rows
		(run, id, kind, at_tool, at_server, person, tools, body, prev_hash, hash) values (
		'6a82fda8-72a5-4018-b621-75730c5f8402', gen_random_uuid(), 'done', now(), now(), '6a82fda8-72a5-4018-b621-75730c5f8402', 'TW-04',
		'{"step":"pull","bolt":12,"share":60}',
		'\x2c26b46b68ffc68ff99b453c1d30413413422d706483bfa0f98a5e886266e7ae',
		'\x2c26b46b68ffc68ff99b453c1d30413413422d706483bfa0f98a5e886266e7ae');`), 0o644))
	cfg, err := pgx.ParseConfig(s.database)
	require.NoError(t, err)
	cmd := exec.Command(found[0], "-n", "-c", strconv.Itoa(clients), "-j", "2", "-T", "6", "-M", "prepared", "-f", script, cfg.Database)
	cmd.Env = append(os.Environ(), "PGHOST="+cfg.Host, fmt.Sprint("PGPORT=", cfg.Port), "PGUSER="+cfg.User, "PGPASSWORD="+cfg.Password)
	out, err := cmd.CombinedOutput()
	require.NoError(t, err, string(out))
	m := tps.FindSubmatch(out)
	require.NotNil(t, m, string(out))
	v, err := strconv.ParseFloat(string(m[1]), 64)
	require.NoError(t, err)
	return v
}
