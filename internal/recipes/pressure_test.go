package recipes_test

import (
	"fmt"
	"math"
	"slices"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"dynacor/core/joint"
	"dynacor/core/record"
	"dynacor/core/refusal"
	"dynacor/core/tool"
	"dynacor/core/unit"
	"dynacor/core/work"
	"dynacor/core/work/worktest"
)

func pressing(t *testing.T) *worktest.Hand {
	h := worktest.New(t, plan(t, named(t, "hydraulic-wrench"), map[string]string{"work": "tighten"}))
	h.UpTo("pull")
	return h
}

// A hydraulic wrench is rigged up before every stage, at that stage's own pressure, step by
// step and read twice; nothing is pulled before.
func TestAHydraulicWrenchIsRiggedUpBeforeEveryStage(t *testing.T) {
	h := pressing(t)
	h.Ready(record.Act{Step: "pull"}) // its cautions
	rigs, last := 0, 0.0
	for h.State.Standing == record.Tighten {
		next := h.Next()
		set, unset := h.State.Unset(h.Person, h.Now.Add(2*h.Pace))
		if !unset {
			h.Do(next)
			continue
		}
		require.ErrorIs(t, h.Try(record.Done{Act: next}), &refusal.Error{Code: refusal.NotNow, Field: "setting"})
		tool_, _ := h.State.Tool(next)
		require.True(t, tool_.Pressed())
		require.Greater(t, tool_.Setting.Value, last)
		last = tool_.Setting.Value
		at := func(change func(*record.Setting)) error {
			c := h.State.Rigged(set)
			change(&c)
			return h.Try(c)
		}
		v := tool_.Setting.Value
		for name, change := range map[string]func(*record.Setting){
			"nothing said":     func(c *record.Setting) { c.Rig, c.Readings = nil, nil },
			"a step left out":  func(c *record.Setting) { c.Rig = append(c.Rig[:2:2], c.Rig[3:]...) },
			"another order":    func(c *record.Setting) { c.Rig[2], c.Rig[3] = c.Rig[3], c.Rig[2] },
			"a step too many":  func(c *record.Setting) { c.Rig = append(c.Rig, "up") },
			"read once":        func(c *record.Setting) { c.Readings = c.Readings[:1] },
			"2 % too low":      func(c *record.Setting) { c.Readings[0] = 0.98 * v },
			"not alike":        func(c *record.Setting) { c.Readings = []float64{0.992 * v, 1.008 * v} },
			"read in N·m":      func(c *record.Setting) { c.Readings = []float64{1650, 1650} },
			"of another stage": func(c *record.Setting) { c.Share = 31 },
		} {
			require.Error(t, at(change), name)
		}
		require.NoError(t, h.State.JudgeRig(record.Setting{Group: set.Group, Share: set.Share, Readings: []float64{v}}))
		require.Error(t, h.State.JudgeRig(record.Setting{Group: set.Group, Share: set.Share, Readings: []float64{1.02 * v}}))
		h.Add(h.State.Rigged(set))
		rigs++
	}
	require.Equal(t, 3, rigs, "once a stage; the rounds are at the last one's pressure")
	require.Error(t, h.State.JudgeRig(record.Setting{Group: "nuts", Share: 31, Readings: []float64{100}}))
}

// A pause, a hand-over and a night have it rigged up again, like any tool.
func TestARigIsNotTakenOver(t *testing.T) {
	h := pressing(t)
	h.Do(h.Next())
	h.Add(record.Pause{Note: "phone"})
	h.Add(record.Resume{})
	_, unset := h.State.Unset(h.Person, h.Now)
	require.True(t, unset)
	h.Do(h.Next())
	_, unset = h.State.Unset("somebody else", h.Now)
	require.True(t, unset)
}

