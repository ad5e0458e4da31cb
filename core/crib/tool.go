// Package crib says what the tools of a crib are and what becomes of them: their
// data, their life as entries that are only ever added to, their checks, and when
// each is due.
//
//	error of a mark     e = 100·(set − given)/given      set on the tool, given by the tester
//	of a gauge          e = 100·(shown − given)/full scale
//	repeatability       s = √(Σ(eᵢ − ē)²/(n − 1))         at each mark
//	a check holds where every reading's |e| is at most the tool's accuracy
//
// Sources: ISO 6789-1 (marks at the lowest value, at 60 % and at the greatest,
// ascending, five readings each; due after twelve months or 5,000 pulls, whichever
// comes first, and after every overload), and the makers' general rule that a tool
// which was dropped is not used before it was checked. A tool's own certificate,
// plate and chart come first.
package crib

import (
	"fmt"
	"math"
	"slices"
	"strings"
	"unicode"

	"dynacor/core/refusal"
	"dynacor/core/tool"
	"dynacor/core/unit"
)

// Kind is what a tool is.
type Kind string

// The kinds of tools.
const (
	Wrench     Kind = "wrench"
	Multiplier Kind = "multiplier"
	Adapter    Kind = "adapter"
	Extension  Kind = "extension"
	OffsetEnd  Kind = "offset end"
	Socket     Kind = "socket"
	Hydraulic  Kind = "hydraulic wrench"
	Pump       Kind = "pump"
	Gauge      Kind = "gauge"
	Tensioner  Kind = "tensioner"
	Feeler     Kind = "feeler gauge"
	DialGauge  Kind = "dial gauge"
	LoadMeter  Kind = "bolt-load meter"
	Tester     Kind = "torque tester"
)

// Kinds lists them, in the order in which a crib is looked through.
func Kinds() []Kind {
	return []Kind{Wrench, Multiplier, Adapter, Extension, OffsetEnd, Socket, Hydraulic, Pump, Gauge, Tensioner, Feeler, DialGauge,
		LoadMeter, Tester}
}

// Face is how a wrench shows what it is set to, or what it gave.
type Face string

// The faces of wrenches.
const (
	Ring        Face = "ring and thimble" // main marks along the tube, minor ones round the thimble
	Window      Face = "window"           // a number in a window, step by step
	Dial        Face = "dial"             // a pointer that goes round, with a follower that stays at the peak
	Electronic  Face = "electronic"
	Preset      Face = "preset" // one value, set on the bench
	Screwdriver Face = "torque screwdriver"
)

// Faces lists them.
func Faces() []Face { return []Face{Ring, Window, Dial, Electronic, Preset, Screwdriver} }

// Tool is a tool as its plate and its papers say. Which of its data count follows
// from its kind (Fields).
type Tool struct {
	Tag, Name, Serial string
	Kind              Kind
	Face              Face      // of a wrench
	Unit              unit.Unit // of range and scale: of torque, for a gauge of pressure, for a meter of load or length
	Least, Most       float64   // rated range, in Unit; of a multiplier, adapter, socket: N·m it bears, Most alone
	Scale             tool.Scale
	Falls             bool    // its main marks rise toward the hand, not toward the head
	Ratio             float64 // of a multiplier: of torque, off its plate
	DriveIn, DriveOut string  // squares, in; of a wrench and a socket DriveOut alone
	Length            float64 // mm: of a wrench to the middle of its grip, of an offset end to its socket
	Angle             float64 // of an offset end, degrees from straight ahead
	Size              float64 // of a socket, across the flats, mm; of a tensioner, its thread, mm
	Inside            bool    // of a socket: a bit for a hexagon inside
	Accuracy          float64 // a fraction: of reading; of a gauge of full scale
	Chart             tool.Chart
	PressureUnit      unit.Unit // of chart and gauge
	Graduation        float64   // of the gauge, in PressureUnit
	PressureMost      float64   // that a tensioner or a pump bears, in PressureUnit
	RamArea           float64   // of a tensioner, mm²
	Stroke            float64   // of a tensioner, mm
	Months            int       // between calibrations; 0: it has none
	Pulls             int       // between calibrations; 0: they are not counted
}

// The usual intervals of hand torque tools (ISO 6789).
const (
	UsualMonths = 12
	UsualPulls  = 5000
)

// Measures reports whether a tool gives or shows a value that can be checked by readings.
func (k Kind) Measures() bool {
	switch k {
	case Adapter, Extension, OffsetEnd, Socket, Pump, Feeler:
		return false
	}
	return true
}

