package e2e

import (
	"testing"

	"github.com/go-rod/rod"
	"github.com/go-rod/rod/lib/input"
	"github.com/stretchr/testify/require"
)

// Asked for, the next bolt is said aloud as one calls it across, and again at each that
// comes; asked for no longer, it is quiet. The device remembers.
func TestTheNextBoltIsSaid(t *testing.T) {
	s := open(t)
	u := s.signIn("marta")
	u.MustEvalOnNewDocument(`window.said = []; speechSynthesis.speak = words => window.said.push(words.text)`)
	said := func(n int) []string {
		t.Helper()
		require.NoError(t, u.Page.Timeout(patience).Wait(rod.Eval("n => window.said.length === n", n)))
		var out []string
		require.NoError(t, u.MustEval("() => window.said").Unmarshal(&out))
		return out
	}
	u.opens("IV-2 / BONNET", 3)
	u.next(6, 2, 0)
	said(0)
	u.press(input.KeyV)
	u.el("[data-voice][aria-pressed=true]")
	require.Equal(t, "Bolt six, one nought seven newton metres, stage two of three.", said(1)[0])
	u.pull(6, 2, 0, input.Space)
	u.next(14, 2, 0)
	require.Equal(t, "Bolt fourteen, one nought seven newton metres, stage two of three.", said(2)[1])
	u.MustReload()
	u.next(14, 2, 0)
	said(1)
	u.el("[data-voice][aria-pressed=true]").MustClick()
	u.el("[data-voice][aria-pressed=false]")
	u.pull(14, 2, 0, input.Space)
	u.next(4, 2, 0)
	said(1)
}
