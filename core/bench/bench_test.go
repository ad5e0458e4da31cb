package bench_test

import (
	"fmt"
	"math"
	"slices"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"dynacor/core/bench"
	"dynacor/core/elastic"
	"dynacor/core/refusal"
	"dynacor/core/sequence"
)

// pipe is a made-up ring with another count of bolts.
func pipe(n int) bench.Subject {
	s := bench.MadeUp()
	s.Bolts = n
	s.Circle = bench.CircleOf(n, 24)
	return s
}

func tried(t *testing.T, s bench.Subject, ways ...bench.Way) []bench.Tried {
	out, err := bench.Try{Subject: s, Ways: ways, Runs: 500, Seed: 3, Workers: 2}.Run()
	require.NoError(t, err)
	return out
}

// The same question has the same answer, to the last bit, on any number of workers.
func TestTheSameLuckForAll(t *testing.T) {
	s, ways := pipe(16), bench.Worth(16, bench.UsualWay(16))
	require.Len(t, ways, 3)
	one, err := bench.Try{Subject: s, Ways: ways, Runs: 300, Seed: 9, Workers: 1}.Run()
	require.NoError(t, err)
	for _, workers := range []int{2, 5} {
		more, err := bench.Try{Subject: s, Ways: ways, Runs: 300, Seed: 9, Workers: workers}.Run()
		require.NoError(t, err)
		require.Equal(t, one, more)
	}
	// A way comes to the same beside another as alone.
	alone, err := bench.Try{Subject: s, Ways: ways[1:2], Runs: 300, Seed: 9, Workers: 1}.Run()
	require.NoError(t, err)
	require.Equal(t, one[1], alone[0])
}

// What is certain has no range, and what is not has the range of its ends.
func TestWhatIsNotCertainIsARange(t *testing.T) {
	s := pipe(12)
	w := bench.UsualWay(12)
	wide := tried(t, s, w)[0]
	require.Less(t, wide.Seats.Low, wide.Seats.High)
	require.NotEmpty(t, wide.Seats.Mostly)
	require.LessOrEqual(t, wide.Seats.Low, wide.Seats.All)
	require.LessOrEqual(t, wide.Seats.All, wide.Seats.High)

	for _, f := range []*bench.Figure{&s.Gasket, &s.Flange, &s.Bolt, &s.Friction, &s.Kept} {
		*f = bench.Certain(f.Middle, bench.ByHand, "")
	}
	sure := tried(t, s, w)[0]
	require.Equal(t, sure.Seats.Low, sure.Seats.High)
	require.Empty(t, sure.Seats.Mostly)
	require.Less(t, sure.Spread.High-sure.Spread.Low, wide.Spread.High-wide.Spread.Low)

	// Held at its ends, a figure spreads the shares no further than they are said to.
	for _, f := range []float64{s.Friction.Middle / 2, s.Friction.Middle * 1.25} {
		s.Friction = bench.Certain(f, bench.ByHand, "")
		end := tried(t, s, w)[0]
		require.InDelta(t, (wide.Seats.Low+wide.Seats.High)/2, end.Seats.All, (wide.Seats.High-wide.Seats.Low)/2+0.05)
	}
}

// The moments are the middle joint: the last of them is what a run without scatter comes to.
func TestMomentsAreTheMiddleJoint(t *testing.T) {
	for _, n := range []int{4, 12, 21, 40} {
		s := pipe(n)
		got := tried(t, s, bench.UsualWay(n))[0]
		require.Len(t, got.Moments, got.Middle.Pulls)
		schedule := got.Laid.Schedule
		schedule.Relaxation = s.Kept.Middle
		want, err := s.Middle().Run(schedule, nil)
		require.NoError(t, err)
		last := got.Moments[len(got.Moments)-1]
		require.Equal(t, want.Loads[len(want.Loads)-1], last.Loads)
		require.Zero(t, len(last.Around)%n, "places are at the bolts, too")
		per := len(last.Around) / n
		for b, w := range want.Closures {
			require.InEpsilon(t, w, last.Around[b*per], 1e-9)
		}
		require.Equal(t, slices.Min(last.Loads), last.Loads[last.Lowest-1])
		require.Equal(t, slices.Max(last.Loads), last.Loads[last.Highest-1])
		require.NotContains(t, last.Standing, bench.Coming)
		require.Contains(t, got.Moments[0].Standing, bench.Coming)
		require.GreaterOrEqual(t, got.Scale, got.Most)
	}
}

