package judge

import (
	"slices"

	"dynacor/core/record"
	"dynacor/core/tool"
)

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
	return slices.DeleteFunc([]string{t.Wrench, t.Hydraulic, t.Tensioner, t.Pump, t.Gauge, t.First, t.Multiplier, t.Second, t.Offset,
		t.Extension, t.Socket},
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
