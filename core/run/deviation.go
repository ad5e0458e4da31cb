package run

import (
	"fmt"
	"slices"
)

// deviate notes what the record must show first.
func (s *State) deviate(eff Effective) {
	note := func(bolt int, outside bool, format string, args ...any) {
		s.Deviations = append(s.Deviations, Deviation{eff.Entry.ID, bolt, outside, fmt.Sprintf(format, args...)})
	}
	if by := eff.Corrected; by != nil {
		c := by.Content.(Correction)
		how := "corrected"
		if c.Instead == nil {
			how = "struck out"
		}
		note(boltOf(eff.Entry.Content), false, "%s %s: %s", Describe(eff.Entry.Content), how, c.Reason)
	}
	switch c := eff.Content.(type) {
	case Pull:
		if c.NoTurn && c.Pass == 1 {
			note(c.Bolt, false, "bolt %d did not turn in the first pass", c.Bolt)
		}
		s.noteReading(note, c.Bolt, c.Pass, c.Reading.Value, c.Confirmed)
	case Check:
		if c.Moved {
			note(c.Bolt, false, "bolt %d moved in check round %d", c.Bolt, c.Round)
		}
		s.noteReading(note, c.Bolt, len(s.plan.Shares), c.Reading.Value, c.Confirmed)
	case Trouble:
		text := fmt.Sprintf("bolt %d: %s, %s", c.Bolt, c.What, c.Remedy.Done())
		if c.Note != "" {
			text += ". " + c.Note
		}
		note(c.Bolt, false, "%s", text)
	case Tooling:
		for _, p := range c.Passes {
			if p.ByHand {
				note(0, false, "pass %d was made with a tool that is not in the crib: %s", p.Pass, p.Tools[0])
			}
		}
	case Decision:
		note(0, false, "another check round was allowed: %s", c.Reason)
	}
}

func (s *State) noteReading(note func(int, bool, string, ...any), bolt, pass int, reading float64, confirmed bool) {
	if reading == 0 || !confirmed || s.Tooling == nil || pass > len(s.Tooling.Passes) {
		return
	}
	set := s.Tooling.Passes[pass-1].Setting
	if far(reading, set.Value) {
		note(bolt, true, "bolt %d read %.5g %s where %.5g %s was set", bolt, reading, set.Unit, set.Value, set.Unit)
	}
}

// Done says what was done about a trouble.
func (r Remedy) Done() string {
	switch r {
	case Replaced:
		return "bolt replaced and begun anew"
	case Leave:
		return "left for the end of the pass"
	}
	return "tried again"
}

// Describe names an entry in a few words.
func Describe(c Content) string {
	switch c := c.(type) {
	case Pull:
		return fmt.Sprintf("bolt %d, pass %d", c.Bolt, c.Pass)
	case Check:
		return fmt.Sprintf("bolt %d, check round %d", c.Bolt, c.Round)
	case Trouble:
		return fmt.Sprintf("trouble at bolt %d", c.Bolt)
	case Measurement:
		return fmt.Sprintf("gap %s", c.Phase)
	case nil:
		return "nothing"
	}
	return string(c.Kind())
}

func boltOf(c Content) int {
	switch c := c.(type) {
	case Pull:
		return c.Bolt
	case Check:
		return c.Bolt
	case Trouble:
		return c.Bolt
	}
	return 0
}

// AllDeviations returns what the record shows first: what was noted on the
// way and what the proof says.
func (s *State) AllDeviations() []Deviation {
	out := append([]Deviation(nil), s.Deviations...)
	if s.Begun() && s.GapBefore == nil {
		out = append(out, Deviation{Text: "the gap before was not measured"})
	}
	if g := s.GapAfter; g != nil && !g.Verdict.Parallel {
		out = append(out, Deviation{Entry: g.Entry, Outside: true,
			Text: fmt.Sprintf("the gap is not parallel: %.2f mm where %.2f mm is the most, open at %s", g.Verdict.Spread, g.Verdict.Limit, Clock(g.Verdict.OpenSide))})
	}
	return out
}

// Clock writes a clock hour: "12 o'clock", "half past 7".
func Clock(hour float64) string {
	if hour == float64(int(hour)) {
		return fmt.Sprintf("%d o’clock", int(hour))
	}
	return fmt.Sprintf("half past %d", (int(hour)+11)%12+1)
}

// Outside reports whether anything on the record is outside a limit.
func (s *State) Outside() bool { return AnyOutside(s.AllDeviations()) }

// AnyOutside reports whether one of the deviations is outside a limit.
func AnyOutside(list []Deviation) bool {
	return slices.ContainsFunc(list, func(d Deviation) bool { return d.Outside })
}

// Open lists what still keeps the record from being signed.
func (s *State) Open() []string {
	var open []string
	switch s.Stage {
	case StageTool:
		return []string{"no tool is chosen"}
	case StageTighten:
		open = append(open, fmt.Sprintf("pass %d of %d has %d bolts to go", s.Pass, len(s.plan.Shares), len(s.Bolts)-s.PassDone))
	case StageCheck:
		open = append(open, "no whole check round has moved nothing yet")
	case StageStopped:
		open = append(open, "an engineer decides on another check round")
	}
	if s.GapAfter == nil {
		open = append(open, "the gap after is not measured")
	}
	if s.Paused != nil {
		open = append(open, "the run is paused")
	}
	return open
}

// NothingMoved returns the verdict of the last check round that counts: its
// number and whether a whole round moved no nut, of bolts that are all held.
func (s *State) NothingMoved() (round int, holds bool) {
	for i := len(s.Rounds) - 1; i >= 0; i-- {
		if r := s.Rounds[i]; r.Complete && !r.Interrupted {
			return r.Number, len(r.Moved) == 0 && s.openPass() > len(s.plan.Shares)
		}
	}
	return 0, false
}
