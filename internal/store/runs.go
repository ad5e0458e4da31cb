package store

import (
	"bytes"
	"cmp"
	"context"
	"slices"
	"strings"
	"time"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"
	"github.com/jackc/pgx/v5/pgtype"

	"dynacor/core/record"
	"dynacor/internal/form"
	"dynacor/internal/judge"
)

// Run is the head of a run as it is stored.
type Run = judge.Head

type entryRow struct {
	Run       uuid.UUID
	Seq       int
	ID        uuid.UUID
	Kind      string
	AtTool    time.Time
	AtServer  time.Time
	Person    uuid.UUID
	Confirmed bool
	Tools     string
	Body      string
	PrevHash  []byte
	Hash      []byte
	AtDevice  *time.Time // by the device's own clock, where that was off
	Rests     []byte     // hashes of facts, one after the other; nil: stored by a server that kept none
}

func (r entryRow) entry() (record.Entry, error) {
	c, err := form.ReadContent(record.Kind(r.Kind), r.Body)
	device := time.Time{}
	if r.AtDevice != nil {
		device = *r.AtDevice
	}
	return record.Entry{AtDevice: device, ID: r.ID.String(), Seq: r.Seq, AtTool: r.AtTool, AtServer: r.AtServer, Person: r.Person.String(),
		Confirmed: r.Confirmed, Content: c}, err
}

const (
	runColumns = "id, joint, revision, begun_at, head_seq, head_hash, closed"
	selectRun  = "select " + runColumns + " from runs "
)

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
	return all[Run](s.pool.Query(ctx, "select distinct on (joint) "+runColumns+" from runs order by joint, revision desc"))
}

// RunsWithJoints returns the heads of runs by their id, and their joints by theirs.
func (s *Store) RunsWithJoints(ctx context.Context, ids []uuid.UUID) (map[uuid.UUID]Run, map[uuid.UUID]Joint, error) {
	runs, err := all[Run](s.pool.Query(ctx, selectRun+"where id = any($1)", ids))
	if err != nil {
		return nil, nil, err
	}
	heads, of := make(map[uuid.UUID]Run, len(runs)), make([]uuid.UUID, 0, len(runs))
	for _, r := range runs {
		heads[r.ID], of = r, append(of, r.Joint)
	}
	list, err := all[Joint](s.pool.Query(ctx, selectJoint+"where j.id = any($1)", of))
	joints := make(map[uuid.UUID]Joint, len(list))
	for _, j := range list {
		joints[j.ID] = j
	}
	return heads, joints, err
}

// KeptCard is what the Wall shows of a run, as it was when it had Seq entries.
type KeptCard struct {
	Run  uuid.UUID
	Seq  int
	Card string
}

// Cards returns the cards that are kept of runs.
func (s *Store) Cards(ctx context.Context, runs []uuid.UUID) ([]KeptCard, error) {
	return all[KeptCard](s.pool.Query(ctx, "select run, seq, card from cards where run = any($1)", runs))
}

// SaveCards keeps cards, where none of a longer run is kept.
func (s *Store) SaveCards(ctx context.Context, cards []KeptCard) error {
	runs, seqs, texts := make([]uuid.UUID, len(cards)), make([]int, len(cards)), make([]string, len(cards))
	for i, c := range cards {
		runs[i], seqs[i], texts[i] = c.Run, c.Seq, c.Card
	}
	_, err := s.pool.Exec(ctx, `insert into cards (run, seq, card) select * from unnest($1::uuid[], $2::int[], $3::text[])
		on conflict (run) do update set seq = excluded.seq, card = excluded.card where cards.seq < excluded.seq`, runs, seqs, texts)
	return err
}

const (
	entryColumns = "run, seq, id, kind, at_tool, at_server, person, confirmed, tools, body, prev_hash, hash, rests, at_device"
	selectEntry  = "select " + entryColumns + " from entries "
)

// entryRowOf reads an entry by the places of its columns, and its identities as the bytes
// they are: where a whole plant's are read, going by names and by text takes longer than
// all the rest of a row.
func entryRowOf(row pgx.CollectableRow) (r entryRow, err error) {
	err = row.Scan((*[16]byte)(&r.Run), &r.Seq, (*[16]byte)(&r.ID), &r.Kind, &r.AtTool, &r.AtServer, (*[16]byte)(&r.Person), &r.Confirmed,
		&r.Tools, &r.Body, &r.PrevHash, &r.Hash, &r.Rests, &r.AtDevice)
	return r, err
}

// Span is a part of a run: what is behind one head, up to another.
type Span struct {
	Known Run // what of it is known already: its number and hash count
	Upto  Run
}

