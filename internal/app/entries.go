package app

import (
	"context"
	"errors"
	"fmt"
	"strings"
	"time"

	"github.com/google/uuid"

	"dynacor/core/job"
	"dynacor/core/refusal"
	"dynacor/core/run"
	"dynacor/internal/store"
)

// NewEntry is an entry as it is asked for.
type NewEntry struct {
	Run     uuid.UUID
	ID      uuid.UUID
	At      time.Time
	Content run.Content
	Pin     string // for a signature, and for a step that asks for a qualified person
	Led     bool   // it is meant for a run that a recipe leads
	As      string // who put that PIN to a step: their login; empty: whoever is signed in
}

// AddEntry stores an entry and returns the run with it. The same entry sent
// again changes nothing and is answered as the first time.
func (a *App) AddEntry(ctx context.Context, who Who, n NewEntry) (Run, error) {
	if err := may(who, n.Content, n.Led); err != nil {
		return Run{}, err
	}
	if err := a.checkTime(n.At); err != nil {
		return Run{}, err
	}
	c, err := a.cell(ctx, n.Run)
	if err != nil {
		return Run{}, err
	}
	if n.Led != (c.plan.Job != nil) {
		return Run{}, otherForm()
	}
	if caution, ok := n.Content.(run.Caution); ok && n.Led {
		caution.Points = job.Cautions(c.follow.Work, caution.Step)
		n.Content = caution
	}
	qualified, err := a.qualify(ctx, who, c, &n)
	if err != nil {
		return Run{}, err
	}
	c.mu.Lock()
	defer c.mu.Unlock()
	e := run.Entry{ID: n.ID.String(), AtTool: n.At, Person: who.ID.String(), Content: n.Content}
	// The first try trusts the memory; when that is behind, it is brought up to
	// the database and everything is looked at anew.
	for try := 0; ; try++ {
		r, err := a.tryAppend(ctx, c, e, qualified)
		if err == nil || try == 3 {
			return r, err
		}
		var refused *refusal.Error
		behind := errors.Is(err, store.ErrStale) || errors.Is(err, store.ErrTaken)
		if !behind && (!errors.As(err, &refused) || try > 0) {
			return r, err
		}
		head, err2 := a.store.RunByID(ctx, n.Run)
		if err2 != nil {
			return Run{}, found(err2, "run")
		}
		if head.Closed {
			return Run{}, &Error{Kind: Conflict, Code: "plan-replaced", Text: "A newer revision of this plan was issued; this run is closed.", Way: "Open the joint again."}
		}
		if refused != nil && head.HeadSeq == c.head.HeadSeq {
			return r, err
		}
		if errors.Is(err, store.ErrTaken) && head.HeadSeq == c.head.HeadSeq {
			return Run{}, &Error{Kind: Conflict, Code: "entry-taken", Field: "id", Text: "An entry with this identity belongs to another run.", Way: "Send it with a new identity."}
		}
		if err := a.catchUp(ctx, c, head); err != nil {
			return Run{}, err
		}
	}
}

// tryAppend adds e to c as it is remembered. c.mu is held.
func (a *App) tryAppend(ctx context.Context, c *cell, e run.Entry, qualified []string) (Run, error) {
	if c.ids[e.ID] {
		return c.again(e)
	}
	if c.head.Closed {
		return Run{}, store.ErrStale
	}
	if err := c.accept(e, qualified); err != nil {
		return Run{}, err
	}
	e.AtServer = a.now()
	stored, head, err := a.append(ctx, c.head, e, c.tools(e.Content))
	if err != nil {
		return Run{}, err
	}
	c.head = head
	c.then(stored)
	c.ids[e.ID] = true
	a.tell(store.Notice{Joint: c.plan.Joint, Entries: head.HeadSeq})
	return c.run(), nil
}

// qualify asks for the PIN where an entry is signed for, and returns what
// whoever entered it may sign for. A step that asks for a qualified person may
// have another's PIN than of whoever is signed in; the entry then names them.
func (a *App) qualify(ctx context.Context, who Who, c *cell, n *NewEntry) ([]string, error) {
	step, isStep := n.Content.(run.Step)
	_, signs := n.Content.(run.Signature)
	asks := isStep && c.plan.Job != nil && job.By(c.follow.Work, step.Step) != ""
	if !signs && !asks {
		return nil, nil
	}
	p, err := a.store.PersonByID(ctx, who.ID)
	if asks && n.As != "" {
		p, err = a.store.PersonByLogin(ctx, strings.ToLower(strings.TrimSpace(n.As)))
		if errors.Is(err, store.ErrNotFound) {
			return nil, &Error{Kind: WrongPin, Code: "wrong-pin", Field: "pin", Text: "That name and PIN do not go together.", Way: "Check both and try again."}
		}
	}
	if err != nil {
		return nil, found(err, "person")
	}
	if err := a.checkPin(ctx, p.Login, n.Pin, p.PinHash); err != nil {
		return nil, err
	}
	if asks {
		step.Qualified = p.ID.String()
		n.Content = step
	}
	return append(append([]string{}, p.Roles...), p.Qualifications...), nil
}

func (a *App) checkTime(at time.Time) error {
	now := a.now()
	if at.After(now.Add(10*time.Minute)) || at.Before(now.AddDate(-1, 0, 0)) {
		return refusal.New(refusal.OutOfRange, "at", fmt.Sprintf("The device's clock says %s; the server's %s.",
			at.Format("2 Jan 2006 15:04"), now.Format("2 Jan 2006 15:04")), "Set the device's clock.")
	}
	return nil
}

// may says whether who has the role for what the entry is.
func may(who Who, c run.Content, led bool) error {
	need := []string{Fitter}
	switch c := c.(type) {
	case run.Measurement:
		need = []string{Fitter, Inspector}
	case run.Step:
		if c.Bolt == 0 {
			need = []string{Fitter, Inspector}
		}
	case run.Decision:
		need = []string{Engineer}
	case run.Signature:
		if c.Part == run.Checked {
			need = []string{Inspector}
		}
		if c.Part == run.Checked && led {
			return nil // whom the recipe asks for is the run's to say
		}
	}
	if who.Is(need...) {
		return nil
	}
	return &Error{Kind: NotAllowed, Code: "not-yours", Text: fmt.Sprintf("This is for a %s to do.", strings.Join(need, " or ")), Way: "Ask one."}
}

// KindOf returns what kind of entry a run holds under that id.
func (a *App) KindOf(ctx context.Context, runID uuid.UUID, entry string) (run.Kind, error) {
	r, err := a.Run(ctx, runID)
	if err != nil {
		return "", err
	}
	for _, eff := range r.effective() {
		if eff.Entry.ID == entry {
			return eff.Entry.Content.Kind(), nil
		}
	}
	return "", refusal.New(refusal.Unknown, "of", "The entry to correct is not in this run.", "Choose it on the tape.")
}
