package tool_test

import (
	"math"
	"testing"
	"time"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"dynacor/core/refusal"
	"dynacor/core/tool"
	"dynacor/core/unit"
)

// ram is a hydraulic wrench whose chart is in MPa, and a crib with what goes with it.
func ram() (tool.Hydraulic, tool.Crib) {
	h := tool.Hydraulic{Tag: "RAM", Chart: chart(), PressureUnit: unit.Megapascal, Graduation: 0.5, Drive: "1", Accuracy: 0.03,
		Due: today.AddDate(0, 3, 0)}
	return h, tool.Crib{Hydraulics: []tool.Hydraulic{h},
		Pumps:   []tool.Pump{{Tag: "P-SMALL", Unit: unit.Bar, Most: 300}, {Tag: "P-700", Unit: unit.Bar, Most: 700}},
		Gauges:  []tool.Gauge{{Tag: "G-COARSE", Unit: unit.Bar, Most: 1000, Step: 20, Accuracy: 0.016}, {Tag: "G-FINE", Unit: unit.Bar, Most: 700, Step: 5, Accuracy: 0.01}},
		Sockets: []tool.Socket{{Tag: "S46", Size: 46, Drive: "1"}, {Tag: "S46S", Size: 46, Drive: "3/4"}}}
}

// The pressure of each stage is the chart's, on the gauge that is taken: its unit, its
// marks, and what it is off by.
func TestARigIsSetOnItsGauge(t *testing.T) {
	_, c := ram()
	rigs, left := c.Rigs(tool.Request{Torques: []float64{390, 780, 1300}, Size: 46}, today)
	require.Empty(t, left)
	require.Len(t, rigs, 1)
	x := rigs[0]
	require.Equal(t, []string{"RAM", "P-700", "G-FINE", "S46"}, x.Rig.Tags(), "300 bar are too few, the finer gauge is nearer")
	require.Equal(t, unit.Bar, x.Unit)
	for i, want := range []struct{ torque, pressure, lands float64 }{{390, 125, 383.25}, {780, 250, 775.666667}, {1300, 415, 1294.233333}} {
		p := x.Stages[i]
		require.Equal(t, want.torque, p.Torque)
		require.InDelta(t, want.pressure, p.Pressure, 1e-9)
		require.InDelta(t, want.lands, p.Lands, 1e-4)
		require.InDelta(t, 100*(want.lands/want.torque-1), p.Error, 1e-4)
		require.InDelta(t, math.Hypot(0.03, 0.01*700/want.pressure), p.Accuracy, 1e-9, "a gauge is less sure at its beginning")
	}
	all := c.Possible(tool.Request{Torques: []float64{390, 1300}, Size: 46, Pressed: true}, today)
	require.Empty(t, all.Setups)
	require.Equal(t, 1, all.Count)
	c.Sockets = nil
	all = c.Possible(tool.Request{Torques: []float64{390, 1300}, Size: 46, Pressed: true}, today)
	require.Nil(t, all.Rigs[0].Rig.Socket)
	require.Equal(t, 46.0, all.Fetch)
	c.Pumps, c.Gauges = nil, nil
	all = c.Possible(tool.Request{Torques: []float64{1300}, Pressed: true}, today)
	require.Equal(t, unit.Megapascal, all.Rigs[0].Unit, "without a gauge its own graduation counts")
	require.InDelta(t, 41.5, all.Rigs[0].Stages[0].Pressure, 1e-9)
}

