package store

import (
	"context"
	"encoding/json"
	"time"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"

	"dynacor/internal/form"
)

// LotCheck is the check of a lot on a day it is worked with: a few bolts against what
// its trial found.
type LotCheck struct {
	Name     string // of the lubricant
	Readings []TrialReading
	K        float64 // their mean
	Holds    bool
	MadeBy   uuid.UUID
	MadeAt   time.Time
}

// LotChecks returns the newest check of each lubricant that has one, by name.
func (s *Store) LotChecks(ctx context.Context) (map[string]LotCheck, error) {
	rows, err := all[struct {
		Name   string
		Body   []byte
		K      float64
		Holds  bool
		MadeBy uuid.UUID
		MadeAt time.Time
	}](s.pool.Query(ctx, `select distinct on (name) name, body, k, holds, made_by, made_at from lot_checks
		order by name, made_at desc, id desc`))
	if err != nil {
		return nil, err
	}
	out := make(map[string]LotCheck, len(rows))
	for _, r := range rows {
		var readings []readingForm
		if err := json.Unmarshal(r.Body, &readings); err != nil {
			return nil, err
		}
		c := LotCheck{Name: r.Name, K: r.K, Holds: r.Holds, MadeBy: r.MadeBy, MadeAt: r.MadeAt}
		for _, f := range readings {
			c.Readings = append(c.Readings, TrialReading{f.Torque.Quantity(), f.Load.Quantity()})
		}
		out[r.Name] = c
	}
	return out, nil
}

// AddLotCheck stores a check; withdrawn, where it is set, is the edition that takes the
// lubricant out of use with it, ErrTaken when somebody else's is there.
func (s *Store) AddLotCheck(ctx context.Context, c LotCheck, withdrawn *OwnFigure) error {
	var readings []readingForm
	for _, r := range c.Readings {
		readings = append(readings, readingForm{form.QuantityOf(r.Torque), form.QuantityOf(r.Load)})
	}
	body, err := json.Marshal(readings)
	if err != nil {
		return err
	}
	return pgx.BeginFunc(ctx, s.pool, func(tx pgx.Tx) error {
		if _, err := tx.Exec(ctx, `insert into lot_checks (name, body, k, holds, made_by, made_at) values ($1, $2, $3, $4, $5, $6)`,
			c.Name, body, c.K, c.Holds, c.MadeBy, c.MadeAt); err != nil {
			return err
		}
		if withdrawn == nil {
			return nil
		}
		return addOwn(ctx, tx, *withdrawn)
	})
}
