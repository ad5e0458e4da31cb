package server

import (
	"context"
	"encoding/json"
	"strings"

	"dynacor/core/recipe"
	"dynacor/core/rehearsal"
	"dynacor/internal/app"
	"dynacor/internal/contract"
	"dynacor/internal/recipes"
	"dynacor/internal/views"
)

// CheckRecipe says what is wrong with a recipe that is being edited.
func (s *Server) CheckRecipe(ctx context.Context, r contract.CheckRecipeRequestObject) (contract.CheckRecipeResponseObject, error) {
	d, err := s.app.CheckRecipe(ctx, []byte(r.Body.File))
	if err != nil {
		return nil, err
	}
	v := contract.RecipeChecked{Newest: d.Newest, Changes: views.Each(d.Changes, changeView), Yaml: string(d.YAML),
		Faults: views.Each(d.Faults, func(f recipes.Fault) contract.RecipeFault {
			return contract.RecipeFault{Field: f.Field, Line: f.Line, Text: f.Text, Way: f.Way}
		})}
	if !d.Read {
		return contract.CheckRecipe200JSONResponse(v), nil
	}
	if err := json.Unmarshal(d.JSON, &v.Document); err != nil {
		return nil, err
	}
	if len(d.Faults) == 0 {
		one, err := recipeView(app.Edition{Recipe: d.Recipe})
		if err != nil {
			return nil, err
		}
		v.Recipe = &one
	}
	return contract.CheckRecipe200JSONResponse(v), nil
}

// RecipeProse lists what a recipe that is being edited says to people.
func (s *Server) RecipeProse(_ context.Context, r contract.RecipeProseRequestObject) (contract.RecipeProseResponseObject, error) {
	list, err := s.app.ProseOf([]byte(r.Body.File))
	return contract.RecipeProse200JSONResponse{Texts: views.Each(list, func(p app.Prose) contract.RecipeText {
		return contract.RecipeText{Text: p.Text, Says: p.Says}
	})}, err
}

func changeView(c recipe.Change) contract.RecipeChange {
	return contract.RecipeChange{Where: c.Where, What: contract.RecipeChangeWhat(c.What), Was: c.Was, Is: c.Is}
}

// GetRecipeEditions lists the editions of a recipe with what differs.
func (s *Server) GetRecipeEditions(ctx context.Context, r contract.GetRecipeEditionsRequestObject) (
	contract.GetRecipeEditionsResponseObject, error) {
	all, err := s.app.Editions(ctx, r.Recipe)
	return contract.GetRecipeEditions200JSONResponse{Editions: views.Each(all, func(e app.EditionLine) contract.RecipeEdition {
		return contract.RecipeEdition{Edition: e.Edition, MadeBy: e.MadeBy, MadeAt: e.MadeAt, Fault: e.Fault,
			Changes: views.Each(e.Changes, changeView)}
	})}, err
}

// RehearseRecipe goes dry through a recipe.
func (s *Server) RehearseRecipe(_ context.Context, r contract.RehearseRecipeRequestObject) (contract.RehearseRecipeResponseObject, error) {
	w, rec, err := s.app.Rehearse([]byte(r.Body.File), r.Body.Choices)
	if err != nil {
		return nil, err
	}
	return contract.RehearseRecipe200JSONResponse(rehearsalView(w, rec)), nil
}

func rehearsalView(w rehearsal.Walked, r recipe.Recipe) contract.Rehearsal {
	v := contract.Rehearsal{Choices: []contract.RecipeChoice{}, Chosen: w.Joint.Choices, MadeUp: views.OrNone(w.MadeUp), Presses: w.Presses,
		Signed: w.Signed, Stuck: w.Stuck, At: w.At, Joint: strings.TrimSpace(w.Joint.Type + " " + w.Joint.Size),
		Stations: []contract.RehearsalStation{}}
	for _, c := range r.Choices {
		if c.When.Holds(w.Joint.Choices) {
			v.Choices = append(v.Choices, choiceView(c))
		}
	}
	for _, at := range recipe.Stations() {
		s := contract.RehearsalStation{Name: string(at), Lines: []contract.RehearsalLine{}}
		for _, l := range w.Lines {
			if l.Step.Station == at {
				s.Lines = append(s.Lines, rehearsedView(l))
				v.Pulls += l.Pulls
			}
		}
		if len(s.Lines) > 0 {
			v.Stations = append(v.Stations, s)
		}
	}
	return v
}

func rehearsedView(l rehearsal.Line) contract.RehearsalLine {
	s := l.Step
	return contract.RehearsalLine{ID: s.ID, Does: string(s.Does), Text: s.Text, Reached: l.Presses > 0, Presses: l.Presses, Pulls: l.Pulls,
		Rounds: l.Rounds, Ticks: views.OrNone(l.Ticks), Marks: views.OrNone(l.Marks), Limit: l.Limit, Readings: l.Readings, Comes: l.Comes, Held: l.Held,
		By: s.By, Released: s.Release, Photo: s.Photo, Must: s.Must || s.Does == recipe.Test, Outside: l.Outside, Then: l.Then}
}
