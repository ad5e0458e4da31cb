package report

import (
	"encoding/base64"
	"fmt"

	qrcode "github.com/skip2/go-qrcode"
)

// words are what the code under a record says: enough to look its seal up and check it.
func (s Seal) words(r Record) string {
	return fmt.Sprintf("dynacor seal %d\n%s plan %d entry %d\n%s\n%s", s.Number, r.Tag, r.Revision, s.Entry, s.Head,
		base64.StdEncoding.EncodeToString(s.Signature))
}

// seal says by what anybody can tell that the record is what was signed.
func (p page) seal() {
	const side = 38.0
	if p.past(262 - side) {
		p.AddPage()
	}
	p.section("Sealed")
	top := p.GetY()
	s := p.r.Seal
	if s == nil {
		p.bullet(mind, "Not sealed yet.")
		p.hash("Last entry", p.r.Hash, width)
		return
	}
	w := width - side - 6
	p.MultiCell(w, 5, fmt.Sprintf("Seal %d, %s. It covers entry %d and all before it, the plan, its recipe, the tools, and who everybody "+
		"and what everything was called at that time. All times are those of %s.", s.Number, s.At.Format("2 Jan 2006 15:04:05 MST"), s.Entry,
		p.r.Zone), "", "L", false)
	p.hash("Entry it covers", s.Head, w)
	if p.r.Hash != s.Head {
		p.hash("Last entry, which came later", p.r.Hash, w)
	}
	p.hash("The site’s public key", s.Key, w)
	p.ink(soft)
	p.MultiCell(w, 4.4, "“dynacor verify FILE --key KEY” says without a network whether this file is what was signed. Take the key from the "+
		"site itself, not from this page.", "", "L", false)
	p.ink(ink)
	p.code(s.words(p.r), margin+width-side, top, side)
	p.SetY(max(p.GetY(), top+side+2))
}

// hash prints a long number whole.
func (p page) hash(name, text string, w float64) {
	p.ink(soft)
	p.MultiCell(w, 4.4, name+":", "", "L", false)
	p.ink(ink)
	p.SetFont("mono", "", 8)
	p.MultiCell(w, 4.4, text, "", "L", false)
	p.SetFont("text", "", 10)
}

// code draws a QR code as squares, mm.
func (p page) code(text string, x, y, side float64) {
	q, err := qrcode.New(text, qrcode.Medium)
	if err != nil { // longer than a code holds: it is on the page in words
		return
	}
	q.DisableBorder = true
	rows := q.Bitmap()
	k := side / float64(len(rows))
	p.SetFillColor(0, 0, 0)
	for i, row := range rows {
		for j := 0; j < len(row); j++ {
			from := j
			for j < len(row) && row[j] {
				j++
			}
			if j > from {
				p.Rect(x+float64(from)*k, y+float64(i)*k, float64(j-from)*k, k*1.02, "F")
			}
		}
	}
}
