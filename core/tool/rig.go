package tool

import (
	"cmp"
	"fmt"
	"math"
	"slices"
	"time"

	"dynacor/core/refusal"
	"dynacor/core/unit"
)

// Hydraulic is a hydraulic torque wrench with its own chart. Torques of the
// chart are in N·m; pressures and graduation in PressureUnit.
type Hydraulic struct {
	Tag          string
	Name         string
	Chart        Chart
	PressureUnit unit.Unit
	Graduation   float64 // of the gauge that goes with it
	Drive        string  // in
	Accuracy     float64 // of reading, a fraction
	Due          time.Time
	HeldBack     string
	Handwritten  bool // entered by hand, not from the crib
}

// Set returns the gauge reading for torque (N·m); it refuses a tool that is
// held back or out of calibration.
func (h Hydraulic) Set(torque float64, today time.Time) (Stall, error) {
	if err := usableToday("hydraulic", h.Tag, h.HeldBack, h.Due, today); err != nil {
		return Stall{}, err
	}
	return h.Chart.At(torque, h.Graduation)
}

// Rig is a hydraulic wrench with what gives and shows its pressure, and its socket; that is
// nil where it is fetched.
type Rig struct {
	Wrench Hydraulic
	Supply
	Socket *Socket
}

// Pressing is how one stage is set on a rig: Pressure as its gauge shows it.
type Pressing struct {
	Torque   float64 // what the stage asks for, N·m
	Pressure float64 // in the rigging's unit
	Lands    float64 // what that pressure gives, N·m
	Error    float64 // percent of the stage's exact torque
	Accuracy float64 // of wrench and gauge together, a fraction
}

// Rigging is a rig with a pressure for each stage.
type Rigging struct {
	Rig     Rig
	Unit    unit.Unit // of the pressures
	Step    float64   // of the gauge, in Unit
	Chart   Chart     // the wrench's, in Unit
	Stages  []Pressing
	Refused error // why it cannot do it; Stages are then empty
}

// Tags names what of the crib a rig is made of, the wrench first.
func (r Rig) Tags() []string {
	out := append([]string{r.Wrench.Tag}, r.Supply.Tags()...)
	if r.Socket != nil {
		out = append(out, r.Socket.Tag)
	}
	return out
}

// Set works out the pressure of each stage, torques in N·m. It refuses tools that are held
// back or out of date, a torque off the chart, a pressure that pump or gauge does not
// reach, and a socket that does not go with it.
func (r Rig) Set(torques []float64, today time.Time) Rigging {
	out := Rigging{Rig: r}
	out.Unit, out.Step = r.scale(r.Wrench.PressureUnit, r.Wrench.Graduation)
	if len(torques) == 0 {
		out.Refused = noStages()
		return out
	}
	out.Refused = refusal.First(usableToday("hydraulic", r.Wrench.Tag, r.Wrench.HeldBack, r.Wrench.Due, today), r.free(today))
	if out.Refused != nil {
		return out
	}
	if out.Chart, out.Refused = r.Wrench.Chart.In(r.Wrench.PressureUnit, out.Unit); out.Refused != nil {
		return out
	}
	for i, torque := range torques {
		p, err := r.press(&out, torque, today)
		if err != nil {
			out.Stages, out.Refused = nil, ofPass(i+1, err)
			return out
		}
		out.Stages = append(out.Stages, p)
	}
	return out
}

func (r Rig) press(to *Rigging, torque float64, today time.Time) (Pressing, error) {
	stall, err := to.Chart.At(torque, to.Step)
	if err != nil {
		return Pressing{}, refusal.At("hydraulic", err)
	}
	p := Pressing{Torque: torque, Pressure: stall.Pressure, Lands: stall.Torque}
	p.Error, p.Accuracy = 100*(p.Lands-torque)/torque, r.accuracy(r.Wrench.Accuracy, p.Pressure)
	if k := r.Socket; k != nil {
		if err := usableToday("socket", k.Tag, k.HeldBack, time.Time{}, today); err != nil {
			return p, err
		}
		if _, err := k.carry(torque, r.Wrench.Drive); err != nil {
			return p, err
		}
	}
	return p, r.reaches(p.Pressure, to.Unit)
}

// rank weighs a rig, least first: the middle of its chart, then accuracy and what the gauge
// cannot show.
func (x Rigging) rank() float64 {
	last := x.Stages[len(x.Stages)-1]
	low, high := x.Chart[0].Pressure, x.Chart[len(x.Chart)-1].Pressure
	return math.Abs(2*(last.Pressure-low)/(high-low)-1) + 10*last.Accuracy + errorWeight*math.Abs(last.Error)
}

// Rigs lists the ways of a crib's hydraulic wrenches to every stage, best first, each with
// the pump, the gauge and the socket that go with it best, and why each wrench is out.
func (c Crib) Rigs(r Request, today time.Time) (rigs []Rigging, left []Left) {
	for _, h := range c.Hydraulics {
		if r.Offset || r.Reach > 0 {
			left = append(left, Left{h.Tag, refusal.New(refusal.Contradicts, "hydraulic",
				fmt.Sprintf("%s stands straight over its nut.", h.Tag), "Look whether the place has room for it.")})
			continue
		}
		best := c.Rig(h, r, today)
		if best.Refused != nil {
			left = append(left, Left{h.Tag, best.Refused})
			continue
		}
		rigs = append(rigs, best)
	}
	slices.SortStableFunc(rigs, func(a, b Rigging) int { return cmp.Compare(a.rank(), b.rank()) })
	return rigs, left
}

// Rig finds the pump, the gauge and the socket that go with a wrench best; where nothing
// does, why the first do not.
func (c Crib) Rig(h Hydraulic, r Request, today time.Time) (best Rigging) {
	for i, s := range c.supplies() {
		for j, k := range c.socketsOf(h, r) {
			x := Rig{h, s, k}.Set(r.Torques, today)
			if i+j == 0 || x.Refused == nil && (best.Refused != nil || x.rank() < best.rank()) {
				best = x
			}
		}
	}
	return best
}

// socketsOf are those of a size that stand on a wrench; nil alone where it is fetched.
func (c Crib) socketsOf(h Hydraulic, r Request) (out []*Socket) {
	for i, k := range c.Sockets {
		if r.Size > 0 && k.Inside == r.Inside && unit.AtMost(k.Size, r.Size) && unit.AtLeast(k.Size, r.Size) && fits(k.Drive, h.Drive) {
			out = append(out, &c.Sockets[i])
		}
	}
	if out == nil {
		out = []*Socket{nil}
	}
	return out
}
