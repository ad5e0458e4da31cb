package work_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"dynacor/core/record"
	"dynacor/core/refusal"
	"dynacor/core/work"
	"dynacor/core/work/worktest"
)

// pulled is a flange whose stages up to a share were made with TW-1, and the rest, where it
// is finished, with TW-2.
func pulled(t require.TestingT, upTo float64) *worktest.Hand {
	h := tooled(t, 4, time.Time{})
	for h.Next().Share <= upTo && h.Next().Round == 0 {
		h.Do(h.Next())
	}
	return h
}

func drop(h *worktest.Hand, tool string) {
	h.Add(record.Report{Tool: tool, What: record.Dropped, Note: "from the stair"})
	h.Facts.Held = map[string]string{tool: "dropped"}
}

func with(h *worktest.Hand, tool string) {
	g, _ := h.State.Plan().Result.Group("bolts")
	h.Add(worktest.Tooling(g, tool))
}

// A tool that was dropped is held from then on. What a later stage with another tool
// brought to its value rests on that, and is told apart.
func TestALaterStageMakesGood(t *testing.T) {
	h := pulled(t, 20)
	drop(h, "TW-1")
	tools, bolts := h.State.Doubted()
	require.Equal(t, []string{"TW-1"}, tools)
	require.Len(t, bolts["bolts"], 4)
	require.ErrorContains(t, h.Try(record.Done{Act: h.Next()}), "TW-1")
	g, _ := h.State.Plan().Result.Group("bolts")
	require.Error(t, h.Try(worktest.Tooling(g, "TW-1")), "nor is it chosen again")
	with(h, "TW-2")
	h.Do(h.Next())
	_, bolts = h.State.Doubted()
	require.Len(t, bolts["bolts"], 3, "each bolt by itself")
	h.Finish()
	tools, _ = h.State.Doubted()
	require.Empty(t, tools)
	d := h.State.Doubts()[0]
	require.Equal(t, work.DoubtLater, d.State)
	require.Equal(t, "4 pulls, stage 1 of 3", d.Made[0].Words())
	require.True(t, d.Made[0].Good)
	require.Contains(t, h.State.Deviations()[0].Text, "TW-1 reported dropped: from the stair. Made with it here since its last good check: "+
		"4 pulls, stage 1 of 3. A later stage made that good, with TW-2.")
	require.Equal(t, "later stage by TW-2: stands", d.Says())
	h.Made()
	require.ErrorIs(t, h.Try(record.Answer{Tool: "TW-1", Reason: "x"}), &refusal.Error{Code: refusal.NotNow})
}

// A nut that did not turn in the later stage may have been past it already.
func TestANutThatDoesNotTurnMakesNothingGood(t *testing.T) {
	h := pulled(t, 20)
	drop(h, "TW-1")
	with(h, "TW-2")
	a := h.Next()
	h.Ready(a)
	h.Add(record.Done{Act: a, NoTurn: true})
	_, bolts := h.State.Doubted()
	require.Len(t, bolts["bolts"], 4)
}

// What the last stage was made with stays open until somebody answers for it.
func TestADoubtIsAnswered(t *testing.T) {
	h := pulled(t, 100)
	h.Finish()
	drop(h, "TW-1")
	refused(t, h.Try(record.Signature{Part: record.Made}), refusal.NotNow, "open", "in doubt")
	require.ErrorIs(t, h.Try(record.Answer{Tool: "TW-1"}), &refusal.Error{Code: refusal.NeedsReason})
	require.ErrorIs(t, h.Try(record.Answer{Tool: "TW-1", How: "perhaps", Reason: "x"}), &refusal.Error{Code: refusal.Unknown})
	require.ErrorIs(t, h.Try(record.Answer{Tool: "TW-2", Reason: "x"}), &refusal.Error{Code: refusal.NotNow})
	h.Add(record.Answer{Tool: "TW-1", Reason: "found good on the tester"})
	require.Equal(t, work.DoubtStands, h.State.Doubts()[0].State)
	require.Empty(t, h.State.Open())
	h.Made()
}

// Made again: the pulls in doubt are taken back, those of the bolts alone.
func TestADoubtIsMadeAgain(t *testing.T) {
	h := pulled(t, 100)
	h.Finish()
	drop(h, "TW-1")
	h.Add(record.Answer{Tool: "TW-1", How: record.Again, Reason: "4 % low on the tester"})
	require.Equal(t, record.Tighten, h.State.Standing)
	require.Equal(t, work.DoubtLater, h.State.Doubts()[0].State)
	require.Equal(t, 20.0, h.Next().Share)
	require.ErrorContains(t, h.Try(record.Setting{Group: "bolts", Share: 20}), "held back")
	with(h, "TW-2")
	h.Finish()
	require.Equal(t, h.Fold().Open(), h.State.Open())
	h.Made()
}

