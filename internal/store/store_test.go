package store_test

import (
	"context"
	"encoding/json"
	"fmt"
	"os"
	"sync"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/require"

	"dynacor/core/crib"
	"dynacor/core/joint"
	"dynacor/core/record"
	"dynacor/core/unit"
	"dynacor/core/work/worktest"
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
	area := uuid.New()
	require.NoError(t, b.Change(ctx, store.Logged{At: time.Now()}, store.NewPerson(store.Person{ID: b.person, Login: "a", Name: "A",
		Initials: "A", PinHash: "x", Roles: []string{"fitter"}}), store.NewArea(area, "Pit")))
	require.NoError(t, b.AddJoint(ctx, store.Joint{ID: b.joint, Area: area, Tag: "J-1", Title: "Joint", Recipe: "flange",
		MadeAt: time.Now()}))
	in := worktest.Flanged(8)
	require.NoError(t, b.AddRecipe(ctx, store.Recipe{ID: in.Recipe, Edition: in.Edition, Body: "the file", MadeAt: time.Now()}))
	_, err := b.SaveDraft(ctx, store.Draft{Joint: b.joint, Input: in}, b.person, time.Now())
	require.NoError(t, err)
	b.issue(t)
	return b
}

func (b *bench) issue(t *testing.T) {
	r, err := joint.Compute(worktest.Flanged(8), worktest.Flange())
	require.NoError(t, err)
	seen := store.Seen{Draft: 1}
	if before, err := b.RunsOf(ctx, b.joint); len(before) > 0 {
		require.NoError(t, err)
		seen.Run = before[0]
	}
	_, err = b.Issue(ctx, store.Plan{Joint: b.joint, Input: worktest.Flanged(8), Result: r, CoreVersion: joint.Version, IssuedBy: b.person,
		IssuedAt: time.Now()}, seen, uuid.New())
	require.NoError(t, err)
	heads, err := b.RunsOf(ctx, b.joint)
	require.NoError(t, err)
	b.run = heads[0]
}

func (b *bench) entry(c record.Content) record.Entry {
	return record.Entry{ID: uuid.NewString(), AtTool: time.Now(), AtServer: time.Now(), Person: b.person.String(), Content: c}
}

// pull is the first pull of a bolt.
func pull(bolt int) record.Done {
	return record.Done{Act: record.Act{Step: "pull", Bolt: bolt, Share: 20}}
}

func day(y int, m time.Month, d int) time.Time { return time.Date(y, m, d, 0, 0, 0, 0, time.UTC) }

func TestTheSameEntryIsStoredOnce(t *testing.T) {
	b := issued(t)
	e := b.entry(pull(1))
	_, head, err := b.Append(ctx, b.run, e, store.Made{})
	require.NoError(t, err)
	_, _, err = b.Append(ctx, head, e, store.Made{})
	require.ErrorIs(t, err, store.ErrTaken)
	_, _, err = b.Append(ctx, b.run, b.entry(pull(2)), store.Made{})
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
					_, _, err = b.Append(ctx, head, b.entry(pull(w+1)), store.Made{})
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
	found, err := b.Audit(ctx, store.Against{})
	faults, entries := found.Faults, found.Entries
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
		require.NoError(t, b.AddJoint(ctx, store.Joint{ID: j, Area: areas[0].ID, Tag: j.String(), Title: "J", Recipe: "flange",
			MadeAt: time.Now()}))
		_, err = b.SaveDraft(ctx, store.Draft{Joint: j, Input: worktest.Flanged(8)}, b.person, time.Now())
		require.NoError(t, err)
		b.joint = j
		b.issue(t)
		runs = append(runs, b.run)
	}
	together := store.NewTogether(b.Store)
	working, stop := context.WithCancel(ctx)
	defer stop()
	go together.Work(working)
	twice := b.entry(pull(1))
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
		e := b.entry(pull(n + 1))
		if i == 3 && n == 5 {
			e = twice
		}
		_, next, err := together.Append(ctx, r, e, store.Made{})
		if _, _, stale := together.Append(ctx, r, b.entry(pull(9)), store.Made{}); stale != store.ErrStale {
			t.Errorf("an old head was taken: %v", stale)
		}
		return next, err
	})
	wave(func(i, n int, r store.Run) (store.Run, error) {
		if i == 4 && n == 7 {
			if _, _, err := together.Append(ctx, r, twice, store.Made{}); err != store.ErrTaken {
				t.Errorf("an entry was taken twice: %v", err)
			}
		}
		_, next, err := together.Append(ctx, r, b.entry(pull(n+1)), store.Made{})
		return next, err
	})
	found, err := b.Audit(ctx, store.Against{})
	faults, entries := found.Faults, found.Entries
	require.NoError(t, err)
	require.Empty(t, faults)
	require.Equal(t, 2*len(runs)*20, entries)
}

