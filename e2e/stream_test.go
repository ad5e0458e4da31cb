package e2e

import (
	"testing"

	"github.com/go-rod/rod/lib/input"
	"github.com/go-rod/rod/lib/proto"
	"github.com/stretchr/testify/require"
)

// A browser has six connections to one server. Its tabs share one stream, and a
// page that is left gives its own up, so an eighth tab and an eighth load answer
// too, and what one tab does is seen in all.
func TestTheTabsOfABrowserShareOneStream(t *testing.T) {
	s := open(t)
	marta := s.signIn("marta")
	tabs := []*user{marta}
	for range 7 {
		p, err := marta.Browser().Page(proto.TargetCreateTarget{})
		require.NoError(t, err)
		p.MustEvalOnNewDocument(clock)
		u := &user{Page: p.Timeout(patience * 3).Sleeper(often), s: s, login: "marta"}
		u.MustNavigate(s.url("/wall"))
		u.sees("h1", "joints signed")
		tabs = append(tabs, u)
	}
	for range 8 {
		tabs[7].opens("IV-2 / BONNET", 3)
		tabs[7].MustNavigate(s.url("/wall"))
		tabs[7].sees("h1", "joints signed")
	}
	for _, u := range tabs[:7] {
		u.opens("IV-2 / BONNET", 3)
		u.el("[data-next-bolt='6']")
	}
	tabs[0].MustActivate()
	tabs[0].next(6, 2, 0)
	tabs[0].later()
	tabs[0].press(input.Space)
	for _, u := range tabs[:7] {
		u.el("[data-next-bolt]:not([data-next-bolt='6'])")
	}
	// The tab that held the stream goes; another takes it up.
	tabs[0].MustClose()
	bolt := tabs[1].el("[data-next-bolt]").MustAttribute("data-next-bolt")
	tabs[1].MustActivate()
	tabs[1].el("[data-act=main][data-ready=true]")
	tabs[1].later()
	tabs[1].press(input.Space)
	for _, u := range tabs[1:7] {
		u.el("[data-next-bolt]:not([data-next-bolt='" + *bolt + "'])")
	}
}

// Two tabs of one browser: when another person signs in in one, the other follows, and
// nothing that it does is stored under the wrong name.
func TestEveryTabFollowsWhoIsSignedIn(t *testing.T) {
	s := open(t)
	marta := s.signIn("marta")
	p, err := marta.Browser().Page(proto.TargetCreateTarget{})
	require.NoError(t, err)
	p.MustEvalOnNewDocument(clock)
	tab := &user{Page: p.Timeout(patience * 3).Sleeper(often), s: s}
	tab.MustNavigate(s.url("/wall"))
	tab.sees("h1", "joints signed")
	tab.sees("header button", "M. T.").MustClick()
	tab.sees("[role=menuitem]", "^Sign out").MustClick()
	tab.el("input[name=login]")
	marta.el("input[name=login]")
	tab.enter("jonas")
	marta.sees("header button", "J. R.")
}
