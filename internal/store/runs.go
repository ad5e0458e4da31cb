package store

import (
	"bytes"
	"context"
	"errors"
	"fmt"
	"time"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"

	"dynacor/core/run"
)

// Run is the head of a run: where its chain of entries stands.
type Run struct {
	ID       uuid.UUID
	Joint    uuid.UUID
	Revision int
	BegunAt  time.Time
	HeadSeq  int
	HeadHash []byte
	Closed   bool // a newer revision was issued; nothing is added any more
}

type entryRow struct {
	Run      uuid.UUID
	Seq      int
	ID       uuid.UUID
	Kind     string
	AtTool   time.Time
	AtServer time.Time
	Person   uuid.UUID
	Tools    string
	Body     string
	PrevHash []byte
	Hash     []byte
}

func (r entryRow) entry() (run.Entry, error) {
	c, err := decode(run.Kind(r.Kind), r.Body)
	return run.Entry{ID: r.ID.String(), Seq: r.Seq, AtTool: r.AtTool, AtServer: r.AtServer, Person: r.Person.String(), Content: c}, err
}

const selectRun = "select id, joint, revision, begun_at, head_seq, head_hash, closed from runs "

// RunByID returns a run's head.
func (s *Store) RunByID(ctx context.Context, id uuid.UUID) (Run, error) {
	return one[Run](s.pool.Query(ctx, selectRun+"where id = $1", id))
}

// RunsOf returns the heads of a joint's runs, the newest first.
func (s *Store) RunsOf(ctx context.Context, joint uuid.UUID) ([]Run, error) {
	return all[Run](s.pool.Query(ctx, selectRun+"where joint = $1 order by revision desc", joint))
}

// NewestRuns returns the head of the newest run of every joint that has one.
func (s *Store) NewestRuns(ctx context.Context) ([]Run, error) {
	return all[Run](s.pool.Query(ctx, `select distinct on (joint) id, joint, revision, begun_at, head_seq, head_hash, closed
		from runs order by joint, revision desc`))
}

const selectEntry = "select run, seq, id, kind, at_tool, at_server, person, tools, body, prev_hash, hash from entries "

// Entries returns the entries of several runs, by run and number. after holds
// for each run the number of the last entry already known.
func (s *Store) Entries(ctx context.Context, after map[uuid.UUID]int) (map[uuid.UUID][]run.Entry, error) {
	var ids []uuid.UUID
	var seqs []int
	for id, seq := range after {
		ids, seqs = append(ids, id), append(seqs, seq)
	}
	rows, err := all[entryRow](s.pool.Query(ctx, selectEntry+`join unnest($1::uuid[], $2::int[]) as k(id_, after_)
		on run = k.id_ and seq > k.after_ order by run, seq`, ids, seqs))
	if err != nil {
		return nil, err
	}
	out := map[uuid.UUID][]run.Entry{}
	for _, r := range rows {
		e, err := r.entry()
		if err != nil {
			return nil, err
		}
		out[r.Run] = append(out[r.Run], e)
	}
	return out, nil
}

// EntryByID returns an entry and its run, ErrNotFound when there is none.
func (s *Store) EntryByID(ctx context.Context, id uuid.UUID) (uuid.UUID, run.Entry, error) {
	r, err := one[entryRow](s.pool.Query(ctx, selectEntry+"where id = $1", id))
	if err != nil {
		return uuid.Nil, run.Entry{}, err
	}
	e, err := r.entry()
	return r.Run, e, err
}

// addition is an entry on its way to a run whose head the caller has seen.
type addition struct {
	Head  Run
	Entry run.Entry
	Tools string
}

