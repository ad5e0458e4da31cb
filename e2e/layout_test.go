package e2e

import (
	"fmt"
	"net/url"
	"testing"

	"github.com/go-rod/rod/lib/input"
	"github.com/stretchr/testify/require"

	"dynacor/core/drill"
)

// overflow says how far the page reaches past the screen, and which targets
// are smaller than a gloved finger needs.
const overflow = `() => {
	const page = document.querySelector('[class*=page]'), work = document.querySelector('main')
	const small = [...document.querySelectorAll('button, a')].filter(e => {
		const r = e.getBoundingClientRect()
		return r.width > 0 && r.height < 24 && getComputedStyle(e).display !== 'inline' && !e.closest('svg')
	}).map(e => e.textContent)
	const all = document.documentElement
	return { wide: Math.max(all.scrollWidth - innerWidth, page.scrollWidth - page.clientWidth, work.scrollWidth - work.clientWidth),
		tall: Math.max(all.scrollHeight - innerHeight, page.scrollHeight - page.clientHeight, work.scrollHeight - work.clientHeight),
		act: document.querySelector('[data-act=main]')?.getBoundingClientRect().height ?? 0, small }
}`

type extent struct {
	Wide, Tall, Act float64
	Small           []string
}

// At Tighten nothing scrolls on the tablet in the rack, and the main act is
// large; on a phone nothing reaches past the side at any station.
func TestNothingReachesPastTheScreen(t *testing.T) {
	s := open(t)
	u := s.signIn("marta")
	tags := map[string]int{"IV-2 / BONNET": 3, "U2 / HEAD COVER": 3, "PS-1 / DRAIN": 4, "PS-1 / MANWAY": 5, "IV-2 / BYPASS": 2,
		"RK / COOLER": 1, "U2 / JACKING DISC": 1, "GOV / GATE REDUCER": 1, "AW / DAVIT ANCHORS": 2, "RK / GEARBOX DISC": 3,
		"RK / PIPE FRAME 2": 3, "GOV / TUBE 6-1": 3, "AW / PLATFORM 5": 4, "RK / CONVEYOR DISC": 4, "GOV / DRAIN VALVE": 5}
	measure := func() extent {
		var e extent
		require.NoError(t, u.MustEval(overflow).Unmarshal(&e))
		return e
	}
	for tag, station := range tags {
		id := s.query("select id::text from joints where tag = $1", tag)[0]
		for _, size := range [][2]int{{1280, 800}, {390, 844}, {360, 640}, {1920, 1080}, {844, 390}} {
			u.MustSetViewport(size[0], size[1], 1, false)
			u.MustNavigate(s.url(fmt.Sprintf("/joint/%s/%d", id, station)))
			u.el("main svg")
			where := fmt.Sprintf("%s, station %d at %d × %d", tag, station, size[0], size[1])
			e := measure()
			require.LessOrEqual(t, e.Wide, 0.0, where)
			require.Empty(t, e.Small, where)
			// A tablet in the rack; a phone on its side shows a bolt whole, a caution may be longer.
			if station == 3 && size[0] == 1280 || size[0] == 844 && tag == "IV-2 / BONNET" {
				require.LessOrEqual(t, e.Tall, 0.0, where)
			}
			if tag == "IV-2 / BONNET" {
				require.GreaterOrEqual(t, e.Act, 96.0, where)
			}
		}
	}
	u.MustSetViewport(390, 844, 1, false)
	u.MustNavigate(s.url("/wall"))
	u.sees("h1", "joints signed")
	require.LessOrEqual(t, measure().Wide, 0.0, "the Wall on a phone")
	for _, path := range []string{"/bench", "/bench/" + s.query("select id::text from joints where tag = 'PS-1 / MANWAY'")[0]} {
		u.MustNavigate(s.url(path))
		u.el("[data-way] svg[data-ring]")
		e := measure()
		require.LessOrEqual(t, e.Wide, 0.0, path+" on a phone")
		require.Empty(t, e.Small, path)
	}
	for _, kind := range drill.Kinds() {
		path := "/bench/drills?drill=" + url.QueryEscape(string(kind))
		u.MustNavigate(s.url(path))
		u.el("[data-task] :is(svg, input)")
		e := measure()
		require.LessOrEqual(t, e.Wide, 0.0, path+" on a phone")
		require.Empty(t, e.Small, path)
	}
}

// The keyboard reaches the stations, the help and the finder, and a field that
// is typed in keeps its keys.
func TestTheKeyboardReachesEverything(t *testing.T) {
	s := open(t)
	u := s.signIn("marta")
	id := s.query("select id::text from joints where tag = 'IV-2 / BONNET'")[0]
	u.MustNavigate(s.url("/joint/" + id + "/3"))
	u.next(6, 2, 0)
	for key, shows := range map[input.Key]string{input.Digit1: "[data-step=isolate]", input.Digit2: "header h2",
		input.Digit3: "[data-act=main]", input.Digit4: "[data-step=gap]", input.Digit5: "article h2"} {
		u.press(key)
		u.el("main " + shows)
	}
	question, _ := input.Slash.Shift()
	u.press(question)
	u.sees("[role=dialog] dd", "the main act of the screen")
	u.press(input.Escape)
	u.MustWait("() => !document.querySelector('[role=dialog]')")
	u.press(input.Digit3)
	u.next(6, 2, 0)
	u.press(input.KeyR)
	u.el("[role=dialog] input").MustInput("1 2 3 t n ")
	u.sees("[role=dialog]", "Enter a number")
	u.press(input.Escape)
	u.next(6, 2, 0)
	require.Equal(t, s.query("select head_seq from runs where joint = $1", id),
		s.query("select count(*) from entries e join runs r on r.id = e.run where r.joint = $1", id))
	require.Equal(t, "0", s.query(
		"select count(*) from entries e join runs r on r.id = e.run where r.joint = $1 and e.at_server > now() - interval '1 minute' and "+
			"e.kind = 'done'", id)[0], "nothing was pulled by typing")
}

// A tool that is not in the crib is entered off its plate, refused while it
// cannot do it, and shown first on the record.
func TestAToolEnteredByHand(t *testing.T) {
	s := open(t)
	u := s.signIn("jonas")
	id := s.query("select id::text from joints where tag = 'U2 / SHAFT SEAL'")[0]
	u.MustNavigate(s.url("/joint/" + id + "/2"))
	enter := func(most string) {
		u.sees("button", "Not in the crib").MustClick()
		for i, v := range []string{"10", most, "10", "0,5"} {
			if i == 0 {
				u.el("[role=dialog] input:not([inputmode]):not([type=radio])").MustSelectAllText().MustInput("OWN-7")
			}
			u.el("[role=dialog] form")
			u.MustElements("[role=dialog] input[inputmode=decimal]")[i].MustSelectAllText().MustInput(v)
		}
		u.sees("[role=dialog] button", "Work it out").MustClick()
	}
	enter("60")
	u.sees("[role=alert]", `OWN-7 would be set to 80 N·m; it ends at 60 N·m`)
	u.sees("button", "Back to the crib").MustClick()
	enter("100")
	u.sees("h2", "One way to reach 80 N·m with OWN-7")
	u.sees("button", "^Take OWN-7").MustClick()
	u.sees("h2", "OWN-7")
	u.press(input.Digit5)
	u.sees("li", "not in the crib.*OWN-7|OWN-7.*not in the crib|OWN-7.*by hand")
}
