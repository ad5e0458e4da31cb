package drill_test

import (
	"fmt"
	"math"
	"slices"
	"testing"
	"time"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"dynacor/core/crib"
	"dynacor/core/drill"
	"dynacor/core/refusal"
	"dynacor/core/tool"
	"dynacor/core/unit"
)

// Every face is set and read: the crib's own tool where it has one, training's where it has none. What is asked for is on the
// face, and another mark of it is wrong.
func TestSetItAndReadItOnEveryFace(t *testing.T) {
	for _, kind := range []drill.Kind{drill.SetIt, drill.ReadIt} {
		faces, tags := map[crib.Face]bool{}, map[string]bool{}
		for seed := range uint64(500) {
			task, err := drill.New(kind, seed, site())
			require.NoError(t, err)
			f := task.Face
			faces[f.Tool.Face], tags[f.Tool.Tag] = true, true
			s, err := f.Tool.Shows(f.At)
			require.NoError(t, err)
			if kind == drill.SetIt && f.Tool.Face != crib.Preset {
				require.NotEqual(t, f.At, f.To)
				require.LessOrEqual(t, math.Abs(f.At-f.To), 60.5*s.Minor)
				to, err := f.Tool.Shows(f.To)
				require.NoError(t, err)
				require.InDelta(t, f.To, to.Value, 1e-9)
				require.True(t, f.To >= s.Least-1e-9 && f.To <= s.Most+1e-9, "%+v", f)
				off, err := task.Judge(drill.Answer{Value: f.To + s.Minor})
				require.NoError(t, err)
				require.False(t, off.Holds)
				require.Contains(t, off.Why, "are asked for. ")
			}
		}
		require.Len(t, faces, len(crib.Faces())+1)
		require.True(t, tags["TW-1"] && tags["EW-1"] && !tags["T-1"] && tags["T-2"] && tags["T-7"], "%v", tags)
	}
	read := drill.Task{Kind: drill.ReadIt, Face: drill.Facing{Tool: site().Tools[0], At: 107, In: unit.NewtonMetre}}
	for answer, holds := range map[float64]bool{107: true, 107.4: true, 106.5: false, 108: false, 117: false} {
		got, err := read.Judge(drill.Answer{Value: answer})
		require.NoError(t, err)
		require.Equal(t, holds, got.Holds, "%g", answer)
		require.Equal(t, "The last line covered is 100, the ring’s 7 at the line: 107 N·m.", got.Why)
	}
}

func TestAPresetWrenchIsTakenOrNot(t *testing.T) {
	preset := crib.Tool{Tag: "PS-1", Kind: crib.Wrench, Face: crib.Preset, Unit: unit.NewtonMetre, Most: 25}
	for _, fits := range []bool{true, false} {
		task := drill.Task{Kind: drill.SetIt, Face: drill.Facing{Tool: preset, At: 25, To: 20, In: unit.NewtonMetre}}
		if fits {
			task.Face.To = 25
		}
		for answer := range 2 {
			got, err := task.Judge(drill.Answer{Value: float64(answer)})
			require.NoError(t, err)
			require.Equal(t, fits == (answer == 1), got.Holds)
			require.Contains(t, got.Why, "It is closed at 25 N·m")
		}
	}
}

func TestPartsInTheirOrder(t *testing.T) {
	for seed := range uint64(100) {
		task, err := drill.New(drill.Parts, seed, site())
		require.NoError(t, err)
		o, all := task.Parts, site().Stacks[0].Parts
		at := slices.Index(all, o.Right[0])
		require.Equal(t, all[at:at+len(o.Right)], o.Right, "they are neighbours")
		require.NotEqual(t, o.Right, o.Parts)
		require.ElementsMatch(t, o.Right, o.Parts)
		require.Equal(t, at == 0, o.Before == "")
	}
	task := drill.Task{Kind: drill.Parts, Parts: drill.Order{Right: []string{"hub", "seal", "disc", "nut"}}}
	for why, laid := range map[string][]string{
		"Every part lies in its place.":              {"hub", "seal", "disc", "nut"},
		"First of these lies “hub”, and not “seal”.": {"seal", "hub", "disc", "nut"},
		"Behind “seal” lies “disc”, and not “nut”.":  {"hub", "seal", "nut", "disc"},
		"2 parts were laid; there are 4.":            {"hub", "seal"},
		"5 parts were laid; there are 4.":            {"hub", "seal", "disc", "nut", "nut"},
	} {
		got, err := task.Judge(drill.Answer{Order: laid})
		require.NoError(t, err)
		require.Equal(t, why, got.Why)
		require.Equal(t, len(laid) == 4 && laid[0] == "hub" && laid[3] == "nut", got.Holds)
	}
	_, err := drill.New(drill.Parts, 1, drill.Material{})
	require.ErrorIs(t, err, &refusal.Error{Code: refusal.Missing, Field: "material"})
}

