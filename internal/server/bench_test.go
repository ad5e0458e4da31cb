package server_test

import (
	"encoding/json"
	"net/http"
	"testing"

	"github.com/stretchr/testify/require"

	"dynacor/internal/contract"
	"dynacor/internal/trying"
)

// asked is what the module in a browser answers, by the same code.
func asked[T any](t *testing.T, what string, body any) T {
	t.Helper()
	b, err := json.Marshal(body)
	require.NoError(t, err)
	is, err := trying.Ask(what, b)
	require.NoError(t, err)
	v, ok := is.(T)
	require.True(t, ok, "%T", is)
	return v
}

// ring is the ring of a joint as it is tried, with three ways.
func (c *client) ring(tag string) (contract.BenchJoint, contract.BenchTry) {
	c.t.Helper()
	j := decode[contract.BenchJoint](c.t, c.do("GET", "/api/joints/"+c.joint(tag)+"/bench", nil))
	require.NotEmpty(c.t, j.Rings)
	r := j.Rings[0]
	start := asked[contract.BenchStart](c.t, "begin", contract.BenchBegin{Subject: r.Subject, Way: r.Way})
	require.Len(c.t, start.Ways, 3)
	return j, contract.BenchTry{Subject: r.Subject, Ways: start.Ways, Runs: 300, Seed: 1}
}

// A joint is tried by its plan, and by what its site has on record.
func TestAJointIsTried(t *testing.T) {
	marta := open(t).as("marta")
	j, try := marta.ring("IV-2 / BONNET")
	s := try.Subject
	require.Equal(t, 16, s.Bolts)
	g := marta.get("IV-2 / BONNET").Draft.Groups[0]
	require.Equal(t, g.Load, s.Load)
	require.Equal(t, g.Needed, s.Needed)
	require.Equal(t, contract.Plan, s.Circle.Origin)
	require.Equal(t, contract.Supposed, s.Gasket.Origin)
	require.Contains(t, s.Gasket.From, "a spiral gasket")
	require.Equal(t, contract.Record, s.Pull.Origin, "the demo has pulled many of this size")
	require.Contains(t, s.Pull.From, "pulls of M30 on this site's record")
	require.Equal(t, "30-60-100", j.Rings[0].Way.School)

	answer := asked[contract.BenchAnswer](t, "try", try)
	require.Len(t, answer.Tried, 3)
	require.True(t, answer.Tried[0].Outcome.Fits)

	// What is no ring, or has no load yet, says so.
	for tag, why := range map[string]string{"CW / TEMP SADDLE": "are no ring", "U2 / SUMP HOSE": "are no ring"} {
		j := decode[contract.BenchJoint](t, marta.do("GET", "/api/joints/"+marta.joint(tag)+"/bench", nil))
		for _, r := range j.Rings {
			require.Contains(t, r.Refused, why, tag)
		}
	}
	a := marta.do("GET", "/api/joints/00000000-0000-0000-0000-000000000000/bench", nil)
	require.Equal(t, http.StatusNotFound, a.status)
}

