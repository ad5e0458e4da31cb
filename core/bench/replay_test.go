package bench_test

import (
	"math"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/require"

	"dynacor/core/bench"
	"dynacor/core/elastic"
	"dynacor/core/refusal"
	"dynacor/core/sequence"
)

// made is a run in the order of the cross: stages, and so many rounds.
func made(s bench.Subject, rounds int, shares ...float64) bench.Replay {
	r := bench.Replay{Subject: s, Pitch: 3, Runs: 200, Seed: 1}
	order, _ := sequence.Ring(sequence.Cross4, s.Bolts, 1)
	for _, share := range shares {
		for _, b := range order {
			r.Pulls = append(r.Pulls, bench.Pull{Bolt: b, Share: share})
		}
	}
	for round := range rounds {
		for b := range s.Bolts {
			r.Pulls = append(r.Pulls, bench.Pull{Bolt: b + 1, Share: 100, Round: round + 1, Moved: round == 0})
		}
	}
	return r
}

// A run that was made as it was planned comes to what the plan's trial comes to.
func TestARunIsReplayed(t *testing.T) {
	s := pipe(12)
	r := made(s, 1, 30, 60, 100)
	got, err := r.Run()
	require.NoError(t, err)
	way := bench.Way{School: "30-60-100", Order: sequence.Cross4, Rounds: 1}
	want, err := bench.Try{Subject: s, Ways: []bench.Way{way}, Runs: 200, Seed: 1}.Run()
	require.NoError(t, err)
	require.Len(t, got.Moments, len(want[0].Moments))
	for i, m := range got.Moments {
		require.Equal(t, want[0].Moments[i].Loads, m.Loads)
		require.Equal(t, want[0].Moments[i].Round, m.Round)
	}
	require.Len(t, got.Rounds, 3, "after the passes, after its round, after one more")
	require.Equal(t, want[0].Lowest, got.Rounds[1].Lowest)
	require.Equal(t, []int{0, 1, 2}, []int{got.Rounds[0].Round, got.Rounds[1].Round, got.Rounds[2].Round})
	require.Equal(t, 12, got.Rounds[1].Moved)
	require.True(t, got.Rounds[1].Made && !got.Rounds[2].Made)
	require.Greater(t, got.Rounds[1].Lowest.Middle, got.Rounds[0].Lowest.Middle, "a round lifts the lowest")
	require.Positive(t, got.Rounds[1].Expected)
	require.Less(t, got.Rounds[2].Expected, got.Rounds[1].Expected, "less moves in each")
	require.Len(t, got.Bolts, 12)
	for _, b := range got.Bolts {
		require.True(t, b.Likely.Low <= b.Middle && b.Middle <= b.High && b.Low >= 0 && b.Low <= 1)
	}
	require.NotEmpty(t, got.Remarks)
}

// A bolt that was left out is the likeliest to be low.
func TestABoltThatWasLeftOutIsLow(t *testing.T) {
	r := made(pipe(12), 0, 30, 60, 100)
	for i := range r.Pulls {
		if r.Pulls[i].Bolt == 5 && r.Pulls[i].Share == 100 {
			r.Pulls[i].Ratio = 0.55
		}
	}
	got, err := r.Run()
	require.NoError(t, err)
	for b, a := range got.Bolts {
		if b != 4 {
			require.Less(t, a.Low, got.Bolts[4].Low)
		}
	}
	require.Contains(t, got.Remarks[0], "One more check round would likely have brought the lowest bolt")
	require.Contains(t, got.Remarks[1], "Bolt 5 is the likeliest to be low")
}