// A joint of stiff flanges is pressed evenly though its bolts are not; one of soft flanges is not.
func TestAStiffFlangeHelpsALowBolt(t *testing.T) {
	s := pipe(12)
	s.Needed = 0.93 * s.Load
	stiff, soft := s, s
	stiff.Flange = bench.Certain(1e15, bench.ByHand, "")
	soft.Flange = bench.Certain(1e8, bench.ByHand, "")
	w := bench.UsualWay(12)
	require.Greater(t, tried(t, stiff, w)[0].Seats.All, tried(t, soft, w)[0].Seats.All+0.2)
}

func TestAJointThatIsCrushed(t *testing.T) {
	s := pipe(12)
	s.Crushes = 0.9 * s.Load
	got := tried(t, s, bench.UsualWay(12))[0]
	require.Greater(t, got.Crushed.All, 0.99)
	require.Equal(t, bench.Bad, got.Crushed.Unwanted())
	require.Contains(t, got.Remarks[0], "crushes its gasket at bolt")
	s.Crushes = 10 * s.Load
	require.Equal(t, bench.Good, tried(t, s, bench.UsualWay(12))[0].Crushed.Unwanted())
	require.Equal(t, bench.Doubtful, bench.Share{All: 0.95}.Wanted())
}

func TestWaysAreLaidOut(t *testing.T) {
	for _, c := range []struct {
		way    bench.Way
		n      int
		passes int
		at     int // together
		round  []int
		fits   bool
	}{
		{bench.Way{School: "30-60-100", Order: sequence.Cross4, Rounds: 2}, 8, 3, 0, []int{1, 2, 3, 4, 5, 6, 7, 8}, true},
		{bench.Way{School: "30-60-100", Order: sequence.Cross4, Start: 3, Rounds: 2, Every: 2}, 8, 3, 0, []int{3, 5, 7, 1}, true},
		{bench.Way{School: "30-60-100", Order: sequence.Star, Tools: 4, Every: 4}, 8, 3, 4, []int{1, 5}, true},
		{bench.Way{School: "50-100", Order: sequence.Circular, Tools: 2}, 6, 2, 2, nil, true},
		{bench.Way{School: "quarters first", Order: sequence.Cross4}, 8, 4, 0, nil, false},
		{bench.Way{Shares: []float64{40, 100}, Order: sequence.Circular}, 5, 2, 0, nil, true},
	} {
		got, err := c.way.On(c.n, 1000)
		require.NoError(t, err, "%v", c.way)
		require.Len(t, got.Schedule.Passes, c.passes)
		require.Equal(t, c.at, got.Schedule.Passes[0].Together, "%v", c.way)
		require.Equal(t, c.fits, bench.Subject{}.Carries(c.way), "%v", c.way)
		if c.round != nil {
			require.Equal(t, c.round, got.Schedule.CheckOrder)
		}
		require.Equal(t, 1000.0, got.Schedule.Passes[c.passes-1].Target)
	}
	require.Equal(t, "40-100", bench.Way{Shares: []float64{40, 100}}.Words())
	require.Empty(t, bench.Way{School: "quarters first"}.OrderWords())
}

