package app

import (
	"context"
	"errors"
	"slices"
	"strings"

	"github.com/google/uuid"

	"dynacor/core/joint"
	"dynacor/core/recipe"
	"dynacor/core/record"
	"dynacor/core/refusal"
	"dynacor/core/work"
	"dynacor/internal/store"
)

// Issue freezes the draft as the joint's next revision and begins a run on it.
// The engineer confirms with the PIN; where bolts were pulled on the revision
// before, a reason is needed.
func (a *App) Issue(ctx context.Context, who Who, id uuid.UUID, version int, pin, reason string) (Joint, error) {
	j, err := a.Joint(ctx, id)
	if err != nil {
		return Joint{}, err
	}
	switch {
	case j.Draft.Version == 0:
		return Joint{}, &Error{Kind: Conflict, Code: "not-laid-out", Text: "Nobody has laid this joint out yet.",
			Way: "Read its nameplate first."}
	case j.Draft.Version != version:
		return Joint{}, changedMeanwhile()
	}
	return a.issue(ctx, who, j, j.Draft.Input, j.Draft.Recipe, pin, reason)
}

// issue freezes an input of a joint.
func (a *App) issue(ctx context.Context, who Who, j Joint, in joint.Input, r recipe.Recipe, pin, reason string) (Joint, error) {
	in, err := a.withOwn(ctx, in, in)
	if err != nil {
		return Joint{}, err
	}
	res, err := joint.Compute(in, r)
	if err != nil {
		return Joint{}, err
	}
	if _, err := work.Lay(in, r, res); err != nil {
		return Joint{}, err
	}
	reason = strings.TrimSpace(reason)
	if j.Run != nil && (j.Run.State.Begun() || j.Run.State.Standing == record.Signed) && reason == "" {
		return Joint{}, refusal.New(refusal.NeedsReason, "reason", "There is work on the plan that this one follows.",
			"Say why there is another; its run begins anew.")
	}
	if err := a.confirm(ctx, who.ID, pin); err != nil {
		return Joint{}, err
	}
	p := store.Plan{Joint: j.ID, Input: in, Result: res, CoreVersion: joint.Version, Reason: reason, IssuedBy: who.ID, IssuedAt: a.now()}
	if _, err := a.store.Issue(ctx, p, j.Draft.Version, uuid.New()); err != nil {
		if errors.Is(err, store.ErrStale) {
			return Joint{}, changedMeanwhile()
		}
		return Joint{}, err
	}
	a.changed(j.ID)
	return a.Joint(ctx, j.ID)
}

// follows lists the work that a further plan may be for: what its recipe leads
// on a joint that stands, and, where it was undone, making it anew.
func (j Joint) follows() []string {
	if j.Run == nil || j.Run.State.Standing != record.Signed {
		return nil
	}
	made, undone := j.made()
	switch {
	case made == nil:
		return nil
	case undone:
		if work := making(made.Plan.Input, j.Draft.Recipe); work != "" {
			return []string{work}
		}
		return nil
	}
	return joint.Follows(j.Draft.Recipe)
}

// making is the option of a recipe's choice that makes the joint.
func making(in joint.Input, r recipe.Recipe) string {
	for choice := range r.Undoes {
		return in.Choices[choice]
	}
	return ""
}

// Follow issues the plan for the work that follows on a joint whose record is
// signed: a re-torque, a loosening, the joint made anew. The signed record stays
// as it is.
func (a *App) Follow(ctx context.Context, who Who, id uuid.UUID, what, pin, reason string) (Joint, error) {
	j, err := a.Joint(ctx, id)
	if err != nil {
		return Joint{}, err
	}
	made, undone := j.made()
	if made == nil || !slices.Contains(j.Follows, what) {
		return Joint{}, &Error{Kind: Conflict, Code: "nothing-follows", Text: "That does not follow on this joint now.",
			Way: "Its record is signed first; then choose from what follows at Sign."}
	}
	r, err := a.recipe(ctx, made.Plan.Input.Recipe, made.Plan.Input.Edition)
	if err != nil {
		return Joint{}, err
	}
	in := made.Plan.Input
	if !undone {
		if in, err = joint.Further(in, made.Plan.Result, r, what, made.State.LastPull()); err != nil {
			return Joint{}, err
		}
	}
	return a.issue(ctx, who, j, in, r, pin, reason)
}
