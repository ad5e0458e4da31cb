package app

import (
	"context"
	"slices"

	"github.com/google/uuid"

	"dynacor/core/figure"
	"dynacor/core/joint"
	"dynacor/core/recipe"
	"dynacor/internal/report"
)

// Figure draws a joint of a recipe.
func Figure(r recipe.Recipe, res joint.Result) figure.Figure {
	var groups []figure.Group
	for _, g := range res.Own() {
		x := figure.Group{Name: g.Name, Layout: g.Layout, Bolts: g.Count, OnCentre: g.OnCentre, Holes: g.Holes, Grid: g.Lie}
		if g.Diameter > 0 {
			x.GasketOuter, x.GasketInner = g.GasketOuter/g.Diameter, g.GasketInner/g.Diameter
		}
		groups = append(groups, x)
	}
	return figure.Of(r.Drawing, groups)
}

// Drawing returns a joint's drawing with what its bolts hold; byOrder labels
// them by the order they are tightened in.
func (a *App) Drawing(ctx context.Context, id uuid.UUID, byOrder bool) (report.Drawing, error) {
	j, err := a.Joint(ctx, id)
	if err != nil {
		return report.Drawing{}, err
	}
	d := report.Drawing{Tag: j.Tag, Title: j.Title, Figure: Figure(j.Draft.Recipe, j.Draft.Result)}
	if j.Run != nil {
		d.Figure = Figure(j.Run.State.Plan().Recipe, j.Run.Plan.Result)
		for _, b := range j.Run.State.Bolts() {
			d.Levels = append(d.Levels, b.Level)
		}
	}
	if !byOrder {
		return d, nil
	}
	groups := j.Draft.Result.Groups
	if j.Run != nil {
		groups = slices.Concat(groups, j.Run.Plan.Result.Groups)
	}
	orders := map[string][]int{}
	for _, g := range groups {
		orders[g.Name] = g.Order
	}
	for _, b := range d.Figure.Bolts {
		d.Labels = append(d.Labels, slices.Index(orders[b.Group], b.Bolt)+1)
	}
	return d, nil
}
