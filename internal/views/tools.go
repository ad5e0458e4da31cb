package views

import (
	"cmp"
	"errors"
	"fmt"
	"slices"

	"dynacor/core/crib"
	"dynacor/core/record"
	"dynacor/core/refusal"
	"dynacor/core/tool"
	"dynacor/core/unit"
	"dynacor/internal/contract"
	"dynacor/internal/judge"
)

// StageTools are the tools of every stage of a group, which are shares of its value, percent.
func StageTools(shares []float64, tools []record.StageTool) []contract.StageTool {
	out := []contract.StageTool{}
	for i, t := range tools {
		out = append(out, contract.StageTool{Stage: i + 1, Share: shares[i], Tools: named(t), Links: linkViews(t), Torque: t.Torque,
			Lands: t.Lands, Error: t.Error, Setting: Quantity(t.Setting), Accuracy: t.Accuracy, Force: t.Force, Heavy: t.Force > tool.HeavyHandForce,
			Face: StageFace(t), ByHand: t.ByHand, Due: contract.Date{Time: t.Due}, Pressed: t.Pressed(), Chart: chartRows(t), Draw: drawView(t)})
	}
	return out
}

func chartRows(t record.StageTool) []contract.ChartRow {
	if !t.Pressed() {
		return nil
	}
	return Each(t.Chart, func(r record.ChartRow) contract.ChartRow {
		return contract.ChartRow{Pressure: r.Pressure, Torque: r.Torque}
	})
}

func drawView(t record.StageTool) *contract.Draw {
	if !t.Draws() {
		return nil
	}
	d := t.Draw
	return &contract.Draw{Load: d.Load, Factor: d.Factor, Applied: d.Applied, Area: d.Area, Length: d.Length, Yield: d.Yield,
		Lengthens: d.Lengthens, Stroke: d.Stroke, Residual: d.Residual}
}

// rigUpViews are the steps of making a hydraulic wrench ready, where one is chosen.
func rigUpViews(tooling map[string]record.Tooling) []contract.RigStep {
	for _, t := range tooling {
		if slices.ContainsFunc(t.Stages, record.StageTool.Pressed) {
			return Each(tool.RigUp(), func(s tool.RigStep) contract.RigStep {
				return contract.RigStep{ID: s.ID, Text: s.Text, Why: s.Why, Read: s.Read}
			})
		}
	}
	return nil
}

// named are the tools that one names at the bolt: the wrench, and what changes its setting.
// Adapters and sockets are on the drawing.
func named(t record.StageTool) []string {
	if t.Links == nil {
		return t.Tools
	}
	var out []string
	for _, l := range t.Links {
		switch tool.LinkKind(l.Kind) {
		case tool.LinkWrench, tool.LinkMultiplier, tool.LinkOffset, tool.LinkHydraulic, tool.LinkTensioner:
			out = append(out, l.Tag)
		}
	}
	return out
}

// linkViews is a chain link by link; of one of which only the tags were kept as far as these
// say it.
func linkViews(t record.StageTool) []contract.Link {
	links := t.Links
	for i, tag := range t.Tools {
		if t.Links != nil {
			break
		}
		l := record.Link{Kind: string(tool.LinkWrench), Tag: tag, Torque: t.Lands}
		if i > 0 {
			l.Kind = string(tool.LinkMultiplier)
		}
		links = append(links, l)
	}
	return Each(links, func(l record.Link) contract.Link {
		return contract.Link{Kind: contract.LinkKind(l.Kind), Tag: l.Tag, Name: linkName(l), Torque: l.Torque, Drive: l.Drive, Limit: l.Limit,
			Ratio: l.Ratio, Length: l.Length, Angle: l.Angle, Size: l.Size, Inside: l.Inside}
	})
}

// linkName says what a link is, short.
func linkName(l record.Link) string {
	switch tool.LinkKind(l.Kind) {
	case tool.LinkMultiplier:
		if l.Ratio > 0 {
			return fmt.Sprintf("multiplier %g : 1", l.Ratio)
		}
	case tool.LinkOffset:
		return fmt.Sprintf("offset end %g mm at %g°", l.Length, l.Angle)
	case tool.LinkExtension:
		return fmt.Sprintf("extension %g mm", l.Length)
	case tool.LinkSocket:
		if l.Inside {
			return fmt.Sprintf("bit %g mm", l.Size)
		}
		return fmt.Sprintf("socket %g mm", l.Size)
	}
	return l.Kind
}

