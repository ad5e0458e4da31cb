package server_test

import (
	"bufio"
	"fmt"
	"maps"
	"net/http"
	"net/url"
	"slices"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dynacor/core/tool"
	"dynacor/internal/contract"
	"dynacor/internal/server"
)

func newEntry(kind string, content map[string]any) map[string]any {
	content["kind"] = kind
	return map[string]any{"id": uuid.NewString(), "at": time.Now().UTC().Format(time.RFC3339Nano), "content": content}
}

// pull is an act as it was done, and more of it.
func pull(a *contract.Act, more map[string]any) map[string]any {
	content := map[string]any{"step": a.Step, "bolt": a.Bolt, "share": a.Share, "round": a.Round}
	maps.Copy(content, more)
	return newEntry("done", content)
}

func reading(v float64, unit string) map[string]any {
	return map[string]any{"reading": map[string]any{"value": v, "unit": unit}}
}

// add posts an entry to the run of a joint.
func (c *client) add(run string, entry map[string]any) answer {
	return c.do("POST", "/api/runs/"+run+"/entries", entry)
}

// stored is the run that an entry is answered with.
func stored(t *testing.T, a answer) contract.Run {
	t.Helper()
	r := decode[contract.Stored](t, a).Run
	require.NotNil(t, r, a.body)
	return *r
}

// A screen that has seen the run is told what an act has changed, and that is all
// that has: put together it is the run as the server shows it.
func TestOneActMoreTellsWhatDiffers(t *testing.T) {
	s := open(t)
	marta := s.as("marta")
	run := *marta.get("IV-2 / BONNET").Run
	told := 0
	for i := range 60 {
		n := run.Next
		if n == nil || n.Step != "pull" {
			break
		}
		e := pull(n, map[string]any{"moved": n.Round == 1 && n.Bolt == 5})
		if n.Set {
			e = newEntry("setting", map[string]any{"group": n.Group, "share": n.Share})
		}
		e["at"] = time.Now().Add(time.Duration(i) * 6 * time.Second).UTC().Format(time.RFC3339Nano)
		e["known"] = run.Entries
		got := decode[contract.Stored](t, marta.add(run.ID.String(), e))
		require.True(t, (got.Run == nil) != (got.Onward == nil))
		now := *marta.get("IV-2 / BONNET").Run
		if o := got.Onward; o != nil {
			told++
			require.Equal(t, run.Entries, o.After)
			run.Entries++
			run.Next = &o.Next
			if o.Legend != nil {
				run.Legend = *o.Legend
			}
			if o.Step.ID != "" {
				run.Ahead = run.Ahead[1:]
			}
			run.Tape = append([]contract.TapeLine{o.Line}, run.Tape...)
			run.Tape = run.Tape[:len(now.Tape)]
			for _, b := range o.Bolts {
				for k := range run.Bolts {
					if run.Bolts[k].Group == b.Group && run.Bolts[k].Position == b.Position {
						run.Bolts[k] = b
					}
				}
			}
			for k := range run.Steps {
				if x := &run.Steps[k]; x.ID == o.Step.ID {
					x.Count, x.Rounds, x.DoneBy, x.DoneAt = o.Step.Count, o.Step.Rounds, o.Step.DoneBy, o.Step.DoneAt
				} else if len(x.Sample) > 0 { // which bolts a later step samples, it says when its time comes
					x.Sample, x.Spots, x.Reads = now.Steps[k].Sample, now.Steps[k].Spots, now.Steps[k].Reads
				}
			}
			plain := func(list []contract.Act) (out []contract.Act) {
				for _, a := range list { // how a bolt will look is drawn from when it was first seen
					a.After, a.Moved, a.Set = contract.Shown{}, contract.Shown{}, false
					out = append(out, a)
				}
				return out
			}
			require.Equal(t, plain(now.Ahead), plain(run.Ahead))
			run.Ahead = now.Ahead
			require.Equal(t, now, run)
		}
		run = now
	}
	require.Greater(t, told, 30)
}

