package crib_test

import (
	"errors"
	"math"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"dynacor/core/crib"
	"dynacor/core/refusal"
	"dynacor/core/tool"
	"dynacor/core/unit"
)

var now = time.Date(2026, 11, 26, 9, 0, 0, 0, time.UTC)

// ring is a wrench of 40 to 200 N·m.
func ring() crib.Tool {
	return crib.Tool{Tag: "TW-1", Name: "wrench", Kind: crib.Wrench, Face: crib.Ring, Unit: unit.NewtonMetre, Least: 40, Most: 200,
		Scale: tool.Scale{First: 40, Major: 10, Minor: 1}, DriveOut: "1/2", Length: 480, Accuracy: 0.04, Months: 12, Pulls: 5000}
}

// each kind of tool, as its plate might say.
func each() []crib.Tool {
	preset, screw, window, electronic := ring(), ring(), ring(), ring()
	preset.Tag, preset.Face, preset.Least, preset.Most = "PS-1", crib.Preset, 0, 25
	preset.Scale = tool.Scale{}
	screw.Tag, screw.Face, screw.Unit, screw.Least, screw.Most, screw.Scale = "TD-1", crib.Screwdriver, unit.CentiNewtonMetre, 30, 120,
		tool.Scale{First: 30, Major: 10, Minor: 1}
	window.Tag, window.Face, window.Scale = "WW-1", crib.Window, tool.Scale{First: 40, Minor: 2}
	electronic.Tag, electronic.Face, electronic.Scale = "EW-1", crib.Electronic, tool.Scale{Minor: 0.1}
	dial := ring()
	dial.Tag, dial.Face, dial.Least, dial.Most, dial.Scale = "DW-1", crib.Dial, 0, 80, tool.Scale{Major: 10, Minor: 2}
	return []crib.Tool{ring(), preset, screw, window, electronic, dial,
		{Tag: "MX-1", Name: "multiplier", Kind: crib.Multiplier, Ratio: 4.2, Most: 1500, DriveIn: "1/2", DriveOut: "3/4", Accuracy: 0.05},
		{Tag: "AD-1", Name: "adapter", Kind: crib.Adapter, DriveIn: "1/2", DriveOut: "3/4", Most: 800},
		{Tag: "EX-1", Name: "extension", Kind: crib.Extension, DriveIn: "1/2", DriveOut: "1/2", Length: 250, Most: 600},
		{Tag: "OE-1", Name: "offset end", Kind: crib.OffsetEnd, DriveIn: "1/2", DriveOut: "1/2", Length: 60, Angle: 0, Most: 300},
		{Tag: "SO-24", Name: "socket", Kind: crib.Socket, Size: 24, DriveOut: "1/2", Most: 500},
		{Tag: "HW-1", Name: "hydraulic", Kind: crib.Hydraulic, DriveOut: "1", PressureUnit: unit.Bar, Graduation: 10, Accuracy: 0.03,
			Chart: tool.Chart{{Pressure: 70, Torque: 300}, {Pressure: 350, Torque: 1500}, {Pressure: 700, Torque: 3000}}},
		{Tag: "PU-1", Name: "pump", Kind: crib.Pump, PressureUnit: unit.Bar, PressureMost: 700},
		{Tag: "GA-1", Name: "gauge", Kind: crib.Gauge, Unit: unit.Bar, Most: 1000, Scale: tool.Scale{Minor: 10}, Accuracy: 0.01, Months: 12},
		{Tag: "TN-36", Name: "tensioner", Kind: crib.Tensioner, Size: 36, RamArea: 3200, Stroke: 15, PressureUnit: unit.Bar, PressureMost: 1500,
			Graduation: 10, Accuracy: 0.03},
		{Tag: "FG-1", Name: "feelers", Kind: crib.Feeler, Unit: unit.Millimetre, Least: 0.05, Most: 1},
		{Tag: "DG-1", Name: "dial gauge", Kind: crib.DialGauge, Unit: unit.Millimetre, Most: 10, Scale: tool.Scale{Minor: 0.01}, Accuracy: 0.005},
		{Tag: "TT-1", Name: "tester", Kind: crib.Tester, Unit: unit.NewtonMetre, Least: 1, Most: 500, Scale: tool.Scale{Minor: 0.01}, Accuracy: 0.01},
		{Tag: "BM-1", Name: "meter", Kind: crib.LoadMeter, Unit: unit.Kilonewton, Least: 10, Most: 500, Scale: tool.Scale{Minor: 0.1},
			Accuracy: 0.02}}
}

