package figure_test

import (
	"math"
	"testing"

	"github.com/stretchr/testify/require"

	"dynacor/core/figure"
	"dynacor/core/reading"
	"dynacor/core/recipe"
)

// Whatever is drawn, each bolt is there once, inside the drawing, and none
// covers another.
func TestEveryBoltHasItsPlace(t *testing.T) {
	var cases []struct {
		d recipe.Drawing
		g []figure.Group
	}
	add := func(d recipe.Drawing, g ...figure.Group) {
		cases = append(cases, struct {
			d recipe.Drawing
			g []figure.Group
		}{d, g})
	}
	for n := 3; n <= 60; n++ {
		for _, l := range []recipe.Layout{recipe.Ring, recipe.Cover, recipe.Line, recipe.Plate} {
			add(recipe.Beside, figure.Group{Name: "a", Layout: l, Bolts: n})
			add(recipe.Beside, figure.Group{Name: "a", Layout: l, Bolts: n}, figure.Group{Name: "b", Layout: recipe.Single, Bolts: 1})
		}
		add(recipe.Rings, figure.Group{Name: "a", Layout: recipe.Ring, Bolts: n}, figure.Group{Name: "b", Layout: recipe.Ring, Bolts: n,
			OnCentre: true}, figure.Group{Name: "c", Layout: recipe.Ring, Bolts: n})
		add(recipe.Layers, figure.Group{Name: "a", Layout: recipe.Line, Bolts: n}, figure.Group{Name: "b", Layout: recipe.Line, Bolts: n +
			1})
	}
	line := func(name string, n int) figure.Group { return figure.Group{Name: name, Layout: recipe.Line, Bolts: n} }
	add(recipe.Rings, figure.Group{Name: "a", Layout: recipe.Ring, Bolts: 8}, figure.Group{Name: "b", Layout: recipe.Ring, Bolts: 12},
		figure.Group{Name: "c", Layout: recipe.Single, Bolts: 1}, line("d", 2), line("e", 4), line("f", 4))
	face := func(name string) figure.Group { return figure.Group{Name: name, Layout: recipe.Ring, Bolts: 4} }
	add(recipe.Faces, face("a"), face("b"), face("c"), face("d"))
	add(recipe.Straps, figure.Group{Name: "a", Layout: recipe.Pair, Bolts: 2})
	add(recipe.Layers, figure.Group{Name: "a", Layout: recipe.Single, Bolts: 1}, figure.Group{Name: "b", Layout: recipe.Single, Bolts: 1},
		figure.Group{Name: "c", Layout: recipe.Single, Bolts: 1})
	add(recipe.Beside, figure.Group{Name: "a", Layout: recipe.Pair, Bolts: 2})
	for _, c := range cases {
		f := figure.Of(c.d, c.g)
		want := 0
		for _, g := range c.g {
			want += g.Bolts
		}
		require.Len(t, f.Bolts, want)
		for i, a := range f.Bolts {
			require.LessOrEqual(t, math.Abs(a.X)+0.9*a.R, figure.Half, "%v %+v", c, a)
			require.LessOrEqual(t, math.Abs(a.Y)+0.9*a.R, figure.Half, "%v %+v", c, a)
			require.Positive(t, a.R)
			for _, b := range f.Bolts[:i] {
				require.False(t, a.Group == b.Group && a.Bolt == b.Bolt)
				require.Greater(t, math.Hypot(a.X-b.X, a.Y-b.Y), 0.99*math.Sqrt(3)*min(a.R, b.R), "%v: %+v covers %+v", c, a, b)
			}
		}
	}
	require.Empty(t, figure.Of(recipe.Beside, nil).Bolts)
}

// Bolt 1 stands right of the top, or at it.
func TestWhereThePositionsBegin(t *testing.T) {
	ring := func(centre bool) figure.Place {
		return figure.Of(recipe.Beside, []figure.Group{{Name: "a", Layout: recipe.Ring, Bolts: 8, OnCentre: centre}}).Bolts[0]
	}
	require.Positive(t, ring(false).X)
	require.Negative(t, ring(false).Y)
	require.InDelta(t, 0, ring(true).X, 1e-9)
	require.InDelta(t, -84, ring(true).Y, 1e-9)
	cover := figure.Of(recipe.Beside, []figure.Group{{Name: "a", Layout: recipe.Cover, Bolts: 8}}).Bolts
	require.Positive(t, cover[0].X)
	require.Negative(t, cover[7].X)
	require.InDelta(t, cover[0].Y, cover[7].Y, 1e-9)
}

func TestSpotsOfReadings(t *testing.T) {
	of := func(r recipe.Read) []figure.Label { return figure.Spots([]recipe.Read{r}) }
	for _, nowhere := range append(of(recipe.Read{Places: 3}), of(recipe.Read{Places: 2, Spots: []string{"the lowest", "the highest"}})...) {
		require.Zero(t, [2]float64{nowhere.X, nowhere.Y}, nowhere.Text)
	}
	four := of(recipe.Read{Places: 4})
	require.Equal(t, "at 3 o’clock", four[1].Text)
	require.Positive(t, four[1].X)
	require.Negative(t, of(recipe.Read{Places: 2})[0].X)
	require.Len(t, of(recipe.Read{Places: 8}), 8)
	dial := of(recipe.Read{Form: reading.RunOut})
	require.Len(t, dial, 9, "and the first once more, off the drawing")
	require.Zero(t, dial[8].X)
}
