package app

import (
	"context"
	"fmt"
)

// Names are the names of people by their id.
type Names map[string]string

// Names returns the names of those in a run: who wrote its entries, and whose
// PIN stands for them. A record does not go out with a name that could not be
// read.
func (a *App) Names(ctx context.Context, runs ...Run) (Names, error) {
	have := a.people.Load()
	for fresh := false; ; fresh = true {
		if have != nil {
			missing := ""
			for _, r := range runs {
				if missing = r.unknown(*have); missing != "" {
					break
				}
			}
			if missing == "" {
				return *have, nil
			}
			if fresh {
				return nil, fmt.Errorf("no person %s is known", missing)
			}
		}
		people, err := a.store.People(ctx)
		if err != nil {
			return nil, err
		}
		names := map[string]string{}
		for _, p := range people {
			names[p.ID.String()] = p.Name
		}
		a.people.Store(&names)
		have = &names
	}
}

// unknown returns somebody of the run whose name is not among those known.
func (r Run) unknown(known map[string]string) string {
	if _, ok := known[r.Plan.IssuedBy.String()]; !ok {
		return r.Plan.IssuedBy.String()
	}
	for person := range r.State.People() {
		if _, ok := known[person]; !ok {
			return person
		}
	}
	return ""
}