func TestTheDatabaseRefusesToChangeTheRecord(t *testing.T) {
	b := issued(t)
	_, _, err := b.Append(ctx, b.run, b.entry(pull(1)), store.Made{})
	require.NoError(t, err)
	for _, sql := range []string{
		"update entries set body = '{}'", "delete from entries", "truncate entries",
		"update plans set reason = 'x'", "delete from plans", "truncate plans cascade", "delete from runs",
		"truncate own_figures", "truncate lot_checks",
	} {
		_, err := b.Pool().Exec(ctx, sql)
		require.ErrorContains(t, err, "is only ever added to", sql)
	}
}

// Whatever column of an entry or a plan is touched, the audit names it.
func TestAuditNamesWhatWasTouched(t *testing.T) {
	for _, c := range []struct{ sql, says string }{
		{"update entries set body = replace(body, '\"bolt\":2', '\"bolt\":3') where seq = 2", "entry 2: the entry does not match its hash"},
		{"update entries set at_tool = at_tool + interval '1 microsecond' where seq = 2", "entry 2: the entry does not match its hash"},
		{"update entries set at_server = at_server - interval '1 second' where seq = 1", "entry 1: the entry does not match its hash"},
		{"update entries set tools = 'other' where seq = 3", "entry 3: the entry does not match its hash"},
		{"update entries set kind = 'pause' where seq = 3", "entry 3: the entry does not match its hash"},
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
			_, head, err = b.Append(ctx, head, b.entry(pull(i+1)), store.Made{Tools: "TW-1"})
			require.NoError(t, err)
		}
		for _, sql := range []string{"alter table entries disable trigger all", "alter table plans disable trigger all", c.sql} {
			_, err := b.Pool().Exec(ctx, sql)
			require.NoError(t, err, sql)
		}
		found, err := b.Audit(ctx, store.Against{})
		faults := found.Faults
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
	_, _, err := b.Append(ctx, before, b.entry(pull(1)), store.Made{})
	require.ErrorIs(t, err, store.ErrStale)
	p, err := b.PlanOf(ctx, b.joint, 1)
	require.NoError(t, err)
	require.Equal(t, worktest.Flanged(8), p.Input, "what was issued stays as it was")
	r, err := joint.Compute(worktest.Flanged(8), worktest.Flange())
	require.NoError(t, err)
	require.Equal(t, r, p.Result.With(worktest.Flange()), "and so does what it came to")
}

// A plan rests on the run before it as it was looked at: what came since is looked at, too.
func TestAPlanIsNotIssuedOverWorkUnseen(t *testing.T) {
	b := issued(t)
	_, head, err := b.Append(ctx, b.run, b.entry(pull(1)), store.Made{})
	require.NoError(t, err)
	p, err := b.PlanOf(ctx, b.joint, 1)
	require.NoError(t, err)
	_, err = b.Issue(ctx, p, store.Seen{Draft: 1, Run: b.run}, uuid.New())
	require.ErrorIs(t, err, store.ErrStale)
	_, err = b.Issue(ctx, p, store.Seen{Draft: 1}, uuid.New())
	require.ErrorIs(t, err, store.ErrStale)
	id := uuid.New()
	_, err = b.Issue(ctx, p, store.Seen{Draft: 1, Run: head}, id)
	require.NoError(t, err)
	_, err = b.Issue(ctx, p, store.Seen{Draft: 1, Run: head}, id)
	require.ErrorIs(t, err, store.ErrTaken)
}

