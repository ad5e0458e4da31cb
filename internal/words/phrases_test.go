package words

import (
	"encoding/json"
	"os"
	"testing"

	"github.com/stretchr/testify/require"
)

// The examples that the screens are held to as well, in web/src/words.
func TestASentenceIsSaid(t *testing.T) {
	b, err := os.ReadFile("testdata/said.json")
	require.NoError(t, err)
	var said []struct {
		Text, Says string
		English    bool // a part of it stays so
	}
	require.NoError(t, json.Unmarshal(b, &said))
	require.NotEmpty(t, said)
	german := For("de-AT")
	for _, x := range said {
		says, whole := german.Said(x.Text)
		require.Equal(t, []any{x.Says, !x.English}, []any{says, whole}, x.Text)
	}
}

// What is counted agrees with its number.
func TestACountAgrees(t *testing.T) {
	b, err := os.ReadFile("testdata/plurals.json")
	require.NoError(t, err)
	var counted []struct{ Locale, Text, Says string }
	require.NoError(t, json.Unmarshal(b, &counted))
	require.NotEmpty(t, counted)
	for _, x := range counted {
		require.Equal(t, x.Says, For(x.Locale).Say(x.Text))
	}
}

// English is what everything is written in.
func TestEnglishStaysAsItIs(t *testing.T) {
	for _, locale := range []string{"", "en-GB", "en-US", "ja"} {
		require.Nil(t, For(locale))
		require.Equal(t, "at most 0.25 mm", For(locale).Say("at most 0.25 mm"))
	}
	require.NotNil(t, For("de"))
	require.Equal(t, "como mucho 0,25 mm", For("es-ES").Say("at most 0.25 mm"))
	require.Equal(t, "como mucho 0.25 mm", For("es-MX").Say("at most 0.25 mm"))
	require.Equal(t, "Letter", Paper("en-US"))
	require.Equal(t, "A4", Paper("pl-PL"))
}

// Whatever is said, a number in it is the same number.
func FuzzANumberStays(f *testing.F) {
	f.Add("240.5", "N·m")
	f.Add("0.25", "mm")
	f.Fuzz(func(t *testing.T, n, unit string) {
		if !wholeNumber.MatchString(n) || unit != "N·m" && unit != "mm" && unit != "kN" {
			t.Skip()
		}
		for _, says := range []string{For("de").Say("at most " + n + " " + unit), For("pl").Say("nobody knows " + n + " " + unit)} {
			require.Contains(t, says, comma.Replace(n)+" "+unit)
		}
	})
}
