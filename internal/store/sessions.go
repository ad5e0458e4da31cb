package store

import (
	"context"
	"crypto/sha256"
	"encoding/hex"
	"encoding/json"
	"errors"
	"time"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"
)

// Session is a session as it travels between the session library and the table,
// with what its person may do.
type Session struct {
	Person         uuid.UUID
	Expiry         time.Time
	Roles          []string // as they were found; not kept
	Qualifications []string
	Once           bool   // their PIN is to be replaced first
	Locale         string // that they read
	Fact           []byte // of who they are and may do
}

// mostSeen is how many sessions are remembered: those of the largest site, and to
// spare.
const mostSeen = 4096

// hashed is a session's token as it is kept: whoever reads the table, or a copy of it,
// is not signed in by it. A token is random and long, so that a plain hash does.
func hashed(token string) string {
	sum := sha256.Sum256([]byte(token))
	return hex.EncodeToString(sum[:])
}

// Session finds a session together with what its person may do at this moment;
// ErrNotFound where it is unknown or over, or its person was switched off.
func (s *Store) Session(ctx context.Context, token string) (Session, error) {
	var x Session
	err := s.pool.QueryRow(ctx, `select person, expiry, roles, `+holding+`, pin_once, locale, fact
		from sessions join people on people.id = person where token = $1 and expiry > now() and active`, hashed(token)).
		Scan(&x.Person, &x.Expiry, &x.Roles, &x.Qualifications, &x.Once, &x.Locale, &x.Fact)
	if errors.Is(err, pgx.ErrNoRows) {
		s.seen.Remove(token)
		return Session{}, ErrNotFound
	}
	if err == nil {
		s.seen.Add(token, x)
	}
	return x, err
}

// Sessions keeps who is signed in, for the session library.
type Sessions struct{ store *Store }

// Sessions returns the sessions of s.
func (s *Store) Sessions() *Sessions { return &Sessions{s} }

// Remembered returns a session as it was last looked up. It may be over by now, or
// its person may do less: what is done with it has to look whether it still stands.
func (s *Sessions) Remembered(token string) (x Session, known bool) { return s.store.seen.Get(token) }

// FindCtx returns a Session as JSON; found is false where there is none.
func (s *Sessions) FindCtx(ctx context.Context, token string) (b []byte, found bool, err error) {
	x, err := s.store.Session(ctx, token)
	if errors.Is(err, ErrNotFound) {
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
	s.store.seen.Remove(token)
	batch := &pgx.Batch{}
	batch.Queue("delete from sessions where expiry <= now()")
	batch.Queue(`insert into sessions (token, person, expiry) values ($1, $2, $3)
		on conflict (token) do update set person = excluded.person, expiry = excluded.expiry`, hashed(token), x.Person, expiry)
	return s.store.pool.SendBatch(ctx, batch).Close()
}

// DeleteCtx ends a session.
func (s *Sessions) DeleteCtx(ctx context.Context, token string) error {
	s.store.seen.Remove(token)
	_, err := s.store.pool.Exec(ctx, "delete from sessions where token = $1", hashed(token))
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