// Tail is what a span holds, as far as that holds.
type Tail struct {
	Entries []record.Entry
	Fault   string // where what is stored is not what was stored: what, at Seq; what follows is left out
	Seq     int
}

// Entries returns the entries of several runs. Each is held to its hash and to the entry
// before it: what was changed past the server is not served as good.
func (s *Store) Entries(ctx context.Context, spans []Span) (map[uuid.UUID]Tail, error) {
	ids, seqs, upto := make([]uuid.UUID, len(spans)), make([]int, len(spans)), make([]int, len(spans))
	about := 0
	for i, p := range spans {
		ids[i], seqs[i], upto[i] = p.Upto.ID, p.Known.HeadSeq, p.Upto.HeadSeq
		about += max(0, p.Upto.HeadSeq-p.Known.HeadSeq)
	}
	// "offset 0" keeps the planner from reading all entries there are for a few runs. They are
	// put in order here: as they come from their index they mostly are.
	asked, err := s.pool.Query(ctx, "select "+entryColumns+` from unnest($1::uuid[], $2::int[], $3::int[]) as k (run_, after_, upto_),
		lateral (select * from entries where run = run_ and seq > after_ and seq <= upto_ offset 0) e`, ids, seqs, upto)
	if err != nil {
		return nil, err
	}
	rows, err := pgx.AppendRows(make([]entryRow, 0, about), asked, entryRowOf)
	if err != nil {
		return nil, err
	}
	of := make(map[uuid.UUID][]*entryRow, len(spans))
	for i := range rows {
		of[rows[i].Run] = append(of[rows[i].Run], &rows[i])
	}
	out := make(map[uuid.UUID]Tail, len(spans))
	for _, p := range spans {
		list := of[p.Upto.ID]
		slices.SortFunc(list, func(a, b *entryRow) int { return cmp.Compare(a.Seq, b.Seq) })
		out[p.Upto.ID] = p.tail(list)
	}
	return out, nil
}

// tail reads what a span holds, in order, as far as it holds.
func (p Span) tail(rows []*entryRow) Tail {
	c := chain{run: p.Upto.ID, seq: p.Known.HeadSeq, before: p.Known.HeadHash}
	t := Tail{Entries: make([]record.Entry, 0, len(rows))}
	for _, r := range rows {
		t.Seq = r.Seq
		if t.Fault = c.follow(*r); t.Fault != "" {
			return t
		}
		e, err := r.entry()
		if err != nil {
			t.Fault = "the entry cannot be read"
			return t
		}
		t.Entries = append(t.Entries, e)
	}
	t.Fault, t.Seq = c.ends(p.Upto), p.Upto.HeadSeq
	return t
}

// EntryByID returns an entry and its run, ErrNotFound when there is none.
func (s *Store) EntryByID(ctx context.Context, id uuid.UUID) (uuid.UUID, record.Entry, error) {
	r, err := one[entryRow](s.pool.Query(ctx, selectEntry+"where id = $1", id))
	if err != nil {
		return uuid.Nil, record.Entry{}, err
	}
	e, err := r.entry()
	return r.Run, e, err
}

// Made is what an entry rests on beside the run. The commit that stores the entry
// looks at it again.
type Made struct {
	Tools   string   // their tags with " + " between; none may be held back
	Session string   // a token: its person must be signed in with it, and active; empty where that was looked up for this entry
	Roles   []string // which that person must still have, these and no others
	Person  []byte   // the fact of who that person is and may do; it must still hold
	Others  [][]byte // facts of whom and of what else it names
}

// rests is what of it goes into the chain.
func (m Made) rests() []byte {
	if m.Person == nil {
		return nil
	}
	return bytes.Join(append([][]byte{m.Person}, m.Others...), nil)
}

// addition is an entry on its way to a run whose head the caller has seen.
type addition struct {
	Head  Run
	Entry record.Entry
	Made  Made
}

func (a addition) row() (entryRow, error) {
	body, err := form.WriteContent(a.Entry.Content)
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
		Person: person, Confirmed: a.Entry.Confirmed, Tools: a.Made.Tools, Body: body, PrevHash: a.Head.HeadHash,
		Rests: a.Made.rests()}
	if !a.Entry.AtDevice.IsZero() {
		at := a.Entry.AtDevice.UTC().Truncate(time.Microsecond)
		r.AtDevice = &at
	}
	r.Hash = r.sum()
	return r, nil
}

