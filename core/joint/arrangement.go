package joint

import (
	"cmp"
	"errors"
	"fmt"
	"math"
	"slices"

	"dynacor/core/pass"
	"dynacor/core/recipe"
	"dynacor/core/refusal"
	"dynacor/core/unit"
)

// lie finds how the bolts of a plate lie.
func (c *computing) lie(g *Group, b *Bolts) error {
	if g.Layout != recipe.Plate || g.Count == 0 {
		return nil
	}
	if of := c.named(g.Of); of != nil {
		g.Lie = of.Lie
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
	g.Lie, err = recipe.GridOf(g.Count, b.Rows, pitch[0], pitch[1])
	return refusal.At("groups."+g.Name+".rows", err)
}

// mostCircle is the largest bolt circle that is taken, mm.
const mostCircle = 20_000

// circle finds a ring's bolt circle and refuses one on which its nuts have no
// room, or a gasket that does not lie inside its bolts.
func (c *computing) circle(g *Group) (err error) {
	if g.Circle == "" {
		return nil
	}
	if g.Diameter, err = c.length(g.Circle); err != nil || g.Diameter == 0 {
		return err
	}
	if g.Diameter > mostCircle {
		return refusal.Number(refusal.TooLarge, "values."+g.Circle, g.Diameter, mostCircle, "mm",
			fmt.Sprintf("A bolt circle of %.6g mm; at most %d mm is taken.", g.Diameter, mostCircle), "Check the unit.")
	}
	if g.Thread == "" || g.Count == 0 {
		return nil
	}
	t, err := c.threadOf(g)
	if err != nil {
		return err
	}
	corners := t.Flats(t.HeadOf(g.Grade)) / math.Cos(math.Pi/6)
	if least := corners / math.Sin(math.Pi/float64(max(g.Count, 2))); !unit.AtLeast(g.Diameter, least) {
		return refusal.Number(refusal.TooSmall, "values."+g.Circle, g.Diameter, least, "mm",
			fmt.Sprintf("%d nuts of %s, %.4g mm over the corners, do not fit on a %.5g mm circle; it needs %.5g mm.",
				g.Count, t.Name, corners, g.Diameter, least), "Check the circle, its unit and the bolt count.")
	}
	if g.Gasket == nil {
		return nil
	}
	if g.GasketOuter, err = c.length(g.Gasket.Outer); err != nil {
		return err
	}
	if g.GasketInner, err = c.length(g.Gasket.Inner); err != nil {
		return err
	}
	if most := g.Diameter - t.Diameter; g.GasketOuter > 0 && !unit.AtMost(g.GasketOuter, most) {
		least := g.Diameter + t.FlangeHole()
		if g.Gasket.Full.Is(c.in.Choices) && unit.AtLeast(g.GasketOuter, least) {
			return nil
		}
		if g.Gasket.Full.Is(c.in.Choices) {
			return refusal.Number(refusal.OutOfRange, "values."+g.Gasket.Outer, g.GasketOuter, least, "mm",
				fmt.Sprintf("A gasket of %.5g mm ends in the bolt holes: it lies inside them, up to %.5g mm, or covers the face, from %.5g mm.",
					g.GasketOuter, most, least), "Check the gasket's diameter and the bolt circle.")
		}
		return refusal.Number(refusal.TooLarge, "values."+g.Gasket.Outer, g.GasketOuter, most, "mm",
			fmt.Sprintf("A gasket of %.5g mm does not lie inside the bolts: between them is %.5g mm.", g.GasketOuter, most),
			"Check the gasket's diameter and the bolt circle.")
	}
	return nil
}

// stages takes another preset of stages than the recipe's, and says what it
// risks.
func (c *computing) stages(g *Group, b *Bolts) error {
	if b.Stages == "" {
		return nil
	}
	if !g.Staged() {
		return refusal.New(refusal.Contradicts, "groups."+g.Name+".stages", fmt.Sprintf("The %s are not pulled in stages.", g.Name),
			"Leave it as the recipe has it.")
	}
	p, ok := pass.PresetNamed(b.Stages)
	if !ok {
		return refusal.New(refusal.Unknown, "groups."+g.Name+".stages", fmt.Sprintf("Unknown stages %q.", b.Stages),
			"Choose from the list.")
	}
	if !slices.Equal(p.Shares, c.shares(g)) {
		c.say(g.Name, "The "+g.Name+" in "+p.Name+" %, which is usual for "+p.Usual+"; it risks: "+p.Risk+".")
	}
	g.Stages = p.Shares
	return nil
}

// shares are the shares a group is pulled in, percent.
func (c *computing) shares(g *Group) []float64 {
	switch {
	case len(g.Stages) > 0:
		return g.Stages
	case len(g.Shares) > 0:
		return g.Shares
	}
	return []float64{100}
}

// order finds the order of a group, and says what another than its kind's does.
func (c *computing) order(g *Group, b *Bolts) error {
	field := "groups." + g.Name
	if g.Count == 0 && g.Of != "" {
		return nil // asked for there
	}
	if g.Count == 0 {
		c.open(field+".count", "How many %s?", g.Name)
		return nil
	}
	if g.Start > g.Count {
		return refusal.Number(refusal.OutOfRange, field+".start", float64(g.Start), float64(g.Count), "",
			fmt.Sprintf("Bolt %d is none of the %d %s.", g.Start, g.Count, g.Name), "Choose one of them.")
	}
	g.Pattern = c.r.Usual(g.Group, g.Count)
	reason := b.Reason
	if b.Order != "" && b.Order != g.Pattern {
		if warning, against := c.kind.Warn(b.Order); against {
			c.say(g.Name, warning)
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
	if g.Order, err = c.r.Order(g.Group, g.Count, recipe.Lie{Grid: g.Lie, Start: g.Start}, b.Order, reason); err != nil {
		if errors.Is(err, &refusal.Error{Code: refusal.OutOfRange}) {
			return refusal.At(field+".count", err)
		}
		return refusal.At(field+".order", err)
	}
	if g.UpperLast {
		g.Order = upperLast(g.Count, g.OnCentre)
	}
	g.Rounds = recipe.OneByOne(g.Count, g.Start)
	if g.Portion > 0 {
		g.Rounds = g.Order
	}
	return nil
}

// upperLast orders the bolts of a ring from the lowest to the two at the top: what is
// left inside drains below, and the part hangs until the end. Bolts stand clockwise from
// the first right of the top, or, on centre, from the top.
func upperLast(n int, onCentre bool) []int {
	out := make([]int, n)
	height := func(bolt int) float64 {
		at := float64(bolt) - 0.5
		if onCentre {
			at = float64(bolt - 1)
		}
		return math.Cos(2 * math.Pi * at / float64(n))
	}
	for i := range out {
		out[i] = i + 1
	}
	slices.SortStableFunc(out, func(a, b int) int {
		if d := height(a) - height(b); math.Abs(d) > 1e-9 {
			return cmp.Compare(d, 0)
		}
		return 0
	})
	return out
}

// turns finds by how much each bolt of a group is turned.
func (c *computing) turns(g *Group) error {
	if g.How != recipe.ByTurns {
		return nil
	}
	if g.Strokes = g.Turns; len(g.Strokes) > 0 {
		return nil
	}
	v := c.out.Value(g.Value)
	if v.IsZero() {
		return nil
	}
	degrees, err := v.Aim().In(unit.Degree)
	if err == nil {
		err = refusal.Within("values."+g.Value, degrees, 3600, string(unit.Degree))
	}
	g.Strokes = []float64{degrees}
	return refusal.At("values."+g.Value, err)
}
