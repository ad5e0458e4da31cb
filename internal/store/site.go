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

	TorqueUnit string // that torques are typed in, where nothing else is said
	SayWhy     bool   // a word goes with every signature
	Shifts     []Shift
	Glossary   Glossary
}

// Glossary is what a site says instead of the program's terms: by term, then by language, form by
// form.
type Glossary map[string]map[string][]string

// Shift is a part of the day, until the next one begins.
type Shift struct {
	Name   string `json:"name"`
	Begins string `json:"begins"` // 06:00
}

const siteColumns = "name, outage, begins, days, torque_unit, say_why, shifts, glossary"

// Area is a part of the site.
type Area struct {
	ID       uuid.UUID
	Name     string
	Position int
}

// Site returns the one site of the database.
func (s *Store) Site(ctx context.Context) (Site, error) {
	return one[Site](s.pool.Query(ctx, "select "+siteColumns+" from sites limit 1"))
}

// Areas returns the areas in their order.
func (s *Store) Areas(ctx context.Context) ([]Area, error) {
	return all[Area](s.pool.Query(ctx, "select id, name, position from areas order by position"))
}

// Outage is a time that the site is worked on.
type Outage struct {
	Name   string
	Begins time.Time
	Days   int
}

// Outages returns them, the newest first.
func (s *Store) Outages(ctx context.Context) ([]Outage, error) {
	return all[Outage](s.pool.Query(ctx, "select name, begins, days from outages order by begins desc, name"))
}