// Where the regulator was moved the pulls since it was read are struck out, those of the
// stage before it stay; a hose or a pump costs the rigging alone.
func TestAMovedRegulatorStrikesOutItsPulls(t *testing.T) {
	h := pressing(t)
	for n := 0; n < 21; n++ { // one whole stage of 16, and five of the next
		h.Do(h.Next())
	}
	before := h.State.Bolts()
	require.False(t, h.State.Upsettable("anything else"))
	require.True(t, h.State.Upsettable("nuts"))
	require.ErrorIs(t, h.Try(record.Upset{Group: "nuts", What: "kicked"}), &refusal.Error{Code: refusal.Unknown, Field: "what"})
	for _, what := range []record.UpsetKind{record.HoseChanged, record.PumpStopped} {
		h.Add(record.Upset{Group: "nuts", What: what})
		require.Equal(t, before, h.State.Bolts(), what)
		_, unset := h.State.Unset(h.Person, h.Now)
		require.True(t, unset, what)
		require.ErrorIs(t, h.Try(record.Upset{Group: "nuts", What: what}), &refusal.Error{Code: refusal.NotNow, Field: "group"})
		c, _ := h.State.Unset(h.Person, h.Now)
		h.Add(h.State.Rigged(c))
		h.Do(h.Next())
		before = h.State.Bolts()
	}
	fresh := h.Next().Bolt
	h.Do(h.Next())
	h.Do(h.Next())
	h.Add(record.Upset{Group: "nuts", What: record.RegulatorMoved, Note: "knocked with the hose"})
	next := h.Next()
	require.Equal(t, 60.0, next.Share)
	redone := 0
	for i, b := range h.State.Bolts() {
		if b.Level != before[i].Level {
			redone++
		}
		require.GreaterOrEqual(t, b.Level, 0.3-1e-9, "the first stage stays")
	}
	require.Equal(t, 1, redone, "the one before it, rigged up by itself; the two after are as they were")
	require.NotEqual(t, fresh, next.Bolt)
	all := h.State.Deviations()
	require.Contains(t, all[len(all)-1].Text, "nuts: regulator moved, knocked with the hose; the 3 pulls since it was read are struck out")
	h.Finish()
	require.Equal(t, h.State.Deviations(), h.Fold().Deviations())
}

// A reading that a stalled tool shows is held against its chart and its gauge.
func TestAPressureReadBackIsHeldAgainstTheChart(t *testing.T) {
	h := pressing(t)
	h.Do(h.Next())
	next := h.Next()
	st, _ := h.State.Tool(next)
	read := func(share float64) error {
		return h.Try(record.Done{Act: next, Reading: unit.Of(share*st.Setting.Value, st.Setting.Unit)})
	}
	require.ErrorIs(t, read(0.98), &refusal.Error{Code: refusal.Asked, Field: "confirmed"})
	require.ErrorIs(t, h.Try(record.Done{Act: next, Reading: unit.Of(495, unit.NewtonMetre)}), &refusal.Error{Code: refusal.Contradicts})
	require.NoError(t, read(1.005))
}

// Every pressure that a joint is led by is the core's own: of a chart, of a tensioner.
func TestPressuresAreTheCores(t *testing.T) {
	p := plan(t, named(t, "hydraulic-wrench"), map[string]string{"work": "tighten"})
	g, _ := p.Result.Group("nuts")
	chart := tool.Chart{{Pressure: 70, Torque: 280}, {Pressure: 140, Torque: 565}, {Pressure: 350, Torque: 1420},
		{Pressure: 560, Torque: 2275},
		{Pressure: 690, Torque: 2800}}
	w := tool.Hydraulic{Tag: "HW-1", Chart: chart, PressureUnit: unit.Bar, Graduation: 10, Accuracy: 0.03}
	x := tool.Rig{Wrench: w}.Set(g.Torques, worktest.New(t, p).Now)
	stages := work.RigTools(x, nil)
	for i, s := range stages {
		want, err := chart.At(g.Torques[i], 10)
		require.NoError(t, err)
		require.Equal(t, unit.Of(want.Pressure, unit.Bar), s.Setting)
		require.InDelta(t, want.Torque, s.Lands, 1e-9)
		all, err := s.Derive("nuts", i+1)
		require.NoError(t, err)
		require.Equal(t, fmt.Sprintf("setting/%d", i+1), all[0].Key)
		require.InDelta(t, s.Setting.Value, all[0].Result(), 1e-9, all[0].Numbers())
		require.InDelta(t, s.Lands, all[1].Result(), 1e-9, all[1].Numbers())
	}
	require.Equal(t, []unit.Quantity{unit.Of(120, unit.Bar), unit.Of(240, unit.Bar), unit.Of(410, unit.Bar)},
		[]unit.Quantity{stages[0].Setting, stages[1].Setting, stages[2].Setting})
}

