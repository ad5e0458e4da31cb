// Package reading turns what a person reads raw into what the craft asks: lengths
// into pipe diameters, a dial's readings into run-out and how far and which way to
// shift, a rise over a length into a slope, a warm charge into the charge at 20 °C.
//
// A form says how many raw readings there are, in which unit, and what they come to.
// Raw readings and answers both stand on the record: the raw ones are what was seen,
// the answers are worked out anew whenever they are looked at. Limits are those of
// the recipe and are held against the answers, but for the two that belong to a form
// itself: a dial that does not come back to its first reading, and shells that are
// not warm alike, say nothing and are read again. Sources: ISO 1101 for run-out, the
// first harmonic by least squares, the gas law for charges.
package reading

import (
	"fmt"
	"math"
	"slices"

	"dynacor/core/proof"
	"dynacor/core/refusal"
	"dynacor/core/unit"
)

// Form is how raw readings become an answer.
type Form string

// The forms. Plain readings are their own answers.
const (
	Plain      Form = ""
	Diameters  Form = "pipe diameters"    // a length over a diameter
	RunOut     Form = "run-out"           // a dial round a circle, and the first place again
	Level      Form = "level"             // rise of one end, and length, in two directions
	Square     Form = "square"            // two diagonals
	Slope      Form = "slope"             // the offset at two ends, and their distance
	Deflection Form = "deflection"        // sideways offset and length of a pipe
	Rate       Form = "rate"              // a pressure, and the minutes it took
	Charge     Form = "charge at 20 °C"   // pressure, and the shell's temperature at two places
	Pressure   Form = "pressure test"     // at the start, at the end, the temperature at both
	Plane      Form = "gap plane"         // gaps round a circle
	Mean       Form = "mean"              // of alike readings
	Sum        Form = "sum"               // with what was read before
	Change     Form = "change"            // against what was read before
	Opposite   Form = "opposite quarters" // round a circle: each against the one across from it
)

// Forms lists them.
func Forms() []Form {
	return []Form{Plain, Diameters, RunOut, Level, Square, Slope, Deflection, Rate, Charge, Pressure, Plane, Mean, Sum, Change, Opposite}
}

// Places are how many places a form is read at: the least, the most, and the usual
// number where nothing is said. It counts those round a circle, or alike; a form of
// other readings has none.
func (f Form) Places() (least, most, usual int) {
	switch f {
	case Plain, Mean:
		return 1, 64, 1
	case RunOut:
		return 4, 12, 8
	case Plane, Opposite:
		return 4, 12, 4
	}
	return 1, 1, 1
}

// Field is one raw reading: what it is of, in which unit, and whether it may be below
// zero.
type Field struct {
	Name   string
	Unit   string
	Signed bool
}

// Fields are the raw readings of a form that is read at so many places, in their
// order; u is the unit of what is read plainly.
func (f Form) Fields(places int, u string) []Field {
	switch f {
	case RunOut:
		return append(around(places, "mm", true), Field{"12 o’clock again", "mm", true})
	case Plane:
		return around(places, "mm", false)
	case Opposite:
		return around(places, "mm", true)
	case Level:
		return []Field{{"rise along", "mm", true}, {"length along", "mm", false}, {"rise across", "mm", true}, {"length across", "mm", false}}
	case Square:
		return []Field{{"one diagonal", "mm", false}, {"the other", "mm", false}}
	case Slope:
		return []Field{{"offset at one end", "mm", true}, {"offset at the other", "mm", true}, {"distance between them", "mm", false}}
	case Deflection:
		return []Field{{"sideways offset", "mm", false}, {"length of the pipe", "mm", false}}
	case Rate:
		return []Field{{"pressure", "bar", false}, {"minutes it took", "min", false}}
	case Charge:
		return []Field{{"charge", "bar", false}, {"shell, one place", "°C", true}, {"shell, another", "°C", true}}
	case Pressure:
		return []Field{{"at the start", "bar", false}, {"at the end", "bar", false}, {"medium at the start", "°C", true},
			{"medium at the end", "°C", true}}
	case Diameters:
		return []Field{{"", "mm", false}}
	}
	out := make([]Field, max(places, 1))
	for i := range out {
		out[i] = Field{Unit: u, Signed: f == Plain}
	}
	return out
}

func around(places int, u string, signed bool) []Field {
	out := make([]Field, places)
	for i := range out {
		out[i] = Field{Place(i, places), u, signed}
	}
	return out
}

// Place names place i of n round a circle, clockwise from the top.
func Place(i, n int) string {
	hour := 12 * float64(i) / float64(n)
	if half := math.Round(2*hour) / 2; n > 0 && math.Abs(half-hour) < 1e-9 {
		if half < 0.5 {
			half += 12
		}
		return proof.Clock(half)
	}
	return fmt.Sprintf("%.0f°", 360*float64(i)/float64(n))
}

