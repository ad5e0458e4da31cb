package reading

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"dynacor/core/derive"
)

// Derive returns where the first answer of a form is from, of readings that it takes;
// nil for forms whose answers are the readings themselves, or that package recipe tells.
func (f Form) Derive(of, key string, raw []float64, g Given) []derive.Derivation {
	r, err := f.Answer(raw, g)
	if err != nil || len(r.Answers) == 0 {
		return nil
	}
	w, ok := written[f]
	if !ok {
		return nil
	}
	form := *w
	form.Unit = f.Unit()
	var in []derive.Input
	switch f {
	case Diameters:
		in = asRead(raw[0], g.Over)
	case Charge:
		in = asRead(raw[0], raw[1], raw[2])
	case Pressure:
		if !g.Gas {
			form.Text, form.Symbols = "{p1} − {p2}", form.Symbols[:2]
			form.Of = func(x []float64) float64 { return x[0] - x[1] }
			in = asRead(raw[0], raw[1])
			break
		}
		in = asRead(raw...)
	case Level:
		in = asRead(math.Abs(raw[0]), raw[1])
	case Slope:
		in = asRead(raw...)
	case Sum, RunOut, Mean:
		list := raw
		if f == RunOut {
			list = raw[:len(raw)-1]
		}
		if f == Sum {
			list = append(slices.Clone(g.Before), raw[0])
		}
		form.Symbols = nil
		signs := make([]string, len(list))
		for i := range list {
			sign := fmt.Sprintf("r%d", i+1)
			signs[i] = "{" + sign + "}"
			form.Symbols = append(form.Symbols, derive.Symbol{Sign: sign, Name: fmt.Sprintf("reading %d", i+1), Unit: form.Unit})
		}
		form.Text = joined(f, signs)
		in = asRead(list...)
	case Change:
		in = asRead(raw[0], g.Before[len(g.Before)-1])
	default:
		in = asRead(raw...)
	}
	return []derive.Derivation{{Of: of, Key: key, Formula: &form, Inputs: in}}
}

func joined(f Form, signs []string) string {
	switch f {
	case RunOut:
		list := strings.Join(signs, ", ")
		return "max(" + list + ") − min(" + list + ")"
	case Mean:
		return fmt.Sprintf("(%s)/%d", strings.Join(signs, " + "), len(signs))
	}
	return strings.Join(signs, " + ")
}

func asRead(values ...float64) []derive.Input {
	out := make([]derive.Input, len(values))
	for i, v := range values {
		out[i] = derive.Input{Value: v, From: "as it was read"}
	}
	return out
}

