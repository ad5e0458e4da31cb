package report

import (
	"bytes"
	"embed"
	"fmt"
	"io"
	"math"
	"strings"
	"time"

	"codeberg.org/go-pdf/fpdf"

	"dynacor/core/figure"
	"dynacor/internal/words"
)

//go:embed fonts/*.ttf
var fonts embed.FS

type colour struct{ r, g, b int }

var (
	ink   = colour{0x17, 0x21, 0x2b}
	soft  = colour{0x5b, 0x66, 0x70}
	line  = colour{0xd8, 0xd2, 0xc3}
	held  = colour{0x14, 0x77, 0x6a}
	stop  = colour{0xb0, 0x1e, 0x3a}
	mind  = colour{0xa8, 0x6a, 0x00}
	paper = colour{0xfb, 0xfa, 0xf6}
)

const (
	margin = 16.0
	width  = 210 - 2*margin
)

// Attached is the name of the record as JSON inside its PDF.
const Attached = "record.json"

// changedAt is when something was last added to the record.
func (r Record) changedAt() time.Time {
	if n := len(r.Entries); n > 0 {
		return r.Entries[n-1].AtServer.UTC()
	}
	if r.IssuedAt.IsZero() {
		return time.Unix(0, 0).UTC()
	}
	return r.IssuedAt.UTC()
}

type page struct {
	*fpdf.Fpdf
	r     Record
	words *words.Phrases
}

// PDF writes r as it is printed: deviations first, then the joint, its values,
// groups and steps, who signed, every entry, and where its numbers come from.
// Nothing is cut: what is long goes on in the next line.
func PDF(w io.Writer, r Record) error {
	p, err := begun("Record of "+r.Tag, words.Paper(r.Locale), r)
	if err != nil {
		return err
	}
	text := bytes.Buffer{}
	if err := JSON(&text, r); err != nil {
		return err
	}
	p.SetAttachments([]fpdf.Attachment{{Content: text.Bytes(), Filename: Attached, Description: "the record as JSON, with its proof"}})
	p.body()
	return p.Output(w)
}

// body is what is printed of a record, from the top of a page on.
func (p page) body() {
	p.head()
	p.first()
	p.joint()
	p.values()
	p.groups()
	p.tools()
	p.steps()
	p.photos()
	p.signatures()
	p.seal()
	p.entries()
	if len(p.r.Numbers) > 0 {
		p.section("Appendix: where the numbers come from")
		p.numbers(p.r.Numbers)
	}
}

// cut is the paper that is cut into cards and labels, wherever it is printed.
const cut = "A4"

// begun is a document with its fonts and its first page, in the language of its record.
func begun(title, paper string, r Record) (page, error) {
	phrases := r.phrases()
	f := fpdf.New("P", "mm", paper, "")
	for _, font := range []struct{ family, style, file string }{
		{"text", "", "AtkinsonHyperlegible-Regular.ttf"}, {"text", "B", "AtkinsonHyperlegible-Bold.ttf"},
		{"mono", "", "AtkinsonHyperlegibleMono-Regular.ttf"},
	} {
		b, err := fonts.ReadFile("fonts/" + font.file)
		if err != nil {
			return page{}, err
		}
		f.AddUTF8FontFromBytes(font.family, font.style, b)
	}
	f.SetTitle(phrases.Say(title), true)
	f.SetCreator("Dynacor", true)
	f.SetCatalogSort(true) // the same record is the same file, byte for byte
	f.SetCreationDate(r.changedAt())
	f.SetModificationDate(r.changedAt())
	f.SetMargins(margin, margin, margin)
	f.SetAutoPageBreak(true, 18)
	p := page{f, r, phrases}
	f.SetFooterFunc(p.foot)
	f.AddPage()
	return p, nil
}

func (p page) ink(c colour) { p.SetTextColor(c.r, c.g, c.b) }

func (p page) head() {
	p.ink(soft)
	p.SetFont("text", "", 9)
	p.said().CellFormat(width, 5, p.r.Site+", "+p.r.Outage+", "+p.r.Area, "", 1, "L", false, 0, "")
	p.ink(ink)
	p.SetFont("text", "B", 22)
	p.said().CellFormat(width, 10, p.r.Tag, "", 1, "L", false, 0, "")
	p.SetFont("text", "", 11)
	p.said().CellFormat(width, 6, p.fill("{0}. Plan {#1}, {2}.", p.r.Title, p.r.Revision, p.says(p.r.State)), "", 1, "L", false, 0, "")
	p.Ln(2)
}

