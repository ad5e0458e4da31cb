package app

import (
	"context"
	"time"

	"github.com/google/uuid"

	"dynacor/internal/store"
)

// Audit recomputes all that is chained and sealed, and has the Wall show what does not
// hold.
func (a *App) Audit(ctx context.Context, by store.Against) (store.Audited, error) {
	found, err := a.store.Audit(ctx, by)
	if err != nil {
		return found, err
	}
	torn := map[uuid.UUID]string{}
	for _, f := range found.Faults {
		if f.Joint != uuid.Nil && torn[f.Joint] == "" {
			torn[f.Joint] = f.String()
		}
	}
	a.torn.Range(func(joint, _ any) bool {
		if torn[joint.(uuid.UUID)] == "" {
			a.torn.Delete(joint)
		}
		return true
	})
	for joint, what := range torn {
		a.torn.Store(joint, what)
		a.changed(joint)
	}
	a.audited.Store(&found)
	return found, nil
}

// Audited returns what the last audit of this server found; nil where it made none.
func (a *App) Audited() *store.Audited { return a.audited.Load() }

// KeepAuditing audits every so often, until ctx ends, and tells of what it finds.
func (a *App) KeepAuditing(ctx context.Context, every time.Duration, by store.Against, tell func(store.Audited, error)) {
	tick := time.NewTicker(every)
	defer tick.Stop()
	for {
		found, err := a.Audit(ctx, by)
		if ctx.Err() != nil {
			return
		}
		tell(found, err)
		select {
		case <-ctx.Done():
			return
		case <-tick.C:
		}
	}
}
