package main

import (
	"os"
	"testing"

	"github.com/stretchr/testify/require"
)

// The reference in the docs is the one that the program prints.
func TestEverySettingIsInTheDocs(t *testing.T) {
	b, err := os.ReadFile("../../docs/operations.md")
	require.NoError(t, err)
	require.Contains(t, string(b), settingsTable())
}

// What is wrong with a setting is said at the start, by its name.
func TestSettingsAreChecked(t *testing.T) {
	t.Setenv(databaseVariable, "postgres://x@127.0.0.1/x")
	require.NoError(t, checkSettings())
	for name, values := range map[string][]string{
		databaseVariable: {"postgres://127.0.0.1:port/x"}, keyVariable: {"/nowhere"}, journalVariable: {"/nowhere"},
		backupVariable: {"/nowhere"}, everyVariable: {"daily", "1s"}, keepVariable: {"-1h"}, auditVariable: {"-1h"},
		metricsVariable: {"0.0.0.0:9464", "9464", "127.0.0.1:x"}, originsVariable: {"dynacor.example", "https://a.example/x"},
		toolsVariable: {"8098"}, proxiesVariable: {"127.0.0.1 proxy"}, insecureVariable: {"yes"}, logVariable: {"loud"}, "DYNACOR_DATABSE": {"x"},
	} {
		for _, v := range values {
			t.Run(name+" "+v, func(t *testing.T) {
				t.Setenv(name, v)
				require.ErrorContains(t, checkSettings(), name)
			})
		}
	}
	t.Setenv(databaseVariable, "")
	require.ErrorContains(t, checkSettings(), databaseVariable)
}
