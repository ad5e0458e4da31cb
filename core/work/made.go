package work

import (
	"fmt"
	"slices"
	"strings"
	"time"

	"dynacor/core/record"
)

// countsStill reports whether a pull still stands: its bolt has not begun anew
// since, and it was not taken back.
func (s *State) countsStill(line int32, c record.Done) bool {
	st, k, _ := s.plan.step(c.Step)
	if s.bolt(st.owner, c.Bolt).since > line {
		return false
	}
	if c.Round > 0 {
		return !slices.ContainsFunc(s.going[k].list, func(r Round) bool { return r.Number == c.Round && r.Void })
	}
	a, ok := s.plan.place[c.Act]
	return ok && s.done[a] == line+1
}

// madeGood returns what brought the same bolt to its value later with another tool: a later
// stage, or for a pull of a round a later round; nil where nothing did. A nut that did not
// turn then was at it already, or past it: that makes nothing good.
func (s *State) madeGood(line int32, c record.Done, tool string) *record.StageTool {
	st, _, _ := s.plan.step(c.Step)
	for i := int(line) + 1; i < len(s.lines.list); i++ {
		l := &s.lines.list[i]
		d, ok := l.Content.(record.Done)
		if !ok || !l.counted || d.Bolt != c.Bolt || d.Lock || l.Tool == nil || slices.Contains(l.Tool.Tools, tool) || d.NoTurn {
			continue
		}
		if to, _, _ := s.plan.step(d.Step); to.owner != st.owner || (d.Round == 0) != (c.Round == 0) {
			continue
		}
		if s.countsStill(int32(i), d) {
			return l.Tool
		}
	}
	return nil
}

// later names what made good what a doubt is about, where something did.
func (s *State) later(d doubt) (tools []string) {
	for _, i := range d.lines {
		c, ok := s.lines.list[i].Content.(record.Done)
		if !ok || !s.countsStill(i, c) {
			continue
		}
		if t := s.madeGood(i, c, d.tool); t != nil && !slices.Contains(tools, tags(t)) {
			tools = append(tools, tags(t))
		}
	}
	return tools
}

// Touch is what a tool made of a group at one stage, or in one round.
type Touch struct {
	Group string
	Stage int // from 1; 0 in a round
	Of    int // stages
	Share float64
	Round int
	Bolts []int
	Last  time.Time
	Good  bool // a later stage with another tool made all of it good, or it was made again
}

// Made lists what a tool made here since a time, as far as it was not struck out.
func (s *State) Made(tool string, since time.Time) []Touch {
	var lines []int32
	for i, l := range s.lines.list {
		if l.counted && l.Tool != nil && slices.Contains(l.Tool.Tools, tool) && !l.Entry.AtTool.Before(since) {
			lines = append(lines, int32(i))
		}
	}
	return s.touches(tool, lines)
}

func (s *State) touches(tool string, lines []int32) (out []Touch) {
	for _, i := range lines {
		l := &s.lines.list[i]
		c, ok := l.Content.(record.Done)
		if !ok || c.Bolt == 0 {
			continue
		}
		st, _, _ := s.plan.step(c.Step)
		name := s.plan.owners[st.owner].group.Name
		k := slices.IndexFunc(out, func(t Touch) bool { return t.Group == name && t.Share == c.Share && t.Round == c.Round })
		if k < 0 {
			k = len(out)
			t := Touch{Group: name, Of: len(st.group.Stages), Share: c.Share, Round: c.Round, Good: true}
			if c.Round == 0 {
				t.Stage = slices.Index(st.group.Stages, c.Share) + 1
			}
			out = append(out, t)
		}
		t := &out[k]
		if !slices.Contains(t.Bolts, c.Bolt) {
			t.Bolts = append(t.Bolts, c.Bolt)
		}
		if l.Entry.AtTool.After(t.Last) {
			t.Last = l.Entry.AtTool
		}
		t.Good = t.Good && !s.inDoubtStill(i, c, tool)
	}
	for k := range out {
		slices.Sort(out[k].Bolts)
	}
	return out
}

// Words says what a tool made, in as few words: rounds that follow on one another together.
func Words(list []Touch) []string {
	out := []string{}
	for i := 0; i < len(list); i++ {
		k := i
		for k+1 < len(list) && list[k].Round > 0 && list[k+1].Round == list[k].Round+1 && list[k+1].Group == list[i].Group {
			k++
		}
		text := list[i].Words()
		if k > i {
			n := 0
			for _, t := range list[i : k+1] {
				n += len(t.Bolts)
			}
			text = fmt.Sprintf("%d pulls, rounds %d to %d", n, list[i].Round, list[k].Round)
		}
		out, i = append(out, text), k
	}
	return out
}

// Words says what a tool made: "16 pulls, stage 3".
func (t Touch) Words() string {
	n := fmt.Sprintf("%d pulls", len(t.Bolts))
	if len(t.Bolts) == 1 {
		n = "1 pull"
	}
	switch {
	case t.Round > 0:
		return fmt.Sprintf("%s, round %d", n, t.Round)
	case t.Of > 1 && t.Stage > 0:
		return fmt.Sprintf("%s, stage %d of %d", n, t.Stage, t.Of)
	}
	return n
}

// reportWords says of a report what the tool had made here.
func (s *State) reportWords(at int32, c record.Report) string {
	text := fmt.Sprintf("%s reported %s", c.Tool, c.What)
	if c.Note != "" {
		text += ": " + record.Trim(c.Note)
	}
	for _, d := range s.doubts {
		if d.at != at {
			continue
		}
		made := s.touches(d.tool, d.lines)
		if len(made) == 0 {
			continue
		}
		text += ". Made with it here since its last good check: " + strings.Join(Words(made), "; ")
		if slices.ContainsFunc(made, func(t Touch) bool { return !t.Good }) {
			continue
		}
		if by := s.later(d); len(by) > 0 {
			text += ". A later stage made that good, with " + strings.Join(by, ", ")
		} else {
			text += ". It was made again"
		}
	}
	return text + "."
}

// MadeWith is what one tool made of a joint.
type MadeWith struct {
	Tool       string
	Calibrated time.Time // as it was when the tool was chosen; zero where it is not known, or not the wrench
	Due        time.Time
	Made       []Touch
}

// MadeWith lists the tools that pulls which stand were made with, in the order in which
// they were first taken.
func (s *State) MadeWith() (out []MadeWith) {
	lines := map[string][]int32{}
	for i, l := range s.lines.list {
		c, ok := l.Content.(record.Done)
		if !ok || !l.counted || l.Tool == nil || !s.countsStill(int32(i), c) {
			continue
		}
		for k, tag := range l.Tool.Tools {
			if lines[tag] == nil {
				m := MadeWith{Tool: tag}
				if k == 0 {
					m.Calibrated, m.Due = l.Tool.Calibrated, l.Tool.Due
				}
				out = append(out, m)
			}
			lines[tag] = append(lines[tag], int32(i))
		}
	}
	for k := range out {
		out[k].Made = s.touches(out[k].Tool, lines[out[k].Tool])
	}
	return out
}