// A sample is tried with another tool: all within, and it stands; one outside, and it is
// answered anew.
func TestASampleOfADoubt(t *testing.T) {
	h := pulled(t, 100)
	h.Finish()
	drop(h, "TW-1")
	refused(t, h.Try(record.Recheck{Tool: "TW-1", With: "TW-2", Group: "bolts", Bolts: []int{1, 3}, Readings: []float64{90, 90}}),
		refusal.NotNow, "tool", "No bolts are to be tried")
	h.Add(record.Answer{Tool: "TW-1", How: record.Sample})
	d := h.State.Doubts()[0]
	require.Equal(t, work.DoubtSample, d.State)
	require.Equal(t, []work.GroupBolts{{Group: "bolts", Bolts: []int{1, 3}}}, d.Sample)
	require.Contains(t, h.State.Open()[0].Text, "bolts 1, 3 of the bolts to be tried with another tool")
	g, _ := h.State.Plan().Result.Group("bolts")
	try := record.Recheck{Tool: "TW-1", With: "TW-2", Group: "bolts", Bolts: []int{1, 3}, Readings: []float64{g.Torque, 0.9 * g.Torque}}
	for _, c := range []struct {
		edit  func(*record.Recheck)
		code  refusal.Code
		field string
		says  string
	}{
		{func(r *record.Recheck) { r.With = "TW-1" }, refusal.NotTheSame, "with", "is what is in doubt"},
		{func(r *record.Recheck) { r.With = " " }, refusal.Missing, "with", "With which tool"},
		{func(r *record.Recheck) { r.Bolts = []int{1, 2} }, refusal.NotTheSame, "bolts", "Bolts 1, 3 are to be tried"},
		{func(r *record.Recheck) { r.Readings = []float64{90} }, refusal.Missing, "readings", "1 readings for 2 bolts"},
		{func(r *record.Recheck) { r.Group = "others" }, refusal.Unknown, "group", "no group"},
		{func(r *record.Recheck) { r.Readings = []float64{-1, 2} }, refusal.Negative, "", "readings"},
	} {
		bad := try
		c.edit(&bad)
		refused(t, h.Try(bad), c.code, c.field, c.says)
	}
	low := try
	low.Readings = []float64{g.Torque, 0.5 * g.Torque}
	h.Add(low)
	require.Equal(t, work.DoubtWaits, h.State.Doubts()[0].State)
	require.Contains(t, h.State.Open()[0].Text, "the sample lay outside")
	h.Add(record.Answer{Tool: "TW-1", How: record.Sample, Reason: "that bolt was hit by the hoist; once more"})
	h.Add(try)
	require.Equal(t, work.DoubtStands, h.State.Doubts()[0].State)
	require.Empty(t, h.State.Open())
	require.Equal(t, h.Fold().Doubts(), h.State.Doubts())
}

// A record that is signed stays signed, and says what came up afterwards.
func TestADoubtAfterSigning(t *testing.T) {
	h := pulled(t, 100)
	h.Finish()
	h.Made()
	h.Checked()
	require.Equal(t, record.Signed, h.State.Standing)
	refused(t, h.Try(record.Pause{}), refusal.NotNow, "kind", "signed")
	h.As("keeper", func() { h.Add(record.Report{Tool: "TW-1", What: record.FoundOff, Note: "at its check"}) })
	require.Equal(t, record.Signed, h.State.Standing)
	require.Len(t, h.State.Signatures, 2)
	require.Equal(t, work.OpenDoubt, h.State.Open()[0].Kind)
	require.True(t, h.State.Reported("TW-1", time.Time{}))
	h.Add(record.Answer{Tool: "TW-1", How: record.Again, Reason: "7 % low"})
	require.Equal(t, work.DoubtAgain, h.State.Doubts()[0].State)
	require.Contains(t, h.State.Open()[0].Text, "an engineer issues the plan")
	require.Empty(t, h.State.Offered(), "nothing of a signed record is taken back")
	h.Add(record.Answer{Tool: "TW-1", How: record.Good, Reason: "the tester was wrong"})
	require.Empty(t, h.State.Open())
	require.Equal(t, record.Signed, h.Fold().Standing)
}