func TestAnEntrySentTwiceIsStoredOnce(t *testing.T) {
	s := open(t)
	marta := s.as("marta")
	before := marta.get("IV-2 / BONNET").Run
	run := before.ID.String()
	e := pull(before.Next, nil)
	first := stored(t, marta.add(run, e))
	require.Equal(t, before.Entries+1, first.Entries)
	// Again on this server, and on another that has never seen it.
	elsewhere := serve(t, s.store, server.Options{}).as("marta")
	for _, c := range []*client{marta, elsewhere} {
		again := stored(t, c.add(run, e))
		require.Equal(t, first.Entries, again.Entries)
		require.Equal(t, first.Next, again.Next)
	}
	// Two servers take turns at one run without losing its place.
	next := first.Next
	for i, c := range []*client{elsewhere, marta, elsewhere, marta} {
		r := stored(t, c.add(run, pull(next, nil)))
		require.Equal(t, first.Entries+i+1, r.Entries)
		next = r.Next
	}

	// Another entry under the same identity is no repetition.
	e["content"] = pull(next, nil)["content"]
	require.Equal(t, "entry-taken", marta.add(run, e).problem(t).Code)
}

// The same entry sent by many at once is stored once, and each is answered.
func TestManySendersOfOneEntry(t *testing.T) {
	s := open(t)
	marta := s.as("marta")
	before := marta.get("IV-2 / BONNET").Run
	e := pull(before.Next, nil)
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
	late := pull(n, nil)
	late["at"] = time.Now().Add(24 * time.Hour).UTC().Format(time.RFC3339)
	for _, c := range []struct {
		entry       map[string]any
		status      int
		code, field string
	}{
		{pull(n, map[string]any{"bolt": n.Bolt + 1}), 409, "not-next", "act"},
		{pull(n, map[string]any{"round": 1}), 409, "not-next", "act"},
		{pull(n, reading(150, "N·m")), 409, "asked", "confirmed"},
		{pull(n, reading(107, "ft·lbf")), 409, "asked", "confirmed"},
		{pull(n, reading(107, "mm")), 422, "contradicts", "reading"},
		{newEntry("done", map[string]any{"step": "gap", "readings": []float64{1, 1, 1, 1}}), 409, "not-next", "act"},
		{newEntry("tooling", map[string]any{"group": "bolts", "wrench": "TW-03"}), 422, "out-of-date", "wrench"},
		{newEntry("tooling", map[string]any{"group": "bolts", "wrench": "TW-01"}), 422, "out-of-range", "wrench"},
		{newEntry("tooling", map[string]any{"group": "bolts", "wrench": "TW-99"}), 422, "unknown", "wrench"},
		{newEntry("setting", map[string]any{"group": "bolts", "share": 100}), 409, "not-now", "setting"},
		{newEntry("correction", map[string]any{"of": uuid.NewString(), "reason": ""}), 422, "needs-reason", "reason"},
		{newEntry("dance", map[string]any{}), 400, "invalid", "content"},
		{newEntry("done", map[string]any{"step": "pull", "bolt": "seven"}), 400, "invalid", "content.bolt"},
		{late, 422, "out-of-range", "at"},
	} {
		got := marta.add(run, c.entry)
		p := got.problem(t)
		assert.Equal(t, c.status, got.status, got.body)
		assert.Equal(t, c.code, p.Code, got.body)
		require.NotNil(t, p.Field, got.body)
		assert.Equal(t, c.field, p.Field, got.body)
	}
	require.Equal(t, before.Entries, marta.get("IV-2 / BONNET").Run.Entries)
	far := pull(n, reading(150, "N·m"))
	far["confirmed"] = true
	kept := stored(t, marta.add(run, far))
	require.Contains(t, fmt.Sprint(kept.Deviations), "150 N·m", "kept as a deviation")
}

