package e2e

import (
	"fmt"
	"testing"

	"github.com/go-rod/rod"
	"github.com/go-rod/rod/lib/input"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// In the sun and in a dark pit text has the contrast of AAA on every main view.
func TestHighContrastIsAAA(t *testing.T) {
	s := open(t)
	s.exec("update people set roles = roles || '{administrator,planner,engineer}' where login = 'marta'")
	u := s.signIn("marta")
	u.MustNavigate(s.url("/device"))
	u.sees("button", "^Sun$").MustClick()
	u.el(":root[data-contrast][data-mantine-color-scheme=light]")
	u.MustEval(`() => localStorage.removeItem("mantine-color-scheme-value")`) // the scheme is asked for below
	for _, v := range []struct {
		tag     string
		station int
	}{{"/wall", 0}, {"/library/clamping-disc", 0}, {"/crib", 0}, {"/crib/TW-07", 0}, {"/site", 0}, {"/device", 0}, {"RK / COOLER", 1}, {"IV-2 / BONNET", 2},
		{"IV-2 / BONNET", 3}, {"RK / FEED HEADER", 3}, {"RK / WASH HEADER", 3}, {"PS-1 / DRAIN", 4}, {"U2 / COOLER IN", 5}} {
		path := v.tag
		if v.station > 0 {
			path = fmt.Sprintf("/joint/%s/%d", s.query("select id::text from joints where tag = $1", v.tag)[0], v.station)
		}
		u.MustNavigate(s.url(path))
		u.el("main h1")
		u.axe()
		for _, scheme := range []string{"dark", "light"} {
			for _, f := range u.looksThrough(scheme, []string{"color-contrast-enhanced"}) {
				assert.Fail(t, f, fmt.Sprintf("%s, station %d, %s", v.tag, v.station, scheme))
			}
		}
	}
}

// What a device is told of its hand and of its light it remembers: the act on the left, a
// buzz at each pull, and its screen stays lit while a bolt is in hand and no longer.
func TestHand(t *testing.T) {
	s := open(t)
	u := s.signIn("marta")
	u.MustEvalOnNewDocument(`(() => {
		window.buzzed = []
		navigator.vibrate = p => window.buzzed.push(p.join(" "))
		window.lit = 0
		Object.defineProperty(navigator, "wakeLock", { value: { request: async () => {
			window.lit++
			return { release: async () => { window.lit-- } }
		} } })
	})()`)
	lit := func(n int) {
		t.Helper()
		require.NoError(t, u.Page.Timeout(patience).Wait(rod.Eval("n => window.lit === n", n)))
	}
	buzzed := func() []string {
		var out []string
		require.NoError(t, u.MustEval("() => window.buzzed").Unmarshal(&out))
		return out
	}
	right := func() bool {
		return u.MustEval(`() => document.querySelector("[data-act=main]").getBoundingClientRect().left > innerWidth / 2 &&
			document.querySelector("nav[aria-label=Stations]").getBoundingClientRect().left === 0`).Bool()
	}
	const tag = "IV-2 / BONNET"
	u.opens(tag, 3)
	u.next(6, 2, 0)
	require.True(t, right())
	u.pull(6, 2, 0, input.Space)
	u.next(14, 2, 0)
	require.Empty(t, buzzed(), "it is off until it is asked for")

	u.MustNavigate(s.url("/device"))
	lit(0)
	u.sees("label", "For the left hand").MustClick()
	u.sees("label", "A sound and a buzz at each pull").MustClick()
	u.opens(tag, 3)
	u.next(14, 2, 0)
	require.False(t, right())
	lit(1)
	u.MustEval("() => { window.buzzed = [] }")
	u.pull(14, 2, 0, input.Space)
	u.next(4, 2, 0)
	require.Equal(t, []string{"60"}, buzzed())
	u.press(input.KeyP)
	u.sees("[role=dialog] button", "^Pause$").MustClick()
	u.sees("button", "Take it up")
	lit(0)
}
