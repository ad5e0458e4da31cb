package work

import (
	"fmt"
	"slices"
	"strings"

	"dynacor/core/joint"
	"dynacor/core/recipe"
	"dynacor/core/thread"
	"dynacor/core/unit"
)

// conditioned returns the steps of a variant with one that makes the condition of each
// torqued group true: what its torque was worked out for. A step of the recipe's own
// tells the plan's condition; where it has none, one is added, for all groups that have
// the same.
func conditioned(steps []recipe.Step, res joint.Result) []recipe.Step {
	var added []together
	told := map[string]*together{}
	for _, g := range res.Groups {
		if g.How != recipe.ByTorque || g.Lubrication == "" || conditionedBefore(res, g) {
			continue
		}
		if i := slices.IndexFunc(steps, func(s recipe.Step) bool { return slices.Contains(s.For, g.Name) }); i >= 0 {
			id := steps[i].ID
			if told[id] == nil || told[id].Lubrication != g.Lubrication {
				told[id] = &together{Group: g}
				steps[i] = tells(steps[i], condition(together{g, alike(res, g, steps[i].For)}), g.Lubrication)
			}
			continue
		}
		if i := slices.IndexFunc(added, func(t together) bool { return t.alike(g) }); i >= 0 {
			added[i].names = append(added[i].names, g.Name)
			continue
		}
		added = append(added, together{g, []string{g.Name}})
	}
	for _, t := range added {
		steps = slices.Insert(steps, placeOf(steps), condition(t))
	}
	for _, g := range res.Groups {
		if g.How != recipe.ByTorque || g.Prevailing == 0 || g.Stands || conditionedBefore(res, g) {
			continue
		}
		if i := slices.IndexFunc(steps, func(s recipe.Step) bool { return s.Group == g.Name }); i >= 0 {
			steps = slices.Insert(steps, i, runDown(g))
		}
	}
	return steps
}

// runDown returns the step that measures what a nut that locks itself takes to run down:
// the plan adds that to its torque, and a nut that takes half of it, or half as much
// again, is loaded otherwise than the plan says.
func runDown(g joint.Group) recipe.Step {
	low, high := g.Prevailing/2, 1.5*g.Prevailing
	return recipe.Step{ID: "run-down-" + strings.ReplaceAll(g.Name, " ", "-"), Does: recipe.Measure, Station: recipe.AtBolts,
		Text:  fmt.Sprintf("Torque that runs a nut of the %s down before it seats; the plan has %.4g N·m", g.Name, g.Prevailing),
		Limit: &recipe.Limit{Low: &low, High: &high, Unit: unit.NewtonMetre}}
}

// together are groups that have the same condition, by the first of them.
type together struct {
	joint.Group
	names []string
}

// alike are those of the named groups that have the condition of g.
func alike(res joint.Result, g joint.Group, names []string) []string {
	return slices.DeleteFunc(slices.Clone(names), func(name string) bool {
		o, ok := res.Group(name)
		return !ok || o.Lubrication != g.Lubrication
	})
}

func (t together) alike(g joint.Group) bool {
	return t.Lubrication == g.Lubrication && t.Stands == g.Stands && slices.Equal(material(t.Group), material(g))
}

// condition returns the step that makes the condition of groups true: what is put on
// their threads and faces, or that nothing is.
func condition(t together) recipe.Step {
	s := recipe.Step{ID: "condition-" + strings.ReplaceAll(t.Name, " ", "-"), Does: recipe.Lubricate, Station: recipe.LayOut, Must: true,
		For: t.names}
	of := words(t.names)
	switch {
	case t.Stands:
		s.Does, s.Text = recipe.Check, fmt.Sprintf("The %s stand as they were made, with %s: nothing is put on them now.", of, t.Short)
	case t.Lubrication == joint.OfLot:
		s.Does = recipe.KeepDry
		s.Text = fmt.Sprintf("The %s as delivered: not oiled, not washed, not left in the rain.", of)
	case t.IsDry:
		s.Does, s.Text = recipe.KeepDry, fmt.Sprintf("Threads and faces of the %s stay as they are: %s. Nothing is put on.", of,
			t.Lubrication)
	default:
		s.Text = fmt.Sprintf("Threads and faces of the %s, evenly: %s.", of, t.Lubrication)
	}
	s.Cautions = material(t.Group)
	return s
}

// words names several: "disc screws and ring screw".
func words(names []string) string {
	if len(names) < 2 {
		return strings.Join(names, "")
	}
	last := len(names) - 1
	return strings.Join(names[:last], ", ") + " and " + names[last]
}

// conditionedBefore reports whether bolts that are torqued twice have their condition
// from the group before.
func conditionedBefore(res joint.Result, g joint.Group) bool {
	for _, o := range res.Groups {
		if o.Name == g.Name {
			return false
		}
		if o.How == recipe.ByTorque && o.Lubrication == g.Lubrication && g.Of != "" && (o.Of == g.Of || o.Name == g.Of) {
			return true
		}
	}
	return false
}

// tells gives a step of the recipe the plan's condition to tell; one that would put
// something on what the plan keeps dry, or the reverse, is the plan's instead.
func tells(s, want recipe.Step, lubrication string) recipe.Step {
	cautions := append(slices.Clone(s.Cautions), want.Cautions...)
	if s.Does != want.Does {
		want.ID, want.For, want.Cautions = s.ID, s.For, cautions
		return want
	}
	s.Text, s.Cautions = strings.TrimSuffix(s.Text, ".")+". "+capital(words(want.For))+": "+lubrication+".", cautions
	return s
}

// placeOf is where a condition comes: before the parts are brought together, else last
// at Lay out.
func placeOf(steps []recipe.Step) int {
	for i, s := range steps {
		if s.Station != recipe.LayOut || s.Does == recipe.Place {
			return i
		}
	}
	return len(steps)
}

// material are the rules of what bolts are made of, each a caution that is read before
// anything is put on them.
func material(g joint.Group) []recipe.Caution {
	var out []recipe.Caution
	add := func(kind recipe.CautionKind, text string) { out = append(out, recipe.Caution{Kind: kind, Text: text}) }
	switch {
	case thread.Stainless(g.Grade):
		add(recipe.Forbidden, "Stainless galls: never dry, never by impact; slow, and stop where it binds.")
	case g.Grade == "12.9":
		add(recipe.Forbidden, "12.9 is never hot-dip galvanised; electroplated or pickled only with its bake certificate.")
	case g.Grade == "A490" || g.Grade == "A325":
		add(recipe.Forbidden, "A490 is never used again, nor is galvanised A325.")
	case thread.HighStrengthSet(g.Grade):
		add(recipe.Forbidden, "A set that was tightened past its yield is not used again.")
	}
	if g.Prevailing > 0 {
		add(recipe.Required, "A nut that locks itself is used once, unless its maker says otherwise; measure what it takes to run it down.")
	}
	return out
}