func (p page) section(title string) {
	if p.past(255) {
		p.AddPage()
	}
	p.Ln(3)
	p.ink(ink)
	p.SetFont("text", "B", 12)
	p.CellFormat(width, 6, title, "", 1, "L", false, 0, "")
	p.SetDrawColor(ink.r, ink.g, ink.b)
	p.Line(margin, p.GetY(), margin+width, p.GetY())
	p.Ln(1.5)
	p.SetFont("text", "", 10)
}

func (p page) bullet(c colour, text string) {
	y := p.GetY()
	p.SetFillColor(c.r, c.g, c.b)
	p.Rect(margin, y+1, 1.2, 3.4, "F")
	p.SetX(margin + 3)
	p.ink(ink)
	p.MultiCell(width-3, 5, text, "", "L", false)
}

// first shows what departs from the plan before anything else.
func (p page) first() {
	if len(p.r.Faults) > 0 {
		p.section("This record does not hold")
		p.bullet(stop, "What is stored is not what was stored. Nothing below is to be relied on until the administrator has found out why.")
		for _, d := range p.r.Faults {
			p.bullet(stop, sentence(d))
		}
	}
	if len(p.r.Open) > 0 {
		p.section("Still open")
		for _, d := range p.r.Open {
			p.bullet(stop, sentence(d))
		}
	}
	p.section("Deviations")
	if len(p.r.Deviations) == 0 {
		p.bullet(held, "None.")
	}
	for _, d := range p.r.Deviations {
		p.bullet(mind, sentence(d))
	}
}

// tools lists what the joint was made with.
func (p page) tools() {
	if len(p.r.Tools) == 0 {
		return
	}
	p.section("Made with")
	for _, t := range p.r.Tools {
		text := t.Tag + ": " + p.each(t.Made, "; ", p.says)
		if t.Calibrated != "" {
			text = p.fill("{0}, calibrated {1}", text, t.Calibrated)
		}
		if t.Due != "" {
			text = p.fill("{0}, in calibration to {1}", text, t.Due)
		}
		p.said().bullet(held, text+".")
	}
}

func sentence(s string) string {
	if s == "" {
		return s
	}
	s = strings.ToUpper(s[:1]) + s[1:]
	if !strings.HasSuffix(s, ".") {
		s += "."
	}
	return s
}

func (p page) joint() {
	const side = 62.0
	p.section("The joint")
	top := p.GetY()
	for _, s := range p.r.Sentence {
		p.MultiCell(width-side-6, 5, s, "", "L", false)
	}
	p.Ln(1)
	p.ink(soft)
	p.MultiCell(width-side-6, 5, fmt.Sprintf("Issued by %s, %s. Computed by rules %s.", p.r.IssuedBy,
		p.r.IssuedAt.Format("2 Jan 2006 15:04"), p.r.CoreVersion), "", "L", false)
	if p.r.Reason != "" {
		p.MultiCell(width-side-6, 5, "Replaces the plan before: "+p.r.Reason, "", "L", false)
	}
	p.ink(ink)
	bottom := p.GetY()
	p.figure(margin+width-side/2, top+side/2+3, side/2-1)
	p.SetY(math.Max(bottom, top+side+4))
}

// figure draws the joint from the nut side, each bolt a hexagon filled to the
// share of its target that it reached.
func (p page) figure(cx, cy, half float64) {
	k := half / figure.Half
	p.SetDrawColor(line.r, line.g, line.b)
	p.SetLineWidth(0.2)
	for _, s := range p.r.Figure.Shapes {
		p.SetFillColor(paper.r, paper.g, paper.b)
		style := "D"
		if s.Role == figure.Body {
			style = "FD"
		}
		if s.R > 0 {
			p.Circle(cx+s.X*k, cy+s.Y*k, s.R*k, style)
			continue
		}
		p.Rect(cx+s.X*k, cy+s.Y*k, s.W*k, s.H*k, style)
	}
	for i, at := range p.r.Figure.Bolts {
		if i < len(p.r.Bolts) {
			p.SetFont("text", "B", math.Max(4, math.Min(8, at.R*k*2.2)))
			p.hexagon(cx+at.X*k, cy+at.Y*k, at.R*k, p.r.Bolts[i])
		}
	}
	p.SetFont("text", "", 7)
	p.ink(soft)
	for _, l := range p.r.Figure.Labels {
		p.Text(cx+l.X*k-p.GetStringWidth(l.Text)/2, cy+l.Y*k, l.Text)
	}
	if p.r.Figure.Clock {
		p.Text(cx-p.GetStringWidth("12")/2, cy-half*0.9-0.8, "12")
	}
	p.ink(ink)
	p.SetFont("text", "", 10)
}

