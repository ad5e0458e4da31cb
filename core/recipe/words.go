package recipe

import (
	"fmt"
	"maps"
	"math"
	"slices"
	"strings"
)

// Words says what a limit asks for: "at most 1.5 mm", "0.8 to 1.2 of the break
// torque", "above 0 mm, differing by at most 0.5 mm".
func (l Limit) Words() string {
	ends := ""
	switch {
	case l.HighOf != "" && l.Low != nil:
		ends = l.value(*l.Low) + " to " + share(*l.High, l.HighOf, string(l.Unit)+l.Word)
	case l.HighOf != "" && l.High != nil:
		ends = "at most " + share(*l.High, l.HighOf, string(l.Unit)+l.Word)
	case l.Low != nil && l.High != nil && *l.Low == *l.High:
		ends = "exactly " + l.value(*l.High)
	case l.Low != nil && l.High != nil && *l.Low == 0 && !l.Above:
		ends = "at most " + l.value(*l.High)
	case l.Low != nil && l.High != nil && l.Above:
		ends = fmt.Sprintf("above %g, at most %s", *l.Low, l.value(*l.High))
	case l.Low != nil && l.High != nil:
		ends = fmt.Sprintf("%g to %s", *l.Low, l.value(*l.High))
	case l.High != nil:
		ends = "at most " + l.value(*l.High)
	case l.Low != nil && l.Above:
		ends = "above " + l.value(*l.Low)
	case l.Low != nil:
		ends = "at least " + l.value(*l.Low)
	}
	if l.Plus != "" {
		ends = "the " + l.Plus + " and " + ends
	}
	if l.Even == nil {
		return ends
	}
	even := "differing by at most " + share(*l.Even, l.EvenOf, string(l.Unit)+l.Word)
	if ends == "" {
		return even
	}
	return ends + ", " + even
}

// From says where a limit is from: fixed, a rule, the sheet, or an earlier step.
func (l Limit) From() string {
	switch {
	case l.Source != "":
		return l.Source
	case l.Plus != "":
		return l.Plus
	case l.Of != "":
		return l.Of
	case l.EvenOf != "":
		return l.EvenOf
	}
	return "fixed"
}

// number writes a reading or a limit with four figures, large ones in full.
func number(v float64) string {
	if math.Abs(v) >= 1e4 {
		return fmt.Sprintf("%.0f", v)
	}
	return fmt.Sprintf("%.4g", v)
}

// End is one of the numbers of a window.
type End string

// The ends.
const (
	LowEnd  End = "low"
	HighEnd End = "high"
	EvenEnd End = "even"
)

// Piece is a piece of what a window asks for: words, or one of its numbers with its unit.
type Piece struct {
	Text string
	End  End // empty: words
}

// Pieces says what a window asks for, its numbers apart from the words.
func (w Window) Pieces() []Piece {
	var out []Piece
	words := func(s string) { out = append(out, Piece{Text: s}) }
	is := func(v float64, end End) { out = append(out, Piece{w.With(v), end}) }
	low, high := !math.IsInf(w.Low, 0), !math.IsInf(w.High, 0)
	switch {
	case low && high && w.Low == w.High:
		words("exactly ")
		is(w.High, HighEnd)
	case low && high && w.Low == 0 && !w.Above:
		words("at most ")
		is(w.High, HighEnd)
	case low && high && w.Above:
		words("above ")
		out = append(out, Piece{number(w.Low), LowEnd})
		words(", at most ")
		is(w.High, HighEnd)
	case low && high:
		out = append(out, Piece{number(w.Low), LowEnd})
		words(" to ")
		is(w.High, HighEnd)
	case high:
		words("at most ")
		is(w.High, HighEnd)
	case low && w.Above:
		words("above ")
		is(w.Low, LowEnd)
	case low:
		words("at least ")
		is(w.Low, LowEnd)
	}
	if math.IsInf(w.Even, 0) {
		return out
	}
	if len(out) > 0 {
		words(", ")
	}
	words("differing by at most ")
	is(w.Even, EvenEnd)
	return out
}

// Words says what a window asks for, with its numbers.
func (w Window) Words() string {
	var out strings.Builder
	for _, p := range w.Pieces() {
		out.WriteString(p.Text)
	}
	return out.String()
}

func (l Limit) value(v float64) string { return share(v, l.Of, string(l.Unit)+l.Word) }

// share is a number with its unit, or as a share of a need.
func share(v float64, of, unit string) string {
	switch {
	case of == "":
		return withUnit(v, unit)
	case v == 1:
		return "the " + of
	}
	return fmt.Sprintf("%g of the %s", v, of)
}

func withUnit(v float64, u string) string {
	switch u {
	case "":
		return fmt.Sprintf("%g", v)
	case "°":
		return fmt.Sprintf("%g°", v)
	}
	return fmt.Sprintf("%g %s", v, u)
}

// Words says in which variants something is there; empty for all.
func (w When) Words() string {
	var out []string
	for _, name := range slices.Sorted(maps.Keys(w)) {
		out = append(out, fmt.Sprintf("%s: %s", name, w[name]))
	}
	return strings.Join(out, ", ")
}

// Words says how a group is made: its count and layout, how it is tightened,
// and what goes with each bolt.
func (g Group) Words() []string {
	count := fmt.Sprint(g.Bolts)
	if g.Bolts == 0 {
		count = fmt.Sprintf("%d to %d", g.Least, g.Most)
	}
	out := []string{fmt.Sprintf("%s in a %s", count, g.Layout)}
	if g.Bolts == 1 {
		out[0] = "one"
	}
	switch g.How {
	case ByTorque:
		s := "to the " + g.Value
		if len(g.Shares) > 0 {
			var shares []string
			for _, x := range g.Shares {
				shares = append(shares, fmt.Sprintf("%g", x))
			}
			s += " in " + strings.Join(shares, "-") + " %"
		}
		out = append(out, s)
	case ByPressure:
		out = append(out, "to the "+g.Value+", until it stalls")
	case ByTension:
		out = append(out, "drawn by tensioners to the "+g.Value)
	case ByTurns:
		turns := []string{"the " + g.Value}
		if len(g.Turns) > 0 {
			turns = nil
		}
		for _, x := range g.Turns {
			turns = append(turns, fmt.Sprintf("%g°", x))
		}
		out = append(out, "by turns: "+strings.Join(turns, ", then "))
	case ByHand:
		out = append(out, "by hand")
	case NotTorqued:
		out = append(out, "must not be torqued")
	}
	switch {
	case g.Portion > 0:
		out = append(out, fmt.Sprintf("round and round, %g° at a time, until each holds", g.Portion))
	case g.Stands:
		out = append(out, "tight already: gone round until nothing moves")
	case g.Still:
		out = append(out, "round and round until nothing moves")
	}
	if g.Lock != "" {
		out = append(out, "after each: "+g.Lock)
	}
	if g.Dry {
		out = append(out, "dry")
	}
	if g.Lubricant != "" {
		out = append(out, "lubricated: "+g.Lubricant)
	}
	return out
}
