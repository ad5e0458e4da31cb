package server

import (
	"cmp"
	"errors"
	"fmt"

	"github.com/oapi-codegen/runtime/types"

	"dynacor/core/crib"
	"dynacor/core/record"
	"dynacor/core/refusal"
	"dynacor/core/tool"
	"dynacor/core/unit"
	"dynacor/internal/app"
	"dynacor/internal/server/contract"
)

func stageToolViews(shares []float64, tools []record.StageTool) []contract.StageTool {
	out := []contract.StageTool{}
	for i, t := range tools {
		out = append(out, contract.StageTool{Stage: i + 1, Share: shares[i], Tools: t.Tools, Torque: t.Torque, Lands: t.Lands,
			Error: t.Error, Setting: quantity(t.Setting), Accuracy: t.Accuracy, Force: t.Force, Heavy: t.Force > tool.HeavyHandForce,
			Face:   stageFace(t),
			ByHand: t.ByHand, Due: types.Date{Time: t.Due}})
	}
	return out
}

// stageFace is what the hand sees of a tool that is set for a stage.
func stageFace(t record.StageTool) contract.Face {
	x := crib.Tool{Kind: crib.Wrench, Face: crib.Face(cmp.Or(t.Face, string(crib.Ring))), Unit: t.Setting.Unit, Least: t.Least,
		Most: cmp.Or(t.Most, t.Setting.Value), Scale: tool.Scale{First: t.First, Major: t.Major, Minor: t.Minor}, Falls: t.Falls}
	shown, err := x.Shows(t.Setting.Value)
	if err != nil { // it was set by a server that kept less of it
		shown = crib.Shown{Value: t.Setting.Value, In: t.Setting.Unit, Words: t.Setting.String()}
	}
	return faceView(x, shown)
}

func faceView(t crib.Tool, s crib.Shown) contract.Face {
	v := contract.Face{Kind: contract.FaceKind(t.Face), Unit: string(s.In), Value: s.Value, First: s.First, Major: s.Major, Minor: s.Minor,
		Least: s.Least, Most: s.Most, Main: s.Main, Minors: s.Minors, Turn: s.Turn, Digits: s.Digits, Falls: t.Falls, Words: s.Words}
	if t.Kind != crib.Wrench {
		v.Kind = contract.Gauge
	}
	return v
}

func wayView(s tool.Setup, shares []float64) contract.Way {
	w := s.Chain.Wrench
	v := contract.Way{Stages: []contract.StageTool{}, Links: []contract.Link{{Kind: contract.Wrench, Tag: w.Tag, Name: w.Name,
		Note: fmt.Sprintf("%g to %g %s%s", w.RatedMin, w.RatedMax, w.Unit, drive(w.Drive))}}}
	if m := s.Chain.Multiplier; m != nil {
		v.Links = append(v.Links, contract.Link{Kind: contract.Multiplier, Tag: m.Tag, Name: m.Name, Ratio: m.Ratio,
			Note: fmt.Sprintf("ratio %g, out %g N·m at most", m.Ratio, m.OutputMax)})
	}
	if s.Refused != nil {
		v.Refused = s.Refused.Error()
		var r *refusal.Error
		if errors.As(s.Refused, &r) {
			p := refusalProblem(r)
			v.Refusal = &p
		}
		return v
	}
	tools := app.StageTools(s, nil)
	v.Stages = stageToolViews(shares, tools)
	for _, t := range tools {
		v.Helpers = v.Helpers || t.Tools[0] != w.Tag
	}
	return v
}

func drive(d string) string {
	if d == "" {
		return ""
	}
	return ", " + d + " in drive"
}

func handTool(h *contract.HandTool) *app.HandTool {
	if h == nil {
		return nil
	}
	return &app.HandTool{Tag: h.Tag, Min: h.Min, Max: h.Max, Unit: unit.Unit(h.Unit), Accuracy: h.Accuracy, Ratio: h.Ratio,
		Scale: tool.Scale{First: h.First, Major: h.Major, Minor: h.Minor}}
}
