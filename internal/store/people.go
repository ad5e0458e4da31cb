package store

import (
	"context"
	"slices"
	"time"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"
)

// Person is someone who signs in.
type Person struct {
	ID       uuid.UUID
	Login    string
	Name     string
	Initials string
	PinHash  string
	Roles    []string
	Active   bool
	PinOnce  bool   // it is to be replaced when it is first used
	Locale   string // that they read, as "de-AT"; empty: nobody has said

	TorqueUnit string // that they type torques in; empty: the site's

	Qualifications []string          // what a step of a recipe may ask for, beside a role; those that hold today, where they are not listed
	QualifiedUntil map[string]string // last day by qualification, as 2026-11-25; left out: no end
}

// Holds are the qualifications of somebody of People that hold on a day.
func (p Person) Holds(on time.Time) []string {
	day := on.Format(time.DateOnly)
	return slices.DeleteFunc(slices.Clone(p.Qualifications), func(q string) bool { return p.QualifiedUntil[q] != "" && p.QualifiedUntil[q] < day })
}

// holding are the qualifications of a row of people that hold today.
const holding = `array(select q from unnest(qualifications) q
	where coalesce((qualified_until->>q)::date, 'infinity'::date) >= current_date)`

const personColumns = "id, login, name, initials, pin_hash, roles, active, pin_once, locale, torque_unit, qualified_until, "

// PersonByLogin returns the active person with that login.
func (s *Store) PersonByLogin(ctx context.Context, login string) (Person, error) {
	return one[Person](s.pool.Query(ctx,
		"select "+personColumns+holding+" as qualifications from people where login = $1 and active", login))
}

// PersonByID returns the active person with that id.
func (s *Store) PersonByID(ctx context.Context, id uuid.UUID) (Person, error) {
	return one[Person](s.pool.Query(ctx,
		"select "+personColumns+holding+" as qualifications from people where id = $1 and active", id))
}

// People returns everyone, also those no longer active: records name them.
func (s *Store) People(ctx context.Context) ([]Person, error) {
	return all[Person](s.pool.Query(ctx,
		"select "+personColumns+"qualifications from people order by name"))
}

// Presence is where somebody is signed in, and how often they were wrong.
type Presence struct {
	Person    uuid.UUID
	Sessions  int
	Wrong     int // PINs at the sign-in, since a time
	LastWrong time.Time
}

// Presences returns those of everybody, by id.
func (s *Store) Presences(ctx context.Context, since time.Time) (map[uuid.UUID]Presence, error) {
	rows, err := all[Presence](s.pool.Query(ctx, `select id as person,
		(select count(*) from sessions where person = people.id and expiry > now()) as sessions,
		(select count(*) from failed_pins where login = people.login and not signing and at > $1) as wrong,
		(select coalesce(max(at), 'epoch') from failed_pins where login = people.login and not signing) as last_wrong from people`, since))
	out := make(map[uuid.UUID]Presence, len(rows))
	for _, r := range rows {
		out[r.Person] = r
	}
	return out, err
}

// PinTry is one try of a PIN: at the sign-in, from an address, or by somebody who is
// signed in and signs.
type PinTry struct {
	Login   string
	Address string // empty: not counted by address
	Signing bool
	At      time.Time
}

// WrongPins is how many wrong PINs there were, and when the last of them was.
type WrongPins struct {
	N    int
	Last time.Time
}

// TryPin counts a try as a wrong one before its PIN is looked at, so that many at once
// are counted too; the right PIN takes it back. wait says, from the wrong ones since a
// time for this login and from this address, how long is to be waited first; then
// nothing is counted.
func (s *Store) TryPin(ctx context.Context, t PinTry, since time.Time, wait func(login, address WrongPins) time.Duration) (time.Duration,
	error) {
	var left time.Duration
	err := pgx.BeginFunc(ctx, s.pool, func(tx pgx.Tx) error {
		for _, of := range []string{"login " + t.Login, "address " + t.Address} {
			if of == "address " {
				continue // it tells nobody apart
			}
			if _, err := tx.Exec(ctx, "select pg_advisory_xact_lock(hashtextextended($1, 0))", of); err != nil {
				return err
			}
		}
		var login, address WrongPins
		if err := tx.QueryRow(ctx, `select count(*) filter (where login = $1 and signing = $2),
				coalesce(max(at) filter (where login = $1 and signing = $2), 'epoch'),
				count(*) filter (where address = $3 and $3 <> ''), coalesce(max(at) filter (where address = $3), 'epoch')
			from failed_pins where at > $4 and (login = $1 or address = $3)`, t.Login, t.Signing, t.Address, since).
			Scan(&login.N, &login.Last, &address.N, &address.Last); err != nil {
			return err
		}
		if left = wait(login, address); left > 0 {
			return nil
		}
		_, err := tx.Exec(ctx, `with old as (delete from failed_pins where at < $2::timestamptz - interval '1 day')
			insert into failed_pins (login, at, address, signing) values ($1, $2, $3, $4)`, t.Login, t.At, t.Address, t.Signing)
		return err
	})
	return left, err
}

// RightPin forgets the wrong PINs of a login, at the sign-in or in signing.
func (s *Store) RightPin(ctx context.Context, t PinTry) error {
	_, err := s.pool.Exec(ctx, "delete from failed_pins where login = $1 and signing = $2", t.Login, t.Signing)
	return err
}

// SetLocale keeps which language somebody reads.
func (s *Store) SetLocale(ctx context.Context, person uuid.UUID, locale string) error {
	_, err := s.pool.Exec(ctx, "update people set locale = $2 where id = $1", person, locale)
	return err
}

// SetTorqueUnit keeps which unit somebody types torques in.
func (s *Store) SetTorqueUnit(ctx context.Context, person uuid.UUID, unit string) error {
	_, err := s.pool.Exec(ctx, "update people set torque_unit = $2 where id = $1", person, unit)
	return err
}
