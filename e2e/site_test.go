package e2e

import (
	"testing"

	"github.com/go-rod/rod/lib/input"
	"github.com/stretchr/testify/require"
)

// Somebody is entered by the administrator, chooses a PIN before anything else, and
// works; a role that is taken away is gone at their next act, and whoever is switched off
// stands before the sign-in again.
func TestTheSiteIsKept(t *testing.T) {
	s := open(t)
	ruth := s.signIn("ruth")
	ruth.press(input.KeyG)
	ruth.press(input.KeyI)
	ruth.sees("h1", "Ottermere Hydro")
	ruth.sees("li small", "pressure person until")
	ruth.sees("button", "^Enter somebody$").MustClick()
	ruth.el("[role=dialog] input[name=name]").MustInput("Ada Quillfeather")
	ruth.el("[role=dialog] input[name=login]").MustInput("ada")
	ruth.sees("[role=dialog] button", "^planner$").MustClick()
	ruth.sees("[role=dialog] button", "^Enter them$").MustClick()
	pin := ruth.el("[data-once]").MustText()
	require.Len(t, pin, 8)
	ruth.sees("[role=dialog] button", "^It is written down$").MustClick()
	ruth.sees("[data-login=ada]", "PIN for one time")
	ruth.sees("li", "Ada Quillfeather: entered as planner")

	ada := s.visits()
	ada.el("input[name=login]").MustInput("ada")
	ada.el("input[name=pin]").MustInput(pin)
	ada.el("button[type=submit]").MustClick()
	ada.sees("h1", "Ada Quillfeather")
	ada.MustNavigate(s.url("/wall"))
	ada.sees("h1", "Ada Quillfeather")
	ada.el("input[name=old]").MustInput(pin)
	ada.el("input[name=pin]").MustInput("1234")
	ada.el("input[name=again]").MustInput("1234")
	ada.sees("button:not([disabled])", "^This is my PIN$").MustClick()
	ada.sees("[role=alert]", "the first that anybody would try")
	for _, name := range []string{"pin", "again"} {
		ada.el("input[name=" + name + "]").MustSelectAllText().MustInput("2580")
	}
	ada.sees("button:not([disabled])", "^This is my PIN$").MustClick()
	ada.sees("h1", "joints signed")
	ada.sees("button", "^Add a joint$")
	require.Empty(t, ada.MustElements("a[href='/site']"))

	ruth.MustReload()
	ruth.sees("[data-login=ada]", "signed in").MustClick()
	ruth.sees("[role=dialog] button", "^May not sign in any more$").MustClick()
	ruth.sees("[data-login=ada]", "may not sign in")
	ada.MustReload()
	ada.el("input[name=login]")
	ruth.sees("button", "^Add an area$").MustClick()
	ruth.el("[role=dialog] input[name=area]").MustInput("Valve house")
	ruth.sees("[role=dialog] button", "^Add it$").MustClick()
	ruth.sees("button", "^Valve house$")
	var e extent
	for _, size := range [][2]int{{1280, 800}, {390, 844}, {360, 640}} {
		ruth.MustSetViewport(size[0], size[1], 1, false)
		require.NoError(t, ruth.MustEval(overflow).Unmarshal(&e))
		require.LessOrEqual(t, e.Wide, 0.0, "%d × %d", size[0], size[1])
		require.Empty(t, e.Small)
	}
}
