package preload

import (
	"fmt"
	"slices"

	"dynacor/core/refusal"
)

// GasketKind is a family of gaskets. Its stresses (MPa) and the share that is left
// are starting values of ours, in the size that bolting guides give them (ASME PCC-1
// appendix O has how they are used); the gasket maker's sheet replaces each.
type GasketKind struct {
	Name      string // as a recipe's choice has it
	Long      string
	Aim       float64 // stress to aim at
	Seat      float64 // least that seats it
	Service   float64 // least that keeps it tight in service
	Most      float64 // at which it is crushed
	Kept      float64 // share of the load left once it has settled
	Crushable bool    // first stage at most 30 %
	Soft      bool    // first stage above 20 % wants a warning
}

// SourceOfGaskets says where the figures of the families are from.
const SourceOfGaskets = "our starting value for the family; the maker's own replaces it"

// GasketKinds lists the families.
func GasketKinds() []GasketKind { return slices.Clone(gasketKinds) }

var gasketKinds = []GasketKind{
	{"spiral", "spiral gasket", 120, 60, 40, 300, 0.7, true, false},
	{"sheet", "fibre sheet gasket", 50, 25, 15, 150, 0.7, true, true},
	{"soft", "soft rubber gasket", 7, 4, 2, 15, 0.7, true, true},
	{"metal ring", "ring joint gasket", 240, 120, 80, 1000, 0.7, false, false},
}

// GasketNamed returns the family of that name.
func GasketNamed(name string) (GasketKind, error) {
	for _, k := range gasketKinds {
		if k.Name == name {
			return k, nil
		}
	}
	return GasketKind{}, refusal.New(refusal.Unknown, "gasket.kind", fmt.Sprintf("Unknown gasket %q.", name), "Choose one from the list.")
}
