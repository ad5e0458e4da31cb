package app

import (
	"context"
	"fmt"
	"time"

	"github.com/google/uuid"

	"dynacor/core/crib"
	"dynacor/core/joint"
	"dynacor/core/recipe"
	"dynacor/core/record"
	"dynacor/core/refusal"
	"dynacor/core/thread"
	"dynacor/core/tool"
	"dynacor/core/unit"
	"dynacor/core/work"
)

// HandTool is a tool entered by hand: a wrench, with a multiplier when Ratio is set; with a
// chart a hydraulic wrench, with a ram area a tensioner, whose pressures are in Unit.
type HandTool struct {
	Tag      string
	Min, Max float64
	Unit     unit.Unit
	Scale    tool.Scale // of a gauge its smallest step alone
	Accuracy float64
	Ratio    float64
	Chart    tool.Chart
	RamArea  float64 // mm²
	Stroke   float64 // mm; 0: not known
}

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
	Offset bool    // a wrench does not stand over it
	Angle  float64 // of the offset end, degrees
	Reach  float64 // that an extension bridges, mm
}

// Ways returns how the stages of a group of a joint's plan can be reached: with
// the crib's tools, or with one entered by hand.
func (a *App) Ways(ctx context.Context, who Who, jointID uuid.UUID, group string, byHand *HandTool, at Place) (Ways, error) {
	p, err := a.store.NewestPlan(ctx, jointID)
	if err != nil {
		return Ways{}, found(err, "issued plan")
	}
	_, r, err := a.recipeOf(ctx, p.Input)
	if err != nil {
		return Ways{}, err
	}
	hand, err := a.atHand(ctx, who, jointID)
	if err != nil {
		return Ways{}, err
	}
	res := p.Result.With(r)
	g, err := torqued(res, group)
	if err != nil {
		return Ways{}, err
	}
	if err := at.check(); err != nil {
		return Ways{}, err
	}
	out := Ways{Shares: g.Stages}
	if g.How == recipe.ByTension {
		return out, hand.draws(&out, g, byHand, a.now())
	}
	req := asked(res, g, at)
	out.Size, out.Inside = req.Size, req.Inside
	switch {
	case byHand == nil:
		out.Possible = hand.Possible(req, a.now())
	case byHand.Chart != nil:
		h, err := byHand.hydraulic()
		if err != nil {
			return Ways{}, err
		}
		out.Rigs = []tool.Rigging{hand.Rig(h, req, a.now())}
	default:
		c, err := byHand.chain()
		if err != nil {
			return Ways{}, err
		}
		out.Setups = []tool.Setup{hand.Take(c, req, a.now())}
	}
	return out, nil
}

