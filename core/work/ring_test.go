package work_test

import (
	"slices"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"dynacor/core/record"
	"dynacor/core/refusal"
	"dynacor/core/unit"
	"dynacor/core/work/worktest"
)

func flange(t require.TestingT, bolts int) *worktest.Hand {
	return worktest.New(t, worktest.Lay(t, worktest.Flanged(bolts), worktest.Flange()))
}

// rounds follows a flange until its bolts are gone round.
func rounds(h *worktest.Hand) {
	for h.UpTo("pull"); h.Next().Round == 0; {
		h.Do(h.Next())
	}
}

// before does what comes before the first bolt.
func before(h *worktest.Hand) {
	for h.Next().Bolt == 0 {
		h.Do(h.Next())
	}
}

func TestAWholeFlange(t *testing.T) {
	h := flange(t, 8)
	refused(t, h.Try(record.Signature{Part: record.Made}), refusal.NotNow, "open", "Gap before")
	h.UpTo("gap")
	require.Equal(t, record.Prove, h.State.Standing)
	require.Len(t, h.State.Rounds("pull"), 1)
	require.Len(t, h.State.Lines(), 1+1+1+1+3+24+8, "gap, lubricant, tool, caution, a setting a stage, three stages of eight, one round")
	require.ErrorContains(t, h.Try(record.Done{Act: h.Next(), Readings: []float64{3, 3, 3}}), "asks for 4")
	h.Finish()
	require.Equal(t, record.Sign, h.State.Standing)
	h.Made()
	refused(t, h.Try(record.Signature{Part: record.Checked}), refusal.NotTheSame, "part", "another person")
	h.Facts.Qualified = nil
	h.As("colleague", func() {
		refused(t, h.Try(record.Signature{Part: record.Checked}), refusal.NotTheSame, "part", "checked by an inspector")
	})
	h.Facts.Qualified = worktest.Everybody
	h.Checked()
	require.Equal(t, record.Signed, h.State.Standing)
	require.Empty(t, h.State.Deviations())
	refused(t, h.Try(record.Pause{}), refusal.NotNow, "kind", "signed")
}

func TestNothingBeforeToolCautionsAndSetting(t *testing.T) {
	h := flange(t, 4)
	before(h)
	pull := record.Done{Act: h.Next()}
	refused(t, h.Try(pull), refusal.NotNow, "cautions", "Nobody in line with a stud")
	h.Add(record.Caution{Step: "pull"})
	refused(t, h.Try(pull), refusal.NotNow, "tooling", "No tool is chosen")
	h.Tool()
	refused(t, h.Try(pull), refusal.NotNow, "setting", "not set to 52 N·m")
	require.ErrorContains(t, h.Try(record.Setting{Group: "bolts", Share: 60}), "is not what is next")
	h.Add(record.Setting{Group: "bolts", Share: 20})
	h.Add(pull)
	h.As("colleague", func() {
		refused(t, h.Try(record.Done{Act: h.Next()}), refusal.NotNow, "cautions", "")
		h.Add(record.Caution{Step: "pull"})
		refused(t, h.Try(record.Done{Act: h.Next()}), refusal.NotNow, "setting", "in your hand")
		h.Do(h.Next())
	})
}

// The tool is set again at each stage, after a pause, in another hand and after a
// night; the pedal's press for a pull is never the one that sets it.
func TestTheToolIsSetAgain(t *testing.T) {
	h := flange(t, 4)
	h.UpTo("pull")
	unset := func() bool { _, u := h.State.Unset(h.Person, h.Now.Add(h.Pace)); return u }
	h.Ready(h.Next())
	require.False(t, unset())
	for range 4 {
		h.Do(h.Next())
	}
	require.True(t, unset(), "the next stage has another setting")
	h.Do(h.Next())
	h.Add(record.Pause{})
	h.Add(record.Resume{})
	require.True(t, unset(), "after a pause")
	h.Do(h.Next())
	h.As("colleague", func() { require.True(t, unset(), "in another hand") })
	h.Now = h.Now.Add(13 * time.Hour)
	require.True(t, unset(), "after a night")
	h.Do(h.Next())
	require.ErrorContains(t, h.Try(record.Setting{Group: "bolts", Share: 60}), "No tool has to be set now")
}

