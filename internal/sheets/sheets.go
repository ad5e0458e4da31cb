// Package sheets reads and writes tables as CSV and XLSX: the first sheet, whose first line
// is its headings.
package sheets

import (
	"bytes"
	"encoding/csv"
	"errors"
	"fmt"
	"io"
	"strings"
	"unicode/utf8"

	"github.com/xuri/excelize/v2"

	"dynacor/core/refusal"
)

// Table is a sheet. Lines are as long as its headings.
type Table struct {
	Headings []string
	Lines    [][]string
}

// The largest table that is read.
const (
	MostLines   = 20_000
	MostColumns = 200
	mostCell    = 1000     // letters
	mostOpened  = 64 << 20 // bytes, once an XLSX is unpacked
)

func refuse(format string, args ...any) error {
	return refusal.New(refusal.OutOfRange, "file", fmt.Sprintf(format, args...),
		"Save it as CSV or XLSX, one thing a line below one line of headings.")
}

// Read reads a CSV or XLSX file; which of them it is, it says itself.
func Read(file []byte) (Table, error) {
	var lines [][]string
	var err error
	if bytes.HasPrefix(file, []byte("PK")) {
		lines, err = readXLSX(file)
	} else {
		lines, err = readCSV(file)
	}
	if err != nil {
		return Table{}, err
	}
	return table(lines)
}

func table(lines [][]string) (t Table, err error) {
	if len(lines) == 0 {
		return t, refuse("The file has no line.")
	}
	t.Headings = lines[0]
	for len(t.Headings) > 0 && strings.TrimSpace(t.Headings[len(t.Headings)-1]) == "" {
		t.Headings = t.Headings[:len(t.Headings)-1]
	}
	switch n := len(t.Headings); {
	case n == 0:
		return t, refuse("The first line of the file has no headings.")
	case n > MostColumns:
		return t, refuse("The file has %d columns; %d at the most.", n, MostColumns)
	case len(lines)-1 > MostLines:
		return t, refuse("The file has %d lines; %d at the most.", len(lines)-1, MostLines)
	}
	for i, line := range lines {
		full := make([]string, len(t.Headings))
		copy(full, line)
		for j, cell := range full {
			if utf8.RuneCountInString(cell) > mostCell {
				return t, refuse("Line %d, %q: %d letters; %d at the most.", i+1, t.Headings[j], utf8.RuneCountInString(cell), mostCell)
			}
			if strings.ContainsFunc(cell, func(r rune) bool { return Hidden(r) || r == utf8.RuneError }) {
				return t, refuse("Line %d, %q has a character that cannot be seen.", i+1, t.Headings[j])
			}
		}
		if i == 0 {
			t.Headings = full
			continue
		}
		t.Lines = append(t.Lines, full)
	}
	// What a spreadsheet keeps below its last line is empty.
	for len(t.Lines) > 0 && strings.TrimSpace(strings.Join(t.Lines[len(t.Lines)-1], "")) == "" {
		t.Lines = t.Lines[:len(t.Lines)-1]
	}
	return t, nil
}

// Hidden reports whether a character is a control, or one that turns direction or has no
// width where words are.
func Hidden(r rune) bool {
	switch {
	case r == '\n', r == '\r', r == '\t':
		return false
	case r < 0x20, r >= 0x7f && r < 0xa0: // controls
		return true
	case r >= 0x202a && r <= 0x202e, r >= 0x2066 && r <= 0x2069, r == 0x200e, r == 0x200f, r == 0x061c: // direction
		return true
	}
	return r == 0x2028 || r == 0x2029 || r == 0xfeff
}

func readCSV(file []byte) ([][]string, error) {
	file = bytes.TrimPrefix(file, []byte("\xef\xbb\xbf"))
	if !utf8.Valid(file) {
		return nil, refuse("The file is no text in UTF-8.")
	}
	in := csv.NewReader(bytes.NewReader(file))
	in.FieldsPerRecord, in.LazyQuotes = -1, false
	in.Comma = comma(file)
	var out [][]string
	for {
		line, err := in.Read()
		if errors.Is(err, io.EOF) {
			return out, nil
		}
		if err != nil {
			return nil, refuse("The file cannot be read: %v.", err)
		}
		for i, cell := range line {
			if len(cell) > 1 && cell[0] == '\'' && strings.ContainsRune(formula, rune(cell[1])) {
				line[i] = cell[1:] // guarded when it was written
			}
		}
		if out = append(out, line); len(out) > MostLines+1 {
			return out, nil
		}
	}
}

