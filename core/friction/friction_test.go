package friction_test

import (
	"fmt"
	"math"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"dynacor/core/friction"
	"dynacor/core/refusal"
	"dynacor/core/thread"
)

func TestLoadAndTorqueAreInverse(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		k, d := rapid.Float64Range(0.05, 0.6).Draw(t, "K"), rapid.Float64Range(3, 100).Draw(t, "d")
		load, p := rapid.Float64Range(10, 3e6).Draw(t, "F"), rapid.Float64Range(0, 100).Draw(t, "prevailing")
		torque, err := friction.TorqueFromLoad(k, d, load, p)
		require.NoError(t, err)
		back, err := friction.LoadFromTorque(k, d, torque, p)
		require.NoError(t, err)
		require.InEpsilon(t, load, back, 1e-9)
	})
}

func TestNutFactorAndCoefficientAreInverse(t *testing.T) {
	all := thread.All()
	rapid.Check(t, func(t *rapid.T) {
		th := rapid.SampledFrom(all).Draw(t, "thread")
		k := rapid.Float64Range(0.06, 0.5).Draw(t, "K")
		face := friction.FaceOf(th, th.HeadOf(""))
		mu, err := friction.CoefficientFromK(th, k, face)
		require.NoError(t, err)
		s, err := friction.TorqueFromCoefficients(th, mu, mu, face, 50_000)
		require.NoError(t, err)
		require.InEpsilon(t, k, s.K, 1e-9)
		require.Less(t, s.Thread, s.Torque)
	})
}

// At its limit a bolt is at its yield, whatever its nut takes for itself; a nut that
// twists it past yield alone leaves nothing.
func TestTheLoadAtYieldIsAtYield(t *testing.T) {
	all := thread.All()
	rapid.Check(t, func(t *rapid.T) {
		th := rapid.SampledFrom(all).Draw(t, "thread")
		yield := rapid.Float64Range(200, 1100).Draw(t, "yield")
		share := rapid.Float64Range(0.0001, 0.3).Draw(t, "share") * th.Diameter / 1000
		alone := yield / math.Sqrt(3) * math.Pi * math.Pow(th.StressDiameter(), 3) / 12_000
		p := rapid.Float64Range(0, 0.99).Draw(t, "of what it bears") * alone
		load, err := friction.LoadAtYield(th, share, p, yield)
		require.NoError(t, err)
		s, err := friction.WhileTightening(th, load, share*load, p, yield)
		require.NoError(t, err)
		require.InEpsilon(t, 1, s.Utilisation, 1e-9)
		_, err = friction.LoadAtYield(th, share, 1.001*alone, yield)
		require.ErrorIs(t, err, &refusal.Error{Code: refusal.TooLarge, Field: "prevailing"})
	})
}

// Roughly a tenth of the torque becomes load, the rest is friction.
func TestMostTorqueIsLostInFriction(t *testing.T) {
	th, err := thread.Parse("M20")
	require.NoError(t, err)
	s, err := friction.TorqueFromCoefficients(th, 0.14, 0.14, friction.FaceOf(th, th.HeadOf("")), 100_000)
	require.NoError(t, err)
	useful := 100 * th.Pitch / (2 * math.Pi)
	require.InDelta(t, 0.1, useful/s.Torque, 0.03)
}

func TestDryToMolyPasteRaisesTheLoadBy54Percent(t *testing.T) {
	dry, err := friction.LubricantNamed("dry, plain as received")
	require.NoError(t, err)
	moly, err := friction.LubricantNamed("molybdenum disulphide paste")
	require.NoError(t, err)
	require.True(t, dry.Dry)
	require.InDelta(t, 1.54, dry.Nominal/moly.Nominal, 0.005)
	torque, err := friction.EquivalentTorque(300, dry.Nominal, moly.Nominal)
	require.NoError(t, err)
	require.InDelta(t, 195, torque, 1e-9)
	for _, l := range friction.Lubricants() {
		require.Less(t, l.Low, l.Nominal, l.Name)
		require.Less(t, l.Nominal, l.High, l.Name)
		require.Less(t, l.Spread(), 1.0, l.Name)
	}
	_, err = friction.LubricantNamed("butter")
	require.Error(t, err)
}

func FuzzFriction(f *testing.F) {
	f.Add(0.2, 20.0, 400.0, 0.0, 0.04, 0.2)
	f.Add(math.NaN(), -1.0, math.Inf(1), 1e300, 1e-300, 2.0)
	th, err := thread.Parse("M20")
	require.NoError(f, err)
	f.Fuzz(func(t *testing.T, k, d, torque, p, a, b float64) {
		finite := func(what string, v float64, err error) {
			if err == nil && (math.IsNaN(v) || math.IsInf(v, 0) || v < 0) {
				t.Fatalf("%s: %v", what, v)
			}
		}
		load, err := friction.LoadFromTorque(k, d, torque, p)
		finite("load", load, err)
		back, err := friction.TorqueFromLoad(k, d, torque, p)
		finite("torque", back, err)
		band, err := friction.Scatter(torque, k, d, a, b)
		finite("band", band.Max, err)
		if err == nil && band.Min > band.Max {
			t.Fatalf("band %v", band)
		}
		face := friction.Face{Outside: d, Hole: p}
		split, err := friction.TorqueFromCoefficients(th, a, b, face, torque)
		finite("split", split.Torque, err)
		mu, err := friction.CoefficientFromK(th, k, face)
		finite("µ", mu, err)
		stress, err := friction.WhileTightening(th, torque, p, a, d)
		finite("stress", stress.Utilisation, err)
		limit, err := friction.LoadAtYield(th, b, p, d)
		finite("limit", limit, err)
		same, err := friction.EquivalentTorque(torque, k, a)
		finite("equivalent", same, err)
		trial := []friction.Measured{{Torque: torque, Load: d}, {Torque: torque, Load: k}, {Torque: p, Load: d}, {Torque: a, Load: b},
			{Torque: torque, Load: d}}
		tried, err := friction.Trial{Thread: thread.Thread{Diameter: d}, Prevailing: p, Bolts: trial}.Judge()
		finite("K", tried.Mean, err)
	})
}

func ExampleTorqueFromLoad() {
	t, _ := friction.TorqueFromLoad(0.13, 30, 192_000, 0)
	fmt.Printf("%.0f N·m\n", t)
	// Output: 749 N·m
}