func TestANutThatMovesBringsAnotherRound(t *testing.T) {
	h := flange(t, 5)
	rounds(h)
	h.Do(h.Next())
	h.Move(record.Act{Step: "pull", Bolt: 2, Share: 100, Round: 1})
	require.Equal(t, "moved", h.State.Bolts()[1].Mark)
	for range 3 {
		h.Do(h.Next())
	}
	require.Equal(t, record.Act{Step: "pull", Bolt: 1, Share: 100, Round: 2}, h.Next())
	_, holds := h.State.Still("pull")
	require.False(t, holds)
	h.UpTo("gap")
	round, holds := h.State.Still("pull")
	require.True(t, holds)
	require.Equal(t, 2, round)
}

func TestAReplacedBoltBeginsAnew(t *testing.T) {
	h := flange(t, 5)
	rounds(h)
	h.Do(h.Next())
	h.Add(record.Trouble{Group: "bolts", Bolt: 2, What: record.ThreadDamaged, Remedy: record.Replaced, Note: "new one"})
	require.Equal(t, "trouble", h.State.Bolts()[1].Mark)
	for _, share := range []float64{20, 60, 100} {
		require.Equal(t, record.Tighten, h.State.Standing)
		require.Equal(t, record.Act{Step: "pull", Bolt: 2, Share: share}, h.Next())
		h.Do(h.Next())
	}
	require.Equal(t, 2, h.Next().Round, "the broken round does not count")
	require.Equal(t, 1, h.Next().Bolt, "and every bolt is tried again")
	h.Finish()
	require.Contains(t, h.State.Deviations()[0].Text, "thread damaged, bolt replaced")
	require.Contains(t, h.State.Deviations()[0].Text, "new one")
}

func TestABoltThatIsLeftComesAtTheEndOfTheStage(t *testing.T) {
	h := flange(t, 5)
	h.UpTo("pull")
	h.Ready(h.Next())
	first := h.Next()
	h.Add(record.Trouble{Group: "bolts", Bolt: first.Bolt, What: record.WouldNotTurn, Remedy: record.Leave})
	for range 4 {
		require.NotEqual(t, first.Bolt, h.Next().Bolt)
		h.Do(h.Next())
	}
	require.Equal(t, first, h.Next())
	require.NotContains(t, h.State.Remedies("bolts", first.Bolt), record.Leave)
	require.Error(t, h.Try(record.Trouble{Group: "bolts", Bolt: first.Bolt, What: record.WouldNotTurn, Remedy: record.Leave}))
	h.Do(h.Next())
	require.InDelta(t, 60, h.Next().Share, 0)
}

func TestCorrectionsStandForEntriesAndKeepThem(t *testing.T) {
	h := flange(t, 5)
	h.UpTo("pull")
	first := h.Next()
	id := h.Do(first)
	h.Do(h.Next())
	require.ErrorIs(t, h.Try(record.Correction{Of: id}), &refusal.Error{Code: refusal.NeedsReason})
	require.ErrorIs(t, h.Try(record.Correction{Of: "nobody", Reason: "x"}), &refusal.Error{Code: refusal.Unknown})
	other := record.Done{Act: record.Act{Step: "pull", Bolt: 4, Share: 20}}
	require.ErrorIs(t, h.Try(record.Correction{Of: id, Reason: "x", Instead: other}), &refusal.Error{Code: refusal.Contradicts})
	h.Add(record.Correction{Of: id, Reason: "not that bolt"})
	require.Equal(t, first, h.Next(), "what was struck out is done again")
	require.Len(t, h.State.Lines(), len(h.Entries), "and stays on the record")
	require.Error(t, h.Try(record.Correction{Of: id, Reason: "again"}))
	again := h.Do(h.Next())
	far := record.Done{Act: first, Reading: unit.Of(30, unit.NewtonMetre)}
	c := record.Correction{Of: again, Reason: "read later", Instead: far}
	refused(t, h.Try(c), refusal.Asked, "confirmed", "off the setting of 52 N·m")
	require.NoError(t, h.Confirm(c))
	require.True(t, h.State.Outside(), "a reading far off is a deviation, in a correction as in a pull")
}

