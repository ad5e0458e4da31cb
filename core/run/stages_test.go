package run_test

import (
	"errors"
	"math"
	"testing"

	"github.com/stretchr/testify/require"

	"dynacor/core/refusal"
	"dynacor/core/run"
	"dynacor/core/unit"
)

// What each stage takes and what it refuses.
func TestEachStageTakesItsOwnEntries(t *testing.T) {
	even := []float64{2, 2.1, 2, 2}
	reach := map[run.Stage]func(*book){
		run.StageTighten: func(b *book) {},
		run.StageCheck:   func(b *book) { b.through(run.StageCheck) },
		run.StageProve:   func(b *book) { b.through(run.StageProve) },
		run.StageSign: func(b *book) {
			b.through(run.StageProve)
			b.add(run.Measurement{Phase: run.After, Gaps: even})
		},
		run.StageSigned: func(b *book) {
			b.through(run.StageProve)
			b.add(run.Measurement{Phase: run.After, Gaps: even})
			b.sign(fitter, run.Signature{Part: run.Made})
			b.sign(inspector, run.Signature{Part: run.Checked})
		},
	}
	for stage, to := range reach {
		for _, c := range []struct {
			entry run.Content
			taken []run.Stage
		}{
			{run.Pull{Bolt: 1, Pass: 1}, []run.Stage{run.StageTighten}},
			{run.Check{Bolt: 1, Round: 1}, []run.Stage{run.StageCheck}},
			{run.Measurement{Phase: run.Before, Gaps: even}, []run.Stage{run.StageTighten}},
			{run.Measurement{Phase: run.After, Gaps: even}, []run.Stage{run.StageProve, run.StageSign}},
			{run.Signature{Part: run.Made}, []run.Stage{run.StageSign}},
			{run.Decision{Reason: "x"}, nil},
			{run.Pause{}, []run.Stage{run.StageTighten, run.StageCheck, run.StageProve, run.StageSign}},
			{run.Resume{}, nil},
			{run.Trouble{Bolt: 2, What: run.Overshot, Remedy: run.TryAgain}, []run.Stage{run.StageTighten, run.StageCheck, run.StageProve, run.StageSign}},
			{run.Trouble{Bolt: 99, What: run.Overshot, Remedy: run.TryAgain}, nil},
			{run.Trouble{Bolt: 2, What: "bored", Remedy: run.TryAgain}, nil},
			{run.Trouble{Bolt: 2, What: run.Overshot, Remedy: "ignored"}, nil},
			{run.Measurement{Phase: "during", Gaps: even}, nil},
			{run.Signature{Part: "praised"}, nil},
		} {
			b := begin(t, 4)
			to(b)
			require.Equal(t, stage, b.state.Stage)
			b.person = fitter
			err := b.state.Accept(b.entry(c.entry))
			taken := false
			for _, s := range c.taken {
				taken = taken || s == stage
			}
			if taken {
				require.NoError(t, err, "%s: %+v", stage, c.entry)
			} else {
				require.Error(t, err, "%s: %+v", stage, c.entry)
			}
		}
	}
}

func TestGapsThatCannotBe(t *testing.T) {
	for _, gaps := range [][]float64{nil, {1, 2, 3}, {1, 2, 3, -0.1}, {1, 2, 3, 151}, {1, 2, 3, 4, 5}} {
		b := begin(t, 4)
		require.Error(t, b.state.Accept(b.entry(run.Measurement{Phase: run.Before, Gaps: gaps})), "%v", gaps)
	}
	b := begin(t, 4)
	require.NoError(t, b.state.Accept(b.entry(run.Measurement{Phase: run.Before, Gaps: make([]float64, 8)})))
}

// A gap put right after bolts were pulled stays a gap before.
func TestAGapBeforeCanBePutRightLater(t *testing.T) {
	b := begin(t, 4)
	id := b.add(run.Measurement{Phase: run.Before, Gaps: []float64{3, 3, 3, 30}})
	require.False(t, b.state.GapBefore.Verdict.Parallel)
	b.next()
	b.add(run.Correction{Of: id, Reason: "a comma", Instead: run.Measurement{Phase: run.Before, Gaps: []float64{3, 3, 3, 3.0}}})
	require.True(t, b.state.GapBefore.Verdict.Parallel)
	b.refused(run.Correction{Of: id, Reason: "x", Instead: run.Pull{Bolt: 1, Pass: 1}}, refusal.Contradicts)
}

