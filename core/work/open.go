package work

import (
	"fmt"
	"slices"
	"strings"

	"dynacor/core/recipe"
	"dynacor/core/record"
)

// What keeps a record from being signed.
const (
	OpenStep     = "step"
	OpenTrouble  = "trouble"
	OpenDoubt    = "doubt"
	OpenDecision = "decision"
	OpenPause    = "pause"
)

// Open is something that keeps the record from being signed. Step is the open
// step, where it is one.
type Open struct {
	Kind string
	Step recipe.Step
	Text string
}

// Open lists what keeps the record from being signed: what an engineer decides,
// trouble and doubt first, then the steps in order.
func (s *State) Open() []Open {
	var out []Open
	if s.Standing == record.Signed {
		return s.openDoubts(out)
	}
	if _, stopped := s.stoppedAt(); stopped {
		out = append(out, Open{Kind: OpenDecision, Text: "An engineer decides on another round."})
	}
	if o := s.another(); o != nil {
		out = append(out, Open{Kind: OpenDecision, Text: capital(o.says(s)) + ": an engineer decides."})
	}
	if s.dry != "" {
		out = append(out, Open{Kind: OpenDecision, Text: "A whole stage in which no nut turned: an engineer decides."})
	}
	troubled := s.Troubled()
	for _, own := range s.plan.owners {
		for _, b := range troubled[own.group.Name] {
			out = append(out, Open{Kind: OpenTrouble, Text: fmt.Sprintf("%s: its trouble is open.", capital(own.group.BoltName(b)))})
		}
	}
	out = s.openDoubts(out)
	for i := range s.plan.steps {
		if st := &s.plan.steps[i]; st.Does != recipe.Sign && !s.complete(i) {
			out = append(out, Open{Kind: OpenStep, Step: st.Step, Text: st.Text})
		}
	}
	if s.Paused != nil {
		out = append(out, Open{Kind: OpenPause, Text: "The run is paused."})
	}
	return out
}

// openDoubts adds what is in doubt because of a tool.
func (s *State) openDoubts(out []Open) []Open {
	tools, _ := s.Doubted()
	for _, t := range tools {
		d := s.newestDoubt(t)
		text := fmt.Sprintf("What was made with %s is in doubt: an engineer answers.", t)
		switch {
		case d.State == DoubtSample:
			text = fmt.Sprintf("What was made with %s is in doubt: %s to be tried with another tool.", t, groupWords(d.Sample))
		case d.State == DoubtAgain:
			text = fmt.Sprintf("What was made with %s is to be made again: an engineer issues the plan for it.", t)
		case d.Short:
			text = fmt.Sprintf("What was made with %s is in doubt, and the sample lay outside: an engineer answers.", t)
		}
		out = append(out, Open{Kind: OpenDoubt, Text: text})
	}
	return out
}

// settled reports whether nothing about a bolt or a tool is open, beside the
// steps.
func (s *State) settled() bool {
	if slices.ContainsFunc(s.bolts, func(b bolt) bool { return b.trouble || b.spent }) {
		return false
	}
	tools, _ := s.Doubted()
	return len(tools) == 0
}

// Stop says why the work has stopped, for whoever decides; empty where it has
// not. rounds counts those that moved a nut.
func (s *State) Stop() (why string, rounds int) {
	if o := s.another(); o != nil {
		return capital(o.says(s)) + ". " + o.means(s), 0
	}
	if s.dry != "" {
		return "In a whole stage no nut turned.", 0
	}
	if i, ok := s.stoppedAt(); ok {
		n := s.going[i].moving()
		return fmt.Sprintf("%d rounds, and nuts still move. Look for a tilted flange, dirt on a seat, a yielding bolt, a creeping gasket "+
			"or a wrong lubricant first.", n), n
	}
	return "", 0
}

// Locks counts the locks of bolts that are on, and all there are.
func (s *State) Locks() (on, all int) {
	for a, act := range s.plan.acts {
		if !act.Lock {
			continue
		}
		all++
		if l, ok := s.lineOf(int32(a)); ok {
			if c, is := l.Content.(record.Done); is && !c.Skipped {
				on++
			}
		}
	}
	return on, all
}