// Compared in the unit of the setting: 52 ft·lbf where 52 N·m is set is far.
func TestAFarReadingIsAskedAboutOnce(t *testing.T) {
	h := flange(t, 4)
	h.UpTo("pull")
	h.Ready(h.Next())
	p := record.Done{Act: h.Next(), Reading: unit.Of(52*1.1+0.1, unit.NewtonMetre)}
	refused(t, h.Try(p), refusal.Asked, "confirmed", "10 % off the setting")
	p.Reading = unit.Of(52, unit.FootPound)
	refused(t, h.Try(p), refusal.Asked, "confirmed", "36 % off the setting of 52 N·m")
	require.NoError(t, h.Confirm(p))
	require.Len(t, h.State.Deviations(), 1)
	p = record.Done{Act: h.Next(), Reading: unit.Of(5200, unit.NewtonMetre)}
	require.ErrorIs(t, h.Confirm(p), &refusal.Error{Code: refusal.TooLarge})
	p.Reading = unit.Of(40, unit.Millimetre)
	require.Error(t, h.Try(p))
	p.Reading = unit.Of(52*1.1, unit.NewtonMetre)
	require.NoError(t, h.Try(p), "ten percent is not far")
}

func TestPausedWorkWaits(t *testing.T) {
	h := flange(t, 4)
	h.UpTo("pull")
	h.Ready(h.Next())
	h.Add(record.Pause{Note: "phone"})
	refused(t, h.Try(record.Done{Act: record.Act{Step: "pull", Bolt: 1, Share: 20}}), refusal.NotNow, "kind", "paused")
	refused(t, h.Try(record.Signature{Part: record.Made}), refusal.NotNow, "kind", "paused")
	h.Add(record.Resume{})
	refused(t, h.Try(record.Resume{}), refusal.NotNow, "kind", "not paused")
	h.Do(h.Next())
}

// Whoever had the wrench in hand does not check, even when all they did was
// struck out; nor does whoever else had a hand in it.
func TestWhoWorkedDoesNotCheck(t *testing.T) {
	h := flange(t, 4)
	h.UpTo("pull")
	var id string
	h.As("inspector", func() { id = h.Do(h.Next()) })
	h.Add(record.Correction{Of: id, Reason: "wrong joint"})
	h.UpTo("leak")
	h.As("tester", func() { h.Do(h.Next()) })
	h.Finish()
	h.As("bystander", func() {
		refused(t, h.Try(record.Signature{Part: record.Made}), refusal.Contradicts, "part", "Only someone who pulled")
	})
	h.Made()
	for _, who := range []string{"inspector", "tester", "fitter"} {
		h.As(who, func() {
			refused(t, h.Try(record.Signature{Part: record.Checked, Reason: "x"}), refusal.NotTheSame, "part", "a hand in this joint")
		})
	}
	h.As("another", func() { h.Add(record.Signature{Part: record.Checked, Reason: "seen"}) })
}

// A pull that is struck out after the rounds takes the proof with it, and the
// whole chain behind it, and its bolt is tried with all others again.
func TestAStruckPullTakesTheProofWithIt(t *testing.T) {
	h := flange(t, 4)
	h.UpTo("pull")
	var last string
	for h.Next().Round == 0 {
		last = h.Do(h.Next())
	}
	h.Finish()
	_, holds := h.State.Still("pull")
	require.True(t, holds)
	h.Add(record.Correction{Of: last, Reason: "that was the other flange"})
	_, holds = h.State.Still("pull")
	require.False(t, holds)
	for _, step := range []string{"gap", "thread", "leak"} {
		_, _, done := h.State.Count(step)
		require.False(t, done, step)
	}
	h.UpTo("gap")
	round, holds := h.State.Still("pull")
	require.True(t, holds)
	require.Equal(t, 2, round, "every bolt was tried again")
}

// A gap put right after bolts were pulled stays a gap before.
func TestAGapBeforeCanBePutRightLater(t *testing.T) {
	h := flange(t, 4)
	before := h.Next()
	id := h.Add(record.Done{Act: before, Readings: []float64{3, 3, 3, 30}, Reason: "as it came"})
	require.True(t, h.State.Outside())
	h.Do(h.Next())
	h.Add(record.Correction{Of: id, Reason: "a comma", Instead: record.Done{Act: before, Readings: []float64{3, 3, 3, 3}}})
	require.False(t, h.State.Outside())
	require.Equal(t, "pull", h.Next().Step)
}

