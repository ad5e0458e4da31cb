package server_test

import (
	"encoding/base64"
	"net/http"
	"strings"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/require"

	"dynacor/internal/contract"
)

// newLife is something that happened to a tool.
func newLife(kind string, also map[string]any) map[string]any {
	out := map[string]any{"id": uuid.NewString(), "kind": kind}
	for k, v := range also {
		out[k] = v
	}
	return out
}

// checkOf is a check of a tool at its marks, that gives off times what was set.
func checkOf(t *testing.T, c *client, tag string, off float64, renews bool) map[string]any {
	t.Helper()
	card := decode[contract.ToolCard](t, c.do("GET", "/api/crib/"+tag, nil))
	var marks []map[string]any
	for _, m := range card.Marks {
		n := card.CheckReadings
		if renews {
			n = card.CalibrationReadings
		}
		r := make([]float64, n)
		for i := range r {
			r[i] = m * off
		}
		marks = append(marks, map[string]any{"at": m, "readings": r})
	}
	return map[string]any{"lab": "own tester", "unit": card.Unit, "marks": marks, "renews": renews}
}

func goodCheck(t *testing.T, c *client, tag string) map[string]any {
	return newLife("checked", map[string]any{"check": checkOf(t, c, tag, 1.01, false)})
}

// wrenchData is a wrench as the crib keeper enters it.
func wrenchData(tag string) map[string]any {
	return map[string]any{"tag": tag, "kind": "wrench", "face": "ring and thimble", "name": "click wrench", "unit": "N·m",
		"least": 40, "most": 200, "first": 40, "major": 10, "minor": 1, "driveOut": "1/2", "length": 480, "accuracy": 4,
		"months": 12, "pulls": 5000, "ratio": 3}
}

// A tool comes into the crib, is checked, lent and taken back, and who may not, may not.
func TestTheCribKeepersWork(t *testing.T) {
	s := open(t)
	bo, marta := s.as("bo"), s.as("marta")
	bad := func(edit func(m map[string]any)) map[string]any {
		m := wrenchData("TW-90")
		edit(m)
		return map[string]any{"id": uuid.NewString(), "data": m}
	}
	for _, c := range []struct {
		edit  func(m map[string]any)
		field string
		says  string
	}{
		{func(m map[string]any) { m["least"], m["most"] = 200, 40 }, "least", "turned round"},
		{func(m map[string]any) { m["unit"] = "bar" }, "unit", "does not belong"},
		{func(m map[string]any) { m["tag"] = "tw-04" }, "tag", "in the crib already"},
		{func(m map[string]any) { m["accuracy"] = 80 }, "accuracy", "80 %"},
		{func(m map[string]any) { m["minor"] = 3 }, "minor", "whole number"},
	} {
		p := bo.do("POST", "/api/crib", bad(c.edit)).problem(t)
		require.Equal(t, c.field, p.Field)
		require.Contains(t, p.Detail, c.says)
	}
	paper := decode[struct{ Hash string }](t, bo.do("POST", "/api/crib/papers", map[string]any{"file": []byte("%PDF-1.4\n%%EOF")})).Hash
	today := time.Now().Format(time.DateOnly)
	add := map[string]any{"id": uuid.NewString(), "data": wrenchData("TW-90"), "bought": today, "from": "the works' store", "place": "rack A"}
	early := map[string]any{}
	for k, v := range add {
		early[k] = v
	}
	cert := map[string]any{"lab": "Lab of the county", "certificate": "C 7", "paper": paper, "unit": "N·m", "renews": true, "marks": []any{}}
	for _, at := range []float64{40, 120, 200} {
		cert["marks"] = append(cert["marks"].([]any), map[string]any{"at": at, "readings": []float64{at, at, at, at, at}})
	}
	early["check"], early["checkedOn"] = cert, time.Now().AddDate(0, -1, 0).Format(time.DateOnly)
	p := bo.do("POST", "/api/crib", early).problem(t)
	require.Equal(t, "on", p.Field)
	require.Contains(t, p.Detail, "lies before TW-90 was bought")
	early["checkedOn"] = today
	card := decode[contract.ToolCard](t, bo.do("POST", "/api/crib", early))
	require.Equal(t, "in", string(card.Tool.Standing))
	require.Len(t, card.Life, 2)
	require.Equal(t, paper, card.Life[0].Paper)
	require.Contains(t, card.Life[0].Found.Text, "at most +0.0 % off")
	require.Zero(t, card.Data.Ratio, "what a wrench does not have is not kept")
	require.Equal(t, 4.0, card.Data.Accuracy)
	require.Equal(t, http.StatusOK, marta.do("GET", "/api/papers/file/"+paper, nil).status)

	crib := decode[contract.Crib](t, marta.do("GET", "/api/crib", nil))
	var martas string
	for _, x := range crib.People {
		if x.Name == "Marta Tolland" {
			martas = x.ID
		}
	}
	require.Equal(t, "not-yours", marta.do("POST", "/api/crib/TW-90/life", newLife("lent", map[string]any{"to": martas})).problem(t).Code)
	require.Equal(t, "to", bo.do("POST", "/api/crib/TW-90/life", newLife("lent", map[string]any{"to": uuid.NewString()})).problem(t).Field)
	lent := newLife("lent", map[string]any{"to": martas, "joint": "IV-2 / BONNET"})
	card = decode[contract.ToolCard](t, bo.do("POST", "/api/crib/TW-90/life", lent))
	require.Equal(t, "Marta Tolland", card.Tool.Lent)
	again := decode[contract.ToolCard](t, bo.do("POST", "/api/crib/TW-90/life", lent))
	require.Len(t, again.Life, len(card.Life), "sent twice it is there once")
	dropped := newLife("dropped", map[string]any{"note": "from the gallery"})
	card = decode[contract.ToolCard](t, marta.do("POST", "/api/crib/TW-90/life", dropped))
	require.Equal(t, "held", string(card.Tool.Standing))
	require.True(t, card.Doubt)
	require.Equal(t, "Marta Tolland", card.HeldBy)
	back := newLife("back", map[string]any{"note": "looks good"})
	require.Contains(t, bo.do("POST", "/api/crib/TW-90/life", back).problem(t).Detail, "Words do not make")
	none := newLife("checked", map[string]any{"check": map[string]any{"lab": "own", "unit": "N·m", "marks": []any{}}})
	require.Equal(t, "marks", bo.do("POST", "/api/crib/TW-90/life", none).problem(t).Field)
	off := newLife("checked", map[string]any{"check": checkOf(t, bo, "TW-90", 0.9, false)})
	card = decode[contract.ToolCard](t, bo.do("POST", "/api/crib/TW-90/life", off))
	require.Contains(t, card.Tool.Held, "+11.1 % off")
	data := wrenchData("TW-90")
	data["length"] = 500
	require.Equal(t, "why", bo.do("POST", "/api/crib/TW-90/life", newLife("changed", map[string]any{"data": data})).problem(t).Field)
	changed := newLife("changed", map[string]any{"data": data, "note": "measured"})
	card = decode[contract.ToolCard](t, bo.do("POST", "/api/crib/TW-90/life", changed))
	require.Equal(t, 500.0, card.Data.Length)
	require.Contains(t, card.Life[0].Note, `length "500", was "480"`)
	require.Equal(t, http.StatusNotFound, bo.do("GET", "/api/crib/NONE", nil).status)
	require.Equal(t, http.StatusNotFound, bo.do("POST", "/api/crib/NONE/life", newLife("returned", nil)).status)
}

