package server_test

import (
	"net/http"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"dynacor/internal/contract"
)

// file is the newest edition of a shipped recipe, as YAML.
func (c *client) file(id string) string {
	return c.do("GET", "/api/library/"+id+"/yaml", nil).body
}

// A file that is being edited is answered with everything that is wrong with it, each with
// its line; one that cannot be read with where. Nothing of it is stored.
func TestARecipeIsCheckedAsItIsEdited(t *testing.T) {
	edda := open(t).as("edda")
	check := func(file string) contract.RecipeChecked {
		t.Helper()
		a := edda.do("POST", "/api/library/draft", map[string]any{"file": file})
		require.Equal(t, http.StatusOK, a.status, "%s", a.body)
		return decode[contract.RecipeChecked](t, a)
	}
	file := edda.file("hose-clamp")
	same := check(file)
	require.Empty(t, same.Faults)
	require.Empty(t, same.Changes)
	require.Equal(t, 1, same.Newest)
	require.Equal(t, "hose-clamp", same.Recipe.ID)
	require.Equal(t, "hose-clamp", same.Document["id"])
	require.Equal(t, file, same.Yaml)

	wrong := strings.Replace(file, "station: sign", "station: lunch", 1)
	wrong = strings.Replace(wrong, "title: ", "title: Our own ", 1)
	wrong = strings.Replace(wrong, "kind: danger", "kind: perhaps", 1)
	v := check(wrong)
	require.GreaterOrEqual(t, len(v.Faults), 2)
	require.Nil(t, v.Recipe)
	lines := strings.Split(wrong, "\n")
	for _, f := range v.Faults {
		require.NotEmpty(t, f.Text)
		if strings.HasSuffix(f.Field, ".kind") {
			require.Contains(t, lines[f.Line-1], "perhaps")
		}
	}
	require.Equal(t, "title", v.Changes[0].Where)
	require.Equal(t, contract.RecipeChangeWhatChanged, v.Changes[0].What)

	for _, no := range []string{"steps: [", "surprise: 1", "", "id: &a x"} {
		v = check(no)
		require.NotEmpty(t, v.Faults, no)
	}
	require.Len(t, decode[contract.RecipeEditions](t, edda.do("GET", "/api/library/hose-clamp/editions", nil)).Editions, 1)
}

// A file is gone through dry in the variant that is asked for; one that does not hold, and a
// variant that is none, are refused.
func TestARecipeIsRehearsed(t *testing.T) {
	edda := open(t).as("edda")
	file := edda.file("gasketed-flange")
	a := edda.do("POST", "/api/library/rehearsal", map[string]any{"file": file, "choices": map[string]string{"gasket": "sheet",
		"edited away": "yes"}})
	require.Equal(t, http.StatusOK, a.status, "%s", a.body)
	v := decode[contract.Rehearsal](t, a)
	require.True(t, v.Signed)
	require.Empty(t, v.Stuck)
	require.Equal(t, "sheet", v.Chosen["gasket"])
	require.NotContains(t, v.Chosen, "edited away")
	require.Positive(t, v.Pulls)
	require.Len(t, v.Stations, 4)
	said := false
	for _, s := range v.Stations {
		for _, l := range s.Lines {
			require.True(t, l.Reached, l.ID)
			said = said || l.Outside != "" && l.Then != "" && l.Readings != ""
		}
	}
	require.True(t, said, "what comes of a reading outside its limit is said")

	for _, c := range []map[string]any{
		{"file": strings.Replace(file, "does: measure", "does: dance", 1)},
		{"file": file, "choices": map[string]string{"gasket": "chewing gum"}},
	} {
		a := edda.do("POST", "/api/library/rehearsal", c)
		require.Equal(t, http.StatusUnprocessableEntity, a.status, "%v: %s", c["choices"], a.body)
	}
}

// An edition that was made from one that is no longer the newest is not laid over the
// newer one; what differs between editions is listed.
func TestNobodysEditionIsLostUnderAnothers(t *testing.T) {
	edda := open(t).as("edda")
	file := strings.Replace(edda.file("hose-clamp"), "id: hose-clamp", "id: our-clamp", 1)
	keep := func(file string, after int) answer {
		return edda.do("POST", "/api/library", map[string]any{"file": file, "after": after})
	}
	require.Equal(t, http.StatusOK, keep(file, 0).status)
	theirs := strings.Replace(file, "title: ", "title: Their ", 1)
	require.Equal(t, http.StatusOK, keep(theirs, 1).status)
	mine := strings.Replace(file, "title: ", "title: My ", 1)
	no := keep(mine, 1)
	require.Equal(t, http.StatusConflict, no.status)
	require.Equal(t, "changed-meanwhile", decode[contract.Problem](t, no).Code)
	require.Equal(t, http.StatusOK, keep(mine, 2).status)
	all := decode[contract.RecipeEditions](t, edda.do("GET", "/api/library/our-clamp/editions", nil)).Editions
	require.Len(t, all, 3)
	require.Equal(t, []int{3, 2, 1}, []int{all[0].Edition, all[1].Edition, all[2].Edition})
	require.Len(t, all[0].Changes, 1)
	require.Contains(t, all[0].Changes[0].Was, "Their")
	require.Contains(t, all[0].Changes[0].Is, "My")
	require.Equal(t, "Edda Winterbourne", all[0].MadeBy)
	require.Equal(t, http.StatusNotFound, edda.do("GET", "/api/library/nothing/editions", nil).status)
}
