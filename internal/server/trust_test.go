package server_test

import (
	"bytes"
	"compress/zlib"
	"fmt"
	"io"
	"maps"
	"net/http"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"
	"github.com/stretchr/testify/require"

	"dynacor/internal/app"
	"dynacor/internal/contract"
	"dynacor/internal/report"
	"dynacor/internal/seal"
	"dynacor/internal/server"
	"dynacor/internal/store"
)

// tampers changes the database as its owner does: no trigger stops them.
func (s *site) tampers(statements ...string) {
	s.t.Helper()
	require.NoError(s.t, pgx.BeginFunc(s.t.Context(), s.store.Pool(), func(tx pgx.Tx) error {
		for _, sql := range append([]string{"set local session_replication_role = replica"}, statements...) {
			if _, err := tx.Exec(s.t.Context(), sql); err != nil {
				return fmt.Errorf("%s: %w", sql, err)
			}
		}
		return nil
	}))
}

// against is what an audit of these tests holds the database to.
func against() store.Against { return store.Against{Keys: []seal.Public{key.Public()}} }

func (c *client) record(tag, format string, headers ...string) []byte {
	c.t.Helper()
	a := c.do("GET", "/api/joints/"+c.joint(tag)+"/record/"+format, nil, headers...)
	require.Equal(c.t, http.StatusOK, a.status, a.body)
	return []byte(a.body)
}

const signedJoint = "PS-1 / MANWAY"

// Whoever has a record, as PDF or JSON, and the site's public key can tell that it is what
// was signed, without a server.
func TestARecordIsVerifiedWithoutAServer(t *testing.T) {
	c := open(t).as("edda")
	for _, format := range []string{"pdf", "json"} {
		file := c.record(signedJoint, format)
		require.Equal(t, file, c.record(signedJoint, format), "the same record is the same file")
		v, err := app.Verify(file, key.Public())
		require.NoError(t, err)
		require.Empty(t, v.Faults)
		require.Empty(t, v.Notes)
		require.Empty(t, v.Unread)
		require.Equal(t, key.Public(), v.Key)
		require.Equal(t, []string{signedJoint, "signed", "Ottermere Hydro", "Penstock gallery"}, []string{v.Record.Tag, v.Record.State,
			v.Record.Site, v.Record.Area})
		require.Len(t, v.Record.Signatures, 2)
		v, err = app.Verify(file, must(seal.New()).Public())
		require.NoError(t, err)
		require.Contains(t, strings.Join(v.Faults, "; "), "not made with the site’s key")
	}
	v, err := app.Verify(c.record("IV-2 / BONNET", "json"), key.Public())
	require.NoError(t, err)
	require.Contains(t, v.Faults, "it is not sealed", "nobody signed it")
}

// A record is one text, whoever reads it: printed in another language it is still what was
// signed, and says in which its pages are.
func TestARecordIsPrintedInTheLanguageOfItsReader(t *testing.T) {
	c := open(t).as("edda")
	english := c.record(signedJoint, "pdf")
	require.Equal(t, english, c.record(signedJoint, "pdf", "Cookie", "dynacor-locale=tlh"), "of no page of ours")
	page := c.record(signedJoint, "pdf", "Cookie", "dynacor-locale=pl-PL") // who never chose, at a browser that is Polish
	require.NotEqual(t, english, page)
	require.Equal(t, http.StatusNoContent, c.do("PUT", "/api/session/locale", given{"locale": "pl-PL"}).status)
	require.Equal(t, "pl-PL", string(decode[contract.Session](t, c.do("GET", "/api/session", nil)).Locale))
	polish := c.record(signedJoint, "pdf")
	require.Equal(t, page, polish)
	v, err := app.Verify(polish, key.Public())
	require.NoError(t, err)
	require.Empty(t, v.Faults)
	require.Empty(t, v.Unread)
	file := filepath.Join(t.TempDir(), "record.pdf")
	require.NoError(t, os.WriteFile(file, polish, 0o600))
	out, err := exec.Command("pdftotext", "-layout", file, "-").Output()
	require.NoError(t, err)
	for _, says := range []string{"Odchylenia", "Podpisano"} {
		require.Contains(t, string(out), says)
	}
	require.Equal(t, http.StatusNoContent, c.do("PUT", "/api/session/locale", given{"locale": "de-DE"}).status)
	require.NoError(t, os.WriteFile(file, c.record(signedJoint, "pdf"), 0o600))
	out, err = exec.Command("pdftotext", "-layout", file, "-").Output()
	require.NoError(t, err)
	require.Contains(t, string(out), "Nov.")
	require.NotContains(t, string(out), "Nov..", "what was said once is not said again")
	require.Equal(t, http.StatusBadRequest, c.do("PUT", "/api/session/locale", given{"locale": "tlh"}).status)
}

