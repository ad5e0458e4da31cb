package judge

import (
	"fmt"
	"time"

	"dynacor/core/joint"
	"dynacor/core/recipe"
	"dynacor/core/record"
	"dynacor/core/refusal"
	"dynacor/core/thread"
	"dynacor/core/tool"
	"dynacor/core/unit"
	"dynacor/core/work"
)

// Ways are the ways of tools to make the stages of a group, which are shares of its
// value, percent: chains and hydraulic wrenches, or tensioners.
type Ways struct {
	Shares []float64
	tool.Possible
	Tensionings []tool.Tensioning
	Draft       tool.Draft
	Size        float64 // of its fasteners, across the flats or of the key, mm; 0: not known
	Inside      bool
}

// Way is one of them: its stages as a run would record them, or why it cannot be.
type Way struct {
	Choice  ToolChoice
	Stages  []record.StageTool
	Refused error
}

// All lists the ways, best first: those of the hand before those of a pump.
func (w Ways) All(group string) (out []Way) {
	for _, s := range w.Setups {
		out = append(out, Way{ChoiceOf(group, s.Chain), work.StageTools(s, nil), s.Refused})
	}
	for _, r := range w.Rigs {
		out = append(out, Way{RigOf(group, r.Rig), work.RigTools(r, nil), r.Refused})
	}
	for _, t := range w.Tensionings {
		out = append(out, Way{TensionerOf(group, t), work.DrawTools(t, w.Draft, nil), t.Refused})
	}
	return out
}

// Place is what the place of a group asks of a chain.
type Place struct {
	Offset bool     // a wrench does not stand over it
	Angle  float64  // of the offset end, degrees
	Reach  float64  // that an extension bridges, mm
	Taken  []string // tags that are in another of the hands that work at once
}

// FindWays returns how the stages of a group of a plan can be reached: with the crib's tools,
// or with one entered by hand.
func FindWays(res joint.Result, group string, tools []Tool, byHand *HandTool, at Place, now time.Time) (Ways, error) {
	hand := Without(tools, at.Taken)
	if g, ok := res.Group(group); ok && g.Breakout.High > 0 {
		return hand.letsGo(res, g, now), nil
	}
	g, err := torqued(res, group)
	if err != nil {
		return Ways{}, err
	}
	if err := at.check(); err != nil {
		return Ways{}, err
	}
	out := Ways{Shares: g.Stages}
	if g.How == recipe.ByTension {
		return out, hand.draws(&out, g, byHand, now)
	}
	req := asked(res, g, at)
	out.Size, out.Inside = req.Size, req.Inside
	switch {
	case byHand == nil:
		out.Possible = hand.Possible(req, now)
	case byHand.Chart != nil:
		h, err := byHand.hydraulic()
		if err != nil {
			return Ways{}, err
		}
		out.Rigs = []tool.Rigging{hand.Rig(h, req, now)}
	default:
		c, err := byHand.chain()
		if err != nil {
			return Ways{}, err
		}
		out.Setups = []tool.Setup{hand.Take(c, req, now)}
	}
	return out, nil
}

// letsGo finds the hydraulic wrenches that reach what the nuts of a group may let go at: no
// wrench that is set in torque loosens.
func (c AtHand) letsGo(res joint.Result, g joint.Group, now time.Time) Ways {
	r := asked(res, g, Place{})
	r.Torques, r.Pressed = []float64{g.Breakout.High}, true
	return Ways{Shares: []float64{100}, Possible: c.Possible(r, now), Size: r.Size, Inside: r.Inside}
}

// draws finds how a group is drawn.
func (c AtHand) draws(to *Ways, g joint.Group, byHand *HandTool, now time.Time) error {
	d, err := g.Draft()
	if err != nil {
		return err
	}
	if to.Draft = d; byHand == nil {
		to.Tensionings, to.Left = c.Tensionings(d, now)
		to.Count = len(to.Tensionings)
		return nil
	}
	x, err := byHand.tensioner(d)
	if err != nil {
		return err
	}
	to.Tensionings = []tool.Tensioning{c.Draws(x, d, now)}
	return nil
}

func (p Place) check() error {
	if err := refusal.First(refusal.NotNegative("angle", p.Angle, "°"), refusal.NotNegative("reach", p.Reach, "mm")); err != nil {
		return err
	}
	if p.Angle > 180 {
		return refusal.Number(refusal.TooLarge, "angle", p.Angle, 180, "°", fmt.Sprintf("%g° is past the hand.", p.Angle),
			"Turn it the other way.")
	}
	return nil
}

// asked is what a group asks of the crib: its stages, and the size that its socket or bit
// must have.
func asked(res joint.Result, g joint.Group, at Place) tool.Request {
	r := tool.Request{Torques: g.Torques, Prefer: givenIn(res, g), Size: g.AcrossFlats, Offset: at.Offset, Angle: at.Angle, Reach: at.Reach,
		Pressed: g.With == recipe.Hydraulic}
	if g.Head != "" {
		r.Size, r.Inside = 0, g.Head.Inside()
		if t, err := thread.Parse(g.Thread); err == nil {
			r.Size, _ = t.DriveSize(g.Head) // one that no table has is measured
		}
	}
	return r
}

