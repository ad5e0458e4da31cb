package recipe

import (
	"cmp"
	"fmt"
	"math"
	"slices"
	"strings"

	"dynacor/core/derive"
	"dynacor/core/unit"
)

// Derive returns where the ends of a limit are from that are shares of a need, under
// the ends' names; value tells what a need comes to, what it is called, and where its
// value is from.
func (l Limit) Derive(of, behind string, value func(need string) (q unit.Quantity, name, from string)) ([]derive.Derivation, error) {
	var out []derive.Derivation
	u := string(l.Unit) + l.Word
	from, plus := 0.0, ""
	for i, name := range l.Added() {
		q, text, _ := value(name)
		v, err := In(q, l.Unit)
		if err != nil {
			return nil, err
		}
		from += v
		if plus = plus + " + " + text; i == 0 {
			plus = text
		}
	}
	for _, end := range []struct {
		end   End
		name  string
		share *float64
		need  string
	}{{LowEnd, "Least it may be", l.Low, l.Of}, {HighEnd, "Most it may be", l.High, cmp.Or(l.HighOf, l.Of)},
		{EvenEnd, "Most they may differ by", l.Even,
			l.EvenOf}} {
		if end.share == nil {
			continue
		}
		if l.Plus != "" && end.end != EvenEnd && end.need == "" {
			f := *formFrom
			f.Name, f.Unit = end.name, u
			f.Symbols = []derive.Symbol{{Sign: "b", Name: plus, Unit: u}, {Sign: "s", Name: "what the recipe adds", Unit: u}}
			out = append(out, derive.Derivation{Of: of, Key: string(end.end) + behind, Formula: &f,
				Inputs: []derive.Input{{Value: from, From: plus}, {Value: *end.share, From: "the recipe"}}})
			continue
		}
		if end.need == "" {
			continue
		}
		q, name, from := value(end.need)
		v, err := In(q, l.Unit)
		if err != nil {
			return nil, err
		}
		f := *formLimit
		f.Name, f.Unit = end.name, u
		f.Symbols = []derive.Symbol{{Sign: "s", Name: "share that the recipe takes"}, {Sign: "R", Name: name, Unit: u}}
		out = append(out, derive.Derivation{Of: of, Key: string(end.end) + behind, Formula: &f,
			Inputs: []derive.Input{{Value: *end.share, From: "the recipe"}, {Value: v, From: from}}})
	}
	return out, nil
}

var formFrom = &derive.Formula{Sign: "limit", Text: "{b} + {s}", Source: "the recipe of this kind of joint",
	Valid: "Where it follows from a reading, of this joint alone.", Of: func(x []float64) float64 { return x[0] + x[1] }}

var formLimit = &derive.Formula{Sign: "limit", Text: "{s}·{R}", Source: "the recipe of this kind of joint",
	Valid: "The maker's own limit for this type wins over it.", Of: func(x []float64) float64 { return x[0] * x[1] }}

// Derive returns what readings round a circle come to: how far they differ, and their
// tilt where the circle is known. Of others there is nothing.
func (w Window) Derive(of, behind string, readings []float64) []derive.Derivation {
	if w.Comes(readings) == "" {
		return nil
	}
	spread := &derive.Formula{Name: "How far they differ", Sign: "Δ", Unit: string(w.Unit), Source: "the readings that are kept",
		Valid: "Read at places evenly round the circle.", Of: func(x []float64) float64 { return slices.Max(x) - slices.Min(x) }}
	signs, inputs := make([]string, len(readings)), make([]derive.Input, len(readings))
	for i, r := range readings {
		sign := fmt.Sprintf("g%d", i+1)
		signs[i], inputs[i] = "{"+sign+"}", derive.Input{Value: r, From: "as it is kept"}
		spread.Symbols = append(spread.Symbols, derive.Symbol{Sign: sign, Name: "reading" + w.at(i, len(readings)), Unit: string(w.Unit)})
	}
	list := strings.Join(signs, ", ")
	spread.Text = "max(" + list + ") − min(" + list + ")"
	out := []derive.Derivation{{Of: of, Key: "spread" + behind, Formula: spread, Inputs: inputs}}
	if w.Over > 0 {
		out = append(out, derive.Derivation{Of: of, Key: "tilt" + behind, Formula: formTilt, Inputs: []derive.Input{
			{Value: out[0].Result(), From: "spread" + behind, Derived: true}, {Value: w.Over, From: "as it is given"}}})
	}
	return out
}

var formTilt = &derive.Formula{Name: "Tilt", Sign: "α", Unit: "°", Text: "arctan({Δ}/{D})", Source: "geometry",
	Valid: "Two flat faces; the readings taken on one circle.",
	Symbols: []derive.Symbol{{Sign: "Δ", Name: "how far they differ", Unit: "mm"},
		{Sign: "D", Name: "circle they are read on", Unit: "mm"}},
	Of: func(x []float64) float64 { return math.Atan(x[0]/x[1]) * 180 / math.Pi }}
