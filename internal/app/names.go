package app

import (
	"context"
)

// Names are the names of people by their id.
type Names map[string]string

// Names returns the names of those in a run: who wrote its entries, and whose
// PIN stands for them. Who is gone from the database is named by their id.
func (a *App) Names(ctx context.Context, runs ...Run) (Names, error) {
	if have := a.people.Load(); have != nil && unknown(*have, runs) == "" {
		return *have, nil
	}
	people, err := a.store.People(ctx)
	if err != nil {
		return nil, err
	}
	names := Names{}
	for _, p := range people {
		names[p.ID.String()] = p.Name
	}
	for missing := unknown(names, runs); missing != ""; missing = unknown(names, runs) {
		names[missing] = "somebody unknown, " + missing
	}
	a.people.Store(&names)
	return names, nil
}

// unknown returns somebody of the runs whose name is not among those known.
func unknown(known Names, runs []Run) string {
	for _, r := range runs {
		if _, ok := known[r.Plan.IssuedBy.String()]; !ok {
			return r.Plan.IssuedBy.String()
		}
		for person := range r.State.People() {
			if _, ok := known[person]; !ok {
				return person
			}
		}
	}
	return ""
}
