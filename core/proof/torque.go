package proof

import (
	"fmt"
	"math"

	"dynacor/core/refusal"
	"dynacor/core/unit"
)

// Functional is the verdict on a torque that is adjusted and measured until it
// lies in its window: a stem, a gland, a valve's break torque. Every try
// counts in the record.
type Functional struct {
	Verdict
	FailedTries int
	Next        string // what to do now: adjust, or nothing
}

// JudgeFunctional judges the tries so far, N·m, against a window from lo to hi
// of the rated value: accepted when the last lies in it.
func JudgeFunctional(readings []float64, rated, lo, hi float64) (Functional, error) {
	if err := refusal.First(measured("readings", readings, "N·m", false), refusal.Positive("rated", rated, "N·m"),
		window(lo, hi)); err != nil {
		return Functional{}, err
	}
	out := Functional{}
	inside := func(r float64) bool { return unit.AtLeast(r, lo*rated) && unit.AtMost(r, hi*rated) }
	for _, r := range readings {
		if !inside(r) {
			out.FailedTries++
		}
	}
	last := readings[len(readings)-1]
	out.Verdict = Verdict{What: FunctionalTorque, Value: last, Unit: "N·m", Holds: inside(last), Limit: hi * rated}
	out.Reason = fmt.Sprintf("%.4g N·m; the window is %.4g to %.4g N·m.", last, lo*rated, hi*rated)
	if last < lo*rated && !out.Holds {
		out.Limit, out.Next = lo*rated, "Tighten the adjustment a little and measure again."
	} else if !out.Holds {
		out.Next = "Loosen the adjustment a little and measure again."
	}
	return out, nil
}

func window(lo, hi float64) error {
	return refusal.First(refusal.Within("lo", lo, 100, ""), refusal.Within("hi", hi, 100, ""), refusal.Rising("lo", lo, hi, ""))
}

// The usual window of a residual torque, as shares of the target.
const (
	ResidualLow  = 0.85
	ResidualHigh = 1.15
)

// Residual is the verdict on torques measured on in the tightening direction
// to the first movement.
type Residual struct {
	Verdict
	Failed []int // readings that lie outside, from 0
}

// JudgeResidual judges a sample's readings, N·m, against a window of the
// target. One reading outside and all of the group is measured.
func JudgeResidual(readings []float64, target, lo, hi float64) (Residual, error) {
	if err := refusal.First(measured("readings", readings, "N·m", false), refusal.Positive("target", target, "N·m"),
		window(lo, hi)); err != nil {
		return Residual{}, err
	}
	out := Residual{Failed: []int{}}
	for i, r := range readings {
		if !unit.AtLeast(r, lo*target) || !unit.AtMost(r, hi*target) {
			out.Failed = append(out.Failed, i)
		}
	}
	out.Verdict = Verdict{What: ResidualSample, Value: float64(len(out.Failed)), Unit: "readings", Holds: len(out.Failed) == 0}
	out.Reason = fmt.Sprintf("All %d lie within %.4g to %.4g N·m.", len(readings), lo*target, hi*target)
	if !out.Holds {
		out.Reason = fmt.Sprintf("%d of %d lie outside %.4g to %.4g N·m: measure all of the group.", len(out.Failed), len(readings),
			lo*target, hi*target)
	}
	return out, nil
}

// The usual sampling: a tenth of the group, at least two.
const (
	SampleShare   = 0.1
	SampleAtLeast = 2
)

// SampleCount returns how many of n are measured: the share, rounded up, at
// least atLeast, never more than there are.
func SampleCount(n int, share float64, atLeast int) (int, error) {
	if n < 1 || n > 1_000_000 {
		return 0, refusal.Number(refusal.TooSmall, "n", float64(n), 1, "bolts", fmt.Sprintf("A group of %d has nothing to sample.", n),
			"Count the bolts.")
	}
	if atLeast < 0 {
		return 0, refusal.Number(refusal.Negative, "atLeast", float64(atLeast), 0, "bolts", "The least count must not be negative.",
			"Usually 2.")
	}
	if err := refusal.Fraction("share", share); err != nil {
		return 0, err
	}
	count := int(math.Ceil(float64(n) * share * (1 - unit.Tolerance)))
	return min(max(count, atLeast), n), nil
}

// SampleOf names count positions of n to be measured: the worst first, in the
// order given (trouble, moved, last turned), then others spread evenly.
func SampleOf(n, count int, worst []int) ([]int, error) {
	if n < 1 || n > 1_000_000 || count < 0 || count > n {
		return nil, refusal.Number(refusal.OutOfRange, "count", float64(count), float64(n), "bolts",
			fmt.Sprintf("%d of %d cannot be sampled.", count, n), "")
	}
	taken := make([]bool, n+1)
	out := make([]int, 0, count)
	take := func(b int) {
		if len(out) < count && !taken[b] {
			taken[b] = true
			out = append(out, b)
		}
	}
	for _, b := range worst {
		if b < 1 || b > n {
			return nil, refusal.Number(refusal.OutOfRange, "worst", float64(b), float64(n), "", fmt.Sprintf("Bolt %d is not one of %d.", b,
				n), "")
		}
		take(b)
	}
	for k, rest := 0, count-len(out); k < rest; k++ {
		b := 1 + k*n/rest
		for taken[b] {
			b = b%n + 1
		}
		take(b)
	}
	return out, nil
}
