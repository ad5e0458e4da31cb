package joint

import (
	"fmt"
	"math"
	"strings"

	"dynacor/core/friction"
	"dynacor/core/preload"
	"dynacor/core/refusal"
	"dynacor/core/thread"
	"dynacor/core/tool"
	"dynacor/core/unit"
)

// WarnYield is the share of yield, while it is turned, above which a plan warns.
const WarnYield = 0.9

// torque works out what a group is pulled to, the load that is, and what that
// load must do.
func (c *computing) torque(g *Group, b *Bolts) error {
	g.Stages = c.shares(g)
	if err := c.prevailing(g, b); err != nil {
		return err
	}
	if err := c.condition(g, b); err != nil {
		return err
	}
	if err := c.clamped(g, b); err != nil {
		return err
	}
	if err := c.target(g, b); err != nil {
		return err
	}
	if err := c.load(g, b); err != nil {
		return err
	}
	if err := c.gasket(g); err != nil {
		return err
	}
	if err := c.pretension(g); err != nil {
		return err
	}
	if err := c.stay(g, b); err != nil {
		return err
	}
	if g.Torque == 0 {
		return nil
	}
	g.Torques = make([]float64, len(g.Stages))
	for i, share := range g.Stages {
		g.Torques[i] = g.Torque * share / 100
	}
	return nil
}

func (c *computing) prevailing(g *Group, b *Bolts) (err error) {
	if b.Prevailing.IsZero() {
		return nil
	}
	field := "groups." + g.Name + ".prevailing"
	if g.Prevailing, err = b.Prevailing.In(unit.NewtonMetre); err != nil {
		return refusal.At(field, err)
	}
	return refusal.NotNegative(field, g.Prevailing, "N·m")
}

// lubricant returns the condition of that name: one of the joint's own, which
// wins, or a general one.
func (c *computing) lubricant(name string) (friction.Lubricant, error) {
	if l, ok := c.in.Own.Find(name); ok {
		return l, l.Check()
	}
	return friction.LubricantNamed(name)
}

// condition finds what the torque was written for and what is on the job.
func (c *computing) condition(g *Group, b *Bolts) error {
	if r := c.rule(g); r != nil {
		return c.byLot(g, r)
	}
	field := "groups." + g.Name
	usual := ""
	if g.Dry {
		usual = Dry
	} else if _, err := c.lubricant(g.Lubricant); err == nil {
		usual = g.Lubricant
	}
	g.SpecifiedFor = first(b.SpecifiedFor, c.sheet.For[g.Name], usual)
	g.Lubrication = first(b.Lubrication, g.SpecifiedFor)
	if b.aim() != AsGiven {
		g.Lubrication = first(b.Lubrication, usual, g.SpecifiedFor)
		g.SpecifiedFor = g.Lubrication // a computed torque is written for what is on the job
	}
	if g.Lubrication == "" {
		c.open(field+".specifiedFor", "Which condition was the torque of the %s written for?", g.Name)
		return nil
	}
	job, err := c.lubricant(g.Lubrication)
	if err != nil {
		return refusal.At(field+".lubrication", err)
	}
	g.Short, g.IsDry, g.K = job.Short, job.Dry, job
	if !g.Dry || job.Dry {
		return nil
	}
	spec, err := c.lubricant(g.SpecifiedFor)
	if err != nil {
		return refusal.At(field+".specifiedFor", err)
	}
	c.mind(g.Name, "The %s must stay dry: on %s the same torque loads them %.0f %% more, or the seat slips.", g.Name, job.Short,
		100*(spec.Nominal/job.Nominal-1))
	if b.Reason == "" {
		c.open(field+".reason", "The %s must stay dry; %s there needs the engineer's reason.", g.Name, job.Short)
		return nil
	}
	c.deviate("%s on %s where they must stay dry: %s", g.Name, job.Short, b.Reason)
	return nil
}

