package app

import (
	"context"
	"fmt"

	"github.com/google/uuid"

	"dynacor/core/figure"
	"dynacor/core/work"
	"dynacor/internal/report"
	"dynacor/internal/store"
)

// KitCard returns the parts and the kit of a joint to print: of its plan, or of its draft
// where none is issued. link is the address that its code opens.
func (a *App) KitCard(ctx context.Context, id uuid.UUID, link string) (report.KitCard, store.Site, error) {
	j, err := a.Joint(ctx, id)
	if err != nil {
		return report.KitCard{}, store.Site{}, err
	}
	site, err := a.store.Site(ctx)
	if err != nil {
		return report.KitCard{}, site, err
	}
	in, r, res, plan := j.Draft.Input, j.Draft.Recipe, j.Draft.Result, "No plan is issued yet"
	if j.Run != nil {
		p := j.Run.State.Plan()
		in, r, res, plan = j.Run.Plan.Input, p.Recipe, p.Result, fmt.Sprintf("Plan %d", j.Run.Head.Revision)
		in.Choices = p.Choices
	}
	c := report.KitCard{Tag: j.Tag, Title: j.Title, Area: j.AreaName, Kind: r.Title, Plan: plan, Link: link}
	c.Stack, c.Drawn = figure.StackOf(r, in.Choices)
	lines := map[string][]string{}
	for _, t := range work.Kit(in, r, res) {
		lines[t.Kind] = append(lines[t.Kind], t.Text)
	}
	for _, l := range []struct{ title, kind string }{{"Parts", work.KitPart}, {"Tools", work.KitTool}, {"Materials", work.KitMaterial},
		{"Worn", work.KitWear}} {
		if len(lines[l.kind]) > 0 {
			c.Lists = append(c.Lists, report.KitList{Title: l.title, Lines: lines[l.kind]})
		}
	}
	return c, site, nil
}
