package views

import (
	"cmp"
	"fmt"
	"slices"

	"dynacor/core/joint"
	"dynacor/core/kind"
	"dynacor/core/loosen"
	"dynacor/core/preload"
	"dynacor/core/recipe"
	"dynacor/core/record"
	"dynacor/core/sequence"
	"dynacor/core/uncertainty"
	"dynacor/core/work"
	"dynacor/internal/contract"
	"dynacor/internal/judge"
)

// Groups are the groups of a joint as it was laid out; of a run with the tools that were
// chosen, nil for a draft.
func Groups(r recipe.Recipe, in joint.Input, res joint.Result, tooling map[string]record.Tooling) []contract.Group {
	return Each(res.Groups, func(g joint.Group) contract.Group {
		v := contract.Group{Name: g.Name, One: joint.One(g.Name), Of: g.Of, How: contract.GroupHow(g.How), Count: g.Count,
			Asked: g.Bolts == 0 && g.Of == "", Ring: g.Layout == recipe.Ring, Least: g.Least, Most: g.Most, Thread: g.Thread,
			Grade: g.Grade, SpecifiedFor: g.SpecifiedFor, Lubrication: g.Lubrication, Short: g.Short, IsDry: g.IsDry,
			OnCentre: g.OnCentre, Start: g.Start, Dry: g.Dry, Lock: g.Lock, Still: g.Still, Rows: g.Lie.Rows, Cols: g.Lie.Cols,
			Staged: g.Staged(), Portion: g.Portion, Stands: g.Stands, Torque: g.Torque, TorqueMin: g.TorqueMin, TorqueMax: g.TorqueMax,
			Equivalent: g.Equivalent, Share: g.Share, ShareOf: string(g.ShareOf), Prevailing: g.Prevailing, Load: g.Load,
			LikelyLow: g.LikelyLow, LikelyHigh: g.LikelyHigh, WorstLow: g.WorstLow, WorstHigh: g.WorstHigh, Needed: g.Needed,
			K: g.K.Nominal, KLow: g.K.Low, KHigh: g.K.High, Mu: g.Coefficient, Accuracy: g.Accuracy, Limit: g.Limit,
			Utilisation: g.Utilisation, Budget: budgetView(g.Budget()), Stages: OrNone(g.Stages), Torques: OrNone(g.Torques),
			Order:   OrNone(g.Order),
			Pattern: string(g.Pattern), PatternWords: OrderWords(g.Pattern), Orders: orderChoices(r, g), Words: judge.GroupSentence(res, g),
			Tooled: g.How.Tooled(), Pressed: g.With == recipe.Hydraulic, Value: g.Value, Window: window(g),
			Checks: checkViews("", g.Checks, ""), Aim: string(g.Aim), Base: g.Base, Derate: g.Derate,
			FromSnug: g.FromSnug, Stretch: g.Stretch, GasketNeeds: []string{}, WindowRows: windowViews(g.Name, g.Window),
			Stays: checkViews(g.Name, g.Stays, "stay/"), Alike: []contract.Same{}}
		if tooling == nil {
			v.Alike = Each(joint.Alike(in, r, res, g.Name), func(x joint.Same) contract.Same {
				return contract.Same{Aim: string(x.Aim), Words: x.Words, Key: x.Key}
			})
		}
		if g.Breakout.High > 0 {
			v.Breakout = breakoutView(g.Breakout, in.Groups[g.Name].Held.Age)
		}
		if g.How == recipe.ByTension {
			v.Drawn = &contract.Drawn{Load: g.Drawn.Load, Length: g.Drawn.Length, Lost: g.Drawn.Lost, Halves: g.Drawn.Halves}
		}
		if g.Gasket != nil {
			v.GasketFamily = in.Choices[g.Gasket.Choice]
			v.GasketNeeds = slices.DeleteFunc(g.Gasket.Needs(), func(s string) bool { return s == "" })
		}
		if t, ok := tooling[g.Name]; ok {
			v.Tooling = StageTools(g.Stages, t.Stages)
			for _, stages := range t.Beside {
				v.Beside = append(v.Beside, StageTools(g.Stages, stages))
			}
			if b, ok := work.BandOf(g, t.Stages[len(t.Stages)-1]); ok {
				v.Band = contract.Band{Load: b.Load, Low: b.Low, High: b.High, Budget: budgetView(b.Budget)}
			}
		}
		return v
	})
}

