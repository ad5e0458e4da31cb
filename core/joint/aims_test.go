package joint_test

import (
	"math"
	"slices"
	"testing"

	"github.com/stretchr/testify/require"

	"dynacor/core/joint"
	"dynacor/core/preload"
	"dynacor/core/recipe"
	"dynacor/core/refusal"
	"dynacor/core/stay"
	"dynacor/core/unit"
	"dynacor/core/work/worktest"
)

// m20 is its stress area, mm², by hand: π/4·(20 − 0.938194·2.5)².
var m20 = math.Pi / 4 * math.Pow(20-0.938194*2.5, 2)

// Each aim comes to its load, worked out by hand, and the torque follows from it.
func TestWhatIsAimedAt(t *testing.T) {
	deg := func(v float64) unit.Quantity { return unit.Of(v, unit.Degree) }
	clamp := joint.Clamp{Length: unit.Of(60, unit.Millimetre), Shank: unit.Of(20, unit.Millimetre)}
	an, ar := math.Pi/4*400, math.Pi/4*math.Pow(20-1.226869*2.5, 2)
	bolt := (0.5*20/an + 20/an + 40/ar + 0.4*20/an + 0.5*20/ar) / 205_000
	parts := 2 * math.Log(5*(0.57735*60+10)/(0.57735*60+50)) / (0.57735 * math.Pi * 205_000 * 20)
	for name, c := range map[string]struct {
		edit func(*joint.Input, *joint.Bolts)
		load float64
	}{
		"share of yield": {func(_ *joint.Input, b *joint.Bolts) { b.Aim, b.Share, b.ShareOf = joint.ByShare, 0.4, joint.OfYield },
			0.4 * 660 * m20},
		"share of proof": {func(_ *joint.Input, b *joint.Bolts) { b.Aim, b.Share, b.ShareOf = joint.ByShare, 0.4, joint.OfProof },
			0.4 * 600 * m20},
		"chart": {func(_ *joint.Input, b *joint.Bolts) { b.Aim, b.Share, b.Base = joint.ByChart, 0.5, "cast iron" },
			0.5 * 600 * m20 * 0.9},
		"chart, derated by its maker": {func(_ *joint.Input, b *joint.Bolts) {
			b.Aim, b.Share, b.Base, b.Derate = joint.ByChart, 0.5, "aluminium", 0.8
		}, 0.5 * 600 * m20 * 0.8},
		"gasket": {func(_ *joint.Input, b *joint.Bolts) { b.Aim = joint.ByGasket }, 50 * math.Pi / 4 * (205*205 - 160*160) / 8},
		"gasket, held": {func(in *joint.Input, b *joint.Bolts) { b.Aim, in.Choices["gasket"] = joint.ByGasket, "metal ring" },
			0.7 * 660 * m20},
		"pretension": {func(_ *joint.Input, b *joint.Bolts) { b.Aim, b.Grade = joint.ByPretension, "10.9" }, 0.7 * 1040 * m20},
		"turn": {func(_ *joint.Input, b *joint.Bolts) { b.Aim, b.Turn, b.Clamp = joint.ByTurn, deg(15), clamp },
			15 * 2.5 / (360 * (bolt + parts))},
		"stretch": {func(_ *joint.Input, b *joint.Bolts) {
			b.Aim, b.Stretch, b.Clamp = joint.ByStretch, unit.Of(0.05, unit.Millimetre), clamp
		}, 0.05 / bolt},
	} {
		res, g := compute(t, flange(func(in *joint.Input, b *joint.Bolts) {
			delete(in.Values, "torque")
			c.edit(in, b)
		}))
		_ = res
		require.InEpsilon(t, c.load, g.Load, 1e-6, name)
		require.InEpsilon(t, 0.17*20*g.Load/1000, g.Torque, 1e-9, name)
	}
	_, g := compute(t, flange(func(_ *joint.Input, b *joint.Bolts) { b.Clamp = clamp }))
	require.InEpsilon(t, 360*g.Load*(bolt+parts)/2.5, g.FromSnug, 1e-9)
	require.InEpsilon(t, g.Load*bolt, g.Stretch, 1e-9)
}