// The state before stays as it was when more is added to it, so a screen may
// go on reading it.
func TestThenLeavesTheStateBeforeAlone(t *testing.T) {
	b := begin(t, 5)
	b.next()
	before := b.state
	was := run.Fold(b.plan, b.entries)
	b.next()
	b.add(run.Trouble{Bolt: 1, What: run.Overshot, Remedy: run.Replaced})
	b.add(run.Pause{})
	require.Equal(t, was.Bolts, before.Bolts)
	require.Equal(t, was.Next, before.Next)
	require.Len(t, before.Effective, len(was.Effective))
	require.Nil(t, before.Paused)
}

// Whoever had the wrench in hand does not check, even when all they did was
// struck out.
func TestWhoPulledDoesNotCheck(t *testing.T) {
	b := begin(t, 4)
	b.person = inspector
	b.add(run.Caution{})
	id := b.next()
	b.person = fitter
	b.add(run.Correction{Of: id, Reason: "wrong joint"})
	b.through(run.StageProve)
	b.add(run.Measurement{Phase: run.After, Gaps: []float64{2, 2, 2, 2}})
	b.sign(fitter, run.Signature{Part: run.Made})
	b.person = inspector
	b.refused(run.Signature{Part: run.Checked, Reason: "x"}, refusal.NotTheSame)
	b.person = "bystander"
	b.refused(run.Signature{Part: run.Made}, refusal.NotNow)
	b.sign("another", run.Signature{Part: run.Checked, Reason: "seen"})
}

// A pull that is struck out after the rounds takes the proof with it.
func TestAStruckPullTakesTheProofWithIt(t *testing.T) {
	b := begin(t, 4)
	var last string
	for b.state.Stage == run.StageTighten {
		last = b.next()
	}
	b.through(run.StageProve)
	_, holds := b.state.NothingMoved()
	require.True(t, holds)
	b.add(run.Correction{Of: last, Reason: "that was the other flange"})
	_, holds = b.state.NothingMoved()
	require.False(t, holds)
	b.through(run.StageProve)
	round, holds := b.state.NothingMoved()
	require.True(t, holds)
	require.Equal(t, 2, round, "every bolt was tried again")
}

// Whatever is sent, it is accepted or refused with a reason, and what is
// accepted folds.
func FuzzAccept(f *testing.F) {
	f.Add(uint8(0), 1, 1, 40.0, "N·m", "tried again", true, 2.0)
	f.Add(uint8(3), -5, 99, math.NaN(), "furlong", "", false, math.Inf(1))
	f.Fuzz(func(t *testing.T, what uint8, bolt, pass int, reading float64, in, note string, flag bool, gap float64) {
		q := unit.Of(reading, unit.Unit(in))
		contents := []run.Content{
			run.Pull{Bolt: bolt, Pass: pass, Reading: q, NoTurn: flag, Confirmed: !flag}, run.Check{Bolt: bolt, Round: pass, Moved: flag, Reading: q},
			run.Trouble{Bolt: bolt, What: run.TroubleKind(note), Remedy: run.TryAgain, Note: in}, run.Correction{Of: note, Reason: in, Instead: run.Pull{Bolt: bolt, Pass: pass, Reading: q}},
			run.Measurement{Phase: run.After, Gaps: []float64{gap, reading, gap, 1}}, run.Measurement{Phase: run.Before, Gaps: []float64{gap, reading, gap, 1}},
			run.Pause{Note: note}, run.Resume{Note: note}, run.Decision{Reason: note}, run.Signature{},
		}
		for stage := range 3 {
			b := begin(t, 4)
			if stage == 1 {
				b.through(run.StageCheck)
			} else if stage == 2 {
				b.through(run.StageProve)
			}
			e := b.entry(contents[int(what)%len(contents)])
			if err := b.state.Accept(e); err != nil {
				var r *refusal.Error
				if !errors.As(err, &r) {
					t.Fatalf("%T: %v", e.Content, err)
				}
				continue
			}
			if s := b.state.Then(e); s == nil || len(s.Open()) < 0 {
				t.Fatal("no state")
			}
		}
	})
}
