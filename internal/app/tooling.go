package app

import (
	"context"
	"time"

	"github.com/google/uuid"

	"dynacor/core/plan"
	"dynacor/core/refusal"
	"dynacor/core/run"
	"dynacor/core/tool"
	"dynacor/core/unit"
	"dynacor/internal/store"
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

// Ways returns how the passes of a joint's plan can be reached: with the
// crib's tools, or with one entered by hand.
func (a *App) Ways(ctx context.Context, joint uuid.UUID, group string, byHand *HandTool) ([]tool.Setup, error) {
	p, err := a.store.NewestPlan(ctx, joint)
	if err != nil {
		return nil, found(err, "issued plan")
	}
	crib, err := a.crib(ctx)
	if err != nil {
		return nil, err
	}
	torques, err := torquesOf(p, group)
	if err != nil {
		return nil, err
	}
	if byHand == nil {
		return tool.Ways(tool.Crib{Wrenches: crib.wrenches, Multipliers: crib.multipliers}, torques, givenIn(p, group), a.now()), nil
	}
	c, err := byHand.chain()
	if err != nil {
		return nil, err
	}
	return []tool.Setup{tool.Fit(c, torques, crib.wrenches, a.now())}, nil
}

// givenIn returns the unit a joint's torque was given in.
func givenIn(p store.Plan, group string) unit.Unit {
	if in := p.Input; p.Job == nil && in.Target.Mode == plan.Specified {
		return in.Target.Torque.Unit
	}
	if p.Job != nil {
		for _, g := range p.Job.Result.Groups {
			for _, v := range p.Job.Result.Values {
				if g.Name == group && v.Need.Name == g.Value {
					return v.Given.Value.Unit
				}
			}
		}
	}
	return unit.NewtonMetre
}

// Choose returns the entry that records a choice of tools for a run's plan:
// tags of the crib, or a tool entered by hand.
func (a *App) Choose(ctx context.Context, runID uuid.UUID, group, wrench, multiplier string, byHand *HandTool) (run.Tooling, error) {
	c, err := a.cell(ctx, runID)
	if err != nil {
		return run.Tooling{}, err
	}
	crib, err := a.crib(ctx)
	if err != nil {
		return run.Tooling{}, err
	}
	var chain tool.Chain
	if byHand != nil {
		chain, err = byHand.chain()
	} else {
		chain, err = crib.chain(wrench, multiplier)
	}
	if err != nil {
		return run.Tooling{}, err
	}
	torques, err := torquesOf(c.plan, group)
	if err != nil {
		return run.Tooling{}, err
	}
	setup := tool.Fit(chain, torques, crib.wrenches, a.now())
	if setup.Refused != nil {
		return run.Tooling{}, setup.Refused
	}
	out := Tooling(setup, crib.calibrated)
	out.Group = group
	return out, nil
}

// Tooling turns a setup into what a run records of it.
func Tooling(s tool.Setup, calibrated map[string]time.Time) run.Tooling {
	var out run.Tooling
	for _, p := range s.Settings {
		w := p.Chain.Wrench
		tools := []string{w.Tag}
		if m := p.Chain.Multiplier; m != nil {
			tools = append(tools, m.Tag)
		}
		out.Passes = append(out.Passes, run.PassTool{Pass: p.Pass, Tools: tools, Torque: p.Torque, Lands: p.Lands,
			Setting: unit.Of(p.Reading.Shown, p.Unit), Main: p.Reading.Main, Minors: p.Reading.Minors,
			First: w.Scale.First, Major: w.Scale.Major, Minor: w.Scale.Minor, Error: p.Error, Accuracy: p.Accuracy, Force: p.Force,
			Calibrated: calibrated[w.Tag], Due: w.Due, ByHand: w.Handwritten})
	}
	return out
}

type crib struct {
	wrenches    []tool.Wrench
	multipliers []tool.Multiplier
	calibrated  map[string]time.Time
}

func (a *App) crib(ctx context.Context) (crib, error) {
	list, err := a.store.Tools(ctx)
	if err != nil {
		return crib{}, err
	}
	c := crib{calibrated: map[string]time.Time{}}
	for _, t := range list {
		if t.Calibrated != nil {
			c.calibrated[t.Tag] = *t.Calibrated
		}
		if t.Kind == "multiplier" {
			c.multipliers = append(c.multipliers, tool.Multiplier{Tag: t.Tag, Name: t.Name, Ratio: t.Ratio, OutputMax: t.RatedMax,
				DriveIn: t.DriveIn, DriveOut: t.DriveOut, Accuracy: t.Accuracy, HeldBack: t.HeldBack})
			continue
		}
		c.wrenches = append(c.wrenches, wrench(t))
	}
	return c, nil
}

func wrench(t store.Tool) tool.Wrench {
	w := tool.Wrench{Tag: t.Tag, Name: t.Name, RatedMin: t.RatedMin, RatedMax: t.RatedMax, Unit: unit.Unit(t.Unit),
		Scale: tool.Scale{First: t.First, Major: t.Major, Minor: t.Minor}, Drive: t.DriveOut, Length: t.Length, Accuracy: t.Accuracy, HeldBack: t.HeldBack}
	if t.Due != nil {
		w.Due = *t.Due
	}
	return w
}

func (c crib) chain(wrench, multiplier string) (tool.Chain, error) {
	var out tool.Chain
	found := false
	for _, w := range c.wrenches {
		if w.Tag == wrench {
			out.Wrench, found = w, true
		}
	}
	if !found {
		return out, refusal.New(refusal.Unknown, "wrench", "There is no wrench "+wrench+" in the crib.", "Choose one from the list, or enter it by hand.")
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
	return out, refusal.New(refusal.Unknown, "multiplier", "There is no multiplier "+multiplier+" in the crib.", "Choose one from the list.")
}

func (h HandTool) chain() (tool.Chain, error) {
	u := string(h.Unit)
	if d, err := unit.DimensionOf(h.Unit); err != nil || d != unit.Torque {
		return tool.Chain{}, refusal.New(refusal.Unknown, "byHand.unit", "A wrench is set in a unit of torque.", "Choose N·m, ft·lbf, in·lbf or kgf·m.")
	}
	if err := refusal.First(refusal.NotNegative("byHand.min", h.Min, u), refusal.Positive("byHand.max", h.Max, u),
		refusal.NotNegative("byHand.first", h.Scale.First, u), refusal.Positive("byHand.major", h.Scale.Major, u),
		refusal.Positive("byHand.minor", h.Scale.Minor, u), refusal.Positive("byHand.accuracy", h.Accuracy, "")); err != nil {
		return tool.Chain{}, err
	}
	if h.Min > h.Max {
		return tool.Chain{}, refusal.Number(refusal.Contradicts, "byHand.min", h.Min, h.Max, u, "The range's start is above its end.", "Read both off the tool.")
	}
	if h.Scale.Minor > h.Scale.Major {
		return tool.Chain{}, refusal.Number(refusal.Contradicts, "byHand.minor", h.Scale.Minor, h.Scale.Major, u,
			"The thimble's step is larger than the main scale's.", "Read both off the tool.")
	}
	if h.Accuracy >= 0.5 {
		return tool.Chain{}, refusal.Number(refusal.TooLarge, "byHand.accuracy", h.Accuracy, 0.5, "", "An accuracy of 50 % or worse is none.", "Usual is 4 %.")
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
		c.Multiplier = &tool.Multiplier{Tag: "×", Name: "multiplier, by hand", Ratio: h.Ratio, OutputMax: top * h.Ratio, Accuracy: h.Accuracy}
	}
	return c, nil
}
