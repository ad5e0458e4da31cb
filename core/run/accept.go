package run

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"dynacor/core/proof"
	"dynacor/core/refusal"
	"dynacor/core/unit"
)

// FarShare is how far a reading may lie from the setting, as a fraction of
// it, before it is asked about.
const FarShare = 0.10

// Accept says whether e may be added to the run as it stands. A refusal
// changes nothing.
func (s *State) Accept(e Entry) error {
	if s.Stage == StageSigned {
		return refusal.New(refusal.NotNow, "kind", "This record is signed; nothing can be added to it.", "Open a new run.")
	}
	if _, pause := e.Content.(Resume); s.Paused != nil && !pause {
		switch e.Content.(type) {
		case Pull, Check, Trouble:
			return refusal.New(refusal.NotNow, "kind", "The run is paused.", "Take it up again first.")
		}
	}
	switch c := e.Content.(type) {
	case Caution:
		return nil
	case Tooling:
		return s.acceptTooling(c)
	case Pull:
		return s.acceptPull(e.Person, c)
	case Check:
		return s.acceptCheck(e.Person, c)
	case Trouble:
		return s.acceptTrouble(c)
	case Correction:
		return s.acceptCorrection(c)
	case Pause:
		if s.Paused != nil {
			return refusal.New(refusal.NotNow, "kind", "The run is paused already.", "")
		}
		return nil
	case Resume:
		if s.Paused == nil {
			return refusal.New(refusal.NotNow, "kind", "The run is not paused.", "")
		}
		return nil
	case Measurement:
		return s.acceptMeasurement(c)
	case Decision:
		return s.acceptDecision(c)
	case Signature:
		return s.acceptSignature(e.Person, c)
	}
	return refusal.New(refusal.Unknown, "kind", "Unknown kind of entry.", "")
}

func (s *State) acceptTooling(t Tooling) error {
	if len(t.Passes) != len(s.plan.Shares) {
		return refusal.Number(refusal.Missing, "tooling", float64(len(t.Passes)), float64(len(s.plan.Shares)), "passes",
			fmt.Sprintf("Tools are given for %d of %d passes.", len(t.Passes), len(s.plan.Shares)), "Choose a tool for each pass.")
	}
	return nil
}

func (s *State) ready(person string) error {
	if s.Tooling == nil {
		return refusal.New(refusal.NotNow, "kind", "No tool is chosen yet.", "Choose one at Tool up.")
	}
	if !s.Cautioned[person] {
		return refusal.New(refusal.NotNow, "kind", "The cautions have not been read yet.", "Read them at Tighten and say so.")
	}
	return nil
}

func (s *State) acceptPull(person string, p Pull) error {
	if err := s.ready(person); err != nil {
		return err
	}
	if s.Next == nil || s.Next.Bolt != p.Bolt || s.Next.Round != 0 || s.Next.Pass != p.Pass {
		return s.notNext(fmt.Sprintf("bolt %d in pass %d", p.Bolt, p.Pass), p.Bolt)
	}
	return s.reading(p.Pass, p.Reading, p.Confirmed)
}

func (s *State) acceptCheck(person string, c Check) error {
	if err := s.ready(person); err != nil {
		return err
	}
	if s.Next == nil || s.Next.Bolt != c.Bolt || s.Next.Round != c.Round || c.Round == 0 {
		return s.notNext(fmt.Sprintf("bolt %d in check round %d", c.Bolt, c.Round), c.Bolt)
	}
	return s.reading(len(s.plan.Shares), c.Reading, c.Confirmed)
}

func (s *State) notNext(what string, bolt int) error {
	if s.Next == nil {
		return refusal.New(refusal.NotNext, "bolt", fmt.Sprintf("%s is not due: nothing is left to pull.", upper(what)), "Go on to Prove.")
	}
	next := fmt.Sprintf("bolt %d in pass %d", s.Next.Bolt, s.Next.Pass)
	if s.Next.Round > 0 {
		next = fmt.Sprintf("bolt %d in check round %d", s.Next.Bolt, s.Next.Round)
	}
	return refusal.Number(refusal.NotNext, "bolt", float64(bolt), float64(s.Next.Bolt), "",
		fmt.Sprintf("%s is not due; %s is next.", upper(what), next), "If it was pulled all the same, say so under Trouble.")
}

func upper(s string) string { return strings.ToUpper(s[:1]) + s[1:] }

