package report

import "io"

// Label is what is stuck on a tool or its place: a code that opens it, and its tag.
type Label struct {
	Tag, Name, Text string
	Link            string // address that the code opens
}

const (
	labelCols = 3
	labelRows = 8
)

// Labels writes labels, 24 on each A4, with lines to cut along.
func Labels(w io.Writer, site string, to Reader, list []Label) error {
	p, err := begun("Tools of "+site, cut, Record{Site: site, Reader: to})
	if err != nil {
		return err
	}
	p.SetFooterFunc(func() {})
	p.SetAutoPageBreak(false, 0)
	const edge, code = 8.0, 26.0
	lw, lh := (210-2*edge)/labelCols, (297-2*edge)/labelRows
	for i, l := range list {
		at := i % (labelCols * labelRows)
		if at == 0 && i > 0 {
			p.AddPage()
		}
		x, y := edge+float64(at%labelCols)*lw, edge+float64(at/labelCols)*lh
		p.SetDrawColor(line.r, line.g, line.b)
		p.SetLineWidth(0.2)
		p.SetDashPattern([]float64{1.5, 1.5}, 0)
		p.Rect(x, y, lw, lh, "D")
		p.SetDashPattern(nil, 0)
		p.code(l.Link, x+3, y+(lh-code)/2, code)
		left, room := x+code+5, lw-code-7
		p.ink(ink)
		p.SetFont("text", "B", 15)
		p.fit(l.Tag, left, y+7, room, 7, 15)
		p.SetFont("text", "", 8)
		p.fit(l.Name, left, y+15, room, 4, 8)
		p.ink(soft)
		p.fit(l.Text, left, y+19, room, 4, 8)
		p.fit(site, left, y+24, room, 4, 7)
	}
	return p.Output(w)
}
