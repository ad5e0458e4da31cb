package proof

import (
	"math"

	"dynacor/core/refusal"
	"dynacor/core/unit"
)

// Held is how a pressure or leak test ended.
type Held string

// How a test ends; all but the first are failures, and none is kept.
const (
	Holds      Held = "holds"
	NotReached Held = "not reached"
	TooShort   Held = "not held long enough"
	LostMuch   Held = "lost too much"
)

// Test is a pressure or leak test: pressures in one unit, times in another.
type Test struct {
	Target, Start, End, Allowed float64 // what may be lost
	Held, Hold                  float64 // how long it was held, and had to be
}

// Judge returns what was lost and how the test ended.
func (t Test) Judge() (drop float64, held Held, err error) {
	if err := refusal.First(refusal.Positive("target", t.Target, ""), refusal.NotNegative("start", t.Start, ""),
		refusal.NotNegative("end", t.End, ""), refusal.NotNegative("allowed", t.Allowed, ""),
		refusal.NotNegative("held", t.Held, ""), refusal.NotNegative("hold", t.Hold, "")); err != nil {
		return 0, "", err
	}
	drop = t.Start - t.End
	switch {
	case !unit.AtLeast(t.Start, t.Target):
		return drop, NotReached, nil
	case !unit.AtLeast(t.Held, t.Hold):
		return drop, TooShort, nil
	case !unit.AtMost(drop, t.Allowed):
		return drop, LostMuch, nil
	}
	return drop, Holds, nil
}

// absoluteZero and atmosphere turn °C and bar gauge into absolute values.
const (
	absoluteZero = -273.15 // °C
	atmosphere   = 1.01325 // bar
)

// ChargeAt returns the gas charge p, bar gauge at one temperature, as it reads at
// another, °C, in the same volume: p absolute rises with the absolute temperature.
func ChargeAt(p, from, to float64) (float64, error) {
	if err := refusal.First(refusal.NotNegative("p", p, "bar"), refusal.Finite("from", from), refusal.Finite("to", to)); err != nil {
		return 0, err
	}
	if least := math.Min(from, to); least <= absoluteZero {
		return 0, refusal.Number(refusal.TooSmall, "from", least, absoluteZero, "°C", "No temperature is below absolute zero.",
			"Read the shell's temperature in °C.")
	}
	return math.Max((p+atmosphere)*(to-absoluteZero)/(from-absoluteZero)-atmosphere, -atmosphere), nil
}
