package recipes_test

import (
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"dynacor/core/joint"
	"dynacor/core/preload"
	"dynacor/core/recipe"
	"dynacor/core/refusal"
	"dynacor/core/rehearsal"
	"dynacor/core/thread"
	"dynacor/core/unit"
	"dynacor/core/work"
)

// What a splice is turned and pulled to follows from its length, its grip and its
// lot, by the rules (RCSC, EN 1090-2): none is looked up, none is typed.
func TestTheSplicesRules(t *testing.T) {
	splice := named(t, "structural-splice")
	lay := func(method, faces string, values map[string]unit.Quantity) (joint.Result, error) {
		choices := map[string]string{"work": "make", "method": method}
		if faces != "" {
			choices["faces"] = faces
		}
		in := joint.Input{Recipe: splice.ID, Edition: splice.Edition, Type: "SP", Size: "M20", Choices: choices,
			Groups: map[string]joint.Bolts{"splice bolts": {Count: 8}}, Values: map[string]joint.Given{}}
		for name, v := range values {
			in.Values[name] = joint.Given{Value: v}
		}
		return joint.Compute(in, splice)
	}
	mm := func(v float64) unit.Quantity { return unit.Of(v, unit.Millimetre) }
	for _, c := range []struct {
		faces        string
		length, want float64
	}{{"both square", 80, 120}, {"both square", 81, 180}, {"one sloped", 160, 240}, {"both sloped", 240, 360}} {
		res, err := lay("part turn", c.faces, map[string]unit.Quantity{"bolt length": mm(c.length)})
		require.NoError(t, err)
		require.Empty(t, res.Open)
		g, _ := res.Group("turned bolts")
		require.Equal(t, []float64{c.want}, g.Strokes, "%s, %g mm", c.faces, c.length)
	}
	_, err := lay("part turn", "both square", map[string]unit.Quantity{"bolt length": mm(241)})
	require.ErrorIs(t, err, &refusal.Error{Code: refusal.TooLarge, Field: "values.bolt length"})

	for grip, want := range map[float64]float64{39: 60, 40: 90, 120: 120, 200: 120} {
		res, err := lay("combined", "", map[string]unit.Quantity{"grip": mm(grip), "lot K": unit.Of(0.12, "")})
		require.NoError(t, err)
		require.Empty(t, res.Open)
		second, _ := res.Group("second-step bolts")
		require.Equal(t, []float64{want}, second.Strokes)
		first, _ := res.Group("first-step bolts")
		require.InEpsilon(t, 308.4409, first.Torque, 1e-6)
	}

	res, err := lay("calibrated torque", "both square", map[string]unit.Quantity{"lot K": unit.Of(0.12, "")})
	require.NoError(t, err)
	require.Empty(t, res.Open)
	steps, err := preload.StepsOf(mustThread(t, "M20"), "10.9 HV", 0.12)
	require.NoError(t, err)
	first, _ := res.Group("first-step bolts")
	second, _ := res.Group("torqued bolts")
	require.Equal(t, steps.First, first.Torque)
	require.Equal(t, steps.Second, second.Torque)
	require.Equal(t, unit.Of(1.05*steps.M, unit.NewtonMetre), res.Aims()["audit torque"])
	require.InEpsilon(t, 1.1*steps.Load, second.Load, 1e-9)
	require.Equal(t, steps.Load, second.Needed)
	require.True(t, second.Checks[0].Holds)
	require.Equal(t, joint.OfLot, second.Lubrication)
	in := joint.Input{Recipe: splice.ID, Edition: splice.Edition, Type: "SP", Size: "M20",
		Choices: map[string]string{"method": "calibrated torque", "faces": "both square"}}
	p, err := work.Lay(in, splice, res)
	require.NoError(t, err)
	audit, _ := p.Step("sample")
	require.Equal(t, "Audit, in the same shift: how far the nut turns on at 431.8 N·m, 1.05 M", audit.Text)
	require.InEpsilon(t, 0.12*0.88, second.K.Low, 1e-9, "a lot scatters no more than its class")

	res, err = lay("calibrated torque", "both square", nil)
	require.NoError(t, err)
	require.Equal(t, "values.lot K", res.Open[0].Field, "nothing is issued without the lot's test")
	_, err = lay("calibrated torque", "both square", map[string]unit.Quantity{"lot K": unit.Of(0.12, ""),
		"torque": unit.Of(450, unit.NewtonMetre)})
	require.ErrorIs(t, err, &refusal.Error{Code: refusal.Contradicts, Field: "values.torque"}, "by hand neither")
	_, err = lay("calibrated torque", "both square", map[string]unit.Quantity{"lot K": unit.Of(0.6, "")})
	require.ErrorIs(t, err, &refusal.Error{Code: refusal.TooLarge, Field: "values.lot K"})
}

func mustThread(t *testing.T, name string) thread.Thread {
	th, err := thread.Parse(name)
	require.NoError(t, err)
	return th
}

// What is torqued and has no thread of a listed series: what it bears is its
// maker's to know.
var unlisted = map[string]bool{"fluid-coupling fusible plugs": true, "fluid-coupling shaft nut": true, "accumulator gas valve": true,
	"accumulator fluid-port nut": true, "accumulator gas-stem nut": true, "accumulator vent screw": true, "push-fit ring bolt": true,
	"bolted-frame anchor nuts": true}

// plausible holds a row to what a bolt of its size and grade is made for: between
// a quarter and nine tenths of its yield, and at the high end of what is likely not
// past it, unless that is said.
func plausible(t *testing.T, r recipe.Recipe, row recipe.Row, g joint.Group, minds []joint.Mind) {
	t.Helper()
	name := r.ID + " " + g.Name
	if g.Torque == 0 || unlisted[name] {
		return
	}
	require.GreaterOrEqual(t, g.Utilisation, 0.25, "%s, %s", name, row.Size)
	if !thread.Structural(g.Grade) { // which may yield, by rule
		require.LessOrEqual(t, g.Utilisation, 0.9, "%s, %s", name, row.Size)
	}
	warned := slices.ContainsFunc(minds, func(m joint.Mind) bool { return m.Group == g.Name && strings.Contains(m.Text, "yield") })
	require.Equal(t, g.LikelyHigh > g.Limit, warned, "%s, %s", name, row.Size)
}

// Every row of every sheet gives a plan that may be issued and whose run may be
// followed to its end, with every bolt at a plausible share of its yield.
func TestEveryRowOfEverySheetGivesAPlan(t *testing.T) {
	for _, r := range shipped(t) {
		rows := 0
		for _, choices := range r.Variants() {
			for _, row := range r.Sheet.Rows {
				if !row.When.Holds(choices) {
					continue
				}
				rows++
				in := rehearsal.JointOf(r, row, choices)
				res, err := joint.Compute(in, r)
				require.NoError(t, err, "%s %s %s", r.ID, row.Size, variant(choices))
				require.Empty(t, res.Open, "%s %s %s", r.ID, row.Size, variant(choices))
				require.Empty(t, res.Deviations)
				for _, g := range res.Groups {
					plausible(t, r, row, g, res.Minds)
					require.Len(t, g.Order, g.Count)
				}
				p, err := work.Lay(in, r, res)
				require.NoError(t, err, "%s %s %s", r.ID, row.Size, variant(choices))
				require.NotEmpty(t, work.Begin(p).Open())
			}
		}
		require.Positive(t, rows, r.ID)
	}
}
