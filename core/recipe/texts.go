package recipe

import (
	"fmt"
	"maps"
	"reflect"
	"slices"
	"strings"

	"dynacor/core/refusal"
)

// prose are the fields of a recipe that people read. Beside sentences these are names: they are
// shown where their things are.
var prose = strings.Fields("Text Name Ticks Purpose Match Of Options Why Mistakes Face Toward Word Title First Last Spots Tools " +
	"Materials Wear Photo Alike Each Items Lock Is Reads Cautions")

// Prose lists the texts of a recipe that people read, each once, sorted. Needs in them stand in
// braces. What a sheet holds is the maker's, but for its title.
func (r Recipe) Prose() []string {
	seen := map[string]bool{}
	if r.Sheet != nil {
		r.Sheet = &Sheet{Title: r.Sheet.Title}
	}
	r.Texts = nil
	readProse(reflect.ValueOf(r), "", seen)
	return slices.Sorted(maps.Keys(seen))
}

func readProse(v reflect.Value, field string, seen map[string]bool) {
	switch v.Kind() {
	case reflect.Pointer:
		if !v.IsNil() {
			readProse(v.Elem(), field, seen)
		}
	case reflect.Slice:
		for i := range v.Len() {
			readProse(v.Index(i), field, seen)
		}
	case reflect.Struct:
		for i := range v.NumField() {
			readProse(v.Field(i), v.Type().Field(i).Name, seen)
		}
	case reflect.String:
		if text := strings.TrimSpace(v.String()); text != "" && slices.Contains(prose, field) {
			seen[text] = true
		}
	}
}

// checkTexts refuses a text in another language that says something else, as far as that can be
// told: of what the recipe does not say, without its numbers, or without its needs.
func (c checker) checkTexts() {
	if len(c.r.Texts) == 0 {
		return
	}
	says := c.r.Prose()
	for _, language := range slices.Sorted(maps.Keys(c.r.Texts)) {
		field := "texts." + language
		if len(language) != 2 || strings.Trim(language, "abcdefghijklmnopqrstuvwxyz") != "" || language == "en" {
			c.holds(refusal.New(refusal.Unknown, field, fmt.Sprintf("%q is no other language than English.", language),
				"Name it by its two letters: de, es, pl."))
			continue
		}
		for _, english := range slices.Sorted(maps.Keys(c.r.Texts[language])) {
			c.holds(textIn(language, english, c.r.Texts[language][english], says))
		}
	}
}

func textIn(language, english, other string, says []string) error {
	field := "texts." + language
	if _, there := slices.BinarySearch(says, english); !there {
		return refusal.New(refusal.Unknown, field, fmt.Sprintf("The recipe does not say %q.", english),
			"Write the English as it stands in the recipe.")
	}
	if strings.TrimSpace(other) == "" {
		return refusal.New(refusal.Missing, field, fmt.Sprintf("%q is not said in %s.", english, language),
			"Say it, or leave the line out: it is then shown in English.")
	}
	if here, there := needsIn(english), needsIn(other); here != there {
		return refusal.New(refusal.Contradicts, field, fmt.Sprintf("%q has the values %s, in %s it has %s.", english, orNone(here), language,
			orNone(there)), "Keep what stands in braces.")
	}
	if here, there := numbersIn(english), numbersIn(other); here != there {
		return refusal.New(refusal.Contradicts, field, fmt.Sprintf("%q has the numbers %s, in %s it has %s.", english, orNone(here), language,
			orNone(there)), "Say the same numbers.")
	}
	return nil
}

func orNone(s string) string {
	if s == "" {
		return "none"
	}
	return s
}

func needsIn(text string) string {
	var out []string
	for need := range inBraces(text) {
		out = append(out, "{"+need+"}")
	}
	slices.Sort(out)
	return strings.Join(out, " ")
}

// numbersIn are the numbers of a text, sorted, whatever their decimal mark.
func numbersIn(text string) string {
	text = Told(text, func(string) string { return "" })
	var out []string
	digit := func(i int) bool { return i < len(text) && text[i] >= '0' && text[i] <= '9' }
	for i := 0; i < len(text); i++ {
		from := i
		for digit(i) || i > from && strings.IndexByte(".,/", text[min(i, len(text)-1)]) >= 0 && digit(i+1) {
			i++
		}
		if i > from {
			out = append(out, strings.ReplaceAll(text[from:i], ",", "."))
		}
	}
	slices.Sort(out)
	return strings.Join(out, " ")
}
