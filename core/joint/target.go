package joint

import (
	"fmt"
	"math"

	"dynacor/core/friction"
	"dynacor/core/preload"
	"dynacor/core/refusal"
	"dynacor/core/stay"
	"dynacor/core/thread"
	"dynacor/core/unit"
)

// target finds the torque: as it is written, on the job's lubrication, or as it
// follows from what is aimed at.
func (c *computing) target(g *Group, b *Bolts) error {
	g.Aim = b.aim()
	if g.Aim != AsGiven && c.rule(g) != nil {
		return refusal.New(refusal.Contradicts, "groups."+g.Name+"."+g.Aim.field(),
			fmt.Sprintf("The torque of the %s follows from their lot.", g.Name), "Give K of the lot.")
	}
	if g.Aim != AsGiven {
		return c.worked(g, b)
	}
	given := c.out.Value(g.Value)
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
		c.mind(g.Name, "The maker gives a range for the %s; the plan aims at its middle.", g.Name)
	}
	if low, high, err = c.equivalent(g, b, low, high); err != nil {
		return err
	}
	g.TorqueMin, g.TorqueMax, g.Torque = low, high, (low+high)/2
	return nil
}

// field is the word of the sentence that an aim is said by.
func (a Aim) field() string {
	switch a {
	case ByShare, ByChart:
		return "share"
	case ByTurn:
		return "turn"
	case ByStretch:
		return "stretch"
	case ByService:
		return "service"
	}
	return "aim"
}

// worked works the torque out from the load that is aimed at.
func (c *computing) worked(g *Group, b *Bolts) error {
	field := "groups." + g.Name + "." + g.Aim.field()
	if g.Thread == "" || g.Grade == "" || g.Lubrication == "" {
		c.open(field, "The torque of the %s is worked out from their thread, grade and lubrication.", g.Name)
		return nil
	}
	t, s, err := c.bolt(g)
	if err != nil {
		return err
	}
	load, err := c.aimedLoad(g, b, t, s)
	if err != nil {
		return refusal.At(field, err)
	}
	if load == 0 {
		return nil // open by itself
	}
	torque, err := friction.TorqueFromLoad(g.K.Nominal, t.Diameter, load, g.Prevailing)
	if err != nil {
		return refusal.At(field, err)
	}
	g.Torque, g.TorqueMin, g.TorqueMax = torque, torque, torque
	c.mind(g.Name, "The torque of the %s is computed. A maker's value for this joint wins over it.", g.Name)
	return nil
}

// aimedLoad returns the load, N, that is aimed at; 0 where what it follows from is not
// given yet.
func (c *computing) aimedLoad(g *Group, b *Bolts, t thread.Thread, s thread.Strength) (float64, error) {
	switch g.Aim {
	case ByShare:
		strength, err := c.strengthFor(g, b.ShareOf, s)
		if err != nil {
			return 0, err
		}
		g.Share, g.ShareOf = b.Share, b.ShareOf
		return preload.ShareOfStrength(t, strength, b.Share)
	case ByChart:
		m, err := derate(b)
		if err != nil {
			return 0, err
		}
		strength, err := c.strengthFor(g, OfProof, s)
		if err != nil {
			return 0, err
		}
		g.Share, g.ShareOf, g.Base, g.Derate = b.Share, OfProof, m.Name, m.Derate
		load, err := preload.ShareOfStrength(t, strength, b.Share)
		return load * m.Derate, err
	case ByGasket:
		return c.gasketLoad(g, t, s)
	case ByPretension:
		return preload.Pretension(t, s.Tensile)
	case ByTurn, ByStretch:
		return c.drawn(g, b, t)
	case ByService:
		return c.inService(g, b)
	}
	return 0, refusal.New(refusal.Unknown, "aim", fmt.Sprintf("Unknown aim %q.", string(g.Aim)), "Choose one from the list.")
}

// strengthFor returns the strength that a share is taken of, MPa.
func (c *computing) strengthFor(g *Group, of Basis, s thread.Strength) (float64, error) {
	switch of {
	case OfYield:
		return s.Yield, nil
	case OfProof:
		if s.HasProof() {
			return s.Proof, nil
		}
		c.mind(g.Name, "No proof stress is published for %s; the share is taken of its yield.", g.Grade)
		return s.Yield, nil
	}
	return 0, refusal.New(refusal.Unknown, "shareOf", fmt.Sprintf("Unknown strength %q.", string(of)), "Choose yield or proof.")
}

