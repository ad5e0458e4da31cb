package recipe

import (
	"cmp"
	"fmt"
	"maps"
	"slices"
	"strings"

	"dynacor/core/proof"
	"dynacor/core/refusal"
	"dynacor/core/unit"
)

func (c checker) checkSteps() {
	seen, made := map[string]bool{}, map[string]bool{}
	last, blocks := 0, map[string]bool{}
	kept := map[string]Need{}
	for _, g := range c.r.Groups {
		if g.Tension == nil {
			continue
		}
		for _, name := range g.Tension.Names() {
			kept[name] = Need{Name: name, Unit: unit.Bar, When: g.When}
		}
	}
	for i, s := range c.r.Steps {
		field := fmt.Sprintf("steps.%d", i)
		c.holds(named(field, "step", s.ID, seen[s.ID]))
		seen[s.ID] = true
		if i > 0 && s.Block != "" && s.Block != c.r.Steps[i-1].Block && blocks[s.Block] {
			c.holds(refusal.New(refusal.Contradicts, field+".block", fmt.Sprintf("Block %q is taken up again after other steps.",
				s.Block), "Keep its steps together."))
		}
		blocks[s.Block] = true
		at := slices.Index(Stations(), s.Station)
		switch {
		case at < 0:
			c.holds(refusal.New(refusal.Unknown, field+".station", fmt.Sprintf("Unknown station %q.", string(s.Station)),
				"Choose lay out, tool up, tighten, prove or sign."))
		case at < last:
			c.holds(refusal.New(refusal.Contradicts, field+".station", fmt.Sprintf("%q goes back to %s.", s.ID, s.Station),
				"Steps go from station to station."))
		default:
			last = at
		}
		c.holds(c.step(field, s, seen))
		c.holds(c.checkReads(field, s, kept))
		c.holds(refusal.First(c.checkLists(field, s), c.goesBack(field, s, seen)))
		made[s.Group] = true
	}
	for i, g := range c.r.Groups {
		if !made[g.Name] {
			c.holds(refusal.New(refusal.Missing, fmt.Sprintf("groups.%d", i), fmt.Sprintf("No step makes %s.", g.Name),
				"Add it, or leave the group out."))
		}
	}
	c.lubricated()
	if n := len(c.r.Steps); n == 0 || c.r.Steps[n-1].Does != Sign {
		c.holds(refusal.New(refusal.Missing, "steps", "The recipe does not end with a signature.", "Add a sign step at the end."))
	}
}

