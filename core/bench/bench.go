// Package bench tries a joint before anyone touches it: what is known of it,
// with its ranges and where each comes from, and the ways in which it might be
// made, put through the model of the package elastic.
//
// What is not known for certain is a range, and each joint of a trial is one
// that may be: with the lowest, the middle and the highest figure of the
// gasket's and the flange's stiffness, of the scatter of friction and of the
// creep, every combination as often (81, where none is known). A thick flange has
// long bolts: what a bolt gives goes with the flange's stiffness. Of what comes
// out the range is shown in which 90 of 100 joints lie; of a share of joints the
// least and the most that it is when one of these figures is held at one of its
// three values and the others vary.
//
// A joint seats when at the end it is closed at every bolt at least as far as by
// bolts that all carry what is needed: a stiff flange helps a low bolt by its
// neighbours. It crushes when on the way any bolt is brought above the load at
// which all would crush the gasket. Loads are in N, lengths in mm, stiffness k of the
// foundation in N/mm per mm of arc (MPa), EI of the ring in N·mm², times in s
// unless they say minutes. Limits are those of the package elastic; a trial is a
// help and never a permission: it decides nothing about a joint.
package bench

import (
	"fmt"

	"dynacor/core/elastic"
	"dynacor/core/pass"
	"dynacor/core/refusal"
)

// Origin says what kind of source a figure has.
type Origin string

// The origins, from the surest to the least sure.
const (
	ByPlan    Origin = "plan"     // as the joint is laid out
	ByFit     Origin = "fitted"   // to readings of a signed joint
	ByRecord  Origin = "record"   // of this site
	ByHand    Origin = "by hand"  // typed here
	Supposing Origin = "supposed" // a stated guess of ours
)

// Figure is a number as far as it is known: the middle, and the range it is
// taken to lie in. Low and High are the same as Middle where it is certain.
type Figure struct {
	Low, Middle, High float64
	Origin            Origin
	From              string // where it comes from, in words
}

// Certain returns a figure without a range.
func Certain(v float64, o Origin, from string) Figure { return Figure{v, v, v, o, from} }

// About returns a figure from low to high times its middle.
func About(v, low, high float64, o Origin, from string) Figure {
	return Figure{v * low, v, v * high, o, from}
}

// values are the figures that joints are made with.
func (f Figure) values() []float64 {
	if f.Low == f.High {
		return []float64{f.Middle}
	}
	return []float64{f.Low, f.Middle, f.High}
}

// Subject is a ring of bolts that is tried.
type Subject struct {
	Bolts  int
	Circle Figure // bolt circle, mm

	Gasket Figure // k of all that is clamped, N/mm per mm of arc
	Flange Figure // EI of the ring, N·mm²
	Bolt   Figure // δB, mm/N

	Friction Figure // scatter of the nut factor, 2 sigma, a fraction
	Tool     Figure // of a pull, 2 sigma, a fraction
	Kept     Figure // share of the load that a pass leaves to the next

	Load       float64 // that a pull aims at, N
	LikelyLow  float64 // of one pull alone, N; zero where it is not known
	LikelyHigh float64
	Needed     float64 // the least that seats and keeps tight, N; zero where nothing asks for it
	Crushes    float64 // the load at which the gasket is crushed, N; zero where it is not known
	Limit      float64 // at which the bolt yields, N; zero where it is not known
	First      float64 // the most that a first stage may be on this gasket, percent; zero where nothing bounds it

	Pull Figure // s
	Pass Figure // getting ready for a pass, s
}

// What is simulated at all. A bound is where the model, or the craft, ends:
// nobody has a flange stiffer or a gasket softer.
const (
	leastBolts, mostBolts   = 4, elastic.MostBolts
	leastCircle, mostCircle = 20, 20_000     // mm
	leastGasket, mostGasket = 1, 1e6         // MPa
	leastFlange, mostFlange = 1e6, 1e16      // N·mm²
	leastBolt, mostBolt     = 1e-9, 1e-3     // mm/N
	leastScatter            = 0.01           // nobody pulls twice alike
	mostScatter             = 0.8            // beyond it a torque says nothing
	leastTool, mostTool     = 0.005, 0.5     // of a pull
	leastKept               = 0.5            // of a pass
	leastLoad, mostLoad     = 100, 20e6      // N
	leastTime, mostTime     = 1.0, 10 * 3600 // s
)

// Check refuses what cannot be tried, with the number and the limit.
func (s Subject) Check() error {
	if s.Bolts < leastBolts || s.Bolts > mostBolts {
		return refusal.Number(refusal.OutOfRange, "bolts", float64(s.Bolts), mostBolts, "bolts",
			fmt.Sprintf("%d bolts; a ring of %d to %d is tried.", s.Bolts, leastBolts, mostBolts), "Count the holes.")
	}
	for _, c := range []struct {
		field       string
		f           Figure
		least, most float64
		unit, what  string
	}{
		{"circle", s.Circle, leastCircle, mostCircle, "mm", "Bolt circle"},
		{"gasket", s.Gasket, leastGasket, mostGasket, "MPa", "Stiffness of the gasket"},
		{"flange", s.Flange, leastFlange, mostFlange, "N·mm²", "Stiffness of the flange"},
		{"bolt", s.Bolt, leastBolt, mostBolt, "mm/N", "Give of a bolt"},
		{"friction", s.Friction, leastScatter, mostScatter, "", "Scatter of friction"},
		{"tool", s.Tool, leastTool, mostTool, "", "Scatter of the tool"},
		{"kept", s.Kept, leastKept, 1, "", "Share kept from pass to pass"},
		{"pull", s.Pull, leastTime, mostTime, "s", "Time of a pull"},
		{"pass", s.Pass, 0, mostTime, "s", "Time to get ready for a pass"},
	} {
		for _, v := range []float64{c.f.Low, c.f.Middle, c.f.High} {
			if err := within(c.field, c.what, v, c.least, c.most, c.unit); err != nil {
				return err
			}
		}
		if c.f.Low > c.f.Middle || c.f.Middle > c.f.High {
			return refusal.New(refusal.Contradicts, c.field, fmt.Sprintf("%s: %.4g, %.4g, %.4g do not rise.", c.what, c.f.Low, c.f.Middle,
				c.f.High), "Enter the least, the likely and the most.")
		}
	}
	if err := within("load", "Load of a bolt", s.Load, leastLoad, mostLoad, "N"); err != nil {
		return err
	}
	return refusal.First(refusal.NotNegative("needed", s.Needed, "N"), refusal.NotNegative("crushes", s.Crushes, "N"),
		refusal.NotNegative("limit", s.Limit, "N"), refusal.NotNegative("likelyLow", s.LikelyLow, "N"),
		refusal.NotNegative("likelyHigh", s.LikelyHigh, "N"), refusal.NotNegative("first", s.First, "%"))
}

