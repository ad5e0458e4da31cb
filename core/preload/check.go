package preload

import (
	"fmt"
	"math"

	"dynacor/core/unit"
)

// Check is one comparison of a number with its limit, a row in a table of
// them. Margin is the reserve as a share of the limit: 0.1 is 10 % to spare,
// below zero it does not hold. Key names the row for whoever refers to it; Note
// says more in words, where its limit comes from.
type Check struct {
	Name    string
	Value   float64
	Limit   float64
	Unit    string
	Margin  float64
	Holds   bool
	Least   bool // the value must reach its limit; else it may not pass it
	Informs bool // nothing is asked for where it does not hold
	Key     string
	Note    string
	Stress  float64 // behind a limit of a gasket's window, MPa: on the gasket, or in the bolt
}

// As returns c with its key and note.
func (c Check) As(key, note string) Check {
	c.Key, c.Note = key, note
	return c
}

// Words says a row's value and its limit, "46.0 kN, at least 40.3 kN": loads in kN,
// shares in percent.
func (c Check) Words() string {
	by, u := 1.0, " "+c.Unit
	switch c.Unit {
	case "N":
		by, u = 0.001, " kN"
	case "":
		by, u = 100, " %"
	}
	side := "at most"
	if c.Least {
		side = "at least"
	}
	return fmt.Sprintf("%.4g%s, %s %.4g%s", by*c.Value, u, side, by*c.Limit, u)
}

// AtMost returns the row of a value that may not pass a limit. Where nothing is left
// of the limit, so is nothing of the margin.
func AtMost(name string, value, limit float64, u string) Check {
	margin := -1.0
	if limit > 0 {
		margin = 1 - value/limit
	}
	return Check{Name: name, Value: value, Limit: limit, Unit: u, Margin: margin, Holds: unit.AtMost(value, limit)}
}

// AtLeast returns the row of a value that must reach a limit. Where nothing is
// asked for, the limit is zero and the margin whole.
func AtLeast(name string, value, limit float64, u string) Check {
	margin := 1.0
	if limit > 0 {
		margin = value/limit - 1
	}
	return Check{Name: name, Value: value, Limit: limit, Unit: u, Margin: margin, Holds: unit.AtLeast(value, limit), Least: true}
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
