package proof

import (
	"fmt"
	"math"

	"dynacor/core/refusal"
)

// Circle is what readings at equal angles round a circle come to.
type Circle struct {
	Mean      float64
	Total     float64 // indicator reading, max − min
	Amplitude float64 // of the first harmonic: how far it is out
	Angle     float64 // degrees clockwise from the top: where the readings are highest; 0 where it is not out
}

// ReadCircle returns the mean, the total indicator reading and the first
// harmonic of readings clockwise from the top: a = 2/n·Σr·cos, b = 2/n·Σr·sin,
// amplitude √(a² + b²). It takes four readings to tell how far a circle is out.
func ReadCircle(readings []float64) (Circle, error) {
	n := float64(len(readings))
	if n < 4 {
		return Circle{}, refusal.Number(refusal.TooSmall, "readings", n, 4, "readings",
			fmt.Sprintf("%g readings; it takes at least four round the circle.", n), "Read at the four quarters.")
	}
	least, most, sum, a, b := math.Inf(1), math.Inf(-1), 0.0, 0.0, 0.0
	for i, r := range readings {
		if err := refusal.Finite(fmt.Sprintf("readings.%d", i), r); err != nil {
			return Circle{}, err
		}
		sin, cos := math.Sincos(2 * math.Pi * float64(i) / n)
		least, most, sum, a, b = math.Min(least, r), math.Max(most, r), sum+r, a+r*cos, b+r*sin
	}
	out := Circle{Mean: sum / n, Total: most - least, Amplitude: 2 / n * math.Hypot(a, b)}
	if out.Amplitude < 1e-12*math.Max(math.Abs(most), math.Abs(least)) {
		out.Amplitude = 0 // what rounding leaves of readings that are all alike
	}
	if out.Amplitude > 0 {
		out.Angle = math.Mod(math.Atan2(b, a)*180/math.Pi+360, 360)
	}
	return out, nil
}
