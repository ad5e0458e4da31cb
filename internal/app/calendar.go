package app

import (
	"context"
	"crypto/rand"
	"time"

	"dynacor/core/joint"
	"dynacor/core/record"
	"dynacor/internal/store"
)

// DueThing is something that is to be done between two times.
type DueThing struct {
	ID          string // the same as long as it is the same thing
	What        string
	Words       string
	From, Until time.Time
	Day         bool // it is due on the day of From, whatever the hour
}

// remembered is how far back what was to be done is still listed.
const remembered = 30 * 24 * time.Hour

// Due lists what is to be done again on joints that stand, and which tools are to be
// calibrated.
func (a *App) Due(ctx context.Context) ([]DueThing, error) {
	tools, err := a.store.Tools(ctx)
	if err != nil {
		return nil, err
	}
	var out []DueThing
	for _, t := range tools {
		if t.Due != nil {
			out = append(out, DueThing{ID: "tool " + t.Tag, What: "Calibrate " + t.Tag, Words: t.Name, From: *t.Due, Day: true})
		}
	}
	joints, err := a.store.Joints(ctx)
	if err != nil {
		return nil, err
	}
	heads, err := a.store.NewestRuns(ctx)
	if err != nil {
		return nil, err
	}
	var recent []store.Run
	for _, h := range heads {
		if a.now().Sub(h.BegunAt) < remembered {
			recent = append(recent, h)
		}
	}
	runs, _, err := a.runsAt(ctx, recent)
	if err != nil {
		return nil, err
	}
	for _, j := range joints {
		r, ok := runs[j.ID]
		if !ok || r.Fault != "" || r.State.Standing != record.Signed || r.State.Plan().Undoes() || r.State.Plan().Again() {
			continue
		}
		from, until, ok := joint.Due(r.State.Plan().Recipe, r.State.LastPull())
		if ok {
			out = append(out, DueThing{ID: "retorque " + r.Head.ID.String(), What: "Re-torque " + j.Tag, Words: j.Title + ", " +
				j.AreaName +
				". Cold, without pressure; the engineer issues its plan.", From: from, Until: until})
		}
	}
	return out, nil
}

// NewCalendar gives somebody a private address for their calendar, in the place of the one
// they had, and returns its token: whoever knows it reads what is due, and nothing else.
func (a *App) NewCalendar(ctx context.Context, who Who) (token string, err error) {
	token = rand.Text() + rand.Text()
	return token, a.store.KeepCalendar(ctx, who.ID, token, a.now())
}

// DropCalendar takes it away.
func (a *App) DropCalendar(ctx context.Context, who Who) error {
	return a.store.DropCalendar(ctx, who.ID)
}

// Calendar lists what is due for whoever has a token.
func (a *App) Calendar(ctx context.Context, token string) ([]DueThing, string, error) {
	if _, err := a.store.CalendarOf(ctx, token); err != nil {
		return nil, "", found(err, "calendar")
	}
	site, err := a.Site(ctx)
	if err != nil {
		return nil, "", err
	}
	list, err := a.Due(ctx)
	return list, site.Name, err
}
