package trying

import (
	"dynacor/core/crib"
	"dynacor/core/drill"
	"dynacor/core/tool"
	"dynacor/core/trace"
	"dynacor/core/unit"
	"dynacor/internal/contract"
)

// Material reads what tasks are drawn from.
func Material(m contract.DrillMaterial) drill.Material {
	return drill.Material{
		Tools: each(m.Tools, func(t contract.DrillTool) crib.Tool {
			return crib.Tool{Tag: t.Tag, Name: t.Name, Kind: crib.Kind(t.Kind), Face: crib.Face(t.Face), Unit: unit.Unit(t.Unit), Least: t.Least,
				Most: t.Most, Scale: tool.Scale{First: t.First, Major: t.Major, Minor: t.Minor}, Falls: t.Falls, Inside: t.Inside, Size: t.Size,
				DriveIn: t.DriveIn, DriveOut: t.DriveOut}
		}),
		Stacks: each(m.Stacks, func(s contract.DrillStack) drill.Stack {
			return drill.Stack{Recipe: s.Recipe, Title: s.Title, First: s.Stack.First, Last: s.Stack.Last,
				Parts: each(s.Stack.Parts, func(p contract.StackPart) string { return p.Name })}
		})}
}

// ToolsView writes the tools that tasks are drawn from.
func ToolsView(tools []crib.Tool) []contract.DrillTool {
	return each(tools, func(t crib.Tool) contract.DrillTool {
		return contract.DrillTool{Tag: t.Tag, Name: t.Name, Kind: string(t.Kind), Face: string(t.Face), Unit: string(t.Unit), Least: t.Least,
			Most: t.Most, First: t.Scale.First, Major: t.Scale.Major, Minor: t.Scale.Minor, Falls: t.Falls, Inside: t.Inside, Size: t.Size,
			DriveIn: t.DriveIn, DriveOut: t.DriveOut}
	})
}

// Given reads an answer.
func Given(g contract.DrillGiven) drill.Answer {
	return drill.Answer{Value: g.Value, Order: g.Order, Moves: each(g.Moves, func(m contract.DrillMove) drill.Move { return drill.Move(m) })}
}

func drawn(a contract.DrillAsk) (drill.Task, error) {
	return drill.New(drill.Kind(a.Kind), uint64(a.Seed), Material(a.Material))
}

// task answers with a task of a drill, drawn from its seed.
func task(a contract.DrillAsk) (any, error) {
	t, err := drawn(a)
	if err != nil {
		return nil, err
	}
	out := contract.DrillTask{Kind: a.Kind, Seed: a.Seed, Tasks: drill.Tasks}
	switch t.Kind {
	case drill.SetIt, drill.ReadIt:
		f := t.Face
		s, err := f.Shows(f.At)
		if err != nil {
			return nil, err
		}
		out.Face = &contract.DrillFace{Tag: f.Tool.Tag, Name: f.Tool.Name, Shows: face(f.Tool, s), At: f.At, To: f.To, Unit: string(f.In),
			Steps: each(f.By, same)}
	case drill.NextBolt:
		n := t.Next
		out.Next = &contract.DrillNext{Bolts: n.Bolts, Order: n.Order.Words(), Start: n.Start, Stage: n.Stage, Stages: n.Stages, Share: n.Share,
			Pulled: n.Pulled}
	case drill.Parts:
		p := t.Parts
		out.Parts = &contract.DrillParts{Recipe: p.Recipe, Title: p.Title, First: p.First, Before: p.Before, Parts: p.Parts}
	case drill.Pressure:
		g := t.Press
		s, err := g.Gauge.Shows(0)
		if err != nil {
			return nil, err
		}
		out.Press = &contract.DrillPress{Tag: g.Gauge.Tag, Name: g.Gauge.Name, Shows: face(g.Gauge, s), To: g.To, Off: g.Off, Most: g.Most,
			Hold: drill.HoldFor, Time: drill.HoldTime}
		out.Press.Shows.Limit = g.Most
	case drill.Wrong:
		w := t.Wrong
		out.Wrong = &contract.DrillWrong{About: contract.DrillWrongAbout(w.About), Says: w.Says, Options: w.Options, Unit: string(w.Unit),
			Target: w.Target, Low: w.Low, High: w.High, Gaps: w.Gaps, Size: w.Size, Bolts: w.Bolts,
			Trace: each(w.Points, func(p trace.Point) []float64 { return []float64{p.Angle, p.Torque} })}
	case drill.Convert:
		out.Convert = &contract.DrillConvert{Value: t.Convert.Value, From: string(t.Convert.From), To: string(t.Convert.To)}
	case drill.Click:
		out.Click = &contract.DrillClick{Click: t.Click.Click, Pace: t.Click.Pace}
	}
	return out, nil
}

// face writes what the hand sees of a tool.
func face(t crib.Tool, s crib.Shown) contract.Face {
	v := contract.Face{Kind: contract.FaceKindGauge, Unit: string(s.In), Value: s.Value, First: s.First, Major: s.Major, Minor: s.Minor,
		Least: s.Least, Most: s.Most, Main: s.Main, Minors: s.Minors, Turn: s.Turn, Digits: s.Digits, Falls: t.Falls, Words: s.Words}
	if t.Kind == crib.Wrench {
		v.Kind = contract.FaceKind(t.Face)
	}
	return v
}

// shown answers with how the face of a task looks when it is turned.
func shown(a contract.DrillAsk) (any, error) {
	t, err := drawn(a)
	if err != nil {
		return nil, err
	}
	s, err := t.Face.Shows(a.At + a.By)
	return face(t.Face.Tool, s), err
}

// stood answers with how the pressure of a task stands at a time.
func stood(a contract.DrillAsk) (any, error) {
	t, err := drawn(a)
	if err != nil {
		return nil, err
	}
	s, err := t.Press.Stands(Given(a.Given).Moves, a.At)
	return contract.DrillStood{Pressure: s.Pressure, Held: s.Held, Over: s.Over, Done: s.Done}, err
}

// judged answers with what an answer is found to be.
func judged(a contract.DrillAsk) (any, error) {
	t, err := drawn(a)
	if err != nil {
		return nil, err
	}
	j, err := t.Judge(Given(a.Given))
	return contract.DrillJudged{Holds: j.Holds, Right: j.Right, Order: each(j.Order, same), Why: j.Why}, err
}
