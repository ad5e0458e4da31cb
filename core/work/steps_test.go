package work_test

import (
	"fmt"
	"math"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"dynacor/core/joint"
	"dynacor/core/recipe"
	"dynacor/core/record"
	"dynacor/core/refusal"
	"dynacor/core/sequence"
	"dynacor/core/unit"
	"dynacor/core/work"
	"dynacor/core/work/worktest"
)

// of begins the work of a frame with so many bolts in its ring, its recipe
// edited.
func of(t require.TestingT, ring int, edit func(*recipe.Recipe, *joint.Input)) *worktest.Hand {
	r, in := worktest.Frame(), worktest.Framed(ring)
	if edit != nil {
		edit(&r, &in)
	}
	return worktest.New(t, worktest.Lay(t, in, r))
}

func frame(t require.TestingT) *worktest.Hand { return of(t, 5, nil) }

func refused(t require.TestingT, err error, code refusal.Code, field, says string) {
	require.ErrorIs(t, err, &refusal.Error{Code: code, Field: field})
	require.ErrorContains(t, err, says)
}

func TestABlockIsDoneInAnyOrderAndBlocksAreNot(t *testing.T) {
	h := frame(t)
	require.Len(t, h.State.Offered(), 2)
	gap := h.State.Offered()[1]
	require.Equal(t, "gap", gap.Step)
	h.Add(record.Done{Act: gap, Readings: []float64{1, 1.4}})
	require.Len(t, h.State.Offered(), 1)
	refused(t, h.Try(record.Done{Act: record.Act{Step: "posts", Bolt: 1, Share: 50}}), refusal.NotNext, "act", "Next: Clean")
}

// The state before stays as it was when more is added to it, so a screen may go
// on reading it; and what was added to it twice are two states.
func TestThenLeavesTheStateBeforeAlone(t *testing.T) {
	h := frame(t)
	h.UpTo("ring")
	before, was := h.State, h.Fold()
	h.Do(h.Next())
	h.Add(record.Trouble{Group: "posts", Bolt: 1, What: record.Overshot, Remedy: record.Replaced})
	h.Add(record.Pause{})
	require.Equal(t, was.Bolts(), before.Bolts())
	require.Equal(t, was.Offered(), before.Offered())
	require.Len(t, before.Lines(), len(was.Lines()))
	require.Nil(t, before.Paused)
	other := before.Then(record.Entry{ID: "x", Seq: len(before.Lines()) + 1, Person: "other", Content: record.Pause{Note: "elsewhere"}})
	require.NotNil(t, other.Paused)
	require.Equal(t, record.Pause{}, h.State.Paused.Content)
}

// Each bolt's lock comes right after its last pull.
func TestALockFollowsItsBoltAtOnce(t *testing.T) {
	h := frame(t)
	h.UpTo("posts")
	var got []string
	for h.Next().Step == "posts" {
		a := h.Next()
		s := fmt.Sprintf("%d@%g", a.Bolt, a.Share)
		if a.Lock {
			s = fmt.Sprintf("lock %d", a.Bolt)
		}
		got = append(got, s)
		h.Do(a)
	}
	require.Equal(t, []string{"1@50", "2@50", "3@50", "1@100", "lock 1", "2@100", "lock 2", "3@100", "lock 3"}, got)
}

// A ring takes its kind's own order, then goes round until nothing moves.
func TestGoneRoundUntilNothingMoves(t *testing.T) {
	h := frame(t)
	h.UpTo("ring")
	order, err := sequence.Ring(sequence.Star, 5, 1)
	require.NoError(t, err)
	for _, b := range order {
		require.Equal(t, record.Act{Step: "ring", Bolt: b, Share: 100}, h.Next())
		h.Do(h.Next())
	}
	for round := 1; round <= 3; round++ {
		for b := 1; b <= 5; b++ {
			require.Equal(t, record.Act{Step: "ring", Bolt: b, Share: 100, Round: round}, h.Next())
			if round < 3 && b == 2 {
				h.Move(h.Next())
			} else {
				h.Do(h.Next())
			}
		}
	}
	require.Equal(t, "turn", h.Next().Step, "the third round moved nothing")
	round, ok := h.State.Still("ring")
	require.True(t, ok)
	require.Equal(t, 3, round)
	_, ok = h.State.Still("posts")
	require.False(t, ok, "it has no rounds")
	h.Add(record.Correction{Of: h.Entries[len(h.Entries)-1].ID, Reason: "not tried"})
	_, ok = h.State.Still("ring")
	require.False(t, ok, "one of the round is struck out")
}

