package store

import (
	"context"
	"crypto/sha256"
	"time"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"

	"dynacor/core/joint"
)

// Plan is an issued revision: frozen with what went in, what came out and the
// core's version. What of the result is its recipe's own data is not in it.
type Plan struct {
	Joint       uuid.UUID
	Revision    int
	Input       joint.Input
	Result      joint.Result
	CoreVersion string
	Reason      string
	IssuedBy    uuid.UUID
	IssuedAt    time.Time
	Hash        []byte
}

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
}

const planColumns = "joint, revision, input, result, core_version, reason, issued_by, issued_at, hash"

func (r planRow) sum() []byte {
	h := sha256.New()
	fields(h, []byte("plan"), r.Joint[:], number(r.Revision), []byte(r.Input), []byte(r.Result), []byte(r.CoreVersion),
		[]byte(r.Reason), r.IssuedBy[:], moment(r.IssuedAt))
	return h.Sum(nil)
}

func (r planRow) plan() (Plan, error) {
	p := Plan{Joint: r.Joint, Revision: r.Revision, CoreVersion: r.CoreVersion, Reason: r.Reason, IssuedBy: r.IssuedBy,
		IssuedAt: r.IssuedAt, Hash: r.Hash}
	var err error
	if p.Input, err = decodeInput(r.Input); err != nil {
		return p, err
	}
	p.Result, err = decodeResult(r.Result)
	return p, err
}

// Issue stores plan p as the joint's next revision, closes the runs on earlier
// ones and begins a run on this. The number and the hash are filled in.
// fromDraft is the draft's version it was made from; ErrStale when the draft has
// changed since. p's input becomes the draft, where it is another.
func (s *Store) Issue(ctx context.Context, p Plan, fromDraft int, run uuid.UUID) (Plan, error) {
	p.IssuedAt = p.IssuedAt.UTC().Truncate(time.Microsecond)
	r := planRow{Joint: p.Joint, CoreVersion: p.CoreVersion, Reason: p.Reason, IssuedBy: p.IssuedBy, IssuedAt: p.IssuedAt}
	var err error
	if r.Input, err = encodeInput(p.Input); err != nil {
		return p, err
	}
	if r.Result, err = encodeResult(p.Result); err != nil {
		return p, err
	}
	err = pgx.BeginFunc(ctx, s.pool, func(tx pgx.Tx) error {
		var version int
		var draft string
		if err := tx.QueryRow(ctx, "select version, input from drafts where joint = $1 for update", p.Joint).Scan(&version,
			&draft); err != nil {
			return err
		}
		if version != fromDraft {
			return ErrStale
		}
		if err := tx.QueryRow(ctx, "select coalesce(max(revision), 0) + 1 from plans where joint = $1",
			p.Joint).Scan(&r.Revision); err != nil {
			return err
		}
		r.Hash = r.sum()
		p.Revision, p.Hash = r.Revision, r.Hash
		if _, err := tx.Exec(ctx, "insert into plans ("+planColumns+") values ($1, $2, $3, $4, $5, $6, $7, $8, $9)",
			r.Joint, r.Revision, r.Input, r.Result, r.CoreVersion, r.Reason, r.IssuedBy, r.IssuedAt, r.Hash); err != nil {
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
		_, err := tx.Exec(ctx, "insert into runs (id, joint, revision, begun_at, head_hash) values ($1, $2, $3, $4, $5)",
			run, p.Joint, p.Revision, p.IssuedAt, p.Hash)
		return err
	})
	return p, err
}

// NewestPlan returns a joint's newest issued revision.
func (s *Store) NewestPlan(ctx context.Context, joint uuid.UUID) (Plan, error) {
	r, err := one[planRow](s.pool.Query(ctx, "select "+planColumns+" from plans where joint = $1 order by revision desc limit 1", joint))
	if err != nil {
		return Plan{}, err
	}
	return r.plan()
}

// PlanOf returns one revision.
func (s *Store) PlanOf(ctx context.Context, joint uuid.UUID, revision int) (Plan, error) {
	r, err := one[planRow](s.pool.Query(ctx, "select "+planColumns+" from plans where joint = $1 and revision = $2", joint, revision))
	if err != nil {
		return Plan{}, err
	}
	return r.plan()
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
		if out[i], err = r.plan(); err != nil {
			return nil, err
		}
	}
	return out, nil
}