// Whatever a file is made to say otherwise is found: in its words, in its proof, on its pages.
func TestAForgedRecordIsFound(t *testing.T) {
	c := open(t).as("edda")
	text := string(c.record(signedJoint, "json"))
	signer := decode[contract.Joint](t, c.do("GET", "/api/joints/"+c.joint(signedJoint), nil)).Run.Signatures[0].By
	for old, forged := range map[string]string{
		`"title": "Penstock manway cover"`:        `"title": "Penstock manway, rear"`,
		`"by": "` + signer + `"`:                  `"by": "Somebody Else"`,
		`"state": "signed"`:                       `"state": "signed twice"`,
		`\"bolt\":2,`:                             `\"bolt\":3,`,
		`"Kind": "signature"`:                     `"Kind": "pause"`,
		`"Kind": "person"`:                        `"Kind": "joint"`,
		`"deviations": [`:                         `"deviations": [ "x" , `,
		`"IssuedAt": "2026`:                       `"IssuedAt": "2025`,
		`\"tag\":\"PS-1 / MANWAY\"`:               `\"tag\":\"PS-1 / DRAIN\"`,
		`"recipe": "id:`:                          `"recipe": "iD:`,
		`"recipe": "id: gasketed-flange\nedition`: `"recipe": "id: gasketed-flange\n\nedition`,
	} {
		if !strings.Contains(text, old) {
			continue
		}
		v, err := app.Verify([]byte(strings.Replace(text, old, forged, 1)), key.Public())
		if err == nil {
			require.NotEmpty(t, v.Faults, "%s for %s", forged, old)
		}
	}
	// Who writes that another program wrote it has not had the pages compared, and is told so.
	v, err := app.Verify([]byte(strings.Replace(strings.Replace(text, `"program": "`, `"program": "9.`, 1), `"state": "signed"`,
		`"state": "open"`, 1)), key.Public())
	require.NoError(t, err)
	require.Contains(t, v.Unread, "were not compared")
	require.Equal(t, "signed", v.Record.State, "what is told follows from the proof")
	pdf := c.record(signedJoint, "pdf")
	attached := bytes.Index(pdf, []byte("endstream"))
	page := attached + 9 + bytes.Index(pdf[attached+9:], []byte("stream\n"))
	z, err := zlib.NewReader(bytes.NewReader(pdf[page+7:]))
	require.NoError(t, err)
	_, err = io.ReadAll(z)
	require.NoError(t, err, "what follows is a page")
	forged := bytes.Clone(pdf)
	forged[page+40] ^= 1
	v, err = app.Verify(forged, key.Public())
	require.NoError(t, err)
	require.Contains(t, v.Faults, "what it says is not what follows from its proof")
	_, err = app.Verify([]byte("%PDF-1.7 of something else"), key.Public())
	require.ErrorContains(t, err, "carries no record")
	_, err = app.Verify([]byte(`{"tag": "x"}`), key.Public())
	require.ErrorContains(t, err, "carries no proof")
}

// What does not hold is shown, and takes nothing else down with it.
func TestWhatDoesNotHoldIsQuarantined(t *testing.T) {
	for _, x := range []struct{ name, sql, says string }{
		{"an entry", "update entries set body = body || ' ' where run = {run} and seq = 9", "entry 9: the entry does not match"},
		{"an entry that cannot be read", "update entries set body = '{' where run = {run} and seq = 9", "entry 9"},
		{"an entry of an unknown kind", "update entries set kind = 'x' where run = {run} and seq = 9", "entry 9"},
		{"an entry is gone", "delete from entries where run = {run} and seq = 9", "entry 10: an entry before this one is missing"},
		{"the head", "update runs set head_hash = sha256(head_hash) where id = {run}", "the end of the run is not the one it had"},
		{"who did it", "update entries set person = gen_random_uuid() where run = {run} and seq = 9", "entry 9"},
		{"the plan", "update plans set reason = 'x' where joint = {joint}", "the plan does not match its hash"},
		{"a plan that cannot be read", "update plans set input = '{' where joint = {joint}", "the plan cannot be read"},
		{"a plan of nonsense", `update plans set input = '{"recipe":"gasketed-flange","edition":1}', result = '{}' where joint = {joint}`,
			"plan"},
		{"a plan that is gone", "delete from plans where joint = {joint}", "the plan is gone"},
	} {
		t.Run(x.name, func(t *testing.T) {
			s := open(t)
			marta := s.as("marta")
			j := marta.get("IV-2 / BONNET")
			put := strings.NewReplacer("{run}", "'"+j.Run.ID.String()+"'", "{joint}", "'"+j.ID.String()+"'")
			s.tampers(put.Replace(x.sql))
			anew := serve(t, s.store, server.Options{}).as("marta") // it remembers nothing
			_, err := anew.app.Audit(t.Context(), against())
			require.NoError(t, err)
			a := anew.do("GET", "/api/wall", nil)
			require.Equal(t, http.StatusOK, a.status, a.body)
			card := find(t, decode[contract.Wall](t, a), j.Tag)
			require.Equal(t, contract.JointCardState("stopped"), card.State)
			require.Contains(t, card.Text, "does not hold")
			require.Equal(t, http.StatusOK, anew.do("GET", "/api/library", nil).status)
			a = anew.do("GET", "/api/joints/"+j.ID.String(), nil)
			require.Contains(t, []int{http.StatusOK, http.StatusConflict, http.StatusNotFound}, a.status, a.body)
			if a.status == http.StatusOK {
				run := decode[contract.Joint](t, a).Run
				require.Contains(t, run.Fault, x.says)
				require.Nil(t, run.Next, "nobody is led on by it")
			}
			a = anew.add(j.Run.ID.String(), pull(j.Run.Next, nil))
			require.GreaterOrEqual(t, a.status, 400)
			require.Less(t, a.status, 500, a.body)
			for _, format := range []string{"json", "pdf", "csv"} {
				a = anew.do("GET", "/api/joints/"+j.ID.String()+"/record/"+format, nil)
				require.Equal(t, http.StatusOK, a.status, a.body)
				if format == "json" {
					require.Contains(t, a.body, `"state": "does not hold"`)
					require.Contains(t, a.body, x.says)
				}
			}
		})
	}
}