// In portions of a turn there is no pull before: round and round, in the group's
// own order, until each holds, and often.
func TestPortionsGoRoundUntilEachHolds(t *testing.T) {
	portions := func(r *recipe.Recipe, _ *joint.Input) {
		r.Kind, r.Groups[1].Portion = "clamping disc on a hollow shaft", 90
		r.Again, r.Undoes = recipe.When{"seal": "yes"}, recipe.When{"seal": "no"}
	}
	h := of(t, 3, portions)
	h.UpTo("ring")
	for round := 1; round <= 9; round++ {
		for b := 1; b <= 3; b++ {
			require.Equal(t, record.Act{Step: "ring", Bolt: b, Share: 100, Turn: 90, Round: round}, h.Next())
			if round < 9 {
				h.Move(h.Next())
			} else {
				h.Do(h.Next())
			}
		}
	}
	require.Equal(t, "turn", h.Next().Step)
	h = of(t, 3, portions)
	h.UpTo("ring")
	for h.State.Standing != record.Stopped {
		h.Move(h.Next())
	}
	why, rounds := h.State.Stop()
	require.Equal(t, work.MostPortions, rounds, "a clamping disc takes many rounds")
	require.Contains(t, why, "24 rounds")
}

// A joint that stands is gone over: rounds alone.
func TestGoneOverAgain(t *testing.T) {
	h := of(t, 3, func(r *recipe.Recipe, _ *joint.Input) { r.Groups[1].Stands = true })
	h.UpTo("ring")
	require.Equal(t, record.Act{Step: "ring", Bolt: 1, Share: 100, Round: 1}, h.Next())
	for range 3 {
		h.Do(h.Next())
	}
	require.Equal(t, "turn", h.Next().Step)
}

func TestFiveRoundsThatMoveStopAndAsk(t *testing.T) {
	h := frame(t)
	h.UpTo("ring")
	for range 5 {
		h.Do(h.Next())
	}
	refused(t, h.Try(record.Decision{Reason: "too early"}), refusal.NotNow, "kind", "nothing to decide")
	for range work.MostRounds * 5 {
		if h.Next().Bolt == 5 {
			h.Move(h.Next())
		} else {
			h.Do(h.Next())
		}
	}
	require.Equal(t, record.Stopped, h.State.Standing)
	require.Empty(t, h.State.Offered())
	refused(t, h.Try(record.Signature{Part: record.Made}), refusal.NotNow, "open", "engineer decides")
	refused(t, h.Try(record.Decision{}), refusal.NeedsReason, "reason", "")
	h.Add(record.Decision{Reason: "the washer was turned over"})
	require.Equal(t, 6, h.Next().Round)
	for range 5 {
		h.Do(h.Next())
	}
	require.Equal(t, "turn", h.Next().Step)
	h.Finish()
	require.Contains(t, fmt.Sprint(h.State.Deviations()), "was let go on: the washer was turned over")
}

func TestTurnsComeInOrder(t *testing.T) {
	h := frame(t)
	h.UpTo("turn")
	require.Equal(t, record.Act{Step: "turn", Bolt: 1, Turn: 360, Stroke: 1}, h.Next())
	h.Do(h.Next())
	require.InDelta(t, 90, h.Next().Turn, 0)
}

// The window is a share of a value in another unit: 10 ft·lbf is 13.558 N·m.
func TestAdjustAndMeasureUntilItIsIn(t *testing.T) {
	h := frame(t)
	h.UpTo("gland")
	win, ok := h.State.Window("gland")
	require.True(t, ok)
	require.InDelta(t, 0.8*13.558179483314004, win.Low, 1e-9)
	a := h.Next()
	for _, try := range []float64{5, 20} {
		h.Add(record.Done{Act: a, Readings: []float64{try}})
		require.Equal(t, a, h.Next(), "still open")
		require.NotEmpty(t, h.State.Open())
	}
	h.Do(a)
	require.Empty(t, h.State.Open())
	require.Empty(t, h.State.Deviations(), "tries are no deviations")
	require.Len(t, h.State.Tries("gland"), 3, "every try is recorded")
}

func TestOutsideOnlyWithAReason(t *testing.T) {
	h := frame(t)
	gap := h.State.Offered()[1]
	for _, bad := range [][]float64{{0, 1}, {1, 1.6}, {-1, 1}} {
		refused(t, h.Try(record.Done{Act: gap, Readings: bad}), refusal.NeedsReason, "readings", "")
	}
	for _, bad := range [][]float64{nil, {1}, {1, 1, 1}, {1, math.NaN()}} {
		require.Error(t, h.Try(record.Done{Act: gap, Readings: bad, Reason: "whatever"}), "%v", bad)
	}
	h.Add(record.Done{Act: gap, Readings: []float64{1, 1.6}, Reason: "the maker allows 0.6"})
	require.Len(t, h.State.Deviations(), 1)
	require.Contains(t, h.State.Deviations()[0].Text, "differ by 0.6 mm")
	require.True(t, h.State.Outside())
	refused(t, h.Try(record.Done{Act: h.Next(), Readings: []float64{1}}), refusal.Contradicts, "readings", "")
	h.Person = ""
	refused(t, h.Try(record.Done{Act: h.Next()}), refusal.Missing, "person", "")
}

