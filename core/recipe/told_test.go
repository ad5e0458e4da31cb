package recipe_test

import (
	"regexp"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"dynacor/core/recipe"
)

var inBraces = regexp.MustCompile(`\{([^{}]*)\}`)

// What stands in braces is told, whatever other braces there are.
func TestToldTellsWhatStandsInBraces(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		text := rapid.StringOf(rapid.SampledFrom([]rune("ab {}é"))).Draw(t, "text")
		want := inBraces.ReplaceAllStringFunc(text, func(s string) string { return strings.ToUpper(s[1 : len(s)-1]) })
		require.Equal(t, want, recipe.Told(text, strings.ToUpper))
	})
}
