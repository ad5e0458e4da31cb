package thread_test

import (
	"errors"
	"fmt"
	"math"
	"testing"

	"github.com/stretchr/testify/require"

	"dynacor/core/refusal"
	"dynacor/core/thread"
)

func TestParseReadsWhatPeopleWrite(t *testing.T) {
	for given, want := range map[string]string{
		"M16": "M16", "m16": "M16", "m16 x 1.5": "M16x1.5", "M16X1.5": "M16x1.5", "M20x2.5": "M20", "M16 × 1.5": "M16x1.5",
		"3/4-10 UNC": "3/4-10 UNC", "3/4-10": "3/4-10 UNC", "3/4 UNC": "3/4-10 UNC", "3/4 - 10 unc": "3/4-10 UNC", "1-8": "1-8 UNC",
		"1 1/4-8UN": "1-1/4-8 UN", "1-1/4-8 UN": "1-1/4-8 UN", "1.25-8 UN": "1-1/4-8 UN", "#10-32": "#10-32 UNF", "1/2-20": "1/2-20 UNF",
		"2-4.5 UNC": "2-4.5 UNC",
		"M 16":      "M16", "M016": "M16", "M16x1,5": "M16x1.5", "m16*1.5": "M16x1.5", `3/4"-10`: "3/4-10 UNC", "1.25-8UN": "1-1/4-8 UN",
		"1-1/4-8": "1-1/4-8 UN", "1-12 UNF": "1-12 UNF",
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

func TestDriveSizes(t *testing.T) {
	for _, c := range []struct {
		name string
		head thread.Head
		want float64
	}{
		{"M12", thread.Hexagon, 18}, {"M12", thread.OlderHexagon, 19}, {"M10", thread.OlderHexagon, 17}, {"M14", thread.OlderHexagon, 22},
		{"M22", thread.OlderHexagon, 32}, {"M16", thread.OlderHexagon, 24}, {"M64", thread.Hexagon, 95}, {"M36x3", thread.Hexagon, 55},
		{"3/4-10 UNC", thread.HeavyHexagon, 1.25 * 25.4}, {"2-8 UN", thread.HeavyHexagon, 3.125 * 25.4},
		{"M5", thread.SocketHead, 4}, {"M6", thread.SocketHead, 5}, {"M8", thread.SocketHead, 6}, {"M10", thread.SocketHead, 8},
		{"M12", thread.SocketHead, 10},
		{"M16x1.5", thread.SocketHead, 14}, {"M20", thread.SocketHead, 17}, {"M24", thread.SocketHead, 19}, {"M30", thread.SocketHead, 22},
		{"M36", thread.SocketHead, 27},
	} {
		th, err := thread.Parse(c.name)
		require.NoError(t, err)
		got, err := th.DriveSize(c.head)
		require.NoError(t, err, "%s %s", c.name, c.head)
		require.InDelta(t, c.want, got, 1e-9, "%s %s", c.name, c.head)
	}
	for _, c := range []struct{ name, head string }{{"M42", "socket head"}, {"3/4-10 UNC", "hexagon"}, {"3/4-10 UNC", "socket head"},
		{"M16", "heavy hexagon"}, {"M16", "star"}} {
		th, err := thread.Parse(c.name)
		require.NoError(t, err)
		_, err = th.DriveSize(thread.Head(c.head))
		require.ErrorIs(t, err, &refusal.Error{Code: refusal.Unknown, Field: "head"}, "%s %s", c.name, c.head)
	}
	require.True(t, thread.SocketHead.Inside())
	require.False(t, thread.Hexagon.Inside())
	for _, th := range thread.All() {
		listed := 0
		for _, h := range thread.Heads() {
			if size, err := th.DriveSize(h); err == nil {
				listed++
				require.Positive(t, size)
			}
		}
		require.Positive(t, listed, "%s has no drive size at all", th.Name)
	}
}

// Medium holes of ISO 273, every size that the craft's table lists.
func TestClearanceHoles(t *testing.T) {
	for name, want := range map[string]float64{"M5": 5.5, "M6": 6.6, "M8": 9, "M10": 11, "M12": 13.5, "M14": 15.5, "M16": 17.5, "M18": 20,
		"M20": 22, "M22": 24,
		"M24": 26, "M27": 30, "M30": 33, "M33": 36, "M36": 39, "M39": 42, "M42": 45, "M45": 48, "M48": 52, "M52": 56,
		"M56": 62, "M60": 66, "M64": 70, "M72": 78, "M80": 86, "M90": 96, "M100": 107} {
		th, err := thread.Parse(name)
		require.NoError(t, err)
		require.Equal(t, want, th.ClearanceHole(), name)
		require.InDelta(t, 0.95*th.AcrossFlats(), th.BearingDiameter(), 1e-12)
	}
}

// Every grade, at a size on either side of each of its limits.
func TestEveryGradeAsPublished(t *testing.T) {
	for _, c := range []struct {
		grade                    string
		d, proof, yield, tensile float64
	}{
		{"4.6", 20, 225, 240, 400}, {"5.6", 20, 280, 300, 500}, {"5.8", 20, 380, 420, 520}, {"8.8", 16, 580, 640, 800},
		{"8.8", 18, 600, 660, 830},
		{"10.9", 20, 830, 940, 1040}, {"12.9", 20, 970, 1100, 1220}, {"A2-50", 20, 0, 210, 500}, {"A2-70", 20, 0, 450, 700},
		{"A4-70", 20, 0, 450, 700},
		{"A2-80", 20, 0, 600, 800}, {"A4-80", 20, 0, 600, 800}, {"B7", 63.5, 0, 720, 860}, {"B7", 101.6, 0, 655, 795},
		{"B7M", 20, 0, 550, 690},
		{"B16", 63.5, 0, 725, 860}, {"L7", 20, 0, 725, 860}, {"B8 class 1", 20, 0, 205, 515}, {"B8 class 2", 19.05, 0, 690, 860},
		{"B8 class 2", 25.4, 0, 550, 795},
		{"B8 class 2", 31.75, 0, 450, 725}, {"B8 class 2", 38.1, 0, 345, 690}, {"grade 2", 19.05, 380, 395, 510}, {"grade 5", 25.4, 585,
			635, 825},
		{"grade 5", 38.1, 510, 560, 725}, {"grade 8", 20, 825, 895, 1035}, {"8.8 HV", 16, 580, 640, 800}, {"8.8 HV", 20, 600, 640, 800},
		{"10.9 HV", 20, 830, 900, 1000}, {"A325", 38.1, 585, 635, 825}, {"A490", 20, 825, 895, 1035},
	} {
		s, err := thread.StrengthOf(c.grade, c.d)
		require.NoError(t, err, "%s at %v", c.grade, c.d)
		require.Equal(t, thread.Strength{Proof: c.proof, Yield: c.yield, Tensile: c.tensile}, s, "%s at %v", c.grade, c.d)
	}
	for grade, beyond := range map[string]float64{"B16": 64, "B8 class 2": 39, "grade 2": 20, "grade 5": 39, "8.8": 102, "B7": 101.7} {
		_, err := thread.StrengthOf(grade, beyond)
		require.ErrorIs(t, err, &refusal.Error{Code: refusal.TooLarge}, grade)
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

func FuzzStrength(f *testing.F) {
	f.Add("B7", 63.5)
	f.Add("8.8", math.NaN())
	f.Add("", -1.0)
	f.Fuzz(func(t *testing.T, grade string, d float64) {
		s, err := thread.StrengthOf(grade, d)
		if err == nil && (!(s.Yield > 0) || s.Tensile < s.Yield || !(d > 0) || d > 102) {
			t.Fatalf("%s at %v: %+v", grade, d, s)
		}
	})
}

func ExampleParse() {
	t, _ := thread.Parse("m16 x 1.5")
	fmt.Printf("%s: %.1f mm²\n", t.Name, t.StressArea())
	// Output: M16x1.5: 167.2 mm²
}
