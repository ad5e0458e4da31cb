package server_test

import (
	"bytes"
	"encoding/base64"
	"fmt"
	"net/http"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"testing"

	"github.com/google/uuid"
	"github.com/stretchr/testify/require"

	"dynacor/internal/app"
	"dynacor/internal/contract"
	"dynacor/internal/sheets"
)

// listed writes a table as a file that is sent.
func listed(t *testing.T, xlsx bool, headings []string, lines ...[]string) string {
	t.Helper()
	var b bytes.Buffer
	table := sheets.Table{Headings: headings, Lines: lines}
	if xlsx {
		require.NoError(t, sheets.XLSX(&b, "Joints", table))
	} else {
		require.NoError(t, sheets.CSV(&b, table))
	}
	return base64.StdEncoding.EncodeToString(b.Bytes())
}

func (c *client) look(file string) contract.ImportLook {
	c.t.Helper()
	a := c.do("POST", "/api/imports/look", map[string]any{"file": file})
	require.Equal(c.t, http.StatusOK, a.status, a.body)
	return decode[contract.ImportLook](c.t, a)
}

func (c *client) imports(file string, columns []string, try bool) contract.ImportResult {
	c.t.Helper()
	a := c.do("POST", "/api/imports", map[string]any{"file": file, "columns": columns, "try": try})
	require.Equal(c.t, http.StatusOK, a.status, a.body)
	return decode[contract.ImportResult](c.t, a)
}

func fields(l contract.ImportLook) (out []string) {
	for _, c := range l.Columns {
		out = append(out, c.Field)
	}
	return out
}

var headings = []string{"Joint no", "Area", "Description", "Joint type", "Torque (ft-lb)", "Bolts", "Bolt size", "Grade", "Remarks"}

// A list from planning: its columns are matched by their headings, what is wrong is named by
// row and column, the rest comes in together; taken in again it changes drafts, and never
// what a plan was issued for.
func TestJointsComeInFromPlanning(t *testing.T) {
	for _, xlsx := range []bool{false, true} {
		s := open(t)
		liv, edda := s.as("liv"), s.as("edda")
		const kind = "Gasketed pipe flange"
		lines := [][]string{
			{"ps-1 / new 1", "Penstock gallery", "New flange", kind, "88", "8", "M20", "8.8", "x"},
			{"PS-1 / NEW 2", "penstock gallery", "Another", "gasketed-flange", "120 N·m", "8", "M20", "8.8", ""},
			{"PS-1 / NEW 3", "Nowhere", "Third", kind, "tight", "8", "M20", "8.8", ""},
			{"PS-1 / NEW 1", "Penstock gallery", "Twice", kind, "88", "8", "M20", "8.8", ""},
			{"", "Penstock gallery", "No tag", kind, "88", "8", "M20", "8.8", ""},
			{"PS-1 / NEW 4", "Penstock gallery", "Fourth", kind, "1,250", "8", "M20", "8.8", ""},
			{"PS-1 / NEW 5", "Penstock gallery", "Fifth", kind, "88", "8", "M2000", "8.8", ""},
			{"IV-2 / BONNET", "Penstock gallery", "Not any more a bonnet", kind, "88", "8", "M20", "8.8", ""},
		}
		file := listed(t, xlsx, headings, lines...)
		l := liv.look(file)
		require.False(t, l.Before)
		require.Equal(t, []string{"tag", "area", "title", "kind", "value torque", "count", "thread", "grade", ""}, fields(l))
		require.Equal(t, "ft·lbf", l.Columns[4].Unit)
		require.Equal(t, len(lines), l.Lines)

		try := liv.imports(file, fields(l), true)
		require.Empty(t, s.tags("PS-1 / NEW"), "nothing is stored")
		got := liv.imports(file, fields(l), false)
		require.Equal(t, try, got)
		require.Equal(t, []int{2, 0, 0, 1, 5}, []int{got.Fresh, got.Changed, got.Same, got.Issued, got.Wrong})
		wrong := map[int]string{}
		for _, r := range got.Rows {
			for _, w := range r.Wrong {
				wrong[r.Line] += w.Column + ": " + w.Text + "; "
			}
		}
		for line, says := range map[int]string{4: `Area: there is no area "Nowhere"`, 5: "Joint no: line 2 has this tag, too",
			6: "Joint no: it is empty",
			7: "Torque (ft-lb): \"1,250\" could be 1250 or 1.250", 8: "Bolt size: "} {
			require.Contains(t, wrong[line], says)
		}
		require.Equal(t, []string{"PS-1 / NEW 1", "PS-1 / NEW 2"}, s.tags("PS-1 / NEW"))
		j := liv.get("PS-1 / NEW 1")
		require.Equal(t, "New flange", j.Title)
		require.Equal(t, 1, j.Draft.Version)
		require.Equal(t, "Inlet valve bonnet", liv.get("IV-2 / BONNET").Title)

		require.True(t, liv.look(file).Before, "the match is remembered")
		again := liv.imports(file, fields(l), false)
		require.Equal(t, []int{0, 0, 2, 1}, []int{again.Fresh, again.Changed, again.Same, again.Issued})
		lines[0][4], lines[0][2] = "90", "Newer flange"
		changed := liv.imports(listed(t, xlsx, headings, lines[:2]...), fields(l), false)
		require.Equal(t, []int{1, 1}, []int{changed.Changed, changed.Same})
		j = liv.get("PS-1 / NEW 1")
		require.Equal(t, []any{"Newer flange", 2}, []any{j.Title, j.Draft.Version})
		found, err := s.store.Audit(t.Context(), against())
		require.NoError(t, err)
		require.Empty(t, found.Faults)

		a := edda.do("GET", "/api/list/"+map[bool]string{true: "xlsx", false: "csv"}[xlsx], nil)
		require.Equal(t, http.StatusOK, a.status)
		out := base64.StdEncoding.EncodeToString([]byte(a.body))
		l = liv.look(out)
		back := liv.imports(out, fields(l), true)
		for _, r := range back.Rows {
			require.Empty(t, r.Wrong, r.Tag)
			require.Contains(t, []contract.ImportRowWhat{"same", "issued"}, r.What, r.Tag)
		}
		require.Zero(t, back.Fresh+back.Changed+back.Wrong, "what goes out comes in as it was")
	}
}

