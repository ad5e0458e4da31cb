package recipe

import (
	"fmt"
	"slices"
	"strings"

	"dynacor/core/kind"
	"dynacor/core/refusal"
	"dynacor/core/unit"
)

// Check refuses a recipe that cannot be followed, naming the place and the
// rule: a name that is not there, twice there or misspelt, a limit without a
// number, an order against its kind, a group that no step tightens, a step
// after the signature, a requirement of the kind that no step fulfils.
func (r Recipe) Check() error { return refusal.First(r.Faults()...) }

// Faults lists everything that Check refuses, in the order of the file, one of each thing
// that is wrong: who edits a recipe sees all of it at once.
func (r Recipe) Faults() []error {
	c := checker{r: r, choices: map[string][]string{}, needs: map[string]Need{}, groups: map[string]Group{}, faults: &[]error{}}
	var err error
	if c.kind, err = kind.Named(r.Kind); !c.holds(err) {
		return *c.faults // nothing else can be held against a kind that is none
	}
	if r.ID == "" || strings.TrimSpace(r.Title) == "" {
		c.holds(refusal.New(refusal.Missing, "title", "The recipe has no name.", "Give id and title."))
	}
	if r.Edition < 1 {
		c.holds(refusal.Number(refusal.TooSmall, "edition", float64(r.Edition), 1, "", fmt.Sprintf("Edition %d; they count from 1.",
			r.Edition), ""))
	}
	before := len(*c.faults)
	c.checkChoices()
	vary := len(*c.faults) == before // else nobody knows the variants, or there are too many to go through
	for _, part := range []func(){c.checkNeeds, c.checkParts, c.checkGroups, c.checkKit, c.checkSteps, c.checkRepeats, c.checkTexts} {
		part()
	}
	if vary {
		c.checkProofs()
		c.checkSheet()
	}
	if len(r.Repeats) == 0 || len(*c.faults) > 0 {
		return *c.faults
	}
	counts := map[string]float64{}
	for _, x := range r.Repeats {
		counts[x.Count] = 2
	}
	r.Texts = nil                                   // they are of what is said once
	for _, err := range r.Unroll(counts).Faults() { // written out it is held to the same; its places are not the file's
		c.holds(refusal.At("repeats", err))
	}
	return *c.faults
}

type checker struct {
	r       Recipe
	kind    kind.Kind
	choices map[string][]string
	needs   map[string]Need
	groups  map[string]Group
	faults  *[]error
}

// holds reports whether there is no error, and keeps one that there is.
func (c checker) holds(err error) bool {
	if err != nil {
		*c.faults = append(*c.faults, err)
	}
	return err == nil
}

// named refuses a thing without a name of its own.
func named(field, what, name string, there bool) error {
	switch {
	case name == "":
		return refusal.New(refusal.Missing, field, fmt.Sprintf("A %s has no name.", what), "")
	case there:
		return refusal.New(refusal.Contradicts, field, fmt.Sprintf("The %s %q is there twice.", what, name), "Give each its own name.")
	}
	return nil
}

func (c checker) checkChoices() {
	variants := 1
	for i, x := range c.r.Choices {
		c.holds(c.choice(fmt.Sprintf("choices.%d", i), x))
		c.choices[x.Name] = x.Options
		variants *= max(1, len(x.Options))
		if variants > MostVariants {
			c.holds(refusal.Number(refusal.TooLarge, "choices", float64(variants), MostVariants, "variants",
				fmt.Sprintf("%d variants; at most %d are followed.", variants, MostVariants), "Make two recipes of it."))
			break
		}
	}
	if n := len(c.r.Choices); n > MostChoices {
		c.holds(refusal.Number(refusal.TooLarge, "choices", float64(n), MostChoices, "", fmt.Sprintf(
			"%d choices; at most %d are followed.", n, MostChoices), "Make two recipes of it."))
	}
}

