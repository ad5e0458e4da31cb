package main

import (
	"context"
	"os"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/require"
)

func TestOneDemoAFolder(t *testing.T) {
	folder := filepath.Join(t.TempDir(), "data")
	unlock, err := only(folder)
	require.NoError(t, err)
	_, err = only(folder)
	require.ErrorIs(t, err, errHeld)
	require.NoError(t, os.WriteFile(filepath.Join(folder, "file"), nil, 0o600))
	_, err = only(filepath.Join(folder, "file"))
	require.Error(t, err)
	require.NotErrorIs(t, err, errHeld, "what cannot be reached is not taken for held")
	unlock()
	unlock, err = only(folder)
	require.NoError(t, err, "the folder is free again")
	unlock()
}

// Data is kept where it was asked for, unless the database's user cannot get
// there; then in one place that belongs to that folder alone.
func TestWhereTheDataIsKept(t *testing.T) {
	open := t.TempDir()
	got := keepIn(filepath.Join(open, "data"))
	if os.Geteuid() != 0 {
		require.Equal(t, filepath.Join(open, "data"), got)
		return
	}
	closed := t.TempDir()
	require.NoError(t, os.Chmod(closed, 0o700))
	a, b := keepIn(filepath.Join(closed, "a")), keepIn(filepath.Join(closed, "b"))
	require.Equal(t, "/var/tmp", filepath.Dir(a))
	require.NotEqual(t, a, b)
	require.Equal(t, a, keepIn(filepath.Join(closed, "a")))
}

func TestTheParentsEndIsNotMistaken(t *testing.T) {
	ctx, cancel := withParent(context.Background())
	require.NoError(t, ctx.Err(), "our parent is alive")
	cancel()
	require.Error(t, ctx.Err())
}

func TestCommandsNameTheMissingAddress(t *testing.T) {
	t.Setenv(databaseVariable, "")
	for _, c := range []string{"serve", "migrate", "audit"} {
		root := serveCommand()
		switch c {
		case "migrate":
			root = migrateCommand()
		case "audit":
			root = auditCommand()
		}
		root.SetArgs([]string{})
		root.SilenceUsage, root.SilenceErrors = true, true
		require.ErrorContains(t, root.Execute(), databaseVariable, c)
	}
}
