package pgtest

import (
	"context"
	"strings"
	"testing"

	"github.com/jackc/pgx/v5"
	"github.com/stretchr/testify/require"
)

// Roles makes two roles at a test's database, one that owns it and one that serves, and
// returns its addresses for each.
func Roles(t *testing.T, url string) (owner, server string) {
	t.Helper()
	ctx := context.Background()
	cfg, err := pgx.ParseConfig(url)
	require.NoError(t, err)
	conn, err := pgx.Connect(ctx, url)
	require.NoError(t, err)
	defer conn.Close(ctx)
	owner, server = "o_"+cfg.Database, "s_"+cfg.Database
	for _, sql := range []string{"create role " + owner + " login password 'x'", "create role " + server + " login password 'x'",
		"alter database " + cfg.Database + " owner to " + owner} {
		_, err := conn.Exec(ctx, sql)
		require.NoError(t, err)
	}
	as := func(role string) string { return strings.Replace(url, cfg.User+":"+cfg.Password+"@", role+":x@", 1) }
	return as(owner), as(server)
}
