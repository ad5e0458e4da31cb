package work

import (
	"time"

	"dynacor/core/joint"
	"dynacor/core/recipe"
	"dynacor/core/record"
	"dynacor/core/tool"
	"dynacor/core/unit"
)

// Calibrated is when tools were calibrated, by their tags; of those that are not in it
// nobody knows.
type Calibrated map[string]time.Time

// StageTools turns a setup into what a run records of it.
func StageTools(s tool.Setup, calibrated Calibrated) []record.StageTool {
	var out []record.StageTool
	for _, p := range s.Settings {
		w, multiplier := p.Chain.Wrench, 0.0
		low, _ := tool.Lowest(w.RatedMin, w.RatedMax) // it was set within it
		if m := p.Chain.Multiplier; m != nil {
			multiplier = m.Accuracy
		}
		t := record.StageTool{Tools: p.Chain.Tags(), Torque: p.Torque, Lands: p.Lands, Setting: unit.Of(p.Reading.Shown, p.Unit),
			Main: p.Reading.Main, Minors: p.Reading.Minors, First: w.Scale.First, Major: w.Scale.Major, Minor: w.Scale.Minor,
			Error: p.Error, Accuracy: p.Accuracy, Multiplier: multiplier, Force: p.Force, Calibrated: calibrated[w.Tag], Due: w.Due,
			ByHand: w.Handwritten, Face: w.Face, Falls: w.Falls, Least: low, Most: w.RatedMax}
		at, _ := unit.Convert(p.Reading.Shown, p.Unit, unit.NewtonMetre)
		for _, l := range p.Chain.Links() {
			through := at
			if l.Geared {
				through = p.Lands
			}
			t.Links = append(t.Links, record.Link{Kind: string(l.Kind), Tag: l.Tag, Drive: l.Drive, Limit: l.Limit, Torque: through, Ratio: l.Ratio,
				Length: l.Length, Angle: l.Angle, Size: l.Size, Inside: l.Inside})
		}
		out = append(out, t)
	}
	return out
}

// gaugeFace is how a hydraulic tool shows its pressure.
const gaugeFace = "gauge"

// RigTools turns a hydraulic wrench with its rig into what a run records of it; nothing of
// one that is refused.
func RigTools(x tool.Rigging, calibrated Calibrated) []record.StageTool {
	if x.Refused != nil {
		return nil
	}
	w := x.Rig.Wrench
	all := record.StageTool{Tools: x.Rig.Tags(), ByHand: w.Handwritten, Face: gaugeFace, Minor: x.Step, Major: x.Step,
		Least: x.Chart[0].Pressure, Most: x.Chart[len(x.Chart)-1].Pressure, Calibrated: calibrated[w.Tag],
		Full: x.Chart[len(x.Chart)-1].Pressure}
	for _, r := range x.Chart {
		all.Chart = append(all.Chart, record.ChartRow(r))
	}
	supplied(&all, x.Rig.Supply, w.Due)
	all.Links = append([]record.Link{{Kind: string(tool.LinkHydraulic), Tag: w.Tag, Drive: w.Drive, Limit: x.Chart[len(x.Chart)-1].Torque}},
		all.Links...)
	if k := x.Rig.Socket; k != nil {
		all.Links = append(all.Links, record.Link{Kind: string(tool.LinkSocket), Tag: k.Tag, Limit: k.Limit, Size: k.Size, Inside: k.Inside})
	}
	out := make([]record.StageTool, len(x.Stages))
	for i, p := range x.Stages {
		t := all
		t.Torque, t.Lands, t.Setting, t.Error, t.Accuracy = p.Torque, p.Lands, unit.Of(p.Pressure, x.Unit), p.Error, p.Accuracy
		t.Links = append([]record.Link(nil), all.Links...)
		for k := range t.Links {
			switch tool.LinkKind(t.Links[k].Kind) {
			case tool.LinkHydraulic, tool.LinkSocket:
				t.Links[k].Torque = p.Lands
			}
		}
		out[i] = t
	}
	return out
}

// DrawTools turns a tensioner with its supply into what a run records of it.
func DrawTools(x tool.Tensioning, d tool.Draft, calibrated Calibrated) []record.StageTool {
	bears, _ := unit.Convert(x.Tool.Most, x.Tool.Unit, x.Unit) // converted when it was set
	all := record.StageTool{Tools: x.Tags(), ByHand: x.Tool.Handwritten, Face: gaugeFace, Minor: x.Step, Major: x.Step, Most: bears,
		Calibrated: calibrated[x.Tool.Tag], Full: bears}
	supplied(&all, x.Supply, x.Tool.Due)
	all.Links = append([]record.Link{{Kind: string(tool.LinkTensioner), Tag: x.Tool.Tag, Size: x.Tool.Thread}}, all.Links...)
	out := make([]record.StageTool, len(x.Draws))
	for i, p := range x.Draws {
		t := all
		t.Setting, t.Error, t.Accuracy = unit.Of(p.Set, x.Unit), p.Error, p.Accuracy
		t.Draw = record.Draw{Load: p.Load, Factor: p.LossFactor, Applied: p.Applied, Area: x.Tool.RamArea, Length: d.Length,
			Yield: p.StressShare, Lengthens: p.Lengthens, Stroke: x.Tool.Stroke, Residual: x.Residual}
		out[i] = t
	}
	return out
}

// supplied adds pump and gauge to a tool, and the earlier of two dates.
func supplied(t *record.StageTool, s tool.Supply, due time.Time) {
	t.Due = due
	if s.Pump != nil {
		t.Links = append(t.Links, record.Link{Kind: string(tool.LinkPump), Tag: s.Pump.Tag})
	}
	if g := s.Gauge; g != nil {
		t.Links = append(t.Links, record.Link{Kind: string(tool.LinkGauge), Tag: g.Tag})
		t.Full = g.Most
		if !g.Due.IsZero() && (due.IsZero() || g.Due.Before(due)) {
			t.Due, t.DueOf = g.Due, g.Tag
		}
	}
}

// OneTool is one tool, by its tag, for every stage of a group, as a careful hand sets it: a
// wrench, or what else alone the group is pulled with. It reaches everything.
func OneTool(g joint.Group, tag string) record.Tooling {
	t := record.Tooling{Group: g.Name}
	switch {
	case g.How == recipe.ByTension:
		t.Stages = oneTensioner(g, tag)
	case g.With == recipe.Hydraulic:
		last := g.Torques[len(g.Torques)-1]
		w := tool.Hydraulic{Tag: tag, PressureUnit: unit.Bar, Graduation: 1, Accuracy: 0.03,
			Chart: tool.Chart{{Pressure: 10, Torque: 0.01 * last}, {Pressure: 700, Torque: 1.5 * last}}}
		t.Stages = RigTools(tool.Rig{Wrench: w}.Set(g.Torques, time.Time{}), nil)
	default:
		for _, torque := range g.Torques {
			t.Stages = append(t.Stages, record.StageTool{Tools: []string{tag}, Torque: torque, Lands: torque, Setting: unit.Of(torque,
				unit.NewtonMetre)})
		}
	}
	return t
}

func oneTensioner(g joint.Group, tag string) []record.StageTool {
	d, err := g.Draft()
	if err != nil {
		return nil // a plan with it is not laid
	}
	x := tool.Tensioner{Tag: tag, Thread: d.Thread.Diameter, RamArea: 4 * d.Thread.StressArea(), Unit: unit.Bar, Most: 1e5,
		Graduation: 1, Accuracy: 0.03}
	return DrawTools(x.Set(d, tool.Supply{}, time.Time{}), d, nil)
}
