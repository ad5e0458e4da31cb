package e2e

import (
	"encoding/json"
	"fmt"
	"math"
	"slices"
	"strconv"
	"testing"
	"time"

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
		t.Run(string(kind), func(t *testing.T) {
			u.el(fmt.Sprintf("[data-drill='%s']", kind)).MustClick()
			u.drills(kind, false)
			u.sees("[data-judged=wrong]", "Wrong\\.")
			u.axe()
			require.Empty(t, u.MustEval(faults, everything).Arr())
			u.press(input.Space) // the next task
			u.MustWait("() => !document.querySelector('[data-judged]')")
			u.drills(kind, true)
			// What goes by the clock is done again where this machine was too busy for it.
			timed := kind == drill.Click || kind == drill.Pressure
			for n := 2; n < drill.Tasks && timed && *u.el("[data-judged]").MustAttribute("data-judged") == "wrong"; n++ {
				u.el("[data-next]").MustClick()
				u.MustWait("() => !document.querySelector('[data-judged]')")
				u.drills(kind, true)
			}
			u.sees("[data-judged=right]", "Right\\.")
			require.GreaterOrEqual(t, len(u.MustElements("[data-came]")), 2)
			u.sees("header a", "^Drills$").MustClick()
		})
	}

	// Five tasks are a go: what came of it is said, and it ends where it began, with the day on which it is due again.
	u.el(fmt.Sprintf("[data-drill='%s']", drill.Convert)).MustClick()
	u.passes(drill.Convert)
	u.sees("[data-judged]", "5 of 5 right.*Passed\\..*Do it again on")
	u.sees("button", "To the drills").MustClick()
	u.sees(fmt.Sprintf("[data-drill='%s']", drill.Convert), "5 of 5 ✓[^]*again on")
	u.sees(fmt.Sprintf("[data-drill='%s']", drill.ReadIt), "not done yet")

	// Nobody else sees it, whoever they are.
	ruth := s.signIn("ruth")
	require.NotContains(t, ruth.api("/api/drills"), `"right"`)
	require.NotContains(t, ruth.api("/api/site"), "drill")

	// Without a server it goes on, of the same tools, and says that it is not kept.
	s.kill()
	u.el(fmt.Sprintf("[data-drill='%s']", drill.Convert)).MustClick()
	u.sees("[data-task]", "this go is not kept")
	u.el("#drill-answer").MustInput("-1")
	u.press(input.Enter)
	u.sees("[data-judged=wrong]", "Wrong\\.")
}

// An engineer asks for a drill before a kind of joint is made: a fitter is stopped in the middle of one, passes the drill, is
// led on where they were, and their pull is on the record.
func TestADrillIsAskedForFirst(t *testing.T) {
	s := open(t)
	edda := s.signIn("edda")
	edda.MustNavigate(s.url("/bench/drills"))
	edda.el("select[name=recipe]").MustSelect("Gasketed pipe flange")
	edda.el("select[name=drill]").MustSelect("Convert it")
	months := edda.el("input[name=months]")
	months.MustSelectAllText().MustInput("600")
	edda.el("[data-ask]").MustClick()
	edda.sees("main [role=alert]", "1 to 60 months, not 600")
	months.MustSelectAllText().MustInput("6")
	edda.el("[data-ask]").MustClick()
	edda.sees("[data-asked='convert it']", "Gasketed pipe flange.*6 months")

	marta := s.signIn("marta")
	marta.opens("IV-2 / BONNET", 3)
	marta.el("[data-lacks='convert it']")
	require.Empty(t, marta.MustElements("[data-act=main]"))
	marta.axe()
	marta.press(input.Space)
	marta.passes(drill.Convert)
	marta.sees("[data-judged]", "It counts until")
	marta.sees("[data-judged] button", "Back to the joint").MustClick()
	before := s.query("select count(*) from entries where kind = 'done'")[0]
	marta.pull(6, 2, 0, input.Space)
	marta.next(14, 2, 0)
	require.NotEqual(t, before, s.query("select count(*) from entries where kind = 'done'")[0])
	until := time.Now().AddDate(0, 6, 0).Format(time.DateOnly)
	require.Equal(t, []string{"drill: convert it|" + until}, s.query(
		"select q, qualified_until ->> q from people, unnest(qualifications) q where login = 'marta' and q like 'drill:%'"))

	// It runs out; and another kind of joint does not ask for it.
	s.exec(`update people set qualified_until = '{"drill: convert it": "2026-01-31"}' where login = 'marta'`)
	again := s.signIn("marta")
	again.opens("IV-2 / BONNET", 3)
	again.el("[data-lacks='convert it']")
	again.opens("RK / FLUID COUPLING", 3)
	again.el("[data-act=main]")
	edda.sees("[data-asked='convert it'] button", "Ask no more").MustClick()
	edda.MustWait("() => !document.querySelector('[data-asked]')")
	again.opens("IV-2 / BONNET", 3)
	again.el("[data-next-bolt='14'], [data-act=set]")
}

