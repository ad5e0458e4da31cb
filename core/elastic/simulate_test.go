package elastic_test

import (
	"math"
	"testing"

	"github.com/stretchr/testify/require"

	"dynacor/core/elastic"
)

// Without interaction a first pull has the mean and the deviation of the
// scatter formula, within the standard error of so many draws.
func TestMonteCarloIsTheScatterFormula(t *testing.T) {
	r := elastic.Ring{Bolts: 24, BoltCircle: 800, Foundation: 2600, Stiffness: 1e-3, Bolt: 1.9e-6}
	s := elastic.Schedule{Passes: []elastic.Pass{{Target: 1e5, Order: round(24)}}}
	within, squares := 0, 0.0
	const seeds = 40
	for seed := range uint64(seeds) {
		d, err := r.Simulate(s, elastic.Scatter{Friction: 0.3, Tool: 0.08}, elastic.Trials{Runs: 2000, Seed: seed, Workers: 2})
		require.NoError(t, err)
		z := (d.Mean - 1e5) / d.Error
		require.Less(t, math.Abs(z), 4.0)
		squares += z * z / seeds
		if math.Abs(z) <= 1 {
			within++
		}
		want := math.Sqrt((1+0.15*0.15)*(1+0.04*0.04) - 1) // half of √(a²+b²), and their product
		require.InDelta(t, want, d.Deviation, 4*want/math.Sqrt(2*24*2000)*1.5)
		require.InDelta(t, math.Hypot(0.3, 0.08)/2, d.Deviation, 0.002)
	}
	require.InDelta(t, 0.68*seeds, within, 4*math.Sqrt(0.68*0.32*seeds), "of 40 seeds two thirds within one standard error")
	require.InDelta(t, 1, squares, 4*math.Sqrt(2.0/seeds))
	d, err := r.Simulate(s, elastic.Scatter{Friction: 0.3, Tool: 0.08}, elastic.Trials{Runs: 10_000, Seed: 1})
	require.NoError(t, err)
	require.LessOrEqual(t, math.Abs(d.Mean-1e5), d.Error, "this seed: within its own standard error")
}

// The same seed gives the same result to the last bit on any number of workers.
func TestSameSeedSameResult(t *testing.T) {
	soft := elastic.Ring{Bolts: 16, BoltCircle: 470, Foundation: 64, Stiffness: 77e9, Bolt: 9e-7}
	for _, r := range []elastic.Ring{pipe(), soft} {
		s := staged(r.Bolts, 6e4, 30, 60, 100)
		s.Relaxation = 0.97
		s.Passes[1].Together = 2
		one, err := r.Simulate(s, elastic.Scatter{Friction: 0.25, Tool: 0.04}, elastic.Trials{Runs: 61, Seed: 9, Workers: 1})
		require.NoError(t, err)
		for _, workers := range []int{0, 2, 3, 7, 100} {
			d, err := r.Simulate(s, elastic.Scatter{Friction: 0.25, Tool: 0.04}, elastic.Trials{Runs: 61, Seed: 9, Workers: workers})
			require.NoError(t, err)
			require.Equal(t, one, d, "%d workers", workers)
		}
		other, err := r.Simulate(s, elastic.Scatter{Friction: 0.25, Tool: 0.04}, elastic.Trials{Runs: 61, Seed: 10})
		require.NoError(t, err)
		require.NotEqual(t, one.Mean, other.Mean)
	}
}

// With no scatter every run is the one run.
func TestSimulateWithoutScatterIsRun(t *testing.T) {
	r, s := pipe(), staged(24, 1e5, 30, 70, 100)
	s.Passes[1].Together, s.Relaxation = 2, 0.95
	o, err := r.Run(s, nil)
	require.NoError(t, err)
	d, err := r.Simulate(s, elastic.Scatter{}, elastic.Trials{Runs: 3, Seed: 4})
	require.NoError(t, err)
	for i, f := range o.Loads[len(o.Loads)-1] {
		require.InEpsilon(t, f, d.Bolts[i].Middle, 1e-9)
	}
	require.InDelta(t, float64(o.Rounds), d.Rounds, 1e-12)
	require.InDelta(t, float64(o.Pulls), d.Pulls, 1e-9)
	require.InDelta(t, float64(o.Moves), d.Moves, 1e-9)
	require.InDelta(t, o.Final.Deviation, d.Spread.Middle, 1e-12)
	require.Equal(t, o.Still, d.Still == 1)
	require.Zero(t, d.Loose)
}
