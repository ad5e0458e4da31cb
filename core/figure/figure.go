// Package figure places the bolts of a joint on its drawing, from geometry
// alone: rings, pairs, lines, grids, covers and single nuts, one beside the
// other, about one middle, on the faces of one body, in layers or on straps.
//
// The drawing is seen from the nut side, 12 o'clock at the top, and lies within
// -Half to Half both ways, x to the right and y down, as SVG has it. Positions
// of rings and covers count clockwise from the first bolt right of the top, or
// at the top where a bolt stands on the centre; those of lines and grids row by
// row from the top left.
package figure

import (
	"math"

	"dynacor/core/reading"
	"dynacor/core/recipe"
	"dynacor/core/sequence"
)

// Half is half the width and height of a drawing.
const Half = 112.0

// Group is a set of bolts to place.
type Group struct {
	Name     string
	Layout   recipe.Layout
	Bolts    int
	OnCentre bool        // of a ring: a bolt stands at the top
	Holes    int         // of a ring: empty holes between its bolts
	Grid     recipe.Grid // of a plate; zero: as square as its bolts can lie

	GasketOuter, GasketInner float64 // of a ring: as shares of its bolt circle; zero: not drawn
}

// Role is what a shape shows.
type Role string

// The roles of shapes.
const (
	Body Role = "body"
	Seal Role = "seal" // a gasket
	Bore Role = "bore"
	Line Role = "line" // thin: a bolt circle, an edge bolts stand along
	Pipe Role = "pipe" // thick: a wall, a strap
	Post Role = "post"
	Hole Role = "hole" // with nothing in it
)

// Shape is a circle about X, Y where R is above zero, else a box with its top
// left corner at X, Y.
type Shape struct {
	Role          Role
	X, Y, R, W, H float64
}

// Place is where a bolt is, with the radius of its hexagon.
type Place struct {
	Group   string
	Bolt    int
	X, Y, R float64
}

// Label is a word on the drawing.
type Label struct {
	Text string
	X, Y float64
}

// Figure is a drawing.
type Figure struct {
	Shapes []Shape
	Bolts  []Place
	Labels []Label
	Clock  bool // one ring: the hours may be written about it
}

// Of draws groups. A group without bolts is left out.
func Of(d recipe.Drawing, groups []Group) Figure {
	var there []Group
	for _, g := range groups {
		if g.Bolts > 0 {
			there = append(there, g)
		}
	}
	var f Figure
	switch {
	case len(there) == 0:
	case d == recipe.Rings:
		f.rings(there)
	case d == recipe.Faces:
		f.faces(there)
	case d == recipe.Layers:
		f.layers(there)
	case d == recipe.Straps:
		f.straps(there)
	default:
		f.beside(there)
	}
	return f
}

// cell is a part of the drawing: its middle and its scale.
type cell struct{ x, y, s float64 }

// beside gives the whole drawing to one group; of several the largest gets the
// most of it and the others a corner each.
func (f *Figure) beside(groups []Group) {
	main := 0
	for i, g := range groups {
		if g.Bolts > groups[main].Bolts {
			main = i
		}
	}
	if len(groups) == 1 {
		f.one(groups[0], cell{0, 0, 1})
		f.Clock = groups[0].Layout == recipe.Ring
		return
	}
	corners := []cell{{78, 78, 0.3}, {-78, 78, 0.3}, {78, -78, 0.3}, {-78, -78, 0.3}}
	c := cell{0, 0, 0.8}
	if len(groups) == 2 {
		c = cell{-18, -18, 0.84}
	}
	f.one(groups[main], c)
	i := 0
	for j, g := range groups {
		if j == main {
			continue
		}
		at := corners[i%len(corners)]
		f.one(g, at)
		f.Labels = append(f.Labels, Label{g.Name, at.x, at.y + 33})
		i++
	}
}

func (f *Figure) one(g Group, c cell) {
	switch g.Layout {
	case recipe.Ring:
		f.ring(g, c, 84, 84, true)
	case recipe.Pair:
		f.pair(g, c)
	case recipe.Line:
		f.line(g, c)
	case recipe.Plate:
		f.plate(g, c)
	case recipe.Cover:
		f.cover(g, c)
	default:
		f.single(g, c)
	}
}

func (f *Figure) circle(role Role, c cell, r float64) {
	f.Shapes = append(f.Shapes, Shape{Role: role, X: c.x, Y: c.y, R: r * c.s})
}

func (f *Figure) box(role Role, c cell, x, y, w, h float64) {
	f.Shapes = append(f.Shapes, Shape{Role: role, X: c.x + x*c.s, Y: c.y + y*c.s, W: w * c.s, H: h * c.s})
}

func (f *Figure) bolt(g Group, n int, c cell, x, y, r float64) {
	f.Bolts = append(f.Bolts, Place{g.Name, n, c.x + x*c.s, c.y + y*c.s, r * c.s})
}

