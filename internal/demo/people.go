// Package demo fills an empty database with the made-up Ottermere Hydro: its
// autumn outage of Unit 2, its people, its crib and its joints, with the
// histories that a week of work leaves behind.
package demo

import (
	"context"
	"time"

	"github.com/alexedwards/argon2id"
	"github.com/google/uuid"

	"dynacor/core/person"
	"dynacor/core/tool"
	"dynacor/internal/app"
	"dynacor/internal/store"
)

// HashPin hashes the PIN of everybody; tests, which sign in hundreds of times, set one that
// costs less.
var HashPin = app.HashPin

// LightPin is a hash that costs next to nothing.
func LightPin(pin string) (string, error) {
	return argon2id.CreateHash(pin, &argon2id.Params{Memory: 64, Iterations: 1, Parallelism: 1, SaltLength: 16, KeyLength: 32})
}

// Pin is the PIN of everybody in the demo.
const Pin = "4711"

// SignIn is one of the demo's sign-ins, for showing.
type SignIn struct{ Login, Name, Role string }

type someone struct {
	login, name, initials string
	roles                 []string
	may                   []string // what recipes ask for, beside a role
}

var people = []someone{
	{"marta", "Marta Tolland", "M. T.", []string{person.Fitter}, []string{"installer"}},
	{"jonas", "Jonas Reedham", "J. R.", []string{person.Fitter}, []string{"rigger", "installer"}},
	{"sefa", "Sefa Okonjo-Lund", "S. O.", []string{person.Fitter}, []string{"installer"}},
	{"piet", "Piet Vanderhale", "P. V.", []string{person.Fitter}, []string{"pressure person"}},
	{"ines", "Ines Calloway", "I. C.", []string{person.Inspector}, []string{"pressure person"}},
	{"haro", "Haro Brandt-Nile", "H. B.", []string{person.Inspector}, []string{"rigger"}},
	{"edda", "Edda Winterbourne", "E. W.", []string{person.Engineer}, nil},
	{"tomas", "Tomas Arkwell", "T. A.", []string{person.Engineer, person.Fitter}, []string{"pressure person"}},
	{"liv", "Liv Hasselby", "L. H.", []string{person.Planner}, nil},
	{"bo", "Bo Merrow-Stance", "B. M.", []string{person.CribKeeper}, nil},
	{"ruth", "Ruth Ellingvey", "R. E.", []string{person.Administrator}, nil},
}

// SignIns lists one sign-in for every role.
func SignIns() []SignIn {
	return []SignIn{{"marta", "Marta Tolland", "fitter"}, {"ines", "Ines Calloway", "inspector"}, {"edda", "Edda Winterbourne", "engineer"},
		{"liv", "Liv Hasselby", "planner"}, {"bo", "Bo Merrow-Stance", "crib keeper"}, {"ruth", "Ruth Ellingvey", "administrator"}}
}

// enter makes the people of a site, and the steps that set it up with them.
func enter(site store.Site) (map[string]store.Person, []store.Step, error) {
	// While the histories are played every signature asks for the PIN; a hash
	// that is quick to check stands in until they are through.
	hash, err := LightPin(Pin)
	if err != nil {
		return nil, nil, err
	}
	out, steps := map[string]store.Person{}, []store.Step{store.NewSite(site)}
	for _, p := range people {
		v := store.Person{ID: uuid.New(), Login: p.login, Name: p.name, Initials: p.initials, PinHash: hash, Roles: p.roles,
			Qualifications: p.may}
		out[p.login], steps = v, append(steps, store.NewPerson(v))
	}
	return out, steps, nil
}

