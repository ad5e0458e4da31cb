package drill

import (
	"fmt"
	"math"
	"math/rand/v2"
	"slices"

	"dynacor/core/proof"
	"dynacor/core/trace"
	"dynacor/core/unit"
)

// About is what is looked at.
type About string

// What there is to look at.
const (
	ATrace  About = "a trace"
	AGapSet About = "a gap set"
	AKit    About = "a kit"
	APass   About = "a pass"
)

// Flawed is something in which one thing is wrong, or nothing. The answer is which of the options, from 0.
type Flawed struct {
	About   About
	Says    string   // what it is of
	Options []string // what may be wrong
	Right   []int    // which of them it is; of two bolts that changed places both
	Why     string

	Points []trace.Point // of a trace
	Unit   unit.Unit
	Target float64 // that is pulled to, of a kit too
	Low    float64 // that is to be reached, at the least
	High   float64

	Gaps []float64 // mm, at the quarters, clockwise from the top

	Size  float64 // of the bolt that a kit is for, across the flats, mm
	Bolts int     // on the ring of a pass
}

const nothingWrong = "Nothing is wrong."

func newFlawed(r *rand.Rand, m Material) (Flawed, error) {
	switch r.IntN(4) {
	case 0:
		return newTrace(r)
	case 1:
		return newGaps(r)
	case 2:
		return newKit(r, m)
	}
	return newRecord(r)
}

func (f Flawed) judge(answer float64) Judged {
	right := f.Right[0]
	holds := answer == math.Trunc(answer) && slices.Contains(f.Right, int(answer))
	out := Judged{Holds: holds, Right: float64(right), Why: f.Why}
	if f.About == ATrace || f.About == AGapSet { // what it is, is not in the picture
		out.Why = f.Options[right] + " " + f.Why
	}
	return out
}

// told are what a trace may tell, in the words of whoever looks at it.
func told() []struct {
	kind trace.Kind
	says string
} {
	return []struct {
		kind trace.Kind
		says string
	}{
		{trace.Good, nothingWrong}, {trace.StoppedEarly, "It was let go too early."}, {trace.Yielding, "Bolt or part gives."},
		{trace.Bottomed, "The bolt bears on the ground of its hole."}, {trace.Galled, "The thread sticks and lets go."},
		{trace.CrossThreaded, "The nut goes hard from its beginning."},
	}
}

// rises is how the torque rises over a pull that tells a story: both run from 0 to 1.
func rises(k trace.Kind, x, a float64) float64 {
	even := 0.05 + 0.95*math.Max(0, (x-0.3)/0.7)
	switch k {
	case trace.StoppedEarly:
		return (0.6 + 0.25*a) * even
	case trace.Yielding:
		bend := 0.78 + 0.05*a
		return math.Min(x/bend, 1+0.05*(x-bend))
	case trace.Bottomed:
		bend := 0.84 + 0.02*a
		return 0.18*x + 5.2*math.Max(0, x-bend)
	case trace.Galled:
		return x - (0.34+0.1*a)*math.Max(0, math.Sin(20*x))
	case trace.CrossThreaded:
		return 0.33 + 0.1*a + (0.67-0.1*a)*math.Max(0, (x-0.5)/0.5)
	}
	return even
}

func newTrace(r *rand.Rand) (Flawed, error) {
	kinds := told()
	k := kinds[r.IntN(len(kinds))].kind
	target := unit.Round(60+540*r.Float64(), 5)
	out := Flawed{About: ATrace, Unit: unit.NewtonMetre, Target: target, Low: unit.Round(0.96*target, 0.1), High: unit.Round(1.04*target, 0.1),
		Says: fmt.Sprintf("A pull to %.4g N·m.", target)}
	const points = 120
	a, over := r.Float64(), 60+60*r.Float64()
	for i := range points {
		x := float64(i) / (points - 1)
		out.Points = append(out.Points, trace.Point{Angle: unit.Round(over*x, 0.1), Torque: unit.Round(target*rises(k, x, a), 0.1)})
	}
	story, err := trace.Tell(out.Points, target, out.Low, out.Unit)
	for i, x := range kinds {
		out.Options = append(out.Options, x.says)
		if x.kind == story.Kind {
			out.Right = []int{i}
		}
	}
	out.Why = story.Why
	return out, err
}

func newGaps(r *rand.Rand) (Flawed, error) {
	const circle = 400.0 // mm
	limit := proof.UsualGapLimit
	out := Flawed{About: AGapSet, Options: []string{nothingWrong},
		Says: fmt.Sprintf("Gaps round a flange of %g mm; at most %.2g mm between widest and narrowest.", circle, limit)}
	off := 0.35 * limit * r.Float64()
	if r.IntN(5) > 0 {
		off = limit * (1.3 + 1.2*r.Float64())
	}
	base, side := 2.5+2*r.Float64(), r.IntN(4)
	for i, hour := range []float64{12, 3, 6, 9} {
		away := math.Cos(math.Pi / 2 * float64(i-side))
		out.Gaps = append(out.Gaps, unit.Round(base+off/2*away+0.04*(r.Float64()-0.5), 0.05))
		out.Options = append(out.Options, fmt.Sprintf("It opens at %s.", proof.Clock(hour)))
	}
	g, err := proof.JudgeGap(out.Gaps, circle, limit)
	out.Right = []int{0}
	if !g.Parallel {
		out.Right = []int{1 + int(g.OpenSide)/3%4}
	}
	out.Why = fmt.Sprintf("Between widest and narrowest lie %.2f mm; at most %.2f mm are allowed.", g.Spread, limit)
	return out, err
}