func breakoutView(b loosen.Breakout, age loosen.Age) contract.Breakout {
	return contract.Breakout{Low: b.Low, Likely: b.Likely, High: b.High, Age: string(cmp.Or(age, loosen.Settled)),
		Ages: Each(loosen.Ages(), func(a loosen.Age) string { return string(a) })}
}

// checkViews are rows with their derivations' keys and, where a group is named, those of
// the reasons they wait for.
func checkViews(group string, list []preload.Check, keys string) []contract.Check {
	return Each(list, func(c preload.Check) contract.Check {
		v := contract.Check{Name: c.Name, Value: c.Value, Limit: c.Limit, Unit: c.Unit, Holds: c.Holds, Margin: c.Margin, Least: c.Least,
			Informs: c.Informs, Note: c.Note}
		if c.Key != "" {
			v.Key, v.OfLimit = keys+c.Key, joint.StayOfLimit(c.Key)
		}
		if group != "" {
			v.Answer = joint.Answers(group, c)
		}
		return v
	})
}

// windowViews are the rows of a gasket's window, each with the stress behind its limit;
// the one with the least to spare decides.
func windowViews(group string, list []preload.Check) []contract.Check {
	out := checkViews(group, list, "window/")
	least, _ := preload.Limiting(list)
	for i, c := range list {
		out[i].Decides = c.Key == least.Key
		on := "on the gasket"
		if c.Key == preload.Least || c.Key == preload.Most || c.Key == preload.Flange {
			on = "in the bolt"
		}
		out[i].Note = fmt.Sprintf("%.4g MPa %s", c.Stress, on)
	}
	return out
}

// window is a group's torque, or its window, in words.
func window(g joint.Group) string {
	switch {
	case g.Drawn.Load > 0:
		return fmt.Sprintf("%.4g kN", g.Drawn.Load/1000)
	case g.Torque == 0:
		return ""
	case g.TorqueMax > g.TorqueMin:
		return fmt.Sprintf("%.4g to %.4g N·m", g.TorqueMin, g.TorqueMax)
	}
	return fmt.Sprintf("%.4g N·m", g.Torque)
}

// eighthsFrom is how many bolts a ring has before it is worth crossing by eighths.
const eighthsFrom = 24

// budgetView lists what a band is made of, the largest part first.
func budgetView(b uncertainty.Budget) []contract.BudgetPart {
	return Each(b.Order(), func(i int) contract.BudgetPart { return contract.BudgetPart{Name: b.Parts[i].Name, Share: b.Share(i)} })
}

// orderChoices lists the orders a group can be tightened in, its kind's own
// first, with what another does to it.
func orderChoices(r recipe.Recipe, g joint.Group) []contract.OrderChoice {
	out := []contract.OrderChoice{}
	k, err := kind.Named(r.Kind)
	if err != nil || g.Count < 3 || (g.Layout != recipe.Ring && g.Layout != recipe.Cover) || len(k.Orders) == 0 {
		return out
	}
	list := slices.Clone(k.Orders)
	if g.Count < eighthsFrom {
		list = slices.DeleteFunc(list, func(p sequence.Pattern) bool { return p == sequence.Cross8 })
	}
	for _, p := range []sequence.Pattern{sequence.Cross4, sequence.Apart4, sequence.Star, sequence.Circular} {
		if !slices.Contains(list, p) {
			list = append(list, p)
		}
	}
	for _, p := range list {
		if p.Fits(g.Count) != nil {
			continue
		}
		against, _ := k.Warn(p)
		out = append(out, contract.OrderChoice{Name: string(p), Words: OrderWords(p), Against: against})
	}
	return out
}

// orderWords says an order.
func OrderWords(p sequence.Pattern) string { return p.Words() }