// ring places bolts on a circle. The hexagons leave their neighbours room, and
// are no larger than most.
func (f *Figure) ring(g Group, c cell, radius, most float64, body bool) {
	r := min(most, 12.5/math.Sqrt(c.s), radius*math.Sin(math.Pi/float64(max(g.Bolts, 3)))*0.86)
	if body {
		f.circle(Body, c, radius+16)
		f.circle(Line, c, radius)
		inside := radius - 1.9*r
		if g.GasketOuter > 0 && g.GasketInner > 0 {
			f.circle(Seal, c, min(inside, g.GasketOuter*radius))
			f.circle(Bore, c, min(inside*0.96, g.GasketInner*radius))
		} else {
			f.circle(Bore, c, min(58, inside))
		}
	}
	for i := range g.Bolts {
		at := float64(i) + 0.5
		if g.OnCentre {
			at = float64(i)
		}
		sin, cos := math.Sincos(2 * math.Pi * at / float64(g.Bolts))
		f.bolt(g, i+1, c, radius*sin, -radius*cos, r)
	}
	f.holes(g, c, radius, r)
}

// holes puts the empty holes of a ring between its bolts.
func (f *Figure) holes(g Group, c cell, radius, r float64) {
	for _, turned := range []float64{0, 0.5, 0.25} {
		var out []Shape
		clear := true
		for i := range g.Holes {
			sin, cos := math.Sincos(2 * math.Pi * (float64(i) + turned) / float64(g.Holes))
			h := Shape{Role: Hole, X: c.x + radius*sin*c.s, Y: c.y - radius*cos*c.s, R: 0.6 * r * c.s}
			for _, b := range f.Bolts {
				clear = clear && math.Hypot(h.X-b.X, h.Y-b.Y) > 1.7*r*c.s
			}
			out = append(out, h)
		}
		if clear {
			f.Shapes = append(f.Shapes, out...)
			return
		}
	}
}

// pair is two bolts either side of a pipe.
func (f *Figure) pair(g Group, c cell) {
	f.box(Body, c, -98, -22, 196, 44)
	f.circle(Pipe, c, 58)
	f.bolt(g, 1, c, -78, 0, 16)
	if g.Bolts > 1 {
		f.bolt(g, 2, c, 78, 0, 16)
	}
}

func (f *Figure) line(g Group, c cell) {
	step := min(34, 190/float64(g.Bolts))
	f.box(Body, c, -step*float64(g.Bolts)/2-4, -22, step*float64(g.Bolts)+8, 44)
	for i := range g.Bolts {
		f.bolt(g, i+1, c, (float64(i)-float64(g.Bolts-1)/2)*step, 0, min(14, step*0.42))
	}
}

// plate is a grid with its pitches to one another as they are, and room for
// each hexagon.
func (f *Figure) plate(g Group, c cell) {
	at := g.Grid
	if at.Rows*at.Cols != g.Bolts {
		at.Rows, at.Cols = sequence.Square(g.Bolts)
		at.Across, at.Down = 1, 1
	}
	long := max(float64(at.Cols)*at.Across, float64(at.Rows)*at.Down)
	scale := min(46/min(at.Across, at.Down), 184/long)
	dx, dy := at.Across*scale, at.Down*scale
	w, h := dx*float64(at.Cols), dy*float64(at.Rows)
	f.box(Body, c, -w/2-8, -h/2-8, w+16, h+16)
	for i := range g.Bolts {
		x, y := float64(i%at.Cols)-float64(at.Cols-1)/2, float64(i/at.Cols)-float64(at.Rows-1)/2
		f.bolt(g, i+1, c, x*dx, y*dy, min(14, min(dx, dy)*0.4))
	}
}

// cover places bolts along the edge of a rectangle, evenly, clockwise from the
// right of the top's middle.
func (f *Figure) cover(g Group, c cell) {
	const w, h = 84.0, 62.0
	f.box(Body, c, -w-16, -h-16, 2*w+32, 2*h+32)
	f.box(Bore, c, -w+24, -h+24, 2*w-48, 2*h-48)
	whole := 4 * (w + h)
	r := min(12.5, 0.4*whole/float64(g.Bolts))
	for i := range g.Bolts {
		x, y := edge(w, h, whole*(float64(i)+0.5)/float64(g.Bolts))
		f.bolt(g, i+1, c, x, y, r)
	}
}

// edge is the point so far clockwise from the top's middle along a rectangle of
// half sides w and h.
func edge(w, h, s float64) (x, y float64) {
	switch {
	case s <= w:
		return s, -h
	case s <= w+2*h:
		return w, s - w - h
	case s <= 3*w+2*h:
		return 2*w + 2*h - s, h
	case s <= 3*w+4*h:
		return -w, 3*w + 3*h - s
	}
	return s - 4*w - 4*h, -h
}

