package tool_test

import (
	"errors"
	"fmt"
	"math"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"dynacor/core/refusal"
	"dynacor/core/tool"
	"dynacor/core/unit"
)

func square(t *rapid.T, name string) string {
	return rapid.SampledFrom([]string{"1/2", "3/4", "1"}).Draw(t, name)
}

func drawCrib(t *rapid.T) tool.Crib {
	var c tool.Crib
	held := func() string { return rapid.SampledFrom([]string{"", "", "", "dropped"}).Draw(t, "held") }
	for i := range rapid.IntRange(1, 4).Draw(t, "wrenches") {
		top := rapid.Float64Range(50, 1500).Draw(t, "top")
		w := wrench(fmt.Sprint("W", i), top*rapid.Float64Range(0.05, 0.5).Draw(t, "from"), top, 10,
			rapid.SampledFrom([]float64{1, 2, 5}).Draw(t, "minor"))
		w.Drive, w.Length, w.HeldBack = square(t, "drive"), rapid.SampledFrom([]float64{0, 400, 900}).Draw(t, "length"), held()
		w.Unit = rapid.SampledFrom([]unit.Unit{unit.NewtonMetre, unit.FootPound}).Draw(t, "unit")
		c.Wrenches = append(c.Wrenches, w)
	}
	limit := func() float64 { return rapid.Float64Range(100, 3000).Draw(t, "limit") }
	for i := range rapid.IntRange(0, 2).Draw(t, "multipliers") {
		c.Multipliers = append(c.Multipliers, tool.Multiplier{Tag: fmt.Sprint("M", i), Ratio: rapid.Float64Range(2, 8).Draw(t, "ratio"),
			OutputMax: limit(), DriveIn: square(t, "in"), DriveOut: square(t, "out"), Accuracy: 0.05, HeldBack: held()})
	}
	for i := range rapid.IntRange(0, 3).Draw(t, "adapters") {
		c.Adapters = append(c.Adapters, tool.Adapter{Tag: fmt.Sprint("A", i), DriveIn: square(t, "in"), DriveOut: square(t, "out"),
			Limit: limit(), HeldBack: held()})
	}
	for i := range rapid.IntRange(0, 2).Draw(t, "offsets") {
		c.Offsets = append(c.Offsets, tool.OffsetEnd{Tag: fmt.Sprint("O", i), Length: 60, Angle: rapid.Float64Range(0, 180).Draw(t,
			"angle"), DriveIn: square(t, "in"), DriveOut: square(t, "out"), Limit: limit(), HeldBack: held()})
	}
	for i := range rapid.IntRange(1, 3).Draw(t, "sockets") {
		c.Sockets = append(c.Sockets, tool.Socket{Tag: fmt.Sprint("S", i), Size: rapid.SampledFrom([]float64{30, 46}).Draw(t, "size"),
			Drive: square(t, "drive"), Limit: rapid.SampledFrom([]float64{0, 800}).Draw(t, "limit"), HeldBack: held()})
	}
	return c
}

func tags(c tool.Chain) string {
	s := c.Wrench.Tag
	if c.First != nil {
		s += "+" + c.First.Tag
	}
	if c.Multiplier != nil {
		s += "+" + c.Multiplier.Tag
	}
	if c.Second != nil {
		s += "+" + c.Second.Tag
	}
	if c.Offset != nil {
		s += "+" + c.Offset.Tag
	}
	return s + "+" + c.Socket.Tag
}

