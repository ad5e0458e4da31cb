package joint_test

import (
	"errors"
	"fmt"
	"math"
	"slices"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"dynacor/core/friction"
	"dynacor/core/joint"
	"dynacor/core/recipe"
	"dynacor/core/refusal"
	"dynacor/core/sequence"
	"dynacor/core/unit"
	"dynacor/core/work/worktest"
)

const moly = "molybdenum disulphide paste"

func given(v float64, u unit.Unit) joint.Given { return joint.Given{Value: unit.Of(v, u)} }

func mm(v float64) joint.Given { return given(v, unit.Millimetre) }

// flange is the eight-bolt flange of package worktest, edited.
func flange(edit func(in *joint.Input, b *joint.Bolts)) joint.Input {
	in := worktest.Flanged(8)
	b := in.Groups["bolts"]
	if edit != nil {
		edit(&in, &b)
	}
	in.Groups["bolts"] = b
	return in
}

func compute(t require.TestingT, in joint.Input) (joint.Result, joint.Group) {
	res, err := joint.Compute(in, worktest.Flange())
	require.NoError(t, err)
	return res, res.Groups[0]
}

func minds(res joint.Result) string {
	var all string
	for _, m := range res.Minds {
		all += m.Text + "\n"
	}
	return all
}

// bonnet is a flange worked out by hand: 16 × M30 8.8, 980 N·m written for light
// oil (K 0.17), moly paste on the job (K 0.13).
func bonnet() joint.Input {
	return flange(func(in *joint.Input, b *joint.Bolts) {
		*b = joint.Bolts{Count: 16, Thread: "M30", Grade: "8.8", SpecifiedFor: "light oil", Lubrication: moly,
			Decision: joint.TakeEquivalent, Stages: "30-60-100"}
		in.Choices["gasket"] = "spiral"
		in.Values["torque"], in.Values["bolt circle"] = given(980, unit.NewtonMetre), mm(560)
		in.Values["gasket outer"], in.Values["gasket inner"] = mm(480), mm(420)
	})
}

func TestBonnetByHand(t *testing.T) {
	res, g := compute(t, bonnet())
	require.InDelta(t, 980*0.13/0.17, g.Torque, 1e-9)
	require.InDelta(t, 1000*g.Torque/(0.13*30), g.Load, 1e-6)
	require.InDelta(t, 60*math.Pi/4*(480*480-420*420)/16, g.Needed, 1e-6, "60 MPa over the gasket, a sixteenth each")
	likely := math.Hypot(0.04, 0.03/0.13) // the wrench's share and the nut factor's
	require.InDelta(t, 1+likely, g.LikelyHigh/g.Load, 1e-9)
	require.Equal(t, []float64{30, 60, 100}, g.Stages)
	require.InDelta(t, 0.3*g.Torque, g.Torques[0], 1e-9)
	require.Less(t, g.Utilisation, 0.9)
	require.InDelta(t, g.Limit, g.Load/g.Utilisation, 1e-6)
	require.Empty(t, res.Open)
}

func TestTheSameTorqueIsNeverConvertedSilently(t *testing.T) {
	in := bonnet()
	b := in.Groups["bolts"]
	b.Decision = joint.Undecided
	in.Groups["bolts"], in.Values["torque"] = b, given(800, unit.NewtonMetre)
	res, g := compute(t, in)
	require.InDelta(t, 800, g.Torque, 1e-9)
	require.NotEmpty(t, res.Open)
	require.InDelta(t, 800*0.13/0.17, g.Equivalent, 1e-9)
	require.True(t, slices.ContainsFunc(res.Minds, func(m joint.Mind) bool { return m.Take == joint.TakeEquivalent }))
	b.Decision = joint.KeepTorque
	in.Groups["bolts"] = b
	res, g = compute(t, in)
	require.InDelta(t, 800, g.Torque, 1e-9)
	require.Empty(t, res.Open)
}

func TestPrevailingTorqueMakesNoLoadAndIsNotConverted(t *testing.T) {
	in := bonnet()
	b := in.Groups["bolts"]
	b.Prevailing = unit.Of(40, unit.NewtonMetre)
	in.Groups["bolts"] = b
	_, g := compute(t, in)
	require.InDelta(t, (980-40)*0.13/0.17+40, g.Torque, 1e-9)
	require.InDelta(t, 1000*(980-40)/(0.17*30), g.Load, 1e-6)
}

