package server

import (
	"context"
	"encoding/json"
	"fmt"
	"net/http"
	"slices"
	"strings"

	"dynacor/core/figure"
	"dynacor/core/kind"
	"dynacor/core/pass"
	"dynacor/core/proof"
	"dynacor/core/recipe"
	"dynacor/internal/app"
	"dynacor/internal/contract"
	"dynacor/internal/recipes"
	"dynacor/internal/views"
)

// GetLibrary lists the recipes, and the schools of staging.
func (s *Server) GetLibrary(ctx context.Context, _ contract.GetLibraryRequestObject) (contract.GetLibraryResponseObject, error) {
	all, err := s.app.Library(ctx)
	if err != nil {
		return nil, err
	}
	v := contract.Library{Recipes: []contract.RecipeView{}, Schools: schools(), Differences: views.Each(kind.Differences(), differenceView)}
	for _, r := range all {
		one, err := recipeView(r)
		if err != nil {
			return nil, err
		}
		v.Recipes = append(v.Recipes, one)
	}
	return contract.GetLibrary200JSONResponse(v), nil
}

// AddRecipe takes a recipe file in.
func (s *Server) AddRecipe(ctx context.Context, r contract.AddRecipeRequestObject) (contract.AddRecipeResponseObject, error) {
	e, err := s.app.AddRecipe(ctx, who(ctx), []byte(r.Body.File), r.Body.After)
	if err != nil {
		return nil, err
	}
	v, err := recipeView(e)
	return contract.AddRecipe200JSONResponse{RecipeAnswerJSONResponse: contract.RecipeAnswerJSONResponse(v)}, err
}

// GetRecipeFile writes a recipe out.
func (s *Server) GetRecipeFile(ctx context.Context, r contract.GetRecipeFileRequestObject) (contract.GetRecipeFileResponseObject, error) {
	b, rec, err := s.app.RecipeFile(ctx, r.Recipe, string(r.Format))
	return file{name: fmt.Sprintf("%s edition %d.%s", rec.ID, rec.Edition, r.Format), kind: "application/" + string(r.Format), body: b}, err
}

func (f file) VisitGetRecipeFileResponse(w http.ResponseWriter) error {
	return f.VisitGetRecordResponse(w)
}

// GetRecipeSchema writes the schema of a recipe file.
func (s *Server) GetRecipeSchema(context.Context, contract.GetRecipeSchemaRequestObject) (contract.GetRecipeSchemaResponseObject, error) {
	b, err := json.MarshalIndent(recipes.Schema(), "", "  ")
	return file{name: "dynacor recipe.schema.json", kind: "application/schema+json", body: b}, err
}

func (f file) VisitGetRecipeSchemaResponse(w http.ResponseWriter) error {
	return f.VisitGetRecordResponse(w)
}

// RetireRecipe takes a recipe out of use for new joints.
func (s *Server) RetireRecipe(ctx context.Context, r contract.RetireRecipeRequestObject) (contract.RetireRecipeResponseObject, error) {
	return contract.RetireRecipe204Response{}, s.app.Retire(ctx, who(ctx), r.Recipe, r.Body.Reason)
}

// ReturnRecipe takes a retired recipe into use again.
func (s *Server) ReturnRecipe(ctx context.Context, r contract.ReturnRecipeRequestObject) (contract.ReturnRecipeResponseObject, error) {
	return contract.ReturnRecipe204Response{}, s.app.Return(ctx, r.Recipe)
}

func differenceView(d kind.Difference) contract.Difference {
	return contract.Difference{ID: d.ID, Question: d.Question, Ours: d.Ours,
		Sides: views.Each(d.Sides, func(x kind.Side) contract.DifferenceSide {
			return contract.DifferenceSide{Name: x.Name, Good: x.Good, Risk: x.Risk}
		})}
}

func schools() []contract.School {
	out, kinds := []contract.School{}, kind.All()
	for _, p := range pass.Schools() {
		v := contract.School{Name: p.Name, Usual: p.Usual, Risk: p.Risk, Kinds: []string{}}
		for _, k := range kinds {
			if k.School == p.Name {
				v.Kinds = append(v.Kinds, k.Name)
			}
		}
		out = append(out, v)
	}
	return out
}

// usual draws a recipe's joint with as many bolts as it usually has.
func usual(r recipe.Recipe) figure.Figure {
	var groups []figure.Group
	for _, g := range r.Groups {
		if g.Of != "" || slices.ContainsFunc(groups, func(o figure.Group) bool { return alternative(r, o.Name, g) }) {
			continue
		}
		n := g.Bolts
		if n == 0 {
			n = max(g.Least, min(g.Most, 8))
		}
		groups = append(groups, figure.Group{Name: g.Name, Layout: g.Layout, Bolts: n, Holes: g.Holes})
	}
	return figure.Of(r.Drawing, groups)
}

// alternative reports whether g is there only where the named group is not.
func alternative(r recipe.Recipe, name string, g recipe.Group) bool {
	i := slices.IndexFunc(r.Groups, func(o recipe.Group) bool { return o.Name == name })
	for choice := range g.When {
		_, both := r.Groups[i].When[choice]
		others := r.Groups[i].When.Options(choice)
		if both && !slices.ContainsFunc(g.When.Options(choice), func(o string) bool { return slices.Contains(others, o) }) {
			return true
		}
	}
	return false
}

func choiceView(c recipe.Choice) contract.RecipeChoice {
	return contract.RecipeChoice{Name: c.Name, Text: c.Text, When: c.When.Words(), Options: c.Options, Differ: c.Differ}
}

