package preload_test

import (
	"fmt"
	"math"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"dynacor/core/friction"
	"dynacor/core/preload"
	"dynacor/core/refusal"
	"dynacor/core/thread"
)

// m20 is an M20 8.8 stud with light oil (K 0.17) and a 4 % wrench.
func m20(t require.TestingT) preload.Bolt { return bolt(t, "M20", "8.8", "light oil") }

func bolt(t require.TestingT, name, grade, condition string) preload.Bolt {
	th, err := thread.Parse(name)
	require.NoError(t, err)
	s, err := thread.StrengthOf(grade, th.Diameter)
	require.NoError(t, err)
	l, err := friction.LubricantNamed(condition)
	require.NoError(t, err)
	return preload.Bolt{Thread: th, Strength: s, Lubricant: l, Accuracy: 0.04}
}

func TestGasketAreaRefusesAnInsideOutGasket(t *testing.T) {
	a, err := preload.GasketArea(480, 420)
	require.NoError(t, err)
	require.InDelta(t, 42411.5, a, 0.1)
	for _, c := range [][2]float64{{100, 100}, {100, 120}, {0, 0}, {100, -1}} {
		_, err := preload.GasketArea(c[0], c[1])
		require.Error(t, err, "%v", c)
	}
}

func TestSpecifiedAimsAtTheMiddleUnlessTold(t *testing.T) {
	b := m20(t)
	b.Prevailing = 20
	mid, err := preload.Specified(b, 200, 280, 0)
	require.NoError(t, err)
	require.InDelta(t, 240, mid.Torque, 1e-12)
	require.InDelta(t, 1000*(240-20)/(0.17*20), mid.Load, 1e-6)
	told, err := preload.Specified(b, 200, 280, 205)
	require.NoError(t, err)
	require.InDelta(t, 205, told.Torque, 1e-12)
	for _, c := range [][3]float64{{280, 200, 0}, {200, 280, 281}, {200, 280, 199}, {0, 280, 0}, {math.NaN(), 280, 0},
		{200, math.Inf(1), 0}} {
		_, err := preload.Specified(b, c[0], c[1], c[2])
		require.Error(t, err, "%v", c)
	}
}

func TestTheLeastMarginDecides(t *testing.T) {
	_, ok := preload.Target{}.Limiting()
	require.False(t, ok)
	rows := []preload.Check{preload.AtMost("a", 90, 100, ""), preload.AtLeast("b", 105, 100, ""), preload.AtLeast("nothing asked", 0, 0,
		"")}
	least, ok := preload.Limiting(rows)
	require.True(t, ok)
	require.Equal(t, "b", least.Name)
	require.InDelta(t, 0.05, least.Margin, 1e-12)
	require.InDelta(t, 0.1, rows[0].Margin, 1e-12)
	require.True(t, rows[2].Holds)
}

// A torque at which the bolt reaches yield is at the edge of its row.
func TestTheYieldRowTurnsAtYield(t *testing.T) {
	b := m20(t)
	r, err := preload.Specified(b, 260, 260, 0)
	require.NoError(t, err)
	require.True(t, r.Holds())
	u := r.Checks[0].Value
	r, err = preload.Specified(b, 260/u, 260/u, 0)
	require.NoError(t, err)
	require.True(t, r.Checks[0].Holds, "exactly at yield counts as met")
	require.False(t, r.Checks[1].Holds, "the worst case is past it")
	least, ok := r.Limiting()
	require.True(t, ok)
	require.Equal(t, r.Checks[1].Name, least.Name)
	r, err = preload.Specified(b, 1.001*260/u, 1.001*260/u, 0)
	require.NoError(t, err)
	require.False(t, r.Checks[0].Holds)
	require.False(t, r.Holds())
}

func TestShareAndChartByHand(t *testing.T) {
	b := m20(t)
	whole, err := preload.Share(b, b.Strength.Proof, 0.75)
	require.NoError(t, err)
	require.InDelta(t, 0.75*600*b.Thread.StressArea(), whole.Load, 1e-6)
	m := preload.Materials()
	require.Equal(t, []preload.Material{{Name: "steel", Derate: 1}, {Name: "cast iron", Derate: 0.9}, {Name: "aluminium", Derate: 0.7}}, m)
	for _, c := range []struct {
		engaged, bearing preload.Material
		derate           float64
	}{{m[0], m[0], 1}, {m[1], m[0], 0.9}, {m[0], m[2], 0.7}, {m[2], m[1], 0.7}} {
		r, err := preload.Chart(b, 0.75, c.engaged, c.bearing)
		require.NoError(t, err)
		require.InEpsilon(t, c.derate*whole.Torque, r.Torque, 1e-12, "the softer decides")
	}
	_, err = preload.Chart(b, 0.75, preload.Material{Name: "lead", Derate: 0}, m[0])
	require.ErrorIs(t, err, &refusal.Error{Code: refusal.NotPositive, Field: "engaged"})
	_, err = preload.Chart(b, 0.75, m[0], preload.Material{Name: "gold", Derate: 1.1})
	require.ErrorIs(t, err, &refusal.Error{Code: refusal.TooLarge, Field: "bearing"})
	stainless := bolt(t, "M20", "A4-80", "stainless, anti-seize")
	r, err := preload.Chart(stainless, 0.5, m[0], m[0])
	require.NoError(t, err)
	require.InDelta(t, 0.5*600*b.Thread.StressArea(), r.Load, 1e-6, "no proof stress: of the yield")
}

