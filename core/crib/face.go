package crib

import (
	"fmt"
	"math"
	"strconv"
	"strings"

	"dynacor/core/refusal"
	"dynacor/core/unit"
)

// Shown is what a tool's face shows at a value, for a drawing of it and in words.
type Shown struct {
	Value  float64 // as the face can show it, in In
	In     unit.Unit
	First  float64 // of its marks
	Major  float64 // from main mark to main mark
	Minor  float64 // from small mark to small mark
	Least  float64 // from which it is used
	Most   float64 // to which it goes
	Main   float64 // the greatest main mark at or below the value
	Minors int     // small marks past it
	Turn   int     // small marks in a turn of the thimble, or between two main marks
	Digits int     // after the point, of its smallest step
	Words  string
}

// Shows returns what a wrench or a gauge shows at a value in its unit. It refuses a tool
// that has no face, and a value that is off it.
func (t Tool) Shows(at float64) (Shown, error) {
	s := Shown{In: t.Unit, First: t.Scale.First, Major: t.Scale.Major, Minor: t.Scale.Minor, Most: t.Most, Least: t.Least}
	switch {
	case t.Kind == Hydraulic || t.Kind == Tensioner || t.Kind == Pump:
		s.In, s.Minor, s.First, s.Most = t.PressureUnit, t.Graduation, 0, t.PressureMost
		if n := len(t.Chart); n > 0 {
			s.Least, s.Most = t.Chart[0].Pressure, t.Chart[n-1].Pressure
		}
		if s.Minor == 0 {
			s.Minor = s.Most / 100
		}
		s.Major = mainStep(s.Most, s.Minor)
	case t.Kind.Reads():
		s.Major = mainStep(s.Most, s.Minor)
	case t.Kind != Wrench:
		return Shown{}, refusal.New(refusal.Unknown, "kind", fmt.Sprintf("%s has no scale.", t.Tag), "")
	case t.Face == Preset:
		s.First, s.Major, s.Minor, at = t.Most, t.Most, t.Most, t.Most
	}
	if s.Major == 0 {
		s.Major = s.Minor
	}
	if err := refusal.First(refusal.NotNegative("value", at, string(s.In)), refusal.Positive("minor", s.Minor, string(s.In))); err != nil {
		return Shown{}, err
	}
	if !unit.AtLeast(at, s.First) || !unit.AtMost(at, s.Most) {
		return Shown{}, refusal.Number(refusal.OutOfRange, "value", at, s.Most, string(s.In),
			fmt.Sprintf("%g %s is off the scale, %g to %g %s.", at, s.In, s.First, s.Most, s.In), "Take another tool.")
	}
	steps := unit.Steps(at-s.First, s.Minor)
	rise := steps * s.Minor
	mains := math.Floor(rise/s.Major + 1e-9)
	s.Value, s.Main = round(s.First+rise), round(s.First+mains*s.Major)
	s.Minors = int(unit.Steps(rise-mains*s.Major, s.Minor))
	s.Turn = max(1, int(math.Round(s.Major/s.Minor)))
	s.Digits = digits(s.Minor, s.First)
	s.Words = t.words(s)
	return s, nil
}

// mainStep is how far the numbers of a dial stand apart: some ten of them, at round values.
func mainStep(most, minor float64) float64 {
	if !(minor > 0) {
		return 0
	}
	for p := math.Pow(10, math.Floor(math.Log10(minor))); ; p *= 10 {
		for _, k := range []float64{1, 2, 5} {
			if n := k * p / minor; most/(k*p) <= 10 && math.Abs(n-math.Round(n)) < 1e-9 && n >= 1 {
				return k * p
			}
		}
		if p > most {
			return minor
		}
	}
}

// digits is how many figures behind the point a scale needs.
func digits(steps ...float64) int {
	behind := 0
	for _, s := range steps {
		text := strconv.FormatFloat(round(s), 'f', -1, 64)
		if i := strings.IndexByte(text, '.'); i >= 0 {
			behind = max(behind, len(text)-i-1)
		}
	}
	return behind
}

// words says what a face shows, as one reads it to somebody.
func (t Tool) words(s Shown) string {
	in := string(s.In)
	value := strconv.FormatFloat(s.Value, 'f', s.Digits, 64)
	small := func(what string) string {
		if s.Minors == 0 {
			return ""
		}
		return fmt.Sprintf(", %d small %s past %g", s.Minors, plural(what, s.Minors), s.Main)
	}
	switch {
	case t.Kind != Wrench:
		return fmt.Sprintf("The needle at %s %s%s.", value, in, small("mark"))
	case t.Face == Window:
		return fmt.Sprintf("The window shows %s %s.", value, in)
	case t.Face == Electronic:
		return fmt.Sprintf("The display shows %s %s.", value, in)
	case t.Face == Preset:
		return fmt.Sprintf("Set on the bench to %s %s; nothing is turned on it.", value, in)
	case t.Face == Dial:
		return fmt.Sprintf("Pointer and follower from nought; read %s %s%s.", value, in, small("mark"))
	}
	if s.Turn == 1 {
		return fmt.Sprintf("The edge at the line of %g: %s %s.", s.Main, value, in)
	}
	return fmt.Sprintf("The last line covered is %g, the ring’s %d at the line: %s %s.", s.Main, s.Minors, value, in)
}

func plural(what string, n int) string {
	if n == 1 {
		return what
	}
	return what + "s"
}
