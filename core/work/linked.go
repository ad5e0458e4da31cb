package work

import (
	"fmt"
	"math"
	"strings"

	"dynacor/core/joint"
	"dynacor/core/record"
	"dynacor/core/refusal"
	"dynacor/core/tool"
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

// InHand returns who has a tool in hand and set, and which of those that work at once it is;
// ok is false where nobody has, or where nobody is at it now.
func (s *State) InHand(tag string) (person string, hand int, ok bool) {
	if s.Paused != nil || s.Standing != record.Tighten {
		return "", 0, false
	}
	for i, h := range s.inHand {
		if first, _, _ := strings.Cut(h.tools, " + "); first == tag && tag != "" {
			return h.by, i, true
		}
	}
	return "", 0, false
}

// Target returns what a linked tool is to reach next; ok is false where it is not its turn.
func (s *State) Target(tag string) (t Target, ok bool) {
	_, hand, there := s.InHand(tag)
	next, more := s.offeredTo(hand)
	if !there || !more || next.Lock {
		return t, false
	}
	st, _, _ := s.plan.step(next.Step)
	set, with := s.toolOf(st, next)
	if !with || !s.inHand[hand].holds(set) || set.Draws() {
		return t, false
	}
	return aimed(st.group, set, next), true
}

// Aimed is what the pull of a line was to reach; ok is false where it is none of a tool.
func (s *State) Aimed(l Line) (t Target, ok bool) {
	c, pull := l.Content.(record.Done)
	if !pull || l.Tool == nil || c.Bolt == 0 || l.Tool.Draws() {
		return t, false
	}
	st, _, there := s.plan.step(c.Step)
	if !there {
		return t, false
	}
	return aimed(st.group, l.Tool, c.Act), true
}

// aimed is what a tool of a group is to reach at an act.
func aimed(g joint.Group, set *record.StageTool, a record.Act) Target {
	v := set.Setting.Value
	t := Target{Act: a, Value: v, Low: v * (1 - max(LinkedLow, set.Accuracy)), High: v * (1 + FarShare), Unit: set.Setting.Unit}
	switch {
	case set.Pressed():
		t.Low, t.High = v*(1-tool.AlikeShare), v*(1+tool.AlikeShare)
	case a.Share == 100 && g.TorqueMax > g.TorqueMin && set.Lands > 0:
		t.Low, t.High = math.Max(t.Low, v*g.TorqueMin/set.Lands), math.Min(t.High, v*g.TorqueMax/set.Lands)
	}
	return t
}

// In is the same target in another unit.
func (t Target) In(u unit.Unit) (Target, error) {
	for _, v := range []*float64{&t.Value, &t.Low, &t.High} {
		at, err := unit.Convert(*v, t.Unit, u)
		if err != nil {
			return Target{}, err
		}
		*v = at
	}
	t.Unit = u
	return t, nil
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
