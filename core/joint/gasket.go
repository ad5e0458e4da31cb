package joint

import (
	"fmt"
	"strings"

	"dynacor/core/pass"
	"dynacor/core/preload"
	"dynacor/core/refusal"
	"dynacor/core/thread"
	"dynacor/core/unit"
)

// usualMost is the share of their yield that the bolts of a gasketed flange are
// tightened to at the most where no limit is given (ASME PCC-1 appendix O).
const usualMost = 0.7

// gasket holds the load against all that bounds it on a gasket, and the first stage
// against what crushes it on one side (ASME PCC-1, appendix O).
func (c *computing) gasket(g *Group) error {
	if g.Gasket == nil || c.in.Choices[g.Gasket.Choice] == "" {
		return nil
	}
	k, err := c.family(g)
	if err != nil {
		return err
	}
	if first := g.Stages[0]; k.Crushable {
		if err := pass.CheckFirst(first, k.Long); err != nil {
			return refusal.At("groups."+g.Name+".stages", err)
		}
		if k.Soft && first > pass.WarnOnSoft {
			c.mind(g.Name, "A first stage of %g %% at one bolt can pinch a %s there; 20 %% is gentler.", first, k.Long)
		}
	}
	b, ok, err := c.balance(g)
	if err != nil || !ok || g.Load == 0 {
		return err
	}
	if g.Window, err = b.Window(g.Load); err != nil {
		return refusal.At("values."+g.Gasket.Outer, err)
	}
	for _, row := range g.Window {
		if row.Least {
			g.Needed = max(g.Needed, row.Limit)
		}
	}
	for _, row := range g.Window {
		c.answered(g, row)
		likely := g.LikelyHigh
		if row.Least {
			likely = g.LikelyLow
		}
		if past := row.Least && likely < row.Limit || !row.Least && likely > row.Limit; row.Holds && past {
			c.mind(g.Name, "%s, but not over all that is likely: %.3g kN against %.3g kN.", row.Name, likely/1000, row.Limit/1000)
		}
	}
	return nil
}

// answered asks for the engineer's reason where a row does not hold, and lets the
// record show it.
func (c *computing) answered(g *Group, row preload.Check) {
	key := Answers(g.Name, row)
	if key == "" {
		return
	}
	said := fmt.Sprintf("%s: “%s” does not hold: %s", g.Name, row.Name, row.Words())
	if reason := strings.TrimSpace(c.in.Reasons[key]); reason != "" {
		c.deviate("%s; issued because: %s", said, reason)
		return
	}
	c.open("reasons."+key, "%s. It needs the engineer's reason.", said)
}

// balance returns the gasketed ring with what bounds it; ok is false where its
// diameters are not known.
func (c *computing) balance(g *Group) (b preload.Balance, ok bool, err error) {
	if g.Gasket == nil || g.GasketOuter == 0 || g.GasketInner == 0 || c.in.Choices[g.Gasket.Choice] == "" || g.Thread == "" {
		return b, false, nil
	}
	k, err := c.family(g)
	if err != nil {
		return b, false, err
	}
	t, err := c.threadOf(g)
	if err != nil {
		return b, false, err
	}
	b = preload.Balance{Thread: t, Bolts: g.Count, Outside: g.GasketOuter, Inside: g.GasketInner, Basis: preload.StressArea, Kept: k.Kept}
	if c.fullFace(g) {
		b.Hole = t.FlangeHole()
	}
	most := 0.0
	if g.Grade != "" {
		s, err := c.strength(g, t)
		if err != nil {
			return b, false, err
		}
		most = usualMost * s.Yield
	}
	x := g.Gasket
	for _, v := range []struct {
		need  string
		to    *float64
		usual float64
	}{{x.Stress, &b.LeastSeat, k.Seat}, {x.Service, &b.LeastOperate, k.Service}, {x.Most, &b.GasketMost, k.Most}, {x.Aim, &b.Aim, k.Aim},
		{x.Pressure, &b.Pressure, 0}, {x.BoltLeast, &b.BoltLeast, 0}, {x.BoltMost, &b.BoltMost, most}, {x.Flange, &b.FlangeMost, 0}} {
		if *v.to, err = c.stress(v.need, v.usual); err != nil {
			return b, false, err
		}
	}
	if v := c.out.Value(x.Kept); !v.IsZero() {
		b.Kept = v.Aim().Value / 100
	} else {
		c.usual(x.Kept, unit.Of(100*k.Kept, ""))
	}
	return b, true, refusal.At("values."+x.Kept, refusal.Fraction("kept", b.Kept))
}

