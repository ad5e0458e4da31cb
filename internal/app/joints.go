package app

import (
	"context"
	"errors"
	"strings"

	"github.com/google/uuid"

	"dynacor/core/plan"
	"dynacor/core/proof"
	"dynacor/core/refusal"
	"dynacor/core/run"
	"dynacor/internal/store"
)

// Draft is a joint's sentence worked out.
type Draft struct {
	Version int
	Input   plan.Input
	Result  plan.Result
}

// Joint is a joint with its draft and, once issued, its plan and run.
type Joint struct {
	store.Joint
	Draft  Draft
	Job    *JobDraft // of a joint that a recipe leads
	Run    *Run
	Before []Run // on plans before the newest, the latest first

	Follows []string // work that a further plan may be for, of a signed flange of the ring planner
}

// Joint returns a joint with its draft, and its newest plan's run.
func (a *App) Joint(ctx context.Context, id uuid.UUID) (Joint, error) {
	j, err := a.store.Joint(ctx, id)
	if err != nil {
		return Joint{}, found(err, "joint")
	}
	out := Joint{Joint: j}
	d, err := a.store.Draft(ctx, id)
	if errors.Is(err, store.ErrNotFound) {
		d, err = store.Draft{Joint: id, Input: plan.Starting()}, nil
	}
	if err != nil {
		return out, err
	}
	if j.Recipe != "" {
		newest, err := a.newestEditions(ctx)
		if err != nil {
			return out, err
		}
		if out.Job, err = a.jobDraft(ctx, j, d, newest[j.Recipe]); err != nil {
			return out, err
		}
	} else if out.Draft, err = work(d); err != nil {
		return out, err
	}
	heads, err := a.store.RunsOf(ctx, id)
	for i, head := range heads {
		r, err := a.runAt(ctx, head)
		if err != nil {
			return out, err
		}
		if i == 0 {
			out.Run = &r
			continue
		}
		out.Before = append(out.Before, r)
	}
	if err != nil {
		return out, err
	}
	out.Follows, err = a.follows(ctx, out)
	return out, err
}

func work(d store.Draft) (Draft, error) {
	r, err := plan.Compute(d.Input)
	return Draft{d.Version, d.Input, r}, err
}

// AddJoint makes a new joint in an area.
func (a *App) AddJoint(ctx context.Context, who Who, area uuid.UUID, tag, title, recipe string) (Joint, error) {
	tag = strings.ToUpper(strings.Join(strings.Fields(tag), " "))
	areas, err := a.store.Areas(ctx)
	if err != nil {
		return Joint{}, err
	}
	known := false
	for _, x := range areas {
		known = known || x.ID == area
	}
	if !known {
		return Joint{}, refusal.New(refusal.Unknown, "area", "There is no such area.", "Choose one from the list.")
	}
	if recipe != "" {
		if _, err := a.newest(ctx, recipe); err != nil {
			return Joint{}, err
		}
	}
	j := store.Joint{ID: uuid.New(), Area: area, Tag: tag, Title: strings.TrimSpace(title), Assigned: &who.ID, MadeAt: a.now(), Recipe: recipe}
	if err := a.store.AddJoint(ctx, j); err != nil {
		if errors.Is(err, store.ErrTaken) {
			return Joint{}, &Error{Kind: Conflict, Code: "tag-taken", Field: "tag", Text: "Another joint has the tag " + tag + ".", Way: "Choose another tag, or open that joint."}
		}
		return Joint{}, err
	}
	a.changed(j.ID)
	return a.Joint(ctx, j.ID)
}

