package app

import (
	"context"
	"errors"
	"maps"
	"slices"
	"strings"

	"github.com/google/uuid"

	"dynacor/core/joint"
	"dynacor/core/recipe"
	"dynacor/core/record"
	"dynacor/core/refusal"
	"dynacor/internal/store"
)

// Draft is a joint's sentence, laid out by its recipe.
type Draft struct {
	Version int
	Input   joint.Input
	Result  joint.Result
	Recipe  recipe.Recipe
	Newer   int // the recipe's newest edition where the draft has an earlier one, else 0
}

// Joint is a joint with its draft and, once issued, its plan and run.
type Joint struct {
	store.Joint
	Draft   Draft
	Run     *Run
	Before  []Run    // on plans before the newest, the latest first
	Follows []string // work that a further plan may be for
	Held    []HeldTool
}

// Joint returns a joint with its draft, and its newest plan's run.
func (a *App) Joint(ctx context.Context, id uuid.UUID) (Joint, error) {
	out, err := a.drafted(ctx, id)
	if err != nil {
		return out, err
	}
	heads, err := a.store.RunsOf(ctx, id)
	if err != nil {
		return out, err
	}
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
	out.Follows = out.follows()
	if out.Run != nil {
		out.Held, err = a.HeldTools(ctx, *out.Run)
	}
	return out, err
}

// drafted returns a joint with its draft alone.
func (a *App) drafted(ctx context.Context, id uuid.UUID) (Joint, error) {
	j, err := a.store.Joint(ctx, id)
	if err != nil {
		return Joint{}, found(err, "joint")
	}
	out := Joint{Joint: j}
	d, err := a.store.Draft(ctx, id)
	if err != nil && !errors.Is(err, store.ErrNotFound) {
		return out, err
	}
	newest, err := a.newestEditions(ctx)
	if err != nil {
		return out, err
	}
	if out.Draft, err = a.draft(ctx, j, d, newest[j.Recipe]); err != nil {
		if what, is := faultOf(err); is {
			a.torn.Store(id, what)
		}
	}
	return out, err
}

// draft lays out a joint's draft by the edition it was begun with; one that
// nobody began by the newest.
func (a *App) draft(ctx context.Context, j store.Joint, d store.Draft, newest int) (Draft, error) {
	if d.Fault != "" {
		return Draft{}, doesNotHold(d.Fault)
	}
	out := Draft{Version: d.Version, Input: d.Input}
	if d.Version == 0 {
		out.Input = joint.Input{Recipe: j.Recipe, Edition: newest}
	}
	if newest > out.Input.Edition {
		out.Newer = newest
	}
	var err error
	if out.Input, out.Recipe, err = a.recipeOf(ctx, out.Input); err != nil {
		return out, err
	}
	out.Result, err = joint.Compute(out.Input, out.Recipe)
	return out, err
}

// compared keeps what was compared on the Bench with a sentence that a screen has changed.
func compared(in, was joint.Input) joint.Input {
	for name, b := range was.Groups {
		if b.Compared == nil {
			continue
		}
		if in.Groups == nil {
			in.Groups = map[string]joint.Bolts{}
		}
		now := in.Groups[name]
		now.Compared = b.Compared
		in.Groups[name] = now
	}
	return in
}

// AddJoint makes a new joint in an area, led by a recipe.
func (a *App) AddJoint(ctx context.Context, who Who, area uuid.UUID, tag, title, recipe string) (Joint, error) {
	tag = strings.ToUpper(strings.Join(strings.Fields(tag), " "))
	areas, err := a.store.Areas(ctx)
	if err != nil {
		return Joint{}, err
	}
	if !slices.ContainsFunc(areas, func(x store.Area) bool { return x.ID == area }) {
		return Joint{}, refusal.New(refusal.Unknown, "area", "There is no such area.", "Choose one from the list.")
	}
	if _, err := a.usable(ctx, recipe); err != nil {
		return Joint{}, err
	}
	j := store.Joint{ID: uuid.New(), Area: area, Tag: tag, Title: strings.TrimSpace(title), Assigned: &who.ID, MadeAt: a.now(),
		Recipe: recipe}
	if err := a.store.AddJoint(ctx, j); err != nil {
		if errors.Is(err, store.ErrTaken) {
			return Joint{}, &Error{Kind: Conflict, Code: "tag-taken", Field: "tag", Text: "Another joint has the tag " + tag + ".",
				Way: "Choose another tag, or open that joint."}
		}
		return Joint{}, err
	}
	a.changed(j.ID)
	return a.Joint(ctx, j.ID)
}

