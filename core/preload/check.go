package preload

import (
	"math"

	"dynacor/core/unit"
)

// Check is one comparison of a number with its limit, a row in a table of
// them. Margin is the reserve as a share of the limit: 0.1 is 10 % to spare,
// below zero it does not hold.
type Check struct {
	Name   string
	Value  float64
	Limit  float64
	Unit   string
	Margin float64
	Holds  bool
}

// AtMost returns the row of a value that may not pass a limit above zero.
func AtMost(name string, value, limit float64, u string) Check {
	return Check{name, value, limit, u, 1 - value/limit, unit.AtMost(value, limit)}
}

// AtLeast returns the row of a value that must reach a limit. Where nothing is
// asked for, the limit is zero and the margin whole.
func AtLeast(name string, value, limit float64, u string) Check {
	margin := 1.0
	if limit > 0 {
		margin = value/limit - 1
	}
	return Check{name, value, limit, u, margin, unit.AtLeast(value, limit)}
}

// Limiting returns the row with the least margin: the one that decides. ok is
// false when there are no rows.
func Limiting(checks []Check) (least Check, ok bool) {
	least.Margin = math.Inf(1)
	for _, c := range checks {
		if c.Margin < least.Margin {
			least, ok = c, true
		}
	}
	return least, ok
}
