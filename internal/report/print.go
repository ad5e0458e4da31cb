package report

import "strings"

// lastPrinted is the last character that the library of the PDF prints.
const lastPrinted = '\uffff'

// notPrinted stands in a PDF for a character that cannot be printed; the record as JSON
// has it as it was written.
const notPrinted = "�"

// printed returns s with what cannot be printed replaced.
func printed(s string) string {
	if !strings.ContainsFunc(s, unprinted) {
		return s
	}
	var out strings.Builder
	for _, r := range s {
		if unprinted(r) {
			out.WriteString(notPrinted)
		} else {
			out.WriteRune(r)
		}
	}
	return out.String()
}

func unprinted(r rune) bool { return r > lastPrinted }

// says is a text in the language of whoever reads the page.
func (p page) says(s string) string { return printed(p.words.Say(s)) }

// recipe is what the recipe says, likewise; what of it is English alone is marked.
func (p page) recipe(s string) string {
	says, whole := p.words.Said(s)
	if !whole {
		says = "[EN] " + says
	}
	return printed(says)
}

// each says several things one after the other.
func (p page) each(list []string, by string, say func(string) string) string {
	out := make([]string, len(list))
	for i, s := range list {
		out[i] = say(s)
	}
	return strings.Join(out, by)
}

// fill says a sentence with what was said before in its holes. So each part is said by itself, and
// none is taken apart with the rest.
func (p page) fill(sentence string, holes ...any) string {
	return printed(p.words.Fill(sentence, holes...))
}

// said is the page for what was said before: a line of it could be a word of English, too.
func (p page) said() page { return page{p.Fpdf, p.r, nil} }

// past reports whether a page is filled to y on A4, in mm; on other paper as far from its end.
func (p page) past(y float64) bool {
	_, h := p.GetPageSize()
	return p.GetY() > y-297+h
}

// All text goes by way of these.

// CellFormat is the library's, of what can be printed.
func (p page) CellFormat(w, h float64, s, border string, ln int, align string, fill bool, link int, url string) {
	p.Fpdf.CellFormat(w, h, p.says(s), border, ln, align, fill, link, url)
}

// MultiCell is the library's, likewise.
func (p page) MultiCell(w, h float64, s, border, align string, fill bool) {
	p.Fpdf.MultiCell(w, h, p.says(s), border, align, fill)
}

// Text is the library's, likewise.
func (p page) Text(x, y float64, s string) { p.Fpdf.Text(x, y, p.says(s)) }

// GetStringWidth is the library's, likewise.
func (p page) GetStringWidth(s string) float64 { return p.Fpdf.GetStringWidth(p.says(s)) }

// SplitText is the library's, likewise.
func (p page) SplitText(s string, w float64) []string { return p.Fpdf.SplitText(p.says(s), w) }
