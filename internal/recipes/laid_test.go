package recipes_test

import (
	"maps"
	"slices"
	"strings"

	"github.com/stretchr/testify/require"

	"dynacor/core/joint"
	"dynacor/core/recipe"
	"dynacor/core/rehearsal"
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

// anyOf is a joint of a variant, by the first row of the sheet that fits, and
// twenty of everything that none gives.
func anyOf(t require.TestingT, r recipe.Recipe, choices map[string]string) joint.Input {
	in, _, err := rehearsal.Joint(r, choices)
	require.NoError(t, err, "%s, %s", r.ID, variant(choices))
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
