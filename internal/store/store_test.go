package store_test

import (
	"context"
	"fmt"
	"os"
	"reflect"
	"sync"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/require"

	"dynacor/core/plan"
	"dynacor/core/run"
	"dynacor/core/unit"
	"dynacor/internal/pgdev/pgtest"
	"dynacor/internal/store"
)

func TestMain(m *testing.M) { os.Exit(pgtest.Run(m, pgtest.Options{})) }

var ctx = context.Background()

// bench is a database with one person and one issued joint.
type bench struct {
	*store.Store
	person uuid.UUID
	joint  uuid.UUID
	run    store.Run
}

func issued(t *testing.T) *bench {
	b := &bench{Store: pgtest.Store(t), person: uuid.New(), joint: uuid.New()}
	require.NoError(t, b.AddPerson(ctx, store.Person{ID: b.person, Login: "a", Name: "A", Initials: "A", PinHash: "x", Roles: []string{"fitter"}}))
	area := uuid.New()
	require.NoError(t, b.AddArea(ctx, store.Area{ID: area, Name: "Pit", Position: 1}))
	require.NoError(t, b.AddJoint(ctx, store.Joint{ID: b.joint, Area: area, Tag: "J-1", Title: "Joint", MadeAt: time.Now()}))
	_, err := b.SaveDraft(ctx, store.Draft{Joint: b.joint, Input: plan.Starting()}, b.person, time.Now())
	require.NoError(t, err)
	b.issue(t)
	return b
}

func (b *bench) issue(t *testing.T) {
	r, err := plan.Compute(plan.Starting())
	require.NoError(t, err)
	_, err = b.Issue(ctx, store.Plan{Joint: b.joint, Input: plan.Starting(), Result: r, CoreVersion: plan.Version, IssuedBy: b.person, IssuedAt: time.Now()}, 1, uuid.New())
	require.NoError(t, err)
	heads, err := b.RunsOf(ctx, b.joint)
	require.NoError(t, err)
	b.run = heads[0]
}

func (b *bench) entry(c run.Content) run.Entry {
	return run.Entry{ID: uuid.NewString(), AtTool: time.Now(), AtServer: time.Now(), Person: b.person.String(), Content: c}
}

// everything is a step with something in each of its fields.
var everything = run.Step{Step: "pull", Bolt: 7, Share: 60, Turn: 90, Stroke: 2, Lock: true, Round: 3, Readings: []float64{1, 0}, Held: 10, Marks: []string{"disc: HD 75"},
	Moved: true, Reading: unit.Of(38, unit.NewtonMetre), Confirmed: true, Skipped: true, Reason: "bent", Qualified: "B", Bolts: []int{1, 8}}

// A field that is added to a step is tried here too.
func TestEverythingIsEverything(t *testing.T) {
	v := reflect.ValueOf(everything)
	for i := range v.NumField() {
		require.False(t, v.Field(i).IsZero(), v.Type().Field(i).Name)
	}
}

// all kinds of content, each with something in every field that matters.
func contents() []run.Content {
	return []run.Content{
		run.Caution{Points: []string{"isolated"}},
		run.Tooling{Passes: []run.PassTool{{Pass: 1, Tools: []string{"TW-1", "MX"}, Torque: 100, Lands: 99.5, Setting: unit.Of(20.5, unit.FootPound), Due: time.Date(2027, 1, 2, 0, 0, 0, 0, time.UTC)}}},
		run.Pull{Bolt: 3, Pass: 1, NoTurn: true, Reading: unit.Of(101.25, unit.NewtonMetre), Confirmed: true},
		run.Check{Bolt: 4, Round: 2, Moved: true},
		run.Trouble{Bolt: 4, What: run.Overshot, Remedy: run.Replaced, Note: "“quoted” and\nbroken"},
		run.Correction{Of: "x", Reason: "read wrong", Instead: run.Pull{Bolt: 3, Pass: 1}},
		run.Correction{Of: "x", Reason: "did not happen"},
		run.Pause{Note: "phone", HandOverTo: "B"},
		run.Resume{},
		run.Measurement{Phase: run.Before, Gaps: []float64{1, 2, 3, 4.05}},
		run.Decision{Reason: "go on"},
		run.Signature{Part: run.Checked, Reason: "accepted"},
		run.Step{Step: "pull", Bolt: 1},
		everything,
		run.Correction{Of: "x", Reason: "read wrong", Instead: everything},
	}
}