// An aim that lacks what it follows from is open; one that cannot be is refused.
func TestAimsThatCannotBe(t *testing.T) {
	res, _ := compute(t, flange(func(_ *joint.Input, b *joint.Bolts) { b.Aim, b.Turn = joint.ByTurn, unit.Of(15, unit.Degree) }))
	require.Equal(t, "groups.bolts.clamp", res.Open[0].Field)
	clamp := joint.Clamp{Length: unit.Of(60, unit.Millimetre)}
	for name, c := range map[string]struct {
		edit  func(*joint.Input, *joint.Bolts)
		code  refusal.Code
		field string
	}{
		"unknown": {func(_ *joint.Input, b *joint.Bolts) { b.Aim = "guess" }, refusal.Unknown, "groups.bolts.aim"},
		"base": {func(_ *joint.Input, b *joint.Bolts) { b.Aim, b.Share, b.Base = joint.ByChart, 0.5, "wood" }, refusal.Unknown,
			"groups.bolts.share"},
		"derate":  {func(_ *joint.Input, b *joint.Bolts) { b.Aim, b.Share, b.Derate = joint.ByChart, 0.5, 1.4 }, "", ""},
		"no turn": {func(_ *joint.Input, b *joint.Bolts) { b.Aim, b.Clamp = joint.ByTurn, clamp }, "", ""},
		"two rounds": {func(_ *joint.Input, b *joint.Bolts) {
			b.Aim, b.Clamp, b.Turn = joint.ByTurn, clamp, unit.Of(900, unit.Degree)
		}, "", ""},
		"a mile": {func(_ *joint.Input, b *joint.Bolts) { b.Clamp.Length = unit.Of(1e6, unit.Millimetre) }, refusal.TooLarge,
			"groups.bolts.clamp"},
		"longer shank": {func(_ *joint.Input, b *joint.Bolts) {
			b.Clamp = joint.Clamp{Length: unit.Of(60, unit.Millimetre), Shank: unit.Of(61, unit.Millimetre)}
		}, refusal.Contradicts, "groups.bolts.clamp"},
		"parts of wood": {func(_ *joint.Input, b *joint.Bolts) {
			b.Clamp = joint.Clamp{Length: unit.Of(60, unit.Millimetre), Parts: "wood"}
		},
			refusal.Unknown, "groups.bolts.clamp"},
	} {
		_, err := joint.Compute(flange(c.edit), worktest.Flange())
		require.Error(t, err, name)
		if c.code != "" {
			require.ErrorIs(t, err, &refusal.Error{Code: c.code, Field: c.field}, name)
		}
	}
}

