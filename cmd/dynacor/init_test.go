package main

import (
	"bytes"
	"context"
	"os"
	"path/filepath"
	"regexp"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"dynacor/internal/app"
	"dynacor/internal/pgdev/pgtest"
	"dynacor/internal/store"
)

func TestMain(m *testing.M) { os.Exit(pgtest.Run(m, pgtest.Options{})) }

// runs a command line against a database and returns what it prints.
func runs(t *testing.T, url, in string, args ...string) (string, error) {
	t.Setenv(databaseVariable, url)
	if os.Getenv(keyVariable) == "" && args[0] == "init" {
		t.Setenv(keyVariable, filepath.Join(t.TempDir(), "seal.key"))
	}
	var out bytes.Buffer
	root := rootCommand()
	root.SetArgs(args)
	root.SetIn(strings.NewReader(in))
	root.SetOut(&out)
	root.SetErr(&out)
	err := root.ExecuteContext(t.Context())
	return out.String(), err
}

// From an empty database to people who sign in, by the commands alone.
func TestAPlantIsSetUp(t *testing.T) {
	url := pgtest.Empty(t)
	out, err := runs(t, url, "", "migrate", "--status")
	require.NoError(t, err)
	require.Contains(t, out, "to be done")
	out, err = runs(t, url, "", "migrate")
	require.NoError(t, err, out)
	out, err = runs(t, url, "", "migrate", "--status")
	require.NoError(t, err)
	require.NotContains(t, out, "to be done")
	areas := filepath.Join(t.TempDir(), "areas.txt")
	require.NoError(t, os.WriteFile(areas, []byte("Turbine pit\n\nPenstock gallery\n"), 0o600))
	_, err = runs(t, url, "", "init", "--site", "Ottermere Hydro", "--outage", "Unit 2", "--areas", areas, "--login", "Ruth", "--name", "")
	require.ErrorContains(t, err, "is missing", "what is asked for and not answered is refused")
	_, err = runs(t, url, "", "init", "--begins", "soon", "--site", "x", "--outage", "x", "--areas", areas, "--login", "x", "--name", "x")
	require.ErrorContains(t, err, "soon")
	out, err = runs(t, url, "Unit 2 autumn outage\nRuth Ellingvey\nruth\n", "init", "--site", "Ottermere Hydro", "--areas", areas,
		"--roles", "engineer")
	require.NoError(t, err)
	pin := regexp.MustCompile(`PIN (\d{8}), once`).FindStringSubmatch(out)
	require.Len(t, pin, 2, out)
	_, err = runs(t, url, "", "init", "--site", "Another", "--outage", "x", "--areas", areas, "--login", "x", "--name", "X Y")
	require.ErrorContains(t, err, "set up already")

	s, err := store.Open(t.Context(), url)
	require.NoError(t, err)
	defer s.Close()
	a := app.New(s, time.Now)
	ruth, err := a.SignIn(t.Context(), "ruth", pin[1], "")
	require.NoError(t, err)
	require.True(t, ruth.PinOnce)
	require.Equal(t, []string{"administrator", "engineer"}, ruth.Roles)
	site, err := a.Site(t.Context())
	require.NoError(t, err)
	require.Equal(t, "Unit 2 autumn outage", site.Outage)
	require.Equal(t, []string{"Turbine pit", "Penstock gallery"}, []string{site.Areas[0].Name, site.Areas[1].Name})

	out, err = runs(t, url, "", "person", "add", "marta", "Marta Tolland", "fitter", "--qualified", "rigger")
	require.NoError(t, err)
	require.Contains(t, out, "Marta Tolland signs in as marta with the PIN ")
	_, err = runs(t, url, "", "person", "add", "bo", "Bo", "king")
	require.ErrorContains(t, err, `There is no role "king"`)
	_, err = runs(t, url, "", "person", "roles", "marta", "fitter", "crib keeper")
	require.NoError(t, err)
	marta, err := s.PersonByLogin(t.Context(), "marta")
	require.NoError(t, err)
	require.Equal(t, []string{"fitter", "crib keeper"}, marta.Roles)
	require.Equal(t, []string{"rigger"}, marta.Qualifications)
	_, err = runs(t, url, "", "person", "off", "marta")
	require.NoError(t, err)
	_, err = s.PersonByLogin(t.Context(), "marta")
	require.ErrorIs(t, err, store.ErrNotFound)
	_, err = runs(t, url, "", "person", "on", "marta")
	require.NoError(t, err)
	_, err = runs(t, url, "", "person", "off", "ruth")
	require.ErrorContains(t, err, "Nobody would be left")
	_, err = runs(t, url, "", "person", "pin", "nobody")
	require.ErrorContains(t, err, `nobody signs in as "nobody"`)
	out, err = runs(t, url, "", "person", "pin", "marta")
	require.NoError(t, err)
	require.Regexp(t, `^marta signs in with the PIN \d{8}, once`, out)
	log, err := s.Log(t.Context(), 10)
	require.NoError(t, err)
	require.Len(t, log, 6)
	require.Nil(t, log[0].By, "it was the command line")
}

// A server that starts before its database waits for it.
func TestTheDatabaseComesLater(t *testing.T) {
	power := pgtest.NewAlone(t, func(context.Context, *store.Store) error { return nil })
	power.Kill()
	came := make(chan error)
	go func() {
		s, err := reached(t.Context(), power.URL())
		if err == nil {
			s.Close()
		}
		came <- err
	}()
	power.Start()
	require.NoError(t, <-came)
	_, err := reached(t.Context(), "postgres://%")
	require.Error(t, err, "an address that is none is not waited for")
}
