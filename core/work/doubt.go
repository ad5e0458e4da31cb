package work

import (
	"fmt"
	"slices"
	"strings"
	"time"

	"dynacor/core/proof"
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

// sampled are bolts of an owner that are tried before a doubt is lifted.
type sampled struct {
	owner int
	bolts []int
	tried []int // of these
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
	if strings.Contains(s.inHand.tools, c.Tool) {
		s.inHand = inHand{}
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

// sampleOf chooses the bolts that are tried for a doubt: a tenth of those in doubt, at
// least two, those that moved in a round first (package proof).
func (s *State) sampleOf(d doubt) (out []sampled) {
	for o := range s.plan.owners {
		bolts := s.boltsIn(d, o)
		if len(bolts) == 0 {
			continue
		}
		n, err := proof.SampleCount(len(bolts), proof.SampleShare, proof.SampleAtLeast)
		if err != nil {
			continue
		}
		var worst []int
		for _, b := range s.worst[o].moved {
			if k := slices.Index(bolts, b); k >= 0 {
				worst = append(worst, k+1)
			}
		}
		picked, err := proof.SampleOf(len(bolts), n, worst)
		if err != nil {
			continue
		}
		x := sampled{owner: o}
		for _, k := range picked {
			x.bolts = append(x.bolts, bolts[k-1])
		}
		slices.Sort(x.bolts)
		out = append(out, x)
	}
	return out
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

// GroupBolts are bolts of a group.
type GroupBolts struct {
	Group string
	Bolts []int
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

// recheck takes bolts as tried: all of a sample within, and the doubt is lifted.
func (s *State) recheck(at int, c record.Recheck) {
	s.note(at)
	o, known := s.plan.owner[c.Group]
	if !known {
		return
	}
	v, err := s.rechecked(o, c)
	if err != nil {
		return
	}
	l := &s.lines.list[at]
	l.Readings, l.counted = c.Readings, true
	if !v.Holds {
		l.Outside = v.Reason
	}
	for k := range s.doubts {
		d := &s.doubts[k]
		if d.tool != c.Tool || d.stands != "" || len(d.sample) == 0 {
			continue
		}
		if !v.Holds {
			d.sample, d.short = nil, true
			continue
		}
		left := 0
		d.sample = slices.Clone(d.sample)
		for i := range d.sample {
			p := &d.sample[i]
			if p.owner == o {
				p.tried = append(slices.Clip(p.tried), c.Bolts...)
			}
			for _, b := range p.bolts {
				if !slices.Contains(p.tried, b) {
					left++
				}
			}
		}
		if left == 0 {
			d.stands = "a sample was tried with " + c.With + ", and holds"
		}
	}
}

// rechecked judges readings of bolts by the usual window of what is left of a torque.
func (s *State) rechecked(owner int, c record.Recheck) (proof.Residual, error) {
	g := s.plan.owners[owner].group
	target := g.Torque
	if len(g.Torques) > 0 {
		target = g.Torques[len(g.Torques)-1]
	}
	v, err := proof.JudgeResidual(c.Readings, target, proof.ResidualLow, proof.ResidualHigh)
	if err == nil && !v.Holds {
		v.Reason = fmt.Sprintf("%d of %d lie outside %.4g to %.4g N·m", len(v.Failed), len(c.Readings), proof.ResidualLow*target,
			proof.ResidualHigh*target)
	}
	return v, err
}

func (s *State) acceptRecheck(c record.Recheck, f Facts) error {
	o, known := s.plan.owner[c.Group]
	if !known {
		return refusal.New(refusal.Unknown, "group", fmt.Sprintf("%q is no group of this joint.", c.Group), "Choose one of the plan's.")
	}
	i := slices.IndexFunc(s.Doubts(), func(d Doubt) bool { return d.Tool == c.Tool && d.State == DoubtSample })
	if i < 0 {
		return refusal.New(refusal.NotNow, "tool", fmt.Sprintf("No bolts are to be tried because of %s.", c.Tool),
			"An engineer says first that a sample is tried.")
	}
	var open []int
	for _, x := range s.Doubts()[i].Sample {
		if x.Group == c.Group {
			open = x.Bolts
		}
	}
	if !slices.Equal(open, c.Bolts) {
		return refusal.New(refusal.NotTheSame, "bolts", fmt.Sprintf("Bolts %s are to be tried.", numbers(open)), "Try just these, in their order.")
	}
	if len(c.Readings) != len(c.Bolts) {
		return refusal.Number(refusal.Missing, "readings", float64(len(c.Readings)), float64(len(c.Bolts)), "readings",
			fmt.Sprintf("%d readings for %d bolts.", len(c.Readings), len(c.Bolts)), "Enter one for each bolt.")
	}
	if strings.TrimSpace(c.With) == "" {
		return refusal.New(refusal.Missing, "with", "With which tool were they tried?", "Name its tag.")
	}
	if c.With == c.Tool {
		return refusal.New(refusal.NotTheSame, "with", fmt.Sprintf("%s is what is in doubt.", c.Tool), "Try them with another tool.")
	}
	if why, held := f.Held[c.With]; held {
		return refusal.New(refusal.NotNow, "with", fmt.Sprintf("%s is held back: %s.", c.With, record.Trim(why)), "Take another tool.")
	}
	_, err := s.rechecked(o, c)
	return err
}

func numbers(list []int) string {
	var out []string
	for _, n := range list {
		out = append(out, fmt.Sprint(n))
	}
	return strings.Join(out, ", ")
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

// groupWords names bolts by their groups: "bolts 1, 7 of the studs".
func groupWords(list []GroupBolts) string {
	var out []string
	for _, x := range list {
		word := "bolts"
		if len(x.Bolts) == 1 {
			word = "bolt"
		}
		out = append(out, fmt.Sprintf("%s %s of the %s", word, numbers(x.Bolts), x.Group))
	}
	return strings.Join(out, "; ")
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
