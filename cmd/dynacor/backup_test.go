package main

import (
	"os"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"github.com/jackc/pgx/v5"
	"github.com/stretchr/testify/require"

	"dynacor/internal/app"
	"dynacor/internal/backup"
	"dynacor/internal/demo"
	"dynacor/internal/pgdev/pgtest"
	"dynacor/internal/seal"
	"dynacor/internal/store"
)

// plant is a database with the demo in it and two roles: one owns it, one serves.
type plant struct {
	owner, server string // addresses
	key           seal.Key
	keyFile       string
}

func planted(t *testing.T) plant {
	t.Helper()
	p := plant{keyFile: filepath.Join(t.TempDir(), "seal.key")}
	var err error
	p.key, err = seal.LoadOrMake(p.keyFile)
	require.NoError(t, err)
	p.owner, p.server = pgtest.Roles(t, pgtest.Empty(t))
	t.Setenv(keyVariable, p.keyFile)
	_, err = runs(t, p.owner, "", "migrate", "--for", user(p.server))
	require.NoError(t, err)
	s, err := store.Open(t.Context(), p.server)
	require.NoError(t, err)
	defer s.Close()
	require.NoError(t, demo.Load(t.Context(), s, time.Now()), "who serves may do all that the work needs")
	a := app.New(s, time.Now)
	require.NoError(t, a.SealWith(t.Context(), p.key, nil))
	require.NoError(t, a.Seal(t.Context()))
	return p
}

func user(url string) string {
	cfg, err := pgx.ParseConfig(url)
	if err != nil {
		return ""
	}
	return cfg.User
}

// Who serves can change neither what is only ever added to, nor the shape of anything.
func TestWhoServesCannotAlterOrDrop(t *testing.T) {
	p := planted(t)
	conn, err := pgx.Connect(t.Context(), p.server)
	require.NoError(t, err)
	defer conn.Close(t.Context())
	tables, err := conn.Query(t.Context(), "select tablename::text from pg_tables where schemaname = 'public'")
	require.NoError(t, err)
	names, err := pgx.CollectRows(tables, pgx.RowTo[string])
	require.NoError(t, err)
	var try []string
	for _, name := range names {
		try = append(try, "drop table "+name+" cascade", "truncate "+name+" cascade", "alter table "+name+" disable trigger all",
			"alter table "+name+" add column x text",
			"create trigger x before insert on "+name+" for each row execute function refuse_change()")
	}
	for _, name := range []string{"entries", "plans", "facts", "seals", "seal_keys", "recipes", "site_log", "own_figures", "lot_checks"} {
		try = append(try, "delete from "+name, "update "+name+" set ctid = ctid")
	}
	try = append(try, "update entries set body = ''", "update runs set joint = joint", "update runs set begun_at = now()",
		"delete from runs",
		"delete from joints", "delete from people", "delete from tools", "create table x ()", "drop function refuse_change() cascade",
		"set session_replication_role = replica",
		"create or replace function refuse_change() returns trigger language plpgsql as 'begin end'")
	for _, sql := range try {
		_, err := conn.Exec(t.Context(), sql)
		require.Error(t, err, sql)
	}
	s, err := store.Open(t.Context(), p.server)
	require.NoError(t, err)
	defer s.Close()
	require.NoError(t, s.Migrate(t.Context()), "a server starts as that role")
	found, err := s.Audit(t.Context(), store.Against{Keys: []seal.Public{p.key.Public()}})
	require.NoError(t, err)
	require.Empty(t, found.Faults)
	_, err = runs(t, p.owner, "", "migrate", "--for", "nobody_there")
	require.ErrorContains(t, err, "create role")
	_, err = runs(t, roleless(t), "", "migrate")
	require.ErrorContains(t, err, "which its owner alone may do")
}

// roleless is the address of an empty database by a role that does not own it.
func roleless(t *testing.T) string {
	_, server := pgtest.Roles(t, pgtest.Empty(t))
	return server
}

