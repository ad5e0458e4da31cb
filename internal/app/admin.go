package app

import (
	"context"
	"crypto/rand"
	"errors"
	"fmt"
	"math/big"
	"slices"
	"strings"
	"time"

	"github.com/google/uuid"

	"dynacor/core/person"
	"dynacor/core/refusal"
	"dynacor/internal/store"
)

// mostNamed is how long the name of a site, an outage or an area may be.
const mostNamed = 80

func named(field, name string) error {
	n := len([]rune(strings.TrimSpace(name)))
	if n == 0 {
		return refusal.New(refusal.Missing, field, "It has no name.", "Name it.")
	}
	if n > mostNamed {
		return refusal.Number(refusal.TooLarge, field, float64(n), mostNamed, "letters", fmt.Sprintf("A name of %d letters.", n),
			"Shorten it.")
	}
	return nil
}

// IsEmpty refuses a database that is set up.
func (a *App) IsEmpty(ctx context.Context) error {
	_, err := a.store.Site(ctx)
	switch {
	case errors.Is(err, store.ErrNotFound):
		return nil
	case err == nil:
		return isSetUp()
	}
	return err
}

func isSetUp() error {
	return &Error{Kind: Conflict, Code: "set-up", Text: "This database is set up already, or two areas have one name.",
		Way: "Add people with “dynacor person add”, or in the room Site."}
}

// Init makes a site of an empty database and returns the one-time PIN of its first
// administrator. It refuses a database that is set up.
func (a *App) Init(ctx context.Context, s Setup) (pin string, err error) {
	if err := s.check(); err != nil {
		return "", err
	}
	s.First.Roles = append([]string{person.Administrator}, s.First.Roles...)
	p, pin, err := a.entered(s.First)
	if err != nil {
		return "", err
	}
	steps := []store.Step{store.NewSite(store.Site{Name: strings.TrimSpace(s.Site), Outage: strings.TrimSpace(s.Outage), Begins: s.Begins,
		Days: s.Days}), store.NewPerson(p)}
	for _, name := range s.Areas {
		steps = append(steps, store.NewArea(uuid.New(), strings.TrimSpace(name)))
	}
	err = a.change(ctx, a.logged(Who{}, "init", s.Site, "set up; its first administrator is "+p.Name), steps...)
	if errors.Is(err, store.ErrTaken) {
		err = isSetUp()
	}
	return pin, err
}

// entered returns somebody new with a one-time PIN.
func (a *App) entered(x person.Person) (p store.Person, pin string, err error) {
	x = x.Tidy()
	if err := x.Check(); err != nil {
		return p, "", err
	}
	p = store.Person{ID: uuid.New(), Login: x.Login, Name: x.Name, Initials: x.Initials, Roles: x.Roles, Qualifications: x.Qualifications,
		Active: true}
	pin, err = once(&p)
	return p, pin, err
}

// onceSigns is how long a one-time PIN is.
const onceSigns = 8

// once gives somebody a PIN for one time.
func once(p *store.Person) (pin string, err error) {
	for pin == "" || person.CheckPin(pin, p.Login, p.Roles) != nil {
		n, err := rand.Int(rand.Reader, new(big.Int).Exp(big.NewInt(10), big.NewInt(onceSigns), nil))
		if err != nil {
			return "", err
		}
		pin = fmt.Sprintf("%0*d", onceSigns, n)
	}
	p.PinOnce = true
	p.PinHash, err = HashPin(pin)
	return pin, err
}

func (a *App) logged(by Who, kind, subject, words string) store.Logged {
	e := store.Logged{At: a.now(), Kind: kind, Subject: subject, Words: words}
	if by.ID != uuid.Nil {
		e.By = &by.ID
	}
	return e
}

// change changes the site, and tells the security log where that is about who may what.
func (a *App) change(ctx context.Context, e store.Logged, steps ...store.Step) error {
	if err := a.store.Change(ctx, e, steps...); err != nil {
		return err
	}
	switch e.Kind {
	case "person", "pin", "sessions", "lockout", "init":
		by := uuid.Nil
		if e.By != nil {
			by = *e.By
		}
		a.Secure(ctx, Rights, by, "", "", e.Subject+": "+e.Words)
	}
	return nil
}

