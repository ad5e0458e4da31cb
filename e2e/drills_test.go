package e2e

import (
	"fmt"
	"strconv"
	"testing"

	"github.com/go-rod/rod/lib/input"
	"github.com/stretchr/testify/require"

	"dynacor/core/drill"
)

// Each drill is done wrong once, which says why, and right once; with the keyboard, and by touch where there is something
// to touch. axe finds nothing.
func TestEachDrillIsDoneWrongAndRight(t *testing.T) {
	s := open(t)
	u := s.signIn("jonas")
	u.MustNavigate(s.url("/bench"))
	u.sees("main a", "^Drills$").MustClick()
	u.el("[data-drill]")
	require.Len(t, u.MustElements("[data-drill]"), len(drill.Kinds()))
	for _, kind := range drill.Kinds() {
		u.el(fmt.Sprintf("[data-drill='%s']", kind)).MustClick()
		u.drills(kind, false)
		u.sees("[data-judged=wrong]", "Wrong\\.")
		u.axe()
		require.Empty(t, u.MustEval(faults, everything).Arr())
		u.press(input.Space) // the next task
		u.MustWait("() => !document.querySelector('[data-judged]')")
		u.drills(kind, true)
		u.sees("[data-judged]", "Right\\.")
		require.Len(t, u.MustElements("[data-came]"), 2)
		u.MustNavigate(s.url("/bench/drills"))
	}
	// Five tasks are a go: what came of it is said, and it ends where it began.
	u.el(fmt.Sprintf("[data-drill='%s']", drill.Convert)).MustClick()
	for i := range 5 {
		u.drills(drill.Convert, true)
		u.el("[data-judged=right]")
		if i < 4 {
			u.el("[data-next]").MustClick()
			u.MustWait("() => !document.querySelector('[data-judged]')")
		}
	}
	u.sees("[data-judged]", "5 of 5 right")
	u.sees("button", "To the drills").MustClick()
	u.el("[data-drill]")
}

// drills answers the task that is on the screen.
func (u *user) drills(kind drill.Kind, right bool) {
	u.s.t.Helper()
	at := u.el(fmt.Sprintf("[data-task='%s']", kind))
	seed, err := strconv.ParseUint(*at.MustAttribute("data-seed"), 10, 64)
	require.NoError(u.s.t, err)
	task, err := drill.New(kind, seed)
	require.NoError(u.s.t, err)
	judged, err := task.Judge(0)
	require.NoError(u.s.t, err)
	switch {
	case kind == drill.Click && right:
		u.MustEval(`() => {
			const now = () => document.querySelector("[data-clicked]") && document.querySelector("[data-act=main]").click()
			new MutationObserver(now).observe(document.querySelector("main"), { subtree: true, childList: true, attributes: true })
			document.querySelector("[data-act=main]").click()
		}`)
	case kind == drill.Click:
		u.press(input.Space)
		u.sees("[data-act=main]", "Stop")
		u.press(input.Space)
	case kind == drill.NextBolt && right: // by touch
		u.el(fmt.Sprintf("[data-bolt='%.0f'] text", judged.Right)).MustClick()
	default:
		value := judged.Right
		if !right {
			value = value*2 + 1
		}
		u.el("#drill-answer").MustInput(strconv.FormatFloat(value, 'f', -1, 64))
		u.press(input.Enter)
	}
}
