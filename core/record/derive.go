package record

import (
	"fmt"
	"math"

	"dynacor/core/derive"
	"dynacor/core/unit"
)

var formSetting = &derive.Formula{Name: "Setting of the wrench", Sign: "S",
	Text:   "{s0} + {δ}·round(({T}/({m}·{u}) − {s0})/{δ})",
	Source: "ISO 6789 for the scale; the ratio is off the multiplier's plate",
	Valid:  "Pulled at the middle of the grip, square to the nut, in the tightening direction.",
	Symbols: []derive.Symbol{{Sign: "s0", Name: "first mark of the scale", Unit: ""}, {Sign: "δ", Name: "step of the scale", Unit: ""},
		{Sign: "T", Name: "torque at the nut", Unit: "N·m"}, {Sign: "m", Name: "ratio of the multiplier; 1 without one", Unit: ""},
		{Sign: "u", Name: "N·m in one of the scale's unit", Unit: "N·m"}},
	Of: func(x []float64) float64 {
		return x[0] + x[1]*unit.Steps(x[2]/(x[3]*x[4])-x[0], x[1])
	}}

var formLands = &derive.Formula{Name: "What the nut gets", Sign: "T", Unit: "N·m", Text: "{S}·{m}·{u}",
	Source: "ISO 6789", Valid: "As accurate as the tools in line: the root sum of their squares.",
	Symbols: []derive.Symbol{{Sign: "S", Name: "setting", Unit: ""}, {Sign: "m", Name: "ratio of the multiplier; 1 without one", Unit: ""},
		{Sign: "u", Name: "N·m in one of the scale's unit", Unit: "N·m"}},
	Of: func(x []float64) float64 { return x[0] * x[1] * x[2] }}

// Derive returns where the setting of a group's stage (from 1) is from, and what it
// gives: "setting/2" and "lands/2".
func (t StageTool) Derive(group string, stage int) ([]derive.Derivation, error) {
	one, err := unit.Convert(1, t.Setting.Unit, unit.NewtonMetre)
	if err != nil {
		return nil, err
	}
	ratio := 1.0
	if t.Setting.Value > 0 {
		ratio = t.Lands / (t.Setting.Value * one)
	}
	if math.Abs(ratio-1) < 1e-9 {
		ratio = 1
	}
	at := func(v float64, from string) derive.Input { return derive.Input{Value: v, From: from} }
	setting := *formSetting
	setting.Unit = string(t.Setting.Unit)
	m, u := at(ratio, "its plate"), at(one, "exact")
	key := fmt.Sprintf("/%d", stage)
	out := []derive.Derivation{{Of: group, Key: "setting" + key, Formula: &setting, Inputs: []derive.Input{at(t.First, "the scale"),
		at(t.Minor, "the scale"), {Value: t.Torque, From: "stage" + key, Derived: true}, m, u}},
		{Of: group, Key: "lands" + key, Formula: formLands, Inputs: []derive.Input{
			{Value: t.Setting.Value, Uncertain: t.Accuracy, From: "setting" + key, Derived: true}, m, u}}}
	if !unit.AtMost(math.Abs(out[0].Result()-t.Setting.Value), 1e-6*t.Setting.Value) {
		out = out[1:] // the mark next to it would lie outside the wrench's range
		out[0].Inputs[0].Derived, out[0].Inputs[0].From = false, "the nearest mark in the wrench's range"
	}
	return out, nil
}