func TestARigThatDoesNotGoTogetherSaysWhy(t *testing.T) {
	yesterday := today.AddDate(0, 0, -1)
	for _, c := range []struct {
		name, says string
		change     func(*tool.Rig)
		torque     float64
	}{
		{"held wrench", "RAM is held back: hose worn", func(r *tool.Rig) { r.Wrench.HeldBack = "hose worn" }, 1300},
		{"late wrench", "RAM is out of calibration", func(r *tool.Rig) { r.Wrench.Due = yesterday }, 1300},
		{"held pump", "P-700 is held back", func(r *tool.Rig) { r.Pump.HeldBack = "leaks" }, 1300},
		{"late gauge", "G-FINE is out of calibration", func(r *tool.Rig) { r.Gauge.Due = yesterday }, 1300},
		{"a pump that is too weak", "gives up to 300 bar; here are 415 bar", func(r *tool.Rig) { r.Pump.Most = 300 }, 1300},
		{"a gauge that ends before", "shows 0 to 400 bar; here are 415 bar", func(r *tool.Rig) { r.Gauge.Most = 400 }, 1300},
		{"a socket of another drive", "1/2 in", func(r *tool.Rig) { r.Socket.Drive = "1/2" }, 1300},
		{"a weak socket", "bears 900", func(r *tool.Rig) { r.Socket.Limit = 900 }, 1300},
		{"past the chart", "Pass 1: 2500 is outside the chart", func(*tool.Rig) {}, 2500},
		{"below the chart", "Pass 1: 200 is outside the chart", func(*tool.Rig) {}, 200},
		{"a gauge in N·m", "torque", func(r *tool.Rig) { r.Gauge.Unit = unit.NewtonMetre }, 1300},
	} {
		h, crib := ram()
		r := tool.Rig{Wrench: h, Supply: tool.Supply{Pump: &crib.Pumps[1], Gauge: &crib.Gauges[1]}, Socket: &crib.Sockets[0]}
		c.change(&r)
		x := r.Set([]float64{c.torque}, today)
		require.ErrorContains(t, x.Refused, c.says, c.name)
		require.Empty(t, x.Stages, c.name)
	}
	_, c := ram()
	c.Gauges[0].HeldBack, c.Gauges[1].HeldBack = "dropped", "dropped"
	_, left := c.Rigs(tool.Request{Torques: []float64{1300}}, today)
	require.ErrorContains(t, left[0].Why, "G-COARSE is held back: dropped")
	_, left = c.Rigs(tool.Request{Torques: []float64{1300}, Offset: true}, today)
	require.ErrorContains(t, left[0].Why, "stands straight over its nut")
}

// A hydraulic wrench is one way beside those of the hand, where the hand has one.
func TestHandsAndPumpsAreOneList(t *testing.T) {
	_, c := ram()
	c.Wrenches = []tool.Wrench{wrench("LONG", 140, 760, 20, 2)}
	all := c.Possible(tool.Request{Torques: []float64{500, 700}, Prefer: unit.NewtonMetre}, today)
	require.Len(t, all.Setups, 1)
	require.Len(t, all.Rigs, 1)
	all = c.Possible(tool.Request{Torques: []float64{160, 200}, Prefer: unit.NewtonMetre}, today)
	require.Len(t, all.Setups, 1)
	require.Empty(t, all.Rigs)
	require.Equal(t, "RAM", all.Left[len(all.Left)-1].Tag)
}

func TestTheGaugeIsReadTwiceAndAlike(t *testing.T) {
	for _, c := range []struct {
		readings []float64
		field    string
	}{{nil, "readings"}, {[]float64{310}, "readings"}, {[]float64{310, 310, 310}, "readings"}, {[]float64{306, 310}, "readings.0"},
		{[]float64{310, 314}, "readings.1"}, {[]float64{307, 312}, "readings.1"}, {[]float64{-310, 310}, "readings.0"},
		{[]float64{math.NaN(), 310}, "readings.0"}} {
		var r *refusal.Error
		require.ErrorAs(t, tool.JudgeRig(310, c.readings, unit.Bar), &r, "%v", c.readings)
		require.Equal(t, c.field, r.Field, "%v", c.readings)
	}
	require.NoError(t, tool.JudgeRig(310, []float64{308, 310}, unit.Bar))
	require.NoError(t, tool.JudgeRig(310, []float64{313.1, 313.1}, unit.Bar))
	var ids []string
	read := 0
	for _, s := range tool.RigUp() {
		ids = append(ids, s.ID)
		if s.Read {
			read++
		}
	}
	require.Equal(t, []string{"hoses", "free", "down", "stall", "up", "again"}, ids, "down, to a stall off the nut, and up from below")
	require.Equal(t, 2, read)
}

