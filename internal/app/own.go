package app

import (
	"context"
	"errors"
	"fmt"
	"maps"
	"slices"
	"strings"
	"time"

	"dynacor/core/friction"
	"dynacor/core/joint"
	"dynacor/core/preload"
	"dynacor/core/refusal"
	"dynacor/core/thread"
	"dynacor/core/unit"
	"dynacor/internal/store"
)

// OwnFigure is a figure of the site's own, with who entered it and whether it may be used.
type OwnFigure struct {
	store.OwnFigure
	By      string
	Expired bool
}

// Usable reports whether new plans may rest on it.
func (f OwnFigure) Usable() bool { return !f.Expired && f.Withdrawn == "" }

// OwnFigures returns the newest of each figure of the site's own.
func (a *App) OwnFigures(ctx context.Context) ([]OwnFigure, error) {
	rows, err := a.store.OwnFigures(ctx)
	if err != nil {
		return nil, err
	}
	out := make([]OwnFigure, len(rows))
	for i, r := range rows {
		out[i] = OwnFigure{OwnFigure: r, Expired: a.expired(r)}
		if out[i].By, err = a.nameOf(ctx, r.MadeBy); err != nil {
			return nil, err
		}
	}
	return out, nil
}

// expired says whether its last day is over: a figure may be used to the end of that day.
func (a *App) expired(f store.OwnFigure) bool {
	return f.Expires != nil && a.now().After(f.Expires.AddDate(0, 0, 1))
}

// Try judges a trial of torque and load; nothing is stored.
func (a *App) Try(l store.OwnLubricant) (friction.Tried, error) {
	t, err := trial(l)
	if err != nil {
		return friction.Tried{}, err
	}
	return t.Judge()
}

func trial(l store.OwnLubricant) (t friction.Trial, err error) {
	if t.Thread, err = thread.Parse(l.Thread); err != nil {
		return t, refusal.At("thread", err)
	}
	if !l.Prevailing.IsZero() {
		if t.Prevailing, err = l.Prevailing.In(unit.NewtonMetre); err != nil {
			return t, refusal.At("prevailing", err)
		}
	}
	for i, r := range l.Readings {
		var m friction.Measured
		if m.Torque, err = r.Torque.In(unit.NewtonMetre); err != nil {
			return t, refusal.At(fmt.Sprintf("trial.%d.torque", i), err)
		}
		if m.Load, err = r.Load.In(unit.Newton); err != nil {
			return t, refusal.At(fmt.Sprintf("trial.%d.load", i), err)
		}
		t.Bolts = append(t.Bolts, m)
	}
	return t, nil
}

// KeepOwn takes a figure in, as the next edition of its name. A lubricant with
// readings gets its nut factors from them.
func (a *App) KeepOwn(ctx context.Context, who Who, f store.OwnFigure) error {
	f.Name = strings.Join(strings.Fields(f.Name), " ")
	if f.Name == "" {
		return refusal.New(refusal.Missing, "name", "It has no name.", "Name it as on its box, with its lot.")
	}
	if a.expired(f) {
		return refusal.New(refusal.OutOfRange, "expires", "It ended before today.", "Give the last day it may be used, or test again.")
	}
	switch f.Kind {
	case store.OfLubricant:
		if err := a.ready(f); err != nil {
			return err
		}
	case store.OfGasket:
		f.Gasket.Name = f.Name
		if err := f.Gasket.Check(); err != nil {
			return err
		}
	case store.OfCertificate:
		f.Certificate.Number = f.Name
		if err := f.Certificate.Check(); err != nil {
			return err
		}
	}
	f.MadeBy, f.MadeAt = who.ID, a.now()
	return a.nextEdition(ctx, f)
}

// ready works a lubricant out and refuses one that cannot be.
func (a *App) ready(f store.OwnFigure) error {
	l := f.Lubricant
	if _, general := friction.Lubricants().Find(f.Name); general {
		return refusal.New(refusal.Contradicts, "name", fmt.Sprintf("%q is the name of a general figure.", f.Name),
			"Name the product, its surface and its lot.")
	}
	if l.On != "" {
		day, err := time.Parse(time.DateOnly, l.On)
		if err != nil || day.After(a.now()) {
			return refusal.New(refusal.OutOfRange, "on", "The day of the test cannot be in the future.", "Read it off the report.")
		}
	}
	if len(l.Readings) > 0 {
		t, err := a.Try(*l)
		if err != nil {
			return err
		}
		dry := l.Dry
		l.Lubricant = t.Lubricant(f.Name, l.Source)
		l.Dry = dry
	}
	l.Name, l.Short = f.Name, f.Name
	return l.Check()
}

