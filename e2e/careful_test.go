package e2e

import (
	"bytes"
	"context"
	"fmt"
	"image"
	"image/color"
	"image/jpeg"
	"os"
	"path/filepath"
	"slices"
	"strconv"
	"strings"
	"time"

	"github.com/go-rod/rod/lib/input"
	"github.com/google/uuid"
	"github.com/stretchr/testify/require"

	"dynacor/core/recipe"
	"dynacor/core/record"
	"dynacor/core/tool"
	"dynacor/core/work"
	"dynacor/internal/app"
	"dynacor/internal/demo"
	"dynacor/internal/store"
)

// whoMay is who answers with their PIN for what only somebody qualified may.
var whoMay = map[string]string{"pressure person": "piet", "rigger": "haro", "engineer": "edda", "inspector": "ines",
	"installer": "sefa", work.SecondPerson: "tomas", work.Checker: "ines"}

// run is the run of a joint as the database has it; of one that is being issued, once it is.
func (u *user) run(tag string) app.Run {
	u.s.t.Helper()
	if u.apart != nil {
		return u.apart.run(u)
	}
	if u.s.look == nil {
		u.s.store = u.s.opened()
		u.s.look = app.New(u.s.store, time.Now)
	}
	var id uuid.UUID
	require.NoError(u.s.t, u.until(func() bool {
		return u.s.store.Pool().QueryRow(u.s.t.Context(), "select r.id from runs r join joints j on j.id = r.joint where j.tag = $1 "+
			"order by r.closed, r.revision desc limit 1", tag).Scan(&id) == nil
	}), "%s has no run", tag)
	r, err := u.s.look.Run(u.s.t.Context(), id)
	require.NoError(u.s.t, err)
	return r
}

// opened opens the database of a site.
func (s *site) opened() *store.Store {
	s.t.Helper()
	db, err := store.Open(s.t.Context(), s.database)
	require.NoError(s.t, err)
	s.t.Cleanup(db.Close)
	return db
}

// until waits for something that is looked at again and again.
func (u *user) until(so func() bool) error {
	ctx, cancel := context.WithTimeout(u.s.t.Context(), patience)
	defer cancel()
	again := often()
	for !so() {
		if err := again(ctx); err != nil {
			return err
		}
	}
	return nil
}

// head is how many entries a run has.
func (u *user) head(r app.Run) (seq int) {
	u.s.t.Helper()
	if u.apart != nil {
		return u.apart.run(u).Head.HeadSeq
	}
	require.NoError(u.s.t, u.s.store.Pool().QueryRow(u.s.t.Context(), "select head_seq from runs where id = $1", r.Head.ID).Scan(&seq))
	return seq
}

// upTo does on the screen what a careful hand does, act by act, until it is the turn of a
// step, of its own act where it is a list first.
func (u *user) upTo(tag, step string) {
	u.s.t.Helper()
	u.careful(tag, func(s *work.State, a record.Act) bool { return a.Step == step })
}

// toTheEnd does it until it may be signed.
func (u *user) toTheEnd(tag string) {
	u.s.t.Helper()
	u.careful(tag, func(*work.State, record.Act) bool { return false })
}

func (u *user) careful(tag string, over func(*work.State, record.Act) bool) {
	u.s.t.Helper()
	u.MustEval("() => new Promise(r => requestAnimationFrame(() => requestAnimationFrame(r)))") // what was pressed is under way
	if u.apart == nil {
		u.el("header [data-waiting='0']")
	}
	if u.person == "" {
		u.person = u.s.query("select id::text from people where login = $1", u.login)[0]
	}
	for range 2000 {
		r := u.run(tag)
		s := r.State
		a, ok := s.Next()
		if !ok || over(s, a) {
			if ok {
				u.shows(tag, r, a) // it may have been ticked elsewhere just now
				u.at(s, a)
			}
			return
		}
		if !u.shows(tag, r, a) {
			continue
		}
		u.one(s, a)
		u.stored(tag, r)
		u.listed(tag, a)
	}
	require.Fail(u.s.t, "it does not end")
}

