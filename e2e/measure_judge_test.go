package e2e

import (
	"os"
	"path/filepath"
	"slices"
	"testing"

	"github.com/stretchr/testify/require"

	"dynacor/core/record"
	"dynacor/core/work"
)

// TestMeasureJudge measures what a device needs to judge by itself: from the question to the
// worker until its answer is there, a pull of a flange of 24 bolts each; and until it is opened.
func TestMeasureJudge(t *testing.T) {
	measured(t)
	const bolts = 24
	s := open(t)
	soakRuns(t, s.opened(), 1, bolts)
	tag := s.query("select tag from joints where tag like 'SOAK%'")[0]
	joint := s.query("select id::text from joints where tag = $1", tag)[0]
	marta := s.signIn("marta")
	marta.opens(tag, 1)
	marta.fast(tag, func(_ *work.State, a record.Act) bool { return a.Step == "pull" })
	marta.opens(tag, 3)
	marta.cautioned("in line with a stud")
	marta.el("[data-act=set]")
	marta.sees("header", "all stored")
	marta.leaves(joint)
	marta.MustNavigate(s.url("/joint/" + joint + "/3"))
	marta.sees("[data-kept]", "judged here")
	for range 8 {
		marta.later() // the nuts were run on faster than by hand
	}
	marta.careful(tag, func(_ *work.State, a record.Act) bool { return a.Round > 0 })
	var took, opened, thought []float64
	require.NoError(t, marta.MustEval(`() => performance.getEntriesByName("judged").map(e => e.duration)`).Unmarshal(&took))
	require.NoError(t, marta.MustEval(`() => performance.getEntriesByName("judged").map(e => e.detail)`).Unmarshal(&thought))
	require.NoError(t, marta.MustEval(`() => performance.getEntriesByName("opened to judge").map(e => e.duration)`).Unmarshal(&opened))
	require.Greater(t, len(took), 3*bolts)
	slices.Sort(took)
	slices.Sort(thought)
	files, err := filepath.Glob("../web/dist/app/assets/pocket-*.wasm.br")
	require.NoError(t, err)
	require.Len(t, files, 1)
	packed, err := os.Stat(files[0])
	require.NoError(t, err)
	t.Logf("%d judgements: in the worker median %.1f ms, 95 %% %.1f ms, worst %.1f ms; with the way there and back median %.1f ms, 95 %% %.1f ms; "+
		"opened in %.0f ms; the module %d bytes packed", len(took), thought[len(took)/2], thought[len(took)*95/100], thought[len(took)-1],
		took[len(took)/2], took[len(took)*95/100], opened[0], packed.Size())
}