// stageFace is what the hand sees of a tool that is set for a stage.
func StageFace(t record.StageTool) contract.Face {
	if t.Pressed() || t.Draws() {
		return gaugeFace(t)
	}
	x := crib.Tool{Kind: crib.Wrench, Face: crib.Face(cmp.Or(t.Face, string(crib.Ring))), Unit: t.Setting.Unit, Least: t.Least,
		Most: cmp.Or(t.Most, t.Setting.Value), Scale: tool.Scale{First: t.First, Major: t.Major, Minor: t.Minor}, Falls: t.Falls}
	shown, err := x.Shows(t.Setting.Value)
	if err != nil { // it was set by a server that kept less of it
		shown = crib.Shown{Value: t.Setting.Value, In: t.Setting.Unit, Words: t.Setting.String()}
	}
	return Face(x, shown)
}

// gaugeFace is the gauge of a hydraulic tool: its whole dial, with what the tool is used
// between.
func gaugeFace(t record.StageTool) contract.Face {
	x := crib.Tool{Kind: crib.Gauge, Unit: t.Setting.Unit, Most: cmp.Or(t.Full, t.Most), Scale: tool.Scale{Minor: t.Minor}}
	shown, err := x.Shows(t.Setting.Value)
	if err != nil { // a gauge that is finer than it can be drawn
		shown = crib.Shown{Value: t.Setting.Value, In: t.Setting.Unit, Words: t.Setting.String()}
	}
	shown.Least = t.Least
	v := Face(x, shown)
	v.Limit = t.Most
	return v
}

// Face is what the hand sees of a tool that shows a value.
func Face(t crib.Tool, s crib.Shown) contract.Face {
	v := contract.Face{Kind: contract.FaceKind(t.Face), Unit: string(s.In), Value: s.Value, First: s.First, Major: s.Major, Minor: s.Minor,
		Least: s.Least, Most: s.Most, Main: s.Main, Minors: s.Minors, Turn: s.Turn, Digits: s.Digits, Falls: t.Falls, Words: s.Words}
	if t.Kind != crib.Wrench {
		v.Kind = contract.FaceKindGauge
	}
	return v
}

// Place is what the place of a group asks of a chain.
func Place(b contract.FindWaysJSONRequestBody) judge.Place {
	return judge.Place{Offset: b.Offset, Angle: b.Angle, Reach: b.Reach, Taken: b.Taken}
}

// Ways are the ways of tools to make the stages of a group.
func Ways(ways judge.Ways, group string) contract.Ways {
	out := contract.Ways{Size: ways.Size, Inside: ways.Inside, Fetch: ways.Fetch, Count: ways.Count,
		Ways: Each(ways.All(group), func(w judge.Way) contract.Way { return Way(w, ways.Shares) })}
	for _, l := range ways.Left {
		out.Left = append(out.Left, struct {
			Tag string `json:"tag"`
			Why string `json:"why"`
		}{l.Tag, l.Why.Error()})
	}
	out.Left = OrNone(out.Left)
	return out
}

// Way is one of them.
func Way(w judge.Way, shares []float64) contract.Way {
	v := contract.Way{Stages: []contract.StageTool{}}
	if w.Refused != nil {
		v.Refused = w.Refused.Error()
		var r *refusal.Error
		if errors.As(w.Refused, &r) {
			p := contract.Refused(r)
			v.Refusal = &p
		}
		return v
	}
	v.Stages = StageTools(shares, w.Stages)
	for _, t := range w.Stages {
		v.Helpers = v.Helpers || t.Tools[0] != w.Stages[len(w.Stages)-1].Tools[0]
		for _, tag := range t.Own() {
			if !slices.Contains(v.Own, tag) {
				v.Own = append(v.Own, tag)
			}
		}
	}
	return v
}

// HandTool reads a tool that was entered by hand; nil for none.
func HandTool(h *contract.HandTool) *judge.HandTool {
	if h == nil {
		return nil
	}
	out := &judge.HandTool{Tag: h.Tag, RamArea: h.RAMArea, Stroke: h.Stroke, Min: h.Min, Max: h.Max, Unit: unit.Unit(h.Unit),
		Accuracy: h.Accuracy, Ratio: h.Ratio, Scale: tool.Scale{First: h.First, Major: h.Major, Minor: h.Minor}}
	for _, r := range h.Chart {
		out.Chart = append(out.Chart, tool.Row{Pressure: r.Pressure, Torque: r.Torque})
	}
	return out
}
