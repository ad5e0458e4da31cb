package plan_test

import (
	"errors"
	"fmt"
	"math"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"dynacor/core/friction"
	"dynacor/core/plan"
	"dynacor/core/refusal"
	"dynacor/core/unit"
)

func mm(v float64) unit.Quantity { return unit.Of(v, unit.Millimetre) }

// bonnet is a flange worked out by hand: 16 × M30 8.8, 980 N·m written for
// light oil (K 0.17), moly paste on the job (K 0.13).
func bonnet() plan.Input {
	in := plan.Starting()
	in.Bolts, in.Thread, in.BoltCircle = 16, "M30", mm(560)
	in.Gasket = plan.Gasket{Kind: "spiral gasket", Outer: mm(480), Inner: mm(420)}
	in.Target.Torque = unit.Of(980, unit.NewtonMetre)
	in.Lubrication, in.Decision = "molybdenum disulphide paste", plan.TakeEquivalent
	in.Shares = []float64{30, 60, 100}
	return in
}

func TestBonnetByHand(t *testing.T) {
	r, err := plan.Compute(bonnet())
	require.NoError(t, err)
	require.InDelta(t, 980*0.13/0.17, r.Torque, 1e-9)
	require.InDelta(t, 1000*r.Torque/(0.13*30), r.Load, 1e-6)
	require.InDelta(t, 60*math.Pi/4*(480*480-420*420)/16, r.Needed, 1e-6, "60 MPa over the gasket, a sixteenth each")
	require.InDelta(t, math.Hypot(0.04, 0.03/0.13), r.Band.Spread, 1e-12)
	require.Equal(t, []float64{225, 450, 749}, []float64{r.Passes[0].Shown, r.Passes[1].Shown, r.Passes[2].Shown})
	require.Less(t, r.Utilisation, 0.9)
	require.InDelta(t, r.Limit, r.Load/r.Utilisation, 1e-6)
	require.False(t, r.Undecided)
	in := bonnet()
	in.GapLimit = unit.Quantity{}
	r, err = plan.Compute(in)
	require.NoError(t, err)
	require.Equal(t, 0.8, r.GapLimit, "the usual limit where the maker gives none")
}

func TestTheSameTorqueIsNeverConvertedSilently(t *testing.T) {
	in := bonnet()
	in.Decision = plan.Undecided
	in.Target.Torque = unit.Of(800, unit.NewtonMetre)
	r, err := plan.Compute(in)
	require.NoError(t, err)
	require.InDelta(t, 800, r.Torque, 1e-9)
	require.True(t, r.Undecided)
	require.InDelta(t, 800*0.13/0.17, r.Equivalent, 1e-9)
	require.Equal(t, plan.TakeEquivalent, r.Minds[0].Take)
	in.Decision = plan.KeepTorque
	r, err = plan.Compute(in)
	require.NoError(t, err)
	require.InDelta(t, 800, r.Torque, 1e-9)
	require.False(t, r.Undecided)
}

func TestPrevailingTorqueMakesNoLoadAndIsNotConverted(t *testing.T) {
	in := bonnet()
	in.Prevailing = unit.Of(40, unit.NewtonMetre)
	r, err := plan.Compute(in)
	require.NoError(t, err)
	require.InDelta(t, (980-40)*0.13/0.17+40, r.Torque, 1e-9)
	require.InDelta(t, 1000*(980-40)/(0.17*30), r.Load, 1e-6)
	require.InDelta(t, r.Load, r.Band.Nominal, 1e-6)
}

func TestARangeAimsAtItsMiddle(t *testing.T) {
	in := plan.Starting()
	in.Target.Torque, in.Target.Max = unit.Of(100, unit.FootPound), unit.Of(120, unit.FootPound)
	r, err := plan.Compute(in)
	require.NoError(t, err)
	require.InDelta(t, 110*1.3558179483314004, r.Torque, 1e-9)
}

