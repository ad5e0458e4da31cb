package demo

import (
	"context"
	"errors"
	"fmt"
	"math"
	"slices"
	"time"

	"github.com/google/uuid"

	"dynacor/core/crib"
	"dynacor/core/record"
	"dynacor/core/refusal"
	"dynacor/core/tool"
	"dynacor/core/unit"
	"dynacor/internal/app"
	"dynacor/internal/judge"
)

// droppedTool made a few joints before it fell from the gallery stair.
const droppedTool = "TW-07"

// cribTool is a tool of the demo's crib: what its plate says, and for how many days its
// calibration still holds.
type cribTool struct {
	crib.Tool
	due   int // days from now; noDue: it is not calibrated
	place string
}

const noDue = math.MinInt

func wrenchOf(tag, name string, u unit.Unit, least, most, first, major, minor float64, drive string, length float64, due int) cribTool {
	return cribTool{crib.Tool{Tag: tag, Kind: crib.Wrench, Face: crib.Ring, Name: name, Unit: u, Least: least, Most: most,
		Scale: tool.Scale{First: first, Major: major, Minor: minor}, DriveOut: drive, Length: length, Accuracy: tool.WrenchAccuracy,
		Months: crib.UsualMonths, Pulls: crib.UsualPulls}, due, "crib, rack A"}
}

func (t cribTool) face(f crib.Face) cribTool {
	t.Face = f
	switch f {
	case crib.Screwdriver:
		t.Accuracy = tool.ScrewdriverAccuracy
	case crib.Window:
		t.Scale.Major = 0
	case crib.Electronic:
		t.Scale.First, t.Scale.Major, t.Accuracy = 0, 0, 0.02
	case crib.Preset:
		t.Least, t.Scale = 0, tool.Scale{}
	}
	return t
}

func multiplierOf(tag, name string, ratio, most float64, in, out string) cribTool {
	return cribTool{crib.Tool{Tag: tag, Kind: crib.Multiplier, Name: name, Ratio: ratio, Most: most, DriveIn: in, DriveOut: out,
		Accuracy: 0.05}, noDue, "crib, chest 2"}
}

func socketOf(size float64, drive string, most float64) cribTool {
	return cribTool{crib.Tool{Tag: fmt.Sprintf("SO-%g", size), Kind: crib.Socket, Name: "impact socket", Size: size, DriveOut: drive,
		Most: most}, noDue, "crib, drawer 4"}
}

