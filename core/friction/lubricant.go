package friction

import (
	"fmt"
	"math"

	"dynacor/core/refusal"
)

// Lubricant is a lubrication condition with its nut factor: the low, nominal
// and high figure. General figures; a supplier's own test or a site trial
// replaces them.
type Lubricant struct {
	Name               string
	Short              string // as it stands in a sentence
	Low, Nominal, High float64
	Dry                bool // nothing may be applied
}

// Spread returns the relative scatter of the nut factor, 2 sigma: the wider
// side of the low and high figures, as a fraction of the nominal.
func (l Lubricant) Spread() float64 {
	return math.Max(l.High-l.Nominal, l.Nominal-l.Low) / l.Nominal
}

// Lubricants lists the conditions the core knows.
func Lubricants() []Lubricant {
	return []Lubricant{
		{"dry, plain as received", "dry", .16, .20, .26, true},
		{"light oil", "light oil", .14, .17, .21, false},
		{"zinc plated, dry", "zinc plated, dry", .17, .22, .29, true},
		{"zinc plated, waxed", "zinc plated, waxed", .11, .14, .17, false},
		{"molybdenum disulphide paste", "moly paste", .10, .13, .16, false},
		{"nickel anti-seize", "nickel anti-seize", .13, .16, .19, false},
		{"copper anti-seize", "copper anti-seize", .12, .15, .18, false},
		{"white food-grade paste", "white food-grade paste", .12, .15, .19, false},
		{"PTFE-coated", "PTFE coating", .09, .11, .14, false},
		{"hot-dip galvanised, waxed", "galvanised, waxed", .13, .17, .22, false},
		{"stainless, dry", "stainless, dry", .22, .30, .40, true},
		{"stainless, anti-seize", "anti-seize on stainless", .14, .17, .21, false},
	}
}

// LubricantNamed returns the condition of that name.
func LubricantNamed(name string) (Lubricant, error) {
	for _, l := range Lubricants() {
		if l.Name == name {
			return l, nil
		}
	}
	return Lubricant{}, refusal.New(refusal.Unknown, "condition", fmt.Sprintf("Unknown lubrication %q.", name),
		"Choose one from the list.")
}
