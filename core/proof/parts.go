package proof

import (
	"fmt"
	"math"

	"dynacor/core/refusal"
)

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
