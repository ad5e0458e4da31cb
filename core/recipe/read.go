package recipe

import (
	"fmt"
	"slices"
	"strings"

	"dynacor/core/reading"
	"dynacor/core/refusal"
	"dynacor/core/unit"
)

// Read is something that is read at a step: what is read raw, what that comes to, and
// the limit its answer is held to. Without a limit it is only kept.
type Read struct {
	Name   string
	Form   reading.Form
	Limit  *Limit
	Places int
	Spots  []string
	Unit   unit.Unit // of what is read, where no limit says so
	Word   string
	Over   string   // the need, or what was kept, that it is counted over: a pipe's diameter, a flange's
	Target string   // of a pressure test: the need that holds its pressure
	Gas    bool     // of a pressure test: both ends are brought to one temperature
	Group  string   // of gaps: the ring whose bolts are named at the open side
	From   []string // of a sum or a change: what was kept before
	Keep   string   // the name under which its answer is kept for later steps
	When   When
}

// InUnit is the unit of what is read raw.
func (r Read) InUnit() string {
	if r.Unit+unit.Unit(r.Word) != "" || r.Limit == nil {
		return string(r.Unit) + r.Word
	}
	return string(r.Limit.Unit) + r.Limit.Word
}

// Fields are its raw readings, in order.
func (r Read) Fields() []reading.Field {
	_, _, usual := r.Form.Places()
	n := r.Places
	if n == 0 {
		n = usual
	}
	out := r.Form.Fields(n, r.InUnit())
	for i := range out {
		switch {
		case i < len(r.Spots):
			out[i].Name = r.Spots[i]
		case out[i].Name == "" && n == 1:
			out[i].Name = r.Name
		case out[i].Name == "":
			out[i].Name = atPlace(i, n)
		}
	}
	return out
}

// atPlace names place i of n where nothing else does: the sides of two, the hours of
// four or eight, else its number.
func atPlace(i, n int) string {
	switch n {
	case 2:
		return []string{"on the left", "on the right"}[i]
	case 4, 8:
		return "at " + reading.Place(i, n)
	}
	return fmt.Sprintf("at %d", i+1)
}

// Tick is one line of a list: something that is done or looked at, or a part that is
// placed as it is drawn.
type Tick struct {
	Text string
	Part string // Text is then what its part says, unless it says more
	When When
}

// Comparison is something that is compared: typed, scanned or, where nothing is asked of it,
// seen.
type Comparison struct {
	Of       string   // what it is read on
	Alike    string   // the set in which all are alike
	Opposite string   // the other mark of the step, across from which it points, both as hours of the clock
	Unlike   string   // the other mark of the step that it must differ from
	Is       string   // what it must say; a need in braces is what it comes to
	From     []string // what is chosen from
	Free     bool     // whatever is said is kept
	When     When
}

// Compared reports whether what is read is held against something.
func (m Comparison) Compared() bool {
	return m.Alike != "" || m.Opposite != "" || m.Unlike != "" || m.Is != ""
}

// Answers are what is chosen from: the hours for what points somewhere.
func (m Comparison) Answers(all []Comparison) []string {
	if len(m.From) > 0 {
		return m.From
	}
	points := m.Opposite != "" || slices.ContainsFunc(all, func(o Comparison) bool { return o.Opposite == m.Of })
	if !points {
		return nil
	}
	out := make([]string, 12)
	for i := range out {
		out[i] = fmt.Sprintf("%d o’clock", i+1)
	}
	return out
}

// MarksOf lists what is compared at a step of a variant: its own marks, and at a match
// without any the parts of the recipe.
func (r Recipe) MarksOf(s Step, choices map[string]string) []Comparison {
	var out []Comparison
	for _, m := range s.Marks {
		if m.When.Holds(choices) {
			out = append(out, m)
		}
	}
	if s.Does != Match || len(s.Marks) > 0 {
		return out
	}
	for _, p := range r.Parts {
		if p.When.Holds(choices) && p.Match != "" {
			out = append(out, Comparison{Of: p.Name, Alike: p.Alike})
		}
	}
	return out
}

// checkReads refuses what cannot be read or be held to its limit. kept are the answers
// of earlier steps, and grows by those of this one.
func (c checker) checkReads(field string, s Step, kept map[string]Need) error {
	for i, r := range s.All() {
		at := fmt.Sprintf("%s.reads.%d", field, i)
		if s.Limit != nil {
			at = fmt.Sprintf("%s.reads.%d", field, i-1)
			if i == 0 {
				at = field
			}
		}
		if err := c.read(at, r, kept); err != nil {
			return err
		}
		if r.Keep != "" {
			kept[r.Keep] = Need{Name: r.Keep, Unit: c.keptUnit(r), When: and(s.When, r.When)}
		}
	}
	return nil
}

// keptUnit is the unit in which an answer is kept: of a form, its own, where that is a
// unit.
func (c checker) keptUnit(r Read) unit.Unit {
	u := unit.Unit(r.Form.Unit())
	if u == "" {
		u = unit.Unit(r.InUnit())
	}
	if _, err := unit.DimensionOf(u); err != nil {
		return ""
	}
	return u
}

