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
	NotNow        Code = "not-now"
	FarReading    Code = "far-reading"
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
	return &Error{Code: code, Field: field, Value: value, HasValue: true,
		Limit: limit, HasLimit: true, Unit: unit, Text: text, Way: way}
}

// Finite refuses NaN and infinities.
func Finite(field string, v float64) error {
	if math.IsNaN(v) || math.IsInf(v, 0) {
		return New(NotANumber, field, fmt.Sprintf("%s is not a number.", field), "Enter a number.")
	}
	return nil
}

// Positive refuses what is not a finite number above zero.
func Positive(field string, v float64, unit string) error {
	if err := Finite(field, v); err != nil {
		return err
	}
	if v <= 0 {
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
