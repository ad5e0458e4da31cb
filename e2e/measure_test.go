package e2e

import (
	"bytes"
	"context"
	"encoding/json"
	"fmt"
	"io"
	"net/http"
	"net/http/cookiejar"
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"slices"
	"sort"
	"strconv"
	"sync"
	"testing"
	"time"

	"github.com/go-rod/rod/lib/input"
	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"
	"github.com/stretchr/testify/require"

	"dynacor/core/plan"
	"dynacor/core/run"
	"dynacor/internal/app"
	"dynacor/internal/demo"
	"dynacor/internal/server/contract"
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
	u.el("[data-act=main][data-ready=true]")
	u.MustEval(`() => {
		window.times = []; let since = 0
		addEventListener('keydown', () => { since = performance.now() }, true)
		new MutationObserver(() => { if (since) { const s = since; since = 0; requestAnimationFrame(() => times.push(performance.now() - s)) } })
			.observe(document.querySelector('main'), { subtree: true, attributes: true, attributeFilter: ['data-next-bolt'] })
	}`)
	const pulls = 110
	for i := range pulls {
		u.el("[data-act=main][data-ready=true]")
		u.press(input.Space)
		u.MustWait(fmt.Sprintf("() => times.length > %d", i))
	}
	var ms []float64
	require.NoError(t, u.MustEval("() => times").Unmarshal(&ms))
	sort.Float64s(ms)
	fmt.Printf("key to next bolt on screen, %d pulls: median %.1f ms, p99 %.1f ms, most %.1f ms\n", len(ms), ms[len(ms)/2], ms[(len(ms)*99+99)/100-1], ms[len(ms)-1])
}

const (
	clients    = 32
	eachClient = 4   // runs
	perRun     = 120 // entries: 24 bolts in three passes and two rounds
)

// Entries stored per second by 32 clients over HTTP, and rows per second that
// pgbench inserts into the same server, by turns.
func TestMeasureEntries(t *testing.T) {
	measured(t)
	s := open(t)
	var web, use, theirs []float64
	for range 3 {
		theirs = append(theirs, pgbench(t, s))
		use = append(use, storeManyInside(t, s))
		web = append(web, storeMany(t, s))
	}
	for _, list := range [][]float64{web, use, theirs} {
		slices.Sort(list)
	}
	fmt.Printf("pgbench -c %d, rows of the same size: median %.0f /s %.0f\n", clients, theirs[1], theirs)
	fmt.Printf("%d clients of the use case: median %.0f entries/s %.0f, ratio %.2f\n", clients, use[1], use, use[1]/theirs[1])
	fmt.Printf("%d clients over HTTP: median %.0f entries/s %.0f, ratio %.2f\n", clients, web[1], web, web[1]/theirs[1])
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
	who := app.Who{ID: p.ID, Roles: p.Roles}
	add := func(id uuid.UUID, c run.Content) (*run.Act, error) {
		r, err := a.AddEntry(ctx, who, app.NewEntry{Run: id, ID: uuid.New(), At: time.Now(), Content: c})
		if err != nil {
			return nil, err
		}
		return r.State.Next, nil
	}
	for _, id := range runs {
		_, err := add(uuid.MustParse(id), run.Caution{})
		require.NoError(t, err)
	}
	begun := time.Now()
	var wg sync.WaitGroup
	for k := range clients {
		wg.Go(func() {
			for _, id := range runs[k*eachClient : (k+1)*eachClient] {
				n := &run.Act{Bolt: 1, Pass: 1}
				for range perRun {
					var c run.Content = run.Pull{Bolt: n.Bolt, Pass: n.Pass}
					if n.Round > 0 {
						c = run.Check{Bolt: n.Bolt, Round: n.Round, Moved: n.Round == 1 && n.Bolt == 5}
					}
					var err error
					if n, err = add(uuid.MustParse(id), c); err != nil {
						t.Error(err)
						return
					}
				}
			}
		})
	}
	wg.Wait()
	return clients * eachClient * perRun / time.Since(begun).Seconds()
}

// storeMany lets each client work through its runs and returns entries/s.
func storeMany(t *testing.T, s *site) float64 {
	runs := makeRuns(t, s)
	c := &http.Client{Transport: &http.Transport{MaxIdleConnsPerHost: clients}}
	var err error
	c.Jar, err = cookiejar.New(nil)
	require.NoError(t, err)
	post(t, c, s.url("/api/session"), map[string]string{"login": "marta", "pin": demo.Pin})
	for _, id := range runs {
		post(t, c, s.url("/api/runs/"+id+"/entries"), entry("caution", map[string]any{}))
	}
	begun := time.Now()
	var wg sync.WaitGroup
	for k := range clients {
		wg.Go(func() {
			for _, id := range runs[k*eachClient : (k+1)*eachClient] {
				pullAll(t, c, s.url("/api/runs/"+id+"/entries"))
			}
		})
	}
	wg.Wait()
	return clients * eachClient * perRun / time.Since(begun).Seconds()
}

