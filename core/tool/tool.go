// Package tool says what torque tools can be set to, what their scales and
// gauges will look like when they are, and which of a crib's tools reach a
// torque.
//
//	usable range     from the greater of rated minimum and 0.2 of full scale, to the rated maximum
//	multiplier       setting = T/m                     m the torque ratio on its plate
//	offset end       setting = T·L/(L + E·cos θ)       L wrench, E end, mm; θ from straight ahead
//	in line          accuracy √(a₁² + a₂² + …), at worst their sum
//	hand force       N = T/arm                         T in N·m, arm in m
//	hydraulic        pressure from the tool's own chart, linear between its rows, never beyond
//	tensioner        applied = F·(1.01 + d/Lclamp), pressure = applied/ram area, N, mm², MPa
//
// Sources: ISO 6789-1 and -2 (hand torque tools), ASME PCC-1 (hydraulic tools and
// tensioners), and the makers' general rule not to use a click wrench below a
// fifth of its full scale. Valid for a wrench pulled at the middle of its grip,
// square to the bolt, in the tightening direction; a tool's own plate, chart and
// certificate come first.
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
	if err := refusal.First(refusal.Positive("setting", setting, ""), s.check()); err != nil {
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

// check refuses marks that cannot be: a thimble step above the main one.
func (s Scale) check() error {
	if err := refusal.First(refusal.NotNegative("first", s.First, ""), refusal.Positive("major", s.Major, ""), refusal.Positive("minor",
		s.Minor, "")); err != nil {
		return err
	}
	if !unit.AtMost(s.Minor, s.Major) {
		return refusal.Number(refusal.Contradicts, "minor", s.Minor, s.Major, "",
			fmt.Sprintf("The thimble's step of %.5g is above the main marks' of %.5g.", s.Minor, s.Major), "Read both off the tool.")
	}
	return nil
}

// Setting is the inverse of Read: the setting that shows main and minors. It
// refuses what the scale cannot show: a main mark that is none, minors that
// make a full turn of the thimble.
func (s Scale) Setting(main float64, minors int) (float64, error) {
	if err := refusal.First(refusal.NotNegative("main", main, ""), s.check()); err != nil {
		return 0, err
	}
	marks := (main - s.First) / s.Major
	if marks < -1e-9 || math.Abs(marks-math.Round(marks)) > 1e-6 {
		return 0, refusal.Number(refusal.Contradicts, "main", main, s.First, "",
			fmt.Sprintf("%.5g is no main mark: they stand every %.5g from %.5g.", main, s.Major,
				s.First), "Read the greatest main mark that shows.")
	}
	if minors < 0 || !(float64(minors)*s.Minor < s.Major*(1-unit.Tolerance)) {
		return 0, refusal.Number(refusal.OutOfRange, "minors", float64(minors), s.Major/s.Minor, "marks",
			fmt.Sprintf("%d minor marks; %.4g are a full turn, the next main mark.", minors, s.Major/s.Minor), "Read the thimble again.")
	}
	return main + float64(minors)*s.Minor, nil
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

// HandForce returns the force at the grip's middle, N, that puts torque (N·m)
// on a wrench of length mm.
func HandForce(torque, length float64) (float64, error) {
	if err := refusal.First(refusal.Positive("torque", torque, "N·m"), refusal.Positive("length", length, "mm")); err != nil {
		return 0, err
	}
	return torque / (length / 1000), nil
}

// The accuracy classes of hand torque tools, ± of reading (ISO 6789). A
// certificate's own figure replaces them.
const (
	WrenchAccuracy      = 0.04
	SmallAccuracy       = 0.06 // of a tool whose greatest value is 10 N·m or less
	ScrewdriverAccuracy = 0.06
	smallMost           = 10 // N·m
)

// UsualAccuracy is what a wrench is taken to be accurate to when nothing is known
// but its greatest value, N·m. A torque stands for the smallest wrench that
// reaches it.
func UsualAccuracy(most float64) float64 {
	if unit.AtMost(most, smallMost) {
		return SmallAccuracy
	}
	return WrenchAccuracy
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
