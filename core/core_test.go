package core_test

import (
	"go/ast"
	"go/parser"
	"go/token"
	"io/fs"
	"os"
	"os/exec"
	"path/filepath"
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"
)

// forTests reports whether a file is only there for tests: theirs, or what the
// tests of several packages share.
func forTests(path string) bool {
	return strings.HasSuffix(path, "_test.go") || strings.HasSuffix(filepath.Dir(path), "test")
}

// The core imports the standard library, Gonum and itself, and of the
// standard library nothing that reaches outside.
func TestCoreImportsNothingElse(t *testing.T) {
	forbidden := map[string]bool{"os": true, "net": true, "net/http": true, "database/sql": true, "encoding/json": true, "io": true,
		"log": true, "log/slog": true, "math/rand": true}
	require.NoError(t, filepath.WalkDir(".", func(path string, d fs.DirEntry, err error) error {
		if err != nil || d.IsDir() || !strings.HasSuffix(path, ".go") || forTests(path) {
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

// The core builds for a browser as it is.
func TestCoreBuildsForWebAssembly(t *testing.T) {
	c := exec.Command("go", "build", "./...")
	c.Env = append(os.Environ(), "GOOS=js", "GOARCH=wasm", "CGO_ENABLED=0")
	out, err := c.CombinedOutput()
	require.NoError(t, err, "%s", out)
}

// The core keeps nothing between calls, reads no clock and draws no numbers of
// its own: what is declared beside functions is never written to, nothing runs
// before main, and neither time's clock nor rand's shared source is named.
func TestCoreKeepsNoStateOfItsOwn(t *testing.T) {
	ours := map[string]bool{"rand.New": true, "rand.NewPCG": true, "rand.PCG": true, "rand.Rand": true, "rand.Source": true}
	clock := map[string]bool{"time.Now": true, "time.Since": true, "time.Until": true, "time.Sleep": true, "time.After": true,
		"time.Tick": true, "time.NewTimer": true, "time.NewTicker": true}
	folders := map[string][]*ast.File{}
	require.NoError(t, filepath.WalkDir(".", func(path string, d fs.DirEntry, err error) error {
		if err != nil || d.IsDir() || !strings.HasSuffix(path, ".go") || forTests(path) {
			return err
		}
		f, err := parser.ParseFile(token.NewFileSet(), path, nil, parser.SkipObjectResolution)
		require.NoError(t, err)
		folders[filepath.Dir(path)] = append(folders[filepath.Dir(path)], f)
		return nil
	}))
	require.Greater(t, len(folders), 12)
	for folder, files := range folders {
		shared := map[string]bool{}
		for _, f := range files {
			for _, d := range f.Decls {
				if g, ok := d.(*ast.GenDecl); ok && g.Tok == token.VAR {
					for _, s := range g.Specs {
						for _, name := range s.(*ast.ValueSpec).Names {
							shared[name.Name] = true
						}
					}
				}
			}
		}
		written := func(e ast.Expr) {
			for {
				switch x := e.(type) {
				case *ast.IndexExpr:
					e = x.X
					continue
				case *ast.SelectorExpr:
					e = x.X
					continue
				case *ast.StarExpr:
					e = x.X
					continue
				case *ast.Ident:
					require.False(t, shared[x.Name], "%s writes to %s", folder, x.Name)
				}
				return
			}
		}
		for _, f := range files {
			ast.Inspect(f, func(n ast.Node) bool {
				switch x := n.(type) {
				case *ast.FuncDecl:
					require.False(t, x.Recv == nil && x.Name.Name == "init", "%s has an init", folder)
				case *ast.AssignStmt:
					if x.Tok != token.DEFINE {
						for _, e := range x.Lhs {
							written(e)
						}
					}
				case *ast.IncDecStmt:
					written(x.X)
				case *ast.UnaryExpr:
					if x.Op == token.AND {
						written(x.X)
					}
				case *ast.SelectorExpr:
					if p, ok := x.X.(*ast.Ident); ok {
						name := p.Name + "." + x.Sel.Name
						require.False(t, clock[name], "%s reads the clock: %s", folder, name)
						require.False(t, p.Name == "rand" && !ours[name], "%s draws from %s", folder, name)
					}
				}
				return true
			})
		}
	}
}
