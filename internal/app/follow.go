package app

import (
	"context"
	"strings"

	"github.com/google/uuid"

	"dynacor/core/job"
	"dynacor/core/refusal"
	"dynacor/core/run"
	"dynacor/internal/store"
)

// ofFlanges is the recipe that leads what follows on a gasketed flange which the
// ring planner laid out.
const ofFlanges = "gasketed-flange"

// follows lists the work that may follow on a joint: none but on a gasketed
// flange whose record is signed. Joints that a recipe leads go on by their own.
func (a *App) follows(ctx context.Context, j Joint) ([]string, error) {
	if !j.signedRing() {
		return nil, nil
	}
	editions, err := a.newestEditions(ctx)
	if err != nil {
		return nil, err
	}
	r, err := a.recipe(ctx, ofFlanges, editions[ofFlanges])
	return job.Follows(r), err
}

// signedRing reports whether j is a flange of the ring planner that is signed.
func (j Joint) signedRing() bool {
	return j.Job == nil && j.Run != nil && j.Run.Stage() == run.StageSigned
}

// Follow issues the plan for the work that follows on a signed gasketed flange:
// a re-torque, a loosening. Its recipe leads the joint from then on, and the
// signed record stays as it is.
func (a *App) Follow(ctx context.Context, who Who, joint uuid.UUID, work, pin, reason string) (Joint, error) {
	j, err := a.Joint(ctx, joint)
	if err != nil {
		return Joint{}, err
	}
	if !j.signedRing() {
		return Joint{}, &Error{Kind: Conflict, Code: "nothing-follows", Text: "Nothing follows on this joint yet.", Way: "Its record is signed first; a joint that a recipe leads is laid out anew at Lay out."}
	}
	if reason = strings.TrimSpace(reason); reason == "" {
		return Joint{}, refusal.New(refusal.NeedsReason, "reason", "There is work on the plan that this one follows.", "Say why there is another.")
	}
	r, err := a.newest(ctx, ofFlanges)
	if err != nil {
		return Joint{}, err
	}
	in, err := job.FromRing(j.Run.Plan.Input, j.Run.Plan.Result, r, work)
	if err != nil {
		return Joint{}, err
	}
	res, err := job.Compute(in, r)
	if err != nil {
		return Joint{}, err
	}
	if _, err := job.Follow(in, r, res); err != nil {
		return Joint{}, err
	}
	if err := a.confirm(ctx, who.ID, pin); err != nil {
		return Joint{}, err
	}
	return a.issue(ctx, who, store.Plan{Joint: joint, Job: &store.Job{Input: in, Result: res}, Reason: reason}, j.Draft.Version)
}
