package proof

import (
	"fmt"
	"math"

	"dynacor/core/refusal"
	"dynacor/core/unit"
)

// The usual limits of flange faces before assembly (ASME PCC-1, appendix E).
const (
	MostHighLow    = 1.5 // mm
	MostHoleOffset = 3.0 // mm
	MostGaskets    = 2.0 // gap, in thicknesses of the gasket
)

// JudgeFitUp judges a pair of flanges before the gasket goes in: axial
// high-low, offset of the bolt holes and gap, against the gasket's thickness,
// all mm. A joint that has to be pulled together by its bolts is refused by
// the site, not by force.
func JudgeFitUp(highLow, holeOffset, gap, gasket float64) ([]Verdict, error) {
	if err := refusal.First(refusal.NotNegative("highLow", highLow, "mm"), refusal.NotNegative("holeOffset", holeOffset, "mm"),
		refusal.NotNegative("gap", gap, "mm"), refusal.Positive("gasket", gasket, "mm")); err != nil {
		return nil, err
	}
	return []Verdict{
		atMost(FitUp, "The pipes are out of line by", highLow, MostHighLow, "mm"),
		atMost(FitUp, "The bolt holes are off by", holeOffset, MostHoleOffset, "mm"),
		atMost(FitUp, "The flanges stand apart by", gap, MostGaskets*gasket, "mm"),
	}, nil
}

// JudgeClearance judges gaps (mm) that must stay open: between clamp halves,
// the discs of a clamping set, split housings. Each must be above zero and all
// within limit of one another.
func JudgeClearance(gaps []float64, limit float64) (Verdict, error) {
	if err := refusal.First(measured("gaps", gaps, "mm", false), refusal.NotNegative("limit", limit, "mm")); err != nil {
		return Verdict{}, err
	}
	least, most := extent(gaps)
	if least <= 0 {
		at := 0
		for i, g := range gaps {
			if g <= 0 {
				at = i + 1
				break
			}
		}
		return Verdict{What: ClearanceKept, Value: least, Limit: 0, Unit: "mm",
			Reason: fmt.Sprintf("Closed at place %d: a wrong part, or one that is not seated. Take it apart.", at)}, nil
	}
	return atMost(ClearanceKept, "Open all round; the gaps differ by", most-least, limit, "mm"), nil
}

// JudgeProtrusion judges threads past each nut: at least one, or none where
// the specification asks for flush. The verdict is on the shortest.
func JudgeProtrusion(threads []float64, flush bool) (Verdict, error) {
	if err := measured("threads", threads, "threads", true); err != nil {
		return Verdict{}, err
	}
	limit := 1.0
	if flush {
		limit = 0
	}
	least, _ := extent(threads)
	v := Verdict{What: Protruding, Value: least, Limit: limit, Unit: "threads", Holds: least >= limit-unit.Tolerance}
	v.Reason = fmt.Sprintf("The shortest end shows %.3g threads past its nut, at least %.3g.", least, limit)
	return v, nil
}

// JudgeEqualThread judges the thread showing on the two sides of a clamp:
// within one of each other.
func JudgeEqualThread(one, other float64) (Verdict, error) {
	if err := refusal.First(refusal.NotNegative("one", one, "threads"), refusal.NotNegative("other", other, "threads")); err != nil {
		return Verdict{}, err
	}
	return atMost(EqualThread, "The two sides differ by", math.Abs(one-other), 1, "threads"), nil
}

// JudgeRunOut judges dial readings (mm, either sign) over a whole turn: total
// indicator reading, max − min, within limit.
func JudgeRunOut(readings []float64, limit float64) (Verdict, error) {
	if err := refusal.First(measured("readings", readings, "mm", true), refusal.Positive("limit", limit, "mm")); err != nil {
		return Verdict{}, err
	}
	least, most := extent(readings)
	return atMost(RunOut, "Total indicator reading", most-least, limit, "mm"), nil
}

// JudgeLevel judges a rise (mm, either sign) over a length (mm) against a
// limit in mm/m.
func JudgeLevel(rise, length, limit float64) (Verdict, error) {
	if err := refusal.First(refusal.Finite("rise", rise), refusal.Positive("length", length, "mm"), refusal.Positive("limit", limit,
		"mm/m")); err != nil {
		return Verdict{}, err
	}
	return atMost(LevelHeld, "Out of level by", 1000*math.Abs(rise)/length, limit, "mm/m"), nil
}

