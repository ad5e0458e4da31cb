package words

import (
	"encoding/json"
	"maps"
	"os"
	"slices"
	"strings"
	"testing"
	"unicode"

	"github.com/stretchr/testify/require"

	"dynacor/core/refusal"
)

// derived are other words that begin alike: threaded, who keeps the crib.
var derived = []string{"roscada", "roscados", "pañolero", "gwintowane"}

// The glossary has the words that our sentences, on screens too, have for a term, each
// of their forms: a site that says one otherwise would else say half of them.
func TestTheGlossaryHasEveryFormOfATerm(t *testing.T) {
	for _, language := range Languages() {
		all := maps.Clone(For(language).craft)
		b, err := os.ReadFile("../../web/src/words/screens/" + language + ".json")
		require.NoError(t, err)
		require.NoError(t, json.Unmarshal(b, &all))
		for _, term := range (Own{}).Terms(language) {
			term.Own = []string{"•"}
			used := map[string]bool{}
			for key, says := range all {
				if !hasTerm(key, term.Term) {
					continue
				}
				for _, word := range strings.FieldsFunc(says, func(r rune) bool { return !unicode.IsLetter(r) }) {
					if term.word(word) != word {
						used[strings.ToLower(word)] = true
						continue
					}
					for _, form := range term.Is {
						core := strings.ToLower(strings.Trim(form, "-"))
						require.False(t, len(core) > 4 && strings.Contains(strings.ToLower(word), core) && !slices.Contains(derived, word),
							"%s: %q of %q is no form of %s in glossary.csv", language, word, says, term.Term)
					}
				}
			}
			for _, form := range term.Is {
				core := strings.ToLower(strings.Trim(form, "-"))
				require.True(t, slices.ContainsFunc(slices.Collect(maps.Keys(used)), func(w string) bool { return strings.Contains(w, core) }),
					"%s: no sentence has the form %q of %s", language, form, term.Term)
			}
		}
	}
}

// A site's own word is said in each form, in print as on screens: both are held to the same
// examples.
func TestASiteSaysATermItsOwnWay(t *testing.T) {
	var examples []struct {
		Terms           []Term
		Key, Says, Then string
	}
	b, err := os.ReadFile("testdata/glossary.json")
	require.NoError(t, err)
	require.NoError(t, json.Unmarshal(b, &examples))
	require.NotEmpty(t, examples)
	for _, x := range examples {
		require.Equal(t, x.Then, overruled(x.Key, x.Says, x.Terms), x.Key)
	}
	own, err := ReadGlossary([]byte("term,de\nBolt,Bolzen\n"))
	require.NoError(t, err)
	german := For("de-DE")
	site := german.Overruled(own.Terms("de"))
	require.Equal(t, "Schraube", german.Say("bolt"))
	require.Equal(t, "Bolzen", site.Say("bolt"))
	require.Equal(t, "Mutter", site.Say("nut"))
	require.Equal(t, german, german.Overruled(own.Terms("pl")), "nothing of Polish was said otherwise")
}

func TestAGlossaryGoesOutAndComesInAgain(t *testing.T) {
	own, err := ReadGlossary([]byte("\ufeffterm;de;pl\r\nbolt;Bolzen / Bolzen / Bolzen- / -bolzen / -bolzen / -bolzen-;\r\n" +
		"wrench;Dreher;klucz ręczny\r\n"))
	require.NoError(t, err)
	var out strings.Builder
	require.NoError(t, own.CSV(&out))
	again, err := ReadGlossary([]byte(out.String()))
	require.NoError(t, err)
	for _, language := range Languages() {
		require.Equal(t, own.Terms(language), again.Terms(language))
	}
	out.Reset()
	require.NoError(t, (Own{}).CSV(&out))
	ours, err := ReadGlossary([]byte(out.String()))
	require.NoError(t, err)
	require.Equal(t, (Own{}).Terms("de"), ours.Terms("de"), "as it ships it overrules nothing")
}

