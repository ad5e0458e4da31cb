package joint

import (
	"fmt"
	"maps"
	"slices"
	"strings"
	"time"

	"dynacor/core/recipe"
	"dynacor/core/refusal"
	"dynacor/core/unit"
)

// Follows lists the work that a recipe leads on a joint that stands: what goes
// over it and what undoes it, as options of one of its choices.
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

// Further lays out the work that follows on a joint which was made: its bolts,
// their order, their lubrication and the torque they hold, as that plan has
// them. work is one of Follows. It refuses to pull nuts with a prevailing torque
// again: what they turn at is not what loads them.
func Further(made Input, res Result, r recipe.Recipe, work string, at time.Time) (Input, error) {
	if !slices.Contains(Follows(r), work) {
		return Input{}, refusal.New(refusal.Unknown, "work", fmt.Sprintf("%q is no work that follows on a %s.", work, r.Kind),
			"Choose one of: "+strings.Join(Follows(r), ", ")+".")
	}
	made, r = Whole(made, r)
	out := Input{Recipe: r.ID, Edition: r.Edition, Type: made.Type, Size: made.Size, Choices: maps.Clone(made.Choices),
		Values: map[string]Given{}, Groups: map[string]Bolts{}, MadeAt: at, Own: made.Own, Gaskets: made.Gaskets}
	for _, w := range []recipe.When{r.Again, r.Undoes} {
		for choice, option := range w {
			if option == work {
				out.Choices[choice] = option
			}
		}
	}
	asked := r.Asked(out.Choices)
	maps.DeleteFunc(out.Choices, func(name, _ string) bool {
		return !slices.ContainsFunc(asked, func(c recipe.Choice) bool { return c.Name == name })
	})
	for name, v := range made.Values {
		if n := slices.IndexFunc(r.Needs, func(n recipe.Need) bool { return n.Name == name }); n >= 0 &&
			r.Needs[n].When.Holds(out.Choices) {
			out.Values[name] = v
		}
	}
	for _, g := range r.Groups {
		was, there := res.Group(g.Was)
		if g.Was == "" || !there || !g.When.Holds(out.Choices) {
			continue
		}
		b, err := carried(g, was, made.Groups[g.Was])
		if err != nil {
			return Input{}, err
		}
		if g.How == recipe.ByTorque {
			out.Values[g.Value] = Given{Value: held(made, res, was)}
		}
		out.Groups[g.Name] = b
	}
	return out, nil
}

// carried is what is known of bolts that were made as another group.
func carried(g recipe.Group, was Group, b Bolts) (Bolts, error) {
	grade := was.Grade
	if b.Grade == ByCertificate {
		grade = b.Grade
	}
	out := Bolts{Count: was.Count, Thread: was.Thread, Grade: grade, Certificate: b.Certificate, OnCentre: was.OnCentre, Start: was.Start,
		Rows: b.Rows, Across: b.Across, Down: b.Down}
	if g.Bolts > 0 {
		out.Count = 0
	}
	if was.Start == 1 {
		out.Start = 0
	}
	if b.Order != "" {
		out.Order, out.Reason = b.Order, first(b.Reason, "the order it was made in")
	}
	if g.How != recipe.ByTorque {
		if was.Torque > 0 {
			out.Held = Held{Torque: unit.Of(was.Torque, unit.NewtonMetre), Lubrication: was.Lubrication}
		}
		if was.Prevailing > 0 {
			out.Held.Prevailing = unit.Of(was.Prevailing, unit.NewtonMetre)
		}
		return out, nil
	}
	if was.Prevailing > 0 {
		return Bolts{}, refusal.New(refusal.NotNow, "work",
			fmt.Sprintf("The %s have a prevailing torque of %.4g N·m: a torque that turns them is not one that loads them.", was.Name,
				was.Prevailing), "Turn them to their torque again by the maker's instructions, and keep that record with this one.")
	}
	out.SpecifiedFor, out.Lubrication = was.Lubrication, was.Lubrication
	return out, nil
}

// held is the torque that a plan's bolts hold: as it was written, where that is
// what they were pulled to.
func held(in Input, res Result, g Group) unit.Quantity {
	v := res.Value(g.Value)
	if g.Share == 0 && v.Max.IsZero() && !v.IsZero() && in.Groups[g.Name].Decision != TakeEquivalent {
		return v.Value
	}
	return unit.Of(g.Torque, unit.NewtonMetre)
}
