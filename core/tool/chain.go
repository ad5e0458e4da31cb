package tool

import (
	"fmt"
	"time"

	"dynacor/core/refusal"
	"dynacor/core/unit"
)

// Chain is what stands between the hand and the nut, in line: a wrench, then
// a multiplier or an offset end or neither, with an adapter where drives
// differ, then the socket or bit. Parts that are not used are nil.
//
// An offset end goes on the wrench itself, for its formula is about the
// wrench's own lever; behind a multiplier it has no place.
type Chain struct {
	Wrench     Wrench
	First      *Adapter // on the wrench
	Multiplier *Multiplier
	Second     *Adapter // on the multiplier
	Offset     *OffsetEnd
	Extension  *Extension // in line before the socket
	Socket     *Socket
}

// Parts counts the links, the wrench included.
func (c Chain) Parts() int {
	n := 1
	for _, there := range []bool{c.First != nil, c.Multiplier != nil, c.Second != nil, c.Offset != nil, c.Extension != nil, c.Socket != nil} {
		if there {
			n++
		}
	}
	return n
}

// Setting is how one pass is set on a chain.
type Setting struct {
	Chain    Chain
	Pass     int       // from 1
	Torque   float64   // what the pass asks for, N·m
	Unit     unit.Unit // of Shown and Reading
	Reading  Reading
	Lands    float64 // what the nut gets, N·m
	Error    float64 // percent of the pass's exact torque
	Accuracy float64 // of the chain, fraction
	Force    float64 // on the handle, N; zero when the length is not known
}

// AtWrench returns the torque at the wrench's drive, N·m, that puts torque on
// the nut, and the accuracy of the chain. It refuses a link that is held
// back, does not fit its neighbour or is past its rating; the wrench's own
// range is Set's.
func (c Chain) AtWrench(torque float64) (at, accuracy float64, err error) {
	if err := refusal.Positive("torque", torque, string(unit.NewtonMetre)); err != nil {
		return 0, 0, err
	}
	if c.Offset != nil && c.Multiplier != nil {
		return 0, 0, refusal.New(refusal.Contradicts, "offset",
			"An offset end works on the wrench's own lever; behind a multiplier it has none.",
			"Leave the offset end or the multiplier out.")
	}
	at, end := torque, c.Wrench.Drive
	if m := c.Multiplier; m != nil {
		if at, err = Behind(torque, m.Ratio); err != nil {
			return 0, 0, err
		}
	}
	if o := c.Offset; o != nil {
		if c.Wrench.Length <= 0 {
			return 0, 0, refusal.New(refusal.Missing, "wrench",
				fmt.Sprintf("%s has no length; with an offset end the setting depends on it.", c.Wrench.Tag),
				"Measure it from the drive to the middle of the grip.")
		}
		if at, err = Offset(torque, c.Wrench.Length, o.Length, o.Angle); err != nil {
			return 0, 0, err
		}
	}
	accuracy = c.Wrench.accuracy()
	if m := c.Multiplier; m != nil {
		accuracy = Together(accuracy, m.Accuracy)
	}
	for _, link := range []struct {
		there bool
		fit   func() (string, error)
	}{
		{c.First != nil, func() (string, error) { return c.First.carry(at, end) }},
		{c.Multiplier != nil, func() (string, error) { return c.Multiplier.carry(torque, c.Wrench.Tag, end) }},
		{c.Second != nil, func() (string, error) { return c.Second.carry(torque, end) }},
		{c.Offset != nil, func() (string, error) { return c.Offset.carry(torque, end) }},
		{c.Extension != nil, func() (string, error) { return c.Extension.carry(torque, end) }},
		{c.Socket != nil, func() (string, error) { return c.Socket.carry(torque, end) }},
	} {
		if !link.there {
			continue
		}
		if end, err = link.fit(); err != nil {
			return 0, 0, err
		}
	}
	return at, accuracy, nil
}

// Set returns how chain is set for a pass of torque (N·m). It refuses what is
// out of calibration, held back, or outside a rating.
func (c Chain) Set(pass int, torque float64, today time.Time) (Setting, error) {
	w := c.Wrench
	if err := refusal.Positive("torque", torque, string(unit.NewtonMetre)); err != nil {
		return Setting{}, err
	}
	if err := w.free(today); err != nil {
		return Setting{}, err
	}
	at, accuracy, err := c.AtWrench(torque)
	if err != nil {
		return Setting{}, err
	}
	exact, err := unit.Convert(at, unit.NewtonMetre, w.Unit)
	if err != nil {
		return Setting{}, err
	}
	low, ok, err := Usable(w.RatedMin, w.RatedMax, exact)
	if err != nil {
		return Setting{}, err
	}
	if !ok {
		return Setting{}, w.outside(exact, low)
	}
	r, err := w.Scale.Read(exact)
	if err != nil {
		return Setting{}, refusal.At("wrench", err)
	}
	if r, err = w.inside(r, low); err != nil {
		return Setting{}, err
	}
	shown, err := unit.Convert(r.Shown, w.Unit, unit.NewtonMetre)
	if err != nil {
		return Setting{}, err
	}
	s := Setting{Chain: c, Pass: pass, Torque: torque, Unit: w.Unit, Reading: r, Lands: shown * torque / at, Accuracy: accuracy}
	s.Error = 100 * (s.Lands - torque) / torque
	if w.Length > 0 {
		if s.Force, err = HandForce(shown, w.Length); err != nil {
			return Setting{}, refusal.At("wrench", err)
		}
	}
	return s, nil
}

// inside brings a reading that rounding took out of the wrench's range back
// to the nearest mark within it.
func (w Wrench) inside(r Reading, low float64) (Reading, error) {
	step := 0.0
	switch {
	case !unit.AtMost(r.Shown, w.RatedMax):
		step = -w.Scale.Minor
	case !unit.AtLeast(r.Shown, low):
		step = w.Scale.Minor
	default:
		return r, nil
	}
	back, err := w.Scale.Read(r.Shown + step)
	if err != nil || !unit.AtMost(back.Shown, w.RatedMax) || !unit.AtLeast(back.Shown, low) {
		return Reading{}, refusal.Number(refusal.Contradicts, "wrench", w.Scale.Minor, w.RatedMax-low, string(w.Unit),
			fmt.Sprintf("No mark of %s's scale lies in its range, %.4g to %.4g %s.", w.Tag, low, w.RatedMax,
				w.Unit), "Read the scale off the tool again.")
	}
	return back, nil
}
