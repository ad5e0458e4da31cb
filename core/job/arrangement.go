package job

import (
	"fmt"
	"slices"

	"dynacor/core/pass"
	"dynacor/core/recipe"
	"dynacor/core/refusal"
	"dynacor/core/unit"
)

// grid finds how the bolts of a plate lie.
func (c *computing) grid(g *Group, b Bolts) error {
	if g.Layout != recipe.Plate || g.Count == 0 {
		return nil
	}
	if of := c.group(g.Of); of != nil {
		g.Grid = of.Grid
		return nil
	}
	pitch := [2]float64{}
	for i, q := range []unit.Quantity{b.Across, b.Down} {
		if q.IsZero() {
			continue
		}
		v, err := q.In(unit.Millimetre)
		if err != nil {
			return refusal.At("groups."+g.Name+".across", err)
		}
		pitch[i] = v
	}
	var err error
	g.Grid, err = recipe.GridOf(g.Count, b.Rows, pitch[0], pitch[1])
	return refusal.At("groups."+g.Name+".rows", err)
}

// stages takes another preset of stages than the recipe's, and says what it
// risks.
func (c *computing) stages(g *Group, b Bolts) error {
	if b.Stages == "" {
		return nil
	}
	field := "groups." + g.Name + ".stages"
	if !g.Staged() {
		return refusal.New(refusal.Contradicts, field, fmt.Sprintf("The %s are not pulled in stages.", g.Name), "Leave it as the recipe has it.")
	}
	for _, p := range pass.Presets() {
		if p.Name != b.Stages {
			continue
		}
		if !slices.Equal(p.Shares, stages(g.Group)) {
			c.mind(g.Name, "The %s in %s %%, which is usual for %s; it risks: %s.", g.Name, p.Name, p.Usual, p.Risk)
		}
		g.Shares = p.Shares
		return nil
	}
	return refusal.New(refusal.Unknown, field, fmt.Sprintf("Unknown stages %q.", b.Stages), "Choose from the list.")
}

// stages are the shares a group is pulled in, percent.
func stages(g recipe.Group) []float64 {
	if len(g.Shares) == 0 {
		return []float64{100}
	}
	return g.Shares
}

// order finds the order of a group, and says what another than its kind's does.
func (c *computing) order(g *Group, b Bolts) error {
	field := "groups." + g.Name
	if g.Count == 0 && g.Of != "" {
		return nil // asked for there
	}
	if g.Count == 0 {
		c.open(field+".count", "How many %s?", g.Name)
		return nil
	}
	g.Pattern = c.r.Usual(g.Group, g.Count)
	reason := b.Reason
	if b.Order != "" && b.Order != g.Pattern {
		if warning, against := c.kind.Warn(b.Order); against {
			c.mind(g.Name, "%s", warning)
			if reason == "" {
				c.open(field+".reason", "The %s: an order against the kind needs the engineer's reason.", g.Name)
				reason = "-" // it is drawn all the same; it is not issued so
			} else {
				c.deviate("%s in an order against the kind. %s Because: %s", g.Name, warning, b.Reason)
			}
		}
		g.Pattern = b.Order
	}
	var err error
	g.Order, err = c.r.Order(g.Group, g.Count, g.Grid, b.Order, reason)
	return refusal.At(field, err)
}
