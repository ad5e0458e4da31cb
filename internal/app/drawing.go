package app

import (
	"context"
	"slices"

	"github.com/google/uuid"

	"dynacor/internal/judge"
	"dynacor/internal/report"
)

// Drawing returns a joint's drawing with what its bolts hold; byOrder labels
// them by the order they are tightened in.
func (a *App) Drawing(ctx context.Context, id uuid.UUID, byOrder bool) (report.Drawing, error) {
	j, err := a.Joint(ctx, id)
	if err != nil {
		return report.Drawing{}, err
	}
	d := report.Drawing{Tag: j.Tag, Title: j.Title, Figure: judge.Figure(j.Draft.Recipe, j.Draft.Result)}
	if j.Run != nil {
		d.Figure = judge.Figure(j.Run.State.Plan().Recipe, j.Run.Plan.Result)
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
