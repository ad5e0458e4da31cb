package server_test

import (
	"encoding/json"
	"net/http"
	"strings"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/require"

	"dynacor/core/drill"
	"dynacor/internal/contract"
	"dynacor/internal/pocket"
	"dynacor/internal/trying"
)

// drills is how one person finds the drills.
func (c *client) drills() contract.Drills {
	c.t.Helper()
	return decode[contract.Drills](c.t, c.do("GET", "/api/drills", nil))
}

func progressOf(d contract.Drills, k drill.Kind) contract.DrillProgress {
	for _, p := range d.Drills {
		if p.Kind == contract.DrillKind(k) {
			return p
		}
	}
	return contract.DrillProgress{}
}

// begins begins a go, and returns it with the right answers to its tasks.
func (c *client) begins(k drill.Kind) (contract.DrillGo, []contract.DrillGiven) {
	c.t.Helper()
	g := decode[contract.DrillGo](c.t, c.do("POST", "/api/drills/goes", map[string]any{"kind": k}))
	var answers []contract.DrillGiven
	for i := range drill.Tasks {
		task, err := drill.New(k, uint64(g.Seed+i), trying.Material(g.Material))
		require.NoError(c.t, err)
		j, err := task.Judge(drill.Answer{})
		require.NoError(c.t, err)
		answers = append(answers, contract.DrillGiven{Value: j.Right, Order: j.Order})
	}
	return g, answers
}

func (c *client) ends(g contract.DrillGo, answers []contract.DrillGiven) answer {
	return c.do("PUT", "/api/drills/goes/"+g.ID.String(), map[string]any{"answers": answers})
}

// Tasks are drawn from this site's own tools and recipes; a go is judged by the server, kept once, for whoever made it alone,
// and says when it is due again.
func TestAGoIsKeptForWhoeverMadeIt(t *testing.T) {
	s := open(t)
	jonas := s.as("jonas")
	d := jonas.drills()
	require.Len(t, d.Drills, len(drill.Kinds()))
	require.Empty(t, d.Asked)
	g, _ := jonas.begins(drill.SetIt)
	tags := map[string]bool{}
	for _, x := range g.Material.Tools {
		tags[x.Tag] = true
	}
	require.True(t, tags["TW-02"] && tags["GA-1"] && tags["SO-30"] && !tags["MX-1"], "%v", tags)
	require.Empty(t, g.Material.Stacks, "a drill is sent what it is drawn from")
	g, _ = jonas.begins(drill.Parts)
	require.Greater(t, len(g.Material.Stacks), 10)
	require.Empty(t, g.Material.Tools)

	for _, kind := range []drill.Kind{drill.Parts, drill.ReadIt, drill.SetIt, drill.Wrong} {
		g, answers := jonas.begins(kind)
		if kind != drill.Parts { // its answer may be nought by right
			answers[0].Value = -5
		}
		p := decode[contract.DrillProgress](t, jonas.ends(g, answers))
		require.Equal(t, 1, p.Goes)
		require.True(t, p.Went[0].Passed)
		require.Equal(t, map[bool]int{true: 5, false: 4}[kind == drill.Parts], p.Went[0].Right, kind)
		require.Equal(t, time.Now().AddDate(0, 0, p.Days).Format(time.DateOnly), p.Due)
		require.Equal(t, map[bool]int{true: 2, false: 1}[kind == drill.Parts], p.Days, "all right: two days; one wrong: one")
		require.Empty(t, p.Until, "nobody asks for it")
		require.Equal(t, "ended", jonas.ends(g, answers).problem(t).Code)
	}
	require.Equal(t, 1, progressOf(jonas.drills(), drill.Parts).Goes)

	edda := s.as("edda")
	require.Zero(t, progressOf(edda.drills(), drill.Parts).Goes)
	var answers []contract.DrillGiven
	g, answers = jonas.begins(drill.Convert)
	require.Equal(t, http.StatusNotFound, edda.ends(g, answers).status, "another's")
	p := jonas.ends(g, answers[:3]).problem(t)
	require.Contains(t, p.Detail, "3 tasks are answered of 5.")
	require.Equal(t, 400, jonas.do("POST", "/api/drills/goes", map[string]any{"kind": "juggling"}).status)
	require.Equal(t, 200, jonas.ends(g, answers).status, "what was refused has ended nothing")

	// One that was left off is dropped by the next.
	left, answers := jonas.begins(drill.Convert)
	jonas.begins(drill.ReadIt)
	require.Equal(t, http.StatusNotFound, jonas.ends(left, answers).status)
}

