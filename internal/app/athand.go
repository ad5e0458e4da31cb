package app

import (
	"context"
	"fmt"
	"slices"
	"time"

	"github.com/google/uuid"

	"dynacor/core/crib"
	"dynacor/core/refusal"
	"dynacor/core/tool"
)

// atHand is what of the crib somebody may take to a joint.
type atHand struct {
	tool.Crib
	calibrated map[string]time.Time
}

// atHand reads the crib as somebody finds it who works at a joint: what is held back, past
// its pulls, out with somebody else, or taken by another of the hands that work at once says
// why.
func (a *App) atHand(ctx context.Context, who Who, joint uuid.UUID) (without func(taken []string) atHand, err error) {
	tools, err := a.Crib(ctx)
	if err != nil {
		return nil, err
	}
	j, err := a.store.Joint(ctx, joint)
	if err != nil {
		return nil, found(err, "joint")
	}
	return func(taken []string) atHand { return sorted(tools, who, j.Tag, taken) }, nil
}

// sorted puts what of the crib somebody may take where the solver looks for it.
func sorted(tools []CribTool, who Who, joint string, taken []string) atHand {
	c := atHand{calibrated: map[string]time.Time{}}
	for _, t := range tools {
		if t.Tool.Scrapped != "" {
			continue
		}
		if t.Tool.Calibrated != nil {
			c.calibrated[t.Tool.Tag] = *t.Tool.Calibrated
		}
		why := t.notFree(who, joint)
		if slices.Contains(taken, t.Tool.Tag) {
			why = "it is in another of the hands that work at once"
		}
		c.take(t, why)
	}
	return c
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

// take puts a tool where the solver looks for it.
func (c *atHand) take(t CribTool, why string) {
	d := t.Data
	var due time.Time
	if t.Tool.Due != nil {
		due = *t.Tool.Due
	}
	switch d.Kind {
	case crib.Wrench:
		w, _ := d.Wrench()
		w.HeldBack, w.Due = why, due
		c.Wrenches = append(c.Wrenches, w)
	case crib.Multiplier:
		c.Multipliers = append(c.Multipliers, tool.Multiplier{Tag: d.Tag, Name: d.Name, Ratio: d.Ratio, OutputMax: d.Most, DriveIn: d.DriveIn,
			DriveOut: d.DriveOut, Accuracy: d.Accuracy, HeldBack: why})
	case crib.Adapter:
		c.Adapters = append(c.Adapters, tool.Adapter{Tag: d.Tag, Name: d.Name, DriveIn: d.DriveIn, DriveOut: d.DriveOut, Limit: d.Most,
			HeldBack: why})
	case crib.OffsetEnd:
		c.Offsets = append(c.Offsets, tool.OffsetEnd{Tag: d.Tag, Name: d.Name, Length: d.Length, Angle: d.Angle, DriveIn: d.DriveIn,
			DriveOut: d.DriveOut, Limit: d.Most, HeldBack: why})
	case crib.Extension:
		c.Extensions = append(c.Extensions, tool.Extension{Tag: d.Tag, Name: d.Name, Drive: d.DriveOut, Length: d.Length, Limit: d.Most,
			HeldBack: why})
	case crib.Socket:
		c.Sockets = append(c.Sockets, tool.Socket{Tag: d.Tag, Name: d.Name, Size: d.Size, Inside: d.Inside, Drive: d.DriveOut, Limit: d.Most,
			HeldBack: why})
	case crib.Hydraulic:
		c.Hydraulics = append(c.Hydraulics, tool.Hydraulic{Tag: d.Tag, Name: d.Name, Chart: d.Chart, PressureUnit: d.PressureUnit,
			Graduation: d.Graduation, Drive: d.DriveOut, Accuracy: d.Accuracy, Due: due, HeldBack: why})
	case crib.Pump:
		c.Pumps = append(c.Pumps, tool.Pump{Tag: d.Tag, Name: d.Name, Unit: d.PressureUnit, Most: d.PressureMost, HeldBack: why})
	case crib.Gauge:
		c.Gauges = append(c.Gauges, tool.Gauge{Tag: d.Tag, Name: d.Name, Unit: d.Unit, Least: d.Least, Most: d.Most, Step: d.Scale.Minor,
			Accuracy: d.Accuracy, Due: due, HeldBack: why})
	case crib.Tensioner:
		c.Tensioners = append(c.Tensioners, tool.Tensioner{Tag: d.Tag, Name: d.Name, Thread: d.Size, RamArea: d.RamArea, Stroke: d.Stroke,
			Unit: d.PressureUnit, Most: d.PressureMost, Graduation: d.Graduation, Accuracy: d.Accuracy, Due: due, HeldBack: why})
	}
}

// chain returns what was chosen of the crib, link by link.
func (c atHand) chain(t ToolChoice) (out tool.Chain, err error) {
	w, err := ofTag(c.Wrenches, t.Wrench, "wrench", func(x tool.Wrench) string { return x.Tag })
	if err != nil {
		return out, err
	}
	out.Wrench = *w
	if out.First, err = ofTag(c.Adapters, t.First, "adapter", func(x tool.Adapter) string { return x.Tag }); err != nil {
		return out, err
	}
	if out.Multiplier, err = ofTag(c.Multipliers, t.Multiplier, "multiplier", func(x tool.Multiplier) string { return x.Tag }); err != nil {
		return out, err
	}
	if out.Second, err = ofTag(c.Adapters, t.Second, "adapter", func(x tool.Adapter) string { return x.Tag }); err != nil {
		return out, err
	}
	if out.Offset, err = ofTag(c.Offsets, t.Offset, "offset", func(x tool.OffsetEnd) string { return x.Tag }); err != nil {
		return out, err
	}
	if out.Offset != nil {
		end := *out.Offset
		end.Angle = t.Angle
		out.Offset = &end
	}
	if out.Extension, err = ofTag(c.Extensions, t.Extension, "extension", func(x tool.Extension) string { return x.Tag }); err != nil {
		return out, err
	}
	out.Socket, err = ofTag(c.Sockets, t.Socket, "socket", func(x tool.Socket) string { return x.Tag })
	return out, err
}

// ofTag returns the tool of a tag; nil where none is named, but for what pulls.
func ofTag[T any](list []T, tag, what string, tagOf func(T) string) (*T, error) {
	if tag == "" && what != "wrench" && what != "hydraulic" && what != "tensioner" {
		return nil, nil
	}
	for i := range list {
		if tagOf(list[i]) == tag {
			return &list[i], nil
		}
	}
	return nil, refusal.New(refusal.Unknown, what, fmt.Sprintf("There is no %s %s in the crib.", what, tag),
		"Choose one from the list, or enter it by hand.")
}