// Reads reports whether a tool reads something that whoever measures writes down: what it
// sends by itself is offered to them.
func (k Kind) Reads() bool {
	switch k {
	case Gauge, DialGauge, LoadMeter, Tester:
		return true
	}
	return false
}

// Sets reports whether pulls are made with it: those are counted and, when it is
// held back, recalled.
func (k Kind) Sets() bool {
	switch k {
	case Wrench, Multiplier, Adapter, Extension, OffsetEnd, Socket, Hydraulic, Tensioner, Gauge, Pump:
		return true
	}
	return false
}

// isTag reports whether a word can stand on a tool: 39 signs at the most, letters, figures and
// what may stand between them.
func isTag(s string) bool {
	for i, c := range []rune(s) {
		if i > 38 || !unicode.In(c, unicode.L, unicode.N) && (i == 0 || !strings.ContainsRune(" ._-", c)) {
			return false
		}
	}
	return s != "" && !strings.HasSuffix(s, " ")
}

// most of anything that a plate says: what is above it was read in another unit.
const mostOfAPlate = 1e6

// Faults returns everything that is wrong with a tool's data, each at its field.
func (t Tool) Faults() []error {
	var out []error
	say := func(err error) {
		if err != nil {
			out = append(out, err)
		}
	}
	if !isTag(t.Tag) {
		say(refusal.New(refusal.Unknown, "tag", fmt.Sprintf("%q is no tag.", t.Tag),
			"Letters, digits, spaces and . _ - , up to 39 of them; it is what is engraved on the tool."))
	}
	if strings.TrimSpace(t.Name) == "" {
		say(refusal.New(refusal.Missing, "name", "The tool has no name.", "Say in a few words what it is."))
	}
	if !slices.Contains(Kinds(), t.Kind) {
		say(refusal.New(refusal.Unknown, "kind", fmt.Sprintf("%q is no kind of tool.", string(t.Kind)), "Choose one of the list."))
		return out
	}
	if t.Kind == Wrench && !slices.Contains(Faces(), t.Face) {
		say(refusal.New(refusal.Unknown, "face", fmt.Sprintf("%q is no face of a wrench.", string(t.Face)), "Choose one of the list."))
		return out
	}
	for _, f := range Fields(t.Kind, t.Face) {
		say(t.fault(f))
	}
	if t.Kind == Hydraulic {
		say(t.Chart.Check())
	}
	t.together(say)
	return out
}

// Only returns the tool with what its kind has, and nothing that was left over from another.
func (t Tool) Only() Tool {
	out := Tool{Tag: t.Tag, Name: t.Name, Kind: t.Kind, Face: t.Face}
	fields := Fields(t.Kind, t.Face)
	for _, f := range fields {
		switch to := f.at(&out).(type) {
		case *float64:
			*to = *f.at(&t).(*float64)
		case *int:
			*to = *f.at(&t).(*int)
		case *string:
			*to = *f.at(&t).(*string)
		case *unit.Unit:
			*to = *f.at(&t).(*unit.Unit)
		}
	}
	if t.Kind != Wrench {
		out.Face = ""
	}
	if t.has(fields, "falls") {
		out.Falls = t.Falls
	}
	if t.has(fields, "inside") {
		out.Inside = t.Inside
	}
	if t.has(fields, "chart") {
		out.Chart = t.Chart
	}
	return out
}

// Check returns the first of Faults.
func (t Tool) Check() error { return refusal.First(t.Faults()...) }

// fault says what is wrong with one field by itself.
func (t Tool) fault(f Field) error {
	v := f.of(t)
	switch v := v.(type) {
	case float64:
		missing := v == 0 && !f.zero
		if f.percent {
			v *= 100
		}
		switch {
		case math.IsNaN(v) || math.IsInf(v, 0):
			return refusal.Finite(f.Name, v)
		case missing && f.Needed:
			return refusal.New(refusal.Missing, f.Name, fmt.Sprintf("%s is missing.", f.Text), "Read it off the tool or its papers.")
		case missing:
			return nil
		case v < 0:
			return refusal.NotNegative(f.Name, v, f.unit(t))
		case v > mostOfAPlate:
			return refusal.Number(refusal.TooLarge, f.Name, v, mostOfAPlate, f.unit(t),
				fmt.Sprintf("%s: %g %s is more than any tool has.", f.Text, v, f.unit(t)), "Look at the unit.")
		case f.most > 0 && v > f.most:
			return refusal.Number(refusal.TooLarge, f.Name, v, f.most, f.unit(t),
				fmt.Sprintf("%s: %g %s; at most %g are taken.", f.Text, v, f.unit(t), f.most), "Look at it again.")
		}
	case string:
		switch {
		case v == "" && f.Needed:
			return refusal.New(refusal.Missing, f.Name, fmt.Sprintf("%s is missing.", f.Text), "Choose one of the list.")
		case v != "" && len(f.Options) > 0 && !slices.Contains(f.Options, v):
			return refusal.New(refusal.Unknown, f.Name, fmt.Sprintf("%q does not belong here.", v),
				"Choose one of: "+strings.Join(f.Options, ", ")+".")
		}
	}
	return nil
}

