package store

import (
	"context"
	"crypto/sha256"
	"encoding/json"
	"time"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"

	"dynacor/core/job"
	"dynacor/core/plan"
)

// Job is what went in and what came out for a joint that a recipe leads. The
// recipe's edition is in the input, and editions never change.
type Job struct {
	Input  job.Input
	Result job.Result
}

// Plan is an issued revision: frozen with what went in, what came out and the
// core's version. Where Job is set a recipe leads it, and Input and Result are
// empty.
type Plan struct {
	Joint       uuid.UUID
	Revision    int
	Input       plan.Input
	Result      plan.Result
	Job         *Job
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
	Form        string
}

func (r planRow) sum() []byte {
	h := sha256.New()
	if r.Form != ofRing {
		fields(h, []byte(r.Form))
	}
	fields(h, []byte("plan"), r.Joint[:], number(r.Revision), []byte(r.Input), []byte(r.Result), []byte(r.CoreVersion),
		[]byte(r.Reason), r.IssuedBy[:], moment(r.IssuedAt))
	return h.Sum(nil)
}

func (r planRow) plan() (Plan, error) {
	p := Plan{Joint: r.Joint, Revision: r.Revision, CoreVersion: r.CoreVersion, Reason: r.Reason, IssuedBy: r.IssuedBy, IssuedAt: r.IssuedAt, Hash: r.Hash}
	if r.Form == ofRecipe {
		p.Job = &Job{}
		if err := json.Unmarshal([]byte(r.Input), &p.Job.Input); err != nil {
			return p, err
		}
		return p, json.Unmarshal([]byte(r.Result), &p.Job.Result)
	}
	if err := json.Unmarshal([]byte(r.Input), &p.Input); err != nil {
		return p, err
	}
	return p, json.Unmarshal([]byte(r.Result), &p.Result)
}

// Issue stores plan p as the joint's next revision, closes the runs on earlier
// ones and begins a run on this.
// The number and the hash are filled in. fromDraft is the draft's version it
// was made from; ErrStale when the draft has changed since. Where the joint was
// not led by a recipe and p is, it is from now on, and p's input is its draft.
func (s *Store) Issue(ctx context.Context, p Plan, fromDraft int, run uuid.UUID) (Plan, error) {
	form, input, output := ofRing, any(p.Input), any(p.Result)
	if p.Job != nil {
		form, input, output = ofRecipe, p.Job.Input, p.Job.Result
	}
	in, err := json.Marshal(input)
	if err != nil {
		return p, err
	}
	result, err := json.Marshal(output)
	if err != nil {
		return p, err
	}
	p.IssuedAt = p.IssuedAt.UTC().Truncate(time.Microsecond)
	err = pgx.BeginFunc(ctx, s.pool, func(tx pgx.Tx) error {
		var version int
		if err := tx.QueryRow(ctx, "select version from drafts where joint = $1 for update", p.Joint).Scan(&version); err != nil {
			return err
		}
		if version != fromDraft {
			return ErrStale
		}
		if err := tx.QueryRow(ctx, "select coalesce(max(revision), 0) + 1 from plans where joint = $1", p.Joint).Scan(&p.Revision); err != nil {
			return err
		}
		r := planRow{p.Joint, p.Revision, string(in), string(result), p.CoreVersion, p.Reason, p.IssuedBy, p.IssuedAt, nil, form}
		p.Hash = r.sum()
		if _, err := tx.Exec(ctx, `insert into plans (joint, revision, input, result, core_version, reason, issued_by, issued_at, hash, form)
			values ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10)`, r.Joint, r.Revision, r.Input, r.Result, r.CoreVersion, r.Reason, r.IssuedBy, r.IssuedAt, p.Hash, r.Form); err != nil {
			return err
		}
		if _, err := tx.Exec(ctx, "update runs set closed = true where joint = $1", p.Joint); err != nil {
			return err
		}
		if p.Job != nil {
			led, err := tx.Exec(ctx, "update joints set recipe = $2 where id = $1 and recipe = ''", p.Joint, p.Job.Input.Recipe)
			if err != nil {
				return err
			}
			if led.RowsAffected() > 0 {
				if _, err := tx.Exec(ctx, "update drafts set version = version + 1, form = $2, input = $3, changed_by = $4, changed_at = $5 where joint = $1",
					p.Joint, form, r.Input, p.IssuedBy, p.IssuedAt); err != nil {
					return err
				}
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
	r, err := one[planRow](s.pool.Query(ctx, "select * from plans where joint = $1 order by revision desc limit 1", joint))
	if err != nil {
		return Plan{}, err
	}
	return r.plan()
}

// PlanOf returns one revision.
func (s *Store) PlanOf(ctx context.Context, joint uuid.UUID, revision int) (Plan, error) {
	r, err := one[planRow](s.pool.Query(ctx, "select * from plans where joint = $1 and revision = $2", joint, revision))
	if err != nil {
		return Plan{}, err
	}
	return r.plan()
}

// NewestPlans returns the newest revision of every joint that has one.
func (s *Store) NewestPlans(ctx context.Context) ([]Plan, error) {
	rows, err := all[planRow](s.pool.Query(ctx, "select distinct on (joint) * from plans order by joint, revision desc"))
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
