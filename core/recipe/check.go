package recipe

import (
	"fmt"
	"maps"
	"slices"
	"strings"

	"dynacor/core/kind"
	"dynacor/core/pass"
	"dynacor/core/proof"
	"dynacor/core/refusal"
	"dynacor/core/unit"
)

// Check refuses a recipe that cannot be followed, naming the place and the
// rule: a name that is not there, twice there or misspelt, a limit without a
// number, an order against its kind, a group that no step tightens, a step
// after the signature, a requirement of the kind that no step fulfils.
func (r Recipe) Check() error {
	k, err := kind.Named(r.Kind)
	if err != nil {
		return err
	}
	if r.ID == "" || strings.TrimSpace(r.Title) == "" {
		return refusal.New(refusal.Missing, "title", "The recipe has no name.", "Give id and title.")
	}
	if r.Edition < 1 {
		return refusal.Number(refusal.TooSmall, "edition", float64(r.Edition), 1, "", fmt.Sprintf("Edition %d; they count from 1.", r.Edition), "")
	}
	c := checker{r: r, kind: k, choices: map[string][]string{}, needs: map[string]Need{}, groups: map[string]Group{}}
	for _, step := range []func() error{c.checkChoices, c.checkNeeds, c.checkParts, c.checkGroups, c.checkSteps, c.checkProofs, c.checkSheet} {
		if err := step(); err != nil {
			return err
		}
	}
	return nil
}

