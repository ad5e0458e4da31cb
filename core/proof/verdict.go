package proof

import (
	"fmt"

	"dynacor/core/refusal"
	"dynacor/core/unit"
)

// Verdict is what was found, against what it had to be.
type Verdict struct {
	What   Requirement
	Value  float64
	Limit  float64
	Unit   string
	Holds  bool
	Reason string // in plain words, with the numbers
}

// Requirement is something that a joint may have to prove.
type Requirement string

// The requirements.
const (
	FitUp            Requirement = "fit-up before assembly"
	PartsMatch       Requirement = "parts match the list"
	NothingMoved     Requirement = "a whole check round moved nothing"
	GapParallel      Requirement = "gap parallel"
	ClearanceKept    Requirement = "clearance kept"
	Protruding       Requirement = "thread past the nut"
	EqualThread      Requirement = "equal thread on both sides"
	RunOut           Requirement = "run-out"
	LevelHeld        Requirement = "level"
	InPosition       Requirement = "position"
	TurnsMade        Requirement = "turns made"
	Stretched        Requirement = "stretch measured"
	FunctionalTorque Requirement = "functional torque"
	FreeRotation     Requirement = "turns freely"
	ResidualSample   Requirement = "residual torque of a sample"
	PressureTest     Requirement = "pressure or leak test"
	Retorqued        Requirement = "re-torqued after relaxation"
	LockedAndCovered Requirement = "locks on, cover and guards on"
)

// Requirements lists them, in the order in which they are proven.
func Requirements() []Requirement {
	return []Requirement{PartsMatch, FitUp, NothingMoved, TurnsMade, Stretched, GapParallel, ClearanceKept, Protruding, EqualThread, RunOut,
		LevelHeld, InPosition, FunctionalTorque, FreeRotation, ResidualSample, LockedAndCovered, PressureTest, Retorqued}
}

// atMost gives the verdict on a value with an upper limit.
func atMost(what Requirement, name string, value, limit float64, u string) Verdict {
	v := Verdict{What: what, Value: value, Limit: limit, Unit: u, Holds: unit.AtMost(value, limit)}
	v.Reason = fmt.Sprintf("%s %s, at most %s.", name, number(value, u), number(limit, u))
	return v
}

func number(v float64, u string) string {
	if u == "" {
		return fmt.Sprintf("%.4g", v)
	}
	return fmt.Sprintf("%.4g %s", v, u)
}

// measured refuses an empty list and whatever is no number in it; signed lists
// may go below zero.
func measured(field string, v []float64, u string, signed bool) error {
	if len(v) == 0 {
		return refusal.New(refusal.Missing, field, "Nothing was measured.", "Measure and enter at least one value.")
	}
	for i, x := range v {
		at := fmt.Sprintf("%s.%d", field, i)
		check := refusal.NotNegative(at, x, u)
		if signed {
			check = refusal.Finite(at, x)
		}
		if check != nil {
			return check
		}
	}
	return nil
}
