package work

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"dynacor/core/proof"
	"dynacor/core/recipe"
	"dynacor/core/record"
	"dynacor/core/refusal"
	"dynacor/core/tool"
	"dynacor/core/unit"
)

// FarShare is how far a reading may lie from the setting, as a fraction of
// it, before it is asked about.
const FarShare = 0.10

// Accept says whether e may be added to the run as it stands. What seems
// mistaken but can be is asked about: it is taken once it is confirmed. A
// refusal changes nothing.
func (s *State) Accept(e record.Entry, f Facts) error {
	if s.Standing == record.Signed && !afterSigning(e.Content) {
		return refusal.New(refusal.NotNow, "kind", "This record is signed; nothing can be added to it.",
			"An engineer issues a plan for the work that follows.")
	}
	if e.Person == "" {
		return refusal.New(refusal.Missing, "person", "Nobody is named.", "Sign in.")
	}
	if s.Paused != nil {
		switch e.Content.(type) {
		case record.Resume, record.Report, record.Answer, record.Pause, record.Gap:
		default:
			return refusal.New(refusal.NotNow, "kind", "The run is paused.", "Take it up again first.")
		}
	}
	ask, err := s.accept(e, f)
	if err != nil || e.Confirmed {
		return err
	}
	var questions []string
	if ask != "" {
		questions = append(questions, ask)
	}
	if s.early(e) {
		questions = append(questions, fmt.Sprintf("Its time, %s, lies before that of the entry before it, %s.",
			e.AtTool.Format("15:04:05"), s.pace.last.Format("15:04:05")))
	}
	if odd := s.plan.dated(e, f.Now); odd != "" {
		questions = append(questions, "Its date: "+odd+".")
	}
	if c, ok := e.Content.(record.Done); ok && c.Bolt > 0 && !c.Lock {
		if fast := s.pace.of[s.HandOf(c.Act)].tooFast(c, e.AtTool); fast != "" {
			questions = append(questions, fast)
		}
	}
	if len(questions) == 0 {
		return nil
	}
	return refusal.New(refusal.Asked, "confirmed", strings.Join(questions, " "),
		"Look again. If it is right, keep it: it is noted on the record.")
}

// afterSigning reports whether an entry may come to a record that is signed: a tool it was
// made with turns out to be doubtful, and somebody answers for that. What was signed stays
// signed, as it was then.
func afterSigning(c record.Content) bool {
	switch c.(type) {
	case record.Report, record.Answer, record.Recheck:
		return true
	}
	return false
}

// accept refuses what may not be, and returns what has to be asked about.
func (s *State) accept(e record.Entry, f Facts) (ask string, err error) {
	switch c := e.Content.(type) {
	case record.Caution:
		if st, ok := s.plan.Step(c.Step); !ok || len(st.Cautions) == 0 {
			return "", refusal.New(refusal.Unknown, "step", "This step has no cautions.", "")
		}
		return "", nil
	case record.Tooling:
		return "", s.acceptTooling(c, f)
	case record.Setting:
		return "", s.acceptSetting(e, c, f)
	case record.Upset:
		return "", s.acceptUpset(c)
	case record.Done:
		return s.acceptDone(e, c, f)
	case record.Twice:
		return "", s.acceptTwice(c, e.Person)
	case record.Trouble:
		return "", s.acceptTrouble(c)
	case record.Correction:
		return s.acceptCorrection(e, c, f)
	case record.Started:
		return "", s.acceptStarted(c)
	case record.Photo:
		return "", s.acceptPhoto(c)
	case record.Report:
		return "", s.acceptReport(c)
	case record.Gap:
		return "", s.acceptGap(c)
	case record.Lubricant:
		return "", s.acceptLubricant(c)
	case record.Answer:
		return "", s.acceptAnswer(c)
	case record.Recheck:
		return "", s.acceptRecheck(c, f)
	case record.Decision:
		return "", s.acceptDecision(c)
	case record.Pause:
		if s.Paused != nil {
			return "", refusal.New(refusal.NotNow, "kind", "The run is paused already.", "")
		}
		return "", nil
	case record.Resume:
		if s.Paused == nil {
			return "", refusal.New(refusal.NotNow, "kind", "The run is not paused.", "")
		}
		return "", nil
	case record.Signature:
		return "", s.acceptSignature(e.Person, c, f)
	}
	return "", refusal.New(refusal.Unknown, "kind", "Unknown kind of entry.", "")
}

