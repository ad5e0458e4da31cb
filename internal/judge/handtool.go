package judge

import (
	"dynacor/core/refusal"
	"dynacor/core/tool"
	"dynacor/core/unit"
)

// HandTool is a tool entered by hand: a wrench, with a multiplier when Ratio is set; with a
// chart a hydraulic wrench, with a ram area a tensioner, whose pressures are in Unit.
type HandTool struct {
	Tag      string
	Min, Max float64
	Unit     unit.Unit
	Scale    tool.Scale // of a gauge its smallest step alone
	Accuracy float64
	Ratio    float64
	Chart    tool.Chart
	RamArea  float64 // mm²
	Stroke   float64 // mm; 0: not known
}

// pressed refuses what is no unit, step or accuracy of a hydraulic tool entered by hand.
func (h HandTool) pressed() error {
	if d, err := unit.DimensionOf(h.Unit); err != nil || d != unit.Pressure {
		return refusal.New(refusal.Unknown, "byHand.unit", "A hydraulic tool is set in a unit of pressure.", "Choose bar, MPa or psi.")
	}
	if h.Accuracy >= 0.5 {
		return refusal.Number(refusal.TooLarge, "byHand.accuracy", h.Accuracy, 0.5, "", "An accuracy of 50 % or worse is none.", "Usual is 3 %.")
	}
	return refusal.First(refusal.Positive("byHand.minor", h.Scale.Minor, string(h.Unit)), refusal.Positive("byHand.accuracy", h.Accuracy, ""))
}

func (h HandTool) hydraulic() (tool.Hydraulic, error) {
	return tool.Hydraulic{Tag: h.Tag, Name: "entered by hand", Chart: h.Chart, PressureUnit: h.Unit, Graduation: h.Scale.Minor,
		Accuracy: h.Accuracy, Handwritten: true}, refusal.First(h.pressed(), refusal.At("byHand", h.Chart.Check()))
}

func (h HandTool) tensioner(d tool.Draft) (tool.Tensioner, error) {
	return tool.Tensioner{Tag: h.Tag, Name: "entered by hand", Thread: d.Thread.Diameter, RamArea: h.RamArea, Stroke: h.Stroke, Unit: h.Unit,
			Most: h.Max, Graduation: h.Scale.Minor, Accuracy: h.Accuracy, Handwritten: true},
		refusal.First(h.pressed(), refusal.Positive("byHand.ramArea", h.RamArea, "mm²"), refusal.NotNegative("byHand.stroke", h.Stroke, "mm"),
			refusal.Positive("byHand.max", h.Max, string(h.Unit)))
}

func (h HandTool) chain() (tool.Chain, error) {
	u := string(h.Unit)
	if d, err := unit.DimensionOf(h.Unit); err != nil || d != unit.Torque {
		return tool.Chain{}, refusal.New(refusal.Unknown, "byHand.unit", "A wrench is set in a unit of torque.",
			"Choose N·m, cN·m, ft·lbf, in·lbf or kgf·m.")
	}
	if err := refusal.First(refusal.NotNegative("byHand.min", h.Min, u), refusal.Positive("byHand.max", h.Max, u),
		refusal.NotNegative("byHand.first", h.Scale.First, u), refusal.Positive("byHand.major", h.Scale.Major, u),
		refusal.Positive("byHand.minor", h.Scale.Minor, u), refusal.Positive("byHand.accuracy", h.Accuracy, "")); err != nil {
		return tool.Chain{}, err
	}
	if h.Min > h.Max {
		return tool.Chain{}, refusal.Number(refusal.Contradicts, "byHand.min", h.Min, h.Max, u, "The range's start is above its end.",
			"Read both off the tool.")
	}
	if h.Scale.Minor > h.Scale.Major {
		return tool.Chain{}, refusal.Number(refusal.Contradicts, "byHand.minor", h.Scale.Minor, h.Scale.Major, u,
			"The thimble's step is larger than the main scale's.", "Read both off the tool.")
	}
	if h.Accuracy >= 0.5 {
		return tool.Chain{}, refusal.Number(refusal.TooLarge, "byHand.accuracy", h.Accuracy, 0.5, "",
			"An accuracy of 50 % or worse is none.", "Usual is 4 %.")
	}
	c := tool.Chain{Wrench: tool.Wrench{Tag: h.Tag, Name: "entered by hand", RatedMin: h.Min, RatedMax: h.Max, Unit: h.Unit,
		Scale: h.Scale, Accuracy: h.Accuracy, Handwritten: true}}
	if h.Ratio != 0 {
		if err := refusal.Positive("byHand.ratio", h.Ratio, ""); err != nil {
			return c, err
		}
		top, err := unit.Convert(h.Max, h.Unit, unit.NewtonMetre)
		if err != nil {
			return c, err
		}
		// Its plate was not entered, so no more is asked of it than this wrench can put in.
		c.Multiplier = &tool.Multiplier{Tag: "×", Name: "multiplier, by hand", Ratio: h.Ratio, OutputMax: top * h.Ratio,
			Accuracy: h.Accuracy}
	}
	return c, nil
}