type checker struct {
	r       Recipe
	kind    kind.Kind
	choices map[string][]string
	needs   map[string]Need
	groups  map[string]Group
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

func (c checker) checkChoices() error {
	variants := 1
	for i, x := range c.r.Choices {
		field := fmt.Sprintf("choices.%d", i)
		_, there := c.choices[x.Name]
		if err := named(field, "choice", x.Name, there); err != nil {
			return err
		}
		if len(x.Options) < 2 {
			return refusal.Number(refusal.TooSmall, field, float64(len(x.Options)), 2, "options", fmt.Sprintf("%q leaves no choice.", x.Name), "Give two options at least.")
		}
		if o := slices.Sorted(slices.Values(x.Options)); len(slices.Compact(o)) != len(x.Options) {
			return named(field, "same option of", x.Name, true)
		}
		if x.Differ != "" && !slices.ContainsFunc(kind.Differences(), func(d kind.Difference) bool { return d.ID == x.Differ }) {
			return refusal.New(refusal.Unknown, field+".differ", fmt.Sprintf("No question that practitioners differ about is named %q.", x.Differ), "Leave it out.")
		}
		if err := c.when(field+".when", x.When); err != nil {
			return err
		}
		c.choices[x.Name] = x.Options
		if variants *= len(x.Options); variants > MostVariants {
			return refusal.Number(refusal.TooLarge, "choices", float64(variants), MostVariants, "variants", fmt.Sprintf("%d variants; at most %d are followed.", variants, MostVariants), "Make two recipes of it.")
		}
	}
	if n := len(c.r.Choices); n > MostChoices {
		return refusal.Number(refusal.TooLarge, "choices", float64(n), MostChoices, "", fmt.Sprintf("%d choices; at most %d are followed.", n, MostChoices), "Make two recipes of it.")
	}
	return nil
}

func (c checker) when(field string, w When) error {
	for name, option := range w {
		options, there := c.choices[name]
		if !there {
			return refusal.New(refusal.Unknown, field, fmt.Sprintf("No choice is named %q.", name), "Name one of the recipe's choices.")
		}
		if !slices.Contains(options, option) {
			return refusal.New(refusal.Unknown, field, fmt.Sprintf("%q has no option %q.", name, option), "Name one of: "+strings.Join(options, ", ")+".")
		}
	}
	return nil
}

func (c checker) checkNeeds() error {
	for i, n := range c.r.Needs {
		field := fmt.Sprintf("needs.%d", i)
		_, there := c.needs[n.Name]
		if err := named(field, "need", n.Name, there); err != nil {
			return err
		}
		if n.Unit != "" {
			if _, err := unit.DimensionOf(n.Unit); err != nil {
				return refusal.At(field+".unit", err)
			}
		}
		if err := c.when(field+".when", n.When); err != nil {
			return err
		}
		c.needs[n.Name] = n
	}
	return nil
}

func (c checker) checkParts() error {
	for i, p := range c.r.Parts {
		field := fmt.Sprintf("parts.%d", i)
		if err := named(field, "part", p.Name, false); err != nil {
			return err
		}
		if p.Count < 0 {
			return refusal.Number(refusal.Negative, field+".count", float64(p.Count), 0, "", fmt.Sprintf("%d of %s.", p.Count, p.Name), "")
		}
		if err := c.when(field+".when", p.When); err != nil {
			return err
		}
	}
	return nil
}

func (c checker) checkGroups() error {
	if !slices.Contains(Drawings(), c.r.Drawing) {
		return refusal.New(refusal.Unknown, "drawing", fmt.Sprintf("Unknown drawing %q.", string(c.r.Drawing)), "Choose rings, faces, layers or straps, or leave it out.")
	}
	for i, g := range c.r.Groups {
		field := fmt.Sprintf("groups.%d", i)
		_, there := c.groups[g.Name]
		if err := named(field, "group", g.Name, there); err != nil {
			return err
		}
		if err := c.group(field, g); err != nil {
			return err
		}
		c.groups[g.Name] = g
	}
	return nil
}

func (c checker) group(field string, g Group) error {
	if !slices.Contains(Layouts(), g.Layout) {
		return refusal.New(refusal.Unknown, field+".layout", fmt.Sprintf("Unknown layout %q.", string(g.Layout)), "Choose ring, pair, line, grid, cover or single.")
	}
	if g.Bolts == 0 && (g.Least < 1 || g.Most < g.Least || g.Most > MostBolts) {
		return refusal.Number(refusal.Contradicts, field+".bolts", float64(g.Least), float64(g.Most), "bolts",
			fmt.Sprintf("%s has no count, and %d to %d is no range for one.", g.Name, g.Least, g.Most), "Give bolts, or least and most.")
	}
	if g.Bolts < 0 || g.Bolts > MostBolts || (g.Layout == Single && g.Bolts != 1) || (g.Layout == Pair && g.Bolts != 2) {
		return refusal.Number(refusal.Contradicts, field+".bolts", float64(g.Bolts), MostBolts, "bolts", fmt.Sprintf("%d bolts in a %s.", g.Bolts, g.Layout), "A single has 1, a pair 2.")
	}
	if g.Order != "" {
		if err := c.kind.CheckReason(g.Order, ""); err != nil {
			return refusal.At(field+".order", err)
		}
	}
	if g.Holes < 0 || g.Holes > 12 || (g.Holes > 0 && g.Layout != Ring) {
		return refusal.Number(refusal.OutOfRange, field+".holes", float64(g.Holes), 12, "holes", fmt.Sprintf("%d empty holes in a %s.", g.Holes, g.Layout), "Only a ring has them, up to 12.")
	}
	if g.Of != "" {
		if of, there := c.groups[g.Of]; !there || of.Of != "" || of.Layout != g.Layout || of.Bolts != g.Bolts {
			return refusal.New(refusal.Unknown, field+".of", fmt.Sprintf("%s has the bolts of %q, which is no group before it with the same layout and count.", g.Name, g.Of), "Name one.")
		}
	}
	switch g.How {
	case ByTorque, ByPressure:
		if n, there := c.needs[g.Value]; !there || n.Unit == "" {
			return refusal.New(refusal.Missing, field+".value", fmt.Sprintf("%s is pulled to %q, which is no need with a unit.", g.Name, g.Value), "Name the need that holds its value.")
		}
		if len(g.Shares) > 0 {
			if err := pass.CheckShares(g.Shares); err != nil {
				return refusal.At(field+".shares", err)
			}
		}
	case ByTurns:
		if n := c.needs[g.Value]; len(g.Turns) == 0 && n.Unit != unit.Degree {
			return refusal.New(refusal.Missing, field+".turns", fmt.Sprintf("%s is made by turns, and none are given.", g.Name), "Give them in degrees.")
		}
		for _, t := range g.Turns {
			if err := refusal.Within(field+".turns", t, 3600, string(unit.Degree)); err != nil {
				return err
			}
		}
	case ByHand, NotTorqued:
	default:
		return refusal.New(refusal.Unknown, field+".how", fmt.Sprintf("Unknown way %q.", string(g.How)), "Choose torque, turns, hand or not torqued.")
	}
	if err := c.rounds(field, g); err != nil {
		return err
	}
	if g.Dry && g.Lubricant != "" {
		return refusal.New(refusal.Contradicts, field+".dry", fmt.Sprintf("%s is dry and lubricated.", g.Name), "Choose one.")
	}
	return c.when(field+".when", g.When)
}

// rounds refuses a group that is gone round in a way that its other parts
// contradict.
func (c checker) rounds(field string, g Group) error {
	if err := refusal.Within(field+".portion", g.Portion, 360, string(unit.Degree)); g.Portion != 0 && err != nil {
		return err
	}
	if g.Portion == 0 && !g.Stands {
		return nil
	}
	if g.How != ByTorque || !g.Still || len(g.Shares) > 0 || g.Lock != "" || (g.Portion > 0 && g.Stands) {
		return refusal.New(refusal.Contradicts, field+".portion", fmt.Sprintf("%s is only gone round: to a torque, still, without shares and locks.", g.Name), "Give portion or stands, with still, and leave the others out.")
	}
	return nil
}

func (c checker) checkSteps() error {
	seen, made := map[string]bool{}, map[string]bool{}
	last, blocks := 0, map[string]bool{}
	for i, s := range c.r.Steps {
		field := fmt.Sprintf("steps.%d", i)
		if err := named(field, "step", s.ID, seen[s.ID]); err != nil {
			return err
		}
		seen[s.ID] = true
		if i > 0 && s.Block != "" && s.Block != c.r.Steps[i-1].Block {
			if blocks[s.Block] {
				return refusal.New(refusal.Contradicts, field+".block", fmt.Sprintf("Block %q is taken up again after other steps.", s.Block), "Keep its steps together.")
			}
		}
		blocks[s.Block] = true
		at := slices.Index(Stations(), s.Station)
		if at < 0 {
			return refusal.New(refusal.Unknown, field+".station", fmt.Sprintf("Unknown station %q.", string(s.Station)), "Choose lay out, tool up, tighten, prove or sign.")
		}
		if at < last {
			return refusal.New(refusal.Contradicts, field+".station", fmt.Sprintf("%q goes back to %s.", s.ID, s.Station), "Steps go from station to station.")
		}
		last = at
		if err := c.step(field, s); err != nil {
			return err
		}
		made[s.Group] = true
	}
	for i, g := range c.r.Groups {
		if !made[g.Name] {
			return refusal.New(refusal.Missing, fmt.Sprintf("groups.%d", i), fmt.Sprintf("No step makes %s.", g.Name), "Add it, or leave the group out.")
		}
	}
	if n := len(c.r.Steps); n == 0 || c.r.Steps[n-1].Does != Sign {
		return refusal.New(refusal.Missing, "steps", "The recipe does not end with a signature.", "Add a sign step at the end.")
	}
	return nil
}

func (c checker) step(field string, s Step) error {
	if !slices.Contains(Kinds(), s.Does) {
		return refusal.New(refusal.Unknown, field+".does", fmt.Sprintf("Unknown kind of step %q.", string(s.Does)), "")
	}
	if strings.TrimSpace(s.Text) == "" {
		return refusal.New(refusal.Missing, field+".text", fmt.Sprintf("Step %q says nothing.", s.ID), "Say what to do.")
	}
	if (s.Does == Sign) != (s.Station == AtRecord) {
		return refusal.New(refusal.Contradicts, field+".station", fmt.Sprintf("%q at %s.", s.Does, s.Station), "Signatures, and only they, belong to sign.")
	}
	tightens := s.Does == Tighten || s.Does == Turn
	if g, there := c.groups[s.Group]; tightens != there {
		return refusal.New(refusal.Unknown, field+".group", fmt.Sprintf("Step %q and group %q do not go together.", s.ID, s.Group), "A step that tightens or turns names a group, no other does.")
	} else if there && (s.Does == Turn) != (g.How == ByTurns) {
		return refusal.New(refusal.Contradicts, field+".does", fmt.Sprintf("%s goes by %s.", g.Name, g.How), "Turn what goes by turns, tighten the rest.")
	}
	if !slices.Contains(Somes(), s.Some) {
		return refusal.New(refusal.Unknown, field+".some", fmt.Sprintf("Unknown part of a group %q.", string(s.Some)), "")
	}
	reads := s.Does == Measure || s.Does == Adjust || s.Does == Charge || s.Does == Test || s.Does == Wait
	if reads != (s.Limit != nil) {
		return refusal.New(refusal.Contradicts, field+".limit", fmt.Sprintf("A step that is to %s and its limit do not go together.", s.Does), "Measure, adjust, charge, test and wait have a limit; the others none.")
	}
	if s.Limit != nil {
		if err := s.Limit.check(field+".limit", c.needs); err != nil {
			return err
		}
	}
	if s.Places < 0 || s.Places > 64 {
		return refusal.Number(refusal.OutOfRange, field+".places", float64(s.Places), 64, "places", fmt.Sprintf("%d places.", s.Places), "")
	}
	if len(s.Spots) > 0 && len(s.Spots) != max(s.Places, 1) {
		return refusal.Number(refusal.Contradicts, field+".spots", float64(len(s.Spots)), float64(max(s.Places, 1)), "places", fmt.Sprintf("%d names for %d places.", len(s.Spots), max(s.Places, 1)), "Name each place.")
	}
	if err := refusal.NotNegative(field+".hold", s.Hold, "min"); err != nil {
		return err
	}
	if s.Sample != "" {
		if _, there := c.groups[s.Sample]; !there || s.Limit == nil || s.Places != 0 || s.Does == Adjust {
			return refusal.New(refusal.Contradicts, field+".sample", fmt.Sprintf("%q cannot be a sample of %q.", s.ID, s.Sample), "Name a group, on a step that is to measure, without places.")
		}
	}
	for i, x := range s.Cautions {
		if err := x.check(fmt.Sprintf("%s.cautions.%d", field, i)); err != nil {
			return err
		}
	}
	if s.Does == Place && len(s.Items) == 0 {
		return refusal.New(refusal.Missing, field+".items", fmt.Sprintf("%q places nothing.", s.ID), "List what is placed, in order, with its direction.")
	}
	if s.Proves != "" && !slices.Contains(proof.Requirements(), proof.Requirement(s.Proves)) {
		return refusal.New(refusal.Unknown, field+".proves", fmt.Sprintf("Unknown requirement %q.", s.Proves), "")
	}
	return c.when(field+".when", s.When)
}

// checkProofs holds the recipe to what its kind must prove, in every variant
// but those that undo the joint; where one that stands is gone over, to a round
// that moves nothing.
func (c checker) checkProofs() error {
	if err := refusal.First(c.when("undoes", c.r.Undoes), c.when("again", c.r.Again)); err != nil {
		return err
	}
	for _, choices := range c.r.Variants() {
		wanted := c.kind.Proofs
		switch {
		case c.r.Undoes.Is(choices):
			continue
		case c.r.Again.Is(choices):
			wanted = []proof.Requirement{proof.NothingMoved}
		}
		for i, s := range c.r.Steps {
			if s.Sample != "" && s.When.Holds(choices) && !c.groups[s.Sample].When.Holds(choices) {
				return refusal.New(refusal.Contradicts, fmt.Sprintf("steps.%d.sample", i), fmt.Sprintf("With %s there are no %s to sample.", spell(choices), s.Sample), "Give step and group the same variants.")
			}
		}
		for _, want := range wanted {
			if !slices.ContainsFunc(c.r.Steps, func(s Step) bool { return s.Proves == string(want) && s.When.Holds(choices) }) {
				return refusal.New(refusal.Missing, "steps", fmt.Sprintf("A %s must prove %q; with %s no step does.", c.r.Kind, string(want), spell(choices)), "Add a step that proves it.")
			}
		}
	}
	return nil
}

func spell(choices map[string]string) string {
	var out []string
	for _, name := range slices.Sorted(maps.Keys(choices)) {
		out = append(out, name+" "+choices[name])
	}
	if out == nil {
		return "no variant"
	}
	return strings.Join(out, ", ")
}

// Asked lists the choices that are made in a variant: those whose When holds.
func (r Recipe) Asked(choices map[string]string) []Choice {
	var out []Choice
	for _, c := range r.Choices {
		if c.When.Holds(choices) {
			out = append(out, c)
		}
	}
	return out
}

// Variants lists every combination of the recipe's choices; one empty when
// there are none.
func (r Recipe) Variants() []map[string]string {
	all := []map[string]string{{}}
	for _, c := range r.Choices {
		var next []map[string]string
		for _, sofar := range all {
			if !c.When.Holds(sofar) {
				next = append(next, sofar)
				continue
			}
			for _, o := range c.Options {
				one := maps.Clone(sofar)
				one[c.Name] = o
				next = append(next, one)
			}
		}
		all = next
	}
	return all
}
