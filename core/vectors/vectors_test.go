// Package vectors runs the worked cases against the core.
package vectors

import (
	"encoding/json"
	"math"
	"os"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

type file struct {
	Op    string
	Cases []struct {
		Name  string
		In    json.RawMessage
		Out   map[string]any
		Error string
		Tol   float64
	}
}

// Every file of testdata/vectors, and of the folder DYNACOR_VECTORS names. An
// operation that is not known fails.
func TestWorkedCases(t *testing.T) {
	folders := []string{filepath.Join("..", "testdata", "vectors")}
	if f := os.Getenv("DYNACOR_VECTORS"); f != "" {
		folders = append(folders, f)
	}
	for _, folder := range folders {
		names, err := filepath.Glob(filepath.Join(folder, "*.json"))
		require.NoError(t, err)
		require.NotEmpty(t, names, "no worked cases in %s", folder)
		for _, name := range names {
			b, err := os.ReadFile(name)
			require.NoError(t, err)
			var f file
			require.NoError(t, json.Unmarshal(b, &f), name)
			op, ok := operations[f.Op]
			if !assert.True(t, ok, "%s: unknown operation %q", name, f.Op) {
				continue
			}
			for _, c := range f.Cases {
				t.Run(f.Op+"/"+c.Name, func(t *testing.T) {
					got, err := op(c.In)
					if c.Error != "" {
						require.Error(t, err, "must be refused: %s", c.Error)
						return
					}
					require.NoError(t, err)
					tol := c.Tol
					if tol == 0 {
						tol = 1e-6
					}
					for key, want := range c.Out {
						agree(t, key, want, got[key], tol)
					}
				})
			}
		}
	}
}

// agree compares as the cases' README says: numbers within a relative tol,
// zero within 1e-12, the rest exactly.
func agree(t *testing.T, key string, want, got any, tol float64) {
	t.Helper()
	switch w := want.(type) {
	case float64:
		g, ok := number(got)
		require.True(t, ok, "%s is %v, not a number", key, got)
		if w == 0 {
			require.InDelta(t, 0, g, 1e-12, key)
			return
		}
		require.LessOrEqual(t, math.Abs(g-w), tol*math.Abs(w), "%s: want %v, got %v", key, w, g)
	case []any:
		b, err := json.Marshal(got)
		require.NoError(t, err)
		var list []any
		require.NoError(t, json.Unmarshal(b, &list))
		require.Len(t, list, len(w), key)
		for i := range w {
			agree(t, key, w[i], list[i], tol)
		}
	default:
		require.Equal(t, want, got, key)
	}
}

func number(v any) (float64, bool) {
	switch v := v.(type) {
	case float64:
		return v, true
	case int:
		return float64(v), true
	}
	return 0, false
}
