package app

import (
	"context"
	"time"

	"github.com/google/uuid"

	"dynacor/internal/judge"
)

// atHand reads the crib as somebody finds it who works at a joint.
func (a *App) atHand(ctx context.Context, who Who, joint uuid.UUID) ([]judge.Tool, error) {
	tools, err := a.Crib(ctx)
	if err != nil {
		return nil, err
	}
	j, err := a.store.Joint(ctx, joint)
	if err != nil {
		return nil, found(err, "joint")
	}
	var out []judge.Tool
	for _, t := range tools {
		if t.Tool.Scrapped != "" {
			continue
		}
		out = append(out, judge.Tool{Tool: t.Data, Calibrated: known(t.Tool.Calibrated), Due: known(t.Tool.Due), HeldBack: t.Tool.HeldBack,
			NotFree: t.notFree(who, j.Tag), Since: known(t.Tool.CheckedAt)})
	}
	return out, nil
}

// known is a time, or none.
func known(t *time.Time) time.Time {
	if t == nil {
		return time.Time{}
	}
	return *t
}

// notFree says why a tool is not to be had by somebody at a joint; empty where it is.
func (t CribTool) notFree(who Who, joint string) string {
	switch {
	case t.Tool.HeldBack != "":
		return t.Tool.HeldBack
	case t.Due.Over && t.Due.ByPulls:
		return t.Due.Overdue
	case t.Tool.LentTo != nil && *t.Tool.LentTo != who.ID && t.Tool.LentJoint != joint:
		why := "it is out with " + t.Lent
		if t.Tool.LentJoint != "" {
			why += " at " + t.Tool.LentJoint
		}
		return why
	}
	return ""
}
