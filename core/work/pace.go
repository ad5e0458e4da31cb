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

// pace is when the last pulls were made, by each of the tools that work at once.
type pace struct {
	last time.Time // of the last entry of any kind
	of   [MostHands]pulls
}

// pulls are the last of one tool.
type pulls struct {
	at [PacePulls - 1]time.Time
	n  int // since it was last asked about
}

// fast reports whether one more pull at a time would be too many.
func (p *pulls) fast(at time.Time) bool {
	if p.n < len(p.at) {
		return false
	}
	between := at.Sub(p.at[p.n%len(p.at)])
	return between >= 0 && between < PaceTime
}

// LinkedTime is between two pulls that a tool sent itself: it has its own clock, and a trace
// of each, so that only one that counts a click twice is too fast.
const LinkedTime = 500 * time.Millisecond

// tooFast says why a pull comes too fast; empty where it does not.
func (p *pulls) tooFast(c record.Done, at time.Time) string {
	switch {
	case c.Taken == "" && p.fast(at):
		return fmt.Sprintf("%d bolts in %g seconds: no hand makes that pace.", PacePulls, PaceTime.Seconds())
	case c.Taken != "" && p.n > 0:
		if between := at.Sub(p.at[(p.n-1)%len(p.at)]); between >= 0 && between < LinkedTime {
			return fmt.Sprintf("Two pulls of %s within %g s: it may have counted one twice.", c.Taken, LinkedTime.Seconds())
		}
	}
	return ""
}

// pull counts a pull of a hand, and reports whether it was too fast.
func (p *pace) pull(c record.Done, hand int, at time.Time) bool {
	of := &p.of[hand]
	if of.tooFast(c, at) != "" {
		*of = pulls{n: 1}
		of.at[0] = at
		return true
	}
	of.at[of.n%len(of.at)] = at
	of.n++
	return false
}

// early reports whether an entry's time lies before that of the one before it.
func (s *State) early(e record.Entry) bool {
	return !s.pace.last.IsZero() && e.AtTool.Before(s.pace.last.Add(-ClockSlack))
}