func refused(t *testing.T, err error, code refusal.Code, field, says string) {
	t.Helper()
	require.ErrorIs(t, err, &refusal.Error{Code: code, Field: field})
	require.ErrorContains(t, err, says)
}

func TestEveryKindIsTaken(t *testing.T) {
	kinds := map[crib.Kind]bool{}
	for _, x := range each() {
		require.NoError(t, x.Check(), x.Tag)
		require.NotEmpty(t, x.Reach().Words, x.Tag)
		require.NotEmpty(t, x.Text())
		kinds[x.Kind] = true
		at, in := x.Marks()
		require.Equal(t, x.Kind.Measures(), len(at) > 0, x.Tag)
		for i := range at {
			require.True(t, i == 0 || at[i] > at[i-1], "%s: %v %s", x.Tag, at, in)
		}
	}
	require.Len(t, kinds, len(crib.Kinds()))
}

// A line of a list says all of a tool: read again it is the same.
func TestALineOfAListIsReadAgain(t *testing.T) {
	for _, x := range each() {
		cells := map[string]string{}
		for _, c := range crib.Columns() {
			cells[c] = x.Cell(c)
		}
		got, wrong := crib.Row(cells)
		require.Empty(t, wrong, x.Tag)
		require.Equal(t, x, got)
		require.Equal(t, x, x.Only())
		x.Ratio, x.Angle, x.Stroke = 7, 8, 9
		require.Equal(t, x.Only(), x.Only().Only())
	}
}

func TestWhatAPlateCannotSay(t *testing.T) {
	of := func(tag string) crib.Tool {
		for _, x := range each() {
			if x.Tag == tag {
				return x
			}
		}
		panic(tag)
	}
	for _, c := range []struct {
		tag   string
		edit  func(*crib.Tool)
		code  refusal.Code
		field string
		says  string
	}{
		{"TW-1", func(x *crib.Tool) { x.Tag = " " }, refusal.Unknown, "tag", "is no tag"},
		{"TW-1", func(x *crib.Tool) { x.Tag = "a/b" }, refusal.Unknown, "tag", "is no tag"},
		{"TW-1", func(x *crib.Tool) { x.Name = "" }, refusal.Missing, "name", "no name"},
		{"TW-1", func(x *crib.Tool) { x.Kind = "hammer" }, refusal.Unknown, "kind", "no kind of tool"},
		{"TW-1", func(x *crib.Tool) { x.Face = "moon" }, refusal.Unknown, "face", "no face"},
		{"TW-1", func(x *crib.Tool) { x.Least, x.Most = 200, 40 }, refusal.Contradicts, "least", "turned round"},
		{"TW-1", func(x *crib.Tool) { x.Unit = unit.Bar }, refusal.Unknown, "unit", "does not belong here"},
		{"TW-1", func(x *crib.Tool) { x.Unit = "" }, refusal.Missing, "unit", "missing"},
		{"TW-1", func(x *crib.Tool) { x.Scale.Minor = 20 }, refusal.Contradicts, "minor", "above the large one"},
		{"TW-1", func(x *crib.Tool) { x.Scale.Minor = 3 }, refusal.Contradicts, "minor", "whole number of marks"},
		{"TW-1", func(x *crib.Tool) { x.Scale.First = 300 }, refusal.Contradicts, "first", "above the greatest"},
		{"TW-1", func(x *crib.Tool) { x.Accuracy = 0.7 }, refusal.TooLarge, "accuracy", "70 %"},
		{"TW-1", func(x *crib.Tool) { x.Most = math.NaN() }, refusal.NotANumber, "most", ""},
		{"TW-1", func(x *crib.Tool) { x.Most = 2e6 }, refusal.TooLarge, "most", "Look at the unit"},
		{"TW-1", func(x *crib.Tool) { x.Length = -1 }, refusal.Negative, "length", ""},
		{"TW-1", func(x *crib.Tool) { x.DriveOut = "2" }, refusal.Unknown, "driveOut", "Choose one of"},
		{"AD-1", func(x *crib.Tool) { x.DriveOut = "1/2" }, refusal.Contradicts, "driveOut", "adapts nothing"},
		{"HW-1", func(x *crib.Tool) { x.Chart[1].Torque = 200 }, refusal.Contradicts, "chart", "does not rise"},
		{"HW-1", func(x *crib.Tool) { x.Chart = x.Chart[:1] }, refusal.Missing, "chart", "at least two"},
		{"GA-1", func(x *crib.Tool) { x.Unit = unit.NewtonMetre }, refusal.Unknown, "unit", "does not belong"},
		{"GA-1", func(x *crib.Tool) { x.Least = 2000 }, refusal.Contradicts, "least", "turned round"},
		{"OE-1", func(x *crib.Tool) { x.Length = 0 }, refusal.Missing, "length", "missing"},
	} {
		x := of(c.tag)
		c.edit(&x)
		refused(t, x.Check(), c.code, c.field, c.says)
	}
}

