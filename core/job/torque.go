package job

import (
	"fmt"
	"math"

	"dynacor/core/friction"
	"dynacor/core/plan"
	"dynacor/core/preload"
	"dynacor/core/refusal"
	"dynacor/core/thread"
	"dynacor/core/tool"
	"dynacor/core/unit"
)

// torque works out what a group is pulled to, and the load that is.
func (c *computing) torque(g *Group, b Bolts) error {
	g.Stages = stages(g.Group)
	usual := ""
	if g.Dry {
		usual = Dry
	} else if _, err := friction.LubricantNamed(g.Lubricant); err == nil {
		usual = g.Lubricant
	}
	g.SpecifiedFor = first(b.SpecifiedFor, c.sheet.For[g.Name], usual)
	g.Lubrication = first(b.Lubrication, g.SpecifiedFor)
	if g.SpecifiedFor == "" {
		c.open("groups."+g.Name+".specifiedFor", "Which condition was the torque of the %s written for?", g.Name)
	}
	given := c.value(g.Value)
	if given.IsZero() {
		return nil
	}
	low, err := given.Value.In(unit.NewtonMetre)
	if err != nil {
		return err
	}
	high := low
	if !given.Max.IsZero() {
		if high, err = given.Max.In(unit.NewtonMetre); err != nil {
			return err
		}
	}
	if low, high, err = c.condition(g, b, low, high); err != nil {
		return err
	}
	g.TorqueMin, g.TorqueMax, g.Torque = low, high, (low+high)/2
	for _, share := range g.Stages {
		g.Torques = append(g.Torques, g.Torque*share/100)
	}
	return c.load(g)
}

// condition compares what the torque was written for with what is on the job.
func (c *computing) condition(g *Group, b Bolts, low, high float64) (float64, float64, error) {
	field := "groups." + g.Name
	if g.SpecifiedFor == "" {
		return low, high, nil
	}
	spec, err := friction.LubricantNamed(g.SpecifiedFor)
	if err != nil {
		return 0, 0, refusal.At("groups."+g.Name+".specifiedFor", err)
	}
	job, err := friction.LubricantNamed(g.Lubrication)
	if err != nil {
		return 0, 0, refusal.At("groups."+g.Name+".lubrication", err)
	}
	g.Short = job.Short
	if g.Dry && !job.Dry {
		c.mind(g.Name, "The %s must stay dry: on %s the same torque loads them %.0f %% more, or the seat slips.", g.Name, job.Short, 100*(spec.Nominal/job.Nominal-1))
		if b.Reason == "" {
			c.open(field+".reason", "The %s must stay dry; %s there needs the engineer's reason.", g.Name, job.Short)
		} else {
			c.deviate("%s on %s where they must stay dry: %s", g.Name, job.Short, b.Reason)
		}
	}
	if spec.Name == job.Name {
		return low, high, nil
	}
	eqLow, err := friction.EquivalentTorque(low, spec.Nominal, job.Nominal)
	if err != nil {
		return 0, 0, err
	}
	eqHigh, err := friction.EquivalentTorque(high, spec.Nominal, job.Nominal)
	if err != nil {
		return 0, 0, err
	}
	g.Equivalent = (eqLow + eqHigh) / 2
	change := 100 * (spec.Nominal/job.Nominal - 1)
	word := "more"
	if change < 0 {
		word = "less"
	}
	m := c.mind(g.Name, "The torque of the %s was written for %s; on %s it gives %.0f %% %s load. The equivalent is %.4g N·m.", g.Name, spec.Short, job.Short, math.Abs(change), word, g.Equivalent)
	switch b.Decision {
	case plan.TakeEquivalent:
		m.Offer, m.Take = "Keep the written torque", plan.KeepTorque
		c.deviate("%s: written for %s, on %s; the equivalent torque was taken, approved by the engineer who issued the plan", g.Name, spec.Short, job.Short)
		return eqLow, eqHigh, nil
	case plan.KeepTorque:
		m.Offer, m.Take = "Take the equivalent torque", plan.TakeEquivalent
		c.deviate("%s: written for %s, on %s; the written torque was kept and gives %.0f %% %s load", g.Name, spec.Short, job.Short, math.Abs(change), word)
	case plan.Undecided:
		m.Offer, m.Take = "Take the equivalent torque", plan.TakeEquivalent
		c.open(field+".decision", "The %s: take the equivalent torque or keep the written one?", g.Name)
	default:
		return 0, 0, refusal.New(refusal.Unknown, "groups."+g.Name+".decision", fmt.Sprintf("Unknown decision %q.", string(b.Decision)), "")
	}
	return low, high, nil
}

// load works out what the torque gives, where the thread is known, and holds it
// against the grade's yield.
func (c *computing) load(g *Group) error {
	if g.Thread == "" || g.Lubrication == "" {
		return nil
	}
	t, err := thread.Parse(g.Thread)
	if err != nil {
		return refusal.At("groups."+g.Name+".thread", err)
	}
	l, err := friction.LubricantNamed(g.Lubrication)
	if err != nil {
		return refusal.At("groups."+g.Name+".lubrication", err)
	}
	if g.Load, err = friction.LoadFromTorque(l.Nominal, t.Diameter, g.Torque, 0); err != nil {
		return err
	}
	band, err := friction.Scatter(g.Torque, l.Nominal, t.Diameter, tool.UsualAccuracy(g.Torque), l.Spread())
	if err != nil {
		return err
	}
	g.LikelyLow, g.LikelyHigh = max(g.Load*(1-band.Spread), band.Min), min(g.Load*(1+band.Spread), band.Max)
	if g.Grade == "" {
		return nil
	}
	s, err := thread.StrengthOf(g.Grade, t.Diameter)
	if err != nil {
		return refusal.At("groups."+g.Name+".grade", err)
	}
	if g.Utilisation, err = preload.Utilisation(t, g.Load, l.Nominal, s.Yield); err != nil {
		return err
	}
	g.Limit = g.Load / g.Utilisation
	if !unit.AtMost(g.Utilisation, 1) {
		most := g.Torque / g.Utilisation
		return refusal.Number(refusal.TooLarge, "groups."+g.Name+".torque", g.Torque, most, "N·m",
			fmt.Sprintf("%.4g N·m on %s with %s would load the %s to %.4g kN; %s reaches its yield at %.4g kN, which is %.4g N·m.", g.Torque, t.Name, l.Short, g.Name, g.Load/1000, g.Grade, g.Limit/1000, most),
			"Check the torque, its unit, the thread and the lubrication.")
	}
	if g.Utilisation > plan.WarnYield {
		c.mind(g.Name, "The %s are at %.0f %% of their yield while they are turned.", g.Name, 100*g.Utilisation)
	}
	return nil
}
