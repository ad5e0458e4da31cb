package pocket_test

import (
	"encoding/json"
	"errors"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/require"

	"dynacor/core/crib"
	"dynacor/core/joint"
	"dynacor/core/record"
	"dynacor/core/tool"
	"dynacor/core/unit"
	"dynacor/core/work/worktest"
	"dynacor/internal/contract"
	"dynacor/internal/form"
	"dynacor/internal/judge"
	"dynacor/internal/pocket"
)

var morning = time.Date(2026, 11, 2, 7, 0, 0, 0, time.UTC)

// taken is a flange of eight that a fitter took along, worked at up to a step.
func taken(t *testing.T, upTo string) pocket.Bundle {
	t.Helper()
	me := uuid.New()
	r, in := worktest.Flange(), worktest.Flanged(8)
	h := worktest.New(t, worktest.Lay(t, in, r))
	h.Person, h.Now = me.String(), morning.Add(-24*time.Hour)
	h.UpTo(upTo)
	h.Tool()
	res, err := joint.Compute(in, r)
	require.NoError(t, err)
	b := pocket.Bundle{Form: pocket.Form, Core: joint.Version, Joint: pocket.Joint{ID: uuid.New(), Tag: "IV-2 / BONNET"},
		Me: pocket.Person{ID: me, Login: "marta", Roles: []string{"fitter"}}, Names: map[string]string{me.String(): "Marta Tolland"},
		Tools: []judge.Tool{{Tool: crib.Tool{Tag: "TW-1", Kind: crib.Wrench, Name: "wrench", Unit: unit.NewtonMetre, Least: 20, Most: 400,
			Scale: tool.Scale{First: 20, Major: 10, Minor: 1}, Accuracy: 0.04, DriveOut: "1/2"}, Since: morning.AddDate(0, -1, 0)}},
		Plan: pocket.Plan{Run: uuid.New(), Revision: 1, Recipe: r, IssuedBy: me, IssuedAt: morning.AddDate(0, 0, -2)}}
	b.Plan.Input, err = form.WriteInput(in)
	require.NoError(t, err)
	b.Plan.Result, err = form.WriteResult(res)
	require.NoError(t, err)
	for _, e := range h.Entries {
		w, err := pocket.Written(e)
		require.NoError(t, err)
		b.Entries = append(b.Entries, w)
	}
	return b
}

func open(t *testing.T, b pocket.Bundle) *pocket.Pocket {
	t.Helper()
	p, err := pocket.Open(b)
	require.NoError(t, err)
	return p
}

func says(t *testing.T, at time.Time, content map[string]any) contract.NewEntry {
	t.Helper()
	n := contract.NewEntry{ID: uuid.New(), At: at}
	b, err := json.Marshal(content)
	require.NoError(t, err)
	require.NoError(t, json.Unmarshal(b, &n.Content))
	return n
}

// next is what is next of a run, as a page says that it was done.
func next(t *testing.T, p *pocket.Pocket, at time.Time) contract.NewEntry {
	t.Helper()
	a, ok := p.Judged().State.Next()
	require.True(t, ok)
	return says(t, at, map[string]any{"kind": "done", "step": a.Step, "bolt": a.Bolt, "share": a.Share, "round": a.Round})
}

// ready reads the caution of what is next, and sets its tool where it is not.
func ready(t *testing.T, p *pocket.Pocket, me uuid.UUID, at time.Time) {
	t.Helper()
	a, _ := p.Judged().State.Next()
	_, err := p.Add(says(t, at, map[string]any{"kind": "caution", "step": a.Step}), pocket.Photo{}, at)
	require.NoError(t, err)
	if set, unset := p.Judged().State.Unset(me.String(), at); unset {
		_, err := p.Add(says(t, at, map[string]any{"kind": "setting", "group": set.Group, "share": set.Share}), pocket.Photo{}, at)
		require.NoError(t, err)
	}
}