// brute tries every combination of the crib by the rating of each link alone.
func brute(c tool.Crib, torque, size float64) map[string]bool {
	out := map[string]bool{}
	adapters, multipliers, offsets := []*tool.Adapter{nil}, []*tool.Multiplier{nil}, []*tool.OffsetEnd{nil}
	for i := range c.Adapters {
		adapters = append(adapters, &c.Adapters[i])
	}
	for i := range c.Multipliers {
		multipliers = append(multipliers, &c.Multipliers[i])
	}
	for i := range c.Offsets {
		offsets = append(offsets, &c.Offsets[i])
	}
	for _, w := range c.Wrenches {
		for _, first := range adapters {
			for _, m := range multipliers {
				for _, second := range adapters {
					for _, o := range offsets {
						for i := range c.Sockets {
							k := &c.Sockets[i]
							if possible(w, first, m, second, o, k, torque, size) {
								out[tags(tool.Chain{Wrench: w, First: first, Multiplier: m, Second: second, Offset: o, Socket: k})] = true
							}
						}
					}
				}
			}
		}
	}
	return out
}

func possible(w tool.Wrench, first *tool.Adapter, m *tool.Multiplier, second *tool.Adapter, o *tool.OffsetEnd, k *tool.Socket, torque,
	size float64) bool {
	if w.HeldBack+k.HeldBack != "" || k.Size != size || (k.Limit != 0 && torque > k.Limit) || (m != nil && o != nil) ||
		(second != nil && (m == nil || first == second)) {
		return false
	}
	at := torque
	if m != nil {
		at = torque / m.Ratio
		if m.HeldBack != "" || torque > m.OutputMax {
			return false
		}
	}
	if o != nil {
		lever := w.Length + o.Length*math.Cos(o.Angle*math.Pi/180)
		if o.HeldBack != "" || w.Length == 0 || torque > o.Limit || lever <= 0 {
			return false
		}
		at = torque * w.Length / lever
	}
	drive := w.Drive
	through := func(a *tool.Adapter, t float64) bool {
		if a == nil {
			return true
		}
		ok := a.HeldBack == "" && a.DriveIn == drive && a.DriveOut != drive && t <= a.Limit
		drive = a.DriveOut
		return ok
	}
	if !through(first, at) {
		return false
	}
	if m != nil {
		if m.DriveIn != drive {
			return false
		}
		drive = m.DriveOut
	}
	if !through(second, torque) {
		return false
	}
	if o != nil {
		if o.DriveIn != drive {
			return false
		}
		drive = o.DriveOut
	}
	if k.Drive != drive {
		return false
	}
	factor := 1.0
	if w.Unit == unit.FootPound {
		factor = 1.3558179483314004
	}
	return at/factor >= math.Max(w.RatedMin, 0.2*w.RatedMax) && at/factor <= w.RatedMax
}

// The solver finds what trying every combination finds, no more and no less,
// and what it shows is within the range of the wrench.
func TestTheSolverIsBruteForceMadeFast(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		c, torque := drawCrib(t), rapid.Float64Range(20, 2500).Draw(t, "torque")
		got := c.Solve(tool.Need{Torque: torque, Prefer: unit.NewtonMetre, Size: 46}, 0, today)
		require.NoError(t, got.Refused)
		want := brute(c, torque, 46)
		found := map[string]bool{}
		for _, s := range got.Settings {
			require.False(t, found[tags(s.Chain)], "twice: %s", tags(s.Chain))
			found[tags(s.Chain)] = true
			w := s.Chain.Wrench
			require.GreaterOrEqual(t, s.Reading.Shown, math.Max(w.RatedMin, 0.2*w.RatedMax)*(1-1e-9))
			require.LessOrEqual(t, s.Reading.Shown, w.RatedMax*(1+1e-9))
			require.InDelta(t, torque, s.Lands, torque*w.Scale.Minor/(s.Reading.Shown-w.Scale.Minor)*1.001, "lands within a mark")
		}
		require.Equal(t, want, found)
		for _, l := range got.Left {
			var r *refusal.Error
			require.True(t, errors.As(l.Why, &r), "%s: %v", l.Tag, l.Why)
			for tag := range want {
				require.NotContains(t, "+"+tag+"+", "+"+l.Tag+"+", "left, yet in a chain")
			}
		}
	})
}