// family returns the gasket's family, with the figures of its maker where it is one of
// the joint's own.
func (c *computing) family(g *Group) (preload.GasketKind, error) {
	k, err := preload.GasketNamed(c.in.Choices[g.Gasket.Choice])
	if err != nil {
		return k, err
	}
	own, found, err := c.ownGasket(g)
	if found {
		k = own.Over(k)
	}
	return k, err
}

// ownGasket returns the one of the joint's own that a group has, if it has one.
func (c *computing) ownGasket(g *Group) (own preload.OwnGasket, found bool, err error) {
	name := c.in.Groups[g.Name].Gasket
	if name == "" {
		return own, false, nil
	}
	field := "groups." + g.Name + ".gasket"
	for _, own := range c.in.Gaskets {
		if own.Name != name {
			continue
		}
		if family := c.in.Choices[g.Gasket.Choice]; own.Family != family {
			return own, false, refusal.New(refusal.Contradicts, field, fmt.Sprintf("%s is a %s gasket, and this joint has a %s one.", name,
				own.Family, family), "Choose another, or the other family.")
		}
		return own, true, refusal.At(field, own.Check())
	}
	return own, false, refusal.New(refusal.Unknown, field, fmt.Sprintf("No gasket %q is in the Library.", name),
		"Choose one from the list.")
}

// fullFace reports whether the gasket reaches past the bolts.
func (c *computing) fullFace(g *Group) bool {
	return g.Gasket.Full.Is(c.in.Choices) && g.GasketOuter > g.Diameter
}

// stress returns what a need holds, MPa, or else what is usual, which it then says.
func (c *computing) stress(need string, usual float64) (float64, error) {
	v := c.out.Value(need)
	if v.IsZero() {
		if usual > 0 {
			c.usual(need, unit.Of(usual, unit.Megapascal))
		}
		return usual, nil
	}
	x, err := v.Aim().In(unit.Megapascal)
	return x, refusal.At("values."+need, err)
}

// usual says what is counted with where a need is not given.
func (c *computing) usual(need string, q unit.Quantity) {
	if c.asked {
		return
	}
	for i := range c.out.Values {
		if c.out.Values[i].Need.Name == need {
			c.out.Values[i].Usual.Value = q
		}
	}
}

// gasketLoad returns the load, N, that the gasket asks for, held between the limits
// of bolts and flange.
func (c *computing) gasketLoad(g *Group, _ thread.Thread, _ thread.Strength) (float64, error) {
	b, ok, err := c.balance(g)
	if err != nil {
		return 0, err
	}
	if !ok {
		if g.Gasket == nil {
			return 0, refusal.New(refusal.Contradicts, "aim",
				fmt.Sprintf("Between the parts of the %s lies no gasket that the recipe knows.", g.Name),
				"Aim at something else.")
		}
		c.open("values."+g.Gasket.Outer, "Which gasket, and how wide? The load of the %s follows from it.", g.Name)
		return 0, nil
	}
	s, err := b.Solve()
	if err != nil {
		return 0, err
	}
	if said, held := heldBy[s.LimitedBy]; held {
		c.mind(g.Name, "The gasket would have %.4g MPa; the load is held %s, %.4g MPa in the bolts.", b.Aim, said, s.Stress)
	}
	return s.Load, nil
}

var heldBy = map[preload.Limit]string{preload.BoltMaximum: "at the most for the bolts", preload.BoltMinimum: "at the least for the bolts",
	preload.FlangeLimit: "at what the flange bears"}
