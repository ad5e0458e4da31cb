package friction

import (
	"math"
	"slices"
	"sync"
)

// Lubricant is a lubrication condition with its nut factor: the low, nominal
// and high figure, and where they come from.
type Lubricant struct {
	Name               string
	Short              string // as it stands in a sentence
	Low, Nominal, High float64
	Dry                bool   // nothing may be applied
	Origin             Origin // empty counts as General
	Source             string // the test, sheet or trial, for an entry of one's own
}

// Origin says what kind of source a figure has.
type Origin string

// The origins. A supplier's test or a trial on the site wins over the general
// figure of the same name.
const (
	General      Origin = "general figure"
	SupplierTest Origin = "supplier's test"
	SiteTrial    Origin = "site trial"
)

// Spread returns the relative scatter of the nut factor, 2 sigma: the wider
// side of the low and high figures, as a fraction of the nominal.
func (l Lubricant) Spread() float64 {
	return math.Max(l.High-l.Nominal, l.Nominal-l.Low) / l.Nominal
}

// Lubricants lists the conditions the core knows, with general figures as they
// are given in bolting guides (ASME PCC-1 appendix K and the like).
func Lubricants() Library { return slices.Clone(general()) }

// general is the list, made once: every plan looks its conditions up in it.
var general = sync.OnceValue(func() Library {
	rows := []struct {
		name, short        string
		low, nominal, high float64
		dry                bool
	}{
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
	lib := make(Library, len(rows))
	for i, g := range rows {
		lib[i] = Lubricant{g.name, g.short, g.low, g.nominal, g.high, g.dry, General, "general figures for bolting"}
	}
	return lib
})
