package joint_test

import (
	"fmt"
	"math"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"dynacor/core/derive"
	"dynacor/core/joint"
	"dynacor/core/stay"
	"dynacor/core/unit"
	"dynacor/core/work/worktest"
)

// numbersOf are the numbers of a group that are shown, by the key of their derivation.
func numbersOf(g joint.Group) map[string]float64 {
	out := map[string]float64{"torque": g.Torque, "load": g.Load, "likelyLow": g.LikelyLow, "likelyHigh": g.LikelyHigh,
		"worstLow": g.WorstLow, "worstHigh": g.WorstHigh, "mu": g.Coefficient, "utilisation": g.Utilisation, "limit": g.Limit,
		"equivalent": g.Equivalent, "fromSnug": g.FromSnug, "stretch": g.Stretch, "give": g.Springs.Bolt, "parts": g.Springs.Parts}
	for i, t := range g.Torques {
		out[fmt.Sprintf("stage/%d", i+1)] = t
	}
	for _, row := range g.Window {
		out["window/"+row.Key] = row.Limit
	}
	for _, row := range g.Stays {
		out["stay/"+row.Key] = row.Value
		if joint.StayOfLimit(row.Key) {
			out["stay/"+row.Key] = row.Limit
		}
	}
	return out
}

// derived returns the derivations of a group by key, each held against its number.
func derived(t require.TestingT, in joint.Input, res joint.Result, g joint.Group) map[string]derive.Derivation {
	all, err := joint.Derive(in, worktest.Flange(), res)
	require.NoError(t, err)
	by := map[string]derive.Derivation{}
	for _, d := range all {
		require.Equal(t, g.Name, d.Of)
		by[d.Key] = d
		require.Len(t, d.Inputs, len(d.Symbols), d.Key)
		for _, sign := range d.Symbols {
			require.Contains(t, d.Text, "{"+sign.Sign+"}", d.Key)
		}
		require.NotContains(t, d.Numbers(), "{", d.Key)
		for i, x := range d.Inputs {
			require.False(t, math.IsNaN(x.Value) || math.IsInf(x.Value, 0), "%s: %s", d.Key, d.Symbols[i].Sign)
		}
	}
	for _, d := range by {
		for _, x := range d.Inputs {
			if x.Derived {
				from, ok := by[x.From]
				require.True(t, ok, "%s is from %s", d.Key, x.From)
				require.InEpsilon(t, x.Value, from.Result(), 1e-9, "%s from %s", d.Key, x.From)
			}
		}
	}
	for key, number := range numbersOf(g) {
		if number == 0 {
			continue
		}
		d, ok := by[key]
		require.True(t, ok, "%s is derived", key)
		require.InEpsilon(t, number, d.Result(), 1e-9, "%s: %s", key, d.Numbers())
	}
	return by
}

// all is everything that can be known of a flange.
func everything(in *joint.Input, b *joint.Bolts) {
	in.Values["pressure"] = given(16, unit.Bar)
	b.Clamp = joint.Clamp{Length: unit.Of(70, unit.Millimetre), Shank: unit.Of(30, unit.Millimetre), Parts: "ductile iron"}
	b.Stay = joint.Stay{Engaged: unit.Of(18, unit.Millimetre), Finish: stay.Usual, Faces: 2, BoltsWarmer: 40, PartsWarmer: 60,
		Axial: unit.Of(10, unit.Kilonewton), Enters: 0.5, Across: unit.Of(4, unit.Kilonewton), Friction: 0.15, Planes: 1}
}

