package server_test

import (
	"bufio"
	"net/http"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/require"

	"dynacor/internal/server"
	"dynacor/internal/server/contract"
)

func newEntry(kind string, content map[string]any) map[string]any {
	return map[string]any{"id": uuid.NewString(), "kind": kind, "at": time.Now().UTC().Format(time.RFC3339Nano), "content": content}
}

// add posts an entry to the run of a joint.
func (c *client) add(run string, entry map[string]any) answer {
	return c.do("POST", "/api/runs/"+run+"/entries", entry)
}

func TestAnEntrySentTwiceIsStoredOnce(t *testing.T) {
	s := open(t)
	marta := s.as("marta")
	before := marta.get("IV-2 / BONNET").Run
	run := before.ID.String()
	e := newEntry("pull", map[string]any{"bolt": before.Next.Bolt, "pass": before.Next.Pass})
	first := decode[contract.Run](t, marta.add(run, e))
	require.Equal(t, before.Entries+1, first.Entries)
	// Again on this server, and on another that has never seen it.
	elsewhere := serve(t, s.store, server.Options{}).as("marta")
	for _, c := range []*client{marta, elsewhere} {
		again := decode[contract.Run](t, c.add(run, e))
		require.Equal(t, first.Entries, again.Entries)
		require.Equal(t, first.Next, again.Next)
	}
	// Two servers take turns at one run without losing its place.
	next := first.Next
	for i, c := range []*client{elsewhere, marta, elsewhere, marta} {
		r := decode[contract.Run](t, c.add(run, newEntry("pull", map[string]any{"bolt": next.Bolt, "pass": next.Pass})))
		require.Equal(t, first.Entries+i+1, r.Entries)
		next = r.Next
	}

	// Another entry under the same identity is no repetition.
	e["content"] = map[string]any{"bolt": next.Bolt, "pass": next.Pass}
	require.Equal(t, "entry-taken", marta.add(run, e).problem(t).Code)
}

// The same entry sent by many at once is stored once, and each is answered.
func TestManySendersOfOneEntry(t *testing.T) {
	s := open(t)
	marta := s.as("marta")
	before := marta.get("IV-2 / BONNET").Run
	e := newEntry("pull", map[string]any{"bolt": before.Next.Bolt, "pass": before.Next.Pass})
	var wg sync.WaitGroup
	for range 8 {
		wg.Go(func() {
			if got := marta.add(before.ID.String(), e); got.status != http.StatusOK {
				t.Errorf("%d %s", got.status, got.body)
			}
		})
	}
	wg.Wait()
	require.Equal(t, before.Entries+1, marta.get("IV-2 / BONNET").Run.Entries)
}

func TestEntriesThatAreRefusedStoreNothing(t *testing.T) {
	s := open(t)
	marta := s.as("marta")
	before := marta.get("IV-2 / BONNET").Run
	run, n := before.ID.String(), before.Next
	late := newEntry("pull", map[string]any{"bolt": n.Bolt, "pass": n.Pass})
	late["at"] = time.Now().Add(24 * time.Hour).UTC().Format(time.RFC3339)
	for _, c := range []struct {
		entry       map[string]any
		status      int
		code, field string
	}{
		{newEntry("pull", map[string]any{"bolt": n.Bolt + 1, "pass": n.Pass}), 409, "not-next", "bolt"},
		{newEntry("check", map[string]any{"bolt": n.Bolt, "round": 1}), 409, "not-next", "bolt"},
		{newEntry("pull", map[string]any{"bolt": n.Bolt, "pass": n.Pass, "reading": map[string]any{"value": 150, "unit": "N·m"}}), 409, "far-reading", "reading"},
		{newEntry("pull", map[string]any{"bolt": n.Bolt, "pass": n.Pass, "reading": map[string]any{"value": 107, "unit": "mm"}}), 422, "contradicts", "reading"},
		{newEntry("measurement", map[string]any{"phase": "after", "gaps": []float64{1, 1, 1, 1}}), 409, "not-now", "phase"},
		{newEntry("tooling", map[string]any{"wrench": "TW-03"}), 422, "out-of-date", "wrench"},
		{newEntry("tooling", map[string]any{"wrench": "TW-01"}), 422, "out-of-range", "wrench"},
		{newEntry("tooling", map[string]any{"wrench": "TW-99"}), 422, "unknown", "wrench"},
		{newEntry("correction", map[string]any{}), 422, "needs-reason", "reason"},
		{newEntry("dance", map[string]any{}), 400, "invalid", "kind"},
		{newEntry("pull", map[string]any{"bolt": "seven"}), 400, "invalid", "content.bolt"},
		{late, 422, "out-of-range", "at"},
	} {
		got := marta.add(run, c.entry)
		p := got.problem(t)
		require.Equal(t, c.status, got.status, got.body)
		require.Equal(t, c.code, p.Code, got.body)
		require.NotNil(t, p.Field, got.body)
		require.Equal(t, c.field, *p.Field, got.body)
	}
	far := marta.add(run, newEntry("pull", map[string]any{"bolt": n.Bolt, "pass": n.Pass, "reading": map[string]any{"value": 150, "unit": "N·m"}})).problem(t)
	require.InDelta(t, 150, *far.Value, 1e-9)
	require.InDelta(t, 107, *far.Limit, 1e-9)
	require.Equal(t, "N·m", *far.Unit)
	require.Equal(t, before.Entries, marta.get("IV-2 / BONNET").Run.Entries)
	kept := marta.add(run, newEntry("pull", map[string]any{"bolt": n.Bolt, "pass": n.Pass, "confirmed": true, "reading": map[string]any{"value": 150, "unit": "N·m"}}))
	require.True(t, decode[contract.Run](t, kept).Outside, "kept as a deviation")
}

