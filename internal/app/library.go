package app

import (
	"dynacor/core/recipe"
	"dynacor/internal/recipes"
)

// Recipes returns how each kind of joint is made.
func (a *App) Recipes() ([]recipe.Recipe, error) { return recipes.Book() }
