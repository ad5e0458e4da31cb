package joint

import (
	"dynacor/core/loosen"
	"dynacor/core/refusal"
	"dynacor/core/thread"
	"dynacor/core/unit"
)

// Held is what bolts that stand were last brought to, by their signed record, and how
// they have stood since.
type Held struct {
	Torque      unit.Quantity
	Prevailing  unit.Quantity
	Lubrication string
	Age         loosen.Age // empty: days to months, dry
}

// keptOnGasket is the least share of its load that a bolt on a gasket may have kept.
const keptOnGasket = 0.7

// breakout works out at what torque the bolts of a group are expected to let go, where
// its record says what they were brought to.
func (c *computing) breakout(g *Group, b *Bolts) error {
	if b.Held.Torque.IsZero() || g.Thread == "" {
		return nil
	}
	t, err := c.threadOf(g)
	if err != nil {
		return err
	}
	h, err := c.held(g, b, t)
	if err == nil {
		g.Breakout, err = h.Breakout()
	}
	return refusal.At("groups."+g.Name+".held", err)
}

// held is what the bolts of a group on t hold, by their record.
func (c *computing) held(g *Group, b *Bolts, t thread.Thread) (h loosen.Held, err error) {
	h = loosen.Held{Thread: t, Kept: 1, Age: b.Held.Age}
	if h.Age == "" {
		h.Age = loosen.Settled
	}
	if was, ok := c.r.Group(g.Was); ok && was.Gasket != nil {
		h.Kept = keptOnGasket
	}
	if h.Lubricant, err = c.lubricant(b.Held.Lubrication); err != nil {
		return h, err
	}
	if h.Torque, err = b.Held.Torque.In(unit.NewtonMetre); err == nil && !b.Held.Prevailing.IsZero() {
		h.Prevailing, err = b.Held.Prevailing.In(unit.NewtonMetre)
	}
	return h, err
}
