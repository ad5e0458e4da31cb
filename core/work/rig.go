package work

import (
	"fmt"
	"slices"
	"strings"

	"dynacor/core/recipe"
	"dynacor/core/record"
	"dynacor/core/refusal"
	"dynacor/core/tool"
)

// rigged refuses to take a hydraulic wrench as set that was not rigged up step by step, or
// whose gauge does not stay at the value; and readings of any other tool.
func rigged(t *record.StageTool, c record.Setting) error {
	if !t.Pressed() {
		if len(c.Rig)+len(c.Readings) > 0 {
			return refusal.New(refusal.Contradicts, "rig", fmt.Sprintf("%s is not rigged up.", tags(t)), "Leave it out.")
		}
		return nil
	}
	for i, step := range tool.RigUp() {
		if i >= len(c.Rig) || c.Rig[i] != step.ID {
			return refusal.Number(refusal.Missing, "rig", float64(i), float64(len(tool.RigUp())), "steps",
				fmt.Sprintf("Not done of rigging up: %s", step.Text), "Do it, in its turn, and say so.")
		}
	}
	if len(c.Rig) > len(tool.RigUp()) {
		return refusal.New(refusal.Contradicts, "rig", fmt.Sprintf("%q is no step of rigging up.", c.Rig[len(tool.RigUp())]), "Leave it out.")
	}
	return tool.JudgeRig(t.Setting.Value, c.Readings, t.Setting.Unit)
}

// JudgeRig refuses what the gauge may not be read at while the tool of a stage is rigged up:
// as far as it was read.
func (s *State) JudgeRig(c record.Setting) error {
	t, ok := s.StageTool(c.Group, c.Share, c.Hand)
	if !ok || !t.Pressed() {
		return refusal.New(refusal.Unknown, "group", fmt.Sprintf("No hydraulic wrench is chosen for the %s at %g %%.", c.Group, c.Share),
			"Open the joint again.")
	}
	if len(c.Readings) == 1 { // the second comes
		c.Readings = append(c.Readings, c.Readings[0])
	}
	return tool.JudgeRig(t.Setting.Value, c.Readings, t.Setting.Unit)
}

// StageTool is the tool that is chosen for a stage of a group, of those that work at once
// the one of a hand.
func (s *State) StageTool(group string, share float64, hand int) (*record.StageTool, bool) {
	t := s.Tooling[group]
	if hand < 0 || hand > len(t.Beside) {
		return nil, false
	}
	g, _ := s.plan.Result.Group(group)
	stages := t.Stages
	if hand > 0 {
		stages = t.Beside[hand-1]
	}
	i := slices.Index(g.Stages, share)
	if i < 0 || i >= len(stages) {
		return nil, false
	}
	return &stages[i], true
}

// Rigged is a setting as a careful hand makes it: rigged up step by step, the gauge at its
// value twice, where the tool is a hydraulic wrench.
func (s *State) Rigged(c record.Setting) record.Setting {
	t, ok := s.StageTool(c.Group, c.Share, c.Hand)
	if !ok || !t.Pressed() {
		return c
	}
	for _, step := range tool.RigUp() {
		c.Rig = append(c.Rig, step.ID)
		if step.Read {
			c.Readings = append(c.Readings, t.Setting.Value)
		}
	}
	return c
}

// upset has a rig made ready again before the next pull. Where its regulator was moved the
// pulls since it was last read are taken back.
func (s *State) upset(at int, c record.Upset) {
	s.note(at)
	s.lines.list[at].counted = true
	lines := s.sinceRigged(at, c)
	s.inHand = [MostHands]inHand{}
	if c.What == record.RegulatorMoved {
		s.takeBack(at, doubt{at: int32(at), lines: lines})
	}
}

