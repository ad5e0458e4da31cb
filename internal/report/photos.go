package report

import (
	"bytes"
	"fmt"
	"strings"

	"codeberg.org/go-pdf/fpdf"
)

// How a photograph is printed: small, three beside one another.
const (
	photoWide = 56.0
	photoHigh = 42.0
	photoStep = 61.0
)

// photos prints the photographs small, each with its step, who took it, and its hash.
func (p page) photos() {
	if len(p.r.Photos) == 0 {
		return
	}
	p.section("Photographs")
	for i, x := range p.r.Photos {
		column := i % 3
		if column == 0 && p.past(225) {
			p.AddPage()
		}
		left, top := margin+float64(column)*photoStep, p.GetY()
		o := fpdf.ImageOptions{ImageType: strings.ToUpper(strings.TrimPrefix(x.Type, "image/"))}
		p.RegisterImageOptionsReader(x.Hash, o, bytes.NewReader(x.Bytes))
		w, h := photoWide, photoWide*float64(x.Height)/float64(max(x.Width, 1))
		if h > photoHigh {
			w, h = photoHigh*float64(x.Width)/float64(max(x.Height, 1)), photoHigh
		}
		p.ImageOptions(x.Hash, left, top, w, h, false, o, 0, "")
		p.SetXY(left, top+photoHigh+1)
		p.said().MultiCell(photoWide, 4, fmt.Sprintf("%s\n%s, %s\n%s", p.recipe(sentence(orElse(x.What, x.Step))), x.By,
			p.says(x.At.Format("2 Jan 2006 15:04")), x.Hash[:16]), "", "L", false)
		if column < 2 && i < len(p.r.Photos)-1 {
			p.SetXY(margin, top)
		} else {
			p.SetXY(margin, top+photoHigh+19)
		}
	}
}

func orElse(a, b string) string {
	if a == "" {
		return b
	}
	return a
}
