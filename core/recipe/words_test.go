package recipe_test

import (
	"testing"

	"github.com/stretchr/testify/require"

	"dynacor/core/recipe"
	"dynacor/core/unit"
)

func TestLimitsInWords(t *testing.T) {
	for want, l := range map[string]recipe.Limit{
		"at most 1.5 mm":                          {Low: num(0), High: num(1.5), Unit: unit.Millimetre},
		"0.8 to 1.2 of the break torque":          {Low: num(0.8), High: num(1.2), Of: "break torque", Unit: unit.NewtonMetre},
		"above 0 mm, differing by at most 0.5 mm": {Low: num(0), Above: true, Even: num(0.5), Unit: unit.Millimetre},
		"at least 1":                              {Low: num(1)},
		"at most 2 of the gasket thickness":       {High: num(2), Of: "gasket thickness", Unit: unit.Millimetre},
		"at most the deflection":                  {Low: num(0), High: num(1), Of: "deflection", Unit: unit.Degree},
		"89.5 to 90.5°":                           {Low: num(89.5), High: num(90.5), Unit: unit.Degree},
		"differing by at most 1":                  {Even: num(1)},
		"at least the curing":                     {Low: num(1), Of: "curing"},
		"-2 to 2":                                 {Low: num(-2), High: num(2)},
	} {
		require.Equal(t, want, l.Words())
	}
}

func TestGroupsInWords(t *testing.T) {
	g := frame().Groups
	require.Equal(t, []string{"3 in a line", "to the torque in 50-100 %", "after each: sleeve over"}, g[0].Words())
	require.Equal(t, []string{"3 to 12 in a ring", "to the torque", "round and round until nothing moves"}, g[1].Words())
	require.Equal(t, []string{"one", "by turns: 360°, then 90°"}, g[2].Words())
	require.Equal(t, []string{"2 in a pair", "must not be torqued", "dry"}, recipe.Group{Layout: recipe.Pair, Bolts: 2, How: recipe.NotTorqued, Dry: true}.Words())
	require.Equal(t, []string{"2 in a pair", "by hand", "lubricated: paste"}, recipe.Group{Layout: recipe.Pair, Bolts: 2, How: recipe.ByHand, Lubricant: "paste"}.Words())
	require.Equal(t, "shaft: plain, weather: frost", recipe.When{"weather": "frost", "shaft": "plain"}.Words())
}
