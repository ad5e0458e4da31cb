package app_test

import (
	"context"
	"errors"
	"os"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/require"

	"dynacor/core/plan"
	"dynacor/core/run"
	"dynacor/core/tool"
	"dynacor/core/unit"
	"dynacor/internal/app"
	"dynacor/internal/demo"
	"dynacor/internal/pgdev/pgtest"
	"dynacor/internal/store"
)

func TestMain(m *testing.M) {
	os.Exit(pgtest.Run(m, pgtest.Options{Prepare: func(ctx context.Context, s *store.Store) error { return demo.Load(ctx, s, time.Now()) }}))
}

var ctx = context.Background()

func who(t *testing.T, s *store.Store, login string) app.Who {
	p, err := s.PersonByLogin(ctx, login)
	require.NoError(t, err)
	return app.Who{ID: p.ID, Roles: p.Roles}
}

func tagged(t *testing.T, s *store.Store, tag string) uuid.UUID {
	joints, err := s.Joints(ctx)
	require.NoError(t, err)
	for _, j := range joints {
		if j.Tag == tag {
			return j.ID
		}
	}
	t.Fatal("no joint " + tag)
	return uuid.Nil
}

func next(t *testing.T, a *app.App, w app.Who, r app.Run) app.Run {
	n := r.State.Next
	require.NotNil(t, n)
	var c run.Content = run.Pull{Bolt: n.Bolt, Pass: n.Pass}
	if n.Round > 0 {
		c = run.Check{Bolt: n.Bolt, Round: n.Round}
	}
	r, err := a.AddEntry(ctx, w, app.NewEntry{Run: r.Head.ID, ID: uuid.New(), At: time.Now(), Content: c})
	require.NoError(t, err)
	return r
}

func TestTheWallSaysWhereEachJointStands(t *testing.T) {
	s := pgtest.Store(t)
	a := app.New(s, time.Now)
	w, err := a.Wall(ctx, who(t, s, "marta"))
	require.NoError(t, err)
	require.Equal(t, 73, len(w.Cards))
	states := map[string]string{}
	for _, c := range w.Cards {
		states[c.Joint.Tag] = c.State
		require.NotEmpty(t, c.Text, c.Joint.Tag)
		require.Equal(t, c.Run == nil, c.State == "new" || c.State == "draft", c.Joint.Tag)
	}
	for tag, want := range map[string]string{"PS-1 / MANWAY": "signed", "PS-1 / DRAIN": "prove", "IV-2 / BONNET": "tighten", "IV-2 / BYPASS": "issued",
		"PS-1 / METER RUN": "draft", "U2 / DRAFT HATCH": "check", "U2 / COOLER IN": "sign", "U2 / SHAFT SEAL": "issued", "RK / GATE JACK": "stopped", "RK / WASH PUMP": "new"} {
		require.Equal(t, want, states[tag], tag)
	}
	decisions := map[string]bool{}
	for _, d := range w.Decisions {
		decisions[d.Title] = d.Grave
	}
	require.Equal(t, map[string]bool{"RK / GATE JACK": true, "U2 / DRAFT HATCH": false, "TW-03": true, "TW-07": true, "TW-09": false}, decisions)
}

// What waits for somebody is what that person can do.
func TestYoursNextIsForWhoLooks(t *testing.T) {
	s := pgtest.Store(t)
	a := app.New(s, time.Now)
	titles := func(login string) []string {
		w, err := a.Wall(ctx, who(t, s, login))
		require.NoError(t, err)
		out := []string{}
		for _, n := range w.Next {
			out = append(out, n.Title+": "+n.Text)
		}
		return out
	}
	require.Equal(t, "IV-2 / BONNET: bolt 7 at 107 N·m", titles("marta")[0], "what is in hand comes first")
	require.Contains(t, titles("marta"), "RK / WASH PUMP: lay it out")
	require.Contains(t, titles("edda"), "PS-1 / METER RUN: issue the plan")
	require.Contains(t, titles("haro"), "U2 / COOLER IN: sign the record")
	require.NotContains(t, titles("piet"), "U2 / COOLER IN: sign the record", "who pulled does not check")
	require.Contains(t, titles("ines"), "PS-1 / DRAIN: gap at four quarters")
}

// Two servers share a database: each sees what the other stored, on the Wall
// and in the run.
func TestTwoServersOneDatabase(t *testing.T) {
	s := pgtest.Store(t)
	one, two := app.New(s, time.Now), app.New(s, time.Now)
	marta, joint := who(t, s, "marta"), tagged(t, s, "IV-2 / BONNET")
	j, err := one.Joint(ctx, joint)
	require.NoError(t, err)
	r := *j.Run
	_, err = two.Wall(ctx, marta)
	require.NoError(t, err)
	for range 3 {
		r = next(t, one, marta, r)
	}
	seen, err := two.Run(ctx, r.Head.ID)
	require.NoError(t, err)
	require.Equal(t, r.State.Next, seen.State.Next)
	r = next(t, two, marta, seen)
	w, err := one.Wall(ctx, marta)
	require.NoError(t, err)
	for _, c := range w.Cards {
		if c.Joint.ID == joint {
			require.Equal(t, r.State.Next, c.Run.State.Next)
		}
	}
	faults, _, _, err := s.Audit(ctx)
	require.NoError(t, err)
	require.Empty(t, faults)
}

