package preload

import (
	"fmt"

	"dynacor/core/friction"
	"dynacor/core/refusal"
	"dynacor/core/thread"
	"dynacor/core/unit"
)

// Pretension returns the least load of a structural bolt, 0.7·fub·As in N,
// fub the tensile strength in MPa (EN 1090-2 section 8.5, RCSC table 8.1).
func Pretension(t thread.Thread, tensile float64) (float64, error) {
	if err := refusal.Positive("tensile", tensile, "MPa"); err != nil {
		return 0, err
	}
	return 0.7 * tensile * t.StressArea(), nil
}

// The steps of the torque method, as shares of M = K·d·Fp (EN 1090-2 section
// 8.5.3): all bolts to the first before any goes to the second. At 1.00 about
// half of them would end below the least load.
const (
	FirstStep  = 0.75
	SecondStep = 1.10
)

// Steps are the torques of the torque method, N·m.
type Steps struct{ Load, M, First, Second float64 }

// StepsOf returns the load Fp (N) and the torques of the torque method for a
// structural set on t at the lot's nut factor k.
func StepsOf(t thread.Thread, grade string, k float64) (Steps, error) {
	if !thread.Structural(grade) {
		return Steps{}, refusal.New(refusal.Contradicts, "grade",
			fmt.Sprintf("The torque method is for structural sets of a tested lot; %q is none.", grade),
			"Choose the grade on the set's head.")
	}
	s, err := thread.StrengthOf(grade, t.Diameter)
	if err != nil {
		return Steps{}, err
	}
	load, err := Pretension(t, s.Tensile)
	if err != nil {
		return Steps{}, err
	}
	m, err := friction.TorqueFromLoad(k, t.Diameter, load, 0)
	return Steps{load, m, FirstStep * m, SecondStep * m}, err
}

// PartTurnTolerance is how far a part turn may go beyond its value, degrees;
// it may not fall short.
const PartTurnTolerance = 60.0

// PartTurn returns the turn from snug, degrees, of a bolt of diameter d and
// length (mm) with 0, 1 or 2 sloped faces (RCSC table 8.2): 120 up to 4d, 180
// up to 8d, 240 up to 12d, and 60 more for each sloped face. Beyond 12d none
// is published.
func PartTurn(d, length float64, sloped int) (float64, error) {
	if err := refusal.First(refusal.Within("d", d, thread.LargestDiameter, "mm"), refusal.Positive("length", length, "mm")); err != nil {
		return 0, err
	}
	if sloped < 0 || sloped > 2 {
		return 0, refusal.Number(refusal.OutOfRange, "slopedFaces", float64(sloped), 2, "faces",
			fmt.Sprintf("%d sloped faces; a bolt has two.", sloped), "Enter 0, 1 or 2.")
	}
	base := 0.0
	switch {
	case unit.AtMost(length, 4*d):
		base = 120
	case unit.AtMost(length, 8*d):
		base = 180
	case unit.AtMost(length, 12*d):
		base = 240
	default:
		return 0, refusal.Number(refusal.TooLarge, "length", length, 12*d, "mm",
			fmt.Sprintf("%.4g mm is longer than 12 d, %.4g mm: no turn is published.", length,
				12*d), "Test bolts of this length on the job.")
	}
	return base + 60*float64(sloped), nil
}

// CombinedTurn returns the second step of the combined method, degrees, for a
// bolt of diameter d in a grip (mm): 60 below 2d, 90 below 6d, 120 up to 10d
// (EN 1090-2 table 21). Beyond none is published.
func CombinedTurn(d, grip float64) (float64, error) {
	if err := refusal.First(refusal.Within("d", d, thread.LargestDiameter, "mm"), refusal.Positive("grip", grip, "mm")); err != nil {
		return 0, err
	}
	switch {
	case !unit.AtLeast(grip, 2*d):
		return 60, nil
	case !unit.AtLeast(grip, 6*d):
		return 90, nil
	case unit.AtMost(grip, 10*d):
		return 120, nil
	}
	return 0, refusal.Number(refusal.TooLarge, "grip", grip, 10*d, "mm",
		fmt.Sprintf("A grip of %.4g mm is above 10 d, %.4g mm: no turn is published.", grip, 10*d), "Test bolts of this grip on the job.")
}
