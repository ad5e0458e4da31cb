package store

import (
	"context"
	"errors"
	"time"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"

	"dynacor/core/joint"
	"dynacor/internal/form"
)

// Joint is one bolted joint of the site.
type Joint struct {
	ID       uuid.UUID
	Area     uuid.UUID
	AreaName string
	Tag      string
	Title    string
	Assigned *uuid.UUID
	MadeAt   time.Time
	Recipe   string // id of the recipe that leads it
}

const selectJoint = `select j.id, j.area, a.name as area_name, j.tag, j.title, j.assigned, j.made_at, j.recipe
	from joints j join areas a on a.id = j.area `

// Joint returns one joint.
func (s *Store) Joint(ctx context.Context, id uuid.UUID) (Joint, error) {
	return one[Joint](s.pool.Query(ctx, selectJoint+"where j.id = $1", id))
}

// Joints returns every joint, by area and tag.
func (s *Store) Joints(ctx context.Context) ([]Joint, error) {
	return all[Joint](s.pool.Query(ctx, selectJoint+"order by a.position, j.made_at, j.tag"))
}

// AddJoint stores a new joint; ErrTaken when its tag is in use.
func (s *Store) AddJoint(ctx context.Context, j Joint) error {
	return pgx.BeginFunc(ctx, s.pool, func(tx pgx.Tx) error { return addJoint(ctx, tx, j) })
}

func addJoint(ctx context.Context, tx pgx.Tx, j Joint) error {
	if _, err := tx.Exec(ctx, "insert into joints (id, area, tag, title, assigned, made_at, recipe) values ($1, $2, $3, $4, $5, $6, $7)",
		j.ID, j.Area, j.Tag, j.Title, j.Assigned, j.MadeAt, j.Recipe); err != nil {
		return taken(err)
	}
	_, err := logFact(ctx, tx, JointFact, j.ID.String(), factOfJoint(j))
	return err
}

// Draft is the sentence of a joint as it was last left.
type Draft struct {
	Joint   uuid.UUID
	Version int
	Input   joint.Input
	Fault   string // where it cannot be read: why
}

type draftRow struct {
	Joint   uuid.UUID
	Version int
	Input   string
}

func (r draftRow) draft() Draft {
	in, err := form.ReadInput(r.Input)
	d := Draft{Joint: r.Joint, Version: r.Version, Input: in}
	if err != nil {
		d.Fault = "the draft cannot be read"
	}
	return d
}

// Draft returns a joint's draft, ErrNotFound when nobody began one.
func (s *Store) Draft(ctx context.Context, joint uuid.UUID) (Draft, error) {
	r, err := one[draftRow](s.pool.Query(ctx, "select joint, version, input from drafts where joint = $1", joint))
	if err != nil {
		return Draft{}, err
	}
	return r.draft(), nil
}

// UnissuedDrafts returns the drafts of joints without a plan.
func (s *Store) UnissuedDrafts(ctx context.Context) ([]Draft, error) {
	rows, err := all[draftRow](s.pool.Query(ctx,
		"select joint, version, input from drafts d where not exists (select from plans p where p.joint = d.joint)"))
	if err != nil {
		return nil, err
	}
	out := make([]Draft, len(rows))
	for i, r := range rows {
		out[i] = r.draft()
	}
	return out, nil
}

// SaveDraft stores the sentence over the version it was changed from, d.Version;
// ErrStale when someone else changed it since.
func (s *Store) SaveDraft(ctx context.Context, d Draft, by uuid.UUID, at time.Time) (int, error) {
	body, err := form.WriteInput(d.Input)
	if err != nil {
		return 0, err
	}
	var version int
	sql := `update drafts set version = version + 1, input = $3, changed_by = $4, changed_at = $5
		where joint = $1 and version = $2 returning version`
	if d.Version == 0 {
		sql = `insert into drafts (joint, version, input, changed_by, changed_at) values ($1, $2 + 1, $3, $4, $5)
			on conflict do nothing returning version`
	}
	err = s.pool.QueryRow(ctx, sql, d.Joint, d.Version, body, by, at).Scan(&version)
	if errors.Is(err, pgx.ErrNoRows) {
		return 0, ErrStale
	}
	return version, err
}