// Every number of a plan is worked out again by the formula that is shown for it, to
// the same: on drawn sizes, lubricants, aims and forces.
func TestEveryNumberIsTheFormulasThatIsShown(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		in := flange(func(in *joint.Input, b *joint.Bolts) {
			everything(in, b)
			b.Thread = rapid.SampledFrom([]string{"M16", "M20", "M20x1.5", "3/4-10 UNC"}).Draw(t, "thread")
			b.Grade = rapid.SampledFrom([]string{"8.8", "10.9", "B7"}).Draw(t, "grade")
			b.Lubrication = rapid.SampledFrom([]string{"light oil", moly, "copper anti-seize", "stainless, dry"}).Draw(t, "lubricant")
			b.Decision = rapid.SampledFrom([]joint.Decision{joint.KeepTorque, joint.TakeEquivalent}).Draw(t, "decision")
			b.Aim = rapid.SampledFrom(joint.Aims()).Draw(t, "aim")
			b.Share, b.ShareOf = 0, joint.OfYield
			if b.Aim == joint.ByShare || b.Aim == joint.ByChart {
				b.Share = rapid.Float64Range(0.05, 0.5).Draw(t, "share")
			}
			b.Base = rapid.SampledFrom([]string{"steel", "aluminium"}).Draw(t, "base")
			b.Service = unit.Of(rapid.Float64Range(5, 60).Draw(t, "service"), unit.Kilonewton)
			b.Stay.BoltsStiff = rapid.SampledFrom([]float64{0, 0.9, 0.97}).Draw(t, "stiff")
			b.Stay.Settles = rapid.SampledFrom([]float64{0, 4, 20}).Draw(t, "settles")
			b.Turn, b.Stretch = unit.Of(rapid.Float64Range(1, 20).Draw(t, "turn"), unit.Degree), unit.Of(0.03, unit.Millimetre)
			b.Prevailing = unit.Of(rapid.Float64Range(0, 8).Draw(t, "prevailing"), unit.NewtonMetre)
			in.Values["torque"] = given(rapid.Float64Range(20, 160).Draw(t, "torque"), unit.NewtonMetre)
			b.Stay.PartsWarmer = rapid.Float64Range(-100, 200).Draw(t, "warm")
			b.Clamp.TwoNuts = rapid.Bool().Draw(t, "two nuts")
		})
		res, err := joint.Compute(in, worktest.Flange())
		if err != nil {
			t.Skip(err)
		}
		derived(t, in, res, res.Groups[0])
	})
}

// What a sheet says of the load of the eight-bolt flange, worked out by hand.
func TestWhatASheetSays(t *testing.T) {
	in := flange(nil)
	res, g := compute(t, in)
	d := derived(t, in, res, g)["load"]
	require.Equal(t, "F = 1000·(T − Tp)/(K·d)", d.Written())
	require.Equal(t, "F = 1000·(260 N·m − 0 N·m)/(0.17·20 mm)", d.Numbers())
	u, largest := d.Uncertain()
	require.InEpsilon(t, math.Hypot(0.04, 0.04/0.17), u, 1e-6)
	require.Equal(t, "K", d.Symbols[largest].Sign)
	i, follows := d.Most()
	require.Contains(t, []string{"T", "K", "d"}, d.Symbols[i].Sign)
	require.InDelta(t, 1, math.Abs(follows), 1e-6)
	require.InDelta(t, 1, d.Follows(0), 1e-6, "twice the torque, twice the load")
	require.InDelta(t, -1, d.Follows(2), 1e-6)
}

func FuzzDerive(f *testing.F) {
	f.Add(260.0, 70.0, 30.0, 16.0, 60.0, 10.0, 0.5)
	f.Add(math.NaN(), math.Inf(1), -1.0, 1e300, -1e9, 0.0, 2.0)
	f.Fuzz(func(t *testing.T, torque, long, shank, bar, warm, axial, enters float64) {
		in := flange(func(in *joint.Input, b *joint.Bolts) {
			everything(in, b)
			in.Values["torque"], in.Values["pressure"] = given(torque, unit.NewtonMetre), given(bar, unit.Bar)
			b.Clamp.Length, b.Clamp.Shank = unit.Of(long, unit.Millimetre), unit.Of(shank, unit.Millimetre)
			b.Stay.PartsWarmer, b.Stay.Axial, b.Stay.Enters = warm, unit.Of(axial, unit.Kilonewton), enters
		})
		res, err := joint.Compute(in, worktest.Flange())
		if err != nil {
			return
		}
		all, err := joint.Derive(in, worktest.Flange(), res)
		if err != nil {
			t.Fatal(err)
		}
		for _, d := range all {
			if v := d.Result(); math.IsNaN(v) || math.IsInf(v, 0) {
				t.Fatalf("%s: %s = %v", d.Key, d.Numbers(), v)
			}
			_, _ = d.Uncertain()
		}
	})
}

// A plan of 24 bolts with all it is derived from: on the lubricant that its torque was
// written for, and on another.
func BenchmarkComputeDerived24(b *testing.B) {
	same := worktest.Flanged(24)
	same.Values["bolt circle"], same.Values["gasket outer"], same.Values["gasket inner"] = mm(800), mm(720), mm(660)
	r := worktest.Flange()
	for name, in := range map[string]joint.Input{"as written": same, "another lubricant": bonnet24()} {
		b.Run(name, func(b *testing.B) {
			b.ReportAllocs()
			for b.Loop() {
				res, err := joint.Compute(in, r)
				if err != nil {
					b.Fatal(err)
				}
				if _, err := joint.Derive(in, r, res); err != nil {
					b.Fatal(err)
				}
			}
		})
	}
}
