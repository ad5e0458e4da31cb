package run_test

import (
	"fmt"
	"reflect"
	"testing"
	"time"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"dynacor/core/refusal"
	"dynacor/core/run"
	"dynacor/core/sequence"
	"dynacor/core/unit"
)

const fitter, inspector = "fitter", "inspector"

func follow(n int) run.Plan {
	order, _ := sequence.Ring(sequence.Star, n, 1)
	check, _ := sequence.Ring(sequence.Circular, n, 1)
	return run.Plan{Bolts: n, Shares: []float64{20, 60, 100}, Torques: []float64{40, 120, 200}, Order: order, CheckOrder: check, GapLimit: 0.8, GapDiameter: 300}
}

// book adds entries to a run and keeps them.
type book struct {
	t       require.TestingT
	plan    run.Plan
	state   *run.State
	entries []run.Entry
	person  string
}

func begin(t require.TestingT, n int) *book {
	b := &book{t: t, plan: follow(n), person: fitter}
	b.state = run.Fold(b.plan, nil)
	var tools run.Tooling
	for i, torque := range b.plan.Torques {
		tools.Passes = append(tools.Passes, run.PassTool{Pass: i + 1, Tools: []string{"TW"}, Torque: torque, Setting: unit.Of(torque, unit.NewtonMetre)})
	}
	b.add(tools)
	b.add(run.Caution{Points: []string{"read"}})
	return b
}

func (b *book) entry(c run.Content) run.Entry {
	return run.Entry{ID: fmt.Sprint("e", len(b.entries)), Seq: len(b.entries) + 1, AtTool: time.Unix(int64(len(b.entries)), 0), Person: b.person, Content: c}
}

func (b *book) add(c run.Content) string {
	e := b.entry(c)
	require.NoError(b.t, b.state.Accept(e), "%T %+v", c, c)
	b.entries = append(b.entries, e)
	b.state = b.state.Then(e)
	return e.ID
}

func (b *book) refused(c run.Content, code refusal.Code) {
	require.ErrorIs(b.t, b.state.Accept(b.entry(c)), &refusal.Error{Code: code})
}

// next does what is next, as it should go.
func (b *book) next() string {
	n := b.state.Next
	require.NotNil(b.t, n)
	if n.Round > 0 {
		return b.add(run.Check{Bolt: n.Bolt, Round: n.Round})
	}
	return b.add(run.Pull{Bolt: n.Bolt, Pass: n.Pass})
}

func (b *book) through(stop run.Stage) {
	for b.state.Stage != stop {
		b.next()
	}
}

func (b *book) sign(person string, s run.Signature) {
	b.person = person
	b.add(s)
}

func TestAWholeRun(t *testing.T) {
	b := begin(t, 8)
	b.refused(run.Signature{Part: run.Made}, refusal.NotNow)
	b.add(run.Measurement{Phase: run.Before, Gaps: []float64{3, 3.1, 3, 3}})
	b.through(run.StageProve)
	require.Len(t, b.entries, 3+24+8)
	require.Equal(t, 1, b.state.Rounds[0].Number)
	b.refused(run.Measurement{Phase: run.Before, Gaps: []float64{3, 3, 3, 3}}, refusal.NotNow)
	b.refused(run.Measurement{Phase: run.After, Gaps: []float64{3, 3, 3}}, refusal.OutOfRange)
	b.add(run.Measurement{Phase: run.After, Gaps: []float64{2, 2.1, 2, 2}})
	require.Equal(t, run.StageSign, b.state.Stage)
	b.sign(fitter, run.Signature{Part: run.Made})
	b.person = fitter
	b.refused(run.Signature{Part: run.Checked}, refusal.NotTheSame)
	b.sign(inspector, run.Signature{Part: run.Checked})
	require.Equal(t, run.StageSigned, b.state.Stage)
	require.Empty(t, b.state.AllDeviations())
	b.refused(run.Pause{}, refusal.NotNow)
}

func TestNothingBeforeToolAndCautions(t *testing.T) {
	b := &book{t: t, plan: follow(4), person: fitter}
	b.state = run.Fold(b.plan, nil)
	require.Equal(t, run.StageTool, b.state.Stage)
	b.refused(run.Pull{Bolt: 1, Pass: 1}, refusal.NotNow)
	b = begin(t, 4)
	b.person = "colleague"
	b.refused(run.Pull{Bolt: 1, Pass: 1}, refusal.NotNow)
	b.add(run.Caution{})
	b.next()
}