func TestWaysThatAreNone(t *testing.T) {
	for _, c := range []struct {
		way   bench.Way
		field string
	}{
		{bench.Way{School: "by feel"}, "school"}, {bench.Way{School: "even turns"}, "school"}, {bench.Way{Shares: []float64{50}}, "passes"},
		{bench.Way{School: "50-100", Order: sequence.Cross8}, "order"}, {bench.Way{School: "50-100", Order: sequence.Star, Start: 40}, "start"},
		{bench.Way{School: "50-100", Order: sequence.Star, Rounds: 99}, "rounds"},
		{bench.Way{School: "50-100", Order: sequence.Star, Tools: 3}, "tools"},
		{bench.Way{School: "50-100", Order: sequence.Star, Every: 3}, "every"},
	} {
		_, err := bench.Try{Subject: pipe(12), Ways: []bench.Way{c.way}, Runs: 100}.Run()
		var r *refusal.Error
		require.ErrorAs(t, err, &r, "%v", c.way)
		require.Equal(t, "ways.0", r.Field)
		_, err = c.way.On(12, 1000)
		require.ErrorAs(t, err, &r)
		require.Equal(t, c.field, r.Field, "%v", c.way)
	}
	_, err := bench.Way{School: "50-100", Order: sequence.Star, Tools: 4}.On(10, 1000)
	require.ErrorContains(t, err, "4 tools do not stand evenly round 10 bolts")
}

// What cannot be tried is refused with the number and the limit.
func TestWhatCannotBeTried(t *testing.T) {
	for name, c := range map[string]struct {
		change func(*bench.Try)
		field  string
		limit  float64
	}{
		"no bolts":           {func(t *bench.Try) { t.Subject.Bolts = 0 }, "bolts", 200},
		"10 000 bolts":       {func(t *bench.Try) { t.Subject.Bolts = 10_000 }, "bolts", 200},
		"a gasket of air":    {func(t *bench.Try) { t.Subject.Gasket.Low = 0.001 }, "gasket", 1},
		"a gasket of light":  {func(t *bench.Try) { t.Subject.Gasket = bench.Certain(1e9, bench.ByHand, "") }, "gasket", 1e6},
		"no number":          {func(t *bench.Try) { t.Subject.Flange.Middle = math.NaN() }, "flange", 1e6},
		"endless":            {func(t *bench.Try) { t.Subject.Flange.High = math.Inf(1) }, "flange", 1e16},
		"no scatter":         {func(t *bench.Try) { t.Subject.Friction = bench.Certain(0, bench.ByHand, "") }, "friction", 0.01},
		"all scatter":        {func(t *bench.Try) { t.Subject.Friction.High = 1 }, "friction", 0.8},
		"a perfect tool":     {func(t *bench.Try) { t.Subject.Tool = bench.Certain(0, bench.ByHand, "") }, "tool", 0.005},
		"creep that gains":   {func(t *bench.Try) { t.Subject.Kept.High = 1.2 }, "kept", 1},
		"no load":            {func(t *bench.Try) { t.Subject.Load = 0 }, "load", 100},
		"joints without end": {func(t *bench.Try) { t.Runs = 1e9 }, "runs", 20_000},
		"one joint":          {func(t *bench.Try) { t.Runs = 1 }, "runs", 20_000},
		"no ways":            {func(t *bench.Try) { t.Ways = nil }, "ways", 3},
		"four ways":          {func(t *bench.Try) { t.Ways = slices.Repeat(t.Ways, 4) }, "ways", 3},
	} {
		t.Run(name, func(t *testing.T) {
			try := bench.Try{Subject: pipe(12), Ways: []bench.Way{bench.UsualWay(12)}, Runs: 200}
			c.change(&try)
			_, err := try.Run()
			var r *refusal.Error
			require.ErrorAs(t, err, &r)
			require.Equal(t, c.field, r.Field)
			require.True(t, r.HasLimit && r.HasValue)
			require.Equal(t, c.limit, r.Limit)
			require.NotEmpty(t, r.Way)
		})
	}
	try := bench.Try{Subject: pipe(12), Ways: []bench.Way{bench.UsualWay(12)}, Runs: 200}
	try.Subject.Gasket.Low, try.Subject.Gasket.High = try.Subject.Gasket.High, try.Subject.Gasket.Low
	_, err := try.Run()
	require.ErrorContains(t, err, "do not rise")
}