// A load that must be there in service, on parts that lose their stiffness and outgrow
// their bolts: what it is made to is worked out backwards, by hand, and the row of the
// temperature shows what was aimed at.
func TestATargetAtService(t *testing.T) {
	aimed := func(change func(b *joint.Bolts)) joint.Input {
		return flange(func(in *joint.Input, b *joint.Bolts) {
			b.Aim, b.Service = joint.ByService, unit.Of(60, unit.Kilonewton)
			b.Clamp = joint.Clamp{Length: unit.Of(80, unit.Millimetre), Parts: "stainless steel"}
			b.Stay = joint.Stay{BoltsWarmer: 80, PartsWarmer: 90, BoltsStiff: 0.97, PartsStiff: 0.95}
			change(b)
		})
	}
	_, g := compute(t, aimed(func(*joint.Bolts) {}))
	grown := 80 * (16.5e-6*90 - 11.5e-6*80)
	made := (60_000*(g.Springs.Bolt/0.97+g.Springs.Parts/0.95) - grown) / (g.Springs.Bolt + g.Springs.Parts)
	require.InEpsilon(t, made, g.Load, 1e-9)
	require.InEpsilon(t, g.K.Nominal*20*made/1000, g.Torque, 1e-9)
	i := slices.IndexFunc(g.Stays, func(c preload.Check) bool { return c.Key == joint.StayWarm })
	require.InEpsilon(t, 60_000, g.Stays[i].Value, 1e-9)
	require.Contains(t, g.Stays[i].Note, "97 % and 95 % as stiff")
	_, err := joint.Compute(aimed(func(b *joint.Bolts) { b.Service = unit.Of(-1, unit.Kilonewton) }), worktest.Flange())
	require.ErrorIs(t, err, &refusal.Error{Code: refusal.NotPositive, Field: "groups.bolts.service"})
	_, err = joint.Compute(aimed(func(b *joint.Bolts) { b.Service = unit.Of(20_000, unit.Kilonewton) }), worktest.Flange())
	var most *refusal.Error
	require.ErrorAs(t, err, &most)
	require.InDelta(t, 1e7, most.Limit, 0, "10 MN: no bolt")
	_, err = joint.Compute(aimed(func(b *joint.Bolts) { b.Stay.Settles = 900 }), worktest.Flange())
	require.ErrorIs(t, err, &refusal.Error{Code: refusal.TooLarge, Field: "groups.bolts.stay"})
	for field, change := range map[string]func(b *joint.Bolts){
		"groups.bolts.clamp": func(b *joint.Bolts) { b.Clamp = joint.Clamp{} },
		"groups.bolts.stay":  func(b *joint.Bolts) { b.Stay = joint.Stay{} },
	} {
		res, err := joint.Compute(aimed(change), worktest.Flange())
		require.NoError(t, err)
		require.Equal(t, field, res.Open[0].Field)
	}
	// Parts that outgrow their bolts by so much that the load is there without a pull.
	_, err = joint.Compute(aimed(func(b *joint.Bolts) { b.Stay.PartsWarmer, b.Service = 400, unit.Of(5, unit.Kilonewton) }),
		worktest.Flange())
	require.ErrorIs(t, err, &refusal.Error{Code: refusal.TooSmall, Field: "groups.bolts.service"})
	_, err = joint.Compute(aimed(func(b *joint.Bolts) { b.Stay.PartsStiff = 0.1 }), worktest.Flange())
	require.ErrorIs(t, err, &refusal.Error{Code: refusal.OutOfRange})
}

// What was measured of how faces settle wins over the guide values.
func TestWhatSettlesAsItWasMeasured(t *testing.T) {
	settled := func(s joint.Stay) (left float64, g joint.Group) {
		_, g = compute(t, flange(func(_ *joint.Input, b *joint.Bolts) {
			b.Clamp, b.Stay = joint.Clamp{Length: unit.Of(80, unit.Millimetre)}, s
		}))
		i := slices.IndexFunc(g.Stays, func(c preload.Check) bool { return c.Key == joint.StaySettled })
		return g.Stays[i].Value, g
	}
	left, g := settled(joint.Stay{Settles: 12, Finish: stay.Coarse, Faces: 3})
	require.InEpsilon(t, g.Load-0.012/(g.Springs.Bolt+g.Springs.Parts), left, 1e-9)
	guide, _ := settled(joint.Stay{Finish: stay.Usual})
	require.NotEqual(t, guide, left)
}

// The window of a gasket, row by row by hand; a row that does not hold is answered, and
// the answer is of that row alone.
func TestTheWindow(t *testing.T) {
	in := flange(func(in *joint.Input, _ *joint.Bolts) { in.Values["pressure"] = given(40, unit.Bar) })
	_, g := compute(t, in)
	area := math.Pi / 4 * (205*205 - 160*160)
	limits := map[string]float64{preload.Seats: 25 * area / 8, preload.Operates: (15*area + math.Pi/4*4*160*160) / (0.7 * 8),
		preload.Crushes: 150 * area / 8, preload.Most: 0.7 * 660 * m20}
	require.Len(t, g.Window, len(limits))
	for _, row := range g.Window {
		require.InEpsilon(t, limits[row.Key], row.Limit, 1e-9, row.Key)
		require.True(t, row.Holds, row.Key)
	}
	in.Values["seating stress"] = given(60, unit.Megapascal)
	res, _ := compute(t, in)
	require.Equal(t, "reasons.bolts/seats", res.Open[0].Field)
	in.Reasons = map[string]string{"bolts/crush": "another row's"}
	res, _ = compute(t, in)
	require.NotEmpty(t, res.Open)
	in.Reasons = map[string]string{"bolts/seats": "its maker allows 45 MPa"}
	res, _ = compute(t, in)
	require.Empty(t, res.Open)
	require.Contains(t, res.Deviations[0], "its maker allows 45 MPa")
}