// comma is what parts the cells of a CSV: what the first line has most of.
func comma(file []byte) rune {
	first, _, _ := bytes.Cut(file, []byte("\n"))
	best, most := ',', 0
	for _, r := range []rune{',', ';', '\t'} {
		if n := bytes.Count(first, []byte(string(r))); n > most {
			best, most = r, n
		}
	}
	return best
}

func readXLSX(file []byte) ([][]string, error) {
	f, err := excelize.OpenReader(bytes.NewReader(file), excelize.Options{UnzipSizeLimit: mostOpened, UnzipXMLSizeLimit: mostOpened})
	if err != nil {
		return nil, refuse("The workbook cannot be opened: %v.", err)
	}
	defer f.Close()
	names := f.GetSheetList()
	if len(names) == 0 {
		return nil, refuse("The workbook has no sheet.")
	}
	rows, err := f.Rows(names[0])
	if err != nil {
		return nil, refuse("The workbook cannot be read: %v.", err)
	}
	defer rows.Close()
	var out [][]string
	for rows.Next() {
		line, err := rows.Columns()
		if err != nil {
			return nil, refuse("The workbook cannot be read: %v.", err)
		}
		if out = append(out, line); len(out) > MostLines+1 {
			break
		}
	}
	if err := rows.Error(); err != nil {
		return nil, refuse("The workbook cannot be read: %v.", err)
	}
	return out, nil
}

// formula are the signs that a spreadsheet takes a cell for a formula by.
const formula = "=+-@\t\r"

// Used returns a table without the columns that no line has anything in, but for the first
// few.
func (t Table) Used(first int) Table {
	keep := make([]bool, len(t.Headings))
	for i := range keep {
		keep[i] = i < first
		for _, line := range t.Lines {
			keep[i] = keep[i] || line[i] != ""
		}
	}
	only := func(line []string) (out []string) {
		for i, cell := range line {
			if keep[i] {
				out = append(out, cell)
			}
		}
		return out
	}
	out := Table{Headings: only(t.Headings)}
	for _, line := range t.Lines {
		out.Lines = append(out.Lines, only(line))
	}
	return out
}

// CSV writes a table.
func CSV(w io.Writer, t Table) error {
	c := csv.NewWriter(w)
	_ = c.Write(guarded(t.Headings))
	for _, line := range t.Lines {
		_ = c.Write(guarded(line))
	}
	c.Flush()
	return c.Error()
}

// guarded keeps a spreadsheet from taking what somebody typed for a formula.
func guarded(line []string) []string {
	out := make([]string, len(line))
	for i, s := range line {
		if s != "" && strings.ContainsRune(formula, rune(s[0])) {
			s = "'" + s
		}
		out[i] = s
	}
	return out
}

// XLSX writes a table as a workbook: text as text, never as a formula, its headings held in
// place.
func XLSX(w io.Writer, name string, t Table) error {
	f := excelize.NewFile()
	defer f.Close()
	if err := f.SetSheetName("Sheet1", name); err != nil {
		return err
	}
	out, err := f.NewStreamWriter(name)
	if err != nil {
		return err
	}
	bold, err := f.NewStyle(&excelize.Style{Font: &excelize.Font{Bold: true}})
	if err != nil {
		return err
	}
	for i := range t.Headings {
		if err := out.SetColWidth(i+1, i+1, 18); err != nil {
			return err
		}
	}
	if err := out.SetPanes(&excelize.Panes{Freeze: true, YSplit: 1, TopLeftCell: "A2", ActivePane: "bottomLeft"}); err != nil {
		return err
	}
	row := func(n int, line []string, style int) error {
		cells := make([]any, len(line))
		for i, s := range line {
			cells[i] = excelize.Cell{StyleID: style, Value: s}
		}
		return out.SetRow(fmt.Sprintf("A%d", n), cells)
	}
	if err := row(1, t.Headings, bold); err != nil {
		return err
	}
	for i, line := range t.Lines {
		if err := row(i+2, line, 0); err != nil {
			return err
		}
	}
	if err := out.Flush(); err != nil {
		return err
	}
	return f.Write(w)
}