// tools of the demo's crib.
func cribTools() []cribTool {
	nm := unit.NewtonMetre
	chest, drawer := "crib, chest 2", "crib, drawer 3"
	return []cribTool{
		wrenchOf("TD-01", "torque screwdriver", nm, 0.3, 1.2, 0.3, 0.1, 0.01, "1/4", 0, 130).face(crib.Screwdriver),
		wrenchOf("TD-02", "torque screwdriver, large", nm, 1, 6, 1, 0.5, 0.05, "1/4", 0, 88).face(crib.Screwdriver),
		wrenchOf("TW-01", "click wrench, small", nm, 5, 25, 5, 5, 0.25, "3/8", 200, 96),
		wrenchOf("TW-02", "click wrench, 20 to 100", nm, 20, 100, 20, 10, 1, "1/2", 380, 210),
		wrenchOf("TW-03", "click wrench, 20 to 100", nm, 20, 100, 20, 10, 1, "1/2", 380, -12),
		wrenchOf("TW-04", "click wrench, 60 to 340", nm, 60, 340, 60, 10, 1, "1/2", 600, 150),
		wrenchOf("TW-05", "click wrench, 20 to 100", nm, 20, 100, 20, 10, 1, "1/2", 380, 175),
		wrenchOf("TW-06", "click wrench, long", nm, 140, 760, 140, 20, 2, "3/4", 1050, 40),
		wrenchOf(droppedTool, "click wrench, 40 to 200", nm, 40, 200, 40, 10, 1, "1/2", 480, 120),
		wrenchOf("TW-09", "click wrench, two-hand", nm, 200, 1000, 200, 50, 5, "1", 1500, 2),
		wrenchOf("TW-11", "click wrench, inch scale", unit.FootPound, 30, 250, 30, 10, 1, "1/2", 610, 75),
		wrenchOf("WW-1", "window wrench, cable trays", nm, 8, 60, 8, 0, 2, "3/8", 320, 9).face(crib.Window),
		wrenchOf("DW-1", "dial wrench, for checks", nm, 0, 80, 0, 10, 2, "1/2", 420, 160).face(crib.Dial),
		wrenchOf("EW-1", "electronic wrench", nm, 30, 300, 0, 0, 0.1, "1/2", 560, 200).face(crib.Electronic),
		wrenchOf("PW-1", "preset wrench, battery posts", nm, 0, 12, 0, 0, 0, "3/8", 260, 60).face(crib.Preset),
		multiplierOf("MX-1", "multiplier, small", 4.2, 1500, "1/2", "3/4"),
		multiplierOf("MX-2", "multiplier", 4.8, 2700, "1/2", "1"),
		{crib.Tool{Tag: "AD-1", Kind: crib.Adapter, Name: "adapter up", DriveIn: "1/2", DriveOut: "3/4", Most: 500}, noDue, drawer},
		{crib.Tool{Tag: "AD-2", Kind: crib.Adapter, Name: "adapter down", DriveIn: "3/4", DriveOut: "1/2", Most: 500}, noDue, drawer},
		{crib.Tool{Tag: "AD-3", Kind: crib.Adapter, Name: "adapter up, large", DriveIn: "3/4", DriveOut: "1", Most: 1200}, noDue, drawer},
		{crib.Tool{Tag: "AD-4", Kind: crib.Adapter, Name: "adapter up, small", DriveIn: "3/8", DriveOut: "1/2", Most: 200}, noDue, drawer},
		{crib.Tool{Tag: "EX-1", Kind: crib.Extension, Name: "extension", DriveIn: "1/2", DriveOut: "1/2", Length: 250, Most: 600}, noDue, drawer},
		{crib.Tool{Tag: "EX-2", Kind: crib.Extension, Name: "extension, long", DriveIn: "1/2", DriveOut: "1/2", Length: 400, Most: 600}, noDue,
			drawer},
		{crib.Tool{Tag: "OE-30", Kind: crib.OffsetEnd, Name: "offset end, open", DriveIn: "1/2", DriveOut: "1/2", Length: 60, Most: 300}, noDue,
			drawer},
		socketOf(17, "1/2", 400), socketOf(18, "1/2", 400), socketOf(24, "1/2", 600), socketOf(30, "1/2", 1000),
		socketOf(32, "3/4", 1500), socketOf(36, "3/4", 1800), socketOf(46, "3/4", 2000),
		socketOf(55, "1", 3500),
		{crib.Tool{Tag: "SO-30B", Kind: crib.Socket, Name: "impact socket, the second", Size: 30, DriveOut: "1/2", Most: 1000}, noDue,
			"crib, drawer 4"},
		{crib.Tool{Tag: "SO-46L", Kind: crib.Socket, Name: "impact socket, large drive", Size: 46, DriveOut: "1", Most: 3500}, noDue,
			"crib, drawer 4"},
		{crib.Tool{Tag: "BI-8", Kind: crib.Socket, Name: "bit for hexagon inside", Size: 8, DriveOut: "1/2", Most: 120, Inside: true}, noDue,
			"crib, drawer 4"},
		{crib.Tool{Tag: "HW-1", Kind: crib.Hydraulic, Name: "hydraulic wrench, small", DriveOut: "1", PressureUnit: unit.Bar, Graduation: 10,
			Accuracy: 0.03, Months: 12, Pulls: 5000, Chart: tool.Chart{{Pressure: 70, Torque: 280}, {Pressure: 140, Torque: 565},
				{Pressure: 350, Torque: 1420}, {Pressure: 560, Torque: 2275}, {Pressure: 690, Torque: 2800}}}, 110, chest},
		{crib.Tool{Tag: "HW-2", Kind: crib.Hydraulic, Name: "hydraulic wrench", DriveOut: "1-1/2", PressureUnit: unit.Bar, Graduation: 10,
			Accuracy: 0.03, Months: 12, Pulls: 5000, Chart: tool.Chart{{Pressure: 70, Torque: 900}, {Pressure: 350, Torque: 4600},
				{Pressure: 690, Torque: 9200}}}, 190, chest},
		{crib.Tool{Tag: "PU-1", Kind: crib.Pump, Name: "electric pump", PressureUnit: unit.Bar, PressureMost: 700}, noDue, chest},
		{crib.Tool{Tag: "PU-2", Kind: crib.Pump, Name: "tensioner pump", PressureUnit: unit.Bar, PressureMost: 1500}, noDue, chest},
		{crib.Tool{Tag: "GA-1", Kind: crib.Gauge, Name: "gauge of the pump", Unit: unit.Bar, Most: 1000, Scale: tool.Scale{Minor: 10},
			Accuracy: 0.01, Months: 12}, 55, chest},
		{crib.Tool{Tag: "TN-36", Kind: crib.Tensioner, Name: "tensioner for M36", Size: 36, RamArea: 3200, Stroke: 15, PressureUnit: unit.Bar,
			PressureMost: 1500, Graduation: 10, Accuracy: 0.03, Months: 12, Pulls: 5000}, 170, chest},
		{crib.Tool{Tag: "FG-1", Kind: crib.Feeler, Name: "feeler gauges", Unit: unit.Millimetre, Least: 0.05, Most: 1}, noDue, drawer},
		{crib.Tool{Tag: "DG-1", Kind: crib.DialGauge, Name: "dial gauge", Unit: unit.Millimetre, Most: 10, Scale: tool.Scale{Minor: 0.01},
			Accuracy: 0.005, Months: 12}, 145, drawer},
		{crib.Tool{Tag: "BM-1", Kind: crib.LoadMeter, Name: "bolt-load meter", Unit: unit.Kilonewton, Least: 20, Most: 500,
			Scale: tool.Scale{Minor: 0.1}, Accuracy: 0.02, Months: 12}, 80, drawer},
		{crib.Tool{Tag: "TT-1", Kind: crib.Tester, Name: "torque tester on the bench", Unit: unit.NewtonMetre, Least: 1, Most: 500,
			Scale: tool.Scale{Minor: 0.01}, Accuracy: 0.01, Months: 12}, 205, chest},
	}
}