func TestSigningAsksForThePinAndAnotherPerson(t *testing.T) {
	s := open(t)
	haro, tomas := s.as("haro"), s.as("tomas")
	run := haro.get("U2 / COOLER IN").Run.ID.String()
	sign := newEntry("signature", map[string]any{"part": "checked"})
	require.Equal(t, "wrong-pin", haro.add(run, sign).problem(t).Code)
	require.Equal(t, "not-yours", tomas.add(run, sign).problem(t).Code, "an engineer is no inspector")
	sign["pin"] = "4711"
	signed := decode[contract.Run](t, haro.add(run, sign))
	require.EqualValues(t, "signed", signed.Stage)
	require.Equal(t, "not-now", s.as("piet").add(run, newEntry("pause", map[string]any{})).problem(t).Code)
}

func TestDraftsThatCannotBeAreNotStored(t *testing.T) {
	s := open(t)
	marta := s.as("marta")
	j := marta.get("RK / WASH PUMP")
	path := "/api/joints/" + j.ID.String() + "/draft"
	in := j.Draft.Input
	in.Bolts = 0
	p := marta.do("PUT", path, map[string]any{"version": 0, "input": in}).problem(t)
	require.Equal(t, "bolts", *p.Field)
	require.InDelta(t, 3, *p.Limit, 0)
	require.Zero(t, marta.get("RK / WASH PUMP").Draft.Version)
	in.Bolts = 12
	require.Equal(t, 1, decode[contract.Draft](t, marta.do("PUT", path, map[string]any{"version": 0, "input": in})).Version)
	require.Equal(t, "changed-meanwhile", s.as("jonas").do("PUT", path, map[string]any{"version": 0, "input": in}).problem(t).Code)
}

func TestIssueNeedsADecisionAndAReason(t *testing.T) {
	s := open(t)
	edda := s.as("edda")
	cooler := edda.get("RK / COOLER")
	issue := func(j contract.Joint, more map[string]any) answer {
		body := map[string]any{"version": j.Draft.Version, "pin": "4711"}
		for k, v := range more {
			body[k] = v
		}
		return edda.do("POST", "/api/joints/"+j.ID.String()+"/issue", body)
	}
	require.Equal(t, "needs-decision", issue(cooler, nil).problem(t).Code)
	bearing := edda.get("U2 / GUIDE BEARING")
	require.Equal(t, "signed", issue(bearing, nil).problem(t).Code)
	bonnet := edda.get("IV-2 / BONNET")
	require.Equal(t, "needs-reason", issue(bonnet, nil).problem(t).Code)
	again := decode[contract.Joint](t, issue(bonnet, map[string]any{"reason": "gasket changed"}))
	require.Equal(t, 2, again.Plan.Revision)
	require.Zero(t, again.Run.Entries)
	old := s.as("marta").add(bonnet.Run.ID.String(), newEntry("pull", map[string]any{"bolt": bonnet.Run.Next.Bolt, "pass": bonnet.Run.Next.Pass}))
	require.Equal(t, "plan-replaced", old.problem(t).Code)
}

