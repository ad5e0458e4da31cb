package work

import (
	"fmt"
	"time"

	"dynacor/core/record"
)

// Clocks that differ by less than ClockSlack are not asked about.
const ClockSlack = time.Minute

// PacePulls pulls within PaceTime are a pace that no hand can make: more than
// one bolt in 1.2 s, again and again.
const (
	PacePulls = 6
	PaceTime  = 6 * time.Second
)

// pace is when the last pulls were made.
type pace struct {
	last  time.Time // of the last entry of any kind
	pulls [PacePulls - 1]time.Time
	n     int // since it was last asked about
}

// fast reports whether one more pull at a time would be too many.
func (p *pace) fast(at time.Time) bool {
	if p.n < len(p.pulls) {
		return false
	}
	between := at.Sub(p.pulls[p.n%len(p.pulls)])
	return between >= 0 && between < PaceTime
}

// LinkedTime is between two pulls that a tool sent itself: it has its own clock, and a trace
// of each, so that only one that counts a click twice is too fast.
const LinkedTime = 500 * time.Millisecond

// tooFast says why a pull comes too fast; empty where it does not.
func (p *pace) tooFast(c record.Done, at time.Time) string {
	switch {
	case c.Taken == "" && p.fast(at):
		return fmt.Sprintf("%d bolts in %g seconds: no hand makes that pace.", PacePulls, PaceTime.Seconds())
	case c.Taken != "" && p.n > 0:
		if between := at.Sub(p.pulls[(p.n-1)%len(p.pulls)]); between >= 0 && between < LinkedTime {
			return fmt.Sprintf("Two pulls of %s within %g s: it may have counted one twice.", c.Taken, LinkedTime.Seconds())
		}
	}
	return ""
}

// pull counts a pull, and reports whether it was too fast.
func (p *pace) pull(c record.Done, at time.Time) bool {
	if p.tooFast(c, at) != "" {
		*p = pace{last: p.last}
		p.pulls[0], p.n = at, 1
		return true
	}
	p.pulls[p.n%len(p.pulls)] = at
	p.n++
	return false
}

// early reports whether an entry's time lies before that of the one before it.
func (s *State) early(e record.Entry) bool {
	return !s.pace.last.IsZero() && e.AtTool.Before(s.pace.last.Add(-ClockSlack))
}
