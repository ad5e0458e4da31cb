package app

import (
	"context"
	"errors"
	"time"

	"dynacor/internal/judge"
	"dynacor/internal/store"
)

// siteRules are what the site goes by, as they were read at a time.
type siteRules struct {
	store.Site
	read time.Time
}

// readRulesFor is how long they are taken to hold: another server may have changed them.
const readRulesFor = 10 * time.Second

func (a *App) siteRules(ctx context.Context) (store.Site, error) {
	if r := a.rules.Load(); r != nil && time.Since(r.read) < readRulesFor {
		return r.Site, nil
	}
	s, err := a.store.Site(ctx)
	if errors.Is(err, store.ErrNotFound) {
		return s, nil // nothing is set up: it goes by nothing
	}
	if err == nil {
		a.rules.Store(&siteRules{s, time.Now()})
	}
	return s, err
}

// saysWhy refuses a signature without a word where the site asks for one with each.
func (a *App) saysWhy(ctx context.Context, reason string) error {
	s, err := a.siteRules(ctx)
	if err != nil || !s.SayWhy || reason != "" {
		return err
	}
	return judge.SayWhy()
}

// shiftAt is the shift of a time of day, and when the next begins; empty where there is none.
func shiftAt(list []store.Shift, now time.Time) (name, until string) {
	if len(list) == 0 {
		return "", ""
	}
	at := now.Format("15:04")
	is, next := list[len(list)-1], list[0] // before the first of the day the last goes on
	for i, x := range list {
		if x.Begins <= at {
			is, next = x, list[(i+1)%len(list)]
		}
	}
	return is.Name, next.Begins
}
