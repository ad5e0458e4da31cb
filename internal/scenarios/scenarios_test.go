package scenarios

import (
	"bytes"
	"fmt"
	"os"
	"path/filepath"
	"testing"

	"github.com/goccy/go-yaml"
	"github.com/stretchr/testify/require"

	"dynacor/internal/pgdev/pgtest"
	"dynacor/internal/pocket/pockettest"
)

// machine runs the judges of devices.
var machine *pockettest.Machine

func TestMain(m *testing.M) {
	var err error
	if machine, err = pockettest.Start(); err != nil {
		fmt.Fprintln(os.Stderr, err)
		os.Exit(1)
	}
	code := pgtest.Run(m, pgtest.Options{})
	if err := machine.Stop(); err != nil {
		fmt.Fprintln(os.Stderr, err)
		os.Exit(1)
	}
	os.Exit(code)
}

// Every story of the project, and of the folder that DYNACOR_SCENARIOS names.
func TestScenarios(t *testing.T) {
	folders := []string{"testdata"}
	if more := os.Getenv("DYNACOR_SCENARIOS"); more != "" {
		folders = append(folders, more)
	}
	for _, folder := range folders {
		files, err := filepath.Glob(filepath.Join(folder, "*.yaml"))
		require.NoError(t, err)
		require.NotEmpty(t, files, folder)
		for _, file := range files {
			t.Run(filepath.Base(file), func(t *testing.T) {
				t.Parallel()
				play(t, read(t, file))
			})
		}
	}
}

// read reads a story; a word that is not known is an error.
func read(t *testing.T, file string) story {
	b, err := os.ReadFile(file)
	require.NoError(t, err)
	var s story
	require.NoError(t, yaml.NewDecoder(bytes.NewReader(b), yaml.DisallowUnknownField()).Decode(&s))
	require.NotEmpty(t, s.Acts)
	return s
}
