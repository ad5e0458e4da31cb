package store

import (
	"context"
	"errors"
	"fmt"
	"time"

	"github.com/jackc/pgx/v5"
	"github.com/jackc/pgx/v5/pgxpool"
)

// ErrRestoring is what a server comes to whose database is being restored.
var ErrRestoring = errors.New("this database is being restored; start when that is done")

// servingLock is the advisory lock that servers share, and that a restore wants alone.
const servingLock = 0x64797365727665

// Served refuses a database that is being restored.
func (s *Store) Served(ctx context.Context) error {
	return s.pool.AcquireFunc(ctx, func(conn *pgxpool.Conn) error {
		var free bool
		if err := conn.QueryRow(ctx, "select pg_try_advisory_lock_shared($1)", servingLock).Scan(&free); err != nil {
			return err
		}
		if !free {
			return ErrRestoring
		}
		_, err := conn.Exec(ctx, "select pg_advisory_unlock_shared($1)", servingLock)
		return err
	})
}

// leaving is how long the database may take to notice that somebody has left it.
const leaving = 2 * time.Second

// alone takes the lock that servers share, where it is free, and counts who else is on the database.
func alone(ctx context.Context, conn *pgx.Conn) (free bool, others int, err error) {
	// Taken again it is held twice, and let go of with the connection as often.
	if err := conn.QueryRow(ctx, "select pg_try_advisory_lock($1)", servingLock).Scan(&free); err != nil {
		return false, 0, err
	}
	err = conn.QueryRow(ctx, `select count(*) from pg_stat_activity where datname = current_database() and pid <> pg_backend_pid()
		and usesysid is not null`).Scan(&others)
	return free, others, err
}

// Alone does something while no server is on the database, and keeps them off meanwhile.
func Alone(ctx context.Context, url string, do func() error) error {
	conn, err := pgx.Connect(ctx, url)
	if err != nil {
		return err
	}
	defer conn.Close(context.WithoutCancel(ctx))
	// Who was stopped just now is still on the list for a moment.
	for until := time.Now().Add(leaving); ; {
		free, others, err := alone(ctx, conn)
		switch {
		case err != nil:
			return err
		case free && others == 0:
			return do()
		case time.Now().After(until):
			return fmt.Errorf("%d others are on this database, servers among them: stop them first, nothing was changed", others)
		}
		select {
		case <-ctx.Done():
			return ctx.Err()
		case <-time.After(leaving / 20):
		}
	}
}

// State is what a database holds, in a few numbers: a backup says them, and what is
// restored from it is held to them.
type State struct {
	Migration int64  `json:"migration"` // the newest that was done
	Runs      int    `json:"runs"`
	Heads     string `json:"heads"` // SHA-256 over all their heads, hex
	Entries   int    `json:"entries"`
	Facts     int    `json:"facts"`
	Seals     int    `json:"seals"`
	Seal      string `json:"seal"` // SHA-256 of the newest, hex
}

// Snapshot gives do the state of the database, and the name of the snapshot that it is of:
// another connection can read that very state as long as do runs.
func (s *Store) Snapshot(ctx context.Context, do func(name string, is State) error) error {
	asOf := pgx.TxOptions{IsoLevel: pgx.RepeatableRead, AccessMode: pgx.ReadOnly}
	return pgx.BeginTxFunc(ctx, s.pool, asOf, func(tx pgx.Tx) error {
		var name string
		var is State
		if err := tx.QueryRow(ctx, `select pg_export_snapshot(), (select max(version_id) from goose_db_version),
			(select count(*) from entries), (select count(*) from facts), (select count(*) from seals)`).Scan(&name, &is.Migration, &is.Entries,
			&is.Facts, &is.Seals); err != nil {
			return err
		}
		var err error
		if is.Runs, is.Heads, err = digest(ctx, tx); err != nil {
			return err
		}
		last, err := one[Seal](tx.Query(ctx, "select number, body, signature from seals order by number desc limit 1"))
		switch {
		case err == nil:
			is.Seal = last.sum()
		case !errors.Is(err, ErrNotFound):
			return err
		}
		return do(name, is)
	})
}

// IsEmpty reports whether a database holds nothing of ours.
func IsEmpty(ctx context.Context, url string) (empty bool, err error) {
	conn, err := pgx.Connect(ctx, url)
	if err != nil {
		return false, err
	}
	defer conn.Close(context.WithoutCancel(ctx))
	err = conn.QueryRow(ctx, "select to_regclass('public.entries') is null").Scan(&empty)
	return empty, err
}

// SignOutAll ends all sessions: those of a restored database were ended since, perhaps.
func (s *Store) SignOutAll(ctx context.Context) error {
	_, err := s.pool.Exec(ctx, "delete from sessions")
	return err
}
