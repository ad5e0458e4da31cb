package work_test

import (
	"testing"

	"github.com/stretchr/testify/require"

	"dynacor/core/record"
	"dynacor/core/refusal"
	"dynacor/core/work"
	"dynacor/core/work/worktest"
)

// Two who went on apart: the first counts, the second is kept, and is no more next than before.
func TestWhatTwoDidApartIsKeptTwice(t *testing.T) {
	h := flange(t, 8)
	h.UpTo("pull")
	first := h.Next()
	h.Do(first)
	next := h.Next()
	done := h.Done(first)
	refused(t, h.Try(done), refusal.NotNext, "act", "is not what is next") // the same hand once more
	h.As("other", func() {
		refused(t, h.Try(done), refusal.Twice, "act", "was done by somebody else meanwhile")
		refused(t, h.Try(record.Twice{Done: h.Done(next)}), refusal.NotNext, "act", "was done by nobody else")
		h.Add(record.Twice{Done: done})
	})
	require.Equal(t, next, h.Next())
	require.True(t, h.State.Worked("other"), "who pulled does not check")
	deviations := h.State.Deviations()
	require.Contains(t, deviations[len(deviations)-1].Text, "done a second time, by somebody who could not know of the first")
	require.Equal(t, first.Bolt, deviations[len(deviations)-1].Bolt)
	require.Equal(t, h.State.Deviations(), h.Fold().Deviations())
}

// What was proven does not stand when it comes out that a bolt was pulled once more; one that
// moved in somebody's round is pulled again, one that was turned by its angle is spent.
func TestASecondPullTakesWhatWasProven(t *testing.T) {
	cases := []struct {
		name  string
		hand  *worktest.Hand
		twice func(h *worktest.Hand) record.Done
		then  func(t *testing.T, h *worktest.Hand)
	}{
		{"pulled", flange(t, 8), func(h *worktest.Hand) record.Done {
			return h.Done(record.Act{Step: "pull", Bolt: 1, Share: 100})
		}, func(t *testing.T, h *worktest.Hand) {
			require.Equal(t, record.Tighten, h.State.Standing)
			require.Positive(t, h.Next().Round, "round anew, and nothing pulled again")
		}},
		{"moved in a round", flange(t, 8), func(h *worktest.Hand) record.Done {
			d := h.Done(lastRound(h, 1))
			d.Moved = true
			return d
		}, func(t *testing.T, h *worktest.Hand) {
			require.Equal(t, 1, h.Next().Bolt)
			require.Zero(t, h.Next().Round, "pulled again")
		}},
		{"turned by its angle", frame(t), func(h *worktest.Hand) record.Done {
			return h.Done(record.Act{Step: "turn", Bolt: 1, Turn: 360, Stroke: 1})
		}, func(t *testing.T, h *worktest.Hand) {
			st, _ := h.State.Plan().Step("turn")
			require.Equal(t, []int{1}, h.State.Troubled()[st.Group], "nobody knows how far it is turned")
		}},
	}
	for _, c := range cases {
		t.Run(c.name, func(t *testing.T) {
			c.hand.Finish()
			require.Empty(t, c.hand.State.Open())
			c.hand.Made()
			d := c.twice(c.hand)
			c.hand.As("other", func() { c.hand.Add(record.Twice{Done: d}) })
			require.Empty(t, c.hand.State.Signatures, "what was signed does not stand")
			require.NotEmpty(t, c.hand.State.Open())
			c.then(t, c.hand)
			require.Equal(t, c.hand.State.Open(), c.hand.Fold().Open())
		})
	}
}

// lastRound is the try of a bolt in the last round.
func lastRound(h *worktest.Hand, bolt int) (a record.Act) {
	for _, l := range h.State.Lines() {
		if c, ok := l.Content.(record.Done); ok && c.Bolt == bolt && c.Round > 0 {
			a = c.Act
		}
	}
	return a
}

// A reading that was taken twice is kept twice, and proves nothing a second time.
func TestASecondReadingIsKept(t *testing.T) {
	h := frame(t)
	gap := h.State.Offered()[1]
	h.Add(record.Done{Act: gap, Readings: []float64{1, 1.4}})
	before := h.State.Offered()
	h.As("other", func() { h.Add(record.Twice{Done: record.Done{Act: gap, Readings: []float64{1, 9}}}) })
	require.Equal(t, before, h.State.Offered())
	require.False(t, work.Fold(h.State.Plan(), h.Entries).Outside())
}

// Who was apart cannot say of a tool that they never set, or of another one, that it was set.
func TestApartIsNoExcuseForAToolThatWasNotSet(t *testing.T) {
	h := flange(t, 8)
	h.UpTo("pull")
	a := h.Next()
	h.Ready(a)
	h.As("other", func() { h.Ready(a) })
	pull := h.Done(h.Next())
	refused(t, h.Try(pull), refusal.NotNow, "setting", "is not set to")
	h.Facts.Apart = true
	h.Person = "third"
	h.Add(record.Caution{Step: "pull"})
	refused(t, h.Try(pull), refusal.NotNow, "setting", "is not set to") // they never said so
	h.Person = "fitter"
	h.Add(worktest.Tooling(h.State.Plan().Result.Groups[0], "TW-9"))
	refused(t, h.Try(pull), refusal.NotNow, "setting", "TW-9 is not set to") // it was another tool
}

// Who went on apart did not hear that another took the tool up: their own word that it was set
// counts, once they say that they were apart.
func TestAToolThatWasSetApartStaysSet(t *testing.T) {
	h := flange(t, 8)
	h.UpTo("pull")
	a := h.Next()
	h.Ready(a)
	h.As("other", func() { h.Ready(a) })
	h.Facts.Apart = true
	h.Add(h.Done(a))
	require.NotEqual(t, a, h.Next())
}
