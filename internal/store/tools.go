package store

import (
	"context"
	"time"

	"github.com/jackc/pgx/v5"
)

// Tool is a wrench or a multiplier of the crib, as its plate says.
type Tool struct {
	Tag        string
	Kind       string
	Name       string
	Unit       string
	RatedMin   float64
	RatedMax   float64
	First      float64
	Major      float64
	Minor      float64
	Ratio      float64
	DriveIn    string
	DriveOut   string
	Length     float64
	Accuracy   float64
	Calibrated *time.Time
	Due        *time.Time
	HeldBack   string     // why; empty: it may be used
	CheckedAt  *time.Time // its last good check after it was held back
	Place      string
}

const toolColumns = `tag, kind, name, unit, rated_min, rated_max, first, major, minor, ratio, drive_in, drive_out, length, accuracy,
	calibrated, due, held_back, checked_at, place`

// Tools returns the crib, by tag.
func (s *Store) Tools(ctx context.Context) ([]Tool, error) {
	return all[Tool](s.pool.Query(ctx, "select "+toolColumns+" from tools order by tag"))
}

// AddTool stores a tool.
func (s *Store) AddTool(ctx context.Context, t Tool) error {
	return pgx.BeginFunc(ctx, s.pool, func(tx pgx.Tx) error {
		if _, err := tx.Exec(ctx, "insert into tools ("+toolColumns+") values "+
			"($1,$2,$3,$4,$5,$6,$7,$8,$9,$10,$11,$12,$13,$14,$15,$16,$17,$18,$19)",
			t.Tag, t.Kind, t.Name, t.Unit, t.RatedMin, t.RatedMax, t.First, t.Major, t.Minor, t.Ratio, t.DriveIn, t.DriveOut,
			t.Length, t.Accuracy, t.Calibrated, t.Due, t.HeldBack, t.CheckedAt, t.Place); err != nil {
			return taken(err)
		}
		_, err := logFact(ctx, tx, ToolFact, t.Tag, factOfTool(t))
		return err
	})
}

// HeldTools returns the tools that are held back, with why.
func (s *Store) HeldTools(ctx context.Context) (map[string]string, error) {
	rows, err := all[struct{ Tag, HeldBack string }](s.pool.Query(ctx, "select tag, held_back from tools where held_back <> ''"))
	out := map[string]string{}
	for _, r := range rows {
		out[r.Tag] = r.HeldBack
	}
	return out, err
}

// HoldTool holds a tool back; ErrNotFound where the crib has none of that tag.
func (s *Store) HoldTool(ctx context.Context, tag, why string) error {
	done, err := s.pool.Exec(ctx, "update tools set held_back = $2 where tag = $1", tag, why)
	if err == nil && done.RowsAffected() == 0 {
		return ErrNotFound
	}
	return err
}

// ReleaseTool puts a tool back into service after a good check.
func (s *Store) ReleaseTool(ctx context.Context, tag string, checkedAt time.Time) error {
	done, err := s.pool.Exec(ctx, "update tools set held_back = '', checked_at = $2 where tag = $1", tag, checkedAt)
	if err == nil && done.RowsAffected() == 0 {
		return ErrNotFound
	}
	return err
}
