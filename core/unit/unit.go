// Package unit converts between the units people read on gauges, charts and
// drawings, exactly, and keeps a value with the unit it was entered in.
//
// Inside the core lengths are in mm, forces in N, stresses and pressures in
// MPa, torques in N·m, angles in degrees. The factors are exact by definition
// (international yard and pound agreement of 1959; standard gravity).
package unit

import (
	"fmt"
	"math"

	"dynacor/core/refusal"
)

// Unit is the symbol of a unit as it is written beside a number.
type Unit string

// The units the core knows.
const (
	Millimetre       Unit = "mm"
	Inch             Unit = "in"
	Newton           Unit = "N"
	Kilonewton       Unit = "kN"
	PoundForce       Unit = "lbf"
	Kip              Unit = "kip"
	NewtonMetre      Unit = "N·m"
	CentiNewtonMetre Unit = "cN·m"
	FootPound        Unit = "ft·lbf"
	InchPound        Unit = "in·lbf"
	KilogramMetre    Unit = "kgf·m"
	Megapascal       Unit = "MPa"
	Bar              Unit = "bar"
	PSI              Unit = "psi"
	Degree           Unit = "°"
	Second           Unit = "s"
)

// Units lists the units that can be entered.
func Units() []Unit {
	return []Unit{Millimetre, Inch, Newton, Kilonewton, PoundForce, Kip, NewtonMetre, CentiNewtonMetre, FootPound, InchPound, KilogramMetre,
		Megapascal, Bar, PSI, Degree, Second}
}

// Dimension is the kind of quantity a unit measures.
type Dimension string

// The dimensions.
const (
	Length   Dimension = "length"
	Force    Dimension = "force"
	Torque   Dimension = "torque"
	Pressure Dimension = "pressure"
	Angle    Dimension = "angle"
	Time     Dimension = "time"
)

type measure struct {
	dimension Dimension
	factor    float64 // internal units in one of this
}

func known(u Unit) (measure, bool) {
	switch u {
	case Millimetre:
		return measure{Length, 1}, true
	case Inch:
		return measure{Length, 25.4}, true
	case Newton:
		return measure{Force, 1}, true
	case Kilonewton:
		return measure{Force, 1000}, true
	case PoundForce:
		return measure{Force, 4.4482216152605}, true
	case Kip:
		return measure{Force, 4448.2216152605}, true
	case NewtonMetre:
		return measure{Torque, 1}, true
	case CentiNewtonMetre:
		return measure{Torque, 0.01}, true
	case FootPound:
		return measure{Torque, 1.3558179483314004}, true
	case InchPound:
		return measure{Torque, 0.1129848290276167}, true
	case KilogramMetre:
		return measure{Torque, 9.80665}, true
	case Megapascal:
		return measure{Pressure, 1}, true
	case Bar:
		return measure{Pressure, 0.1}, true
	case PSI:
		return measure{Pressure, 0.006894757293168361}, true
	case Degree:
		return measure{Angle, 1}, true
	case Second:
		return measure{Time, 1}, true
	}
	return measure{}, false
}

// DimensionOf returns what u measures; it refuses an unknown unit.
func DimensionOf(u Unit) (Dimension, error) {
	m, ok := known(u)
	if !ok {
		return "", refusal.New(refusal.Unknown, "unit", fmt.Sprintf("Unknown unit %q.", string(u)),
			"Choose one of the units offered.")
	}
	return m.dimension, nil
}

// Convert returns value, given in from, in to. Units of different dimensions
// and values that are no numbers are refused.
func Convert(value float64, from, to Unit) (float64, error) {
	a, ok := known(from)
	if !ok {
		return 0, refusal.New(refusal.Unknown, "from", fmt.Sprintf("Unknown unit %q.", string(from)), "")
	}
	b, ok := known(to)
	if !ok {
		return 0, refusal.New(refusal.Unknown, "to", fmt.Sprintf("Unknown unit %q.", string(to)), "")
	}
	if a.dimension != b.dimension {
		return 0, refusal.New(refusal.Contradicts, "to",
			fmt.Sprintf("%s is a %s, %s is a %s.", from, a.dimension, to, b.dimension), "")
	}
	if err := refusal.Finite("value", value); err != nil {
		return 0, err
	}
	if from == to {
		return value, nil
	}
	return value * a.factor / b.factor, nil
}

// Quantity is a value with the unit it was entered in.
type Quantity struct {
	Value float64
	Unit  Unit
}

// Of returns the quantity of value in u.
func Of(value float64, u Unit) Quantity { return Quantity{value, u} }

// IsZero reports whether nothing was entered.
func (q Quantity) IsZero() bool { return q == Quantity{} }

// In returns the value of q in u.
func (q Quantity) In(u Unit) (float64, error) { return Convert(q.Value, q.Unit, u) }

// To returns q expressed in u.
func (q Quantity) To(u Unit) (Quantity, error) {
	v, err := q.In(u)
	return Quantity{v, u}, err
}

func (q Quantity) String() string { return fmt.Sprintf("%.6g %s", q.Value, q.Unit) }

// Tolerance is the relative distance within which a limit counts as met.
const Tolerance = 1e-9

// AtMost reports whether v is at or below limit, within Tolerance.
func AtMost(v, limit float64) bool { return v <= limit+math.Abs(limit)*Tolerance }

// AtLeast reports whether v is at or above limit, within Tolerance.
func AtLeast(v, limit float64) bool { return v >= limit-math.Abs(limit)*Tolerance }

// Round returns v rounded to a whole number of steps, halves away from zero.
// A value within Tolerance of a half counts as the half. step must be above
// zero.
func Round(v, step float64) float64 {
	return Steps(v, step) * step
}

// Steps returns how many whole steps are nearest to v, halves away from zero.
func Steps(v, step float64) float64 {
	q := v / step
	return math.Round(q * (1 + Tolerance))
}
