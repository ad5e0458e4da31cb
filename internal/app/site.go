package app

import (
	"cmp"
	"context"
	"errors"
	"fmt"
	"slices"
	"strings"
	"time"

	"github.com/google/uuid"

	"dynacor/core/person"
	"dynacor/core/refusal"
	"dynacor/core/unit"
	"dynacor/internal/store"
)

// Setup is what a site begins with.
type Setup struct {
	Site, Outage string
	Begins       time.Time
	Days         int
	TorqueUnit   string // that torques are typed in; empty: N·m
	SayWhy       bool   // a word goes with every signature
	Shifts       []store.Shift
	Areas        []string
	First        person.Person // who keeps it: an administrator, whatever else they are
}

// longest is how long an outage may be, days.
const longest = 400

func (s Setup) check() error {
	if err := named("site", s.Site); err != nil {
		return err
	}
	if err := named("outage", s.Outage); err != nil {
		return err
	}
	if s.Days < 1 || s.Days > longest {
		return refusal.Number(refusal.OutOfRange, "days", float64(s.Days), longest, "days",
			fmt.Sprintf("An outage of %d days; 1 to %d are counted.", s.Days, longest), "Count its days.")
	}
	if err := torqueUnit(s.TorqueUnit); err != nil {
		return err
	}
	if err := checkShifts(s.Shifts); err != nil {
		return err
	}
	if len(s.Areas) == 0 {
		return refusal.New(refusal.Missing, "areas", "The site has no areas.", "Name one or more: where its joints are.")
	}
	for _, a := range s.Areas {
		if err := named("areas", a); err != nil {
			return err
		}
	}
	return nil
}

// torqueUnit refuses what is no unit of torque; empty is a choice, too.
func torqueUnit(name string) error {
	if d, err := unit.DimensionOf(unit.Unit(name)); name != "" && (err != nil || d != unit.Torque) {
		return refusal.New(refusal.Unknown, "torqueUnit", fmt.Sprintf("%q is no unit of torque.", name), "Choose one from the list.")
	}
	return nil
}

// mostShifts are those of a day of two hours each.
const mostShifts = 12

func checkShifts(list []store.Shift) error {
	if len(list) > mostShifts {
		return refusal.Number(refusal.TooLarge, "shifts", float64(len(list)), mostShifts, "shifts", fmt.Sprintf("%d shifts.", len(list)),
			"Leave some out.")
	}
	seen := map[string]bool{}
	for _, x := range list {
		if err := named("shifts", x.Name); err != nil {
			return err
		}
		if _, err := time.Parse("15:04", x.Begins); err != nil {
			return refusal.New(refusal.OutOfRange, "shifts", fmt.Sprintf("%s begins at %q, which is no time of day.", x.Name, x.Begins),
				"Write it as 06:00.")
		}
		if seen[x.Begins] {
			return refusal.New(refusal.Contradicts, "shifts", fmt.Sprintf("Two shifts begin at %s.", x.Begins),
				"Give each a time of its own.")
		}
		seen[x.Begins] = true
	}
	return nil
}

// AddArea adds an area to the site.
func (a *App) AddArea(ctx context.Context, by Who, name string) error {
	if err := named("name", name); err != nil {
		return err
	}
	name = strings.TrimSpace(name)
	return areaTaken(name, a.change(ctx, a.logged(by, "area", name, "added"), store.NewArea(uuid.New(), name)))
}

// RenameArea gives an area another name.
func (a *App) RenameArea(ctx context.Context, by Who, id uuid.UUID, name string) error {
	if err := named("name", name); err != nil {
		return err
	}
	areas, err := a.store.Areas(ctx)
	if err != nil {
		return err
	}
	i := slices.IndexFunc(areas, func(x store.Area) bool { return x.ID == id })
	if i < 0 {
		return notFound("area")
	}
	name = strings.TrimSpace(name)
	return areaTaken(name, a.change(ctx, a.logged(by, "area", name, "was "+areas[i].Name), store.RenamedArea(id, name)))
}

func areaTaken(name string, err error) error {
	if errors.Is(err, store.ErrTaken) {
		return refusal.New(refusal.Contradicts, "name", fmt.Sprintf("There is an area %q.", name), "Take another name.")
	}
	return err
}

// ChangeSite gives the site another name, or begins another outage.
func (a *App) ChangeSite(ctx context.Context, by Who, s Setup) error {
	s.Areas = []string{"as they are"}
	if err := s.check(); err != nil {
		return err
	}
	v := store.Site{Name: strings.TrimSpace(s.Site), Outage: strings.TrimSpace(s.Outage), Begins: s.Begins, Days: s.Days,
		TorqueUnit: cmp.Or(s.TorqueUnit, string(unit.NewtonMetre)), SayWhy: s.SayWhy, Shifts: s.Shifts}
	slices.SortFunc(v.Shifts, func(x, y store.Shift) int { return strings.Compare(x.Begins, y.Begins) })
	was, err := a.store.Site(ctx)
	if err != nil {
		return found(err, "site")
	}
	v.Glossary = was.Glossary
	err = a.change(ctx, a.logged(by, "site", v.Name, siteWords(was, v)), store.ChangedSite(v))
	a.rules.Store(nil)
	return err
}

// siteWords says what was changed of a site.
func siteWords(was, is store.Site) string {
	out := []string{fmt.Sprintf("%s, %d days from %s", is.Outage, is.Days, is.Begins.Format("2 Jan 2006"))}
	if was.TorqueUnit != is.TorqueUnit {
		out = append(out, "torques are typed in "+is.TorqueUnit)
	}
	if was.SayWhy != is.SayWhy {
		out = append(out, map[bool]string{true: "a word goes with every signature", false: "a signature needs no word"}[is.SayWhy])
	}
	if !slices.Equal(was.Shifts, is.Shifts) {
		var shifts []string
		for _, x := range is.Shifts {
			shifts = append(shifts, x.Name+" from "+x.Begins)
		}
		out = append(out, "shifts: "+cmp.Or(strings.Join(shifts, ", "), "none"))
	}
	return strings.Join(out, "; ")
}