// A full-face gasket reaches past the bolts, which take their holes out of it; one that
// ends in the holes is refused.
func TestAFullFaceGasket(t *testing.T) {
	r := worktest.Flange()
	r.Choices = append(r.Choices, recipe.Choice{Name: "faces", Text: "Faces", Options: []string{"raised", "flat"}})
	r.Groups[0].Gasket.Full = recipe.When{"faces": "flat"}
	with := func(outer float64) joint.Input {
		return flange(func(in *joint.Input, _ *joint.Bolts) {
			in.Choices["faces"], in.Choices["gasket"] = "flat", "soft"
			in.Values["gasket outer"], in.Values["torque"] = mm(outer), given(120, unit.NewtonMetre)
		})
	}
	res, err := joint.Compute(with(290), r)
	require.NoError(t, err)
	hole := 22.0 // of M20, ISO 273
	area := math.Pi / 4 * (290*290 - 160*160 - 8*hole*hole)
	require.InEpsilon(t, 4*area/8, res.Groups[0].Window[0].Limit, 1e-3)
	_, err = joint.Compute(with(250), r)
	require.ErrorIs(t, err, &refusal.Error{Code: refusal.OutOfRange, Field: "values.gasket outer"})
	res, err = joint.Compute(with(205), r)
	require.NoError(t, err)
	require.InEpsilon(t, 4*math.Pi/4*(205*205-160*160)/8, res.Groups[0].Window[0].Limit, 1e-9, "it lies inside the bolts")
}

// What becomes of the load, row by row; nothing is said of what is not given.
func TestWhatBecomesOfTheLoad(t *testing.T) {
	_, g := compute(t, flange(nil))
	require.Empty(t, g.Stays)
	in := flange(everything)
	res, g := compute(t, in)
	_ = res
	row := map[string]preload.Check{}
	for _, r := range g.Stays {
		row[r.Key] = r
	}
	k := g.Springs
	require.InEpsilon(t, g.Load/(math.Pi/4*(28.5*28.5-22*22)), row[joint.StayBearing].Value, 1e-3)
	require.Equal(t, 480.0, row[joint.StayBearing].Limit, "ductile iron")
	require.InEpsilon(t, 100, row[joint.StayGrip].Limit, 1e-9)
	require.True(t, row[joint.StayGrip].Informs)
	lost := 13.0 / 1000 / (k.Bolt + k.Parts) // 3 in the thread, twice 3 under head and nut, twice 2 between the parts
	require.InEpsilon(t, g.Load-lost, row[joint.StaySettled].Value, 1e-9)
	warm := (g.Load*(k.Bolt+k.Parts) + 70*(11.0e-6*60-11.5e-6*40)) / (k.Bolt + k.Parts)
	require.InEpsilon(t, warm, row[joint.StayWarm].Value, 1e-9)
	require.InEpsilon(t, 660*m20, row[joint.StayWarmBolt].Limit, 1e-9)
	phi := 0.5 * k.Parts / (k.Bolt + k.Parts)
	require.InEpsilon(t, g.LikelyHigh+phi*10_000, row[joint.StayPulled].Value, 1e-9)
	require.InEpsilon(t, (g.LikelyLow-lost)/(1-phi), row[joint.StayClosed].Limit, 1e-9)
	require.InEpsilon(t, (g.LikelyLow-lost-(1-phi)*10_000)*0.15, row[joint.StayHeld].Limit, 1e-9)
	require.InEpsilon(t, g.Needed, row[joint.StayWarm].Limit, 1e-9, "what the gasket asks for")
}

// What faces settle by (VDI 2230's guide values), and refusals.
func TestSettles(t *testing.T) {
	for f, want := range map[stay.Finish]float64{stay.Fine: 3 + 5 + 1.5, stay.Usual: 3 + 6 + 2, stay.Coarse: 3 + 8 + 3} {
		v, err := stay.Settles(f, 1)
		require.NoError(t, err)
		require.Equal(t, want, v, f)
	}
	for _, c := range []struct {
		f stay.Finish
		n int
	}{{"", 1}, {stay.Fine, -1}, {stay.Fine, 21}} {
		_, err := stay.Settles(c.f, c.n)
		require.Error(t, err)
	}
}

