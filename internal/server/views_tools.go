package server

import (
	"errors"
	"fmt"

	"github.com/oapi-codegen/runtime/types"

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
			Scale:  contract.Scale{First: t.First, Major: t.Major, Minor: t.Minor, Main: t.Main, Minors: t.Minors},
			ByHand: t.ByHand, Due: types.Date{Time: t.Due}})
	}
	return out
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