func TestEntriesComeBackAsTheyWentIn(t *testing.T) {
	b := issued(t)
	head := b.run
	var sent []run.Entry
	for _, c := range contents() {
		e, h, err := b.Append(ctx, head, b.entry(c), "TW-1")
		require.NoError(t, err)
		head, sent = h, append(sent, e)
	}
	got, err := b.Entries(ctx, map[uuid.UUID]int{b.run.ID: 0})
	require.NoError(t, err)
	require.Len(t, got[b.run.ID], len(sent))
	for i, e := range got[b.run.ID] {
		require.Equal(t, sent[i].Content, e.Content)
		require.Equal(t, sent[i].ID, e.ID)
		require.True(t, sent[i].AtTool.Equal(e.AtTool))
		require.Equal(t, i+1, e.Seq)
	}
	later, err := b.Entries(ctx, map[uuid.UUID]int{b.run.ID: 10})
	require.NoError(t, err)
	require.Len(t, later[b.run.ID], len(sent)-10)
	faults, plans, entries, err := b.Audit(ctx)
	require.NoError(t, err)
	require.Empty(t, faults)
	require.Equal(t, []int{1, len(sent)}, []int{plans, entries})
}

func TestTheSameEntryIsStoredOnce(t *testing.T) {
	b := issued(t)
	e := b.entry(run.Pull{Bolt: 1, Pass: 1})
	_, head, err := b.Append(ctx, b.run, e, "")
	require.NoError(t, err)
	_, _, err = b.Append(ctx, head, e, "")
	require.ErrorIs(t, err, store.ErrTaken)
	_, _, err = b.Append(ctx, b.run, b.entry(run.Pull{Bolt: 2, Pass: 1}), "")
	require.ErrorIs(t, err, store.ErrStale, "the head has moved on")
}

// Many writers at one run: each entry gets a number of its own and the chain
// holds.
func TestWritersQueueAtTheHead(t *testing.T) {
	b := issued(t)
	var wg sync.WaitGroup
	for w := range 8 {
		wg.Go(func() {
			for n := 0; n < 10; {
				head, err := b.RunByID(ctx, b.run.ID)
				if err == nil {
					_, _, err = b.Append(ctx, head, b.entry(run.Pull{Bolt: w + 1, Pass: n + 1}), "")
				}
				if err == nil {
					n++
				} else if err != store.ErrStale {
					t.Error(err)
					return
				}
			}
		})
	}
	wg.Wait()
	faults, _, entries, err := b.Audit(ctx)
	require.NoError(t, err)
	require.Empty(t, faults)
	require.Equal(t, 80, entries)
}

// Entries that are stored together are stored as if each were alone: those
// whose head has moved are refused, one stored already is, and the others are
// in.
func TestEntriesStoredTogether(t *testing.T) {
	b := issued(t)
	runs := []store.Run{b.run}
	for range 6 {
		j := uuid.New()
		areas, err := b.Areas(ctx)
		require.NoError(t, err)
		require.NoError(t, b.AddJoint(ctx, store.Joint{ID: j, Area: areas[0].ID, Tag: j.String(), Title: "J", MadeAt: time.Now()}))
		_, err = b.SaveDraft(ctx, store.Draft{Joint: j, Input: plan.Starting()}, b.person, time.Now())
		require.NoError(t, err)
		b.joint = j
		b.issue(t)
		runs = append(runs, b.run)
	}
	together := store.NewTogether(b.Store)
	working, stop := context.WithCancel(ctx)
	defer stop()
	go together.Work(working)
	twice := b.entry(run.Pull{Bolt: 1, Pass: 1})
	// wave lets every run take its turns at once.
	wave := func(turn func(i, n int, r store.Run) (store.Run, error)) {
		var wg sync.WaitGroup
		for i := range runs {
			wg.Go(func() {
				for n := range 20 {
					next, err := turn(i, n, runs[i])
					if err != nil {
						t.Error(err)
						return
					}
					runs[i] = next
				}
			})
		}
		wg.Wait()
	}
	wave(func(i, n int, r store.Run) (store.Run, error) {
		e := b.entry(run.Pull{Bolt: n + 1, Pass: 1})
		if i == 3 && n == 5 {
			e = twice
		}
		_, next, err := together.Append(ctx, r, e, "")
		if _, _, stale := together.Append(ctx, r, b.entry(run.Pull{Bolt: 9, Pass: 9}), ""); stale != store.ErrStale {
			t.Errorf("an old head was taken: %v", stale)
		}
		return next, err
	})
	wave(func(i, n int, r store.Run) (store.Run, error) {
		if i == 4 && n == 7 {
			if _, _, err := together.Append(ctx, r, twice, ""); err != store.ErrTaken {
				t.Errorf("an entry was taken twice: %v", err)
			}
		}
		_, next, err := together.Append(ctx, r, b.entry(run.Pull{Bolt: n + 1, Pass: 2}), "")
		return next, err
	})
	faults, _, entries, err := b.Audit(ctx)
	require.NoError(t, err)
	require.Empty(t, faults)
	require.Equal(t, 2*len(runs)*20, entries)
}

