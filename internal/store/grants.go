package store

import (
	"context"
	"fmt"
	"slices"
	"strings"

	"github.com/jackc/pgx/v5"
)

// What a role that serves may do with each table: a table that is not here it cannot even
// read, and none can it alter, drop or empty.
var granted = map[string]string{
	"plans": "select, insert", "entries": "select, insert", "recipes": "select, insert", "own_figures": "select, insert",
	"lot_checks": "select, insert", "site_log": "select, insert", "facts": "select, insert", "seals": "select, insert",
	"seal_keys": "select, insert", "security_log": "select, insert", "photos": "select, insert",
	"papers": "select, insert", "hung_papers": "select, insert", "taken_off": "select, insert",
	"tool_life": "select, insert", "tool_lines": "select, insert",

	"runs":   "select, insert, update (head_seq, head_hash, closed)",
	"joints": "select, insert, update", "people": "select, insert, update", "areas": "select, insert, update",
	"sites": "select, insert, update", "tools": "select, insert, update",

	"drafts": "select, insert, update, delete", "cards": "select, insert, update, delete", "sessions": "select, insert, update, delete",
	"failed_pins": "select, insert, update, delete", "retired_recipes": "select, insert, update, delete",
	"sealed_heads": "select, insert, update, delete", "outages": "select, insert, update", "import_columns": "select, insert, update",
	"calendars": "select, insert, update, delete", "tool_links": "select, insert, update, delete",
	"tool_readings": "select, insert, update", "devices": "select, insert, update, delete",
	"drill_goes": "select, insert, update, delete", "drills_asked": "select, insert, update, delete",

	"goose_db_version": "select",
}

// Grant gives a role what it needs to serve, and takes from it what it does not: it can
// change neither the shape of the database nor what is only ever added to.
func (s *Store) Grant(ctx context.Context, role string) error {
	to := pgx.Identifier{role}.Sanitize()
	return pgx.BeginFunc(ctx, s.pool, func(tx pgx.Tx) error {
		var there, super bool
		if err := tx.QueryRow(ctx, "select count(*) > 0, coalesce(bool_or(rolsuper), false) from pg_roles where rolname = $1", role).
			Scan(&there, &super); err != nil {
			return err
		}
		switch {
		case !there:
			return fmt.Errorf("there is no role %q: create role %s login password '…'", role, to)
		case super:
			return fmt.Errorf("the role %q may do anything; let another serve", role)
		}
		do := []string{"revoke create on schema public from public", "grant usage on schema public to " + to,
			"revoke all on all tables in schema public from " + to, "grant select on all sequences in schema public to " + to}
		for table, what := range granted {
			do = append(do, fmt.Sprintf("grant %s on %s to %s", what, table, to))
		}
		slices.Sort(do[4:])
		if _, err := tx.Exec(ctx, strings.Join(do, "; ")); err != nil {
			return err
		}
		return nil
	})
}
