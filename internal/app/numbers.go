package app

import (
	"context"
	"strings"

	"github.com/google/uuid"

	"dynacor/core/derive"
	"dynacor/core/joint"
	"dynacor/core/recipe"
	"dynacor/core/record"
	"dynacor/core/work"
	"dynacor/internal/report"
)

// Numbers returns a joint with where its numbers come from: those of its draft, or of
// its newest plan with the tools that were chosen for it and what was read.
func (a *App) Numbers(ctx context.Context, id uuid.UUID, ofPlan bool) (j Joint, list []report.Number, err error) {
	if j, err = a.Joint(ctx, id); err != nil {
		return j, nil, err
	}
	switch {
	case !ofPlan:
		list, err = numbers(j.Draft.Input, j.Draft.Recipe, j.Draft.Result)
	case j.Run == nil:
		err = notFound("issued plan")
	default:
		list, err = runNumbers(*j.Run)
	}
	return j, list, err
}

// runNumbers says where those of a run's plan, its tools and its readings come from.
func runNumbers(r Run) ([]report.Number, error) {
	p, more := r.State.Plan(), []derive.Derivation{}
	for _, g := range p.Result.Groups {
		for hand, stages := range r.State.Tooling[g.Name].Hands() {
			for i, t := range stages {
				of, err := t.Derive(record.OfHand(g.Name, hand), i+1)
				if err != nil {
					return nil, err
				}
				more = append(more, of...)
			}
		}
	}
	steps, err := r.State.Derive()
	if err != nil {
		return nil, err
	}
	out, err := numbers(r.Plan.Input, p.Recipe, p.Result, append(more, steps...)...)
	for i := range out {
		if id, ok := strings.CutPrefix(out[i].Of, work.OfStep("")); ok {
			s, _ := p.Step(id)
			out[i].Part = s.Text
		}
	}
	return out, err
}

func numbers(in joint.Input, of recipe.Recipe, res joint.Result, more ...derive.Derivation) ([]report.Number, error) {
	all, err := joint.Derive(in, of, res)
	if err != nil {
		return nil, err
	}
	all = append(all, more...)
	out := make([]report.Number, len(all))
	for i, d := range all {
		out[i] = numberOf(d)
	}
	return out, nil
}

func numberOf(d derive.Derivation) report.Number {
	n := report.Number{Of: d.Of, Part: d.Of, Key: d.Key, Name: d.Name, Formula: d.Written(), Numbers: d.Numbers(), Comes: d.Comes(),
		Source: d.Origin(),
		Valid:  d.Valid, Uncertain: d.Uncertainty(), Changes: d.Changes()}
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
