package server

import (
	"context"
	"fmt"
	"maps"
	"reflect"
	"slices"
	"strings"
	"time"

	"dynacor/core/joint"
	"dynacor/core/kind"
	"dynacor/core/loosen"
	"dynacor/core/recipe"
	"dynacor/core/sequence"
	"dynacor/core/stay"
	"dynacor/internal/app"
	"dynacor/internal/contract"
	"dynacor/internal/judge"
	"dynacor/internal/views"
)

func (s *Server) jointView(ctx context.Context, j app.Joint) (contract.Joint, error) {
	v := contract.Joint{ID: j.ID, Tag: j.Tag, Title: j.Title, Area: j.AreaName, Station: 1, Draft: draftView(j.Draft),
		Before: []contract.EarlierRun{}, Follows: views.Each(j.Follows, furtherWords),
		Held: views.Each(j.Held, func(t app.HeldTool) contract.HeldTool { return contract.HeldTool(t) })}
	if j.Run == nil {
		return v, nil
	}
	lacks, err := s.app.Lacks(ctx, who(ctx), j.Run.Plan.Input.Recipe)
	if err != nil {
		return v, err
	}
	v.Drills = views.Each(lacks, func(d string) contract.DrillKind { return contract.DrillKind(d) })
	names, err := s.app.Names(ctx, append([]app.Run{*j.Run}, j.Before...)...)
	if err != nil {
		return v, err
	}
	v.Before = views.Each(j.Before, func(r app.Run) contract.EarlierRun {
		at, _ := r.SignedAt()
		return contract.EarlierRun{Revision: r.Head.Revision, Words: r.Words(), IssuedBy: names[r.Plan.IssuedBy.String()],
			IssuedAt: r.Plan.IssuedAt, Reason: r.Plan.Reason, Entries: r.Head.HeadSeq, SignedAt: at}
	})
	p := j.Run.Plan
	v.Plan = &contract.IssuedPlan{Revision: p.Revision, IssuedBy: names[p.IssuedBy.String()], IssuedAt: p.IssuedAt,
		CoreVersion: p.CoreVersion, Reason: p.Reason, Changed: !same(p.Input, j.Draft.Input), Edition: p.Input.Edition,
		Compared: comparedViews(p.Input, p.Result)}
	r := views.Run(who(ctx), *j.Run, names, views.Far, time.Now())
	v.Run, v.Station = &r, j.Run.State.Standing.Station()
	return v, nil
}

// same compares two inputs by what they say.
func same(a, b joint.Input) bool {
	a.MadeAt, b.MadeAt = a.MadeAt.UTC(), b.MadeAt.UTC()
	return reflect.DeepEqual(plain(a), plain(b))
}

// plain makes maps that say nothing alike.
func plain(in joint.Input) joint.Input {
	if len(in.Choices) == 0 {
		in.Choices = nil
	}
	if len(in.Values) == 0 {
		in.Values = nil
	}
	if len(in.Groups) == 0 {
		in.Groups = nil
	}
	if len(in.Reasons) == 0 {
		in.Reasons = nil
	}
	return in
}

func given(g joint.Given) contract.Given {
	return contract.Given{Value: views.Quantity(g.Value), Max: views.Quantity(g.Max)}
}

func jointInput(v contract.JointInput) joint.Input {
	in := joint.Input{Recipe: v.Recipe, Edition: v.Edition, Type: v.Type, Size: v.Size, Choices: v.Choices,
		Values: map[string]joint.Given{}, Groups: map[string]joint.Bolts{}}
	for name, g := range v.Values {
		in.Values[name] = joint.Given{Value: views.FromQuantity(g.Value), Max: views.FromQuantity(g.Max)}
	}
	for name, b := range v.Groups {
		in.Groups[name] = bolts(b)
	}
	if len(v.Reasons) > 0 {
		in.Reasons = v.Reasons
	}
	return in
}

func inputView(in joint.Input) contract.JointInput {
	v := contract.JointInput{Recipe: in.Recipe, Edition: in.Edition, Type: in.Type, Size: in.Size, Choices: map[string]string{},
		Values: map[string]contract.Given{}, Groups: map[string]contract.Bolts{}, Reasons: in.Reasons}
	maps.Copy(v.Choices, in.Choices)
	for name, g := range in.Values {
		v.Values[name] = given(g)
	}
	for name, b := range in.Groups {
		v.Groups[name] = boltsView(b)
	}
	return v
}