// Whatever the figures are, a trial is refused or comes to shares and loads that can be.
func FuzzTry(f *testing.F) {
	f.Add(12, 2600.0, 60e9, 1.6e-6, 0.25, 0.04, 0.99, 1e5, 8e4)
	f.Add(0, -1.0, math.Inf(1), math.NaN(), 0.0, 2.0, 0.1, -5.0, 0.0)
	f.Fuzz(func(t *testing.T, n int, gasket, flange, bolt, friction, tool, kept, load, needed float64) {
		s := pipe(12)
		s.Bolts, s.Load, s.Needed = n, load, needed
		s.Gasket, s.Flange, s.Bolt = bench.About(gasket, 0.5, 2, bench.ByHand, ""), bench.Certain(flange, bench.ByHand, ""),
			bench.Certain(bolt, bench.ByHand, "")
		s.Friction, s.Tool, s.Kept = bench.Certain(friction, bench.ByHand, ""), bench.Certain(tool, bench.ByHand, ""),
			bench.Certain(kept, bench.ByHand, "")
		out, err := bench.Try{Subject: s, Ways: []bench.Way{bench.UsualWay(n)}, Runs: 100, Seed: 1}.Run()
		if err != nil {
			return
		}
		o := out[0]
		for _, v := range []float64{o.Seats.All, o.Still.All, o.Loose.All} {
			require.True(t, v >= 0 && v <= 1, "%v", o)
		}
		require.True(t, o.Lowest.Low >= 0 && o.Lowest.Middle <= o.Highest.High, "%v", o)
	})
}

// The fewest pulls come first, each way is as even as was asked for, and what cannot be is refused with the best there is.
func TestABetterWay(t *testing.T) {
	b := bench.Better{Subject: pipe(16), Even: 1.1, Rounds: 5, Runs: 200, Seed: 1}
	found, err := b.Ways()
	require.NoError(t, err)
	require.NotEmpty(t, found)
	for i, f := range found {
		require.LessOrEqual(t, f.Ratio, 1.1+1e-9)
		require.True(t, b.Subject.Carries(f.Way))
		require.Positive(t, f.Seats.All)
		if i > 0 {
			require.GreaterOrEqual(t, f.Until, found[i-1].Until)
		}
	}
	b.Subject.First = 25
	found, err = b.Ways()
	require.NoError(t, err)
	for _, f := range found {
		require.LessOrEqual(t, f.Laid.Shares[0], 25.0)
	}
	b.Even, b.Rounds = 1.000001, 0
	_, err = b.Ways()
	require.ErrorIs(t, err, &refusal.Error{Code: refusal.OutOfRange, Field: "even"})
	for _, even := range []float64{1, 0, -3, 4, math.NaN()} {
		_, err = bench.Better{Subject: pipe(16), Even: even, Runs: 200}.Ways()
		require.Error(t, err)
	}
	_, err = bench.Better{Subject: pipe(16), Even: 1.1, Rounds: 21, Runs: 200}.Single(sequence.Cross4)
	require.ErrorIs(t, err, &refusal.Error{Code: refusal.OutOfRange, Field: "rounds"})
}