func (p page) hexagon(x, y, r float64, b Bolt) {
	var pts []fpdf.PointType
	for k := range 6 {
		a := float64(k) * math.Pi / 3
		pts = append(pts, fpdf.PointType{X: x + r*math.Cos(a), Y: y + r*math.Sin(a)})
	}
	p.SetFillColor(paper.r, paper.g, paper.b)
	p.SetDrawColor(ink.r, ink.g, ink.b)
	p.Polygon(pts, "F")
	if b.Level > 0 {
		p.ClipPolygon(pts, false)
		half := r * math.Sin(math.Pi/3)
		p.SetFillColor(0xa5, 0xca, 0xc4)
		p.Rect(x-r, y+half-2*half*b.Level, 2*r, 2*half*b.Level, "F")
		p.ClipEnd()
	}
	p.Polygon(pts, "D")
	label := fmt.Sprint(b.Position)
	p.ink(ink)
	p.Text(x-p.GetStringWidth(label)/2, y+r*0.3, label)
	p.SetFillColor(ink.r, ink.g, ink.b)
	if b.Mark == "still" {
		p.Circle(x, y+r*0.66, math.Max(0.35, r*0.09), "F")
	}
}

// row writes cells side by side, each as many lines as it needs.
func (p page) row(widths []float64, cells []string, aligns string) {
	const high = 4.4
	lines, said := make([][]string, len(cells)), p.said()
	most := 1
	for i, c := range cells {
		lines[i] = p.SplitText(c, widths[i]-2)
		most = max(most, len(lines[i]))
	}
	if p.past(277 - high*float64(min(most, 40))) {
		p.AddPage()
	}
	for n := range most {
		if p.past(277) {
			p.AddPage()
		}
		border := ""
		if n == most-1 {
			border = "B"
		}
		for i := range cells {
			text := ""
			if n < len(lines[i]) {
				text = lines[i][n]
			}
			said.CellFormat(widths[i], high, text, border, 0, string(aligns[i]), false, 0, "")
		}
		p.Ln(high)
	}
}

func (p page) signatures() {
	p.section("Signed")
	if len(p.r.Signatures) == 0 {
		p.bullet(mind, "Nobody has signed yet.")
	}
	for _, s := range p.r.Signatures {
		text := p.fill("{0} by {1}, {2}.", p.says(begins(s.Part)), s.By, p.says(s.At.Format("2 Jan 2006 15:04")))
		if s.Reason != "" {
			text += " " + s.Reason
		}
		p.said().bullet(held, text)
	}
}

// both is when something was done and when it was stored: the clock at the tool
// and the server's.
func both(e Entry) string {
	const as = "2 Jan 2006 15:04:05"
	text := e.AtTool.Format(as) + "\nstored " + e.AtServer.Format(as)
	if !e.AtDevice.IsZero() {
		text += "\nits clock " + e.AtDevice.Format(as)
	}
	return text
}

func (p page) entries() {
	p.section("Every entry")
	w := []float64{9, 42, 27, 34, 24, 42}
	p.SetDrawColor(line.r, line.g, line.b)
	p.ink(soft)
	p.SetFont("text", "", 8.5)
	p.row(w, []string{"#", "at the tool, stored", "who", "what", "set / read", "outcome"}, "LLLLRL")
	p.ink(ink)
	for _, e := range p.r.Entries {
		value := ""
		if e.Setting > 0 {
			value = fmt.Sprintf("%.5g %s", e.Setting, e.Unit)
		}
		if e.Reading > 0 {
			value += fmt.Sprintf(" / %.5g %s", e.Reading, e.ReadIn)
		}
		outcome := e.Outcome
		if e.Struck {
			outcome = "struck out"
		}
		if e.Note != "" {
			outcome = strings.TrimPrefix(outcome+": "+e.Note, ": ")
		}
		p.row(w, []string{fmt.Sprint(e.Number), both(e), e.Person, e.What, strings.TrimSpace(value), outcome}, "LLLLRL")
	}
}

func (p page) foot() {
	p.SetY(-14)
	p.SetFont("text", "", 7.5)
	p.ink(soft)
	short := p.r.Hash
	if len(short) > 24 {
		short = short[:24]
	}
	p.CellFormat(width, 4, "This record supports and does not replace the maker’s instructions, local codes, the site’s permits and "+
		"qualified persons.", "", 1, "L", false, 0, "")
	if short != "" {
		short = "Chain " + short
	}
	p.CellFormat(width-20, 4, short, "", 0, "L", false, 0, "")
	p.CellFormat(20, 4, fmt.Sprint(p.PageNo()), "", 0, "R", false, 0, "")
}
