package server

import (
	"cmp"
	"context"
	"fmt"
	"maps"
	"reflect"
	"slices"
	"strings"

	"dynacor/core/joint"
	"dynacor/core/kind"
	"dynacor/core/loosen"
	"dynacor/core/preload"
	"dynacor/core/recipe"
	"dynacor/core/record"
	"dynacor/core/sequence"
	"dynacor/core/stay"
	"dynacor/core/uncertainty"
	"dynacor/core/work"
	"dynacor/internal/app"
	"dynacor/internal/server/contract"
)

func (s *Server) jointView(ctx context.Context, j app.Joint) (contract.Joint, error) {
	v := contract.Joint{ID: j.ID, Tag: j.Tag, Title: j.Title, Area: j.AreaName, Station: 1, Draft: draftView(j.Draft),
		Before: []contract.EarlierRun{}, Follows: each(j.Follows, furtherWords),
		Held: each(j.Held, func(t app.HeldTool) contract.HeldTool { return contract.HeldTool(t) })}
	if j.Run == nil {
		return v, nil
	}
	names, err := s.app.Names(ctx, append([]app.Run{*j.Run}, j.Before...)...)
	if err != nil {
		return v, err
	}
	v.Before = each(j.Before, func(r app.Run) contract.EarlierRun {
		at, _ := r.SignedAt()
		return contract.EarlierRun{Revision: r.Head.Revision, Words: r.Words(), IssuedBy: names[r.Plan.IssuedBy.String()],
			IssuedAt: r.Plan.IssuedAt, Reason: r.Plan.Reason, Entries: r.Head.HeadSeq, SignedAt: at}
	})
	p := j.Run.Plan
	v.Plan = &contract.IssuedPlan{Revision: p.Revision, IssuedBy: names[p.IssuedBy.String()], IssuedAt: p.IssuedAt,
		CoreVersion: p.CoreVersion, Reason: p.Reason, Changed: !same(p.Input, j.Draft.Input), Edition: p.Input.Edition}
	r := runView(who(ctx), *j.Run, names, far)
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
	return contract.Given{Value: quantity(g.Value), Max: quantity(g.Max)}
}

func jointInput(v contract.JointInput) joint.Input {
	in := joint.Input{Recipe: v.Recipe, Edition: v.Edition, Type: v.Type, Size: v.Size, Choices: v.Choices,
		Values: map[string]joint.Given{}, Groups: map[string]joint.Bolts{}}
	for name, g := range v.Values {
		in.Values[name] = joint.Given{Value: fromQuantity(g.Value), Max: fromQuantity(g.Max)}
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
		Derate: b.Derate, Turn: fromQuantity(b.Turn), Stretch: fromQuantity(b.Stretch), Service: fromQuantity(b.Service),
		Prevailing: fromQuantity(b.Prevailing),
		Rows:       b.Rows,
		Across:     fromQuantity(b.Across), Down: fromQuantity(b.Down), Stages: b.Stages, Order: sequence.Pattern(b.Order), Start: b.Start,
		OnCentre: b.OnCentre, Reason: b.Reason,
		Certificate: joint.Certificate{Number: b.Certificate.Number, Proof: fromQuantity(b.Certificate.Proof),
			Yield: fromQuantity(b.Certificate.Yield), Tensile: fromQuantity(b.Certificate.Tensile)},
		Gasket: b.Gasket, Held: joint.Held{Torque: fromQuantity(b.Held.Torque), Prevailing: fromQuantity(b.Held.Prevailing),
			Lubrication: b.Held.Lubrication, Age: loosen.Age(b.Held.Age)},
		Clamp: joint.Clamp{Length: fromQuantity(c.Length), Shank: fromQuantity(c.Shank), TwoNuts: c.TwoNuts, Parts: c.Parts},
		Stay: joint.Stay{Engaged: fromQuantity(s.Engaged), PartTensile: fromQuantity(s.PartTensile), Bears: fromQuantity(s.Bears),
			Finish: stay.Finish(s.Finish), Faces: s.Faces, Settles: s.Settles, BoltsWarmer: s.BoltsWarmer, PartsWarmer: s.PartsWarmer,
			BoltsStiff: s.BoltsStiff, PartsStiff: s.PartsStiff, Axial: fromQuantity(s.Axial),
			Enters: s.Enters, Across: fromQuantity(s.Across), Friction: s.Friction, Planes: s.Planes}}
}

