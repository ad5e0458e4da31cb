package work

import (
	"cmp"
	"fmt"
	"slices"
	"strings"
	"time"

	"dynacor/core/record"
	"dynacor/core/refusal"
)

// Facts is what a run cannot know from its own entries.
type Facts struct {
	Qualified []string          // roles and qualifications of whoever put their PIN to the entry
	Held      map[string]string // tools that are held back, by tag, with why
	Apart     bool              // it was done apart from the others, who may have taken a tool up since
	Now       time.Time         // what lies far back of it is asked about; zero: nothing does
}

// SetAgain is after how long without a pull a tool is set anew: a night.
const SetAgain = 6 * time.Hour

// tags names the tools of a stage.
func tags(t *record.StageTool) string { return strings.Join(t.Tools, " + ") }

func (h inHand) holds(t *record.StageTool) bool { return h.tools == tags(t) && h.setting == t.Setting }

// wantsTool reports whether a step pulls to a torque or a load and no tool is chosen for
// its group.
func (s *State) wantsTool(st *step) bool {
	return st.owner >= 0 && st.group.How.Tooled() && len(s.Tooling[st.group.Name].Stages) == 0
}

// toolOf returns the tool that an act is pulled with, where one is.
func (s *State) toolOf(st *step, a record.Act) (*record.StageTool, bool) {
	if st.owner < 0 || a.Lock {
		return nil, false
	}
	return s.StageTool(st.group.Name, a.Share, s.HandOf(a))
}

// Tool returns the tool that an act is pulled with.
func (s *State) Tool(a record.Act) (*record.StageTool, bool) {
	st, _, _ := s.plan.step(a.Step)
	return s.toolOf(st, a)
}

// tool takes a choice of tools.
func (s *State) tool(at int, c record.Tooling) {
	if before := s.Tooling[c.Group]; len(before.Stages) > 0 && !slices.EqualFunc(before.Hands(), c.Hands(), sameTools) {
		s.otherTool()
	}
	s.Tooling = mine(s, s.Tooling)
	s.Tooling[c.Group] = c
	for _, stages := range c.Hands() {
		if slices.ContainsFunc(stages, func(t record.StageTool) bool { return t.ByHand }) {
			s.note(at)
		}
	}
}

// sameTools reports whether two choices take the same tools at every stage.
func sameTools(a, b []record.StageTool) bool {
	return slices.EqualFunc(a, b, func(a, b record.StageTool) bool { return tags(&a) == tags(&b) })
}

// Unset returns the setting that has to be made before somebody makes the next
// pull; ok is false where the tool is set and in their hand. It has to be made
// again after a pause, a hand-over or a night.
func (s *State) Unset(person string, at time.Time) (c record.Setting, ok bool) {
	next, there := s.NextFor(person, at)
	if !there {
		return c, false
	}
	return s.unset(next, person, at)
}

func (s *State) unset(a record.Act, person string, at time.Time) (c record.Setting, ok bool) {
	st, _, _ := s.plan.step(a.Step)
	t, with := s.toolOf(st, a)
	hand := s.HandOf(a)
	if h := s.inHand[hand]; !with || t.Draws() || h.holds(t) && h.by == person && h.fresh(at) {
		return c, false
	}
	return record.Setting{Group: st.group.Name, Share: a.Share, Hand: hand}, true
}

// set takes the tool of a stage as set.
func (s *State) set(e record.Entry, c record.Setting) {
	if t, ok := s.StageTool(c.Group, c.Share, c.Hand); ok {
		s.inHand[c.Hand] = inHand{tags(t), t.Setting, e.Person, e.AtTool}
	}
}

func (s *State) acceptTooling(c record.Tooling, f Facts) error {
	g, ok := s.plan.Result.Group(c.Group)
	if !ok || !g.How.Tooled() {
		return refusal.New(refusal.Unknown, "group", fmt.Sprintf("%q is no group that is torqued.", c.Group), "Choose one of the plan's.")
	}
	for _, stages := range c.Hands() {
		if len(stages) != len(g.Stages) {
			return refusal.Number(refusal.Missing, "tooling", float64(len(stages)), float64(len(g.Stages)), "stages",
				fmt.Sprintf("Tools are given for %d of %d stages.", len(stages), len(g.Stages)), "Choose a tool for each stage.")
		}
		for i := range stages {
			if len(stages[i].Tools) == 0 {
				return refusal.New(refusal.Missing, "tooling", fmt.Sprintf("Stage %d has no tool.", i+1), "Choose one.")
			}
			if err := f.free(&stages[i]); err != nil {
				return err
			}
		}
	}
	if len(c.Beside) > 0 {
		return s.acceptBeside(g, c)
	}
	return nil
}

// free refuses a tool that is held back.
func (f Facts) free(t *record.StageTool) error {
	for _, tag := range t.Tools {
		if why, held := f.Held[tag]; held {
			return refusal.New(refusal.NotNow, "tool", fmt.Sprintf("%s is held back: %s.", tag, record.Trim(why)),
				"Take another tool, and set it.")
		}
	}
	return nil
}

// may refuses a tool that is held back, or past its date where no engineer has
// decided otherwise.
func (s *State) may(t *record.StageTool, at time.Time, f Facts) error {
	if err := f.free(t); err != nil {
		return err
	}
	of := cmp.Or(t.DueOf, t.Tools[0])
	if late := past(t, at); late > 0 && !s.waived[of] {
		return refusal.Number(refusal.OutOfDate, "tool", float64(late), 0, "days", fmt.Sprintf("%s was due on %s, %d days ago.", of,
			t.Due.Format("2 January 2006"), late), "Take another tool, or ask an engineer, who may let it be used with a reason.")
	}
	return nil
}

// past is how many days a tool is past its date; 0 where it is not.
func past(t *record.StageTool, at time.Time) int {
	if t.Due.IsZero() || at.Before(t.Due.AddDate(0, 0, 1)) {
		return 0
	}
	return int(at.Sub(t.Due).Hours() / 24)
}

func (s *State) acceptSetting(e record.Entry, c record.Setting, f Facts) error {
	next, _ := s.offeredTo(c.Hand)
	want, ok := s.unset(next, e.Person, e.AtTool)
	if !ok {
		return refusal.New(refusal.NotNow, "setting", "No tool has to be set now.", "Go on with the next bolt.")
	}
	if want.Group != c.Group || want.Share != c.Share {
		return refusal.New(refusal.NotNext, "setting", fmt.Sprintf("The tool for the %s at %g %% is not what is next.", c.Group, c.Share),
			"Open the joint again.")
	}
	t, _ := s.Tool(next)
	return refusal.First(s.may(t, e.AtTool, f), rigged(t, c))
}
