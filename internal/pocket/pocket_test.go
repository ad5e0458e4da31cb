package pocket_test

import (
	"encoding/json"
	"os/exec"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"dynacor/core/joint"
	"dynacor/core/recipe"
	"dynacor/core/record"
	"dynacor/core/refusal"
	"dynacor/internal/pocket"
	"dynacor/internal/recipes"
)

// A recipe comes out of a bundle as it went in, whichever it is.
func TestARecipeIsTakenAlongWhole(t *testing.T) {
	book, err := recipes.Book()
	require.NoError(t, err)
	for _, r := range book {
		b, err := json.Marshal(r)
		require.NoError(t, err)
		var back recipe.Recipe
		require.NoError(t, json.Unmarshal(b, &back))
		require.Equal(t, r, back, r.ID)
	}
}

// So do entries, with what they say.
func TestAnEntryIsTakenAlongWhole(t *testing.T) {
	e := record.Entry{ID: "a", Seq: 3, AtTool: time.Date(2026, 11, 2, 7, 0, 0, 1000, time.UTC), Person: "p", Confirmed: true,
		Content: record.Trouble{Group: "bolts", Bolt: 4, What: record.Overshot, Remedy: record.Replaced}}
	w, err := pocket.Written(e)
	require.NoError(t, err)
	require.Nil(t, w.Content)
	require.Equal(t, record.KindTrouble, w.Kind)
	require.Contains(t, w.Body, `"bolt":4`)
}

// What another program took along is not judged by.
func TestABundleOfAnotherProgramIsRefused(t *testing.T) {
	for _, b := range []pocket.Bundle{{Form: pocket.Form + 1, Core: joint.Version}, {Form: pocket.Form, Core: "another"}, {}} {
		_, err := pocket.Open(b)
		var no *refusal.Error
		require.ErrorAs(t, err, &no)
		require.Equal(t, refusal.Contradicts, no.Code)
		require.Contains(t, no.Error(), joint.Version)
	}
}

// A device has the craft with it, and neither a server nor its database: they would be a
// thousand times what it needs.
func TestADeviceHasNoServerWithIt(t *testing.T) {
	list := exec.Command("go", "list", "-deps", "dynacor/cmd/pocket")
	list.Env = append(list.Environ(), "GOOS=js", "GOARCH=wasm")
	out, err := list.Output()
	require.NoError(t, err)
	with := strings.Fields(string(out))
	require.Contains(t, with, "dynacor/core/work")
	for _, heavy := range []string{"net", "net/http", "regexp", "crypto/rand", "database/sql/driver", "dynacor/internal/store",
		"dynacor/internal/app",
		"dynacor/internal/server", "dynacor/internal/recipes"} {
		require.False(t, slices.Contains(with, heavy), heavy)
	}
}
