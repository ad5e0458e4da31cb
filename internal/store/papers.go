package store

import (
	"context"
	"time"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"
)

// Sheet is a maker's own sheet as a file, by the hash of its bytes.
type Sheet struct {
	Hash   string
	Type   string
	Bytes  []byte
	Person uuid.UUID
	At     time.Time
}

// Hung is where a sheet hangs: at a recipe or at a joint, at one of its steps where one is
// named, and at which page it is opened.
type Hung struct {
	ID     uuid.UUID
	Hash   string
	Type   string
	Title  string
	Recipe *string
	Joint  *uuid.UUID
	Step   string // empty: of the whole
	Page   int    // from 1; 0: its first
	Person uuid.UUID
	At     time.Time
}

// HangSheet keeps a file, one that is kept already stays as it is, and hangs it where it
// belongs. The same sent again hangs once. Without bytes it is one that was kept before.
func (s *Store) HangSheet(ctx context.Context, f Sheet, h Hung) error {
	return pgx.BeginFunc(ctx, s.pool, func(tx pgx.Tx) error {
		if len(f.Bytes) > 0 {
			if _, err := tx.Exec(ctx, `insert into papers (hash, type, bytes, person, at) values ($1, $2, $3, $4, $5)
				on conflict (hash) do nothing`, f.Hash, f.Type, f.Bytes, f.Person, f.At); err != nil {
				return err
			}
		}
		_, err := tx.Exec(ctx, `insert into hung_papers (id, hash, title, recipe, joint, step, page, person, at)
			values ($1, $2, $3, $4, $5, $6, $7, $8, $9) on conflict (id) do nothing`, h.ID, h.Hash, h.Title, h.Recipe, h.Joint, h.Step, h.Page,
			h.Person, h.At)
		return err
	})
}

const selectHung = `select h.id, h.hash, p.type, h.title, h.recipe, h.joint, h.step, h.page, h.person, h.at
	from hung_papers h join papers p on p.hash = h.hash left join taken_off o on o.paper = h.id where o.paper is null `

// SheetsOfRecipe lists what hangs at a recipe, in the order it was hung.
func (s *Store) SheetsOfRecipe(ctx context.Context, recipe string) ([]Hung, error) {
	return all[Hung](s.pool.Query(ctx, selectHung+"and h.recipe = $1 order by h.at, h.id", recipe))
}

// SheetsOfJoint lists what hangs at a joint, then what hangs at its recipe.
func (s *Store) SheetsOfJoint(ctx context.Context, joint uuid.UUID) ([]Hung, error) {
	return all[Hung](s.pool.Query(ctx, selectHung+`and (h.joint = $1 or h.recipe = (select recipe from joints where id = $1))
		order by h.recipe is not null, h.at, h.id`, joint))
}

// HungSheet returns one that hangs; ErrNotFound where it does not, or not any more.
func (s *Store) HungSheet(ctx context.Context, id uuid.UUID) (Hung, error) {
	return one[Hung](s.pool.Query(ctx, selectHung+"and h.id = $1", id))
}

// TakeSheetOff takes one off. It stays stored, and so does who took it off.
func (s *Store) TakeSheetOff(ctx context.Context, id, person uuid.UUID, at time.Time) error {
	_, err := s.pool.Exec(ctx, "insert into taken_off (paper, person, at) values ($1, $2, $3) on conflict (paper) do nothing", id, person, at)
	return err
}

// Sheet returns the file of that hash; ErrNotFound where there is none.
func (s *Store) Sheet(ctx context.Context, hash string) (Sheet, error) {
	return one[Sheet](s.pool.Query(ctx, "select hash, type, bytes, person, at from papers where hash = $1", hash))
}
