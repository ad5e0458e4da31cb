package thread

import (
	"fmt"

	"dynacor/core/refusal"
)

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

// LargestDiameter is that of the largest thread listed, 4 in, mm.
const LargestDiameter = 4 * inchMM

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
	if err := refusal.Within("d", d, LargestDiameter, "mm"); err != nil {
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
