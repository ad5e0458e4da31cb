package words

import (
	"testing"

	"github.com/stretchr/testify/require"

	"dynacor/core/recipe"
)

// A recipe's own texts come before the catalogue's, with what its values come to.
func TestARecipeSaysItsOwnTexts(t *testing.T) {
	r := recipe.Recipe{Texts: map[string]map[string]string{"de": {
		"Grease the outer sprag of {sprag gap} with {grease}": "Mit {grease} die äußere Klemmrolle von {sprag gap} fetten",
		"Bolts": "Stiftschrauben", "{torque}": "mit {torque}",
	}}}
	ours := For("de-AT")
	p := ours.With(Texts(r, "de"))
	says, whole := p.Said("Grease the outer sprag of 0.5 mm with KX-2")
	require.Equal(t, []any{"Mit KX-2 die äußere Klemmrolle von 0,5 mm fetten", true}, []any{says, whole})
	require.Equal(t, "Stiftschrauben", p.Say("Bolts"))
	require.Equal(t, "Schrauben", ours.Say("Bolts"))
	require.Equal(t, "Mutter", p.Say("nut"), "a text that is but a value is no pattern of everything")
	require.Equal(t, ours, ours.With(Texts(r, "pl")), "it says nothing in Polish")
	require.Nil(t, For("en-GB").With(Texts(r, "de")))
}

// What stays English is told from what is said, also where a part of it is.
func TestWhatStaysEnglishIsKnown(t *testing.T) {
	p := For("de-DE")
	for text, whole := range map[string]bool{"Bolts": true, "IV-2": true, "Bolts, nut": true, "M30 8.8": true,
		"Polish the sprag": false, "Bolts; polish the sprag": false, "Polish the sprag: nut": false} {
		says, all := p.Said(text)
		require.Equal(t, whole, all, "%s: %s", text, says)
	}
	says, all := For("en-GB").Said("Polish the sprag")
	require.Equal(t, []any{"Polish the sprag", true}, []any{says, all})
}
