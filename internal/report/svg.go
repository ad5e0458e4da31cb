package report

import (
	"fmt"
	"html"
	"io"
	"math"
	"strings"

	"dynacor/core/figure"
)

// Drawing is a joint's drawing with what each bolt carries, to print.
type Drawing struct {
	Tag    string
	Title  string
	Figure figure.Figure
	Levels []float64 // as the figure's bolts, 0 to 1; empty for none
	Labels []int     // what is written on the bolts, as the figure's bolts
}

// SVG writes d as one file that needs nothing else: in ink, for white paper.
func SVG(w io.Writer, d Drawing) error {
	var b strings.Builder
	fmt.Fprintf(&b, `<svg xmlns="http://www.w3.org/2000/svg" viewBox="-116 -134 232 254" width="160mm" height="175mm" `+
		`font-family="Atkinson Hyperlegible, sans-serif" fill="none" stroke="#17212b" stroke-width="0.7">`+"\n")
	fmt.Fprintf(&b, `<title>%s</title>`+
		"\n"+`<text x="-112" y="-122" font-size="9" font-weight="700" fill="#17212b" stroke="none">%s</text>`+"\n",
		html.EscapeString(d.Tag), html.EscapeString(d.Tag+"  "+d.Title))
	for _, s := range d.Figure.Shapes {
		width, colour := 0.7, "#8b8674"
		if s.Role == figure.Pipe {
			width = 3
		}
		if s.R > 0 {
			fmt.Fprintf(&b, `<circle cx="%.2f" cy="%.2f" r="%.2f" stroke="%s" stroke-width="%g"/>`+"\n", s.X, s.Y, s.R, colour, width)
			continue
		}
		fmt.Fprintf(&b, `<rect x="%.2f" y="%.2f" width="%.2f" height="%.2f" stroke="%s" stroke-width="%g"/>`+"\n", s.X, s.Y, s.W, s.H,
			colour, width)
	}
	for i, at := range d.Figure.Bolts {
		level := 0.0
		if i < len(d.Levels) {
			level = d.Levels[i]
		}
		label := at.Bolt
		if i < len(d.Labels) {
			label = d.Labels[i]
		}
		fmt.Fprintf(&b, `<g transform="translate(%.2f %.2f)">`, at.X, at.Y)
		if level > 0 {
			half := at.R * math.Sqrt(3) / 2
			fmt.Fprintf(&b, `<clipPath id="b%d"><polygon points="%s"/></clipPath>`+
				`<rect clip-path="url(#b%d)" x="%.2f" y="%.2f" width="%.2f" height="%.2f" fill="#a5cac4" stroke="none"/>`,
				i, hexagon(at.R), i, -at.R, half-2*half*level, 2*at.R, 2*half*level)
		}
		fmt.Fprintf(&b, `<polygon points="%s"/>`+
			`<text text-anchor="middle" dy="0.35em" font-size="%.2f" fill="#17212b" stroke="none">%d</text></g>`+"\n",
			hexagon(at.R), at.R*0.85, label)
	}
	for _, l := range d.Figure.Labels {
		fmt.Fprintf(&b, `<text x="%.2f" y="%.2f" text-anchor="middle" font-size="6" fill="#5b6670" stroke="none">%s</text>`+"\n", l.X, l.Y,
			html.EscapeString(l.Text))
	}
	b.WriteString("</svg>\n")
	_, err := io.WriteString(w, b.String())
	return err
}

func hexagon(r float64) string {
	var p []string
	for k := range 6 {
		sin, cos := math.Sincos(float64(k) * math.Pi / 3)
		p = append(p, fmt.Sprintf("%.2f,%.2f", r*cos, r*sin))
	}
	return strings.Join(p, " ")
}
