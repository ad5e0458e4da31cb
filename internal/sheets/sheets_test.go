package sheets_test

import (
	"bytes"
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"
	"github.com/xuri/excelize/v2"

	"dynacor/internal/sheets"
)

var table = sheets.Table{Headings: []string{"Tag", "Torque (N·m)"}, Lines: [][]string{{"PS-1 / BYPASS", "88 ft·lbf"}, {"=1+1", ""}}}

func TestTablesComeBack(t *testing.T) {
	var c, x bytes.Buffer
	require.NoError(t, sheets.CSV(&c, table))
	require.Contains(t, c.String(), "'=1+1", "never a formula")
	got, err := sheets.Read(c.Bytes())
	require.NoError(t, err)
	require.Equal(t, table, got, "and the guard is no part of it")
	require.NoError(t, sheets.XLSX(&x, "Joints", table))
	got, err = sheets.Read(x.Bytes())
	require.NoError(t, err)
	require.Equal(t, table, got)
	f, err := excelize.OpenReader(&x)
	require.NoError(t, err)
	formula, err := f.GetCellFormula("Joints", "A3")
	require.NoError(t, err)
	require.Empty(t, formula)
}

func TestCSVAsItIsSaved(t *testing.T) {
	for _, text := range []string{"Tag,Size\nJ-1,4\n", "\xef\xbb\xbfTag;Size\r\nJ-1;4\r\n", "Tag\tSize\nJ-1\t4",
		"Tag,Size,\nJ-1,4,,\n,,\n\n"} {
		got, err := sheets.Read([]byte(text))
		require.NoError(t, err, text)
		require.Equal(t, sheets.Table{Headings: []string{"Tag", "Size"}, Lines: [][]string{{"J-1", "4"}}}, got, text)
	}
}

func TestFilesThatCannotBeRead(t *testing.T) {
	for text, says := range map[string]string{
		"": "no line", "\n\n": "no line", ",,\nx": "no headings", "Tag\n\"open": "cannot be read", "\xff\xfe\x00": "UTF-8",
		"PK\x03\x04broken": "cannot be opened",
		"Tag\nJ\x001":      "cannot be seen", "Tag\nJ\u202e1": "cannot be seen", "Tag\n" + strings.Repeat("x", 1001): "1001 letters",
		"a" + strings.Repeat(",a", 200): "201 columns", "Tag\n" + strings.Repeat("x\n", 20_001): "lines",
	} {
		_, err := sheets.Read([]byte(text))
		require.ErrorContains(t, err, says, fmt.Sprintf("%.20q", text))
	}
}

func FuzzRead(f *testing.F) {
	f.Add([]byte("Tag,Size\nJ-1,4\n"))
	var x bytes.Buffer
	if err := sheets.XLSX(&x, "Joints", table); err != nil {
		f.Fatal(err)
	}
	f.Add(x.Bytes())
	f.Fuzz(func(t *testing.T, file []byte) {
		got, err := sheets.Read(file)
		for _, line := range got.Lines {
			if err == nil && len(line) != len(got.Headings) {
				t.Fatal(line)
			}
		}
	})
}
