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
