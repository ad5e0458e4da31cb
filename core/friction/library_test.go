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

func TestATestReplacesTheGeneralFigure(t *testing.T) {
	general := friction.Lubricants()
	lib, err := general.With(friction.Lubricant{Name: "light oil", Low: .15, Nominal: .16, High: .17, Origin: friction.SupplierTest,
		Source: "report 14, Ottermere stores"})
	require.NoError(t, err)
	require.Len(t, lib, len(general))
	got, err := lib.Named("light oil")
	require.NoError(t, err)
	require.Equal(t, friction.SupplierTest, got.Origin)
	require.Equal(t, 0.16, got.Nominal)
	before, err := general.Named("light oil")
	require.NoError(t, err)
	require.Equal(t, 0.17, before.Nominal, "the library given is left as it was")
	lib, err = lib.With(friction.Lubricant{Name: "our own wax", Low: .1, Nominal: .12, High: .15, Origin: friction.SiteTrial,
		Source: "trial of 3 November"})
	require.NoError(t, err)
	require.Len(t, lib, len(general)+1)
}

func TestEntriesThatCannotBe(t *testing.T) {
	good := friction.Lubricant{Name: "wax", Low: .1, Nominal: .12, High: .15, Origin: friction.SiteTrial, Source: "trial"}
	require.NoError(t, good.Check())
	for _, c := range []struct {
		name  string
		edit  func(*friction.Lubricant)
		code  refusal.Code
		field string
	}{
		{"no name", func(l *friction.Lubricant) { l.Name = " " }, refusal.Missing, "name"},
		{"no source", func(l *friction.Lubricant) { l.Source = "" }, refusal.Missing, "source"},
		{"falls", func(l *friction.Lubricant) { l.High = .11 }, refusal.Contradicts, "nominal"},
		{"in percent", func(l *friction.Lubricant) { l.Nominal = 12 }, refusal.TooLarge, "nominal"},
		{"slippery", func(l *friction.Lubricant) { l.Low = .001 }, refusal.TooSmall, "low"},
		{"zero", func(l *friction.Lubricant) { l.Low = 0 }, refusal.NotPositive, "low"},
		{"NaN", func(l *friction.Lubricant) { l.High = math.NaN() }, refusal.NotANumber, "high"},
		{"means nothing", func(l *friction.Lubricant) { l.High = .5 }, refusal.TooLarge, "high"},
		{"hearsay", func(l *friction.Lubricant) { l.Origin = "hearsay" }, refusal.Unknown, "origin"},
	} {
		l := good
		c.edit(&l)
		_, err := friction.Lubricants().With(l)
		require.ErrorIs(t, err, &refusal.Error{Code: c.code, Field: c.field}, c.name)
	}
}

// The figures of domain section 3, each one.
func TestGeneralFigures(t *testing.T) {
	want := [][3]float64{{.16, .20, .26}, {.14, .17, .21}, {.17, .22, .29}, {.11, .14, .17}, {.10, .13, .16}, {.13, .16, .19},
		{.12, .15, .18}, {.12, .15, .19}, {.09, .11, .14}, {.13, .17, .22}, {.22, .30, .40}, {.14, .17, .21}}
	require.Len(t, friction.Lubricants(), len(want))
	for i, l := range friction.Lubricants() {
		require.Equal(t, want[i], [3]float64{l.Low, l.Nominal, l.High}, l.Name)
		require.NoError(t, l.Check(), l.Name)
		require.NotEmpty(t, l.Source, l.Name)
	}
}

// A trial made with a known K and no scatter gives that K back.
func TestATrialGivesItsNutFactorBack(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		k, d := rapid.Float64Range(0.05, 0.4).Draw(t, "K"), rapid.Float64Range(6, 64).Draw(t, "d")
		prevailing := rapid.Float64Range(0, 20).Draw(t, "prevailing")
		var trial []friction.Measured
		for range rapid.IntRange(5, 12).Draw(t, "bolts") {
			load := rapid.Float64Range(1e3, 1e6).Draw(t, "load")
			torque, err := friction.TorqueFromLoad(k, d, load, prevailing)
			require.NoError(t, err)
			trial = append(trial, friction.Measured{Torque: torque, Load: load})
		}
		r, err := friction.Trial{Thread: thread.Thread{Diameter: d}, Prevailing: prevailing, Bolts: trial}.Judge()
		require.NoError(t, err)
		l := r.Lubricant("ours", "trial")
		require.NoError(t, l.Check())
		require.InEpsilon(t, k, l.Nominal, 1e-9)
		require.Less(t, l.Spread(), 1e-5)
	})
	m20 := thread.Thread{Diameter: 20}
	_, err := friction.Trial{Thread: m20, Bolts: make([]friction.Measured, 4)}.Judge()
	require.ErrorIs(t, err, &refusal.Error{Code: refusal.TooSmall, Field: "trial"})
	_, err = friction.Trial{Thread: m20, Bolts: make([]friction.Measured, 5)}.Judge()
	require.ErrorIs(t, err, &refusal.Error{Code: refusal.NotPositive})
}

