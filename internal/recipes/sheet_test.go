package recipes_test

import (
	"testing"

	"github.com/stretchr/testify/require"

	"dynacor/core/job"
	"dynacor/core/recipe"
)

// laid is a joint of a row of a recipe's sheet, with everything else given.
func laid(r recipe.Recipe, row recipe.Row, choices map[string]string) job.Input {
	in := job.Input{Recipe: r.ID, Edition: r.Edition, Type: row.Type, Size: row.Size, Choices: choices, Groups: map[string]job.Bolts{}}
	for _, g := range r.Groups {
		if g.Bolts == 0 && g.Of == "" && row.Bolts[g.Name] == 0 {
			in.Groups[g.Name] = job.Bolts{Count: min(max(g.Least, 8), g.Most)}
		}
	}
	return in
}

// Every row of every sheet gives a plan that may be issued and whose run may be
// followed to its end, with no bolt past nine tenths of its yield.
func TestEveryRowOfEverySheetGivesAPlan(t *testing.T) {
	for _, r := range shipped(t) {
		rows := 0
		for _, choices := range r.Variants() {
			for _, row := range r.Sheet.Rows {
				if !row.When.Holds(choices) {
					continue
				}
				rows++
				in := laid(r, row, choices)
				res, err := job.Compute(in, r)
				require.NoError(t, err, "%s %s %s", r.ID, row.Size, variant(choices))
				require.Empty(t, res.Open, "%s %s %s", r.ID, row.Size, variant(choices))
				require.Empty(t, res.Deviations)
				for _, g := range res.Groups {
					require.LessOrEqual(t, g.Utilisation, 0.9, "%s %s %s %s", r.ID, row.Size, variant(choices), g.Name)
					require.Len(t, g.Order, g.Count)
				}
				p, err := job.Follow(in, r, res)
				require.NoError(t, err, "%s %s %s", r.ID, row.Size, variant(choices))
				require.Error(t, p.Work.MaySign())
			}
		}
		require.Positive(t, rows, r.ID)
	}
}