func (c *computing) bolt(g *Group) (thread.Thread, thread.Strength, error) {
	t, err := c.threadOf(g)
	if err != nil {
		return t, thread.Strength{}, err
	}
	s, err := c.strength(g, t)
	return t, s, err
}

// equivalent compares what the torque was written for with what is on the job.
// It never converts by itself.
func (c *computing) equivalent(g *Group, b *Bolts, low, high float64) (float64, float64, error) {
	field := "groups." + g.Name
	if g.SpecifiedFor == "" {
		return low, high, nil
	}
	if low <= g.Prevailing {
		return 0, 0, refusal.Number(refusal.TooSmall, "values."+g.Value, low, g.Prevailing, "N·m",
			fmt.Sprintf("%.4g N·m does not overcome the nut's prevailing torque of %.4g N·m.", low, g.Prevailing), "Check the nut.")
	}
	if g.SpecifiedFor == g.K.Name {
		return low, high, nil
	}
	spec, err := c.lubricant(g.SpecifiedFor)
	if err != nil {
		return 0, 0, refusal.At(field+".specifiedFor", err)
	}
	// Only the part of a torque that becomes load is converted: what the nut
	// itself takes is the same whatever the lubrication.
	eqLow, err := friction.EquivalentTorque(low-g.Prevailing, spec.Nominal, g.K.Nominal)
	if err != nil {
		return 0, 0, err
	}
	eqHigh, err := friction.EquivalentTorque(high-g.Prevailing, spec.Nominal, g.K.Nominal)
	if err != nil {
		return 0, 0, err
	}
	eqLow, eqHigh = eqLow+g.Prevailing, eqHigh+g.Prevailing
	g.Equivalent = (eqLow + eqHigh) / 2
	change := 100 * (spec.Nominal/g.K.Nominal - 1)
	word := "more"
	if change < 0 {
		word = "less"
	}
	m := c.mind(g.Name, "The torque of the %s was written for %s; on %s it gives %.0f %% %s load. The equivalent is %.4g N·m.",
		g.Name, spec.Short, g.Short, math.Abs(change), word, g.Equivalent)
	switch b.Decision {
	case TakeEquivalent:
		m.Offer, m.Take = "Keep the written torque", KeepTorque
		c.deviate("%s: written for %s, on %s; the equivalent torque was taken, approved by the engineer who issued the plan", g.Name,
			spec.Short, g.Short)
		return eqLow, eqHigh, nil
	case KeepTorque:
		m.Offer, m.Take = "Take the equivalent torque", TakeEquivalent
		c.deviate("%s: written for %s, on %s; the written torque was kept and gives %.0f %% %s load", g.Name, spec.Short, g.Short,
			math.Abs(change), word)
	case Undecided:
		m.Offer, m.Take = "Take the equivalent torque", TakeEquivalent
		c.open(field+".decision", "The %s: take the equivalent torque or keep the written one?", g.Name)
	default:
		return 0, 0, refusal.New(refusal.Unknown, field+".decision", fmt.Sprintf("Unknown decision %q.", string(b.Decision)), "")
	}
	return low, high, nil
}