// addTools brings the crib in: each tool was bought, and calibrated once a year.
func (l *loader) addTools(ctx context.Context) error {
	for i, t := range cribTools() {
		today := l.now.UTC().Truncate(24 * time.Hour)
		n := app.NewTool{Data: t.Tool, ID: uuid.New(), Bought: today.AddDate(-2, 0, -3*i), From: "works' store", Place: t.place}
		l.clock = l.now.AddDate(0, 0, -400)
		if t.due != noDue {
			n.On = today.AddDate(-1, 0, t.due).Add(9 * time.Hour)
			l.clock = n.On
			c := l.calibration(t.Tool)
			n.Check = &c
		}
		if err := l.app.AddTool(ctx, l.who("bo"), n); err != nil {
			return fmt.Errorf("%s: %w", t.Tag, err)
		}
	}
	l.begin(-1)
	for _, x := range []struct{ tag, to, joint string }{{"EW-1", "tomas", ""}, {"DW-1", "ines", ""}, {"WW-1", "haro", "cable trays"},
		{droppedTool, "haro", ""}} {
		if err := l.gives(ctx, x.tag, x.to, x.joint); err != nil {
			return err
		}
	}
	return nil
}

// gives has the crib keeper lend a tool; one that is out comes back first.
func (l *loader) gives(ctx context.Context, tag, to, joint string) error {
	back := app.NewLife{ID: uuid.New(), On: l.clock, Content: crib.Returned{Place: "crib, rack A"}}
	if err := l.app.LiveTool(ctx, l.who("bo"), tag, back); err != nil && !errors.Is(err, &refusal.Error{Code: refusal.NotNow}) {
		return fmt.Errorf("%s: %w", tag, err)
	}
	lent := app.NewLife{ID: uuid.New(), On: l.clock, Content: crib.Lent{To: l.people[to].ID.String(), Joint: joint}}
	if err := l.app.LiveTool(ctx, l.who("bo"), tag, lent); err != nil {
		return fmt.Errorf("%s: %w", tag, err)
	}
	return nil
}

