package store

import (
	"context"
	"encoding/json"
	"fmt"
	"time"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"
)

// Recipe is one edition of a recipe, as its file.
type Recipe struct {
	ID      string
	Edition int
	Body    string
	MadeBy  *uuid.UUID // nil: it ships with the product
	MadeAt  time.Time
	Fact    string // what was known of it when it was added; empty: nothing
}

// Fault says where the file is not the one that was added.
func (r Recipe) Fault() string {
	if b, err := json.Marshal(factOfRecipe(r)); err != nil || r.Fact == "" || r.Fact == string(b) {
		return ""
	}
	return fmt.Sprintf("the recipe %s, edition %d, was changed past the server", r.ID, r.Edition)
}

// Retired is a recipe that new joints are no longer made by.
type Retired struct {
	ID        string
	RetiredBy uuid.UUID
	RetiredAt time.Time
	Reason    string
}

const selectRecipe = `select id, edition, body, made_by, made_at, coalesce((select f.body from facts f where f.kind = 'recipe'
	and f.subject = id || ' ' || edition order by f.number desc limit 1), '') as fact from recipes `

// Recipe returns one edition.
func (s *Store) Recipe(ctx context.Context, id string, edition int) (Recipe, error) {
	return one[Recipe](s.pool.Query(ctx, selectRecipe+"where id = $1 and edition = $2", id, edition))
}

// Recipes returns every edition of every recipe, oldest first.
func (s *Store) Recipes(ctx context.Context) ([]Recipe, error) {
	return all[Recipe](s.pool.Query(ctx, selectRecipe+"order by id, edition"))
}

// RecipeEditions returns every edition of one recipe, oldest first.
func (s *Store) RecipeEditions(ctx context.Context, id string) ([]Recipe, error) {
	return all[Recipe](s.pool.Query(ctx, selectRecipe+"where id = $1 order by edition", id))
}

// NewestEditions returns the newest edition of every recipe.
func (s *Store) NewestEditions(ctx context.Context) (map[string]int, error) {
	rows, err := all[struct {
		ID      string
		Edition int
	}](s.pool.Query(ctx, "select id, max(edition) as edition from recipes group by id"))
	out := map[string]int{}
	for _, r := range rows {
		out[r.ID] = r.Edition
	}
	return out, err
}

// AddRecipe stores an edition; ErrTaken when it is there already.
func (s *Store) AddRecipe(ctx context.Context, r Recipe) error {
	return pgx.BeginFunc(ctx, s.pool, func(tx pgx.Tx) error {
		if _, err := tx.Exec(ctx, "insert into recipes (id, edition, body, made_by, made_at) values ($1, $2, $3, $4, $5)", r.ID, r.Edition,
			r.Body, r.MadeBy, r.MadeAt); err != nil {
			return taken(err)
		}
		_, err := logFact(ctx, tx, RecipeFact, r.subject(), factOfRecipe(r))
		return err
	})
}

// RetiredRecipes returns the recipes that are retired.
func (s *Store) RetiredRecipes(ctx context.Context) ([]Retired, error) {
	return all[Retired](s.pool.Query(ctx, "select id, retired_by, retired_at, reason from retired_recipes"))
}

// RetireRecipe takes a recipe out of use for new joints, ErrTaken when it is.
func (s *Store) RetireRecipe(ctx context.Context, r Retired) error {
	_, err := s.pool.Exec(ctx, "insert into retired_recipes (id, retired_by, retired_at, reason) values ($1, $2, $3, $4)", r.ID,
		r.RetiredBy, r.RetiredAt, r.Reason)
	return taken(err)
}

// ReturnRecipe takes a retired recipe into use again.
func (s *Store) ReturnRecipe(ctx context.Context, id string) error {
	_, err := s.pool.Exec(ctx, "delete from retired_recipes where id = $1", id)
	return err
}