func TestTheBestChainComesFirst(t *testing.T) {
	mid, edge, rough, short := wrench("MID", 60, 340, 10, 1), wrench("EDGE", 30, 210, 10, 1), wrench("ROUGH", 60, 340, 10,
		1), wrench("SHORT", 60, 340, 10, 1)
	rough.Accuracy, short.Length, mid.Length, edge.Length, rough.Length = 0.06, 450, 520, 520, 520
	c := tool.Crib{Wrenches: []tool.Wrench{edge, rough, short, mid}, Multipliers: []tool.Multiplier{{Tag: "X", Ratio: 2, OutputMax: 900,
		DriveIn: "1/2", DriveOut: "3/4"}}}
	s := c.Solve(tool.Need{Torque: 204, Prefer: unit.NewtonMetre}, 0, today)
	var order []string
	for _, x := range s.Settings {
		if x.Chain.Multiplier == nil {
			order = append(order, x.Chain.Wrench.Tag)
		}
	}
	require.Equal(t, []string{"MID", "ROUGH", "EDGE", "SHORT"}, order, "SHORT takes more than one hand's force")
	require.Equal(t, 8, s.Count)
	few := c.Solve(tool.Need{Torque: 204, Prefer: unit.NewtonMetre}, 2, today)
	require.Len(t, few.Settings, 2)
	require.Equal(t, 8, few.Count)
	require.Equal(t, "MID", few.Settings[0].Chain.Wrench.Tag)
}

// A part more weighs as much as half the way from the middle of the range to
// its end.
func TestAPartMoreWeighsHalfARange(t *testing.T) {
	off, mid := wrench("OFF", 60, 340, 10, 1), wrench("MID", 60, 340, 10, 1)
	mid.Drive = "3/4"
	sockets := []tool.Socket{{Tag: "S", Size: 30, Drive: "1/2"}}
	adapters := []tool.Adapter{{Tag: "A", DriveIn: "3/4", DriveOut: "1/2", Limit: 900}}
	first := func(share float64) string {
		off.RatedMin, off.RatedMax = 80, 400 // 240 is the middle, 160 to either end
		torque := 240 + share*160
		mid.RatedMin, mid.RatedMax = torque/2, 1.5*torque
		off.Scale.First, mid.Scale.First = 0, 0
		off.Length, mid.Length = 2000, 2000
		s := tool.Crib{Wrenches: []tool.Wrench{off, mid}, Sockets: sockets, Adapters: adapters}.Solve(tool.Need{Torque: torque,
			Prefer: unit.NewtonMetre, Size: 30}, 0, today)
		require.Len(t, s.Settings, 2)
		return s.Settings[0].Chain.Wrench.Tag
	}
	require.Equal(t, "OFF", first(0.45))
	require.Equal(t, "MID", first(0.55))
}