// Done returns how an act of a stage, or a step, was done; ok is false where it
// is still to do.
func (s *State) Done(a record.Act) (l Line, ok bool) {
	i, there := s.plan.place[a]
	if !there {
		return Line{}, false
	}
	return s.lineOf(i)
}

// Count counts the acts of a step that are done, and all there are, its rounds
// apart; and whether the step is complete.
func (s *State) Count(step string) (done, all int, complete bool) {
	st, i, ok := s.plan.step(step)
	if !ok {
		return 0, 0, false
	}
	all = int(st.last - st.first)
	return all - int(s.open[i]), all, s.complete(i)
}

// Describe names an act in a few words.
func (s *State) Describe(a record.Act) string {
	st, _, ok := s.plan.step(a.Step)
	if !ok {
		return fmt.Sprintf("step %q", a.Step)
	}
	switch {
	case a.Item > 0 && a.Item <= len(st.Ticks):
		return record.Trim(tickWords(st.Ticks[a.Item-1]))
	case a.Photo:
		return "photograph: " + st.Photo
	case a.Release:
		return fmt.Sprintf("%s: released by %s", record.Trim(st.Text), Article(st.Release))
	case a.Bolt == 0:
		return record.Trim(st.Text)
	}
	name := st.group.BoltName(a.Bolt)
	switch {
	case a.Lock:
		return name + ", lock"
	case a.Round > 0:
		return fmt.Sprintf("%s, round %d", name, a.Round)
	case a.Turn > 0:
		return fmt.Sprintf("%s, %g°", name, a.Turn)
	case st.group.How == recipe.ByTension:
		return name + ", its nut"
	case a.Share > 0 && len(st.group.Stages) > 1:
		return fmt.Sprintf("%s, %g %%", name, a.Share)
	}
	return name
}

// Tries lists what was measured in a step that is adjusted, or measured anew,
// in order, the one that was kept last.
func (s *State) Tries(step string) []Line {
	var out []Line
	for _, l := range s.lines.list {
		if c, ok := l.Content.(record.Done); ok && c.Step == step && l.counted && (len(l.Readings) > 0 || l.Tried) {
			out = append(out, l)
		}
	}
	return out
}

// Says writes readings out with their unit, those of a sample with their bolts, those of
// several things by their names.
func (s *State) Says(step string, readings []float64, bolts []int) string {
	st, _, _ := s.plan.step(step)
	if len(st.reads) == 0 {
		return ""
	}
	r := &st.reads[0]
	if len(st.reads) == 1 && r.Form == "" || st.Sample != "" {
		var list []string
		for i, x := range readings {
			v := fmt.Sprintf("%.6g", x)
			if i < len(bolts) {
				v = fmt.Sprintf("bolt %d: %s", bolts[i], v)
			}
			list = append(list, v)
		}
		return strings.TrimSpace(strings.Join(list, ", ") + " " + r.InUnit())
	}
	var out []string
	for k := range st.reads {
		r := &st.reads[k]
		var list []string
		same := true
		for _, f := range r.fields {
			same = same && f.Unit == r.fields[0].Unit
		}
		for i, f := range r.fields {
			if r.from+i >= len(readings) {
				break
			}
			v := fmt.Sprintf("%.6g", readings[r.from+i])
			if !same {
				v = f.Name + " " + strings.TrimSpace(v+" "+f.Unit)
			}
			list = append(list, v)
		}
		text := strings.Join(list, ", ")
		if same && len(r.fields) > 0 {
			text = strings.TrimSpace(text + " " + r.fields[0].Unit)
		}
		if r.Name != "" && (len(st.reads) > 1 || r.Form != "") {
			text = r.Name + " " + text
		}
		out = append(out, text)
	}
	return strings.Join(out, "; ")
}

// tickWords says a line of a list: a part with how it lies.
func tickWords(t recipe.Tick) string {
	switch {
	case t.Part == "":
		return t.Text
	case t.Text == "":
		return t.Part
	}
	return t.Part + ": " + t.Text
}