// JudgeStraightRun judges the straight pipe before and after a place, in pipe
// diameters; lengths and diameter in mm, need in diameters (the maker's
// figures).
func JudgeStraightRun(before, after, diameter, needBefore, needAfter float64) ([]Verdict, error) {
	if err := refusal.First(refusal.NotNegative("before", before, "mm"), refusal.NotNegative("after", after, "mm"),
		refusal.Positive("diameter", diameter, "mm"),
		refusal.NotNegative("needBefore", needBefore, ""), refusal.NotNegative("needAfter", needAfter, "")); err != nil {
		return nil, err
	}
	side := func(name string, length, need float64) Verdict {
		has := length / diameter
		return Verdict{What: InPosition, Value: has, Limit: need, Unit: "pipe diameters", Holds: unit.AtLeast(has, need),
			Reason: fmt.Sprintf("%.3g pipe diameters %s, at least %.3g.", has, name, need)}
	}
	return []Verdict{side("upstream", before, needBefore), side("downstream", after, needAfter)}, nil
}

// JudgeClock judges a place on the clock, hours 0 to 12, by how far it is from
// the nearest of those allowed, within half an hour.
func JudgeClock(hour float64, allowed []float64) (Verdict, error) {
	if err := refusal.First(measured("hour", []float64{hour}, "", false), measured("allowed", allowed, "", false)); err != nil {
		return Verdict{}, err
	}
	nearest, off := 0.0, math.Inf(1)
	for _, a := range allowed {
		d := math.Mod(math.Abs(hour-a), 12)
		if d = min(d, 12-d); d < off {
			nearest, off = a, d
		}
	}
	v := Verdict{What: InPosition, Value: off, Limit: 0.5, Unit: "h", Holds: unit.AtMost(off, 0.5)}
	v.Reason = fmt.Sprintf("At %.3g o'clock; %.3g is the nearest place allowed.", hour, nearest)
	return v, nil
}

// JudgeDepth judges a depth or a mark, mm, within tolerance of what it must be.
func JudgeDepth(is, must, tolerance float64) (Verdict, error) {
	if err := refusal.First(refusal.NotNegative("is", is, "mm"), refusal.NotNegative("must", must, "mm"), refusal.NotNegative("tolerance",
		tolerance, "mm")); err != nil {
		return Verdict{}, err
	}
	return atMost(InPosition, "Off its mark by", math.Abs(is-must), tolerance, "mm"), nil
}

// MostPhaseError is how far two discs of a set may be from opposite, degrees:
// beyond it the rollers do not drop in.
const MostPhaseError = 1.0

// JudgePhase judges two parts that must stand 180° apart, angles in degrees.
func JudgePhase(one, other float64) (Verdict, error) {
	if err := refusal.First(refusal.Finite("one", one), refusal.Finite("other", other)); err != nil {
		return Verdict{}, err
	}
	apart := math.Mod(math.Abs(one-other), 360)
	return atMost(InPosition, "From opposite they are off by", math.Abs(180-apart), MostPhaseError, "°"), nil
}

// JudgeParts compares part numbers with the list, place by place.
func JudgeParts(found, listed []string) (Verdict, error) {
	if len(listed) == 0 {
		return Verdict{}, refusal.New(refusal.Missing, "listed", "The parts list is empty.", "Enter the list of this type and size.")
	}
	wrong, first := 0, ""
	for i, want := range listed {
		if i >= len(found) || found[i] != want {
			wrong++
			if first == "" {
				first = want
			}
		}
	}
	wrong += max(len(found)-len(listed), 0)
	v := Verdict{What: PartsMatch, Value: float64(wrong), Unit: "parts", Holds: wrong == 0,
		Reason: fmt.Sprintf("All %d parts match the list.", len(listed))}
	switch {
	case first != "":
		v.Reason = fmt.Sprintf("%d parts do not match; the first is %q.", wrong, first)
	case wrong > 0:
		v.Reason = fmt.Sprintf("%d parts more than the list has.", wrong)
	}
	return v, nil
}

// JudgeLocked judges locks, sleeves, pins or guards: all of them on.
func JudgeLocked(on, all int) (Verdict, error) {
	if all < 1 || on < 0 || on > all {
		return Verdict{}, refusal.Number(refusal.OutOfRange, "on", float64(on), float64(all), "", fmt.Sprintf("%d of %d locked cannot be.",
			on, all), "Count again.")
	}
	return Verdict{What: LockedAndCovered, Value: float64(on), Limit: float64(all), Holds: on == all,
		Reason: fmt.Sprintf("%d of %d are on.", on, all)}, nil
}