func TestEveryLeftToolHasItsReason(t *testing.T) {
	old := wrench("OLD", 60, 340, 10, 1)
	old.Due = today.AddDate(0, 0, -1)
	c := tool.Crib{
		Wrenches:    []tool.Wrench{old, wrench("SMALL", 5, 50, 5, 0.5), wrench("GOOD", 60, 340, 10, 1)},
		Multipliers: []tool.Multiplier{{Tag: "WEAK", Ratio: 4, OutputMax: 100, DriveIn: "1/2", DriveOut: "3/4"}},
		Adapters: []tool.Adapter{{Tag: "THIN", DriveIn: "1/2", DriveOut: "3/8", Limit: 60}, {Tag: "SAME", DriveIn: "1/2",
			DriveOut: "1/2", Limit: 600}, {Tag: "NOLIMIT", DriveIn: "1/2", DriveOut: "3/4"}},
		Offsets: []tool.OffsetEnd{{Tag: "FOOT", Length: 40, DriveIn: "1/2", DriveOut: "1/2", Limit: 100}},
		Sockets: []tool.Socket{{Tag: "S24", Size: 24, Drive: "1/2"}, {Tag: "K30", Size: 30, Inside: true, Drive: "1/2"},
			{Tag: "S30", Size: 30, Drive: "1/2"}, {Tag: "HELD", Size: 30, Drive: "1/2", HeldBack: "cracked"}, {Tag: "SOFT", Size: 30,
				Drive: "1/2", Limit: 150}, {Tag: "BIG", Size: 30, Drive: "1-1/2"}},
		Hydraulics: []tool.Hydraulic{{Tag: "RAM", Chart: chart(), PressureUnit: unit.Megapascal, Graduation: 0.5}},
	}
	s := c.Solve(tool.Need{Torque: 200, Prefer: unit.NewtonMetre, Size: 30}, 0, today)
	require.Len(t, s.Settings, 1)
	require.Equal(t, "GOOD+S30", tags(s.Settings[0].Chain))
	why := map[string]string{}
	for _, l := range s.Left {
		why[l.Tag] = l.Why.Error()
	}
	for tag, says := range map[string]string{"OLD": "out of calibration", "SMALL": "ends at 50", "WEAK": "at most 100", "THIN": "bears 60",
		"SAME": "adapts nothing", "NOLIMIT": "above zero",
		"FOOT": "bears 100", "S24": "24 mm", "K30": "key of 30 mm", "HELD": "cracked", "SOFT": "bears 150", "BIG": "Nothing in the crib " +
			"goes with"} {
		require.Contains(t, why[tag], says, tag)
	}
	require.Len(t, why, 12)
	_, off := c.Rigs(tool.Request{Torques: []float64{200}}, today)
	require.ErrorContains(t, off[0].Why, "outside the chart")
	require.Error(t, c.Solve(tool.Need{Torque: math.NaN()}, 0, today).Refused)
	require.Error(t, c.Solve(tool.Need{Torque: 200, Size: -1}, 0, today).Refused)
}

func TestHydraulicsReachWhatHandsDoNot(t *testing.T) {
	c := tool.Crib{Hydraulics: []tool.Hydraulic{
		{Tag: "RAM", Chart: chart(), PressureUnit: unit.Megapascal, Graduation: 0.5, Drive: "1"},
		{Tag: "OUT", Chart: chart(), PressureUnit: unit.Megapascal, Graduation: 0.5, HeldBack: "hose worn"}},
		Sockets: []tool.Socket{{Tag: "S46", Size: 46, Drive: "1"}}}
	rigs, left := c.Rigs(tool.Request{Torques: []float64{650, 1300}, Size: 46}, today)
	require.Len(t, rigs, 1)
	require.Equal(t, "S46", rigs[0].Rig.Socket.Tag)
	require.InDelta(t, 21, rigs[0].Stages[0].Pressure, 1e-9)
	require.InDelta(t, 41.5, rigs[0].Stages[1].Pressure, 1e-9)
	require.Len(t, left, 1)
	require.ErrorContains(t, left[0].Why, "hose worn")
}

func TestAnOffsetEndHasNoPlaceBehindAMultiplier(t *testing.T) {
	c := tool.Chain{Wrench: wrench("W", 60, 340, 10, 1), Multiplier: &tool.Multiplier{Tag: "M", Ratio: 4, OutputMax: 2000},
		Offset: &tool.OffsetEnd{Tag: "O", Length: 50, Limit: 2000}}
	_, _, err := c.AtWrench(800)
	require.ErrorIs(t, err, &refusal.Error{Code: refusal.Contradicts, Field: "offset"})
	c.Multiplier, c.Wrench.Length = nil, 0
	_, _, err = c.AtWrench(200)
	require.ErrorIs(t, err, &refusal.Error{Code: refusal.Missing, Field: "wrench"})
	c.Wrench.Length = 500
	at, _, err := c.AtWrench(220)
	require.NoError(t, err)
	require.InDelta(t, 200, at, 1e-9)
	s, err := c.Set(1, 220, today)
	require.NoError(t, err)
	require.InDelta(t, 200, s.Reading.Shown, 1e-9)
	require.InDelta(t, 220, s.Lands, 1e-9)
	require.InDelta(t, 400, s.Force, 1e-9)
	require.Equal(t, 2, c.Parts())
}