func find(t *testing.T, w contract.Wall, tag string) contract.JointCard {
	for _, a := range w.Areas {
		for _, j := range a.Joints {
			if j.Tag == tag {
				return j
			}
		}
	}
	require.Fail(t, "no card of "+tag)
	return contract.JointCard{}
}

// A recipe that was changed past the server is named, and no joint is made by it; those
// that were are not led by what it says now.
func TestAChangedRecipeIsNotUsed(t *testing.T) {
	s := open(t)
	edda := s.as("edda")
	file := edda.do("GET", "/api/library/gasketed-flange/yaml", nil).body
	own := strings.Replace(file, "gasketed-flange", "own-flange", 1)
	a := edda.do("POST", "/api/library", map[string]any{"file": own})
	require.Equal(t, http.StatusOK, a.status, a.body)
	j, fresh := edda.get("IV-2 / BONNET"), edda.joint("RK / WASH PUMP")
	s.tampers("update joints set recipe = 'own-flange' where id = '" + fresh + "'")
	for _, body := range []string{"body || ' '", "'{'"} {
		s.tampers("update recipes set body = " + body + " where id in ('own-flange', 'gasketed-flange') and edition = 1")
		anew := serve(t, s.store, server.Options{}).as("marta")
		l := decode[contract.Library](t, anew.do("GET", "/api/library", nil))
		faults := map[string]string{}
		for _, r := range l.Recipes {
			faults[r.ID] = r.Fault
		}
		require.Contains(t, faults["own-flange"], "changed past the server")
		require.Empty(t, faults["gasketed-flange"], "the one that ships is there anew, as the next edition")
		for _, id := range []string{j.ID.String(), fresh} {
			require.Equal(t, "does-not-hold", anew.do("GET", "/api/joints/"+id, nil).problem(t).Code)
		}
		w := anew.do("GET", "/api/wall", nil)
		require.Equal(t, http.StatusOK, w.status, w.body)
		wall := decode[contract.Wall](t, w)
		for _, tag := range []string{j.Tag, "RK / WASH PUMP"} {
			require.Contains(t, find(t, wall, tag).Text, "does not hold")
		}
	}
}

// back sets a run back to an earlier state, as a restored backup does.
func (s *site) back(run uuid.UUID, to int) {
	s.t.Helper()
	s.tampers(fmt.Sprintf("delete from entries where run = '%s' and seq > %d", run, to),
		fmt.Sprintf("update runs set head_seq = %d, head_hash = (select hash from entries where run = runs.id and seq = %d) where id = '%s'",
			to, to, run), fmt.Sprintf("delete from cards where run = '%s'", run))
}

