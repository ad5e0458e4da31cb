package app

import (
	"context"

	"github.com/google/uuid"

	"dynacor/core/person"
	"dynacor/internal/store"
)

// SiteRoom is what an administrator sees of the site.
type SiteRoom struct {
	Site    store.Site
	Outages []store.Outage
	Areas   []store.Area
	People  []Member
	Log     []store.Logged
	Names   map[uuid.UUID]string
}

// Member is somebody of the site, whether they may sign in or not.
type Member struct {
	store.Person
	Sessions int
	Locked   bool // too many wrong PINs were given
}

// newestLogged is how much of the log is shown at once.
const newestLogged = 200

// SiteRoom returns the site with its people and the newest of its log.
func (a *App) SiteRoom(ctx context.Context) (r SiteRoom, err error) {
	if r.Site, err = a.store.Site(ctx); err != nil {
		return r, err
	}
	if r.Outages, err = a.store.Outages(ctx); err != nil {
		return r, err
	}
	if r.Areas, err = a.store.Areas(ctx); err != nil {
		return r, err
	}
	if r.Log, err = a.store.Log(ctx, newestLogged); err != nil {
		return r, err
	}
	people, err := a.store.People(ctx)
	if err != nil {
		return r, err
	}
	at, err := a.store.Presences(ctx, a.now().Add(-pinWindow))
	r.Names = make(map[uuid.UUID]string, len(people))
	for _, p := range people {
		r.Names[p.ID] = p.Name
		r.People = append(r.People, Member{p, at[p.ID].Sessions, a.now().Sub(at[p.ID].LastWrong) < person.Pause(at[p.ID].Wrong)})
	}
	return r, err
}
