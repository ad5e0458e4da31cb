package friction

import (
	"fmt"
	"math"

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
	ks, err := t.ks()
	if err != nil {
		return Tried{}, err
	}
	out := Tried{Ks: ks}
	out.Mean, out.Standard = stat.MeanStdDev(out.Ks, nil)
	out.Low, out.High = math.Max(out.Mean-2*out.Standard, LeastK), out.Mean+2*out.Standard
	out.Steady = out.Variation() <= steadyLot
	out.far()
	out.Words = out.words()
	return out, nil
}

// ks returns the nut factor of each bolt.
func (t Trial) ks() ([]float64, error) {
	d := t.Thread.Diameter
	if err := refusal.First(refusal.Within("d", d, mostDiameter, string(unit.Millimetre)), refusal.NotNegative("prevailing", t.Prevailing,
		string(unit.NewtonMetre))); err != nil {
		return nil, err
	}
	out := make([]float64, len(t.Bolts))
	for i, m := range t.Bolts {
		at := fmt.Sprintf("trial.%d", i)
		if err := refusal.First(refusal.Positive(at+".torque", m.Torque, string(unit.NewtonMetre)),
			refusal.Positive(at+".load", m.Load, string(unit.Newton))); err != nil {
			return nil, err
		}
		k := 1000 * (m.Torque - t.Prevailing) / (m.Load * d)
		if k < LeastK || k > MostK {
			return nil, refusal.Number(refusal.OutOfRange, at, k, LeastK, "",
				fmt.Sprintf("Bolt %d comes to K %.3g; bolts lie between %.2g and %.2g.", i+1, k, LeastK, MostK),
				"Check torque and load, and their units.")
		}
		out[i] = k
	}
	return out, nil
}

// mostCheck is how many bolts the check of a lot takes at the most; more are a trial.
const mostCheck = 10

// Checked is what a few bolts of a lot come to, on a day that it is worked with.
type Checked struct {
	Ks    []float64 // of each bolt
	Mean  float64
	Holds bool   // each lies where the trial found the lot
	Words string // what to make of it
}

// Check holds a few bolts of a lot against what its trial found, l.
func (t Trial) Check(l Lubricant) (Checked, error) {
	if n := len(t.Bolts); n < 1 || n > mostCheck {
		return Checked{}, refusal.Number(refusal.OutOfRange, "trial", float64(n), mostCheck, "bolts",
			fmt.Sprintf("A check of %d bolts; 1 to %d are measured.", n, mostCheck), "Measure one bolt or more; many are a new trial.")
	}
	ks, err := t.ks()
	if err != nil {
		return Checked{}, err
	}
	out := Checked{Ks: ks, Mean: stat.Mean(ks, nil), Holds: true}
	for i, k := range ks {
		if !unit.AtLeast(k, l.Low) || !unit.AtMost(k, l.High) {
			out.Holds = false
			out.Words = fmt.Sprintf("Bolt %d comes to K %.3g, and its trial found %.3g to %.3g: no longer the lot that was tried. "+
				"Try it anew.", i+1, k, l.Low, l.High)
			return out, nil
		}
	}
	out.Words = fmt.Sprintf("K %.3g, within the %.3g to %.3g of its trial.", out.Mean, l.Low, l.High)
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
		out = append(out, fmt.Sprintf("%.2g %% from bolt to bolt is wide: look for mixed parts, dirt or uneven paste before it is used.",
			v))
	}
	for _, i := range t.Far {
		out = append(out, fmt.Sprintf("Bolt %d (K %.3g) lies far from the others: measure it again, or say why it counts.", i, t.Ks[i-1]))
	}
	return out
}