func TestSigningAsksForThePinAndAnotherPerson(t *testing.T) {
	s := open(t)
	haro, tomas := s.as("haro"), s.as("tomas")
	run := haro.get("U2 / COOLER IN").Run.ID.String()
	sign := newEntry("signature", map[string]any{"part": "checked"})
	require.Equal(t, "wrong-pin", haro.add(run, sign).problem(t).Code)
	sign["pin"] = "4711"
	require.Equal(t, "same-person", tomas.add(run, sign).problem(t).Code, "an engineer is no inspector")
	signed := stored(t, haro.add(run, sign))
	require.EqualValues(t, "signed", signed.Standing)
	require.Equal(t, "not-now", s.as("piet").add(run, newEntry("pause", map[string]any{})).problem(t).Code)
}

func TestDraftsThatCannotBeAreNotStored(t *testing.T) {
	s := open(t)
	marta := s.as("marta")
	j := marta.get("RK / WASH PUMP")
	path := "/api/joints/" + j.ID.String() + "/draft"
	in := j.Draft.Input
	in.Choices = map[string]string{"work": "make", "gasket": "sheet", "faces": "raised", "bolts": "machine bolts"}
	group := func(count int) {
		in.Groups = map[string]contract.Bolts{"bolts": {Count: count}}
	}
	group(500)
	p := marta.do("PUT", path, map[string]any{"version": 0, "input": in}).problem(t)
	require.Equal(t, "groups.bolts.count", p.Field)
	require.InDelta(t, 200, *p.Limit, 0)
	require.Zero(t, marta.get("RK / WASH PUMP").Draft.Version)
	group(12)
	require.Equal(t, 1, decode[contract.Joint](t, marta.do("PUT", path, map[string]any{"version": 0, "input": in})).Draft.Version)
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
	require.Equal(t, "needs-reason", issue(bearing, nil).problem(t).Code, "a further plan on a signed joint")
	bonnet := edda.get("IV-2 / BONNET")
	require.Equal(t, "needs-reason", issue(bonnet, nil).problem(t).Code)
	again := decode[contract.Joint](t, issue(bonnet, map[string]any{"reason": "gasket changed"}))
	require.Equal(t, 2, again.Plan.Revision)
	require.Zero(t, again.Run.Entries)
	old := s.as("marta").add(bonnet.Run.ID.String(), pull(bonnet.Run.Next, nil))
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
	marta.add(before.Run.ID.String(), pull(before.Run.Next, nil))
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
	require.Equal(t, []string{"re-torque", "loosen"}, []string{j.Follows[0].Work, j.Follows[1].Work})
	require.Empty(t, j.Before)
	path := "/api/joints/" + j.ID.String()
	follow := func(work, pin, reason string) answer {
		return edda.do("POST", path+"/follow", map[string]any{"work": work, "pin": pin, "reason": reason})
	}
	require.Equal(t, "needs-reason", follow("loosen", "4711", " ").problem(t).Code)
	require.Equal(t, "nothing-follows", follow("paint", "4711", "it is rusty").problem(t).Code)
	require.Equal(t, http.StatusForbidden, follow("loosen", "1", "bearing changed").status)
	require.Equal(t, 1, edda.get("U2 / GUIDE BEARING").Plan.Revision, "nothing has changed")
	next := decode[contract.Joint](t, follow("loosen", "4711", "bearing changed"))
	require.Equal(t, 2, next.Plan.Revision)
	require.True(t, next.Run.Undoes)
	require.Len(t, next.Before, 1)
	require.NotNil(t, next.Before[0].SignedAt)
	require.Empty(t, next.Follows)
	require.Equal(t, "nothing-follows", follow("loosen", "4711", "again").problem(t).Code)
	// The draft is the recipe's from now on, and is changed from its version.
	require.Equal(t, j.Draft.Version+1, next.Draft.Version)
	saved := edda.do("PUT", path+"/draft", map[string]any{"version": next.Draft.Version, "input": next.Draft.Input})
	require.Equal(t, http.StatusOK, saved.status, saved.body)
	for revision, number := range map[string]int{"?revision=1": 1, "": 2} {
		record := decode[struct{ Revision int }](t, edda.do("GET", path+"/record/json"+revision, nil))
		require.Equal(t, number, record.Revision)
	}
	require.Equal(t, http.StatusNotFound, edda.do("GET", path+"/record/json?revision=9", nil).status)
	require.Equal(t, "nothing-follows", edda.do("POST", "/api/joints/"+edda.joint("IV-2 / BONNET")+"/follow",
		map[string]any{"work": "loosen", "pin": "4711", "reason": "x"}).problem(t).Code)
}

