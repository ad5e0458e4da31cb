package bench

import (
	"fmt"
	"math"

	"dynacor/core/elastic"
)

// Like makes what is supposed of a ring's gasket surer by what fits to signed
// joints of its kind say: how much stiffer, or less stiff, than supposed those
// were. They count by their uncertainties, and by how far they lie apart from one
// another; fits that say nothing are left out. It is f where none says anything.
func Like(f Figure, fits []Fitted) Figure {
	var sum, weights float64
	readings, joints := 0, 0
	each := make([]float64, 0, len(fits))
	for _, x := range fits {
		u := math.Log(x.Gasket.High/x.Gasket.Low) / 4
		if !x.Says || !(u > 0) {
			continue
		}
		w := 1 / (u * u)
		sum, weights = sum+w*math.Log(x.Stiffer), weights+w
		readings, joints = readings+x.Readings, joints+1
		each = append(each, math.Log(x.Stiffer))
	}
	if joints == 0 {
		return f
	}
	mean := sum / weights
	u := 1 / math.Sqrt(weights)
	if joints > 1 {
		_, variance := elastic.MeanVariance(each)
		u = max(u, math.Sqrt(variance/float64(joints-1)))
	}
	return Figure{f.Middle * math.Exp(mean-2*u), f.Middle * math.Exp(mean), f.Middle * math.Exp(mean+2*u), ByFit,
		fmt.Sprintf("Fitted to %d readings of signed joints of this kind: %d joints.", readings, joints)}
}