// calibration is a check by a laboratory: five readings at each mark, well within.
func (l *loader) calibration(t crib.Tool) crib.Checked {
	at, in := t.Marks()
	c := crib.Checked{Lab: "Calder County Calibration", Certificate: fmt.Sprintf("CC-%04d", 1000+l.rand.IntN(9000)), Renews: true, Unit: in}
	for _, m := range at {
		bias := 0.2 * t.Accuracy * (2*l.rand.Float64() - 1)
		mark := crib.Mark{At: m}
		for range crib.ReadingsToCalibrate {
			off := bias + 0.08*t.Accuracy*l.rand.NormFloat64()
			if t.Kind == crib.Gauge || t.Kind == crib.DialGauge { // of full scale
				off *= 0.2
			}
			mark.Readings = append(mark.Readings, math.Round(m*(1+off)*1e4)/1e4)
		}
		c.Marks = append(c.Marks, mark)
	}
	return c
}

// lend gives tools out, and has one come to harm.
func (l *loader) lend(ctx context.Context) error {
	live := func(login, tag string, c crib.Content) error {
		l.pass(60, 300)
		err := l.app.LiveTool(ctx, l.who(login), tag, app.NewLife{ID: uuid.New(), Content: c})
		if err != nil {
			return fmt.Errorf("%s: %w", tag, err)
		}
		return nil
	}
	l.clock = l.now.Add(-3 * time.Hour)
	for _, x := range []struct{ tag, to, joint string }{{"MX-2", "marta", "IV-2 / BONNET"},
		{"HW-1", "piet", "U2 / HEAD COVER NUTS"}, {"PU-1", "piet", "U2 / HEAD COVER NUTS"}, {droppedTool, "piet", "U2 / DRAFT HATCH"}} {
		if err := l.gives(ctx, x.tag, x.to, x.joint); err != nil {
			return err
		}
	}
	l.clock = l.now.Add(-110 * time.Minute)
	if err := live("piet", droppedTool, crib.Hurt{What: crib.Dropped, Note: "from the gallery stair"}); err != nil {
		return err
	}
	touched, _, err := l.app.Touched(ctx, droppedTool, time.Time{}, 0)
	if err != nil {
		return err
	}
	if i := slices.IndexFunc(touched, func(t app.Touch) bool { return t.Signed }); i >= 0 {
		if err := l.answer(ctx, touched[i], record.Sample, ""); err != nil {
			return err
		}
	}
	return nil
}

// answer is what the engineer says of one joint.
func (l *loader) answer(ctx context.Context, t app.Touch, how record.AnswerHow, why string) error {
	l.pass(300, 900)
	_, err := l.app.AddEntry(ctx, l.who("edda"), judge.NewEntry{Run: t.Run.ID, ID: uuid.New(), At: l.clock,
		Content: record.Answer{Tool: droppedTool, How: how, Reason: why}})
	return err
}