// reading asks once about one that is far from the setting.
func (s *State) reading(pass int, q unit.Quantity, confirmed bool) error {
	if q.IsZero() {
		return nil
	}
	set := s.Tooling.Passes[pass-1].Setting
	v, err := q.In(set.Unit)
	if err != nil {
		return refusal.At("reading", err)
	}
	if err := refusal.Positive("reading", v, string(set.Unit)); err != nil {
		return err
	}
	if v > 10*set.Value {
		return refusal.Number(refusal.TooLarge, "reading", v, set.Value, string(set.Unit),
			fmt.Sprintf("%.5g %s is more than ten times the setting of %.5g %s.", v, set.Unit, set.Value, set.Unit), "Check the number and its unit.")
	}
	if far(v, set.Value) && !confirmed {
		return refusal.Number(refusal.FarReading, "reading", v, set.Value, string(set.Unit),
			fmt.Sprintf("%.5g %s is %.0f %% off the setting of %.5g %s.", v, set.Unit, 100*math.Abs(v-set.Value)/set.Value, set.Value, set.Unit),
			"Read it again. If it is right, keep it: it is recorded as a deviation.")
	}
	return nil
}

func far(v, setting float64) bool { return !unit.AtMost(math.Abs(v-setting), FarShare*setting) }

func (s *State) acceptTrouble(t Trouble) error {
	b := s.bolt(t.Bolt)
	if b == nil {
		return refusal.Number(refusal.OutOfRange, "bolt", float64(t.Bolt), float64(len(s.Bolts)), "",
			fmt.Sprintf("Bolt %d is not on this joint of %d.", t.Bolt, len(s.Bolts)), "Choose a bolt of the joint.")
	}
	if err := CheckTrouble(t, TryAgain, Replaced, Leave); err != nil {
		return err
	}
	if t.Remedy == Leave {
		if s.Next == nil || s.Next.Bolt != t.Bolt {
			return s.notNext(fmt.Sprintf("bolt %d", t.Bolt), t.Bolt)
		}
		if b.Left {
			return refusal.New(refusal.NotNow, "remedy", fmt.Sprintf("Bolt %d was left already and is the last open one.", t.Bolt),
				"Make it good, replace it, or pause and hand over.")
		}
	}
	return nil
}

// CheckTrouble refuses a trouble or a remedy that is none of the list.
func CheckTrouble(t Trouble, remedies ...Remedy) error {
	switch t.What {
	case WouldNotTurn, TurnedTooEasy, ThreadDamaged, Overshot, ToolProblem, SomethingElse:
	default:
		return refusal.New(refusal.Unknown, "trouble", fmt.Sprintf("Unknown trouble %q.", string(t.What)), "Choose one from the list.")
	}
	if !slices.Contains(remedies, t.Remedy) {
		return refusal.New(refusal.Unknown, "remedy", fmt.Sprintf("Unknown remedy %q.", string(t.Remedy)), "Choose one from the list.")
	}
	return nil
}

func (s *State) acceptCorrection(c Correction) error {
	if strings.TrimSpace(c.Reason) == "" {
		return refusal.New(refusal.NeedsReason, "reason", "A correction needs its reason.", "Say in a few words what was wrong.")
	}
	var of *Effective
	for i := range s.Effective {
		if s.Effective[i].Entry.ID == c.Of {
			of = &s.Effective[i]
		}
	}
	if of == nil {
		return refusal.New(refusal.Unknown, "of", "The entry to correct is not in this run.", "Choose it on the tape.")
	}
	if of.Content == nil {
		return refusal.New(refusal.NotNow, "of", "This entry was struck out already.", "")
	}
	switch was := of.Content.(type) {
	case Pull:
		if in, ok := c.Instead.(Pull); ok && (in.Bolt != was.Bolt || in.Pass != was.Pass) {
			return refusal.New(refusal.Contradicts, "instead", "A correction keeps the bolt and the pass.", "Strike the entry out and pull again.")
		} else if ok {
			return s.reading(in.Pass, in.Reading, true)
		}
	case Check:
		if in, ok := c.Instead.(Check); ok && (in.Bolt != was.Bolt || in.Round != was.Round) {
			return refusal.New(refusal.Contradicts, "instead", "A correction keeps the bolt and the round.", "")
		} else if ok {
			return s.reading(len(s.plan.Shares), in.Reading, true)
		}
	case Trouble:
		if c.Instead != nil {
			return refusal.New(refusal.Contradicts, "instead", "A trouble is struck out, not rewritten.", "Strike it out and record what it was.")
		}
	case Measurement:
	default:
		return refusal.New(refusal.NotNow, "of", "Only pulls, checks, troubles and measurements can be corrected.", "")
	}
	if c.Instead != nil {
		if c.Instead.Kind() != of.Content.Kind() {
			return refusal.New(refusal.Contradicts, "instead", "A correction must be of the same kind as the entry.", "")
		}
		if m, ok := c.Instead.(Measurement); ok {
			return s.gaps(m)
		}
	}
	if len(s.Signatures) > 0 {
		return refusal.New(refusal.NotNow, "of", "The record is being signed; entries can no longer be corrected.", "Open a new run.")
	}
	return nil
}