func TestWhatALineOfAListCannotSay(t *testing.T) {
	good := map[string]string{"tag": "TW-1", "kind": "wrench", "name": "w", "unit": "N·m", "least": "40", "most": "200", "first": "40",
		"major": "10", "minor": "0,5", "driveOut": "1/2", "accuracy": "4"}
	x, wrong := crib.Row(good)
	require.Empty(t, wrong)
	require.Equal(t, 0.5, x.Scale.Minor, "a comma is a decimal mark, too")
	for _, c := range []struct{ column, cell, says string }{
		{"most", "a lot", "is no number"}, {"months", "1.5", "no whole number"}, {"ratio", "4", "has no such thing"},
		{"chart", "70:300", "has no such thing"}, {"chart", "70-300", "is not pressure:torque"}, {"kind", "spoon", "no kind of tool"},
		{"most", "NaN", "is no number"},
	} {
		bad := map[string]string{}
		for k, v := range good {
			bad[k] = v
		}
		bad[c.column] = c.cell
		_, wrong := crib.Row(bad)
		require.NotEmpty(t, wrong, c)
		require.ErrorContains(t, errors.Join(wrong...), c.says)
	}
}

// Worked by hand: 80 set and 78 given is (80 − 78)/78 = 2.564 % of the reading; errors of 1,
// 2 and 3 % have a standard deviation of 1.
func TestTheErrorsOfACheck(t *testing.T) {
	c := crib.Checked{Limit: 0.04, Unit: unit.NewtonMetre, Marks: []crib.Mark{{At: 80, Readings: []float64{78, 80, 82}}}}
	f, err := c.Found()
	require.NoError(t, err)
	require.InDelta(t, 100*2.0/78, f.Marks[0].Errors[0], 1e-12)
	require.InDelta(t, -100*2.0/82, f.Marks[0].Errors[2], 1e-12)
	require.True(t, f.Holds)
	require.Equal(t, "at most +2.6 % off, at 80 N·m; ± 4 % are allowed", f.Text)
	c.Marks[0].Readings = []float64{100 / 1.01, 100 / 1.02, 100 / 1.03}
	c.Marks[0].At = 100
	f, _ = c.Found()
	require.InDelta(t, 1, f.Marks[0].Spread, 1e-9)
	c.Marks[0].Readings[0] = 90
	f, _ = c.Found()
	require.False(t, f.Holds)
	require.Contains(t, f.Text, "+11.1 % off at 100 N·m")
	c.Marks[0].Readings[0] = -90
	_, err = c.Found()
	require.Error(t, err)
	c = crib.Checked{Limit: 0.01, FullScale: 1000, Marks: []crib.Mark{{At: 200, Readings: []float64{191}}}}
	f, _ = c.Found()
	require.InDelta(t, 0.9, f.Worst, 1e-12, "of full scale")
}