func (s *State) acceptDone(e record.Entry, c record.Done, f Facts) (ask string, err error) {
	st, _, ok := s.plan.step(c.Step)
	switch {
	case !ok:
		return "", refusal.New(refusal.Unknown, "step", fmt.Sprintf("The recipe has no step %q in this variant.", c.Step),
			"Open the joint again.")
	case st.Does == recipe.Sign:
		return "", refusal.New(refusal.NotNow, "step", "A signature is made at Sign.", "")
	case !s.offers(c.Act):
		return "", refusal.First(s.inDoubt(st, c.Act), s.twice(c.Act, e.Person), s.notNext(st, c.Act))
	case c.Release:
		return "", s.acceptRelease(e, st, c, f)
	case !s.Cautioned(st.ID, e.Person):
		return "", refusal.New(refusal.NotNow, "cautions", fmt.Sprintf("The caution of this step is not read yet: %s",
			st.Cautions[0].Text), "Read it and say so.")
	case st.By != "" && c.Item == 0 && !slices.Contains(f.Qualified, st.By):
		return "", refusal.New(refusal.NotTheSame, "person", fmt.Sprintf("%q is for %s.", st.Text, Article(st.By)),
			fmt.Sprintf("Ask %s to do it and to enter their PIN.", Article(st.By)))
	}
	if err := refusal.First(s.tooled(e, st, c, f), s.matched(st, c), moves(c), angled(st, c)); err != nil {
		return "", err
	}
	v, err := s.judge(st, c, e.AtTool)
	if err != nil {
		return "", err
	}
	if v.outside != "" && !v.tried && st.Beyond != "" && !slices.Contains(f.Qualified, st.Beyond) {
		return "", refusal.New(refusal.NotTheSame, "person", fmt.Sprintf("%s Only %s keeps that.", v.outside, Article(st.Beyond)),
			fmt.Sprintf("Ask %s to answer for it with their PIN.", Article(st.Beyond)))
	}
	t, _ := s.toolOf(st, c.Act)
	ask, err = s.reading(st, c, t)
	return strings.TrimSpace(ask + " " + s.offAngle(st, c)), err
}

// moves refuses to say of a pull what only a round can tell, and the reverse.
func moves(c record.Done) error {
	if c.Moved && c.Round == 0 || c.NoTurn && (c.Round > 0 || c.Bolt == 0) {
		return refusal.New(refusal.Contradicts, "moved", "In a round a nut moved or not; in a stage it was turned or not.",
			"Say the one that fits.")
	}
	return nil
}

// inDoubt says first of a pull that its tool is in doubt: its check is open again for that.
func (s *State) inDoubt(st *step, a record.Act) error {
	t, with := s.toolOf(st, a)
	if !with {
		return nil
	}
	doubted, _ := s.Doubted()
	for _, tag := range t.Tools {
		if slices.Contains(doubted, tag) {
			return refusal.New(refusal.NotNow, "tool", fmt.Sprintf("%s is in doubt: it was dropped, or is said to be wrong.", tag),
				"Take another tool, or have an engineer say how it was checked.")
		}
	}
	return nil
}

