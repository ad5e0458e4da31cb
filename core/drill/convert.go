package drill

import (
	"fmt"
	"math"
	"math/rand/v2"

	"dynacor/core/unit"
)

// Conversion asks what a value is in another unit.
type Conversion struct {
	Value float64
	From  unit.Unit
	To    unit.Unit
}

// readable is how near a number must come, as a share: what people read off a
// scale.
const readable = 0.01

// converted are the pairs that people meet on charts and gauges, with the range
// that each is met in and the step that it is read in.
var converted = []struct {
	from, to          unit.Unit
	least, most, step float64
}{
	{unit.FootPound, unit.NewtonMetre, 20, 1000, 5}, {unit.NewtonMetre, unit.FootPound, 20, 1500, 10},
	{unit.InchPound, unit.NewtonMetre, 40, 600, 10}, {unit.NewtonMetre, unit.InchPound, 5, 60, 1},
	{unit.KilogramMetre, unit.NewtonMetre, 2, 60, 1}, {unit.Bar, unit.PSI, 20, 700, 10}, {unit.PSI, unit.Bar, 300, 10_000, 100},
	{unit.Megapascal, unit.Bar, 2, 70, 1}, {unit.Inch, unit.Millimetre, 0.25, 6, 0.25}, {unit.Millimetre, unit.Inch, 10, 150, 5},
	{unit.Kip, unit.Kilonewton, 5, 120, 5}, {unit.Kilonewton, unit.PoundForce, 10, 300, 10},
}

func newConversion(r *rand.Rand) Conversion {
	c := converted[r.IntN(len(converted))]
	return Conversion{unit.Round(c.least+r.Float64()*(c.most-c.least), c.step), c.from, c.to}
}

func (c Conversion) judge(answer float64) (Judged, error) {
	right, err := unit.Convert(c.Value, c.From, c.To)
	if err != nil {
		return Judged{}, err
	}
	one, err := unit.Convert(1, c.From, c.To)
	if err != nil {
		return Judged{}, err
	}
	off := math.Abs(answer-right) / math.Abs(right)
	out := Judged{Holds: off <= readable, Right: right,
		Why: fmt.Sprintf("1 %s is %.5g %s: %.6g %s are %.4g %s.", c.From, one, c.To, c.Value, c.From, right, c.To)}
	if back, err := unit.Convert(c.Value, c.To, c.From); err == nil && !out.Holds && math.Abs(answer-back) <= readable*math.Abs(back) {
		out.Why = fmt.Sprintf("That is the other way round. 1 %s is %.5g %s: %.6g %s are %.4g %s.", c.From, one, c.To, c.Value, c.From, right,
			c.To)
	}
	return out, nil
}