func TestWaysAndChoice(t *testing.T) {
	s := pgtest.Store(t)
	a := app.New(s, time.Now)
	joint := tagged(t, s, "U2 / SHAFT SEAL")
	ways, err := a.Ways(ctx, joint, "", nil)
	require.NoError(t, err)
	require.NoError(t, ways[0].Refused)
	require.Equal(t, unit.NewtonMetre, ways[0].Chain.Wrench.Unit, "the unit the torque was given in")
	reasons := map[string]string{}
	for _, w := range ways {
		if w.Refused != nil {
			reasons[w.Chain.Wrench.Tag] = w.Refused.Error()
		}
	}
	require.Contains(t, reasons["TW-03"], "out of calibration")
	require.Contains(t, reasons["TW-07"], "held back")
	require.Contains(t, reasons["TW-09"], "below 200 N·m")

	hand := &app.HandTool{Tag: "MINE", Min: 10, Max: 100, Unit: unit.NewtonMetre, Scale: tool.Scale{First: 10, Major: 10, Minor: 0.5}, Accuracy: 0.04}
	j, err := a.Joint(ctx, joint)
	require.NoError(t, err)
	choice, err := a.Choose(ctx, j.Run.Head.ID, "", "", "", hand)
	require.NoError(t, err)
	last := choice.Passes[len(choice.Passes)-1]
	require.True(t, last.ByHand)
	require.InDelta(t, 80, last.Setting.Value, 1e-9)
	require.False(t, choice.Passes[0].ByHand, "16 N·m is below a fifth of it, so the crib's small wrench makes the first pass")

	for _, bad := range []func(*app.HandTool){
		func(h *app.HandTool) { h.Unit = unit.Millimetre }, func(h *app.HandTool) { h.Max = 0 }, func(h *app.HandTool) { h.Min = 200 },
		func(h *app.HandTool) { h.Scale.Minor = 0 }, func(h *app.HandTool) { h.Scale.Minor = 20 }, func(h *app.HandTool) { h.Accuracy = 4 }, func(h *app.HandTool) { h.Ratio = -4 },
	} {
		h := *hand
		bad(&h)
		_, err := a.Ways(ctx, joint, "", &h)
		require.Error(t, err, "%+v", h)
	}
}

func TestAJointsTagIsItsOwn(t *testing.T) {
	s := pgtest.Store(t)
	a := app.New(s, time.Now)
	marta := who(t, s, "marta")
	areas, err := s.Areas(ctx)
	require.NoError(t, err)
	j, err := a.AddJoint(ctx, marta, areas[0].ID, "  ps-9 /  spool ", "Spool piece", "")
	require.NoError(t, err)
	require.Equal(t, "PS-9 / SPOOL", j.Tag)
	require.Equal(t, plan.Starting(), j.Draft.Input)
	var taken *app.Error
	_, err = a.AddJoint(ctx, marta, areas[0].ID, "PS-9 / SPOOL", "Another", "")
	require.True(t, errors.As(err, &taken))
	require.Equal(t, "tag-taken", taken.Code)
	_, err = a.AddJoint(ctx, marta, uuid.New(), "PS-9 / OTHER", "Nowhere", "")
	require.Error(t, err)
}

// A record tells the whole story, also before anything was pulled.
func TestRecordsOfEveryState(t *testing.T) {
	s := pgtest.Store(t)
	a := app.New(s, time.Now)
	w, err := a.Wall(ctx, who(t, s, "marta"))
	require.NoError(t, err)
	for _, c := range w.Cards {
		r, err := a.Record(ctx, c.Joint.ID, 0)
		if c.Run == nil {
			require.Error(t, err, c.Joint.Tag)
			continue
		}
		require.NoError(t, err, c.Joint.Tag)
		require.Len(t, r.Entries, c.Run.Head.HeadSeq, c.Joint.Tag)
		require.Equal(t, c.State == "signed", len(r.Open) == 0 && len(r.Signatures) == 2, c.Joint.Tag)
		if c.Job == nil {
			require.Len(t, r.Bolts, c.Bolts)
		}
	}
	r, err := a.Record(ctx, tagged(t, s, "PS-1 / MANWAY"), 0)
	require.NoError(t, err)
	require.Contains(t, r.Deviations[0], "bolt 7, pass 3 corrected: Misread the thimble by one turn.")
}