// qualify has the administrator say until when two of them are qualified.
func (l *loader) qualify(ctx context.Context) error {
	l.begin(-2)
	for _, x := range []struct {
		login, what string
		days        int
	}{{"piet", "pressure person", 240}, {"haro", "rigger", 19}} {
		until := map[string]string{x.what: l.now.AddDate(0, 0, x.days).Format(time.DateOnly)}
		if err := l.app.ChangePerson(ctx, l.who("ruth"), l.people[x.login].ID, app.Changed{Qualified: &until}); err != nil {
			return err
		}
	}
	return nil
}

// lockPins puts the PIN's real hash in: one for all, as a demo's people share it.
func (l *loader) lockPins(ctx context.Context) error {
	hash, err := HashPin(Pin)
	if err != nil {
		return err
	}
	var steps []store.Step
	for _, p := range l.people {
		p.PinHash = hash
		steps = append(steps, store.NewPin(p))
	}
	return l.store.Change(ctx, store.Logged{At: l.start, Kind: "pin", Subject: Site, Words: "all have the demo's PIN"}, steps...)
}

func addTools(ctx context.Context, s *store.Store, now time.Time) error {
	day := func(n int) *time.Time {
		d := now.UTC().Truncate(24*time.Hour).AddDate(0, 0, n)
		return &d
	}
	wrench := func(tag, name, unit string, low, high, first, major, minor float64, drive string, length float64, due int) store.Tool {
		return store.Tool{Tag: tag, Kind: "wrench", Name: name, Unit: unit, RatedMin: low, RatedMax: high, First: first, Major: major,
			Minor: minor, DriveOut: drive, Length: length, Accuracy: tool.WrenchAccuracy, Calibrated: day(due - 365), Due: day(due),
			Place: "crib, rack A"}
	}
	screwdriver := func(tag, name string, least, most, first, major, minor float64, due int) store.Tool {
		t := wrench(tag, name, "N·m", least, most, first, major, minor, "1/4", 0, due)
		t.Accuracy = tool.ScrewdriverAccuracy
		return t
	}
	multiplier := func(tag, name string, ratio, most float64, in, out string) store.Tool {
		return store.Tool{Tag: tag, Kind: "multiplier", Name: name, Ratio: ratio, RatedMax: most, DriveIn: in, DriveOut: out,
			Accuracy: 0.05, Place: "crib, chest 2"}
	}
	tools := []store.Tool{
		screwdriver("TD-01", "torque screwdriver", 0.3, 1.2, 0.3, 0.1, 0.01, 130),
		screwdriver("TD-02", "torque screwdriver, large", 1, 6, 1, 0.5, 0.05, 88),
		wrench("TW-01", "click wrench, small", "N·m", 5, 25, 5, 5, 0.25, "3/8", 200, 96),
		wrench("TW-02", "click wrench, 20 to 100", "N·m", 20, 100, 20, 10, 1, "1/2", 380, 210),
		wrench("TW-03", "click wrench, 20 to 100", "N·m", 20, 100, 20, 10, 1, "1/2", 380, -12),
		wrench("TW-04", "click wrench, 60 to 340", "N·m", 60, 340, 60, 10, 1, "1/2", 600, 150),
		wrench("TW-06", "click wrench, long", "N·m", 140, 760, 140, 20, 2, "3/4", 1050, 40),
		wrench("TW-09", "click wrench, two-hand", "N·m", 200, 1000, 200, 50, 5, "1", 1500, 2),
		wrench("TW-11", "click wrench, inch scale", "ft·lbf", 30, 250, 30, 10, 1, "1/2", 610, 75),
		multiplier("MX-1", "multiplier, small", 4.2, 1500, "1/2", "3/4"),
		multiplier("MX-2", "multiplier", 4.8, 2700, "1/2", "1"),
	}
	dropped := wrench("TW-07", "click wrench, 40 to 200", "N·m", 40, 200, 40, 10, 1, "1/2", 480, 120)
	dropped.HeldBack = "dropped on the turbine floor, waits for its check"
	for _, t := range append(tools, dropped) {
		if err := s.AddTool(ctx, t); err != nil {
			return err
		}
	}
	return nil
}