// AddPerson enters somebody, and returns their one-time PIN.
func (a *App) AddPerson(ctx context.Context, by Who, x person.Person) (pin string, err error) {
	p, pin, err := a.entered(x)
	if err != nil {
		return "", err
	}
	err = a.change(ctx, a.logged(by, "person", p.Name, "entered as "+strings.Join(p.Roles, ", ")), store.NewPerson(p))
	if errors.Is(err, store.ErrTaken) {
		err = refusal.New(refusal.Contradicts, "login", fmt.Sprintf("Somebody else signs in as %q.", p.Login), "Take another name.")
	}
	a.people.Store(nil)
	return pin, err
}

// Changed is what is changed of somebody; nil leaves it as it is.
type Changed struct {
	Name, Initials *string
	Roles          *[]string
	Qualified      *map[string]string // last day by qualification; empty: no end
	Active         *bool
}

// ChangePerson changes what somebody is called, may do, and whether they may sign in; what
// they may no longer is so from their next request on.
func (a *App) ChangePerson(ctx context.Context, by Who, id uuid.UUID, c Changed) error {
	p, err := a.somebody(ctx, id)
	if err != nil {
		return err
	}
	was := p
	set(&p.Name, c.Name)
	set(&p.Initials, c.Initials)
	set(&p.Roles, c.Roles)
	set(&p.Active, c.Active)
	if c.Qualified != nil {
		p.Qualifications, p.QualifiedUntil = nil, map[string]string{}
		for q, until := range *c.Qualified {
			p.Qualifications = append(p.Qualifications, q)
			if until == "" {
				continue
			}
			if _, err := time.Parse(time.DateOnly, until); err != nil {
				return refusal.New(refusal.OutOfRange, "qualified", fmt.Sprintf("%q is no day.", until),
					"Give the last day, as 2026-11-25.")
			}
			p.QualifiedUntil[q] = until
		}
		slices.Sort(p.Qualifications)
	}
	x := person.Person{Login: p.Login, Name: p.Name, Initials: p.Initials, Roles: p.Roles, Qualifications: p.Qualifications}.Tidy()
	if err := x.Check(); err != nil {
		return err
	}
	p.Name, p.Initials, p.Roles, p.Qualifications = x.Name, x.Initials, x.Roles, x.Qualifications
	words := differs(was, p)
	if words == "" {
		return nil
	}
	err = a.change(ctx, a.logged(by, "person", p.Name, words), store.ChangedPerson(p))
	if errors.Is(err, store.ErrNobodyLeft) {
		err = &Error{Kind: Conflict, Code: "nobody-left", Field: "roles", Text: "Nobody would be left who may change the site.",
			Way: "Make somebody else an administrator first."}
	}
	a.people.Store(nil)
	return found(err, "person")
}

func set[T any](to, from *T) {
	if from != nil {
		*to = *from
	}
}

// differs says what was changed of somebody; empty for nothing.
func differs(was, is store.Person) string {
	var out []string
	if was.Name != is.Name || was.Initials != is.Initials {
		out = append(out, fmt.Sprintf("was %s (%s)", was.Name, was.Initials))
	}
	if !slices.Equal(was.Roles, is.Roles) {
		out = append(out, fmt.Sprintf("roles %s, before %s", strings.Join(is.Roles, ", "), strings.Join(was.Roles, ", ")))
	}
	if q, before := qualified(is), qualified(was); q != before {
		out = append(out, fmt.Sprintf("qualified %s, before %s", q, before))
	}
	if was.Active != is.Active {
		out = append(out, map[bool]string{true: "may sign in again", false: "may not sign in any more"}[is.Active])
	}
	return strings.Join(out, "; ")
}

