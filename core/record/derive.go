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

var formOffset = &derive.Formula{Name: "Setting of the wrench with its offset end", Sign: "S",
	Text:   "{s0} + {δ}·round(({T}·{L}/({L} + {E}·cos {θ})/{u} − {s0})/{δ})",
	Source: "ISO 6789 for the scale; statics for the lever",
	Valid:  "Pulled at the middle of the grip, square to the nut; the end at its angle, not past it.",
	Symbols: []derive.Symbol{{Sign: "s0", Name: "first mark of the scale", Unit: ""}, {Sign: "δ", Name: "step of the scale", Unit: ""},
		{Sign: "T", Name: "torque at the nut", Unit: "N·m"}, {Sign: "L", Name: "length of the wrench, to the middle of its grip", Unit: "mm"},
		{Sign: "E", Name: "length of the offset end", Unit: "mm"}, {Sign: "θ", Name: "its angle from straight ahead", Unit: "°"},
		{Sign: "u", Name: "N·m in one of the scale's unit", Unit: "N·m"}},
	Of: func(x []float64) float64 {
		return x[0] + x[1]*unit.Steps(x[2]*x[3]/(x[3]+x[4]*math.Cos(x[5]*math.Pi/180))/x[6]-x[0], x[1])
	}}

var formLands = &derive.Formula{Name: "What the nut gets", Sign: "T", Unit: "N·m", Text: "{S}·{m}·{u}",
	Source: "ISO 6789", Valid: "As accurate as the tools in line: the root sum of their squares.",
	Symbols: []derive.Symbol{{Sign: "S", Name: "setting", Unit: ""}, {Sign: "m", Name: "ratio of the multiplier, or lever of the offset end; 1 without", Unit: ""},
		{Sign: "u", Name: "N·m in one of the scale's unit", Unit: "N·m"}},
	Of: func(x []float64) float64 { return x[0] * x[1] * x[2] }}

var formForce = &derive.Formula{Name: "Force on the handle", Sign: "F", Unit: "N", Text: "1000·{S}·{u}/{L}", Source: "ISO 6789",
	Valid: "At the middle of the grip, square to the wrench. Above about 400 N take a multiplier.",
	Symbols: []derive.Symbol{{Sign: "S", Name: "setting", Unit: ""}, {Sign: "u", Name: "N·m in one of the scale's unit", Unit: "N·m"},
		{Sign: "L", Name: "length of the wrench, to the middle of its grip", Unit: "mm"}},
	Of: func(x []float64) float64 { return 1000 * x[0] * x[1] / x[2] }}

var formAccuracy = &derive.Formula{Name: "Accuracy of the tools in line", Sign: "a", Unit: "%", Text: "√({w}² + {m}²)",
	Source: "ISO 6789 for the wrench, GUM (JCGM 100) for the sum", Valid: "Of the reading, within the usable range; calibrated.",
	Symbols: []derive.Symbol{{Sign: "w", Name: "accuracy of the wrench", Unit: "%"},
		{Sign: "m", Name: "accuracy of the multiplier; 0 without one", Unit: "%"}},
	Of: func(x []float64) float64 { return math.Hypot(x[0], x[1]) }}

// Derive returns where the setting of a group's stage (from 1) is from, what it gives,
// how accurately, and with what force: "setting/2", "lands/2", "accuracy/2", "force/2".
// Of a hydraulic wrench, or a tensioner, the pressure is its setting.
func (t StageTool) Derive(group string, stage int) ([]derive.Derivation, error) {
	switch {
	case t.Pressed():
		return t.derivePressed(group, stage), nil
	case t.Draws():
		return t.deriveDrawn(group, stage)
	}
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
	inputs := []derive.Input{at(t.First, "the scale"), at(t.Minor, "the scale"), {Value: t.Torque, From: "stage" + key, Derived: true}, m, u}
	if wrench, end, ok := t.offset(); ok {
		setting = *formOffset
		setting.Unit = string(t.Setting.Unit)
		inputs = append(inputs[:3], at(wrench.Length, "the tool's data"), at(end.Length, "its data"), at(end.Angle, "as it was chosen"), u)
	}
	out := []derive.Derivation{{Of: group, Key: "setting" + key, Formula: &setting, Inputs: inputs},
		{Of: group, Key: "lands" + key, Formula: formLands, Inputs: []derive.Input{
			{Value: t.Setting.Value, Uncertain: t.Accuracy, From: "setting" + key, Derived: true}, m, u}},
		{Of: group, Key: "accuracy" + key, Formula: formAccuracy, Inputs: []derive.Input{at(100*t.Wrench(),
			"its certificate, or its class"),
			at(100*t.Multiplier, "its plate")}}}
	if t.Force > 0 {
		out = append(out, derive.Derivation{Of: group, Key: "force" + key, Formula: formForce, Inputs: []derive.Input{
			{Value: t.Setting.Value, From: "setting" + key, Derived: true}, u, at(1000*t.Setting.Value*one/t.Force, "the tool's data")}})
	}
	if !unit.AtMost(math.Abs(out[0].Result()-t.Setting.Value), 1e-6*t.Setting.Value) {
		out = out[1:] // the mark next to it would lie outside the wrench's range
		for _, d := range out {
			if in := &d.Inputs[0]; in.Derived {
				in.Derived, in.From = false, "the nearest mark in the wrench's range"
			}
		}
	}
	return out, nil
}

// offset returns the wrench and the offset end of a chain, where it has one.
func (t StageTool) offset() (wrench, end Link, ok bool) {
	for _, l := range t.Links {
		switch l.Kind {
		case "wrench":
			wrench = l
		case "offset end":
			end, ok = l, true
		}
	}
	return wrench, end, ok
}
