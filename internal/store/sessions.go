package store

import (
	"context"
	"encoding/json"
	"sync"
	"time"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"
	"github.com/jackc/pgx/v5/pgxpool"
)

// Sessions keeps who is signed in, for the session library. One query finds a
// session together with what its person may do at that moment. Requests that come
// while others are being looked up go together with the next.
type Sessions struct {
	pool  *pgxpool.Pool
	slots chan struct{} // queries under way
	mu    sync.Mutex
	next  *lookup // that others may still join
}

// lookup is one query for the sessions of several requests.
type lookup struct {
	tokens []string
	done   chan struct{}
	found  map[string]Session
	err    error
}

// Sessions returns the sessions of s.
func (s *Store) Sessions() *Sessions { return &Sessions{pool: s.pool, slots: make(chan struct{}, 2)} }

// Session is a session as it travels between the library and the table.
type Session struct {
	Token          string `json:"-"`
	Person         uuid.UUID
	Expiry         time.Time
	Active         bool // found only: the person may still sign in
	Roles          []string
	Qualifications []string
}

// FindCtx returns a Session as JSON; found is false where it is unknown or over.
func (s *Sessions) FindCtx(ctx context.Context, token string) (b []byte, found bool, err error) {
	s.mu.Lock()
	l, first := s.next, s.next == nil
	if first {
		l = &lookup{done: make(chan struct{})}
		s.next = l
	}
	l.tokens = append(l.tokens, token)
	s.mu.Unlock()
	if first {
		s.look(context.WithoutCancel(ctx), l)
	}
	select {
	case <-l.done:
	case <-ctx.Done():
		return nil, false, ctx.Err()
	}
	x, found := l.found[token]
	if l.err != nil || !found {
		return nil, false, l.err
	}
	b, err = json.Marshal(x)
	return b, err == nil, err
}

// look waits for its turn, lets nobody join any more, and asks for all of them.
func (s *Sessions) look(ctx context.Context, l *lookup) {
	s.slots <- struct{}{}
	defer func() { <-s.slots }()
	s.mu.Lock()
	s.next = nil
	s.mu.Unlock()
	defer close(l.done)
	list, err := all[Session](s.pool.Query(ctx, `select token, person, expiry, active, roles, qualifications
		from sessions join people on people.id = person where token = any($1) and expiry > now()`, l.tokens))
	l.found, l.err = make(map[string]Session, len(list)), err
	for _, x := range list {
		l.found[x.Token] = x
	}
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
