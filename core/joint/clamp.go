package joint

import (
	"fmt"

	"dynacor/core/preload"
	"dynacor/core/refusal"
	"dynacor/core/stay"
	"dynacor/core/thread"
	"dynacor/core/unit"
)

// mostClamped is the longest grip that is taken, mm.
const mostClamped = 5_000

// clamped finds how much bolt and parts give, where their length is known.
func (c *computing) clamped(g *Group, b *Bolts) error {
	if b.Clamp.Length.IsZero() || g.Thread == "" {
		return nil
	}
	field := "groups." + g.Name + ".clamp"
	t, err := c.threadOf(g)
	if err != nil {
		return err
	}
	of, err := b.Clamp.of(t, g.Grade)
	if err != nil {
		return refusal.At(field, err)
	}
	g.Springs, err = of.Compliance()
	return refusal.At(field, err)
}

// of returns the bolt in its parts.
func (x Clamp) of(t thread.Thread, grade string) (preload.Clamped, error) {
	out := preload.Clamped{Thread: t, TwoNuts: x.TwoNuts, Modulus: preload.CarbonSteel}
	if thread.Stainless(grade) {
		out.Modulus = preload.StainlessSteel
	}
	m, err := stay.MaterialNamed(x.Parts)
	if err != nil {
		return out, err
	}
	if out.PartsModulus = m.Modulus; m.Name == stay.Materials()[0].Name {
		out.PartsModulus = out.Modulus // of steel both ways: one modulus for bolt and parts
	}
	if out.Length, err = x.Length.In(unit.Millimetre); err != nil {
		return out, err
	}
	if !x.Shank.IsZero() {
		if out.Shank, err = x.Shank.In(unit.Millimetre); err != nil {
			return out, err
		}
	}
	if err := refusal.First(refusal.Within("length", out.Length, mostClamped, "mm"), refusal.NotNegative("shank", out.Shank,
		"mm")); err != nil {
		return out, err
	}
	if !unit.AtMost(out.Shank, out.Length) {
		return out, refusal.Number(refusal.Contradicts, "shank", out.Shank, out.Length, "mm",
			fmt.Sprintf("A plain shank of %.4g mm is longer than the %.4g mm that are clamped.", out.Shank, out.Length), "Measure both.")
	}
	out.Threaded = out.Length - out.Shank
	return out, nil
}