// tags are those of the joints whose tags begin so.
func (s *site) tags(begin string) (out []string) {
	joints, err := s.store.Joints(s.t.Context())
	require.NoError(s.t, err)
	for _, j := range joints {
		if strings.HasPrefix(j.Tag, begin) {
			out = append(out, j.Tag)
		}
	}
	return out
}

func TestFilesThatCannotComeIn(t *testing.T) {
	liv := open(t).as("liv")
	send := func(file string) string {
		return liv.do("POST", "/api/imports/look", map[string]any{"file": file}).problem(t).Detail
	}
	require.Contains(t, send(base64.StdEncoding.EncodeToString([]byte("PK\x03\x04x"))), "cannot be opened")
	require.Contains(t, send(base64.StdEncoding.EncodeToString([]byte("\xff\xfe"))), "UTF-8")
	require.Contains(t, send("not base64!"), "byte")
	file := listed(t, false, headings, []string{"J", "Pit"})
	for _, columns := range [][]string{{}, {"tag"}, {"tag", "tag", "", "", "", "", "", "", ""}, {"nothing", "", "", "", "", "", "", "", ""},
		{"", "", "", "", "", "", "", "", ""}} {
		a := liv.do("POST", "/api/imports", map[string]any{"file": file, "columns": columns})
		require.Equal(t, "columns", a.problem(t).Field, a.body)
	}
	a := liv.do("POST", "/api/imports/look", map[string]any{"file": strings.Repeat("A", 12<<20)})
	require.Equal(t, http.StatusRequestEntityTooLarge, a.status)
}

// text is what a PDF says on its pages.
func text(t *testing.T, pdf string) string {
	t.Helper()
	path := filepath.Join(t.TempDir(), "x.pdf")
	require.NoError(t, os.WriteFile(path, []byte(pdf), 0o600))
	out, err := exec.Command("pdftotext", "-layout", path, "-").Output()
	require.NoError(t, err)
	return string(out)
}

// The signed records go out as one document, by area, with their list; each can be verified.
func TestAPackOfSignedRecords(t *testing.T) {
	s := open(t)
	edda := s.as("edda")
	a := edda.do("GET", "/api/pack", nil)
	require.Equal(t, http.StatusOK, a.status, a.body)
	words := text(t, a.body)
	first, _, _ := strings.Cut(words, "\f")
	for _, w := range []string{"Signed records", "Penstock gallery", signedJoint, "Turbine pit"} {
		require.Contains(t, first, w)
	}
	require.NotContains(t, first, "IV-2 / BONNET", "nobody signed it")
	require.NotContains(t, first, "{p")
	require.Regexp(t, signedJoint+`.*\s\d+\n`, first)
	pages := strings.Split(words, "\f")
	var on int
	for _, l := range strings.Split(first, "\n") {
		if strings.Contains(l, signedJoint) {
			f := strings.Fields(l)
			_, err := fmt.Sscan(f[len(f)-1], &on)
			require.NoError(t, err)
		}
	}
	require.Contains(t, pages[on-1], "Penstock manway cover", "it is where the list says")
	require.Contains(t, pages[on-1], "Deviations")
	w := decode[contract.Wall](t, edda.do("GET", "/api/wall", nil))
	none := edda.do("GET", "/api/pack?area="+w.Areas[0].Joints[0].ID.String(), nil)
	require.Equal(t, "nothing-signed", none.problem(t).Code)
}