// SaveDraft lays the sentence out and, when it can be, stores it over the
// version it was changed from. What is refused is not stored.
func (a *App) SaveDraft(ctx context.Context, who Who, id uuid.UUID, from int, in joint.Input) (Joint, error) {
	j, err := a.store.Joint(ctx, id)
	if err != nil {
		return Joint{}, found(err, "joint")
	}
	if in.Recipe != j.Recipe {
		return Joint{}, refusal.New(refusal.Contradicts, "recipe", "This joint is led by "+j.Recipe+".", "Open it again.")
	}
	r, err := a.recipe(ctx, in.Recipe, in.Edition)
	if err != nil {
		return Joint{}, err
	}
	d, err := a.store.Draft(ctx, id)
	if err != nil && !errors.Is(err, store.ErrNotFound) {
		return Joint{}, err
	}
	in = tidy(in)
	in.MadeAt = d.Input.MadeAt // what a screen does not change
	in = compared(in, d.Input)
	own, err := a.OwnFigures(ctx)
	if err != nil {
		return Joint{}, err
	}
	if in, err = withOwn(in, d.Input, own); err != nil {
		return Joint{}, err
	}
	if !r.Again.Is(in.Choices) {
		in.MadeAt = joint.Input{}.MadeAt
	}
	res, err := joint.Compute(in, r)
	if err != nil {
		return Joint{}, err
	}
	if before, err := joint.Compute(d.Input, r); err == nil { // what was stored by an edition before may not be by this one
		in = joint.Renewed(in, d.Input, res, before)
	}
	return a.draftStored(ctx, who, store.Draft{Joint: id, Version: from, Input: in})
}

// draftStored stores a draft over the version that it was changed from, and returns its joint.
func (a *App) draftStored(ctx context.Context, who Who, d store.Draft) (Joint, error) {
	if _, err := a.store.SaveDraft(ctx, d, who.ID, a.now()); err != nil {
		if errors.Is(err, store.ErrStale) {
			return Joint{}, changedMeanwhile()
		}
		return Joint{}, err
	}
	a.changed(d.Joint)
	return a.Joint(ctx, d.Joint)
}

// tidy drops what says nothing.
func tidy(in joint.Input) joint.Input {
	in.Type, in.Size = strings.TrimSpace(in.Type), strings.TrimSpace(in.Size)
	maps.DeleteFunc(in.Values, func(_ string, g joint.Given) bool { return g.IsZero() })
	maps.DeleteFunc(in.Groups, func(_ string, b joint.Bolts) bool { return b == joint.Bolts{} })
	return in
}

func changedMeanwhile() error {
	return &Error{Kind: Conflict, Code: "changed-meanwhile", Text: "Somebody else changed this sentence in the meantime.",
		Way: "Look at theirs, then change it again."}
}

// made returns the newest signed run in which the joint was made, and whether it
// was undone since.
func (j Joint) made() (r *Run, undone bool) {
	if j.Run == nil {
		return nil, false
	}
	for _, x := range append([]Run{*j.Run}, j.Before...) {
		p := x.State.Plan()
		switch {
		case x.State.Standing != record.Signed:
		case p.Undoes():
			undone = true
		case !p.Again():
			return &x, undone
		}
	}
	return nil, undone
}
