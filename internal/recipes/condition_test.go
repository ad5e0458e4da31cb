package recipes_test

import (
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"dynacor/core/joint"
	"dynacor/core/recipe"
	"dynacor/core/unit"
	"dynacor/core/work/worktest"
)

// For every variant of every recipe, a step makes the condition of each torqued group
// true before it is pulled: it names what the plan has, and is of its kind.
func TestEveryTorqueHasItsCondition(t *testing.T) {
	torqued, added := 0, 0
	for _, r := range shipped(t) {
		for _, choices := range r.Variants() {
			p := plan(t, r, choices)
			steps := p.Steps()
			for _, g := range p.Result.Groups {
				if g.How != recipe.ByTorque {
					continue
				}
				torqued++
				require.NotEmpty(t, g.Lubrication, "%s: %s", r.ID, g.Name)
				names := []string{g.Name}
				for _, o := range p.Result.Groups { // bolts that are torqued twice have it from the first time
					if o.How == recipe.ByTorque && g.Of != "" && o.Of == g.Of && o.Lubrication == g.Lubrication {
						names = append(names, o.Name)
					}
				}
				at := slices.IndexFunc(steps, func(s recipe.Step) bool {
					return slices.ContainsFunc(s.For, func(name string) bool { return slices.Contains(names, name) })
				})
				require.GreaterOrEqual(t, at, 0, "%s, %s: nothing makes the condition of the %s true", r.ID, variant(choices), g.Name)
				require.Less(t, at, slices.IndexFunc(steps, func(s recipe.Step) bool { return s.Group == g.Name }), "%s: %s", r.ID, g.Name)
				s := steps[at]
				switch {
				case g.Stands:
					require.Equal(t, recipe.Check, s.Does, r.ID)
				case g.Lubrication == joint.OfLot:
					require.Contains(t, s.Text, "not oiled, not washed", r.ID)
				case g.IsDry:
					require.Equal(t, recipe.KeepDry, s.Does, "%s: %s", r.ID, s.Text)
					require.Contains(t, s.Text, g.Lubrication, r.ID)
				default:
					require.Equal(t, recipe.Lubricate, s.Does, "%s: %s", r.ID, s.Text)
					require.Contains(t, s.Text, g.Lubrication, r.ID)
				}
				if strings.HasPrefix(s.ID, "condition-") {
					added++
					require.True(t, s.Must, s.ID)
				}
			}
		}
	}
	require.Greater(t, torqued, 50)
	require.Greater(t, added, 20)
}

// What bolts are made of has its rules, read before anything is put on them; and a step
// that would oil what the plan keeps dry keeps it dry instead.
func TestTheRulesOfAMaterialAreCautions(t *testing.T) {
	r := named(t, "gasketed-flange")
	choices := map[string]string{"work": "make", "gasket": "sheet", "faces": "raised", "bolts": "machine bolts"}
	step := func(grade, lubricant string) recipe.Step {
		in := anyOf(t, r, choices)
		in.Groups["bolts"] = joint.Bolts{Count: 8, Thread: "M16", Grade: grade, SpecifiedFor: lubricant, Lubrication: lubricant}
		if grade == "A4-70" {
			in.Reasons = map[string]string{"bolts/boltMost": "a test"}
		}
		s, ok := worktest.Lay(t, in, r).Step("lubricate")
		require.True(t, ok)
		return s
	}
	usual := len(step("8.8", "light oil").Cautions) // the recipe's own
	require.Contains(t, step("8.8", "light oil").Text, "Bolts: light oil.")
	require.Contains(t, step("A4-70", "stainless, anti-seize").Cautions[usual].Text, "galls")
	require.Contains(t, step("12.9", "light oil").Cautions[usual].Text, "galvanised")
	in := anyOf(t, r, choices)
	in.Groups["bolts"] = joint.Bolts{Count: 8, Thread: "M16", Grade: "8.8", Prevailing: unit.Of(10, unit.NewtonMetre)}
	steps := worktest.Lay(t, in, r).Steps()
	i := slices.IndexFunc(steps, func(s recipe.Step) bool { return s.ID == "run-down-bolts" })
	require.Equal(t, "bolts", steps[i+1].Group, "measured right before it is added to the torque")
	require.Equal(t, []float64{5, 15}, []float64{*steps[i].Limit.Low, *steps[i].Limit.High})
	require.Contains(t, steps[slices.IndexFunc(steps, func(s recipe.Step) bool { return s.ID == "lubricate" })].Cautions[usual].Text,
		"used once")
	dry := step("8.8", "dry, plain as received")
	require.Equal(t, recipe.KeepDry, dry.Does)
	require.NotContains(t, dry.Text, "evenly")
}
