package work

import (
	"fmt"
	"math"
	"strings"
	"time"

	"dynacor/core/record"
	"dynacor/core/refusal"
	"dynacor/core/unit"
)

// LinkedLow is how far below its setting a tool that sends its reading itself may stay and
// still have held, a fraction; its own accuracy where that is worse.
const LinkedLow = 0.04

// Target is what a linked tool is to reach at an act, in the unit of its scale, and between
// which values it has.
type Target struct {
	Act       record.Act
	Value     float64
	Low, High float64
	Unit      unit.Unit
}

// Told is what a reading of a linked tool comes to by itself.
type Told string

// What a reading comes to. Short: below, and the same bolt again. Past: above, and somebody
// has to say what became of the bolt.
const (
	ToldHeld  Told = "held"
	ToldShort Told = "short"
	ToldPast  Told = "past"
)

// InHand returns the first tool of what is taken in hand and set, and whose hand that is; ok
// is false where none is, or where nobody is at it now.
func (s *State) InHand() (tag, person string, ok bool) {
	if s.inHand.tools == "" || s.Paused != nil || s.Standing != record.Tighten {
		return "", "", false
	}
	tag, _, _ = strings.Cut(s.inHand.tools, " + ")
	return tag, s.inHand.by, true
}

// LastAt is when the newest entry was done; zero where there is none.
func (s *State) LastAt() time.Time { return s.pace.last }

// Target returns what a linked tool is to reach next; ok is false where it is not its turn.
func (s *State) Target(tag string) (t Target, ok bool) {
	in, _, there := s.InHand()
	next, more := s.Next()
	if !there || !more || in != tag || next.Bolt == 0 || next.Lock {
		return t, false
	}
	st, _, _ := s.plan.step(next.Step)
	set, with := s.toolOf(st, next)
	if !with || !s.inHand.holds(set) || set.Draws() {
		return t, false
	}
	v := set.Setting.Value
	t = Target{Act: next, Value: v, Low: v * (1 - max(LinkedLow, set.Accuracy)), High: v * (1 + FarShare), Unit: set.Setting.Unit}
	if set.Pressed() {
		t.Low, t.High = v*0.99, v*1.01
	}
	if g := st.group; next.Share == 100 && g.TorqueMax > g.TorqueMin && set.Lands > 0 && !set.Pressed() {
		t.Low, t.High = math.Max(t.Low, v*g.TorqueMin/set.Lands), math.Min(t.High, v*g.TorqueMax/set.Lands)
	}
	return t, true
}

// Tell says what a reading comes to. It refuses one in a unit that is no torque, or no
// pressure, and what cannot be.
func (t Target) Tell(reading unit.Quantity) (Told, string, error) {
	v, err := reading.In(t.Unit)
	if err != nil {
		return "", "", refusal.At("peak", err)
	}
	if err := refusal.Positive("peak", v, string(t.Unit)); err != nil {
		return "", "", err
	}
	switch {
	case v > 10*t.Value:
		return "", "", refusal.Number(refusal.TooLarge, "peak", v, t.Value, string(t.Unit),
			fmt.Sprintf("%s is more than ten times the target of %.5g %s.", reading, t.Value, t.Unit), "Look at the tool's unit.")
	case !unit.AtLeast(v, t.Low):
		return ToldShort, fmt.Sprintf("%.4g %s; at least %.4g %s.", v, t.Unit, t.Low, t.Unit), nil
	case !unit.AtMost(v, t.High):
		return ToldPast, fmt.Sprintf("%.4g %s; at most %.4g %s.", v, t.Unit, t.High, t.Unit), nil
	}
	return ToldHeld, fmt.Sprintf("%.4g %s.", v, t.Unit), nil
}