func (c checker) step(field string, s Step, before map[string]bool) error {
	if !slices.Contains(Kinds(), s.Does) {
		return refusal.New(refusal.Unknown, field+".does", fmt.Sprintf("Unknown kind of step %q.", string(s.Does)), "")
	}
	if strings.TrimSpace(s.Text) == "" {
		return refusal.New(refusal.Missing, field+".text", fmt.Sprintf("Step %q says nothing.", s.ID), "Say what to do.")
	}
	if err := c.told(field+".text", s.Text); err != nil {
		return err
	}
	if (s.Does == Sign) != (s.Station == AtRecord) {
		return refusal.New(refusal.Contradicts, field+".station", fmt.Sprintf("%q at %s.", s.Does, s.Station),
			"Signatures, and only they, belong to sign.")
	}
	if g, there := c.groups[s.Group]; s.Tightens() != there {
		return refusal.New(refusal.Unknown, field+".group", fmt.Sprintf("Step %q and group %q do not go together.", s.ID, s.Group),
			"A step that tightens or turns names a group, no other does.")
	} else if there && (s.Does == Turn) != (g.How == ByTurns) {
		return refusal.New(refusal.Contradicts, field+".does", fmt.Sprintf("%s goes by %s.", g.Name, g.How),
			"Turn what goes by turns, tighten the rest.")
	}
	if !slices.Contains(Somes(), s.Some) {
		return refusal.New(refusal.Unknown, field+".some", fmt.Sprintf("Unknown part of a group %q.", string(s.Some)), "")
	}
	if g := c.groups[cmp.Or(s.Group, s.At)]; s.Some.Halves() && g.How != ByTension {
		return refusal.New(refusal.Contradicts, field+".some", fmt.Sprintf("%s is not drawn in halves.", s.Group),
			"Only what is drawn by tensioners is.")
	}
	if g, there := c.groups[s.At]; s.At != "" && (!there || g.How != ByTension || s.Does != Charge) {
		return refusal.New(refusal.Unknown, field+".at", fmt.Sprintf("%q is no group that %q draws.", s.At, s.ID),
			"Name a group that is drawn, on a step that charges.")
	}
	if s.Shows != ShowsNothing && !slices.Contains(ShowsAll(), s.Shows) {
		return refusal.New(refusal.Unknown, field+".shows", fmt.Sprintf("Unknown drawing %q.", string(s.Shows)),
			"Say drive to tighten or drive to loosen, or leave it out.")
	}
	if err := c.voided(field, s, before); err != nil {
		return err
	}
	if err := c.readsAt(field, s); err != nil {
		return err
	}
	if err := refusal.NotNegative(field+".hold", s.Hold, "min"); err != nil {
		return err
	}
	if s.Sample != "" {
		if _, there := c.groups[s.Sample]; !there || s.Limit == nil || s.Places != 0 || s.Does == Adjust {
			return refusal.New(refusal.Contradicts, field+".sample", fmt.Sprintf("%q cannot be a sample of %q.", s.ID, s.Sample),
				"Name a group, on a step that is to measure, without places.")
		}
	}
	for _, name := range s.For {
		if g, there := c.groups[name]; !there || g.How != ByTorque || (s.Does != Lubricate && s.Does != KeepDry) ||
			(s.Does == KeepDry) != g.Dry {
			return refusal.New(refusal.Contradicts, field+".for", fmt.Sprintf("%q does not make the condition of %q true.", s.ID, name),
				"Lubricate a group that is torqued, or keep one dry that is dry.")
		}
	}
	for i, x := range s.Cautions {
		if err := x.check(fmt.Sprintf("%s.cautions.%d", field, i)); err != nil {
			return err
		}
	}
	if s.Does == Place && len(s.Items) == 0 && len(s.Ticks) == 0 {
		return refusal.New(refusal.Missing, field+".items", fmt.Sprintf("%q places nothing.", s.ID),
			"List what is placed, in order, with its direction.")
	}
	if s.Proves != "" && !slices.Contains(proof.Requirements(), proof.Requirement(s.Proves)) {
		return refusal.New(refusal.Unknown, field+".proves", fmt.Sprintf("Unknown requirement %q.", s.Proves), "")
	}
	return c.when(field+".when", s.When)
}

// readsAt refuses a step that reads nothing where it must, or something where nothing
// is read.
func (c checker) readsAt(field string, s Step) error {
	must := s.Does == Measure || s.Does == Adjust || s.Does == Charge || s.Does == Test
	never := s.Tightens() || s.Does == Sign || s.Does == Lock && s.Limit != nil
	waits := s.Does == Wait && s.Hold == 0 && s.HoldOf == ""
	if (must || waits) && !s.IsRead() || never && (s.IsRead() || len(s.Marks)+len(s.Ticks) > 0) || s.Limit != nil && !must && s.Does != Wait {
		return refusal.New(refusal.Contradicts, field+".limit", fmt.Sprintf("A step that is to %s and its limit do not go together.",
			s.Does), "Measure, adjust, charge and test read something within a limit; what others read stands under reads.")
	}
	if s.Limit == nil && (s.Places != 0 || len(s.Spots) > 0) {
		return refusal.New(refusal.Contradicts, field+".places", fmt.Sprintf("%q reads nothing of its own at %d places.", s.ID, s.Places),
			"Give its limit, or put it under reads.")
	}
	if n, ok := c.needs[s.HoldOf]; s.HoldOf != "" && (!ok || n.Unit != "") {
		return refusal.New(refusal.Unknown, field+".holdof", fmt.Sprintf("%q is no value in minutes.", s.HoldOf),
			"Name the value that holds them.")
	}
	return nil
}