func (s *State) notNext(st *step, a record.Act) error {
	what := capital(s.Describe(a))
	if st.owner >= 0 && a.Bolt >= 1 && a.Bolt <= s.plan.owners[st.owner].group.Count && s.bolt(st.owner, a.Bolt).spent {
		return refusal.New(refusal.NotNext, "act", fmt.Sprintf("%s: it was turned, and nobody knows how far.", what),
			"Say under Trouble that it was replaced, or loosened and begun anew.")
	}
	if next, ok := s.Next(); ok {
		return refusal.New(refusal.NotNext, "act", fmt.Sprintf("%s is not what is next.", what), "Next: "+s.Describe(next)+
			". If it was done all the same, say so under Trouble.")
	}
	return refusal.New(refusal.NotNext, "act", fmt.Sprintf("%s is not what is next.", what), "Nothing is offered now; see what is open.")
}

// tooled refuses a pull without a tool that is chosen, set, in date and not held
// back, and the end of Tool up while a group has none.
func (s *State) tooled(e record.Entry, st *step, c record.Done, f Facts) error {
	if c.Lock {
		return nil
	}
	if s.wantsTool(st) {
		return refusal.New(refusal.NotNow, "tooling", fmt.Sprintf("No tool is chosen for the %s.", st.group.Name), "Choose one at Tool up.")
	}
	if st.Station == recipe.ToolUp && !c.Skipped {
		for _, g := range s.plan.Result.Groups {
			if g.How.Tooled() && len(s.Tooling[g.Name].Stages) == 0 {
				return refusal.New(refusal.NotNow, "tooling", fmt.Sprintf("No tool is chosen for the %s.", g.Name), "Choose it first.")
			}
		}
	}
	t, with := s.toolOf(st, c.Act)
	if !with {
		return nil
	}
	if err := s.may(t, e.AtTool, f); err != nil {
		return err
	}
	if _, unset := s.unset(c.Act, e.Person, e.AtTool); unset && !(f.Apart && s.hadSet(st, c.Act, e.Person)) {
		return refusal.New(refusal.NotNow, "setting", fmt.Sprintf("%s is not set to %s in your hand yet.", tags(t), t.Setting),
			"Set it, look at its scale, and say so.")
	}
	return nil
}

// matched refuses what does not say something of every mark, and marks that do not go
// together, with both.
func (s *State) matched(st *step, c record.Done) error {
	if len(st.marks) == 0 || c.Skipped || c.Item > 0 || c.Photo || c.Release {
		return nil
	}
	found := said(c.Marks)
	if m, missing := sayAll(st.marks, found); missing {
		return refusal.New(refusal.Missing, "marks", fmt.Sprintf("Nothing is said of the %s.", m.Of),
			"Read its mark, scan it, or tick that it was seen.")
	}
	rules := make([]proof.Rule, len(st.marks))
	for i, m := range st.marks {
		rules[i] = proof.Rule{Of: m.Of, Alike: m.Alike, Opposite: m.Opposite, Unlike: m.Unlike, Is: m.Is}
		if says := found[m.Of]; len(m.From) > 0 && !slices.Contains(m.From, says) {
			return refusal.New(refusal.Unknown, "marks", fmt.Sprintf("%q is no answer for the %s.", says, m.Of), "Choose one from the list.")
		}
		if m.Compared() && found[m.Of] == "seen" {
			return refusal.New(refusal.Missing, "marks", fmt.Sprintf("The mark of the %s is held against another: seen is not enough.", m.Of),
				"Type it, or scan it.")
		}
	}
	if no := proof.JudgeMarks(rules, found); no != nil && !c.Tried {
		return refusal.New(refusal.Contradicts, "marks", no.Reason, "Stop: find the right part. That they do not match can be noted.")
	}
	return nil
}

// acceptRelease refuses a release by whoever may not give it: the wrong person, or, where
// it is to be another, who did it.
func (s *State) acceptRelease(e record.Entry, st *step, c record.Done, f Facts) error {
	who := c.Qualified
	if who == "" {
		who = e.Person
	}
	role := s.releaser(&st.Step)
	if role != SecondPerson && !slices.Contains(f.Qualified, role) {
		return refusal.New(refusal.NotTheSame, "person", fmt.Sprintf("%q is released by %s.", st.Text, Article(role)),
			fmt.Sprintf("Ask %s to look and to enter their PIN.", Article(role)))
	}
	if (st.Release == SecondPerson || st.Release == Checker || st.Release == "inspector") && s.did(st, who) {
		return refusal.New(refusal.NotTheSame, "person", "Who did it does not release it.", "Ask another to look and to enter their PIN.")
	}
	if c.Skipped {
		return refusal.New(refusal.NotNow, "skipped", fmt.Sprintf("%q waits for its release; it cannot be left undone.", st.Text),
			"Ask whoever may to look.")
	}
	return nothingRead(st, c)
}

