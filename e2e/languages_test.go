package e2e

import (
	"fmt"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/go-rod/rod/lib/input"
	"github.com/go-rod/rod/lib/proto"
	"github.com/stretchr/testify/require"

	"dynacor/internal/demo"
)

// reads sets the locale of a device before anything on it is drawn.
func (u *user) reads(locale string) {
	u.MustEval("id => localStorage.setItem('dynacor-locale', id)", locale)
	u.MustReload()
	u.MustWait("() => document.querySelector('main') !== null")
}

// drawnAnew waits for a page that is drawn again in another language.
func (u *user) drawnAnew(heading string) {
	u.s.t.Helper()
	require.NoError(u.s.t, u.until(func() bool { // the page it asks may be gone before it answers
		r, err := u.Page.Eval("() => document.querySelector('main h1')?.innerText ?? ''")
		return err == nil && strings.Contains(r.Value.Str(), heading)
	}))
}

// A language in which every word is half as long again fits where English does: nothing reaches
// past the side, targets stay targets, and at Tighten nothing scrolls on the tablet.
func TestALongLanguageFits(t *testing.T) {
	s := open(t)
	u := s.signIn("marta")
	u.reads("en-x-long")
	pages := []string{"/wall", "/crib", "/crib/TW-07", "/library/accumulator", "/device", "/bench/drills"}
	for tag, station := range map[string]int{"IV-2 / BONNET": 3, "U2 / HEAD COVER": 3, "PS-1 / DRAIN": 4, "PS-1 / MANWAY": 5, "IV-2 / BYPASS": 2,
		"RK / COOLER": 1, "PS-1 / VALVE FLANGE": 3} {
		pages = append(pages, fmt.Sprintf("/joint/%s/%d", s.query("select id::text from joints where tag = $1", tag)[0], station))
	}
	bonnet := "/joint/" + s.query("select id::text from joints where tag = 'IV-2 / BONNET'")[0] + "/3"
	for _, size := range [][2]int{{1280, 800}, {390, 844}} {
		u.MustSetViewport(size[0], size[1], 1, false)
		for _, page := range pages {
			u.MustNavigate(s.url(page))
			u.el("main h1, main h2, main svg")
			var e extent
			require.NoError(t, u.MustEval(overflow).Unmarshal(&e))
			where := fmt.Sprintf("%s at %d × %d", page, size[0], size[1])
			require.LessOrEqual(t, e.Wide, 0.0, where)
			require.Empty(t, e.Small, where)
			if page == bonnet {
				require.GreaterOrEqual(t, e.Act, 96.0, where)
				if size[0] == 1280 {
					require.LessOrEqual(t, e.Tall, 0.0, where)
				}
			}
		}
	}
}

// Whoever cannot read the language of a device finds their own at its sign-in, and has it on
// every device from then on; the bolts are called in it, and what is stored is the same.
func TestAPersonReadsTheirLanguage(t *testing.T) {
	s := open(t)
	u := s.signIn("marta")
	u.MustNavigate(s.url("/device"))
	u.el("select[name=locale]").MustSelect("Polski, Polska")
	u.drawnAnew("Nic nie zabrano")
	require.Equal(t, "pl-PL", u.MustEval("() => document.documentElement.lang").Str())
	require.Equal(t, []string{"pl-PL"}, s.query("select locale from people where login = 'marta'"))

	other := s.visits() // a device that spoke English until she signed in
	other.login = "marta"
	other.el("input[name=login]").MustInput("marta")
	other.el("input[name=pin]").MustInput(demo.Pin)
	other.el("button[type=submit]").MustClick()
	other.drawnAnew("Podpisano")
	other.MustEvalOnNewDocument(`window.said = []; speechSynthesis.speak = w => window.said.push(w.lang + ": " + w.text)`)
	other.opens("IV-2 / BONNET", 3)
	other.next(6, 2, 0)
	other.sees("[data-act=main]", "Kliknęło")
	other.press(input.KeyV)
	other.el("[data-voice][aria-pressed=true]")
	other.MustWait("() => window.said.length === 1")
	require.Equal(t, "pl-PL: Śruba 6, 107 niutonometrów, etap 2 z 3.", other.MustEval("() => window.said[0]").Str())
	other.pull(6, 2, 0, input.Space)
	other.next(14, 2, 0)
	require.Equal(t, []string{"done"}, s.query(`select e.kind from entries e join runs r on r.id = e.run
		join joints j on j.id = r.joint where j.tag = 'IV-2 / BONNET' order by e.seq desc limit 1`))
}

