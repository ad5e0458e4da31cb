package tool

import (
	"fmt"
	"math"
	"time"

	"dynacor/core/refusal"
	"dynacor/core/unit"
)

// Pump gives the pressure; Most is what it bears, in Unit.
type Pump struct {
	Tag, Name string
	Unit      unit.Unit
	Most      float64
	HeldBack  string
}

// Gauge is a pressure gauge. Range and step are in Unit; its accuracy is a fraction of
// its full scale.
type Gauge struct {
	Tag, Name         string
	Unit              unit.Unit
	Least, Most, Step float64
	Accuracy          float64
	Due               time.Time
	HeldBack          string
}

// Supply is what gives and shows the pressure of a hydraulic tool. Either is nil where the
// crib has none: it is then fetched, and the tool's own graduation counts.
type Supply struct {
	Pump  *Pump
	Gauge *Gauge
}

// Tags names what of the crib a supply is made of.
func (s Supply) Tags() (out []string) {
	if s.Pump != nil {
		out = append(out, s.Pump.Tag)
	}
	if s.Gauge != nil {
		out = append(out, s.Gauge.Tag)
	}
	return out
}

// supplies are the pumps of a crib with its gauges, each with each.
func (c Crib) supplies() (out []Supply) {
	for _, p := range orNone(c.Pumps) {
		for _, g := range orNone(c.Gauges) {
			out = append(out, Supply{p, g})
		}
	}
	return out
}

// orNone points at each of a list, and at nothing where there is none.
func orNone[T any](list []T) []*T {
	if len(list) == 0 {
		return []*T{nil}
	}
	out := make([]*T, len(list))
	for i := range list {
		out[i] = &list[i]
	}
	return out
}

// free refuses a pump or a gauge that may not be used today.
func (s Supply) free(today time.Time) error {
	var pump, gauge error
	if s.Pump != nil {
		pump = usableToday("pump", s.Pump.Tag, s.Pump.HeldBack, time.Time{}, today)
	}
	if s.Gauge != nil {
		gauge = usableToday("gauge", s.Gauge.Tag, s.Gauge.HeldBack, s.Gauge.Due, today)
	}
	return refusal.First(pump, gauge)
}

// scale is the unit in which the pressure is read, and from mark to mark.
func (s Supply) scale(u unit.Unit, step float64) (unit.Unit, float64) {
	if s.Gauge != nil {
		return s.Gauge.Unit, s.Gauge.Step
	}
	return u, step
}

// reaches refuses a pressure that the pump does not give, or the gauge does not show.
func (s Supply) reaches(pressure float64, u unit.Unit) error {
	if x := s.Pump; x != nil {
		most, err := unit.Convert(x.Most, x.Unit, u)
		if err != nil {
			return refusal.At("pump", err)
		}
		if !unit.AtMost(pressure, most) {
			return refusal.Number(refusal.TooLarge, "pump", pressure, most, string(u),
				fmt.Sprintf("%s gives up to %.4g %s; here are %.4g %s.", x.Tag, most, u, pressure, u), "Take another pump.")
		}
	}
	if g := s.Gauge; g != nil && (!unit.AtLeast(pressure, g.Least) || !unit.AtMost(pressure, g.Most)) {
		return refusal.Number(refusal.OutOfRange, "gauge", pressure, g.Most, string(u), fmt.Sprintf(
			"%s shows %.4g to %.4g %s; here are %.4g %s.", g.Tag, g.Least, g.Most, u, pressure, u), "Take another gauge.")
	}
	return nil
}

// accuracy is that of a tool whose value goes with the pressure: what the gauge is off by,
// the value is.
func (s Supply) accuracy(own, pressure float64) float64 {
	if s.Gauge == nil {
		return own
	}
	return Together(own, s.Gauge.Accuracy*s.Gauge.Most/pressure)
}

// RigStep is one step of bringing a hydraulic wrench up to the value of a stage.
type RigStep struct {
	ID   string
	Text string
	Why  string
	Read bool // the gauge is read after it
}

// RigUp lists how a hydraulic wrench is made ready before each stage, in order. The value
// is set off the nut: on it, the first nut would be pulled by a pressure nobody knows.
func RigUp() []RigStep {
	return []RigStep{
		{ID: "hoses", Text: "Hoses and couplings looked at, screwed home; no kink, no weight on them."},
		{ID: "free", Text: "Tool on the ground, off the nut: cycled free, full stroke, no leak."},
		{ID: "down", Text: "Regulator right down.", Why: "Brought down from above it reads high."},
		{ID: "stall", Text: "Still off the nut: advanced to a stall, and held there."},
		{ID: "up", Text: "Regulator brought up to the value, from below.", Read: true},
		{ID: "again", Text: "Cycled once more, to a stall; read again.", Read: true},
	}
}

// AlikeShare is how far a reading may lie from the value, and two from each other, a
// fraction of the value.
const AlikeShare = 0.01

// JudgeRig refuses readings of a gauge that is brought up to a value: two, each within
// AlikeShare of the value and of the other.
func JudgeRig(value float64, readings []float64, u unit.Unit) error {
	if len(readings) != 2 {
		return refusal.Number(refusal.Missing, "readings", float64(len(readings)), 2, "readings",
			fmt.Sprintf("%d readings of the gauge; it is read twice.", len(readings)), "Bring it up, read; cycle once, read again.")
	}
	for i, r := range readings {
		field := fmt.Sprintf("readings.%d", i)
		if err := refusal.Positive(field, r, string(u)); err != nil {
			return err
		}
		if !unit.AtMost(math.Abs(r-value), AlikeShare*value) {
			return refusal.Number(refusal.OutOfRange, field, r, value, string(u), fmt.Sprintf("%.5g %s; it must be within 1 %% of %.5g %s.", r,
				u, value, u), "Regulator right down, and up to the value again from below.")
		}
	}
	if !unit.AtMost(math.Abs(readings[0]-readings[1]), AlikeShare*value) {
		return refusal.Number(refusal.OutOfRange, "readings.1", readings[1], readings[0], string(u),
			fmt.Sprintf("%.5g and %.5g %s are not alike.", readings[0], readings[1], u),
			"Something drifts: regulator right down, and up again; else another pump.")
	}
	return nil
}
