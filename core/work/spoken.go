package work

import (
	"fmt"
	"strconv"
	"strings"

	"dynacor/core/record"
	"dynacor/core/unit"
)

// Spoken says an act as one calls it across to whoever has the tool in the hand: "bolt
// eleven, three four two newton metres, stage two of three". A tool that has to be set comes
// first. In English.
func (s *State) Spoken(c Coming) string {
	st, _, ok := s.plan.step(c.Step)
	if !ok {
		return ""
	}
	if c.Bolt == 0 {
		return record.Trim(s.Describe(c.Act)) + "."
	}
	name := st.group.BoltName(c.Bolt)
	if word := strings.TrimSuffix(name, strconv.Itoa(c.Bolt)); word != name {
		name = word + cardinal(c.Bolt)
	}
	parts := []string{name}
	t, with := s.toolOf(st, c.Act)
	switch {
	case c.Lock:
		parts = append(parts, "lock it")
	case with:
		parts = append(parts, amount(t.Setting))
	case c.Turn > 0:
		parts = append(parts, amount(unit.Of(c.Turn, unit.Degree)))
	}
	if aim := s.Aim(c.Act); !with && !aim.IsZero() && c.Turn == 0 {
		parts = append(parts, amount(aim))
	}
	switch n := len(st.group.Stages); {
	case c.Round > 0:
		parts = append(parts, "round "+cardinal(c.Round))
	case n > 1 && !c.Lock:
		for i, share := range st.group.Stages {
			if share == c.Share {
				parts = append(parts, fmt.Sprintf("stage %s of %s", cardinal(i+1), cardinal(n)))
			}
		}
	}
	out := capital(strings.Join(parts, ", ")) + "."
	if c.Set && with {
		out = fmt.Sprintf("Set %s to %s. Then: %s", t.Tools[0], amount(t.Setting), strings.ToLower(out[:1])+out[1:])
	}
	return out
}

var (
	ones = []string{"nought", "one", "two", "three", "four", "five", "six", "seven", "eight", "nine", "ten", "eleven", "twelve", "thirteen",
		"fourteen", "fifteen", "sixteen", "seventeen", "eighteen", "nineteen"}
	tens = []string{"", "", "twenty", "thirty", "forty", "fifty", "sixty", "seventy", "eighty", "ninety"}
)

// cardinal is a whole number below a thousand in words; beyond it its digits.
func cardinal(n int) string {
	switch {
	case n < 0 || n >= 1000:
		return digitWords(strconv.Itoa(n))
	case n < 20:
		return ones[n]
	case n < 100 && n%10 == 0:
		return tens[n/10]
	case n < 100:
		return tens[n/10] + "-" + ones[n%10]
	case n%100 == 0:
		return ones[n/100] + " hundred"
	}
	return ones[n/100] + " hundred and " + cardinal(n%100)
}

// digitWords says a number figure by figure, as one reads it off a scale.
func digitWords(text string) string {
	var out []string
	for _, r := range text {
		switch {
		case r == '.':
			out = append(out, "point")
		case r == '-':
			out = append(out, "minus")
		case r >= '0' && r <= '9':
			out = append(out, ones[r-'0'])
		}
	}
	return strings.Join(out, " ")
}

// amount says a value with its unit: up to a hundred as one counts, hundreds that are round
// as such, else figure by figure.
func amount(q unit.Quantity) string {
	text := strconv.FormatFloat(q.Value, 'f', -1, 64)
	value := digitWords(text)
	if n := int(q.Value); float64(n) == q.Value && (n < 100 || n < 1000 && n%100 == 0) && n >= 0 {
		value = cardinal(n)
	}
	return strings.TrimSpace(value + " " + unitWords(q.Unit, q.Value))
}

// unitWords is how a unit is said.
func unitWords(u unit.Unit, v float64) string {
	many := "s"
	if v == 1 {
		many = ""
	}
	switch u {
	case unit.NewtonMetre:
		return "newton metre" + many
	case unit.CentiNewtonMetre:
		return "centi-newton metre" + many
	case unit.FootPound:
		return "foot pound" + many
	case unit.InchPound:
		return "inch pound" + many
	case unit.KilogramMetre:
		return "kilogram metre" + many
	case unit.Degree:
		return "degree" + many
	case unit.Megapascal:
		return "megapascal" + many
	case unit.Kilonewton:
		return "kilonewton" + many
	case unit.PSI:
		return "p s i"
	}
	return string(u)
}