// An entry that is tried is judged and changes nothing; one that is added counts once, however
// often it comes; another under its identity is refused.
func TestAnEntryCountsOnce(t *testing.T) {
	b := taken(t, "pull")
	p := open(t, b)
	ready(t, p, b.Me.ID, morning)
	had := p.Judged().Head.HeadSeq
	n := next(t, p, morning)
	require.NoError(t, p.Try(n, pocket.Photo{}, morning))
	require.Equal(t, had, p.Judged().Head.HeadSeq)
	for range 2 {
		_, err := p.Add(n, pocket.Photo{}, morning)
		require.NoError(t, err)
		require.Equal(t, had+1, p.Judged().Head.HeadSeq)
	}
	other := next(t, p, morning.Add(time.Minute))
	other.ID = n.ID
	_, err := p.Add(other, pocket.Photo{}, morning)
	require.ErrorContains(t, err, "Another entry with this identity")
	require.Equal(t, had+1, p.Judged().Head.HeadSeq)
}

// The clock of a device that is five hours slow, and knows it: what is done is dated rightly,
// and nothing is asked about.
func TestADeviceWhoseClockIsOff(t *testing.T) {
	b := taken(t, "pull")
	p := open(t, b)
	ready(t, p, b.Me.ID, morning)
	n := next(t, p, morning.Add(-5*time.Hour+time.Minute))
	n.Off = (5 * time.Hour).Seconds()
	_, err := p.Add(n, pocket.Photo{}, morning.Add(time.Minute))
	require.NoError(t, err)
	lines := p.Judged().State.Lines()
	e := lines[len(lines)-1].Entry
	require.True(t, e.AtTool.Equal(morning.Add(time.Minute)), e.AtTool)
	require.True(t, e.AtDevice.Equal(n.At))
}

// What the device cannot know is said: that its plan was replaced, that what was prepared was
// over another run, that a tool was reported.
func TestWhatIsRefusedWithoutAServer(t *testing.T) {
	b := taken(t, "pull")
	b.Plan.Closed = true
	p := open(t, b)
	var no *judge.Error
	_, err := p.Add(next(t, p, morning), pocket.Photo{}, morning)
	require.True(t, errors.As(err, &no))
	require.Equal(t, "plan-replaced", no.Code)

	b = taken(t, "pull")
	p = open(t, b)
	ready(t, p, b.Me.ID, morning)
	n := next(t, p, morning)
	had := p.Judged().Head.HeadSeq
	for _, onto := range []int{had - 1, had + 1} {
		n.Onto = &onto
		require.ErrorContains(t, p.Try(n, pocket.Photo{}, morning), "the run has")
	}
	n.Onto = &had
	require.NoError(t, p.Try(n, pocket.Photo{}, morning))

	report := map[string]any{"kind": "report", "tool": "TW-1", "what": "dropped", "note": "from the stair"}
	_, err = p.Add(says(t, morning, report), pocket.Photo{}, morning)
	require.NoError(t, err)
	lines := p.Judged().State.Lines()
	require.Equal(t, morning.AddDate(0, -1, 0), lines[len(lines)-1].Content.(record.Report).Since, "in doubt since it was good last")
	_, err = p.Add(says(t, morning, map[string]any{"kind": "setting", "group": "bolts", "share": 20}), pocket.Photo{}, morning)
	require.ErrorContains(t, err, "dropped at IV-2 / BONNET: from the stair")
	ways, err := p.Ways(contract.FindWaysJSONRequestBody{Group: "bolts"}, morning)
	require.NoError(t, err)
	require.Len(t, ways.Left, 1)
	require.Contains(t, ways.Left[0].Why, "dropped at IV-2 / BONNET: from the stair")
}

// A fitter's device does not do what is for others.
func TestADeviceKnowsWhoMay(t *testing.T) {
	b := taken(t, "pull")
	b.Me.Roles = []string{"planner"}
	p := open(t, b)
	_, err := p.Add(next(t, p, morning), pocket.Photo{}, morning)
	require.ErrorContains(t, err, "This is for a fitter to do")
}
