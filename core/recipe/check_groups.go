package recipe

import (
	"fmt"
	"slices"

	"dynacor/core/pass"
	"dynacor/core/preload"
	"dynacor/core/refusal"
	"dynacor/core/thread"
	"dynacor/core/unit"
)

func (c checker) checkGroups() {
	if !slices.Contains(Drawings(), c.r.Drawing) {
		c.holds(refusal.New(refusal.Unknown, "drawing", fmt.Sprintf("Unknown drawing %q.", string(c.r.Drawing)),
			"Choose rings, faces, layers or straps, or leave it out."))
	}
	for i, g := range c.r.Groups {
		field := fmt.Sprintf("groups.%d", i)
		_, there := c.groups[g.Name]
		if c.holds(named(field, "group", g.Name, there)) {
			c.holds(c.group(field, g))
		}
		c.groups[g.Name] = g
	}
}

func (c checker) group(field string, g Group) error {
	if !slices.Contains(Layouts(), g.Layout) {
		return refusal.New(refusal.Unknown, field+".layout", fmt.Sprintf("Unknown layout %q.", string(g.Layout)),
			"Choose ring, pair, line, grid, cover or single.")
	}
	if g.Bolts == 0 && (g.Least < 1 || g.Most < g.Least || g.Most > MostBolts) {
		return refusal.Number(refusal.Contradicts, field+".bolts", float64(g.Least), float64(g.Most), "bolts",
			fmt.Sprintf("%s has no count, and %d to %d is no range for one.", g.Name, g.Least, g.Most), "Give bolts, or least and most.")
	}
	if g.Bolts < 0 || g.Bolts > MostBolts || (g.Layout == Single && g.Bolts != 1) || (g.Layout == Pair && g.Bolts != 2) {
		return refusal.Number(refusal.Contradicts, field+".bolts", float64(g.Bolts), MostBolts, "bolts", fmt.Sprintf("%d bolts in a %s.",
			g.Bolts, g.Layout), "A single has 1, a pair 2.")
	}
	if g.Order != "" {
		if err := c.kind.CheckReason(g.Order, ""); err != nil {
			return refusal.At(field+".order", err)
		}
	}
	if g.Holes < 0 || g.Holes > 12 || (g.Holes > 0 && g.Layout != Ring) {
		return refusal.Number(refusal.OutOfRange, field+".holes", float64(g.Holes), 12, "holes", fmt.Sprintf("%d empty holes in a %s.",
			g.Holes, g.Layout), "Only a ring has them, up to 12.")
	}
	if g.Of != "" {
		if of, there := c.groups[g.Of]; !there || of.Of != "" || of.Layout != g.Layout || of.Bolts != g.Bolts {
			return refusal.New(refusal.Unknown, field+".of",
				fmt.Sprintf("%s has the bolts of %q, which is no group before it with the same layout and count.", g.Name, g.Of),
				"Name one.")
		}
	}
	switch g.How {
	case ByTorque, ByPressure:
		if n, there := c.needs[g.Value]; !there || n.Unit == "" {
			return refusal.New(refusal.Missing, field+".value", fmt.Sprintf("%s is pulled to %q, which is no value with a unit.", g.Name,
				g.Value), "Name the value it is brought to.")
		}
		if len(g.Shares) > 0 {
			if err := pass.CheckShares(g.Shares); err != nil {
				return refusal.At(field+".shares", err)
			}
		}
	case ByTurns:
		if n := c.needs[g.Value]; len(g.Turns) == 0 && n.Unit != unit.Degree {
			return refusal.New(refusal.Missing, field+".turns", fmt.Sprintf("%s is made by turns, and none are given.", g.Name),
				"Give them in degrees.")
		}
		for _, t := range g.Turns {
			if err := refusal.Within(field+".turns", t, 3600, string(unit.Degree)); err != nil {
				return err
			}
		}
	case ByTension:
		if err := c.tension(field, g); err != nil {
			return err
		}
	case ByHand, NotTorqued:
	default:
		return refusal.New(refusal.Unknown, field+".how", fmt.Sprintf("Unknown way %q.", string(g.How)),
			"Choose torque, turns, tension, hand or not torqued.")
	}
	if err := refusal.First(c.rounds(field, g), c.ring(field, g), c.was(field, g)); err != nil {
		return err
	}
	if !slices.Contains(Withs(), g.With) || g.With != AnyTool && g.How != ByTorque {
		return refusal.New(refusal.Contradicts, field+".with", fmt.Sprintf("%s by %s with %q.", g.Name, g.How, string(g.With)),
			"Leave it out; hydraulic wrench goes with torque.")
	}
	if (g.How == ByTension) != (g.Tension != nil) {
		return refusal.New(refusal.Contradicts, field+".tension", fmt.Sprintf("%s goes by %s.", g.Name, g.How),
			"Give tension with the way tension, and with no other.")
	}
	if g.Dry && g.Lubricant != "" {
		return refusal.New(refusal.Contradicts, field+".dry", fmt.Sprintf("%s is dry and lubricated.", g.Name), "Choose one.")
	}
	return c.when(field+".when", g.When)
}