type life struct {
	t    *testing.T
	tool crib.Tool
	list []crib.Entry
	now  time.Time
}

func begun(t *testing.T) *life {
	l := &life{t: t, tool: ring(), now: now.AddDate(0, -6, 0)}
	l.add(crib.Bought{From: "maker", Place: "rack A"})
	l.add(l.check(true, 1))
	return l
}

func (l *life) state() crib.State { return crib.Fold(l.tool, l.list) }

func (l *life) try(c crib.Content) error {
	l.now = l.now.Add(time.Hour)
	e := crib.Entry{ID: "e", Seq: len(l.list) + 1, On: l.now, AtServer: l.now, Person: "bo", Content: c}
	if err := l.state().Accept(l.tool, e, l.now); err != nil {
		return err
	}
	l.list = append(l.list, e)
	return nil
}

func (l *life) add(c crib.Content) { l.t.Helper(); require.NoError(l.t, l.try(c)) }

// check is a check that finds the tool off by a factor.
func (l *life) check(renews bool, off float64) crib.Checked {
	at, in := l.tool.Marks()
	c := crib.Checked{Lab: "own tester", Unit: in, Renews: renews}
	n := crib.ReadingsToCheck
	if renews {
		n = crib.ReadingsToCalibrate
	}
	for _, m := range at {
		mark := crib.Mark{At: m}
		for range n {
			mark.Readings = append(mark.Readings, m/off)
		}
		c.Marks = append(c.Marks, mark)
	}
	return l.tool.Judged(c)
}

func TestTheLifeOfATool(t *testing.T) {
	l := begun(t)
	s := l.state()
	require.Equal(t, "rack A", s.Place)
	require.Equal(t, time.Date(2027, 5, 26, 0, 0, 0, 0, time.UTC), s.Due, "a year after it was calibrated")
	l.add(crib.Lent{To: "marta", Joint: "IV-2"})
	refused(t, l.try(crib.Lent{To: "jonas"}), refusal.NotNow, "kind", "out already")
	require.Equal(t, "marta", l.state().Lent.To)
	good := l.state().Good
	l.add(crib.Hurt{What: crib.Dropped, Joint: "IV-2", Note: "from the stair"})
	h := l.state().Held
	require.Equal(t, "dropped at IV-2: from the stair", h.Why)
	require.True(t, h.Doubt)
	require.Equal(t, good, h.Since)
	l.add(crib.Returned{Place: "bench"})
	refused(t, l.try(crib.Lent{To: "jonas"}), refusal.NotNow, "kind", "held back")
	refused(t, l.try(crib.Back{Why: "looks fine"}), refusal.NotNow, "kind", "Words do not make it good")
	l.add(crib.Held{Why: "waits for the tester"})
	require.Equal(t, h, l.state().Held, "a doubt is not lifted by another word")
	l.add(crib.Hurt{What: crib.Overloaded})
	require.Contains(t, l.state().Held.Why, "; overloaded")
	require.Equal(t, h.Since, l.state().Held.Since)
	l.add(l.check(false, 1.01))
	cleared, found, ok := crib.Cleared(l.tool, l.list)
	require.True(t, ok)
	require.Equal(t, h.Since, cleared.Since)
	require.Contains(t, found, "at most +1.0 % off")
	require.Nil(t, l.state().Held)
	require.Equal(t, s.Due, l.state().Due, "a check of our own renews nothing")
	l.add(crib.Held{Why: "no key"})
	require.False(t, l.state().Held.Doubt)
	l.add(crib.Back{Why: "key found"})
	require.Nil(t, l.state().Held)
	l.add(l.check(true, 1.08))
	require.Equal(t, crib.FoundOff, l.state().Held.Harm, "a check that is outside holds it")
	l.add(crib.Scrapped{Why: "spring worn"})
	refused(t, l.try(crib.Returned{}), refusal.NotNow, "kind", "was scrapped: spring worn")
}

