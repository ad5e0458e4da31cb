package recipe_test

import (
	"testing"

	"github.com/stretchr/testify/require"

	"dynacor/core/recipe"
	"dynacor/core/work/worktest"
)

// What differs is told once, by the name of the thing, whatever stands before it.
func TestWhatEditionsDifferIn(t *testing.T) {
	for _, c := range []struct {
		name string
		edit func(*recipe.Recipe)
		want []recipe.Change
	}{
		{"nothing but the number", func(r *recipe.Recipe) { r.Edition = 7 }, nil},
		{"a title", func(r *recipe.Recipe) { r.Title = "A frame" }, []recipe.Change{{"title", recipe.Changed, "A small frame", "A frame"}}},
		{"one step more at the beginning", func(r *recipe.Recipe) {
			r.Steps = append([]recipe.Step{{ID: "isolate", Does: recipe.Check, Station: recipe.LayOut, Text: "Isolated"}}, r.Steps...)
		}, []recipe.Change{{"step isolate", recipe.Added, "", "lay out, check: Isolated"}}},
		{"one less", func(r *recipe.Recipe) { r.Steps = r.Steps[1:] },
			[]recipe.Change{{"step clean", recipe.Gone, "lay out, check: Clean", ""}}},
		{"two in another order", func(r *recipe.Recipe) { r.Steps[2], r.Steps[3] = r.Steps[3], r.Steps[2] },
			[]recipe.Change{{"step posts", recipe.Moved, "after gap", "after ring"}}},
		{"a limit", func(r *recipe.Recipe) { r.Steps[1].Limit.Even = of(0.3) }, []recipe.Change{{"step gap, limit", recipe.Changed,
			"above 0 mm, differing by at most 0.5 mm", "above 0 mm, differing by at most 0.3 mm"}}},
		{"why a limit is", func(r *recipe.Recipe) { r.Steps[1].Limit.Why = "Else it rocks." }, []recipe.Change{{"step gap, limit, why",
			recipe.Added, "", "Else it rocks."}}},
		{"a caution", func(r *recipe.Recipe) {
			r.Steps[2].Cautions = append(r.Steps[2].Cautions, recipe.Caution{Kind: recipe.Danger, Text: "Hot"})
		}, []recipe.Change{{"step posts, caution Hot", recipe.Added, "", "danger: Hot"}}},
		{"a number in its last place", func(r *recipe.Recipe) { r.Groups[0].Shares = []float64{50.0001, 100} },
			[]recipe.Change{{"group posts, shares", recipe.Changed, "50, 100", "50.0001, 100"}}},
		{"a sheet", func(r *recipe.Recipe) {
			r.Sheet = &recipe.Sheet{Title: "Ours", Rows: []recipe.Row{{Type: "A", Size: "1"}}}
		}, []recipe.Change{{"sheet", recipe.Added, "", "Ours, A, 1"}}},
	} {
		r := worktest.Frame()
		c.edit(&r)
		require.Equal(t, c.want, recipe.Compare(worktest.Frame(), r), c.name)
	}
}
