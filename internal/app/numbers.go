package app

import (
	"context"

	"github.com/google/uuid"

	"dynacor/core/derive"
	"dynacor/core/joint"
	"dynacor/core/recipe"
	"dynacor/core/record"
	"dynacor/internal/report"
)

// Numbers says where the numbers of a joint come from: those of its draft, or of its
// newest plan with the tools that were chosen for it.
func (a *App) Numbers(ctx context.Context, id uuid.UUID, ofPlan bool) ([]report.Number, error) {
	j, err := a.Joint(ctx, id)
	if err != nil {
		return nil, err
	}
	if !ofPlan {
		return numbers(j.Draft.Input, j.Draft.Recipe, j.Draft.Result, nil)
	}
	if j.Run == nil {
		return nil, notFound("issued plan")
	}
	return j.Run.numbers()
}

// numbers says where those of a run's plan and its tools come from.
func (r Run) numbers() ([]report.Number, error) {
	return numbers(r.Plan.Input, r.State.Plan().Recipe, r.State.Plan().Result, r.State.Tooling)
}

func numbers(in joint.Input, of recipe.Recipe, res joint.Result, tooling map[string]record.Tooling) ([]report.Number, error) {
	all, err := joint.Derive(in, of, res)
	if err != nil {
		return nil, err
	}
	for _, g := range res.Groups {
		for i, t := range tooling[g.Name].Stages {
			more, err := t.Derive(g.Name, i+1)
			if err != nil {
				return nil, err
			}
			all = append(all, more...)
		}
	}
	out := make([]report.Number, len(all))
	for i, d := range all {
		out[i] = numberOf(d)
	}
	return out, nil
}

func numberOf(d derive.Derivation) report.Number {
	n := report.Number{Of: d.Of, Key: d.Key, Name: d.Name, Formula: d.Written(), Numbers: d.Numbers(), Comes: d.Comes(), Source: d.Origin(),
		Valid: d.Valid, Uncertain: d.Uncertainty(), Changes: d.Changes()}
	for i, s := range d.Symbols {
		x := d.Inputs[i]
		v := report.Symbol{Sign: s.Sign, Name: s.Name, Amount: derive.Amount(x.Value, s.Unit), From: x.From}
		if x.Derived {
			v.From, v.Key = "", x.From
		}
		n.Symbols = append(n.Symbols, v)
	}
	return n
}