// What was backed up comes back as it was, into an empty database or in the place of
// another; what was touched since does not.
func TestABackupComesBack(t *testing.T) {
	p, folder := planted(t), t.TempDir()
	out, err := runs(t, p.server, "", "backup", folder)
	require.NoError(t, err, "who serves may back up")
	require.Contains(t, out, "Written in")
	list, err := backup.List(folder)
	require.NoError(t, err)
	require.Len(t, list, 1)
	dump := list[0]
	out, err = runs(t, p.server, "", "verify", dump)
	require.NoError(t, err)
	require.Contains(t, out, "It is what was written on")

	to, server := pgtest.Roles(t, pgtest.Empty(t))
	out, err = runs(t, to, "", "restore", dump)
	require.NoError(t, err, out)
	require.Contains(t, out, "all of it holds")
	s, err := store.Open(t.Context(), to)
	require.NoError(t, err)
	defer s.Close()
	n, err := backup.Read(dump, p.key.Public())
	require.NoError(t, err)
	require.NoError(t, s.Snapshot(t.Context(), func(_ string, is store.State) error {
		require.Equal(t, n.State, is)
		return nil
	}))

	_, err = runs(t, to, "", "restore", dump)
	require.ErrorContains(t, err, "is set up")
	_, err = runs(t, to, "", "restore", "--over", dump)
	require.ErrorContains(t, err, "others are on this database", "we are")
	s.Close()
	out, err = runs(t, to, "", "restore", "--over", dump)
	require.NoError(t, err, out)
	_, err = runs(t, to, "", "migrate", "--for", user(server))
	require.NoError(t, err)

	other, err := seal.New()
	require.NoError(t, err)
	_, err = runs(t, to, "", "verify", "--key", other.Public().String(), dump)
	require.ErrorContains(t, err, "not signed with the site’s key")
	b, err := os.ReadFile(dump)
	require.NoError(t, err)
	b[len(b)/2] ^= 1
	require.NoError(t, os.WriteFile(dump, b, 0o600))
	for _, command := range [][]string{{"verify", dump}, {"restore", "--over", dump}} {
		_, err = runs(t, to, "", command...)
		require.ErrorContains(t, err, "is not the dump that its note is of")
	}
	require.NoError(t, os.Remove(strings.TrimSuffix(dump, ".dump")+".json"))
	_, err = runs(t, to, "", "restore", "--over", dump)
	require.ErrorContains(t, err, "the note beside the dump")
}

// While a server is on the database nothing is restored, and while something is restored
// no server starts.
func TestNothingIsRestoredUnderAServer(t *testing.T) {
	p := planted(t)
	s, err := store.Open(t.Context(), p.server)
	require.NoError(t, err)
	require.NoError(t, s.Served(t.Context()))
	require.ErrorContains(t, store.Alone(t.Context(), p.owner, func() error { return nil }), "stop them first")
	s.Close()
	require.NoError(t, store.Alone(t.Context(), p.owner, func() error {
		s, err := store.Open(t.Context(), p.server)
		require.NoError(t, err)
		defer s.Close()
		require.ErrorIs(t, s.Served(t.Context()), store.ErrRestoring)
		return nil
	}))
}

// A server makes a backup when one is due, and old ones go, but for the newest few.
func TestBackupsAreMadeAndGo(t *testing.T) {
	p := planted(t)
	k := kept{url: p.server, folder: t.TempDir(), every: time.Hour, keep: 24 * time.Hour, key: &p.key}
	require.NoError(t, k.backup(t.Context()))
	require.NoError(t, k.backup(t.Context()), "none is due")
	list, err := backup.List(k.folder)
	require.NoError(t, err)
	require.Len(t, list, 1)
	for i := range 5 {
		at := time.Now().Add(-time.Duration(i+1) * 48 * time.Hour).UTC().Format("20060102T150405Z")
		for _, end := range []string{".dump", ".json"} {
			require.NoError(t, os.WriteFile(filepath.Join(k.folder, "dynacor-"+at+end), nil, 0o600))
		}
	}
	gone, err := backup.Tidy(k.folder, time.Now().Add(-k.keep))
	require.NoError(t, err)
	require.Equal(t, 3, gone)
	left, err := backup.List(k.folder)
	require.NoError(t, err)
	require.Len(t, left, 3)
	require.Equal(t, list[0], left[2])
}