// The starting values that plans rest on where no maker's are given.
func TestStartingValues(t *testing.T) {
	for name, want := range map[string][5]float64{"spiral": {120, 60, 40, 300, 0.7}, "sheet": {50, 25, 15, 150, 0.7},
		"soft": {7, 4, 2, 15, 0.7}, "metal ring": {240, 120, 80, 1000, 0.7}} {
		k, err := preload.GasketNamed(name)
		require.NoError(t, err)
		require.Equal(t, want, [5]float64{k.Aim, k.Seat, k.Service, k.Most, k.Kept}, name)
	}
	for name, want := range map[string][4]float64{"steel": {205_000, 11.5e-6, 360, 490}, "stainless steel": {195_000, 16.5e-6, 500, 460},
		"cast iron": {110_000, 10.5e-6, 250, 600}, "ductile iron": {169_000, 11e-6, 400, 480}, "aluminium": {70_000, 23e-6, 200, 200}} {
		m, err := stay.MaterialNamed(name)
		require.NoError(t, err)
		require.Equal(t, want, [4]float64{m.Modulus, m.Expands, m.Tensile, m.Bears}, name)
	}
}

// What cannot be of a joint beyond the pull is refused, beside its words.
func TestStaysThatCannotBe(t *testing.T) {
	for name, edit := range map[string]func(*joint.Bolts){
		"not a number":     func(b *joint.Bolts) { b.Stay.BoltsWarmer = math.NaN() },
		"a furnace":        func(b *joint.Bolts) { b.Stay.PartsWarmer = 2000 },
		"a negative pull":  func(b *joint.Bolts) { b.Stay.Axial = unit.Of(-3, unit.Kilonewton) },
		"a pull in metres": func(b *joint.Bolts) { b.Stay.Axial = unit.Of(3, unit.Millimetre) },
		"enters at two":    func(b *joint.Bolts) { b.Stay.Enters = 2 },
		"no friction":      func(b *joint.Bolts) { b.Stay.Friction = 0 },
		"a long thread":    func(b *joint.Bolts) { b.Stay.Engaged = unit.Of(1e9, unit.Millimetre) },
		"no finish":        func(b *joint.Bolts) { b.Stay.Finish = "polished" },
		"many faces":       func(b *joint.Bolts) { b.Stay.Faces = 400 },
		"bears nothing":    func(b *joint.Bolts) { b.Stay.Bears = unit.Of(-1, unit.Megapascal) },
	} {
		_, err := joint.Compute(flange(func(in *joint.Input, b *joint.Bolts) {
			everything(in, b)
			edit(b)
		}), worktest.Flange())
		require.Error(t, err, name)
		require.ErrorContains(t, err, "", name)
		var r *refusal.Error
		require.ErrorAs(t, err, &r, name)
		require.Contains(t, r.Field, "groups.bolts.stay", name)
	}
}

// An engineer's reason stands for the numbers it was given on: where its row comes to
// others, it is asked for anew.
func TestAReasonStandsForItsNumbers(t *testing.T) {
	in := flange(func(in *joint.Input, _ *joint.Bolts) {
		in.Values["seating stress"] = given(60, unit.Megapascal)
		in.Reasons = map[string]string{"bolts/seats": "the maker allows it"}
	})
	res, _ := compute(t, in)
	require.Equal(t, in, joint.Renewed(in, in, res, res), "nothing has changed")
	next := in
	next.Values = map[string]joint.Given{}
	for k, v := range in.Values {
		next.Values[k] = v
	}
	next.Values["torque"] = given(100, unit.NewtonMetre)
	now, _ := compute(t, next)
	require.Empty(t, joint.Renewed(next, in, now, res).Reasons)
	next.Reasons = map[string]string{"bolts/seats": "asked again, and allowed again"}
	require.Equal(t, next.Reasons, joint.Renewed(next, in, now, res).Reasons, "one that is given now stands")
}