func TestGapsThatCannotBe(t *testing.T) {
	for _, gaps := range [][]float64{nil, {1, 2, 3}, {1, 2, 3, 4, 5}} {
		h := flange(t, 4)
		require.Error(t, h.Try(record.Done{Act: h.Next(), Readings: gaps, Reason: "so"}), "%v", gaps)
	}
	h := flange(t, 4)
	for _, gaps := range [][]float64{{0, 0, 0, 0}, {1, 2, 3, -0.1}, {1, 2, 3, 151}} {
		require.ErrorIs(t, h.Try(record.Done{Act: h.Next(), Readings: gaps}), &refusal.Error{Code: refusal.NeedsReason}, "%v", gaps)
	}
	v, err := h.State.Judge("before", []float64{2, 3, 2, 2}, 0)
	require.NoError(t, err)
	require.Contains(t, v.Comes, "open at 3 o’clock")
	require.Contains(t, v.Comes, "tilt")
}

// What a stage takes and what it refuses.
func TestEachStandingTakesItsOwnEntries(t *testing.T) {
	prepared := func(h *worktest.Hand) { h.UpTo("pull"); h.Ready(h.Next()) }
	reach := map[record.Standing]func(*worktest.Hand){
		record.LayOut:  func(*worktest.Hand) {},
		record.Tighten: prepared,
		record.Prove:   func(h *worktest.Hand) { h.UpTo("gap") },
		record.Sign:    func(h *worktest.Hand) { h.Finish() },
		record.Signed:  func(h *worktest.Hand) { h.Finish(); h.Made(); h.Checked() },
	}
	trouble := func(bolt int, what record.TroubleKind, remedy record.Remedy) record.Trouble {
		return record.Trouble{Group: "bolts", Bolt: bolt, What: what, Remedy: remedy}
	}
	even := []float64{2, 2.1, 2, 2}
	for standing, to := range reach {
		for _, c := range []struct {
			entry record.Content
			taken []record.Standing
		}{
			{record.Done{Act: record.Act{Step: "pull", Bolt: 1, Share: 20}}, []record.Standing{record.Tighten}},
			{record.Done{Act: record.Act{Step: "pull", Bolt: 1, Share: 100, Round: 1}}, nil},
			{record.Done{Act: record.Act{Step: "before"}, Readings: even}, []record.Standing{record.LayOut}},
			{record.Done{Act: record.Act{Step: "gap"}, Readings: even}, []record.Standing{record.Prove}},
			{record.Done{Act: record.Act{Step: "during"}, Readings: even}, nil},
			{record.Signature{Part: record.Made}, []record.Standing{record.Sign}},
			{record.Signature{Part: "praised"}, nil},
			{record.Decision{Reason: "x"}, nil},
			{record.Pause{}, []record.Standing{record.LayOut, record.Tighten, record.Prove, record.Sign}},
			{record.Resume{}, nil},
			{trouble(2, record.ThreadDamaged, record.Replaced), []record.Standing{record.LayOut, record.Tighten, record.Prove,
				record.Sign}},
			{trouble(99, record.Overshot, record.TryAgain), nil},
			{trouble(2, "bored", record.TryAgain), nil},
			{trouble(2, record.Overshot, "ignored"), nil},
		} {
			h := flange(t, 4)
			to(h)
			require.Equal(t, standing, h.State.Standing)
			err := h.Try(c.entry)
			require.Equal(t, slices.Contains(c.taken, standing), err == nil, "%s: %+v: %v", standing, c.entry, err)
		}
	}
}

// What lies ahead crosses from stage to stage and into the first round, and says
// where the tool is set.
func TestWhatIsAhead(t *testing.T) {
	h := flange(t, 4)
	h.UpTo("pull")
	h.Tool()
	ahead := h.State.Ahead(h.Person, h.Now, 100)
	require.Len(t, ahead, 3*4+4, "three stages and a round")
	var sets []float64
	for i, a := range ahead {
		if a.Set {
			sets = append(sets, a.Share)
		}
		require.Equal(t, i >= 12, a.Round == 1)
	}
	require.Equal(t, []float64{20, 60, 100}, sets)
	for i := range ahead[:16] {
		require.Equal(t, ahead[i].Act, h.Next())
		h.Do(h.Next())
	}
}
