package tool

import (
	"cmp"
	"fmt"
	"slices"
	"time"

	"dynacor/core/refusal"
	"dynacor/core/thread"
	"dynacor/core/unit"
)

// MostTension is the share of yield that a stud may see under a tensioner.
const MostTension = 0.95

// Pull is what a hydraulic tensioner applies to leave a load in a stud.
type Pull struct {
	LossFactor  float64 // LLF, applied over left
	Applied     float64 // N
	Pressure    float64 // MPa
	StressShare float64 // of yield, while applied
	Holds       bool    // below MostTension
}

// Tension returns what leaves load (N) in a stud of thread t and yield (MPa)
// over a clamped length (mm) with a ram of area (mm²): part of what is applied
// is lost when the nut takes over,
//
//	LLF = 1.01 + d/Lclamp,  applied = F·LLF,  pressure = applied/area
//
// (ASME PCC-1; valid for a nut run down by hand while the load is on). Past
// MostTension of yield the numbers are still given and Holds is false.
func Tension(t thread.Thread, load, clampLength, ramArea, yield float64) (Pull, error) {
	if err := refusal.First(refusal.Positive("F", load, "N"), refusal.Within("d", t.Diameter, thread.LargestDiameter, "mm"),
		refusal.Positive("clampLength", clampLength, "mm"), refusal.Positive("ramArea", ramArea, "mm²"), refusal.Positive("yield", yield,
			"MPa")); err != nil {
		return Pull{}, err
	}
	p := Pull{LossFactor: 1.01 + t.Diameter/clampLength}
	p.Applied = load * p.LossFactor
	p.Pressure = p.Applied / ramArea
	p.StressShare = p.Applied / t.StressArea() / yield
	p.Holds = !unit.AtLeast(p.StressShare, MostTension) // must stay below it
	return p, nil
}

// Halves are the two pulls when there are tools for every other stud only:
// the first half at the first pressure, then the second half at the lower
// one, and the check of all at the lower one, where no nut may move.
type Halves struct{ First, Second Pull }

// TensionHalves returns the pulls with half the tools. lost is the share of
// its load that the first half loses while the second is drawn, from the
// joint's own elastic interaction or the maker's sheet, 0 to 0.5.
func TensionHalves(t thread.Thread, load, clampLength, ramArea, yield, lost float64) (Halves, error) {
	if err := refusal.NotNegative("lost", lost, ""); err != nil {
		return Halves{}, err
	}
	if lost > 0.5 {
		return Halves{}, refusal.Number(refusal.TooLarge, "lost", lost, 0.5, "",
			fmt.Sprintf("The first half would lose %.0f %% of its load; with more than half lost two goes do not even it out.",
				100*lost), "Use a tool on every stud.")
	}
	second, err := Tension(t, load, clampLength, ramArea, yield)
	if err != nil {
		return Halves{}, err
	}
	first, err := Tension(t, load/(1-lost), clampLength, ramArea, yield)
	return Halves{first, second}, err
}

// Tensioner is a hydraulic tensioner for one thread, of which there are enough for every
// bolt that is drawn at once. Pressures and graduation are in Unit.
type Tensioner struct {
	Tag, Name   string
	Thread      float64 // its diameter, mm
	RamArea     float64 // mm²
	Stroke      float64 // mm
	Unit        unit.Unit
	Most        float64 // that it bears
	Graduation  float64 // of its gauge
	Accuracy    float64 // of reading, a fraction
	Due         time.Time
	HeldBack    string
	Handwritten bool // entered by hand, not from the crib
}

// Draft is what a joint asks of a tensioner: the load that stays in a stud (N), the length
// that is clamped (mm), yield and modulus of the stud (MPa), and, where every other bolt is
// drawn first, the share of its load that the first half loses to the second.
type Draft struct {
	Thread         thread.Thread
	Load, Length   float64
	Yield, Modulus float64
	Halves         bool
	Lost           float64
}

// Drawn is one draw of a tensioner: at what pressure, and what that does.
type Drawn struct {
	Pull              // as it is worked out
	Load      float64 // that it leaves in the stud at first, N
	Set       float64 // pressure on the gauge, in the tensioning's unit
	Error     float64 // percent, from the gauge's marks
	Accuracy  float64 // of tensioner and gauge together, a fraction
	Lengthens float64 // the stud, while it is drawn, mm
}

// Tensioning is how a tensioner draws a joint: one draw, or one for each half.
type Tensioning struct {
	Tool Tensioner
	Supply
	Unit     unit.Unit // of the pressures
	Step     float64   // of the gauge, in Unit
	Draws    []Drawn
	Residual float64 // pressure at which a nut comes free that holds its load, in Unit
	Refused  error   // why it cannot; Draws are then empty
}

// Tags names what of the crib it is done with, the tensioner first.
func (t Tensioning) Tags() []string { return append([]string{t.Tool.Tag}, t.Supply.Tags()...) }

