package app

import (
	"context"
	"time"

	"github.com/google/uuid"

	"dynacor/core/crib"
	"dynacor/core/joint"
	"dynacor/core/recipe"
	"dynacor/core/record"
	"dynacor/core/refusal"
	"dynacor/core/tool"
	"dynacor/core/unit"
)

// HandTool is a wrench entered by hand, with a multiplier when Ratio is set.
type HandTool struct {
	Tag      string
	Min, Max float64
	Unit     unit.Unit
	Scale    tool.Scale
	Accuracy float64
	Ratio    float64
}

// Ways are the setups of tools for the stages of a group, which are shares of its
// value, percent.
type Ways struct {
	Shares []float64
	Setups []tool.Setup
}

// Ways returns how the stages of a group of a joint's plan can be reached: with
// the crib's tools, or with one entered by hand.
func (a *App) Ways(ctx context.Context, who Who, jointID uuid.UUID, group string, byHand *HandTool) (Ways, error) {
	p, err := a.store.NewestPlan(ctx, jointID)
	if err != nil {
		return Ways{}, found(err, "issued plan")
	}
	_, r, err := a.recipeOf(ctx, p.Input)
	if err != nil {
		return Ways{}, err
	}
	at, err := a.atHand(ctx, who, jointID)
	if err != nil {
		return Ways{}, err
	}
	res := p.Result.With(r)
	g, err := torqued(res, group)
	if err != nil {
		return Ways{}, err
	}
	if byHand == nil {
		all := tool.Crib{Wrenches: at.wrenches, Multipliers: at.multipliers}
		return Ways{g.Stages, tool.Ways(all, g.Torques, givenIn(res, g), a.now())}, nil
	}
	c, err := byHand.chain()
	if err != nil {
		return Ways{}, err
	}
	return Ways{g.Stages, []tool.Setup{tool.Fit(c, g.Torques, at.wrenches, a.now())}}, nil
}

// torqued returns a group that is pulled to a torque.
func torqued(res joint.Result, group string) (joint.Group, error) {
	g, ok := res.Group(group)
	if !ok || g.How != recipe.ByTorque {
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
	at, err := a.atHand(ctx, who, c.plan.Joint)
	if err != nil {
		return record.Tooling{}, err
	}
	var chain tool.Chain
	if t.ByHand != nil {
		chain, err = t.ByHand.chain()
	} else {
		chain, err = at.chain(t.Wrench, t.Multiplier)
	}
	if err != nil {
		return record.Tooling{}, err
	}
	g, err := torqued(c.plan.Result, t.Group)
	if err != nil {
		return record.Tooling{}, err
	}
	setup := tool.Fit(chain, g.Torques, at.wrenches, a.now())
	if setup.Refused != nil {
		return record.Tooling{}, setup.Refused
	}
	return record.Tooling{Group: t.Group, Stages: StageTools(setup, at.calibrated)}, nil
}

// StageTools turns a setup into what a run records of it.
func StageTools(s tool.Setup, calibrated map[string]time.Time) []record.StageTool {
	var out []record.StageTool
	for _, p := range s.Settings {
		w := p.Chain.Wrench
		tools, multiplier := []string{w.Tag}, 0.0
		low, _ := tool.Lowest(w.RatedMin, w.RatedMax) // it was set within it
		if m := p.Chain.Multiplier; m != nil {
			tools, multiplier = append(tools, m.Tag), m.Accuracy
		}
		out = append(out, record.StageTool{Tools: tools, Torque: p.Torque, Lands: p.Lands, Setting: unit.Of(p.Reading.Shown, p.Unit),
			Main: p.Reading.Main, Minors: p.Reading.Minors, First: w.Scale.First, Major: w.Scale.Major, Minor: w.Scale.Minor,
			Error: p.Error, Accuracy: p.Accuracy, Multiplier: multiplier, Force: p.Force, Calibrated: calibrated[w.Tag], Due: w.Due,
			ByHand: w.Handwritten, Face: w.Face, Falls: w.Falls, Least: low, Most: w.RatedMax})
	}
	return out
}

// atHand is what of the crib somebody may take to a joint.
type atHand struct {
	wrenches    []tool.Wrench
	multipliers []tool.Multiplier
	calibrated  map[string]time.Time
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
		why := t.Tool.HeldBack
		switch {
		case why != "":
		case t.Due.Over && t.Due.ByPulls:
			why = t.Due.Overdue
		case t.Tool.LentTo != nil && *t.Tool.LentTo != who.ID && t.Tool.LentJoint != j.Tag:
			why = "it is out with " + t.Lent
			if t.Tool.LentJoint != "" {
				why += " at " + t.Tool.LentJoint
			}
		}
		if t.Tool.Calibrated != nil {
			c.calibrated[t.Tool.Tag] = *t.Tool.Calibrated
		}
		switch d := t.Data; d.Kind {
		case crib.Multiplier:
			c.multipliers = append(c.multipliers, tool.Multiplier{Tag: d.Tag, Name: d.Name, Ratio: d.Ratio, OutputMax: d.Most,
				DriveIn: d.DriveIn, DriveOut: d.DriveOut, Accuracy: d.Accuracy, HeldBack: why})
		case crib.Wrench:
			w, _ := d.Wrench()
			if w.HeldBack = why; t.Tool.Due != nil {
				w.Due = *t.Tool.Due
			}
			c.wrenches = append(c.wrenches, w)
		}
	}
	return c, nil
}

func (c atHand) chain(wrench, multiplier string) (tool.Chain, error) {
	var out tool.Chain
	found := false
	for _, w := range c.wrenches {
		if w.Tag == wrench {
			out.Wrench, found = w, true
		}
	}
	if !found {
		return out, refusal.New(refusal.Unknown, "wrench", "There is no wrench "+wrench+" in the crib.",
			"Choose one from the list, or enter it by hand.")
	}
	if multiplier == "" {
		return out, nil
	}
	for i := range c.multipliers {
		if c.multipliers[i].Tag == multiplier {
			out.Multiplier = &c.multipliers[i]
			return out, nil
		}
	}
	return out, refusal.New(refusal.Unknown, "multiplier", "There is no multiplier "+multiplier+" in the crib.",
		"Choose one from the list.")
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
