package app

import (
	"cmp"
	"context"
	"fmt"
	"strconv"
	"strings"

	"github.com/google/uuid"

	"dynacor/core/joint"
	"dynacor/core/recipe"
	"dynacor/core/refusal"
	"dynacor/internal/judge"
	"dynacor/internal/report"
	"dynacor/internal/store"
)

// The most that go into one document.
const (
	MostInPack  = 300
	MostOnCards = 800
)

// Pack returns the newest signed record of each joint that has one, of an area or of all, by
// area.
func (a *App) Pack(ctx context.Context, area uuid.UUID) (list []report.Record, site Site, err error) {
	if site, err = a.Site(ctx); err != nil {
		return nil, site, err
	}
	cards, err := a.chosen(ctx, area, nil)
	if err != nil {
		return nil, site, err
	}
	var signed []JointCard
	for _, c := range cards {
		if c.State == "signed" {
			signed = append(signed, c)
		}
	}
	if len(signed) == 0 {
		return nil, site, &Error{Kind: NotFound, Code: "nothing-signed", Text: "No record is signed there yet.",
			Way: "Sign one, or choose another area."}
	}
	if len(signed) > MostInPack {
		return nil, site, refusal.Number(refusal.TooLarge, "area", float64(len(signed)), MostInPack, "records",
			fmt.Sprintf("%d records are signed; a pack holds %d.", len(signed), MostInPack), "Choose an area.")
	}
	a.sealBefore(ctx)
	for _, c := range signed {
		r, err := a.recordOn(ctx, c.Joint, 0)
		if err != nil {
			return nil, site, err
		}
		list = append(list, r)
	}
	return list, site, nil
}

// chosen returns the cards of joints: of those that are named, else of an area, else all.
func (a *App) chosen(ctx context.Context, area uuid.UUID, joints []uuid.UUID) (out []JointCard, err error) {
	w, err := a.Wall(ctx, Who{})
	if err != nil {
		return nil, err
	}
	named := map[uuid.UUID]bool{}
	for _, id := range joints {
		named[id] = true
	}
	for _, c := range w.Cards {
		switch {
		case len(joints) > 0 && !named[c.Joint.ID]:
		case len(joints) == 0 && area != uuid.Nil && c.Joint.Area != area:
		default:
			out = append(out, c)
		}
	}
	return out, nil
}

// JointCards returns the cards that hang at joints: of those that are named, else of an area,
// else of all. link gives the address that opens a joint.
func (a *App) JointCards(ctx context.Context, area uuid.UUID, joints []uuid.UUID, link func(uuid.UUID) string) (list []report.Card,
	site Site,
	err error) {
	if site, err = a.Site(ctx); err != nil {
		return nil, site, err
	}
	cards, err := a.chosen(ctx, area, joints)
	if err != nil {
		return nil, site, err
	}
	if len(cards) == 0 {
		return nil, site, notFound("joint")
	}
	if len(cards) > MostOnCards {
		return nil, site, refusal.Number(refusal.TooLarge, "area", float64(len(cards)), MostOnCards, "cards",
			fmt.Sprintf("%d joints; %d cards are printed at a time.", len(cards), MostOnCards), "Choose an area.")
	}
	plans, err := a.newestPlans(ctx)
	if err != nil {
		return nil, site, err
	}
	drafts, err := a.store.Drafts(ctx)
	if err != nil {
		return nil, site, err
	}
	newest, err := a.newestEditions(ctx)
	if err != nil {
		return nil, site, err
	}
	for _, c := range cards {
		card := report.Card{Tag: c.Joint.Tag, Title: c.Joint.Title, Area: c.Joint.AreaName, Kind: c.Kind, Link: link(c.Joint.ID)}
		if err := a.cardOf(ctx, &card, c.Joint, plans, drafts, newest); err != nil {
			return nil, site, err
		}
		list = append(list, card)
	}
	return list, site, nil
}

func (a *App) newestPlans(ctx context.Context) (map[uuid.UUID]store.Plan, error) {
	list, err := a.store.NewestPlans(ctx)
	out := make(map[uuid.UUID]store.Plan, len(list))
	for _, p := range list {
		out[p.Joint] = p
	}
	return out, err
}

// cardOf fills in what a joint's plan says, or its draft where it has none: that the values
// are not issued stands on it.
func (a *App) cardOf(ctx context.Context, c *report.Card, j store.Joint, plans map[uuid.UUID]store.Plan, drafts map[uuid.UUID]store.Draft,
	newest map[string]int) error {
	if p, issued := plans[j.ID]; issued {
		if p.Fault != "" {
			c.Plan = "its record does not hold: do not work by this card"
			return nil
		}
		_, r, err := a.recipeOf(ctx, p.Input)
		if what, torn := faultOf(err); torn {
			c.Plan = what
			return nil
		}
		if err != nil {
			return err
		}
		res := p.Result.With(r)
		c.Plan, c.Kind = fmt.Sprintf("plan %d of %s; a newer plan wins", p.Revision, p.IssuedAt.In(a.zone).Format("2 Jan 2006")), r.Title
		c.Figure, c.Values = judge.Figure(r, res), cardValues(res)
		return nil
	}
	d, err := a.draft(ctx, j, drafts[j.ID], newest[j.Recipe])
	if what, torn := faultOf(err); torn {
		c.Plan = what
		return nil
	}
	if err != nil {
		return err
	}
	c.Plan, c.Kind = "no plan is issued yet: no values", d.Recipe.Title
	c.Figure = judge.Figure(d.Recipe, d.Result)
	return nil
}

// cardValues says what each group of bolts is pulled to, and in which order.
func cardValues(res joint.Result) (out []report.CardValue) {
	for _, g := range res.Own() {
		v := report.CardValue{Words: fmt.Sprintf("%d × %s", g.Count, cmp.Or(strings.TrimSpace(g.Thread+" "+g.Grade), g.Name))}
		if g.Lubrication != "" {
			v.Words += ", " + g.Lubrication
		}
		switch {
		case g.How == recipe.ByTorque && g.TorqueMax > g.TorqueMin:
			v.Value = fmt.Sprintf("%.4g to %.4g N·m", g.TorqueMin, g.TorqueMax)
		case g.How == recipe.ByTorque:
			v.Value = fmt.Sprintf("%.4g N·m", g.Torque)
		case g.How == recipe.ByTurns:
			v.Value = "by turns"
		case g.How == recipe.ByHand:
			v.Value = "by hand"
		case g.How == recipe.ByTension:
			v.Value = fmt.Sprintf("%.4g kN", g.Drawn.Load/1000)
		case g.How == recipe.ByPressure:
			v.Value = "by pressure"
			v.Words += "; as the wrench’s chart says"
		case g.How == recipe.NotTorqued:
			v.Value = "not torqued"
		}
		if len(g.Stages) > 1 {
			var stages []string
			for _, s := range g.Stages {
				stages = append(stages, fmt.Sprintf("%.3g", s))
			}
			v.Words += "; stages " + strings.Join(stages, ", ") + " %"
		}
		var order []string
		for _, b := range g.Order {
			order = append(order, strconv.Itoa(b))
		}
		if len(order) > 1 {
			v.Order = strings.Join(order, " ")
		}
		out = append(out, v)
	}
	return out
}
