package thread

import (
	"fmt"

	"dynacor/core/refusal"
)

// One metric size: pitches (ISO 261), hex across flats (ISO 4032 and ISO 272)
// and medium clearance hole (ISO 273), mm; zero where there is none.
type metricRow struct{ d, coarse, fine, flats, hole float64 }

var metricRows = []metricRow{
	{3, .5, 0, 5.5, 3.4}, {4, .7, 0, 7, 4.5}, {5, .8, 0, 8, 5.5}, {6, 1, 0, 10, 6.6},
	{8, 1.25, 1, 13, 9}, {10, 1.5, 1.25, 16, 11}, {12, 1.75, 1.25, 18, 13.5}, {14, 2, 1.5, 21, 15.5},
	{16, 2, 1.5, 24, 17.5}, {18, 2.5, 1.5, 27, 20}, {20, 2.5, 1.5, 30, 22}, {22, 2.5, 1.5, 34, 24},
	{24, 3, 2, 36, 26}, {27, 3, 2, 41, 30}, {30, 3.5, 2, 46, 33}, {33, 3.5, 2, 50, 36},
	{36, 4, 3, 55, 39}, {39, 4, 3, 60, 42}, {42, 4.5, 3, 65, 45}, {45, 4.5, 3, 70, 48},
	{48, 5, 3, 75, 52}, {52, 5, 0, 80, 56}, {56, 5.5, 0, 85, 62}, {60, 5.5, 0, 90, 66},
	{64, 6, 0, 95, 70}, {72, 6, 0, 105, 78}, {80, 6, 0, 115, 86}, {90, 6, 0, 130, 96}, {100, 6, 0, 145, 107},
}

// One inch size, in whole, numerator and denominator; number is set for a
// numbered size.
type inchRow struct {
	number, whole, num, den int
	tpi                     float64
	series                  Series
}

func (r inchRow) inches() float64 {
	if r.number != 0 {
		return 0.060 + 0.013*float64(r.number)
	}
	x := float64(r.whole)
	if r.den != 0 {
		x += float64(r.num) / float64(r.den)
	}
	return x
}

func (r inchRow) thread() Thread {
	size := fmt.Sprint(r.whole)
	switch {
	case r.number != 0:
		size = fmt.Sprintf("#%d", r.number)
	case r.den != 0 && r.whole == 0:
		size = fmt.Sprintf("%d/%d", r.num, r.den)
	case r.den != 0:
		size = fmt.Sprintf("%d-%d/%d", r.whole, r.num, r.den)
	}
	suffix := string(r.series)
	if r.series == UN8 {
		suffix = "UN"
	}
	return Thread{fmt.Sprintf("%s-%g %s", size, r.tpi, suffix), r.series, r.inches() * 25.4, 25.4 / r.tpi}
}

var inchRows = []inchRow{
	{10, 0, 0, 0, 24, UNC}, {0, 0, 1, 4, 20, UNC}, {0, 0, 5, 16, 18, UNC}, {0, 0, 3, 8, 16, UNC},
	{0, 0, 7, 16, 14, UNC}, {0, 0, 1, 2, 13, UNC}, {0, 0, 9, 16, 12, UNC}, {0, 0, 5, 8, 11, UNC},
	{0, 0, 3, 4, 10, UNC}, {0, 0, 7, 8, 9, UNC}, {0, 1, 0, 0, 8, UNC}, {0, 1, 1, 8, 7, UNC},
	{0, 1, 1, 4, 7, UNC}, {0, 1, 3, 8, 6, UNC}, {0, 1, 1, 2, 6, UNC}, {0, 1, 3, 4, 5, UNC}, {0, 2, 0, 0, 4.5, UNC},
	{0, 1, 1, 8, 8, UN8}, {0, 1, 1, 4, 8, UN8}, {0, 1, 3, 8, 8, UN8}, {0, 1, 1, 2, 8, UN8}, {0, 1, 5, 8, 8, UN8},
	{0, 1, 3, 4, 8, UN8}, {0, 1, 7, 8, 8, UN8}, {0, 2, 0, 0, 8, UN8}, {0, 2, 1, 4, 8, UN8}, {0, 2, 1, 2, 8, UN8},
	{0, 2, 3, 4, 8, UN8}, {0, 3, 0, 0, 8, UN8}, {0, 3, 1, 4, 8, UN8}, {0, 3, 1, 2, 8, UN8}, {0, 3, 3, 4, 8, UN8}, {0, 4, 0, 0, 8, UN8},
	{10, 0, 0, 0, 32, UNF}, {0, 0, 1, 4, 28, UNF}, {0, 0, 5, 16, 24, UNF}, {0, 0, 3, 8, 24, UNF}, {0, 0, 7, 16, 20, UNF},
	{0, 0, 1, 2, 20, UNF}, {0, 0, 9, 16, 18, UNF}, {0, 0, 5, 8, 18, UNF}, {0, 0, 3, 4, 16, UNF}, {0, 0, 7, 8, 14, UNF}, {0, 1, 0, 0, 12, UNF},
}

