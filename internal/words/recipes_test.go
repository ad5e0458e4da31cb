package words

import (
	"maps"
	"regexp"
	"slices"
	"strings"
	"testing"

	"github.com/goccy/go-yaml"
	"github.com/stretchr/testify/require"

	"dynacor/core/recipe"
	"dynacor/internal/recipes"
)

// What of a recipe people read; the rest are kinds, families and the names of its own fields.
var shown = strings.Fields("text name ticks purpose match of options why mistakes face toward word title first last spots tools " +
	"materials wear photo alike each items lock is reads cautions place lines")

var figures = regexp.MustCompile(`\d+(?:[.,/]\d+)*`)

// Every text of the recipes that ship is in every catalogue: a step that nobody can read is not
// followed.
func TestEveryRecipeHasItsWords(t *testing.T) {
	book, err := recipes.Book()
	require.NoError(t, err)
	require.NotEmpty(t, book)
	for _, r := range book {
		file, err := recipes.Shipped(r)
		require.NoError(t, err)
		var tree map[string]any
		require.NoError(t, yaml.Unmarshal(file, &tree))
		if sheet, ok := tree["sheet"].(map[string]any); ok {
			tree["sheet"] = map[string]any{"title": sheet["title"]} // its figures are of the maker
		}
		for _, language := range slices.Sorted(maps.Keys(read)) {
			var missing []string
			texts(tree, "", func(text string) {
				if !For(language).has(recipe.Told(text, func(string) string { return "7.5 mm" })) {
					missing = append(missing, text)
				}
			})
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
	_, ok := a.filled(text, 0)
	return ok || isName(text)
}

func texts(of any, field string, each func(string)) {
	switch x := of.(type) {
	case map[string]any:
		for _, k := range slices.Sorted(maps.Keys(x)) {
			texts(x[k], k, each)
		}
	case []any:
		for _, v := range x {
			texts(v, field, each)
		}
	case string:
		if text := strings.TrimSpace(x); slices.Contains(shown, field) && words.MatchString(text) {
			each(text)
		}
	}
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
