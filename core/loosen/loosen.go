// Package loosen says what it takes to undo a joint, and how far to go at
// once.
//
// A bolt that carries F was brought there by T = F·(x + p) and lets go at
// F·(x − p), with p = P/(2π) the part of the pitch and x = µG·d2/(2·cos 30°) +
// µK·DK/2 that of friction, mm (VDI 2230): undoing takes less than doing by
// twice the pitch's part, if friction is what it was. It seldom is. A joint
// that has stood breaks loose at a static friction above the sliding one, and
// weather, heat and corrosion raise it further; a joint that crept has lost
// load. So the answer is a range, from the low nut factor with load lost to the
// high one with what age adds, and the factors for age are starting values of
// ours, no standard's. Valid for threads that are not galled or seized; beyond
// the range stop and look.
package loosen

import (
	"fmt"
	"math"

	"dynacor/core/friction"
	"dynacor/core/refusal"
	"dynacor/core/thread"
)

// Age is how a joint has stood since its last value was held.
type Age string

// The ages.
const (
	Fresh     Age = "same shift"
	Settled   Age = "days to months, dry"
	Weathered Age = "outdoors or wet"
	Hot       Age = "hot service or rust"
)

// Ages lists them.
func Ages() []Age { return []Age{Fresh, Settled, Weathered, Hot} }

// factors are what age does to the friction part: the least, the likely and
// the most.
func (a Age) factors() (low, likely, high float64, err error) {
	switch a {
	case Fresh:
		return 1, 1.1, 1.3, nil
	case Settled:
		return 1, 1.25, 1.7, nil
	case Weathered:
		return 1.1, 1.6, 2.5, nil
	case Hot:
		return 1.3, 2.2, 4, nil
	}
	return 0, 0, 0, refusal.New(refusal.Unknown, "age", fmt.Sprintf("Unknown age %q.", string(a)), "Choose one from the list.")
}

// Held is the last value a bolt was brought to: torque and the part of it that
// a prevailing-torque nut took, N·m, with the lubrication it was done with.
// Kept is the least share of its load that it may have kept, 0.7 for a
// gasketed joint where nothing better is known, 1 for none lost.
type Held struct {
	Thread     thread.Thread
	Lubricant  friction.Lubricant
	Torque     float64
	Prevailing float64
	Kept       float64
	Age        Age
}

// Breakout is the torque at which a nut is expected to let go, N·m. High is
// what the loosening tool must reach with room to spare.
type Breakout struct{ Low, Likely, High float64 }

// Breakout returns the likely range. The maker's instructions, and the feel of
// the first nut, come before it.
func (h Held) Breakout() (Breakout, error) {
	if _, _, _, err := h.Age.factors(); err != nil {
		return Breakout{}, err
	}
	if err := refusal.First(refusal.Positive("torque", h.Torque, "N·m"), refusal.NotNegative("prevailing", h.Prevailing, "N·m"),
		refusal.Fraction("kept", h.Kept),
		h.Lubricant.Check()); err != nil {
		return Breakout{}, err
	}
	if h.Torque <= h.Prevailing {
		return Breakout{}, refusal.Number(refusal.TooSmall, "torque", h.Torque, h.Prevailing, "N·m",
			fmt.Sprintf("%.4g N·m held no load: the nut alone takes %.4g N·m.", h.Torque, h.Prevailing), "Check the record.")
	}
	var at [3]float64
	for i, end := range h.Ends() {
		share, err := h.undo(end.K, end.Factor)
		if err != nil {
			return Breakout{}, err
		}
		at[i] = (h.Torque-h.Prevailing)*end.Kept*share + h.Prevailing
	}
	return Breakout{at[0], at[1], at[2]}, nil
}

// End is what an end of the range is worked out with: nut factor, what age adds to
// friction, and the share of the load that was kept.
type End struct{ K, Factor, Kept float64 }

// Ends are those of the least, the likely and the most.
func (h Held) Ends() [3]End {
	low, likely, high, _ := h.Age.factors()
	return [3]End{{h.Lubricant.Low, low, h.Kept}, {h.Lubricant.Nominal, likely, (1 + h.Kept) / 2}, {h.Lubricant.High, high, 1}}
}

// undo returns the undoing torque as a share of the doing one at nut factor k,
// friction since risen by factor: (factor·x − p)/(x + p), not below zero.
func (h Held) undo(k, factor float64) (float64, error) {
	face := friction.FaceOf(h.Thread, h.Thread.HeadOf(""))
	mu, err := friction.CoefficientFromK(h.Thread, k, face)
	if err != nil {
		return 0, err
	}
	whole, err := friction.TorqueFromCoefficients(h.Thread, mu, mu, face, 1000)
	if err != nil {
		return 0, err
	}
	pitch := h.Thread.Pitch / (2 * math.Pi)
	return math.Max(factor*(whole.Torque-pitch)-pitch, 0) / whole.Torque, nil
}

// Stage is one go of undoing a joint: how far each nut is turned back, degrees
// (zero: run off by hand), in which order, and what to do before the next.
type Stage struct {
	Turn   float64
	Order  []int
	Repeat bool // until the nuts turn freely
	Then   string
}

// QuarterTurn is how far every nut goes back before any goes further.
const QuarterTurn = 90.0

// Release returns the stages of undoing a joint in the order it was tightened
// in: first a quarter turn all round, never one bolt fully out while others are
// loaded.
func Release(order []int) ([]Stage, error) {
	if len(order) == 0 {
		return nil, refusal.New(refusal.Missing, "order", "No bolts are named.", "Give the order the joint was tightened in.")
	}
	n, seen := len(order), make([]bool, len(order)+1)
	for _, b := range order {
		if b < 1 || b > n || seen[b] {
			return nil, refusal.Number(refusal.Contradicts, "order", float64(b), float64(n), "",
				fmt.Sprintf("Bolt %d does not stand once in an order of %d.", b, n), "Name each bolt once.")
		}
		seen[b] = true
	}
	return []Stage{
		{QuarterTurn, order, false, "Wait, look and listen: a joint thought empty can still hold pressure. Nobody in line with it."},
		{QuarterTurn, order, true, "When every nut turns by hand, part the joint at the side away from you, the rest still on."},
		{0, order, false, "Support the part before the last bolts; the last two opposite ones come off with it held."},
	}, nil
}

// TakeOut refuses to take a bolt fully out while any other still carries load.
func TakeOut(bolt int, loaded []bool) error {
	if bolt < 1 || bolt > len(loaded) {
		return refusal.Number(refusal.OutOfRange, "bolt", float64(bolt), float64(len(loaded)), "", fmt.Sprintf("Bolt %d is not one of %d.",
			bolt, len(loaded)), "")
	}
	for i, l := range loaded {
		if l {
			return refusal.Number(refusal.NotNow, "bolt", float64(bolt), float64(i+1), "",
				fmt.Sprintf("Bolt %d stays in: bolt %d still carries load.", bolt, i+1),
				"Turn every nut back a quarter at a time until all are slack.")
		}
	}
	return nil
}
