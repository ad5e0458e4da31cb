package report

import (
	"fmt"
	"io"
	"math"

	"dynacor/core/figure"
	"dynacor/internal/words"
)

// KitCard is what lies ready at a joint before it is begun, and how its parts go together,
// to print: one walks to the store with it, and it hangs beside the joint.
type KitCard struct {
	Tag, Title, Area, Kind string
	Plan                   string // which plan it is of, or that there is none
	Link                   string // address that the code opens
	Stack                  figure.Stack
	Drawn                  bool // there is one
	Lists                  []KitList
}

// KitList is one kind of things of a kit.
type KitList struct {
	Title string
	Lines []string
}

// KitPDF writes a card of parts and kit.
func KitPDF(w io.Writer, site string, to Reader, c KitCard) error {
	p, err := begun("Parts and kit of "+c.Tag, words.Paper(to.Locale), Record{Site: site, Tag: c.Tag, Reader: to})
	if err != nil {
		return err
	}
	const code = 26.0
	p.code(c.Link, margin+width-code, margin, code)
	p.ink(ink)
	p.SetFont("text", "B", 22)
	p.fit(c.Tag, margin, margin, width-code-6, 10, 22)
	p.SetFont("text", "", 11)
	p.fit(c.Title, margin, margin+10, width-code-6, 6, 11)
	p.ink(soft)
	p.said().fit(c.Area+" · "+p.says(c.Kind), margin, margin+16, width-code-6, 6, 11)
	p.fit(c.Plan, margin, margin+22, width-code-6, 6, 11)
	p.SetY(margin + code + 6)
	if c.Drawn {
		p.stack(c.Stack)
	}
	p.lists(c.Lists)
	return p.Output(w)
}

// stack draws parts along their axis, each with a number, and lists beside or below what
// the numbers are and how each lies.
func (p page) stack(s figure.Stack) {
	head := p.fill("Parts, from {0} to {1}", p.recipe(s.First), p.recipe(s.Last))
	if s.Up {
		head = p.fill("Parts, from {0} up to {1}", p.recipe(s.First), p.recipe(s.Last))
	}
	p.said().section(head)
	top := p.GetY() + 2
	if s.Up {
		const high, wide = 150.0, 62.0
		k := math.Min(high/s.Length, wide/(2*s.Half))
		middle, foot := margin+s.Half*k, top+s.Length*k
		p.parts(s, func(along, across float64) (x, y float64) { return middle + across*k, foot - along*k })
		for i, part := range s.Parts {
			p.number(i+1, middle+s.Half*k+6, foot-(part.From+part.To)/2*k)
		}
		p.SetXY(margin, top)
		p.SetLeftMargin(margin + 2*s.Half*k + 14)
		p.told(s)
		p.SetLeftMargin(margin)
		p.SetXY(margin, math.Max(p.GetY(), foot+4))
		return
	}
	const high = 54.0
	k := math.Min(width/s.Length, high/(2*s.Half))
	left, middle := margin+(width-s.Length*k)/2, top+s.Half*k
	p.parts(s, func(along, across float64) (x, y float64) { return left + along*k, middle + across*k })
	below := top + 2*s.Half*k + 5
	before := -math.MaxFloat64
	for i, part := range s.Parts { // what would touch the one before stands a line lower
		x, y := left+(part.From+part.To)/2*k, below
		if x-before < 6 {
			y += 6
			x, before = math.Max(x, before-3), -math.MaxFloat64
		} else {
			before = x
		}
		p.number(i+1, x, y)
	}
	p.SetXY(margin, below+11)
	p.told(s)
}

// parts draws the outlines of all parts, and the axis through them.
func (p page) parts(s figure.Stack, at func(along, across float64) (x, y float64)) {
	p.SetDrawColor(soft.r, soft.g, soft.b)
	p.SetLineWidth(0.15)
	p.SetDashPattern([]float64{3, 1, 0.6, 1}, 0)
	x1, y1 := at(0, 0)
	x2, y2 := at(s.Length, 0)
	p.Line(x1, y1, x2, y2)
	p.SetDashPattern(nil, 0)
	p.SetDrawColor(ink.r, ink.g, ink.b)
	p.SetFillColor(paper.r, paper.g, paper.b)
	p.SetLineWidth(0.3)
	for _, part := range s.Parts {
		for _, l := range part.Lines {
			for i := range l.Along {
				x, y := at(l.Along[i], l.Across[i])
				if i == 0 {
					p.MoveTo(x, y)
				} else {
					p.LineTo(x, y)
				}
			}
			if l.Mark {
				p.DrawPath("D")
				continue
			}
			p.ClosePath()
			p.DrawPath("DF")
		}
	}
}

// number writes a part's number in its circle.
func (p page) number(n int, x, y float64) {
	p.SetDrawColor(ink.r, ink.g, ink.b)
	p.SetLineWidth(0.2)
	p.Circle(x, y, 2.6, "D")
	p.ink(ink)
	p.SetFont("text", "B", 8)
	p.SetXY(x-4, y-2.2)
	p.Fpdf.CellFormat(8, 4.4, fmt.Sprint(n), "", 0, "C", false, 0, "")
}

// told lists the parts by their numbers: what each is, how it lies, what it is for.
func (p page) told(s figure.Stack) {
	left, _, _, _ := p.GetMargins()
	for i, part := range s.Parts {
		p.SetX(left)
		text := fmt.Sprintf("%d  ", i+1)
		if part.Count > 1 {
			text += fmt.Sprintf("%d × ", part.Count)
		}
		text += p.recipe(part.Name)
		for _, more := range []string{part.Facing, part.For} {
			if more != "" {
				text += ", " + p.recipe(more)
			}
		}
		p.ink(ink)
		p.SetFont("text", "", 9.5)
		p.said().MultiCell(margin+width-left, 4.7, text, "", "L", false)
	}
	p.Ln(2)
}

// lists writes each kind of the kit with a box before each thing, in two columns.
func (p page) lists(lists []KitList) {
	const gap, high = 8.0, 6.4
	wide := (width - gap) / 2
	for _, l := range lists {
		if p.past(262) {
			p.AddPage()
		}
		p.section(l.Title)
		for i := 0; i < len(l.Lines); i += 2 {
			if p.past(272) {
				p.AddPage()
			}
			y, most := p.GetY(), 0.0
			for k := range min(2, len(l.Lines)-i) {
				x := margin + float64(k)*(wide+gap)
				p.SetDrawColor(ink.r, ink.g, ink.b)
				p.Rect(x, y+1.1, 4, 4, "D")
				p.ink(ink)
				p.SetFont("text", "", 10.5)
				for n, line := range p.SplitText(l.Lines[i+k], wide-7) {
					p.SetXY(x+6.5, y+float64(n)*4.8)
					p.said().CellFormat(wide-7, high, line, "", 0, "L", false, 0, "")
					most = math.Max(most, float64(n)*4.8)
				}
			}
			p.SetXY(margin, y+most+high)
		}
		p.Ln(1.5)
	}
}
