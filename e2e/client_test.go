package e2e

import (
	"bytes"
	"context"
	"encoding/json"
	"fmt"
	"io"
	"net/http"
	"net/http/cookiejar"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/require"

	"dynacor/core/joint"
	"dynacor/core/recipe"
	"dynacor/core/record"
	"dynacor/core/work"
	"dynacor/core/work/worktest"
	"dynacor/internal/app"
	"dynacor/internal/demo"
)

// device is somebody's screen without a browser: it speaks to the server as one does, and
// looks at the run in the database to know what a careful hand does next.
type device struct {
	base string
	http *http.Client
	pin  string
	id   string // of whoever is signed in
	look *app.App
	at   time.Time
}

// deviceOf signs somebody in.
func deviceOf(t *testing.T, base, login, pin string, look *app.App) *device {
	t.Helper()
	jar, err := cookiejar.New(nil)
	require.NoError(t, err)
	d := &device{base: base, http: &http.Client{Jar: jar, Timeout: 40 * time.Second}, pin: pin, look: look,
		at: time.Now().Add(-20 * time.Minute)}
	var s struct{ Person struct{ ID string } }
	require.NoError(t, d.ask("POST", "/api/session", map[string]string{"login": login, "pin": pin}, &s))
	d.id = s.Person.ID
	return d
}

// refusedError is what the server would not do.
type refusedError struct {
	Status int
	Code   string
	Detail string
	Way    string
}

func (e *refusedError) Error() string {
	return fmt.Sprintf("%d %s: %s %s", e.Status, e.Code, e.Detail, e.Way)
}

// ask asks the server; out may be nil, or bytes for a file.
func (d *device) ask(method, path string, body, out any) error {
	var b []byte
	if body != nil {
		var err error
		if b, err = json.Marshal(body); err != nil {
			return err
		}
	}
	r, err := http.NewRequest(method, d.base+path, bytes.NewReader(b))
	if err != nil {
		return err
	}
	if body != nil {
		r.Header.Set("Content-Type", "application/json")
	}
	a, err := d.http.Do(r)
	if err != nil {
		return err
	}
	defer a.Body.Close()
	text, err := io.ReadAll(a.Body)
	if err != nil {
		return err
	}
	if a.StatusCode >= 300 {
		e := &refusedError{Status: a.StatusCode, Detail: string(text)}
		_ = json.Unmarshal(text, e)
		return e
	}
	if file, ok := out.(*[]byte); ok {
		*file = text
		return nil
	}
	if out == nil {
		return nil
	}
	return json.Unmarshal(text, out)
}

// sent is an entry as it is sent, again and again until the server has it.
type sent map[string]any

func (d *device) entry(content sent) sent {
	if d.at = d.at.Add(3 * time.Second); d.at.After(time.Now()) {
		d.at = time.Now()
	}
	return sent{"id": uuid.NewString(), "at": d.at.UTC().Format(time.RFC3339Nano), "confirmed": true, "content": content}
}

func doneContent(c record.Done) sent {
	s := sent{"kind": "done", "step": c.Step, "bolt": c.Bolt, "share": c.Share, "turn": c.Turn, "stroke": c.Stroke, "lock": c.Lock,
		"round": c.Round, "moved": c.Moved, "held": c.Held}
	if c.Item > 0 {
		s["item"] = c.Item
	}
	if len(c.Readings) > 0 {
		s["readings"] = c.Readings
	}
	if len(c.Bolts) > 0 {
		s["bolts"] = c.Bolts
	}
	if len(c.Marks) > 0 {
		s["marks"] = c.Marks
	}
	if !c.Reading.IsZero() {
		s["reading"] = sent{"value": c.Reading.Value, "unit": string(c.Reading.Unit)}
	}
	return s
}

// byHand is a wrench that is entered at the joint.
var byHand = sent{"tag": "OWN-1", "min": 40, "max": 260, "unit": "N·m", "first": 40, "major": 10, "minor": 2, "accuracy": 0.04}

// handFor is what is entered at the joint for a group: a wrench, or what else alone it is
// pulled with.
func handFor(g joint.Group) sent {
	switch {
	case g.How == recipe.ByTension:
		return sent{"tag": "OWN-2", "max": 2000, "unit": "bar", "minor": 10, "accuracy": 0.03, "ramArea": 3200}
	case g.With == recipe.Hydraulic:
		return sent{"tag": "OWN-3", "unit": "bar", "minor": 10, "accuracy": 0.03,
			"chart": []sent{{"pressure": 10, "torque": 40}, {"pressure": 700, "torque": 2800}}}
	}
	return byHand
}

