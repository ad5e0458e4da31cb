package app

import (
	"context"
)

// Names returns the names of those in a run: who wrote its entries, and whose
// PIN stands for them. Who is gone from the database is named by their id.
func (a *App) Names(ctx context.Context, runs ...Run) (Names, error) {
	if have := a.people.Load(); have != nil && have.Unknown(runs...) == "" {
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
	for missing := names.Unknown(runs...); missing != ""; missing = names.Unknown(runs...) {
		names[missing] = "somebody unknown, " + missing
	}
	a.people.Store(&names)
	return names, nil
}
