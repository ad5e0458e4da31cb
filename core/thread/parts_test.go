package thread

import (
	"regexp"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"
)

// The forms of a designation, as patterns: what is read by hand is read as they say.
var (
	metricForm = regexp.MustCompile(`^M ?(\d+)(?: ?[X×*] ?(\d+(?:\.\d+)?))?$`)
	inchForm   = regexp.MustCompile(`^(#\d+|\d+[- ]\d+/\d+|\d+/\d+|\d+(?:\.\d+)?)(?: ?- ?(\d+(?:\.\d+)?))? ?(UNC|UNF|UN|8UN)?$`)
)

func TestPartsAreThoseOfTheForms(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		s := rapid.OneOf(rapid.StringMatching(`M? ?[0-9]{1,2} ?[X×*-]? ?[0-9]{0,2}\.?[0-9]?`),
			rapid.StringMatching(`#?[0-9]{1,2}[- ./]?[0-9]{0,2}[- /]?[0-9]{0,2}[- .]{0,2}[0-9]{0,2} ?(UNC|UNF|UN|8UN|U)?`),
			rapid.StringOf(rapid.SampledFrom([]rune("M18/ -.#UNCFX×*")))).Draw(t, "thread")
		size, pitch, ok := metricParts(s)
		m := metricForm.FindStringSubmatch(s)
		require.Equal(t, m != nil, ok, s)
		if ok {
			require.Equal(t, m[1:], []string{size, pitch}, s)
		}
		size, tpi, series, ok := inchParts(s)
		m = inchForm.FindStringSubmatch(s)
		require.Equal(t, m != nil, ok, s)
		if ok {
			require.Equal(t, m[1:], []string{size, tpi, series}, s)
		}
	})
}
