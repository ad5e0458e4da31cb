package store

import (
	"context"
	"time"
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
	HeldBack   string
	Place      string
}

// Tools returns the crib, by tag.
func (s *Store) Tools(ctx context.Context) ([]Tool, error) {
	return all[Tool](s.pool.Query(ctx, "select * from tools order by tag"))
}

// AddTool stores a tool.
func (s *Store) AddTool(ctx context.Context, t Tool) error {
	_, err := s.pool.Exec(ctx, `insert into tools (tag, kind, name, unit, rated_min, rated_max, first, major, minor, ratio, drive_in, drive_out,
		length, accuracy, calibrated, due, held_back, place) values ($1,$2,$3,$4,$5,$6,$7,$8,$9,$10,$11,$12,$13,$14,$15,$16,$17,$18)`,
		t.Tag, t.Kind, t.Name, t.Unit, t.RatedMin, t.RatedMax, t.First, t.Major, t.Minor, t.Ratio, t.DriveIn, t.DriveOut,
		t.Length, t.Accuracy, t.Calibrated, t.Due, t.HeldBack, t.Place)
	return taken(err)
}