// However it is drawn, a balance keeps within the flange's limit, and its
// stress follows the aim between the limits.
func TestBalanceKeepsItsLimits(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		b := m20(t)
		bal := preload.Balance{Bolts: rapid.IntRange(4, 40).Draw(t, "n"), Outside: 216, Inside: 169, Basis: preload.StressArea,
			Aim: rapid.Float64Range(1, 200).Draw(t, "aim"), LeastSeat: 20, LeastOperate: 15, GasketMost: 120,
			BoltLeast: rapid.Float64Range(0, 200).Draw(t, "least"), BoltMost: rapid.Float64Range(200, 500).Draw(t, "most"),
			FlangeMost: rapid.Float64Range(100, 500).Draw(t, "flange"), Pressure: rapid.Float64Range(0, 20).Draw(t, "pressure"), Kept: 0.7}
		r, err := preload.Gasketed(b, bal)
		require.NoError(t, err)
		stress := r.Load / b.Thread.StressArea()
		require.LessOrEqual(t, stress, bal.FlangeMost*(1+1e-9))
		require.LessOrEqual(t, stress, bal.BoltMost*(1+1e-9))
		bal.Thread = b.Thread
		s, err := bal.Solve()
		require.NoError(t, err)
		switch s.LimitedBy {
		case preload.NoLimit:
			require.InEpsilon(t, bal.Aim*math.Pi/4*(216*216-169*169), s.Load*float64(bal.Bolts), 1e-9,
				"force on the gasket is force of the bolts")
		case preload.BoltMaximum:
			require.Equal(t, bal.BoltMost, s.Stress)
		case preload.BoltMinimum:
			require.Equal(t, bal.BoltLeast, s.Stress)
		case preload.FlangeLimit:
			require.Equal(t, bal.FlangeMost, s.Stress)
		}
		for _, c := range r.Checks {
			require.Equal(t, c.Holds, c.Margin >= -2e-9, "%+v", c)
		}
	})
	_, err := preload.Balance{Thread: m20(t).Thread, Bolts: 8, Outside: 216, Inside: 169, Basis: preload.RootArea, Aim: 50, LeastSeat: 121,
		GasketMost: 120, BoltMost: 400, FlangeMost: 400, Kept: 0.7}.Solve()
	require.ErrorIs(t, err, &refusal.Error{Code: refusal.Contradicts, Field: "gasketSeat"})
}

// In service the bolts hold the gasket's least stress and the pressure on the
// bore: worked out by hand for each alone.
func TestWhatServiceAsks(t *testing.T) {
	b := m20(t)
	bal := preload.Balance{Thread: b.Thread, Bolts: 8, Outside: 216, Inside: 169, Basis: preload.StressArea, Aim: 50, GasketMost: 120,
		BoltMost: 450, FlangeMost: 500, Kept: 0.7}
	asks := func() float64 {
		s, err := bal.Solve()
		require.NoError(t, err)
		return s.Checks[1].Limit * 8 * b.Thread.StressArea() * 0.7 // N in all
	}
	bal.Pressure = 4
	require.InEpsilon(t, 4*math.Pi*84.5*84.5, asks(), 1e-12)
	bal.Pressure, bal.LeastOperate = 0, 15
	require.InEpsilon(t, 15*math.Pi*(108*108-84.5*84.5), asks(), 1e-12)
	bal.Pressure = 4
	require.InEpsilon(t, 4*math.Pi*84.5*84.5+15*math.Pi*(108*108-84.5*84.5), asks(), 1e-12)
}

// The torque method ends a tenth past M, and its first step stays below it; it is for
// structural sets alone.
func TestStepsOfTheTorqueMethod(t *testing.T) {
	b := bolt(t, "M20", "10.9 HV", "light oil")
	s, err := preload.StepsOf(b.Thread, "10.9 HV", 0.13)
	require.NoError(t, err)
	require.InEpsilon(t, 0.7*1000*b.Thread.StressArea(), s.Load, 1e-12)
	require.InEpsilon(t, 0.13*20*s.Load/1000, s.M, 1e-12)
	require.InEpsilon(t, 0.75*s.M, s.First, 1e-12)
	require.InEpsilon(t, 1.10*s.M, s.Second, 1e-12)
	_, err = preload.StepsOf(b.Thread, "A4-70", 0.13)
	require.ErrorIs(t, err, &refusal.Error{Code: refusal.Contradicts, Field: "grade"})
	_, err = preload.StepsOf(b.Thread, "10.9 HV", 0)
	require.Error(t, err)
	require.Equal(t, 60.0, preload.PartTurnTolerance)
}

