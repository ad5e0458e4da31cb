package work

import (
	"fmt"
	"slices"
	"strings"
	"time"

	"dynacor/core/record"
	"dynacor/core/refusal"
)

// doubt is what is in doubt because of a tool.
type doubt struct {
	tool   string
	since  time.Time
	at     int32 // the line that reported it
	lines  []int32
	stands string // why it does: answered, found good, re-checked; empty: it does not yet
	again  bool   // an engineer has it made again, by work that follows a signed record
	sample []sampled
	short  bool // a bolt of a sample lay outside: it is answered anew
}

// report takes a tool as doubtful, with every pull that was made with it since
// its last good check.
func (s *State) report(at int, c record.Report) {
	s.note(at)
	d := doubt{tool: c.Tool, since: c.Since, at: int32(at)}
	for i, l := range s.lines.list[:at] {
		if l.counted && l.Tool != nil && slices.Contains(l.Tool.Tools, c.Tool) && !l.Entry.AtTool.Before(c.Since) {
			d.lines = append(d.lines, int32(i))
		}
	}
	s.doubts = append(s.doubts, d)
	if s.uses(c.Tool) {
		s.otherTool()
	}
	for i, h := range s.inHand {
		if slices.Contains(strings.Split(h.tools, " + "), c.Tool) {
			s.inHand[i] = inHand{}
		}
	}
}

// answer takes what is said about a doubt.
func (s *State) answer(at int, c record.Answer) {
	s.note(at)
	signed := s.signed(record.Made) && s.signed(record.Checked)
	for k := range s.doubts {
		d := &s.doubts[k]
		if d.tool != c.Tool || d.stands != "" {
			continue
		}
		d.again, d.sample, d.short = false, nil, false
		switch {
		case c.How == record.Sample:
			d.sample = s.sampleOf(*d)
		case c.How == record.Again && signed:
			d.again = true
		case c.How == record.Again:
			s.takeBack(at, *d)
			d.stands = "made again"
		default:
			d.stands = c.Reason
		}
	}
}

// takeBack has every bolt whose pull is in doubt pulled again, from that pull on; one that
// was turned by its angle since begins anew.
func (s *State) takeBack(at int, d doubt) {
	for _, i := range d.lines {
		c, ok := s.lines.list[i].Content.(record.Done)
		if !ok || !s.inDoubtStill(i, c, d.tool) {
			continue
		}
		st, k, _ := s.plan.step(c.Step)
		a, staged := s.plan.place[c.Act]
		switch {
		case s.bolt(st.owner, c.Bolt).turned:
			s.bolt(st.owner, c.Bolt).spent = true
			s.reopen(st.owner, c.Bolt, s.plan.owners[st.owner].steps[0], 0)
		case staged && c.Round == 0:
			s.reopen(st.owner, c.Bolt, k, a)
		default:
			s.touch(st.owner, k)
		}
	}
}

// boltsIn lists the bolts of an owner that a doubt is about still, by their numbers.
func (s *State) boltsIn(d doubt, owner int) (out []int) {
	for _, i := range d.lines {
		c, ok := s.lines.list[i].Content.(record.Done)
		if !ok || !s.inDoubtStill(i, c, d.tool) {
			continue
		}
		if st, _, _ := s.plan.step(c.Step); st.owner == owner && !slices.Contains(out, c.Bolt) {
			out = append(out, c.Bolt)
		}
	}
	slices.Sort(out)
	return out
}

// inDoubtStill reports whether a pull with a doubtful tool still stands and is what its
// bolt rests on: no later stage with another tool made it good.
func (s *State) inDoubtStill(line int32, c record.Done, tool string) bool {
	return s.countsStill(line, c) && s.madeGood(line, c, tool) == nil
}

// DoubtState is where a doubt stands.
type DoubtState string

// Where doubts stand.
const (
	DoubtWaits  DoubtState = "waits"  // for an engineer's answer
	DoubtSample DoubtState = "sample" // for bolts to be tried
	DoubtAgain  DoubtState = "again"  // for work that follows
	DoubtStands DoubtState = "stands" // answered: what was made is kept
	DoubtLater  DoubtState = "later"  // nothing rests on it: made good by a later stage, or made again
)

// Doubt is what became of a report of a tool.
type Doubt struct {
	Tool   string
	Since  time.Time
	Entry  string // the report
	State  DoubtState
	Reason string   // why it stands
	Short  bool     // a bolt of a sample lay outside
	Later  []string // the tools of later stages that made it good
	Bolts  []GroupBolts
	Sample []GroupBolts // that are still to be tried
	Made   []Touch
}

