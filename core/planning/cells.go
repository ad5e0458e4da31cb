package planning

import (
	"errors"
	"fmt"
	"math"
	"regexp"
	"strconv"
	"strings"

	"dynacor/core/joint"
	"dynacor/core/recipe"
	"dynacor/core/unit"
)

var (
	errNoNumber = errors.New("it is no number")
	amount      = regexp.MustCompile(`^([-+]?[0-9][0-9.,']*|[-+]?\.[0-9]+)\s*(?:(?:to|\.\.\.|…|–|—|-)\s*([0-9][0-9.,']*)\s*)?(.*)$`)
)

// Given reads "88", "88 ft·lbf", "80 to 90 N·m", "12,5". The unit is the cell's own, else
// the heading's, else the one that is asked for.
func Given(cell string, heading, asked unit.Unit) (g joint.Given, err error) {
	m := amount.FindStringSubmatch(strings.TrimSpace(cell))
	if m == nil {
		return g, fmt.Errorf("%q: %w", cell, errNoNumber)
	}
	u := heading
	if u == "" {
		u = asked
	}
	if text := strings.TrimSpace(m[3]); text != "" {
		own, ok := UnitOf(text)
		if !ok {
			return g, fmt.Errorf("%q is no unit that is known here", text)
		}
		u = own
	}
	switch {
	case asked == "" && u != "":
		return g, fmt.Errorf("%q has a unit, and this is a number without one", cell)
	case asked != "":
		if _, err := unit.Convert(1, u, asked); err != nil {
			return g, fmt.Errorf("%s is no unit for it; it is asked for in %s", u, asked)
		}
	}
	low, err := number(m[1])
	if err != nil {
		return g, err
	}
	g.Value = unit.Of(low, u)
	if m[2] == "" {
		return g, nil
	}
	high, err := number(m[2])
	if err != nil {
		return g, err
	}
	if high < low {
		return g, fmt.Errorf("%q ends below where it begins", cell)
	}
	g.Max = unit.Of(high, u)
	return g, nil
}

// number reads a number with a point or a comma before its fraction. One that could be read
// either way is refused: a wrong guess is a factor of a thousand.
func number(s string) (float64, error) {
	s = strings.ReplaceAll(s, "'", "")
	comma, point := strings.Count(s, ","), strings.Count(s, ".")
	switch {
	case comma > 0 && point > 0:
		return 0, fmt.Errorf("%q has a comma and a point; write it with one of them, before its fraction", s)
	case comma == 1:
		_, after, _ := strings.Cut(s, ",")
		if len(after) == 3 {
			return 0, fmt.Errorf("%q could be %s or %s; write which", s, strings.Replace(s, ",", "", 1), strings.Replace(s, ",", ".", 1))
		}
		s = strings.Replace(s, ",", ".", 1)
	case comma > 1, point > 1:
		return 0, fmt.Errorf("%q: %w", s, errNoNumber)
	}
	v, err := strconv.ParseFloat(s, 64)
	if err != nil || math.IsInf(v, 0) || math.IsNaN(v) {
		return 0, fmt.Errorf("%q: %w", s, errNoNumber)
	}
	return v, nil
}

// Cells writes a joint as a row under offers, as Input reads it back.
func Cells(offers []Offer, row Row, in joint.Input, r recipe.Recipe) []string {
	b := in.Groups[group(r, in.Choices)]
	out := make([]string, len(offers))
	for i, o := range offers {
		name, value := strings.CutPrefix(string(o.Field), ofValue)
		choice, chosen := strings.CutPrefix(string(o.Field), ofChoice)
		switch {
		case value:
			if g, given := in.Values[name]; given {
				out[i] = g.String()
			}
		case chosen:
			out[i] = in.Choices[choice]
		}
		switch o.Field {
		case Area:
			out[i] = row.Area
		case Tag:
			out[i] = row.Tag
		case Title:
			out[i] = row.Title
		case Kind:
			out[i] = row.Kind
		case Nameplate:
			out[i] = in.Type
		case Size:
			out[i] = in.Size
		case Count:
			if b.Count > 0 {
				out[i] = strconv.Itoa(b.Count)
			}
		case Thread:
			out[i] = b.Thread
		case Grade:
			out[i] = b.Grade
		case Lubricant:
			out[i] = b.Lubrication
		case WrittenOn:
			out[i] = b.SpecifiedFor
		}
	}
	return out
}