// Given is what an answer is worked out with, beside the readings.
type Given struct {
	Over     float64   // what is counted over: a diameter or a length, mm; 0 where it is not known
	Before   []float64 // what was read before, for a sum or a change
	Gas      bool      // of a pressure test: the medium is a gas, brought to one temperature
	Target   float64   // of a pressure test, bar
	Bolts    int       // in the ring; 0 where they are not named
	OnCentre bool      // the first bolt is at the top
}

// Answer is one thing that readings come to.
type Answer struct {
	Name   string
	Value  float64
	Unit   string
	Judged bool // held against the recipe's limit; else it is told
	Says   string
}

// Result is what the readings of one form come to. Wrong says why they cannot be
// right, whatever they come to: they are read again.
type Result struct {
	Answers []Answer
	Wrong   string
}

// What a form itself asks of its readings.
const (
	Closes    = 0.02 // mm: by how much a dial's first place may differ when it is read again
	WarmAlike = 2.0  // °C: by how much two places of a shell may differ
)

// Answer works out what raw readings come to. It refuses what is no number, a length
// that is none, and a count of readings that is not the form's.
func (f Form) Answer(raw []float64, g Given) (Result, error) {
	places := len(raw)
	if f == RunOut {
		places--
	}
	least, most, _ := f.Places()
	if f == Plain {
		most = max(most, places) // a sample can be all of a large group
	}
	fields := f.Fields(min(max(places, least), most), "")
	if len(raw) != len(fields) {
		return Result{}, refusal.Number(refusal.Missing, "readings", float64(len(raw)), float64(len(fields)), "readings",
			fmt.Sprintf("%d readings; a %s has %d.", len(raw), f, len(fields)), "Read each.")
	}
	for i, x := range raw {
		at := fmt.Sprintf("readings.%d", i)
		check := refusal.Finite(at, x)
		if !fields[i].Signed && f != Plain {
			check = refusal.NotNegative(at, x, fields[i].Unit)
		}
		if check != nil {
			return Result{}, check
		}
	}
	switch f {
	case RunOut:
		return runOut(raw)
	case Plane:
		return plane(raw, g)
	case Level:
		return level(raw)
	case Pressure:
		return pressure(raw, g)
	case Charge:
		return charge(raw)
	case Sum:
		sum := raw[0]
		for _, x := range g.Before {
			sum += x
		}
		return one("together", sum, ""), nil
	case Change:
		if len(g.Before) == 0 {
			return Result{}, refusal.New(refusal.Missing, "readings", "What it is held against was not read.", "Read that first.")
		}
		return one("change", raw[0]-g.Before[len(g.Before)-1], ""), nil
	case Mean:
		sum := 0.0
		for _, x := range raw {
			sum += x
		}
		return one("mean", sum/float64(len(raw)), ""), nil
	case Opposite:
		return opposite(raw), nil
	case Square:
		return one("they differ by", math.Abs(raw[0]-raw[1]), "mm"), nil
	}
	return lengths(f, raw, g)
}

// one is a single answer that is judged.
func one(name string, v float64, u string) Result {
	return Result{Answers: []Answer{{Name: name, Value: v, Unit: u, Judged: true}}}
}

// over divides by a length that must be one.
func over(field string, v, by float64) (float64, error) {
	if err := refusal.Positive(field, by, "mm"); err != nil {
		return 0, err
	}
	return v / by, nil
}

func lengths(f Form, raw []float64, g Given) (Result, error) {
	switch f {
	case Diameters:
		n, err := over("readings.0", raw[0], g.Over)
		return one("", n, "pipe diameters"), err
	case Slope:
		s, err := over("readings.2", math.Abs(raw[0]-raw[1]), raw[2]/1000)
		return one("", s, "mm/m"), err
	case Deflection:
		t, err := over("readings.1", raw[0], raw[1])
		return one("deflected by", math.Atan(t)*180/math.Pi, "°"), err
	case Rate:
		r, err := over("readings.1", raw[0], raw[1])
		return one("", r, "bar/min"), err
	}
	out := Result{}
	for _, x := range raw {
		out.Answers = append(out.Answers, Answer{Value: x, Judged: true})
	}
	return out, nil
}

// runOut reads a dial: whether it came back, total indicator reading, and the first
// harmonic: how far to shift, half of its span, from the high side to the low.
func runOut(raw []float64) (Result, error) {
	round, again := raw[:len(raw)-1], raw[len(raw)-1]
	c, err := proof.ReadCircle(round)
	if err != nil {
		return Result{}, err
	}
	out := Result{Answers: []Answer{{Name: "total", Value: c.Total, Unit: "mm", Judged: true}}}
	if off := math.Abs(again - round[0]); !unit.AtMost(off, Closes) {
		out.Wrong = fmt.Sprintf("The first place reads %.3g mm otherwise when it comes round again, more than %g mm: the base has moved.", off,
			Closes)
		return out, nil
	}
	if c.Amplitude > 0 {
		out.Answers = append(out.Answers, Answer{Name: "high at", Value: c.Angle, Unit: "°", Says: clockOf(c.Angle)},
			Answer{Name: "shift", Value: c.Amplitude, Unit: "mm", Says: fmt.Sprintf("%.3f mm toward %s", c.Amplitude, clockOf(c.Angle+180))})
	}
	return out, nil
}