// Says says where a doubt stands.
func (d Doubt) Says() string {
	switch d.State {
	case DoubtSample:
		return "re-check: " + groupWords(d.Sample)
	case DoubtAgain:
		return "to be made again: an engineer issues its plan"
	case DoubtStands:
		return "stands: " + record.Trim(d.Reason)
	case DoubtLater:
		if len(d.Later) > 0 {
			return "later stage by " + strings.Join(d.Later, ", ") + ": stands"
		}
		return "nothing of it is left: made again"
	}
	if d.Short {
		return "the sample lay outside: an engineer answers"
	}
	return "open: an engineer answers"
}

// Doubts lists what became of every report of a tool, in their order.
func (s *State) Doubts() []Doubt {
	var out []Doubt
	for _, d := range s.doubts {
		x := Doubt{Tool: d.tool, Since: d.since, Entry: s.lines.list[d.at].Entry.ID, State: DoubtWaits, Reason: d.stands, Short: d.short,
			Made: s.touches(d.tool, d.lines)}
		for o := range s.plan.owners {
			if bolts := s.boltsIn(d, o); len(bolts) > 0 {
				x.Bolts = append(x.Bolts, GroupBolts{s.plan.owners[o].group.Name, bolts})
			}
		}
		for _, p := range d.sample {
			rest := slices.DeleteFunc(slices.Clone(p.bolts), func(b int) bool { return slices.Contains(p.tried, b) })
			if len(rest) > 0 {
				x.Sample = append(x.Sample, GroupBolts{s.plan.owners[p.owner].group.Name, rest})
			}
		}
		switch {
		case len(x.Bolts) == 0:
			x.State, x.Later = DoubtLater, s.later(d)
		case d.stands != "":
			x.State = DoubtStands
		case d.again:
			x.State = DoubtAgain
		case len(x.Sample) > 0:
			x.State = DoubtSample
		}
		out = append(out, x)
	}
	return out
}

// Reported reports whether a tool was reported here that was good last at a time.
func (s *State) Reported(tool string, since time.Time) bool {
	return slices.ContainsFunc(s.doubts, func(d doubt) bool { return d.tool == tool && d.since.Equal(since) })
}

// Doubted lists the tools whose pulls are in doubt, and the bolts these were
// made on, by the group whose bolts they are.
func (s *State) Doubted() (tools []string, bolts map[string][]int) {
	bolts = map[string][]int{}
	for _, d := range s.doubts {
		if d.stands != "" {
			continue
		}
		found := false
		for o := range s.plan.owners {
			name := s.plan.owners[o].group.Name
			for _, b := range s.boltsIn(d, o) {
				found = true
				if !slices.Contains(bolts[name], b) {
					bolts[name] = append(bolts[name], b)
				}
			}
		}
		if found && !slices.Contains(tools, d.tool) {
			tools = append(tools, d.tool)
		}
	}
	for _, list := range bolts {
		slices.Sort(list)
	}
	return tools, bolts
}

func (s *State) acceptReport(c record.Report) error {
	if c.Tool == "" {
		return refusal.New(refusal.Missing, "tool", "No tool is named.", "Name its tag.")
	}
	if !slices.Contains(record.Reports(), c.What) {
		return refusal.New(refusal.Unknown, "what", fmt.Sprintf("Unknown report %q.", string(c.What)), "Say dropped, overloaded or doubtful.")
	}
	return nil
}

func (s *State) acceptAnswer(c record.Answer) error {
	tools, _ := s.Doubted()
	if !slices.Contains(tools, c.Tool) {
		return refusal.New(refusal.NotNow, "tool", fmt.Sprintf("Nothing is in doubt because of %s.", c.Tool), "")
	}
	switch c.How {
	case record.Stands, record.Good, record.Sample, record.Again:
	default:
		return refusal.New(refusal.Unknown, "how", fmt.Sprintf("Unknown answer %q.", string(c.How)), "Say stands, sample or again.")
	}
	if strings.TrimSpace(c.Reason) == "" && c.How != record.Sample {
		return refusal.New(refusal.NeedsReason, "reason", fmt.Sprintf("What was made with %s is in doubt.", c.Tool),
			"Say what was found, and why you decide so.")
	}
	return nil
}

// newestDoubt is the newest open doubt because of a tool.
func (s *State) newestDoubt(tool string) (out Doubt) {
	for _, d := range s.Doubts() {
		if d.Tool == tool && d.State != DoubtStands && d.State != DoubtLater {
			out = d
		}
	}
	return out
}