// What was set right before the check says nothing of what the tool did before.
func TestACheckAfterAdjustingClearsNothing(t *testing.T) {
	l := begun(t)
	l.add(crib.Hurt{What: crib.Dropped})
	l.add(crib.Adjusted{What: "spring"})
	require.False(t, l.state().AsFound())
	l.add(l.check(true, 1))
	require.Nil(t, l.state().Held)
	_, _, ok := crib.Cleared(l.tool, l.list)
	require.False(t, ok)
}

func TestWhatALifeRefuses(t *testing.T) {
	l := begun(t)
	check := l.check(false, 1)
	edit := func(f func(*crib.Checked)) crib.Checked {
		c := l.check(false, 1)
		f(&c)
		return c
	}
	for _, c := range []struct {
		content crib.Content
		code    refusal.Code
		field   string
		says    string
	}{
		{crib.Bought{}, refusal.NotNow, "kind", "in the crib already"},
		{crib.Returned{}, refusal.NotNow, "kind", "is in the crib"},
		{crib.Lent{}, refusal.Missing, "to", "Who takes it"},
		{crib.Hurt{What: "sat upon"}, refusal.Unknown, "what", "Unknown harm"},
		{crib.Held{Why: " "}, refusal.NeedsReason, "why", "Why is TW-1 held"},
		{crib.Back{Why: "x"}, refusal.NotNow, "kind", "in service"},
		{crib.Scrapped{}, refusal.NeedsReason, "why", "scrapped"},
		{crib.Changed{}, refusal.NeedsReason, "why", "changed"},
		{crib.Filed{Title: "x"}, refusal.Missing, "file", "no file"},
		{crib.Filed{Paper: "x"}, refusal.NeedsReason, "title", "no title"},
		{crib.Adjusted{}, refusal.NeedsReason, "what", "set right"},
		{edit(func(c *crib.Checked) { c.Lab = "" }), refusal.Missing, "lab", "Who checked it"},
		{edit(func(c *crib.Checked) { c.Marks = nil }), refusal.Missing, "marks", "0 of 3 marks"},
		{edit(func(c *crib.Checked) { c.Looked = true }), refusal.Missing, "marks", "no readings"},
		{edit(func(c *crib.Checked) { c.Unit = unit.Bar }), refusal.Contradicts, "unit", "not in bar"},
		{edit(func(c *crib.Checked) { c.Marks[1].Readings = nil }), refusal.Missing, "marks.1.readings", "there are 0 readings; 3 are needed"},
		{edit(func(c *crib.Checked) { c.Renews = true }), refusal.Missing, "marks.0.readings", "5 are needed"},
		{edit(func(c *crib.Checked) { c.Marks[2].At = 40 }), refusal.Contradicts, "marks.2.at", "ascending"},
		{edit(func(c *crib.Checked) { c.Marks[0].At = 70 }), refusal.OutOfRange, "marks.0.at", "is used from 40"},
		{edit(func(c *crib.Checked) { c.Marks[2].At = 160; c.Marks[2].Readings = []float64{160, 160, 160} }), refusal.OutOfRange, "marks.2.at",
			"goes to 200"},
		{edit(func(c *crib.Checked) { c.Marks[0].Readings[1] = 400 }), refusal.OutOfRange, "marks.0.readings.1", "no tool is that far off"},
		{edit(func(c *crib.Checked) { c.Marks[0].Readings[1] = 0 }), refusal.NotPositive, "marks.0.readings.1", ""},
	} {
		refused(t, l.try(c.content), c.code, c.field, c.says)
	}
	before := crib.Entry{On: l.list[0].On.AddDate(0, 0, -1), Content: check}
	refused(t, l.state().Accept(l.tool, before, l.now), refusal.OutOfRange, "on", "lies before TW-1 was bought")
	ahead := crib.Entry{On: l.now.AddDate(0, 0, 1), Content: check}
	refused(t, l.state().Accept(l.tool, ahead, l.now), refusal.OutOfRange, "on", "lies ahead")
	refused(t, crib.State{}.Accept(l.tool, ahead, l.now.AddDate(0, 0, 2)), refusal.NotNow, "kind", "not in the crib yet")
	l.add(crib.Hurt{What: crib.Dropped})
	stale := crib.Entry{On: l.now.Add(-30 * time.Minute).Add(-time.Hour), Content: check}
	refused(t, l.state().Accept(l.tool, stale, l.now), refusal.OutOfRange, "on", "a check from before says nothing")
}