// clockOf says an angle clockwise from the top as an hour, to the half.
func clockOf(angle float64) string {
	hour := math.Round(math.Mod(angle+720, 360)/15) / 2
	if hour < 0.5 {
		hour += 12
	}
	return proof.Clock(hour)
}

// plane reads gaps round a circle: how open, which way, over which bolts.
func plane(raw []float64, g Given) (Result, error) {
	gap, err := proof.JudgeGap(raw, max(g.Over, 1), 0)
	if err != nil {
		return Result{}, err
	}
	out := one("differ by", gap.Spread, "mm")
	if slices.Max(raw) == 0 {
		out.Wrong = "Every gap reads 0: nothing was measured, or nothing lies between the faces."
	}
	if gap.Spread == 0 {
		return out, nil
	}
	angle := 360 * float64(slices.Index(raw, slices.Max(raw))) / float64(len(raw))
	if c, err := proof.ReadCircle(raw); err == nil && c.Amplitude > 0 {
		angle = c.Angle
	}
	open := Answer{Name: "open at", Value: angle, Unit: "°", Says: clockOf(angle)}
	if list := boltsAt(angle, g); len(list) > 0 {
		open.Says += fmt.Sprintf(", bolts %d and %d", list[0], list[1])
	}
	out.Answers = append(out.Answers, open)
	if g.Over > 0 {
		out.Answers = append(out.Answers, Answer{Name: "tilt", Value: gap.Tilt, Unit: "°", Says: fmt.Sprintf("%.3f°", gap.Tilt)})
	}
	return out, nil
}

// boltsAt are the two bolts of a ring next to an angle, clockwise.
func boltsAt(angle float64, g Given) []int {
	if g.Bolts < 3 {
		return nil
	}
	at := math.Mod(angle+360, 360) * float64(g.Bolts) / 360 // bolts past the top
	if !g.OnCentre {
		at -= 0.5
	}
	lower := int(math.Floor(at + 1e-9))
	n := g.Bolts
	return []int{(lower%n+n)%n + 1, ((lower+1)%n+n)%n + 1}
}

// opposite holds each place against the one across from it.
func opposite(raw []float64) Result {
	out, n := Result{}, len(raw)/2
	for i := range n {
		d := math.Abs(raw[i] - raw[i+n])
		out.Answers = append(out.Answers, Answer{Name: Place(i, len(raw)) + " and across", Value: d, Unit: "mm", Judged: true})
	}
	return out
}

func level(raw []float64) (Result, error) {
	out := Result{}
	for i, way := range []string{"along", "across"} {
		rise, length := raw[2*i], raw[2*i+1]
		s, err := over(fmt.Sprintf("readings.%d", 2*i+1), math.Abs(rise), length/1000)
		if err != nil {
			return Result{}, err
		}
		a := Answer{Name: way, Value: s, Unit: "mm/m", Judged: true}
		switch {
		case rise > 0:
			a.Says = fmt.Sprintf("%.3g mm/m, the read end high", s)
		case rise < 0:
			a.Says = fmt.Sprintf("%.3g mm/m, the far end high", s)
		}
		out.Answers = append(out.Answers, a)
	}
	return out, nil
}

// pressure is what was lost; of a gas at one temperature, that of the start.
func pressure(raw []float64, g Given) (Result, error) {
	start, end := raw[0], raw[1]
	if g.Gas {
		var err error
		if end, err = proof.ChargeAt(end, raw[3], raw[2]); err != nil {
			return Result{}, err
		}
	}
	drop := one("lost", start-end, "bar")
	if g.Gas {
		drop.Answers[0].Says = fmt.Sprintf("%.4g bar, brought to %.3g °C", start-end, raw[2])
	}
	if g.Target > 0 {
		_, held, err := proof.Test{Target: g.Target, Start: start, End: start}.Judge()
		if err != nil {
			return Result{}, err
		}
		if held == proof.NotReached {
			drop.Wrong = fmt.Sprintf("Not reached: %.5g bar at the start, %.5g bar are asked for.", start, g.Target)
		}
	}
	return drop, nil
}

func charge(raw []float64) (Result, error) {
	if apart := math.Abs(raw[1] - raw[2]); !unit.AtMost(apart, WarmAlike) {
		return Result{Answers: one("at 20 °C", raw[0], "bar").Answers, Wrong: fmt.Sprintf(
			"The shell is %.3g °C warmer at one place than at the other; %g °C at most.", apart, WarmAlike)}, nil
	}
	p, err := proof.ChargeAt(raw[0], (raw[1]+raw[2])/2, 20)
	return one("at 20 °C", p, "bar"), err
}

// Unit is the unit of a form's answer; empty where it is that of what is read.
func (f Form) Unit() string {
	switch f {
	case RunOut, Plane, Square, Opposite:
		return "mm"
	case Level, Slope:
		return "mm/m"
	case Deflection:
		return "°"
	case Rate:
		return "bar/min"
	case Charge, Pressure:
		return "bar"
	case Diameters:
		return "pipe diameters"
	}
	return ""
}