// Withdraw takes a figure out of use, with a reason; plans that rest on it stay.
func (a *App) Withdraw(ctx context.Context, who Who, kind store.OwnKind, name, reason string) error {
	if reason = strings.TrimSpace(reason); reason == "" {
		return refusal.New(refusal.NeedsReason, "reason", "Why is it withdrawn?", "Say it in a few words.")
	}
	f, err := a.own(ctx, kind, name)
	if err != nil {
		return err
	}
	f.Withdrawn, f.MadeBy, f.MadeAt = reason, who.ID, a.now()
	return a.nextEdition(ctx, f)
}

// own returns the newest edition of a figure.
func (a *App) own(ctx context.Context, kind store.OwnKind, name string) (store.OwnFigure, error) {
	all, err := a.store.OwnFigures(ctx)
	if err != nil {
		return store.OwnFigure{}, err
	}
	i := slices.IndexFunc(all, func(f store.OwnFigure) bool { return f.Kind == kind && f.Name == name })
	if i < 0 {
		return store.OwnFigure{}, notFound("figure")
	}
	return all[i], nil
}

func (a *App) nextEdition(ctx context.Context, f store.OwnFigure) error {
	all, err := a.store.OwnFigures(ctx)
	if err != nil {
		return err
	}
	f.Edition = 1
	for _, x := range all {
		if x.Kind == f.Kind && x.Name == f.Name {
			f.Edition = x.Edition + 1
		}
	}
	return changed(a.store.AddOwn(ctx, f))
}

// changed says in words that somebody else's edition is there.
func changed(err error) error {
	if !errors.Is(err, store.ErrTaken) {
		return err
	}
	return &Error{Kind: Conflict, Code: "changed-meanwhile", Text: "Somebody else changed it in the meantime.",
		Way: "Look at theirs, then send yours again."}
}

// withOwn gives an input the site's own figures that it names, of all as they are today, and
// refuses one that may not be used any more. What bolts were made with, as was has it, is
// theirs as it was then, whatever became of the figure since.
func withOwn(in, was joint.Input, all []OwnFigure) (joint.Input, error) {
	own, gaskets := friction.Library(nil), []preload.OwnGasket(nil)
	for _, l := range was.Own {
		if slices.ContainsFunc(slices.Collect(maps.Values(in.Groups)), func(b joint.Bolts) bool {
			return b.Held.Lubrication == l.Name || !was.MadeAt.IsZero() && (b.Lubrication == l.Name || b.SpecifiedFor == l.Name)
		}) {
			own = append(own, l)
		}
	}
	for _, f := range all {
		if _, made := own.Find(f.Name); made && f.Kind == store.OfLubricant {
			continue
		}
		field := f.namedBy(in)
		if field == "" {
			continue
		}
		if err := f.usable(field); err != nil {
			return in, err
		}
		if f.Kind == store.OfGasket {
			gaskets = append(gaskets, *f.Gasket)
		} else {
			own = append(own, f.Lubricant.Lubricant)
		}
	}
	in.Own, in.Gaskets = own, gaskets
	return in, nil
}

// namedBy is the word of an input that names a lubricant or a gasket; empty for none.
func (f OwnFigure) namedBy(in joint.Input) string {
	for _, group := range slices.Sorted(maps.Keys(in.Groups)) {
		b, at := in.Groups[group], "groups."+group
		switch {
		case f.Kind == store.OfLubricant && b.Lubrication == f.Name:
			return at + ".lubrication"
		case f.Kind == store.OfLubricant && b.SpecifiedFor == f.Name:
			return at + ".specifiedFor"
		case f.Kind == store.OfGasket && b.Gasket == f.Name:
			return at + ".gasket"
		}
	}
	return ""
}

// usable refuses a figure that is withdrawn, or past its last day.
func (f OwnFigure) usable(field string) error {
	switch {
	case f.Withdrawn != "":
		return refusal.New(refusal.NotNow, field, fmt.Sprintf("%s is withdrawn: %s", f.Name, f.Withdrawn), "Choose another, or test again.")
	case f.Expired:
		return refusal.New(refusal.NotNow, field, fmt.Sprintf("%s was for use until %s.", f.Name, f.Expires.Format("2 Jan 2006")),
			"Test again, and enter it in the Library.")
	}
	return nil
}
