package recipe

import (
	"iter"
	"strings"

	"dynacor/core/refusal"
)

// In a step's text a need stands in braces: "on at {audit torque}".

// Told returns text with what each need in it comes to.
func Told(text string, of func(need string) string) string {
	var out strings.Builder
	from := 0
	for need, at := range inBraces(text) {
		out.WriteString(text[from:at] + of(need))
		from = at + len(need) + 2
	}
	return out.String() + text[from:]
}

// inBraces yields what stands in braces without braces in it, and where its brace is.
func inBraces(text string) iter.Seq2[string, int] {
	return func(yield func(string, int) bool) {
		open := -1
		for i, c := range []byte(text) {
			switch {
			case c == '{':
				open = i
			case c == '}' && open >= 0:
				if !yield(text[open+1:i], open) {
					return
				}
				open = -1
			}
		}
	}
}

// told refuses a text that tells a need which is none.
func (c checker) told(field, text string) error {
	for need := range inBraces(text) {
		if _, there := c.needs[need]; !there {
			return refusal.New(refusal.Unknown, field, "No value is named \""+need+"\".",
				"Name one of the recipe's values, or leave out the braces.")
		}
	}
	return nil
}
