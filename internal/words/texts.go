package words

import (
	"cmp"
	"fmt"
	"slices"
	"strings"

	"dynacor/core/recipe"
)

// Texts are what a recipe says in a language, by its English, as a catalogue has it: each of its
// needs is a numbered hole.
func Texts(r recipe.Recipe, language string) map[string]string {
	out := make(map[string]string, len(r.Texts[language]))
	for english, says := range r.Texts[language] {
		var needs []string
		numbered := func(need string) string {
			if !slices.Contains(needs, need) {
				needs = append(needs, need)
			}
			return fmt.Sprintf("{%d}", slices.Index(needs, need))
		}
		key := recipe.Told(english, numbered)
		out[key] = recipe.Told(says, numbered)
	}
	return out
}

// With returns the phrases with texts of a recipe before those of the catalogue.
func (p *Phrases) With(texts map[string]string) *Phrases {
	if p == nil || len(texts) == 0 {
		return p
	}
	out := *p
	out.craft = make(map[string]string, len(p.craft)+len(texts))
	for _, all := range []map[string]string{p.craft, texts} {
		for key, says := range all {
			out.craft[key] = says
		}
	}
	out.patterns = slices.DeleteFunc(slices.Clone(p.patterns), func(x pattern) bool { _, own := texts[x.key]; return own })
	for key, says := range texts {
		if strings.Contains(key, "{") {
			out.patterns = append(out.patterns, patternOf(key, says))
		}
	}
	slices.SortFunc(out.patterns, func(a, b pattern) int { return cmp.Or(b.own-a.own, strings.Compare(a.key, b.key)) })
	return &out
}
