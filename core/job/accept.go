package job

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"dynacor/core/recipe"
	"dynacor/core/refusal"
	"dynacor/core/run"
	"dynacor/core/unit"
)

// Accept says whether e may be added to the run as it stands. qualified are the
// roles and qualifications of whoever put their PIN to it. A refusal changes
// nothing.
func (s *State) Accept(e run.Entry, qualified []string) error {
	if s.Stage == run.StageSigned {
		return refusal.New(refusal.NotNow, "kind", "This record is signed; nothing can be added to it.", "An engineer issues a plan for the work that follows.")
	}
	switch e.Content.(type) {
	case run.Step, run.Trouble:
		if s.Paused != nil {
			return refusal.New(refusal.NotNow, "kind", "The run is paused.", "Take it up again first.")
		}
		if len(s.Signatures) > 0 {
			return refusal.New(refusal.NotNow, "kind", "The record is being signed; nothing is done on it any more.", "")
		}
	}
	switch c := e.Content.(type) {
	case run.Caution:
		if st, ok := s.Work.Step(recipe.Act{Step: c.Step}); !ok || len(st.Cautions) == 0 {
			return refusal.New(refusal.Unknown, "step", "This step has no cautions.", "")
		}
		return nil
	case run.Tooling:
		return s.acceptTooling(c)
	case run.Step:
		return s.acceptStep(e.Person, c, qualified)
	case run.Trouble:
		return s.acceptTrouble(c)
	case run.Correction:
		return s.acceptCorrection(c)
	case run.Pause:
		if s.Paused != nil {
			return refusal.New(refusal.NotNow, "kind", "The run is paused already.", "")
		}
		return nil
	case run.Resume:
		if s.Paused == nil {
			return refusal.New(refusal.NotNow, "kind", "The run is not paused.", "")
		}
		return nil
	case run.Decision:
		_, err := s.Work.GoOn(e.Person, strings.TrimSpace(c.Reason))
		return err
	case run.Signature:
		return s.acceptSignature(e.Person, c, qualified)
	}
	return refusal.New(refusal.Unknown, "kind", "This kind of entry does not belong to this run.", "")
}

func (s *State) acceptTooling(t run.Tooling) error {
	g, ok := s.plan.Group(t.Group)
	if !ok || g.How != recipe.ByTorque {
		return refusal.New(refusal.Unknown, "group", fmt.Sprintf("%q is no group that is torqued.", t.Group), "Choose one of the plan's.")
	}
	if len(t.Passes) != len(g.Stages) {
		return refusal.Number(refusal.Missing, "tooling", float64(len(t.Passes)), float64(len(g.Stages)), "stages",
			fmt.Sprintf("Tools are given for %d of %d stages.", len(t.Passes), len(g.Stages)), "Choose a tool for each stage.")
	}
	return nil
}

func (s *State) acceptStep(person string, c run.Step, qualified []string) error {
	a := ActOf(s.Work, c)
	st, ok := s.Work.Step(a)
	if !ok {
		return refusal.New(refusal.Unknown, "step", fmt.Sprintf("The recipe has no step %q.", c.Step), "Open the joint again.")
	}
	if st.Does == recipe.Sign {
		return refusal.New(refusal.NotNow, "step", "A signature is made at Sign.", "")
	}
	if len(st.Cautions) > 0 && !s.Cautioned[st.ID][person] {
		return refusal.New(refusal.NotNow, "cautions", fmt.Sprintf("The caution of this step is not read yet: %s", st.Cautions[0].Text), "Read it and say so.")
	}
	if s.wantsTool(st) && !c.Lock {
		return refusal.New(refusal.NotNow, "tooling", fmt.Sprintf("No tool is chosen for the %s.", st.Group), "Choose one at Tool up.")
	}
	if st.Station == recipe.ToolUp && !c.Skipped {
		if g, missing := s.untooled(); missing {
			return refusal.New(refusal.NotNow, "tooling", fmt.Sprintf("No tool is chosen for the %s.", g), "Choose it first.")
		}
	}
	if st.Does == recipe.Match && !c.Skipped {
		if err := s.matched(c); err != nil {
			return err
		}
	}
	c.Reason = strings.TrimSpace(c.Reason)
	if _, err := s.Work.Do(a, done(s.Work, person, c, qualified)); err != nil {
		return err
	}
	return s.reading(st, c)
}

