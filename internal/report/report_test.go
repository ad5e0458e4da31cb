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

// words are those of a PDF.
func words(t *testing.T, pdf *bytes.Buffer) string {
	t.Helper()
	file := filepath.Join(t.TempDir(), "r.pdf")
	require.NoError(t, os.WriteFile(file, pdf.Bytes(), 0o644))
	out, err := exec.Command("pdftotext", "-layout", file, "-").Output()
	require.NoError(t, err)
	return string(out)
}

func TestPDFHoldsEveryEntryOverItsPages(t *testing.T) {
	var b bytes.Buffer
	require.NoError(t, report.PDF(&b, long()))
	text := words(t, &b)
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
	require.Contains(t, words(t, &b), "Pump")
	b.Reset()
	require.NoError(t, report.JSON(&b, r))
	require.Contains(t, b.String(), odd)
	b.Reset()
	require.NoError(t, report.NumbersPDF(&b, odd, odd, report.Reader{}, r.Numbers))
}

// led is a record of one step, as a German reads it.
func led(text string, texts map[string]string) report.Record {
	at := time.Date(2026, 11, 3, 9, 0, 0, 0, time.UTC)
	return report.Record{Tag: "U2 / COVER", Title: "Bolts and nuts", Area: "Pit", State: "signed", Revision: 1, IssuedAt: at,
		Reader: report.Reader{Locale: "de-DE", Texts: map[string]map[string]string{"de": texts}},
		Steps: []report.Step{{Station: "prove", Text: text, Done: true, By: "Ada", At: at, Readings: "gap 2.1, 1.98 mm", Limit: "at most 4 mm",
			Ticks: []string{"bolts", "dance round it"}, Tries: []string{"gap 5 mm"}, Released: "Bea"}},
		Signatures: []report.Signature{{Part: "made", By: "Ada", At: at}}}
}

// What a step is printed as is put together from texts, each of which is said by itself: what of
// them is English alone is marked, and what people typed is as they typed it.
func TestAStepIsSaidPartByPart(t *testing.T) {
	var b bytes.Buffer
	require.NoError(t, report.PDF(&b, led("Nuts by hand, then: bolts; and a song.", nil)))
	text := strings.Join(strings.Fields(words(t, &b)), " ")
	for _, says := range []string{"Bolts and nuts. Plan 1, unterschrieben.", "[EN] Nuts by hand, then", ": Spalt 2,1 · 1,98 mm (höchstens 4 mm)",
		": Schrauben; [EN] dance round it", ", versucht: Spalt 5 mm", "Freigegeben von Bea", "Gemacht von Ada, 3 Nov. 2026 09:00."} {
		require.Contains(t, text, says)
	}
	b.Reset()
	english := led("Nuts by hand.", nil)
	english.Locale = "en-GB"
	require.NoError(t, report.PDF(&b, english))
	text = strings.Join(strings.Fields(words(t, &b)), " ")
	for _, says := range []string{"Nuts by hand: gap 2.1, 1.98 mm (at most 4 mm): bolts; dance round it, tried: gap 5 mm", "Released by Bea",
		"Made by Ada, 3 Nov 2026 09:00."} {
		require.Contains(t, text, says)
	}
	require.NotContains(t, text, "[EN]")
}

// A pack says each record in the words of its own recipe, as it is printed alone.
func TestAPackSaysWhatEachRecipeSays(t *testing.T) {
	first, second := led("Sing", map[string]string{"Sing": "Singen"}), led("Sing", map[string]string{"Sing": "Trällern"})
	var b bytes.Buffer
	require.NoError(t, report.Pack(&b, "Ottermere Hydro", "Unit 2", report.Reader{Locale: "de-DE"}, []report.Record{first, second}))
	text := words(t, &b)
	require.Contains(t, text, "Singen: Spalt")
	require.Contains(t, text, "Trällern: Spalt")
	require.NotContains(t, text, "[EN] Sing")
}
