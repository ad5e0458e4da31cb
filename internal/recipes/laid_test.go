package recipes_test

import (
	"maps"
	"slices"
	"strings"
	"time"

	"github.com/stretchr/testify/require"

	"dynacor/core/joint"
	"dynacor/core/recipe"
	"dynacor/core/unit"
	"dynacor/core/work"
	"dynacor/core/work/worktest"
	"dynacor/internal/recipes"
)

func shipped(t require.TestingT) []recipe.Recipe {
	all, err := recipes.Book()
	require.NoError(t, err)
	return all
}

func named(t require.TestingT, id string) recipe.Recipe {
	all := shipped(t)
	i := slices.IndexFunc(all, func(r recipe.Recipe) bool { return r.ID == id })
	require.GreaterOrEqual(t, i, 0, id)
	return all[i]
}

func variant(choices map[string]string) string {
	var out []string
	for _, k := range slices.Sorted(maps.Keys(choices)) {
		out = append(out, choices[k])
	}
	return strings.Join(out, ", ")
}

// made is when the joints of these tests were made, ten hours before they are
// worked on.
var made = time.Date(2026, 11, 2, 22, 0, 0, 0, time.UTC)

// typical is what no sheet gives and a rule takes: 70 mm are 3.5 d of M20.
var typical = map[string]unit.Quantity{"bolt length": unit.Of(70, unit.Millimetre), "grip": unit.Of(50, unit.Millimetre),
	"lot K": unit.Of(0.13, "")}

// laid is a joint of a row of a recipe's sheet, with everything else given.
func laid(r recipe.Recipe, row recipe.Row, choices map[string]string) joint.Input {
	_, whole := joint.Whole(joint.Input{Type: row.Type, Size: row.Size, Choices: choices}, r)
	in := joint.Input{Recipe: r.ID, Edition: r.Edition, Type: row.Type, Size: row.Size, Choices: choices, MadeAt: made,
		Groups: map[string]joint.Bolts{}, Values: map[string]joint.Given{}}
	for name, v := range typical {
		if slices.ContainsFunc(r.Needs, func(n recipe.Need) bool { return n.Name == name && n.When.Holds(choices) }) {
			in.Values[name] = joint.Given{Value: v}
		}
	}
	for _, g := range whole.Groups {
		if g.Bolts == 0 && g.Of == "" && row.Bolts[g.Name] == 0 {
			in.Groups[g.Name] = joint.Bolts{Count: min(max(g.Least, 8), g.Most)}
		}
	}
	return in
}

// anyOf is a joint of a variant, by the first row of the sheet that fits, and
// twenty of everything that none gives.
func anyOf(t require.TestingT, r recipe.Recipe, choices map[string]string) joint.Input {
	choices = maps.Clone(choices)
	if choices == nil {
		choices = map[string]string{}
	}
	for _, c := range r.Choices { // what is not said is the first option
		if choices[c.Name] == "" && c.When.Holds(choices) {
			choices[c.Name] = c.Options[0]
		}
	}
	var row recipe.Row
	for _, x := range r.Sheet.Rows {
		if x.When.Holds(choices) {
			row = x
			break
		}
	}
	in := laid(r, row, choices)
	res, err := joint.Compute(in, r)
	require.NoError(t, err, "%s, %s", r.ID, variant(choices))
	for _, o := range res.Open {
		name, of, _ := strings.Cut(o.Field, ".")
		require.Equal(t, "values", name, "%s, %s: %s", r.ID, variant(choices), o.Text)
		i := slices.IndexFunc(r.Needs, func(n recipe.Need) bool { return n.Name == of })
		in.Values[of] = joint.Given{Value: unit.Of(20, r.Needs[i].Unit)}
	}
	return in
}

// loosened is the loosening of a flange that was made, by its record, and what it was
// made to.
func loosened(t require.TestingT, r recipe.Recipe) (further joint.Input, made joint.Result) {
	in := anyOf(t, r, map[string]string{"work": "make", "gasket": "sheet", "faces": "raised", "bolts": "machine bolts"})
	made, err := joint.Compute(in, r)
	require.NoError(t, err)
	further, err = joint.Further(in, made, r, "loosen", in.MadeAt)
	require.NoError(t, err)
	return further, made
}

// plan lays a joint of a variant.
func plan(t require.TestingT, r recipe.Recipe, choices map[string]string) *work.Plan {
	return worktest.Lay(t, anyOf(t, r, choices), r)
}
