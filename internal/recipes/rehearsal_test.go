package recipes_test

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/require"

	"dynacor/core/recipe"
	"dynacor/core/rehearsal"
)

// Every recipe in every variant that is told apart can be gone through dry to its
// signatures, and each step of the variant is on the way.
func TestEveryRecipeIsRehearsed(t *testing.T) {
	for _, r := range shipped(t) {
		for _, choices := range told(r) {
			w, err := rehearsal.Walk(r, choices)
			require.NoError(t, err, "%s, %s", r.ID, variant(choices))
			require.Empty(t, w.Stuck, "%s, %s at %s", r.ID, variant(choices), w.At)
			require.True(t, w.Signed)
			n := 0
			for _, l := range w.Lines {
				n += l.Presses
				require.Positive(t, l.Presses, "%s, %s: %s", r.ID, variant(choices), l.Step.ID)
			}
			require.Equal(t, w.Presses, n)
		}
	}
}

// What is read outside a limit is said with what comes of it: refused, kept with a reason,
// or sent back.
func TestARehearsalSaysWhatComesOfReadingsOutside(t *testing.T) {
	w, err := rehearsal.Walk(named(t, "gasketed-flange"), nil)
	require.NoError(t, err)
	read, said := 0, 0
	for _, l := range w.Lines {
		if l.Limit == "" {
			continue
		}
		read++
		if l.Outside != "" {
			said++
			require.NotEmpty(t, l.Then, l.Step.ID)
		}
	}
	require.Greater(t, read, 5)
	require.Greater(t, said, read-3, "nearly everything that has a limit can be outside it")
}

// A recipe that holds as a file and cannot be followed at the joint stops the rehearsal at
// that step, with the engine's own words.
func TestARehearsalStopsWhereTheEngineWould(t *testing.T) {
	r := named(t, "gasketed-flange")
	r.Steps = slices.Clone(r.Steps)
	i := slices.IndexFunc(r.Steps, func(s recipe.Step) bool { return s.From == recipe.SinceMade })
	limit, most := *r.Steps[i].Limit, 5.0
	limit.High = &most // a rehearsed joint was made ten hours ago
	r.Steps[i].Limit = &limit
	require.NoError(t, r.Check())
	w, err := rehearsal.Walk(r, map[string]string{"work": "re-torque"})
	require.NoError(t, err)
	require.False(t, w.Signed)
	require.Equal(t, r.Steps[i].ID, w.At)
	require.Contains(t, w.Stuck, "at most 5 h")
}

// A recipe that leaves open what a plan must have is told so, not gone through.
func TestARehearsalOfWhatCannotBePlanned(t *testing.T) {
	r := named(t, "structural-splice")
	sheet := *r.Sheet
	sheet.Rows = nil // nothing says which thread, and a turn follows from that
	r.Sheet = &sheet
	w, err := rehearsal.Walk(r, nil)
	require.NoError(t, err)
	require.NotEmpty(t, w.Stuck)
	require.Empty(t, w.Lines)
}
