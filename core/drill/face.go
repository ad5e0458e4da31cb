package drill

import (
	"fmt"
	"math"
	"math/rand/v2"

	"dynacor/core/crib"
	"dynacor/core/unit"
)

// Facing is the face of a tool: to be set to a value, or to be read at one.
type Facing struct {
	Tool crib.Tool
	At   float64 // what it shows when it is taken up, or is to be read at, in In
	To   float64 // what it is to be set to, in In
	In   unit.Unit
	By   []float64 // steps in which it is turned, the smallest first, in In; none of a preset wrench
}

// mostMarks is as far as a face is away from where it is to be set, in small marks.
const mostMarks = 60

// faces are those of hand tools, and a gauge's.
func faces() []crib.Face { return append(crib.Faces(), "") }

// anyOf draws a tool with one of the faces, each as often.
func anyOf(r *rand.Rand, m Material) crib.Tool {
	all := faces()
	face := all[r.IntN(len(all))]
	list := m.where(func(t crib.Tool) bool {
		s, err := t.Shows(t.Most)
		if err != nil || !(t.Kind == crib.Wrench && t.Face == face || t.Kind == crib.Gauge && face == "") {
			return false
		}
		first, last := marks(s)
		return face == crib.Preset || last > first
	})
	return list[r.IntN(len(list))]
}

// marks are the first and the last of the small marks that a face is used at, counted from its first mark; nought is not asked for.
func marks(s crib.Shown) (first, last int) {
	first = int(math.Ceil((s.Least-s.First)/s.Minor - 1e-9))
	if s.First == 0 {
		first = max(first, 1)
	}
	return first, int(math.Floor((s.Most-s.First)/s.Minor + 1e-9))
}

func newReading(r *rand.Rand, m Material) (Facing, error) {
	t := anyOf(r, m)
	s, err := t.Shows(t.Most)
	if err != nil {
		return Facing{}, err
	}
	out := Facing{Tool: t, In: s.In, At: s.Value}
	if t.Face != crib.Preset {
		first, last := marks(s)
		s, err = t.Shows(s.First + float64(first+r.IntN(last-first+1))*s.Minor)
		out.At = s.Value
	}
	return out, err
}

func newSetting(r *rand.Rand, m Material) (Facing, error) {
	out, err := newReading(r, m)
	if err != nil {
		return out, err
	}
	s, err := out.Tool.Shows(out.At)
	if err != nil {
		return out, err
	}
	if out.To = out.At; out.Tool.Face == crib.Preset {
		if r.IntN(2) == 0 {
			out.To = unit.Round(out.At*(0.7+0.2*r.Float64()), s.Minor/50)
		}
		return out, nil
	}
	out.By = []float64{s.Minor, s.Minor * float64(s.Turn)}
	if s.Turn == 1 {
		out.By[1] = 10 * s.Minor
	}
	if (s.Most-s.Least)/out.By[1] > mostMarks {
		out.By = append(out.By, 10*out.By[1])
	}
	first, last := marks(s)
	is := int(unit.Steps(out.At-s.First, s.Minor))
	first, last = max(first, is-mostMarks), min(last, is+mostMarks)
	to := first + r.IntN(last-first) // of the others
	if to >= is {
		to++
	}
	s, err = out.Tool.Shows(s.First + float64(to)*s.Minor)
	out.To = s.Value
	return out, err
}

// Shows is what the face shows at a value; outside of its marks, what it shows at their end.
func (f Facing) Shows(at float64) (crib.Shown, error) {
	s, err := f.Tool.Shows(f.At)
	if err != nil {
		return s, err
	}
	return f.Tool.Shows(math.Max(s.First, math.Min(s.Most, at)))
}

// near reports whether two values are the same on a face.
func near(s crib.Shown, a, b float64) bool { return math.Abs(a-b) < s.Minor/2*(1-1e-9) }

func (f Facing) written(s crib.Shown, v float64) string {
	return fmt.Sprintf("%.*f %s", s.Digits, v, f.In)
}

func (f Facing) judgeSetting(answer float64) (Judged, error) {
	if f.Tool.Face == crib.Preset {
		return f.judgeTaking(answer), nil
	}
	s, err := f.Shows(f.To)
	if err != nil {
		return Judged{}, err
	}
	out := Judged{Holds: near(s, answer, f.To), Right: f.To, Why: s.Words}
	if !out.Holds {
		out.Why = fmt.Sprintf("It was set to %s, and %s are asked for. %s", f.written(s, answer), f.written(s, f.To), s.Words)
	}
	return out, nil
}

// What is answered of a preset wrench.
const (
	another = 0 // take another tool
	takeIt  = 1
)

func (f Facing) judgeTaking(answer float64) Judged {
	out := Judged{Right: another,
		Why: fmt.Sprintf("It is closed at %.4g %s, and %.4g %s are asked for. Take another tool.", f.At, f.In, f.To, f.In)}
	if f.To == f.At {
		out.Right, out.Why = takeIt, fmt.Sprintf("It is closed at %.4g %s, and that is asked for. Nothing is turned on it.", f.At, f.In)
	}
	out.Holds = answer == out.Right
	return out
}

func (f Facing) judgeReading(answer float64) (Judged, error) {
	s, err := f.Tool.Shows(f.At)
	if err != nil {
		return Judged{}, err
	}
	if f.Tool.Face == crib.Preset { // one mark, engraved
		s.Minor = 0.01 * f.At
	}
	return Judged{Holds: near(s, answer, f.At), Right: f.At, Why: s.Words}, nil
}
