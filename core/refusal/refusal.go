// Package refusal holds the one error type with which the core says no.
//
// A refusal names the thing, the number, the limit and the way out, so that
// whoever shows it can put it beside the word that caused it.
package refusal

import (
	"errors"
	"fmt"
	"math"
)

// Code is a stable name for why something was refused.
type Code string

// The codes the core uses.
const (
	NotANumber    Code = "not-a-number"
	NotPositive   Code = "not-positive"
	Negative      Code = "negative"
	TooSmall      Code = "too-small"
	TooLarge      Code = "too-large"
	Unknown       Code = "unknown"
	Missing       Code = "missing"
	Contradicts   Code = "contradicts"
	NotNext       Code = "not-next"
	Twice         Code = "twice" // somebody else has done it meanwhile
	NotNow        Code = "not-now"
	Asked         Code = "asked" // taken only once it is confirmed
	OutOfRange    Code = "out-of-range"
	OutOfDate     Code = "out-of-date"
	NotTheSame    Code = "same-person"
	NeedsReason   Code = "needs-reason"
	NeedsDecision Code = "needs-decision"
)

// Error is a refusal. Value and Limit count only where HasValue and HasLimit
// are set; both are in Unit.
type Error struct {
	Code     Code
	Field    string // the input that caused it, e.g. "gasket.outer"
	Value    float64
	HasValue bool
	Limit    float64
	HasLimit bool
	Unit     string
	Text     string // what is wrong, in plain words, with the numbers in it
	Way      string // the way out
}

func (e *Error) Error() string {
	if e.Way == "" {
		return e.Text
	}
	return e.Text + " " + e.Way
}

// Is reports whether target is a refusal of the same code and, where target
// names one, the same field.
func (e *Error) Is(target error) bool {
	t, ok := target.(*Error)
	return ok && t.Code == e.Code && (t.Field == "" || t.Field == e.Field)
}

// New returns a refusal without numbers.
func New(code Code, field, text, way string) *Error {
	return &Error{Code: code, Field: field, Text: text, Way: way}
}

// At returns a copy of e for another field, so that a general rule can be
// reported beside the word it concerns. Any other error is returned as it is.
func At(field string, err error) error {
	if err == nil {
		return nil
	}
	var e *Error
	if !errors.As(err, &e) {
		return err
	}
	c := *e
	c.Field = field
	return &c
}

// Number returns a refusal of value against limit, both in unit.
func Number(code Code, field string, value, limit float64, unit, text, way string) *Error {
	return &Error{Code: code, Field: field, Value: value, HasValue: true, Limit: limit, HasLimit: true, Unit: unit, Text: text, Way: way}
}

// Absurd is the magnitude beyond which no number of this craft lies, in any
// unit; its inverse is the least that counts as above zero. Formulas multiply
// a few inputs, so within these bounds none can overflow.
const Absurd = 1e15

// Finite refuses NaN, infinities and absurd magnitudes.
func Finite(field string, v float64) error {
	if math.IsNaN(v) || math.IsInf(v, 0) {
		return New(NotANumber, field, fmt.Sprintf("%s is not a number.", field), "Enter a number.")
	}
	if math.Abs(v) > Absurd {
		return Number(TooLarge, field, v, Absurd, "", fmt.Sprintf("%s is %g; no such value exists in this work.", field, v),
			"Check the number and its unit.")
	}
	return nil
}

// Positive refuses what is not a finite number above zero.
func Positive(field string, v float64, unit string) error {
	if err := Finite(field, v); err != nil {
		return err
	}
	if v < 1/Absurd {
		return Number(NotPositive, field, v, 0, unit,
			fmt.Sprintf("%s is %g%s; it must be above zero.", field, v, spaced(unit)), "Enter a value above zero.")
	}
	return nil
}

// NotNegative refuses what is not a finite number of zero or more.
func NotNegative(field string, v float64, unit string) error {
	if err := Finite(field, v); err != nil {
		return err
	}
	if v < 0 {
		return Number(Negative, field, v, 0, unit,
			fmt.Sprintf("%s is %g%s; it must not be negative.", field, v, spaced(unit)), "Enter zero or more.")
	}
	return nil
}

// Within refuses what is not above zero, or above most.
func Within(field string, v, most float64, unit string) error {
	if err := Positive(field, v, unit); err != nil {
		return err
	}
	if v > most*(1+1e-9) {
		return Number(TooLarge, field, v, most, unit,
			fmt.Sprintf("%s is %g%s; at most %g%s is taken.", field, v, spaced(unit), most, spaced(unit)), "Check the number and its unit.")
	}
	return nil
}

// Fraction refuses what is not above zero, or above 1: a share entered in
// percent, most often.
func Fraction(field string, v float64) error {
	if err := Positive(field, v, ""); err != nil {
		return err
	}
	if v > 1+1e-9 {
		return Number(TooLarge, field, v, 1, "",
			fmt.Sprintf("%s is %g; it is a fraction, not above 1.", field, v), "Enter 0.1 for 10 %.")
	}
	return nil
}

// Scatter refuses a relative scatter that is negative, or 1 and more.
func Scatter(field string, v float64) error {
	if err := NotNegative(field, v, ""); err != nil {
		return err
	}
	if v >= 1 {
		return Number(TooLarge, field, v, 1, "",
			fmt.Sprintf("A scatter of %.4g is 100 %% or more.", v), "Enter it as a fraction, 0.04 for 4 %.")
	}
	return nil
}

// Rising refuses a lower bound above its upper bound.
func Rising(field string, lo, hi float64, unit string) error {
	if lo > hi {
		return Number(Contradicts, field, lo, hi, unit, fmt.Sprintf("%s begins at %g%s, above its end at %g%s.", field, lo, spaced(unit),
			hi, spaced(unit)), "Enter the smaller value first.")
	}
	return nil
}

// First returns the first error that is not nil.
func First(errs ...error) error {
	for _, err := range errs {
		if err != nil {
			return err
		}
	}
	return nil
}

func spaced(unit string) string {
	if unit == "" {
		return ""
	}
	return " " + unit
}