func TestTheDatabaseRefusesToChangeTheRecord(t *testing.T) {
	b := issued(t)
	_, _, err := b.Append(ctx, b.run, b.entry(run.Pull{Bolt: 1, Pass: 1}), "")
	require.NoError(t, err)
	for _, sql := range []string{
		"update entries set body = '{}'", "delete from entries", "truncate entries",
		"update plans set reason = 'x'", "delete from plans", "truncate plans cascade", "delete from runs",
	} {
		_, err := b.Pool().Exec(ctx, sql)
		require.ErrorContains(t, err, "is only ever added to", sql)
	}
}

// Whatever column of an entry or a plan is touched, the audit names it.
func TestAuditNamesWhatWasTouched(t *testing.T) {
	for _, c := range []struct{ sql, says string }{
		{"update entries set body = replace(body, '\"Bolt\":2', '\"Bolt\":3') where seq = 2", "entry 2: the entry does not match its hash"},
		{"update entries set at_tool = at_tool + interval '1 microsecond' where seq = 2", "entry 2: the entry does not match its hash"},
		{"update entries set at_server = at_server - interval '1 second' where seq = 1", "entry 1: the entry does not match its hash"},
		{"update entries set tools = 'other' where seq = 3", "entry 3: the entry does not match its hash"},
		{"update entries set kind = 'check' where seq = 3", "entry 3: the entry does not match its hash"},
		{"update entries set hash = sha256(hash) where seq = 3", "entry 3: the entry does not match its hash"},
		{"update entries set prev_hash = sha256(hash) where seq = 3", "entry 3: the entry does not match its hash"},
		{"delete from entries where seq = 2", "entry 3: an entry before this one is missing"},
		{"delete from entries where seq = 3", "entry 3: the end of the run is not the one it had"},
		{"update plans set result = replace(result, '260', '261')", "entry 0: the plan does not match its hash"},
	} {
		b := issued(t)
		head := b.run
		for i := range 3 {
			var err error
			_, head, err = b.Append(ctx, head, b.entry(run.Pull{Bolt: i + 1, Pass: 1}), "TW-1")
			require.NoError(t, err)
		}
		for _, sql := range []string{"alter table entries disable trigger all", "alter table plans disable trigger all", c.sql} {
			_, err := b.Pool().Exec(ctx, sql)
			require.NoError(t, err, sql)
		}
		faults, _, _, err := b.Audit(ctx)
		require.NoError(t, err, c.sql)
		var said []string
		for _, f := range faults {
			said = append(said, fmt.Sprintf("entry %d: %s", f.Seq, f.What))
		}
		require.Contains(t, said, c.says, c.sql)
	}
}

func TestANewRevisionClosesTheRunBefore(t *testing.T) {
	b := issued(t)
	before := b.run
	b.issue(t)
	require.Equal(t, 2, b.run.Revision)
	_, _, err := b.Append(ctx, before, b.entry(run.Pull{Bolt: 1, Pass: 1}), "")
	require.ErrorIs(t, err, store.ErrStale)
	p, err := b.PlanOf(ctx, b.joint, 1)
	require.NoError(t, err)
	require.Equal(t, plan.Starting(), p.Input, "what was issued stays as it was")
}

func TestADraftIsNotOverwrittenUnseen(t *testing.T) {
	b := issued(t)
	v, err := b.SaveDraft(ctx, store.Draft{Joint: b.joint, Version: 1, Input: plan.Starting()}, b.person, time.Now())
	require.NoError(t, err)
	require.Equal(t, 2, v)
	_, err = b.SaveDraft(ctx, store.Draft{Joint: b.joint, Version: 1, Input: plan.Starting()}, b.person, time.Now())
	require.ErrorIs(t, err, store.ErrStale)
	_, err = b.SaveDraft(ctx, store.Draft{Joint: b.joint, Input: plan.Starting()}, b.person, time.Now())
	require.ErrorIs(t, err, store.ErrStale)
}

func TestNewsReachesWhoListens(t *testing.T) {
	b := issued(t)
	listening, heard := make(chan struct{}), make(chan string, 4)
	stop, cancel := context.WithCancel(ctx)
	ended := make(chan error, 1)
	go func() { ended <- b.Listen(stop, func() { close(listening) }, func(j string) { heard <- j }) }()
	<-listening
	require.NoError(t, b.Notify(ctx, []store.Notice{{Joint: b.joint, Entries: 7}}))
	require.Equal(t, b.joint.String()+" 7", <-heard)
	cancel()
	require.NoError(t, <-ended)
}