// next is what a careful hand says next of a run; nil where there is nothing.
func (d *device) next(ctx context.Context, run uuid.UUID) (sent, app.Run, error) {
	r, err := d.look.Run(ctx, run)
	if err != nil {
		return nil, r, err
	}
	s := r.State
	a, ok := s.NextFor(d.id, d.at)
	for _, h := range s.Hands(d.at) {
		if !ok && h.Open { // alone, they take what nobody has
			st, _ := s.Plan().Step(h.Act.Step)
			return settingContent(s.Rigged(record.Setting{Group: st.Group, Share: h.Act.Share, Hand: h.Number})), r, nil
		}
	}
	if !ok {
		return nil, r, nil
	}
	st, _ := s.Plan().Step(a.Step)
	if st.Station == recipe.ToolUp || st.Tightens() {
		for _, g := range s.Plan().Result.Groups {
			if g.How.Tooled() && len(s.Tooling[g.Name].Stages) == 0 {
				return sent{"kind": "tooling", "group": g.Name, "byHand": handFor(g)}, r, nil
			}
		}
	}
	if len(st.Cautions) > 0 && !s.Cautioned(st.ID, d.id) {
		return sent{"kind": "caution", "step": st.ID}, r, nil
	}
	if a.Bolt > 0 && !a.Lock {
		if set, unset := s.Unset(d.id, d.at); unset {
			return settingContent(s.Rigged(set)), r, nil
		}
	}
	return doneContent((&worktest.Hand{State: s}).Done(a)), r, nil
}

func settingContent(c record.Setting) sent {
	out := sent{"kind": "setting", "group": c.Group, "share": c.Share}
	if len(c.Rig) > 0 {
		out["rig"], out["readings"] = c.Rig, c.Readings
	}
	if c.Hand > 0 {
		out["hand"] = c.Hand
	}
	return out
}

// fast does what a careful hand does, as another device of the same person would, until so
// much is done: what the screens show of it is looked at elsewhere.
func (u *user) fast(tag string, over func(*work.State, record.Act) bool) {
	u.s.t.Helper()
	u.MustEval("() => new Promise(r => requestAnimationFrame(() => requestAnimationFrame(r)))")
	u.el("header [data-waiting='0']")
	run := u.run(tag).Head.ID
	d := deviceOf(u.s.t, u.s.url(""), u.login, demo.Pin, u.s.look)
	d.at = time.Now()
	for range 2000 {
		r, err := u.s.look.Run(u.s.t.Context(), run)
		require.NoError(u.s.t, err)
		if a, ok := r.State.Next(); !ok || over(r.State, a) {
			u.MustReload() // what it shows is that, and nothing on its way to it
			u.sees("header", "all stored")
			return
		}
		content, _, err := d.next(u.s.t.Context(), run)
		require.NoError(u.s.t, err)
		e := d.entry(content)
		if as := d.asks(r.State, content); as != "" {
			e["as"], e["pin"] = as, d.pin
		}
		require.NoError(u.s.t, d.ask("POST", "/api/runs/"+run.String()+"/entries", e, nil), fmt.Sprint(content))
	}
	require.Fail(u.s.t, "it does not end")
}

// asks is the login of whoever has to answer for an act; empty where nobody else does.
func (d *device) asks(s *work.State, content sent) string {
	next, ok := s.Next()
	st, _ := s.Plan().Step(next.Step)
	switch {
	case !ok || content["kind"] != "done":
		return ""
	case next.Release:
		return whoMay[st.Release]
	case next.Item == 0 && next.Bolt == 0 && st.By != "":
		return whoMay[st.By]
	}
	return ""
}

// makes works a run up to its signature.
func (d *device) makes(t *testing.T, run uuid.UUID) *work.State {
	t.Helper()
	for range 2000 {
		content, r, err := d.next(t.Context(), run)
		require.NoError(t, err)
		if content == nil {
			return r.State
		}
		require.NoError(t, d.ask("POST", "/api/runs/"+run.String()+"/entries", d.entry(content), nil), fmt.Sprint(content))
	}
	require.Fail(t, "the run does not end")
	return nil
}

// signs puts a signature to a run.
func (d *device) signs(t *testing.T, run uuid.UUID, part, reason string) {
	t.Helper()
	e := d.entry(sent{"kind": "signature", "part": part, "reason": reason})
	e["pin"] = d.pin
	require.NoError(t, d.ask("POST", "/api/runs/"+run.String()+"/entries", e, nil))
}
