package store

import (
	"context"
	"encoding/json"
	"errors"
	"time"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"
	"github.com/jackc/pgx/v5/pgxpool"
)

// Sessions keeps who is signed in, for the session library. One query finds a
// session together with what its person may do at that moment.
type Sessions struct{ pool *pgxpool.Pool }

// Sessions returns the sessions of s.
func (s *Store) Sessions() *Sessions { return &Sessions{s.pool} }

// Session is a session as it travels between the library and the table.
type Session struct {
	Person         uuid.UUID
	Expiry         time.Time
	Roles          []string // as they were found; not kept
	Qualifications []string
}

// FindCtx returns a Session as JSON; found is false where it is unknown or over,
// or its person was switched off.
func (s *Sessions) FindCtx(ctx context.Context, token string) (b []byte, found bool, err error) {
	var x Session
	err = s.pool.QueryRow(ctx, `select person, expiry, roles, qualifications
		from sessions join people on people.id = person where token = $1 and expiry > now() and active`, token).
		Scan(&x.Person, &x.Expiry, &x.Roles, &x.Qualifications)
	if errors.Is(err, pgx.ErrNoRows) {
		return nil, false, nil
	}
	if err != nil {
		return nil, false, err
	}
	b, err = json.Marshal(x)
	return b, err == nil, err
}

// CommitCtx keeps a session, a Session as JSON; those that are over go.
func (s *Sessions) CommitCtx(ctx context.Context, token string, b []byte, expiry time.Time) error {
	var x Session
	if err := json.Unmarshal(b, &x); err != nil {
		return err
	}
	batch := &pgx.Batch{}
	batch.Queue("delete from sessions where expiry <= now()")
	batch.Queue(`insert into sessions (token, person, expiry) values ($1, $2, $3)
		on conflict (token) do update set person = excluded.person, expiry = excluded.expiry`, token, x.Person, expiry)
	return s.pool.SendBatch(ctx, batch).Close()
}

// DeleteCtx ends a session.
func (s *Sessions) DeleteCtx(ctx context.Context, token string) error {
	_, err := s.pool.Exec(ctx, "delete from sessions where token = $1", token)
	return err
}

// Find is FindCtx; the library asks for it and calls it nowhere.
func (s *Sessions) Find(token string) ([]byte, bool, error) {
	return s.FindCtx(context.Background(), token)
}

// Commit is CommitCtx, likewise.
func (s *Sessions) Commit(token string, b []byte, expiry time.Time) error {
	return s.CommitCtx(context.Background(), token, b, expiry)
}

// Delete is DeleteCtx, likewise.
func (s *Sessions) Delete(token string) error { return s.DeleteCtx(context.Background(), token) }
