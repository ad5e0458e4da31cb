package elastic

import (
	"math"
	"math/rand/v2"
	"slices"
	"testing"

	"github.com/stretchr/testify/require"
	"gonum.org/v1/gonum/mat"
	"gonum.org/v1/gonum/stat"
	"gonum.org/v1/gonum/stat/distuv"
	"pgregory.net/rapid"
)

// What is written without the standard library's own e^x and ln x is them, but for the last digits.
func TestExponentAndLogarithm(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		x := rapid.Float64Range(-60, 60).Draw(t, "x")
		require.InEpsilon(t, math.Exp(x), exp(x), 1e-13)
		y := rapid.Float64Range(1e-300, 1e300).Draw(t, "y")
		require.InDelta(t, math.Log(y), log(y), 1e-13*max(1, math.Abs(math.Log(y))))
	})
	require.Zero(t, log(1))
	require.Equal(t, 1.0, exp(0))
}

// The ziggurat draws from the normal distribution: its moments, and no distance from it that so many draws
// would not have (Kolmogorov and Smirnov, at one in a thousand).
func TestNormalNumbersAreNormal(t *testing.T) {
	const n = 400_000
	var source rand.PCG
	source.Seed(7, 11)
	v := make([]float64, n)
	beyond := 0
	for i := range v {
		v[i] = normal(&source)
		if math.Abs(v[i]) > tailStart {
			beyond++
		}
	}
	mean, sd := stat.MeanStdDev(v, nil)
	require.InDelta(t, 0, mean, 4/math.Sqrt(n))
	require.InDelta(t, 1, sd, 4/math.Sqrt(2*n))
	require.InDelta(t, 0, stat.Skew(v, nil), 4*math.Sqrt(6.0/n))
	require.InDelta(t, 0, stat.ExKurtosis(v, nil), 4*math.Sqrt(24.0/n))
	tail := 2 * distuv.UnitNormal.Survival(tailStart) * n
	require.InDelta(t, tail, beyond, 4*math.Sqrt(tail), "as many in the tail as there are")
	slices.Sort(v)
	farthest := 0.0
	for i, x := range v {
		p := distuv.UnitNormal.CDF(x)
		farthest = max(farthest, math.Abs(p-float64(i)/n), math.Abs(p-float64(i+1)/n))
	}
	require.Less(t, farthest, 1.95/math.Sqrt(n))
}

// The triangle solves what Gonum's does, and refuses what has none.
func TestTheTriangleSolves(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		r := Ring{Bolts: rapid.IntRange(2, 24).Draw(t, "n"), BoltCircle: 600, Foundation: rapid.Float64Range(10, 1e4).Draw(t, "k"),
			Stiffness: 50e9, Bolt: 1.5e-6}
		md, err := newModel(r)
		require.NoError(t, err)
		members := []int{}
		for i := range r.Bolts {
			if rapid.Bool().Draw(t, "loaded") {
				members = append(members, i)
			}
		}
		if len(members) == 0 {
			members = []int{0}
		}
		sub, right := mat.NewSymDense(len(members), nil), mat.NewVecDense(len(members), nil)
		own := make([]float64, len(members))
		for a, i := range members {
			own[a] = rapid.Float64Range(-1, 1).Draw(t, "v")
			right.SetVec(a, own[a])
			for b, j := range members {
				sub.SetSym(min(a, b), max(a, b), md.m[i][j])
			}
		}
		factor, ok := factorised(md.m, members)
		require.True(t, ok)
		factor.solve(own)
		var chol mat.Cholesky
		require.True(t, chol.Factorize(sub))
		var want mat.VecDense
		require.NoError(t, chol.SolveVecTo(&want, right))
		for a := range own {
			require.InDelta(t, want.AtVec(a), own[a], 1e-9*mat.Norm(&want, math.Inf(1))+1e-12)
		}
	})
	_, ok := factorised([][]float64{{1, 2}, {2, 1}}, []int{0, 1})
	require.False(t, ok, "not positive definite")
	_, ok = factorised([][]float64{{math.NaN()}}, []int{0})
	require.False(t, ok)
}

func TestMeanAndVariance(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		v := rapid.SliceOfN(rapid.Float64Range(-1e6, 1e6), 1, 200).Draw(t, "v")
		mean, variance := MeanVariance(v)
		m, s := stat.PopMeanVariance(v, nil)
		require.InDelta(t, m, mean, 1e-8)
		require.InDelta(t, s, variance, 1e-9*max(s, 1)+1e-6)
	})
}
