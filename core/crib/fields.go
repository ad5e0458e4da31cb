package crib

import (
	"errors"
	"fmt"
	"math"
	"slices"
	"strconv"
	"strings"

	"dynacor/core/refusal"
	"dynacor/core/tool"
	"dynacor/core/unit"
)

// Field is one of a tool's data: what a form asks for and what a column of a list is.
type Field struct {
	Name    string
	Text    string
	Unit    string   // fixed; empty: none, or that of the tool
	Own     string   // the field that has its unit: "unit" or "pressureUnit"; empty: none
	Options []string // one of these; empty: free
	Number  bool
	Whole   bool // a whole number
	Needed  bool
	zero    bool    // nought is a value of it
	percent bool    // a fraction that is written as percent
	most    float64 // 0: mostOfAPlate
	at      func(*Tool) any
}

func (f Field) of(t Tool) any {
	switch p := f.at(&t).(type) {
	case *float64:
		return *p
	case *string:
		return *p
	case *unit.Unit:
		return string(*p)
	case *Face:
		return string(*p)
	case *int:
		return float64(*p)
	}
	return nil
}

func (f Field) unit(t Tool) string {
	switch f.Own {
	case "unit":
		return string(t.Unit)
	case "pressureUnit":
		return string(t.PressureUnit)
	}
	return f.Unit
}

func names(d unit.Dimension) (out []string) {
	for _, u := range unit.Units() {
		if own, err := unit.DimensionOf(u); err == nil && own == d {
			out = append(out, string(u))
		}
	}
	return out
}

func faces() (out []string) {
	for _, f := range Faces() {
		out = append(out, string(f))
	}
	return out
}

var (
	serial = Field{Name: "serial", Text: "Serial number", at: func(t *Tool) any { return &t.Serial }}
	face   = Field{Name: "face", Text: "How it shows its value", Needed: true, Options: faces(), at: func(t *Tool) any { return &t.Face }}
	torque = Field{Name: "unit", Text: "Unit of its scale", Needed: true, Options: names(unit.Torque),
		at: func(t *Tool) any { return &t.Unit }}
	least = Field{Name: "least", Text: "Least value", Own: "unit", Number: true, zero: true,
		at: func(t *Tool) any { return &t.Least }}
	most = Field{Name: "most", Text: "Greatest value", Own: "unit", Number: true, Needed: true,
		at: func(t *Tool) any { return &t.Most }}
	first = Field{Name: "first", Text: "First mark", Own: "unit", Number: true, zero: true,
		at: func(t *Tool) any { return &t.Scale.First }}
	major = Field{Name: "major", Text: "Step of the main marks", Own: "unit", Number: true, Needed: true,
		at: func(t *Tool) any { return &t.Scale.Major }}
	minor = Field{Name: "minor", Text: "Smallest step", Own: "unit", Number: true, Needed: true,
		at: func(t *Tool) any { return &t.Scale.Minor }}
	ratio = Field{Name: "ratio", Text: "Torque ratio, off its plate", Number: true, Needed: true, most: 200,
		at: func(t *Tool) any { return &t.Ratio }}
	driveIn = Field{Name: "driveIn", Text: "Drive it takes", Unit: "in", Needed: true, Options: tool.Drives(),
		at: func(t *Tool) any { return &t.DriveIn }}
	driveOut = Field{Name: "driveOut", Text: "Drive it has", Unit: "in", Needed: true, Options: tool.Drives(),
		at: func(t *Tool) any { return &t.DriveOut }}
	length = Field{Name: "length", Text: "Length to the middle of the grip", Unit: "mm", Number: true, most: 5000,
		at: func(t *Tool) any { return &t.Length }}
	angle = Field{Name: "angle", Text: "Angle from straight ahead", Unit: "°", Number: true, zero: true, most: 180,
		at: func(t *Tool) any { return &t.Angle }}
	bears = Field{Name: "most", Text: "Torque it bears", Unit: "N·m", Number: true, Needed: true,
		at: func(t *Tool) any { return &t.Most }}
	size = Field{Name: "size", Text: "Size across the flats", Unit: "mm", Number: true, Needed: true, most: 300,
		at: func(t *Tool) any { return &t.Size }}
	accuracy = Field{Name: "accuracy", Text: "Accuracy, ± of reading", Unit: "%", Number: true, Needed: true, percent: true, most: 50,
		at: func(t *Tool) any { return &t.Accuracy }}
	pressure = Field{Name: "pressureUnit", Text: "Unit of its pressures", Needed: true, Options: names(unit.Pressure),
		at: func(t *Tool) any { return &t.PressureUnit }}
	graduation = Field{Name: "graduation", Text: "Step of the gauge", Own: "pressureUnit", Number: true, Needed: true,
		at: func(t *Tool) any { return &t.Graduation }}
	pressureMost = Field{Name: "pressureMost", Text: "Greatest pressure", Own: "pressureUnit", Number: true, Needed: true,
		at: func(t *Tool) any { return &t.PressureMost }}
	months = Field{Name: "months", Text: "Calibrated every", Unit: "months", Number: true, Whole: true, zero: true, most: 120,
		at: func(t *Tool) any { return &t.Months }}
	pulls = Field{Name: "pulls", Text: "or after", Unit: "pulls", Number: true, Whole: true, zero: true,
		at: func(t *Tool) any { return &t.Pulls }}
)

