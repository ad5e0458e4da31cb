package store

import (
	"context"
	"time"

	"github.com/google/uuid"
)

// SecurityEvent is one line of the security log, which only grows.
type SecurityEvent struct {
	ID      int64      `json:"id"`
	At      time.Time  `json:"at"`
	Kind    string     `json:"kind"`
	Person  *uuid.UUID `json:"person,omitempty"` // nil: nobody was signed in
	Login   string     `json:"login,omitempty"`  // as it was typed
	Address string     `json:"address,omitempty"`
	Words   string     `json:"words,omitempty"`
}

// AddSecurityEvent stores a line.
func (s *Store) AddSecurityEvent(ctx context.Context, e SecurityEvent) error {
	_, err := s.pool.Exec(ctx, "insert into security_log (at, kind, person, login, address, words) values ($1, $2, $3, $4, $5, $6)", e.At,
		e.Kind, e.Person, e.Login, e.Address, e.Words)
	return err
}

// SecurityEvents returns lines, the newest first: those before an id, where that is not zero.
func (s *Store) SecurityEvents(ctx context.Context, before int64, most int) ([]SecurityEvent, error) {
	return all[SecurityEvent](s.pool.Query(ctx, `select id, at, kind, person, login, address, words from security_log
		where $1 = 0 or id < $1 order by id desc limit $2`, before, most))
}
