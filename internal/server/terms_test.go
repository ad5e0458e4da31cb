package server_test

import (
	"bytes"
	"encoding/json"
	"net/http"
	"os/exec"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"dynacor/internal/app"
	"dynacor/internal/contract"
	"dynacor/internal/report"
)

const german = "dynacor-locale=de-AT"

// printed are the words of a PDF.
func printed(t *testing.T, pdf []byte) string {
	t.Helper()
	cmd := exec.Command("pdftotext", "-layout", "-", "-")
	cmd.Stdin = bytes.NewReader(pdf)
	out, err := cmd.Output()
	require.NoError(t, err)
	return string(out)
}

// A site says a term its own way, on screens and in print; what is printed so is still what was
// signed, and a word that the site did not say is found.
func TestASiteOverrulesTheGlossary(t *testing.T) {
	s := open(t)
	ruth, edda := s.as("ruth"), s.as("edda")
	take := func(file string) answer { return ruth.do("PUT", "/api/site/glossary", given{"file": file}) }
	terms := func() contract.Spoken { return decode[contract.Spoken](t, edda.do("GET", "/api/terms/de", nil)) }
	pdf := func() []byte { return edda.record(signedJoint, "pdf", "Cookie", german) }
	require.Empty(t, terms().Terms)
	ours := pdf()
	require.Contains(t, printed(t, ours), "Drehmoment")

	p := take("term,de\ntorque,Kraft / Kräfte\n").problem(t)
	require.Equal(t, []string{"file", "Line 2: torque has 2 forms in de; ours has 5."}, []string{p.Field, p.Detail})
	require.Equal(t, ours, pdf(), "nothing of it was taken")
	require.Equal(t, http.StatusNoContent, take("term;de\ntorque;Anzugskraft\n").status)
	require.Equal(t, []contract.Term{{Term: "torque", Is: terms().Terms[0].Is, Own: []string{"Anzugskraft"}}}, terms().Terms)
	require.Equal(t, contract.Language("de"), room(t, ruth).Terms[0].Language)
	require.Contains(t, room(t, ruth).Log[0].Words, "1 terms in the site’s own words")
	require.Contains(t, ruth.do("GET", "/api/site/glossary", nil).body, "torque,Anzugskraft,")

	own := pdf()
	words := printed(t, own)
	require.Contains(t, words, "Anzugskraft")
	require.NotContains(t, words, "Drehmoment ")
	v, err := app.Verify(own, key.Public())
	require.NoError(t, err)
	require.Empty(t, v.Faults)
	var says report.Record
	text, err := report.FromPDF(own)
	require.NoError(t, err)
	require.NoError(t, json.Unmarshal(text, &says))
	says.Terms[0].Own = []string{"Sollwert"}
	forged, err := json.Marshal(says)
	require.NoError(t, err)
	v, err = app.Verify(forged, key.Public())
	require.NoError(t, err)
	require.Contains(t, v.Faults, "the words of its pages are not the site’s")

	was := room(t, ruth).Site
	require.Equal(t, http.StatusNoContent, ruth.do("PUT", "/api/site", was).status)
	require.Len(t, terms().Terms, 1, "another rule of the site leaves its words as they are")
	found, err := s.store.Audit(t.Context(), against())
	require.NoError(t, err)
	require.Empty(t, found.Faults)
	require.Equal(t, http.StatusNoContent, take("term\n").status)
	require.Empty(t, terms().Terms)
	require.Equal(t, ours, pdf())
}

// A recipe says what it says in other languages, too: on screens, and in print.
func TestARecipeCarriesItsTextsByLanguage(t *testing.T) {
	s := open(t)
	edda := s.as("edda")
	file := edda.file("gasketed-flange")
	title := decode[contract.Library](t, edda.do("GET", "/api/library", nil)).Recipes[0].Title
	add := func(texts string) answer {
		return edda.do("POST", "/api/library", given{"file": file + "texts:\n  de:\n" + texts, "after": 0})
	}
	p := add("    No such text: Kein solcher Text\n").problem(t)
	require.Equal(t, "texts.de", p.Field)
	require.Contains(t, p.Detail, `The recipe does not say "No such text".`)
	require.Contains(t, p.Detail, "Line ")
	require.Equal(t, http.StatusOK, add("    "+title+": Stutzen mit Dichtring\n").status)
	require.Equal(t, map[string]string{title: "Stutzen mit Dichtring"},
		decode[contract.Spoken](t, edda.do("GET", "/api/terms/de", nil)).Texts)
	require.Empty(t, decode[contract.Spoken](t, edda.do("GET", "/api/terms/pl", nil)).Texts)
	require.Equal(t, http.StatusBadRequest, edda.do("GET", "/api/terms/tlh", nil).status)
	prose := edda.do("POST", "/api/library/prose", given{"file": strings.Replace(file, "text: Which gasket", "text: Which sort of seal", 1)})
	require.Equal(t, http.StatusOK, prose.status, prose.body)
	lacking := 0
	for _, x := range decode[contract.RecipeProse](t, prose).Texts {
		if len(x.Says) != 3 {
			require.Equal(t, "Which sort of seal", x.Text)
			lacking++
		}
	}
	require.Equal(t, 1, lacking, "what ships is said in the program's own words")
	require.Equal(t, "file", edda.do("POST", "/api/library/prose", given{"file": "steps: ["}).problem(t).Field)
	kit := edda.do("GET", "/api/joints/"+edda.joint("IV-2 / BONNET")+"/kit", nil, "Cookie", german)
	require.Contains(t, printed(t, []byte(kit.body)), "Stutzen mit Dichtring")
	require.True(t, strings.Contains(edda.file("gasketed-flange"), "Stutzen mit Dichtring"), "the file goes out as it came in")
}

// Who types torques in another unit than the site does so on every device.
func TestAUnitForEachPerson(t *testing.T) {
	s := open(t)
	choose := func(unit string) answer {
		return s.as("marta").do("PUT", "/api/session/unit", given{"torqueUnit": unit})
	}
	of := func(login string) string {
		return decode[contract.Session](t, s.as(login).do("GET", "/api/session", nil)).TorqueUnit
	}
	require.Empty(t, of("marta"))
	require.Equal(t, "torqueUnit", choose("bar").problem(t).Field)
	require.Equal(t, http.StatusNoContent, choose("ft·lbf").status)
	require.Equal(t, []string{"ft·lbf", ""}, []string{of("marta"), of("haro")})
	require.Equal(t, http.StatusNoContent, choose("").status)
	require.Empty(t, of("marta"))
}
