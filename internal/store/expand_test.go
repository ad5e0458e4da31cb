package store_test

import (
	"context"
	"testing"

	"github.com/jackc/pgx/v5"
	"github.com/stretchr/testify/require"

	"dynacor/internal/pgdev/pgtest"
	"dynacor/internal/store"
)

// column is one of a table, as whoever writes a row meets it.
type column struct {
	Table, Name, Type string
	Needed            bool // a row cannot be written without it
}

func columns(t *testing.T, s *store.Store) map[string]column {
	t.Helper()
	rows, err := s.Pool().Query(ctx, `select table_name::text as table, column_name::text as name, data_type::text as type,
		is_nullable = 'NO' and column_default is null and is_identity = 'NO' as needed
		from information_schema.columns where table_schema = 'public'`)
	require.NoError(t, err)
	list, err := pgx.CollectRows(rows, pgx.RowToStructByName[column])
	require.NoError(t, err)
	out := map[string]column{}
	for _, c := range list {
		out[c.Table+"."+c.Name] = c
	}
	return out
}

func rules(t *testing.T, s *store.Store) map[string]string {
	t.Helper()
	rows, err := s.Pool().Query(ctx, `select conrelid::regclass::text || ' ' || conname, pg_get_constraintdef(oid) from pg_constraint
		where connamespace = 'public'::regnamespace`)
	require.NoError(t, err)
	out := map[string]string{}
	var name, says string
	_, err = pgx.ForEachRow(rows, []any{&name, &says}, func() error { out[name] = says; return nil })
	require.NoError(t, err)
	return out
}

// Migrations only add: the binary before the newest goes on reading and writing the tables
// it knows. What it needs is taken away a release later, by another migration.
func TestEachMigrationLetsTheBinaryBeforeItWork(t *testing.T) {
	s, err := store.Open(ctx, pgtest.Empty(t))
	require.NoError(t, err)
	defer s.Close()
	list, err := s.Migrations(ctx)
	require.NoError(t, err)
	require.NoError(t, s.MigrateTo(ctx, 1))
	for n := 2; n <= len(list); n++ {
		before, held := columns(t, s), rules(t, s)
		require.NoError(t, s.MigrateTo(ctx, int64(n)))
		after, holds := columns(t, s), rules(t, s)
		tables := map[string]bool{}
		for key, c := range before {
			tables[c.Table] = true
			require.Equal(t, c, after[key], "migration %d: %s is gone, or another", n, key)
		}
		for key, c := range after {
			if _, old := before[key]; !old && tables[c.Table] {
				require.False(t, c.Needed, "migration %d: the binary before it writes no %s", n, key)
			}
		}
		for key, says := range holds {
			was, old := held[key]
			require.True(t, old && was == says || !tables[tableOf(key)], "migration %d: a new rule, %s: %s", n, key, says)
		}
	}
}

func tableOf(rule string) string {
	for i, r := range rule {
		if r == ' ' {
			return rule[:i]
		}
	}
	return rule
}

// What the server before this one adds beside it, without facts, is taken into them when the
// next one starts; its entries are chained and audited as before.
func TestWhatAnOlderServerAdds(t *testing.T) {
	b := issued(t)
	for _, sql := range []string{
		`insert into people (id, login, name, initials, pin_hash, roles) values (gen_random_uuid(), 'old', 'Old Hand', 'O. H.', 'x', '{fitter}')`,
		`insert into tools (tag, kind, name, accuracy) values ('OLD-1', 'wrench', 'Wrench', 0.04)`,
		`insert into areas (id, name, position) values (gen_random_uuid(), 'Old area', 9)`,
		`insert into recipes (id, edition, body, made_at) values ('old', 1, 'file', now())`,
		`insert into joints (id, area, tag, title, recipe, made_at) select gen_random_uuid(), id, 'OLD', 'Old', 'old', now() from areas limit 1`,
	} {
		_, err := b.Pool().Exec(ctx, sql)
		require.NoError(t, err, sql)
	}
	_, _, err := b.Append(ctx, b.run, b.entry(pull(1)), store.Made{}) // as it does: resting on nothing
	require.NoError(t, err)
	found, err := b.Audit(ctx, store.Against{})
	require.NoError(t, err)
	require.Len(t, found.Faults, 5)
	require.NoError(t, b.Migrate(context.Background()))
	found, err = b.Audit(ctx, store.Against{})
	require.NoError(t, err)
	require.Empty(t, found.Faults)
	log, err := b.Log(ctx, 10)
	require.NoError(t, err)
	var said []string
	for _, l := range log[:5] {
		require.Contains(t, l.Words, "added past this server")
		said = append(said, l.Subject)
	}
	require.ElementsMatch(t, []string{"person old", "tool OLD-1", "area Old area", "recipe old 1", "joint OLD"}, said)
}
