package e2e

import (
	"context"
	"errors"
	"fmt"
	"math/rand/v2"
	"net/http"
	"os"
	"path/filepath"
	"slices"
	"sync"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/require"

	"dynacor/core/joint"
	"dynacor/core/recipe"
	"dynacor/core/record"
	"dynacor/core/unit"
	"dynacor/core/work/worktest"
	"dynacor/internal/app"
	"dynacor/internal/pgdev/pgtest"
	"dynacor/internal/recipes"
	"dynacor/internal/seal"
	"dynacor/internal/store"
)

const (
	soakClients = 12
	soakEach    = 60 // runs that each has to work on
)

// TestSoak kills the server and the database at random, as a power cut does, while twelve
// people work: what was acknowledged is stored, nothing is doubled, chains and seals hold.
// DYNACOR_SOAK says for how long, e.g. 5m; make soak runs it.
func TestSoak(t *testing.T) {
	long, err := time.ParseDuration(os.Getenv("DYNACOR_SOAK"))
	if err != nil {
		t.Skip("set DYNACOR_SOAK to how long, e.g. 5m")
	}
	folder := t.TempDir()
	heads := filepath.Join(folder, "heads")
	require.NoError(t, os.Mkdir(heads, 0o755))
	key, err := seal.LoadOrMake(filepath.Join(folder, "seal.key"))
	require.NoError(t, err)
	alone := pgtest.NewAlone(t, load)
	s := &site{t: t, database: alone.URL(), address: "127.0.0.1:0", settings: []string{"DYNACOR_KEY=" + filepath.Join(folder, "seal.key"),
		"DYNACOR_HEADS=" + heads, "DYNACOR_AUDIT_EVERY=0", "DYNACOR_LOG=error"}}
	s.start()
	db, err := store.Open(t.Context(), s.database)
	require.NoError(t, err)
	defer db.Close()
	x := soak{base: "http://" + s.address, look: app.New(db, time.Now), acknowledged: map[string]int{}, sent: map[string]bool{}}
	runs := soakRuns(t, db, soakClients*soakEach, 8)
	ctx, stop := context.WithTimeout(t.Context(), long)
	defer stop()
	var clients sync.WaitGroup
	for i := range soakClients {
		fitter, inspector := deviceOf(t, x.base, "marta", "4711", x.look), deviceOf(t, x.base, "ines", "4711", x.look)
		clients.Go(func() {
			x.works(ctx, fitter, inspector, runs[i*soakEach:(i+1)*soakEach], rand.New(rand.NewPCG(uint64(i), 7)))
		})
	}
	dice := rand.New(rand.NewPCG(1, 2))
	kills := map[string]int{}
	for ctx.Err() == nil {
		select {
		case <-ctx.Done():
		case <-time.After(time.Duration(2000+dice.IntN(6000)) * time.Millisecond):
			if dice.IntN(3) == 0 {
				alone.Kill()
				alone.Start()
				kills["database"]++
				continue
			}
			s.kill()
			s.start()
			kills["server"]++
		}
	}
	clients.Wait()
	s.kill()
	found, err := db.Audit(t.Context(), store.Against{Keys: []seal.Public{key.Public()}, Journal: heads})
	require.NoError(t, err)
	for _, f := range found.Faults {
		t.Error(f)
	}
	rows, err := db.Pool().Query(t.Context(), "select id::text, count(*)::int, max(kind) from entries where run = any($1) group by id",
		runs)
	require.NoError(t, err)
	stored, kinds := 0, map[string]int{}
	for rows.Next() {
		var id, kind string
		var n int
		require.NoError(t, rows.Scan(&id, &n, &kind))
		require.Equal(t, 1, n, id)
		require.True(t, x.sent[id], "somebody sent %s", id)
		delete(x.acknowledged, id)
		kinds[kind]++
		stored++
	}
	require.NoError(t, rows.Err())
	require.Empty(t, x.acknowledged, "acknowledged, and not stored")
	require.Empty(t, x.wrong)
	signed := 0
	for _, id := range runs {
		if r, err := x.look.Run(t.Context(), id); err == nil && r.State.Standing == record.Signed {
			signed++
		}
	}
	t.Logf("%v: %d entries stored %v, %d runs signed, %d sent again; killed: %v; audited %d plans, %d entries, %d seals, %d lines of the "+
		"second place: all holds", long, stored, kinds, signed, x.again, kills, found.Plans, found.Entries, found.Seals, found.Journal)
}

// soak is what the clients share.
type soak struct {
	base string
	look *app.App

	mu           sync.Mutex
	acknowledged map[string]int // entries that the server said it stored
	sent         map[string]bool
	again        int
	wrong        []string
}

// works takes runs from their plan to their second signature, with readings, corrections,
// trouble, pauses and another tool on the way.
func (x *soak) works(ctx context.Context, fitter, inspector *device, runs []uuid.UUID, dice *rand.Rand) {
	for _, run := range runs {
		last := ""
		for ctx.Err() == nil {
			content, r, err := fitter.next(ctx, run)
			if err != nil {
				time.Sleep(100 * time.Millisecond) // the database is away
				continue
			}
			if r.State.Standing == record.Signed {
				break
			}
			who, pin := fitter, ""
			if content == nil {
				if content, who, pin = x.signature(r, fitter, inspector); content == nil {
					x.says("nothing is next in %s: %v", run, r.State.Open())
					return
				}
			}
			content, last = varied(content, r, last, dice)
			e := who.entry(content)
			if pin != "" {
				e["pin"] = pin
			}
			if x.send(ctx, who, run, e) && content["kind"] == "done" {
				last = e["id"].(string)
			}
		}
	}
}

