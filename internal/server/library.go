package server

import (
	"context"
	"fmt"
	"strings"

	"dynacor/core/kind"
	"dynacor/core/pass"
	"dynacor/core/recipe"
	"dynacor/internal/server/contract"
)

// GetLibrary lists the recipes, and the schools of staging.
func (s *Server) GetLibrary(context.Context, contract.GetLibraryRequestObject) (contract.GetLibraryResponseObject, error) {
	all, err := s.app.Recipes()
	if err != nil {
		return nil, err
	}
	v := contract.Library{Recipes: []contract.RecipeView{}, Schools: schools()}
	for _, r := range all {
		one, err := recipeView(r)
		if err != nil {
			return nil, err
		}
		v.Recipes = append(v.Recipes, one)
	}
	return contract.GetLibrary200JSONResponse(v), nil
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

func recipeView(r recipe.Recipe) (contract.RecipeView, error) {
	k, err := kind.Named(r.Kind)
	if err != nil {
		return contract.RecipeView{}, err
	}
	v := contract.RecipeView{ID: r.ID, Title: r.Title, Kind: r.Kind, Edition: r.Edition, Against: k.Against, Layout: "single",
		Choices: []contract.RecipeChoice{}, Values: []contract.RecipeItem{}, Parts: []contract.RecipeItem{}, Groups: []contract.RecipeGroup{},
		Materials: orNone(r.Materials), Tools: orNone(r.Tools), Stations: []contract.RecipeStation{}, Proofs: []string{}}
	var orders []string
	for _, p := range k.Orders {
		words, _ := orderWords(p)
		orders = append(orders, words)
	}
	v.Order = strings.Join(orders, "; ")
	for _, p := range k.Proofs {
		v.Proofs = append(v.Proofs, string(p))
	}
	for _, c := range r.Choices {
		v.Choices = append(v.Choices, contract.RecipeChoice{Text: c.Text, Options: c.Options})
	}
	for _, n := range r.Needs {
		v.Values = append(v.Values, contract.RecipeItem{Name: n.Text, Note: string(n.Unit), When: n.When.Words()})
	}
	for _, p := range r.Parts {
		name := p.Name
		if p.Count > 0 {
			name = fmt.Sprintf("%d × %s", p.Count, p.Name)
		}
		v.Parts = append(v.Parts, contract.RecipeItem{Name: name, Note: p.Match, When: p.When.Words()})
	}
	for i, g := range r.Groups {
		if i == 0 || g.Most > 1 || g.Bolts > 1 {
			v.Layout = contract.RecipeViewLayout(g.Layout)
		}
		v.Groups = append(v.Groups, contract.RecipeGroup{Name: g.Name, Words: g.Words(), When: g.When.Words()})
	}
	for _, at := range recipe.Stations() {
		station := contract.RecipeStation{Name: string(at), Steps: []contract.RecipeStep{}}
		for _, st := range r.Steps {
			if st.Station == at {
				station.Steps = append(station.Steps, stepView(st))
			}
		}
		v.Stations = append(v.Stations, station)
	}
	return v, nil
}

func stepView(s recipe.Step) contract.RecipeStep {
	v := contract.RecipeStep{ID: s.ID, Does: string(s.Does), Text: s.Text, Places: s.Places, Items: orNone(s.Items), Cautions: orNone(s.Cautions), By: s.By, When: s.When.Words(), Free: s.Block != ""}
	if s.Limit != nil {
		v.Limit = s.Limit.Words()
	}
	return v
}

func orNone(list []string) []string {
	if list == nil {
		return []string{}
	}
	return list
}
