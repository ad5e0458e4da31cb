package drill

import (
	"dynacor/core/crib"
	"dynacor/core/tool"
	"dynacor/core/unit"
)

// Material is what tasks are drawn from: what a site works with.
type Material struct {
	Tools  []crib.Tool // of the crib
	Stacks []Stack     // of the recipes
}

// Stack is the parts of a recipe along its axis.
type Stack struct {
	Recipe string // its identity
	Title  string
	First  string // what lies at the ends of its axis
	Last   string
	Parts  []string // first to last
}

// Of is as much of the material as a kind of drill draws from.
func (m Material) Of(k Kind) Material {
	switch k {
	case SetIt, ReadIt, Pressure, Wrong:
		return Material{Tools: m.Tools}
	case Parts:
		return Material{Stacks: m.Stacks}
	}
	return Material{}
}

// training are tools of nobody: drawn from where a crib has none of a kind or a face.
func training() []crib.Tool {
	nm := unit.NewtonMetre
	wrench := func(tag string, f crib.Face, least, most, major, minor float64) crib.Tool {
		return crib.Tool{Tag: tag, Name: "training wrench", Kind: crib.Wrench, Face: f, Unit: nm, Least: least, Most: most,
			Scale: tool.Scale{First: least, Major: major, Minor: minor}, DriveOut: "1/2", Accuracy: tool.WrenchAccuracy}
	}
	dial := wrench("T-3", crib.Dial, 0, 80, 10, 2)
	electronic := wrench("T-4", crib.Electronic, 20, 200, 1, 0.5)
	electronic.Scale.First = 0
	return []crib.Tool{
		wrench("T-1", crib.Ring, 40, 200, 10, 1), wrench("T-2", crib.Window, 40, 200, 0, 2), dial, electronic,
		{Tag: "T-5", Name: "training wrench", Kind: crib.Wrench, Face: crib.Preset, Unit: nm, Most: 25, DriveOut: "1/2"},
		{Tag: "T-6", Name: "training screwdriver", Kind: crib.Wrench, Face: crib.Screwdriver, Unit: unit.CentiNewtonMetre, Least: 30, Most: 120,
			Scale: tool.Scale{First: 30, Major: 10, Minor: 1}, DriveOut: "1/4"},
		{Tag: "T-7", Name: "training gauge", Kind: crib.Gauge, Unit: unit.Bar, Most: 1000, Scale: tool.Scale{Minor: 10}},
		{Tag: "T-8", Name: "training socket", Kind: crib.Socket, Size: 24, DriveOut: "1/2", Most: 600},
		{Tag: "T-9", Name: "training socket", Kind: crib.Socket, Size: 30, DriveOut: "1/2", Most: 600},
		{Tag: "T-10", Name: "training socket", Kind: crib.Socket, Size: 46, DriveOut: "3/4", Most: 2000},
		{Tag: "T-11", Name: "training extension", Kind: crib.Extension, DriveIn: "1/2", DriveOut: "1/2", Length: 250, Most: 600},
	}
}

// where returns the tools of the material that are meant; where it has none, training's.
func (m Material) where(meant func(crib.Tool) bool) []crib.Tool {
	var out []crib.Tool
	for _, from := range [][]crib.Tool{m.Tools, training()} {
		for _, t := range from {
			if meant(t) {
				out = append(out, t)
			}
		}
		if len(out) > 0 {
			break
		}
	}
	return out
}