// Who releases, where it is no qualification: anybody but who did it, or whoever checks
// the joint.
const (
	SecondPerson = "second person"
	Checker      = "checker"
)

// did reports whether somebody did something of a step.
func (s *State) did(st *step, person string) bool {
	for a := st.first; a < st.last; a++ {
		if l, ok := s.lineOf(a); ok {
			c, _ := l.Content.(record.Done)
			if l.Entry.Person == person || c.Qualified == person {
				return true
			}
		}
	}
	return false
}

// acceptStarted refuses to start a clock where nothing is waited for.
func (s *State) acceptStarted(c record.Started) error {
	st, _, ok := s.plan.step(c.Step)
	if !ok || st.hold == 0 {
		return refusal.New(refusal.Unknown, "step", "Nothing is held or waited for at this step.", "")
	}
	if !s.offers(record.Act{Step: c.Step}) {
		return s.notNext(st, record.Act{Step: c.Step})
	}
	return nil
}

// MostCaption is how long what a photograph shows may be said, letters.
const MostCaption = 200

// acceptPhoto refuses a photograph of no step, and one that names no bytes.
func (s *State) acceptPhoto(c record.Photo) error {
	if _, ok := s.plan.Step(c.Step); !ok && c.Step != "" {
		return refusal.New(refusal.Unknown, "step", fmt.Sprintf("The recipe has no step %q in this variant.", c.Step), "Open the joint again.")
	}
	if len(c.Hash) != 64 || strings.Trim(c.Hash, "0123456789abcdef") != "" {
		return refusal.New(refusal.Missing, "photo", "The photograph is not named by the hash of its bytes.", "Take it again.")
	}
	if len(c.What) > MostCaption {
		return refusal.Number(refusal.TooLarge, "what", float64(len(c.What)), MostCaption, "letters",
			"What it shows is said at too great length.", "Say it in a few words.")
	}
	return nil
}

// reading refuses a reading on a tool that cannot be, and asks about one that is
// far from the setting, or outside the window of the maker.
func (s *State) reading(st *step, c record.Done, t *record.StageTool) (ask string, err error) {
	if c.Reading.IsZero() {
		return "", nil
	}
	if t == nil {
		return "", refusal.New(refusal.Contradicts, "reading", "Nothing is read on a tool here.", "Leave it out.")
	}
	v, err := c.Reading.In(t.Setting.Unit)
	if err != nil {
		return "", refusal.At("reading", err)
	}
	if err := refusal.Positive("reading", v, string(t.Setting.Unit)); err != nil {
		return "", err
	}
	if v > 10*t.Setting.Value {
		return "", refusal.Number(refusal.TooLarge, "reading", v, t.Setting.Value, string(t.Setting.Unit),
			fmt.Sprintf("%s is more than ten times the setting of %s.", c.Reading, t.Setting), "Check the number and its unit.")
	}
	return s.far(st, c, t), nil
}

// far says why a reading is not what was wanted, compared in the unit of the
// setting; empty where it is.
func (s *State) far(st *step, c record.Done, t *record.StageTool) string {
	v, err := c.Reading.In(t.Setting.Unit)
	if c.Reading.IsZero() || err != nil {
		return ""
	}
	g, share, far := st.group, v/t.Setting.Value, FarShare
	if t.Pressed() || t.Draws() {
		far = tool.AlikeShare
	}
	if torque := gives(t, v); c.Share == 100 && g.TorqueMax > g.TorqueMin && (!unit.AtLeast(torque, g.TorqueMin) ||
		!unit.AtMost(torque, g.TorqueMax)) {
		return fmt.Sprintf("%s is outside the maker's window of %.5g to %.5g N·m.", c.Reading, g.TorqueMin, g.TorqueMax)
	}
	if !unit.AtMost(math.Abs(share-1), far) {
		return fmt.Sprintf("%s is %.0f %% off the setting of %s.", c.Reading, 100*math.Abs(share-1), t.Setting)
	}
	return ""
}

