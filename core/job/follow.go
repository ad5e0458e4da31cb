package job

import (
	"fmt"
	"slices"
	"strings"

	"dynacor/core/kind"
	"dynacor/core/plan"
	"dynacor/core/recipe"
	"dynacor/core/refusal"
	"dynacor/core/unit"
)

// Follows lists the work that a recipe leads on a joint that stands: what undoes
// it and what goes over it, as options of one of its choices.
func Follows(r recipe.Recipe) []string {
	var out []string
	for _, w := range []recipe.When{r.Again, r.Undoes} {
		for _, c := range r.Choices {
			if option, ok := w[c.Name]; ok && len(w) == 1 {
				out = append(out, option)
			}
		}
	}
	return out
}

// held is the torque that a plan's bolts hold: as it was written, where that is
// what they were pulled to.
func held(in plan.Input, res plan.Result) unit.Quantity {
	t := in.Target
	if t.Mode == plan.Specified && t.Max.IsZero() && in.Decision != plan.TakeEquivalent {
		return t.Torque
	}
	return unit.Of(res.Torque, unit.NewtonMetre)
}

// FromRing lays out the work that follows on a gasketed flange which a plan
// made: its bolts, their order, their lubrication and the torque they hold, as
// that plan has them. work is one of Follows. It refuses to pull nuts with a
// prevailing torque again: a recipe does not know of one, and would say a load
// that they do not have.
func FromRing(in plan.Input, res plan.Result, r recipe.Recipe, work string) (Input, error) {
	if !slices.Contains(Follows(r), work) {
		return Input{}, refusal.New(refusal.Unknown, "work", fmt.Sprintf("%q is no work that follows on a %s.", work, r.Kind), "Choose one of: "+strings.Join(Follows(r), ", ")+".")
	}
	out := Input{Recipe: r.ID, Edition: r.Edition, Choices: map[string]string{}, Values: map[string]Given{}, Groups: map[string]Bolts{}}
	for _, w := range []recipe.When{r.Again, r.Undoes} {
		for choice, option := range w {
			if option == work {
				out.Choices[choice] = option
			}
		}
	}
	for _, g := range r.Groups {
		if g.Of != "" || !g.When.Holds(out.Choices) {
			continue
		}
		b := Bolts{Count: in.Bolts, Thread: in.Thread, Grade: in.Grade, OnCentre: in.OnCentre, Order: in.Order}
		if k, err := kind.Named(r.Kind); err == nil && k.CheckReason(b.Order, "") != nil {
			b.Reason = "the order it was made in"
		}
		if g.How == recipe.ByTorque {
			if !in.Prevailing.IsZero() {
				return Input{}, refusal.New(refusal.NotNow, "work", fmt.Sprintf("These nuts have a prevailing torque of %s, which the recipe of a %s does not know.", in.Prevailing, r.Kind), "Turn them to their torque again by the maker's instructions, and keep that record with this one.")
			}
			b.SpecifiedFor, b.Lubrication = in.Lubrication, in.Lubrication
			out.Values[g.Value] = Given{Value: held(in, res)}
		}
		out.Groups[g.Name] = b
	}
	return out, nil
}