// What lies ready at a joint is printed: its parts by number with how each lies, and its kit with
// the sizes that follow from its bolts.
func TestPartsAndKitArePrinted(t *testing.T) {
	s := open(t)
	marta := s.as("marta")
	kit := func(tag string) string {
		a := marta.do("GET", "/api/joints/"+marta.get(tag).ID.String()+"/kit", nil)
		require.Equal(t, http.StatusOK, a.status, a.body)
		return text(t, a.body)
	}
	words := kit("IV-2 / BONNET")
	for _, w := range []string{"IV-2 / BONNET", "Parts, from one side to the other side", "washer, flat face toward the flange A",
		"socket 46 mm for the bolts", "Materials", "Worn"} {
		require.Contains(t, words, w)
	}
	require.NotContains(t, words, "Chain")
	require.Contains(t, kit("GOV / GATE REDUCER"), "up to slow-speed side")
	require.Equal(t, http.StatusNotFound, marta.do("GET", "/api/joints/"+uuid.NewString()+"/kit", nil).status)
}

// Each joint has a card with a code that opens it; what no plan is issued for has no values.
func TestCardsHangAtJoints(t *testing.T) {
	s := open(t)
	marta := s.as("marta")
	for _, on := range []int{1, 4, 8} {
		a := marta.do("GET", fmt.Sprintf("/api/cards?on=%d", on), nil)
		require.Equal(t, http.StatusOK, a.status, a.body)
		words := text(t, a.body)
		sheets := strings.Count(words, "\f")
		joints := len(s.tags(""))
		require.Equal(t, (joints+on-1)/on, sheets)
		for _, w := range []string{"IV-2 / BONNET", "N·m", "a newer plan wins", "no plan is issued yet"} {
			require.Contains(t, words, w)
		}
	}
	j := marta.get("IV-2 / BONNET")
	one := text(t, marta.do("GET", "/api/cards?on=1&joint="+j.ID.String(), nil).body)
	require.Equal(t, 1, strings.Count(one, "\f"))
	require.Contains(t, one, strings.Trim(strings.Join(strings.Fields(fmt.Sprint(j.Run.Groups[0].Order[:8])), " "), "[]"), "in its order")
	require.Equal(t, http.StatusBadRequest, marta.do("GET", "/api/cards?on=3", nil).status)
}

// What is due is a calendar at a private address: whoever knows it reads that, and nothing
// else, until it is taken away or its person may not sign in any more.
func TestACalendarOfWhatIsDue(t *testing.T) {
	s := open(t)
	marta, stranger := s.as("marta"), s.visitor()
	address := func() string {
		a := marta.do("POST", "/api/calendar", nil)
		require.Equal(t, http.StatusOK, a.status, a.body)
		return decode[struct{ Path string }](t, a).Path
	}
	path := address()
	a := stranger.do("GET", path, nil)
	require.Equal(t, http.StatusOK, a.status)
	require.Contains(t, a.header.Get("Content-Type"), "text/calendar")
	for _, w := range []string{"BEGIN:VCALENDAR", "SUMMARY:Calibrate ", "SUMMARY:Re-torque ", "DTSTART;VALUE=DATE:"} {
		require.Contains(t, a.body, w)
	}
	second := address()
	require.Equal(t, http.StatusNotFound, stranger.do("GET", path, nil).status, "there is another now")
	require.Equal(t, http.StatusOK, stranger.do("GET", second+".ics", nil).status)
	s.exec("update people set active = false where login = 'marta'")
	require.Equal(t, http.StatusNotFound, stranger.do("GET", second, nil).status)
	s.exec("update people set active = true where login = 'marta'")
	require.Equal(t, http.StatusNoContent, marta.do("DELETE", "/api/calendar", nil).status)
	require.Equal(t, http.StatusNotFound, stranger.do("GET", second, nil).status)
	due, err := s.app.Due(t.Context())
	require.NoError(t, err)
	seen := map[string]app.DueThing{}
	for _, d := range due {
		require.NotContains(t, seen, d.ID)
		seen[d.ID] = d
		require.True(t, d.Day || d.Until.After(d.From), d.What)
	}
}
