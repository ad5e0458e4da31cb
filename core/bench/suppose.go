package bench

import (
	"fmt"
	"math"
	"slices"

	"dynacor/core/pass"
)

// What we suppose where nobody measured. The figures are ours, wide on purpose:
// a size that such parts have, not a property of any one (decisions/elastic.md).

// Pressed is a family of gaskets, or faces without one, by what it gives: MPa of
// stress on it per mm that it closes, while a ring is made.
type Pressed struct {
	Family            string // of the package preload; empty: metal to metal
	Long              string
	Low, Middle, High float64 // MPa/mm
	LeastKept, Kept   float64 // share of the load that a pass leaves to the next, and the likely one; the most is all
}

var pressed = []Pressed{
	{"spiral", "a spiral gasket", 60, 150, 400, 0.98, 0.995},
	{"sheet", "a fibre sheet gasket", 150, 400, 1000, 0.96, 0.99},
	{"soft", "a soft rubber gasket", 3, 8, 25, 0.94, 0.985},
	{"metal ring", "a ring joint gasket", 1000, 2500, 6000, 0.995, 0.999},
	{"", "faces that meet metal to metal", 2000, 5000, 12_000, 0.995, 0.999},
}

// PressedBy returns what a family gives; one that is not known is metal to metal.
func PressedBy(family string) Pressed {
	for _, p := range pressed {
		if p.Family == family {
			return p
		}
	}
	return pressed[len(pressed)-1]
}

// Foundation is k of such a gasket: its area, mm², over the bolt circle, mm.
func (p Pressed) Foundation(area, circle float64) Figure {
	width := area / (math.Pi * circle)
	return Figure{p.Low * width, p.Middle * width, p.High * width, Supposing,
		fmt.Sprintf("Our guess for %s, %g to %g MPa for each mm that it closes, on %.3g mm of width.", p.Long, p.Low, p.High, width)}
}

// KeptBy is what a pass leaves of the load to the next on such a gasket.
func (p Pressed) KeptBy() Figure {
	return Figure{p.LeastKept, p.Kept, 1, Supposing, fmt.Sprintf("Our guess for %s.", p.Long)}
}

// What a flange is like, by the diameter of its bolts: as thick, and as wide
// beside the bolts, as flanges usually are; two of a kind bend on one gasket.
const (
	flangeThick = 1.8 // times d
	flangeWide  = 3.5
	steel       = 205_000.0 // MPa
)

// FlangeOf is EI of two flanges of steel for bolts of diameter d, mm, each
// bending by half.
func FlangeOf(d float64) Figure {
	ei := steel * flangeWide * d * math.Pow(flangeThick*d, 3) / 24
	return About(ei, 0.4, 2.2, Supposing,
		fmt.Sprintf("Our guess for two steel flanges, each %.3g mm thick and %.3g mm wide, as is usual for such bolts.", flangeThick*d,
			flangeWide*d))
}

// ClampedBy is the length that we suppose bolts of diameter d clamp, mm.
func ClampedBy(d float64) float64 { return 2*flangeThick*d + 4 }

// CircleOf is the bolt circle that we suppose for n bolts of diameter d, mm.
func CircleOf(n int, d float64) Figure {
	return Certain(math.Round(3.5*d*float64(n)/math.Pi), Supposing, "Our guess: bolts three and a half diameters apart.")
}

// PullOf is how long a pull takes with a bolt of diameter d, mm, where a site
// has no record of its own.
func PullOf(d float64) Figure {
	s := 60.0
	for _, x := range []struct{ most, s float64 }{{12, 15}, {20, 25}, {30, 35}, {42, 45}} {
		if d <= x.most {
			s = x.s
			break
		}
	}
	return About(s, 0.6, 1.7, Supposing, "Our guess for the size; this site has too few pulls of it on record.")
}

// PassOf is how long it takes to get ready for a pass.
func PassOf() Figure {
	return About(150, 0.5, 2, Supposing, "Our guess: setting the tool, and looking round.")
}

// LeastPulls is how many pulls of a size a site must have on record before its
// own pace counts.
const LeastPulls = 20

// PaceOf is how long pulls took that a site has on record, s, each the time
// since the pull before it: the middle half of them. False where there are too
// few. It sorts took.
func PaceOf(took []float64, size string) (Figure, bool) {
	if len(took) < LeastPulls {
		return Figure{}, false
	}
	slices.Sort(took)
	at := func(share float64) float64 { return took[int(share*float64(len(took)-1)+0.5)] }
	return Figure{at(0.25), at(0.5), at(0.75), ByRecord,
		fmt.Sprintf("%d pulls of %s on this site's record, the middle half.", len(took), size)}, true
}

// FrictionOf is how far the nut factors of a lubricant scatter, 2 sigma, whose
// listed range is spread to each side. A trial of one's own says it better than
// a list.
func FrictionOf(spread float64, name string, own bool) Figure {
	spread = min(max(spread, leastScatter/0.5), mostScatter/1.3)
	if own {
		return About(spread, 0.8, 1.2, ByPlan, fmt.Sprintf("The plan's lubricant, %s, by a trial of its own.", name))
	}
	return About(spread, 0.5, 1.25, ByPlan, fmt.Sprintf("The plan's lubricant, %s: its listed range, and half of it.", name))
}

// MadeUp is a ring that nobody has: to try, and to learn on.
func MadeUp() Subject {
	const d, n = 24.0, 12
	p := PressedBy("spiral")
	circle := CircleOf(n, d)
	circle.Origin, circle.From = ByHand, "A made-up ring."
	s := Subject{Bolts: n, Circle: circle, Gasket: p.Foundation(math.Pi*(circle.Middle-2.5*d)*18, circle.Middle), Flange: FlangeOf(d),
		Bolt: Certain(1.6e-6, ByHand, "A made-up ring."), Friction: FrictionOf(0.25, "a paste", false),
		Tool: Certain(0.04, ByHand, "A made-up ring."), Kept: p.KeptBy(), Load: 120_000, First: pass.FirstOnGasket, Needed: 100_000, Crushes: 200_000, Limit: 190_000,
		Pull: PullOf(d), Pass: PassOf()}
	both := math.Hypot(s.Friction.Middle, s.Tool.Middle)
	s.LikelyLow, s.LikelyHigh = s.Load*(1-both), s.Load*(1+both)
	return s
}
