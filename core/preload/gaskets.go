package preload

import (
	"fmt"

	"dynacor/core/refusal"
)

// GasketKind is a family of gaskets. SeatingStress (MPa) is a starting value of
// ours, which the gasket maker's sheet replaces.
type GasketKind struct {
	Name          string // as a recipe's choice has it
	Long          string
	SeatingStress float64
	Crushable     bool // first stage at most 30 %
	Soft          bool // first stage above 20 % wants a warning
}

// GasketKinds lists the families.
func GasketKinds() []GasketKind {
	return []GasketKind{
		{"spiral", "spiral gasket", 60, true, false},
		{"sheet", "fibre sheet gasket", 25, true, true},
		{"soft", "soft rubber gasket", 4, true, true},
		{"metal ring", "ring joint gasket", 120, false, false},
	}
}

// GasketNamed returns the family of that name.
func GasketNamed(name string) (GasketKind, error) {
	for _, k := range GasketKinds() {
		if k.Name == name {
			return k, nil
		}
	}
	return GasketKind{}, refusal.New(refusal.Unknown, "gasket.kind", fmt.Sprintf("Unknown gasket %q.", name), "Choose one from the list.")
}
