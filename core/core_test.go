package core_test

import (
	"go/parser"
	"go/token"
	"io/fs"
	"path/filepath"
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"
)

// The core imports the standard library, Gonum and itself, and of the
// standard library nothing that reaches outside.
func TestCoreImportsNothingElse(t *testing.T) {
	forbidden := map[string]bool{"os": true, "net": true, "net/http": true, "database/sql": true, "encoding/json": true, "io": true, "log": true, "log/slog": true, "math/rand": true}
	require.NoError(t, filepath.WalkDir(".", func(path string, d fs.DirEntry, err error) error {
		if err != nil || d.IsDir() || !strings.HasSuffix(path, ".go") || strings.HasSuffix(path, "_test.go") {
			return err
		}
		f, err := parser.ParseFile(token.NewFileSet(), path, nil, parser.ImportsOnly)
		require.NoError(t, err)
		for _, i := range f.Imports {
			name, err := strconv.Unquote(i.Path.Value)
			require.NoError(t, err)
			outside := strings.Contains(strings.SplitN(name, "/", 2)[0], ".") && !strings.HasPrefix(name, "gonum.org/")
			internal := strings.HasPrefix(name, "dynacor/") && !strings.HasPrefix(name, "dynacor/core/")
			require.False(t, outside || internal || forbidden[name], "%s imports %s", path, name)
		}
		return nil
	}))
}
