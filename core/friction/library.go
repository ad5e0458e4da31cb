package friction

import (
	"fmt"
	"slices"
	"strings"

	"dynacor/core/refusal"
)

// Library is a list of lubrication conditions, each name once.
type Library []Lubricant

// Find returns the condition of that name, if it is there.
func (lib Library) Find(name string) (l Lubricant, ok bool) {
	for _, l := range lib {
		if l.Name == name {
			return l, true
		}
	}
	return Lubricant{}, false
}

// Named returns the condition of that name, or refuses it.
func (lib Library) Named(name string) (Lubricant, error) {
	if l, ok := lib.Find(name); ok {
		return l, nil
	}
	return Lubricant{}, refusal.New(refusal.Unknown, "condition", fmt.Sprintf("Unknown lubrication %q.", name),
		"Choose one from the list.")
}

// LubricantNamed returns the general condition of that name.
func LubricantNamed(name string) (Lubricant, error) { return general().Named(name) }

// The bounds of a nut factor that anybody has measured on a bolt.
const (
	LeastK = 0.02
	MostK  = 1.0
)

// Check refuses figures that cannot be: no name, figures that do not rise,
// a nut factor outside LeastK to MostK, and an entry of one's own that does
// not say what it rests on.
func (l Lubricant) Check() error {
	if strings.TrimSpace(l.Name) == "" {
		return refusal.New(refusal.Missing, "name", "The lubrication has no name.", "Name the product and the surface.")
	}
	for _, k := range []struct {
		field string
		v     float64
	}{{"low", l.Low}, {"nominal", l.Nominal}, {"high", l.High}} {
		if err := refusal.Within(k.field, k.v, MostK, ""); err != nil {
			return err
		}
		if k.v < LeastK {
			return refusal.Number(refusal.TooSmall, k.field, k.v, LeastK, "",
				fmt.Sprintf("A nut factor of %.3g; none below %.2g was ever measured.", k.v, LeastK), "Enter K as a fraction, like 0.13.")
		}
	}
	if l.Low > l.Nominal || l.Nominal > l.High {
		return refusal.Number(refusal.Contradicts, "nominal", l.Nominal, l.Low, "",
			fmt.Sprintf("K %.3g to %.3g does not enclose %.3g.", l.Low, l.High, l.Nominal), "Enter low, nominal and high in this order.")
	}
	if l.Spread() >= 1 {
		return refusal.Number(refusal.TooLarge, "high", l.High, 2*l.Nominal, "",
			fmt.Sprintf("K up to %.3g is twice the nominal %.3g: such a condition gives no load one could name.", l.High,
				l.Nominal), "Test again.")
	}
	switch l.Origin {
	case "", General:
		return nil
	case SupplierTest, SiteTrial:
		if strings.TrimSpace(l.Source) == "" {
			return refusal.New(refusal.Missing, "source", fmt.Sprintf("%s: the %s is not named.", l.Name, l.Origin),
				"Enter the report, its date and who made it.")
		}
		return nil
	}
	return refusal.New(refusal.Unknown, "origin", fmt.Sprintf("Unknown origin %q.", string(l.Origin)),
		"Choose a supplier's test or a site trial.")
}

// With returns the library with l in it; lib is left as it was. An entry of
// the same name is replaced, so a test wins over the general figure.
func (lib Library) With(l Lubricant) (Library, error) {
	if err := l.Check(); err != nil {
		return nil, err
	}
	if l.Short == "" {
		l.Short = l.Name
	}
	out := slices.Clone(lib)
	for i := range out {
		if out[i].Name == l.Name {
			out[i] = l
			return out, nil
		}
	}
	return append(out, l), nil
}