// What the Crib gives out is read in again; what is wrong is named by line and column, and
// nothing of a wrong line is taken.
func TestAListOfTools(t *testing.T) {
	s := open(t)
	bo := s.as("bo")
	for _, format := range []string{"csv", "xlsx"} {
		list := bo.do("GET", "/api/crib/list/"+format, nil)
		require.Equal(t, http.StatusOK, list.status)
		got := decode[contract.ToolImport](t, bo.do("POST", "/api/crib/import", map[string]any{"file": []byte(list.body), "take": true}))
		require.Zero(t, got.Taken)
		require.NotEmpty(t, got.Rows)
		for _, r := range got.Rows {
			require.Equal(t, "same", string(r.What), "%s %v", r.Tag, r.Wrong)
		}
	}
	csv := strings.Join([]string{
		"tag,kind,name,face,unit,least,most,first,major,minor,driveOut,accuracy,months,calibrated,chart,pressureUnit,graduation",
		"TW-91,wrench,long one,,N·m,40,200,40,10,1,1/2,4,12,2026-10-01,,,",
		"TW-92,wrench,turned,,N·m,200,40,40,10,1,1/2,4,12,2026-10-01,,,",
		"HW-91,hydraulic wrench,,,,,,,,,1,3,,,70:300 140:200,bar,10",
		"TW-91,wrench,twice,,N·m,40,200,40,10,1,1/2,4,12,soon,,,"}, "\n")
	send := func(take bool) contract.ToolImport {
		file := base64.StdEncoding.EncodeToString([]byte(csv))
		return decode[contract.ToolImport](t, bo.do("POST", "/api/crib/import", map[string]any{"file": file, "take": take}))
	}
	look := send(false)
	require.Equal(t, "new", string(look.Rows[0].What))
	require.Equal(t, "least", look.Rows[1].Wrong[0].Column)
	require.Equal(t, 4, look.Rows[2].Line)
	var columns []string
	for _, w := range look.Rows[2].Wrong {
		columns = append(columns, w.Column)
	}
	require.ElementsMatch(t, []string{"name", "chart"}, columns)
	require.Len(t, look.Rows[3].Wrong, 2, "twice, and no date")
	require.Equal(t, http.StatusNotFound, bo.do("GET", "/api/crib/TW-91", nil).status, "looking takes nothing")
	require.Equal(t, 1, send(true).Taken)
	card := decode[contract.ToolCard](t, bo.do("GET", "/api/crib/TW-91", nil))
	require.Equal(t, "2027-10-01", card.Tool.DueOn.Format(time.DateOnly))
	require.Equal(t, "same", string(send(true).Rows[0].What))
	csv = strings.Replace(csv, "long one", "longer one", 1)
	require.Equal(t, 1, send(true).Taken)
	require.Equal(t, "longer one", decode[contract.ToolCard](t, bo.do("GET", "/api/crib/TW-91", nil)).Data.Name)
	require.Equal(t, "file", bo.do("POST", "/api/crib/import", map[string]any{"file": []byte("a,b\n1,2")}).problem(t).Field)
	for path, status := range map[string]int{"/api/crib/labels": http.StatusOK, "/api/crib/labels?tool=TW-91": http.StatusOK,
		"/api/crib/labels?tool=NONE": http.StatusNotFound} {
		got := bo.do("GET", path, nil)
		require.Equal(t, status, got.status, path)
		require.Equal(t, status == http.StatusOK, strings.HasPrefix(got.body, "%PDF-"))
	}
}