// together says what does not go together of fields that are right by themselves.
func (t Tool) together(say func(error)) {
	switch t.Kind {
	case Wrench:
		t.ofAScale(say)
		if t.Face == Preset && t.Most != t.Least && t.Least != 0 {
			say(refusal.Number(refusal.Contradicts, "least", t.Least, t.Most, string(t.Unit), "A preset wrench has one value.",
				"Enter that as its greatest."))
		}
	case Gauge, DialGauge, LoadMeter, Tester:
		t.ofARange(say)
	case Adapter:
		if t.DriveIn == t.DriveOut && t.DriveIn != "" {
			say(refusal.New(refusal.Contradicts, "driveOut", fmt.Sprintf("%s in on both sides adapts nothing.", t.DriveIn),
				"Enter it as an extension, or look at its other side."))
		}
	}
}

func (t Tool) ofARange(say func(error)) {
	if t.Least > t.Most && t.Most > 0 {
		say(refusal.Number(refusal.Contradicts, "least", t.Least, t.Most, string(t.Unit),
			fmt.Sprintf("The range goes from %g to %g %s: it is turned round.", t.Least, t.Most, t.Unit), "Read both off the plate."))
	}
}

func (t Tool) ofAScale(say func(error)) {
	t.ofARange(say)
	s := t.scale()
	if !t.Face.marked() || !(t.Most >= t.Least) || !(s.Minor > 0) || !(s.Major > 0) || !(t.Most > 0) {
		return // of what is missing something is said already
	}
	if !unit.AtMost(s.Minor, s.Major) {
		say(refusal.Number(refusal.Contradicts, "minor", s.Minor, s.Major, string(t.Unit),
			fmt.Sprintf("The small step of %g is above the large one of %g.", s.Minor, s.Major), "Read both off the tool."))
		return
	}
	if t.Face == Ring || t.Face == Screwdriver {
		if turns := s.Major / s.Minor; math.Abs(turns-math.Round(turns)) > 1e-6*turns {
			say(refusal.Number(refusal.Contradicts, "minor", s.Minor, s.Major, string(t.Unit),
				fmt.Sprintf("%g goes into %g %.4g times: a turn of the thimble is a whole number of marks.", s.Minor, s.Major, turns),
				"Count the marks round the thimble."))
		}
	}
	if !unit.AtMost(s.First, t.Most) {
		say(refusal.Number(refusal.Contradicts, "first", s.First, t.Most, string(t.Unit),
			fmt.Sprintf("The first mark, %g, lies above the greatest value, %g.", s.First, t.Most), "Read both off the tool."))
	}
}

// marked reports whether a face has marks of its own to be set to or read at.
func (f Face) marked() bool { return f != Preset }

// scale is that of the tool, the greater step filled in where its face has one alone.
func (t Tool) scale() tool.Scale {
	s := t.Scale
	if s.Major == 0 {
		s.Major = s.Minor
	}
	return s
}

// Wrench returns a wrench as the solver takes it, without what its life adds. ok is
// false for another kind.
func (t Tool) Wrench() (w tool.Wrench, ok bool) {
	if t.Kind != Wrench {
		return w, false
	}
	w = tool.Wrench{Tag: t.Tag, Name: t.Name, RatedMin: t.Least, RatedMax: t.Most, Unit: t.Unit, Scale: t.scale(), Drive: t.DriveOut,
		Length: t.Length, Accuracy: t.Accuracy, Falls: t.Falls}
	if t.Face != Ring {
		w.Face = string(t.Face)
	}
	if t.Face == Preset { // it is used at its one value
		w.RatedMin, w.Scale = t.Most, tool.Scale{First: t.Most, Major: t.Most, Minor: t.Most}
	}
	return w, true
}