func boltsView(b joint.Bolts) contract.Bolts {
	c, s := b.Clamp, b.Stay
	return contract.Bolts{Count: b.Count, Thread: b.Thread, Grade: b.Grade, SpecifiedFor: b.SpecifiedFor, Lubrication: b.Lubrication,
		Decision: contract.BoltsDecision(b.Decision), Aim: contract.BoltsAim(b.Aim), Share: b.Share,
		ShareOf: contract.BoltsShareOf(b.ShareOf),
		Base:    b.Base, Derate: b.Derate, Turn: quantity(b.Turn), Stretch: quantity(b.Stretch), Service: quantity(b.Service),
		Prevailing: quantity(b.Prevailing),
		Rows:       b.Rows,
		Across:     quantity(b.Across), Down: quantity(b.Down), Stages: b.Stages, Order: string(b.Order), Start: b.Start,
		OnCentre: b.OnCentre,
		Reason:   b.Reason,
		Certificate: contract.Certificate{Number: b.Certificate.Number, Proof: quantity(b.Certificate.Proof),
			Yield: quantity(b.Certificate.Yield), Tensile: quantity(b.Certificate.Tensile)},
		Gasket: b.Gasket, Held: contract.Held{Torque: quantity(b.Held.Torque), Prevailing: quantity(b.Held.Prevailing),
			Lubrication: b.Held.Lubrication, Age: string(b.Held.Age)},
		Clamp: contract.Clamp{Length: quantity(c.Length), Shank: quantity(c.Shank), TwoNuts: c.TwoNuts, Parts: c.Parts},
		Stay: contract.Stay{Engaged: quantity(s.Engaged), PartTensile: quantity(s.PartTensile), Bears: quantity(s.Bears),
			Finish: contract.StayFinish(s.Finish), Faces: s.Faces, Settles: s.Settles, BoltsWarmer: s.BoltsWarmer,
			PartsWarmer: s.PartsWarmer,
			BoltsStiff:  s.BoltsStiff, PartsStiff: s.PartsStiff,
			Axial: quantity(s.Axial), Enters: s.Enters, Across: quantity(s.Across), Friction: s.Friction, Planes: s.Planes}}
}

