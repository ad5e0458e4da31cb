package report

import (
	"bytes"
	"fmt"
	"io"
	"strings"

	"codeberg.org/go-pdf/fpdf"

	"dynacor/internal/words"
)

// Pack writes records into one document, by area, with their list before them: each as it
// is printed alone, in the words of its reader, and each as JSON with its proof inside.
func Pack(w io.Writer, site, outage string, to Reader, list []Record) error {
	p, err := begun("Records of "+site, words.Paper(to.Locale), Record{Site: site, Outage: outage, Reader: to, Entries: newest(list)})
	if err != nil {
		return err
	}
	var inside []fpdf.Attachment
	for _, r := range list {
		var text bytes.Buffer
		if err := JSON(&text, r); err != nil {
			return err
		}
		inside = append(inside, fpdf.Attachment{Content: text.Bytes(), Filename: FileName(r) + ".json",
			Description: "the record as JSON, with its proof"})
	}
	p.SetAttachments(inside)
	language, _, _ := strings.Cut(to.Locale, "-")
	links, pages := make([]int, len(list)), make([]string, len(list))
	for i := range list {
		links[i], pages[i] = p.AddLink(), fmt.Sprintf("{p%d}", i)
	}
	p.contents(list, links, pages)
	for i, r := range list {
		p.AddPage() // with the footer of the one before
		next := page{p.Fpdf, r, p.words.With(r.Texts[language])}
		p.SetFooterFunc(next.foot)
		p.SetLink(links[i], 0, p.PageNo())
		p.RegisterAlias(pages[i], fmt.Sprint(p.PageNo()))
		next.body()
	}
	return p.Output(w)
}

// newest stands for the record of a pack: what was added last to any of them.
func newest(list []Record) (out []Entry) {
	for _, r := range list {
		if n := len(r.Entries); n > 0 && (out == nil || r.Entries[n-1].AtServer.After(out[0].AtServer)) {
			out = []Entry{r.Entries[n-1]}
		}
	}
	return out
}

func (p page) contents(list []Record, links []int, pages []string) {
	p.ink(soft)
	p.SetFont("text", "", 9)
	p.CellFormat(width, 5, p.r.Site+", "+p.r.Outage, "", 1, "L", false, 0, "")
	p.ink(ink)
	p.SetFont("text", "B", 22)
	p.CellFormat(width, 10, "Signed records", "", 1, "L", false, 0, "")
	p.SetFont("text", "", 11)
	p.CellFormat(width, 6, fmt.Sprintf("%d joints.", len(list)), "", 1, "L", false, 0, "")
	area := ""
	for i, r := range list {
		if r.Area != area || i == 0 {
			area = r.Area
			p.section(area)
		}
		if p.past(270) {
			p.AddPage()
		}
		p.SetFont("mono", "", 10)
		p.CellFormat(52, 6, r.Tag, "", 0, "L", false, links[i], "")
		p.SetFont("text", "", 10)
		p.CellFormat(width-52-58, 6, r.Title, "", 0, "L", false, links[i], "")
		deviations := ""
		if n := len(r.Deviations); n > 0 {
			deviations = fmt.Sprintf("%d to note", n)
		}
		p.CellFormat(24, 6, deviations, "", 0, "L", false, links[i], "")
		p.CellFormat(22, 6, signedOn(r), "", 0, "R", false, links[i], "")
		p.CellFormat(12, 6, "  "+pages[i], "", 1, "L", false, links[i], "")
	}
}

func signedOn(r Record) string {
	if n := len(r.Signatures); n > 0 {
		return r.Signatures[n-1].At.Format("2 Jan 2006")
	}
	return ""
}