// By its date, by its pulls, whichever comes first.
func TestWhenAToolIsDue(t *testing.T) {
	l := begun(t)
	s, due := l.state(), l.state().Due
	for _, c := range []struct {
		at         time.Time
		pulls      int
		over, soon bool
		words      string
	}{
		{due.AddDate(0, 0, -100), 10, false, false, "due 26 May 2027"},
		{due.AddDate(0, 0, -14), 10, false, true, "due in 14 days"},
		{due.AddDate(0, 0, -15), 10, false, false, "due 26 May 2027"},
		{due.Add(12 * time.Hour), 10, false, true, "due today"},
		{due.AddDate(0, 0, 1), 10, true, false, "past due since 26 May 2027"},
		{due.AddDate(0, 0, -100), 4499, false, false, "due 26 May 2027"},
		{due.AddDate(0, 0, -100), 4500, false, true, "4500 of 5000 pulls made"},
		{due.AddDate(0, 0, -100), 5000, true, false, "5000 of 5000 pulls made"},
	} {
		d := s.Comes(l.tool, c.pulls, c.at)
		require.Equal(t, c.over, d.Over, c)
		require.Equal(t, c.soon, d.Soon, c)
		require.Equal(t, c.words, d.Words)
		require.Equal(t, c.over, d.Overdue != "")
	}
	require.Empty(t, crib.State{}.Comes(crib.Tool{}, 9, now).Words)
}

// The usable range begins at the greater of the least value and a fifth of full scale; a
// chart's at its first row or a fifth of its last.
func TestTheReachOfATool(t *testing.T) {
	for _, c := range []struct {
		tag              string
		rated, low, high float64
		torque           bool
		words            string
	}{
		{"TW-1", 40, 40, 200, true, "40 to 200 N·m"}, {"PS-1", 25, 25, 25, true, "25 N·m"},
		{"TD-1", 0.3, 0.3, 1.2, true, "30 to 120 cN·m"}, {"DW-1", 16, 16, 80, true, "16 to 80 N·m"},
		{"MX-1", 300, 300, 1500, true, "4.2 : 1, 1500 N·m out at most"}, {"HW-1", 300, 600, 3000, true, "300 to 3000 N·m by its chart"},
		{"TN-36", 0, 0, 0, false, "M36, up to 480 kN at 1500 bar"}, {"SO-24", 0, 0, 0, false, "socket 24 mm, 1/2 in, bears 500 N·m"},
	} {
		for _, x := range each() {
			if x.Tag != c.tag {
				continue
			}
			r := x.Reach()
			require.InDelta(t, c.rated, r.Rated, 1e-9, c.tag)
			require.InDelta(t, c.low, r.Low, 1e-9)
			require.InDelta(t, c.high, r.High, 1e-9)
			require.Equal(t, c.torque, r.Torque)
			require.Equal(t, c.words, r.Words)
		}
	}
}

// What is set on marks can be set: whatever a plate says, its marks lie on its scale and in
// its range.
func FuzzMarks(f *testing.F) {
	f.Add(40.0, 200.0, 40.0, 1.0)
	f.Add(0.0, 80.0, 0.0, 2.0)
	f.Fuzz(func(t *testing.T, least, most, first, minor float64) {
		x := ring()
		x.Least, x.Most, x.Scale = least, most, tool.Scale{First: first, Major: 10 * minor, Minor: minor}
		if x.Check() != nil || minor < most/10_000 || first > least+minor {
			return
		}
		at, _ := x.Marks()
		low, err := tool.Lowest(least, most)
		require.NoError(t, err)
		if most-low < 3*minor {
			return
		}
		for _, m := range at {
			require.True(t, m >= low*(1-1e-6) && m <= most*(1+1e-6), "%v of %v to %v", at, low, most)
			steps := (m - first) / minor
			require.InDelta(t, math.Round(steps), steps, 1e-3)
		}
	})
}