// Past a firm limit no reason keeps a reading; a test that failed is put right.
func TestNeverKeptWhateverTheReason(t *testing.T) {
	for _, edit := range []func(*recipe.Recipe, *joint.Input){
		func(r *recipe.Recipe, _ *joint.Input) { r.Steps[1].Limit.Firm = true },
		func(r *recipe.Recipe, _ *joint.Input) { r.Steps[1].Does = recipe.Test },
	} {
		h := of(t, 5, edit)
		gap := h.State.Offered()[1]
		err := h.Try(record.Done{Act: gap, Readings: []float64{0, 1}, Reason: "let it be"})
		refused(t, err, refusal.OutOfRange, "readings", "0 mm on the left")
		verdict, err := h.State.Judge("gap", []float64{0, 1}, 0)
		require.NoError(t, err)
		require.True(t, verdict.Never)
		id := h.Do(gap)
		err = h.Try(record.Correction{Of: id, Reason: "misread", Instead: record.Done{Act: gap, Readings: []float64{0, 1},
			Reason: "let it be"}})
		require.ErrorIs(t, err, &refusal.Error{Code: refusal.OutOfRange})
	}
}

func TestAStepForAQualifiedPerson(t *testing.T) {
	h := of(t, 5, func(r *recipe.Recipe, _ *joint.Input) { r.Steps[0].By = "rigger" })
	h.Facts.Qualified = nil
	clean := h.Next()
	refused(t, h.Try(record.Done{Act: clean}), refusal.NotTheSame, "person", "for a rigger")
	h.Facts.Qualified = []string{"rigger"}
	id := h.Do(clean)
	h.Facts.Qualified = nil
	err := h.Try(record.Correction{Of: id, Reason: "not so"})
	require.ErrorIs(t, err, &refusal.Error{Code: refusal.NotTheSame}, "nor is it corrected by anybody else")
}

// Four first, then all the others, each bolt once.
func TestFourAtRightAnglesFirst(t *testing.T) {
	quarters := func(r *recipe.Recipe, _ *joint.Input) {
		r.Groups[1].Still = false
		r.Steps[3].Some = recipe.Quarters
		rest := r.Steps[3]
		rest.ID, rest.Some = "rest", recipe.Rest
		r.Steps = append(r.Steps[:4:4], append([]recipe.Step{rest}, r.Steps[4:]...)...)
	}
	h := of(t, 8, quarters)
	h.UpTo("ring")
	var got []int
	for h.Next().Step == "ring" || h.Next().Step == "rest" {
		got = append(got, h.Next().Bolt)
		h.Do(h.Next())
	}
	require.Equal(t, []int{1, 5, 3, 7, 2, 6, 4, 8}, got)
	r, in := worktest.Frame(), worktest.Framed(6)
	quarters(&r, &in)
	res, err := joint.Compute(in, r)
	require.NoError(t, err)
	_, err = work.Lay(in, r, res)
	require.ErrorIs(t, err, &refusal.Error{Code: refusal.Contradicts})
}

// The verdict as it is typed is the one that counts when it is kept.
func TestJudgeIsWhatKeepingSays(t *testing.T) {
	for _, c := range []struct {
		readings []float64
		held     float64
		says     string
	}{
		{[]float64{1, 1.2}, 5, ""},
		{[]float64{1, 1.2}, 4, "held 4 of 5 min"},
		{[]float64{0, 1.2}, 5, "0 mm on the left; it must be above 0 mm"},
		{[]float64{0, 1.2}, 2, "above 0 mm. It was held 2 of 5 min"},
	} {
		h := of(t, 5, func(r *recipe.Recipe, _ *joint.Input) { r.Steps[1].Hold = 5 })
		verdict, err := h.State.Judge("gap", c.readings, c.held)
		require.NoError(t, err)
		require.Contains(t, verdict.Outside, c.says)
		require.Equal(t, c.says == "", verdict.Outside == "")
		err = h.Try(record.Done{Act: h.State.Offered()[1], Readings: c.readings, Held: c.held})
		require.Equal(t, verdict.Outside == "", err == nil, "%v", err)
		_, err = h.State.Judge("clean", []float64{1}, 5)
		require.ErrorIs(t, err, &refusal.Error{Code: refusal.Unknown})
	}
}