func TestANutThatMovesBringsAnotherRound(t *testing.T) {
	b := begin(t, 5)
	b.through(run.StageCheck)
	b.next()
	b.add(run.Check{Bolt: 2, Round: 1, Moved: true})
	require.Equal(t, "moved", b.state.Bolts[1].Mark())
	for range 3 {
		b.next()
	}
	require.Equal(t, &run.Act{Bolt: 1, Pass: 3, Round: 2, Share: 100, LevelAfter: 1}, b.state.Next)
	_, holds := b.state.NothingMoved()
	require.False(t, holds)
	b.through(run.StageProve)
	round, holds := b.state.NothingMoved()
	require.True(t, holds)
	require.Equal(t, 2, round)
}

func TestFiveRoundsThatMoveStopAndAsk(t *testing.T) {
	b := begin(t, 4)
	b.through(run.StageCheck)
	for round := 1; round <= run.MostRounds; round++ {
		b.add(run.Check{Bolt: 1, Round: round, Moved: true})
		for range 3 {
			b.next()
		}
	}
	require.Equal(t, run.StageStopped, b.state.Stage)
	require.Nil(t, b.state.Next)
	b.refused(run.Check{Bolt: 1, Round: 6}, refusal.NotNext)
	b.refused(run.Decision{}, refusal.NeedsReason)
	b.add(run.Decision{Reason: "new washers seated"})
	b.through(run.StageProve)
}

func TestAReplacedBoltBeginsAnew(t *testing.T) {
	b := begin(t, 5)
	b.through(run.StageCheck)
	b.next()
	b.add(run.Trouble{Bolt: 2, What: run.ThreadDamaged, Remedy: run.Replaced})
	for pass := 1; pass <= 3; pass++ {
		require.Equal(t, run.StageTighten, b.state.Stage)
		require.Equal(t, 2, b.state.Next.Bolt)
		require.Equal(t, pass, b.state.Next.Pass)
		b.next()
	}
	require.Equal(t, run.StageCheck, b.state.Stage)
	require.Equal(t, 2, b.state.Next.Round, "the broken round does not count")
	require.Equal(t, 1, b.state.Next.Bolt, "and every bolt is tried again")
	b.through(run.StageProve)
}

func TestABoltThatIsLeftComesAtTheEndOfThePass(t *testing.T) {
	b := begin(t, 5)
	first := b.state.Next.Bolt
	b.add(run.Trouble{Bolt: first, What: run.WouldNotTurn, Remedy: run.Leave})
	for range 4 {
		require.NotEqual(t, first, b.state.Next.Bolt)
		b.next()
	}
	require.Equal(t, first, b.state.Next.Bolt)
	require.Equal(t, 1, b.state.Next.Pass)
	b.refused(run.Trouble{Bolt: first, What: run.WouldNotTurn, Remedy: run.Leave}, refusal.NotNow)
	b.next()
	require.Equal(t, 2, b.state.Pass)
}

func TestCorrectionsStandForEntriesAndKeepThem(t *testing.T) {
	b := begin(t, 5)
	id := b.next()
	b.next()
	b.refused(run.Correction{Of: id}, refusal.NeedsReason)
	b.refused(run.Correction{Of: "nobody", Reason: "x"}, refusal.Unknown)
	b.refused(run.Correction{Of: id, Reason: "x", Instead: run.Pull{Bolt: 4, Pass: 1}}, refusal.Contradicts)
	b.add(run.Correction{Of: id, Reason: "not that bolt"})
	require.Equal(t, 1, b.state.Next.Bolt, "what was struck out is done again")
	require.Len(t, b.state.Effective, len(b.entries), "and stays on the record")
	b.refused(run.Correction{Of: id, Reason: "again"}, refusal.NotNow)
	trouble := b.add(run.Trouble{Bolt: 1, What: run.Overshot, Remedy: run.TryAgain})
	b.refused(run.Correction{Of: trouble, Reason: "x", Instead: run.Trouble{Bolt: 99}}, refusal.Contradicts)
	b.add(run.Correction{Of: trouble, Reason: "it was bolt 3"})
	again := b.next()
	b.add(run.Correction{Of: again, Reason: "read later", Instead: run.Pull{Bolt: 1, Pass: 1, Reading: unit.Of(55, unit.NewtonMetre), Confirmed: true}})
	require.True(t, b.state.Outside(), "a reading far off is a deviation")
}