// A server whose database goes back to an older state notices at the next read or write
// of a run, says what is stored now, and stores again what is sent again.
func TestTheDatabaseGoesBack(t *testing.T) {
	for _, first := range []string{"the entry again", "another entry", "the joint", "the wall"} {
		t.Run(first, func(t *testing.T) {
			s := open(t)
			marta := s.as("marta")
			j := marta.get("IV-2 / BONNET")
			run, before := j.Run.ID, j.Run.Entries
			var sent []map[string]any
			next := j.Run.Next
			for range 4 {
				e := pull(next, nil)
				sent = append(sent, e)
				r := stored(t, marta.add(run.String(), e))
				next = r.Next
			}
			require.Equal(t, before+4, marta.get(j.Tag).Run.Entries)
			s.back(run, before+1)
			switch first {
			case "the entry again": // it was acknowledged, and is not there any more
				a := marta.add(run.String(), sent[1])
				require.Equal(t, before+2, stored(t, a).Entries)
			case "another entry": // rests on what is not there any more
				require.Equal(t, "not-next", marta.add(run.String(), pull(next, nil)).problem(t).Code)
			case "the joint":
				require.Equal(t, before+1, marta.get(j.Tag).Run.Entries)
			case "the wall":
				require.Equal(t, http.StatusOK, marta.do("GET", "/api/wall", nil).status)
			}
			for _, e := range sent {
				require.Equal(t, http.StatusOK, marta.add(run.String(), e).status, "what is missing is sent again, and what is not, too")
			}
			require.Equal(t, before+4, marta.get(j.Tag).Run.Entries)
			found, err := s.store.Audit(t.Context(), against())
			require.NoError(t, err)
			require.Empty(t, found.Faults)
		})
	}
}

// A plan that is sent twice is issued once, also at the same time.
func TestAPlanIsIssuedOnce(t *testing.T) {
	s := open(t)
	edda := s.as("edda")
	j := edda.get("U2 / SHAFT SEAL")
	body := map[string]any{"version": j.Draft.Version, "run": uuid.NewString(), "pin": "4711"}
	var all sync.WaitGroup
	answers := make([]answer, 4)
	for i := range answers {
		all.Go(func() { answers[i] = edda.do("POST", "/api/joints/"+j.ID.String()+"/issue", body) })
	}
	all.Wait()
	answers = append(answers, edda.do("POST", "/api/joints/"+j.ID.String()+"/issue", body))
	for i, a := range answers {
		if a.status == http.StatusTooManyRequests && i < len(answers)-1 {
			continue // so many tries of one PIN at once wait, and are sent again
		}
		require.Equal(t, http.StatusOK, a.status, a.body)
		require.Equal(t, j.Plan.Revision+1, decode[contract.Joint](t, a).Plan.Revision)
	}
	other := edda.joint("IV-2 / BYPASS")
	require.Equal(t, "run-taken", edda.do("POST", "/api/joints/"+other+"/issue", body).problem(t).Code)
	require.Equal(t, j.Plan.Revision+1, edda.get(j.Tag).Plan.Revision)
}

// A device whose clock is off says by how much: its entries are dated by the server's, and
// both are kept. What is dated before its plan, or days back, is asked about, and noted.
func TestClocksThatAreOff(t *testing.T) {
	s := open(t)
	marta := s.as("marta")
	j := marta.get("IV-2 / BONNET")
	run := j.Run.ID.String()
	send := func(at time.Time, more map[string]any) answer {
		e := pull(marta.get(j.Tag).Run.Next, nil)
		e["at"] = at.UTC().Format(time.RFC3339Nano)
		maps.Copy(e, more)
		return marta.add(run, e)
	}
	slow := time.Now().Add(-5 * time.Hour)
	require.Equal(t, "asked", send(slow, nil).problem(t).Code, "it lies before the entry before it")
	require.Equal(t, http.StatusOK, send(slow, map[string]any{"off": 5 * 3600}).status)
	r := decode[report.Record](t, answer{body: string(marta.record(j.Tag, "json"))})
	last := r.Entries[len(r.Entries)-1]
	require.WithinDuration(t, time.Now(), last.AtTool, time.Minute)
	require.WithinDuration(t, slow, last.AtDevice, time.Second)
	require.Equal(t, http.StatusOK, send(time.Now(), map[string]any{"off": 60}).status, "a minute is no matter")
	r = decode[report.Record](t, answer{body: string(marta.record(j.Tag, "json"))})
	require.Zero(t, r.Entries[len(r.Entries)-1].AtDevice)

	old := time.Now().Add(-24 * 10 * time.Hour)
	p := send(old, nil).problem(t)
	require.Equal(t, "asked", p.Code)
	require.Contains(t, p.Detail, "before its plan was issued")
	require.Equal(t, http.StatusOK, send(old, map[string]any{"confirmed": true}).status)
	require.Contains(t, strings.Join(decode[report.Record](t, answer{body: string(marta.record(j.Tag, "json"))}).Deviations, "\n"),
		"before its plan was issued")
	found, err := s.store.Audit(t.Context(), against())
	require.NoError(t, err)
	require.Empty(t, found.Faults)
}
