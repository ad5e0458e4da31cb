package crib

import (
	"fmt"
	"math"
	"strings"

	"dynacor/core/refusal"
	"dynacor/core/tool"
	"dynacor/core/unit"
)

// How many readings a mark has: five for a calibration (ISO 6789-1), three for a check
// of our own.
const (
	ReadingsToCalibrate = 5
	ReadingsToCheck     = 3
	mostReadings        = 20
)

// AtMark is what was found at one mark.
type AtMark struct {
	Mark
	Errors []float64 // percent, one a reading: of the reading, or of full scale
	Worst  float64   // the one that is farthest from nought
	Spread float64   // repeatability: the standard deviation of the errors, percent
	Holds  bool
}

// Found is what a check comes to.
type Found struct {
	Marks []AtMark
	Worst float64
	Holds bool
	Text  string
}

// Found judges a check. It refuses readings that are none.
func (c Checked) Found() (Found, error) {
	if c.Looked {
		f := Found{Holds: c.Good, Text: "looked at, and good"}
		if !c.Good {
			f.Text = "looked at, and not good"
		}
		return f, nil
	}
	f := Found{Holds: true}
	where := 0.0
	for i, m := range c.Marks {
		a := AtMark{Mark: m, Holds: true}
		for k, r := range m.Readings {
			if err := refusal.Positive(fmt.Sprintf("marks.%d.readings.%d", i, k), r, string(c.Unit)); err != nil {
				return Found{}, err
			}
			of := r
			if c.FullScale > 0 {
				of = c.FullScale
			}
			e := 100 * (m.At - r) / of
			a.Errors = append(a.Errors, e)
			if math.Abs(e) > math.Abs(a.Worst) {
				a.Worst = e
			}
		}
		a.Holds = unit.AtMost(math.Abs(a.Worst), 100*c.Limit)
		a.Spread = spread(a.Errors)
		f.Holds = f.Holds && a.Holds
		if math.Abs(a.Worst) >= math.Abs(f.Worst) {
			f.Worst, where = a.Worst, m.At
		}
		f.Marks = append(f.Marks, a)
	}
	f.Text = fmt.Sprintf("at most %+.1f %% off, at %.5g %s; ± %.3g %% are allowed", f.Worst, where, c.Unit, 100*c.Limit)
	if !f.Holds {
		f.Text = fmt.Sprintf("%+.1f %% off at %.5g %s; ± %.3g %% are allowed", f.Worst, where, c.Unit, 100*c.Limit)
	}
	return f, nil
}

func spread(errors []float64) float64 {
	n := float64(len(errors))
	if n < 2 {
		return 0
	}
	mean, sum := 0.0, 0.0
	for _, e := range errors {
		mean += e / n
	}
	for _, e := range errors {
		sum += (e - mean) * (e - mean)
	}
	return math.Sqrt(sum / (n - 1))
}

// Marks returns the settings at which a tool is checked, ascending, and their unit: its
// lowest value, 60 % and the greatest, each brought to a mark of its scale; of a preset
// wrench its one value; of a hydraulic wrench three rows of its chart, N·m. None for a
// tool that is looked at.
func (t Tool) Marks() (at []float64, in unit.Unit) {
	switch t.Kind {
	case Wrench:
		if t.Face == Preset {
			return []float64{t.Most}, t.Unit
		}
		low, err := tool.Lowest(t.Least, t.Most)
		if err != nil {
			return nil, t.Unit
		}
		return t.onMarks(low, 0.6*t.Most, t.Most), t.Unit
	case Multiplier:
		return []float64{tool.LeastShare * t.Most, 0.6 * t.Most, t.Most}, unit.NewtonMetre
	case Gauge, DialGauge, LoadMeter, Tester:
		return t.onMarks(max(t.Least, 0.2*t.Most), 0.6*t.Most, t.Most), t.Unit
	case Hydraulic:
		if n := len(t.Chart); n > 1 {
			at = []float64{t.Chart[0].Torque, t.Chart[n/2].Torque, t.Chart[n-1].Torque}
			if n == 2 {
				at[1] = (at[0] + at[2]) / 2
			}
		}
		return at, unit.NewtonMetre
	case Tensioner:
		return []float64{0.2 * t.PressureMost, 0.6 * t.PressureMost, t.PressureMost}, t.PressureUnit
	}
	return nil, ""
}

// FaceMarks are the settings at which its face is drawn: where it is checked; of a hydraulic
// wrench the pressures of its chart there.
func (t Tool) FaceMarks() []float64 {
	at, _ := t.Marks()
	if t.Kind != Hydraulic {
		return at
	}
	var out []float64
	for _, m := range at {
		if x, err := t.Chart.At(m, t.Graduation); err == nil {
			out = append(out, x.Pressure)
		}
	}
	return out
}

// onMarks brings values to marks of the scale within low and the greatest.
func (t Tool) onMarks(low, middle, most float64) []float64 {
	if middle < low+(most-low)/4 { // a range that begins high
		middle = (low + most) / 2
	}
	step, first := t.scale().Minor, t.Scale.First
	if !(step > 0) {
		return []float64{low, middle, most}
	}
	up := func(v float64) float64 { return first + math.Ceil((v-first)/step*(1-unit.Tolerance)-1e-9)*step }
	down := func(v float64) float64 { return first + math.Floor((v-first)/step*(1+unit.Tolerance)+1e-9)*step }
	near := func(v float64) float64 { return first + unit.Steps(v-first, step)*step }
	return []float64{round(up(low)), round(near(middle)), round(down(most))}
}