// derate returns the softer material of a chart, with the share that was typed for it.
func derate(b *Bolts) (preload.Material, error) {
	for _, m := range preload.Materials() {
		if m.Name != b.Base && b.Base != "" {
			continue
		}
		if b.Derate != 0 {
			m.Derate = b.Derate
		}
		return m, refusal.Fraction("derate", m.Derate)
	}
	return preload.Material{}, refusal.New(refusal.Unknown, "base", fmt.Sprintf("Unknown base %q.", b.Base), "Choose one from the list.")
}

// drawn returns the load of a turn from snug or a stretch.
func (c *computing) drawn(g *Group, b *Bolts, t thread.Thread) (float64, error) {
	if g.Springs.Bolt == 0 {
		c.open("groups."+g.Name+".clamp", "What length do the %s clamp? Turn and stretch follow from it.", g.Name)
		return 0, nil
	}
	if g.Aim == ByTurn {
		turn, err := b.Turn.In(unit.Degree)
		if err == nil {
			err = refusal.Within("turn", turn, mostTurn, string(unit.Degree))
		}
		return turn * t.Pitch / (360 * (g.Springs.Bolt + g.Springs.Parts)), err
	}
	stretch, err := b.Stretch.In(unit.Millimetre)
	if err == nil {
		err = refusal.Within("stretch", stretch, mostStretch, string(unit.Millimetre))
	}
	return stretch / g.Springs.Bolt, err
}

// inService returns the load to make a joint to, so that a load is there in service.
func (c *computing) inService(g *Group, b *Bolts) (float64, error) {
	if g.Springs.Bolt == 0 {
		c.open("groups."+g.Name+".clamp", "What length do the %s clamp? What warmth does to them follows from it.", g.Name)
		return 0, nil
	}
	if !b.Stay.warms() {
		c.open("groups."+g.Name+".stay", "How warm do the %s get in service?", g.Name)
		return 0, nil
	}
	load, err := b.Service.In(unit.Newton)
	if err == nil {
		err = refusal.Within("service", load, mostService, string(unit.Newton))
	}
	if err != nil {
		return 0, err
	}
	w, err := warm(b, g.Grade)
	if err != nil {
		return 0, err
	}
	return stay.Springs(g.Springs).For(load, w)
}

// Beyond these nobody turns or stretches a bolt.
const (
	mostTurn    = 720.0 // °
	mostStretch = 20.0  // mm
	mostService = 1e7   // N
)

// tooMuch refuses a load past the bolt's yield, beside the word that makes it.
func (c *computing) tooMuch(g *Group, t thread.Thread) error {
	field := "groups." + g.Name
	switch g.Aim {
	case AsGiven:
	case ByShare, ByChart:
		most := g.Share * g.Limit / g.Load
		return refusal.Number(refusal.TooLarge, field+".share", g.Share, most, "",
			fmt.Sprintf("At %.3g %% the bolt is at %.3g %% of its yield while it is turned; %.3g %% is the most.",
				100*g.Share, 100*g.Utilisation, math.Floor(1000*most)/10), "Take a smaller share, or a stronger grade.")
	default:
		return refusal.Number(refusal.TooLarge, field+"."+g.Aim.field(), g.Load, g.Limit, "N",
			fmt.Sprintf("That loads the %s to %.4g kN; %s reaches its yield at %.4g kN while it is turned.", g.Name, g.Load/1000, g.Grade,
				g.Limit/1000), "Aim at less, or take a stronger grade.")
	}
	most := (g.Torque-g.Prevailing)*g.Limit/g.Load + g.Prevailing
	if g.Equivalent != 0 && c.in.Groups[g.Name].Decision != TakeEquivalent {
		return refusal.Number(refusal.TooLarge, field+".lubrication", g.Torque, most, "N·m",
			fmt.Sprintf("The torque was written for %s; with %s, %.4g N·m would load the %s to %.4g kN, past their yield at %.4g kN.",
				g.SpecifiedFor, g.Lubrication, g.Torque, g.Name, g.Load/1000, g.Limit/1000),
			fmt.Sprintf("Take the equivalent, %.4g N·m, or use the lubrication it was written for.", g.Equivalent))
	}
	return refusal.Number(refusal.TooLarge, field+".torque", g.Torque, most, "N·m",
		fmt.Sprintf("%.4g N·m on %s with %s would load the %s to %.4g kN; %s reaches its yield at %.4g kN, which is %.4g N·m.", g.Torque,
			t.Name, g.Short, g.Name, g.Load/1000, g.Grade, g.Limit/1000, most),
		"Check the torque, its unit, the thread and the lubrication.")
}
