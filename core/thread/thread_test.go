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
		require.Greater(t, th.Flats(th.HeadOf("")), 1.3*th.Diameter, th.Name)
		require.Greater(t, th.ClearanceHole(), th.Diameter, th.Name)
		require.Greater(t, th.FlangeHole(), th.Diameter, th.Name)
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
	_, err := thread.StrengthOf("12.9", 42)
	var r *refusal.Error
	require.True(t, errors.As(err, &r))
	require.Equal(t, refusal.TooLarge, r.Code)
	require.Equal(t, 39.0, r.Limit)
	_, err = thread.StrengthOf("10.9 HV", 10)
	require.True(t, errors.As(err, &r))
	require.Equal(t, refusal.TooSmall, r.Code)
	require.Equal(t, 12.0, r.Limit)
	for _, g := range thread.Grades() {
		s, err := thread.StrengthOf(g, 12.7)
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
		{"M36", thread.SocketHead, 27}, {"M3", thread.SocketHead, 2.5}, {"M14", thread.SocketHead, 12}, {"M42", thread.SocketHead, 32},
		{"1/2-13 UNC", thread.SocketHead, 3. / 8 * 25.4}, {"#10-24 UNC", thread.SocketHead, 5. / 32 * 25.4},
		{"M12", thread.StructuralHexagon, 22}, {"M16", thread.StructuralHexagon, 27}, {"M20", thread.StructuralHexagon, 32},
		{"M22", thread.StructuralHexagon, 36}, {"M24", thread.StructuralHexagon, 41}, {"M27", thread.StructuralHexagon, 46},
		{"M30", thread.StructuralHexagon, 50}, {"M36", thread.StructuralHexagon, 60},
		{"1/4-20 UNC", thread.Hexagon, 7. / 16 * 25.4}, {"5/16-18 UNC", thread.Hexagon, 1. / 2 * 25.4},
		{"3/8-16 UNC", thread.Hexagon, 9. / 16 * 25.4}, {"7/16-14 UNC", thread.Hexagon, 5. / 8 * 25.4},
		{"1/2-13 UNC", thread.Hexagon, 3. / 4 * 25.4}, {"9/16-12 UNC", thread.Hexagon, 13. / 16 * 25.4},
		{"5/8-11 UNC", thread.Hexagon, 15. / 16 * 25.4}, {"3/4-10 UNC", thread.Hexagon, 1.125 * 25.4},
		{"7/8-9 UNC", thread.Hexagon, 1.3125 * 25.4}, {"1-8 UNC", thread.Hexagon, 1.5 * 25.4},
		{"1/2-13 UNC", thread.HeavyHexagon, 7. / 8 * 25.4}, {"9/16-12 UNC", thread.HeavyHexagon, 15. / 16 * 25.4},
		{"5/8-11 UNC", thread.HeavyHexagon, 1.0625 * 25.4}, {"7/8-9 UNC", thread.HeavyHexagon, 1.4375 * 25.4},
		{"1-8 UNC", thread.HeavyHexagon, 1.625 * 25.4},
	} {
		th, err := thread.Parse(c.name)
		require.NoError(t, err)
		got, err := th.DriveSize(c.head)
		require.NoError(t, err, "%s %s", c.name, c.head)
		require.InDelta(t, c.want, got, 1e-9, "%s %s", c.name, c.head)
	}
	for _, c := range []struct{ name, head string }{{"M39", "socket head"}, {"3/4-10 UNC", "structural hexagon"},
		{"2-8 UN", "socket head"}, {"M16", "heavy hexagon"}, {"M10", "structural hexagon"}, {"3/8-16 UNC", "heavy hexagon"}, {"M16",
			"star"}} {
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
	}
}

// Normal holes of ASME B18.2.8, and what pipe flanges are drilled with (ASME B16.5).
func TestInchHoles(t *testing.T) {
	for name, want := range map[string][2]float64{"1/4-20 UNC": {9. / 32, 3. / 8}, "3/8-16 UNC": {13. / 32, 1. / 2},
		"1/2-13 UNC": {9. / 16, 5. / 8}, "7/8-9 UNC": {15. / 16, 1}, "1-8 UNC": {1 + 3./32, 1.125}, "1-1/4-8 UN": {1 + 11./32, 1.375},
		"1-1/2-8 UN": {1.625, 1.625}} {
		th, err := thread.Parse(name)
		require.NoError(t, err)
		require.InDelta(t, want[0]*25.4, th.ClearanceHole(), 1e-9, name)
		require.InDelta(t, want[1]*25.4, th.FlangeHole(), 1e-9, name)
	}
}

// Which head a tool meets follows from the grade.
func TestHeadsByGrade(t *testing.T) {
	for _, c := range []struct {
		name, grade string
		want        thread.Head
	}{{"M24", "10.9 HV", thread.StructuralHexagon}, {"M24", "8.8 HR", thread.StructuralHexagon}, {"M24", "10.9", thread.Hexagon},
		{"M18", "10.9 HV", thread.Hexagon}, {"3/4-10 UNC", "B7", thread.HeavyHexagon}, {"3/4-10 UNC", "A325", thread.HeavyHexagon},
		{"3/4-10 UNC", "grade 5", thread.Hexagon}, {"3/8-16 UNC", "B7", thread.Hexagon}, {"3/4-10 UNC", "", thread.HeavyHexagon}} {
		th, err := thread.Parse(c.name)
		require.NoError(t, err)
		require.Equal(t, c.want, th.HeadOf(c.grade), "%s %s", c.name, c.grade)
	}
	require.True(t, thread.InchGrade("grade 8"))
	require.False(t, thread.InchGrade("B7"))
	require.True(t, thread.Structural("A490"))
	require.False(t, thread.Structural("10.9"))
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
		{"grade 5", 38.1, 510, 560, 725}, {"grade 8", 20, 825, 895, 1035}, {"8.8 HR", 12, 0, 640, 800}, {"8.8 HR", 36, 0, 640, 800},
		{"10.9 HR", 20, 0, 900, 1000}, {"10.9 HV", 20, 0, 900, 1000}, {"A325", 38.1, 585, 635, 825}, {"A490", 20, 825, 895, 1035},
		{"4.8", 8, 310, 340, 420}, {"6.8", 39, 440, 480, 600}, {"9.8", 16, 650, 720, 900}, {"A4-50", 39, 0, 210, 500},
		{"B16", 64.5, 0, 655, 760}, {"B7", 64, 0, 720, 860}, {"B7", 64.5, 0, 655, 795}, {"L7", 64, 0, 725, 860},
		{"B8 class 2", 20, 0, 690, 860}, {"B8 class 2", 24, 0, 550, 795}, {"B8 class 2", 30, 0, 450, 725}, {"B8 class 2", 36, 0, 345, 690},
		{"grade 2", 20, 230, 250, 415},
	} {
		s, err := thread.StrengthOf(c.grade, c.d)
		require.NoError(t, err, "%s at %v", c.grade, c.d)
		require.Equal(t, thread.Strength{Proof: c.proof, Yield: c.yield, Tensile: c.tensile}, s, "%s at %v", c.grade, c.d)
	}
	for grade, beyond := range map[string]float64{"B16": 101.7, "B8 class 2": 39, "grade 2": 39, "grade 5": 39, "grade 8": 38.2, "8.8": 42,
		"9.8": 18, "B7": 101.7, "L7": 70, "A2-70": 42, "10.9 HV": 39, "A325": 39} {
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
