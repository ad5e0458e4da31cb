package e2e

import (
	"context"
	"fmt"
	"os"
	"runtime/debug"
	"slices"
	"sync"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/require"

	"dynacor/core/crib"
	"dynacor/core/record"
	"dynacor/core/work"
	"dynacor/internal/app"
	"dynacor/internal/pgdev/pgtest"
	"dynacor/internal/store"
)

// recallTools is how many wrenches the plant's pulls were made with, one a joint.
const recallTools = 30

// TestMeasureRecall measures what a tool touched, of five thousand joints with half a million
// pulls: as the first thing a server is asked, of joints that nobody looked at since it
// started, and again; and the board, which counts all pulls.
func TestMeasureRecall(t *testing.T) {
	if os.Getenv("DYNACOR_BENCH") == "" {
		t.Skip("set DYNACOR_BENCH to measure")
	}
	defer debug.SetGCPercent(debug.SetGCPercent(800)) // as serve does
	db := pgtest.Store(t)
	runs := soakRuns(t, db, plantRuns, 8)
	pulled(t, db, runs, plantEntries)
	// A plant's pulls are not all of the last minute: what the database still has to write is written.
	for _, settle := range []string{"vacuum analyze", "checkpoint"} {
		_, err := db.Pool().Exec(t.Context(), settle)
		require.NoError(t, err)
	}
	a := app.New(db, time.Now)
	recall := func(tool int) time.Duration {
		began := time.Now()
		list, n, err := a.Touched(t.Context(), fmt.Sprintf("BT-%02d", tool), time.Now().Add(-time.Hour), 0)
		require.NoError(t, err)
		took := time.Since(began)
		require.InDelta(t, plantRuns/recallTools, n, 1)
		require.NotEmpty(t, list[0].Made)
		return took
	}
	first := recall(0)
	var fresh, again []time.Duration
	for i := range recallTools - 1 {
		fresh = append(fresh, recall(1+i)) // of whose joints nothing was looked at yet
	}
	for i := range recallTools {
		again = append(again, recall(i))
	}
	slices.Sort(fresh)
	slices.Sort(again)
	t.Logf("recall of one of %d tools over %d joints and %d pulls: %v as the first thing a server is asked; of joints that nobody looked "+
		"at yet median %v, worst %v; again median %v, worst %v", recallTools, plantRuns, plantRuns*plantEntries, first.Round(time.Millisecond),
		fresh[len(fresh)/2].Round(time.Millisecond), fresh[len(fresh)-1].Round(time.Millisecond), again[len(again)/2].Round(time.Millisecond),
		again[len(again)-1].Round(time.Millisecond))
	began := time.Now()
	board, err := a.Crib(t.Context())
	require.NoError(t, err)
	t.Logf("board of %d tools with their pulls counted: %v", len(board), time.Since(began).Round(time.Millisecond))
}

// pulled makes each run with a wrench: the bolts one after the other, over and over, until it
// has so many pulls.
func pulled(t *testing.T, db *store.Store, runs []uuid.UUID, n int) {
	t.Helper()
	ctx, stop := context.WithCancel(t.Context())
	defer stop()
	person, err := db.PersonByLogin(ctx, "marta")
	require.NoError(t, err)
	bo, err := db.PersonByLogin(ctx, "bo")
	require.NoError(t, err)
	var tools []store.NewTool
	for i := range recallTools {
		data := crib.Tool{Tag: fmt.Sprintf("BT-%02d", i), Name: "wrench", Kind: crib.Wrench, Face: crib.Preset, Unit: "N·m", Most: 200, DriveOut: "1/2",
			Accuracy: 0.04, Months: 12, Pulls: 100_000}
		at := time.Now().Add(-24 * time.Hour)
		tools = append(tools, store.NewTool{Data: data, Life: []crib.Entry{{ID: uuid.NewString(), On: at, AtServer: at, Person: bo.ID.String(),
			Content: crib.Bought{}}}})
	}
	require.NoError(t, db.NewTools(ctx, tools, nil))
	fact, err := db.FactOf(ctx, store.PersonFact, person.ID.String())
	require.NoError(t, err)
	a := app.New(db, time.Now)
	first, err := a.Run(ctx, runs[0])
	require.NoError(t, err)
	plan := first.State.Plan()
	g, _ := plan.Result.Group("bolts")
	var acts []record.Act
	for _, st := range plan.Steps() {
		acts = append(acts, slices.DeleteFunc(slices.Clone(plan.Acts(st.ID)), func(x record.Act) bool { return x.Bolt == 0 || x.Lock })...)
	}
	together := store.NewTogether(db)
	go together.Work(ctx)
	left := make(chan int, len(runs))
	for i := range runs {
		left <- i
	}
	close(left)
	var all sync.WaitGroup
	for range 48 {
		all.Go(func() {
			for i := range left {
				tag := fmt.Sprintf("BT-%02d", i%recallTools)
				head, err := db.RunByID(ctx, runs[i])
				add := func(c record.Content, tools string) {
					if err == nil {
						_, head, err = together.Append(ctx, head, record.Entry{ID: uuid.NewString(), AtTool: time.Now(), AtServer: time.Now(),
							Person: person.ID.String(), Content: c}, store.Made{Person: fact, Tools: tools})
					}
				}
				add(work.OneTool(g, tag), "")
				for k := range n {
					add(record.Done{Act: acts[k%len(acts)]}, tag)
				}
				if err != nil {
					t.Error(err)
					return
				}
			}
		})
	}
	all.Wait()
}