func TestAFarReadingIsAskedAboutOnce(t *testing.T) {
	b := begin(t, 4)
	p := run.Pull{Bolt: b.state.Next.Bolt, Pass: 1, Reading: unit.Of(44, unit.NewtonMetre)}
	require.NoError(t, b.state.Accept(b.entry(p)), "ten percent is not far")
	p.Reading.Value = 44.1
	b.refused(p, refusal.FarReading)
	p.Confirmed = true
	b.add(p)
	require.Len(t, b.state.Deviations, 1)
	p = run.Pull{Bolt: b.state.Next.Bolt, Pass: 1, Reading: unit.Of(4000, unit.NewtonMetre), Confirmed: true}
	b.refused(p, refusal.TooLarge)
	p.Reading = unit.Of(40, unit.Millimetre)
	require.Error(t, b.state.Accept(b.entry(p)))
}

func TestPausedWorkWaits(t *testing.T) {
	b := begin(t, 4)
	b.add(run.Pause{Note: "phone"})
	b.refused(run.Pull{Bolt: b.state.Next.Bolt, Pass: 1}, refusal.NotNow)
	b.refused(run.Pause{}, refusal.NotNow)
	b.add(run.Resume{})
	b.next()
}

func TestAnOpenGapWantsAReason(t *testing.T) {
	b := begin(t, 4)
	b.through(run.StageProve)
	b.add(run.Measurement{Phase: run.After, Gaps: []float64{2, 3.5, 2, 2}})
	b.sign(fitter, run.Signature{Part: run.Made})
	b.person = inspector
	b.refused(run.Signature{Part: run.Checked}, refusal.NeedsReason)
	b.add(run.Signature{Part: run.Checked, Reason: "accepted by the maker"})
	require.Len(t, b.state.AllDeviations(), 2, "and the gap before was not measured")
}

// Whatever happens on the way, the state is the fold of its entries, every
// bolt is held in every pass before a round begins, and Ahead is the path
// that is then taken.
func TestAnyHistoryFoldsToItsState(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		b := begin(t, rapid.IntRange(3, 9).Draw(t, "bolts"))
		steps := rapid.IntRange(0, 80).Draw(t, "steps")
		for range steps {
			n := b.state.Next
			if n == nil {
				break
			}
			switch rapid.IntRange(0, 9).Draw(t, "what") {
			case 0:
				c := run.Trouble{Bolt: n.Bolt, What: run.Overshot, Remedy: rapid.SampledFrom([]run.Remedy{run.TryAgain, run.Replaced, run.Leave}).Draw(t, "remedy")}
				if b.state.Accept(b.entry(c)) == nil {
					b.add(c)
				}
			case 1:
				of := b.entries[rapid.IntRange(0, len(b.entries)-1).Draw(t, "of")].ID
				c := run.Correction{Of: of, Reason: "drawn"}
				if b.state.Accept(b.entry(c)) == nil {
					b.add(c)
				}
			case 2:
				if n.Round > 0 {
					b.add(run.Check{Bolt: n.Bolt, Round: n.Round, Moved: true})
				}
			default:
				ahead := b.state.Ahead()
				require.Equal(t, *n, ahead[0])
				b.next()
				if len(ahead) > 1 && b.state.Next != nil {
					require.Equal(t, ahead[1], *b.state.Next)
				}
			}
		}
		require.True(t, reflect.DeepEqual(run.Fold(b.plan, b.entries), b.state), "the state is not the fold of its entries")
		if b.state.Stage == run.StageCheck {
			for _, bolt := range b.state.Bolts {
				require.Equal(t, 3, bolt.Pass)
			}
		}
		// From anywhere, doing what is next gets to the proof.
		for i := 0; b.state.Stage != run.StageProve; i++ {
			require.Less(t, i, 400)
			if b.state.Stage == run.StageStopped {
				b.add(run.Decision{Reason: "go on"})
				continue
			}
			b.next()
		}
	})
}

func BenchmarkThen(b *testing.B) {
	k := begin(b, 40)
	k.through(run.StageCheck)
	e := k.entry(run.Check{Bolt: 1, Round: 1})
	b.ReportAllocs()
	for b.Loop() {
		k.state.Then(e)
	}
}

func ExampleFold() {
	s := run.Fold(follow(4), nil)
	fmt.Println(s.Stage, s.Open())
	// Output: tool up [no tool is chosen]
}
