package app

import (
	"context"
	"errors"
	"fmt"
	"slices"
	"strings"
	"time"

	"github.com/google/uuid"

	"dynacor/core/crib"
	"dynacor/core/record"
	"dynacor/core/refusal"
	"dynacor/core/tool"
	"dynacor/internal/store"
)

// reported completes the report of a tool and holds it back in the crib, before
// the run says so: no server takes a pull with it from then on.
func (a *App) reported(ctx context.Context, who Who, c *cell, id uuid.UUID, r record.Report) (record.Report, error) {
	r.Tool = strings.TrimSpace(r.Tool)
	j, err := a.store.Joint(ctx, c.plan.Joint)
	if err != nil {
		return r, err
	}
	rests, err := a.restsOnPerson(ctx, who)
	if err != nil {
		return r, err
	}
	now := a.now()
	var since time.Time
	_, err = a.store.AddLife(ctx, r.Tool, uuid.NewSHA1(id, []byte("hurt")), rests, func(t store.Tool, s crib.State) (crib.Tool, crib.Entry, error) {
		since = s.InQuestion()
		e := crib.Entry{ID: uuid.NewSHA1(id, []byte("hurt")).String(), On: now, AtServer: now, Person: who.ID.String(),
			Content: crib.Hurt{What: crib.Harm(r.What), Joint: j.Tag, Note: r.Note}}
		return t.Data(), e, s.Accept(t.Data(), e, now)
	})
	r.Since = since
	var refused *refusal.Error
	switch {
	case errors.Is(err, store.ErrNotFound): // entered by hand, it is in no crib; the run itself questions it
		return r, nil
	case errors.As(err, &refused) && refused.Code == refusal.NotNow: // scrapped meanwhile: it is out of use all the same
		return r, nil
	}
	return r, err
}

// triedWith returns the tools that are held back, after the one that bolts were tried with
// was found in the crib and in date.
func (a *App) triedWith(ctx context.Context, tag string) (map[string]string, error) {
	if strings.TrimSpace(tag) == "" {
		return nil, nil // the core says so
	}
	t, err := a.store.ToolByTag(ctx, tag)
	if errors.Is(err, store.ErrNotFound) {
		return nil, refusal.New(refusal.Unknown, "with", fmt.Sprintf("There is no %s in the crib.", tag), "Name the tag of a tool of the crib.")
	}
	if err != nil {
		return nil, err
	}
	if t.Due != nil && !a.now().Before(t.Due.AddDate(0, 0, 1)) {
		return nil, refusal.New(refusal.OutOfDate, "with", fmt.Sprintf("%s is out of calibration since %s.", tag, t.Due.Format("2 January 2006")),
			"Take another tool.")
	}
	return a.store.HeldTools(ctx)
}

// HeldTool is a tool that is held back, with why.
type HeldTool struct{ Tag, Why string }

// HeldTools lists the tools of a run that are held back.
func (a *App) HeldTools(ctx context.Context, r Run) ([]HeldTool, error) {
	var used []string
	for _, t := range r.State.Tooling {
		for _, stages := range t.Hands() {
			for _, stage := range stages {
				used = append(used, stage.Tools...)
			}
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

// ToolChoice is a choice of tools for a group: tags of the crib, or a tool
// entered by hand. What is left out is empty. A hydraulic wrench stands instead of a wrench,
// a tensioner instead of either; both go with a pump and a gauge.
type ToolChoice struct {
	Group      string
	Wrench     string
	Hydraulic  string
	Tensioner  string
	Pump       string
	Gauge      string
	First      string // an adapter on the wrench
	Multiplier string
	Second     string // an adapter on the multiplier
	Offset     string
	Angle      float64 // of the offset end, degrees
	Extension  string
	Socket     string
	ByHand     *HandTool
	Beside     []ToolChoice // that work at the same time
}

// ChoiceOf is the choice of a chain for a group.
func ChoiceOf(group string, c tool.Chain) ToolChoice {
	out := ToolChoice{Group: group}
	adapters := 0
	for _, l := range c.Links() {
		switch l.Kind {
		case tool.LinkWrench:
			out.Wrench = l.Tag
		case tool.LinkAdapter:
			if c.First == nil || adapters > 0 {
				out.Second = l.Tag
			} else {
				out.First = l.Tag
			}
			adapters++
		case tool.LinkMultiplier:
			out.Multiplier = l.Tag
		case tool.LinkOffset:
			out.Offset, out.Angle = l.Tag, l.Angle
		case tool.LinkExtension:
			out.Extension = l.Tag
		case tool.LinkSocket:
			out.Socket = l.Tag
		}
	}
	return out
}

// RigOf is the choice of a hydraulic wrench for a group.
func RigOf(group string, r tool.Rig) ToolChoice {
	out := ToolChoice{Group: group, Hydraulic: r.Wrench.Tag}
	out.supply(r.Supply)
	if r.Socket != nil {
		out.Socket = r.Socket.Tag
	}
	return out
}

// TensionerOf is the choice of a tensioner for a group.
func TensionerOf(group string, t tool.Tensioning) ToolChoice {
	out := ToolChoice{Group: group, Tensioner: t.Tool.Tag}
	out.supply(t.Supply)
	return out
}

func (t *ToolChoice) supply(s tool.Supply) {
	if s.Pump != nil {
		t.Pump = s.Pump.Tag
	}
	if s.Gauge != nil {
		t.Gauge = s.Gauge.Tag
	}
}

// tags names what is chosen, the wrench first.
func (t ToolChoice) tags() []string {
	return slices.DeleteFunc([]string{t.Wrench, t.Hydraulic, t.Tensioner, t.Pump, t.Gauge, t.First, t.Multiplier, t.Second, t.Offset, t.Extension, t.Socket},
		func(tag string) bool { return tag == "" })
}

// is reports whether a choice names these tools.
// are reports whether those of the hands that work at once are what was chosen.
func (t ToolChoice) are(hands [][]record.StageTool) bool {
	if len(hands) != 1+len(t.Beside) {
		return false
	}
	for i, x := range append([]ToolChoice{t}, t.Beside...) {
		if n := len(hands[i]); n == 0 || !x.is(hands[i][n-1].Tools) {
			return false
		}
	}
	return true
}

func (t ToolChoice) is(tools []string) bool {
	if t.ByHand != nil {
		return tools[0] == t.ByHand.Tag
	}
	return slices.Equal(t.tags(), tools)
}
