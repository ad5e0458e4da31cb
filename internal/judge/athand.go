package judge

import (
	"fmt"
	"slices"
	"time"

	"dynacor/core/crib"
	"dynacor/core/refusal"
	"dynacor/core/tool"
)

// Tool is a tool of the crib as somebody finds it who works at a joint.
type Tool struct {
	crib.Tool
	Calibrated time.Time // zero: never
	Due        time.Time // zero: it is not calibrated
	HeldBack   string    // why nobody works with it; empty: it is not held back
	NotFree    string    // why it is not to be had by this person at this joint; empty: it is
	Since      time.Time // when it was found good last; zero: never
}

// AtHand is what of the crib somebody may take to a joint.
type AtHand struct {
	tool.Crib
	calibrated map[string]time.Time
}

// Without puts what of the crib somebody may take where the solver looks for it: what is held
// back, past its pulls, out with somebody else, or taken by another of the hands that work at
// once says why.
func Without(tools []Tool, taken []string) AtHand {
	c := AtHand{calibrated: map[string]time.Time{}}
	for _, t := range tools {
		if !t.Calibrated.IsZero() {
			c.calibrated[t.Tag] = t.Calibrated
		}
		why := t.NotFree
		if slices.Contains(taken, t.Tag) {
			why = "it is in another of the hands that work at once"
		}
		c.take(t, why)
	}
	return c
}

// take puts a tool where the solver looks for it.
func (c *AtHand) take(t Tool, why string) {
	d, due := t.Tool, t.Due
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
func (c AtHand) chain(t ToolChoice) (out tool.Chain, err error) {
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
