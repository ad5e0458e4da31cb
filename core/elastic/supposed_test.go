package elastic_test

import (
	"math"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"dynacor/core/elastic"
	"dynacor/core/refusal"
)

// Joints that may be one of several are those: run i is of the i-th, with the luck that it has alone.
func TestSupposedJointsAreMadeInTurn(t *testing.T) {
	soft := pipe()
	soft.Foundation /= 4
	s := staged(24, 1e5, 30, 60, 100)
	alone := func(r elastic.Ring, friction, kept float64) []elastic.Made {
		made, _, err := elastic.Simulate([]elastic.Supposed{{Ring: r, Scatter: elastic.Scatter{Friction: friction, Tool: 0.04},
			Relaxation: kept}}, s, elastic.Trials{Runs: 30, Seed: 5, Closed: true})
		require.NoError(t, err)
		return made
	}
	a, b, c := alone(pipe(), 0.2, 0), alone(soft, 0.2, 0), alone(pipe(), 0.3, 0.97)
	both, loads, err := elastic.Simulate([]elastic.Supposed{{Ring: pipe(), Scatter: elastic.Scatter{Friction: 0.2, Tool: 0.04}},
		{Ring: pipe(), Scatter: elastic.Scatter{Friction: 0.3, Tool: 0.04}, Relaxation: 0.97},
		{Ring: soft, Scatter: elastic.Scatter{Friction: 0.2, Tool: 0.04}}}, s,
		elastic.Trials{Runs: 30, Seed: 5, Workers: 3, Closed: true})
	require.NoError(t, err)
	require.Len(t, loads, 30*24)
	for i, m := range both {
		require.Equal(t, [][]elastic.Made{a, c, b}[i%3][i], m, "run %d", i)
		require.True(t, m.Peak > 0 && m.Seen <= m.Moves && m.Moves <= m.Pulls)
		require.Equal(t, elastic.SpreadOf(loads[i*24:(i+1)*24]), m.Spread)
	}

	_, _, err = elastic.Simulate(nil, s, elastic.Trials{Runs: 1})
	require.ErrorIs(t, err, &refusal.Error{Code: refusal.Missing, Field: "supposed"})
	other := pipe()
	other.Bolts = 20
	_, _, err = elastic.Simulate([]elastic.Supposed{{Ring: pipe()}, {Ring: other}}, s, elastic.Trials{Runs: 1})
	require.ErrorIs(t, err, &refusal.Error{Code: refusal.Contradicts, Field: "supposed"})
}

// A joint of alike loads is slackest at that load; of others it lies between the least and the mean of them, as
// closely to the mean as the ring is stiff.
func TestSlackestLiesBetweenLeastAndMean(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		r := drawn(t)
		s := elastic.Schedule{Passes: []elastic.Pass{{Target: 1e5, Order: round(r.Bolts)}}}
		made, loads, err := elastic.Simulate([]elastic.Supposed{{Ring: r, Scatter: elastic.Scatter{Friction: 0.2, Tool: 0.03}}}, s,
			elastic.Trials{Runs: 2, Seed: rapid.Uint64().Draw(t, "seed"), Closed: true})
		require.NoError(t, err)
		for i, m := range made {
			require.LessOrEqual(t, m.Slackest, m.Mean*(1+1e-9), "%v", loads[i*r.Bolts:(i+1)*r.Bolts])
		}
	})
	rigid := pipe()
	rigid.Stiffness = 1e15
	made, _, err := elastic.Simulate([]elastic.Supposed{{Ring: rigid, Scatter: elastic.Scatter{Friction: 0.3}}}, staged(24, 1e5, 100),
		elastic.Trials{Runs: 5, Closed: true})
	require.NoError(t, err)
	for _, m := range made {
		require.InEpsilon(t, m.Mean, m.Slackest, 1e-2, "a rigid ring closes all round alike")
	}
}

// Loads of their own are pulled to: the ones of a single pass end even.
func TestEachPullHasItsLoad(t *testing.T) {
	r := pipe()
	loads, err := r.OnePass(cross(24), 1e5)
	require.NoError(t, err)
	p := elastic.Pass{Target: 1e5, Order: cross(24)}
	for _, b := range p.Order {
		p.Each = append(p.Each, loads[b-1])
	}
	o, err := r.Run(elastic.Schedule{Passes: []elastic.Pass{p}}, nil)
	require.NoError(t, err)
	for _, f := range o.Loads[0] {
		require.InEpsilon(t, 1e5, f, 1e-9)
	}
	for name, change := range map[string]func(*elastic.Pass){
		"too few":  func(p *elastic.Pass) { p.Each = p.Each[:3] },
		"together": func(p *elastic.Pass) { p.Together = 2 },
		"nothing":  func(p *elastic.Pass) { p.Each = append([]float64{0}, p.Each[1:]...) },
		"no load":  func(p *elastic.Pass) { p.Each = append([]float64{math.NaN()}, p.Each[1:]...) },
	} {
		wrong := p
		change(&wrong)
		_, err := r.Run(elastic.Schedule{Passes: []elastic.Pass{wrong}}, nil)
		require.Error(t, err, name)
	}
}

// Closure between the bolts is the sum of what each closes there, at whatever places.
func TestAroundIsTheSumOfAllBolts(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		r := drawn(t)
		places := rapid.IntRange(1, 90).Draw(t, "places")
		loads := make([]float64, r.Bolts)
		for i := range loads {
			loads[i] = rapid.Float64Range(0, 1e5).Draw(t, "load")
		}
		got, err := r.Around(loads, places)
		require.NoError(t, err)
		c := math.Pi * r.BoltCircle
		for p := range got {
			want := 0.0
			for i, f := range loads {
				apart := c * math.Abs(float64(p)/float64(places)-float64(i)/float64(r.Bolts))
				want += f * r.Closure(min(apart, c-apart))
			}
			require.InDelta(t, want, got[p], 1e-9*(1e5*r.Closure(0)*float64(r.Bolts)))
		}
	})
}