func (f *Figure) single(g Group, c cell) {
	f.circle(Body, c, 96)
	f.circle(Line, c, 74)
	f.bolt(g, 1, c, 0, 0, 52)
}

// rings puts rings about one middle, the first the innermost; what is no ring
// goes into a corner.
func (f *Figure) rings(groups []Group) {
	var about, others []Group
	for _, g := range groups {
		if g.Layout == recipe.Ring {
			about = append(about, g)
		} else {
			others = append(others, g)
		}
	}
	c := cell{0, 0, 1}
	f.circle(Body, c, 100)
	for i, g := range about {
		radius := 86 * float64(i+1) / float64(len(about))
		f.circle(Line, c, radius)
		f.ring(g, c, radius, 38/float64(len(about)), false)
	}
	for i, g := range others {
		at, name := cell{84 - 168*float64(i%2), 90, 0.2}, 112.0
		if i%4 > 1 { // the upper corners, their names above
			at.y, name = -90, -106
		}
		f.one(g, at)
		f.Labels = append(f.Labels, Label{g.Name, at.x, name})
	}
}

// faces puts each group on a face of one body: up to four about it, clockwise
// from the top, the next in its middle.
func (f *Figure) faces(groups []Group) {
	f.box(Body, cell{0, 0, 1}, -34, -34, 68, 68)
	places := []cell{{0, -74, 0.37}, {74, 0, 0.37}, {0, 74, 0.37}, {-74, 0, 0.37}, {0, 0, 0.3}}
	for i, g := range groups {
		c := places[min(i, len(places)-1)]
		f.one(g, c)
		if i < 4 {
			x, y := c.x*0.27, c.y*0.3+2
			f.Labels = append(f.Labels, Label{g.Name, x, y})
		}
	}
}

// layers puts groups one over the other, the first at the bottom: single parts
// in a column, lines as posts of two bolts each.
func (f *Figure) layers(groups []Group) {
	height := 204 / float64(len(groups))
	for i, g := range groups {
		y := 102 - height*(float64(i)+0.5)
		if g.Layout != recipe.Line {
			f.one(g, cell{0, y - 5, min(0.9, (height-16)/200)})
			f.Labels = append(f.Labels, Label{g.Name, 0, y + height*0.5 - 3})
			continue
		}
		posts := (g.Bolts + 1) / 2
		step := 200 / float64(posts)
		r := min(13, step*0.21, height*0.14)
		f.box(Body, cell{0, y - 5, 1}, -106, -3*r, 212, 6*r)
		f.Labels = append(f.Labels, Label{g.Name, 0, y + 3*r + 6})
		for n := range g.Bolts {
			x := (float64(n/2)-float64(posts-1)/2)*step + (float64(n%2)-0.5)*2.3*r
			if n%2 == 0 {
				f.box(Post, cell{x + 1.15*r, y - 5, 1}, -2.3*r, -1.7*r, 4.6*r, 3.4*r)
			}
			f.bolt(g, n+1, cell{0, 0, 1}, x, y-5, r)
		}
	}
}

// straps is a pipe seen from the side with a strap for each bolt.
func (f *Figure) straps(groups []Group) {
	c := cell{0, 0, 1}
	f.box(Body, c, -108, -46, 216, 92)
	n := 0
	for _, g := range groups {
		n += g.Bolts
	}
	i := 0
	for _, g := range groups {
		for b := range g.Bolts {
			x := (float64(i) - float64(n-1)/2) * min(90, 200/float64(n))
			f.box(Pipe, c, x-10, -62, 20, 124)
			f.bolt(g, b+1, c, x, 0, 17)
			i++
		}
	}
	f.circle(Bore, c, 14)
}

// Spots are where raw readings are taken on the drawing of a ring: clock positions
// about it, the two sides of a pair. Those of other counts, or at places that the recipe
// names itself, are at 0, 0.
func Spots(reads []recipe.Read) []Label {
	var out []Label
	for _, r := range reads {
		fields := r.Fields()
		n := len(fields)
		if r.Form == reading.RunOut {
			n-- // and once more at the top, off the drawing
		}
		round := r.Form == reading.RunOut || r.Form == reading.Plane || r.Form == reading.Plain && (n == 4 || n == 8)
		for i, f := range fields {
			l := Label{Text: f.Name}
			if len(r.Spots) == 0 && i < n && round {
				sin, cos := math.Sincos(2 * math.Pi * float64(i) / float64(n))
				l.X, l.Y = 62*sin, -62*cos
			}
			if len(r.Spots) == 0 && r.Form == reading.Plain && n == 2 { // below the two bolts of a pair
				l.X, l.Y = float64(2*i-1)*78, 46
			}
			out = append(out, l)
		}
	}
	return out
}
