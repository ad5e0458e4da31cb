package recipes_test

import (
	"bytes"
	"encoding/json"
	"strings"
	"testing"

	"github.com/santhosh-tekuri/jsonschema/v6"
	"github.com/stretchr/testify/require"

	"dynacor/internal/recipes"
)

// Every shipped recipe is what the schema says, and what no recipe has is not.
func TestTheSchemaTakesWhatShips(t *testing.T) {
	b, err := json.Marshal(recipes.Schema())
	require.NoError(t, err)
	doc, err := jsonschema.UnmarshalJSON(bytes.NewReader(b))
	require.NoError(t, err)
	c := jsonschema.NewCompiler()
	require.NoError(t, c.AddResource("recipe.json", doc))
	schema, err := c.Compile("recipe.json")
	require.NoError(t, err)
	check := func(file string) error {
		v, err := jsonschema.UnmarshalJSON(strings.NewReader(file))
		require.NoError(t, err)
		return schema.Validate(v)
	}
	var disc string
	for _, r := range shipped(t) {
		file, err := recipes.JSON(r)
		require.NoError(t, err)
		require.NoError(t, check(string(file)), r.ID)
		if r.ID == "clamping-disc" {
			disc = string(file)
		}
	}
	for from, to := range map[string]string{
		`"title"`:                `"titel"`,
		`"layout": "ring"`:       `"layout": "heap"`,
		`"does": "keep dry"`:     `"does": "wash"`,
		`"unit": "mm"`:           `"unit": "furlong"`,
		`"kind": "danger"`:       `"kind": "perhaps"`,
		`"edition": 1`:           `"edition": "first"`,
		`"station": "tool up"`:   `"station": "lunch"`,
		`"kind": "clamping disc`: `"kind": "tea disc`,
	} {
		require.Contains(t, disc, from)
		require.Error(t, check(strings.Replace(disc, from, to, 1)), to)
	}
}
