package app

import (
	"context"
	"errors"
	"fmt"
	"log/slog"
	"time"

	"github.com/google/uuid"

	"dynacor/core/crib"
	"dynacor/core/record"
	"dynacor/core/work"
	"dynacor/internal/judge"
	"dynacor/internal/store"
)

// Touch is a joint that a tool had a hand in.
type Touch struct {
	Joint  store.Joint
	Run    store.Run
	Last   time.Time
	Pulls  int
	Made   []work.Touch // nothing where the run is closed
	Signed bool
	State  TouchState
	Doubt  work.Doubt // where there is one
}

// TouchState is what became of what a tool made of a joint.
type TouchState string

// What becomes of it, beside the states of a doubt: it is in no doubt, another plan came
// after it, or nothing can be told.
const (
	TouchGood     TouchState = "good"
	TouchReplaced TouchState = "replaced"
	TouchBroken   TouchState = "broken"
)

// Touched lists the joints that a tool had a hand in since a time, the newest first: at most
// most of them, all where that is zero; n is how many there are.
func (a *App) Touched(ctx context.Context, tag string, since time.Time, most int) (out []Touch, n int, err error) {
	list, err := a.store.TouchedBy(ctx, tag, since)
	if err != nil || len(list) == 0 {
		return nil, 0, err
	}
	if n = len(list); most > 0 && n > most {
		list = list[:most]
	}
	ids := make([]uuid.UUID, len(list))
	for i, x := range list {
		ids[i] = x.Run
	}
	heads, joints, err := a.store.RunsWithJoints(ctx, ids)
	if err != nil {
		return nil, 0, err
	}
	var open []store.Run
	for _, h := range heads {
		if !h.Closed {
			open = append(open, h)
		}
	}
	runs, _, err := a.runsAt(ctx, open)
	if err != nil {
		return nil, 0, err
	}
	for _, x := range list {
		head, known := heads[x.Run]
		if !known {
			continue
		}
		t := Touch{Joint: joints[head.Joint], Run: head, Last: x.Last, Pulls: x.Pulls, State: TouchReplaced}
		if !head.Closed {
			t.State = TouchBroken
			if r, told := runs[head.Joint]; told {
				t.told(r.State, tag, since)
			}
		}
		out = append(out, t)
	}
	return out, n, nil
}

// told says of an open run what a tool made in it.
func (t *Touch) told(s *work.State, tag string, since time.Time) {
	t.State, t.Made, t.Signed = TouchGood, s.Made(tag, since), s.Standing == record.Signed
	for _, d := range s.Doubts() {
		if d.Tool == tag && !d.Since.Before(since) {
			t.Doubt, t.State = d, TouchState(d.State)
		}
	}
}

// Words says what the tool made of the joint.
func (t Touch) Words() []string {
	out := work.Words(t.Made)
	if len(out) == 0 {
		out = append(out, fmt.Sprintf("%d pulls", t.Pulls))
	}
	return out
}

// Says says what became of it.
func (t Touch) Says() string {
	switch t.State {
	case TouchGood:
		return ""
	case TouchReplaced:
		return "a later plan was issued: what is made by it counts"
	case TouchBroken:
		return "its record does not hold; see the joint"
	}
	return t.Doubt.Says()
}

// recall brings what a tool's life says into the records of the joints it touched: a tool in
// doubt is reported in each, and a check that found it good as it was answers. What cannot
// be done now is done by the next sweep.
func (a *App) recall(ctx context.Context, tag string) {
	if err := a.recallTool(ctx, tag); err != nil && ctx.Err() == nil {
		slog.Error("the joints of a tool were not told; it is tried again", "tool", tag, "error", err)
	}
}

func (a *App) recallTool(ctx context.Context, tag string) error {
	t, life, err := a.store.Life(ctx, tag)
	if err != nil {
		return err
	}
	data := t.Data()
	s := crib.Fold(data, life)
	if s.Held != nil && s.Held.Doubt && s.Held.By != "" {
		return a.inDoubt(ctx, tag, *s.Held)
	}
	if h, found, ok := crib.Cleared(data, life); ok && h.By != "" {
		return a.cleared(ctx, tag, h, life[len(life)-1], found)
	}
	return nil
}