func partView(p recipe.Part) contract.RecipeItem {
	name := p.Name
	if p.Count > 0 {
		name = fmt.Sprintf("%d × %s", p.Count, p.Name)
	}
	return contract.RecipeItem{Name: name, Note: p.Match, When: p.When.Words()}
}

func recipeView(e app.Edition) (contract.RecipeView, error) {
	r := e.Recipe
	if e.Fault != "" { // nothing of it is served as good
		return contract.RecipeView{ID: r.ID, Title: r.Title, Edition: r.Edition, Earlier: e.Earlier, MadeBy: e.MadeBy, Fault: e.Fault,
			Figure: views.Figure(figure.Figure{}), Choices: []contract.RecipeChoice{}, Values: []contract.RecipeItem{},
			Parts: []contract.RecipeItem{}, Materials: []string{}, Tools: []string{}, Wear: []string{}, Mistakes: []string{},
			Groups:   []contract.RecipeGroup{},
			Stations: []contract.RecipeStation{}, Proofs: []string{}, Sheet: sheetView(recipe.Recipe{})}, nil
	}
	k, err := kind.Named(r.Kind)
	if err != nil {
		return contract.RecipeView{}, err
	}
	v := contract.RecipeView{ID: r.ID, Title: r.Title, Kind: r.Kind, Edition: r.Edition, Against: k.Against, Figure: views.Figure(usual(r)),
		Earlier: e.Earlier, MadeBy: e.MadeBy, Choices: views.Each(r.Choices, choiceView), Parts: views.Each(r.Parts, partView), Sheet: sheetView(r),
		Mistakes: views.OrNone(r.Mistakes), Stack: views.Stack(r, r.FirstVariant()), Stations: []contract.RecipeStation{},
		Proofs: views.Each(k.Proofs, func(p proof.Requirement) string { return string(p) }),
		Values: views.Each(r.Needs, func(n recipe.Need) contract.RecipeItem {
			return contract.RecipeItem{Name: n.Text, Note: string(n.Unit) + n.Word, When: n.When.Words()}
		}),
		Groups: views.Each(r.Groups, func(g recipe.Group) contract.RecipeGroup {
			return contract.RecipeGroup{Name: g.Name, Words: g.Words(), When: g.When.Words()}
		})}
	v.Materials, v.Tools, v.Wear = kitViews(r, func(recipe.When) bool { return true })
	if e.Retired != nil {
		v.Retired = e.Retired.Reason
	}
	v.Order = strings.Join(views.Each(k.Orders, views.OrderWords), "; ")
	for _, at := range recipe.Stations() {
		station := contract.RecipeStation{Name: string(at), Steps: []contract.RecipeStep{}}
		for _, st := range r.Steps {
			if st.Station == at {
				st.Text = recipe.Told(st.Text, func(need string) string { return "the " + need })
				station.Steps = append(station.Steps, stepView(st))
			}
		}
		v.Stations = append(v.Stations, station)
	}
	return v, nil
}

// sheetView is a maker's sheet as a table: type, size, variant, then a column
// for each value.
func sheetView(r recipe.Recipe) contract.SheetView {
	v := contract.SheetView{Head: []string{}, Rows: [][]string{}}
	if r.Sheet == nil {
		return v
	}
	v.Title = r.Sheet.Title
	v.Head = append(v.Head, "type", "size", "where")
	for _, n := range r.Needs {
		v.Head = append(v.Head, strings.TrimSpace(n.Name+", "+string(n.Unit)+n.Word))
	}
	v.Head = append(v.Head, "bolts")
	for _, row := range r.Sheet.Rows {
		cells := []string{row.Type, row.Size, row.When.Words()}
		for _, n := range r.Needs {
			var parts []string
			for _, x := range row.Values[n.Name] {
				parts = append(parts, fmt.Sprintf("%g", x))
			}
			cells = append(cells, strings.Join(parts, " to "))
		}
		var bolts []string
		for _, g := range r.Groups {
			if row.Bolts[g.Name] > 0 || row.Threads[g.Name] != "" {
				n := max(row.Bolts[g.Name], g.Bolts)
				part := strings.TrimSpace(row.Threads[g.Name] + " " + row.Grades[g.Name])
				if n > 0 {
					part = strings.TrimSuffix(fmt.Sprintf("%d × %s", n, part), " × ")
				}
				if !slices.Contains(bolts, part) {
					bolts = append(bolts, part)
				}
			}
		}
		v.Rows = append(v.Rows, append(cells, strings.Join(bolts, "; ")))
	}
	return v
}

func stepView(s recipe.Step) contract.RecipeStep {
	v := contract.RecipeStep{ID: s.ID, Does: string(s.Does), Text: s.Text, Places: s.Places, Items: views.OrNone(s.Items),
		Cautions: views.Each(s.Cautions, views.Caution), By: s.By, When: s.When.Words(), Free: s.Block != "", Why: s.Why,
		Must: s.Must || s.Does == recipe.Test, Release: s.Release, Photo: s.Photo}
	for _, t := range s.Ticks {
		v.Items = append(v.Items, recipe.Told(strings.Trim(t.Part+": "+t.Text, ": "), func(need string) string { return "the " + need }))
	}
	var limits []string
	for _, r := range s.All() {
		if r.Limit != nil {
			limits = append(limits, strings.TrimSpace(r.Name+" "+r.Limit.Words()))
		}
	}
	v.Limit = strings.Join(limits, "; ")
	return v
}
