package figure

import (
	"math"

	"dynacor/core/recipe"
)

// Stack is the parts of a joint drawn apart along their axis, as a section. Lengths are
// the drawing's own; the axis runs from 0 to Length, at 0 across.
type Stack struct {
	First, Last string // what lies at the ends of the axis
	Up          bool   // it stands: the first part lies lowest
	Length      float64
	Half        float64 // the widest part reaches so far to each side
	Parts       []StackPart
}

// StackPart is one part: its outlines, and how it lies.
type StackPart struct {
	Name   string
	Facing string // chamfer toward the shell
	Way    int    // where that looks: -1 toward the first end, 1 toward the last, 0 nowhere
	Match  string
	For    string // what it is for
	Count  int
	From   float64 // along the axis
	To     float64
	Lines  []Outline
}

// Outline is a closed line round a piece of a part; Along and Across are its corners.
// A mark is drawn as a line, not filled.
type Outline struct {
	Along  []float64
	Across []float64
	Mark   bool
}

// half is how far the largest parts reach from the axis, between is what lies between two.
const (
	half    = 100.0
	between = 34.0
	margin  = 24.0
)

// StackOf draws the parts of a variant along their axis; ok is false where the recipe
// draws none.
func StackOf(r recipe.Recipe, choices map[string]string) (s Stack, ok bool) {
	list := r.Drawn(choices)
	if r.Axis == nil || len(list) == 0 {
		return Stack{}, false
	}
	s = Stack{First: r.Axis.First, Last: r.Axis.Last, Up: r.Axis.Up, Half: half}
	at := margin
	for _, p := range list {
		size := p.Size
		if size == 0 {
			size = 3
		}
		h := half * (0.4 + 0.12*float64(size))
		way := r.Way(p)
		sh := shape{}
		w := sh.draw(p.Family, h)
		part := StackPart{Name: p.Name, Facing: p.Facing(), Way: way, Match: p.Match, For: p.Purpose, Count: p.Count, From: at, To: at + w}
		for _, o := range sh.lines {
			for i := range o.Along {
				if way > 0 {
					o.Along[i] = w - o.Along[i]
				}
				o.Along[i] += at
			}
			part.Lines = append(part.Lines, o)
		}
		s.Parts = append(s.Parts, part)
		at += w + between
	}
	s.Length = at - between + margin
	return s, true
}

// shape draws one part, its face toward the first end.
type shape struct{ lines []Outline }

// poly adds an outline by corners along, across, along, across.
func (s *shape) poly(c ...float64) {
	o := Outline{}
	for i := 0; i+1 < len(c); i += 2 {
		o.Along, o.Across = append(o.Along, c[i]), append(o.Across, c[i+1])
	}
	s.lines = append(s.lines, o)
}

// mark adds a line that is not filled.
func (s *shape) mark(c ...float64) {
	s.poly(c...)
	s.lines[len(s.lines)-1].Mark = true
}

// both adds an outline above the axis and its like below.
func (s *shape) both(c ...float64) {
	s.poly(c...)
	below := make([]float64, len(c))
	for i := range c {
		below[i] = c[i]
		if i%2 == 1 {
			below[i] = -c[i]
		}
	}
	s.poly(below...)
}

func (s *shape) box(a1, c1, a2, c2 float64) { s.poly(a1, c1, a2, c1, a2, c2, a1, c2) }

func (s *shape) boxes(a1, c1, a2, c2 float64) { s.both(a1, c1, a2, c1, a2, c2, a1, c2) }

// arc adds points of an ellipse about a, c from one angle to another, degrees from the
// axis' last end, to corners.
func arc(c []float64, a, at, ra, rc, from, to float64) []float64 {
	const n = 32
	for i := range n + 1 {
		t := (from + (to-from)*float64(i)/n) * math.Pi / 180
		c = append(c, a+ra*math.Cos(t), at+rc*math.Sin(t))
	}
	return c
}

func (s *shape) circle(a, c, r float64) { s.poly(arc(nil, a, c, r, r, 0, 360)...) }

