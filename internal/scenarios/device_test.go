package scenarios

import (
	"encoding/json"
	"fmt"

	"github.com/stretchr/testify/require"

	"dynacor/core/record"
	"dynacor/internal/app"
	"dynacor/internal/contract"
	"dynacor/internal/form"
	"dynacor/internal/judge"
	"dynacor/internal/pocket"
	"dynacor/internal/views"
)

// device is somebody's, who took the joint along before what they did last: it judges each of
// their entries without the server, and says the same to the last word.
type device struct {
	of string // whose; empty: nobody's yet
	n  int    // entries that it judged
}

// wholeEvery is how often the whole run is held against the server's after an act that went as it
// was to go: what that changes is in its answer, and every other entry is followed by the whole.
const wholeEvery = 10

// judges has the device judge an entry, and returns what compares that with what the server
// says of it.
func (d *device) judges(g *stage, person string, n judge.NewEntry) (compare func(app.Run, error)) {
	t := g.t
	if d.of != person {
		b, err := g.app.Along(ctx, g.people[person], g.joint)
		require.NoError(t, err)
		_, problem := d.ask(g, "open", b)
		require.Nil(t, problem, "%+v", problem)
		d.of = person
	}
	known := g.run.Head.HeadSeq
	added := struct {
		Entry contract.NewEntry `json:"entry"`
		Photo pocket.Photo      `json:"photo"`
	}{Entry: sent(g, n, &known)}
	if c, ok := n.Content.(record.Photo); ok {
		p, err := g.app.Photo(ctx, c.Hash)
		require.NoError(t, err)
		added.Photo = pocket.Photo{Width: p.Width, Height: p.Height, Size: len(p.Bytes)}
	}
	_, tried := d.ask(g, "try", added)
	is, problem := d.ask(g, "add", added)
	require.Equal(t, tried, problem, "what is tried is judged as what is done")
	d.n++
	var stored contract.Stored
	if is != nil {
		require.NoError(t, json.Unmarshal(is, &stored))
	}
	var run json.RawMessage
	if stored.Onward == nil || d.n%wholeEvery == 0 {
		run, _ = d.ask(g, "run", nil)
	}
	return func(r app.Run, err error) {
		if err != nil {
			want, ok := views.Refused(err)
			require.True(t, ok, err)
			require.Equal(t, &want, problem, "what the server refuses the device refuses, in the same words")
			return
		}
		require.Nil(t, problem, "%+v", problem)
		names, err := g.app.Names(ctx, r)
		require.NoError(t, err)
		me := g.people[person]
		require.Empty(t, differ(written(t, views.Stored(me, r, names, n, &known, g.clock)), string(is)))
		if run != nil {
			require.Empty(t, differ(written(t, views.Run(me, r, names, views.Far, g.clock)), string(run)))
		}
	}
}

// differ is where two answers differ, with what stands around it.
func differ(server, device string) string {
	if server == device {
		return ""
	}
	at := 0
	for at < min(len(server), len(device)) && server[at] == device[at] {
		at++
	}
	around := func(s string) string { return s[max(0, at-200):min(len(s), at+100)] }
	return fmt.Sprintf("the server: …%s…\nthe device: …%s…", around(server), around(device))
}

func (d *device) ask(g *stage, what string, body any) (json.RawMessage, *contract.Problem) {
	is, problem, err := machine.Ask(g.t.Name(), what, body, g.clock)
	require.NoError(g.t, err)
	return is, problem
}

func written(t require.TestingT, v any) string {
	b, err := json.Marshal(v)
	require.NoError(t, err)
	return string(b)
}

// sent is an entry as a page sends it.
func sent(g *stage, n judge.NewEntry, known *int) contract.NewEntry {
	out := contract.NewEntry{ID: n.ID, At: n.At, Confirmed: n.Confirmed, Pin: n.Pin, As: n.As, Known: known}
	content := map[string]any{"kind": record.KindTooling}
	if c := n.Tools; c != nil {
		content["group"], content["wrench"], content["hydraulic"], content["tensioner"] = c.Group, c.Wrench, c.Hydraulic, c.Tensioner
	} else {
		content = contentSent(g, n.Content)
	}
	require.NoError(g.t, json.Unmarshal([]byte(written(g.t, content)), &out.Content))
	return out
}

// contentSent is what an entry says as a page sends it: as it is stored, but for what the
// server fills in.
func contentSent(g *stage, c record.Content) map[string]any {
	text, err := form.WriteContent(c)
	require.NoError(g.t, err)
	out := map[string]any{}
	require.NoError(g.t, json.Unmarshal([]byte(text), &out))
	out["kind"] = c.Kind()
	for _, filled := range []string{"qualified", "taken", "trace", "points", "since"} {
		delete(out, filled)
	}
	if c, ok := c.(record.Correction); ok && c.Instead != nil {
		out["instead"] = contentSent(g, c.Instead)
	}
	return out
}
