// Package proof judges what is measured before and after a joint is made.
//
// Each verdict has the number, the limit, their unit and the reason in words.
// Gap spread is max − min, mm; tilt is atan(spread/distance), degrees; a window
// from lo to hi of a rated value R is lo·R … hi·R, N·m; a sample is share·n
// bolts, rounded up. A limit counts as met within a relative 1e-9 of it. What a
// recipe asks to be read is judged by its own limits. Source: ASME PCC-1
// (alignment, check rounds, residual torque). The limits given here are the usual
// ones: a maker's value comes first, and a verdict does not replace the qualified
// person who signs.
package proof

import (
	"fmt"
	"math"

	"dynacor/core/refusal"
	"dynacor/core/unit"
)

// Gap is the verdict on gaps measured round a joint.
type Gap struct {
	Spread   float64 // max − min, mm
	Tilt     float64 // degrees
	Parallel bool
	OpenSide float64 // clock hour of the widest gap, 12 at the top
	Limit    float64 // mm
}

// UsualGapLimit is the spread allowed on pipe flanges where the maker gives
// none, mm.
const UsualGapLimit = 0.8

// JudgeGap judges gaps (mm) measured clockwise from the top at equal
// distances round a circle of diameter (mm): parallel when max − min ≤ limit
// (ASME PCC-1 appendix E). Tilt is atan(spread/diameter). At a tie the first
// widest place clockwise is the open side.
func JudgeGap(gaps []float64, diameter, limit float64) (Gap, error) {
	if len(gaps) == 0 {
		return Gap{}, refusal.New(refusal.Missing, "gaps", "No gaps were measured.", "Measure at the four quarters.")
	}
	if err := refusal.First(refusal.Positive("diameter", diameter, "mm"), refusal.NotNegative("limit", limit, "mm")); err != nil {
		return Gap{}, err
	}
	least, most, at := math.Inf(1), math.Inf(-1), 0
	for i, g := range gaps {
		if err := refusal.NotNegative(fmt.Sprintf("gaps.%d", i), g, "mm"); err != nil {
			return Gap{}, err
		}
		least = math.Min(least, g)
		if g > most {
			most, at = g, i
		}
	}
	hour := 12 * float64(at) / float64(len(gaps))
	if hour == 0 {
		hour = 12
	}
	spread := most - least
	return Gap{spread, math.Atan(spread/diameter) * 180 / math.Pi, unit.AtMost(spread, limit), hour, limit}, nil
}