// passes does a whole go, each task of it right.
func (u *user) passes(kind drill.Kind) {
	u.s.t.Helper()
	for i := range drill.Tasks {
		u.drills(kind, true)
		u.el("[data-judged=right]")
		if i < drill.Tasks-1 {
			u.el("[data-next]").MustClick()
			u.MustWait("() => !document.querySelector('[data-judged]')")
		}
	}
	u.el("[data-went]")
}

// drills answers the task that is on the screen.
func (u *user) drills(kind drill.Kind, right bool) {
	u.s.t.Helper()
	at := u.el(fmt.Sprintf("[data-task='%s']", kind))
	seed, err := strconv.ParseUint(*at.MustAttribute("data-seed"), 10, 64)
	require.NoError(u.s.t, err)
	var m drill.Material
	require.NoError(u.s.t, json.Unmarshal([]byte(u.s.query(`select material from drill_goes join people p on p.id = person
		where p.login = $1 and ended_at is null`, u.login)[0]), &m))
	task, err := drill.New(kind, seed, m)
	require.NoError(u.s.t, err)
	judged, err := task.Judge(drill.Answer{})
	require.NoError(u.s.t, err)
	switch kind {
	case drill.SetIt:
		u.sets(task.Face, right)
	case drill.Parts:
		order := slices.Clone(judged.Order)
		if !right {
			slices.Reverse(order)
		}
		for _, part := range order {
			u.press(input.Key('1' + rune(slices.Index(task.Parts.Parts, part))))
			u.el(fmt.Sprintf("[data-laid='%s']", part))
		}
		u.el("[data-act=main]:not([disabled])")
		u.press(input.Space)
	case drill.Pressure:
		u.el("[data-act=main]")
		u.press(input.Space)
		u.el("[data-turn='1']:not([disabled])")
		u.MustEval(follow, task.Press.To, task.Press.Step, task.Press.Most*map[bool]float64{true: 0, false: 2}[right])
	case drill.Wrong:
		option := judged.Right
		if !right {
			for slices.Contains(task.Wrong.Right, int(option)) {
				option = math.Mod(option+1, float64(len(task.Wrong.Options)))
			}
		}
		u.press(input.Key('1' + rune(option)))
	case drill.Click:
		if !right {
			u.press(input.Space)
			u.sees("[data-act=main]", "Stop")
			u.press(input.Space)
			return
		}
		u.MustEval(`() => {
			const now = () => document.querySelector("[data-clicked]") && document.querySelector("[data-act=main]").click()
			new MutationObserver(now).observe(document.querySelector("main"), { subtree: true, childList: true, attributes: true })
			document.querySelector("[data-act=main]").click()
		}`)
	case drill.NextBolt:
		if right { // by touch
			u.el(fmt.Sprintf("[data-bolt='%.0f'] text", judged.Right)).MustClick()
			return
		}
		fallthrough
	default:
		value := judged.Right
		if !right {
			value = value*2 + 1
		}
		u.el("#drill-answer").MustInput(strconv.FormatFloat(value, 'f', -1, 64))
		u.press(input.Enter)
	}
}

// sets turns a tool to what is asked for, or not, and locks it.
func (u *user) sets(f drill.Facing, right bool) {
	u.s.t.Helper()
	if len(f.By) == 0 {
		u.press(map[bool]input.Key{true: '1', false: '2'}[(f.To == f.At) == right])
		return
	}
	if left := f.To - f.At; right {
		for _, step := range slices.Backward(f.By) {
			n := math.Trunc(left/step + math.Copysign(1e-6, left))
			left -= n * step
			for range int(math.Abs(n)) {
				u.MustEval("by => [...document.querySelectorAll('[data-turn]')].find(b => Math.abs(b.dataset.turn - by) < 1e-9).click()",
					math.Copysign(step, n))
			}
		}
		u.MustWait("(to, off) => Math.abs(document.querySelector('[data-at]').dataset.at - to) < off", f.To, f.By[0]/4)
	}
	u.press(input.Space)
}

// follow is a hand at the regulator: it looks at the gauge whenever the needle moves, and turns where it has stood long enough to
// be read. One that is to be wrong brings it to another value at once.
const follow = `(to, step, wrong) => {
	const gauge = document.querySelector("[data-pressure]"), turn = by => document.querySelector("[data-turn='" + by + "']")?.click()
	const brings = by => {
		for (; Math.abs(by) >= 8; by -= 8 * Math.sign(by)) turn(8 * Math.sign(by))
		for (; by !== 0; by -= Math.sign(by)) turn(Math.sign(by))
	}
	let last = performance.now()
	brings(Math.round((wrong || to) / step))
	new MutationObserver(() => {
		if (performance.now() - last < 2500) return
		last = performance.now()
		brings(Math.round((to - gauge.dataset.pressure) / step))
	}).observe(gauge, { attributes: true })
}`
