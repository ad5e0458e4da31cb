package report

import (
	"fmt"
	"io"
	"math"
	"strings"

	"dynacor/core/figure"
)

// Card is a joint as it hangs at the joint: what it is, what its bolts are pulled to and in
// which order, and a code that opens it.
type Card struct {
	Tag, Title, Area, Kind string
	Plan                   string // which plan it is of, or that there is none
	Link                   string // address that the code opens
	Values                 []CardValue
	Figure                 figure.Figure
}

// CardValue is what a group of bolts is pulled to.
type CardValue struct {
	Words string // 16 × M30 8.8, moly paste
	Value string // 749 N·m, or how else
	Order string // 1 9 5 13 …; empty: none
}

// Cards writes cards, so many on each A4, with lines to cut along.
func Cards(w io.Writer, site string, to Reader, each int, list []Card) error {
	cols, rows := 1, 1
	switch each {
	case 4:
		cols, rows = 2, 2
	case 8:
		cols, rows = 2, 4
	}
	p, err := begun("Cards of "+site, cut, Record{Site: site, Reader: to})
	if err != nil {
		return err
	}
	p.SetFooterFunc(func() {})
	p.SetAutoPageBreak(false, 0)
	const edge = 8.0
	cw, ch := (210-2*edge)/float64(cols), (297-2*edge)/float64(rows)
	for i, c := range list {
		at := i % each
		if at == 0 && i > 0 {
			p.AddPage()
		}
		x, y := edge+float64(at%cols)*cw, edge+float64(at/cols)*ch
		p.SetDrawColor(line.r, line.g, line.b)
		p.SetLineWidth(0.2)
		p.SetDashPattern([]float64{1.5, 1.5}, 0)
		p.Rect(x, y, cw, ch, "D")
		p.SetDashPattern(nil, 0)
		p.card(c, x+5, y+5, cw-10, ch-10)
	}
	return p.Output(w)
}

// card draws one into a field: the code and the words at its head, the drawing and the
// values below.
func (p page) card(c Card, x, y, w, h float64) {
	k := math.Min(1.9, math.Max(0.82, h/100)) // how large its words are
	code := math.Min(26*k, h*0.36)
	p.code(c.Link, x+w-code, y, code)
	p.ink(ink)
	top := y
	put := func(style string, size, high float64, text string, most float64) {
		p.SetFont("text", style, size)
		p.said().fit(text, x, top, most, high, size)
		top += high
	}
	left := w - code - 4
	put("B", 15*k, 6.6*k, c.Tag, left)
	put("", 9.5*k, 4.4*k, c.Title, left)
	p.ink(soft)
	put("", 8*k, 3.8*k, c.Area+" · "+p.says(c.Kind), left)
	put("", 8*k, 3.8*k, p.says(c.Plan), left)
	p.ink(ink)
	below := math.Max(top, y+code) + 2*k
	room := y + h - below
	if h > 1.2*w { // there is room for the drawing across
		drawn := math.Min(w, room*0.6)
		p.labels(c, x+w/2, below+drawn/2, drawn/2-1.5)
		p.amounts(c, x, below+drawn+3*k, w, room-drawn-3*k, math.Min(1.5*k, 2.2))
		return
	}
	drawn := math.Min(room, w*0.46)
	p.labels(c, x+drawn/2, below+drawn/2, drawn/2-1.5)
	p.amounts(c, x+drawn+4, below, w-drawn-4, room, k)
}

func (p page) labels(c Card, cx, cy, half float64) {
	q := page{p.Fpdf, Record{Figure: c.Figure}, p.words}
	for _, b := range c.Figure.Bolts {
		q.r.Bolts = append(q.r.Bolts, Bolt{Position: b.Bolt})
	}
	q.figure(cx, cy, half)
}

// amounts writes the values beside the drawing, and of the order as much as there is room
// for: a part of an order would be taken for all of it.
func (p page) amounts(c Card, x, y, w, h, k float64) {
	at := y
	for _, v := range c.Values {
		if at > y+h-9*k {
			p.SetFont("text", "", 8*k)
			p.fit("more on the screen", x, at, w, 4*k, 8*k)
			return
		}
		p.SetFont("text", "B", 13*k)
		p.fit(v.Value, x, at, w, 5.8*k, 13*k)
		at += 5.8 * k
		p.SetFont("text", "", 8*k)
		for _, l := range p.SplitText(v.Words, w) {
			p.said().fit(l, x, at, w, 3.7*k, 8*k)
			at += 3.7 * k
		}
		if v.Order == "" {
			at += 2 * k
			continue
		}
		p.SetFont("mono", "", 8*k)
		lines := p.SplitText(v.Order, w)
		if at+float64(len(lines)+1)*3.7*k > y+h {
			lines = []string{p.says("order: on the screen")}
		} else {
			lines = append([]string{p.says("order")}, lines...)
		}
		for _, l := range lines {
			p.said().fit(l, x, at, w, 3.7*k, 8*k)
			at += 3.7 * k
		}
		at += 2 * k
	}
}

// fit writes one line, made smaller until it fits; what is still too long ends in dots.
func (p page) fit(text string, x, y, w, h, size float64) {
	text, p = p.says(text), p.said()
	for ; p.GetStringWidth(text) > w && size > 6; size-- {
		p.SetFontSize(size)
	}
	for cut := []rune(text); p.GetStringWidth(text) > w && len(cut) > 1; {
		cut = cut[:len(cut)-1]
		text = strings.TrimSpace(string(cut)) + "…"
	}
	p.SetXY(x, y)
	p.CellFormat(w, h, text, "", 0, "L", false, 0, "")
}

// FileName is what a record is called as a file, without its ending.
func FileName(r Record) string {
	return fmt.Sprintf("%s plan %d", strings.ReplaceAll(r.Tag, "/", "-"), r.Revision)
}
