// Package pass divides a target torque into stages.
//
// After the stages come check rounds at the full value, round the ring, until
// a whole round moves no nut (ASME PCC-1).
package pass

import (
	"fmt"

	"dynacor/core/refusal"
	"dynacor/core/unit"
)

// Preset is a named way of staging. Shares are percent of the target.
type Preset struct {
	Name   string
	Shares []float64
	Usual  string // where it is usual
	Risk   string // what it risks
}

// Presets lists the stagings the core knows.
func Presets() []Preset {
	return []Preset{
		{"20-60-100", []float64{20, 60, 100}, "soft and fibre gaskets", "three full goes over the bolts"},
		{"30-60-100", []float64{30, 60, 100}, "spiral gaskets and raised faces", "a first stage of 30 % tilts a soft gasket"},
		{"30-70-100", []float64{30, 70, 100}, "spiral gaskets and ring joints", "a first stage of 30 % tilts a soft gasket"},
		{"25-50-75-100", []float64{25, 50, 75, 100}, "large rings, uneven faces", "slow: four goes over the bolts"},
		{"50-100", []float64{50, 100}, "rigid metal to metal", "a gasket is pinched on the first side"},
	}
}

// Value is one stage's torque as the tool can be set, and how far it lies
// from the exact share, in percent of the exact value.
type Value struct{ Torque, ErrorPercent float64 }

// Values returns the stages of torque for shares in percent, each rounded to
// the tool's graduation, all three torques in one unit. The shares must rise
// and end at 100.
func Values(torque float64, shares []float64, graduation float64) ([]Value, error) {
	if err := refusal.First(refusal.Positive("T", torque, ""), refusal.Positive("graduation", graduation, ""), CheckShares(shares)); err != nil {
		return nil, err
	}
	out := make([]Value, len(shares))
	for i, s := range shares {
		exact := torque * s / 100
		v := unit.Round(exact, graduation)
		out[i] = Value{v, 100 * (v - exact) / exact}
	}
	return out, nil
}

// MostPasses is the largest number of stages the core takes.
const MostPasses = 12

// CheckShares refuses shares that are none, not above zero, that fall, or
// that do not end at 100.
func CheckShares(shares []float64) error {
	if len(shares) == 0 {
		return refusal.New(refusal.Missing, "passes", "No passes are given.", "Choose a preset, or enter shares like 30-60-100.")
	}
	if len(shares) > MostPasses {
		return refusal.Number(refusal.TooLarge, "passes", float64(len(shares)), MostPasses, "passes",
			fmt.Sprintf("%d passes; at most %d are taken.", len(shares), MostPasses), "Leave some out.")
	}
	last := 0.0
	for i, s := range shares {
		if err := refusal.Positive("passes", s, "%"); err != nil {
			return err
		}
		if s <= last {
			return refusal.Number(refusal.Contradicts, "passes", s, last, "%",
				fmt.Sprintf("Pass %d is %g %%, not above pass %d at %g %%. Pass values must rise.", i+1, s, i, last),
				"Enter shares that rise, like 30-60-100.")
		}
		last = s
	}
	if last != 100 {
		return refusal.Number(refusal.Contradicts, "passes", last, 100, "%",
			fmt.Sprintf("The last pass is %g %%; it must be 100 %%.", last), "End the passes at 100.")
	}
	return nil
}

// FirstOnGasket is the most the first pass may be, in percent, on a gasket
// that can be crushed on one side; above WarnOnSoft a soft one wants a warning.
const (
	FirstOnGasket = 30.0
	WarnOnSoft    = 20.0
)
