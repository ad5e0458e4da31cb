package crib

import (
	"fmt"
	"math"

	"dynacor/core/tool"
	"dynacor/core/unit"
)

// Reach is what torques a tool is used for, N·m. From Rated to Low it can be set, but
// does not hold its accuracy there.
type Reach struct {
	Rated, Low, High float64
	Torque           bool   // it is of the board's one scale; else Words says what it does
	Words            string // in its own unit
}

// Reach returns what a tool is used for.
func (t Tool) Reach() Reach {
	switch t.Kind {
	case Wrench:
		least := t.Least
		if t.Face == Preset {
			return t.torques(t.Most, t.Most, t.Most, fmt.Sprintf("%g %s", t.Most, t.Unit))
		}
		low, err := tool.Lowest(least, t.Most)
		if err != nil {
			return Reach{}
		}
		rated := least
		if rated == 0 {
			rated = t.Scale.First
		}
		if rated == 0 {
			rated = low
		}
		return t.torques(math.Min(rated, low), low, t.Most, fmt.Sprintf("%g to %g %s", round(low), t.Most, t.Unit))
	case Multiplier:
		low := tool.LeastShare * t.Most
		return Reach{low, low, t.Most, true, fmt.Sprintf("%g : 1, %g N·m out at most", t.Ratio, t.Most)}
	case Hydraulic:
		if len(t.Chart) < 2 {
			return Reach{}
		}
		first, last := t.Chart[0].Torque, t.Chart[len(t.Chart)-1].Torque
		return Reach{first, math.Max(first, tool.LeastShare*last), last, true, fmt.Sprintf("%g to %g N·m by its chart", first, last)}
	case Adapter:
		return Reach{Words: fmt.Sprintf("%s to %s in, bears %g N·m", t.DriveIn, t.DriveOut, t.Most)}
	case Extension:
		return Reach{Words: fmt.Sprintf("%s in, %g mm, bears %g N·m", t.DriveOut, t.Length, t.Most)}
	case OffsetEnd:
		return Reach{Words: fmt.Sprintf("%g mm at %g°, bears %g N·m", t.Length, t.Angle, t.Most)}
	case Socket:
		what, limit := "socket", ""
		if t.Inside {
			what = "bit"
		}
		if t.Most > 0 {
			limit = fmt.Sprintf(", bears %g N·m", t.Most)
		}
		return Reach{Words: fmt.Sprintf("%s %g mm, %s in%s", what, t.Size, t.DriveOut, limit)}
	case Tensioner:
		bar, _ := unit.Convert(t.PressureMost, t.PressureUnit, unit.Megapascal)
		return Reach{Words: fmt.Sprintf("M%g, up to %.4g kN at %g %s", t.Size, bar*t.RamArea/1000, t.PressureMost, t.PressureUnit)}
	case Pump:
		return Reach{Words: fmt.Sprintf("up to %g %s", t.PressureMost, t.PressureUnit)}
	}
	return Reach{Words: fmt.Sprintf("%g to %g %s", t.Least, t.Most, t.Unit)}
}

func (t Tool) torques(rated, low, high float64, words string) Reach {
	r := Reach{Torque: true, Words: words}
	for _, x := range []struct {
		to *float64
		v  float64
	}{{&r.Rated, rated}, {&r.Low, low}, {&r.High, high}} {
		*x.to, _ = unit.Convert(x.v, t.Unit, unit.NewtonMetre) // an unknown unit is a fault of its own
	}
	return r
}

// Text says what a tool is in a few words, as the board does.
func (t Tool) Text() string {
	switch t.Kind {
	case Wrench:
		text := string(t.Face)
		if t.Face != Screwdriver && t.Face != Ring {
			text += " wrench"
		}
		if t.Unit != "" && t.Unit != unit.NewtonMetre {
			text += ", " + string(t.Unit)
		}
		return text
	case Multiplier:
		if t.Ratio > 0 {
			return fmt.Sprintf("multiplier %g : 1", t.Ratio)
		}
	case Socket:
		if t.Inside {
			return "bit"
		}
	case Tensioner:
		if t.Size > 0 {
			return fmt.Sprintf("tensioner M%g", t.Size)
		}
	}
	return string(t.Kind)
}