func (a addition) row() (entryRow, error) {
	body, err := encode(a.Entry.Content)
	if err != nil {
		return entryRow{}, err
	}
	id, err := uuid.Parse(a.Entry.ID)
	if err != nil {
		return entryRow{}, err
	}
	person, err := uuid.Parse(a.Entry.Person)
	if err != nil {
		return entryRow{}, err
	}
	r := entryRow{Run: a.Head.ID, Seq: a.Head.HeadSeq + 1, ID: id, Kind: string(a.Entry.Content.Kind()),
		AtTool: a.Entry.AtTool.UTC().Truncate(time.Microsecond), AtServer: a.Entry.AtServer.UTC().Truncate(time.Microsecond),
		Person: person, Tools: a.Tools, Body: body, PrevHash: a.Head.HeadHash}
	r.Hash = r.sum()
	return r, nil
}

// after returns the entry as stored in row r, and the head behind it.
func (a addition) after(r entryRow) (run.Entry, Run) {
	e, head := a.Entry, a.Head
	e.Seq, e.AtTool, e.AtServer = r.Seq, r.AtTool, r.AtServer
	head.HeadSeq, head.HeadHash = r.Seq, r.Hash
	return e, head
}

// Append adds e to run r, whose head the caller has seen. It fills in e's
// number and times. ErrStale when the run has grown or was closed since;
// ErrTaken when the entry's id is stored already.
func (s *Store) Append(ctx context.Context, r Run, e run.Entry, tools string) (run.Entry, Run, error) {
	a := addition{r, e, tools}
	row, err := a.row()
	if err != nil {
		return e, r, err
	}
	stored, err := s.appendRows(ctx, []entryRow{row})
	if err != nil {
		return e, r, taken(err)
	}
	if !stored[r.ID] {
		return e, r, ErrStale
	}
	e, r = a.after(row)
	return e, r, nil
}

// appendRows adds rows of different runs and returns the runs whose head was
// still the one that was seen: one statement, so one round trip and one commit,
// and a row is there if and only if its head has moved.
func (s *Store) appendRows(ctx context.Context, rows []entryRow) (map[uuid.UUID]bool, error) {
	n := len(rows)
	var (
		runs, ids, persons   = make([]uuid.UUID, n), make([]uuid.UUID, n), make([]uuid.UUID, n)
		seqs                 = make([]int, n)
		kinds, tools, bodies = make([]string, n), make([]string, n), make([]string, n)
		atTool, atServer     = make([]time.Time, n), make([]time.Time, n)
		prevs, hashes        = make([][]byte, n), make([][]byte, n)
	)
	for i, r := range rows {
		runs[i], ids[i], persons[i], seqs[i] = r.Run, r.ID, r.Person, r.Seq
		kinds[i], tools[i], bodies[i] = r.Kind, r.Tools, r.Body
		atTool[i], atServer[i], prevs[i], hashes[i] = r.AtTool, r.AtServer, r.PrevHash, r.Hash
	}
	result, err := s.pool.Query(ctx, `with added as (
			select * from unnest($1::uuid[], $2::int[], $3::uuid[], $4::text[], $5::timestamptz[], $6::timestamptz[], $7::uuid[], $8::text[], $9::text[], $10::bytea[], $11::bytea[])
				as a (run, seq, id, kind, at_tool, at_server, person, tools, body, prev_hash, hash)),
		head as (
			update runs r set head_seq = a.seq, head_hash = a.hash from added a
			where r.id = a.run and r.head_seq = a.seq - 1 and r.head_hash = a.prev_hash and not r.closed returning r.id)
		insert into entries (run, seq, id, kind, at_tool, at_server, person, tools, body, prev_hash, hash)
		select a.run, a.seq, a.id, a.kind, a.at_tool, a.at_server, a.person, a.tools, a.body, a.prev_hash, a.hash
		from added a join head on head.id = a.run returning run`,
		runs, seqs, ids, kinds, atTool, atServer, persons, tools, bodies, prevs, hashes)
	if err != nil {
		return nil, err
	}
	moved, err := pgx.CollectRows(result, pgx.RowTo[uuid.UUID])
	out := map[uuid.UUID]bool{}
	for _, id := range moved {
		out[id] = true
	}
	return out, err
}