// Usual is what a field mostly is, for a form to begin with; empty: nobody can tell.
func (f Field) Usual(k Kind, by Face) string {
	switch {
	case f.Name == "unit" && k == Gauge:
		return string(unit.Bar)
	case f.Name == "unit" && (k == Feeler || k == DialGauge):
		return string(unit.Millimetre)
	case f.Name == "unit" && k == LoadMeter:
		return string(unit.Kilonewton)
	case f.Name == "unit":
		return string(unit.NewtonMetre)
	case f.Name == "pressureUnit":
		return string(unit.Bar)
	case f.Name == "months":
		return strconv.Itoa(UsualMonths)
	case f.Name == "pulls" && k == Wrench:
		return strconv.Itoa(UsualPulls)
	case f.Name == "accuracy" && by == Screwdriver:
		return number(100 * tool.ScrewdriverAccuracy)
	case f.Name == "accuracy" && k == Wrench:
		return number(100 * tool.WrenchAccuracy)
	}
	return ""
}

func (f Field) named(text string) Field { f.Text = text; return f }

func (f Field) free() Field { f.Needed = false; return f }

func (f Field) among(d unit.Dimension) Field { f.Options = names(d); return f }

// Fields lists what is asked of a tool of a kind, beside its tag, name and kind; of a
// wrench by its face.
func Fields(k Kind, by Face) []Field {
	switch k {
	case Wrench:
		out := []Field{face, torque}
		switch by {
		case Preset:
			out = append(out, most.named("Its one value"))
		case Electronic:
			out = append(out, least, most, minor.named("Smallest step it shows"))
		case Window:
			out = append(out, least, most, first.named("Lowest number in the window"), minor.named("Step from number to number"))
		default:
			out = append(out, least, most, first, major, minor)
		}
		return append(out, driveOut, length, accuracy, months, pulls, serial)
	case Multiplier:
		return []Field{ratio, bears.named("Greatest torque out"), driveIn, driveOut, accuracy, months, pulls, serial}
	case Adapter:
		return []Field{driveIn, driveOut, bears, serial}
	case Extension:
		return []Field{driveIn, driveOut, length.named("Length"), bears, serial}
	case OffsetEnd:
		end := length.named("Length from drive to socket")
		end.Needed = true
		return []Field{driveIn, driveOut, end, angle, bears, serial}
	case Socket:
		return []Field{driveOut.named("Drive it takes"), size, bears.free(), serial}
	case Hydraulic:
		return []Field{driveOut, pressure, graduation, accuracy, months, pulls, serial}
	case Pump:
		return []Field{pressure, pressureMost, serial}
	case Gauge:
		return []Field{torque.among(unit.Pressure), least, most.named("Full scale"), minor, accuracy.named("Accuracy, ± of full scale"),
			months, serial}
	case Tensioner:
		thread := size.named("Thread it draws, diameter")
		stroke := Field{Name: "stroke", Text: "Stroke", Unit: "mm", Number: true, Needed: true, most: 200,
			at: func(t *Tool) any { return &t.Stroke }}
		area := Field{Name: "ramArea", Text: "Ram area", Unit: "mm²", Number: true, Needed: true,
			at: func(t *Tool) any { return &t.RamArea }}
		return []Field{thread, area, stroke, pressure, pressureMost, graduation, accuracy, months, pulls, serial}
	case Feeler:
		return []Field{torque.among(unit.Length), least, most, months, serial}
	case DialGauge:
		return []Field{torque.among(unit.Length), least, most, minor, accuracy.named("Accuracy, ± of full scale"), months, serial}
	case LoadMeter:
		return []Field{torque.among(unit.Force), least, most, minor, accuracy, months, serial}
	case Tester:
		return []Field{torque, least, most, minor, accuracy, months, serial}
	}
	return nil
}

// Columns lists the headings of a list of tools, those of all kinds.
func Columns() []string {
	out := []string{"tag", "kind", "name"}
	for _, k := range Kinds() {
		for _, f := range Faces() {
			for _, x := range Fields(k, f) {
				if !slices.Contains(out, x.Name) {
					out = append(out, x.Name)
				}
			}
		}
	}
	return append(out, "falls", "inside", "chart")
}

