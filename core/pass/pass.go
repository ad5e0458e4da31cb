// Package pass divides a target torque into stages, and names the schools of
// doing so.
//
// A pass is one go over the bolts at a share s of the target, percent: its
// value is T·s/100, N·m, rounded to the tool's graduation, halves up, with the
// error in percent of the exact value. Shares rise and end at 100. After the
// passes come check rounds at the full value, round the ring, until a whole
// round moves no nut (ASME PCC-1, section 11). Valid for any target that a
// torque gives; a joint that is made by turns has no shares.
package pass

import (
	"fmt"

	"dynacor/core/refusal"
	"dynacor/core/unit"
)

// Value is one stage's torque as the tool can be set, and how far it lies
// from the exact share, in percent of the exact value.
type Value struct{ Torque, ErrorPercent float64 }

// Values returns the stages of torque for shares in percent, each rounded to
// the tool's graduation, all three torques in one unit. The shares must rise
// and end at 100.
func Values(torque float64, shares []float64, graduation float64) ([]Value, error) {
	if err := refusal.First(refusal.Positive("T", torque, ""), refusal.Positive("graduation", graduation, ""),
		CheckShares(shares)); err != nil {
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

// CheckFirst refuses a first pass (percent) above FirstOnGasket on a gasket
// that can be crushed; gasket is its name.
func CheckFirst(first float64, gasket string) error {
	if err := refusal.Positive("passes", first, "%"); err != nil {
		return err
	}
	if unit.AtMost(first, FirstOnGasket) {
		return nil
	}
	return refusal.Number(refusal.TooLarge, "passes", first, FirstOnGasket, "%",
		fmt.Sprintf("A first pass of %g %% can crush a %s on one side; at most %g %%.", first, gasket, FirstOnGasket),
		"Begin with 20 or 30 %.")
}