func TestAGlossaryThatCannotBeTaken(t *testing.T) {
	for name, c := range map[string]struct {
		file, text string
		code       refusal.Code
	}{
		"empty":          {"", "The file is empty.", refusal.Missing},
		"another column": {"term,fr\nbolt,boulon\n", `Column 2 is "fr".`, refusal.Unknown},
		"twice a column": {"term,de,de\nbolt,a,b\n", `Column 3 is "de".`, refusal.Unknown},
		"another term":   {"term,de\nsprocket,Ritzel\n", `Line 2: the glossary has no term "sprocket".`, refusal.Unknown},
		"twice a term":   {"term,de\nnut,Mu\nNUT,Ma\n", "Line 3: nut is there twice.", refusal.Contradicts},
		"forms left out": {"term,es\nnut,rosca / roscas / roscones\n", "Line 2: nut has 3 forms in es; ours has 2.", refusal.Contradicts},
		"a number":       {"term,de\nnut,Mutter 2\n", `Line 2: "Mutter 2" has the sign '2'.`, refusal.OutOfRange},
		"a hole":         {"term,de\nnut,{0}\n", `Line 2: "{0}" has the sign '{'.`, refusal.OutOfRange},
		"no letters":     {"term,de\nnut,-\n", "Line 2: a form has no letters.", refusal.Missing},
		"a long word":    {"term,de\nnut," + strings.Repeat("m", 61) + "\n", "Line 2: a form has 61 letters; at most 60.", refusal.TooLarge},
		"a short line":   {"term,de,es\nnut,Mu\n", "Line 2 has 2 columns, its head has 3.", refusal.Contradicts},
		"no CSV":         {"term,de\n\"nut,Mu\n", "Line 2 cannot be read as CSV.", refusal.Contradicts},
		"no UTF-8":       {"term,de\nnut,M\xfctter\n", "The glossary is not written in UTF-8.", refusal.Contradicts},
		"too large":      {strings.Repeat("x", MostGlossary+1), "The glossary has 65537 bytes; at most 65536 are read.", refusal.TooLarge},
	} {
		t.Run(name, func(t *testing.T) {
			_, err := ReadGlossary([]byte(c.file))
			var no *refusal.Error
			require.ErrorAs(t, err, &no)
			require.Equal(t, []any{c.code, c.text}, []any{no.Code, no.Text})
		})
	}
}

// Whatever a site says instead of a word, the numbers of a sentence and its holes stay: of every
// sentence there is, with every term said otherwise.
func TestAGlossaryChangesNoNumber(t *testing.T) {
	for _, language := range Languages() {
		terms := (Own{}).Terms(language)
		for i := range terms {
			terms[i].Own = []string{"Ø-word two"}
		}
		changed := 0
		for key, says := range For(language).craft {
			then := overruled(key, says, terms)
			require.Equal(t, figures.FindAllString(says, -1), figures.FindAllString(then, -1), key)
			require.Equal(t, hole.FindAllString(says, -1), hole.FindAllString(then, -1), key)
			require.Equal(t, strings.Count(says, "|"), strings.Count(then, "|"), key)
			if then != says {
				changed++
			}
		}
		require.Greater(t, changed, 500, language)
	}
}

// Saying a term otherwise leaves what is not said so as it was: whoever overrules one, and takes
// that back, has what ships.
func TestAGlossaryLeavesItsCatalogueAsItIs(t *testing.T) {
	ours := For("de-DE")
	before := maps.Clone(ours.craft)
	site := ours.Overruled([]Term{{Term: "nut", Is: []string{"Mutter", "Muttern"}, Own: []string{"Gegenstück"}}})
	require.Equal(t, "2 × Gegenstück", site.Say("2 × nut"))
	require.Equal(t, "Schraube 6, 60 %", site.Say("bolt 6, 60 %"))
	require.Equal(t, before, ours.craft)
	require.Equal(t, "2 × Mutter", ours.Say("2 × nut"))
}