func TestADraftIsNotOverwrittenUnseen(t *testing.T) {
	b := issued(t)
	v, err := b.SaveDraft(ctx, store.Draft{Joint: b.joint, Version: 1, Input: worktest.Flanged(8)}, b.person, time.Now())
	require.NoError(t, err)
	require.Equal(t, 2, v)
	_, err = b.SaveDraft(ctx, store.Draft{Joint: b.joint, Version: 1, Input: worktest.Flanged(8)}, b.person, time.Now())
	require.ErrorIs(t, err, store.ErrStale)
	_, err = b.SaveDraft(ctx, store.Draft{Joint: b.joint, Input: worktest.Flanged(8)}, b.person, time.Now())
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

// Entries that are stored while the audit reads do not look like tampering.
func TestAuditSeesOneMoment(t *testing.T) {
	b := issued(t)
	done := make(chan struct{})
	go func() {
		defer close(done)
		head := b.run
		for i := range 200 {
			var err error
			if _, head, err = b.Append(ctx, head, b.entry(pull(i%8+1)), store.Made{}); err != nil {
				t.Error(err)
				return
			}
		}
	}()
	for audits := 0; ; audits++ {
		found, err := b.Audit(ctx, store.Against{})
		faults := found.Faults
		require.NoError(t, err)
		require.Empty(t, faults)
		select {
		case <-done:
			require.Positive(t, audits)
			return
		default:
		}
	}
}

// A tool that is held back takes no part in an entry, whatever the server
// remembers of it; once it is in service again, it does.
func TestAHeldToolTakesNoPart(t *testing.T) {
	b := issued(t)
	data := crib.Tool{Tag: "TW-1", Kind: crib.Wrench, Face: crib.Preset, Name: "Wrench", Unit: unit.NewtonMetre, Most: 100, DriveOut: "1/2",
		Accuracy: 0.04}
	b.bought(t, data)
	_, head, err := b.Append(ctx, b.run, b.entry(pull(1)), store.Made{Tools: "TW-1 + MX"})
	require.NoError(t, err)
	b.live(t, "TW-1", crib.Hurt{What: crib.Dropped})
	held, err := b.HeldTools(ctx)
	require.NoError(t, err)
	require.Equal(t, map[string]string{"TW-1": "dropped"}, held)
	_, _, err = b.Append(ctx, head, b.entry(pull(2)), store.Made{Tools: "TW-1 + MX"})
	require.ErrorIs(t, err, store.ErrStale)
	b.live(t, "TW-1", data.Judged(crib.Checked{Lab: "own", Unit: unit.NewtonMetre, Marks: []crib.Mark{{At: 100, Readings: []float64{99, 100, 101}}}}))
	_, _, err = b.Append(ctx, head, b.entry(pull(2)), store.Made{Tools: "TW-1 + MX"})
	require.NoError(t, err)
}

// An entry rests on a session and what its person may do: where they are otherwise
// by the time of the commit, it is not stored.
func TestASessionIsLookedAtInTheCommit(t *testing.T) {
	b := issued(t)
	sessions := b.Sessions()
	form, err := json.Marshal(store.Session{Person: b.person})
	require.NoError(t, err)
	require.NoError(t, sessions.CommitCtx(ctx, "t", form, time.Now().Add(time.Hour)))
	_, known := sessions.Remembered("t")
	require.False(t, known, "nothing is remembered that was not looked up")
	x, err := b.Session(ctx, "t")
	require.NoError(t, err)
	seen, known := sessions.Remembered("t")
	require.True(t, known)
	require.Equal(t, x, seen)
	head, n := b.run, 0
	try := func(m store.Made) error {
		n++
		_, next, err := b.Append(ctx, head, b.entry(pull(n%8+1)), m)
		if err == nil {
			head = next
		}
		return err
	}
	made := store.Made{Session: "t", Roles: x.Roles, Person: x.Fact}
	require.NoError(t, try(made))
	require.ErrorIs(t, try(store.Made{Session: "another", Roles: x.Roles, Person: x.Fact}), store.ErrStale)
	require.ErrorIs(t, try(store.Made{Session: "t", Roles: append([]string{"engineer"}, x.Roles...), Person: x.Fact}), store.ErrStale)
	for _, change := range []string{"update people set active = not active", "update people set roles = array_append(roles, 'engineer')",
		"update people set fact = null",
		"update sessions set expiry = now() - interval '1 s'", "delete from sessions"} {
		tx, err := b.Pool().Exec(ctx, change)
		require.NoError(t, err)
		require.Positive(t, tx.RowsAffected())
		require.ErrorIs(t, try(made), store.ErrStale, change)
		_, err = b.Pool().Exec(ctx, `update people set active = true, fact = $1, roles = array_remove(roles, 'engineer')`, x.Fact)
		require.NoError(t, err)
		_, err = b.Pool().Exec(ctx, "update sessions set expiry = now() + interval '1 h'")
		require.NoError(t, err)
	}
	_, err = b.Session(ctx, "t")
	require.ErrorIs(t, err, store.ErrNotFound)
	_, known = sessions.Remembered("t")
	require.False(t, known, "what is over is not remembered")
}

// Four servers that start together on an empty database all come up on it.
func TestServersThatStartTogether(t *testing.T) {
	url := pgtest.Empty(t)
	var all sync.WaitGroup
	for range 4 {
		all.Go(func() {
			s, err := store.Open(ctx, url)
			if err == nil {
				err = s.Migrate(ctx)
				s.Close()
			}
			if err != nil {
				t.Error(err)
			}
		})
	}
	all.Wait()
	s, err := store.Open(ctx, url)
	require.NoError(t, err)
	defer s.Close()
	list, err := s.Migrations(ctx)
	require.NoError(t, err)
	require.Equal(t, "00001_ground.sql", list[0].Name)
	for _, m := range list {
		require.False(t, m.At.IsZero(), m.Name)
	}
}
