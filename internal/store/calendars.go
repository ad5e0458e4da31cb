package store

import (
	"context"
	"errors"
	"time"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"
)

// KeepCalendar makes a token the private address of somebody's calendar, in the place of
// the one they had.
func (s *Store) KeepCalendar(ctx context.Context, person uuid.UUID, token string, at time.Time) error {
	_, err := s.pool.Exec(ctx, `insert into calendars (person, token, made_at) values ($1, $2, $3)
		on conflict (person) do update set token = excluded.token, made_at = excluded.made_at`, person, hashed(token), at)
	return err
}

// DropCalendar takes somebody's address away.
func (s *Store) DropCalendar(ctx context.Context, person uuid.UUID) error {
	_, err := s.pool.Exec(ctx, "delete from calendars where person = $1", person)
	return err
}

// CalendarOf returns whose calendar an address is; ErrNotFound where it is nobody's who may
// still sign in.
func (s *Store) CalendarOf(ctx context.Context, token string) (id uuid.UUID, err error) {
	err = s.pool.QueryRow(ctx, "select person from calendars join people on id = person and active where token = $1",
		hashed(token)).Scan(&id)
	if errors.Is(err, pgx.ErrNoRows) {
		err = ErrNotFound
	}
	return id, err
}
