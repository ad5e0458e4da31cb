package proof

import (
	"fmt"
	"time"

	"dynacor/core/refusal"
	"dynacor/core/unit"
)

// Hold is one stage of a pressure test as it was made: pressures in one unit.
type Hold struct {
	Pressure float64 // that the stage asks for
	Most     float64 // that the drop may be
	Need     time.Duration
	Start    float64 // read at the start of the hold
	End      float64 // and at its end
	Held     time.Duration
}

// HandsOff is said with every stage.
const HandsOff = "Hands off: nothing is tightened, loosened or tapped while it is under pressure."

// JudgePressureTest judges the stages of a pressure or leak test in order: the
// pressures rise, none is passed over, each was reached, held its time and
// lost no more than allowed. The unit is only shown.
func JudgePressureTest(stages []Hold, u unit.Unit) ([]Verdict, error) {
	if d, err := unit.DimensionOf(u); err != nil || d != unit.Pressure {
		return nil, refusal.New(refusal.Unknown, "unit", fmt.Sprintf("%q is no unit of pressure.", string(u)), "Choose MPa, bar or psi.")
	}
	if len(stages) == 0 {
		return nil, refusal.New(refusal.Missing, "stages", "The test has no stages.", "Enter its pressures and times.")
	}
	var out []Verdict
	last := 0.0
	for i, s := range stages {
		at := fmt.Sprintf("stages.%d", i)
		if err := refusal.First(refusal.Positive(at+".pressure", s.Pressure, string(u)), refusal.NotNegative(at+".most", s.Most, string(u)),
			refusal.NotNegative(at+".start", s.Start, string(u)), refusal.NotNegative(at+".end", s.End, string(u)),
			refusal.Positive(at+".need", s.Need.Seconds(), "s"), refusal.NotNegative(at+".held", s.Held.Seconds(), "s")); err != nil {
			return nil, err
		}
		if s.Pressure <= last {
			return nil, refusal.Number(refusal.Contradicts, at+".pressure", s.Pressure, last, string(u),
				fmt.Sprintf("Stage %d at %g %s does not rise above %g %s.", i+1, s.Pressure, u, last,
					u), "Raise the pressure from stage to stage.")
		}
		last = s.Pressure
		v := Verdict{What: PressureTest, Value: s.Start - s.End, Limit: s.Most, Unit: string(u)}
		switch {
		case !unit.AtLeast(s.Start, s.Pressure):
			v.Reason = fmt.Sprintf("Stage %d began at %.4g %s; it asks for %.4g %s.", i+1, s.Start, u, s.Pressure, u)
		case s.Held < s.Need:
			v.Reason = fmt.Sprintf("Stage %d was held %s; it asks for %s.", i+1, s.Held, s.Need)
		case !unit.AtMost(s.Start-s.End, s.Most):
			v.Reason = fmt.Sprintf("Stage %d lost %.4g %s; at most %.4g %s. Release the pressure before anything is touched.", i+1,
				s.Start-s.End, u, s.Most, u)
		default:
			v.Holds, v.Reason = true, fmt.Sprintf("Stage %d lost %.4g %s in %s; at most %.4g %s.", i+1, s.Start-s.End, u, s.Held, s.Most, u)
		}
		out = append(out, v)
		if !v.Holds {
			break // the next stage is not begun
		}
	}
	if len(out) == len(stages) {
		return out, nil
	}
	for i := len(out); i < len(stages); i++ {
		out = append(out, Verdict{What: PressureTest, Limit: stages[i].Most, Unit: string(u),
			Reason: fmt.Sprintf("Stage %d is not begun before stage %d holds.", i+1, i)})
	}
	return out, nil
}

// When a joint that relaxes is turned to its torque again, after assembly.
const (
	RetorqueFrom = 4 * time.Hour
	RetorqueTo   = 24 * time.Hour
)

// JudgeRetorque judges when a joint was turned again after it was made. Hot or
// under pressure it is refused: that is an engineered procedure only.
func JudgeRetorque(after time.Duration, cold, depressurised bool) (Verdict, error) {
	if !cold || !depressurised {
		return Verdict{}, refusal.New(refusal.NotNow, "state", "A joint is not turned hot or under pressure.",
			"Let it cool and take the pressure off; anything else is an engineered procedure with its own permit.")
	}
	if after < 0 {
		return Verdict{}, refusal.Number(refusal.Negative, "after", after.Hours(), 0, "h",
			"The joint was turned again before it was made.", "Check the times.")
	}
	v := Verdict{What: Retorqued, Value: after.Hours(), Limit: RetorqueFrom.Hours(), Unit: "h", Holds: after >= RetorqueFrom &&
		after <= RetorqueTo,
		Reason: fmt.Sprintf("%.3g h after assembly; 4 to 24 h is asked for.", after.Hours())}
	if after > RetorqueTo {
		v.Limit = RetorqueTo.Hours()
	}
	return v, nil
}
