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

func stageToolView(i int, share float64, t record.StageTool) contract.StageTool {
	v := contract.StageTool{Stage: i + 1, Share: share, Tools: t.Tools, Torque: t.Torque, Lands: t.Lands, Error: t.Error,
		Setting:  quantity(t.Setting),
		Scale:    contract.Scale{First: t.First, Major: t.Major, Minor: t.Minor, Main: t.Main, Minors: t.Minors},
		Accuracy: t.Accuracy, Force: t.Force, Heavy: t.Force > tool.HeavyHandForce, ByHand: t.ByHand}
	if !t.Due.IsZero() {
		v.Due = &types.Date{Time: t.Due}
	}
	return v
}

func wayView(s tool.Setup, shares []float64) contract.Way {
	w := s.Chain.Wrench
	v := contract.Way{Stages: []contract.StageTool{}, Links: []contract.Link{{Kind: contract.Wrench, Tag: w.Tag, Name: w.Name,
		Note: fmt.Sprintf("%g to %g %s%s", w.RatedMin, w.RatedMax, w.Unit, drive(w.Drive))}}}
	if m := s.Chain.Multiplier; m != nil {
		v.Links = append(v.Links, contract.Link{Kind: contract.Multiplier, Tag: m.Tag, Name: m.Name, Ratio: &m.Ratio,
			Note: fmt.Sprintf("ratio %g, out %g N·m at most", m.Ratio, m.OutputMax)})
	}
	if s.Refused != nil {
		v.Refused = some(s.Refused.Error())
		var r *refusal.Error
		if errors.As(s.Refused, &r) {
			p := refusalProblem(r)
			v.Refusal = &p
		}
		return v
	}
	for i, t := range app.StageTools(s, nil) {
		v.Stages = append(v.Stages, stageToolView(i, shares[i], t))
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
	return &app.HandTool{Tag: h.Tag, Min: h.Min, Max: h.Max, Unit: unit.Unit(h.Unit), Scale: tool.Scale{First: h.First, Major: h.Major,
		Minor: h.Minor},
		Accuracy: h.Accuracy, Ratio: value(h.Ratio)}
}
