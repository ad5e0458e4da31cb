package friction

import (
	"fmt"
	"math"
	"strings"

	"gonum.org/v1/gonum/stat"

	"dynacor/core/refusal"
	"dynacor/core/thread"
	"dynacor/core/unit"
)

// Measured is one bolt of a trial: the torque applied, N·m, and the load it
// gave, N, read by elongation or with a load cell.
type Measured struct{ Torque, Load float64 }

// The bounds of a trial: fewer bolts say nothing of the scatter.
const (
	LeastTrial = 5
	MostTrial  = 50
)

// How far the nut factors of a lot may lie apart, as standard deviation over mean.
const (
	steadyLot = 0.06 // class K2 of structural sets (EN 14399-1): fit for the torque method
	looseLot  = 0.12 // beyond, something differs from bolt to bolt
)

// farOff is how many standard deviations of the others a bolt lies away before it is
// pointed at.
const farOff = 4

// Trial is pairs of torque and load of one lot on one thread. Prevailing (N·m), what
// the nut takes for itself, is taken off each torque first.
type Trial struct {
	Thread     thread.Thread
	Prevailing float64
	Bolts      []Measured
}

// Tried is what a trial comes to.
type Tried struct {
	Ks             []float64 // of each bolt
	Mean, Standard float64   // and the standard deviation of the lot
	Low, High      float64   // two standard deviations either side
	Steady         bool      // within what the torque method asks of a lot
	Far            []int     // bolts, from 1, that lie far from the others
	Words          []string  // what to make of it
}

// Variation is the standard deviation as a share of the mean.
func (t Tried) Variation() float64 { return t.Standard / t.Mean }

// Lubricant returns the condition that a trial gives.
func (t Tried) Lubricant(name, source string) Lubricant {
	return Lubricant{Name: name, Short: name, Low: t.Low, Nominal: t.Mean, High: t.High, Origin: SiteTrial, Source: source}
}

// Judge returns K = 1000·(T − Tp)/(F·d) of each bolt, their mean, two standard
// deviations either side, and what to make of them.
func (t Trial) Judge() (Tried, error) {
	if n := len(t.Bolts); n < LeastTrial || n > MostTrial {
		return Tried{}, refusal.Number(refusal.TooSmall, "trial", float64(n), LeastTrial, "bolts",
			fmt.Sprintf("A trial of %d bolts: %d to %d say how far the lot scatters.", n, LeastTrial, MostTrial), "Measure more bolts.")
	}
	d := t.Thread.Diameter
	if err := refusal.First(refusal.Within("d", d, mostDiameter, string(unit.Millimetre)), refusal.NotNegative("prevailing", t.Prevailing,
		string(unit.NewtonMetre))); err != nil {
		return Tried{}, err
	}
	out := Tried{Ks: make([]float64, len(t.Bolts))}
	for i, m := range t.Bolts {
		at := fmt.Sprintf("trial.%d", i)
		if err := refusal.First(refusal.Positive(at+".torque", m.Torque, string(unit.NewtonMetre)),
			refusal.Positive(at+".load", m.Load, string(unit.Newton))); err != nil {
			return Tried{}, err
		}
		k := 1000 * (m.Torque - t.Prevailing) / (m.Load * d)
		if k < LeastK || k > MostK {
			return Tried{}, refusal.Number(refusal.OutOfRange, at, k, LeastK, "",
				fmt.Sprintf("Bolt %d comes to K %.3g; bolts lie between %.2g and %.2g.", i+1, k, LeastK, MostK),
				"Check torque and load, and their units.")
		}
		out.Ks[i] = k
	}
	out.Mean, out.Standard = stat.MeanStdDev(out.Ks, nil)
	out.Low, out.High = math.Max(out.Mean-2*out.Standard, LeastK), out.Mean+2*out.Standard
	out.Steady = out.Variation() <= steadyLot
	out.far()
	out.Words = out.words()
	return out, nil
}

// far finds the bolts that lie far from the others.
func (t *Tried) far() {
	rest := make([]float64, 0, len(t.Ks))
	for i, k := range t.Ks {
		rest = append(append(rest[:0], t.Ks[:i]...), t.Ks[i+1:]...)
		mean, sd := stat.MeanStdDev(rest, nil)
		if math.Abs(k-mean) > math.Max(farOff*sd, 0.02*mean) {
			t.Far = append(t.Far, i+1)
		}
	}
}

func (t Tried) words() []string {
	v := 100 * t.Variation()
	var out []string
	switch {
	case t.Steady:
		out = append(out, fmt.Sprintf("The lot is steady: %.2g %% from bolt to bolt, within the 6 %% of the torque method.", v))
	case t.Variation() <= looseLot:
		out = append(out, fmt.Sprintf("%.2g %% from bolt to bolt: fit for a wide band, not for the torque method, which allows 6 %%.", v))
	default:
		out = append(out, fmt.Sprintf("%.2g %% from bolt to bolt is wide: look for mixed parts, dirt or uneven paste before it is used.", v))
	}
	for _, i := range t.Far {
		out = append(out, fmt.Sprintf("Bolt %d (K %.3g) lies far from the others: measure it again, or say why it counts.", i, t.Ks[i-1]))
	}
	return out
}

// FromTrial returns what a trial on bolts of diameter d (mm) shows.
func FromTrial(name, source string, d, prevailing float64, trial []Measured) (Lubricant, error) {
	t, err := Trial{Thread: thread.Thread{Diameter: d}, Prevailing: prevailing, Bolts: trial}.Judge()
	if err != nil {
		return Lubricant{}, err
	}
	l := t.Lubricant(strings.TrimSpace(name), source)
	return l, l.Check()
}
