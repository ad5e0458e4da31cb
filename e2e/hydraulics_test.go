package e2e

import (
	"fmt"
	"slices"
	"testing"
	"time"

	"github.com/go-rod/rod/lib/input"
	"github.com/stretchr/testify/require"

	"dynacor/core/record"
	"dynacor/core/thread"
	"dynacor/core/tool"
	"dynacor/core/unit"
	"dynacor/core/work"
)

// A flange by hydraulic wrench from its parts to the signed record: the wrench with pump,
// gauge and socket from the crib, its pressures off its own chart, rigged up before each
// stage; a reading that is off, and a regulator that was moved.
func TestAJointByHydraulicWrench(t *testing.T) {
	s := open(t)
	const tag = "PS-2 / MAIN FLANGE"
	chart := tool.Chart{{Pressure: 70, Torque: 280}, {Pressure: 140, Torque: 565}, {Pressure: 350, Torque: 1420}, {Pressure: 560, Torque: 2275},
		{Pressure: 690, Torque: 2800}} // of HW-1, as it is in the demo's crib
	piet := s.signIn("piet")
	piet.adds("hydraulic-wrench", tag, "Penstock 2, main flange")
	piet.word("type", "HW")
	piet.word("size", "M36")
	piet.word("choices.work", "tighten")
	piet.sees("p", "Nuts: 16 × M36 B7, with moly paste, to 1,?650 N·m")
	edda := s.signIn("edda")
	edda.opens(tag, 1)
	edda.issues()
	piet.opens(tag, 1)
	piet.careful(tag, func(_ *work.State, a record.Act) bool { return a.Step == "chart" })
	piet.el("[data-rig=HW-1][aria-label*='PU-1, then GA-1, then HW-1, then SO-55']")
	piet.el("svg[data-chart=HW-1]")
	piet.sees("summary", "in none of these, and why").MustClick()
	piet.sees("[data-left=HW-2]", "Pass 1: 495 is outside the chart")
	piet.upTo(tag, "side")
	piet.el("svg[data-drive=tighten]")
	piet.upTo(tag, "pull")

	unset := func(st *work.State) (c record.Setting, ok bool) { return st.Unset(piet.person, time.Now()) }
	rigs := func(share float64) {
		piet.fast(tag, func(st *work.State, a record.Act) bool {
			c, ok := unset(st)
			return a.Step != "pull" || ok && c.Share == share
		})
		want, err := chart.At(1650*share/100, 10)
		require.NoError(t, err)
		piet.careful(tag, func(st *work.State, _ record.Act) bool {
			_, ok := unset(st)
			if ok {
				piet.el(fmt.Sprintf("[data-setting='%g bar']", want.Pressure))
			}
			return !ok
		})
	}
	gauge := s.sends("GA-1", "bar") // a pump's gauge that speaks
	piet.cautioned("Hands off arm, hose and back-up")
	piet.el("[data-rigs=hoses]")
	for range 4 {
		piet.press(input.KeyS)
	}
	piet.el("input[name=rig1]").MustInput("130")
	piet.sees("[data-rigs=up] ~ * [role=alert], [role=alert]", "130 bar; it must be within 1 % of 120 bar")
	piet.el("[data-act=rig-anew]").MustClick()
	piet.el("[data-rigs=down]")
	piet.press(input.KeyS)
	piet.press(input.KeyS)
	gauge(120)
	piet.el("[data-offered=GA-1]").MustClick()
	piet.el("[data-act=rig]:not([disabled])").MustClick()
	piet.el("[data-rigs=again]")
	piet.el("input[name=rig2]").MustInput("121")
	piet.el("[data-act=rig]:not([disabled])").MustClick()
	piet.sees("[data-act=main]", "^It stalled")

	set := func(l work.Line) bool { return l.Entry.Content.Kind() == record.KindSetting }
	require.NoError(t, piet.until(func() bool { return slices.ContainsFunc(piet.run(tag).State.Lines(), set) }))
	lines := piet.run(tag).State.Lines()
	rig := lines[slices.IndexFunc(lines, set)].Content.(record.Setting)
	require.Equal(t, "gauge 120 and 121 bar, sent by GA-1, 1 of 2", piet.run(tag).State.RigWords(rig))

	// Five nuts into the second stage somebody moves the regulator.
	rigs(60)
	piet.fast(tag, func(_ *work.State, a record.Act) bool { return a.Bolt == 5 && a.Share == 60 })
	piet.careful(tag, func(_ *work.State, a record.Act) bool { return a.Bolt == 5 && a.Share == 60 })
	order := piet.run(tag).State.Plan().Acts("pull")
	piet.press(input.KeyT)
	piet.sees("[role=dialog] label", "^with the pump$").MustClick()
	piet.sees("[role=dialog] button", "the regulator was moved").MustClick()
	piet.el("[role=dialog] textarea:not([aria-hidden])").MustInput("caught by a hose")
	piet.sees("[role=dialog] button", "^Record it$").MustClick()
	piet.alone()
	piet.el("[data-rigs=hoses]")
	next, _ := piet.run(tag).State.Next()
	require.Equal(t, order[16].Bolt, next.Bolt, "the second stage from its first nut")
	rigs(60)
	rigs(100)
	piet.fast(tag, func(_ *work.State, a record.Act) bool { return a.Step != "pull" })
	piet.toTheEnd(tag)
	piet.signsMade()
	haro := s.signIn("haro")
	haro.signsChecked(tag, "")
	text := haro.record(tag)
	for _, says := range []string{"gauge 120 and", "gauge 240 and", "gauge 410 and",
		"regulator moved, caught by a hose; the", "pulls since it was read are struck out", "HW-1 + PU-1 + GA-1", "410 bar"} {
		require.Contains(t, text, says)
	}
}

