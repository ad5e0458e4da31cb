package store

import (
	"context"
	"time"

	"github.com/google/uuid"
)

// Site is the works and its outage.
type Site struct {
	Name   string
	Outage string
	Begins time.Time
	Days   int
}

// Area is a part of the site.
type Area struct {
	ID       uuid.UUID
	Name     string
	Position int
}

// Site returns the one site of the database.
func (s *Store) Site(ctx context.Context) (Site, error) {
	return one[Site](s.pool.Query(ctx, "select name, outage, begins, days from sites limit 1"))
}

// SetSite names the site of an empty database.
func (s *Store) SetSite(ctx context.Context, v Site) error {
	_, err := s.pool.Exec(ctx, "insert into sites (name, outage, begins, days) values ($1, $2, $3, $4)", v.Name, v.Outage, v.Begins, v.Days)
	return err
}

// Areas returns the areas in their order.
func (s *Store) Areas(ctx context.Context) ([]Area, error) {
	return all[Area](s.pool.Query(ctx, "select id, name, position from areas order by position"))
}

// AddArea stores an area.
func (s *Store) AddArea(ctx context.Context, a Area) error {
	_, err := s.pool.Exec(ctx, "insert into areas (id, name, position) values ($1, $2, $3)", a.ID, a.Name, a.Position)
	return taken(err)
}