func TestARangeAimsAtItsMiddle(t *testing.T) {
	_, g := compute(t, flange(func(in *joint.Input, _ *joint.Bolts) {
		in.Values["torque"] = joint.Given{Value: unit.Of(150, unit.FootPound), Max: unit.Of(170, unit.FootPound)}
	}))
	require.InDelta(t, 160*1.3558179483314004, g.Torque, 1e-9)
	require.InDelta(t, 150*1.3558179483314004, g.TorqueMin, 1e-9)
}

// What is not as it should be is refused beside its word, with its limit.
func TestWhatCannotBeIsRefusedBesideItsWord(t *testing.T) {
	for _, c := range []struct {
		name  string
		edit  func(*joint.Input, *joint.Bolts)
		field string
		limit float64
	}{
		{"too many bolts", func(in *joint.Input, b *joint.Bolts) { in.Values["bolt circle"], b.Count = mm(9000), 500 },
			"groups.bolts.count", 200},
		{"nuts that touch", func(_ *joint.Input, b *joint.Bolts) { b.Count, b.Order = 40, sequence.Star }, "values.bolt circle",
			30 / math.Cos(math.Pi/6) / math.Sin(math.Pi/40)},
		{"unknown thread", func(_ *joint.Input, b *joint.Bolts) { b.Thread = "M21" }, "groups.bolts.thread", 0},
		{"unknown grade", func(_ *joint.Input, b *joint.Bolts) { b.Grade = "7.7" }, "groups.bolts.grade", 0},
		{"gasket wider than the circle", func(in *joint.Input, _ *joint.Bolts) { in.Values["gasket outer"] = mm(250) },
			"values.gasket outer", 220},
		{"gasket inside out", func(in *joint.Input, _ *joint.Bolts) { in.Values["gasket inner"] = mm(210) }, "values.gasket outer", 210},
		{"torque past the stud", func(in *joint.Input, _ *joint.Bolts) { in.Values["torque"] = given(2600, unit.NewtonMetre) },
			"groups.bolts.torque", 0},
		{"torque is no length", func(in *joint.Input, _ *joint.Bolts) { in.Values["torque"] = mm(260) }, "values.torque", 0},
		{"range the wrong way", func(in *joint.Input, _ *joint.Bolts) {
			in.Values["torque"] = joint.Given{Value: unit.Of(260, unit.NewtonMetre), Max: unit.Of(200, unit.NewtonMetre)}
		}, "values.torque", 0},
		{"stages nobody knows", func(_ *joint.Input, b *joint.Bolts) { b.Stages = "60-20-100" }, "groups.bolts.stages", 0},
		{"first stage crushes", func(_ *joint.Input, b *joint.Bolts) { b.Stages = "50-100" }, "groups.bolts.stages", 30},
		{"cross on ten", func(_ *joint.Input, b *joint.Bolts) { b.Count, b.Order = 10, sequence.Cross4 }, "groups.bolts.order", 4},
		{"start off the ring", func(_ *joint.Input, b *joint.Bolts) { b.Start = 9 }, "groups.bolts.start", 8},
		{"share in percent", func(_ *joint.Input, b *joint.Bolts) { b.Share, b.ShareOf = 55, joint.OfYield }, "groups.bolts.share", 1},
		{"share past yield", func(_ *joint.Input, b *joint.Bolts) { b.Share, b.ShareOf = 0.95, joint.OfYield }, "groups.bolts.share", 0},
		{"NaN", func(in *joint.Input, _ *joint.Bolts) { in.Values["bolt circle"] = mm(math.NaN()) }, "values.bolt circle", 0},
		{"too much on the job's paste", func(in *joint.Input, b *joint.Bolts) {
			in.Values["torque"], b.Lubrication, b.Decision = given(520, unit.NewtonMetre), "PTFE-coated", joint.KeepTorque
		}, "groups.bolts.lubrication", 0},
	} {
		_, err := joint.Compute(flange(c.edit), worktest.Flange())
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

// What a plan asks to be kept in mind, and that it stays silent otherwise.
func TestMinds(t *testing.T) {
	res, _ := compute(t, flange(nil))
	require.Empty(t, res.Minds, "a plain flange has nothing special")
	torque := func(v float64) func(*joint.Input, *joint.Bolts) {
		return func(in *joint.Input, _ *joint.Bolts) { in.Values["torque"] = given(v, unit.NewtonMetre) }
	}
	for _, c := range []struct {
		name, says string
		edit       func(*joint.Input, *joint.Bolts)
	}{
		{"another lubricant", "written for", func(_ *joint.Input, b *joint.Bolts) { b.Lubrication = moly }},
		{"equivalent taken", "The equivalent is 198.8 N·m", func(_ *joint.Input, b *joint.Bolts) {
			b.Lubrication, b.Decision = moly,
				joint.TakeEquivalent
		}},
		{"an inch grade on a metric thread", "Grade 5 is a grade of inch threads", func(_ *joint.Input,
			b *joint.Bolts) {
			b.Grade = "grade 5"
		}},
		{"near yield", "% of their yield", torque(455)},
		{"seats not over all that is likely", "not over all that is likely", torque(170)},
		{"computed", "computed", func(_ *joint.Input, b *joint.Bolts) { b.Share, b.ShareOf = 0.5, joint.OfYield }},
		{"no proof value", "proof", func(_ *joint.Input, b *joint.Bolts) { b.Share, b.ShareOf, b.Grade = 0.5, joint.OfProof, "A4-70" }},
		{"hard first stage on a soft gasket", "gasket", func(in *joint.Input, b *joint.Bolts) {
			in.Choices["gasket"], b.Stages = "soft",
				"30-60-100"
		}},
		{"dry", "dry", func(_ *joint.Input, b *joint.Bolts) {
			b.SpecifiedFor, b.Lubrication = "dry, plain as received", "dry, plain as received"
		}},
	} {
		res, _ := compute(t, flange(c.edit))
		require.Contains(t, minds(res), c.says, c.name)
	}
}

// A metric thread with a grade of inch threads is issued with a reason, and the
// record shows it.
func TestAnInchGradeOnAMetricThread(t *testing.T) {
	grade := func(reason string) func(*joint.Input, *joint.Bolts) {
		return func(_ *joint.Input, b *joint.Bolts) { b.Grade, b.Reason = "grade 5", reason }
	}
	res, _ := compute(t, flange(grade("")))
	require.Contains(t, res.Open, joint.Open{Field: "groups.bolts.reason", Text: "Grade 5 on M20: read again, or the engineer's reason."})
	res, _ = compute(t, flange(grade("the box says so")))
	require.Empty(t, res.Open)
	require.Equal(t, []string{"bolts: grade 5 on the metric thread M20: the box says so"}, res.Deviations)
}

// A nut's own torque twists the bolt too: it takes from what the bolt may be
// loaded to.
func TestAPrevailingNutTwistsTheBolt(t *testing.T) {
	_, plain := compute(t, flange(nil))
	_, locking := compute(t, flange(func(in *joint.Input, b *joint.Bolts) {
		b.Prevailing = unit.Of(20, unit.NewtonMetre)
		in.Values["torque"] = joint.Given{Value: unit.Of(plain.Torque+20, unit.NewtonMetre)}
	}))
	require.InEpsilon(t, plain.Load, locking.Load, 1e-9)
	require.Greater(t, locking.Utilisation, plain.Utilisation)
	require.Less(t, locking.Limit, plain.Limit)
}

// The torque that is refused is the one beyond which the bolt yields.
func TestTheRefusedTorqueIsTheLimit(t *testing.T) {
	_, g := compute(t, flange(nil))
	most := g.Torque / g.Utilisation
	_, err := joint.Compute(flange(func(in *joint.Input, _ *joint.Bolts) { in.Values["torque"] = given(most*(1-1e-6), unit.NewtonMetre) }),
		worktest.Flange())
	require.NoError(t, err)
	_, err = joint.Compute(flange(func(in *joint.Input, _ *joint.Bolts) { in.Values["torque"] = given(most*(1+1e-6), unit.NewtonMetre) }),
		worktest.Flange())
	require.ErrorContains(t, err, "yield")
}

// The same joint in inches and foot-pounds comes to the same answer.
func TestUnitsDoNotChangeTheAnswer(t *testing.T) {
	_, a := compute(t, flange(nil))
	_, b := compute(t, flange(func(in *joint.Input, _ *joint.Bolts) {
		for _, need := range []string{"bolt circle", "gasket outer", "gasket inner", "gap limit"} {
			q, err := in.Values[need].Value.To(unit.Inch)
			require.NoError(t, err)
			in.Values[need] = joint.Given{Value: q}
		}
		q, err := in.Values["torque"].Value.To(unit.FootPound)
		require.NoError(t, err)
		in.Values["torque"] = joint.Given{Value: q}
	}))
	require.InEpsilon(t, a.Torque, b.Torque, 1e-12)
	require.InEpsilon(t, a.Needed, b.Needed, 1e-12)
	require.Equal(t, a.Order, b.Order)
}

// A share of strength gives the torque, and with it the load: 0.5 of 660 MPa on
// M20, 244.8 mm².
func TestAShareOfStrength(t *testing.T) {
	_, g := compute(t, flange(func(in *joint.Input, b *joint.Bolts) {
		b.Share, b.ShareOf = 0.5, joint.OfYield
		delete(in.Values, "torque")
	}))
	require.InDelta(t, 0.5*660*244.79, g.Load, 60)
	require.InEpsilon(t, 0.17*20*g.Load/1000, g.Torque, 1e-9)
}

// The first bolt is where it is told to be, and a bolt on the top is one.
func TestWhereTheOrderBegins(t *testing.T) {
	_, g := compute(t, flange(func(_ *joint.Input, b *joint.Bolts) { b.Start, b.OnCentre = 3, true }))
	want, err := sequence.Ring(g.Pattern, 8, 3)
	require.NoError(t, err)
	require.Equal(t, want, g.Order)
	require.True(t, g.OnCentre)
}

// However the inputs are drawn, a plan that is given keeps the bolt below its
// yield while it is turned, and its stages end at its torque.
func TestPlansStayBelowYield(t *testing.T) {
	var lubricants []string
	for _, l := range friction.Lubricants() {
		lubricants = append(lubricants, l.Name)
	}
	rapid.Check(t, func(t *rapid.T) {
		in := flange(func(in *joint.Input, b *joint.Bolts) {
			in.Values["torque"] = given(rapid.Float64Range(1, 3000).Draw(t, "torque"), rapid.SampledFrom([]unit.Unit{unit.NewtonMetre,
				unit.FootPound}).Draw(t, "unit"))
			b.SpecifiedFor, b.Lubrication = rapid.SampledFrom(lubricants).Draw(t, "spec"), rapid.SampledFrom(lubricants).Draw(t, "job")
			b.Decision = rapid.SampledFrom([]joint.Decision{joint.KeepTorque, joint.TakeEquivalent}).Draw(t, "decision")
			b.Thread = rapid.SampledFrom([]string{"M12", "M16", "M20", "3/4-10 UNC"}).Draw(t, "thread")
		})
		res, err := joint.Compute(in, worktest.Flange())
		if err != nil {
			var refused *refusal.Error
			require.True(t, errors.As(err, &refused), "%v", err)
			return
		}
		g := res.Groups[0]
		require.LessOrEqual(t, g.Utilisation, 1+1e-9)
		require.LessOrEqual(t, g.WorstLow, g.LikelyLow+1e-6)
		require.GreaterOrEqual(t, g.WorstHigh, g.LikelyHigh-1e-6)
		require.InEpsilon(t, g.Torque, g.Torques[len(g.Torques)-1], 1e-12)
	})
}

func FuzzCompute(f *testing.F) {
	f.Add(8, "M20", "8.8", 240.0, 205.0, 160.0, 260.0, 0.0, 1)
	f.Add(0, "", "", math.NaN(), math.Inf(1), -1.0, 0.0, 1e300, -4)
	f.Fuzz(func(t *testing.T, n int, th, grade string, circle, outer, inner, torque, share float64, start int) {
		in := flange(func(in *joint.Input, b *joint.Bolts) {
			b.Count, b.Thread, b.Grade, b.Start, b.Share, b.Order = n, th, grade, start, share, sequence.Star
			in.Values["bolt circle"], in.Values["gasket outer"], in.Values["gasket inner"] = mm(circle), mm(outer), mm(inner)
			in.Values["torque"] = given(torque, unit.NewtonMetre)
		})
		res, err := joint.Compute(in, worktest.Flange())
		if err != nil || len(res.Open) > 0 {
			return
		}
		if g := res.Groups[0]; len(g.Order) != g.Count || !(g.Load > 0) || g.Utilisation > 1+1e-9 {
			t.Fatalf("%+v gave %+v", in, res)
		}
	})
}

// bonnet24 is the plan that is measured: 24 bolts on a gasket, on another lubricant than
// their torque was written for.
func bonnet24() joint.Input {
	in := bonnet()
	bolts := in.Groups["bolts"]
	bolts.Count = 24
	in.Groups["bolts"] = bolts
	in.Values["bolt circle"], in.Values["gasket outer"], in.Values["gasket inner"] = mm(800), mm(720), mm(660)
	return in
}

func BenchmarkCompute24(b *testing.B) {
	in, r := bonnet24(), worktest.Flange()
	b.ReportAllocs()
	for b.Loop() {
		if _, err := joint.Compute(in, r); err != nil {
			b.Fatal(err)
		}
	}
}

func ExampleCompute() {
	res, _ := joint.Compute(worktest.Flanged(8), worktest.Flange())
	g := res.Groups[0]
	fmt.Printf("%.0f N·m, %.1f kN a bolt, order %v\n", g.Torque, g.Load/1000, g.Order)
	// Output: 260 N·m, 76.5 kN a bolt, order [1 5 3 7 2 6 4 8]
}

func TestTheExamplesAreRecipes(t *testing.T) {
	for _, r := range []recipe.Recipe{worktest.Flange(), worktest.Frame()} {
		require.NoError(t, r.Check())
	}
}

// A strength from the paper of the lot is counted with, and called by its number.
func TestAStrengthByCertificate(t *testing.T) {
	mpa := func(v float64) unit.Quantity { return unit.Of(v, unit.Megapascal) }
	paper := func(c joint.Certificate) func(*joint.Input, *joint.Bolts) {
		return func(_ *joint.Input, b *joint.Bolts) { b.Grade, b.Certificate = joint.ByCertificate, c }
	}
	_, plain := compute(t, flange(nil))
	res, g := compute(t, flange(paper(joint.Certificate{Number: " HT-2207 ", Yield: mpa(660), Tensile: mpa(830)})))
	require.Empty(t, res.Open)
	require.Equal(t, "certificate HT-2207, 660/830 MPa", g.Grade)
	require.Equal(t, plain.Utilisation, g.Utilisation)
	_, g = compute(t, flange(paper(joint.Certificate{Number: "1", Yield: unit.Of(95724.6, unit.PSI), Tensile: mpa(830)})))
	require.InEpsilon(t, plain.Utilisation, g.Utilisation, 1e-4)
	_, g = compute(t, flange(func(in *joint.Input, b *joint.Bolts) {
		paper(joint.Certificate{Number: "2", Proof: mpa(500), Yield: mpa(660), Tensile: mpa(830)})(in, b)
		b.Share, b.ShareOf = 0.5, joint.OfProof
	}))
	require.InEpsilon(t, 0.5*500*244.79, g.Load, 1e-4)
	for name, c := range map[string]struct {
		paper joint.Certificate
		code  refusal.Code
	}{
		"no number":          {joint.Certificate{Yield: mpa(660), Tensile: mpa(830)}, refusal.Missing},
		"yield past tensile": {joint.Certificate{Number: "1", Yield: mpa(900), Tensile: mpa(830)}, refusal.Contradicts},
		"proof past yield":   {joint.Certificate{Number: "1", Proof: mpa(700), Yield: mpa(660), Tensile: mpa(830)}, refusal.Contradicts},
		"no yield":           {joint.Certificate{Number: "1", Yield: mpa(0), Tensile: mpa(830)}, refusal.NotPositive},
		"psi typed as MPa":   {joint.Certificate{Number: "1", Yield: mpa(660), Tensile: mpa(120000)}, refusal.TooLarge},
		"a length": {joint.Certificate{Number: "1", Yield: unit.Of(660, unit.Millimetre), Tensile: mpa(830)},
			refusal.Contradicts},
		"not a number": {joint.Certificate{Number: "1", Yield: mpa(math.NaN()), Tensile: mpa(830)}, refusal.NotANumber},
	} {
		in := flange(paper(c.paper))
		_, err := joint.Compute(in, worktest.Flange())
		require.ErrorIs(t, err, &refusal.Error{Code: c.code, Field: "groups.bolts.grade"}, name)
	}
}

// The likely band is the budget's: root sum of squares of its parts, the largest named.
func TestTheBudgetIsTheBand(t *testing.T) {
	_, g := compute(t, flange(nil))
	b := g.Budget()
	require.InEpsilon(t, math.Hypot(g.K.Spread(), g.Accuracy), b.Expanded, 1e-12)
	require.InEpsilon(t, g.Load*(1+b.Expanded), g.LikelyHigh, 1e-9)
	require.Equal(t, "nut factor", b.Parts[b.Largest].Name)
	require.InEpsilon(t, 1, b.Share(0)+b.Share(1), 1e-12)
	require.Greater(t, b.Share(0), 0.9)
	require.Empty(t, joint.Group{}.Budget().Parts)
}

// Only a pretension by its rule may take a bolt past its yield. A torque that is
// typed is refused on a structural grade as on any other.
func TestATypedTorqueOnAStructuralGradeIsRefusedPastYield(t *testing.T) {
	in := flange(func(in *joint.Input, b *joint.Bolts) {
		b.Grade = "10.9 HV"
		in.Values["torque"] = joint.Given{Value: unit.Of(2600, unit.NewtonMetre)}
	})
	_, err := joint.Compute(in, worktest.Flange())
	require.ErrorIs(t, err, &refusal.Error{Code: refusal.TooLarge, Field: "groups.bolts.torque"})
}
