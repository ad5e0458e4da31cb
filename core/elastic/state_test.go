package elastic

import (
	"math"
	"slices"
	"testing"

	"github.com/stretchr/testify/require"
	"gonum.org/v1/gonum/stat"
	"pgregory.net/rapid"
)

func drawRing(t *rapid.T) Ring {
	return Ring{
		Bolts:      rapid.IntRange(2, 20).Draw(t, "n"),
		BoltCircle: rapid.Float64Range(80, 1500).Draw(t, "circle"),
		Foundation: math.Pow(10, rapid.Float64Range(1.3, 4.5).Draw(t, "log k")),
		Stiffness:  math.Pow(10, rapid.Float64Range(8, 12).Draw(t, "log EI")),
		Bolt:       math.Pow(10, rapid.Float64Range(-6.5, -5.3).Draw(t, "log bolt")),
	}
}

// lawful checks the complementarity conditions from the matrices alone.
func lawful(t require.TestingT, s *state) {
	a, f := s.advances(), make([]float64, s.n)
	s.loads(f)
	scale := 0.0
	for i := range a {
		scale = max(scale, math.Abs(a[i]), s.m[i][i]*f[i])
	}
	for i := range f {
		require.GreaterOrEqual(t, f[i], 0.0)
		closure := 0.0
		for j := range f {
			closure += s.c[i][j] * f[j]
		}
		gap := closure + s.bolt*f[i] - a[i]
		require.GreaterOrEqual(t, gap, -1e-9*scale, "the nut stands off or bears, it never sinks in")
		if f[i] > 0 {
			require.InDelta(t, 0, gap, 1e-9*scale, "a loaded bolt bears")
		}
	}
}

// Whatever is done in whatever order, each pull leaves a lawful state, brings
// its own bolt to its load or leaves it above, and turns no other nut.
func TestEveryPullIsLawful(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		r := drawRing(t)
		md, err := newModel(r)
		require.NoError(t, err)
		s := md.begin()
		for range rapid.IntRange(1, 30).Draw(t, "pulls") {
			before, f := s.advances(), make([]float64, s.n)
			switch what := rapid.IntRange(0, 9).Draw(t, "what"); {
			case what == 0:
				s.relax(rapid.Float64Range(0.5, 1).Draw(t, "kept"))
			case what < 3 && r.Bolts > 3:
				load := rapid.Float64Range(1e3, 2e5).Draw(t, "load")
				pair := []int{rapid.IntRange(0, 1).Draw(t, "first"), rapid.IntRange(2, r.Bolts-1).Draw(t, "second")}
				s.together(pair, []float64{load, load})
				for _, i := range pair {
					require.GreaterOrEqual(t, s.load(i), load*(1-1e-9))
				}
			default:
				i, load := rapid.IntRange(0, r.Bolts-1).Draw(t, "bolt"), rapid.Float64Range(1e3, 2e5).Draw(t, "load")
				carried := s.load(i)
				advance := s.bring(i, load)
				require.InDelta(t, max(load, carried), s.load(i), 1e-6*load)
				after := s.advances()
				for j := range after {
					want := before[j]
					if j == i {
						want += advance
					}
					require.InDelta(t, want, after[j], 1e-9*(1+math.Abs(want)), "nut %d", j+1)
				}
				require.GreaterOrEqual(t, advance, 0.0)
			}
			lawful(t, s)
			s.loads(f)
		}
	})
}

// The way along the pull and the solution at its end are the same thing.
func TestPullingAndSettlingAgree(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		md, err := newModel(drawRing(t))
		require.NoError(t, err)
		way, end := md.begin(), md.begin()
		for range rapid.IntRange(1, 12).Draw(t, "pulls") {
			i, load := rapid.IntRange(0, md.n-1).Draw(t, "bolt"), rapid.Float64Range(1e3, 2e5).Draw(t, "load")
			way.bring(i, load)
			end.together([]int{i}, []float64{load})
			f, g := make([]float64, md.n), make([]float64, md.n)
			way.loads(f)
			end.loads(g)
			require.InDeltaSlice(t, f, g, 1e-5*load)
		}
	})
}

// Forgetting what was met changes nothing.
func TestForgettingStatesChangesNothing(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		r := drawRing(t)
		keeps, err := newModel(r)
		require.NoError(t, err)
		forgets, err := newModel(r)
		require.NoError(t, err)
		forgets.most = 2
		a, b := keeps.begin(), forgets.begin()
		for range rapid.IntRange(1, 20).Draw(t, "pulls") {
			i, load := rapid.IntRange(0, r.Bolts-1).Draw(t, "bolt"), rapid.Float64Range(1e3, 2e5).Draw(t, "load")
			require.Equal(t, a.bring(i, load), b.bring(i, load))
			require.Equal(t, a.z, b.z)
		}
		a.reset()
		b.reset()
		a.bring(0, 5e4)
		b.bring(0, 5e4)
		require.Equal(t, a.z, b.z)
	})
}

// The quantiles are those of the sorted values.
func TestLikelyIsOfTheSortedValues(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		v := rapid.SliceOfN(rapid.Float64Range(0, 9).Filter(func(x float64) bool { return x == x }), 1, 300).Draw(t, "v")
		if rapid.Bool().Draw(t, "many alike") {
			for i := range v {
				v[i] = math.Floor(v[i])
			}
		}
		sorted := slices.Clone(v)
		slices.Sort(sorted)
		got := LikelyOf(v)
		for _, c := range []struct{ share, got float64 }{{0.05, got.Low}, {0.5, got.Middle}, {0.95, got.High}} {
			require.Equal(t, stat.Quantile(c.share, stat.Empirical, sorted, nil), c.got)
		}
	})
}