func (c checker) choice(field string, x Choice) error {
	_, there := c.choices[x.Name]
	if err := named(field, "choice", x.Name, there); err != nil {
		return err
	}
	if len(x.Options) < 2 {
		return refusal.Number(refusal.TooSmall, field+".options", float64(len(x.Options)), 2, "options", fmt.Sprintf("%q leaves no choice.",
			x.Name), "Give two options at least.")
	}
	if o := slices.Sorted(slices.Values(x.Options)); len(slices.Compact(o)) != len(x.Options) {
		return named(field+".options", "same option of", x.Name, true)
	}
	if x.Differ != "" && !slices.ContainsFunc(kind.Differences(), func(d kind.Difference) bool { return d.ID == x.Differ }) {
		return refusal.New(refusal.Unknown, field+".differ", fmt.Sprintf("No question that practitioners differ about is named %q.",
			x.Differ), "Leave it out.")
	}
	if x.Plate && c.r.Sheet == nil {
		return refusal.New(refusal.Contradicts, field+".plate", fmt.Sprintf("%q follows from the nameplate, and there is no sheet.", x.Name),
			"Give the sheet, or let it be asked.")
	}
	return c.when(field+".when", x.When)
}

func (c checker) when(field string, w When) error {
	for name := range w {
		options, there := c.choices[name]
		if !there {
			return refusal.New(refusal.Unknown, field, fmt.Sprintf("No choice is named %q.", name), "Name one of the recipe's choices.")
		}
		for _, option := range w.Options(name) {
			if !slices.Contains(options, option) {
				return refusal.New(refusal.Unknown, field, fmt.Sprintf("%q has no option %q.", name, option),
					"Name one of: "+strings.Join(options, ", ")+".")
			}
		}
	}
	return nil
}

func (c checker) checkNeeds() {
	for i, n := range c.r.Needs {
		c.holds(c.need(fmt.Sprintf("needs.%d", i), n))
		c.needs[n.Name] = n
	}
}

func (c checker) need(field string, n Need) error {
	_, there := c.needs[n.Name]
	if err := named(field, "value", n.Name, there); err != nil {
		return err
	}
	if n.Unit != "" {
		if _, err := unit.DimensionOf(n.Unit); err != nil {
			return refusal.At(field+".unit", err)
		}
	}
	if n.Rule != nil {
		if err := c.rule(field+".rule", n); err != nil {
			return err
		}
	}
	return c.when(field+".when", n.When)
}

// rule refuses one that is unknown, or that lacks what it takes.
func (c checker) rule(field string, n Need) error {
	r := *n.Rule
	if !slices.Contains(RuleNames(), r.Name) {
		return refusal.New(refusal.Unknown, field, fmt.Sprintf("Unknown rule %q.", string(r.Name)), "Choose one from the list.")
	}
	if _, there := c.r.Group(r.Group); !there {
		return refusal.New(refusal.Unknown, field+".group", fmt.Sprintf("No group is named %q.", r.Group),
			"Name the group whose thread and grade it takes.")
	}
	want, takes, of := unit.NewtonMetre, r.K, unit.Unit("")
	if r.Name.Turns() {
		want, takes, of = unit.Degree, r.Length, unit.Millimetre
	}
	if n.Unit != want {
		return refusal.New(refusal.Contradicts, field, fmt.Sprintf("%s comes to %s, not %q.", r.Name, want, string(n.Unit)),
			"Give the value that unit.")
	}
	if from, there := c.needs[takes]; !there || from.Unit != of {
		return refusal.New(refusal.Missing, field, fmt.Sprintf("%s takes %q, which is no value before it in %q.", r.Name, takes, string(of)),
			"Name the value that holds its length, or the nut factor of the lot.")
	}
	if r.Name == PartTurn && len(c.choices[r.Faces]) != 3 {
		return refusal.New(refusal.Missing, field+".faces", fmt.Sprintf("%q is no choice of three: square, one sloped, both sloped.",
			r.Faces),
			"Name the choice.")
	}
	return nil
}