// after returns the entry as stored in row r, and the head behind it.
func (a addition) after(r entryRow) (record.Entry, Run) {
	e, head := a.Entry, a.Head
	e.Seq, e.AtTool, e.AtServer = r.Seq, r.AtTool, r.AtServer
	head.HeadSeq, head.HeadHash = r.Seq, r.Hash
	return e, head
}

// Append adds e to run r, whose head the caller has seen. It fills in e's number
// and times. ErrStale when the run has grown or was closed since, or what it was
// made with does not stand; ErrTaken when the entry's id is stored already.
func (s *Store) Append(ctx context.Context, r Run, e record.Entry, m Made) (record.Entry, Run, error) {
	a := addition{r, e, m}
	row, err := a.row()
	if err != nil {
		return e, r, err
	}
	stored, err := s.appendRows(ctx, []entryRow{row}, []Made{m})
	if err != nil {
		return e, r, taken(err)
	}
	if !stored[r.ID] {
		return e, r, ErrStale
	}
	e, r = a.after(row)
	return e, r, nil
}

// list is a column of rows, written to the wire without looking up its type for each.
type list[T any] = pgtype.FlatArray[T]

func asUUID(id uuid.UUID) pgtype.UUID { return pgtype.UUID{Bytes: id, Valid: true} }

// appendRows adds rows of different runs and returns the runs whose head was
// still the one that was seen: one statement, so one round trip and one commit,
// and a row is there if and only if its head has moved.
func (s *Store) appendRows(ctx context.Context, rows []entryRow, made []Made) (map[uuid.UUID]bool, error) {
	n := len(rows)
	var (
		runs, ids, persons   = make(list[pgtype.UUID], n), make(list[pgtype.UUID], n), make(list[pgtype.UUID], n)
		seqs                 = make(list[int], n)
		kinds, tools, bodies = make(list[string], n), make(list[string], n), make(list[string], n)
		atTool, atServer     = make(list[time.Time], n), make(list[time.Time], n)
		prevs, hashes, rests = make(list[[]byte], n), make(list[[]byte], n), make(list[[]byte], n)
		confirmed            = make(list[bool], n)
		sessions, roles      = make(list[string], n), make(list[string], n)
		facts                = make(list[[]byte], n)
		devices              = make(list[*time.Time], n)
	)
	for i, r := range rows {
		runs[i], ids[i], persons[i], seqs[i] = asUUID(r.Run), asUUID(r.ID), asUUID(r.Person), r.Seq
		kinds[i], tools[i], bodies[i] = r.Kind, r.Tools, r.Body
		atTool[i], atServer[i], prevs[i], hashes[i], confirmed[i] = r.AtTool, r.AtServer, r.PrevHash, r.Hash, r.Confirmed
		if made[i].Session != "" {
			sessions[i] = hashed(made[i].Session)
		}
		devices[i], rests[i], facts[i], roles[i] = r.AtDevice, r.Rests, made[i].Person, strings.Join(made[i].Roles, " ")
	}
	result, err := s.pool.Query(ctx, `with added as (
			select * from unnest($1::uuid[], $2::int[], $3::uuid[], $4::text[], $5::timestamptz[], $6::timestamptz[], $7::uuid[],
				$8::bool[], $9::text[], $10::text[], $11::bytea[], $12::bytea[], $13::bytea[], $14::text[], $15::text[], $16::bytea[],
					$17::timestamptz[]) as a
				(run, seq, id, kind, at_tool, at_server, person, confirmed, tools, body, prev_hash, hash, rests, session, roles, fact,
					at_device)),
		head as (
			update runs r set head_seq = a.seq, head_hash = a.hash from added a
			where r.id = a.run and r.head_seq = a.seq - 1 and r.head_hash = a.prev_hash and not r.closed
				and not exists (select from tools t where t.held_back <> '' and t.tag = any(string_to_array(a.tools, ' + ')))
				and (a.session = '' or exists (select from sessions x join people p on p.id = x.person where x.token = a.session
					and x.expiry > now() and p.id = a.person and p.active and p.fact is not distinct from a.fact
					and array_to_string(p.roles, ' ') = a.roles))
			returning r.id)
		insert into entries (run, seq, id, kind, at_tool, at_server, person, confirmed, tools, body, prev_hash, hash, rests, at_device)
		select a.run, a.seq, a.id, a.kind, a.at_tool, a.at_server, a.person, a.confirmed, a.tools, a.body, a.prev_hash, a.hash, a.rests,
			a.at_device
		from added a join head on head.id = a.run returning run`,
		runs, seqs, ids, kinds, atTool, atServer, persons, confirmed, tools, bodies, prevs, hashes, rests, sessions, roles, facts, devices)
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