// AcrossFlats returns the width of the hex of t, mm: the metric series of
// ISO 272, heavy hex 1.5·D + 1/8 in (ASME B18.2.2) for inch threads.
func (t Thread) AcrossFlats() float64 {
	if t.Inch() {
		return 1.5*t.Diameter + 25.4/8
	}
	for _, r := range metricRows {
		if r.d == t.Diameter {
			return r.flats
		}
	}
	return 0
}

// ClearanceHole returns the usual hole for t, mm: ISO 273 medium for metric,
// ASME B18.2.8 normal fit for inch threads (1/16 in over the size below 1 in,
// 3/32 to 1-1/2 in, 1/8 beyond).
func (t Thread) ClearanceHole() float64 {
	if t.Inch() {
		switch d := t.Diameter / 25.4; {
		case d < 1-1e-9:
			return t.Diameter + 25.4/16
		case d < 1.5+1e-9:
			return t.Diameter + 25.4*3/32
		default:
			return t.Diameter + 25.4/8
		}
	}
	for _, r := range metricRows {
		if r.d == t.Diameter {
			return r.hole
		}
	}
	return 0
}

// BearingDiameter returns the outside diameter dw of the face that turns,
// 0.95 of the width across flats, mm.
func (t Thread) BearingDiameter() float64 { return 0.95 * t.AcrossFlats() }

// Strength is a grade's published values, MPa. Proof is zero where none is
// published; HasProof tells.
type Strength struct {
	Proof, Yield, Tensile float64
}

// HasProof reports whether a proof stress is published for the grade.
func (s Strength) HasProof() bool { return s.Proof > 0 }

type gradeRow struct {
	grade string
	upTo  float64 // mm, zero: every size
	Strength
}

const inchMM = 25.4

// In the order in which a grade's rows must be tried, smallest limit first.
var gradeRows = []gradeRow{
	// ISO 898-1
	{"4.6", 0, Strength{225, 240, 400}}, {"5.6", 0, Strength{280, 300, 500}}, {"5.8", 0, Strength{380, 420, 520}},
	{"8.8", 16, Strength{580, 640, 800}}, {"8.8", 0, Strength{600, 660, 830}},
	{"10.9", 0, Strength{830, 940, 1040}}, {"12.9", 0, Strength{970, 1100, 1220}},
	// ISO 3506
	{"A2-50", 0, Strength{0, 210, 500}}, {"A2-70", 0, Strength{0, 450, 700}}, {"A4-70", 0, Strength{0, 450, 700}},
	{"A2-80", 0, Strength{0, 600, 800}}, {"A4-80", 0, Strength{0, 600, 800}},
	// studs
	{"B7", 2.5 * inchMM, Strength{0, 720, 860}}, {"B7", 4 * inchMM, Strength{0, 655, 795}},
	{"B7M", 0, Strength{0, 550, 690}}, {"B16", 2.5 * inchMM, Strength{0, 725, 860}}, {"L7", 0, Strength{0, 725, 860}},
	{"B8 class 1", 0, Strength{0, 205, 515}},
	{"B8 class 2", 0.75 * inchMM, Strength{0, 690, 860}}, {"B8 class 2", 1 * inchMM, Strength{0, 550, 795}},
	{"B8 class 2", 1.25 * inchMM, Strength{0, 450, 725}}, {"B8 class 2", 1.5 * inchMM, Strength{0, 345, 690}},
	// SAE J429
	{"grade 2", 0.75 * inchMM, Strength{380, 395, 510}},
	{"grade 5", 1 * inchMM, Strength{585, 635, 825}}, {"grade 5", 1.5 * inchMM, Strength{510, 560, 725}},
	{"grade 8", 0, Strength{825, 895, 1035}},
	// structural, nominal
	{"8.8 HV", 16, Strength{580, 640, 800}}, {"8.8 HV", 0, Strength{600, 640, 800}},
	{"10.9 HV", 0, Strength{830, 900, 1000}}, {"A325", 0, Strength{585, 635, 825}}, {"A490", 0, Strength{825, 895, 1035}},
}

// StrengthOf returns the strength of a grade at a diameter in mm. Past the
// grade's last size limit, and for an unknown grade, it refuses.
func StrengthOf(grade string, d float64) (Strength, error) {
	if err := refusal.Positive("d", d, "mm"); err != nil {
		return Strength{}, err
	}
	seen, last := false, 0.0
	for _, r := range gradeRows {
		if r.grade != grade {
			continue
		}
		seen, last = true, r.upTo
		if r.upTo == 0 || d <= r.upTo*(1+1e-9) {
			return r.Strength, nil
		}
	}
	if !seen {
		return Strength{}, refusal.New(refusal.Unknown, "grade", fmt.Sprintf("Unknown grade %q.", grade),
			"Read the mark on the head or the stud's end and choose it from the list.")
	}
	return Strength{}, refusal.Number(refusal.TooLarge, "grade", d, last, "mm",
		fmt.Sprintf("%s has no published strength at %.4g mm; its last size is %.4g mm.", grade, d, last),
		"Choose another grade, or enter the maker's torque.")
}

// Grades lists the grades the core knows, in the order of their standards.
func Grades() []string {
	var out []string
	for _, r := range gradeRows {
		if len(out) == 0 || out[len(out)-1] != r.grade {
			out = append(out, r.grade)
		}
	}
	return out
}