func bolts(b contract.Bolts) joint.Bolts {
	c, s := b.Clamp, b.Stay
	return joint.Bolts{Count: b.Count, Thread: b.Thread, Grade: b.Grade, SpecifiedFor: b.SpecifiedFor, Lubrication: b.Lubrication,
		Decision: joint.Decision(b.Decision), Aim: joint.Aim(b.Aim), Share: b.Share, ShareOf: joint.Basis(b.ShareOf), Base: b.Base,
		Derate: b.Derate, Turn: views.FromQuantity(b.Turn), Stretch: views.FromQuantity(b.Stretch), Service: views.FromQuantity(b.Service),
		Prevailing: views.FromQuantity(b.Prevailing),
		Rows:       b.Rows,
		Across:     views.FromQuantity(b.Across), Down: views.FromQuantity(b.Down), Stages: b.Stages,
		Order: sequence.Pattern(b.Order), Start: b.Start,
		OnCentre: b.OnCentre, Reason: b.Reason,
		Certificate: joint.Certificate{Number: b.Certificate.Number, Proof: views.FromQuantity(b.Certificate.Proof),
			Yield: views.FromQuantity(b.Certificate.Yield), Tensile: views.FromQuantity(b.Certificate.Tensile)},
		Gasket: b.Gasket, Held: joint.Held{Torque: views.FromQuantity(b.Held.Torque), Prevailing: views.FromQuantity(b.Held.Prevailing),
			Lubrication: b.Held.Lubrication, Age: loosen.Age(b.Held.Age)},
		Clamp: joint.Clamp{Length: views.FromQuantity(c.Length), Shank: views.FromQuantity(c.Shank), TwoNuts: c.TwoNuts, Parts: c.Parts},
		Stay: joint.Stay{Engaged: views.FromQuantity(s.Engaged), PartTensile: views.FromQuantity(s.PartTensile),
			Bears:  views.FromQuantity(s.Bears),
			Finish: stay.Finish(s.Finish), Faces: s.Faces, Settles: s.Settles, BoltsWarmer: s.BoltsWarmer, PartsWarmer: s.PartsWarmer,
			BoltsStiff: s.BoltsStiff, PartsStiff: s.PartsStiff, Axial: views.FromQuantity(s.Axial),
			Enters: s.Enters, Across: views.FromQuantity(s.Across), Friction: s.Friction, Planes: s.Planes}}
}

func boltsView(b joint.Bolts) contract.Bolts {
	c, s := b.Clamp, b.Stay
	return contract.Bolts{Count: b.Count, Thread: b.Thread, Grade: b.Grade, SpecifiedFor: b.SpecifiedFor, Lubrication: b.Lubrication,
		Decision: contract.BoltsDecision(b.Decision), Aim: contract.BoltsAim(b.Aim), Share: b.Share,
		ShareOf: contract.BoltsShareOf(b.ShareOf),
		Base:    b.Base, Derate: b.Derate, Turn: views.Quantity(b.Turn), Stretch: views.Quantity(b.Stretch), Service: views.Quantity(b.Service),
		Prevailing: views.Quantity(b.Prevailing),
		Rows:       b.Rows,
		Across:     views.Quantity(b.Across), Down: views.Quantity(b.Down), Stages: b.Stages, Order: string(b.Order), Start: b.Start,
		OnCentre: b.OnCentre,
		Reason:   b.Reason,
		Certificate: contract.Certificate{Number: b.Certificate.Number, Proof: views.Quantity(b.Certificate.Proof),
			Yield: views.Quantity(b.Certificate.Yield), Tensile: views.Quantity(b.Certificate.Tensile)},
		Gasket: b.Gasket, Held: contract.Held{Torque: views.Quantity(b.Held.Torque), Prevailing: views.Quantity(b.Held.Prevailing),
			Lubrication: b.Held.Lubrication, Age: string(b.Held.Age)},
		Clamp: contract.Clamp{Length: views.Quantity(c.Length), Shank: views.Quantity(c.Shank), TwoNuts: c.TwoNuts, Parts: c.Parts},
		Stay: contract.Stay{Engaged: views.Quantity(s.Engaged), PartTensile: views.Quantity(s.PartTensile), Bears: views.Quantity(s.Bears),
			Finish: contract.StayFinish(s.Finish), Faces: s.Faces, Settles: s.Settles, BoltsWarmer: s.BoltsWarmer,
			PartsWarmer: s.PartsWarmer,
			BoltsStiff:  s.BoltsStiff, PartsStiff: s.PartsStiff,
			Axial: views.Quantity(s.Axial), Enters: s.Enters, Across: views.Quantity(s.Across), Friction: s.Friction, Planes: s.Planes}}
}

