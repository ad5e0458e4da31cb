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

// m20 is an M20 8.8 stud with light oil (K 0.17).
func m20(t require.TestingT) preload.Bolt { return bolt(t, "M20", "8.8", "light oil") }

func bolt(t require.TestingT, name, grade, condition string) preload.Bolt {
	th, err := thread.Parse(name)
	require.NoError(t, err)
	s, err := thread.StrengthOf(grade, th.Diameter)
	require.NoError(t, err)
	l, err := friction.LubricantNamed(condition)
	require.NoError(t, err)
	return preload.Bolt{Thread: th, Strength: s, Lubricant: l}
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

func TestTheLeastMarginDecides(t *testing.T) {
	_, ok := preload.Limiting(nil)
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

// However it is drawn, a balance keeps within the flange's limit, and its
// stress follows the aim between the limits.
func TestBalanceKeepsItsLimits(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		b := m20(t)
		bal := preload.Balance{Bolts: rapid.IntRange(4, 40).Draw(t, "n"), Outside: 216, Inside: 169, Basis: preload.StressArea,
			Aim: rapid.Float64Range(1, 200).Draw(t, "aim"), LeastSeat: 20, LeastOperate: 15, GasketMost: 120,
			BoltLeast: rapid.Float64Range(0, 200).Draw(t, "least"), BoltMost: rapid.Float64Range(200, 500).Draw(t, "most"),
			FlangeMost: rapid.Float64Range(100, 500).Draw(t, "flange"), Pressure: rapid.Float64Range(0, 20).Draw(t, "pressure"), Kept: 0.7}
		bal.Thread = b.Thread
		s, err := bal.Solve()
		require.NoError(t, err)
		stress := s.Load / b.Thread.StressArea()
		require.LessOrEqual(t, stress, bal.FlangeMost*(1+1e-9))
		require.LessOrEqual(t, stress, bal.BoltMost*(1+1e-9))
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
		for _, c := range s.Checks {
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
		turn, err := c.Turn(load)
		require.NoError(t, err)
		k, err := c.Compliance()
		require.NoError(t, err)
		require.InEpsilon(t, turn/360*b.Thread.Pitch, s*(k.Bolt+k.Parts)/k.Bolt, 1e-9,
			"what the nut advances is what bolt and parts give")
	})
}

func TestElongationRefuses(t *testing.T) {
	b := m20(t)
	c := clamped(b)
	c.PartsModulus = -1
	_, err := c.Compliance()
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
		s, err := preload.Balance{Thread: b.Thread, Bolts: n, Outside: od, Inside: id, Basis: preload.RootArea, Aim: aim, LeastSeat: p,
			GasketMost: aim, BoltMost: load, FlangeMost: load, Pressure: p, Kept: kept}.Solve()
		finite("balance", s.Load, err)
		share, err := preload.ShareOfStrength(b.Thread, load, kept)
		finite("share", share, err)
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
