package recipe

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"dynacor/core/proof"
	"dynacor/core/refusal"
	"dynacor/core/unit"
)

// Limit is what a reading may be: from Low to High, either end left out as
// nil. With Of they are shares or multiples of that need, or of what was kept at an
// earlier step, High of HighOf where that is another; with Plus they are added to it. Above: the low end
// itself is already outside, as for a gap that must stay open. Even is the
// most that several readings may differ, with EvenOf a share or multiple of that
// need.
type Limit struct {
	Low, High *float64
	Of        string
	HighOf    string
	Above     bool
	Even      *float64
	EvenOf    string
	Unit      unit.Unit // empty: a count or a ratio
	Word      string    // what a number without a unit counts: h, g, threads
	Plus      string    // the need, or what was kept at an earlier step, that the ends are counted from; several with " + " between
	Firm      bool      // past an end nothing is kept, whatever the reason: it is put right
	Why       string    // the reason, in one sentence
	Source    string    // where it is from, where no need says so: fixed, rule, sheet
	Over      string    // of gaps round a circle: the need that holds its diameter, which their tilt is counted over
}

// Shares reports whether an end is a share of a need.
func (l Limit) Shares(end End) bool {
	switch end {
	case LowEnd:
		return l.Of != "" || l.Plus != ""
	case HighEnd:
		return l.Of != "" || l.HighOf != "" || l.Plus != ""
	case EvenEnd:
		return l.EvenOf != ""
	}
	return false
}

// Window is a limit with its numbers: infinite where an end is left out.
type Window struct {
	Low, High float64
	Above     bool
	Even      float64
	Unit      unit.Unit
	Word      string
	Firm      bool
	Over      float64  // mm; 0 where it is not known
	Round     bool     // the places lie round a circle, clockwise from the top
	Spots     []string // where the readings are taken, for words; empty: numbered
}

// Window works the limit out with the joint's values.
func (l Limit) Window(values map[string]unit.Quantity) (Window, error) {
	w := Window{Low: math.Inf(-1), High: math.Inf(1), Above: l.Above, Even: math.Inf(1), Unit: l.Unit, Word: l.Word, Firm: l.Firm}
	if q, ok := values[l.Over]; ok && l.Over != "" {
		w.Over, _ = q.In(unit.Millimetre) // held against its need's unit when the recipe was checked
	}
	factor, err := l.factor(l.Of, values)
	if err != nil {
		return Window{}, err
	}
	evenly, err := l.factor(l.EvenOf, values)
	if err != nil {
		return Window{}, err
	}
	from := 0.0
	for _, name := range l.Added() {
		v, err := l.factor(name, values)
		if err != nil {
			return Window{}, err
		}
		from += v
	}
	if l.Low != nil {
		w.Low = from + *l.Low*factor
	}
	if l.High != nil {
		if w.High = from + *l.High*factor; l.HighOf != "" {
			most, err := l.factor(l.HighOf, values)
			if err != nil {
				return Window{}, err
			}
			w.High = from + *l.High*most
		}
	}
	if l.Even != nil {
		w.Even = *l.Even * evenly
	}
	return w, nil
}

// factor is what a need multiplies a limit's numbers by, in the limit's unit.
func (l Limit) factor(need string, values map[string]unit.Quantity) (float64, error) {
	if need == "" {
		return 1, nil
	}
	q, ok := values[need]
	if !ok {
		return 0, refusal.New(refusal.Missing, need, fmt.Sprintf("The %s is missing.", need), "Read it off the maker's sheet.")
	}
	v, err := In(q, l.Unit)
	return v, refusal.At(need, err)
}

// In returns q in u; without a unit both are plain numbers.
func In(q unit.Quantity, u unit.Unit) (float64, error) {
	if u == "" || q.Unit == "" {
		if u != q.Unit {
			return 0, refusal.New(refusal.Contradicts, "unit", fmt.Sprintf("%q where %q is asked for.", string(q.Unit), string(u)),
				"Enter it with its unit.")
		}
		return q.Value, refusal.Finite("value", q.Value)
	}
	return q.In(u)
}

// Judge returns why readings are outside the window, empty when they are not.
// never: past an end where nothing is kept, whatever the reason.
func (w Window) Judge(readings []float64) (outside string, never bool, err error) {
	least, most, widest := math.Inf(1), math.Inf(-1), 0
	for i, r := range readings {
		if err := refusal.Finite(fmt.Sprintf("readings.%d", i), r); err != nil {
			return "", false, err
		}
		if r > most {
			widest = i
		}
		least, most = min(least, r), max(most, r)
		switch {
		case w.Above && r <= w.Low, !w.Above && !unit.AtLeast(r, w.Low):
			what := "at least"
			if w.Above {
				what = "above"
			}
			return fmt.Sprintf("%s%s; it must be %s %s.", w.With(r), w.at(i, len(readings)), what, w.With(w.Low)), w.Firm, nil
		case !unit.AtMost(r, w.High):
			return fmt.Sprintf("%s%s; it must be at most %s.", w.With(r), w.at(i, len(readings)), w.With(w.High)), w.Firm, nil
		}
	}
	if !unit.AtMost(most-least, w.Even) {
		return fmt.Sprintf("The readings differ by %s, most%s; at most %s.",
			w.With(most-least), w.at(widest, len(readings)), w.With(w.Even)), false, nil
	}
	return "", false, nil
}

