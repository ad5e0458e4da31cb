package store

import (
	"cmp"
	"context"
	"crypto/sha256"
	"errors"
	"time"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"

	"dynacor/internal/form"
	"dynacor/internal/judge"
)

// Plan is an issued revision as it is stored.
type Plan = judge.Plan

type planRow struct {
	Joint       uuid.UUID
	Revision    int
	Input       string
	Result      string
	CoreVersion string
	Reason      string
	IssuedBy    uuid.UUID
	IssuedAt    time.Time
	Hash        []byte
	Rests       []byte // hashes of the facts of its issuer, its joint and its recipe; nil: issued by a server that kept none
}

const planColumns = "joint, revision, input, result, core_version, reason, issued_by, issued_at, hash, rests"

func (r planRow) sum() []byte {
	h := sha256.New()
	if r.Rests != nil {
		fields(h, []byte("plan that rests on"), r.Rests)
	}
	fields(h, []byte("plan"), r.Joint[:], number(r.Revision), []byte(r.Input), []byte(r.Result), []byte(r.CoreVersion),
		[]byte(r.Reason), r.IssuedBy[:], moment(r.IssuedAt))
	return h.Sum(nil)
}

func (r planRow) plan() Plan {
	p := Plan{Joint: r.Joint, Revision: r.Revision, CoreVersion: r.CoreVersion, Reason: r.Reason, IssuedBy: r.IssuedBy,
		IssuedAt: r.IssuedAt, Hash: r.Hash}
	c := chain{}
	p.Fault = c.begin(r)
	var wrong error
	p.Input, wrong = form.ReadInput(r.Input)
	if wrong == nil {
		p.Result, wrong = form.ReadResult(r.Result)
	}
	if wrong != nil {
		p.Fault, p.Unreadable = "the plan cannot be read", true
	}
	return p
}

// Seen is what an issue rests on: ErrStale where it has changed since.
type Seen struct {
	Draft int // the draft's version that the plan was made from
	Run   Run // the run on the plan before, which goes on until it is closed; zero: there is none
}

// Issue stores plan p as the joint's next revision, closes the runs on earlier
// ones and begins a run on this. The number and the hash are filled in. p's input
// becomes the draft, where it is another. Where the run is there already, it was
// issued before, and nothing changes: ErrTaken.
func (s *Store) Issue(ctx context.Context, p Plan, seen Seen, run uuid.UUID) (Plan, error) {
	p.IssuedAt = p.IssuedAt.UTC().Truncate(time.Microsecond)
	r := planRow{Joint: p.Joint, CoreVersion: p.CoreVersion, Reason: p.Reason, IssuedBy: p.IssuedBy, IssuedAt: p.IssuedAt}
	var err error
	if r.Input, err = form.WriteInput(p.Input); err != nil {
		return p, err
	}
	if r.Result, err = form.WriteResult(p.Result); err != nil {
		return p, err
	}
	err = pgx.BeginFunc(ctx, s.pool, func(tx pgx.Tx) error {
		var version int
		var draft string
		if err := tx.QueryRow(ctx, "select version, input from drafts where joint = $1 for update", p.Joint).Scan(&version,
			&draft); err != nil {
			return err
		}
		var there bool
		if err := tx.QueryRow(ctx, "select exists (select from runs where id = $1)", run).Scan(&there); err != nil || there {
			return cmp.Or(err, ErrTaken)
		}
		if version != seen.Draft {
			return ErrStale
		}
		// Locked, so that nothing is added to it between being looked at and being closed.
		before, err := one[Run](tx.Query(ctx, selectRun+"where joint = $1 order by revision desc limit 1 for update", p.Joint))
		if err != nil && !errors.Is(err, ErrNotFound) {
			return err
		}
		if before.ID != seen.Run.ID || before.HeadSeq != seen.Run.HeadSeq {
			return ErrStale
		}
		if r.Rests, err = planRests(ctx, tx, p); err != nil {
			return err
		}
		if err := tx.QueryRow(ctx, "select coalesce(max(revision), 0) + 1 from plans where joint = $1",
			p.Joint).Scan(&r.Revision); err != nil {
			return err
		}
		r.Hash = r.sum()
		p.Revision, p.Hash = r.Revision, r.Hash
		if _, err := tx.Exec(ctx, "insert into plans ("+planColumns+") values ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10)",
			r.Joint, r.Revision, r.Input, r.Result, r.CoreVersion, r.Reason, r.IssuedBy, r.IssuedAt, r.Hash, r.Rests); err != nil {
			return err
		}
		if _, err := tx.Exec(ctx, "update runs set closed = true where joint = $1", p.Joint); err != nil {
			return err
		}
		if draft != r.Input {
			if _, err := tx.Exec(ctx, `update drafts set version = version + 1, input = $2, changed_by = $3, changed_at = $4
				where joint = $1`,
				p.Joint, r.Input, p.IssuedBy, p.IssuedAt); err != nil {
				return err
			}
		}
		_, err = tx.Exec(ctx, "insert into runs (id, joint, revision, begun_at, head_hash) values ($1, $2, $3, $4, $5)",
			run, p.Joint, p.Revision, p.IssuedAt, p.Hash)
		return err
	})
	return p, err
}

// planRests returns the facts that a plan rests on: who issues it, what its joint is called,
// what its recipe says.
func planRests(ctx context.Context, tx pgx.Tx, p Plan) ([]byte, error) {
	var out []byte
	for _, of := range []struct {
		kind    FactKind
		subject string
	}{{PersonFact, p.IssuedBy.String()}, {JointFact, p.Joint.String()},
		{RecipeFact, Recipe{ID: p.Input.Recipe, Edition: p.Input.Edition}.subject()}} {
		hash, err := factOf(ctx, tx, of.kind, of.subject)
		if err != nil {
			return nil, err
		}
		out = append(out, hash...)
	}
	return out, nil
}

// NewestPlan returns a joint's newest issued revision.
func (s *Store) NewestPlan(ctx context.Context, joint uuid.UUID) (Plan, error) {
	r, err := one[planRow](s.pool.Query(ctx, "select "+planColumns+" from plans where joint = $1 order by revision desc limit 1", joint))
	if err != nil {
		return Plan{}, err
	}
	return r.plan(), nil
}

// PlanOf returns one revision.
func (s *Store) PlanOf(ctx context.Context, joint uuid.UUID, revision int) (Plan, error) {
	r, err := one[planRow](s.pool.Query(ctx, "select "+planColumns+" from plans where joint = $1 and revision = $2", joint, revision))
	if err != nil {
		return Plan{}, err
	}
	return r.plan(), nil
}

// NewestPlans returns the newest revisions of joints, of all that have one where
// none are named.
func (s *Store) NewestPlans(ctx context.Context, joints ...uuid.UUID) ([]Plan, error) {
	sql := "select distinct on (joint) " + planColumns +
		" from plans where $1::uuid[] is null or joint = any($1) order by joint, revision desc"
	var of []uuid.UUID
	if len(joints) > 0 {
		of = joints
	}
	rows, err := all[planRow](s.pool.Query(ctx, sql, of))
	if err != nil {
		return nil, err
	}
	out := make([]Plan, len(rows))
	for i, r := range rows {
		out[i] = r.plan()
	}
	return out, nil
}