// A regulator that is left alone after it was set drifts off more often than not; one turned too far goes over what the tool
// bears; turns that go back in time are none.
func TestAPumpDrifts(t *testing.T) {
	alone := 0
	for seed := range uint64(100) {
		task, err := drill.New(drill.Pressure, seed, drill.Material{})
		require.NoError(t, err)
		g := task.Press
		right := []drill.Move{{At: 1, To: int(math.Round(g.To / g.Step))}}
		s, err := g.Stands(right, 30)
		require.NoError(t, err)
		if math.Abs(s.Pressure-g.To) <= g.Off && !s.Done {
			alone++
		}
		over, err := task.Judge(drill.Answer{Moves: []drill.Move{{At: 1, To: int(math.Ceil(1.3*g.Most/g.Step) + 1)}}})
		require.NoError(t, err)
		require.False(t, over.Holds)
		require.Contains(t, over.Why, "more than the tool bears")
		// What it stands at is one story, however often it is asked.
		again, err := g.Stands(append(slices.Clone(right), drill.Move{At: 40, To: 1}), 30)
		require.NoError(t, err)
		require.Equal(t, s, again)
		for _, bad := range [][]drill.Move{{{At: 2, To: 1}, {At: 1, To: 2}}, {{At: 1, To: -1}}, {{At: math.NaN(), To: 1}},
			make([]drill.Move, 2001)} {
			_, err := task.Judge(drill.Answer{Moves: bad})
			require.Error(t, err)
		}
	}
	require.Less(t, alone, 50)
}

// Whatever tools a crib has, each drill is drawn from them or from training's, and what is asked for is on their scales: wrenches
// of one mark and gauges of ten are tools too.
func TestEveryCribIsDrawnFrom(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		var m drill.Material
		for i := range rapid.IntRange(0, 6).Draw(t, "tools") {
			least := rapid.SampledFrom([]float64{0, 0.3, 5, 40, 200}).Draw(t, "least")
			x := crib.Tool{Tag: fmt.Sprint("X-", i), Kind: rapid.SampledFrom([]crib.Kind{crib.Wrench, crib.Gauge, crib.Socket, crib.Extension}).
				Draw(t, "kind"), Unit:     unit.NewtonMetre, Least: least, Most: least + rapid.SampledFrom([]float64{0, 0.1, 1, 15, 160, 2500}).
				Draw(t, "range"), DriveIn: "1/2", DriveOut: rapid.SampledFrom([]string{"1/2", "3/4", ""}).Draw(t, "drive"),
				Size: rapid.SampledFrom([]float64{0, 24, 30}).Draw(t, "size")}
			x.Scale = tool.Scale{First: least, Major: 10, Minor: rapid.SampledFrom([]float64{0, 0.01, 0.5, 5, 20}).Draw(t, "minor")}
			if x.Kind == crib.Wrench {
				x.Face = rapid.SampledFrom(crib.Faces()).Draw(t, "face")
			}
			if x.Kind == crib.Gauge {
				x.Least, x.Scale.First, x.Unit = 0, 0, unit.Bar
			}
			m.Tools = append(m.Tools, x)
		}
		seed := rapid.Uint64().Draw(t, "seed")
		for _, kind := range []drill.Kind{drill.SetIt, drill.ReadIt, drill.Pressure, drill.Wrong} {
			task, err := drill.New(kind, seed, m)
			require.NoError(t, err)
			switch f := task.Face; kind {
			case drill.SetIt:
				_, err = f.Tool.Shows(f.To)
				require.True(t, err == nil || f.Tool.Face == crib.Preset, "%+v", f)
				require.Equal(t, f.Tool.Face == crib.Preset, len(f.By) == 0)
				require.True(t, len(f.By) == 0 || f.To != f.At)
			case drill.ReadIt:
				s, err := f.Tool.Shows(f.At)
				require.NoError(t, err)
				require.True(t, f.At >= s.Least-1e-9 && f.At <= s.Most+1e-9, "%+v", f)
			case drill.Pressure:
				g := task.Press
				require.True(t, g.Off > 0 && g.To-g.Off > 0 && g.To+g.Off < g.Most && g.Most <= g.Gauge.Most*1.0001, "%+v", g)
				wrong, err := task.Judge(drill.Answer{})
				require.NoError(t, err)
				require.False(t, wrong.Holds)
				right, err := task.Judge(drill.Answer{Moves: followed(t, task)})
				require.NoError(t, err)
				require.True(t, right.Holds, "%+v", g)
			case drill.Wrong:
				for i := range task.Wrong.Options {
					got, err := task.Judge(drill.Answer{Value: float64(i)})
					require.NoError(t, err)
					require.Equal(t, slices.Contains(task.Wrong.Right, i), got.Holds)
				}
			}
		}
	})
}