// torqued returns a group that is pulled to a torque, or drawn to a load.
func torqued(res joint.Result, group string) (joint.Group, error) {
	g, ok := res.Group(group)
	if !ok || !g.How.Tooled() {
		return g, refusal.New(refusal.Unknown, "group", "That is no group that is torqued.", "Choose one of the plan's.")
	}
	return g, nil
}

// givenIn returns the unit a group's torque was given in.
func givenIn(res joint.Result, g joint.Group) unit.Unit {
	if v := res.Value(g.Value); !v.IsZero() && g.Share == 0 {
		return v.Value.Unit
	}
	return unit.NewtonMetre
}

// Choose works a choice of tools out for a plan.
func Choose(res joint.Result, t ToolChoice, tools []Tool, now time.Time) (record.Tooling, error) {
	g, err := torqued(res, t.Group)
	if err != nil {
		return record.Tooling{}, err
	}
	out := record.Tooling{Group: t.Group}
	var taken []string // each of those that work at once is found among what the others left
	for i, x := range append([]ToolChoice{t}, t.Beside...) {
		stages, err := Without(tools, taken).choose(x, res, g, now)
		switch {
		case err != nil && i > 0:
			return out, refusal.At(fmt.Sprintf("beside.%d", i-1), err)
		case err != nil:
			return out, err
		case i == 0:
			out.Stages = stages
		default:
			out.Beside = append(out.Beside, stages)
		}
		for _, stage := range stages {
			taken = append(taken, stage.Own()...)
		}
	}
	return out, nil
}

// choose works one of the tools out that work on a group.
func (c AtHand) choose(t ToolChoice, res joint.Result, g joint.Group, now time.Time) ([]record.StageTool, error) {
	switch {
	case g.How == recipe.ByTension:
		return c.chooseTensioner(t, g, now)
	case t.Hydraulic != "" || t.ByHand != nil && t.ByHand.Chart != nil:
		return c.chooseRig(t, asked(res, g, Place{}), now)
	case g.With == recipe.Hydraulic:
		return nil, refusal.New(refusal.Contradicts, "wrench", fmt.Sprintf("The %s are pulled by a hydraulic wrench alone.", g.Name),
			"Choose one, or enter its chart.")
	}
	return c.chooseChain(t, res, g, now)
}

func (c AtHand) chooseChain(t ToolChoice, res joint.Result, g joint.Group, now time.Time) ([]record.StageTool, error) {
	var chain tool.Chain
	var err error
	if t.ByHand != nil {
		chain, err = t.ByHand.chain()
	} else {
		chain, err = c.chain(t)
	}
	if err != nil {
		return nil, err
	}
	place := Place{Offset: t.Offset != "", Angle: t.Angle}
	if chain.Extension != nil {
		place.Reach = chain.Extension.Length
	}
	if err := place.check(); err != nil {
		return nil, err
	}
	setup := c.Take(chain, asked(res, g, place), now)
	return work.StageTools(setup, c.calibrated), setup.Refused
}

func (c AtHand) chooseRig(t ToolChoice, r tool.Request, now time.Time) ([]record.StageTool, error) {
	if t.ByHand != nil {
		h, err := t.ByHand.hydraulic()
		if err != nil {
			return nil, err
		}
		x := c.Rig(h, r, now)
		return work.RigTools(x, c.calibrated), x.Refused
	}
	h, err := ofTag(c.Hydraulics, t.Hydraulic, "hydraulic", func(x tool.Hydraulic) string { return x.Tag })
	if err != nil {
		return nil, err
	}
	rig := tool.Rig{Wrench: *h}
	if rig.Supply, err = c.supply(t); err != nil {
		return nil, err
	}
	if rig.Socket, err = ofTag(c.Sockets, t.Socket, "socket", func(x tool.Socket) string { return x.Tag }); err != nil {
		return nil, err
	}
	x := rig.Set(r.Torques, now)
	return work.RigTools(x, c.calibrated), x.Refused
}

func (c AtHand) chooseTensioner(t ToolChoice, g joint.Group, now time.Time) ([]record.StageTool, error) {
	d, err := g.Draft()
	if err != nil {
		return nil, err
	}
	var way tool.Tensioning
	if t.ByHand != nil {
		x, err := t.ByHand.tensioner(d)
		if err != nil {
			return nil, err
		}
		way = c.Draws(x, d, now)
	} else {
		x, err := ofTag(c.Tensioners, t.Tensioner, "tensioner", func(x tool.Tensioner) string { return x.Tag })
		if err != nil {
			return nil, err
		}
		s, err := c.supply(t)
		if err != nil {
			return nil, err
		}
		way = x.Set(d, s, now)
	}
	return work.DrawTools(way, d, c.calibrated), way.Refused
}

// supply returns the pump and the gauge that were chosen; nil where none is named.
func (c AtHand) supply(t ToolChoice) (s tool.Supply, err error) {
	if s.Pump, err = ofTag(c.Pumps, t.Pump, "pump", func(x tool.Pump) string { return x.Tag }); err != nil {
		return s, err
	}
	s.Gauge, err = ofTag(c.Gauges, t.Gauge, "gauge", func(x tool.Gauge) string { return x.Tag })
	return s, err
}
