package reading

import "math"

// Example returns raw readings, n of them, that come to an answer: a form read as it
// should be.
func (f Form) Example(n int, answer float64, g Given) []float64 {
	switch f {
	case RunOut:
		out := make([]float64, n)
		for i := range n - 1 {
			out[i] = answer / 2 * (1 - math.Cos(2*math.Pi*float64(i)/float64(n-1)))
		}
		return out
	case Plane:
		out := make([]float64, n)
		for i := range out {
			out[i] = 2
		}
		out[0] += answer
		return out
	case Opposite:
		out := make([]float64, n)
		out[0] = answer
		return out
	case Level:
		return []float64{answer, 1000, -answer, 1000}
	case Square:
		return []float64{1000 + answer, 1000}
	case Slope:
		return []float64{answer, 0, 1000}
	case Deflection:
		return []float64{1000 * math.Tan(answer*math.Pi/180), 1000}
	case Rate:
		return []float64{2 * answer, 2}
	case Charge:
		return []float64{answer, 20, 20}
	case Pressure:
		start := max(g.Target, answer+1)
		return []float64{start, start - answer, 20, 20}
	case Diameters:
		return []float64{answer * g.Over}
	case Sum:
		for _, x := range g.Before {
			answer -= x
		}
		return []float64{max(0, answer)}
	case Change:
		if k := len(g.Before); k > 0 {
			answer += g.Before[k-1]
		}
		return []float64{max(0, answer)}
	}
	out := make([]float64, n)
	for i := range out {
		out[i] = answer
	}
	return out
}
