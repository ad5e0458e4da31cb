package e2e

import (
	"fmt"
	"os"
	"os/exec"
	"path/filepath"
	"strings"

	"github.com/go-rod/rod"
	"github.com/go-rod/rod/lib/input"
	"github.com/stretchr/testify/require"
)

// opens goes to a station of the joint with that tag.
func (u *user) opens(tag string, station int) {
	u.s.t.Helper()
	id := u.s.query("select id::text from joints where tag = $1", tag)
	require.Len(u.s.t, id, 1, tag)
	u.MustNavigate(u.s.url(fmt.Sprintf("/joint/%s/%d", id[0], station)))
	u.sees("header b", tag)
	u.el("main h1")
}

// word opens a word of the sentence and chooses a value.
func (u *user) word(field, value string) {
	u.s.t.Helper()
	u.el(fmt.Sprintf("[data-word='%s']", field)).MustClick()
	u.el(fmt.Sprintf("[data-value='%s']", value)).MustClick()
	u.el("[data-saved=yes]")
}

// adds a joint of a kind, by its recipe, and goes to lay it out.
func (u *user) adds(recipe, tag, title string) {
	u.s.t.Helper()
	u.sees("button", "^Add a joint$").MustClick()
	u.el(fmt.Sprintf("[data-kind=%s]", recipe)).MustClick()
	u.el("input[placeholder='PS-1 / BYPASS']").MustInput(tag)
	u.el("input[placeholder='Penstock bypass flange']").MustInput(title)
	u.sees("button:not([disabled])", "^Lay it out$").MustClick()
	u.sees("header b", tag)
}

// number opens a word of the sentence and types its number.
func (u *user) number(field, value string) {
	u.s.t.Helper()
	u.el(fmt.Sprintf("[data-word='%s']", field)).MustClick()
	u.el("[role=dialog] form input[inputmode=decimal]").MustSelectAllText().MustInput(value)
	u.sees("[role=dialog] form button", "^Set$").MustClick()
}

// issues the plan as whoever is signed in, who must be an engineer.
func (u *user) issues() {
	u.s.t.Helper()
	u.sees("button:not([disabled])", "^Issue the plan$").MustClick()
	u.pin("^Issue$")
}

// reads the caution of the step that is open, and says so.
func (u *user) cautioned(text string) {
	u.s.t.Helper()
	u.sees("li", text)
	u.el("[data-act=caution]").MustClick()
}

// does says of each step in turn that it is done.
func (u *user) does(steps ...string) {
	u.s.t.Helper()
	for _, id := range steps {
		u.el(fmt.Sprintf("[data-current='%s']", id))
		u.el("[data-act=main]:not([disabled])").MustClick()
	}
}

// types readings of a step into their fields.
func (u *user) types(step string, readings ...string) {
	u.s.t.Helper()
	u.el(fmt.Sprintf("[data-current='%s']", step))
	for i, v := range readings {
		u.el(fmt.Sprintf("input[name=reading%d]", i+1)).MustSelectAllText().MustInput(v)
	}
}

// measures types readings and keeps them.
func (u *user) measures(step string, readings ...string) {
	u.s.t.Helper()
	u.types(step, readings...)
	u.el("[data-act=main]:not([disabled])").MustClick()
}

// alone waits until no dialog is open.
func (u *user) alone() {
	u.s.t.Helper()
	require.NoError(u.s.t, u.Page.Timeout(patience).Wait(rod.Eval(`() => !document.querySelector("[role=dialog]")`)))
}

// bolt waits until one bolt is next, in a round or before them.
func (u *user) bolt(group string, bolt, round int) {
	u.s.t.Helper()
	u.comes(fmt.Sprintf("[data-next-group='%s'][data-next-bolt='%d'][data-next-round='%d']:not([data-next-lock])", group, bolt, round))
	u.el("[data-act=main][data-ready=true]")
	u.later()
}

// pulls presses the space bar for bolt after bolt.
func (u *user) pulls(group string, round int, bolts ...int) {
	u.s.t.Helper()
	for _, b := range bolts {
		u.bolt(group, b, round)
		u.press(input.Space)
	}
}

// locks says of a bolt that its lock is on.
func (u *user) locks(group string, bolt int) {
	u.s.t.Helper()
	u.el(fmt.Sprintf("[data-next-group='%s'][data-next-bolt='%d'][data-next-lock]", group, bolt))
	u.el("[data-act=main][data-ready=true]")
	u.press(input.Space)
}

// takes the best way for each group's tool.
func (u *user) takes(groups ...string) {
	u.s.t.Helper()
	for _, g := range groups {
		u.el(fmt.Sprintf("[data-group='%s'] [data-choose]", g)).MustClick()
	}
}

// record returns the PDF of a joint's record as text.
func (u *user) record(tag string) string {
	u.s.t.Helper()
	return u.pdf("/api/joints/" + u.s.query("select id::text from joints where tag = $1", tag)[0] + "/record/pdf")
}

// pdf returns a PDF as text.
func (u *user) pdf(path string) string {
	u.s.t.Helper()
	folder := u.s.t.TempDir()
	bytes := u.MustEval(`p => fetch(p).then(r => r.arrayBuffer()).then(b => Array.from(new Uint8Array(b)))`, path).Arr()
	out := make([]byte, len(bytes))
	for i, b := range bytes {
		out[i] = byte(b.Int())
	}
	file := filepath.Join(folder, "record.pdf")
	require.NoError(u.s.t, os.WriteFile(file, out, 0o600))
	text, err := exec.Command("pdftotext", "-layout", file, "-").Output()
	require.NoError(u.s.t, err)
	return strings.Join(strings.Fields(string(text)), " ")
}

// signsMade and signsChecked end a record.
func (u *user) signsMade() {
	u.s.t.Helper()
	u.sees("main button", "^Sign$").MustClick()
	u.sign("^Made: sign$")
	u.sees("h2", "Second signature")
}

func (u *user) signsChecked(tag, reason string) {
	u.s.t.Helper()
	u.opens(tag, 5)
	u.sees("button", "^Checked: sign$").MustClick()
	if reason != "" {
		u.el("[role=dialog] textarea[name=reason]").MustInput(reason)
	}
	u.pin("^Sign$")
	u.sees("h2", "^Signed$")
	u.sees("p", "Nothing can be added to this record")
}
