package elastic

import (
	"math"
	"math/rand/v2"
)

// What a simulation counts with, written so that it ends in the same last digit
// on every processor: the standard library has e^x, ln x and with them its
// normal numbers by hand for some, Gonum its sums.

// exp returns e^x, to some 1e−16 of it times x.
func exp(x float64) float64 { return math.Exp2(x * math.Log2E) }

// log returns ln x of a number above zero.
func log(x float64) float64 {
	f, e := math.Frexp(x)
	return float64(e)*math.Ln2 + math.Log1p(f-1)
}

// MeanVariance returns the mean of v and its variance, as of a whole population.
func MeanVariance(v []float64) (mean, variance float64) {
	n := float64(len(v))
	for _, x := range v {
		mean += x
	}
	mean /= n
	for _, x := range v {
		variance += (x - mean) * (x - mean)
	}
	return mean, variance / n
}

// The ziggurat: strips of one area under e^(−x²/2), the lowest with the tail
// from its start on (Marsaglia and Tsang, 2000).
const (
	strips    = 128
	tailStart = 3.442619855899
	stripArea = 9.91256303526217e-3
	fraction  = 1 << 52 // a number drawn is a share of it, with a sign
)

var zig = func() (z struct {
	inside [strips]int64   // shares below it need no second look
	width  [strips]float64 // over fraction
	height [strips]float64
}) {
	x, right := tailStart, stripArea/exp(-tailStart*tailStart/2)
	z.inside[0], z.width[0], z.height[0] = int64(x/right*fraction), right/fraction, 1
	z.width[strips-1], z.height[strips-1] = x/fraction, exp(-x*x/2)
	for i := strips - 2; i >= 1; i-- {
		was := x
		x = math.Sqrt(-2 * log(stripArea/x+exp(-x*x/2)))
		z.inside[i+1] = int64(x / was * fraction)
		z.width[i], z.height[i] = x/fraction, exp(-x*x/2)
	}
	return z
}()

// normal draws a number from the standard normal distribution.
func normal(source *rand.PCG) float64 {
	for {
		u := source.Uint64()
		i, j := u%strips, int64(u)>>11
		x := float64(j) * zig.width[i]
		if max(j, -j) < zig.inside[i] {
			return x
		}
		if i == 0 {
			return math.Copysign(beyond(source), x)
		}
		if zig.height[i]+share(source)*(zig.height[i-1]-zig.height[i]) < exp(-x*x/2) {
			return x
		}
	}
}

// beyond draws from the tail, above tailStart.
func beyond(source *rand.PCG) float64 {
	for {
		x, y := -log(share(source))/tailStart, -log(share(source))
		if y+y >= x*x {
			return tailStart + x
		}
	}
}

// share draws a number above 0 and up to 1.
func share(source *rand.PCG) float64 { return float64(source.Uint64()>>11+1) / (1 << 53) }
