package work

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"dynacor/core/friction"
	"dynacor/core/recipe"
	"dynacor/core/record"
	"dynacor/core/refusal"
)

// other is a lubricant that was found to be another than the plan's.
type other struct {
	line    int32
	group   string
	is      string
	from    string // the act that was next when it was found; empty: none was
	decided bool
}

// another returns what was found and nobody has decided about yet; nil for nothing.
func (s *State) another() *other {
	for i := range s.others {
		if !s.others[i].decided {
			return &s.others[i]
		}
	}
	return nil
}

// found returns what a line says was found.
func (s *State) found(line int) other {
	i := slices.IndexFunc(s.others, func(o other) bool { return int(o.line) == line })
	if i < 0 {
		return other{}
	}
	return s.others[i]
}

// lubricant takes it that what is on a group's bolts is another than the plan's.
func (s *State) lubricant(at int, c record.Lubricant) {
	s.note(at)
	o := other{line: int32(at), group: c.Group, is: c.Is}
	if next, ok := s.Next(); ok && next.Bolt > 0 {
		o.from = s.Describe(next)
	}
	s.others = append(slices.Clone(s.others), o)
	s.inHand = [MostHands]inHand{}
}

// says names what was found, and from which bolt on: "on the bolts is light oil, not
// moly paste, from bolt 7, 60 % on".
func (o other) says(s *State) string {
	g, _ := s.plan.Result.Group(o.group)
	from := ""
	if o.from != "" {
		from = ", from " + o.from + " on"
	}
	return fmt.Sprintf("on the %s is %s, not %s%s", o.group, o.is, g.Lubrication, from)
}

// means says what it does to the load, where its nut factor is known.
func (o other) means(s *State) string {
	g, _ := s.plan.Result.Group(o.group)
	l, ok := s.plan.own.Find(o.is)
	if !ok {
		var err error
		if l, err = friction.LubricantNamed(o.is); err != nil {
			return "How it loads them is not known."
		}
	}
	if g.K.Nominal == 0 {
		return "How it loads them is not known."
	}
	change := 100 * (g.K.Nominal/l.Nominal - 1)
	word := "more"
	if change < 0 {
		word = "less"
	}
	return fmt.Sprintf("At the same torque it loads them %.0f %% %s.", math.Abs(change), word)
}

func noteOf(note string) string {
	if note == "" {
		return ""
	}
	return " " + note
}

// mostName is how long the name of a lubricant may be.
const mostName = 80

func (s *State) acceptLubricant(c record.Lubricant) error {
	g, ok := s.plan.Result.Group(c.Group)
	if !ok || g.How != recipe.ByTorque {
		return refusal.New(refusal.Unknown, "group", fmt.Sprintf("The plan torques no %q.", c.Group), "Choose one of its groups.")
	}
	name := strings.TrimSpace(c.Is)
	switch {
	case name == "":
		return refusal.New(refusal.Missing, "is", "Which lubricant is on it?", "Read it off the tin, or say dry.")
	case len(name) > mostName:
		return refusal.Number(refusal.TooLarge, "is", float64(len(name)), mostName, "letters", "That name is too long.", "Shorten it.")
	case name == g.Lubrication:
		return refusal.New(refusal.Contradicts, "is", fmt.Sprintf("%s is what the plan has for the %s.", name, g.Name),
			"Go on, or name the one that is on them.")
	}
	return nil
}