// matched refuses a match that does not say something of every part.
func (s *State) matched(c run.Step) error {
	for _, p := range s.Work.Parts() {
		if !slices.ContainsFunc(c.Marks, func(m string) bool { return strings.HasPrefix(m, p.Name+": ") && len(m) > len(p.Name)+2 }) {
			return refusal.New(refusal.Missing, "marks", fmt.Sprintf("Nothing is said of the %s: %s.", p.Name, p.Match), "Read its mark, scan it, or tick that it was seen.")
		}
	}
	return nil
}

// untooled returns the first group that is torqued and has no tool yet.
func (s *State) untooled() (string, bool) {
	for _, g := range s.plan.Result.Groups {
		if g.How == recipe.ByTorque && len(s.Tooling[g.Name].Passes) == 0 {
			return g.Name, true
		}
	}
	return "", false
}

// reading asks once about one that is far from the setting, or outside the
// window of the maker.
func (s *State) reading(st recipe.Step, c run.Step) error {
	if c.Reading.IsZero() {
		return nil
	}
	at, setting, ok := s.setting(st.Group, c)
	if !ok {
		return refusal.New(refusal.Contradicts, "reading", "Nothing is read on a tool here.", "Leave it out.")
	}
	v, err := c.Reading.In(setting.Unit)
	if err != nil {
		return refusal.At("reading", err)
	}
	if err := refusal.Positive("reading", v, string(setting.Unit)); err != nil {
		return err
	}
	if v > 10*setting.Value {
		return refusal.Number(refusal.TooLarge, "reading", v, setting.Value, string(setting.Unit),
			fmt.Sprintf("%.5g %s is more than ten times the setting of %s.", v, setting.Unit, setting), "Check the number and its unit.")
	}
	if outside := s.outside(st.Group, c, at, v/setting.Value); outside != "" && !c.Confirmed {
		return refusal.Number(refusal.FarReading, "reading", v, setting.Value, string(setting.Unit), outside, "Read it again. If it is right, keep it: it is recorded as a deviation.")
	}
	return nil
}

// setting returns the tool's entry of a pull and what it is set to.
func (s *State) setting(group string, c run.Step) (run.PassTool, unit.Quantity, bool) {
	g, ok := s.plan.Group(group)
	passes := s.Tooling[group].Passes
	if !ok || len(passes) == 0 || c.Lock {
		return run.PassTool{}, unit.Quantity{}, false
	}
	i := slices.Index(g.Stages, c.Share)
	if i < 0 || i >= len(passes) {
		return run.PassTool{}, unit.Quantity{}, false
	}
	return passes[i], passes[i].Setting, true
}

// outside says why a reading, as a share of the setting, is not what was
// wanted; empty where it is.
func (s *State) outside(group string, c run.Step, at run.PassTool, share float64) string {
	g, _ := s.plan.Group(group)
	if torque := at.Lands * share; c.Share == 100 && g.TorqueMax > g.TorqueMin && (!unit.AtLeast(torque, g.TorqueMin) || !unit.AtMost(torque, g.TorqueMax)) {
		return fmt.Sprintf("%s is outside the maker's window of %.5g to %.5g N·m.", c.Reading, g.TorqueMin, g.TorqueMax)
	}
	if !unit.AtMost(math.Abs(share-1), run.FarShare) {
		return fmt.Sprintf("%s is %.0f %% off the setting of %s.", c.Reading, 100*math.Abs(share-1), at.Setting)
	}
	return ""
}

