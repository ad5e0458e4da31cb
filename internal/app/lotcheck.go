package app

import (
	"context"
	"fmt"
	"time"

	"dynacor/core/friction"
	"dynacor/core/refusal"
	"dynacor/internal/store"
)

// LotCheck is the newest check of a lot.
type LotCheck struct {
	store.LotCheck
	By    string
	Today bool
}

// Words says when and by whom a lot was checked, and what it came to.
func (c LotCheck) Words() string {
	day := "on " + c.MadeAt.Format("2 Jan 2006")
	if c.Today {
		day = "today"
	}
	found := "as its trial found it"
	if !c.Holds {
		found = "no longer what its trial found"
	}
	return fmt.Sprintf("Checked %s by %s: K %.3g, %s.", day, c.By, c.K, found)
}

// JudgeLot holds a few bolts of a lot against its trial; nothing is stored.
func (a *App) JudgeLot(ctx context.Context, name string, readings []store.TrialReading) (friction.Checked, error) {
	_, c, err := a.judgeLot(ctx, name, readings)
	return c, err
}

func (a *App) judgeLot(ctx context.Context, name string, readings []store.TrialReading) (f store.OwnFigure, c friction.Checked, err error) {
	if f, err = a.own(ctx, store.OfLubricant, name); err != nil {
		return f, c, err
	}
	if len(f.Lubricant.Readings) == 0 {
		return f, c, refusal.New(refusal.Contradicts, "name", fmt.Sprintf("%s has no trial of your own to be checked against.", name),
			"Try its lot: five bolts or more.")
	}
	if f.Withdrawn != "" {
		return f, c, refusal.New(refusal.NotNow, "name", fmt.Sprintf("%s is withdrawn: %s", name, f.Withdrawn), "Try the lot anew.")
	}
	l := *f.Lubricant
	l.Readings = readings
	t, err := trial(l)
	if err == nil {
		c, err = t.Check(f.Lubricant.Lubricant)
	}
	return f, c, err
}

// CheckLot stores the check of a lot. One that lies outside what the trial found takes
// the lubricant out of use at once.
func (a *App) CheckLot(ctx context.Context, who Who, name string, readings []store.TrialReading) (friction.Checked, error) {
	f, c, err := a.judgeLot(ctx, name, readings)
	if err != nil {
		return c, err
	}
	var out *store.OwnFigure
	if !c.Holds {
		f.Withdrawn = fmt.Sprintf("its check of %s: %s", a.now().Format("2 Jan 2006"), c.Words)
		f.Edition, f.MadeBy, f.MadeAt = f.Edition+1, who.ID, a.now()
		out = &f
	}
	return c, changed(a.store.AddLotCheck(ctx, store.LotCheck{Name: name, Readings: readings, K: c.Mean, Holds: c.Holds, MadeBy: who.ID,
		MadeAt: a.now()}, out))
}

// LotChecks returns the newest check of each lot, by the name of its lubricant.
func (a *App) LotChecks(ctx context.Context) (map[string]LotCheck, error) {
	rows, err := a.store.LotChecks(ctx)
	if err != nil {
		return nil, err
	}
	out := make(map[string]LotCheck, len(rows))
	for name, r := range rows {
		c := LotCheck{LotCheck: r, Today: r.MadeAt.In(a.now().Location()).Format(time.DateOnly) == a.now().Format(time.DateOnly)}
		if c.By, err = a.nameOf(ctx, r.MadeBy); err != nil {
			return nil, err
		}
		out[name] = c
	}
	return out, nil
}
