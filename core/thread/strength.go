package thread

import (
	"fmt"
	"strings"

	"dynacor/core/refusal"
	"dynacor/core/unit"
)

// Strength is a grade's published values, MPa. Proof is zero where none is
// published; HasProof tells.
type Strength struct {
	Proof, Yield, Tensile float64
}

// HasProof reports whether a proof stress is published for the grade.
func (s Strength) HasProof() bool { return s.Proof > 0 }

// A grade's values from one size to another, mm; from is zero where the standard
// begins below every thread that is listed.
type gradeRow struct {
	grade    string
	from, to float64
	Strength
}

const inchMM = 25.4

// LargestDiameter is that of the largest thread listed, 4 in, mm.
const LargestDiameter = 4 * inchMM

// The sizes at which grades end, mm.
const (
	largestISO = 39 // ISO 898-1 and ISO 3506: M39

	// Stud grades end at inch sizes; the metric size beside each counts with it.
	threeQuarters = 20 // M20, with 3/4 in
	twoAndAHalf   = 64 // M64, with 2-1/2 in

	structuralFrom, structuralTo         = 12, 36 // EN 14399: M12 to M36
	structuralInchFrom, structuralInchTo = 0.5 * inchMM, 1.5 * inchMM
)

// In the order in which a grade's rows must be tried, smallest limit first.
var gradeRows = []gradeRow{
	// ISO 898-1
	{"4.6", 0, largestISO, Strength{225, 240, 400}}, {"4.8", 0, largestISO, Strength{310, 340, 420}},
	{"5.6", 0, largestISO, Strength{280, 300, 500}}, {"5.8", 0, largestISO, Strength{380, 420, 520}},
	{"6.8", 0, largestISO, Strength{440, 480, 600}},
	{"8.8", 0, 16, Strength{580, 640, 800}}, {"8.8", 0, largestISO, Strength{600, 660, 830}},
	{"9.8", 0, 16, Strength{650, 720, 900}},
	{"10.9", 0, largestISO, Strength{830, 940, 1040}}, {"12.9", 0, largestISO, Strength{970, 1100, 1220}},
	// ISO 3506
	{"A2-50", 0, largestISO, Strength{0, 210, 500}}, {"A2-70", 0, largestISO, Strength{0, 450, 700}},
	{"A2-80", 0, largestISO, Strength{0, 600, 800}}, {"A4-50", 0, largestISO, Strength{0, 210, 500}},
	{"A4-70", 0, largestISO, Strength{0, 450, 700}}, {"A4-80", 0, largestISO, Strength{0, 600, 800}},
	// studs: ASTM A193 and A320
	{"B7", 0, twoAndAHalf, Strength{0, 720, 860}}, {"B7", 0, LargestDiameter, Strength{0, 655, 795}},
	{"B7M", 0, LargestDiameter, Strength{0, 550, 690}},
	{"B16", 0, twoAndAHalf, Strength{0, 725, 860}}, {"B16", 0, LargestDiameter, Strength{0, 655, 760}},
	{"L7", 0, twoAndAHalf, Strength{0, 725, 860}},
	{"B8 class 1", 0, LargestDiameter, Strength{0, 205, 515}},
	{"B8 class 2", 0, threeQuarters, Strength{0, 690, 860}}, {"B8 class 2", 0, 1 * inchMM, Strength{0, 550, 795}},
	{"B8 class 2", 0, 1.25 * inchMM, Strength{0, 450, 725}}, {"B8 class 2", 0, 1.5 * inchMM, Strength{0, 345, 690}},
	// SAE J429
	{"grade 2", 0, 0.75 * inchMM, Strength{380, 395, 510}}, {"grade 2", 0, 1.5 * inchMM, Strength{230, 250, 415}},
	{"grade 5", 0, 1 * inchMM, Strength{585, 635, 825}}, {"grade 5", 0, 1.5 * inchMM, Strength{510, 560, 725}},
	{"grade 8", 0, 1.5 * inchMM, Strength{825, 895, 1035}},
	// structural sets, nominal: EN 14399, ASTM F3125
	{"8.8 HR", structuralFrom, structuralTo, Strength{0, 640, 800}}, {"10.9 HR", structuralFrom, structuralTo, Strength{0, 900, 1000}},
	{"10.9 HV", structuralFrom, structuralTo, Strength{0, 900, 1000}},
	{"A325", structuralInchFrom, structuralInchTo, Strength{585, 635, 825}},
	{"A490", structuralInchFrom, structuralInchTo, Strength{825, 895, 1035}},
}

// Structural reports whether a grade is of a set for preloaded structural bolting.
func Structural(grade string) bool {
	return HighStrengthSet(grade) || grade == "A325" || grade == "A490"
}

// HighStrengthSet reports whether a grade is of a metric structural set, HR or HV.
func HighStrengthSet(grade string) bool {
	return strings.HasSuffix(grade, " HR") || strings.HasSuffix(grade, " HV")
}

// Stainless reports whether bolts of a grade are of austenitic stainless steel: they
// gall, stretch more and grow more with heat.
func Stainless(grade string) bool {
	return strings.HasPrefix(grade, "A2-") || strings.HasPrefix(grade, "A4-") || strings.HasPrefix(grade, "B8 ")
}

// InchGrade reports whether a grade is of a standard for inch threads alone.
func InchGrade(grade string) bool {
	return strings.HasPrefix(grade, "grade ") || grade == "A325" || grade == "A490"
}

// StrengthOf returns the strength of a grade at a diameter in mm. Past the
// grade's last size limit, below its first, and for an unknown grade, it refuses.
func StrengthOf(grade string, d float64) (Strength, error) {
	if err := refusal.Within("d", d, LargestDiameter, "mm"); err != nil {
		return Strength{}, err
	}
	var last gradeRow
	for _, r := range gradeRows {
		if r.grade != grade {
			continue
		}
		last = r
		if !unit.AtLeast(d, r.from) {
			return Strength{}, refusal.Number(refusal.TooSmall, "grade", d, r.from, "mm",
				fmt.Sprintf("%s has no published strength at %.4g mm; its first size is %.4g mm.", grade, d, r.from),
				"Choose another grade, or enter the strength from the certificate.")
		}
		if unit.AtMost(d, r.to) {
			return r.Strength, nil
		}
	}
	if last.grade == "" {
		return Strength{}, refusal.New(refusal.Unknown, "grade", fmt.Sprintf("Unknown grade %q.", grade),
			"Read the mark on the head or the stud's end and choose it from the list.")
	}
	return Strength{}, refusal.Number(refusal.TooLarge, "grade", d, last.to, "mm",
		fmt.Sprintf("%s has no published strength at %.4g mm; its last size is %.4g mm.", grade, d, last.to),
		"Choose another grade, or enter the strength from the certificate.")
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