// read lets a run of which the truth is known be read: the turns of its pulls and what its nuts went on at.
func read(t *testing.T, r *bench.Replay, truth bench.Subject, higher, offset, noise float64, seed uint64) {
	random := rand.New(rand.NewPCG(seed, 0))
	s := elastic.Schedule{Passes: []elastic.Pass{}}
	for _, p := range r.Pulls {
		last := len(s.Passes) - 1
		target := higher * truth.Load * p.Share / 100
		if last < 0 || s.Passes[last].Target != target {
			s.Passes = append(s.Passes, elastic.Pass{Target: target})
			last++
		}
		s.Passes[last].Order = append(s.Passes[last].Order, p.Bolt)
	}
	s.Relaxation = truth.Kept.Middle
	down, i := make([]float64, truth.Bolts), 0
	o, err := truth.Middle().Run(s, func(p elastic.Pulled) {
		b := p.Bolts[0] - 1
		down[b] += p.Advance
		turn := p.Advance
		if r.Pulls[i].Round == 0 {
			turn = down[b] - offset
		}
		r.Pulls[i].Angle = max(turn/r.Pitch*360+noise*random.NormFloat64(), 0)
		i++
	})
	require.NoError(t, err)
	for b := 0; b < truth.Bolts; b += 3 {
		ratio := o.Loads[len(o.Loads)-1][b] / (higher * truth.Load)
		r.Residual = append(r.Residual, bench.Residual{Bolt: b + 1, Ratio: ratio * (1 + 0.02*noise*random.NormFloat64())})
	}
}

// From turns and residual torques that are read without error the stiffness comes back, and the friction; from such with
// error within what it is said to be known to.
func TestReadingsSayWhatTheGasketIs(t *testing.T) {
	for _, c := range []struct{ stiffer, higher float64 }{{1, 1}, {0.45, 1.1}, {2.2, 0.9}} {
		s := pipe(12)
		truth := s
		truth.Gasket = bench.Certain(s.Gasket.Middle*c.stiffer, bench.ByHand, "")
		r := made(s, 1, 30, 60, 100)
		read(t, &r, truth, c.higher, 0.05, 0, 1)
		got, err := r.Fit()
		require.NoError(t, err)
		require.True(t, got.Says)
		require.InEpsilon(t, truth.Gasket.Middle, got.Gasket.Middle, 0.1, "%v", c)
		require.InDelta(t, c.higher, got.Friction.Middle, 0.05, "%v", c)
		require.Less(t, got.Misfit, 0.3)

		// The next joint of the kind is supposed by it.
		next := pipe(16)
		was := next.Gasket
		next.Gasket = bench.Like(was, []bench.Fitted{got, got})
		require.InEpsilon(t, c.stiffer*was.Middle, next.Gasket.Middle, 0.1)
		require.Less(t, next.Gasket.High/next.Gasket.Low, was.High/was.Low)
		require.Equal(t, bench.ByFit, next.Gasket.Origin)
		mute := got
		mute.Says = false
		require.Equal(t, was, bench.Like(was, []bench.Fitted{mute}))
		require.Equal(t, was, bench.Like(was, nil))

		within := 0
		const runs = 30
		for seed := range uint64(runs) {
			r := made(s, 1, 30, 60, 100)
			read(t, &r, truth, c.higher, 0.05, 1, seed)
			got, err := r.Fit()
			require.NoError(t, err)
			require.Less(t, got.Gasket.High/got.Gasket.Low, s.Gasket.High/s.Gasket.Low, "surer than what was supposed")
			if got.Gasket.Low <= truth.Gasket.Middle && truth.Gasket.Middle <= got.Gasket.High {
				within++
			}
		}
		require.GreaterOrEqual(t, within, runs*8/10, "%v: 19 of 20 are wanted, and what was supposed pulls a little", c)
	}
}

func TestWhatCannotBeFitted(t *testing.T) {
	r := made(pipe(12), 1, 30, 60, 100)
	_, err := r.Fit()
	require.ErrorIs(t, err, &refusal.Error{Code: refusal.Missing, Field: "readings"})
	r.Pulls[3].Angle, r.Pulls[4].Angle, r.Pulls[5].Angle, r.Pulls[6].Angle = 20, 21, 22, 23
	r.Pitch = 0
	_, err = r.Fit()
	require.Error(t, err)
	for name, change := range map[string]func(*bench.Replay){
		"no pulls":     func(r *bench.Replay) { r.Pulls = nil },
		"another ring": func(r *bench.Replay) { r.Pulls[7].Bolt = 13 },
		"no joints":    func(r *bench.Replay) { r.Runs = 1 },
	} {
		r := made(pipe(12), 1, 30, 60, 100)
		change(&r)
		_, err := r.Run()
		require.Error(t, err, name)
		_, err = r.Fit()
		require.Error(t, err, name)
	}
	require.False(t, math.IsNaN(pipe(12).Load))
}