func TestScreensHearOfPulls(t *testing.T) {
	s := open(t)
	marta, ines := s.as("marta"), s.as("ines")
	before := marta.get("IV-2 / BONNET")
	req, err := http.NewRequest("GET", s.http.URL+"/api/stream", nil)
	require.NoError(t, err)
	r, err := ines.http.Do(req)
	require.NoError(t, err)
	defer r.Body.Close()
	lines := bufio.NewScanner(r.Body)
	require.True(t, lines.Scan(), "the stream begins at once")
	marta.add(before.Run.ID.String(), newEntry("pull", map[string]any{"bolt": before.Run.Next.Bolt, "pass": before.Run.Next.Pass}))
	for lines.Scan() {
		if strings.Contains(lines.Text(), before.ID.String()) {
			return
		}
	}
	require.Fail(t, "the stream ended without the pull")
}

func TestFormulasStayTextInTheSpreadsheet(t *testing.T) {
	s := open(t)
	marta := s.as("marta")
	j := marta.get("IV-2 / BONNET")
	marta.add(j.Run.ID.String(), newEntry("pause", map[string]any{"note": "=1+1"}))
	got := marta.do("GET", "/api/joints/"+j.ID.String()+"/record/csv", nil)
	require.Contains(t, got.body, "'=1+1")
	require.Contains(t, got.header.Get("Content-Disposition"), `filename="IV-2 - BONNET plan 1.csv"`)
	require.Equal(t, "no-record", marta.do("GET", "/api/joints/"+marta.joint("RK / WASH PUMP")+"/record/pdf", nil).problem(t).Code)
}

// A signed flange goes on by its recipe; its record before stays to be had, under
// the number of its plan.
func TestWhatFollowsOnASignedFlange(t *testing.T) {
	s := open(t)
	edda := s.as("edda")
	j := edda.get("U2 / GUIDE BEARING")
	require.Equal(t, []string{"re-torque", "loosen"}, j.Follows)
	require.Empty(t, j.Before)
	path := "/api/joints/" + j.ID.String()
	follow := func(work, pin, reason string) answer {
		return edda.do("POST", path+"/follow", map[string]any{"work": work, "pin": pin, "reason": reason})
	}
	require.Equal(t, "needs-reason", follow("loosen", "4711", " ").problem(t).Code)
	require.Equal(t, "unknown", follow("paint", "4711", "it is rusty").problem(t).Code)
	require.Equal(t, http.StatusForbidden, follow("loosen", "1", "bearing changed").status)
	require.Nil(t, edda.get("U2 / GUIDE BEARING").Job, "nothing has changed")
	next := decode[contract.Joint](t, follow("loosen", "4711", "bearing changed"))
	require.Equal(t, 2, next.Job.Plan.Revision)
	require.True(t, next.Job.Run.Undoes)
	require.Len(t, next.Before, 1)
	require.NotNil(t, next.Before[0].SignedAt)
	require.Empty(t, next.Follows)
	require.Equal(t, "nothing-follows", follow("loosen", "4711", "again").problem(t).Code)
	// The draft is the recipe's from now on, and is changed from its version.
	require.Equal(t, j.Draft.Version+1, next.Job.Version)
	saved := edda.do("PUT", path+"/job", map[string]any{"version": next.Job.Version, "input": next.Job.Input})
	require.Equal(t, http.StatusOK, saved.status, saved.body)
	for revision, number := range map[string]int{"?revision=1": 1, "": 2} {
		record := decode[struct{ Revision int }](t, edda.do("GET", path+"/record/json"+revision, nil))
		require.Equal(t, number, record.Revision)
	}
	require.Equal(t, http.StatusNotFound, edda.do("GET", path+"/record/json?revision=9", nil).status)
	require.Equal(t, "nothing-follows", edda.do("POST", "/api/joints/"+edda.joint("IV-2 / BONNET")+"/follow", map[string]any{"work": "loosen", "pin": "4711", "reason": "x"}).problem(t).Code)
}
