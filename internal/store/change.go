package store

import (
	"context"
	"errors"
	"time"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"
)

// ErrNobodyLeft is what a change comes to that would leave nobody who may change the site.
var ErrNobodyLeft = errors.New("no administrator would be left")

// Logged is an entry in the log of the site, which only grows.
type Logged struct {
	ID      int64
	At      time.Time
	By      *uuid.UUID // nil: the command line
	Kind    string
	Subject string // whom or what it is about
	Words   string
}

// Step is one part of a change of the site.
type Step func(ctx context.Context, tx pgx.Tx) error

// Change does all steps, and enters them in the log; or none of them. Changes are made
// one after the other, so that two cannot take the last administrator away together.
func (s *Store) Change(ctx context.Context, e Logged, steps ...Step) error {
	err := pgx.BeginFunc(ctx, s.pool, func(tx pgx.Tx) error {
		if _, err := tx.Exec(ctx, "select pg_advisory_xact_lock($1)", siteLock); err != nil {
			return err
		}
		for _, do := range steps {
			if err := do(ctx, tx); err != nil {
				return taken(err)
			}
		}
		_, err := tx.Exec(ctx, "insert into site_log (at, by, kind, subject, words) values ($1, $2, $3, $4, $5)", e.At, e.By, e.Kind,
			e.Subject,
			e.Words)
		return err
	})
	if err == nil {
		s.seen.Purge() // who may do what may be another now
	}
	return err
}

// siteLock is the advisory lock that changes of the site hold.
const siteLock = 0x64796e61636f72

// Log returns the newest entries of the site's log.
func (s *Store) Log(ctx context.Context, most int) ([]Logged, error) {
	return all[Logged](s.pool.Query(ctx, "select id, at, by, kind, subject, words from site_log order by id desc limit $1", most))
}

// NewSite names the site of a database that has none and nobody; ErrTaken where it has.
func NewSite(v Site) Step {
	return func(ctx context.Context, tx pgx.Tx) error {
		tag, err := tx.Exec(ctx, `insert into sites (name, outage, begins, days) select $1, $2, $3, $4
			where not exists (select from sites) and not exists (select from people)`, v.Name, v.Outage, v.Begins, v.Days)
		if err == nil && tag.RowsAffected() == 0 {
			return ErrTaken
		}
		if err == nil {
			err = v.holds(ctx, tx)
		}
		return err
	}
}

// ChangedSite gives the site another name or outage, or other words.
func ChangedSite(v Site) Step {
	return func(ctx context.Context, tx pgx.Tx) error {
		_, err := tx.Exec(ctx, `update sites set name = $1, outage = $2, begins = $3, days = $4, torque_unit = coalesce(nullif($5, ''), $8),
			say_why = $6, shifts = coalesce($7, '[]'::jsonb), glossary = coalesce($9, '{}'::jsonb)`, v.Name, v.Outage, v.Begins, v.Days,
			v.TorqueUnit, v.SayWhy, v.Shifts, usualUnit, v.Glossary)
		if err == nil {
			err = v.holds(ctx, tx)
		}
		return err
	}
}

// holds adds the fact of a site, and keeps its outage beside those before.
func (v Site) holds(ctx context.Context, tx pgx.Tx) error {
	if _, err := tx.Exec(ctx, `insert into outages (name, begins, days) values ($1, $2, $3)
		on conflict (name) do update set begins = excluded.begins, days = excluded.days`, v.Outage, v.Begins, v.Days); err != nil {
		return err
	}
	_, err := logFact(ctx, tx, SiteFact, "", factOfSite(v))
	return err
}

// NewArea adds an area behind the others; ErrTaken where one has its name.
func NewArea(id uuid.UUID, name string) Step {
	return func(ctx context.Context, tx pgx.Tx) error {
		_, err := tx.Exec(ctx, "insert into areas (id, name, position) select $1, $2, coalesce(max(position), 0) + 1 from areas", id, name)
		if err == nil {
			_, err = logFact(ctx, tx, AreaFact, id.String(), areaFact{name})
		}
		return err
	}
}

// RenamedArea gives an area another name.
func RenamedArea(id uuid.UUID, name string) Step {
	return func(ctx context.Context, tx pgx.Tx) error {
		tag, err := tx.Exec(ctx, "update areas set name = $2 where id = $1", id, name)
		if err == nil && tag.RowsAffected() == 0 {
			return ErrNotFound
		}
		if err == nil {
			_, err = logFact(ctx, tx, AreaFact, id.String(), areaFact{name})
		}
		return err
	}
}

// NewPerson adds somebody; ErrTaken where their login is somebody's.
func NewPerson(p Person) Step {
	return func(ctx context.Context, tx pgx.Tx) error {
		_, err := tx.Exec(ctx, `insert into people (id, login, name, initials, pin_hash, pin_once, roles, qualifications, qualified_until)
			values ($1, $2, $3, $4, $5, $6, $7, coalesce($8, '{}'::text[]), coalesce($9, '{}'::jsonb))`,
			p.ID, p.Login, p.Name, p.Initials, p.PinHash, p.PinOnce, p.Roles, p.Qualifications, p.QualifiedUntil)
		if err != nil {
			return err
		}
		p.Active = true
		return p.factHolds(ctx, tx)
	}
}

// ChangedPerson stores what somebody is called, may do, and whether they may sign in.
// Who may not any more is signed out everywhere.
func ChangedPerson(p Person) Step {
	return func(ctx context.Context, tx pgx.Tx) error {
		tag, err := tx.Exec(ctx, `update people set name = $2, initials = $3, roles = $4, qualifications = coalesce($5, '{}'::text[]),
			qualified_until = coalesce($6, '{}'::jsonb), active = $7 where id = $1`,
			p.ID, p.Name, p.Initials, p.Roles, p.Qualifications, p.QualifiedUntil, p.Active)
		switch {
		case err != nil:
			return err
		case tag.RowsAffected() == 0:
			return ErrNotFound
		case !p.Active:
			if err := SignedOut(p.ID, "")(ctx, tx); err != nil {
				return err
			}
		}
		if err := tx.QueryRow(ctx, "select login from people where id = $1", p.ID).Scan(&p.Login); err != nil {
			return err
		}
		if err := p.factHolds(ctx, tx); err != nil {
			return err
		}
		left := 0
		if err := tx.QueryRow(ctx, "select count(*) from people where active and 'administrator' = any(roles)").Scan(&left); err != nil {
			return err
		}
		if left == 0 {
			return ErrNobodyLeft
		}
		return nil
	}
}

// NewPin stores the hash of another PIN, which is to be replaced when it is first used
// where it is for once, and forgets the wrong ones that were given.
func NewPin(p Person) Step {
	return func(ctx context.Context, tx pgx.Tx) error {
		if _, err := tx.Exec(ctx, "update people set pin_hash = $2, pin_once = $3 where id = $1", p.ID, p.PinHash, p.PinOnce); err != nil {
			return err
		}
		return Unlocked(p.Login)(ctx, tx)
	}
}

// Unlocked forgets the wrong PINs that were given for a login.
func Unlocked(login string) Step {
	return func(ctx context.Context, tx pgx.Tx) error {
		_, err := tx.Exec(ctx, "delete from failed_pins where login = $1", login)
		return err
	}
}

// SignedOut ends the sessions of somebody, but for one.
func SignedOut(person uuid.UUID, but string) Step {
	return func(ctx context.Context, tx pgx.Tx) error {
		_, err := tx.Exec(ctx, "delete from sessions where person = $1 and token <> $2", person, hashed(but))
		return err
	}
}