func sorted(list []int) []int { return slices.Sorted(slices.Values(list)) }

func second(_ string, bolts []int) []int { return bolts }

func drawing(t *testing.T, choices map[string]string) *worktest.Hand {
	choices["work"], choices["tightened"] = "make", "tensioner"
	h := worktest.New(t, plan(t, named(t, "closure"), choices))
	h.UpTo("draw")
	return h
}

// A closure is drawn in halves: the first at the higher pressure, nuts run down while it
// is drawn, then the others, then the first again; each limit is the tensioner's that was
// chosen.
func TestAClosureIsDrawnInHalves(t *testing.T) {
	h := drawing(t, map[string]string{"tensioners": "for every other bolt"})
	stages := h.State.Tooling["drawn bolts"].Stages
	require.Len(t, stages, 2)
	require.Greater(t, stages[0].Setting.Value, stages[1].Setting.Value)
	group, bolts := h.State.Carries()
	require.Equal(t, "drawn bolts", group)
	require.Equal(t, []int{1, 3, 5, 7, 9, 11}, sorted(bolts))
	gauge, ok := h.State.BroughtTo("draw")
	require.True(t, ok)
	require.Equal(t, stages[0].Setting, gauge.Setting)
	h.Add(record.Caution{Step: "draw"})
	first := stages[0].Setting.Value
	for _, off := range []float64{0.97, 1.03} {
		err := h.Try(record.Done{Act: record.Act{Step: "draw"}, Readings: []float64{off * first}, Reason: "the gauge jumps"})
		require.ErrorIs(t, err, &refusal.Error{Code: refusal.OutOfRange, Field: "readings"}, "no reason keeps it")
	}
	h.Do(h.Next())
	var ran []int
	for h.Next().Step == "run-down" {
		next := h.Next()
		ran = append(ran, next.Bolt)
		require.Equal(t, bolts, second(h.State.Carries()))
		h.Do(next)
		lines := h.State.Lines()
		require.Equal(t, stages[0].Setting, lines[len(lines)-1].Tool.Setting)
	}
	require.Equal(t, []int{1, 3, 5, 7, 9, 11}, sorted(ran))
	require.Equal(t, "draw-second", h.Next().Step)
	require.Equal(t, []int{2, 4, 6, 8, 10, 12}, sorted(second(h.State.Carries())))
	h.UpTo("again")
	h.Ready(h.Next())
	p := stages[1].Setting.Value
	moved := record.Done{Act: h.Next(), Readings: []float64{p, 2}}
	require.ErrorIs(t, h.Try(moved), &refusal.Error{Code: refusal.OutOfRange})
	moved.Tried = true
	h.Add(moved)
	require.Equal(t, "draw", h.Next().Step, "both halves again")
	h.UpTo("residual")
	win, _ := h.State.Window("residual")
	require.InDelta(t, 0.95*stages[1].Draw.Residual, win.Low, 1e-9)
	require.True(t, math.IsInf(win.High, 1))
	h.Finish()
	h.Made()
	h.As("inspector", h.Checked)
	require.Equal(t, record.Signed, h.State.Standing)
	made := h.State.MadeWith()
	require.Equal(t, "TW-1", made[0].Tool)
}

