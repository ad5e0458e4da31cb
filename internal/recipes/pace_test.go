package recipes_test

import (
	"testing"

	"github.com/stretchr/testify/require"

	"dynacor/core/record"
	"dynacor/core/work/worktest"
)

// What the page has of acts for a raised flange with eight studs, step by step from isolation to the leak
// test: a list is an act a line, a pull or a check of a bolt is one.
var flangeActs = []int{6, 5, 5, 2, 1, 1, 2, 3, 1, 7, 1, 8, 1, 1, 3*8 + 8, 1, 1, 2}

// A practised person takes no more presses for a flange of eight bolts, from isolation to
// leak test, than the page has acts: a list is ticked by holding the pedal, an act that
// needs no reading takes one press, and nothing asks twice. Counted are the pedal, cautions,
// tools chosen and set, the clock, and going from station to station.
func TestThePaceOfAFlange(t *testing.T) {
	acts := 0
	for _, n := range flangeActs {
		acts += n
	}
	h := worktest.New(t, plan(t, named(t, "gasketed-flange"), map[string]string{"work": "make", "gasket": "spiral", "faces": "raised",
		"bolts": "studs with two nuts"}))
	h.UpTo("isolate")
	presses, station, list, before := 0, h.State.Standing, "", len(h.Entries)
	for done := false; !done; {
		a := h.Next()
		st, _ := h.State.Plan().Step(a.Step)
		h.Ready(a)
		if s := h.State.Standing; s != station {
			presses, station = presses+1, s
		}
		if st.Hold+h.State.Hold(st.ID) > 0 && a.Item == 0 {
			presses++ // its clock
		}
		h.Do(a)
		if a.Item == 0 || list != a.Step { // a list is held through
			presses++
		}
		list = a.Step
		done = a.Step == "leak" && a.Item == 0 && !a.Release
	}
	for _, e := range h.Entries[before:] {
		switch e.Content.(type) {
		case record.Caution, record.Tooling, record.Setting:
			presses++
		}
	}
	t.Logf("%d presses, %d acts on the page", presses, acts)
	require.LessOrEqual(t, presses, acts)
}
