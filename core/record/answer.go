package record

import (
	"fmt"
	"strings"
)

// Words says what an answer comes to.
func (a Answer) Words() string {
	switch a.How {
	case Good:
		return fmt.Sprintf("what was made with %s stands: %s", a.Tool, a.Reason)
	case Sample:
		return strings.TrimSuffix(fmt.Sprintf("what was made with %s is in doubt; a sample of it is tried with another tool. %s", a.Tool,
			a.Reason), " ")
	case Again:
		return fmt.Sprintf("what was made with %s is in doubt; it is made again: %s", a.Tool, a.Reason)
	}
	return fmt.Sprintf("what was made with %s was in doubt; it stands because: %s", a.Tool, a.Reason)
}

// Words says it in a few words.
func (h AnswerHow) Words() string {
	switch h {
	case Good:
		return "found good"
	case Sample:
		return "a sample is tried"
	case Again:
		return "made again"
	}
	return "they stand"
}

// Words says which bolts gave what: "bolt 3: 48 N·m, bolt 11: 47 N·m".
func (r Recheck) Words() string {
	var out []string
	for i, b := range r.Bolts {
		if i < len(r.Readings) {
			out = append(out, fmt.Sprintf("bolt %d: %.4g N·m", b, r.Readings[i]))
		}
	}
	return strings.Join(out, ", ")
}