// drawn is what a joint asks of a tensioner, and one that does it.
func drawn(t require.TestingT) (tool.Draft, tool.Tensioner) {
	return tool.Draft{Thread: stud(t), Load: 234_000, Length: 240, Yield: 720, Modulus: 205_000, Halves: true, Lost: 0.078},
		tool.Tensioner{Tag: "TN", Thread: 36, RamArea: 3200, Stroke: 15, Unit: unit.Bar, Most: 1500, Graduation: 10, Accuracy: 0.03}
}

func TestATensionerDrawsInHalves(t *testing.T) {
	d, x := drawn(t)
	way := x.Set(d, tool.Supply{}, today)
	require.NoError(t, way.Refused)
	require.Len(t, way.Draws, 2)
	first, second := way.Draws[0], way.Draws[1]
	require.InDelta(t, 1.16, first.LossFactor, 1e-12)
	require.InDelta(t, 234_000/0.922*1.16, first.Applied, 1e-6)
	require.InDelta(t, 234_000*1.16, second.Applied, 1e-6)
	require.InDelta(t, 920, first.Set, 1e-9, "92.0 MPa")
	require.InDelta(t, 850, second.Set, 1e-9, "84.8 MPa, on a gauge in steps of 10 bar")
	require.InDelta(t, 100*(850/848.25-1), second.Error, 1e-9)
	require.InDelta(t, 731.25, way.Residual, 1e-9)
	require.InDelta(t, first.Applied*240/(205_000*d.Thread.StressArea()), first.Lengthens, 1e-12)
	d.Halves = false
	all := x.Set(d, tool.Supply{}, today)
	require.Len(t, all.Draws, 1)
	require.Equal(t, second, all.Draws[0], "all at once lose nothing to one another")
	g := tool.Gauge{Tag: "G", Unit: unit.Megapascal, Most: 160, Step: 0.5, Accuracy: 0.01}
	fine := x.Set(d, tool.Supply{Gauge: &g}, today)
	require.InDelta(t, 85, fine.Draws[0].Set, 1e-9)
	require.InDelta(t, math.Hypot(0.03, 0.01*160/84.825), fine.Draws[0].Accuracy, 1e-9)
	require.Equal(t, []string{"TN", "G"}, fine.Tags())
}

