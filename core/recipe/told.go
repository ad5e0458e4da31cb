package recipe

import (
	"regexp"

	"dynacor/core/refusal"
)

// In a step's text a need stands in braces: "on at {audit torque}".
var inBraces = regexp.MustCompile(`\{([^{}]*)\}`)

// Told returns text with what each need in it comes to.
func Told(text string, of func(need string) string) string {
	return inBraces.ReplaceAllStringFunc(text, func(s string) string { return of(s[1 : len(s)-1]) })
}

// told refuses a text that tells a need which is none.
func (c checker) told(field, text string) error {
	for _, m := range inBraces.FindAllStringSubmatch(text, -1) {
		if _, there := c.needs[m[1]]; !there {
			return refusal.New(refusal.Unknown, field, "No value is named \""+m[1]+"\".",
				"Name one of the recipe's values, or leave out the braces.")
		}
	}
	return nil
}
