package work

import (
	"fmt"
	"slices"

	"dynacor/core/recipe"
	"dynacor/core/record"
	"dynacor/core/refusal"
	"dynacor/core/unit"
)

// Torque and angle: where a tool reads how far a nut turned, that says what its torque
// cannot. The turn from snug follows the load (VDI 2230), so one bolt whose turn is far
// from the others' is another bolt: bottomed, galled, yielding, without its washer.

// MovedBy is how far a nut may turn in a check round and still count as not moved,
// degrees: what a wrench and its socket give.
const MovedBy = 5.0

// How far a turn may lie from the others', or from the computed one, as shares of it,
// before it is asked about; and how many others make a median.
const (
	muchLess  = 0.6
	muchMore  = 1.6
	leastSeen = 3
	mostAngle = 720.0
)

// ByAngle says of a nut in a check round whether it moved, where its angle was read.
func ByAngle(c record.Done) record.Done {
	if c.Round > 0 && c.Turn == 0 && c.Angle > 0 {
		c.Moved = c.Angle > MovedBy
	}
	return c
}

// angled refuses an angle that cannot be, or that says of a round what its entry does not.
func angled(st *step, c record.Done) error {
	if c.Angle == 0 {
		return nil
	}
	if c.Bolt == 0 || c.Lock || st.owner < 0 || st.group.How != recipe.ByTorque {
		return refusal.New(refusal.Contradicts, "angle", "No angle is read here.", "Leave it out.")
	}
	if err := refusal.Within("angle", c.Angle, mostAngle, string(unit.Degree)); err != nil {
		return err
	}
	if c.Round > 0 && c.Moved != ByAngle(c).Moved {
		return refusal.Number(refusal.Contradicts, "moved", c.Angle, MovedBy, string(unit.Degree),
			fmt.Sprintf("It turned %.3g°; more than %g° is moved, and no more is not.", c.Angle, MovedBy), "Say what it did.")
	}
	return nil
}

// offAngle says why the turn of a bolt in its last stage is not that of the others, or
// not the computed one; empty where it is, or where there is nothing to hold it against.
func (s *State) offAngle(st *step, c record.Done) string {
	if c.Angle == 0 || c.Round > 0 || c.Share != 100 {
		return ""
	}
	want, whose := s.medianAngle(st, c), "the others turn"
	if want == 0 {
		want, whose = st.group.FromSnug, "the load asks for"
	}
	switch {
	case want == 0:
		return ""
	case c.Angle < muchLess*want:
		return fmt.Sprintf("%.3g° where %s %.3g°: much less. Bottomed, galled or cross-threaded?", c.Angle, whose, want)
	case c.Angle > muchMore*want:
		return fmt.Sprintf("%.3g° where %s %.3g°: much more. Yielding, a soft part, or a washer missing?", c.Angle, whose, want)
	}
	return ""
}

// medianAngle is the median turn of the other bolts at the same stage; 0 for too few.
func (s *State) medianAngle(st *step, c record.Done) float64 {
	var seen []float64
	for a := st.first; a < st.last; a++ {
		act := s.plan.acts[a]
		if act.Share != c.Share || act.Lock || act.Bolt == c.Bolt {
			continue
		}
		if l, ok := s.lineOf(a); ok {
			if d, is := l.Content.(record.Done); is && d.Angle > 0 {
				seen = append(seen, d.Angle)
			}
		}
	}
	if len(seen) < leastSeen {
		return 0
	}
	slices.Sort(seen)
	n := len(seen)
	return (seen[(n-1)/2] + seen[n/2]) / 2
}