// listed ticks the rest of a list whose first line was ticked on the screen, as another
// device would: most of what is ticked looks alike, and a screen takes its time.
func (u *user) listed(tag string, a record.Act) {
	u.s.t.Helper()
	r := u.run(tag)
	st, _ := r.State.Plan().Step(a.Step)
	parts := slices.ContainsFunc(st.Ticks, func(t recipe.Tick) bool { return t.Part != "" })
	if _, ticked := r.State.Done(a); u.apart != nil || !ticked || a.Item == 0 || parts || st.Station == recipe.ToolUp {
		return
	}
	lines := map[string]int{}
	for i := range st.Ticks {
		if _, ticked := r.State.Done(record.Act{Step: st.ID, Item: i + 1}); !ticked {
			lines[uuid.NewString()] = i + 1
		}
	}
	refused := u.MustEval(`async (run, step, lines) => {
		for (const [id, item] of Object.entries(lines).sort((a, b) => a[1] - b[1])) {
			const content = { kind: "done", step, item }
			const body = JSON.stringify({ id, at: new Date().toISOString(), off: 0, content })
			const answer = await fetch("/api/runs/" + run + "/entries", { method: "POST", headers: { "Content-Type": "application/json" }, body })
			if (!answer.ok) return await answer.text()
		}
		return ""
	}`, r.Head.ID.String(), st.ID, lines).Str()
	require.Empty(u.s.t, refused, "%s", st.ID)
}

// shows waits until the screen shows what is next; false where the run has gone on meanwhile: what
// was pressed before was still on its way.
func (u *user) shows(tag string, r app.Run, a record.Act) bool {
	u.s.t.Helper()
	st, _ := r.State.Plan().Step(a.Step)
	selector := fmt.Sprintf("nav[aria-label=Stations] a[href$='/%d']:not([aria-current]), [data-choose], ",
		slices.Index(recipe.Stations(), st.Station)+1)
	if len(st.Cautions) > 0 && !r.State.Cautioned(st.ID, u.person) {
		selector += "[data-act=caution]"
	} else if a.Bolt > 0 {
		selector += fmt.Sprintf("[data-act=set], [data-rigs], [data-next-bolt='%d'][data-next-round='%d']", a.Bolt, a.Round)
	} else {
		selector += fmt.Sprintf("[data-current='%s'], button[data-step='%s']:not([disabled])", a.Step, a.Step)
	}
	there := false
	if u.until(func() bool {
		there, _, _ = u.Has(selector)
		return there || u.head(r) > r.Head.HeadSeq
	}) != nil {
		u.broken("%s does not see %s of %s", u.login, selector, tag)
	}
	return there
}

// stored waits until the database has another entry of a run.
func (u *user) stored(tag string, r app.Run) {
	u.s.t.Helper()
	if u.until(func() bool { return u.head(r) > r.Head.HeadSeq }) != nil {
		u.broken("%s: nothing was stored of %s after entry %d", u.login, tag, r.Head.HeadSeq)
	}
	if u.apart == nil {
		u.el("header [data-waiting='0']") // nor is anything on its way
	}
}

// at goes to the station of an act.
func (u *user) at(s *work.State, a record.Act) {
	u.s.t.Helper()
	st, _ := s.Plan().Step(a.Step)
	n := slices.Index(recipe.Stations(), st.Station) + 1
	link := fmt.Sprintf("nav[aria-label=Stations] a[href$='/%d']", n)
	if current := u.el(link).MustAttribute("aria-current"); current == nil {
		u.el(link).MustClick()
		u.el(link + "[aria-current=page]")
	}
}

// one does the one act that is next, up to one entry.
func (u *user) one(s *work.State, a record.Act) {
	u.s.t.Helper()
	st, _ := s.Plan().Step(a.Step)
	u.at(s, a)
	if st.Station == recipe.ToolUp {
		for _, g := range s.Plan().Result.Groups {
			if g.How.Tooled() && len(s.Tooling[g.Name].Stages) == 0 {
				u.takes(g.Name)
				return
			}
		}
	}
	if len(st.Cautions) > 0 && !s.Cautioned(st.ID, u.person) {
		u.el("[data-act=caution]")
		u.press(input.KeyC)
		return
	}
	d := s.Careful(a)
	switch {
	case a.Lock:
		u.locks(st.Group, a.Bolt)
	case a.Bolt > 0:
		u.bolts(s, a, d)
	case a.Photo:
		u.el(fmt.Sprintf("input[name=photo-%s]", st.ID)).MustSetFiles(u.picture(1200, 900))
	case a.Release:
		u.el("[data-act=release]").MustClick()
		u.answers(st.Release, "I looked; it may go on")
	default:
		current, other := fmt.Sprintf("[data-current='%s']", st.ID), fmt.Sprintf("button[data-step='%s']:not([disabled])", st.ID)
		for range 10 {
			if u.MustHas(current) {
				break
			}
			// the step may come by itself while its button is reached for: then the button is gone
			if e := u.el(current + ", " + other); e.MustMatches(other) {
				_ = e.Timeout(2*time.Second).Click("left", 1)
			}
		}
		u.el(current)
		u.says(st, d)
	}
}