func (s *State) acceptTrouble(t run.Trouble) error {
	next, ok := s.Next()
	if !ok || next.Bolt == 0 || next.Step != t.Step {
		return refusal.New(refusal.NotNow, "step", "No bolt of this step is being pulled.", "Open the joint again.")
	}
	st, _ := s.Work.Step(next)
	g, _ := s.plan.Group(st.Group)
	if t.Bolt < 1 || t.Bolt > g.Count {
		return refusal.Number(refusal.OutOfRange, "bolt", float64(t.Bolt), float64(g.Count), "", fmt.Sprintf("Bolt %d is none of the %d %s.", t.Bolt, g.Count, g.Name), "Choose one of them.")
	}
	return run.CheckTrouble(t, run.TryAgain, run.Replaced)
}

func (s *State) acceptCorrection(c run.Correction) error {
	if strings.TrimSpace(c.Reason) == "" {
		return refusal.New(refusal.NeedsReason, "reason", "A correction needs its reason.", "Say in a few words what was wrong.")
	}
	i := slices.IndexFunc(s.Effective, func(x run.Effective) bool { return x.Entry.ID == c.Of })
	if i < 0 {
		return refusal.New(refusal.Unknown, "of", "The entry to correct is not in this run.", "Choose it on the tape.")
	}
	if len(s.Signatures) > 0 {
		return refusal.New(refusal.NotNow, "of", "The record is being signed; entries can no longer be corrected.", "")
	}
	was, ok := s.Effective[i].Content.(run.Step)
	if !ok {
		return refusal.New(refusal.NotNow, "of", "Only what was done and read can be corrected, and only once struck out.", "")
	}
	a := ActOf(s.Work, was)
	if _, standing := s.Work.Last(a); !standing {
		return refusal.New(refusal.NotNow, "of", "This does not count any more: it was to be done again.", "")
	}
	if c.Instead == nil {
		return nil
	}
	instead, ok := c.Instead.(run.Step)
	if !ok || ActOf(s.Work, instead) != a {
		return refusal.New(refusal.Contradicts, "instead", "A correction keeps the step and the bolt.", "Strike the entry out and do it again.")
	}
	st, _ := s.Work.Step(a)
	if _, err := s.Work.Correct(a, done(s.Work, s.Effective[i].Entry.Person, instead, by(st))); err != nil {
		return err
	}
	return s.reading(st, instead)
}

func (s *State) acceptSignature(person string, sig run.Signature, qualified []string) error {
	if err := s.Work.MaySign(); err != nil {
		return err
	}
	if s.Paused != nil {
		return refusal.New(refusal.NotNow, "part", "The run is paused.", "Take it up again first.")
	}
	if s.signedFor(sig.Part) {
		return refusal.New(refusal.NotNow, "part", "This part is signed already.", "")
	}
	switch sig.Part {
	case run.Made:
		if s.Begun() && !s.Pullers[person] {
			return refusal.New(refusal.Contradicts, "part", "Only someone who pulled bolts on this joint signs that it was made.", "Ask who did.")
		}
	case run.Checked:
		switch {
		case !s.signedFor(run.Made):
			return refusal.New(refusal.NotNow, "part", "The fitter signs first.", "Ask the fitter to sign.")
		case s.Pullers[person]:
			return refusal.New(refusal.NotTheSame, "part", "You pulled bolts on this joint, so another person checks it.", "Ask one who did not.")
		case !slices.Contains(qualified, s.Checker()):
			return refusal.New(refusal.NotTheSame, "part", fmt.Sprintf("This joint is checked by a %s.", s.Checker()), "Ask one.")
		case s.Outside() && strings.TrimSpace(sig.Reason) == "":
			return refusal.New(refusal.NeedsReason, "reason", "Something on this record is outside its limit or was left undone.", "Say why it is accepted.")
		}
	default:
		return refusal.New(refusal.Unknown, "part", fmt.Sprintf("Unknown part %q.", string(sig.Part)), "")
	}
	return nil
}

// Checker is who checks the joint: whom the recipe names, else an inspector.
func (s *State) Checker() string {
	for _, st := range s.Work.Steps() {
		if st.Does == recipe.Sign && st.By != "" {
			return st.By
		}
	}
	return "inspector"
}
