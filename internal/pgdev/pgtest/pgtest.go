// Package pgtest gives tests a real PostgreSQL: one cluster a package, and for
// each test a database of its own, copied from a template.
package pgtest

import (
	"context"
	"fmt"
	"os"
	"strings"
	"testing"

	"github.com/google/uuid"

	"dynacor/internal/pgdev"
	"dynacor/internal/store"
)

const template = "template_dynacor"

var cluster *pgdev.Cluster

// Options say how the cluster of a package is kept.
type Options struct {
	// Prepare fills the template, which is migrated already; nil leaves it empty.
	Prepare func(context.Context, *store.Store) error
	// Synced writes to disk as a real server does, for measuring.
	Synced bool
}

// Run runs a package's tests with a cluster; it is all a TestMain needs.
func Run(m *testing.M, o Options) int {
	code, err := run(m, o)
	if err != nil {
		fmt.Fprintln(os.Stderr, "pgtest:", err)
		return 1
	}
	return code
}

func run(m *testing.M, o Options) (int, error) {
	ctx := context.Background()
	folder, err := os.MkdirTemp("", "dynacor-test-")
	if err != nil {
		return 0, err
	}
	defer os.RemoveAll(folder)
	if err := os.Chmod(folder, 0o755); err != nil { // the server's user must get through
		return 0, err
	}
	if cluster, err = pgdev.Start(ctx, pgdev.Options{Folder: folder + "/pg", Fleeting: !o.Synced}); err != nil {
		return 0, err
	}
	defer cluster.Stop()
	if err := cluster.Create(ctx, template, ""); err != nil {
		return 0, err
	}
	s, err := store.Open(ctx, cluster.URL(template))
	if err != nil {
		return 0, err
	}
	err = s.Migrate(ctx)
	if err == nil && o.Prepare != nil {
		err = o.Prepare(ctx, s)
	}
	s.Close()
	if err != nil {
		return 0, err
	}
	return m.Run(), nil
}

// URL returns the address of a new database for a test.
func URL(t testing.TB) string {
	t.Helper()
	return made(t, template)
}

// Empty returns the address of a new database with nothing in it.
func Empty(t testing.TB) string {
	t.Helper()
	return made(t, "")
}

func made(t testing.TB, template string) string {
	t.Helper()
	name := "t" + strings.ReplaceAll(uuid.NewString(), "-", "")
	if err := cluster.Create(context.Background(), name, template); err != nil {
		t.Fatal(err)
	}
	return cluster.URL(name)
}

// Store opens a new database for a test.
func Store(t testing.TB) *store.Store {
	t.Helper()
	s, err := store.Open(context.Background(), URL(t))
	if err != nil {
		t.Fatal(err)
	}
	t.Cleanup(s.Close)
	return s
}