// signature is what is left of a run that is done.
func (x *soak) signature(r app.Run, fitter, inspector *device) (sent, *device, string) {
	switch {
	case r.State.Paused != nil:
		return sent{"kind": "resume"}, fitter, ""
	case r.State.Standing != record.Sign:
		return nil, nil, ""
	case len(r.State.Signatures) == 0:
		return sent{"kind": "signature", "part": "made"}, fitter, fitter.pin
	}
	return sent{"kind": "signature", "part": "checked", "reason": "seen"}, inspector, inspector.pin
}

// varied is what somebody says now and then instead.
func varied(content sent, r app.Run, last string, dice *rand.Rand) (sent, string) {
	bolt, _ := content["bolt"].(int)
	switch n := dice.IntN(100); {
	case r.State.Paused != nil:
		return sent{"kind": "resume"}, last
	case bolt == 0 || content["kind"] != "done":
	case n < 4:
		return sent{"kind": "pause", "note": "phone"}, ""
	case n < 8 && last != "":
		return sent{"kind": "correction", "of": last, "reason": "read wrong"}, ""
	case n < 10:
		return sent{"kind": "trouble", "group": "bolts", "bolt": bolt, "what": "thread damaged", "remedy": "try again", "note": "burr"}, ""
	case n < 12:
		return sent{"kind": "tooling", "group": "bolts", "wrench": "TW-04"}, ""
	case n < 30:
		if t, ok := r.State.Tool(record.Act{Step: content["step"].(string), Bolt: bolt, Share: content["share"].(float64)}); ok {
			content["reading"] = sent{"value": t.Setting.Value, "unit": string(t.Setting.Unit)}
		}
	}
	return content, last
}

// send sends an entry until somebody says what became of it, as a screen does.
func (x *soak) send(ctx context.Context, d *device, run uuid.UUID, e sent) bool {
	id := e["id"].(string)
	x.mu.Lock()
	x.sent[id] = true
	x.mu.Unlock()
	for try := 0; ; try++ {
		err := d.ask("POST", "/api/runs/"+run.String()+"/entries", e, nil)
		var refused *refusedError
		switch {
		case err == nil:
			x.mu.Lock()
			x.acknowledged[id]++
			x.mu.Unlock()
			return true
		case errors.As(err, &refused) && refused.Status == http.StatusUnauthorized:
			x.says("signed out: %v", err)
			return false
		case errors.As(err, &refused) && refused.Status < 500:
			return false // it is looked at anew
		case errors.As(err, &refused) && refused.Status == http.StatusInternalServerError:
			x.says("%v", err)
			return false
		case ctx.Err() != nil:
			return false
		}
		x.mu.Lock()
		x.again++
		x.mu.Unlock()
		time.Sleep(time.Duration(min(50*(try+1), 500)) * time.Millisecond)
	}
}

func (x *soak) says(format string, args ...any) {
	x.mu.Lock()
	defer x.mu.Unlock()
	if len(x.wrong) < 20 {
		x.wrong = append(x.wrong, fmt.Sprintf(format, args...))
	}
}

// soakRuns issues a plan of eight bolts for each run.
func soakRuns(t *testing.T, db *store.Store, n, bolts int) (out []uuid.UUID) {
	t.Helper()
	ctx := t.Context()
	edda, err := db.PersonByLogin(ctx, "edda")
	require.NoError(t, err)
	areas, err := db.Areas(ctx)
	require.NoError(t, err)
	all, err := recipes.Book()
	require.NoError(t, err)
	flange := all[slices.IndexFunc(all, func(r recipe.Recipe) bool { return r.ID == "gasketed-flange" })]
	in := worktest.Flanged(bolts)
	in.Recipe, in.Edition = flange.ID, flange.Edition
	in.Choices = map[string]string{"work": "make", "gasket": "sheet", "faces": "raised", "bolts": "machine bolts"}
	in.Values["gasket thickness"] = joint.Given{Value: unit.Of(3, unit.Millimetre)}
	in.Values["test pressure"], in.Values["test drop"] = joint.Given{Value: unit.Of(16, unit.Bar)}, joint.Given{Value: unit.Of(0.2, unit.Bar)}
	in.Values["test time"] = joint.Given{Value: unit.Of(10, "")}
	res, err := joint.Compute(in, flange)
	require.NoError(t, err)
	for range n {
		j := store.Joint{ID: uuid.New(), Area: areas[0].ID, Tag: "SOAK " + uuid.NewString()[:18], Title: "soak", Recipe: flange.ID,
			MadeAt: time.Now()}
		require.NoError(t, db.AddJoint(ctx, j))
		_, err := db.SaveDraft(ctx, store.Draft{Joint: j.ID, Input: in}, edda.ID, time.Now())
		require.NoError(t, err)
		id := uuid.New()
		_, err = db.Issue(ctx, store.Plan{Joint: j.ID, Input: in, Result: res, CoreVersion: joint.Version, IssuedBy: edda.ID,
			IssuedAt: time.Now().Add(-time.Hour)}, store.Seen{Draft: 1}, id)
		require.NoError(t, err)
		out = append(out, id)
	}
	return out
}