// goesBack refuses a step that goes back to one that is not before it.
func (c checker) goesBack(field string, s Step, before map[string]bool) error {
	if s.Back != "" && (!before[s.Back] || s.Back == s.ID) {
		return refusal.New(refusal.Unknown, field+".back", fmt.Sprintf("%q goes back to %q, which is no step before it.", s.ID, s.Back),
			"Name an earlier step.")
	}
	if s.Back != "" && !s.IsRead() {
		return refusal.New(refusal.Contradicts, field+".back", fmt.Sprintf("%q reads nothing that could send it back.", s.ID), "Leave it out.")
	}
	if s.Beyond != "" && s.Must && !s.IsRead() {
		return refusal.New(refusal.Contradicts, field+".beyond", fmt.Sprintf("%q can be neither outside nor left undone.", s.ID), "Leave it out.")
	}
	return nil
}

// voided refuses to void a step by what is neither a group nor a step before it, and a
// reading from where there is none to be had.
func (c checker) voided(field string, s Step, before map[string]bool) error {
	for _, name := range s.Voided {
		_, group := c.groups[name]
		if !group && !before[name] && name != AnotherTool && (name != Nothing || len(s.Voided) > 1) {
			return refusal.New(refusal.Unknown, field+".voided", fmt.Sprintf("No group or step before it is named %q.", name),
				"Name groups of the recipe, steps before it, another tool, or nothing.")
		}
	}
	if s.Tightens() && len(s.Voided) > 0 {
		return refusal.New(refusal.Contradicts, field+".voided", fmt.Sprintf("%q works on bolts; it is not voided by them.", s.ID),
			"Leave it out.")
	}
	if s.From != AtJoint && (s.From != SinceMade || s.Limit == nil || s.Limit.Word != "h" || s.Places > 1 || s.Sample != "") {
		return refusal.New(refusal.Unknown, field+".from", fmt.Sprintf("%q cannot be read from %q.", s.ID, string(s.From)),
			"Measure hours, one reading, with word h.")
	}
	return nil
}

// checkProofs holds the recipe to what its kind must prove, in every variant
// but those that undo the joint; where one that stands is gone over, to a round
// that moves nothing.
func (c checker) checkProofs() {
	if !c.holds(refusal.First(c.when("undoes", c.r.Undoes), c.when("again", c.r.Again))) {
		return
	}
	missing, sampled := map[proof.Requirement]bool{}, map[string]bool{} // each is said once, not for every variant
	for _, choices := range c.r.Variants() {
		wanted := c.kind.Proofs
		switch {
		case c.r.Undoes.Is(choices):
			continue
		case c.r.Again.Is(choices):
			wanted = []proof.Requirement{proof.NothingMoved}
		}
		for i, s := range c.r.Steps {
			if s.Sample != "" && s.When.Holds(choices) && !c.groups[s.Sample].When.Holds(choices) && !sampled[s.ID] {
				sampled[s.ID] = true
				c.holds(refusal.New(refusal.Contradicts, fmt.Sprintf("steps.%d.sample", i),
					fmt.Sprintf("With %s there are no %s to sample.", spell(choices), s.Sample), "Give step and group the same variants."))
			}
		}
		for _, want := range wanted {
			proves := func(s Step) bool { return s.Proves == string(want) && s.When.Holds(choices) }
			if !missing[want] && !slices.ContainsFunc(c.r.Steps, proves) {
				missing[want] = true
				c.holds(refusal.New(refusal.Missing, "steps", fmt.Sprintf("A %s must prove %q; with %s no step does.", c.r.Kind,
					string(want), spell(choices)), "Add a step that proves it."))
			}
		}
	}
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

// lubricated refuses a torque that was written for a lubricant where no step puts any on:
// of recipes that lay out a kit, which tell the whole work.
func (c checker) lubricated() {
	if c.r.Kit == nil {
		return
	}
	for i, g := range c.r.Groups {
		if g.How != ByTorque || g.Lubricant == "" || g.Of != "" || g.Stands {
			continue
		}
		if !slices.ContainsFunc(c.r.Steps, func(s Step) bool { return slices.Contains(s.For, g.Name) }) {
			c.holds(refusal.New(refusal.Contradicts, fmt.Sprintf("groups.%d.lubricant", i),
				fmt.Sprintf("%s is torqued with %s on it, and no step puts it there.", g.Name, g.Lubricant),
				"Add a step that lubricates for the group, before its first pull."))
		}
	}
}