// load works out what the torque gives, where the thread is known, and holds it
// against the grade's yield.
func (c *computing) load(g *Group, b *Bolts) (err error) {
	if g.Thread == "" {
		return nil
	}
	t, err := c.threadOf(g)
	if err != nil {
		return err
	}
	c.standard(g, b, t)
	g.AcrossFlats = t.Flats(t.HeadOf(g.Grade))
	if g.Torque == 0 || g.Lubrication == "" {
		return nil
	}
	if g.Load, err = friction.LoadFromTorque(g.K.Nominal, t.Diameter, g.Torque, g.Prevailing); err != nil {
		return refusal.At("values."+g.Value, err)
	}
	if g.K.Dry && !g.Dry {
		c.mind(g.Name, "Threads and nut faces of the %s stay dry: no oil, no paste. Lubricated they would carry much more at this torque.",
			g.Name)
	}
	g.Accuracy = tool.UsualAccuracy(g.Torque)
	// What the nut itself takes never becomes load, so the band is over the rest.
	band, err := friction.Scatter(g.Torque-g.Prevailing, g.K.Nominal, t.Diameter, g.Accuracy, g.K.Spread())
	if err != nil {
		return refusal.At("values."+g.Value, err)
	}
	// The expected spread is linear in the nut factor, the worst case is not: for
	// a wide one the first would reach past the second, which is the bound.
	spread := g.Budget().Expanded
	g.LikelyLow, g.LikelyHigh = max(g.Load*(1-spread), band.Min), min(g.Load*(1+spread), band.Max)
	g.WorstLow, g.WorstHigh = band.Min, band.Max
	face := c.face(g, t)
	if g.Coefficient, err = friction.CoefficientFromK(t, g.K.Nominal, face); err != nil {
		return refusal.At("groups."+g.Name+".lubrication", err)
	}
	if g.Grade == "" {
		return nil
	}
	s, err := c.strength(g, t)
	if err != nil {
		return err
	}
	bolt := preload.Bolt{Thread: t, Strength: s, Lubricant: g.K, Prevailing: g.Prevailing, Face: face}
	if g.Utilisation, err = bolt.Utilisation(g.Load); err != nil {
		return refusal.At("values."+g.Value, err)
	}
	if g.Limit, err = bolt.AtYield(); err != nil {
		return refusal.At("groups."+g.Name+".prevailing", err)
	}
	byRule := c.rule(g) != nil // a pretension, by which structural bolts may yield; a torque that is typed is none
	if !byRule && !unit.AtMost(g.Utilisation, 1) {
		return c.tooMuch(g, t)
	}
	g.Checks = append(make([]preload.Check, 0, 4), preload.AtMost("Below yield while it is turned", g.Utilisation, 1, ""),
		preload.AtMost("Below yield at the high end of what is likely", g.LikelyHigh, g.Limit, "N"))
	if byRule {
		if g.LikelyHigh > g.Limit {
			c.mind(g.Name, "At the high end of what is likely, %.3g kN, the %s pass their yield at %.3g kN; structural bolts may, by rule.",
				g.LikelyHigh/1000, g.Name, g.Limit/1000)
		}
		return nil
	}
	if g.Utilisation > WarnYield {
		c.mind(g.Name, "The %s are at %.0f %% of their yield while they are turned; above 90 %% leaves little room.", g.Name,
			100*g.Utilisation)
	}
	if g.LikelyHigh > g.Limit {
		c.mind(g.Name, "At the high end of what is likely, %.3g kN, the %s yield; their limit is %.3g kN.", g.LikelyHigh/1000, g.Name,
			g.Limit/1000)
	}
	return nil
}

// face is what turns: the usual head in the usual hole.
func (c *computing) face(g *Group, t thread.Thread) friction.Face {
	face := friction.FaceOf(t, t.HeadOf(g.Grade))
	if g.Gasket != nil {
		face.Hole = t.FlangeHole()
	}
	return face
}

// standard asks about a grade of inch threads on a metric one: one of the two was
// misread, most often.
func (c *computing) standard(g *Group, b *Bolts, t thread.Thread) {
	if t.Inch() || !thread.InchGrade(g.Grade) || g.Of != "" {
		return
	}
	c.mind(g.Name, "%s is a grade of inch threads, and %s is metric. Read both off the bolt again.", capital(g.Grade), t.Name)
	if b.Reason == "" {
		c.open("groups."+g.Name+".reason", "%s on %s: read again, or the engineer's reason.", capital(g.Grade), t.Name)
		return
	}
	c.deviate("%s: %s on the metric thread %s: %s", g.Name, g.Grade, t.Name, b.Reason)
}

func capital(s string) string { return strings.ToUpper(s[:1]) + s[1:] }