// tension refuses a group that is drawn to what is no load, or over what is no length.
func (c checker) tension(field string, g Group) error {
	if n := c.needs[g.Value]; !isOf(n, unit.Force) {
		return refusal.New(refusal.Missing, field+".value", fmt.Sprintf("%s is drawn to %q, which is no value of a load.", g.Name, g.Value),
			"Name the value that holds the load that stays, in kN.")
	}
	if g.Tension == nil {
		return nil // said where the ways are held against it
	}
	if n := c.needs[g.Tension.Length]; !isOf(n, unit.Length) {
		return refusal.New(refusal.Missing, field+".tension.length", fmt.Sprintf("%q is no value of a length.", g.Tension.Length),
			"Name the value that holds the length that is clamped.")
	}
	if n, there := c.needs[g.Tension.Lost]; len(g.Tension.Halves) > 0 && (!there || n.Unit != "") {
		return refusal.New(refusal.Missing, field+".tension.lost", fmt.Sprintf("%q is no value in percent.", g.Tension.Lost),
			"Name the value that holds the share that the first half loses.")
	}
	if len(g.Shares) > 0 || g.Lock != "" || g.Still {
		return refusal.New(refusal.Contradicts, field+".tension", fmt.Sprintf("%s is drawn at once, in full.", g.Name),
			"Leave shares, still and lock out.")
	}
	return c.when(field+".tension.halves", g.Tension.Halves)
}

func isOf(n Need, d unit.Dimension) bool {
	own, err := unit.DimensionOf(n.Unit)
	return n.Unit != "" && err == nil && own == d
}

// rounds refuses a group that is gone round in a way that its other parts
// contradict.
func (c checker) rounds(field string, g Group) error {
	if err := refusal.Within(field+".portion", g.Portion, 360, string(unit.Degree)); g.Portion != 0 && err != nil {
		return err
	}
	if !slices.Contains(Untils(), g.Until) {
		return refusal.New(refusal.Unknown, field+".until", fmt.Sprintf("Unknown end %q.", string(g.Until)), "Leave it out, or say it lets go.")
	}
	if g.Until == LetsGo && g.Portion == 0 {
		return refusal.New(refusal.Contradicts, field+".until", fmt.Sprintf("%s goes on until it lets go, and by no portions.", g.Name),
			"Give portion: how far each is turned at a time.")
	}
	if g.Head != "" && !slices.Contains(thread.Heads(), g.Head) {
		return refusal.New(refusal.Unknown, field+".head", fmt.Sprintf("Unknown head %q.", string(g.Head)), "Choose one from the list.")
	}
	if g.Portion == 0 && !g.Stands {
		return nil
	}
	if g.How == ByHand && g.Portion > 0 && !g.Stands && g.Still && len(g.Shares) == 0 && g.Lock == "" {
		return nil // little by little, without a torque
	}
	if g.How != ByTorque || !g.Still || len(g.Shares) > 0 || g.Lock != "" || (g.Portion > 0 && g.Stands) {
		return refusal.New(refusal.Contradicts, field+".portion",
			fmt.Sprintf("%s is only gone round: to a torque, still, without shares and locks.", g.Name),
			"Give portion or stands, with still, and leave the others out.")
	}
	return nil
}

// ring refuses what only a ring can have on another layout: a bolt circle, a
// gasket whose diameters and kind cannot be told.
func (c checker) ring(field string, g Group) error {
	lengths := []string{g.Circle}
	if x := g.Gasket; x != nil {
		lengths = append(lengths, x.Outer, x.Inner)
		known := preload.GasketKinds()
		options, there := c.choices[x.Choice]
		for _, o := range options {
			there = there && slices.ContainsFunc(known, func(k preload.GasketKind) bool { return k.Name == o })
		}
		if !there {
			return refusal.New(refusal.Unknown, field+".gasket", fmt.Sprintf("%q is no choice of gaskets.", x.Choice),
				"Its options are spiral, sheet, soft, metal ring.")
		}
		for _, name := range x.Stresses() {
			if d, _ := unit.DimensionOf(c.needs[name].Unit); name != "" && d != unit.Pressure {
				return refusal.New(refusal.Unknown, field+".gasket", fmt.Sprintf("%q is no value that is a stress or a pressure.", name),
					"Name one in MPa or bar, or leave it out.")
			}
		}
		if n, there := c.needs[x.Kept]; x.Kept != "" && (!there || n.Unit != "") {
			return refusal.New(refusal.Unknown, field+".gasket", fmt.Sprintf("%q is no value in percent.", x.Kept),
				"Name the value that holds the share of the load that is left.")
		}
		if err := c.when(field+".gasket", x.Full); err != nil {
			return err
		}
	}
	for _, name := range lengths {
		if name == "" && g.Gasket == nil {
			continue
		}
		if g.Layout != Ring || c.needs[name].Unit != unit.Millimetre {
			return refusal.New(refusal.Unknown, field+".circle", fmt.Sprintf("%q is no value in mm, or %s is no ring.", name, g.Name),
				"Name the value that holds the diameter.")
		}
	}
	if !slices.Contains([]Replaced{Alone, WithAll}, g.Replaced) {
		return refusal.New(refusal.Unknown, field+".replaced", fmt.Sprintf("A replaced bolt takes %q with it.", string(g.Replaced)),
			"Leave it out, or say all.")
	}
	return nil
}

// was refuses bolts that were made as a group that is none.
func (c checker) was(field string, g Group) error {
	if g.Was == "" {
		return nil
	}
	was, there := c.r.Group(g.Was)
	if !there || was.Layout != g.Layout || g.Of != "" || was.Was != "" {
		return refusal.New(refusal.Unknown, field+".was", fmt.Sprintf("%s was made as %q, which is no group of the same layout.", g.Name,
			g.Was), "Name one.")
	}
	return nil
}