// storeOf is a crib of n tools as a large site might have it.
func storeOf(n int) tool.Crib {
	r := rand.New(rand.NewPCG(7, 11))
	var c tool.Crib
	drives := tool.Drives()
	for i := range n {
		d := r.IntN(5)
		switch {
		case i%10 < 4:
			top := []float64{60, 200, 340, 800, 1500}[d] * (0.8 + 0.4*r.Float64())
			w := wrench(fmt.Sprint("W", i), top/5, top, 10, 1)
			w.Drive, w.Length = drives[1+min(d, 3)], 300+top
			c.Wrenches = append(c.Wrenches, w)
		case i%10 < 5:
			c.Multipliers = append(c.Multipliers, tool.Multiplier{Tag: fmt.Sprint("M", i), Ratio: 3 + 20*r.Float64(), OutputMax: 1000 +
				5000*r.Float64(), DriveIn: drives[2+r.IntN(2)], DriveOut: drives[3+r.IntN(3)], Accuracy: 0.05})
		case i%10 < 7:
			a := 1 + r.IntN(4)
			c.Adapters = append(c.Adapters, tool.Adapter{Tag: fmt.Sprint("A", i), DriveIn: drives[a], DriveOut: drives[a+1-2*r.IntN(2)],
				Limit: 200 + 3000*r.Float64()})
		case i%10 < 8:
			c.Offsets = append(c.Offsets, tool.OffsetEnd{Tag: fmt.Sprint("O", i), Length: 60, DriveIn: drives[2+r.IntN(2)],
				DriveOut: drives[2+r.IntN(2)], Limit: 1200})
		default:
			c.Sockets = append(c.Sockets, tool.Socket{Tag: fmt.Sprint("S", i), Size: []float64{30, 36, 46}[r.IntN(3)],
				Drive: drives[2+r.IntN(3)]})
		}
	}
	return c
}

func BenchmarkSolve300(b *testing.B) {
	c := storeOf(300)
	need := tool.Need{Torque: 749, Prefer: unit.NewtonMetre, Size: 46}
	b.ReportAllocs()
	var s tool.Solution
	for b.Loop() {
		s = c.Solve(need, 40, today)
	}
	b.ReportMetric(float64(s.Count), "chains")
}

func FuzzSolve(f *testing.F) {
	f.Add(749.0, 46.0, 60.0, 340.0, 4.0, 2700.0, 60.0, 0.0)
	f.Add(math.NaN(), -1.0, math.Inf(1), 0.0, 1e300, -4.0, 1e-300, 90.0)
	f.Fuzz(func(t *testing.T, torque, size, low, high, ratio, most, length, angle float64) {
		w := wrench("W", low, high, ratio, most)
		w.Length = length
		c := tool.Crib{Wrenches: []tool.Wrench{w}, Multipliers: []tool.Multiplier{{Tag: "M", Ratio: ratio, OutputMax: most,
			Accuracy: angle}}, Adapters: []tool.Adapter{{Tag: "A", DriveIn: "1/2", DriveOut: "3/4", Limit: most}},
			Offsets: []tool.OffsetEnd{{Tag: "O", Length: length, Angle: angle, Limit: most}}, Sockets: []tool.Socket{{Tag: "S", Size: size,
				Drive: "3/4"}}}
		for _, s := range c.Solve(tool.Need{Torque: torque, Size: size}, 0, today).Settings {
			if !(s.Reading.Shown <= high*(1+1e-9)) || !(s.Lands > 0) || math.IsInf(s.Lands, 0) {
				t.Fatalf("%+v", s)
			}
		}
	})
}