// written are the formulas of the forms.
var written = map[Form]*derive.Formula{
	Diameters: {Name: "Pipe diameters", Sign: "n", Text: "{l}/{D}", Source: "the recipe of this kind of joint", Valid: "Length and diameter in one unit.",
		Symbols: []derive.Symbol{{Sign: "l", Name: "straight length", Unit: "mm"}, {Sign: "D", Name: "diameter", Unit: "mm"}},
		Of:      func(x []float64) float64 { return x[0] / x[1] }},
	RunOut: {Name: "Total run-out", Sign: "t", Source: "ISO 1101", Valid: "Read at equal angles over a whole turn, the base firm.",
		Of: func(x []float64) float64 { return slices.Max(x) - slices.Min(x) }},
	Mean: {Name: "Mean", Sign: "m", Source: "the readings that are kept", Valid: "Readings of one thing.", Of: func(x []float64) float64 {
		sum := 0.0
		for _, v := range x {
			sum += v
		}
		return sum / float64(len(x))
	}},
	Sum: {Name: "Together", Sign: "s", Source: "the readings that are kept", Valid: "All in one unit.", Of: func(x []float64) float64 {
		sum := 0.0
		for _, v := range x {
			sum += v
		}
		return sum
	}},
	Change: {Name: "Change", Sign: "c", Text: "{now} − {before}", Source: "the readings that are kept", Valid: "Measured alike both times.",
		Symbols: []derive.Symbol{{Sign: "now", Name: "now"}, {Sign: "before", Name: "before"}},
		Of:      func(x []float64) float64 { return x[0] - x[1] }},
	Level: {Name: "Slope", Sign: "s", Text: "1000·{h}/{l}", Source: "geometry", Valid: "The level laid on two firm points.",
		Symbols: []derive.Symbol{{Sign: "h", Name: "rise", Unit: "mm"}, {Sign: "l", Name: "length", Unit: "mm"}},
		Of:      func(x []float64) float64 { return 1000 * x[0] / x[1] }},
	Slope: {Name: "Slope", Sign: "s", Text: "1000·|{a} − {b}|/{l}", Source: "geometry", Valid: "A straight edge, read at both ends.",
		Symbols: []derive.Symbol{{Sign: "a", Name: "offset at one end", Unit: "mm"}, {Sign: "b", Name: "offset at the other", Unit: "mm"},
			{Sign: "l", Name: "distance", Unit: "mm"}},
		Of: func(x []float64) float64 { return 1000 * math.Abs(x[0]-x[1]) / x[2] }},
	Square: {Name: "Diagonals differ by", Sign: "d", Text: "|{a} − {b}|", Source: "geometry", Valid: "Between the same corners.",
		Symbols: []derive.Symbol{{Sign: "a", Name: "one diagonal", Unit: "mm"}, {Sign: "b", Name: "the other", Unit: "mm"}},
		Of:      func(x []float64) float64 { return math.Abs(x[0] - x[1]) }},
	Deflection: {Name: "Deflection", Sign: "α", Text: "arctan({o}/{l})", Source: "geometry", Valid: "A straight pipe.",
		Symbols: []derive.Symbol{{Sign: "o", Name: "sideways offset", Unit: "mm"}, {Sign: "l", Name: "length of the pipe", Unit: "mm"}},
		Of:      func(x []float64) float64 { return math.Atan(x[0]/x[1]) * 180 / math.Pi }},
	Rate: {Name: "Rate", Sign: "r", Text: "{p}/{t}", Source: "the recipe of this kind of joint", Valid: "Steady over the time.",
		Symbols: []derive.Symbol{{Sign: "p", Name: "pressure", Unit: "bar"}, {Sign: "t", Name: "time", Unit: "min"}},
		Of:      func(x []float64) float64 { return x[0] / x[1] }},
	Charge: {Name: "Charge at 20 °C", Sign: "p20", Text: "({p} + 1.01325)·293.15/(273.15 + ({a} + {b})/2) − 1.01325",
		Source: "gas law, one volume", Valid: "The gas as warm as its shell: it has settled.",
		Symbols: []derive.Symbol{{Sign: "p", Name: "charge as read", Unit: "bar"}, {Sign: "a", Name: "shell at one place", Unit: "°C"},
			{Sign: "b", Name: "and at another", Unit: "°C"}},
		Of: func(x []float64) float64 { return (x[0]+1.01325)*293.15/(273.15+(x[1]+x[2])/2) - 1.01325 }},
	Pressure: {Name: "Pressure lost", Sign: "Δp", Text: "{p1} − (({p2} + 1.01325)·(273.15 + {t1})/(273.15 + {t2}) − 1.01325)",
		Source: "gas law, one volume", Valid: "Held the whole time, nothing turned.",
		Symbols: []derive.Symbol{{Sign: "p1", Name: "at the start", Unit: "bar"}, {Sign: "p2", Name: "at the end", Unit: "bar"},
			{Sign: "t1", Name: "medium at the start", Unit: "°C"}, {Sign: "t2", Name: "medium at the end", Unit: "°C"}},
		Of: func(x []float64) float64 { return x[0] - ((x[1]+1.01325)*(273.15+x[2])/(273.15+x[3]) - 1.01325) }},
}
