package e2e

import (
	"strings"
	"testing"

	"github.com/go-rod/rod/lib/input"
	"github.com/stretchr/testify/require"
)

// The Library is reached by keys from anywhere, shows how each kind is made
// with its cautions and limits, and where practitioners differ; on a phone the
// list and the recipe take turns.
func TestTheLibrary(t *testing.T) {
	s := open(t)
	u := s.signIn("marta")
	u.press(input.KeyG)
	u.press(input.KeyL)
	u.sees("h1", "Where practitioners differ")
	u.sees("section", "full value, round and round")
	require.Len(t, u.MustElements("nav[aria-label='Kinds of joint'] a"), 25,
		"twenty-one recipes, three pages of the site's own figures and the one on what practitioners differ about")
	u.sees("nav a", "Clamping disc").MustClick()
	u.sees("h1", "Clamping disc on a hollow shaft")
	u.sees("section", "a cross tilts the disc")
	u.sees("section li", "above 0 mm, differing by at most the even limit, at 4 places")
	u.sees("nav a", "Two-ferrule").MustClick()
	u.sees("section li", "by turns: 360°")
	u.MustReload()
	u.sees("h1", "Two-ferrule tube fitting")

	var e extent
	for _, path := range []string{"/library", "/library/differ", "/library/fluid-coupling"} {
		for _, size := range [][2]int{{1280, 800}, {390, 844}, {360, 640}} {
			u.MustSetViewport(size[0], size[1], 1, false)
			u.MustNavigate(s.url(path))
			u.el("main a")
			require.NoError(t, u.MustEval(overflow).Unmarshal(&e))
			require.LessOrEqual(t, e.Wide, 0.0, "%s at %d × %d", path, size[0], size[1])
			require.Empty(t, e.Small, "%s at %d × %d", path, size[0], size[1])
		}
	}
	u.sees("a", "All kinds").MustClick()
	u.sees("nav a", "Wheel or hub nuts").MustClick()
	u.sees("h1", "Wheel or hub nuts")
	u.press(input.KeyG)
	u.press(input.KeyW)
	u.sees("h1", "joints signed")
}

// A recipe is edited into its next edition, sent out and taken in; what is wrong
// with a file is said with its line and changes nothing; a retired one makes no
// new joint, and joints go on with the edition they were issued by.
func TestRecipesAreKept(t *testing.T) {
	s := open(t)
	edda := s.signIn("edda")
	edda.MustNavigate(s.url("/library/hose-clamp"))
	edda.sees("a", "^Edit$").MustClick()
	edda.sees("label", "^File$").MustClick()
	text := edda.el("textarea[name=file]").MustText()
	require.Contains(t, text, "id: hose-clamp")
	edda.el("textarea[name=file]").MustSelectAllText().MustInput(strings.Replace(text, "layout: pair", "layout: heap", 1))
	edda.sees("[role=alert] li", `Line \d+: Unknown layout "heap"`)
	edda.sees("button[disabled]", "^Keep as edition 2$")
	edda.el("textarea[name=file]").MustSelectAllText().MustInput(strings.Replace(text, "title: Two-bolt hose clamp on a spigot",
		"title: Two-bolt hose clamp", 1))
	edda.sees("button:not([disabled])", "^Keep as edition 2$").MustClick()
	edda.sees("h1", "^Two-bolt hose clamp$")
	edda.sees("header p", "Edition 2, by Edda Winterbourne")
	require.Equal(t, []string{"1", "2"}, s.query("select edition from recipes where id = 'hose-clamp' order by edition"))
	require.Contains(t, edda.api("/api/library/hose-clamp/json"), `"Two-bolt hose clamp"`)

	// A joint that was issued by the first edition keeps it.
	edda.opens("RK / WASH HOSE 1", 5)
	edda.sees("p", "Two-bolt hose clamp on a spigot")

	edda.MustNavigate(s.url("/library/hose-clamp"))
	edda.sees("button", "^Retire$").MustClick()
	edda.el("[role=dialog] textarea[name=reason]").MustInput("Clamps of this kind are no longer bought")
	edda.sees("[role=dialog] button", "^Retire it$").MustClick()
	edda.sees("p", "No new joint is made by it: Clamps of this kind")
	marta := s.signIn("marta")
	marta.sees("button", "^Add a joint$").MustClick()
	marta.el("[data-kind=clamping-disc]")
	require.Empty(t, marta.MustElements("[data-kind=hose-clamp]"))
	marta.MustNavigate(s.url("/library/hose-clamp"))
	marta.sees("h1", "^Two-bolt hose clamp$")
	require.Len(t, marta.MustElements("main button"), 1, "only an engineer keeps recipes")
	marta.sees("main button", "^What differs$")
}

// Whoever works with a lot holds a few bolts of it against its trial: what they come to
// is said as it is typed, and kept with who and when.
func TestALotIsCheckedBeforeItIsWorkedWith(t *testing.T) {
	s := open(t)
	marta := s.signIn("marta")
	marta.MustNavigate(s.url("/library/lubricants"))
	marta.sees("button", "Ottermere grey paste").MustClick()
	marta.sees("[data-lotcheck]", "Checked on .* by Jonas Reedham: K .* On a day it is worked with")
	marta.sees("button", "^Check the lot$").MustClick()
	marta.el("[role=dialog] input[name=torque1]").MustInput("400")
	marta.sees("[role=dialog] p", "^Each bolt wants both")
	marta.el("[role=dialog] input[name=load1]").MustInput("90")
	marta.sees("[role=dialog] p", "no longer the lot that was tried")
	marta.sees("[role=dialog] button", "^Keep it: out of use$")
	marta.el("[role=dialog] input[name=load1]").MustSelectAllText().MustInput("128.5")
	marta.sees("[role=dialog] p", "^K 0.13, within the .* of its trial")
	marta.sees("[role=dialog] button:not([disabled])", "^Keep the check$").MustClick()
	marta.sees("[data-lotcheck][data-edge=held]", "^Checked today by Marta Tolland: K 0.1")
	marta.alone()
}
