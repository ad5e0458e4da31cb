package recipe_test

import (
	"errors"
	"testing"

	"github.com/stretchr/testify/require"

	"dynacor/core/recipe"
	"dynacor/core/refusal"
	"dynacor/core/work/worktest"
)

// spoken is a recipe with one more mistake, said in a language.
func spoken(mistake, language, english, says string) recipe.Recipe {
	r := worktest.Frame()
	r.Mistakes = append(r.Mistakes, mistake)
	r.Texts = map[string]map[string]string{language: {english: says}}
	return r
}

func TestATextInAnotherLanguageSaysTheSame(t *testing.T) {
	const wait = "Waits 1.5 h at 20 °C, M10/M12"
	for _, c := range []struct {
		name, language, english, says string
		code                          refusal.Code // empty: it is taken
	}{
		{"said", "de", wait, "Wartet 1,5 h bei 20 °C, M10/M12", ""},
		{"said in another order", "de", wait, "Bei 20 °C, M10/M12: wartet 1.5 h", ""},
		{"another number", "de", wait, "Wartet 15 h bei 20 °C, M10/M12", refusal.Contradicts},
		{"a number left out", "de", wait, "Wartet bei 20 °C, M10/M12", refusal.Contradicts},
		{"nothing said", "de", wait, " ", refusal.Missing},
		{"a value made up", "de", wait, "Wartet 1,5 h bei 20 °C, M10/M12 und {torque}", refusal.Contradicts},
		{"of what is not said", "de", "Waits 2 h", "Wartet 2 h", refusal.Unknown},
		{"of no language", "deutsch", wait, "Wartet 1,5 h bei 20 °C, M10/M12", refusal.Unknown},
		{"of English", "en", wait, wait, refusal.Unknown},
	} {
		t.Run(c.name, func(t *testing.T) {
			err := spoken(wait, c.language, c.english, c.says).Check()
			if c.code == "" {
				require.NoError(t, err)
				return
			}
			var no *refusal.Error
			require.True(t, errors.As(err, &no), "%v", err)
			require.Equal(t, c.code, no.Code)
			require.Equal(t, "texts."+c.language, no.Field)
		})
	}
}

func TestAnEditionSaysWhichTextsAreOther(t *testing.T) {
	was, is := spoken("Left dry", "de", "Left dry", "Trocken gelassen"), spoken("Left dry", "de", "Left dry", "Nicht geschmiert")
	require.Equal(t, []recipe.Change{{Where: "texts, DE, Left dry", What: recipe.Changed, Was: "Trocken gelassen", Is: "Nicht geschmiert"}},
		recipe.Compare(was, is))
	was.Texts = nil
	require.Equal(t, []recipe.Change{{Where: "texts, DE, Left dry", What: recipe.Added, Is: "Nicht geschmiert"}}, recipe.Compare(was, is))
	require.Equal(t, recipe.Gone, recipe.Compare(is, was)[0].What)
}
