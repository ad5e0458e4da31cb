package app

import (
	"context"

	"github.com/google/uuid"

	"dynacor/core/joint"
	"dynacor/internal/form"
	"dynacor/internal/pocket"
)

// Along returns what a device needs to judge at a joint by itself, as somebody may take it.
func (a *App) Along(ctx context.Context, who Who, id uuid.UUID) (b pocket.Bundle, err error) {
	j, err := a.store.Joint(ctx, id)
	if err != nil {
		return b, found(err, "joint")
	}
	heads, err := a.store.RunsOf(ctx, id)
	if err != nil {
		return b, err
	}
	if len(heads) == 0 {
		return b, notFound("issued plan")
	}
	r, err := a.runAt(ctx, heads[0])
	if err != nil {
		return b, err
	}
	b = pocket.Bundle{Form: pocket.Form, Core: joint.Version, Joint: pocket.Joint{ID: j.ID, Tag: j.Tag}}
	if b.Plan, err = a.planAlong(ctx, r); err != nil {
		return b, err
	}
	for _, l := range r.State.Lines() {
		e, err := pocket.Written(l.Entry)
		if err != nil {
			return b, err
		}
		b.Entries = append(b.Entries, e)
	}
	if b.Tools, err = a.atHand(ctx, who, id); err != nil {
		return b, err
	}
	if b.Names, err = a.Names(ctx, r); err != nil {
		return b, err
	}
	rules, err := a.siteRules(ctx)
	if err != nil {
		return b, err
	}
	b.SayWhy = rules.SayWhy
	if b.Drills, err = a.drillsFor(ctx, r.Plan.Input.Recipe); err != nil {
		return b, err
	}
	people, err := a.store.People(ctx)
	for _, p := range people {
		if !p.Active {
			continue
		}
		x := pocket.Person{ID: p.ID, Login: p.Login, Roles: p.Roles, Qualifications: p.Holds(a.now())}
		if b.People = append(b.People, x); p.ID == who.ID {
			b.Me = x
		}
	}
	return b, err
}

// planAlong is the plan of a run as it is stored, with its recipe.
func (a *App) planAlong(ctx context.Context, r Run) (p pocket.Plan, err error) {
	p = pocket.Plan{Run: r.Head.ID, Revision: r.Head.Revision, IssuedBy: r.Plan.IssuedBy, IssuedAt: r.Plan.IssuedAt, Closed: r.Head.Closed,
		Fault: r.Fault}
	if p.Input, err = form.WriteInput(r.Plan.Input); err != nil {
		return p, err
	}
	if p.Result, err = form.WriteResult(r.Plan.Result); err != nil {
		return p, err
	}
	p.Recipe, err = a.recipe(ctx, r.Plan.Input.Recipe, r.Plan.Input.Edition)
	return p, err
}