// Another tensioner than the one it was drawn with voids the draw: its ram is another.
func TestAnotherTensionerVoidsTheDraw(t *testing.T) {
	h := drawing(t, map[string]string{"tensioners": "for every other bolt"})
	h.UpTo("draw-second")
	g, _ := h.State.Plan().Result.Group("drawn bolts")
	h.Add(work.OneTool(g, "TN-2"))
	require.Equal(t, "tool", h.Next().Step, "looked at like any other")
	h.UpTo("draw")
	h.Do(h.Next())
	require.Equal(t, "draw-second", h.Next().Step, "the nuts of the first half are down")
	h.Finish()
}

func TestAClosureIsDrawnAtOnce(t *testing.T) {
	h := worktest.New(t, plan(t, named(t, "closure"),
		map[string]string{"work": "make", "tightened": "tensioner", "tensioners": "for every bolt"}))
	h.UpTo("draw-all")
	require.Len(t, h.State.Tooling["drawn bolts"].Stages, 1)
	require.Len(t, second(h.State.Carries()), 12)
	h.Finish()
}

// The plan itself refuses a load that the studs do not bear while they are drawn.
func TestALoadThatStudsDoNotBearIsRefused(t *testing.T) {
	r := named(t, "closure")
	in := anyOf(t, r, map[string]string{"work": "make", "tightened": "tensioner", "tensioners": "for every other bolt"})
	res, err := joint.Compute(in, r)
	require.NoError(t, err)
	g, _ := res.Group("drawn bolts")
	require.InDelta(t, 234_000, g.Drawn.Load, 1e-9)
	require.InDelta(t, 0.078, g.Drawn.Lost, 1e-12)
	require.InDelta(t, 100/0.922, g.Stages[0], 1e-9)
	all, err := joint.Derive(in, r, res)
	require.NoError(t, err)
	by := sound(t, all)
	require.InDelta(t, 1.16, by["drawn bolts/factor"].Result(), 1e-12)
	require.InDelta(t, 234_000*1.16/0.922, by["drawn bolts/applied/1"].Result(), 1e-6)
	require.InDelta(t, 234_000*1.16, by["drawn bolts/applied/2"].Result(), 1e-6)
	in.Values["bolt load"] = joint.Given{Value: unit.Of(520, unit.Kilonewton)}
	_, err = joint.Compute(in, r)
	require.ErrorIs(t, err, &refusal.Error{Code: refusal.TooLarge, Field: "values.bolt load"})
	require.ErrorContains(t, err, "% of their yield; they must stay below 95 %")
	in.Values["bolt load"] = joint.Given{Value: unit.Of(234, unit.Millimetre)}
	_, err = joint.Compute(in, r)
	require.Error(t, err, "a length is no load")
}

// Whatever happens on the way, the fold of all entries is the state that came one by one.
func TestUpsetRunsFoldAlike(t *testing.T) {
	p := plan(t, named(t, "hydraulic-wrench"), map[string]string{"work": "tighten"})
	rapid.Check(t, func(t *rapid.T) {
		h := worktest.New(t, p)
		h.UpTo("pull")
		for range rapid.IntRange(1, 60).Draw(t, "acts") {
			if h.State.Standing != record.Tighten {
				break
			}
			if h.State.Upsettable("nuts") && rapid.IntRange(0, 9).Draw(t, "upset") == 0 {
				h.Add(record.Upset{Group: "nuts", What: rapid.SampledFrom(record.Upsets()).Draw(t, "what")})
				continue
			}
			h.Do(h.Next())
		}
		require.Equal(t, h.State.Bolts(), h.Fold().Bolts())
		require.Equal(t, h.State.Offered(), h.Fold().Offered())
	})
}
