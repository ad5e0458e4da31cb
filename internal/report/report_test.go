package report_test

import (
	"bytes"
	"encoding/csv"
	"encoding/json"
	"fmt"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"dynacor/internal/report"
)

// long is a record of 40 bolts with more entries than fit on a page.
func long() report.Record {
	at := time.Date(2026, 11, 3, 9, 0, 0, 0, time.UTC)
	r := report.Record{Site: "Ottermere Hydro", Outage: "Unit 2", Tag: "U2 / COVER", Title: "Cover", Area: "Pit", State: "sign",
		Revision: 2, IssuedAt: at, Sentence: []string{"A gasketed flange with 40 × M24."}, Deviations: []string{"bolt 9 moved in round 1"},
		Hash: strings.Repeat("ab", 32)}
	for i := range 40 {
		r.Bolts = append(r.Bolts, report.Bolt{Position: i + 1, Level: float64(i) / 39, Mark: "still"})
	}
	for i := range 200 {
		r.Entries = append(r.Entries, report.Entry{Number: i + 1, Kind: "done", AtTool: at, AtServer: at, Person: "Ada \"Quote\", Jr",
			What: fmt.Sprintf("bolt %d, 20 %%", i%40+1), Outcome: "held", Setting: 342, Unit: "N·m", Note: "=SUM(A1)\nsecond line"})
	}
	return r
}

func TestPDFHoldsEveryEntryOverItsPages(t *testing.T) {
	var b bytes.Buffer
	require.NoError(t, report.PDF(&b, long()))
	file := filepath.Join(t.TempDir(), "r.pdf")
	require.NoError(t, os.WriteFile(file, b.Bytes(), 0o644))
	out, err := exec.Command("pdftotext", "-layout", file, "-").Output()
	require.NoError(t, err)
	text := string(out)
	require.Equal(t, 200, strings.Count(text, "342 N·m"))
	require.Greater(t, strings.Count(text, "\f"), 3, "several pages")
	require.Contains(t, text, "Nobody has signed yet")
	require.Contains(t, text, "supports and does not replace")
}

func TestCSVAndJSONReadBack(t *testing.T) {
	var b bytes.Buffer
	require.NoError(t, report.CSV(&b, long()))
	rows, err := csv.NewReader(&b).ReadAll()
	require.NoError(t, err)
	require.Len(t, rows, 201)
	require.Equal(t, "Ada \"Quote\", Jr", rows[1][7])
	require.Equal(t, "'=SUM(A1)\nsecond line", rows[1][20], "what somebody typed is no formula")
	b.Reset()
	require.NoError(t, report.JSON(&b, long()))
	var back report.Record
	require.NoError(t, json.Unmarshal(b.Bytes(), &back))
	require.Equal(t, long(), back)
}

func TestAnEmptyRecordPrints(t *testing.T) {
	var b bytes.Buffer
	require.NoError(t, report.PDF(&b, report.Record{}))
	require.NotEmpty(t, b.Bytes())
}

// A character that no font of ours has, in whatever somebody wrote, keeps no record from
// being printed; what JSON has of it is as it was written.
func TestEveryRecordPrints(t *testing.T) {
	r := long()
	const odd = "Pump 💥 𝟚 水"
	r.Tag, r.Title, r.Site, r.Area, r.State = odd, odd, odd, odd, odd
	r.Sentence, r.Deviations = []string{odd}, []string{odd}
	r.Numbers = []report.Number{{Of: odd, Part: odd, Name: odd, Comes: odd, Formula: odd, Numbers: odd, Source: odd,
		Symbols: []report.Symbol{{Sign: odd, Name: odd}}}}
	for i := range r.Entries {
		r.Entries[i].Note, r.Entries[i].Person, r.Entries[i].What = odd, odd, odd
	}
	var b bytes.Buffer
	require.NoError(t, report.PDF(&b, r))
	file := filepath.Join(t.TempDir(), "r.pdf")
	require.NoError(t, os.WriteFile(file, b.Bytes(), 0o644))
	out, err := exec.Command("pdftotext", "-layout", file, "-").Output()
	require.NoError(t, err)
	require.Contains(t, string(out), "Pump")
	b.Reset()
	require.NoError(t, report.JSON(&b, r))
	require.Contains(t, b.String(), odd)
	b.Reset()
	require.NoError(t, report.NumbersPDF(&b, odd, odd, report.Reader{}, r.Numbers))
}