// sinceRigged are the pulls of a group before a line, back to where its rig was last made
// ready.
func (s *State) sinceRigged(at int, c record.Upset) (lines []int32) {
	var since [MostHands]bool // the last time that a hand's was made ready lies behind
	for i := at - 1; i >= 0 && slices.Contains(since[:1+len(s.Tooling[c.Group].Beside)], false); i-- {
		l := &s.lines.list[i]
		switch x := l.Content.(type) {
		case record.Setting:
			if x.Group == c.Group {
				since[x.Hand] = true
			}
		case record.Tooling:
			if x.Group == c.Group {
				since = [MostHands]bool{true, true, true, true}
			}
		}
		done, ok := l.Content.(record.Done)
		if !ok || !l.counted || done.Bolt == 0 || l.Tool == nil || !l.Tool.Pressed() || since[l.hand] {
			continue
		}
		if st, _, _ := s.plan.step(done.Step); st.group.Name == c.Group {
			lines = append(lines, int32(i))
		}
	}
	slices.Reverse(lines)
	return lines
}

// upsetWords says of a rig that was changed what that took back.
func (s *State) upsetWords(at int, c record.Upset) string {
	text := fmt.Sprintf("%s: %s", c.Group, c.What)
	if c.Note != "" {
		text += ", " + record.Trim(c.Note)
	}
	if c.What == record.RegulatorMoved {
		n := len(s.sinceRigged(at, c))
		switch n {
		case 0:
			text += "; no pull since it was read"
		case 1:
			text += "; the pull since it was read is struck out"
		default:
			text += fmt.Sprintf("; the %d pulls since it was read are struck out", n)
		}
	}
	return text + "; rigged up again."
}

// RigWords says what a gauge was read at when a rig was made ready.
func (s *State) RigWords(c record.Setting) string {
	t, ok := s.StageTool(c.Group, c.Share, c.Hand)
	if !ok || len(c.Readings) == 0 {
		return ""
	}
	out := make([]string, len(c.Readings))
	for i, r := range c.Readings {
		out[i] = fmt.Sprintf("%.5g", r)
	}
	text := fmt.Sprintf("gauge %s %s", strings.Join(out, " and "), t.Setting.Unit)
	if c.Taken != "" {
		text += ", sent by " + c.Taken
	}
	return text
}

// Upsettable reports whether a group is pulled by a hydraulic wrench that is rigged up now.
func (s *State) Upsettable(group string) bool {
	if s.Standing != record.Tighten {
		return false
	}
	for i, stages := range s.Tooling[group].Hands() {
		if h := s.inHand[i]; h.tools != "" && slices.ContainsFunc(stages, func(t record.StageTool) bool { return t.Pressed() && h.holds(&t) }) {
			return true
		}
	}
	return false
}

// BroughtTo is the tensioner that a step brings to a pressure, as it is set for that draw.
func (s *State) BroughtTo(step string) (*record.StageTool, bool) {
	st, _, _ := s.plan.step(step)
	if st.At == "" || len(st.reads) == 0 || st.reads[0].Limit == nil {
		return nil, false
	}
	d, ok := s.plan.draws[st.reads[0].Limit.Of]
	stages := s.Tooling[d.group].Stages
	if !ok || d.of < 0 || d.of >= len(stages) {
		return nil, false
	}
	return &stages[d.of], true
}

// Carries lists the bolts that carry a tensioner now, by their group: those that are drawn,
// or whose nuts are run down meanwhile.
func (s *State) Carries() (group string, bolts []int) {
	next, ok := s.Next()
	if !ok {
		return "", nil
	}
	st, _, _ := s.plan.step(next.Step)
	name := st.At
	if st.owner >= 0 && st.group.How == recipe.ByTension {
		name = st.group.Name
	}
	g, ok := s.plan.Result.Group(name)
	if !ok || name == "" {
		return "", nil
	}
	bolts, _ = some(g, st.Some)
	return name, bolts
}

func (s *State) acceptUpset(c record.Upset) error {
	if !slices.Contains(record.Upsets(), c.What) {
		return refusal.New(refusal.Unknown, "what", fmt.Sprintf("Unknown change %q.", string(c.What)),
			"Say regulator moved, hose changed or pump stopped.")
	}
	if !s.Upsettable(c.Group) {
		return refusal.New(refusal.NotNow, "group", fmt.Sprintf("No hydraulic wrench is rigged up for the %s.", c.Group),
			"It is rigged up before the next stage anyway.")
	}
	return nil
}
