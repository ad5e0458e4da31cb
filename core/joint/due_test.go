package joint_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"dynacor/core/joint"
	"dynacor/core/recipe"
)

func TestWhenAJointIsGoneOverAgain(t *testing.T) {
	low, high := 4.0, 24.0
	made := time.Date(2026, 11, 25, 8, 0, 0, 0, time.UTC)
	r := recipe.Recipe{Again: recipe.When{"work": "re-torque"}, Steps: []recipe.Step{
		{ID: "x", Limit: &recipe.Limit{}},
		{ID: "since", From: recipe.SinceMade, When: recipe.When{"work": "re-torque"},
			Limit: &recipe.Limit{Low: &low, High: &high}}}}
	from, until, ok := joint.Due(r, made)
	require.True(t, ok)
	require.Equal(t, []time.Time{made.Add(4 * time.Hour), made.Add(24 * time.Hour)}, []time.Time{from, until})
	_, _, ok = joint.Due(r, time.Time{})
	require.False(t, ok, "nobody knows when it was made")
	r.Again = recipe.When{"work": "check"}
	_, _, ok = joint.Due(r, made)
	require.False(t, ok)
}
