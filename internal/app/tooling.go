package app

import (
	"context"

	"github.com/google/uuid"

	"dynacor/core/record"
	"dynacor/internal/judge"
)

// Ways returns how the stages of a group of a joint's plan can be reached: with
// the crib's tools, or with one entered by hand.
func (a *App) Ways(ctx context.Context, who Who, jointID uuid.UUID, group string, byHand *judge.HandTool,
	at judge.Place) (judge.Ways, error) {
	p, err := a.store.NewestPlan(ctx, jointID)
	if err != nil {
		return judge.Ways{}, found(err, "issued plan")
	}
	_, r, err := a.recipeOf(ctx, p.Input)
	if err != nil {
		return judge.Ways{}, err
	}
	tools, err := a.atHand(ctx, who, jointID)
	if err != nil {
		return judge.Ways{}, err
	}
	return judge.FindWays(p.Result.With(r), group, tools, byHand, at, a.now())
}

// choose works a choice of tools out for a run's plan.
func (a *App) choose(ctx context.Context, who Who, c *cell, t judge.ToolChoice) (record.Tooling, error) {
	tools, err := a.atHand(ctx, who, c.plan.Joint)
	if err != nil {
		return record.Tooling{}, err
	}
	return judge.Choose(c.plan.Result, t, tools, a.now())
}
