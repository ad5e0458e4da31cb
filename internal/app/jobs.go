package app

import (
	"context"
	"errors"
	"maps"
	"strings"

	"github.com/google/uuid"

	"dynacor/core/job"
	"dynacor/core/recipe"
	"dynacor/core/refusal"
	"dynacor/core/run"
	"dynacor/internal/store"
)

// JobDraft is the draft of a joint that a recipe leads, laid out by it.
type JobDraft struct {
	Version int
	Input   job.Input
	Result  job.Result
	Recipe  recipe.Recipe
	Newer   int // the recipe's newest edition where the draft has an earlier one, else 0
}

func otherForm() error {
	return &Error{Kind: Conflict, Code: "other-form", Text: "This joint is laid out another way.", Way: "Open it again."}
}

// jobDraft lays out a joint's draft by the edition it was begun with; one that
// nobody began by the newest.
func (a *App) jobDraft(ctx context.Context, j store.Joint, d store.Draft, newest int) (*JobDraft, error) {
	out := &JobDraft{Version: d.Version}
	if d.Job != nil {
		out.Input = *d.Job
	} else {
		out.Input = job.Input{Recipe: j.Recipe, Edition: newest}
	}
	if newest > out.Input.Edition {
		out.Newer = newest
	}
	var err error
	if out.Recipe, err = a.recipe(ctx, out.Input.Recipe, out.Input.Edition); err != nil {
		return nil, err
	}
	out.Result, err = job.Compute(out.Input, out.Recipe)
	return out, err
}

// newestEditions returns the newest edition of every recipe.
func (a *App) newestEditions(ctx context.Context) (map[string]int, error) {
	if err := a.keepBook(ctx); err != nil {
		return nil, err
	}
	return a.store.NewestEditions(ctx)
}

// SaveJob stores the draft of a joint that a recipe leads. A number that cannot
// be is refused and the draft stays as it was.
func (a *App) SaveJob(ctx context.Context, who Who, joint uuid.UUID, from int, in job.Input) (*JobDraft, error) {
	j, err := a.store.Joint(ctx, joint)
	if err != nil {
		return nil, found(err, "joint")
	}
	if j.Recipe == "" || in.Recipe != j.Recipe {
		return nil, otherForm()
	}
	r, err := a.recipe(ctx, in.Recipe, in.Edition)
	if err != nil {
		return nil, err
	}
	in = tidy(in)
	res, err := job.Compute(in, r)
	if err != nil {
		return nil, err
	}
	version, err := a.store.SaveDraft(ctx, store.Draft{Joint: joint, Version: from, Job: &in}, who.ID, a.now())
	if errors.Is(err, store.ErrStale) {
		return nil, changedMeanwhile()
	}
	if err != nil {
		return nil, err
	}
	a.changed(joint)
	return &JobDraft{Version: version, Input: in, Result: res, Recipe: r}, nil
}

// tidy drops what says nothing.
func tidy(in job.Input) job.Input {
	in.Type, in.Size = strings.TrimSpace(in.Type), strings.TrimSpace(in.Size)
	maps.DeleteFunc(in.Values, func(_ string, g job.Given) bool { return g.IsZero() })
	maps.DeleteFunc(in.Groups, func(_ string, b job.Bolts) bool { return b == job.Bolts{} })
	return in
}

// issueJob freezes the draft of a joint that a recipe leads. After a signed run
// it is the work that follows: a loosening, a re-torque, the joint made anew.
func (a *App) issueJob(ctx context.Context, who Who, j Joint, version int, pin, reason string) (Joint, error) {
	d := j.Job
	switch {
	case d.Version == 0:
		return Joint{}, &Error{Kind: Conflict, Code: "not-laid-out", Text: "Nobody has laid this joint out yet.", Way: "Read its nameplate first."}
	case d.Version != version:
		return Joint{}, changedMeanwhile()
	}
	if _, err := job.Follow(d.Input, d.Recipe, d.Result); err != nil {
		return Joint{}, err
	}
	reason = strings.TrimSpace(reason)
	if j.Run != nil && (j.Run.Begun() || j.Run.Stage() == run.StageSigned) && reason == "" {
		return Joint{}, refusal.New(refusal.NeedsReason, "reason", "There is work on the plan that this one follows.", "Say why there is another; its run begins anew.")
	}
	if err := a.confirm(ctx, who.ID, pin); err != nil {
		return Joint{}, err
	}
	return a.issue(ctx, who, store.Plan{Joint: j.ID, Job: &store.Job{Input: d.Input, Result: d.Result}, Reason: reason}, version)
}

// JudgeReadings gives the verdict on readings as they are typed, taken after held
// minutes; nothing is stored. outside is empty where they are within.
func (a *App) JudgeReadings(ctx context.Context, runID uuid.UUID, step string, readings []float64, held float64) (outside string, err error) {
	r, err := a.Run(ctx, runID)
	if err != nil {
		return "", err
	}
	if r.Job == nil {
		return "", otherForm()
	}
	return r.Job.Work.Judge(step, readings, held)
}

// torquesOf are the stages of what tools are looked for: the ring's, or those of
// one group.
func torquesOf(p store.Plan, group string) ([]float64, error) {
	if p.Job == nil {
		return Follow(p).Torques, nil
	}
	for _, g := range p.Job.Result.Groups {
		if g.Name == group && g.How == recipe.ByTorque {
			return g.Torques, nil
		}
	}
	return nil, refusal.New(refusal.Unknown, "group", "That is no group that is torqued.", "Choose one of the plan's.")
}