// Whoever is switched off adds nothing from then on, and sees nothing.
func TestWhoIsSwitchedOffIsOut(t *testing.T) {
	s := open(t)
	marta := s.as("marta")
	before := marta.get("IV-2 / BONNET").Run
	one := pull(before.Next, nil)
	require.Equal(t, http.StatusOK, marta.add(before.ID.String(), one).status) // from here on the server remembers her
	now := marta.get("IV-2 / BONNET").Run
	s.exec("update people set active = false where login = 'marta'")
	for what, again := range map[string]map[string]any{"a new pull": pull(now.Next, nil), "the same once more": one,
		"one not next": pull(before.Next, nil), "a pause": newEntry("pause", map[string]any{"note": "x"})} {
		require.Equal(t, "not-signed-in", marta.add(now.ID.String(), again).problem(t).Code, what)
	}
	require.Equal(t, http.StatusUnauthorized, marta.do("GET", "/api/wall", nil).status)
	require.Equal(t, now.Entries, s.as("jonas").get("IV-2 / BONNET").Run.Entries)
}

// What somebody may do is what they may at that moment, whatever the server
// remembers of them: less, more, and nothing after they signed out.
func TestRolesAreThoseOfTheMoment(t *testing.T) {
	s := open(t)
	marta := s.as("marta")
	one := func(says int) *contract.Run {
		t.Helper()
		r := marta.get("IV-2 / BONNET").Run
		if a := r.Next; a.Set {
			marta.add(r.ID.String(), newEntry("setting", map[string]any{"group": "bolts", "share": a.Share}))
		}
		got := marta.add(r.ID.String(), pull(r.Next, nil))
		require.Equal(t, says, got.status, got.body)
		return marta.get("IV-2 / BONNET").Run
	}
	before := one(http.StatusOK)
	s.exec("update people set roles = '{inspector}' where login = 'marta'")
	require.Equal(t, before.Entries, one(http.StatusForbidden).Entries)
	s.exec("update people set roles = '{}' where login = 'marta'")
	require.Equal(t, before.Entries, one(http.StatusForbidden).Entries)
	s.exec("update people set roles = '{inspector,fitter}' where login = 'marta'")
	require.Equal(t, before.Entries+1, one(http.StatusOK).Entries)

	r := marta.get("IV-2 / BONNET").Run
	s.exec("delete from sessions") // at another server, which this one does not hear of
	require.Equal(t, "not-signed-in", marta.add(r.ID.String(), pull(r.Next, nil)).problem(t).Code)
	require.Equal(t, r.Entries, s.as("jonas").get("IV-2 / BONNET").Run.Entries)
}

// A session that was signed out of is over, here as everywhere.
func TestSignedOutIsOut(t *testing.T) {
	s := open(t)
	marta := s.as("marta")
	r := marta.get("IV-2 / BONNET").Run
	require.Equal(t, http.StatusOK, marta.add(r.ID.String(), pull(r.Next, nil)).status)
	at, err := url.Parse(s.http.URL)
	require.NoError(t, err)
	cookie := marta.http.Jar.Cookies(at)[0].String()
	require.Equal(t, http.StatusNoContent, marta.do("DELETE", "/api/session", nil).status)
	late := s.visitor().do("POST", "/api/runs/"+r.ID.String()+"/entries", pull(&r.Ahead[0], nil), "Cookie", cookie)
	require.Equal(t, "not-signed-in", late.problem(t).Code)
}