// One pass with a load for each bolt ends even on the middle joint, and only there.
func TestASinglePassEndsEvenOnTheMiddleJoint(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		n := 4 * rapid.IntRange(2, 7).Draw(t, "quarter")
		s := pipe(n)
		s.Gasket = bench.About(rapid.Float64Range(500, 5000).Draw(t, "k"), 0.4, 2.5, bench.ByHand, "")
		s.Kept = bench.Certain(1, bench.ByHand, "")
		got, err := bench.Better{Subject: s, Even: 1.1, Rounds: 1, Runs: 100}.Single(sequence.Cross4)
		if err != nil {
			require.ErrorContains(t, err, "would carry nothing")
			return
		}
		last := got.Moments[len(got.Moments)-1].Loads
		for _, f := range last {
			require.InEpsilon(t, s.Load, f, 1e-6)
		}
		require.Len(t, got.Moments, n)
		require.Equal(t, slices.Max(got.Loads), got.Most)
		require.Less(t, got.Lowest.Middle, s.Load, "not where something is another")
	})
}

// Who no longer waits stops it.
func TestATrialIsStopped(t *testing.T) {
	done := make(chan struct{})
	close(done)
	_, err := bench.Try{Subject: pipe(24), Ways: []bench.Way{bench.UsualWay(24)}, Runs: bench.MostRuns, Done: done}.Run()
	require.ErrorIs(t, err, elastic.ErrStopped)
}

// Tools that work at once have an order in which they stand evenly; that is the one a plan would have.
func TestToolsAtOnceSayTheirOrder(t *testing.T) {
	got, err := bench.Way{School: "30-60-100", Order: sequence.Star, Start: 1, Tools: 4}.On(8, 1000)
	require.NoError(t, err)
	require.Equal(t, sequence.Cross4, got.Way.Order)
	order, err := sequence.Ring(got.Way.Order, 8, 1)
	require.NoError(t, err)
	require.Equal(t, order, got.Orders[0])
}

// A first stage that crushes the gasket on one side is found by nobody, and taken by nobody.
func TestAFirstStageThatCrushesIsNotCarried(t *testing.T) {
	s := bench.MadeUp()
	half := bench.UsualWay(12)
	half.School = "50-100"
	require.False(t, s.Carries(half), "on a spiral gasket")
	_, err := bench.Try{Subject: s, Ways: []bench.Way{half}, Runs: 100}.Take(0)
	require.ErrorIs(t, err, &refusal.Error{Code: refusal.Contradicts, Field: "way"})
	found, err := bench.Better{Subject: s, Even: 1.1, Rounds: 5, Runs: 100}.Ways()
	require.NoError(t, err)
	for _, f := range found {
		require.LessOrEqual(t, f.Laid.Shares[0], 30.0)
	}
	s.First = 0
	require.True(t, s.Carries(half))
}

func TestAWayIsTaken(t *testing.T) {
	try := bench.Try{Subject: pipe(12), Ways: bench.Worth(12, bench.UsualWay(12)), Runs: 200, Seed: 5}
	k, err := try.Take(0)
	require.NoError(t, err)
	require.Equal(t, bench.UsualWay(12), k.Way())
	require.Len(t, k.Ways, 3)
	all, err := try.Run()
	require.NoError(t, err)
	for i, o := range k.Ways {
		require.Equal(t, all[i].Outcome, o)
	}
	_, err = try.Take(1)
	require.ErrorContains(t, err, "A plan takes all bolts through each of its stages")
	for _, way := range []int{-1, 3} {
		_, err = try.Take(way)
		require.ErrorIs(t, err, &refusal.Error{Code: refusal.OutOfRange, Field: "way"})
	}
	lines := k.Lines()
	require.Len(t, lines, 7)
	require.Contains(t, lines[0], "on 200 joints each: a help, and no permission")
	require.Equal(t, "Taken: 30-60-100", lines[1])
	require.Contains(t, lines[2], "seats in ")
	k.Taken = 9
	require.Empty(t, k.Lines())
	require.Zero(t, bench.Kept{}.Way().Start)
}

