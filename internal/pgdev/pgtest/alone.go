package pgtest

import (
	"context"
	"os"
	"path/filepath"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"dynacor/internal/pgdev"
	"dynacor/internal/store"
)

// Alone is a server for one test, which may take its power away. It writes to
// disk as a real one does.
type Alone struct {
	t       testing.TB
	options pgdev.Options
	cluster *pgdev.Cluster
}

// NewAlone starts a server with one database, migrated and filled by prepare.
func NewAlone(t testing.TB, prepare func(context.Context, *store.Store) error) *Alone {
	t.Helper()
	folder, err := os.MkdirTemp("", "dynacor-alone-")
	require.NoError(t, err)
	t.Cleanup(func() { _ = os.RemoveAll(folder) })
	require.NoError(t, os.Chmod(folder, 0o755)) // the server's user must get through
	a := &Alone{t: t, options: pgdev.Options{Folder: filepath.Join(folder, "pg")}}
	a.Start()
	t.Cleanup(func() { a.cluster.Stop() })
	a.options.Port = a.cluster.Port()
	require.NoError(t, a.cluster.Create(context.Background(), database, ""))
	s, err := store.Open(context.Background(), a.URL())
	require.NoError(t, err)
	defer s.Close()
	require.NoError(t, s.Migrate(context.Background()))
	require.NoError(t, prepare(context.Background(), s))
	return a
}

const database = "dynacor"

// URL returns the address of the database, which stays the same.
func (a *Alone) URL() string { return a.cluster.URL(database) }

// Kill ends the server as a power cut would.
func (a *Alone) Kill() { a.cluster.Kill() }

// Start brings the server up, after a Kill once nothing of the old one is left.
func (a *Alone) Start() {
	a.t.Helper()
	require.Eventually(a.t, func() bool {
		c, err := pgdev.Start(context.Background(), a.options)
		if err == nil {
			a.cluster = c
		}
		return err == nil
	}, time.Minute, 50*time.Millisecond)
}
