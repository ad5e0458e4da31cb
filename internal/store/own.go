package store

import (
	"context"
	"encoding/json"
	"time"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5/pgconn"

	"dynacor/core/friction"
	"dynacor/core/joint"
	"dynacor/core/preload"
	"dynacor/core/unit"
	"dynacor/internal/form"
)

// OwnFigure is one edition of a figure of the site's own. Of the three, the one of its kind
// is set.
type OwnFigure struct {
	Kind        OwnKind
	Name        string
	Edition     int
	MadeBy      uuid.UUID
	MadeAt      time.Time
	Expires     *time.Time // last day it may be used
	Withdrawn   string     // why; empty: it may be used
	Lubricant   *OwnLubricant
	Gasket      *preload.OwnGasket
	Certificate *joint.Certificate
}

// OwnKind is what a figure is of.
type OwnKind string

// The kinds.
const (
	OfLubricant   OwnKind = "lubricant"
	OfGasket      OwnKind = "gasket"
	OfCertificate OwnKind = "certificate"
)

// OwnLubricant is a lubrication condition with what it rests on: the readings of a trial,
// on which thread, of which lot.
type OwnLubricant struct {
	friction.Lubricant
	Lot        string
	On         string // the day of the test, as 2026-11-25
	Thread     string
	Prevailing unit.Quantity
	Readings   []TrialReading
}

// TrialReading is one bolt of a trial as it was entered.
type TrialReading struct{ Torque, Load unit.Quantity }

// The stored forms.
type (
	ownLubricantForm struct {
		form.Lubricant
		Lot        string        `json:"lot,omitzero"`
		On         string        `json:"on,omitzero"`
		Thread     string        `json:"thread,omitzero"`
		Prevailing form.Quantity `json:"prevailing,omitzero"`
		Readings   []readingForm `json:"readings,omitempty"`
	}
	readingForm struct {
		Torque form.Quantity `json:"torque"`
		Load   form.Quantity `json:"load"`
	}
)

func (f OwnFigure) encode() ([]byte, error) {
	switch f.Kind {
	case OfLubricant:
		l := f.Lubricant
		row := ownLubricantForm{Lubricant: form.LubricantOf(l.Lubricant), Lot: l.Lot, On: l.On, Thread: l.Thread,
			Prevailing: form.QuantityOf(l.Prevailing)}
		for _, r := range l.Readings {
			row.Readings = append(row.Readings, readingForm{form.QuantityOf(r.Torque), form.QuantityOf(r.Load)})
		}
		return json.Marshal(row)
	case OfGasket:
		return json.Marshal(form.OwnGasket(*f.Gasket))
	}
	c := f.Certificate
	return json.Marshal(form.Certificate{Number: c.Number, Proof: form.QuantityOf(c.Proof), Yield: form.QuantityOf(c.Yield),
		Tensile: form.QuantityOf(c.Tensile)})
}

func (f *OwnFigure) decode(body []byte) error {
	switch f.Kind {
	case OfLubricant:
		var row ownLubricantForm
		if err := json.Unmarshal(body, &row); err != nil {
			return err
		}
		l := OwnLubricant{Lubricant: row.Lubricant.Lubricant(), Lot: row.Lot, On: row.On, Thread: row.Thread,
			Prevailing: row.Prevailing.Quantity()}
		for _, r := range row.Readings {
			l.Readings = append(l.Readings, TrialReading{r.Torque.Quantity(), r.Load.Quantity()})
		}
		f.Lubricant = &l
	case OfGasket:
		var row form.OwnGasket
		if err := json.Unmarshal(body, &row); err != nil {
			return err
		}
		g := preload.OwnGasket(row)
		f.Gasket = &g
	default:
		var row form.Certificate
		if err := json.Unmarshal(body, &row); err != nil {
			return err
		}
		f.Certificate = &joint.Certificate{Number: row.Number, Proof: row.Proof.Quantity(), Yield: row.Yield.Quantity(),
			Tensile: row.Tensile.Quantity()}
	}
	return nil
}

// OwnFigures returns the newest edition of each figure, by kind and name.
func (s *Store) OwnFigures(ctx context.Context) ([]OwnFigure, error) {
	rows, err := all[struct {
		Kind      string
		Name      string
		Edition   int
		Body      []byte
		MadeBy    uuid.UUID
		MadeAt    time.Time
		Expires   *time.Time
		Withdrawn string
	}](s.pool.Query(ctx, `select distinct on (kind, name) kind, name, edition, body, made_by, made_at, expires, withdrawn from own_figures
		order by kind, name, edition desc`))
	if err != nil {
		return nil, err
	}
	out := make([]OwnFigure, len(rows))
	for i, r := range rows {
		out[i] = OwnFigure{Kind: OwnKind(r.Kind), Name: r.Name, Edition: r.Edition, MadeBy: r.MadeBy, MadeAt: r.MadeAt, Expires: r.Expires,
			Withdrawn: r.Withdrawn}
		if err := out[i].decode(r.Body); err != nil {
			return nil, err
		}
	}
	return out, nil
}

// AddOwn stores f as the edition it says, ErrTaken when somebody else's is there.
func (s *Store) AddOwn(ctx context.Context, f OwnFigure) error { return addOwn(ctx, s.pool, f) }

// execer is a pool or a transaction.
type execer interface {
	Exec(ctx context.Context, sql string, args ...any) (pgconn.CommandTag, error)
}

func addOwn(ctx context.Context, at execer, f OwnFigure) error {
	body, err := f.encode()
	if err != nil {
		return err
	}
	_, err = at.Exec(ctx, `insert into own_figures (kind, name, edition, body, made_by, made_at, expires, withdrawn)
		values ($1, $2, $3, $4, $5, $6, $7, $8)`, string(f.Kind), f.Name, f.Edition, body, f.MadeBy, f.MadeAt, f.Expires, f.Withdrawn)
	return taken(err)
}