// What a drill that was passed counts for has bounds, and ends on the same day of a later month.
func TestHowLongAPassCounts(t *testing.T) {
	for months, good := range map[int]bool{-1: false, 0: false, 1: true, 60: true, 61: false} {
		require.Equal(t, good, drill.CheckMonths(months) == nil, "%d", months)
	}
	require.ErrorIs(t, drill.CheckMonths(61), &refusal.Error{Code: refusal.OutOfRange, Field: "months"})
	require.Equal(t, time.Date(2027, 2, 27, 9, 0, 0, 0, time.UTC), drill.Until(time.Date(2026, 11, 27, 9, 0, 0, 0, time.UTC), 3))
}

// All four things to look at are drawn, each answer is among the options, and what is wrong differs.
func TestWhatIsWrongHere(t *testing.T) {
	about, right := map[drill.About]int{}, map[string]bool{}
	for _, m := range []drill.Material{site(), {}} {
		for seed := range uint64(800) {
			task, err := drill.New(drill.Wrong, seed, m)
			require.NoError(t, err)
			w := task.Wrong
			about[w.About]++
			require.NotEmpty(t, w.Says)
			for i := range w.Options {
				got, err := task.Judge(drill.Answer{Value: float64(i)})
				require.NoError(t, err)
				require.Equal(t, slices.Contains(w.Right, i), got.Holds)
			}
			if w.About == drill.ATrace || w.About == drill.AGapSet {
				right[w.Options[w.Right[0]]] = true
			} else if w.Right[0] == len(w.Options)-1 {
				right[string(w.About)] = true
			}
		}
	}
	require.Len(t, about, 4)
	require.Len(t, right, 6+4+2, "six traces, one with nothing wrong as a gap set may be; four sides; kit and pass in order: %v", right)
}

// The intervals are those of the reference program of the scheduler, ts-fsrs 5.4.2, by its defaults and without its fuzz.
func TestIntervals(t *testing.T) {
	begun := time.Date(2026, 11, 2, 15, 0, 0, 0, time.UTC)
	for _, story := range [][][4]float64{ // days since the last, grade, stability, difficulty
		{{0, 3, 2.3065, 2.118104}, {2, 3, 10.964332, 2.111214}, {8, 3, 38.866588, 2.104331}, {20, 3, 99.698457, 2.097455}},
		{{0, 1, 0.212, 6.4133}, {1, 3, 1.886788, 6.402115}, {3, 2, 5.345706, 7.596785}, {5, 1, 0.958847, 9.195308}, {1, 3, 1.926172, 9.181341}},
		{{0, 2, 1.2931, 5.112171}, {0, 3, 1.3359, 5.102287}, {1, 3, 4.602246, 5.092413}, {0, 1, 1.477829, 8.372138}, {1, 3, 2.942766, 8.358994}},
		{{0, 3, 2.3065, 2.118104}, {30, 3, 37.420639, 2.111214}, {400, 1, 3.824722, 7.392238}, {1, 2, 5.02888, 8.254075}},
		{{0, 1, 0.212, 6.4133}, {0, 1, 0.083357, 8.806304}, {0, 3, 0.103141, 8.792727}, {1, 3, 0.695255, 8.779162}},
	} {
		var went []drill.Went
		on := begun
		for _, x := range story {
			on = on.AddDate(0, 0, int(x[0]))
			went = append(went, drill.Went{On: on, Right: map[float64]int{1: 2, 2: 4, 3: 5}[x[1]], Of: 5})
			got := drill.Remember(went)
			require.InDelta(t, x[2], got.Stability, 2e-6)
			require.InDelta(t, x[3], got.Difficulty, 2e-6)
			require.Equal(t, max(1, int(math.Round(x[2]))), got.Days)
			require.Equal(t, on.AddDate(0, 0, got.Days).Truncate(24*time.Hour), got.Due)
		}
	}
	require.Zero(t, drill.Remember(nil))
	require.False(t, drill.Went{Right: 4, Of: 4}.Passed(), "a go is of five")
	require.True(t, drill.Went{Right: 4, Of: 5}.Passed())
	require.False(t, drill.Went{Right: 3, Of: 5}.Passed())
}
