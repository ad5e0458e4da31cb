// Package derive says where a number comes from: the formula as the trade writes it,
// the same with its numbers and units in, its source and limits of validity, how
// uncertain it is, and what would change it most.
//
// A Derivation holds the formula and what went into it, and works the number out by
// that formula again, so that what is shown cannot differ from what is counted with.
// How the result f follows an input x is its elasticity (∂f/f)/(∂x/x), by central
// differences; uncertainties U of the inputs add as √Σ(e·U)² (GUM, JCGM 100), relative
// and expanded, about 95 %. Valid for inputs that do not depend on one another.
package derive

import (
	"math"
	"strconv"
	"strings"
)

// Symbol is a letter of a formula.
type Symbol struct{ Sign, Name, Unit string }

// Formula is a formula of the trade. Text is its right side with each sign in braces,
// as in "1000·{T}/({K}·{d})".
type Formula struct {
	Name    string // what it gives, as one says it
	Sign    string
	Unit    string
	Text    string
	Source  string
	Valid   string
	Symbols []Symbol
	Of      func(x []float64) float64 // the symbols' values, in their order and units
}

// Input is what a symbol stands for: its value in the symbol's unit; its relative
// expanded uncertainty, a fraction, zero where it is taken as exact; and where it is
// from, in words, or, where it is derived itself, as the key of its derivation.
type Input struct {
	Value, Uncertain float64
	From             string
	Derived          bool
}

// Derivation is a number with where it comes from: which number of which part.
type Derivation struct {
	Of, Key string
	*Formula
	Inputs []Input
	Source string // of this very number, where it has one of its own; else the formula's
}

// Result works the number out by its formula, in its unit.
func (d Derivation) Result() float64 {
	x := make([]float64, len(d.Inputs))
	for i, in := range d.Inputs {
		x[i] = in.Value
	}
	return d.Formula.Of(x)
}

// Origin is the source of the number.
func (d Derivation) Origin() string {
	if d.Source != "" {
		return d.Source
	}
	return d.Formula.Source
}

// Written is the formula: "F = 1000·T/(K·d)".
func (d Derivation) Written() string {
	return d.Sign + " = " + d.told(func(i int) string { return d.Symbols[i].Sign })
}

// Numbers is the formula with its numbers and units in.
func (d Derivation) Numbers() string {
	return d.Sign + " = " + d.told(func(i int) string { return Amount(d.Inputs[i].Value, d.Symbols[i].Unit) })
}

// told writes the formula with what stands for each sign; what has a unit is put in
// brackets where it is squared or cubed.
func (d Derivation) told(of func(i int) string) string {
	pairs := make([]string, 0, 6*len(d.Symbols))
	for i, s := range d.Symbols {
		sign, amount := "{"+s.Sign+"}", of(i)
		if strings.Contains(amount, " ") {
			pairs = append(pairs, sign+"²", "("+amount+")²", sign+"³", "("+amount+")³")
		}
		pairs = append(pairs, sign, amount)
	}
	return strings.NewReplacer(pairs...).Replace(d.Text)
}

// Follows returns by how many percent the result grows where input i grows by one.
func (d Derivation) Follows(i int) float64 {
	x := make([]float64, len(d.Inputs))
	for k, in := range d.Inputs {
		x[k] = in.Value
	}
	at := d.Formula.Of(x)
	if at == 0 || x[i] == 0 {
		return 0
	}
	const h = 1e-5
	v := x[i]
	x[i] = v * (1 + h)
	up := d.Formula.Of(x)
	x[i] = v * (1 - h)
	e := (up - d.Formula.Of(x)) / (2 * h * at)
	if math.IsNaN(e) || math.IsInf(e, 0) {
		return 0
	}
	return e
}

// Uncertain returns the relative expanded uncertainty of the result and the input that
// makes the most of it; zero and -1 where every input is taken as exact.
func (d Derivation) Uncertain() (u float64, largest int) {
	largest = -1
	most, sum := 0.0, 0.0
	for i, in := range d.Inputs {
		if in.Uncertain == 0 {
			continue
		}
		part := math.Abs(d.Follows(i) * in.Uncertain)
		sum += part * part
		if part > most {
			most, largest = part, i
		}
	}
	return math.Sqrt(sum), largest
}

// Most returns the input that the result follows most, and by how many percent it grows
// with one of that; -1 where it follows none.
func (d Derivation) Most() (i int, follows float64) {
	i = -1
	for k := range d.Inputs {
		if e := d.Follows(k); math.Abs(e) > math.Abs(follows)+1e-6 {
			i, follows = k, e
		}
	}
	return i, follows
}

// Amount writes a value with its unit: four digits, or all before the decimal mark; loads
// in kN from a thousand on are left in N, as the formula has them.
func Amount(v float64, unit string) string {
	switch unit {
	case "":
		return Digits(v)
	case "°":
		return Digits(v) + "°"
	}
	return Digits(v) + " " + unit
}

// Digits writes a value to four digits, small ones with a power of ten.
func Digits(v float64) string {
	a := math.Abs(v)
	switch {
	case math.IsNaN(a) || math.IsInf(a, 0):
		return "no number"
	case v == 0:
		return "0"
	case a < 1e-3 || a >= 1e9:
		e := math.Floor(math.Log10(a))
		m := strconv.FormatFloat(v/math.Pow(10, e), 'f', 3, 64)
		return strings.TrimRight(strings.TrimRight(m, "0"), ".") + "·10" + raised(int(e))
	case a >= 1000:
		return strconv.FormatFloat(v, 'f', 0, 64)
	}
	decimals := max(0, 3-int(math.Floor(math.Log10(a))))
	s := strconv.FormatFloat(v, 'f', decimals, 64)
	if strings.Contains(s, ".") {
		s = strings.TrimRight(strings.TrimRight(s, "0"), ".")
	}
	return s
}

var raisedDigits = strings.NewReplacer("-", "⁻", "0", "⁰", "1", "¹", "2", "²", "3", "³", "4", "⁴", "5", "⁵", "6", "⁶", "7", "⁷", "8",
	"⁸", "9", "⁹")

func raised(e int) string { return raisedDigits.Replace(strconv.Itoa(e)) }
