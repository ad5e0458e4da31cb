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
		lubricantForm
		Lot        string        `json:"lot,omitzero"`
		On         string        `json:"on,omitzero"`
		Thread     string        `json:"thread,omitzero"`
		Prevailing quantityForm  `json:"prevailing,omitzero"`
		Readings   []readingForm `json:"readings,omitempty"`
	}
	readingForm struct {
		Torque quantityForm `json:"torque"`
		Load   quantityForm `json:"load"`
	}
	ownGasketForm struct {
		Name    string  `json:"name"`
		Family  string  `json:"family"`
		Source  string  `json:"source"`
		Aim     float64 `json:"aim,omitzero"`
		Seat    float64 `json:"seat,omitzero"`
		Service float64 `json:"service,omitzero"`
		Most    float64 `json:"most,omitzero"`
		Kept    float64 `json:"kept,omitzero"`
	}
)

func (f OwnFigure) encode() ([]byte, error) {
	switch f.Kind {
	case OfLubricant:
		l := f.Lubricant
		form := ownLubricantForm{lubricantForm: lubricantOf(l.Lubricant), Lot: l.Lot, On: l.On, Thread: l.Thread,
			Prevailing: quantityOf(l.Prevailing)}
		for _, r := range l.Readings {
			form.Readings = append(form.Readings, readingForm{quantityOf(r.Torque), quantityOf(r.Load)})
		}
		return json.Marshal(form)
	case OfGasket:
		return json.Marshal(ownGasketForm(*f.Gasket))
	}
	c := f.Certificate
	return json.Marshal(certificateForm{c.Number, quantityOf(c.Proof), quantityOf(c.Yield), quantityOf(c.Tensile)})
}

func (f *OwnFigure) decode(body []byte) error {
	switch f.Kind {
	case OfLubricant:
		var form ownLubricantForm
		if err := json.Unmarshal(body, &form); err != nil {
			return err
		}
		l := OwnLubricant{Lubricant: form.lubricant(), Lot: form.Lot, On: form.On, Thread: form.Thread,
			Prevailing: form.Prevailing.quantity()}
		for _, r := range form.Readings {
			l.Readings = append(l.Readings, TrialReading{r.Torque.quantity(), r.Load.quantity()})
		}
		f.Lubricant = &l
	case OfGasket:
		var form ownGasketForm
		if err := json.Unmarshal(body, &form); err != nil {
			return err
		}
		g := preload.OwnGasket(form)
		f.Gasket = &g
	default:
		var form certificateForm
		if err := json.Unmarshal(body, &form); err != nil {
			return err
		}
		f.Certificate = &joint.Certificate{Number: form.Number, Proof: form.Proof.quantity(), Yield: form.Yield.quantity(),
			Tensile: form.Tensile.quantity()}
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
