package crib

import (
	"fmt"
	"time"
)

// Soon is how many days before its date, and which share of its pulls before its count, a
// tool is pointed out.
const (
	Soon      = 14
	soonShare = 0.9
)

// Due is when a tool is to be calibrated again: by its date or by its pulls, whichever
// comes first. What befalls it holds it at once.
type Due struct {
	On       time.Time // last day; zero: none
	Days     int       // until then; below nought: past
	Pulls    int       // made since it was calibrated
	OfPulls  int       // that it may make; 0: they are not counted
	Over     bool
	Soon     bool
	ByPulls  bool   // they come first, or did
	Words    string // short
	Overdue  string // why it may not be used; empty: it may
	Measured bool   // it has an interval at all
}

// Comes says when a tool is due, that has made so many pulls since it was calibrated.
func (s State) Comes(t Tool, pulls int, now time.Time) Due {
	d := Due{On: s.Due, Pulls: pulls, OfPulls: t.Pulls, Measured: !s.Due.IsZero() || t.Pulls > 0}
	if !s.Due.IsZero() {
		d.Days = int(day(s.Due).Sub(day(now.UTC())).Hours() / 24)
		d.Over, d.Soon = d.Days < 0, d.Days <= Soon
		switch {
		case d.Over:
			d.Overdue = fmt.Sprintf("out of calibration since %s", s.Due.Format("2 January 2006"))
			d.Words = "past due since " + s.Due.Format("2 Jan 2006")
		case d.Days == 0:
			d.Words = "due today"
		case d.Days == 1:
			d.Words = "due in 1 day"
		case d.Soon:
			d.Words = fmt.Sprintf("due in %d days", d.Days)
		default:
			d.Words = "due " + s.Due.Format("2 Jan 2006")
		}
	}
	if t.Pulls > 0 {
		over := pulls >= t.Pulls
		near := float64(pulls) >= soonShare*float64(t.Pulls)
		if over && !d.Over || near && !d.Soon {
			d.ByPulls = true
			d.Words = fmt.Sprintf("%d of %d pulls made", pulls, t.Pulls)
		}
		if over && !d.Over {
			d.Overdue = fmt.Sprintf("%d pulls since its calibration, %d are its most", pulls, t.Pulls)
		}
		d.Over, d.Soon = d.Over || over, d.Soon || near
	}
	if d.Over {
		d.Soon = false
	}
	return d
}
