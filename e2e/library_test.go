package e2e

import (
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
	require.Len(t, u.MustElements("nav[aria-label='Kinds of joint'] a"), 21, "twenty kinds and the page on schools")
	u.sees("nav a", "Clamping disc").MustClick()
	u.sees("h1", "Clamping disc on a hollow shaft")
	u.sees("section", "A cross tilts the disc")
	u.sees("section li", "above 0 mm, differing by at most 0.3 mm, at 4 places")
	u.sees("nav a", "Two-ferrule").MustClick()
	u.sees("section li", "by turns: 360°")
	u.MustReload()
	u.sees("h1", "Two-ferrule tube fitting")

	var e extent
	for _, path := range []string{"/library", "/library/schools", "/library/fluid-coupling"} {
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