// Fault is a place where a chain does not hold.
type Fault struct {
	Joint    string // tag
	Revision int
	Seq      int // of the entry, 0 for the plan
	Entry    uuid.UUID
	What     string
}

// Audit recomputes every plan's hash and every chain of entries and returns
// what does not hold, with how many plans and entries were read.
func (s *Store) Audit(ctx context.Context) (faults []Fault, plans, entries int, err error) {
	tags, err := s.tags(ctx)
	if err != nil {
		return nil, 0, 0, err
	}
	heads, err := all[Run](s.pool.Query(ctx, selectRun+"order by joint, revision"))
	if err != nil {
		return nil, 0, 0, err
	}
	for _, head := range heads {
		fault := func(seq int, id uuid.UUID, what string) {
			faults = append(faults, Fault{tags[head.Joint], head.Revision, seq, id, what})
		}
		p, err := one[planRow](s.pool.Query(ctx, "select * from plans where joint = $1 and revision = $2", head.Joint, head.Revision))
		if err != nil {
			return nil, 0, 0, err
		}
		plans++
		if !bytes.Equal(p.Hash, p.sum()) {
			fault(0, uuid.Nil, "the plan does not match its hash")
		}
		rows, err := all[entryRow](s.pool.Query(ctx, selectEntry+"where run = $1 order by seq", head.ID))
		if err != nil {
			return nil, 0, 0, err
		}
		entries += len(rows)
		before, last := p.Hash, 0
		for _, r := range rows {
			switch {
			case r.Seq != last+1:
				fault(r.Seq, r.ID, "an entry before this one is missing")
			case !bytes.Equal(r.Hash, r.sum()):
				fault(r.Seq, r.ID, "the entry does not match its hash")
			case !bytes.Equal(r.PrevHash, before):
				fault(r.Seq, r.ID, "the entry does not follow the one before it")
			}
			before, last = r.Hash, r.Seq
		}
		if last != head.HeadSeq || !bytes.Equal(before, head.HeadHash) {
			fault(head.HeadSeq, uuid.Nil, "the end of the run is not the one it had")
		}
	}
	return faults, plans, entries, nil
}

func (s *Store) tags(ctx context.Context) (map[uuid.UUID]string, error) {
	joints, err := s.Joints(ctx)
	if err != nil {
		return nil, err
	}
	out := map[uuid.UUID]string{}
	for _, j := range joints {
		out[j.ID] = j.Tag
	}
	return out, nil
}

// Notice is word of a joint that changed: its run has so many entries now, or
// something else about it is new.
type Notice struct {
	Joint   uuid.UUID
	Entries int
}

// Otherwise is the Entries of a notice that is not about entries.
const Otherwise = -1

func (n Notice) String() string { return fmt.Sprintf("%s %d", n.Joint, n.Entries) }

// Notify tells every server of changes. It is a hint: whoever misses it sees
// the change when it next looks.
func (s *Store) Notify(ctx context.Context, news []Notice) error {
	batch := &pgx.Batch{}
	for _, n := range news {
		batch.Queue("select pg_notify('joint', $1)", n.String())
	}
	return s.pool.SendBatch(ctx, batch).Close()
}

// Listen calls changed with every notice, as it is written, until ctx ends.
// ready is called once it listens.
func (s *Store) Listen(ctx context.Context, ready func(), changed func(notice string)) error {
	conn, err := s.pool.Acquire(ctx)
	if err != nil {
		return err
	}
	defer func() {
		// A connection that listens is not given back to the pool.
		_ = conn.Hijack().Close(context.Background())
	}()
	if _, err := conn.Exec(ctx, "listen joint"); err != nil {
		return err
	}
	ready()
	for {
		n, err := conn.Conn().WaitForNotification(ctx)
		if err != nil {
			if errors.Is(ctx.Err(), context.Canceled) {
				return nil
			}
			return err
		}
		changed(n.Payload)
	}
}