// A tool that comes into doubt is reported in every joint that it touched, also in those
// that are signed; a check that finds it good as it was answers, one that does not leaves it
// to the engineer.
func TestARecall(t *testing.T) {
	s := open(t)
	bo, marta := s.as("bo"), s.as("marta")
	card := decode[contract.ToolCard](t, bo.do("GET", "/api/crib/TW-04", nil))
	require.Greater(t, card.Count, 2)
	var signed *contract.Touch
	var tried bool
	for i, x := range card.Touched {
		if x.Signed {
			signed = &card.Touched[i]
		}
	}
	require.NotNil(t, signed)
	for _, d := range decode[contract.Wall](t, bo.do("GET", "/api/wall", nil)).Decisions {
		if d.Title == "U2 / GUIDE BEARING" {
			require.Contains(t, d.Detail, "re-check: bolts", "an engineer answered: the Wall asks for what is to be tried")
			require.False(t, d.Grave)
			tried = true
		}
	}
	require.True(t, tried, "the demo has a joint with a sample to be tried")
	card = decode[contract.ToolCard](t, marta.do("POST", "/api/crib/TW-04/life", newLife("dropped", map[string]any{"note": "from the stair"})))
	states := map[string]int{}
	for _, x := range card.Touched {
		states[string(x.State)]++
	}
	require.Zero(t, states["good"], "each was told: %v", states)
	require.Positive(t, states["waits"])
	after := marta.get(signed.Tag).Run
	require.Equal(t, "signed", string(after.Standing))
	require.Len(t, after.Signatures, 2, "what was signed stays signed")
	require.Contains(t, strings.Join(after.Open, " "), "What was made with TW-04 is in doubt")
	require.Len(t, after.Doubts, 1)
	record := s.as("ines").do("GET", "/api/joints/"+signed.Joint.String()+"/record/json", nil)
	require.Contains(t, record.body, "TW-04 reported dropped")
	card = decode[contract.ToolCard](t, bo.do("POST", "/api/crib/TW-04/life", goodCheck(t, bo, "TW-04")))
	require.Equal(t, "in", string(card.Tool.Standing))
	for _, x := range card.Touched {
		require.Contains(t, []string{"stands", "later", "replaced", "good"}, string(x.State), x.Tag)
	}
	require.Empty(t, marta.get(signed.Tag).Run.Open)
	require.Contains(t, s.as("ines").do("GET", "/api/joints/"+signed.Joint.String()+"/record/json", nil).body, "checked on")

	// Found off at its next check: an engineer answers, one joint after the other.
	card = decode[contract.ToolCard](t, bo.do("POST", "/api/crib/TW-04/life", newLife("dropped", nil)))
	card = decode[contract.ToolCard](t, bo.do("POST", "/api/crib/TW-04/life",
		newLife("checked", map[string]any{"check": checkOf(t, bo, "TW-04", 0.9, false)})))
	require.Contains(t, card.Tool.Held, "off at")
	require.Equal(t, "held", string(card.Tool.Standing))
}