// What was tried must be the joint, but for what a hand typed and the pace of people who go on pulling.
func TestWhatWasTriedIsTheJoint(t *testing.T) {
	own := pipe(12)
	own.Pull.Origin = bench.ByRecord
	got, err := own.Of(own)
	require.NoError(t, err)
	require.Equal(t, own.Circle, got.Circle)
	hand := own
	hand.Gasket = bench.Figure{Low: 1, Middle: 2, High: 3, Origin: bench.ByHand, From: "by the maker's sheet, I swear"}
	hand.Pull.Middle++
	got, err = hand.Of(own)
	require.NoError(t, err)
	require.Equal(t, "Typed on the Bench.", got.Gasket.From)
	for field, change := range map[string]func(*bench.Subject){
		"bolts":    func(s *bench.Subject) { s.Bolts = 8 },
		"load":     func(s *bench.Subject) { s.Needed = 0 },
		"gasket":   func(s *bench.Subject) { s.Gasket.Low *= 2 },
		"friction": func(s *bench.Subject) { s.Friction.Origin = bench.ByFit },
		"pass":     func(s *bench.Subject) { s.Pass.High = 1000 },
	} {
		other := own
		change(&other)
		_, err := other.Of(own)
		require.ErrorIs(t, err, &refusal.Error{Code: refusal.Contradicts, Field: field}, field)
	}
}

func TestWhatIsSupposed(t *testing.T) {
	for _, family := range []string{"spiral", "sheet", "soft", "metal ring", ""} {
		p := bench.PressedBy(family)
		require.Equal(t, family, p.Family)
		f := p.Foundation(20_000, 400)
		require.InEpsilon(t, p.Middle*20_000/(math.Pi*400), f.Middle, 1e-12)
		require.Contains(t, f.From, p.Long)
		require.Equal(t, bench.Supposing, f.Origin)
	}
	require.Equal(t, bench.PressedBy(""), bench.PressedBy("something else"))
	for d := 8.0; d < 60; d += 7 {
		s := pipe(8)
		s.Flange, s.Pull = bench.FlangeOf(d), bench.PullOf(d)
		require.NoError(t, s.Check(), "M%g", d)
	}
	own, listed := bench.FrictionOf(0.2, "paste", true), bench.FrictionOf(0.2, "paste", false)
	require.Less(t, own.High-own.Low, listed.High-listed.Low, "a trial of one's own is surer than a list")
	for _, spread := range []float64{0, 0.001, 5} {
		s := pipe(8)
		s.Friction = bench.FrictionOf(spread, "paste", false)
		require.NoError(t, s.Check(), "%g", spread)
	}
}

func TestASiteHasItsOwnPace(t *testing.T) {
	var took []float64
	for i := range bench.LeastPulls - 1 {
		took = append(took, float64(100-i))
	}
	_, ok := bench.PaceOf(took, "M20")
	require.False(t, ok, "too few")
	took = append(took, 10, 90, 85)
	f, ok := bench.PaceOf(took, "M20")
	require.True(t, ok)
	require.Equal(t, bench.ByRecord, f.Origin)
	require.True(t, f.Low <= f.Middle && f.Middle <= f.High && f.Low > 10)
	require.Contains(t, f.From, fmt.Sprint(len(took), " pulls of M20"))
}

func BenchmarkTry2000x3x24(b *testing.B) {
	s := pipe(24)
	for b.Loop() {
		_, err := bench.Try{Subject: s, Ways: bench.Worth(24, bench.UsualWay(24)), Runs: bench.UsualRuns, Seed: 1, Workers: 1}.Run()
		require.NoError(b, err)
	}
}

func ExampleTry() {
	s := bench.MadeUp()
	out, err := bench.Try{Subject: s, Ways: []bench.Way{bench.UsualWay(s.Bolts)}, Runs: 500, Seed: 1}.Run()
	if err != nil {
		fmt.Println(err)
		return
	}
	fmt.Println(out[0].Way.Words(), len(out[0].Moments), "pulls on the middle joint")
	// Output: 30-60-100 84 pulls on the middle joint
}
