package thread_test

import (
	"errors"
	"fmt"
	"testing"

	"github.com/stretchr/testify/require"

	"dynacor/core/refusal"
	"dynacor/core/thread"
)

func TestParseReadsWhatPeopleWrite(t *testing.T) {
	for given, want := range map[string]string{
		"M16": "M16", "m16": "M16", "m16 x 1.5": "M16x1.5", "M16X1.5": "M16x1.5", "M20x2.5": "M20", "M16 × 1.5": "M16x1.5",
		"3/4-10 UNC": "3/4-10 UNC", "3/4-10": "3/4-10 UNC", "3/4 UNC": "3/4-10 UNC", "3/4 - 10 unc": "3/4-10 UNC", "1-8": "1-8 UNC",
		"1 1/4-8UN": "1-1/4-8 UN", "1-1/4-8 UN": "1-1/4-8 UN", "1.25-8 UN": "1-1/4-8 UN", "#10-32": "#10-32 UNF", "1/2-20": "1/2-20 UNF", "2-4.5 UNC": "2-4.5 UNC",
	} {
		got, err := thread.Parse(given)
		require.NoError(t, err, given)
		require.Equal(t, want, got.Name, given)
	}
	for _, given := range []string{"", "M", "M17", "M16x3", "3/4", "3/4-11", "1-1/4-7 UNF", "16", "M1e3", "MM16", "0/0-8", "1/0 UNC"} {
		_, err := thread.Parse(given)
		require.ErrorIs(t, err, &refusal.Error{Code: refusal.Unknown, Field: "thread"}, given)
	}
}

func TestEveryThreadParsesItsOwnName(t *testing.T) {
	require.Greater(t, len(thread.All()), 80)
	for _, th := range thread.All() {
		got, err := thread.Parse(th.Name)
		require.NoError(t, err, th.Name)
		require.Equal(t, th, got)
		require.Less(t, th.MinorDiameter(), th.StressDiameter(), th.Name)
		require.Less(t, th.StressDiameter(), th.PitchDiameter(), th.Name)
		require.Greater(t, th.AcrossFlats(), 1.3*th.Diameter, th.Name)
		require.Greater(t, th.ClearanceHole(), th.Diameter, th.Name)
		require.Greater(t, th.BearingDiameter(), th.ClearanceHole(), th.Name)
	}
}

// Published values: ISO 898-1 table 4 and ASME B1.1, to the digits they print.
func TestStressAreasAsPublished(t *testing.T) {
	for name, want := range map[string]float64{"M8": 36.6, "M12": 84.3, "M20": 245, "M30": 561, "M36": 817} {
		th, err := thread.Parse(name)
		require.NoError(t, err)
		require.InDelta(t, want, th.StressArea(), want*0.002, name)
	}
	for name, want := range map[string]float64{"1/2-13": 0.1419, "3/4-10": 0.334, "1-8": 0.606} {
		th, err := thread.Parse(name)
		require.NoError(t, err)
		require.InDelta(t, want, th.StressArea()/645.16, want*0.002, name)
	}
}

func TestStrengthKeepsItsSizeLimits(t *testing.T) {
	_, err := thread.StrengthOf("grade 2", 20)
	var r *refusal.Error
	require.True(t, errors.As(err, &r))
	require.Equal(t, refusal.TooLarge, r.Code)
	require.InDelta(t, 19.05, r.Limit, 1e-9)
	for _, g := range thread.Grades() {
		s, err := thread.StrengthOf(g, 12)
		require.NoError(t, err, g)
		require.Less(t, s.Yield, s.Tensile, g)
		if s.HasProof() {
			require.LessOrEqual(t, s.Proof, s.Yield, g)
		}
	}
}

func FuzzParse(f *testing.F) {
	for _, s := range []string{"M16", "m16 x 1.5", "1 1/4-8UN", "#10-24 UNC", "1/0-8", "M99999999999999999999"} {
		f.Add(s)
	}
	f.Fuzz(func(t *testing.T, s string) {
		th, err := thread.Parse(s)
		if err != nil {
			return
		}
		again, err := thread.Parse(th.Name)
		if err != nil || again != th {
			t.Fatalf("%q gave %v, whose name gives %v, %v", s, th, again, err)
		}
	})
}

func ExampleParse() {
	t, _ := thread.Parse("m16 x 1.5")
	fmt.Printf("%s: %.1f mm²\n", t.Name, t.StressArea())
	// Output: M16x1.5: 167.2 mm²
}