// Places is how many gaps are measured: at the quarters, or at eight places.
func places(n int) bool { return n == 4 || n == 8 }

func (s *State) acceptMeasurement(m Measurement) error {
	if len(s.Signatures) > 0 {
		return refusal.New(refusal.NotNow, "kind", "The record is being signed; it can no longer be measured.", "")
	}
	if err := s.gaps(m); err != nil {
		return err
	}
	switch m.Phase {
	case Before:
		if s.Begun() {
			return refusal.New(refusal.NotNow, "phase", "The first bolt is pulled; the gap before can no longer be measured.", "Measure the gap after.")
		}
	case After:
		if s.Stage != StageProve && s.Stage != StageSign {
			return refusal.New(refusal.NotNow, "phase", "The gap after is measured when a whole check round moved nothing.", "Finish the check rounds first.")
		}
	default:
		return refusal.New(refusal.Unknown, "phase", fmt.Sprintf("Unknown phase %q.", string(m.Phase)), "")
	}
	return nil
}

// gaps refuses numbers that cannot be gaps of this joint.
func (s *State) gaps(m Measurement) error {
	if !places(len(m.Gaps)) {
		return refusal.Number(refusal.OutOfRange, "gaps", float64(len(m.Gaps)), 4, "places",
			fmt.Sprintf("%d gaps were given; 4 or 8 are needed.", len(m.Gaps)), "Measure at every place shown.")
	}
	if _, err := proof.JudgeGap(m.Gaps, s.plan.GapDiameter, s.plan.GapLimit); err != nil {
		return err
	}
	for i, g := range m.Gaps {
		if g > s.plan.GapDiameter/2 {
			return refusal.Number(refusal.TooLarge, fmt.Sprintf("gaps.%d", i), g, s.plan.GapDiameter/2, "mm",
				fmt.Sprintf("A gap of %.5g mm is more than half the joint's width.", g), "Check the number and its unit.")
		}
	}
	return nil
}

func (s *State) acceptDecision(d Decision) error {
	if s.Stage != StageStopped {
		return refusal.New(refusal.NotNow, "kind", "The run is not stopped; there is nothing to decide.", "")
	}
	if strings.TrimSpace(d.Reason) == "" {
		return refusal.New(refusal.NeedsReason, "reason", "A decision needs its reason.", "Say in a few words why another round may be made.")
	}
	return nil
}

func (s *State) acceptSignature(person string, sig Signature) error {
	if open := s.Open(); len(open) > 0 {
		return refusal.New(refusal.NotNow, "part", "Still open: "+strings.Join(open, "; ")+".", "Finish these first.")
	}
	if s.signedFor(sig.Part) {
		return refusal.New(refusal.NotNow, "part", "This part is signed already.", "")
	}
	switch sig.Part {
	case Made:
		if !s.Pullers[person] {
			return refusal.New(refusal.Contradicts, "part", "Only someone who pulled bolts on this joint signs that it was made.", "Ask who did.")
		}
	case Checked:
		if !s.signedFor(Made) {
			return refusal.New(refusal.NotNow, "part", "The fitter signs first.", "Ask the fitter to sign.")
		}
		if s.Pullers[person] {
			return refusal.New(refusal.NotTheSame, "part", "You pulled bolts on this joint, so another person checks it.", "Ask an inspector who did not.")
		}
		if s.Outside() && strings.TrimSpace(sig.Reason) == "" {
			return refusal.New(refusal.NeedsReason, "reason", "Something on this record is outside its limit.", "Say why it is accepted.")
		}
	default:
		return refusal.New(refusal.Unknown, "part", fmt.Sprintf("Unknown part %q.", string(sig.Part)), "")
	}
	return nil
}
