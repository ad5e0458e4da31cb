// Package store keeps Dynacor's data in PostgreSQL. All SQL is here, one file
// an aggregate; nothing here decides anything about a joint.
package store

import (
	"context"
	"embed"
	"errors"
	"fmt"
	"io/fs"
	"path"
	"time"

	lru "github.com/hashicorp/golang-lru/v2"
	"github.com/jackc/pgx/v5"
	"github.com/jackc/pgx/v5/pgconn"
	"github.com/jackc/pgx/v5/pgxpool"
	"github.com/jackc/pgx/v5/stdlib"
	"github.com/pressly/goose/v3"
	"github.com/pressly/goose/v3/lock"
)

//go:embed migrations/*.sql
var migrations embed.FS

// The errors that callers tell apart.
var (
	ErrNotFound = errors.New("not found")
	ErrTaken    = errors.New("taken already")
	ErrStale    = errors.New("changed in the meantime")
)

// connectTimeout is how long a connection to the database may take.
const connectTimeout = 5 * time.Second

// Store is a pool of connections to one database.
type Store struct {
	pool *pgxpool.Pool
	seen *lru.Cache[string, Session] // sessions as they were last looked up
}

// Open connects to the database at url.
func Open(ctx context.Context, url string) (*Store, error) { return OpenWithin(ctx, url, Limits{}) }

// OpenWithin connects to the database at url and waits for no statement longer than
// limits say.
func OpenWithin(ctx context.Context, url string, limits Limits) (*Store, error) {
	cfg, err := pgxpool.ParseConfig(url)
	if err != nil {
		return nil, err
	}
	for name, limit := range map[string]string{"statement_timeout": limits.Statement, "lock_timeout": limits.Lock} {
		if _, set := cfg.ConnConfig.RuntimeParams[name]; limit != "" && !set {
			cfg.ConnConfig.RuntimeParams[name] = limit
		}
	}
	if cfg.ConnConfig.ConnectTimeout == 0 {
		cfg.ConnConfig.ConnectTimeout = connectTimeout
	}
	if cfg.MaxConns < 16 {
		cfg.MaxConns = 16
	}
	// Lists of any length come as arrays, which the server would plan for anew each time.
	cfg.ConnConfig.RuntimeParams["plan_cache_mode"] = "force_generic_plan"
	pool, err := pgxpool.NewWithConfig(ctx, cfg)
	if err != nil {
		return nil, err
	}
	if err := pool.Ping(ctx); err != nil {
		pool.Close()
		return nil, fmt.Errorf("the database does not answer: %w", err)
	}
	seen, err := lru.New[string, Session](mostSeen)
	return &Store{pool, seen}, err
}

// Ping asks the database whether it answers.
func (s *Store) Ping(ctx context.Context) error { return s.pool.Ping(ctx) }

// Close gives the connections back.
func (s *Store) Close() { s.pool.Close() }

// Pool gives tests the connections.
func (s *Store) Pool() *pgxpool.Pool { return s.pool }

// Migrate brings the database to the newest shape. Servers that start together take
// turns: one does it, the others find it done.
func (s *Store) Migrate(ctx context.Context) error {
	err := s.shape(func(p *goose.Provider) error {
		if pending, err := p.HasPending(ctx); err == nil && !pending {
			return nil // whoever only serves may not do more
		}
		_, err := p.Up(ctx)
		return err
	})
	var pg *pgconn.PgError
	if errors.As(err, &pg) && (pg.Code == "42501" || pg.Code == "42P01") { // no right to it, or to make the table of what is done
		return fmt.Errorf("this database wants a newer shape, which its owner alone may do: run “dynacor migrate” as that role: %w", err)
	}
	if err != nil {
		return err
	}
	return s.EnterFacts(ctx)
}

// MigrateTo brings the database to the shape it had at a step, for tests of each.
func (s *Store) MigrateTo(ctx context.Context, step int64) error {
	return s.shape(func(p *goose.Provider) error {
		_, err := p.UpTo(ctx, step)
		return err
	})
}

// Migration is one step of the database's shape.
type Migration struct {
	Name string
	At   time.Time // zero: it is still to be done
}

// Migrations lists the steps, in order.
func (s *Store) Migrations(ctx context.Context) (out []Migration, err error) {
	err = s.shape(func(p *goose.Provider) error {
		list, err := p.Status(ctx)
		for _, m := range list {
			out = append(out, Migration{path.Base(m.Source.Path), m.AppliedAt})
		}
		return err
	})
	return out, err
}

// shape gives do what migrates.
func (s *Store) shape(do func(*goose.Provider) error) error {
	files, err := fs.Sub(migrations, "migrations")
	if err != nil {
		return err
	}
	turns, err := lock.NewPostgresSessionLocker(lock.WithLockTimeout(1, 600)) // tried each second, for ten minutes
	if err != nil {
		return err
	}
	db := stdlib.OpenDBFromPool(s.pool)
	defer db.Close()
	p, err := goose.NewProvider(goose.DialectPostgres, db, files, goose.WithSessionLocker(turns))
	if err != nil {
		return err
	}
	return do(p)
}

// one turns "no rows" into ErrNotFound.
func one[T any](rows pgx.Rows, err error) (T, error) {
	var zero T
	if err != nil {
		return zero, err
	}
	v, err := pgx.CollectExactlyOneRow(rows, pgx.RowToStructByName[T])
	if errors.Is(err, pgx.ErrNoRows) {
		return zero, ErrNotFound
	}
	return v, err
}

func all[T any](rows pgx.Rows, err error) ([]T, error) {
	if err != nil {
		return nil, err
	}
	return pgx.CollectRows(rows, pgx.RowToStructByName[T])
}

// taken turns a broken uniqueness rule into ErrTaken.
func taken(err error) error {
	var pg *pgconn.PgError
	if errors.As(err, &pg) && pg.Code == "23505" {
		return ErrTaken
	}
	return err
}
