package e2e

import (
	"fmt"
	"os"
	"path/filepath"
	"testing"

	"github.com/go-rod/rod"
	"github.com/go-rod/rod/lib/input"
	"github.com/go-rod/rod/lib/proto"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// everything is what axe looks for, colours what of it another scheme can change.
var everything, colours = []string{"wcag2a", "wcag2aa", "wcag21a", "wcag21aa", "wcag22aa"}, []string{"color-contrast"}

// faults runs axe on what is on the screen and says what breaks WCAG A or AA.
const faults = `async (rules) => {
	const found = await axe.run(document, { runOnly: rules, resultTypes: ["violations"] })
	return found.violations.flatMap(v => v.nodes.map(n =>
		[v.id, n.target.join(" "), n.html.slice(0, 120) + ":", n.failureSummary.replace(/\s+/g, " ")].join(" ")))
}`

// axe loads it into the page that is shown.
func (u *user) axe() {
	u.s.t.Helper()
	source, err := os.ReadFile(filepath.Join("..", "web", "node_modules", "axe-core", "axe.min.js"))
	require.NoError(u.s.t, err)
	_, err = u.Evaluate(rod.Eval("(source) => { (0, eval)(source) }", string(source)).ByUser())
	require.NoError(u.s.t, err)
}

// looksThrough says what axe finds on the screen in a scheme.
func (u *user) looksThrough(scheme string, rules []string) (found []string) {
	u.s.t.Helper()
	require.NoError(u.s.t, proto.EmulationSetEmulatedMedia{Features: []*proto.EmulationMediaFeature{
		{Name: "prefers-color-scheme", Value: scheme}, {Name: "prefers-reduced-motion", Value: "reduce"}}}.Call(u.Page))
	require.NoError(u.s.t, u.Page.Timeout(patience).Wait(rod.Eval(
		"s => document.documentElement.dataset.mantineColorScheme === s && document.fonts.status === 'loaded'", scheme)))
	require.NoError(u.s.t, u.MustEval(faults, rules).Unmarshal(&found))
	return found
}

// On every view, in both schemes, axe finds nothing.
func TestNothingIsHardToReach(t *testing.T) {
	s := open(t)
	s.exec("update people set roles = roles || '{administrator,planner,engineer,crib keeper}' where login = 'marta'")
	u := s.signIn("marta")
	views := []struct {
		tag     string // of a joint, or the path of a page
		station int
		act     func()
	}{
		{"/wall", 0, nil},
		{"/wall", 0, func() { u.sees("button", "^Add a joint$").MustClick(); u.el("[data-kind=clamping-disc]").MustClick() }},
		{"/wall", 0, func() { question, _ := input.Slash.Shift(); u.press(question); u.sees("[role=dialog]", "Keys") }},
		{"/bench", 0, func() { u.el("[data-trial=done]") }},
		{"/bench", 0, func() { u.sees("label", "what moved here").MustClick(); u.el("[data-moved] td") }},
		{"/bench/drills", 0, func() { u.el("[data-ask]") }},
		{"/library", 0, nil},
		{"/library/differ", 0, nil},
		{"/library/clamping-disc", 0, nil},
		{"/library/accumulator/edit?at=parts", 0, nil},
		{"/library/gasketed-flange/edit?at=steps.10", 0, nil},
		{"/library/gasketed-flange/edit?at=sheet", 0, nil},
		{"/library/hose-clamp/edit", 0, func() { u.sees("label", "^Dry run$").MustClick(); u.el("[data-dry=test]") }},
		{"/library/lubricants", 0, func() {
			u.sees("button", "Ottermere grey paste").MustClick()
			u.sees("button", "^Check the lot$").MustClick()
			u.el("[role=dialog] input[name=torque1]")
		}},
		{"/crib", 0, nil},
		{"/crib/TW-07", 0, nil},
		{"/crib/TW-07", 0, func() {
			u.el("[data-act=check]").MustClick()
			u.fills("mark 1 reading 1", "44")
			u.sees("[role=status]", "off at 40")
		}},
		{"/crib/HW-1", 0, func() { u.more("change"); u.el("[role=dialog] [data-face=gauge]") }},
		{"/site", 0, nil},
		{"/site", 0, func() { u.el("[data-rules]").MustClick(); u.el("[role=dialog] input[name=begins1]") }},
		{"/wall", 0, func() {
			u.sees("button", "^Lists$").MustClick()
			u.sees("[role=menuitem]", "Cards for the joints").MustClick()
		}},
		{"/device", 0, func() { u.el("[data-take-next]").MustClick(); u.el("[data-taken]") }},
		{"/planning", 0, nil},
		{"/planning", 0, func() { u.chooses(plannersList); u.sees("button", "^Take 2 in$") }},
		{"/site", 0, func() { u.el("[data-login=piet]").MustClick(); u.el("[role=dialog] input[name=name]") }},
		{"RK / COOLER", 1, nil},
		{"RK / COOLER", 1, func() { u.el("[data-word='groups.bolts.lubrication']").MustClick(); u.el("[data-value='light oil']") }},
		{"U2 / JACKING DISC", 1, nil},
		{"RK / WASH STRAINER", 1, nil},
		{"GOV / GATE REDUCER", 1, nil},
		{"U2 / SHAFT SEAL", 2, nil},
		{"U2 / SHAFT SEAL", 2, func() { u.selects("place", "with an offset end"); u.el("[data-turns]") }},
		{"IV-2 / BONNET", 2, nil},
		{"IV-2 / BONNET", 3, nil},
		{"IV-2 / BONNET", 3, func() { u.press(input.KeyR); u.el("[role=dialog] input") }},
		{"IV-2 / BONNET", 3, func() { u.press(input.KeyT); u.el("[role=dialog] [data-value=overshot]").MustClick() }},
		{"IV-2 / BONNET", 3, func() { u.press(input.KeyZ); u.el("[role=dialog] input[name=reason]") }},
		{"RK / WASH HEADER", 3, nil},
		{"RK / GATE JACK", 3, nil},
		{"RK / GEARBOX DISC", 3, nil},
		{"RK / PIPE FRAME 2", 3, nil},
		{"GOV / TUBE 6-1", 3, nil},
		{"PS-1 / DRAIN", 4, nil},
		{"AW / PLATFORM 5", 4, nil},
		{"U2 / COOLER IN", 5, nil},
		{"PS-1 / MANWAY", 5, nil},
		{"U2 / GUIDE BEARING", 5, nil},
		{"U2 / SERVO TOP", 3, nil},
		{"RK / FEED HEADER", 3, func() { u.el("[data-story]").MustClick(); u.el("svg[data-trace]") }},
		{"/crib/EW-1", 0, func() { u.el("[data-act=key]").MustClick(); u.el("[data-key]") }},
		{"IV-2 / BONNET", 3, func() { u.press(input.KeyA); u.el("[data-far]") }},
	}
	for i, v := range views {
		look := func(scheme string, rules []string) {
			for _, f := range u.looksThrough(scheme, rules) {
				assert.Fail(t, f, fmt.Sprintf("view %d: %s, station %d, %s", i, v.tag, v.station, scheme))
			}
		}
		path := v.tag
		if v.station > 0 {
			id := s.query("select id::text from joints where tag = $1", v.tag)
			require.Len(t, id, 1, v.tag)
			path = fmt.Sprintf("/joint/%s/%d", id[0], v.station)
		}
		if i%10 == 0 {
			u.MustNavigate(s.url(path))
			u.axe()
		} else { // within the page, as a link does: what looks it through stays loaded
			u.press(input.Escape)
			u.alone()
			for _, to := range []string{"/wall", path} {
				u.MustEval("path => { history.pushState({}, '', path); dispatchEvent(new PopStateEvent('popstate', { state: {} })) }", to)
				require.NoError(t, u.Page.Timeout(patience).Wait(rod.Eval(`wall => {
					const h1 = document.querySelector("main h1")
					return h1 && /joints signed/.test(h1.textContent) === wall
				}`, to == "/wall")), to)
			}
		}
		if v.station > 0 {
			u.sees("header b", v.tag)
			u.el(fmt.Sprintf("nav[aria-label=Stations] a[href$='/%d'][aria-current]", v.station))
		}
		u.el("main h1")
		if v.act != nil {
			v.act()
		}
		look("dark", colours)
		look("light", everything)
	}
}