// A tool reported dropped is held from that moment on, for every joint, until
// somebody says how it was checked.
func TestADroppedToolIsHeld(t *testing.T) {
	s := open(t)
	marta := s.as("marta")
	before := marta.get("IV-2 / BONNET").Run
	run := before.ID.String()
	r := stored(t, marta.add(run, newEntry("report", map[string]any{"tool": "TW-04", "what": "dropped"})))
	require.Equal(t, []string{"TW-04"}, r.Doubted)
	require.Contains(t, marta.add(run, pull(before.Next, nil)).problem(t).Detail, "TW-04")
	held := marta.get("IV-2 / BONNET").Held
	require.Len(t, held, 1)
	require.Equal(t, "TW-04", held[0].Tag)
	answered := newEntry("answer", map[string]any{"tool": "TW-04", "reason": "found good"})
	require.Equal(t, "not-yours", marta.add(run, answered).problem(t).Code, "an engineer answers")
	r = stored(t, s.as("edda").add(run, answered))
	require.Empty(t, r.Doubted)
	bo := s.as("bo")
	require.Equal(t, "not-yours", marta.do("POST", "/api/crib/TW-04/life", goodCheck(t, bo, "TW-04")).problem(t).Code)
	require.Equal(t, http.StatusOK, bo.do("POST", "/api/crib/TW-04/life", goodCheck(t, bo, "TW-04")).status)
	require.Contains(t, marta.add(run, pull(before.Next, nil)).problem(t).Way, "Next: chain as planned", "and it is looked at anew")
	for _, st := range marta.get("IV-2 / BONNET").Run.Steps {
		for _, x := range st.Ticks {
			if st.ID == "tool" && !x.Done {
				stored(t, marta.add(run, newEntry("done", map[string]any{"step": "tool", "item": x.Item})))
			}
		}
	}
	require.Equal(t, "setting", marta.add(run, pull(before.Next, nil)).problem(t).Field, "and it is set anew")
	marta.add(run, newEntry("setting", map[string]any{"group": "bolts", "share": before.Next.Share}))
	again := marta.add(run, pull(before.Next, nil))
	require.Equal(t, http.StatusOK, again.status, again.body)
}

// A database that cannot answer is a problem in the contract's form, which says
// nothing about what it is inside.
func TestADatabaseInTroubleIsAProblem(t *testing.T) {
	s := open(t)
	marta := s.as("marta")
	s.exec("alter table sessions rename to elsewhere")
	r := marta.do("GET", "/api/wall", nil)
	require.Equal(t, http.StatusInternalServerError, r.status)
	p := r.problem(t)
	require.Equal(t, "internal", p.Code)
	require.NotContains(t, r.body, "sessions")
}

// Before nuts are let go it is said to what pressure each hydraulic wrench may have to go, by
// its own chart; no wrench that is set in torque is offered for it.
func TestWhatNutsLetGoByIsFoundInTheCrib(t *testing.T) {
	s := open(t)
	edda, piet := s.as("edda"), s.as("piet")
	path := "/api/joints/" + edda.joint("PS-1 / MANWAY")
	next := decode[contract.Joint](t, edda.do("POST", path+"/follow",
		map[string]any{"work": "loosen", "pin": "4711", "reason": "the seal weeps"}))
	i := slices.IndexFunc(next.Run.Groups, func(g contract.Group) bool { return g.Breakout.High > 0 })
	require.GreaterOrEqual(t, i, 0)
	g := next.Run.Groups[i]
	ways := decode[contract.FindWays200JSONResponse](t, piet.do("POST", path+"/ways", map[string]any{"group": g.Name}))
	require.NotEmpty(t, ways.Ways)
	chart := tool.Chart{{Pressure: 70, Torque: 280}, {Pressure: 140, Torque: 565}, {Pressure: 350, Torque: 1420},
		{Pressure: 560, Torque: 2275},
		{Pressure: 690, Torque: 2800}} // of HW-1, as it is in the demo's crib
	want, err := chart.At(g.Breakout.High, 10)
	require.NoError(t, err)
	for _, w := range ways.Ways {
		require.True(t, w.Stages[0].Pressed, "%v", w.Stages[0].Tools)
	}
	require.Equal(t, []string{"HW-1"}, ways.Ways[0].Stages[0].Tools)
	require.InDelta(t, want.Pressure, ways.Ways[0].Stages[0].Setting.Value, 1e-9)
}