// draw draws a family h high above the axis, and returns how long it is.
func (s *shape) draw(f recipe.Family, h float64) (w float64) {
	switch f {
	case recipe.Nut:
		s.poly(0, h*.82, 9, h, 53, h, 62, h*.82, 62, -h*.82, 53, -h, 9, -h, 0, -h*.82)
		s.mark(0, 0, 62, 0)
		s.mark(0, h*.5, 62, h*.5)
		s.mark(0, -h*.5, 62, -h*.5)
		return 62
	case recipe.Washer:
		s.boxes(0, h*.34, 18, h)
		s.mark(0, -h*.34, 0, h*.34)
		s.mark(18, -h*.34, 18, h*.34)
		return 18
	case recipe.SpringWash:
		s.both(14, h*.3, 26, h*.3, 12, h, 0, h)
		return 26
	case recipe.RingPart:
		s.boxes(0, h*.62, 14, h)
		s.mark(0, -h*.62, 0, h*.62)
		s.mark(14, -h*.62, 14, h*.62)
		return 14
	case recipe.ORing:
		s.circle(13, h-13, 13)
		s.circle(13, 13-h, 13)
		s.mark(0, 13-h, 0, h-13)
		s.mark(26, 13-h, 26, h-13)
		return 26
	case recipe.BackUp:
		s.poly(append(arc(nil, -14, 0, 26, h*1.1, -66, 66), 36, h, 36, -h)...)
		return 36
	case recipe.Ferrule:
		s.both(0, h*.45, 44, h*.45, 44, h*.8, 34, h*.8, 0, h*.52)
		s.mark(0, -h*.45, 0, h*.45)
		return 44
	}
	if w, ok := s.round(f, h); ok {
		return w
	}
	return s.built(f, h)
}

// round draws what turns about the axis and is longer than a ring.
func (s *shape) round(f recipe.Family, h float64) (w float64, ok bool) {
	switch f {
	case recipe.PlatePart:
		s.box(0, -h, 30, h)
		return 30, true
	case recipe.FlangePlate:
		s.poly(0, h*.5, 10, h*.5, 10, h, 40, h, 40, h*.45, 74, h*.36, 74, -h*.36, 40, -h*.45, 40, -h, 10, -h, 10, -h*.5, 0, -h*.5)
		return 74, true
	case recipe.Bush:
		s.boxes(0, h*.7, 84, h)
		s.mark(0, -h*.7, 0, h*.7)
		s.mark(84, -h*.7, 84, h*.7)
		return 84, true
	case recipe.FlangedBush:
		s.both(0, h*.55, 88, h*.55, 88, h*.75, 16, h*.75, 16, h, 0, h)
		s.mark(0, -h*.55, 0, h*.55)
		s.mark(88, -h*.55, 88, h*.55)
		return 88, true
	case recipe.TaperBush:
		s.both(0, h*.4, 74, h*.4, 74, h*.7, 0, h)
		s.mark(0, -h*.4, 0, h*.4)
		return 74, true
	case recipe.Taper:
		s.both(0, h*.62, 80, h*.42, 80, h, 0, h)
		s.mark(80, -h*.42, 80, h*.42)
		return 80, true
	case recipe.TwoTapers:
		s.both(0, h*.55, 34, h*.42, 34, h, 0, h)
		s.both(44, h*.42, 78, h*.55, 78, h, 44, h)
		return 78, true
	case recipe.Shaft:
		s.poly(0, h*.34, 26, h*.34, 26, h*.26, 150, h*.26, 150, -h*.26, 26, -h*.26, 26, -h*.34, 0, -h*.34)
		return 150, true
	case recipe.Tube:
		s.boxes(0, h*.32, 130, h*.42)
		s.mark(0, -h*.32, 0, h*.32)
		return 130, true
	case recipe.Socket:
		s.both(0, h*.55, 14, h*.55, 14, h*.4, 46, h*.4, 46, h*.55, 62, h*.55, 62, h*.4, 120, h*.4, 120, h*.58, 80, h*.78, 0, h*.78)
		return 120, true
	case recipe.Cap:
		s.poly(0, h, 46, h, 46, -h, 0, -h, 0, -h*.72, 32, -h*.72, 32, h*.72, 0, h*.72)
		return 46, true
	case recipe.Bearing:
		s.boxes(0, h*.84, 40, h)
		s.boxes(0, h*.36, 40, h*.5)
		s.circle(20, h*.67, h*.16)
		s.circle(20, -h*.67, h*.16)
		return 40, true
	case recipe.Ball:
		s.circle(h*.8, 0, h*.8)
		s.mark(0, h*.28, h*1.6, h*.28)
		s.mark(0, -h*.28, h*1.6, -h*.28)
		return h * 1.6, true
	case recipe.Bladder:
		s.poly(append([]float64{0, -h * .2, 0, h * .2, 40, h * .2}, arc(nil, 130, 0, 92, h, 168, -168)...)...)
		return 222, true
	case recipe.Vessel:
		s.poly(append(append([]float64{}, arc(nil, 60, 0, 60, h, 90, 270)...), arc(nil, 190, 0, 60, h, -90, 90)...)...)
		s.mark(0, h*.25, 18, h*.25)
		s.mark(232, h*.4, 250, h*.4)
		return 250, true
	case recipe.Cone:
		s.poly(0, h*.28, 22, h*.6, 60, h*.6, 60, h*.8, 96, h*.8, 96, -h*.8, 60, -h*.8, 60, -h*.6, 22, -h*.6, 0, -h*.28)
		return 96, true
	case recipe.Bladed:
		s.both(0, h*.2, 14, h*.2, 56, h*.45, 56, h*.8, 30, h, 0, h)
		for _, c := range []float64{.4, .58, .76} {
			s.mark(4, h*c, 50, h*c)
			s.mark(4, -h*c, 50, -h*c)
		}
		return 56, true
	case recipe.Shell:
		s.both(0, h*.92, 8, h, 60, h, 84, h*.72, 84, h*.2, 74, h*.2, 74, h*.66, 54, h*.88, 0, h*.88)
		return 84, true
	}
	return 0, false
}

