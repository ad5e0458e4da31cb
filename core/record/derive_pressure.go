package record

import (
	"fmt"
	"math"

	"dynacor/core/derive"
	"dynacor/core/unit"
)

const ofChart = "the tool's own chart"

var formPressure = &derive.Formula{Name: "Pressure at which it stalls", Sign: "p",
	Text:   "{δ}·round(({p1} + ({T} − {T1})·({p2} − {p1})/({T2} − {T1}))/{δ})",
	Source: ofChart, Valid: "This tool alone, between two rows of its chart; brought up from below.",
	Symbols: []derive.Symbol{{Sign: "δ", Name: "step of the gauge"}, {Sign: "T", Name: "torque at the nut", Unit: "N·m"},
		{Sign: "p1", Name: "pressure of the row below"}, {Sign: "T1", Name: "its torque", Unit: "N·m"},
		{Sign: "p2", Name: "pressure of the row above"}, {Sign: "T2", Name: "its torque", Unit: "N·m"}},
	Of: func(x []float64) float64 {
		return x[0] * unit.Steps(x[2]+(x[1]-x[3])*(x[4]-x[2])/(x[5]-x[3]), x[0])
	}}

var formStalls = &derive.Formula{Name: "What the nut gets", Sign: "T", Unit: "N·m",
	Text: "{T1} + ({p} − {p1})·({T2} − {T1})/({p2} − {p1})", Source: ofChart,
	Valid: "Stalled, and the socket does not turn.",
	Symbols: []derive.Symbol{{Sign: "p", Name: "pressure on the gauge"}, {Sign: "p1", Name: "pressure of the row below"},
		{Sign: "T1", Name: "its torque", Unit: "N·m"}, {Sign: "p2", Name: "pressure of the row above"},
		{Sign: "T2", Name: "its torque", Unit: "N·m"}},
	Of: func(x []float64) float64 { return x[2] + (x[0]-x[1])*(x[4]-x[2])/(x[3]-x[1]) }}

var formDrawn = &derive.Formula{Name: "Pressure of the tensioner", Sign: "p", Text: "{δ}·round({u}·{Fa}/{A}/{δ})",
	Source: "ASME PCC-1", Valid: "The nut run down firmly while the stud is drawn; stroke to spare.",
	Symbols: []derive.Symbol{{Sign: "δ", Name: "step of the gauge"}, {Sign: "u", Name: "of the gauge's unit in one MPa"},
		{Sign: "Fa", Name: "load while it is drawn", Unit: "N"}, {Sign: "A", Name: "area of the ram", Unit: "mm²"}},
	Of: func(x []float64) float64 { return x[0] * unit.Steps(x[1]*x[2]/x[3], x[0]) }}

var formFree = &derive.Formula{Name: "Pressure at which a nut comes free", Sign: "p", Text: "{u}·{F}/{A}", Source: "ASME PCC-1",
	Valid: "Lifted off slowly: the stud holds what the ram takes over.",
	Symbols: []derive.Symbol{{Sign: "u", Name: "of the gauge's unit in one MPa"}, {Sign: "F", Name: "load that stays", Unit: "N"},
		{Sign: "A", Name: "area of the ram", Unit: "mm²"}},
	Of: func(x []float64) float64 { return x[0] * x[1] / x[2] }}

// rows are the two rows of a chart between which a row lies by what at tells of it.
func (t StageTool) rows(reached func(ChartRow) bool) (below, above ChartRow) {
	i := 1
	for i < len(t.Chart)-1 && !reached(t.Chart[i]) {
		i++
	}
	return t.Chart[i-1], t.Chart[i]
}

// derivePressed is where a pressure is from that a chart gives, and what it gives:
// "setting/2", "lands/2".
func (t StageTool) derivePressed(group string, stage int) (out []derive.Derivation) {
	chart := func(v float64) derive.Input { return derive.Input{Value: v, From: ofChart} }
	key := fmt.Sprintf("/%d", stage)
	a, b := t.rows(func(r ChartRow) bool { return r.Torque >= t.Torque })
	form := *formPressure
	form.Unit = string(t.Setting.Unit)
	d := derive.Derivation{Of: group, Key: "setting" + key, Formula: &form, Inputs: []derive.Input{{Value: t.Minor, From: "the gauge"},
		{Value: t.Torque, From: "stage" + key, Derived: true}, chart(a.Pressure), chart(a.Torque), chart(b.Pressure), chart(b.Torque)}}
	pressure := derive.Input{Value: t.Setting.Value, Uncertain: t.Accuracy, From: "the nearest mark on the chart"}
	if unit.AtMost(math.Abs(d.Result()-t.Setting.Value), 1e-6*t.Setting.Value) { // else it was rounded inward, at the chart's end
		out = append(out, d)
		pressure.From, pressure.Derived = "setting"+key, true
	}
	a, b = t.rows(func(r ChartRow) bool { return r.Pressure >= t.Setting.Value })
	return append(out, derive.Derivation{Of: group, Key: "lands" + key, Formula: formStalls, Inputs: []derive.Input{pressure,
		chart(a.Pressure), chart(a.Torque), chart(b.Pressure), chart(b.Torque)}})
}

// deriveDrawn is where the pressure of a tensioner is from, and that at which a nut comes
// free: "setting/1", "free".
func (t StageTool) deriveDrawn(group string, stage int) ([]derive.Derivation, error) {
	one, err := unit.Convert(1, unit.Megapascal, t.Setting.Unit)
	if err != nil {
		return nil, err
	}
	key := fmt.Sprintf("/%d", stage)
	form, free := *formDrawn, *formFree
	form.Unit, free.Unit = string(t.Setting.Unit), string(t.Setting.Unit)
	u, area := derive.Input{Value: one, From: "exact"}, derive.Input{Value: t.Draw.Area, From: "the tensioner's plate"}
	out := []derive.Derivation{{Of: group, Key: "setting" + key, Formula: &form, Inputs: []derive.Input{{Value: t.Minor, From: "the gauge"}, u,
		{Value: t.Draw.Applied, From: "applied" + key, Derived: true}, area}}}
	if stage == 1 {
		out = append(out, derive.Derivation{Of: group, Key: "free", Formula: &free, Inputs: []derive.Input{u,
			{Value: t.Draw.Residual * t.Draw.Area / one, From: "as it is given"}, area}})
	}
	return out, nil
}