// Carries reports whether a plan of this ring can carry a way: one whose every
// stage takes all bolts, and whose first does not crush the gasket on one side.
func (s Subject) Carries(w Way) bool {
	school, err := w.school()
	return err == nil && school.Scheme == pass.Staged && (s.First == 0 || school.Shares[0] <= s.First)
}

// named is a figure of a subject by its field.
type named struct {
	field  string
	figure *Figure
}

func (s *Subject) figures() []named {
	return []named{{"circle", &s.Circle}, {"gasket", &s.Gasket}, {"flange", &s.Flange}, {"bolt", &s.Bolt}, {"friction", &s.Friction},
		{"tool", &s.Tool}, {"kept", &s.Kept}, {"pull", &s.Pull}, {"pass", &s.Pass}}
}

// Of holds what was tried against the ring as it is laid out: a figure that is
// not said to be by hand must be the ring's own, and its loads must. It returns
// what was tried with the words of where each figure comes from as they are. A
// pace by record may be another, since people go on pulling.
func (s Subject) Of(own Subject) (Subject, error) {
	if s.Bolts != own.Bolts {
		return s, refusal.Number(refusal.Contradicts, "bolts", float64(s.Bolts), float64(own.Bolts), "bolts",
			"What was tried has another number of bolts than the joint.", anew)
	}
	if s.Load != own.Load || s.Needed != own.Needed || s.Crushes != own.Crushes || s.Limit != own.Limit || s.LikelyLow != own.LikelyLow ||
		s.LikelyHigh != own.LikelyHigh || s.First != own.First {
		return s, refusal.Number(refusal.Contradicts, "load", s.Load, own.Load, "N", "What was tried has other loads than the joint.", anew)
	}
	its := own.figures()
	for i, x := range s.figures() {
		f, is := x.figure, its[i].figure
		switch {
		case f.Origin == ByHand:
			f.From = "Typed on the Bench."
		case f.Origin == ByRecord && is.Origin == ByRecord:
			f.From = is.From
		case f.Origin != is.Origin || f.Low != is.Low || f.Middle != is.Middle || f.High != is.High:
			return s, refusal.Number(refusal.Contradicts, x.field, f.Middle, is.Middle, "", "What was tried has other figures than the joint.", anew)
		default:
			f.From = is.From
		}
	}
	return s, nil
}

const anew = "Try the joint anew, then take a way."

func within(field, what string, v, least, most float64, unit string) error {
	if v >= least && v <= most {
		return nil
	}
	limit, code := least, refusal.TooSmall
	if v > most {
		limit, code = most, refusal.TooLarge
	}
	if unit != "" {
		unit = " " + unit
	}
	return refusal.Number(code, field, v, limit, unit, fmt.Sprintf("%s: %.4g%s; %.4g to %.4g%s is tried.", what, v, unit, least, most, unit),
		"Check the number and its unit.")
}

// ring is the subject with a gasket, a flange and bolts that give so much.
func (s Subject) ring(gasket, flange, bolt float64) elastic.Ring {
	return elastic.Ring{Bolts: s.Bolts, BoltCircle: s.Circle.Middle, Foundation: gasket, Stiffness: flange, Bolt: bolt}
}

// Middle is the ring with the middle of every figure.
func (s Subject) Middle() elastic.Ring {
	return s.ring(s.Gasket.Middle, s.Flange.Middle, s.Bolt.Middle)
}

// Varied names a figure that joints are made with three values of.
type Varied string

// What varies.
const (
	ByGasket   Varied = "gasket"
	ByFlange   Varied = "flange"
	ByFriction Varied = "friction"
	ByKept     Varied = "kept"
)

// varied is their order in a level.
var varied = [...]Varied{ByGasket, ByFlange, ByFriction, ByKept}

// level says which of its values each figure has in a supposed joint.
type level [len(varied)]int

// supposed lists the joints that the subject may be, and how each came about.
func (s Subject) supposed() (joints []elastic.Supposed, levels []level) {
	for f, friction := range s.Friction.values() {
		for k, kept := range s.Kept.values() {
			for e, flange := range s.Flange.values() {
				bolt := s.Bolt.Middle
				if by := s.Bolt.values(); len(by) > 1 && len(s.Flange.values()) > 1 {
					bolt = by[e]
				}
				for g, gasket := range s.Gasket.values() {
					joints = append(joints, elastic.Supposed{Ring: s.ring(gasket, flange, bolt),
						Scatter: elastic.Scatter{Friction: friction, Tool: s.Tool.Middle}, Relaxation: kept})
					levels = append(levels, level{g, e, f, k})
				}
			}
		}
	}
	return joints, levels
}
