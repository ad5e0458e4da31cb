package store

import (
	"context"
	"crypto/sha256"
	"encoding/hex"
	"encoding/json"
	"errors"
	"fmt"
	"time"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"

	"dynacor/internal/seal"
)

// Seal is a text that was signed with the site's key: the head of a run at a signature,
// or the heads that moved since the seal before.
type Seal struct {
	Number    int    `json:"seal"`
	Body      string `json:"body"` // as it was signed, byte for byte: a Sealed as JSON
	Signature []byte `json:"signature"`
}

// Sealed is what the body of a seal says.
type Sealed struct {
	Number int           `json:"seal"`
	Prev   string        `json:"prev"` // SHA-256 of the body and signature of the seal before, hex; empty for the first
	At     time.Time     `json:"at"`
	Key    string        `json:"key"` // public, hex
	Record *SealedRecord `json:"record,omitempty"`
	Heads  []SealedHead  `json:"heads,omitempty"`
	Runs   int           `json:"runs,omitzero"` // once a day: how many there are
	Digest string        `json:"all,omitzero"`  // and SHA-256 over all their heads, hex
	Facts  int           `json:"facts"`         // number of the newest
	Fact   string        `json:"fact"`          // and its hash, hex
}

// SealedRecord is a record at a signature, with what it meant at that time.
type SealedRecord struct {
	Joint    uuid.UUID `json:"joint"`
	Tag      string    `json:"tag"`
	Title    string    `json:"title"`
	Area     string    `json:"area"`
	Site     string    `json:"site"`
	Outage   string    `json:"outage"`
	Revision int       `json:"revision"`
	Plan     string    `json:"plan"` // hash, hex
	SealedHead
	Rests []string `json:"rests"` // hashes of the facts of the site, its area and the joint, hex
}

// SealedHead is where a run stood.
type SealedHead struct {
	Run  uuid.UUID `json:"run"`
	Seq  int       `json:"seq"`
	Head string    `json:"head"` // hash, hex
}

// sum is what the next seal names this one by.
func (x Seal) sum() string {
	h := sha256.New()
	fields(h, []byte(x.Body), x.Signature)
	return hex.EncodeToString(h.Sum(nil))
}

// Says reads what a seal says.
func (x Seal) Says() (s Sealed, err error) {
	if err = json.Unmarshal([]byte(x.Body), &s); err != nil {
		return s, fmt.Errorf("seal %d: %w", x.Number, err)
	}
	return s, nil
}

// sealLock is the advisory lock that whoever seals holds: seals are one chain.
const sealLock = 0x64797365616c

// AddKey notes a public key as the site's.
func (s *Store) AddKey(ctx context.Context, key seal.Public, at time.Time) error {
	_, err := s.pool.Exec(ctx, "insert into seal_keys (key, made_at) values ($1, $2) on conflict do nothing", key[:], at)
	return err
}

// Keys returns the public keys that are noted as the site's, the first first.
func (s *Store) Keys(ctx context.Context) ([]seal.Public, error) {
	rows, err := s.pool.Query(ctx, "select key from seal_keys order by made_at")
	if err != nil {
		return nil, err
	}
	list, err := pgx.CollectRows(rows, pgx.RowTo[[]byte])
	var out []seal.Public
	for _, b := range list {
		if len(b) == len(seal.Public{}) {
			out = append(out, seal.Public(b))
		}
	}
	return out, err
}

// SealRecords seals the runs that were signed since they were last sealed, or to which an
// answer for a tool came after that, and returns the seals.
func (s *Store) SealRecords(ctx context.Context, k seal.Key, at time.Time) (done []Seal, err error) {
	waiting, err := all[SealedHead](s.pool.Query(ctx, `select run, max(seq) as seq, '' as head from (
			select run, seq from entries where kind = 'signature'
			union all select run, seq from entries e where kind in ('report', 'answer', 're-check')
				and exists (select from seals x where x.run = e.run)) e
		where not exists (select from seals x where x.run = e.run and x.seq >= e.seq) group by run order by run`))
	if err != nil || len(waiting) == 0 {
		return nil, err
	}
	err = s.sealing(ctx, func(tx pgx.Tx) error {
		done = nil
		for _, w := range waiting {
			r, err := sealedRecord(ctx, tx, w.Run, w.Seq)
			if errors.Is(err, pgx.ErrNoRows) { // its plan or its run is gone: the audit says so, and the others are sealed
				continue
			}
			if err != nil {
				return err
			}
			var there bool
			if err := tx.QueryRow(ctx, "select exists (select from seals where run = $1 and seq >= $2)", r.Run,
				r.Seq).Scan(&there); err != nil {
				return err
			}
			if there { // by another server meanwhile
				continue
			}
			x, err := addSeal(ctx, tx, k, Sealed{At: at, Record: &r})
			if err != nil {
				return err
			}
			done = append(done, x)
		}
		return nil
	})
	return done, err
}

func sealedRecord(ctx context.Context, tx pgx.Tx, run uuid.UUID, seq int) (r SealedRecord, err error) {
	var plan, head []byte
	r.Run, r.Seq = run, seq
	if err = tx.QueryRow(ctx, `select r.joint, r.revision, p.hash, e.hash from runs r join plans p using (joint, revision)
		join entries e on e.run = r.id and e.seq = $2 where r.id = $1`, run, seq).Scan(&r.Joint, &r.Revision, &plan, &head); err != nil {
		return r, err
	}
	r.Plan, r.Head = hex.EncodeToString(plan), hex.EncodeToString(head)
	facts, err := meaning(ctx, tx, r.Joint)
	if err != nil {
		return r, err
	}
	m, err := meant(facts)
	if err != nil {
		return r, err
	}
	r.Site, r.Outage, r.Tag, r.Title, r.Area = m.Site, m.Outage, m.Joint.Tag, m.Joint.Title, m.Areas[m.Joint.Area]
	for _, f := range facts {
		r.Rests = append(r.Rests, hex.EncodeToString(f.Hash))
	}
	return r, nil
}