func pullAll(t *testing.T, c *http.Client, url string) {
	next := &contract.Act{Bolt: 1, Pass: 1}
	for range perRun {
		e := entry("pull", map[string]any{"bolt": next.Bolt, "pass": next.Pass})
		if next.Round > 0 {
			e = entry("check", map[string]any{"bolt": next.Bolt, "round": next.Round, "moved": next.Round == 1 && next.Bolt == 5})
		}
		var r struct{ Next *contract.Act }
		if err := json.Unmarshal(post(t, c, url, e), &r); err != nil {
			t.Error(err)
			return
		}
		next = r.Next
	}
}

func entry(kind string, content map[string]any) map[string]any {
	return map[string]any{"id": uuid.NewString(), "kind": kind, "at": time.Now().UTC().Format(time.RFC3339Nano), "content": content}
}

func post(t *testing.T, c *http.Client, url string, body any) []byte {
	b, err := json.Marshal(body)
	if err != nil {
		t.Error(err)
		return nil
	}
	r, err := c.Post(url, "application/json", bytes.NewReader(b))
	if err != nil {
		t.Error(err)
		return nil
	}
	defer r.Body.Close()
	out, err := io.ReadAll(r.Body)
	if err != nil || r.StatusCode != http.StatusOK {
		t.Errorf("%d %s %v", r.StatusCode, out, err)
	}
	return out
}

// makeRuns issues a plan of 24 bolts for each run and chooses its tool.
func makeRuns(t *testing.T, s *site) []string {
	ctx := context.Background()
	db, err := store.Open(ctx, s.database)
	require.NoError(t, err)
	defer db.Close()
	a := app.New(db, time.Now)
	marta, err := db.PersonByLogin(ctx, "marta")
	require.NoError(t, err)
	areas, err := db.Areas(ctx)
	require.NoError(t, err)
	in := plan.Starting()
	in.Bolts, in.BoltCircle.Value, in.Gasket.Outer.Value, in.Gasket.Inner.Value = 24, 800, 700, 640
	result, err := plan.Compute(in)
	require.NoError(t, err)
	var ids []string
	for range clients * eachClient {
		j := store.Joint{ID: uuid.New(), Area: areas[0].ID, Tag: "BENCH " + uuid.NewString(), Title: "bench", MadeAt: time.Now()}
		require.NoError(t, db.AddJoint(ctx, j))
		_, err := db.SaveDraft(ctx, store.Draft{Joint: j.ID, Input: in}, marta.ID, time.Now())
		require.NoError(t, err)
		id := uuid.New()
		_, err = db.Issue(ctx, store.Plan{Joint: j.ID, Input: in, Result: result, CoreVersion: plan.Version, IssuedBy: marta.ID, IssuedAt: time.Now()}, 1, id)
		require.NoError(t, err)
		tools, err := a.Choose(ctx, id, "", "TW-04", "", nil)
		require.NoError(t, err)
		_, err = a.AddEntry(ctx, app.Who{ID: marta.ID, Roles: []string{app.Fitter}}, app.NewEntry{Run: id, ID: uuid.New(), At: time.Now(), Content: run.Content(tools)})
		require.NoError(t, err)
		ids = append(ids, id.String())
	}
	return ids
}

var tps = regexp.MustCompile(`tps = ([\d.]+)`)

// pgbench inserts rows like those of entries, one a transaction.
func pgbench(t *testing.T, s *site) float64 {
	found, _ := filepath.Glob("/usr/lib/postgresql/*/bin/pgbench")
	require.NotEmpty(t, found, "pgbench is not installed")
	s.exec(`drop table if exists bench_rows; create table bench_rows (run uuid, seq bigserial, id uuid not null unique, kind text, at_tool timestamptz,
		at_server timestamptz, person uuid, tools text, body text, prev_hash bytea, hash bytea, primary key (run, seq))`)
	script := filepath.Join(t.TempDir(), "insert.sql")
	require.NoError(t, os.WriteFile(script, []byte(`insert into bench_rows (run, id, kind, at_tool, at_server, person, tools, body, prev_hash, hash) values (
		'6a82fda8-72a5-4018-b621-75730c5f8402', gen_random_uuid(), 'pull', now(), now(), '6a82fda8-72a5-4018-b621-75730c5f8402', 'TW-04',
		'{"Bolt": 12,"Pass": 2,"NoTurn": false,"Reading": {"Value": 0,"Unit": ""},"Confirmed": false}',
		'\x2c26b46b68ffc68ff99b453c1d30413413422d706483bfa0f98a5e886266e7ae', '\x2c26b46b68ffc68ff99b453c1d30413413422d706483bfa0f98a5e886266e7ae');`), 0o644))
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