// draws finds how a group is drawn.
func (c atHand) draws(to *Ways, g joint.Group, byHand *HandTool, now time.Time) error {
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
		return refusal.Number(refusal.TooLarge, "angle", p.Angle, 180, "°", fmt.Sprintf("%g° is past the hand.", p.Angle), "Turn it the other way.")
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

// choose works a choice of tools out for a run's plan.
func (a *App) choose(ctx context.Context, who Who, c *cell, t ToolChoice) (record.Tooling, error) {
	hand, err := a.atHand(ctx, who, c.plan.Joint)
	if err != nil {
		return record.Tooling{}, err
	}
	g, err := torqued(c.plan.Result, t.Group)
	if err != nil {
		return record.Tooling{}, err
	}
	out := record.Tooling{Group: t.Group}
	switch {
	case g.How == recipe.ByTension:
		out.Stages, err = hand.chooseTensioner(t, g, a.now())
	case t.Hydraulic != "" || t.ByHand != nil && t.ByHand.Chart != nil:
		out.Stages, err = hand.chooseRig(t, asked(c.plan.Result, g, Place{}), a.now())
	case g.With == recipe.Hydraulic:
		err = refusal.New(refusal.Contradicts, "wrench", fmt.Sprintf("The %s are pulled by a hydraulic wrench alone.", g.Name),
			"Choose one, or enter its chart.")
	default:
		out.Stages, err = hand.chooseChain(t, c.plan.Result, g, a.now())
	}
	return out, err
}

func (c atHand) chooseChain(t ToolChoice, res joint.Result, g joint.Group, now time.Time) ([]record.StageTool, error) {
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

func (c atHand) chooseRig(t ToolChoice, r tool.Request, now time.Time) ([]record.StageTool, error) {
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

func (c atHand) chooseTensioner(t ToolChoice, g joint.Group, now time.Time) ([]record.StageTool, error) {
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
func (c atHand) supply(t ToolChoice) (s tool.Supply, err error) {
	if s.Pump, err = ofTag(c.Pumps, t.Pump, "pump", func(x tool.Pump) string { return x.Tag }); err != nil {
		return s, err
	}
	s.Gauge, err = ofTag(c.Gauges, t.Gauge, "gauge", func(x tool.Gauge) string { return x.Tag })
	return s, err
}

// atHand is what of the crib somebody may take to a joint.
type atHand struct {
	tool.Crib
	calibrated map[string]time.Time
}

// atHand reads the crib as somebody finds it who works at a joint: what is held back, past
// its pulls, or out with somebody else says why.
func (a *App) atHand(ctx context.Context, who Who, joint uuid.UUID) (atHand, error) {
	tools, err := a.Crib(ctx)
	if err != nil {
		return atHand{}, err
	}
	j, err := a.store.Joint(ctx, joint)
	if err != nil {
		return atHand{}, found(err, "joint")
	}
	c := atHand{calibrated: map[string]time.Time{}}
	for _, t := range tools {
		if t.Tool.Scrapped != "" {
			continue
		}
		if t.Tool.Calibrated != nil {
			c.calibrated[t.Tool.Tag] = *t.Tool.Calibrated
		}
		c.take(t, t.notFree(who, j.Tag))
	}
	return c, nil
}

// notFree says why a tool is not to be had by somebody at a joint; empty where it is.
func (t CribTool) notFree(who Who, joint string) string {
	switch {
	case t.Tool.HeldBack != "":
		return t.Tool.HeldBack
	case t.Due.Over && t.Due.ByPulls:
		return t.Due.Overdue
	case t.Tool.LentTo != nil && *t.Tool.LentTo != who.ID && t.Tool.LentJoint != joint:
		why := "it is out with " + t.Lent
		if t.Tool.LentJoint != "" {
			why += " at " + t.Tool.LentJoint
		}
		return why
	}
	return ""
}

// take puts a tool where the solver looks for it.
func (c *atHand) take(t CribTool, why string) {
	d := t.Data
	var due time.Time
	if t.Tool.Due != nil {
		due = *t.Tool.Due
	}
	switch d.Kind {
	case crib.Wrench:
		w, _ := d.Wrench()
		w.HeldBack, w.Due = why, due
		c.Wrenches = append(c.Wrenches, w)
	case crib.Multiplier:
		c.Multipliers = append(c.Multipliers, tool.Multiplier{Tag: d.Tag, Name: d.Name, Ratio: d.Ratio, OutputMax: d.Most, DriveIn: d.DriveIn,
			DriveOut: d.DriveOut, Accuracy: d.Accuracy, HeldBack: why})
	case crib.Adapter:
		c.Adapters = append(c.Adapters, tool.Adapter{Tag: d.Tag, Name: d.Name, DriveIn: d.DriveIn, DriveOut: d.DriveOut, Limit: d.Most,
			HeldBack: why})
	case crib.OffsetEnd:
		c.Offsets = append(c.Offsets, tool.OffsetEnd{Tag: d.Tag, Name: d.Name, Length: d.Length, Angle: d.Angle, DriveIn: d.DriveIn,
			DriveOut: d.DriveOut, Limit: d.Most, HeldBack: why})
	case crib.Extension:
		c.Extensions = append(c.Extensions, tool.Extension{Tag: d.Tag, Name: d.Name, Drive: d.DriveOut, Length: d.Length, Limit: d.Most,
			HeldBack: why})
	case crib.Socket:
		c.Sockets = append(c.Sockets, tool.Socket{Tag: d.Tag, Name: d.Name, Size: d.Size, Inside: d.Inside, Drive: d.DriveOut, Limit: d.Most,
			HeldBack: why})
	case crib.Hydraulic:
		c.Hydraulics = append(c.Hydraulics, tool.Hydraulic{Tag: d.Tag, Name: d.Name, Chart: d.Chart, PressureUnit: d.PressureUnit,
			Graduation: d.Graduation, Drive: d.DriveOut, Accuracy: d.Accuracy, Due: due, HeldBack: why})
	case crib.Pump:
		c.Pumps = append(c.Pumps, tool.Pump{Tag: d.Tag, Name: d.Name, Unit: d.PressureUnit, Most: d.PressureMost, HeldBack: why})
	case crib.Gauge:
		c.Gauges = append(c.Gauges, tool.Gauge{Tag: d.Tag, Name: d.Name, Unit: d.Unit, Least: d.Least, Most: d.Most, Step: d.Scale.Minor,
			Accuracy: d.Accuracy, Due: due, HeldBack: why})
	case crib.Tensioner:
		c.Tensioners = append(c.Tensioners, tool.Tensioner{Tag: d.Tag, Name: d.Name, Thread: d.Size, RamArea: d.RamArea, Stroke: d.Stroke,
			Unit: d.PressureUnit, Most: d.PressureMost, Graduation: d.Graduation, Accuracy: d.Accuracy, Due: due, HeldBack: why})
	}
}

// chain returns what was chosen of the crib, link by link.
func (c atHand) chain(t ToolChoice) (out tool.Chain, err error) {
	w, err := ofTag(c.Wrenches, t.Wrench, "wrench", func(x tool.Wrench) string { return x.Tag })
	if err != nil {
		return out, err
	}
	out.Wrench = *w
	if out.First, err = ofTag(c.Adapters, t.First, "adapter", func(x tool.Adapter) string { return x.Tag }); err != nil {
		return out, err
	}
	if out.Multiplier, err = ofTag(c.Multipliers, t.Multiplier, "multiplier", func(x tool.Multiplier) string { return x.Tag }); err != nil {
		return out, err
	}
	if out.Second, err = ofTag(c.Adapters, t.Second, "adapter", func(x tool.Adapter) string { return x.Tag }); err != nil {
		return out, err
	}
	if out.Offset, err = ofTag(c.Offsets, t.Offset, "offset", func(x tool.OffsetEnd) string { return x.Tag }); err != nil {
		return out, err
	}
	if out.Offset != nil {
		end := *out.Offset
		end.Angle = t.Angle
		out.Offset = &end
	}
	if out.Extension, err = ofTag(c.Extensions, t.Extension, "extension", func(x tool.Extension) string { return x.Tag }); err != nil {
		return out, err
	}
	out.Socket, err = ofTag(c.Sockets, t.Socket, "socket", func(x tool.Socket) string { return x.Tag })
	return out, err
}

// ofTag returns the tool of a tag; nil where none is named, but for what pulls.
func ofTag[T any](list []T, tag, what string, tagOf func(T) string) (*T, error) {
	if tag == "" && what != "wrench" && what != "hydraulic" && what != "tensioner" {
		return nil, nil
	}
	for i := range list {
		if tagOf(list[i]) == tag {
			return &list[i], nil
		}
	}
	return nil, refusal.New(refusal.Unknown, what, fmt.Sprintf("There is no %s %s in the crib.", what, tag),
		"Choose one from the list, or enter it by hand.")
}

// pressed refuses what is no unit, step or accuracy of a hydraulic tool entered by hand.
func (h HandTool) pressed() error {
	if d, err := unit.DimensionOf(h.Unit); err != nil || d != unit.Pressure {
		return refusal.New(refusal.Unknown, "byHand.unit", "A hydraulic tool is set in a unit of pressure.", "Choose bar, MPa or psi.")
	}
	if h.Accuracy >= 0.5 {
		return refusal.Number(refusal.TooLarge, "byHand.accuracy", h.Accuracy, 0.5, "", "An accuracy of 50 % or worse is none.", "Usual is 3 %.")
	}
	return refusal.First(refusal.Positive("byHand.minor", h.Scale.Minor, string(h.Unit)), refusal.Positive("byHand.accuracy", h.Accuracy, ""))
}

func (h HandTool) hydraulic() (tool.Hydraulic, error) {
	return tool.Hydraulic{Tag: h.Tag, Name: "entered by hand", Chart: h.Chart, PressureUnit: h.Unit, Graduation: h.Scale.Minor,
		Accuracy: h.Accuracy, Handwritten: true}, refusal.First(h.pressed(), refusal.At("byHand", h.Chart.Check()))
}

func (h HandTool) tensioner(d tool.Draft) (tool.Tensioner, error) {
	return tool.Tensioner{Tag: h.Tag, Name: "entered by hand", Thread: d.Thread.Diameter, RamArea: h.RamArea, Stroke: h.Stroke, Unit: h.Unit,
			Most: h.Max, Graduation: h.Scale.Minor, Accuracy: h.Accuracy, Handwritten: true},
		refusal.First(h.pressed(), refusal.Positive("byHand.ramArea", h.RamArea, "mm²"), refusal.NotNegative("byHand.stroke", h.Stroke, "mm"),
			refusal.Positive("byHand.max", h.Max, string(h.Unit)))
}

func (h HandTool) chain() (tool.Chain, error) {
	u := string(h.Unit)
	if d, err := unit.DimensionOf(h.Unit); err != nil || d != unit.Torque {
		return tool.Chain{}, refusal.New(refusal.Unknown, "byHand.unit", "A wrench is set in a unit of torque.",
			"Choose N·m, cN·m, ft·lbf, in·lbf or kgf·m.")
	}
	if err := refusal.First(refusal.NotNegative("byHand.min", h.Min, u), refusal.Positive("byHand.max", h.Max, u),
		refusal.NotNegative("byHand.first", h.Scale.First, u), refusal.Positive("byHand.major", h.Scale.Major, u),
		refusal.Positive("byHand.minor", h.Scale.Minor, u), refusal.Positive("byHand.accuracy", h.Accuracy, "")); err != nil {
		return tool.Chain{}, err
	}
	if h.Min > h.Max {
		return tool.Chain{}, refusal.Number(refusal.Contradicts, "byHand.min", h.Min, h.Max, u, "The range's start is above its end.",
			"Read both off the tool.")
	}
	if h.Scale.Minor > h.Scale.Major {
		return tool.Chain{}, refusal.Number(refusal.Contradicts, "byHand.minor", h.Scale.Minor, h.Scale.Major, u,
			"The thimble's step is larger than the main scale's.", "Read both off the tool.")
	}
	if h.Accuracy >= 0.5 {
		return tool.Chain{}, refusal.Number(refusal.TooLarge, "byHand.accuracy", h.Accuracy, 0.5, "",
			"An accuracy of 50 % or worse is none.", "Usual is 4 %.")
	}
	c := tool.Chain{Wrench: tool.Wrench{Tag: h.Tag, Name: "entered by hand", RatedMin: h.Min, RatedMax: h.Max, Unit: h.Unit,
		Scale: h.Scale, Accuracy: h.Accuracy, Handwritten: true}}
	if h.Ratio != 0 {
		if err := refusal.Positive("byHand.ratio", h.Ratio, ""); err != nil {
			return c, err
		}
		top, err := unit.Convert(h.Max, h.Unit, unit.NewtonMetre)
		if err != nil {
			return c, err
		}
		// Its plate was not entered, so no more is asked of it than this wrench can put in.
		c.Multiplier = &tool.Multiplier{Tag: "×", Name: "multiplier, by hand", Ratio: h.Ratio, OutputMax: top * h.Ratio,
			Accuracy: h.Accuracy}
	}
	return c, nil
}
