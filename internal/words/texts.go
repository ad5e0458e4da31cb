package words

import (
	"fmt"
	"maps"
	"slices"

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
	out.craft = maps.Clone(p.craft)
	maps.Copy(out.craft, texts)
	out.patterns = slices.DeleteFunc(slices.Clone(p.patterns), func(x pattern) bool { _, own := texts[x.key]; return own })
	out.learn(texts)
	return &out
}
