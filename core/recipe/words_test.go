package recipe_test

import (
	"testing"

	"github.com/stretchr/testify/require"

	"dynacor/core/recipe"
	"dynacor/core/refusal"
	"dynacor/core/unit"
	"dynacor/core/work/worktest"
)

func TestLimitsInWords(t *testing.T) {
	for want, l := range map[string]recipe.Limit{
		"at most 1.5 mm":                          {Low: of(0), High: of(1.5), Unit: unit.Millimetre},
		"0.8 to 1.2 of the break torque":          {Low: of(0.8), High: of(1.2), Of: "break torque", Unit: unit.NewtonMetre},
		"above 0 mm, differing by at most 0.5 mm": {Low: of(0), Above: true, Even: of(0.5), Unit: unit.Millimetre},
		"at least 1":                              {Low: of(1)},
		"at most 2 of the gasket thickness":       {High: of(2), Of: "gasket thickness", Unit: unit.Millimetre},
		"at most the deflection":                  {Low: of(0), High: of(1), Of: "deflection", Unit: unit.Degree},
		"89.5 to 90.5°":                           {Low: of(89.5), High: of(90.5), Unit: unit.Degree},
		"differing by at most 1":                  {Even: of(1)},
		"at least the curing":                     {Low: of(1), Of: "curing"},
		"-2 to 2":                                 {Low: of(-2), High: of(2)},
	} {
		require.Equal(t, want, l.Words())
	}
}

func TestGroupsInWords(t *testing.T) {
	g := worktest.Frame().Groups
	require.Equal(t, []string{"3 in a line", "to the torque in 50-100 %", "after each: sleeve over", "lubricated: light oil"}, g[0].Words())
	require.Equal(t, []string{"3 to 12 in a ring", "to the torque", "round and round until nothing moves", "lubricated: light oil"},
		g[1].Words())
	require.Equal(t, []string{"one", "by turns: 360°, then 90°"}, g[2].Words())
	require.Equal(t, []string{"2 in a pair", "must not be torqued", "dry"}, recipe.Group{Layout: recipe.Pair, Bolts: 2,
		How: recipe.NotTorqued, Dry: true}.Words())
	require.Equal(t, []string{"2 in a pair", "by hand", "lubricated: paste"}, recipe.Group{Layout: recipe.Pair, Bolts: 2,
		How: recipe.ByHand, Lubricant: "paste"}.Words())
	require.Equal(t, []string{"2 in a pair", "to the torque", "round and round, 360° at a time, until each holds"},
		recipe.Group{Layout: recipe.Pair, Bolts: 2, How: recipe.ByTorque, Value: "torque", Portion: 360, Still: true}.Words())
	require.Equal(t, []string{"2 in a pair", "to the torque", "tight already: gone round until nothing moves"},
		recipe.Group{Layout: recipe.Pair, Bolts: 2, How: recipe.ByTorque, Value: "torque", Stands: true, Still: true}.Words())
	require.Equal(t, "shaft: plain, weather: frost", recipe.When{"weather": "frost", "shaft": "plain"}.Words())
}

// What differs can be a share of a value, the widest place is named, and large
// numbers are written in full.
func TestEvenOfAValue(t *testing.T) {
	l := recipe.Limit{Low: of(500), High: of(20000), Even: of(2), EvenOf: "gap", Unit: unit.Millimetre}
	require.Equal(t, "500 to 20000 mm, differing by at most 2 of the gap", l.Words())
	w, err := l.Window(map[string]unit.Quantity{"gap": unit.Of(0.1, unit.Inch)})
	require.NoError(t, err)
	require.InDelta(t, 5.08, w.Even, 1e-12)
	require.Equal(t, "500 to 20000 mm, differing by at most 5.08 mm", w.Words())
	outside, _, err := w.Judge([]float64{19990, 19995, 19996, 19991})
	require.NoError(t, err)
	require.Equal(t, "The readings differ by 6 mm, most at place 3; at most 5.08 mm.", outside)
	_, err = l.Window(nil)
	require.ErrorIs(t, err, &refusal.Error{Code: refusal.Missing, Field: "gap"})
}