func round(v float64) float64 { return math.Round(v*1e9) / 1e9 }

// acceptCheck refuses a check that says nothing of the tool: without readings, in another
// unit, at marks that leave out an end of its range.
func (s State) acceptCheck(t Tool, c Checked) error {
	if strings.TrimSpace(c.Lab) == "" {
		return refusal.New(refusal.Missing, "lab", "Who checked it?", "Name the laboratory, or whoever stood at the tester.")
	}
	if !t.Kind.Measures() {
		if !c.Looked {
			return refusal.New(refusal.Contradicts, "marks", fmt.Sprintf("A %s is looked at; it gives no reading.", t.what()),
				"Say whether it is good.")
		}
		if !c.Good {
			return says("note", c.Note, "What is wrong with it?", "Say what was seen.")
		}
		return nil
	}
	if c.Looked {
		return refusal.New(refusal.Missing, "marks", "The check has no readings.", "Put the tool on the tester and enter what it gives.")
	}
	want, in := t.Marks()
	if c.Unit != in {
		return refusal.New(refusal.Contradicts, "unit", fmt.Sprintf("%s is read in %s, not in %s.", t.Tag, in, c.Unit),
			"Enter the readings in the tool's own unit.")
	}
	if len(c.Marks) < len(want) {
		return refusal.Number(refusal.Missing, "marks", float64(len(c.Marks)), float64(len(want)), "marks",
			fmt.Sprintf("The check has %d of %d marks.", len(c.Marks), len(want)), "Check at the lowest value, in the middle, at the greatest.")
	}
	if len(c.Marks) > 10 {
		return refusal.Number(refusal.TooLarge, "marks", float64(len(c.Marks)), 10, "marks",
			fmt.Sprintf("%d marks; at most 10 are taken.", len(c.Marks)), "Leave some out.")
	}
	need := ReadingsToCheck
	if c.Renews {
		need = ReadingsToCalibrate
	}
	for i, m := range c.Marks {
		if err := refusal.Positive(fmt.Sprintf("marks.%d.at", i), m.At, string(in)); err != nil {
			return err
		}
		if i > 0 && !(m.At > c.Marks[i-1].At) {
			return refusal.Number(refusal.Contradicts, fmt.Sprintf("marks.%d.at", i), m.At, c.Marks[i-1].At, string(in),
				fmt.Sprintf("%g %s does not rise above %g %s.", m.At, in, c.Marks[i-1].At, in), "Check in ascending order.")
		}
		if err := readings(i, m, need, in); err != nil {
			return err
		}
	}
	return c.ends(t, want, in)
}

func readings(i int, m Mark, need int, in unit.Unit) error {
	field := fmt.Sprintf("marks.%d.readings", i)
	if len(m.Readings) < need || len(m.Readings) > mostReadings {
		return refusal.Number(refusal.Missing, field, float64(len(m.Readings)), float64(need), "readings",
			fmt.Sprintf("At %g %s there are %d readings; %d are needed, at most %d are taken.", m.At, in, len(m.Readings), need, mostReadings),
			"Pull as often as it takes.")
	}
	for k, r := range m.Readings {
		at := fmt.Sprintf("%s.%d", field, k)
		if err := refusal.Positive(at, r, string(in)); err != nil {
			return err
		}
		if r > 2*m.At || r < m.At/2 {
			return refusal.Number(refusal.OutOfRange, at, r, m.At, string(in),
				fmt.Sprintf("%g %s at a mark of %g %s: no tool is that far off.", r, in, m.At, in), "Look at the reading, and at its unit.")
		}
	}
	return nil
}

// ends refuses marks that leave out an end of the range that the tool is used in.
func (c Checked) ends(t Tool, want []float64, in unit.Unit) error {
	first, last := c.Marks[0].At, c.Marks[len(c.Marks)-1].At
	low, high := want[0], want[len(want)-1]
	tenth := 0.1 * (high - low)
	switch {
	case first > low+tenth+high*unit.Tolerance || first < low*(1-0.1):
		return refusal.Number(refusal.OutOfRange, "marks.0.at", first, low, string(in),
			fmt.Sprintf("The first mark is %g %s; %s is used from %g %s.", first, in, t.Tag, low, in), "Check at its lowest value.")
	case last < high-tenth-high*unit.Tolerance || !unit.AtMost(last, high):
		return refusal.Number(refusal.OutOfRange, fmt.Sprintf("marks.%d.at", len(c.Marks)-1), last, high, string(in),
			fmt.Sprintf("The last mark is %g %s; %s goes to %g %s.", last, in, t.Tag, high, in), "Check at its greatest value, not past it.")
	}
	return nil
}

// Judged returns a check of this tool by readings at its own marks: what of it follows
// from the tool is filled in.
func (t Tool) Judged(c Checked) Checked {
	if c.Looked {
		return c
	}
	c.Limit = t.accuracy()
	if t.Kind == Gauge || t.Kind == DialGauge {
		c.FullScale = t.Most
	}
	return c
}

func (t Tool) accuracy() float64 {
	if t.Accuracy > 0 {
		return t.Accuracy
	}
	most, _ := unit.Convert(t.Most, t.Unit, unit.NewtonMetre)
	return tool.UsualAccuracy(most)
}
