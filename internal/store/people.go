package store

import (
	"context"
	"time"

	"github.com/google/uuid"
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
	PinOnce  bool // it is to be replaced when it is first used

	Qualifications []string          // what a step of a recipe may ask for, beside a role; those that hold today, where they are not listed
	QualifiedUntil map[string]string // last day by qualification, as 2026-11-25; left out: no end
}

// holding are the qualifications of a row of people that hold today.
const holding = `array(select q from unnest(qualifications) q
	where coalesce((qualified_until->>q)::date, 'infinity'::date) >= current_date)`

const personColumns = "id, login, name, initials, pin_hash, roles, active, pin_once, qualified_until, "

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

// AddPerson stores someone new.
func (s *Store) AddPerson(ctx context.Context, p Person) error {
	_, err := s.pool.Exec(ctx, `insert into people (id, login, name, initials, pin_hash, roles, qualifications)
		values ($1, $2, $3, $4, $5, $6, coalesce($7, '{}'::text[]))`,
		p.ID, p.Login, p.Name, p.Initials, p.PinHash, p.Roles, p.Qualifications)
	return taken(err)
}

// SetPin replaces the hash of somebody's PIN.
func (s *Store) SetPin(ctx context.Context, person uuid.UUID, hash string) error {
	_, err := s.pool.Exec(ctx, "update people set pin_hash = $2 where id = $1", person, hash)
	return err
}

// Presence is where somebody is signed in, and how often they were wrong.
type Presence struct {
	Person   uuid.UUID
	Sessions int
	Wrong    int // PINs since a time
}

// Presences returns those of everybody, by id.
func (s *Store) Presences(ctx context.Context, since time.Time) (map[uuid.UUID]Presence, error) {
	rows, err := all[Presence](s.pool.Query(ctx, `select id as person,
		(select count(*) from sessions where person = people.id and expiry > now()) as sessions,
		(select count(*) from failed_pins where login = people.login and at > $1) as wrong from people`, since))
	out := make(map[uuid.UUID]Presence, len(rows))
	for _, r := range rows {
		out[r.Person] = r
	}
	return out, err
}

// FailedPins counts the wrong PINs given for login since a time, and says when
// the first of them was.
func (s *Store) FailedPins(ctx context.Context, login string, since time.Time) (n int, first time.Time, err error) {
	err = s.pool.QueryRow(ctx, "select count(*), coalesce(min(at), now()) from failed_pins where login = $1 and at > $2", login,
		since).Scan(&n, &first)
	return n, first, err
}

// AddFailedPin notes a wrong PIN and forgets those of days gone by.
func (s *Store) AddFailedPin(ctx context.Context, login string, at time.Time) error {
	_, err := s.pool.Exec(ctx, `with old as (delete from failed_pins where at < $2::timestamptz - interval '1 day')
		insert into failed_pins (login, at) values ($1, $2)`, login, at)
	return err
}

// ForgetFailedPins clears login's count after the right PIN.
func (s *Store) ForgetFailedPins(ctx context.Context, login string) error {
	_, err := s.pool.Exec(ctx, "delete from failed_pins where login = $1", login)
	return err
}