// What may be left undone is left with a reason, and is a deviation until it is
// done after all.
func TestLeftUndone(t *testing.T) {
	h := frame(t)
	clean := h.Next()
	refused(t, h.Try(record.Done{Act: clean, Skipped: true}), refusal.NeedsReason, "skipped", "")
	id := h.Add(record.Done{Act: clean, Skipped: true, Reason: "no water"})
	require.Len(t, h.State.Deviations(), 1)
	h.Add(record.Correction{Of: id, Reason: "there is water"})
	require.Len(t, h.State.Offered(), 2)
	h.Do(clean)
	require.False(t, h.State.Outside())
	h = of(t, 5, func(r *recipe.Recipe, _ *joint.Input) { r.Steps[0].Must = true })
	refused(t, h.Try(record.Done{Act: clean, Skipped: true, Reason: "no water"}), refusal.NotNow, "skipped", "cannot be left undone")
	h.UpTo("posts")
	h.Ready(h.Next())
	refused(t, h.Try(record.Done{Act: h.Next(), Skipped: true, Reason: "no wrench"}), refusal.NotNow, "skipped", "")
}

// A lock that was left stands first on the record.
func TestALockThatWasLeft(t *testing.T) {
	h := frame(t)
	h.UpTo("posts")
	for !h.Next().Lock {
		h.Do(h.Next())
	}
	h.Add(record.Done{Act: h.Next(), Skipped: true, Reason: "bent"})
	h.UpTo("ring")
	on, all := h.State.Locks()
	require.Equal(t, [2]int{2, 3}, [2]int{on, all})
	require.Contains(t, h.State.Deviations()[0].Text, "bent")
}

// A reading outside the maker's window is asked about, also where it is near the
// setting; noted once it is confirmed.
func TestReadingsOutsideTheMakersWindow(t *testing.T) {
	h := of(t, 5, func(_ *recipe.Recipe, in *joint.Input) {
		in.Values["torque"] = joint.Given{Value: unit.Of(76, unit.NewtonMetre), Max: unit.Of(84, unit.NewtonMetre)}
	})
	h.UpTo("ring")
	h.Ready(h.Next())
	pull := record.Done{Act: h.Next()}
	for _, bad := range []unit.Quantity{unit.Of(75, unit.NewtonMetre), unit.Of(84.5, unit.NewtonMetre), unit.Of(80, unit.FootPound)} {
		pull.Reading = bad
		refused(t, h.Try(pull), refusal.Asked, "confirmed", "outside the maker's window of 76 to 84 N·m")
	}
	pull.Reading = unit.Of(850, unit.NewtonMetre)
	refused(t, h.Try(pull), refusal.TooLarge, "reading", "more than ten times the setting")
	pull.Reading = unit.Of(62, unit.FootPound) // 84.06 N·m
	require.NoError(t, h.Confirm(pull))
	h.Finish()
	require.True(t, h.State.Outside())
	require.Contains(t, h.State.Deviations()[0].Text, "outside the maker's window of 76 to 84 N·m")
	h.Made()
	h.Person = "other"
	refused(t, h.Try(record.Signature{Part: record.Checked}), refusal.NeedsReason, "reason", "")
	h.Add(record.Signature{Part: record.Checked, Reason: "the maker accepts it"})
}

func ExampleState_Offered() {
	h := frame(noTest{})
	for _, a := range h.State.Offered() {
		fmt.Println(h.State.Describe(a))
	}
	// Output:
	// Clean
	// Gap
}

// noTest stands for a test where an example has none.
type noTest struct{}

func (noTest) Errorf(format string, args ...any) { panic(fmt.Sprintf(format, args...)) }
func (noTest) FailNow()                          { panic("failed") }

// One more photograph of a step that is done is one more: what the step voids when it is
// done again stays as it is.
func TestOneMorePhotographTouchesNothing(t *testing.T) {
	h := of(t, 3, func(r *recipe.Recipe, _ *joint.Input) {
		r.Steps[0].Photo = "the faces"
		r.Steps[5].Voided = []string{"clean"}
	})
	h.Finish()
	_, done := h.State.Done(record.Act{Step: "gland"})
	require.True(t, done)
	h.Add(record.Photo{Step: "clean", Hash: strings.Repeat("c", 64)})
	require.Equal(t, record.Sign, h.State.Standing)
	_, done = h.State.Done(record.Act{Step: "gland"})
	require.True(t, done)
}
