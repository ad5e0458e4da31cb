package app

import (
	"context"
	"fmt"
	"slices"
	"strings"
	"time"

	"dynacor/core/record"
	"dynacor/core/refusal"
	"dynacor/internal/store"
)

// restsOn names the facts that an entry rests on: who does it, who else answers for it,
// and the tools that are chosen.
func (a *App) restsOn(ctx context.Context, who Who, what record.Content) (m store.Made, err error) {
	m = store.Made{Session: who.Remembered, Roles: who.Roles, Person: who.Fact}
	if m.Person == nil {
		if m.Person, err = a.store.FactOf(ctx, store.PersonFact, who.ID.String()); err != nil {
			return m, err
		}
	}
	other := func(kind store.FactKind, subject string) error {
		hash, err := a.store.FactOf(ctx, kind, subject)
		if err == nil && hash != nil {
			m.Others = append(m.Others, hash)
		}
		return err
	}
	if c, ok := what.(record.Correction); ok {
		what = c.Instead
	}
	switch what := what.(type) {
	case record.Done:
		if what.Qualified != "" && what.Qualified != who.ID.String() {
			err = other(store.PersonFact, what.Qualified)
		}
	case record.Tooling:
		var seen []string
		for _, stage := range slices.Concat(what.Hands()...) {
			for _, tag := range stage.Tools {
				if err == nil && !slices.Contains(seen, tag) {
					seen, err = append(seen, tag), other(store.ToolFact, tag)
				}
			}
		}
	}
	return m, err
}

// tools names the tools an entry is made with: the database refuses those that
// are held back.
func (c *cell) tools(what record.Content) string {
	switch what := what.(type) {
	case record.Done:
		if t, ok := c.state.Tool(what.Act); ok {
			return strings.Join(t.Tools, " + ")
		}
	case record.Setting:
		if t, ok := c.state.StageTool(what.Group, what.Share, what.Hand); ok {
			return strings.Join(t.Tools, " + ")
		}
	}
	return ""
}

func (a *App) checkTime(at time.Time) error {
	now := a.now()
	if at.After(now.Add(10*time.Minute)) || at.Before(now.AddDate(-1, 0, 0)) {
		return refusal.New(refusal.OutOfRange, "at", fmt.Sprintf("The device's clock says %s; the server's %s.",
			at.Format("2 Jan 2006 15:04"), now.Format("2 Jan 2006 15:04")), "Set the device's clock.")
	}
	return nil
}
