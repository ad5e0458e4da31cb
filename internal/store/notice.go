package store

import (
	"context"
	"errors"
	"fmt"

	"github.com/google/uuid"
)

// Notice is word of a joint that changed: its run has so many entries now, or
// something else about it is new.
type Notice struct {
	Joint   uuid.UUID
	Entries int
}

// Otherwise is the Entries of a notice that is not about entries.
const Otherwise = -1

func (n Notice) String() string { return fmt.Sprintf("%s %d", n.Joint, n.Entries) }

// Notify tells every server of changes. It is a hint: whoever misses it sees
// the change when it next looks.
func (s *Store) Notify(ctx context.Context, news []Notice) error {
	words := make([]string, len(news))
	for i, n := range news {
		words[i] = n.String()
	}
	_, err := s.pool.Exec(ctx, "select pg_notify('joint', word) from unnest($1::text[]) as word", words)
	return err
}

// Listen calls changed with every notice, as it is written, until ctx ends.
// ready is called once it listens.
func (s *Store) Listen(ctx context.Context, ready func(), changed func(notice string)) error {
	err := s.listen(ctx, ready, changed)
	if errors.Is(ctx.Err(), context.Canceled) {
		return nil
	}
	// The connections beside this one have gone with it when the database went, and
	// each of them would fail one request more.
	s.pool.Reset()
	return err
}

func (s *Store) listen(ctx context.Context, ready func(), changed func(notice string)) error {
	conn, err := s.pool.Acquire(ctx)
	if err != nil {
		return err
	}
	defer func() {
		// A connection that listens is not given back to the pool.
		_ = conn.Hijack().Close(context.Background())
	}()
	// As long as this connection lives, nobody restores the database under us.
	var alive bool
	if err := conn.QueryRow(ctx, "select pg_try_advisory_lock_shared($1)", servingLock).Scan(&alive); err != nil {
		return err
	}
	if !alive {
		return ErrRestoring
	}
	if _, err := conn.Exec(ctx, "listen joint"); err != nil {
		return err
	}
	ready()
	for {
		n, err := conn.Conn().WaitForNotification(ctx)
		if err != nil {
			return err
		}
		changed(n.Payload)
	}
}
