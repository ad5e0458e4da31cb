package report

import (
	"io"
	"strings"
	"unicode"
	"unicode/utf8"

	"dynacor/internal/words"
)

// NumbersPDF writes where the numbers of a joint come from, to print.
func NumbersPDF(w io.Writer, tag, title string, to Reader, list []Number) error {
	p, err := begun("Numbers of "+tag, words.Paper(to.Locale), Record{Tag: tag, Reader: to})
	if err != nil {
		return err
	}
	p.ink(ink)
	p.SetFont("text", "B", 22)
	p.CellFormat(width, 10, tag, "", 1, "L", false, 0, "")
	p.SetFont("text", "", 11)
	p.said().CellFormat(width, 6, title+". "+p.says("Where its numbers come from."), "", 1, "L", false, 0, "")
	p.Ln(2)
	p.numbers(list)
	return p.Output(w)
}

// begins returns s with a capital.
func begins(s string) string {
	r, n := utf8.DecodeRuneInString(s)
	return string(unicode.ToUpper(r)) + s[n:]
}

// numbers writes each number: its formula, the same with its numbers in, what it comes
// to, and what is known of it.
func (p page) numbers(list []Number) {
	of := ""
	for _, n := range list {
		if n.Of != of {
			of = n.Of
			p.SetFont("text", "B", 11)
			p.Ln(2)
			p.CellFormat(width, 6, begins(n.Part), "", 1, "L", false, 0, "")
		}
		if p.past(250) {
			p.AddPage()
		}
		p.ink(ink)
		p.SetFont("text", "B", 10)
		p.said().MultiCell(width, 5, p.says(n.Name)+": "+p.says(n.Comes), "", "L", false)
		p.SetFont("mono", "", 8.5)
		p.MultiCell(width, 4.4, n.Formula+"\n"+n.Numbers, "", "L", false)
		p.SetFont("text", "", 8.5)
		p.ink(soft)
		var with []string
		for _, x := range n.Symbols {
			with = append(with, x.Sign+" "+p.says(x.Name))
		}
		p.said().MultiCell(width, 4.2, strings.Join(with, "; ")+".", "", "L", false)
		p.said().MultiCell(width, 4.2, p.fill("{0} {1} Source: {2}. {3}", p.says(n.Uncertain), p.says(n.Changes), p.says(n.Source),
			p.says(n.Valid)), "", "L", false)
		p.Ln(1.5)
		p.ink(ink)
	}
}