// A site says a term its own way: who reads the language has it at once, and the next page has it
// before the server is asked. What a recipe says in another language is read there, and what it
// says in English alone is marked so.
func TestASiteHasItsOwnWords(t *testing.T) {
	s := open(t)
	file := filepath.Join(t.TempDir(), "glossary.csv")
	brings := func(u *user, input, text string) {
		require.NoError(t, os.WriteFile(file, []byte(text), 0o600))
		u.el(input).MustSetFiles(file)
	}
	ruth := s.signIn("ruth")
	ruth.MustNavigate(s.url("/site"))
	brings(ruth, "input[name=glossary]", "term,de\nsprocket,Ritzel\n")
	ruth.sees("[role=alert]", "Line 2: the glossary has no term")
	brings(ruth, "input[name=glossary]", "term,de\nbolt,Bolzen\n")
	ruth.sees("[data-term=bolt]", "Schraube")
	ruth.sees("[data-term=bolt]", "Bolzen")

	marta := s.signIn("marta")
	marta.reads("de-DE")
	marta.opens("IV-2 / BONNET", 3)
	marta.sees("main", "Bolzen 6")
	require.NoError(t, proto.NetworkSetBlockedURLs{Urls: []string{"*/api/terms/*"}}.Call(marta.Page))
	marta.MustReload()
	marta.sees("main", "Bolzen 6")

	edda := s.signIn("edda")
	edda.reads("de-DE")
	edda.MustNavigate(s.url("/library/hose-clamp"))
	edda.el("main h1")
	require.False(t, edda.MustHas("[data-english]"), "what ships is said whole")
	recipe := edda.MustEval("() => fetch('/api/library/hose-clamp/yaml').then(r => r.text())").Str()
	recipe = strings.Replace(recipe, "text: Bolts and nuts stay dry", "text: Bolts and nuts stay bone dry", 1)
	recipe = strings.Replace(recipe, "text: Hose cut square", "text: Hose cut squarely", 1)
	recipe += "texts:\n  de:\n    Bolts and nuts stay bone dry: Bolzen und Muttern bleiben knochentrocken\n"
	file = filepath.Join(t.TempDir(), "hose-clamp.yaml")
	brings(edda, "input[type=file]", recipe)
	edda.sees("button:not([disabled])", "Fassung 2 festhalten").MustClick()
	edda.sees("main li", "knochentrocken")
	edda.sees("[data-english]", "Hose cut squarely EN")
	require.Len(t, edda.MustElements("[data-english]"), 1)
	edda.MustNavigate(s.url("/library/hose-clamp/edit?at=texts"))
	edda.el("[data-lacking='1']")
	edda.el("textarea[aria-label='Hose cut squarely']").MustInput("Schlauch gerade abgeschnitten")
	edda.el("[data-lacking='0']")
	edda.sees("button:not([disabled])", "Fassung 3 festhalten").MustClick()
	edda.sees("main li", "Schlauch gerade abgeschnitten")
	require.False(t, edda.MustHas("[data-english]"))
	edda.reads("en-GB")
	edda.sees("main li", "Bolts and nuts stay bone dry")
	require.False(t, edda.MustHas("[data-english]"))
}

// Who types torques in another unit than the site is asked for them in it.
func TestAPersonTypesInTheirUnit(t *testing.T) {
	s := open(t)
	u := s.signIn("edda")
	u.MustNavigate(s.url("/device"))
	u.el("select[name=torqueUnit]").MustSelect("ft·lbf")
	u.MustWait("() => document.querySelector('select[name=torqueUnit]').value === 'ft·lbf'")
	require.NoError(t, u.until(func() bool { return s.query("select torque_unit from people where login = 'edda'")[0] == "ft·lbf" }))
	u.MustReload()
	require.Equal(t, "ft·lbf", u.el("select[name=torqueUnit]").MustProperty("value").Str())
	u.MustNavigate(s.url("/library/lubricants"))
	u.sees("button", "^Enter your own$").MustClick()
	u.MustWait("() => document.querySelector('[role=dialog]')?.innerText.includes('ft·lbf')")
}
