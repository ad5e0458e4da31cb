package words

import (
	"maps"
	"regexp"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"dynacor/core/recipe"
	"dynacor/internal/recipes"
)

var figures = regexp.MustCompile(`\d+(?:[.,/]\d+)*`)

// Every text of the recipes that ship is in every catalogue: a step that nobody can read is not
// followed.
func TestEveryRecipeHasItsWords(t *testing.T) {
	book, err := recipes.Book()
	require.NoError(t, err)
	require.NotEmpty(t, book)
	for _, r := range book {
		for _, language := range slices.Sorted(maps.Keys(read)) {
			var missing []string
			for _, text := range r.Prose() {
				if words.MatchString(text) && !For(language).has(recipe.Told(text, func(string) string { return "7.5 mm" })) {
					missing = append(missing, text)
				}
			}
			require.Empty(t, missing, "%s of %s: say these in internal/words/recipes/%s.json", r.ID, language, language)
		}
	}
}

// has reports whether the catalogue has a text whole, not piece by piece.
func (p *Phrases) has(text string) bool {
	a := &asked{Phrases: p, heard: map[string]answer{}}
	for _, t := range []string{text, strings.TrimSuffix(text, "."), text + "."} {
		if _, ok := a.exact(t); ok {
			return true
		}
	}
	_, known := a.filled(text, 0)
	return known == whollyKnown || isName(text)
}

// A recipe says the same numbers in every language: a figure that is another one there tightens
// another joint.
func TestANumberOfARecipeStays(t *testing.T) {
	for _, language := range slices.Sorted(maps.Keys(read)) {
		for key, says := range For(language).craft {
			there := strings.ReplaceAll(strings.Join(slices.Sorted(slices.Values(figures.FindAllString(says, -1))), " "), ",", ".")
			here := strings.ReplaceAll(strings.Join(slices.Sorted(slices.Values(figures.FindAllString(key, -1))), " "), ",", ".")
			require.Equal(t, here, there, "%s: %s: %s", language, key, says)
		}
	}
}