// Comes says what readings round a circle come to: how far they differ, which
// side is open, and the tilt over the circle's diameter. Empty for others, and
// where nothing says how even they must be.
func (w Window) Comes(readings []float64) string {
	if !w.Round || len(readings) < 2 || math.IsInf(w.Even, 0) {
		return ""
	}
	over := max(w.Over, 1) // the tilt is left out where the diameter is not known
	g, err := proof.JudgeGap(readings, over, w.Even)
	if err != nil {
		return ""
	}
	out := fmt.Sprintf("differ by %s of %s", w.With(g.Spread), w.With(g.Limit))
	if g.Spread > 0 {
		out += ", open at " + proof.Clock(g.OpenSide)
		if w.Over > 0 {
			out += fmt.Sprintf(", tilt %.3f°", g.Tilt)
		}
	}
	return out
}

// at names the place of reading i of n.
func (w Window) at(i, n int) string {
	switch {
	case i < len(w.Spots):
		return " " + w.Spots[i]
	case n == 1:
		return ""
	}
	return fmt.Sprintf(" at place %d", i+1)
}

// With writes a number with the unit of the window.
func (w Window) With(v float64) string {
	return strings.TrimSpace(number(v) + " " + string(w.Unit) + w.Word)
}

func (l Limit) check(field string, known func(string) (Need, bool)) error {
	if l.Low == nil && l.High == nil && l.Even == nil {
		return refusal.New(refusal.Missing, field, "A limit without a number is none.", "Give low, high or even.")
	}
	for name, v := range map[string]*float64{"low": l.Low, "high": l.High, "even": l.Even} {
		if v == nil {
			continue
		}
		if err := refusal.Finite(field+"."+name, *v); err != nil {
			return err
		}
	}
	if l.HighOf != "" && l.High == nil {
		return refusal.New(refusal.Contradicts, field+".highof", "A share of what? The limit has no high end.", "Give high.")
	}
	if l.Low != nil && l.High != nil && l.HighOf == "" {
		if err := refusal.Rising(field, *l.Low, *l.High, string(l.Unit)); err != nil {
			return err
		}
	}
	if l.Even != nil {
		if err := refusal.NotNegative(field+".even", *l.Even, string(l.Unit)); err != nil {
			return err
		}
	}
	if l.Above && l.Low == nil {
		return refusal.New(refusal.Contradicts, field, "Above what? The limit has no low end.", "Give low.")
	}
	if l.Unit != "" {
		if _, err := unit.DimensionOf(l.Unit); err != nil {
			return refusal.At(field+".unit", err)
		}
	}
	if l.EvenOf != "" && l.Even == nil {
		return refusal.New(refusal.Contradicts, field+".evenof", "A share of what? The limit says nothing of how even.", "Give even.")
	}
	if n, _ := known(l.Over); l.Over != "" && n.Unit != unit.Millimetre {
		return refusal.New(refusal.Unknown, field+".over", fmt.Sprintf("%q is no value in mm.", l.Over),
			"Name the value that holds the diameter.")
	}
	if !slices.Contains([]string{"", "fixed", "rule", "sheet"}, l.Source) {
		return refusal.New(refusal.Unknown, field+".source", fmt.Sprintf("Unknown source %q.", l.Source), "Say fixed, rule or sheet.")
	}
	for _, name := range l.Added() {
		if err := l.shares(field+".plus", name, known); err != nil {
			return err
		}
	}
	return refusal.First(l.shares(field+".of", l.Of, known), l.shares(field+".highof", l.HighOf, known),
		l.shares(field+".evenof", l.EvenOf, known))
}

// Added are the names that a limit's ends are counted from.
func (l Limit) Added() []string {
	if l.Plus == "" {
		return nil
	}
	return strings.Split(l.Plus, " + ")
}

// Names are all that a limit's numbers follow from.
func (l Limit) Names() []string {
	var out []string
	for _, name := range append(l.Added(), l.Of, l.HighOf, l.EvenOf, l.Over) {
		if name != "" {
			out = append(out, name)
		}
	}
	return out
}

// shares refuses a need that the limit's numbers cannot be shares of.
func (l Limit) shares(field, need string, known func(string) (Need, bool)) error {
	if need == "" {
		return nil
	}
	n, ok := known(need)
	if !ok {
		return refusal.New(refusal.Unknown, field, fmt.Sprintf("No value is named %q, and no step before this one keeps it.", need),
			"Name one of the recipe's values, or what an earlier step keeps.")
	}
	if (n.Unit == "") != (l.Unit == "") {
		return refusal.New(refusal.Contradicts, field, fmt.Sprintf("%q is in %q, the limit in %q.", need, string(n.Unit), string(l.Unit)),
			"")
	}
	if n.Unit != "" {
		if _, err := unit.Convert(1, n.Unit, l.Unit); err != nil {
			return refusal.At(field, err)
		}
	}
	return nil
}