// SaveDraft works the sentence out and, when it can be, stores it over the
// version it was changed from. What is refused is not stored.
func (a *App) SaveDraft(ctx context.Context, who Who, joint uuid.UUID, from int, in plan.Input) (Draft, error) {
	j, err := a.store.Joint(ctx, joint)
	if err != nil {
		return Draft{}, found(err, "joint")
	}
	if j.Recipe != "" {
		return Draft{}, otherForm()
	}
	r, err := plan.Compute(in)
	if err != nil {
		return Draft{}, err
	}
	version, err := a.store.SaveDraft(ctx, store.Draft{Joint: joint, Version: from, Input: in}, who.ID, a.now())
	if errors.Is(err, store.ErrStale) {
		return Draft{}, changedMeanwhile()
	}
	if err != nil {
		return Draft{}, err
	}
	a.changed(joint)
	return Draft{version, in, r}, nil
}

func changedMeanwhile() error {
	return &Error{Kind: Conflict, Code: "changed-meanwhile", Text: "Somebody else changed this sentence in the meantime.", Way: "Look at theirs, then change it again."}
}

// Issue freezes the draft as the joint's next revision and begins a run on
// it. The engineer confirms with the PIN; where bolts were pulled on the
// revision before, a reason is needed.
func (a *App) Issue(ctx context.Context, who Who, joint uuid.UUID, version int, pin, reason string) (Joint, error) {
	j, err := a.Joint(ctx, joint)
	if err != nil {
		return Joint{}, err
	}
	if j.Job != nil {
		return a.issueJob(ctx, who, j, version, pin, reason)
	}
	if j.Draft.Version == 0 {
		return Joint{}, &Error{Kind: Conflict, Code: "not-laid-out", Text: "Nobody has laid this joint out yet.", Way: "Go through the sentence first."}
	}
	if j.Draft.Version != version {
		return Joint{}, changedMeanwhile()
	}
	if j.Draft.Result.Undecided {
		return Joint{}, refusal.New(refusal.NeedsDecision, "lubrication",
			"The torque was written for "+j.Draft.Input.SpecifiedFor+", the job uses "+j.Draft.Input.Lubrication+".",
			"Take the equivalent torque, or keep the written one, before the plan is issued.")
	}
	if j.Run != nil && j.Run.Stage() == run.StageSigned {
		return Joint{}, &Error{Kind: Conflict, Code: "signed", Text: "This joint's record is signed; its plan is not replaced.", Way: "Issue the plan for the work that follows: a re-torque, a loosening, the joint made anew."}
	}
	reason = strings.TrimSpace(reason)
	if j.Run != nil && j.Run.Begun() && reason == "" {
		return Joint{}, refusal.New(refusal.NeedsReason, "reason", "Bolts were pulled on the plan this one replaces.", "Say why it is replaced; the run begins anew.")
	}
	if err := a.confirm(ctx, who.ID, pin); err != nil {
		return Joint{}, err
	}
	return a.issue(ctx, who, store.Plan{Joint: joint, Input: j.Draft.Input, Result: j.Draft.Result, Reason: reason}, version)
}

// issue stores a plan that was made from a version of its joint's draft, and
// begins its run.
func (a *App) issue(ctx context.Context, who Who, p store.Plan, version int) (Joint, error) {
	p.CoreVersion, p.IssuedBy, p.IssuedAt = plan.Version, who.ID, a.now()
	_, err := a.store.Issue(ctx, p, version, uuid.New())
	if errors.Is(err, store.ErrStale) {
		return Joint{}, changedMeanwhile()
	}
	if err != nil {
		return Joint{}, err
	}
	a.changed(p.Joint)
	return a.Joint(ctx, p.Joint)
}

// JudgeGaps gives the verdict on gaps (mm, clockwise from the top) by a
// joint's issued plan.
func (a *App) JudgeGaps(ctx context.Context, joint uuid.UUID, gaps []float64) (proof.Gap, error) {
	p, err := a.store.NewestPlan(ctx, joint)
	if err != nil {
		return proof.Gap{}, found(err, "issued plan")
	}
	return proof.JudgeGap(gaps, p.Result.GapDiameter, p.Result.GapLimit)
}