// A drill that an engineer asks for is passed before a kind of joint is made: server and device refuse its making alike, and what
// keeps people safe is never refused. Who passed it is qualified until a day, and no longer.
func TestADrillIsPassedFirst(t *testing.T) {
	s := open(t)
	edda, marta := s.as("edda"), s.as("marta")
	j := marta.get("IV-2 / BONNET")
	run, recipe := j.Run.ID.String(), j.Draft.Input.Recipe
	ask := func(kind any, months int) answer {
		return edda.do("PUT", "/api/drills/asked", map[string]any{"recipe": recipe, "kind": kind, "months": months})
	}
	require.Equal(t, http.StatusForbidden, marta.do("PUT", "/api/drills/asked",
		map[string]any{"recipe": recipe, "kind": "convert it", "months": 6}).status)
	require.Contains(t, ask("convert it", 0).problem(t).Detail, "1 to 60 months, not 0")
	require.Equal(t, 400, ask("juggling", 6).status)
	require.Contains(t, edda.do("PUT", "/api/drills/asked", map[string]any{"recipe": "sundial", "kind": "convert it", "months": 6}).
		problem(t).Detail, "There is no recipe")
	require.Nil(t, marta.get("IV-2 / BONNET").Drills)
	require.Equal(t, 204, ask("convert it", 6).status)

	require.Equal(t, []contract.DrillKind{"convert it"}, marta.get("IV-2 / BONNET").Drills)
	require.Nil(t, edda.get("IV-2 / BONNET").Drills, "an engineer makes none")
	require.Nil(t, marta.get("RK / FLUID COUPLING").Drills, "another kind")
	next := marta.get("IV-2 / BONNET").Run.Next
	refused := marta.add(run, pull(next, nil))
	require.Equal(t, http.StatusForbidden, refused.status)
	p := refused.problem(t)
	require.Equal(t, "drill", p.Code)
	require.Equal(t, "Before this kind of joint is made, the drill “convert it” is passed.", p.Detail)
	other := marta.get("RK / FEED HEADER")
	require.Equal(t, recipe, other.Draft.Input.Recipe)
	require.Equal(t, 200, marta.add(other.Run.ID.String(), newEntry("pause", map[string]any{"note": "the drill first"})).status)

	// A device that took it along says the same.
	var b pocket.Bundle
	require.NoError(t, json.Unmarshal([]byte(marta.do("GET", "/api/joints/"+j.ID.String()+"/along", nil).body), &b))
	at, err := pocket.Open(b)
	require.NoError(t, err)
	_, err = at.Add(entryOf(t, pull(next, nil)), pocket.Photo{}, time.Now())
	require.ErrorContains(t, err, p.Detail)

	// Three of five are not enough; five are. It is on the site's log, and the person is qualified.
	g, answers := marta.begins(drill.Convert)
	answers[1].Value, answers[2].Value = -1, -1
	require.Empty(t, decode[contract.DrillProgress](t, marta.ends(g, answers)).Until)
	require.Equal(t, http.StatusForbidden, marta.add(run, pull(next, nil)).status)
	g, answers = marta.begins(drill.Convert)
	until := time.Now().AddDate(0, 6, 0).Format(time.DateOnly)
	require.Equal(t, until, decode[contract.DrillProgress](t, marta.ends(g, answers)).Until)
	require.Nil(t, marta.get("IV-2 / BONNET").Drills)
	require.Equal(t, 200, marta.add(run, pull(next, nil)).status)
	log := s.as("ruth").do("GET", "/api/site", nil).body
	require.Contains(t, log, "passed the drill “convert it”; it holds until")
	require.NotContains(t, log, "of 5", "how often it took is nobody's")
	require.NoError(t, json.Unmarshal([]byte(marta.do("GET", "/api/joints/"+j.ID.String()+"/along", nil).body), &b))
	require.Contains(t, b.Me.Qualifications, "drill: convert it")
	at, err = pocket.Open(b)
	require.NoError(t, err)
	_, err = at.Add(entryOf(t, pull(marta.get("IV-2 / BONNET").Run.Next, nil)), pocket.Photo{}, time.Now())
	require.NoError(t, err)

	found, err := s.store.Audit(t.Context(), against())
	require.NoError(t, err)
	require.Empty(t, found.Faults, "who is qualified is a fact of theirs")

	// Passing it once more takes nothing from whoever has it without an end, or for longer.
	for _, held := range []string{`{}`, `{"drill: convert it": "2099-01-31"}`} {
		s.exec("update people set qualified_until = '" + held + "' where login = 'marta'")
		g, answers = marta.begins(drill.Convert)
		p := decode[contract.DrillProgress](t, marta.ends(g, answers))
		require.True(t, p.Counts && p.Went[len(p.Went)-1].Passed)
		require.Equal(t, map[bool]string{true: "2099-01-31"}[held != `{}`], p.Until)
	}

	// It runs out, for the server and for what is taken along.
	s.exec(`update people set qualified_until = '{"drill: convert it": "2026-01-31"}' where login = 'marta'`)
	require.Equal(t, http.StatusForbidden, marta.add(run, pull(marta.get("IV-2 / BONNET").Run.Next, nil)).status)
	b = pocket.Bundle{}
	require.NoError(t, json.Unmarshal([]byte(marta.do("GET", "/api/joints/"+j.ID.String()+"/along", nil).body), &b))
	require.NotContains(t, b.Me.Qualifications, "drill: convert it")
	require.Equal(t, []string{"convert it"}, b.Drills)

	// It is asked for no more; nor twice.
	path := "/api/drills/asked/" + recipe + "/convert%20it"
	require.Equal(t, 204, edda.do("DELETE", path, nil).status)
	require.Equal(t, http.StatusNotFound, edda.do("DELETE", path, nil).status)
	require.Equal(t, 200, marta.add(run, pull(marta.get("IV-2 / BONNET").Run.Next, nil)).status)
	require.Equal(t, 2, strings.Count(s.as("ruth").do("GET", "/api/site", nil).body, `"kind":"drill"`))
}

func entryOf(t *testing.T, entry map[string]any) contract.NewEntry {
	t.Helper()
	var n contract.NewEntry
	b, err := json.Marshal(entry)
	require.NoError(t, err)
	require.NoError(t, json.Unmarshal(b, &n))
	n.ID = uuid.New()
	return n
}