func TestTurnsAlone(t *testing.T) {
	r, err := preload.ByTurns(preload.TubeFitting())
	require.NoError(t, err)
	require.Equal(t, 450.0, r.Turn)
	require.Zero(t, r.Torque)
	require.True(t, r.Holds())
	r, err = preload.ByTurns([]preload.Turned{{Degrees: 460}})
	require.NoError(t, err)
	require.False(t, r.Holds(), "more is not better")
	for _, steps := range [][]preload.Turned{nil, {{Degrees: 0}}, {{Degrees: -90}}, {{Degrees: math.NaN()}}, {{Degrees: 1e9}}} {
		_, err := preload.ByTurns(steps)
		require.Error(t, err, "%v", steps)
	}
}

func clamped(b preload.Bolt) preload.Clamped {
	return preload.Clamped{Thread: b.Thread, Shank: 40, Threaded: 20, TwoNuts: true, Length: 60, Modulus: preload.CarbonSteel}
}

// A long plain bar between negligible ends is F·L/(A·E), the closed form.
func TestALongBoltIsABar(t *testing.T) {
	b := m20(t)
	c := preload.Clamped{Thread: b.Thread, Shank: 50_000, Length: 50_000, Modulus: preload.CarbonSteel}
	got, err := c.Stretch(100_000)
	require.NoError(t, err)
	require.InEpsilon(t, 100_000*50_000/(math.Pi/4*400*205_000), got, 1e-3)
}

func TestStretchAndLoadAreInverse(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		b := m20(t)
		c := clamped(b)
		load := rapid.Float64Range(100, 3e5).Draw(t, "F")
		s, err := c.Stretch(load)
		require.NoError(t, err)
		back, err := c.LoadAt(s)
		require.NoError(t, err)
		require.InEpsilon(t, load, back, 1e-9)
		r, err := preload.ByElongation(b, c, load)
		require.NoError(t, err)
		k, err := c.Compliance()
		require.NoError(t, err)
		require.InEpsilon(t, r.Turn/360*b.Thread.Pitch, r.Stretch*(k.Bolt+k.Parts)/k.Bolt, 1e-9,
			"what the nut advances is what bolt and parts give")
	})
}

func TestElongationRefuses(t *testing.T) {
	b := m20(t)
	c := clamped(b)
	c.Length = 61
	_, err := preload.ByElongation(b, c, 1e5)
	require.ErrorIs(t, err, &refusal.Error{Code: refusal.Contradicts, Field: "clampLength"})
	c = clamped(b)
	c.PartsModulus = -1
	_, err = c.Compliance()
	require.Error(t, err)
	_, err = clamped(b).LoadAt(0)
	require.Error(t, err)
	_, err = clamped(b).Turn(math.Inf(1))
	require.Error(t, err)
	c = clamped(b)
	c.Modulus = preload.StainlessSteel
	soft, err := c.Compliance()
	require.NoError(t, err)
	hard, err := clamped(b).Compliance()
	require.NoError(t, err)
	require.InEpsilon(t, 205.0/195, soft.Bolt/hard.Bolt, 1e-12)
}

func FuzzTargets(f *testing.F) {
	f.Add(8, 216.0, 169.0, 50.0, 0.7, 4.0, 60.0, 75000.0, 1)
	f.Add(0, math.NaN(), -1.0, math.Inf(1), 2.0, 0.0, 1e300, 1e-300, 7)
	f.Fuzz(func(t *testing.T, n int, od, id, aim, kept, p, length, load float64, sloped int) {
		b := m20(t)
		finite := func(what string, v float64, err error) {
			if err == nil && (math.IsNaN(v) || math.IsInf(v, 0) || v < 0) {
				t.Fatalf("%s: %v", what, v)
			}
		}
		r, err := preload.Gasketed(b, preload.Balance{Bolts: n, Outside: od, Inside: id, Basis: preload.RootArea, Aim: aim, LeastSeat: p,
			GasketMost: aim, BoltMost: load, FlangeMost: load, Pressure: p, Kept: kept})
		finite("balance", r.Load, err)
		r, err = preload.Specified(b, load, aim, p)
		finite("specified", r.Load, err)
		r, err = preload.Share(b, load, kept)
		finite("share", r.Torque, err)
		turn, err := preload.PartTurn(od, length, sloped)
		finite("part turn", turn, err)
		turn, err = preload.CombinedTurn(od, length)
		finite("combined", turn, err)
		c := preload.Clamped{Thread: b.Thread, Shank: od, Threaded: id, Length: length, Modulus: aim, PartsModulus: p}
		turn, err = c.Turn(load)
		finite("turn", turn, err)
		back, err := c.LoadAt(p)
		finite("load", back, err)
	})
}

func ExampleShareOfStrength() {
	t, _ := thread.Parse("M20")
	f, _ := preload.ShareOfStrength(t, 600, 0.75)
	fmt.Printf("%.1f kN\n", f/1000)
	// Output: 110.2 kN
}

func ExampleClamped_Turn() {
	t, _ := thread.Parse("M16")
	turn, _ := preload.Clamped{Thread: t, Shank: 25, Threaded: 20, Length: 45, Modulus: preload.CarbonSteel}.Turn(36_970)
	fmt.Printf("%.0f°\n", turn)
	// Output: 15°
}