// Set works the draws out. It refuses tools that are held back or out of date, a tensioner
// for another thread, too weak or too short, a pressure that pump or gauge does not reach,
// and a stud that would come to MostTension of its yield.
func (x Tensioner) Set(d Draft, s Supply, today time.Time) Tensioning {
	out := Tensioning{Tool: x, Supply: s}
	out.Unit, out.Step = s.scale(x.Unit, x.Graduation)
	out.Refused = refusal.First(usableToday("tensioner", x.Tag, x.HeldBack, x.Due, today), s.free(today),
		refusal.Positive("graduation", out.Step, string(out.Unit)), refusal.Positive("E", d.Modulus, "MPa"))
	if out.Refused != nil {
		return out
	}
	if !unit.AtMost(x.Thread, d.Thread.Diameter) || !unit.AtLeast(x.Thread, d.Thread.Diameter) {
		out.Refused = refusal.Number(refusal.Contradicts, "tensioner", x.Thread, d.Thread.Diameter, "mm",
			fmt.Sprintf("%s draws a thread of %.4g mm; here it is %.4g mm.", x.Tag, x.Thread, d.Thread.Diameter), "Take one for that thread.")
		return out
	}
	loads := []float64{d.Load}
	if d.Halves {
		loads = []float64{d.Load / (1 - d.Lost), d.Load}
	} else {
		d.Lost = 0
	}
	h, err := TensionHalves(d.Thread, d.Load, d.Length, x.RamArea, d.Yield, d.Lost)
	pulls := []Pull{h.First, h.Second}[2-len(loads):]
	for i, p := range pulls {
		var drawn Drawn
		if err == nil {
			drawn, err = out.draw(d, p, loads[i])
		}
		out.Draws = append(out.Draws, drawn)
	}
	if err == nil {
		out.Residual, err = unit.Convert(d.Load/x.RamArea, unit.Megapascal, out.Unit)
	}
	if err != nil {
		out.Draws, out.Refused = nil, err
	}
	return out
}

func (t *Tensioning) draw(d Draft, p Pull, load float64) (Drawn, error) {
	x := t.Tool
	out := Drawn{Pull: p, Load: load, Lengthens: p.Applied * d.Length / (d.Modulus * d.Thread.StressArea())}
	exact, err := unit.Convert(p.Pressure, unit.Megapascal, t.Unit)
	if err != nil {
		return out, refusal.At("tensioner", err)
	}
	bears, err := unit.Convert(x.Most, x.Unit, t.Unit)
	if err != nil {
		return out, refusal.At("tensioner", err)
	}
	out.Set = unit.Round(exact, t.Step)
	out.Error, out.Accuracy = 100*(out.Set/exact-1), t.accuracy(x.Accuracy, exact)
	switch share := p.StressShare * out.Set / exact; {
	case out.Set <= 0:
		return out, refusal.Number(refusal.TooLarge, "graduation", t.Step, exact, string(t.Unit),
			fmt.Sprintf("%.4g %s is less than half a mark of the gauge.", exact, t.Unit), "Take a smaller tensioner, or a finer gauge.")
	case !unit.AtMost(out.Set, bears):
		return out, refusal.Number(refusal.TooLarge, "tensioner", out.Set, bears, string(t.Unit), fmt.Sprintf(
			"%s bears %.4g %s; here are %.4g %s.", x.Tag, bears, t.Unit, out.Set, t.Unit), "Take one with a larger ram.")
	case unit.AtLeast(share, MostTension):
		return out, refusal.Number(refusal.TooLarge, "load", share, MostTension, "", fmt.Sprintf(
			"Drawn to %.4g kN the stud is at %.0f %% of its yield; it must stay below %.0f %%.", p.Applied/1000, 100*share, 100*MostTension),
			"A longer stud loses less; else another load, from the engineer.")
	case x.Stroke > 0 && !unit.AtMost(out.Lengthens, x.Stroke):
		return out, refusal.Number(refusal.TooLarge, "tensioner", out.Lengthens, x.Stroke, "mm", fmt.Sprintf(
			"The stud lengthens by %.3g mm; %s has a stroke of %.3g mm.", out.Lengthens, x.Tag, x.Stroke), "Take one with more stroke.")
	}
	return out, t.reaches(out.Set, t.Unit)
}

// Tensionings lists how a crib's tensioners draw a joint, those with more pressure to
// spare first, each with the pump and gauge that go with it, and why each other is out.
func (c Crib) Tensionings(d Draft, today time.Time) (ways []Tensioning, left []Left) {
	for _, x := range c.Tensioners {
		best := c.Draws(x, d, today)
		if best.Refused != nil {
			left = append(left, Left{x.Tag, best.Refused})
			continue
		}
		ways = append(ways, best)
	}
	slices.SortStableFunc(ways, func(a, b Tensioning) int { return cmp.Compare(a.used(), b.used()) })
	return ways, left
}

// Draws finds the pump and the gauge that go with a tensioner best; where none do, why the
// first do not.
func (c Crib) Draws(x Tensioner, d Draft, today time.Time) (best Tensioning) {
	for i, s := range c.supplies() {
		t := x.Set(d, s, today)
		if i == 0 || t.Refused == nil && (best.Refused != nil || t.Draws[0].Accuracy < best.Draws[0].Accuracy) {
			best = t
		}
	}
	return best
}

// used is the share of what a tensioner bears that its first draw takes.
func (t Tensioning) used() float64 {
	bears, _ := unit.Convert(t.Tool.Most, t.Tool.Unit, t.Unit) // converted when it was set
	return t.Draws[0].Set / bears
}
