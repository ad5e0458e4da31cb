// Package tool says what a torque tool can be set to, and what its scale will
// look like when it is.
//
// Sources: ISO 6789-1 and -2 (hand torque tools), the makers' general rule not
// to use a click wrench below a fifth of its full scale.
package tool

import (
	"fmt"
	"math"

	"dynacor/core/refusal"
	"dynacor/core/unit"
)

// LeastShare is the share of full scale below which a wrench is not used.
const LeastShare = 0.2

// HeavyHandForce is the handle force, N, above which a multiplier is advised.
const HeavyHandForce = 400.0

// Lowest returns the lowest setting a tool rated from ratedMin to ratedMax is
// used at: the greater of its rated minimum and a fifth of full scale.
func Lowest(ratedMin, ratedMax float64) (float64, error) {
	if err := refusal.First(refusal.Positive("ratedMax", ratedMax, ""), refusal.NotNegative("ratedMin", ratedMin, "")); err != nil {
		return 0, err
	}
	if ratedMin > ratedMax {
		return 0, refusal.Number(refusal.Contradicts, "ratedMin", ratedMin, ratedMax, "",
			fmt.Sprintf("The rated minimum %.5g is above the maximum %.5g.", ratedMin, ratedMax), "Read both off the tool's plate.")
	}
	return math.Max(ratedMin, LeastShare*ratedMax), nil
}

// Usable reports whether setting lies within what a tool rated from ratedMin
// to ratedMax is used for, and the lowest setting of that range.
func Usable(ratedMin, ratedMax, setting float64) (low float64, inRange bool, err error) {
	if low, err = Lowest(ratedMin, ratedMax); err != nil {
		return 0, false, err
	}
	if err = refusal.Positive("setting", setting, ""); err != nil {
		return 0, false, err
	}
	return low, unit.AtLeast(setting, low) && unit.AtMost(setting, ratedMax), nil
}

// Scale is the marking of a wrench: its first mark, the step between main
// marks and between the minor marks of the thimble, in the tool's unit.
type Scale struct{ First, Major, Minor float64 }

// Reading is what a scale looks like at a setting.
type Reading struct {
	Main   float64 // the greatest main mark at or below the setting
	Minors int     // the rest, in minor marks on the thimble
	Shown  float64 // the setting the scale can show
}

// Read returns what the scale looks like at setting: rounded to the nearest
// minor mark counted from the first mark, halves upward.
func (s Scale) Read(setting float64) (Reading, error) {
	if err := refusal.First(refusal.Positive("setting", setting, ""), refusal.NotNegative("first", s.First, ""),
		refusal.Positive("major", s.Major, ""), refusal.Positive("minor", s.Minor, "")); err != nil {
		return Reading{}, err
	}
	if !unit.AtLeast(setting, s.First) {
		return Reading{}, refusal.Number(refusal.TooSmall, "setting", setting, s.First, "",
			fmt.Sprintf("%.5g is below the first mark of the scale, %.5g.", setting, s.First), "Take a smaller tool.")
	}
	rise := unit.Steps(setting-s.First, s.Minor) * s.Minor
	mains := math.Floor(rise/s.Major + 1e-9)
	rest := unit.Steps(rise-mains*s.Major, s.Minor)
	return Reading{s.First + mains*s.Major, int(rest), s.First + rise}, nil
}

// Behind returns the setting of a wrench in front of a multiplier of ratio m
// that puts torque on the nut: torque/m, in torque's unit. The ratio is the
// torque ratio on the plate, not the count of its gears.
func Behind(torque, m float64) (float64, error) {
	if err := refusal.First(refusal.Positive("T", torque, ""), refusal.Positive("ratio", m, "")); err != nil {
		return 0, err
	}
	return torque / m, nil
}

// Together returns the relative accuracy of links in line, the root sum of
// their squares.
func Together(accuracies ...float64) float64 {
	sum := 0.0
	for _, a := range accuracies {
		sum += a * a
	}
	return math.Sqrt(sum)
}

// Offset returns the setting of a wrench of effective length l with an offset
// end of length e at angle degrees from straight ahead: T·L/(L + E·cos θ).
func Offset(torque, l, e, angle float64) (float64, error) {
	if err := refusal.First(refusal.Positive("T", torque, ""), refusal.Positive("L", l, "mm"),
		refusal.NotNegative("E", e, "mm"), refusal.Finite("angle", angle)); err != nil {
		return 0, err
	}
	lever := l + e*math.Cos(angle*math.Pi/180)
	if lever <= l*unit.Tolerance {
		return 0, refusal.Number(refusal.Contradicts, "E", e, l, "mm",
			"The offset points back past the hand: no lever is left.", "Turn the offset end forward.")
	}
	return torque * l / lever, nil
}