func TestATensionerThatCannotSaysWhy(t *testing.T) {
	for _, c := range []struct {
		name, says string
		change     func(*tool.Draft, *tool.Tensioner, *tool.Supply)
	}{
		{"held", "TN is held back", func(_ *tool.Draft, x *tool.Tensioner, _ *tool.Supply) { x.HeldBack = "seal" }},
		{"late", "out of calibration", func(_ *tool.Draft, x *tool.Tensioner, _ *tool.Supply) { x.Due = today.AddDate(0, 0, -1) }},
		{"another thread", "draws a thread of 30 mm", func(_ *tool.Draft, x *tool.Tensioner, _ *tool.Supply) { x.Thread = 30 }},
		{"too weak", "bears 900 bar; here are 920 bar", func(_ *tool.Draft, x *tool.Tensioner, _ *tool.Supply) { x.Most = 900 }},
		{"too short", "has a stroke of 0.3 mm", func(_ *tool.Draft, x *tool.Tensioner, _ *tool.Supply) { x.Stroke = 0.3 }},
		{"near yield", "must stay below 95 %", func(d *tool.Draft, _ *tool.Tensioner, _ *tool.Supply) { d.Yield = 370 }},
		{"a coarse gauge", "less than half a mark", func(_ *tool.Draft, x *tool.Tensioner, _ *tool.Supply) { x.Graduation = 2000 }},
		{"more than half is lost", "tool on every stud", func(d *tool.Draft, _ *tool.Tensioner, _ *tool.Supply) { d.Lost = 0.6 }},
		{"no length", "clampLength", func(d *tool.Draft, _ *tool.Tensioner, _ *tool.Supply) { d.Length = 0 }},
		{"no ram", "ramArea", func(_ *tool.Draft, x *tool.Tensioner, _ *tool.Supply) { x.RamArea = 0 }},
		{"a weak pump", "gives up to 700 bar", func(_ *tool.Draft, _ *tool.Tensioner, s *tool.Supply) {
			s.Pump = &tool.Pump{Tag: "P", Unit: unit.Bar, Most: 700}
		}},
	} {
		d, x := drawn(t)
		var s tool.Supply
		c.change(&d, &x, &s)
		way := x.Set(d, s, today)
		require.ErrorContains(t, way.Refused, c.says, c.name)
		require.Empty(t, way.Draws, c.name)
	}
	d, x := drawn(t)
	small := x
	small.Tag, small.RamArea = "SMALL", 2400
	held := x
	held.Tag, held.HeldBack = "HELD", "dropped"
	ways, left := tool.Crib{Tensioners: []tool.Tensioner{small, held, x}}.Tensionings(d, today)
	require.Equal(t, "TN", ways[0].Tool.Tag, "with more to spare")
	require.Equal(t, "SMALL", ways[1].Tool.Tag)
	require.Equal(t, "HELD", left[0].Tag)
}

// Whatever the draft, a way that is offered stays below yield, within its tool, and never
// draws the first half with less than the second.
func TestWhatIsOfferedIsWithinItsTools(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		d, x := drawn(t)
		d.Load = rapid.Float64Range(1e3, 1e6).Draw(t, "load")
		d.Length = rapid.Float64Range(10, 2000).Draw(t, "length")
		d.Lost = rapid.Float64Range(0, 0.5).Draw(t, "lost")
		d.Halves = rapid.Bool().Draw(t, "halves")
		x.RamArea = rapid.Float64Range(100, 20_000).Draw(t, "area")
		x.Graduation = rapid.SampledFrom([]float64{1, 5, 10, 20}).Draw(t, "step")
		way := x.Set(d, tool.Supply{}, today)
		if way.Refused != nil {
			return
		}
		for _, p := range way.Draws {
			require.LessOrEqual(t, p.Set, x.Most*(1+1e-9))
			require.Less(t, p.Set*x.RamArea/10/d.Thread.StressArea(), tool.MostTension*d.Yield*(1+1e-9))
			require.LessOrEqual(t, p.Lengthens, x.Stroke*(1+1e-9))
			require.GreaterOrEqual(t, p.Load, d.Load*(1-1e-12))
		}
		require.GreaterOrEqual(t, way.Draws[0].Set, way.Draws[len(way.Draws)-1].Set)
	})
}

// A rig holds every law of its parts, whatever is asked of it.
func FuzzRig(f *testing.F) {
	f.Add(1300.0, 0.5, 70.0, 700.0)
	f.Add(math.Inf(1), -1.0, 0.0, math.NaN())
	f.Fuzz(func(t *testing.T, torque, step, pump, full float64) {
		h, _ := ram()
		r := tool.Rig{Wrench: h, Supply: tool.Supply{Pump: &tool.Pump{Tag: "P", Unit: unit.Megapascal, Most: pump},
			Gauge: &tool.Gauge{Tag: "G", Unit: unit.Bar, Most: full, Step: step, Accuracy: 0.01}}}
		x := r.Set([]float64{torque}, time.Date(2026, 11, 1, 0, 0, 0, 0, time.UTC))
		if x.Refused != nil {
			return
		}
		p := x.Stages[0]
		if !(p.Pressure <= full*(1+1e-9)) || !(p.Pressure <= 10*pump*(1+1e-9)) || !(p.Lands >= 305) || !(p.Lands <= 2190) {
			t.Fatalf("%+v", p)
		}
	})
}