func TestWhatCannotBeIsRefusedBesideItsWord(t *testing.T) {
	for _, c := range []struct {
		name  string
		edit  func(*plan.Input)
		field string
		limit float64
	}{
		{"no bolts", func(in *plan.Input) { in.Bolts = 0 }, "bolts", 3},
		{"too many bolts", func(in *plan.Input) { in.Bolts = 500 }, "bolts", 200},
		{"nuts that touch", func(in *plan.Input) { in.Bolts = 40; in.Order = "star" }, "boltCircle", 30 / math.Cos(math.Pi/6) / math.Sin(math.Pi/40)},
		{"unknown thread", func(in *plan.Input) { in.Thread = "M21" }, "thread", 0},
		{"unknown grade", func(in *plan.Input) { in.Grade = "7.7" }, "grade", 0},
		{"gasket wider than the circle", func(in *plan.Input) { in.Gasket.Outer = mm(250) }, "gasket.outer", 220},
		{"gasket inside out", func(in *plan.Input) { in.Gasket.Inner = mm(210) }, "gasket.outer", 210},
		{"torque past the stud", func(in *plan.Input) { in.Target.Torque = unit.Of(2600, unit.NewtonMetre) }, "target.torque", 0},
		{"torque is no length", func(in *plan.Input) { in.Target.Torque = mm(260) }, "target.torque", 0},
		{"range the wrong way", func(in *plan.Input) { in.Target.Max = unit.Of(200, unit.NewtonMetre) }, "target.max", 260},
		{"passes that fall", func(in *plan.Input) { in.Shares = []float64{60, 20, 100} }, "passes", 60},
		{"first pass crushes", func(in *plan.Input) { in.Shares = []float64{50, 100} }, "passes", 30},
		{"cross on ten", func(in *plan.Input) { in.Bolts = 10 }, "order", 4},
		{"start off the ring", func(in *plan.Input) { in.Start = 9 }, "start", 8},
		{"share in percent", func(in *plan.Input) { in.Target.Mode, in.Target.Share = plan.Share, 55 }, "target.share", 1},
		{"share past yield", func(in *plan.Input) { in.Target.Mode, in.Target.Share = plan.Share, 0.95 }, "target.share", 0},
		{"NaN", func(in *plan.Input) { in.BoltCircle = mm(math.NaN()) }, "boltCircle", 0},
		{"nothing entered", func(in *plan.Input) { in.BoltCircle = unit.Quantity{} }, "boltCircle", 0},
		{"too much on the job's paste", func(in *plan.Input) {
			in.Target.Torque, in.Lubrication = unit.Of(520, unit.NewtonMetre), "PTFE-coated"
		}, "lubrication", 0},
	} {
		in := plan.Starting()
		c.edit(&in)
		_, err := plan.Compute(in)
		var r *refusal.Error
		require.True(t, errors.As(err, &r), "%s: %v", c.name, err)
		require.Equal(t, c.field, r.Field, "%s: %v", c.name, err)
		if c.limit != 0 {
			require.True(t, r.HasLimit, c.name)
			require.InEpsilon(t, c.limit, r.Limit, 1e-6, c.name)
		}
		require.NotEmpty(t, r.Text, c.name)
	}
}

// However the inputs are drawn, a plan that is given keeps the bolt below its
// yield while it is turned, and its passes end at its torque.
func TestPlansStayBelowYield(t *testing.T) {
	var lubricants []string
	for _, l := range friction.Lubricants() {
		lubricants = append(lubricants, l.Name)
	}
	rapid.Check(t, func(t *rapid.T) {
		in := plan.Starting()
		in.Target.Torque = unit.Of(rapid.Float64Range(1, 3000).Draw(t, "torque"), rapid.SampledFrom([]unit.Unit{unit.NewtonMetre, unit.FootPound}).Draw(t, "unit"))
		in.SpecifiedFor, in.Lubrication = rapid.SampledFrom(lubricants).Draw(t, "spec"), rapid.SampledFrom(lubricants).Draw(t, "job")
		in.Decision = rapid.SampledFrom([]plan.Decision{plan.KeepTorque, plan.TakeEquivalent}).Draw(t, "decision")
		in.Thread = rapid.SampledFrom([]string{"M12", "M16", "M20", "3/4-10 UNC"}).Draw(t, "thread")
		r, err := plan.Compute(in)
		if err != nil {
			var refused *refusal.Error
			require.True(t, errors.As(err, &refused))
			return
		}
		require.LessOrEqual(t, r.Utilisation, 1+1e-9)
		require.LessOrEqual(t, r.Band.Min, r.LikelyLow+1e-6)
		require.GreaterOrEqual(t, r.Band.Max, r.LikelyHigh-1e-6)
		require.InEpsilon(t, r.Torque, r.Passes[len(r.Passes)-1].Torque, 1e-12)
	})
}

func FuzzCompute(f *testing.F) {
	f.Add(8, "M20", "8.8", 240.0, 205.0, 160.0, 260.0, 20.0, 60.0)
	f.Add(0, "", "", math.NaN(), math.Inf(1), -1.0, 0.0, 0.0, 1e300)
	f.Fuzz(func(t *testing.T, n int, th, grade string, circle, outer, inner, torque, s1, s2 float64) {
		in := plan.Starting()
		in.Bolts, in.Thread, in.Grade, in.BoltCircle = n, th, grade, mm(circle)
		in.Gasket.Outer, in.Gasket.Inner = mm(outer), mm(inner)
		in.Target.Torque, in.Shares, in.Order = unit.Of(torque, unit.NewtonMetre), []float64{s1, s2, 100}, "star"
		r, err := plan.Compute(in)
		if err == nil && (len(r.Order) != n || !(r.Load > 0) || r.Utilisation > 1+1e-9) {
			t.Fatalf("%+v gave %+v", in, r)
		}
	})
}

func BenchmarkCompute24(b *testing.B) {
	in := bonnet()
	in.Bolts, in.BoltCircle, in.Gasket.Outer, in.Gasket.Inner = 24, mm(800), mm(720), mm(660)
	b.ReportAllocs()
	for b.Loop() {
		if _, err := plan.Compute(in); err != nil {
			b.Fatal(err)
		}
	}
}

func ExampleCompute() {
	r, _ := plan.Compute(plan.Starting())
	fmt.Printf("%.0f N·m, %.1f kN a bolt, order %v\n", r.Torque, r.Load/1000, r.Order)
	// Output: 260 N·m, 76.5 kN a bolt, order [1 5 3 7 2 6 4 8]
}
