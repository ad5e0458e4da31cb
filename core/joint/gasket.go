package joint

import (
	"dynacor/core/pass"
	"dynacor/core/preload"
	"dynacor/core/refusal"
	"dynacor/core/sequence"
	"dynacor/core/unit"
)

// gasket holds the load against what seats the gasket, and the first stage
// against what crushes it on one side (ASME PCC-1, appendix O).
func (c *computing) gasket(g *Group, _ Bolts) error {
	if g.Gasket == nil || c.in.Choices[g.Gasket.Choice] == "" {
		return nil
	}
	k, err := preload.GasketNamed(c.in.Choices[g.Gasket.Choice])
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
	if g.Pattern == sequence.Circular {
		c.mind(g.Name, "Going round in a circle draws a gasketed ring in on one side first; a cross is usual here.")
	}
	if g.GasketOuter == 0 || g.GasketInner == 0 || g.Load == 0 {
		return nil
	}
	stress := k.SeatingStress
	if own := c.out.Value(g.Gasket.Stress); !own.IsZero() {
		if stress, err = own.Aim().In(unit.Megapascal); err != nil {
			return refusal.At("values."+g.Gasket.Stress, err)
		}
	}
	area, err := preload.GasketArea(g.GasketOuter, g.GasketInner)
	if err != nil {
		return refusal.At("values."+g.Gasket.Outer, err)
	}
	g.Needed = preload.Seating(stress, area, g.Count)
	g.Checks = append([]preload.Check{preload.AtLeast("Seats the gasket", g.Load, g.Needed, "N"),
		preload.AtLeast("Seats it at the low end of what is likely", g.LikelyLow, g.Needed, "N")}, g.Checks...)
	switch {
	case g.Load < g.Needed:
		c.mind(g.Name, "%.3g kN does not seat the gasket; it needs %.3g kN a bolt.", g.Load/1000, g.Needed/1000)
	case g.LikelyLow < g.Needed:
		c.mind(g.Name, "At the low end of what is likely, %.3g kN, the gasket does not seat; it needs %.3g kN.", g.LikelyLow/1000,
			g.Needed/1000)
	}
	return nil
}