// A way that is taken is in the draft, with what it was compared with as the server works it out; a
// sentence that is changed after it keeps that, and says that it is another now.
func TestAWayIsTakenIntoTheDraft(t *testing.T) {
	edda := open(t).as("edda")
	const tag = "PS-1 / METER RUN"
	j, try := edda.ring(tag)
	try.Ways[1] = contract.BenchWay{School: "20-60-100", Shares: []float64{}, Order: "star", Start: 2, Tools: 1, Rounds: 3, Every: 1}
	body := map[string]any{"version": j.Version, "group": "bolts", "try": try, "way": 1}
	path := "/api/joints/" + j.Joint.String() + "/bench/taken"
	taken := decode[contract.Joint](t, edda.do("PUT", path, body))
	g := taken.Draft.Groups[0]
	require.Equal(t, []float64{20, 60, 100}, g.Stages)
	require.Equal(t, "star", g.Pattern)
	require.Equal(t, 2, g.Start)
	require.Len(t, taken.Draft.Compared, 1)
	k := taken.Draft.Compared[0]
	require.True(t, k.Stands)
	require.Equal(t, 1, k.Taken)
	shown := asked[contract.BenchAnswer](t, "try", try)
	for i, x := range shown.Tried {
		require.Equal(t, x.Outcome, k.Ways[i], "as it was shown, to the last digit")
	}

	// By what was seen of it before, it is not taken again.
	p := edda.do("PUT", path, body).problem(t)
	require.Equal(t, "changed-meanwhile", p.Code)

	in := taken.Draft.Input
	bolts := in.Groups["bolts"]
	bolts.Start = 5
	in.Groups["bolts"] = bolts
	changed := decode[contract.Joint](t, edda.do("PUT", "/api/joints/"+j.Joint.String()+"/draft",
		map[string]any{"version": taken.Draft.Version, "input": in}))
	require.Equal(t, 5, changed.Draft.Groups[0].Start)
	require.Len(t, changed.Draft.Compared, 1)
	require.False(t, changed.Draft.Compared[0].Stands)
}

func byHand(v float64) contract.BenchFigure {
	return contract.BenchFigure{Low: v, Middle: v, High: v, Origin: contract.ByHand}
}

// What cannot be taken is refused with what is wrong, and the draft stays as it was.
func TestAWayThatCannotBeTaken(t *testing.T) {
	edda := open(t).as("edda")
	const tag = "PS-1 / METER RUN"
	j, good := edda.ring(tag)
	path := "/api/joints/" + j.Joint.String() + "/bench/taken"
	before := edda.get(tag).Draft
	for name, c := range map[string]struct {
		change func(b *contract.BenchTry, body map[string]any)
		field  string
	}{
		"carried by no plan": {func(_ *contract.BenchTry, b map[string]any) { b["way"] = 1 }, "way"},
		"not compared":       {func(_ *contract.BenchTry, b map[string]any) { b["way"] = 7 }, "way"},
		"another ring":       {func(t *contract.BenchTry, _ map[string]any) { t.Subject.Bolts = 8 }, "bolts"},
		"no such group":      {func(_ *contract.BenchTry, b map[string]any) { b["group"] = "rivets" }, "group"},
		"too many joints":    {func(t *contract.BenchTry, _ map[string]any) { t.Runs = 6000 }, "runs"},
		"absurd stiffness":   {func(t *contract.BenchTry, _ map[string]any) { t.Subject.Gasket = byHand(1e12) }, "gasket"},
		"no scatter":         {func(t *contract.BenchTry, _ map[string]any) { t.Subject.Friction = byHand(0) }, "friction"},
		"not as it says":     {func(t *contract.BenchTry, _ map[string]any) { t.Subject.Gasket.High *= 2 }, "gasket"},
		"nothing is needed":  {func(t *contract.BenchTry, _ map[string]any) { t.Subject.Needed = 0 }, "load"},
		"stages of their own": {func(t *contract.BenchTry, _ map[string]any) {
			t.Ways[0].School, t.Ways[0].Shares = "", []float64{35, 100}
		}, "way"},
	} {
		t.Run(name, func(t *testing.T) {
			try := good
			try.Ways = append([]contract.BenchWay{}, good.Ways...)
			body := map[string]any{"version": j.Version, "group": "bolts", "way": 0}
			c.change(&try, body)
			body["try"] = try
			p := edda.do("PUT", path, body).problem(t)
			require.Equal(t, c.field, p.Field, p.Detail)
			require.NotEmpty(t, p.Way)
		})
	}
	require.Equal(t, before, edda.get(tag).Draft)
	body := map[string]any{"version": j.Version, "group": "bolts", "try": good, "way": 0}
	bo := edda.site.as("bo")
	require.Equal(t, http.StatusForbidden, bo.do("PUT", path, body).status)
}
