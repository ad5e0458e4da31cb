package recipes_test

import (
	"math"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"dynacor/core/derive"
	"dynacor/core/joint"
	"dynacor/core/recipe"
	"dynacor/core/unit"
	"dynacor/core/work"
	"dynacor/core/work/worktest"
)

// sound holds derivations together: each sign stands in its formula, each input that is
// derived itself comes to what it is derived to, and every number is one.
func sound(t require.TestingT, all []derive.Derivation) map[string]derive.Derivation {
	by := map[string]derive.Derivation{}
	for _, d := range all {
		at := d.Of + "/" + d.Key
		require.NotContains(t, by, at)
		by[at] = d
		require.Len(t, d.Inputs, len(d.Symbols), at)
		require.NotContains(t, d.Numbers(), "{", at)
		v := d.Result()
		require.False(t, math.IsNaN(v) || math.IsInf(v, 0), "%s: %s", at, d.Numbers())
	}
	for at, d := range by {
		for _, in := range d.Inputs {
			if in.Derived {
				from, ok := by[d.Of+"/"+in.From]
				require.True(t, ok, "%s is from %s", at, in.From)
				require.InDelta(t, in.Value, from.Result(), 1e-9*math.Abs(in.Value), "%s from %s", at, in.From)
			}
		}
	}
	return by
}

// In every recipe and variant: what a rule works out, and each end of a limit that is a
// share of a value, is worked out again by the formula that is shown for it.
func TestEveryNumberOfEveryRecipeIsDerived(t *testing.T) {
	seen := map[string]bool{}
	for _, r := range shipped(t) {
		for _, choices := range r.Variants() {
			in := anyOf(t, r, choices)
			res, err := joint.Compute(in, r)
			require.NoError(t, err)
			all, err := joint.Derive(in, r, res)
			require.NoError(t, err)
			h := worktest.New(t, worktest.Lay(t, in, r))
			steps, err := h.State.Derive()
			require.NoError(t, err)
			by := sound(t, append(all, steps...))
			for _, v := range res.Values {
				if v.Need.Rule == nil || v.Given.IsZero() {
					continue
				}
				d, ok := by[v.Need.Rule.Group+"/"+joint.ValueKey(v.Need.Name)]
				require.True(t, ok, "%s, %s: %s", r.ID, variant(choices), v.Need.Name)
				require.InEpsilon(t, v.Given.Value.Value, d.Result(), 1e-9, "%s: %s", r.ID, d.Numbers())
				seen[string(v.Need.Rule.Name)] = true
			}
			for _, s := range h.State.Plan().Steps() {
				w, reads := h.State.Window(s.ID)
				if !reads {
					continue
				}
				for end, v := range map[recipe.End]float64{recipe.LowEnd: w.Low, recipe.HighEnd: w.High, recipe.EvenEnd: w.Even} {
					d, ok := by[work.OfStep(s.ID)+"/"+string(end)]
					l := h.State.Asks(s.ID)[0].Read.Limit
					require.Equal(t, l != nil && l.Shares(end) && !math.IsInf(v, 0) && h.State.Asks(s.ID)[0].Limited, ok, "%s, %s: %s", r.ID,
						s.ID, end)
					if ok {
						require.InDelta(t, v, d.Result(), 1e-9*math.Abs(v), "%s, %s: %s", r.ID, s.ID, d.Numbers())
						seen[string(end)] = true
					}
				}
			}
		}
	}
	for _, name := range recipe.RuleNames() {
		require.True(t, seen[string(name)], name)
	}
	require.True(t, seen["low"] && seen["high"] && seen["even"])
}

// A splice's turns go in steps of length and grip: each step, on either side of its end.
func TestTheTurnsOfASpliceAreDerived(t *testing.T) {
	r := named(t, "structural-splice")
	for _, choices := range r.Variants() {
		for _, diameters := range []float64{1.9, 2, 4, 4.1, 5.9, 6, 8, 8.1, 10} {
			in := anyOf(t, r, choices)
			for _, need := range []string{"bolt length", "grip"} {
				if _, asked := in.Values[need]; asked {
					in.Values[need] = joint.Given{Value: unit.Of(20*diameters, unit.Millimetre)}
				}
			}
			g := in.Groups["splice bolts"]
			g.Thread = "M20"
			in.Groups["splice bolts"] = g
			res, err := joint.Compute(in, r)
			require.NoError(t, err)
			all, err := joint.Derive(in, r, res)
			require.NoError(t, err)
			by := sound(t, all)
			for _, v := range res.Values {
				if v.Need.Rule != nil && v.Need.Rule.Name.Turns() && !v.Given.IsZero() {
					d := by[v.Need.Rule.Group+"/"+joint.ValueKey(v.Need.Name)]
					require.InDelta(t, v.Given.Value.Value, d.Result(), 1e-9, "%s, %g d: %s", variant(choices), diameters, d.Numbers())
				}
			}
		}
	}
}

// Readings round a flange, typed: how far they differ and how it tilts is what the
// record says of them.
func TestWhatReadingsComeToIsDerived(t *testing.T) {
	r := named(t, "gasketed-flange")
	h := worktest.New(t, plan(t, r, map[string]string{"work": "make", "gasket": "sheet", "faces": "raised", "bolts": "machine bolts"}))
	h.UpTo("gap")
	done := h.Done(h.Next())
	done.Readings = []float64{2.3, 2.1, 2.5, 2.2}
	done.Reason = "for this test"
	h.Add(done)
	all, err := h.State.Derive()
	require.NoError(t, err)
	by := sound(t, all)
	spread := by["step/gap/spread"]
	require.InDelta(t, 0.4, spread.Result(), 1e-9)
	require.Equal(t, "Δ = max(2.3 mm, 2.1 mm, 2.5 mm, 2.2 mm) − min(2.3 mm, 2.1 mm, 2.5 mm, 2.2 mm)", spread.Numbers())
	circle, _ := h.State.Plan().Result.Aims()["bolt circle"].In(unit.Millimetre)
	require.Positive(t, circle)
	tilt := by["step/gap/tilt"]
	require.InDelta(t, math.Atan(0.4/circle)*180/math.Pi, tilt.Result(), 1e-12)
	require.Contains(t, h.State.Comes("gap", done.Readings), "tilt")
}

// The torques at which tight bolts let go are those of the formula, by age.
func TestWhatLetsGoIsDerived(t *testing.T) {
	r := named(t, "gasketed-flange")
	further, _ := loosened(t, r)
	res, err := joint.Compute(further, r)
	require.NoError(t, err)
	all, err := joint.Derive(further, r, res)
	require.NoError(t, err)
	by := sound(t, all)
	i := slices.IndexFunc(res.Groups, func(g joint.Group) bool { return g.Breakout.Likely > 0 })
	g := res.Groups[i]
	for key, want := range map[string]float64{"low": g.Breakout.Low, "likely": g.Breakout.Likely, "high": g.Breakout.High} {
		d := by[g.Name+"/breakout/"+key]
		require.InEpsilon(t, want, d.Result(), 1e-9, d.Numbers())
		require.True(t, strings.HasPrefix(d.Written(), "T' = (T − Tp)·φ·max("))
	}
}