func draftView(d app.Draft) contract.Draft {
	return contract.Draft{Version: d.Version, Input: inputView(d.Input), Groups: views.Groups(d.Recipe, d.Input, d.Result, nil),
		Compared: comparedViews(d.Input, d.Result),
		Figure:   views.Figure(judge.Figure(d.Recipe, d.Result)), Recipe: draftRecipe(d), Nameplate: nameplate(d),
		Values: views.Each(d.Result.Values, func(x joint.Value) contract.Value {
			v := valueView(x)
			v.LotK = slices.ContainsFunc(d.Recipe.Needs, func(n recipe.Need) bool { return n.Rule != nil && n.Rule.K == x.Need.Name })
			return v
		}),
		Minds: views.Each(d.Result.Minds, func(m joint.Mind) contract.Mind {
			return contract.Mind{Group: m.Group, Text: m.Text, Offer: m.Offer, Take: contract.MindTake(m.Take)}
		}),
		Open: views.Each(d.Result.Open, func(o joint.Open) contract.MissingWord { return contract.MissingWord(o) })}
}

func valueView(x joint.Value) contract.Value {
	v := contract.Value{Name: x.Need.Name, Text: x.Need.Text, Unit: string(x.Need.Unit), Word: x.Need.Word, Given: given(x.Given),
		Sheet: given(x.Sheet), Hand: x.Hand, Optional: x.Need.Optional, Worked: x.Worked}
	if !x.Given.IsZero() {
		v.Shown = x.Words()
	}
	if r := x.Need.Rule; r != nil {
		v.Of, v.Number = r.Group, joint.ValueKey(x.Need.Name)
	}
	if !x.Usual.IsZero() {
		v.Usual = strings.TrimSpace(x.Usual.String() + " " + x.Need.Word)
	}
	return v
}

// nameplate is a joint by its nameplate; where there is none, by its first bolts,
// and before those are known by its variant.
func nameplate(d app.Draft) string {
	if plate := strings.TrimSpace(d.Input.Type + " " + d.Input.Size); plate != "" {
		return plate
	}
	for _, g := range d.Result.Own() {
		if g.Count > 0 && g.Thread != "" {
			return fmt.Sprintf("%d × %s", g.Count, g.Thread)
		}
	}
	if words := strings.Trim(joint.Variant(d.Recipe, d.Input.Choices), ", "); words != "" {
		return words
	}
	return d.Recipe.Title
}

func draftRecipe(d app.Draft) contract.DraftRecipe {
	r := d.Recipe
	v := contract.DraftRecipe{ID: r.ID, Title: r.Title, Kind: r.Kind, Edition: r.Edition, Newer: d.Newer,
		Parts: []contract.RecipeItem{}, Types: views.Each(r.Sheet.Types(), func(t string) contract.SheetType {
			return contract.SheetType{Type: t, Sizes: r.Sheet.Sizes(t)}
		})}
	v.Materials, v.Tools, v.Wear = kitViews(r, func(w recipe.When) bool { return w.Holds(d.Input.Choices) })
	v.Stack = views.Stack(r, d.Input.Choices)
	v.Choices = views.Each(slices.DeleteFunc(r.Asked(d.Input.Choices), func(c recipe.Choice) bool {
		_, decided := r.Sheet.Plate(d.Input.Type, d.Input.Size)
		return c.Plate && decided
	}), choiceView)
	if k, err := kind.Named(r.Kind); err == nil {
		v.Against = k.Against
	}
	if r.Sheet != nil {
		v.Sheet = r.Sheet.Title
	}
	for _, p := range r.Parts {
		if p.When.Holds(d.Input.Choices) {
			v.Parts = append(v.Parts, partView(p))
		}
	}
	return v
}

// kitViews lists what a recipe's kit has in the variants that are meant.
func kitViews(r recipe.Recipe, in func(recipe.When) bool) (materials, tools, wear []string) {
	if r.Kit == nil {
		return views.OrNone(r.Materials), views.OrNone(r.Tools), []string{}
	}
	list := func(things []recipe.Thing) []string {
		out := []string{}
		for _, t := range things {
			if in(t.When) {
				out = append(out, recipe.Told(t.Text, func(need string) string { return "the " + need }))
			}
		}
		return out
	}
	return list(r.Kit.Materials), list(r.Kit.Tools), list(r.Kit.Wear)
}