// Cell returns what a list says of a tool in a column.
func (t Tool) Cell(column string) string {
	switch column {
	case "tag":
		return t.Tag
	case "kind":
		return string(t.Kind)
	case "name":
		return t.Name
	case "falls", "inside":
		if column == "falls" && t.Falls || column == "inside" && t.Inside {
			return "yes"
		}
		return ""
	case "chart":
		var rows []string
		for _, r := range t.Chart {
			rows = append(rows, fmt.Sprintf("%s:%s", number(r.Pressure), number(r.Torque)))
		}
		return strings.Join(rows, " ")
	}
	for _, f := range Fields(t.Kind, t.Face) {
		if f.Name != column {
			continue
		}
		switch v := f.of(t).(type) {
		case string:
			return v
		case float64:
			if v == 0 && !f.zero {
				return ""
			}
			if f.percent {
				v = math.Round(1e8*v) / 1e6
			}
			return number(v)
		}
	}
	return ""
}

func number(v float64) string { return strconv.FormatFloat(v, 'f', -1, 64) }

// Row reads a tool from a line of a list: cells by their column. Everything that is
// wrong with it is returned, each at its column.
func Row(cells map[string]string) (t Tool, wrong []error) {
	get := func(column string) string { return strings.TrimSpace(cells[column]) }
	t = Tool{Tag: get("tag"), Kind: Kind(strings.ToLower(get("kind"))), Name: get("name"), Face: Face(strings.ToLower(get("face")))}
	if t.Kind == Wrench && t.Face == "" {
		t.Face = Ring
	}
	t.Falls, t.Inside = yes(get("falls")), yes(get("inside"))
	var err error
	if t.Chart, err = readChart(get("chart")); err != nil {
		wrong = append(wrong, err)
	}
	fields := Fields(t.Kind, t.Face)
	for _, f := range fields {
		if text := get(f.Name); text != "" && f.Name != "face" {
			if err := f.read(&t, text); err != nil {
				wrong = append(wrong, err)
			}
		}
	}
	for _, column := range Columns()[3:] {
		if get(column) != "" && !t.has(fields, column) {
			wrong = append(wrong, refusal.New(refusal.Contradicts, column, fmt.Sprintf("%q: a %s has no such thing.", get(column), t.what()),
				"Leave that cell empty."))
		}
	}
	for _, err := range t.Faults() { // of a cell that could not be read nothing more is said
		if !slices.ContainsFunc(wrong, func(w error) bool { return column(w) == column(err) }) {
			wrong = append(wrong, err)
		}
	}
	return t, wrong
}

// column is the column that a refusal is about.
func column(err error) string {
	var r *refusal.Error
	if !errors.As(err, &r) {
		return ""
	}
	name, _, _ := strings.Cut(r.Field, ".")
	return name
}

// has reports whether a tool of its kind has a column.
func (t Tool) has(fields []Field, column string) bool {
	switch {
	case fields == nil:
		return true // its kind is what is wrong
	case column == "falls":
		return t.Kind == Wrench && (t.Face == Ring || t.Face == Screwdriver)
	case column == "inside":
		return t.Kind == Socket
	case column == "chart":
		return t.Kind == Hydraulic
	}
	return slices.ContainsFunc(fields, func(f Field) bool { return f.Name == column })
}

func (t Tool) what() string {
	if t.Kind == Wrench {
		return string(t.Face) + " wrench"
	}
	return string(t.Kind)
}

func yes(text string) bool {
	return slices.Contains([]string{"yes", "y", "true", "1", "x"}, strings.ToLower(text))
}

func (f Field) read(t *Tool, text string) error {
	switch p := f.at(t).(type) {
	case *string:
		*p = text
	case *unit.Unit:
		*p = unit.Unit(text)
	case *float64, *int:
		v, err := strconv.ParseFloat(strings.ReplaceAll(text, ",", "."), 64)
		if err != nil || math.IsNaN(v) || math.IsInf(v, 0) {
			return refusal.New(refusal.NotANumber, f.Name, fmt.Sprintf("%s: %q is no number.", f.Text, text),
				"Write it plainly, 340 or 0.25; its unit has a column of its own.")
		}
		if f.percent {
			v /= 100
		}
		if n, whole := p.(*int); whole {
			if v != math.Trunc(v) || math.Abs(v) > mostOfAPlate {
				return refusal.New(refusal.NotANumber, f.Name, fmt.Sprintf("%s: %q is no whole number.", f.Text, text), "Round it.")
			}
			*n = int(v)
			return nil
		}
		*p.(*float64) = v
	}
	return nil
}

// readChart reads "70:620 140:1240": pressure and torque, row by row.
func readChart(text string) (c tool.Chart, err error) {
	for i, row := range strings.Fields(text) {
		p, t, ok := strings.Cut(row, ":")
		at, err := strconv.ParseFloat(strings.ReplaceAll(p, ",", "."), 64)
		if ok && err == nil {
			var gives float64
			if gives, err = strconv.ParseFloat(strings.ReplaceAll(t, ",", "."), 64); err == nil {
				c = append(c, tool.Row{Pressure: at, Torque: gives})
				continue
			}
		}
		return nil, refusal.New(refusal.NotANumber, "chart", fmt.Sprintf("Row %d of the chart, %q, is not pressure:torque.", i+1, row),
			"Write each row as 140:1240, with a space between rows.")
	}
	return c, nil
}
