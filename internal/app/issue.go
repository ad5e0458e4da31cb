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

// Issuing is what an engineer puts to a plan.
type Issuing struct {
	Run    uuid.UUID // identity of the run that begins; the same sent again issues nothing again. Nil: a new one
	Pin    string
	Reason string // why there is another; asked for where there is work on the plan before
}

// Issue freezes the draft as the joint's next revision and begins a run on it.
// The engineer confirms with the PIN; where bolts were pulled on the revision
// before, a reason is needed.
func (a *App) Issue(ctx context.Context, who Who, id uuid.UUID, version int, x Issuing) (Joint, error) {
	return a.issue(ctx, who, id, x, func(j Joint) (joint.Input, recipe.Recipe, error) {
		switch {
		case j.Draft.Version == 0:
			return joint.Input{}, recipe.Recipe{}, &Error{Kind: Conflict, Code: "not-laid-out", Text: "Nobody has laid this joint out yet.",
				Way: "Read its nameplate first."}
		case j.Draft.Version != version:
			return joint.Input{}, recipe.Recipe{}, changedMeanwhile()
		}
		return j.Draft.Input, j.Draft.Recipe, nil
	})
}

// issue freezes what of gives for a joint, as the joint is at that moment.
func (a *App) issue(ctx context.Context, who Who, id uuid.UUID, x Issuing, of func(Joint) (joint.Input, recipe.Recipe, error)) (Joint,
	error) {
	if x.Run == uuid.Nil {
		x.Run = uuid.New()
	}
	x.Reason = strings.TrimSpace(x.Reason)
	confirmed := false
	for try := 0; ; try++ {
		if r, err := a.store.RunByID(ctx, x.Run); err == nil {
			if r.Joint != id {
				return Joint{}, &Error{Kind: Conflict, Code: "run-taken", Field: "run",
					Text: "That identity belongs to another joint’s run.",
					Way:  "Send it with a new identity."}
			}
			return a.Joint(ctx, id) // it was issued before
		}
		j, err := a.Joint(ctx, id)
		if err != nil {
			return Joint{}, err
		}
		in, r, err := of(j)
		if err != nil {
			return Joint{}, err
		}
		p, err := a.planned(ctx, who, j, in, r, x.Reason)
		if err != nil {
			return Joint{}, err
		}
		if !confirmed {
			if err := a.confirm(ctx, who.ID, x.Pin); err != nil {
				return Joint{}, err
			}
			confirmed = true
		}
		seen := store.Seen{Draft: j.Draft.Version}
		if j.Run != nil {
			seen.Run = j.Run.Head
		}
		switch p, err = a.store.Issue(ctx, p, seen, x.Run); {
		case err == nil:
			a.sealer.head(store.Run{ID: x.Run, HeadHash: p.Hash}, p.IssuedAt)
			a.changed(id)
			return a.Joint(ctx, id)
		case errors.Is(err, store.ErrTaken), errors.Is(err, store.ErrStale) && try < mostIssues:
			continue // it was issued just now, or bolts were pulled since it was looked at
		case errors.Is(err, store.ErrStale):
			return Joint{}, changedMeanwhile()
		default:
			return Joint{}, err
		}
	}
}

// mostIssues is how often a plan is tried again while its joint is worked on.
const mostIssues = 5

// planned lays a joint out as it is to be issued, or says what stands against that.
func (a *App) planned(ctx context.Context, who Who, j Joint, in joint.Input, r recipe.Recipe, reason string) (p store.Plan, err error) {
	own, err := a.OwnFigures(ctx)
	if err != nil {
		return p, err
	}
	if in, err = withOwn(in, in, own); err != nil {
		return p, err
	}
	res, err := joint.Compute(in, r)
	if err != nil {
		return p, err
	}
	if _, err := work.Lay(in, r, res); err != nil {
		return p, err
	}
	if j.Run != nil && (j.Run.State.Begun() || j.Run.State.Standing == record.Signed) && reason == "" {
		return p, refusal.New(refusal.NeedsReason, "reason", "There is work on the plan that this one follows.",
			"Say why there is another; its run begins anew.")
	}
	return store.Plan{Joint: j.ID, Input: in, Result: res, CoreVersion: joint.Version, Reason: reason, IssuedBy: who.ID,
		IssuedAt: a.now()}, nil
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
func (a *App) Follow(ctx context.Context, who Who, id uuid.UUID, what string, x Issuing) (Joint, error) {
	return a.issue(ctx, who, id, x, func(j Joint) (in joint.Input, r recipe.Recipe, err error) {
		made, undone := j.made()
		if made == nil || !slices.Contains(j.Follows, what) {
			return in, r, &Error{Kind: Conflict, Code: "nothing-follows", Text: "That does not follow on this joint now.",
				Way: "Its record is signed first; then choose from what follows at Sign."}
		}
		if in, r, err = a.recipeOf(ctx, made.Plan.Input); err != nil {
			return in, r, err
		}
		if !undone {
			in, err = joint.Further(in, made.Plan.Result, r, what, made.State.LastPull())
		}
		return in, r, err
	})
}