// bolts pulls, turns or tries one bolt.
func (u *user) bolts(s *work.State, a record.Act, d record.Done) {
	u.s.t.Helper()
	st, _ := s.Plan().Step(a.Step)
	before := fmt.Sprintf("[data-next-bolt='%d'][data-next-round='%d']", a.Bolt, a.Round)
	switch e := u.el(before + ", [data-act=set], [data-rigs]"); {
	case e.MustMatches("[data-act=set]"):
		u.press(input.KeyS)
		return
	case e.MustMatches("[data-rigs]"):
		u.rigsUp(s, a)
		return
	}
	g, _ := s.Plan().Result.Group(st.Group)
	u.bolt(g.Name, a.Bolt, a.Round)
	switch {
	case d.LetGo:
		u.press(input.KeyN)
	case a.Round > 0 && a.Turn > 0 && !d.Moved:
		u.press(input.KeyN)
	default:
		u.press(input.Space)
	}
}

// rigsUp brings a hydraulic wrench to the value of its stage, step by step, and reads it twice.
func (u *user) rigsUp(s *work.State, a record.Act) {
	u.s.t.Helper()
	t, _ := s.Tool(a)
	read := 0
	for _, step := range tool.RigUp() {
		u.el(fmt.Sprintf("[data-rigs=%s]", step.ID))
		if !step.Read {
			u.press(input.KeyS)
			continue
		}
		read++
		u.el(fmt.Sprintf("input[name=rig%d]", read)).MustInput(strconv.FormatFloat(t.Setting.Value, 'f', -1, 64))
		u.el("[data-act=rig]:not([disabled])").MustClick()
	}
}

// says ticks, compares or measures, and keeps it.
func (u *user) says(st recipe.Step, d record.Done) {
	u.s.t.Helper()
	for _, m := range d.Marks {
		of, says, _ := strings.Cut(m, ": ")
		u.marks(of, says)
	}
	for i, v := range d.Readings {
		u.el(fmt.Sprintf("input[name=reading%d]", i+1)).MustSelectAllText().MustInput(strconv.FormatFloat(v, 'f', -1, 64))
	}
	if d.Held > 0 && d.Item == 0 {
		u.el("input[name=held]").MustInput(strconv.FormatFloat(d.Held, 'f', -1, 64))
	}
	if u.el("[data-act=main]:not([disabled])"); d.Item > 0 {
		u.press(input.Space) // as a pedal does
	} else {
		u.el("[data-act=main]:not([disabled])").MustClick()
	}
	if st.By != "" && d.Item == 0 {
		u.answers(st.By, "It is so")
	}
}

// marks says what the mark of something reads: chosen, typed, or that it was seen.
func (u *user) marks(of, says string) {
	u.s.t.Helper()
	if says == "seen" {
		u.el(fmt.Sprintf("[aria-label=%q]", "The mark of the "+of+" was seen")).MustClick()
		return
	}
	e := u.el(fmt.Sprintf("[data-mark=%q]", of))
	if e.MustEval("() => this.tagName").Str() == "SELECT" {
		e.MustSelect(says)
		return
	}
	e.MustSelectAllText().MustInput(says)
}

// answers gives the name and PIN of somebody who may.
func (u *user) answers(who, act string) {
	u.s.t.Helper()
	login, ok := whoMay[who]
	require.True(u.s.t, ok, "nobody is a %s", who)
	u.el("[role=dialog] input[name=as]").MustSelectAllText().MustInput(login)
	u.el("[role=dialog] input[name=pin]").MustInput(demo.Pin)
	u.sees("[role=dialog] button", "^"+act+"$").MustClick()
	u.alone()
}

// picture writes a photograph of a plain wall with a mark on it, and returns its file.
func (u *user) picture(w, h int) string {
	u.s.t.Helper()
	img := image.NewRGBA(image.Rect(0, 0, w, h))
	for y := range h {
		for x := range w {
			img.Set(x, y, color.RGBA{uint8(90 + x*80/w), uint8(110 + y*60/h), 130, 255})
		}
	}
	var b bytes.Buffer
	require.NoError(u.s.t, jpeg.Encode(&b, img, nil))
	path := filepath.Join(u.s.t.TempDir(), "plate.jpg")
	require.NoError(u.s.t, os.WriteFile(path, b.Bytes(), 0o600))
	return path
}

// text writes a file that is no photograph.
func (u *user) text(words string) string {
	u.s.t.Helper()
	path := filepath.Join(u.s.t.TempDir(), "letter.jpg")
	require.NoError(u.s.t, os.WriteFile(path, []byte(words), 0o600))
	return path
}
