package app

import (
	"context"
	"errors"
	"fmt"
	"strings"
	"time"

	"dynacor/core/person"
	"dynacor/core/record"
	"dynacor/core/refusal"
	"dynacor/internal/store"
)

// reported completes the report of a tool and holds it back in the crib, before
// the run says so: no server takes a pull with it from then on.
func (a *App) reported(ctx context.Context, who Who, c *cell, r record.Report) (record.Report, error) {
	r.Tool = strings.TrimSpace(r.Tool)
	list, err := a.store.Tools(ctx)
	if err != nil {
		return r, err
	}
	for _, t := range list {
		if t.Tag == r.Tool {
			r.Since = goodSince(t)
		}
	}
	joints, err := a.store.Joint(ctx, c.plan.Joint)
	if err != nil {
		return r, err
	}
	people, err := a.store.PersonByID(ctx, who.ID)
	if err != nil {
		return r, found(err, "person")
	}
	why := fmt.Sprintf("%s at %s, reported by %s", r.What, joints.Tag, people.Name)
	if r.Note != "" {
		why += ": " + r.Note
	}
	// A tool that was entered by hand is in no crib; the run itself questions it.
	if err := a.store.HoldTool(ctx, r.Tool, why); err != nil && !errors.Is(err, store.ErrNotFound) {
		return r, err
	}
	return r, nil
}

// goodSince is when a tool was last found good.
func goodSince(t store.Tool) time.Time {
	var at time.Time
	if t.Calibrated != nil {
		at = *t.Calibrated
	}
	if t.CheckedAt != nil && t.CheckedAt.After(at) {
		at = *t.CheckedAt
	}
	return at.UTC()
}

// HeldTool is a tool that is held back, with why.
type HeldTool struct{ Tag, Why string }

// HeldTools lists the tools of a run that are held back.
func (a *App) HeldTools(ctx context.Context, r Run) ([]HeldTool, error) {
	var used []string
	for _, t := range r.State.Tooling {
		for _, stage := range t.Stages {
			used = append(used, stage.Tools...)
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

// ReleaseTool puts a tool that was held back into service, after a good check
// that is said in a few words.
func (a *App) ReleaseTool(ctx context.Context, who Who, tag, check string) error {
	if !who.Is(person.Fitter, person.Inspector, person.Engineer, person.CribKeeper) {
		return &Error{Kind: NotAllowed, Code: "not-yours",
			Text: "This is for a fitter, an inspector, an engineer or the crib keeper to do.",
			Way:  "Ask one."}
	}
	if strings.TrimSpace(check) == "" {
		return refusal.New(refusal.NeedsReason, "check", fmt.Sprintf("%s was held back.", tag),
			"Say how it was checked and what was found.")
	}
	return found(a.store.ReleaseTool(ctx, tag, a.now().UTC()), "tool")
}

// ToolChoice is a choice of tools for a group: tags of the crib, or a tool
// entered by hand.
type ToolChoice struct {
	Group      string
	Wrench     string
	Multiplier string
	ByHand     *HandTool
}

// is reports whether a choice names these tools.
func (t ToolChoice) is(tools []string) bool {
	if t.ByHand != nil {
		return tools[0] == t.ByHand.Tag
	}
	return tools[0] == t.Wrench && (t.Multiplier == "" || len(tools) > 1 && tools[1] == t.Multiplier)
}
