package demo

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/require"

	"dynacor/core/joint"
	"dynacor/core/recipe"
	"dynacor/internal/recipes"
)

// The demo's flanges are ones that a sound engineer would issue: they seat
// their gaskets, also at the low end, and stay well below yield.
func TestTheDemosFlangesAreSound(t *testing.T) {
	book, err := recipes.Book()
	require.NoError(t, err)
	r := book[slices.IndexFunc(book, func(r recipe.Recipe) bool { return r.ID == ofFlanges })]
	tags := map[string]bool{}
	for _, j := range flanges() {
		require.False(t, tags[j.tag], j.tag)
		tags[j.tag] = true
		if j.upTo == fresh {
			continue
		}
		in := joint.Input{Recipe: r.ID, Edition: r.Edition, Values: map[string]joint.Given{}, Groups: map[string]joint.Bolts{}}
		j.edit(&in)
		res, err := joint.Compute(in, r)
		require.NoError(t, err, j.tag)
		if j.upTo == draft {
			continue
		}
		require.Empty(t, res.Open, j.tag)
		g, _ := res.Group("bolts")
		require.GreaterOrEqual(t, len(g.Window), 3, j.tag)
		for _, c := range slices.Concat(g.Checks, g.Window) {
			require.True(t, c.Holds, "%s: %s: %s", j.tag, c.Name, c.Words())
			require.False(t, c.Least && g.LikelyLow < c.Limit, "%s at the low end: %s", j.tag, c.Name)
		}
		require.Less(t, g.Utilisation, 0.9, j.tag)
	}
	require.GreaterOrEqual(t, len(tags), 15)
}
