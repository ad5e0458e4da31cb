package app

import (
	"context"
	"errors"
	"strings"
	"time"

	"github.com/google/uuid"

	"dynacor/core/crib"
	"dynacor/core/record"
	"dynacor/core/refusal"
	"dynacor/internal/judge"
	"dynacor/internal/store"
)

// reported completes the report of a tool and holds it back in the crib, before
// the run says so: no server takes a pull with it from then on.
func (a *App) reported(ctx context.Context, who Who, c *cell, id uuid.UUID, r record.Report) (record.Report, error) {
	r.Tool = strings.TrimSpace(r.Tool)
	j, err := a.store.Joint(ctx, c.plan.Joint)
	if err != nil {
		return r, err
	}
	rests, err := a.restsOnPerson(ctx, who)
	if err != nil {
		return r, err
	}
	now := a.now()
	var since time.Time
	_, err = a.store.AddLife(ctx, r.Tool, uuid.NewSHA1(id, []byte("hurt")), rests, func(t store.Tool, s crib.State) (crib.Tool, crib.Entry, error) {
		since = s.InQuestion()
		e := crib.Entry{ID: uuid.NewSHA1(id, []byte("hurt")).String(), On: now, AtServer: now, Person: who.ID.String(),
			Content: crib.Hurt{What: crib.Harm(r.What), Joint: j.Tag, Note: r.Note}}
		return t.Data(), e, s.Accept(t.Data(), e, now)
	})
	r.Since = since
	var refused *refusal.Error
	switch {
	case errors.Is(err, store.ErrNotFound): // entered by hand, it is in no crib; the run itself questions it
		return r, nil
	case errors.As(err, &refused) && refused.Code == refusal.NotNow: // scrapped meanwhile: it is out of use all the same
		return r, nil
	}
	return r, err
}

// triedWith returns the tools that are held back, after the one that bolts were tried with
// was found in the crib and in date.
func (a *App) triedWith(ctx context.Context, tag string) (map[string]string, error) {
	if strings.TrimSpace(tag) == "" {
		return nil, nil // the core says so
	}
	t, err := a.store.ToolByTag(ctx, tag)
	if err != nil && !errors.Is(err, store.ErrNotFound) {
		return nil, err
	}
	if err := judge.TriedWith(tag, err == nil, known(t.Due), a.now()); err != nil {
		return nil, err
	}
	return a.store.HeldTools(ctx)
}

// HeldTool is a tool that is held back, with why.
type HeldTool struct{ Tag, Why string }

// HeldTools lists the tools of a run that are held back.
func (a *App) HeldTools(ctx context.Context, r Run) ([]HeldTool, error) {
	var used []string
	for _, t := range r.State.Tooling {
		for _, stages := range t.Hands() {
			for _, stage := range stages {
				used = append(used, stage.Tools...)
			}
		}
	}
	if len(used) == 0 {
		return nil, nil
	}
	held, err := a.store.HeldTools(ctx)
	if err != nil {
		return nil, err
	}
	var out []HeldTool
	for _, tag := range used {
		if why, ok := held[tag]; ok {
			out = append(out, HeldTool{tag, why})
			delete(held, tag)
		}
	}
	return out, nil
}