func draftView(d app.Draft) contract.Draft {
	return contract.Draft{Version: d.Version, Input: inputView(d.Input), Groups: groupViews(d.Recipe, d.Input, d.Result, nil),
		Figure: figureView(app.Figure(d.Recipe, d.Result)), Recipe: draftRecipe(d), Nameplate: nameplate(d),
		Values: each(d.Result.Values, func(x joint.Value) contract.Value {
			v := valueView(x)
			v.LotK = slices.ContainsFunc(d.Recipe.Needs, func(n recipe.Need) bool { return n.Rule != nil && n.Rule.K == x.Need.Name })
			return v
		}),
		Minds: each(d.Result.Minds, func(m joint.Mind) contract.Mind {
			return contract.Mind{Group: m.Group, Text: m.Text, Offer: m.Offer, Take: contract.MindTake(m.Take)}
		}),
		Open: each(d.Result.Open, func(o joint.Open) contract.MissingWord { return contract.MissingWord(o) })}
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
		Parts: []contract.RecipeItem{}, Types: each(r.Sheet.Types(), func(t string) contract.SheetType {
			return contract.SheetType{Type: t, Sizes: r.Sheet.Sizes(t)}
		})}
	v.Materials, v.Tools, v.Wear = kitViews(r, func(w recipe.When) bool { return w.Holds(d.Input.Choices) })
	v.Stack = stackView(r, d.Input.Choices)
	v.Choices = each(slices.DeleteFunc(r.Asked(d.Input.Choices), func(c recipe.Choice) bool {
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
		return orNone(r.Materials), orNone(r.Tools), []string{}
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

func groupViews(r recipe.Recipe, in joint.Input, res joint.Result, tooling map[string]record.Tooling) []contract.Group {
	return each(res.Groups, func(g joint.Group) contract.Group {
		v := contract.Group{Name: g.Name, One: joint.One(g.Name), Of: g.Of, How: contract.GroupHow(g.How), Count: g.Count,
			Asked: g.Bolts == 0 && g.Of == "", Ring: g.Layout == recipe.Ring, Least: g.Least, Most: g.Most, Thread: g.Thread,
			Grade: g.Grade, SpecifiedFor: g.SpecifiedFor, Lubrication: g.Lubrication, Short: g.Short, IsDry: g.IsDry,
			OnCentre: g.OnCentre, Start: g.Start, Dry: g.Dry, Lock: g.Lock, Still: g.Still, Rows: g.Lie.Rows, Cols: g.Lie.Cols,
			Staged: g.Staged(), Portion: g.Portion, Stands: g.Stands, Torque: g.Torque, TorqueMin: g.TorqueMin, TorqueMax: g.TorqueMax,
			Equivalent: g.Equivalent, Share: g.Share, ShareOf: string(g.ShareOf), Prevailing: g.Prevailing, Load: g.Load,
			LikelyLow: g.LikelyLow, LikelyHigh: g.LikelyHigh, WorstLow: g.WorstLow, WorstHigh: g.WorstHigh, Needed: g.Needed,
			K: g.K.Nominal, KLow: g.K.Low, KHigh: g.K.High, Mu: g.Coefficient, Accuracy: g.Accuracy, Limit: g.Limit,
			Utilisation: g.Utilisation, Budget: budgetView(g.Budget()), Stages: orNone(g.Stages), Torques: orNone(g.Torques),
			Order:   orNone(g.Order),
			Pattern: string(g.Pattern), PatternWords: orderWords(g.Pattern), Orders: orderChoices(r, g), Words: app.GroupSentence(res, g),
			Tooled: g.How.Tooled(), Pressed: g.With == recipe.Hydraulic, Value: g.Value, Window: window(g), Checks: checkViews("", g.Checks, ""), Aim: string(g.Aim), Base: g.Base, Derate: g.Derate,
			FromSnug: g.FromSnug, Stretch: g.Stretch, GasketNeeds: []string{}, WindowRows: windowViews(g.Name, g.Window),
			Stays: checkViews(g.Name, g.Stays, "stay/"), Alike: []contract.Same{}}
		if tooling == nil {
			v.Alike = each(joint.Alike(in, r, res, g.Name), func(x joint.Same) contract.Same {
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
			v.Tooling = stageToolViews(g.Stages, t.Stages)
			for _, stages := range t.Beside {
				v.Beside = append(v.Beside, stageToolViews(g.Stages, stages))
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
		Ages: each(loosen.Ages(), func(a loosen.Age) string { return string(a) })}
}

// checkViews are rows with their derivations' keys and, where a group is named, those of
// the reasons they wait for.
func checkViews(group string, list []preload.Check, keys string) []contract.Check {
	return each(list, func(c preload.Check) contract.Check {
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
	return each(b.Order(), func(i int) contract.BudgetPart { return contract.BudgetPart{Name: b.Parts[i].Name, Share: b.Share(i)} })
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
		out = append(out, contract.OrderChoice{Name: string(p), Words: orderWords(p), Against: against})
	}
	return out
}
