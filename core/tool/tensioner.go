package tool

import (
	"fmt"

	"dynacor/core/refusal"
	"dynacor/core/thread"
	"dynacor/core/unit"
)

// MostTension is the share of yield that a stud may see under a tensioner.
const MostTension = 0.95

// Pull is what a hydraulic tensioner applies to leave a load in a stud.
type Pull struct {
	LossFactor  float64 // LLF, applied over left
	Applied     float64 // N
	Pressure    float64 // MPa
	StressShare float64 // of yield, while applied
	Holds       bool    // below MostTension
}

// Tension returns what leaves load (N) in a stud of thread t and yield (MPa)
// over a clamped length (mm) with a ram of area (mm²): part of what is applied
// is lost when the nut takes over,
//
//	LLF = 1.01 + d/Lclamp,  applied = F·LLF,  pressure = applied/area
//
// (ASME PCC-1; valid for a nut run down by hand while the load is on). Past
// MostTension of yield the numbers are still given and Holds is false.
func Tension(t thread.Thread, load, clampLength, ramArea, yield float64) (Pull, error) {
	if err := refusal.First(refusal.Positive("F", load, "N"), refusal.Within("d", t.Diameter, thread.LargestDiameter, "mm"),
		refusal.Positive("clampLength", clampLength, "mm"), refusal.Positive("ramArea", ramArea, "mm²"), refusal.Positive("yield", yield,
			"MPa")); err != nil {
		return Pull{}, err
	}
	p := Pull{LossFactor: 1.01 + t.Diameter/clampLength}
	p.Applied = load * p.LossFactor
	p.Pressure = p.Applied / ramArea
	p.StressShare = p.Applied / t.StressArea() / yield
	p.Holds = !unit.AtLeast(p.StressShare, MostTension) // must stay below it
	return p, nil
}

// Halves are the two pulls when there are tools for every other stud only:
// the first half at the first pressure, then the second half at the lower
// one, and the check of all at the lower one, where no nut may move.
type Halves struct{ First, Second Pull }

// TensionHalves returns the pulls with half the tools. lost is the share of
// its load that the first half loses while the second is drawn, from the
// joint's own elastic interaction or the maker's sheet, 0 to 0.5.
func TensionHalves(t thread.Thread, load, clampLength, ramArea, yield, lost float64) (Halves, error) {
	if err := refusal.NotNegative("lost", lost, ""); err != nil {
		return Halves{}, err
	}
	if lost > 0.5 {
		return Halves{}, refusal.Number(refusal.TooLarge, "lost", lost, 0.5, "",
			fmt.Sprintf("The first half would lose %.0f %% of its load; with more than half lost two goes do not even it out.",
				100*lost), "Use a tool on every stud.")
	}
	second, err := Tension(t, load, clampLength, ramArea, yield)
	if err != nil {
		return Halves{}, err
	}
	first, err := Tension(t, load/(1-lost), clampLength, ramArea, yield)
	return Halves{first, second}, err
}