// gives is the torque that a reading in the setting's unit stands for, N·m: of a hydraulic
// wrench by its chart.
func gives(t *record.StageTool, v float64) float64 {
	if !t.Pressed() {
		return t.Lands * v / t.Setting.Value
	}
	chart := make(tool.Chart, len(t.Chart))
	for i, r := range t.Chart {
		chart[i] = tool.Row(r)
	}
	if torque, err := chart.Gives(v); err == nil {
		return torque
	}
	return t.Lands * v / t.Setting.Value // off the chart: asked about in any case
}

func (s *State) acceptDecision(c record.Decision) error {
	if strings.TrimSpace(c.Reason) == "" {
		return refusal.New(refusal.NeedsReason, "reason", "A decision needs its reason.", "Say in a few words why the work may go on.")
	}
	if c.Tool != "" {
		if s.waived[c.Tool] || !s.uses(c.Tool) {
			return refusal.New(refusal.NotNow, "tool", fmt.Sprintf("There is nothing to decide about %s here.", c.Tool), "")
		}
		return nil
	}
	if s.Standing != record.Stopped {
		return refusal.New(refusal.NotNow, "kind", "The work has not stopped; there is nothing to decide.", "")
	}
	return nil
}

// uses reports whether a tool is chosen for a group.
func (s *State) uses(tag string) bool {
	for _, t := range s.Tooling {
		for _, stages := range t.Hands() {
			if slices.ContainsFunc(stages, func(t record.StageTool) bool { return slices.Contains(t.Tools, tag) }) {
				return true
			}
		}
	}
	return false
}

func (s *State) acceptSignature(person string, sig record.Signature, f Facts) error {
	if open := s.Open(); len(open) > 0 {
		return refusal.Number(refusal.NotNow, "open", float64(len(open)), 0, "", "Still open: "+record.Trim(open[0].Text)+".",
			fmt.Sprintf("%d things are open before it may be signed.", len(open)))
	}
	if s.signed(sig.Part) {
		return refusal.New(refusal.NotNow, "part", "This part is signed already.", "")
	}
	switch sig.Part {
	case record.Made:
		if s.Begun() && !s.pullers[person] {
			return refusal.New(refusal.Contradicts, "part", "Only someone who pulled bolts on this joint signs that it was made.",
				"Ask who did.")
		}
	case record.Checked:
		switch checker := s.plan.Checker(); {
		case !s.signed(record.Made):
			return refusal.New(refusal.NotNow, "part", "The fitter signs first.", "Ask the fitter to sign.")
		case s.Worked(person):
			return refusal.New(refusal.NotTheSame, "part", "You had a hand in this joint, so another person checks it.",
				"Ask one who did not.")
		case !slices.Contains(f.Qualified, checker):
			return refusal.New(refusal.NotTheSame, "part", fmt.Sprintf("This joint is checked by %s.", Article(checker)), "Ask one.")
		case s.Outside() && strings.TrimSpace(sig.Reason) == "":
			return refusal.New(refusal.NeedsReason, "reason", "Something on this record is outside its limit or was left undone.",
				"Say why it is accepted.")
		}
	default:
		return refusal.New(refusal.Unknown, "part", fmt.Sprintf("Unknown part %q.", string(sig.Part)), "")
	}
	return nil
}

// Article puts a or an before who it is.
func Article(who string) string {
	if who != "" && strings.ContainsRune("aeiou", rune(who[0])) {
		return "an " + who
	}
	return "a " + who
}
