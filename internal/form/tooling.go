package form

import "dynacor/core/record"

// stageForms are the tools of every stage as they are stored.
func stageForms(stages []record.StageTool) []stageForm {
	out := make([]stageForm, len(stages))
	for i, t := range stages {
		out[i] = stageForm{t.Tools, t.Torque, t.Lands, QuantityOf(t.Setting), t.Main, t.Minors, t.First, t.Major, t.Minor, t.Error,
			t.Accuracy, t.Multiplier, t.Force, t.Calibrated, t.Due, t.ByHand, t.Face, t.Falls, t.Least, t.Most, nil, nil, drawForm(t.Draw),
			t.DueOf, t.Full}
		for _, l := range t.Links {
			out[i].Links = append(out[i].Links, linkForm(l))
		}
		for _, r := range t.Chart {
			out[i].Chart = append(out[i].Chart, [2]float64{r.Pressure, r.Torque})
		}
	}
	return out
}

func tooling(f toolingForm) record.Content {
	c := record.Tooling{Group: f.Group, Stages: stageTools(f.Stages)}
	for _, stages := range f.Beside {
		c.Beside = append(c.Beside, stageTools(stages))
	}
	return c
}

func stageTools(stages []stageForm) []record.StageTool {
	out := make([]record.StageTool, len(stages))
	for i, t := range stages {
		out[i] = record.StageTool{Tools: t.Tools, Torque: t.Torque, Lands: t.Lands, Setting: t.Setting.Quantity(), Main: t.Main,
			Minors: t.Minors, First: t.First, Major: t.Major, Minor: t.Minor, Error: t.Error, Accuracy: t.Accuracy,
			Multiplier: t.Multiplier, Force: t.Force,
			Calibrated: t.Calibrated, Due: t.Due, ByHand: t.ByHand, Face: t.Face, Falls: t.Falls, Least: t.Least, Most: t.Most,
			Draw: record.Draw(t.Draw), DueOf: t.DueOf, Full: t.Full}
		for _, l := range t.Links {
			out[i].Links = append(out[i].Links, record.Link(l))
		}
		for _, r := range t.Chart {
			out[i].Chart = append(out[i].Chart, record.ChartRow{Pressure: r[0], Torque: r[1]})
		}
	}
	return out
}