func (c checker) read(field string, r Read, kept map[string]Need) error {
	if !slices.Contains(reading.Forms(), r.Form) {
		return refusal.New(refusal.Unknown, field+".form", fmt.Sprintf("Unknown form %q.", string(r.Form)), "Choose one from the list.")
	}
	known := func(name string) (Need, bool) {
		if n, ok := c.needs[name]; ok {
			return n, true
		}
		n, ok := kept[name]
		return n, ok
	}
	if r.Limit != nil {
		if err := r.Limit.check(field+".limit", known); err != nil {
			return err
		}
		if u := r.Form.Unit(); u != "" && u != string(r.Limit.Unit)+r.Limit.Word {
			return refusal.New(refusal.Contradicts, field+".limit", fmt.Sprintf("A %s comes to %s; its limit is in %q.", r.Form, u,
				string(r.Limit.Unit)+r.Limit.Word), "Give the limit in "+u+".")
		}
	} else if r.Name == "" {
		return refusal.New(refusal.Missing, field+".name", "What is read has neither a name nor a limit.", "Name it.")
	}
	least, most, usual := r.Form.Places()
	if n := r.Places; n < 0 || n > most || n != 0 && n < least {
		return refusal.Number(refusal.OutOfRange, field+".places", float64(n), float64(most), "places",
			fmt.Sprintf("%d places; a reading of this form has %d to %d.", n, least, most), "")
	}
	if n := len(r.Spots); n > 0 && n != len(r.Form.Fields(max(r.Places, usual), "")) {
		return refusal.Number(refusal.Contradicts, field+".spots", float64(n), float64(max(r.Places, usual)), "places",
			fmt.Sprintf("%d names for %d readings.", n, len(r.Form.Fields(max(r.Places, usual), ""))), "Name each place.")
	}
	for _, x := range []struct {
		name, at string
		want     bool
		unit     unit.Unit
	}{{r.Over, ".over", r.Form == reading.Diameters, unit.Millimetre}, {r.Target, ".target", false, unit.Bar}} {
		n, ok := known(x.name)
		if x.name == "" && !x.want {
			continue
		}
		if !ok || n.Unit != x.unit {
			return refusal.New(refusal.Unknown, field+x.at, fmt.Sprintf("%q is no value in %s, and nothing before it is kept as that.", x.name,
				x.unit), "Name a value, or what an earlier step keeps.")
		}
	}
	if (r.Form == reading.Sum || r.Form == reading.Change) != (len(r.From) > 0) {
		return refusal.New(refusal.Missing, field+".from", "A sum and a change go on from what was read before, and only they.",
			"Name what an earlier step keeps.")
	}
	for _, name := range r.From {
		if _, ok := kept[name]; !ok {
			return refusal.New(refusal.Contradicts, field+".from", fmt.Sprintf("%q is kept by no step before this one.", name),
				"Put the step that keeps it first, or name another.")
		}
	}
	if g, ok := c.groups[r.Group]; r.Group != "" && (!ok || g.Layout != Ring || r.Form != reading.Plane) {
		return refusal.New(refusal.Unknown, field+".group", fmt.Sprintf("%q is no ring that gaps are read over.", r.Group), "")
	}
	if _, taken := c.needs[r.Keep]; taken {
		return refusal.New(refusal.Contradicts, field+".keep", fmt.Sprintf("%q is a value already.", r.Keep), "Keep it under another name.")
	}
	return c.when(field+".when", r.When)
}

// and joins the variants of two.
func and(a, b When) When {
	out := When{}
	for _, w := range []When{a, b} {
		for k, v := range w {
			out[k] = v
		}
	}
	return out
}

// checkLists refuses ticks that say nothing or place what is no part, and marks that are
// held against what is not there.
func (c checker) checkLists(field string, s Step) error {
	for i, t := range s.Ticks {
		at := fmt.Sprintf("%s.ticks.%d", field, i)
		if strings.TrimSpace(t.Text) == "" && t.Part == "" {
			return refusal.New(refusal.Missing, at, "A line of a list says nothing.", "Say what is ticked.")
		}
		if t.Part != "" && !slices.ContainsFunc(c.r.Parts, func(p Part) bool { return p.Name == t.Part }) {
			return refusal.New(refusal.Unknown, at+".part", fmt.Sprintf("No part is named %q.", t.Part), "Name one of the recipe's parts.")
		}
		if err := refusal.First(c.told(at, t.Text), c.when(at+".when", t.When)); err != nil {
			return err
		}
	}
	of := map[string]bool{}
	for _, m := range s.Marks {
		of[m.Of] = true
	}
	alike := map[string]int{}
	for i, m := range s.Marks {
		at := fmt.Sprintf("%s.marks.%d", field, i)
		if m.Of == "" || strings.Contains(m.Of, ": ") {
			return refusal.New(refusal.Missing, at, "A mark is of nothing.", "Say what it is read on.")
		}
		for _, other := range []string{m.Opposite, m.Unlike} {
			if other != "" && (!of[other] || other == m.Of) {
				return refusal.New(refusal.Unknown, at, fmt.Sprintf("The mark of %s is held against that of %q, which is not read here.", m.Of,
					other), "Name another mark of the step.")
			}
		}
		if m.Is != "" && len(m.From) > 0 && !slices.Contains(m.From, m.Is) {
			return refusal.New(refusal.Contradicts, at, fmt.Sprintf("%q is not among what is chosen from.", m.Is), "Add it.")
		}
		if m.Alike != "" {
			alike[m.Alike]++
		}
		if err := refusal.First(c.told(at, m.Is), c.when(at+".when", m.When)); err != nil {
			return err
		}
	}
	for set, n := range alike {
		if n < 2 {
			return refusal.New(refusal.Contradicts, field+".marks", fmt.Sprintf("The set %q has one mark; it is alike to nothing.", set),
				"Name its others.")
		}
	}
	return nil
}
