package e2e

import (
	"bytes"
	"context"
	"encoding/base64"
	"fmt"
	"os"
	"path/filepath"
	"runtime"
	"sync"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/require"

	"dynacor/core/planning"
	"dynacor/core/record"
	"dynacor/internal/app"
	"dynacor/internal/backup"
	"dynacor/internal/pgdev/pgtest"
	"dynacor/internal/report"
	"dynacor/internal/seal"
	"dynacor/internal/sheets"
	"dynacor/internal/store"
)

// The largest plant: so many runs, each with so many entries.
const (
	plantRuns    = 5000
	plantEntries = 100
)

// TestMeasurePlant measures what a plant of years asks for: a list of five thousand joints
// taken in, a record of two thousand entries verified, half a million entries audited,
// backed up and restored.
func TestMeasurePlant(t *testing.T) {
	if os.Getenv("DYNACOR_BENCH") == "" {
		t.Skip("set DYNACOR_BENCH to measure")
	}
	db := pgtest.Store(t)
	key, err := seal.New()
	require.NoError(t, err)
	a := app.New(db, time.Now)
	require.NoError(t, a.SealWith(t.Context(), key, nil))
	measureImport(t, a)
	measureVerify(t, db, a, key)

	runs := soakRuns(t, db, plantRuns, 8)
	fill(t, db, runs, plantEntries)
	require.NoError(t, a.Seal(t.Context()))
	var before, peak runtime.MemStats
	runtime.GC()
	runtime.ReadMemStats(&before)
	watched, done := make(chan struct{}), make(chan struct{})
	go func() {
		defer close(done)
		for {
			select {
			case <-watched:
				return
			case <-time.After(20 * time.Millisecond):
				var now runtime.MemStats
				runtime.ReadMemStats(&now)
				if now.HeapInuse > peak.HeapInuse {
					peak = now
				}
			}
		}
	}()
	began := time.Now()
	found, err := db.Audit(t.Context(), store.Against{Keys: []seal.Public{key.Public()}})
	require.NoError(t, err)
	close(watched)
	<-done
	require.Empty(t, found.Faults)
	t.Logf("audit of %d plans, %d entries, %d facts, %d seals: %.1f s; heap before %d MB, at most %d MB", found.Plans, found.Entries,
		found.Facts,
		found.Seals, time.Since(began).Seconds(), before.HeapInuse>>20, peak.HeapInuse>>20)

	folder := t.TempDir()
	url := db.Pool().Config().ConnString()
	began = time.Now()
	n, dump, err := backup.Write(t.Context(), url, folder, &key)
	require.NoError(t, err)
	t.Logf("backup of %d entries: %.1f s, %.1f MB", n.State.Entries, time.Since(began).Seconds(), float64(n.Size)/1e6)
	to := pgtest.Empty(t)
	began = time.Now()
	_, err = backup.Read(dump, key.Public())
	require.NoError(t, err)
	require.NoError(t, backup.Restore(t.Context(), to, dump, n, false))
	t.Logf("restore of it: %.1f s", time.Since(began).Seconds())
	_ = filepath.Base(dump)
}

func measureImport(t *testing.T, a *app.App) {
	lines := make([][]string, plantRuns)
	for i := range lines {
		lines[i] = []string{fmt.Sprintf("L-%04d", i), "Penstock gallery", "From planning", "Gasketed pipe flange", "260", "8", "M20",
			"8.8", "light oil"}
	}
	var b bytes.Buffer
	require.NoError(t, sheets.XLSX(&b, "Joints", sheets.Table{Headings: []string{"Tag", "Area", "What it is", "Kind of joint",
		"Torque (N·m)", "Bolts",
		"Thread", "Grade", "Lubricant"}, Lines: lines}))
	look, err := a.LookAtImport(t.Context(), b.Bytes())
	require.NoError(t, err)
	var fields []planning.Field
	for _, c := range look.Columns {
		fields = append(fields, c.Field)
	}
	who := who(t, a, "liv")
	for _, what := range []string{"new", "the same again"} {
		began := time.Now()
		got, err := a.Import(t.Context(), who, b.Bytes(), fields, false)
		require.NoError(t, err)
		t.Logf("list of %d joints as XLSX, %s (%d kB): %.1f s, %v", plantRuns, what, len(base64.StdEncoding.EncodeToString(b.Bytes()))/1000,
			time.Since(began).Seconds(), got.Count)
	}
}

func who(t *testing.T, a *app.App, login string) app.Who {
	t.Helper()
	id, err := a.Login(t.Context(), login)
	require.NoError(t, err)
	p, err := a.Person(t.Context(), id)
	require.NoError(t, err)
	return app.Who{ID: p.ID, Roles: p.Roles, Qualifications: p.Qualifications}
}

func measureVerify(t *testing.T, db *store.Store, a *app.App, key seal.Key) {
	run := soakRuns(t, db, 1, 8)[0]
	fill(t, db, []uuid.UUID{run}, 1999)
	head, err := db.RunByID(t.Context(), run)
	require.NoError(t, err)
	marta := who(t, a, "marta")
	fact, err := db.FactOf(t.Context(), store.PersonFact, marta.ID.String())
	require.NoError(t, err)
	_, _, err = db.Append(t.Context(), head, record.Entry{ID: uuid.NewString(), AtTool: time.Now(), AtServer: time.Now(),
		Person:  marta.ID.String(),
		Content: record.Signature{Part: record.Made}}, store.Made{Person: fact})
	require.NoError(t, err)
	began := time.Now()
	rec, err := a.Record(t.Context(), head.Joint, 0)
	require.NoError(t, err)
	t.Logf("record of %d entries: %.2f s", len(rec.Entries), time.Since(began).Seconds())
	for format, write := range map[string]func(*bytes.Buffer) error{
		"JSON": func(b *bytes.Buffer) error { return report.JSON(b, rec) }, "PDF": func(b *bytes.Buffer) error {
			return report.PDF(b,
				rec)
		}} {
		var b bytes.Buffer
		began = time.Now()
		require.NoError(t, write(&b))
		wrote := time.Since(began)
		began = time.Now()
		v, err := app.Verify(b.Bytes(), key.Public())
		require.NoError(t, err)
		require.Empty(t, v.Faults)
		t.Logf("%s of it: written in %.2f s, %d kB; verified in %.2f s", format, wrote.Seconds(), b.Len()/1000, time.Since(began).Seconds())
	}
}

// fill adds entries to runs, each a caution that was read.
func fill(t *testing.T, db *store.Store, runs []uuid.UUID, n int) {
	t.Helper()
	ctx, stop := context.WithCancel(t.Context())
	defer stop()
	together := store.NewTogether(db)
	go together.Work(ctx)
	var person uuid.UUID
	require.NoError(t, db.Pool().QueryRow(ctx, "select id from people where login = 'marta'").Scan(&person))
	fact, err := db.FactOf(ctx, store.PersonFact, person.String())
	require.NoError(t, err)
	left := make(chan uuid.UUID, len(runs))
	for _, r := range runs {
		left <- r
	}
	close(left)
	var all sync.WaitGroup
	for range 48 {
		all.Go(func() {
			for id := range left {
				head, err := db.RunByID(ctx, id)
				for range n {
					if err != nil {
						t.Error(err)
						return
					}
					_, head, err = together.Append(ctx, head, record.Entry{ID: uuid.NewString(), AtTool: time.Now(), AtServer: time.Now(),
						Person: person.String(), Content: record.Caution{Step: "pull", Points: []string{"Nobody in line with a stud."}}},
						store.Made{Person: fact})
				}
			}
		})
	}
	all.Wait()
}