func qualified(p store.Person) string {
	var out []string
	for _, q := range slices.Sorted(slices.Values(p.Qualifications)) {
		if day, err := time.Parse(time.DateOnly, p.QualifiedUntil[q]); err == nil {
			q += " until " + day.Format("2 Jan 2006")
		}
		out = append(out, q)
	}
	if len(out) == 0 {
		return "for nothing"
	}
	return strings.Join(out, ", ")
}

// somebody returns a person, also one who may not sign in.
func (a *App) somebody(ctx context.Context, id uuid.UUID) (store.Person, error) {
	all, err := a.store.People(ctx)
	if err != nil {
		return store.Person{}, err
	}
	i := slices.IndexFunc(all, func(p store.Person) bool { return p.ID == id })
	if i < 0 {
		return store.Person{}, notFound("person")
	}
	return all[i], nil
}

// Login returns the id of whoever signs in under a name, also where they may not now.
func (a *App) Login(ctx context.Context, login string) (uuid.UUID, error) {
	all, err := a.store.People(ctx)
	if err != nil {
		return uuid.Nil, err
	}
	i := slices.IndexFunc(all, func(p store.Person) bool { return p.Login == strings.ToLower(strings.TrimSpace(login)) })
	if i < 0 {
		return uuid.Nil, notFound("person")
	}
	return all[i].ID, nil
}

// NewPin gives somebody a one-time PIN, signs them out everywhere, and returns it.
func (a *App) NewPin(ctx context.Context, by Who, id uuid.UUID) (pin string, err error) {
	p, err := a.somebody(ctx, id)
	if err != nil {
		return "", err
	}
	if pin, err = once(&p); err != nil {
		return "", err
	}
	return pin, a.change(ctx, a.logged(by, "pin", p.Name, "a one-time PIN was given"), store.NewPin(p), store.SignedOut(p.ID, ""))
}

// OwnLocale keeps which language somebody reads, on every device.
func (a *App) OwnLocale(ctx context.Context, who Who, locale string) error {
	return a.store.SetLocale(ctx, who.ID, locale)
}

// OwnUnit keeps which unit somebody types torques in, on every device; empty is the site's.
func (a *App) OwnUnit(ctx context.Context, who Who, unit string) error {
	if err := torqueUnit(unit); err != nil {
		return err
	}
	return a.store.SetTorqueUnit(ctx, who.ID, unit)
}

// OwnPin replaces the PIN of whoever is signed in, and ends their other sessions; session
// is the one that stays.
func (a *App) OwnPin(ctx context.Context, who Who, session, old, pin string) error {
	p, err := a.store.PersonByID(ctx, who.ID)
	if err != nil {
		return found(err, "person")
	}
	if err := a.checkPin(ctx, store.PinTry{Login: p.Login, Signing: true}, old, p.PinHash); err != nil {
		var wrong *Error
		if errors.As(err, &wrong) && wrong.Kind == WrongPin {
			wrong.Field, wrong.Text, wrong.Way = "old", "That is not your PIN.", "Type the one you signed in with."
		}
		return err
	}
	if err := person.CheckPin(pin, p.Login, p.Roles); err != nil {
		return err
	}
	if pin == old {
		return refusal.New(refusal.Contradicts, "pin", "That is the PIN you have.", "Take another.")
	}
	if p.PinHash, err = HashPin(pin); err != nil {
		return err
	}
	p.PinOnce = false
	return a.change(ctx, a.logged(who, "pin", p.Name, "chose a PIN"), store.NewPin(p), store.SignedOut(p.ID, session))
}

// EndSessions signs somebody out everywhere.
func (a *App) EndSessions(ctx context.Context, by Who, id uuid.UUID) error {
	p, err := a.somebody(ctx, id)
	if err != nil {
		return err
	}
	return a.change(ctx, a.logged(by, "sessions", p.Name, "signed out everywhere"), store.SignedOut(p.ID, ""))
}

// Unlock lets somebody try their PIN again at once.
func (a *App) Unlock(ctx context.Context, by Who, id uuid.UUID) error {
	p, err := a.somebody(ctx, id)
	if err != nil {
		return err
	}
	return a.change(ctx, a.logged(by, "lockout", p.Name, "may try again"), store.Unlocked(p.Login))
}