// inDoubt reports a tool in every open run that it touched since it was good.
func (a *App) inDoubt(ctx context.Context, tag string, h crib.Hold) error {
	return a.everyTouched(ctx, tag, h.Since, h.By, func(s *work.State) (record.Content, bool) {
		return record.Report{Tool: tag, What: record.ReportKind(h.Harm), Note: h.Why, Since: h.Since}, !s.Reported(tag, h.Since)
	}, h.Entry+" in doubt")
}

// cleared answers in every run where a tool is in doubt that was found good as it was.
func (a *App) cleared(ctx context.Context, tag string, h crib.Hold, check crib.Entry, found string) error {
	reason := fmt.Sprintf("checked on %s as it was found: %s", check.On.In(a.zone).Format("2 January 2006"), found)
	return a.everyTouched(ctx, tag, h.Since, check.Person, func(s *work.State) (record.Content, bool) {
		waits := false
		for _, d := range s.Doubts() {
			waits = waits || d.Tool == tag && (d.State == work.DoubtWaits || d.State == work.DoubtSample)
		}
		return record.Answer{Tool: tag, How: record.Good, Reason: reason}, waits
	}, check.ID+" good")
}

// everyTouched adds to every open run that a tool touched since a time what say says, under
// an identity that follows from as: done twice it is there once.
func (a *App) everyTouched(ctx context.Context, tag string, since time.Time, by string, say func(*work.State) (record.Content, bool),
	as string) error {
	id, err := uuid.Parse(by)
	if err != nil {
		return err
	}
	p, err := a.store.PersonByID(ctx, id)
	if err != nil {
		return err
	}
	who := Who{ID: p.ID, Roles: p.Roles, Qualifications: p.Qualifications}
	list, err := a.store.TouchedBy(ctx, tag, since)
	if err != nil {
		return err
	}
	ids := make([]uuid.UUID, len(list))
	for i, x := range list {
		ids[i] = x.Run
	}
	heads, _, err := a.store.RunsWithJoints(ctx, ids)
	if err != nil {
		return err
	}
	var failed error
	for _, x := range list {
		head, known := heads[x.Run]
		if !known || head.Closed {
			continue
		}
		if err := a.sayIn(ctx, who, head, say, as); err != nil {
			failed = errors.Join(failed, fmt.Errorf("%s: %w", x.Run, err))
		}
	}
	return failed
}

// sayIn adds to a run what say says, if anything, under an identity that follows from as: done
// twice it is there once. Nothing is added to a run that does not hold.
func (a *App) sayIn(ctx context.Context, who Who, head store.Run, say func(*work.State) (record.Content, bool), as string) error {
	r, err := a.runAt(ctx, head)
	if _, torn := faultOf(err); torn || r.Fault != "" {
		return nil
	}
	if err != nil {
		return err
	}
	what, wanted := say(r.State)
	if !wanted {
		return nil
	}
	c, err := a.cell(ctx, head.ID)
	if err != nil {
		return err
	}
	n := judge.NewEntry{Run: head.ID, ID: uuid.NewSHA1(head.ID, []byte(as)), At: a.now(), Confirmed: true, Content: what}
	_, stored, err := a.again(ctx, c, who, n)
	if err == nil && !stored {
		_, err = a.put(ctx, who, c, n, work.Facts{})
	}
	if err == nil {
		a.sealSoon()
	}
	return err
}

// sweepEvery is how often it is looked whether every joint of a held tool was told.
const sweepEvery = 10 * time.Minute

// keepRecalling tells the joints of tools whose life moved lately, until ctx ends: what a
// server began and did not finish.
func (a *App) keepRecalling(ctx context.Context) {
	tick := time.NewTicker(sweepEvery)
	defer tick.Stop()
	for {
		if err := a.Recall(ctx); err != nil && ctx.Err() == nil {
			slog.Error("the joints of held tools were not looked through", "error", err)
		}
		select {
		case <-ctx.Done():
			return
		case <-tick.C:
		}
	}
}

// Recall tells the joints of every tool that is held, or was checked within a day.
func (a *App) Recall(ctx context.Context) error {
	tools, err := a.store.Tools(ctx)
	if err != nil {
		return err
	}
	for _, t := range tools {
		recent := t.CheckedAt != nil && a.now().Sub(*t.CheckedAt) < 24*time.Hour
		if t.LifeSeq > 0 && (t.HeldBack != "" || recent) {
			a.recall(ctx, t.Tag)
		}
	}
	return nil
}