// A closure that is drawn by tensioners, in halves, from its parts to the signed record:
// pressures from load, factor and ram, as the core has them; a nut that moves has both halves
// again.
func TestAClosureByTensioners(t *testing.T) {
	s := open(t)
	const tag = "U2 / SERVO LOWER"
	piet := s.signIn("piet")
	piet.adds("closure", tag, "Servomotor lower closure")
	piet.word("type", "HP")
	piet.word("size", "180")
	piet.word("choices.work", "make")
	piet.word("choices.tightened", "tensioner")
	piet.word("choices.tensioners", "for every other bolt")
	piet.sees("p", "Drawn bolts: 12 × M36 B7, drawn, every other bolt first, to leave 234 kN in each")
	edda := s.signIn("edda")
	edda.opens(tag, 1)
	edda.issues()
	piet.opens(tag, 1)
	m36, err := thread.Parse("M36")
	require.NoError(t, err)
	h, err := tool.TensionHalves(m36, 234_000, 240, 3200, 720, 0.078)
	require.NoError(t, err)
	first, second := unit.Round(10*h.First.Pressure, 10), unit.Round(10*h.Second.Pressure, 10)
	piet.fast(tag, func(_ *work.State, a record.Act) bool { return a.Photo || a.Release || a.Step == "draw" })
	piet.upTo(tag, "draw")
	piet.cautioned("Nobody in line with a drawn bolt")
	piet.el(fmt.Sprintf("[data-face=gauge] svg[aria-label*='%g bar']", first))
	require.Len(t, piet.MustElements("[data-carries]"), 6)
	piet.types("draw", fmt.Sprint(first-40))
	piet.sees("[role=status]", "it must be at least")
	require.Empty(t, piet.MustElements("[data-act=leave]"))
	piet.measures("draw", fmt.Sprint(first))
	piet.fast(tag, func(_ *work.State, a record.Act) bool { return a.Step == "draw-second" })
	piet.upTo(tag, "draw-second")
	piet.cautioned("Nobody in line with a drawn bolt")
	piet.el(fmt.Sprintf("[data-face=gauge] svg[aria-label*='%g bar']", second))
	piet.careful(tag, func(_ *work.State, a record.Act) bool { return a.Step == "again" })
	piet.cautioned("Nobody in line with a drawn bolt")
	piet.types("again", fmt.Sprint(second), "1")
	piet.sees("[role=status]", "Nuts that moved: 1 nuts")
	piet.el("[data-act=try]").MustClick()
	piet.el("[data-current=draw]")
	piet.toTheEnd(tag)
	piet.signsMade()
	ines := s.signIn("ines")
	ines.signsChecked(tag, "")
	text := ines.record(tag)
	for _, says := range []string{"drawn to leave 234 kN in each, over 240 mm clamped", "every other bolt first, which loses 7.8 %",
		"TN-36 + PU-2", fmt.Sprintf("%g bar", first), fmt.Sprintf("%g bar", second), "comes free"} {
		require.Contains(t, text, says)
	}
}