// built draws what does not turn about the axis.
func (s *shape) built(f recipe.Family, h float64) (w float64) {
	switch f {
	case recipe.SplitRing:
		s.boxes(0, h*.55, 34, h)
		s.mark(0, h*.78, 34, h*.74)
		return 34
	case recipe.HalfRing:
		s.poly(append(append([]float64{}, arc(nil, 50, -h*.3, 50, h*1.1, 0, 180)...), 20, -h*.3, 20, -h*.1, 80, -h*.1, 80, -h*.3)...)
		return 100
	case recipe.HalfRings:
		s.poly(append(arc(nil, 46, 8, 46, h*.9, 0, 180), arc(nil, 46, 8, 26, h*.5, 180, 0)...)...)
		s.poly(append(arc(nil, 46, -8, 46, h*.9, 180, 360), arc(nil, 46, -8, 26, h*.5, 360, 180)...)...)
		return 92
	case recipe.Stud:
		s.box(0, -h*.16, 124, h*.16)
		for _, a := range []float64{8, 18, 28, 96, 106, 116} {
			s.mark(a, -h*.16, a+5, h*.16)
		}
		return 124
	case recipe.Screw:
		s.poly(0, h*.4, 26, h*.4, 26, h*.18, 104, h*.18, 104, -h*.18, 26, -h*.18, 26, -h*.4, 0, -h*.4)
		for _, a := range []float64{66, 76, 86, 96} {
			s.mark(a, -h*.18, a+5, h*.18)
		}
		return 104
	case recipe.Anchor:
		s.poly(0, h*.18, 96, h*.18, 120, h*.34, 120, -h*.34, 96, -h*.18, 0, -h*.18)
		s.mark(60, -h*.3, 60, h*.3)
		return 120
	case recipe.Key:
		s.box(0, -h*.12, 58, h*.12)
		return 58
	case recipe.Lever:
		s.poly(0, h*.2, 20, h*.2, 20, h, 36, h, 36, -h*.2, 0, -h*.2)
		return 36
	case recipe.Block:
		s.box(0, -h, 90, h)
		s.mark(0, h*.4, 90, h*.4)
		s.mark(0, -h*.4, 90, -h*.4)
		return 90
	case recipe.Beam:
		s.box(0, -h, 10, h)
		s.box(10, -h*.12, 34, h*.12)
		s.box(34, -h, 44, h)
		return 44
	case recipe.Bracket:
		s.poly(0, h, 12, h, 12, -h*.5, 52, -h*.5, 52, -h*.72, 0, -h*.72)
		return 52
	case recipe.Band:
		s.boxes(0, h*.86, 30, h)
		s.box(8, h, 22, h*1.16)
		s.mark(0, -h*.86, 0, h*.86)
		s.mark(30, -h*.86, 30, h*.86)
		return 30
	case recipe.Lobed:
		var c []float64
		for i := range 9 {
			c = append(c, 0+float64(i%2)*4, h-float64(i)*h/4)
		}
		for i := range 9 {
			c = append(c, 36-float64(i%2)*4, -h+float64(i)*h/4)
		}
		s.poly(c...)
		s.circle(18, h*.5, h*.13)
		s.circle(18, -h*.5, h*.13)
		return 36
	}
	s.box(0, -h, 40, h)
	return 40
}
