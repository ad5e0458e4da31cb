package api

import (
	"os"
	"os/exec"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/require"
)

// The generated types are those of the contract as it stands.
func TestGeneratedCodeIsFresh(t *testing.T) {
	dir := t.TempDir()
	fresh := func(name, stale string, cmd *exec.Cmd) {
		out, err := cmd.CombinedOutput()
		require.NoError(t, err, string(out))
		want, err := os.ReadFile(filepath.Join(dir, name))
		require.NoError(t, err)
		got, err := os.ReadFile(stale)
		require.NoError(t, err)
		require.True(t, string(want) == string(got), "%s is stale: run make generate", stale)
	}
	for _, what := range []string{"models", "server"} {
		name := what + ".gen.go"
		make := exec.Command("go", "tool", "oapi-codegen", "-config", "api/"+what+".yaml", "-o", filepath.Join(dir, name), "api/openapi.yaml")
		make.Dir = ".." // its templates are named from there
		fresh(name, "../internal/contract/"+name, make)
	}
	fresh("schema.ts", "../web/src/api/schema.ts",
		exec.Command("../web/node_modules/.bin/openapi-typescript", "openapi.yaml", "-o", filepath.Join(dir, "schema.ts")))
}