// meaning returns the newest facts of the site, a joint, and its area.
func meaning(ctx context.Context, db queries, joint uuid.UUID) ([]Fact, error) {
	return all[Fact](db.Query(ctx, `with newest as (
			select distinct on (kind, subject) `+factColumns+` from facts where kind = 'site' or kind = 'joint' and subject = $1
			order by kind, subject, number desc)
		select * from newest union all
		(select `+factColumns+` from facts where kind = 'area' and subject = (select body::json->>'area' from newest where kind = 'joint')
			order by number desc limit 1)
		order by kind desc`, joint.String()))
}

type queries interface {
	Query(ctx context.Context, sql string, args ...any) (pgx.Rows, error)
}

// mostHeads is how many heads one seal holds.
const mostHeads = 2000

// SealHeads seals the heads of runs that moved since they were last sealed; and, where it
// is for the whole day, how many runs there are and a digest of all their heads.
func (s *Store) SealHeads(ctx context.Context, k seal.Key, at time.Time, day bool) (done []Seal, err error) {
	err = s.sealing(ctx, func(tx pgx.Tx) error {
		done = nil
		for {
			heads, err := all[SealedHead](tx.Query(ctx, `select r.id as run, r.head_seq as seq, encode(r.head_hash, 'hex') as head
				from runs r left join sealed_heads x on x.run = r.id
				where x.run is null or x.seq <> r.head_seq or x.hash <> r.head_hash order by r.id limit $1`, mostHeads))
			if err != nil {
				return err
			}
			last := len(heads) < mostHeads
			if len(heads) == 0 && (!day || len(done) > 0) {
				return nil
			}
			body := Sealed{At: at, Heads: heads}
			if day && last {
				if body.Runs, body.Digest, err = digest(ctx, tx); err != nil {
					return err
				}
			}
			x, err := addSeal(ctx, tx, k, body)
			if err != nil {
				return err
			}
			done = append(done, x)
			ids, seqs, hashes := make([]uuid.UUID, len(heads)), make([]int, len(heads)), make([]string, len(heads))
			for i, h := range heads {
				ids[i], seqs[i], hashes[i] = h.Run, h.Seq, h.Head
			}
			if _, err := tx.Exec(ctx, `insert into sealed_heads (run, seq, hash)
				select run, seq, decode(hash, 'hex') from unnest($1::uuid[], $2::int[], $3::text[]) as h (run, seq, hash)
				on conflict (run) do update set seq = excluded.seq, hash = excluded.hash`, ids, seqs, hashes); err != nil {
				return err
			}
			if last {
				return nil
			}
		}
	})
	return done, err
}

// digest counts the runs and sums up their heads, in the order of their ids.
func digest(ctx context.Context, tx pgx.Tx) (n int, hash string, err error) {
	rows, err := tx.Query(ctx, "select id, head_seq, head_hash from runs order by id")
	if err != nil {
		return 0, "", err
	}
	h := sha256.New()
	var id uuid.UUID
	var seq int
	var head []byte
	_, err = pgx.ForEachRow(rows, []any{&id, &seq, &head}, func() error {
		n++
		fields(h, id[:], number(seq), head)
		return nil
	})
	return n, hex.EncodeToString(h.Sum(nil)), err
}

// LastDay is when the whole day was last sealed; zero where it never was.
func (s *Store) LastDay(ctx context.Context) (at time.Time, err error) {
	err = s.pool.QueryRow(ctx, `select (body::json->>'at')::timestamptz from seals where body::json->>'all' is not null
		order by number desc limit 1`).Scan(&at)
	if errors.Is(err, pgx.ErrNoRows) {
		err = nil
	}
	return at, err
}

// sealing does something while nobody else seals.
func (s *Store) sealing(ctx context.Context, do func(pgx.Tx) error) error {
	return pgx.BeginFunc(ctx, s.pool, func(tx pgx.Tx) error {
		if _, err := tx.Exec(ctx, "select pg_advisory_xact_lock($1)", sealLock); err != nil {
			return err
		}
		return do(tx)
	})
}

// addSeal signs what is to be sealed and stores it behind the seals there are.
func addSeal(ctx context.Context, tx pgx.Tx, k seal.Key, say Sealed) (x Seal, err error) {
	last, err := one[Seal](tx.Query(ctx, "select number, body, signature from seals order by number desc limit 1"))
	switch {
	case err == nil:
		say.Prev = last.sum()
	case !errors.Is(err, ErrNotFound):
		return x, err
	}
	var fact []byte
	if err := tx.QueryRow(ctx, "select number, hash from facts order by number desc limit 1").Scan(&say.Facts, &fact); err != nil &&
		!errors.Is(err, pgx.ErrNoRows) {
		return x, err
	}
	say.Number, say.Key, say.Fact, say.At = last.Number+1, k.Public().String(), hex.EncodeToString(fact), say.At.UTC()
	b, err := json.Marshal(say)
	if err != nil {
		return x, err
	}
	x = Seal{Number: say.Number, Body: string(b), Signature: k.Sign(b)}
	var run *uuid.UUID
	var seq *int
	if say.Record != nil {
		run, seq = &say.Record.Run, &say.Record.Seq
	}
	_, err = tx.Exec(ctx, "insert into seals (number, body, signature, run, seq) values ($1, $2, $3, $4, $5)", x.Number, x.Body,
		x.Signature, run, seq)
	return x, err
}