func ExampleTrial_Judge() {
	m30, _ := thread.Parse("M30")
	r, _ := friction.Trial{Thread: m30, Bolts: []friction.Measured{{Torque: 700, Load: 182_000}, {Torque: 700, Load: 175_000},
		{Torque: 700, Load: 190_000}, {Torque: 700, Load: 171_000}, {Torque: 700, Load: 184_000}}}.Judge()
	l := r.Lubricant("our paste on B7 studs", "site trial, penstock gallery")
	fmt.Printf("K %.3f to %.3f, nominal %.3f\n", l.Low, l.High, l.Nominal)
	// Output: K 0.119 to 0.140, nominal 0.130
}

// A trial is judged: steady, wide, and which bolt lies far from the others.
func TestATrialIsJudged(t *testing.T) {
	m20, err := thread.Parse("M20")
	require.NoError(t, err)
	judge := func(loads ...float64) friction.Tried {
		x := friction.Trial{Thread: m20}
		for _, kn := range loads {
			x.Bolts = append(x.Bolts, friction.Measured{Torque: 260, Load: 1000 * kn})
		}
		r, err := x.Judge()
		require.NoError(t, err)
		return r
	}
	steady := judge(100, 102, 98, 101, 99, 100)
	require.True(t, steady.Steady)
	require.Empty(t, steady.Far)
	require.InEpsilon(t, 0.13, steady.Mean, 1e-3)
	require.InEpsilon(t, steady.Mean+2*steady.Standard, steady.High, 1e-12)
	require.Contains(t, steady.Words[0], "steady")
	far := judge(100, 102, 98, 101, 70, 100)
	require.Equal(t, []int{5}, far.Far)
	require.False(t, far.Steady)
	require.Contains(t, far.Words[1], "Bolt 5")
	wide := judge(100, 130, 80, 120, 90, 70)
	require.Contains(t, wide.Words[0], "wide")
	exact := judge(100, 100, 100, 100, 100)
	require.Zero(t, exact.Standard)
	require.Empty(t, exact.Far)
}

// The bounds of a lot: five in a hundred is steady, eight is fit for a wide band, fifteen
// is wide.
func TestHowFarALotScatters(t *testing.T) {
	m20, err := thread.Parse("M20")
	require.NoError(t, err)
	for variation, word := range map[float64]string{0.05: "steady", 0.08: "not for the torque method",
		0.11: "not for the torque method", 0.15: "wide:"} {
		x := friction.Trial{Thread: m20}
		for _, z := range []float64{-1, -1, 1, 1, 0} { // standard deviation 1
			x.Bolts = append(x.Bolts, friction.Measured{Torque: 0.13 * (1 + variation*z) * 20 * 100, Load: 100_000})
		}
		r, err := x.Judge()
		require.NoError(t, err)
		require.InEpsilon(t, variation, r.Variation(), 1e-9)
		require.Contains(t, r.Words[0], word, "%v", variation)
		require.Equal(t, variation < 0.06, r.Steady)
	}
}

// A few bolts of a lot, held against its trial: within, at the edge, outside.
func TestALotIsHeldAgainstItsTrial(t *testing.T) {
	m20, err := thread.Parse("M20")
	require.NoError(t, err)
	ours := friction.Lubricant{Name: "ours", Low: 0.12, Nominal: 0.13, High: 0.14}
	check := func(ks ...float64) (friction.Checked, error) {
		x := friction.Trial{Thread: m20, Prevailing: 5}
		for _, k := range ks {
			x.Bolts = append(x.Bolts, friction.Measured{Torque: k*20*100 + 5, Load: 100_000})
		}
		return x.Check(ours)
	}
	c, err := check(0.12, 0.14, 0.133)
	require.NoError(t, err)
	require.True(t, c.Holds)
	require.InEpsilon(t, 0.131, c.Mean, 1e-9)
	require.Equal(t, "K 0.131, within the 0.12 to 0.14 of its trial.", c.Words)
	for _, k := range []float64{0.1195, 0.1405} {
		c, err = check(0.13, k)
		require.NoError(t, err)
		require.False(t, c.Holds)
		require.Contains(t, c.Words, "Bolt 2 comes to K")
	}
	_, err = check()
	require.ErrorIs(t, err, &refusal.Error{Code: refusal.OutOfRange, Field: "trial"})
	_, err = check(make([]float64, 11)...)
	require.ErrorIs(t, err, &refusal.Error{Code: refusal.OutOfRange, Field: "trial"})
	_, err = check(7)
	require.ErrorIs(t, err, &refusal.Error{Code: refusal.OutOfRange, Field: "trial.0"})
}
