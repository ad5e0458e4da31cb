package store

import (
	"context"
	"errors"
	"time"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"

	"dynacor/internal/form"
)

// Imported is a joint as a list of planning has it. Version is that of the draft it takes
// the place of; 0: there is none.
type Imported struct {
	Joint Joint
	Draft Draft
	New   bool
}

// ImportJoints stores joints with their drafts, all of them or none. Those that are there
// are changed where nobody has issued a plan for them, nor changed their draft, since they
// were looked at; the ids of the others are returned, and they stay as they are.
func (s *Store) ImportJoints(ctx context.Context, list []Imported, by uuid.UUID, at time.Time) (left []uuid.UUID, err error) {
	bodies := make([]string, len(list))
	for i, x := range list {
		if bodies[i], err = form.WriteInput(x.Draft.Input); err != nil {
			return nil, err
		}
	}
	err = pgx.BeginFunc(ctx, s.pool, func(tx pgx.Tx) error {
		left = nil
		var facts []said
		for i, x := range list {
			done, err := importJoint(ctx, tx, x, bodies[i], by, at)
			if err != nil {
				return err
			}
			if !done {
				left = append(left, x.Joint.ID)
				continue
			}
			facts = append(facts, said{x.Joint.ID.String(), factOfJoint(x.Joint)})
		}
		_, err := logFacts(ctx, tx, JointFact, facts)
		return err
	})
	return left, err
}

func importJoint(ctx context.Context, tx pgx.Tx, x Imported, body string, by uuid.UUID, at time.Time) (done bool, err error) {
	j := x.Joint
	if x.New {
		if _, err := tx.Exec(ctx, `with j as (insert into joints (id, area, tag, title, assigned, made_at, recipe)
				values ($1, $2, $3, $4, $5, $6, $7) returning id)
			insert into drafts (joint, version, input, changed_by, changed_at) values ($1, 1, $8, $9, $6)`,
			j.ID, j.Area, j.Tag, j.Title, j.Assigned, at, j.Recipe, body, by); err != nil {
			return false, taken(err)
		}
		return true, nil
	}
	// The draft's row is the one that issuing locks, too.
	var version int
	err = tx.QueryRow(ctx, "select version from drafts where joint = $1 for update", j.ID).Scan(&version)
	if err != nil && !errors.Is(err, pgx.ErrNoRows) {
		return false, err
	}
	var issued bool
	if err := tx.QueryRow(ctx, "select exists (select from plans where joint = $1)", j.ID).Scan(&issued); err != nil {
		return false, err
	}
	if issued || version != x.Draft.Version {
		return false, nil
	}
	if _, err := tx.Exec(ctx, "update joints set area = $2, title = $3 where id = $1", j.ID, j.Area, j.Title); err != nil {
		return false, err
	}
	_, err = tx.Exec(ctx, `insert into drafts (joint, version, input, changed_by, changed_at) values ($1, 1, $2, $3, $4)
		on conflict (joint) do update set version = drafts.version + 1, input = $2, changed_by = $3, changed_at = $4`, j.ID, body, by, at)
	return err == nil, err
}

// Drafts returns all drafts, by joint.
func (s *Store) Drafts(ctx context.Context) (map[uuid.UUID]Draft, error) {
	rows, err := all[draftRow](s.pool.Query(ctx, "select joint, version, input from drafts"))
	out := make(map[uuid.UUID]Draft, len(rows))
	for _, r := range rows {
		out[r.Joint] = r.draft()
	}
	return out, err
}

// Issued returns the joints that a plan was issued for.
func (s *Store) Issued(ctx context.Context) (map[uuid.UUID]bool, error) {
	rows, err := s.pool.Query(ctx, "select distinct joint from plans")
	if err != nil {
		return nil, err
	}
	list, err := pgx.CollectRows(rows, pgx.RowTo[uuid.UUID])
	out := make(map[uuid.UUID]bool, len(list))
	for _, id := range list {
		out[id] = true
	}
	return out, err
}

// ImportColumns returns what the columns of a file were last matched to, by its headings;
// nil where there was none like it.
func (s *Store) ImportColumns(ctx context.Context, headings string) (columns []string, err error) {
	err = s.pool.QueryRow(ctx, "select columns from import_columns where headings = $1", headings).Scan(&columns)
	if errors.Is(err, pgx.ErrNoRows) {
		err = nil
	}
	return columns, err
}

// KeepImportColumns remembers it.
func (s *Store) KeepImportColumns(ctx context.Context, headings string, columns []string) error {
	_, err := s.pool.Exec(ctx, `insert into import_columns (headings, columns) values ($1, $2)
		on conflict (headings) do update set columns = excluded.columns`, headings, columns)
	return err
}

// NotifyAll tells every server that much has changed: screens look anew.
func (s *Store) NotifyAll(ctx context.Context) error {
	_, err := s.pool.Exec(ctx, "select pg_notify('joint', 'all')")
	return err
}
