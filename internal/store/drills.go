package store

import (
	"context"
	"time"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"
)

// DrillGo is a go at a drill.
type DrillGo struct {
	ID       uuid.UUID
	Person   uuid.UUID
	Kind     string
	Seed     int64  // of its first task
	Material string // what its tasks are drawn from, JSON; empty: it ended
	BegunAt  time.Time
	EndedAt  *time.Time // nil: it has not
	Held     int        // tasks that were answered right
	Tasks    int
}

const drillGoColumns = "id, person, kind, seed, material, begun_at, ended_at, held, tasks"

// BeginDrill keeps a go that begins, and drops what the same person began before and did not end.
func (s *Store) BeginDrill(ctx context.Context, g DrillGo) error {
	_, err := s.pool.Exec(ctx, `with left_off as (delete from drill_goes where person = $2 and ended_at is null)
		insert into drill_goes (id, person, kind, seed, material, begun_at, tasks) values ($1, $2, $3, $4, $5, $6, $7)`,
		g.ID, g.Person, g.Kind, g.Seed, g.Material, g.BegunAt, g.Tasks)
	return err
}

// DrillGo returns a go of somebody; ErrNotFound where it is nobody's or another's.
func (s *Store) DrillGo(ctx context.Context, person, id uuid.UUID) (DrillGo, error) {
	return one[DrillGo](s.pool.Query(ctx, "select "+drillGoColumns+" from drill_goes where id = $1 and person = $2", id, person))
}

// DrillsOf returns the goes of somebody that ended, oldest first.
func (s *Store) DrillsOf(ctx context.Context, person uuid.UUID) ([]DrillGo, error) {
	return all[DrillGo](s.pool.Query(ctx,
		"select "+drillGoColumns+" from drill_goes where person = $1 and ended_at is not null order by ended_at, id", person))
}

// EndDrill ends a go; ErrStale where it ended already.
func (s *Store) EndDrill(ctx context.Context, id uuid.UUID, held int, at time.Time) error {
	return pgx.BeginFunc(ctx, s.pool, func(tx pgx.Tx) error { return EndedDrill(id, held, at)(ctx, tx) })
}

// EndedDrill is EndDrill as a part of a change of the site: somebody is qualified by it.
func EndedDrill(id uuid.UUID, held int, at time.Time) Step {
	return func(ctx context.Context, tx pgx.Tx) error {
		tag, err := tx.Exec(ctx, "update drill_goes set held = $2, ended_at = $3, material = '' where id = $1 and ended_at is null", id, held, at)
		if err == nil && tag.RowsAffected() == 0 {
			return ErrStale
		}
		return err
	}
}

// Qualified qualifies somebody for something until a day, as 2026-11-25.
func Qualified(person uuid.UUID, what, until string) Step {
	return func(ctx context.Context, tx pgx.Tx) error {
		p, err := one[Person](tx.Query(ctx, `update people set
			qualifications = array(select distinct q from unnest(qualifications || $2::text) q order by q),
			qualified_until = qualified_until || jsonb_build_object($2::text, $3::text)
			where id = $1 returning `+personColumns+"qualifications", person, what, until))
		if err != nil {
			return err
		}
		return p.factHolds(ctx, tx)
	}
}

// DrillAsked is a drill that is passed before a kind of joint is made.
type DrillAsked struct {
	Recipe string
	Kind   string
	Months int // for which it holds
	By     uuid.UUID
	At     time.Time
}

// DrillsAsked returns them, by recipe and drill.
func (s *Store) DrillsAsked(ctx context.Context) ([]DrillAsked, error) {
	return all[DrillAsked](s.pool.Query(ctx, "select recipe, kind, months, by, at from drills_asked order by recipe, kind"))
}

// AskedDrill asks for one, in the place of the same that was asked before.
func AskedDrill(d DrillAsked) Step {
	return func(ctx context.Context, tx pgx.Tx) error {
		_, err := tx.Exec(ctx, `insert into drills_asked (recipe, kind, months, by, at) values ($1, $2, $3, $4, $5)
			on conflict (recipe, kind) do update set months = excluded.months, by = excluded.by, at = excluded.at`,
			d.Recipe, d.Kind, d.Months, d.By, d.At)
		return err
	}
}

// UnaskedDrill asks for it no more; ErrNotFound where it was not asked for.
func UnaskedDrill(recipe, kind string) Step {
	return func(ctx context.Context, tx pgx.Tx) error {
		tag, err := tx.Exec(ctx, "delete from drills_asked where recipe = $1 and kind = $2", recipe, kind)
		if err == nil && tag.RowsAffected() == 0 {
			return ErrNotFound
		}
		return err
	}
}
