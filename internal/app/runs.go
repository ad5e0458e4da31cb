package app

import (
	"context"
	"errors"
	"fmt"
	"strings"
	"sync"
	"time"

	"github.com/google/uuid"

	"dynacor/core/refusal"
	"dynacor/core/run"
	"dynacor/internal/store"
)

// cell keeps one run folded. It is a memory of what the database holds and is
// checked against the head of the run; losing it costs one reading.
type cell struct {
	mu    sync.Mutex
	head  store.Run
	plan  store.Plan
	state *run.State
	ids   map[string]bool
}

// Run is a run with the plan it follows and its state.
type Run struct {
	Head  store.Run
	Plan  store.Plan
	State *run.State
}

func (c *cell) run() Run { return Run{c.head, c.plan, c.state} }

// Follow returns what a run needs to know of a plan.
func Follow(p store.Plan) run.Plan {
	out := run.Plan{Bolts: p.Input.Bolts, Order: p.Result.Order, CheckOrder: p.Result.CheckOrder,
		GapLimit: p.Result.GapLimit, GapDiameter: p.Result.GapDiameter}
	for _, ps := range p.Result.Passes {
		out.Shares = append(out.Shares, ps.Share)
		out.Torques = append(out.Torques, ps.Torque)
	}
	return out
}

// cell returns the memory of a run, reading it when it is not there yet.
func (a *App) cell(ctx context.Context, id uuid.UUID) (*cell, error) {
	if c, ok := a.runs.Get(id); ok {
		return c, nil
	}
	head, err := a.store.RunByID(ctx, id)
	if err != nil {
		return nil, found(err, "run")
	}
	p, err := a.store.PlanOf(ctx, head.Joint, head.Revision)
	if err != nil {
		return nil, err
	}
	return a.remember(ctx, head, p)
}

func (a *App) remember(ctx context.Context, head store.Run, p store.Plan) (*cell, error) {
	c := &cell{plan: p, head: store.Run{ID: head.ID}}
	c.mu.Lock()
	defer c.mu.Unlock()
	if err := a.catchUp(ctx, c, head); err != nil {
		return nil, err
	}
	if before, there, _ := a.runs.PeekOrAdd(head.ID, c); there {
		return before, nil
	}
	return c, nil
}

// catchUp brings c to head. c.mu is held.
func (a *App) catchUp(ctx context.Context, c *cell, head store.Run) error {
	if c.state != nil && c.head.HeadSeq == head.HeadSeq && string(c.head.HeadHash) == string(head.HeadHash) {
		c.head = head
		return nil
	}
	more, err := a.store.Entries(ctx, map[uuid.UUID]int{head.ID: c.head.HeadSeq})
	if err != nil {
		return err
	}
	c.absorb(head, more[head.ID])
	return nil
}

// absorb adds entries read from the database. Entries that came after head
// was read are left for the next time.
func (c *cell) absorb(head store.Run, entries []run.Entry) {
	if c.state == nil {
		c.state, c.ids = run.Fold(Follow(c.plan), nil), map[string]bool{}
	}
	var all []run.Entry
	for _, e := range entries {
		if e.Seq > c.head.HeadSeq && e.Seq <= head.HeadSeq {
			all = append(all, e)
			c.ids[e.ID] = true
		}
	}
	if len(c.state.Effective) == 0 {
		c.state = run.Fold(Follow(c.plan), all)
	} else {
		for _, e := range all {
			c.state = c.state.Then(e)
		}
	}
	c.head = head
}

// Run returns a run as the database has it now.
func (a *App) Run(ctx context.Context, id uuid.UUID) (Run, error) {
	c, err := a.cell(ctx, id)
	if err != nil {
		return Run{}, err
	}
	head, err := a.store.RunByID(ctx, id)
	if err != nil {
		return Run{}, found(err, "run")
	}
	c.mu.Lock()
	defer c.mu.Unlock()
	if head.HeadSeq < c.head.HeadSeq { // stored by us after the head was read
		return c.run(), nil
	}
	if err := a.catchUp(ctx, c, head); err != nil {
		return Run{}, err
	}
	return c.run(), nil
}

// allRuns returns the newest run of every joint, reading only what is new.
func (a *App) allRuns(ctx context.Context) (map[uuid.UUID]Run, error) {
	heads, err := a.store.NewestRuns(ctx)
	if err != nil {
		return nil, err
	}
	var plans map[uuid.UUID]store.Plan
	cells := make([]*cell, len(heads))
	behind := map[uuid.UUID]int{}
	for i, h := range heads {
		c, ok := a.runs.Get(h.ID)
		if !ok {
			if plans == nil {
				if plans, err = a.newestPlans(ctx); err != nil {
					return nil, err
				}
			}
			p, ok := plans[h.Joint]
			if !ok || p.Revision != h.Revision {
				continue // issued between the two readings
			}
			c = &cell{plan: p, head: store.Run{ID: h.ID}}
			if before, there, _ := a.runs.PeekOrAdd(h.ID, c); there {
				c = before
			}
		}
		cells[i] = c
		c.mu.Lock()
		if c.state == nil || c.head.HeadSeq < h.HeadSeq {
			behind[h.ID] = c.head.HeadSeq
		}
		c.mu.Unlock()
	}
	more := map[uuid.UUID][]run.Entry{}
	if len(behind) > 0 {
		if more, err = a.store.Entries(ctx, behind); err != nil {
			return nil, err
		}
	}
	out := map[uuid.UUID]Run{}
	for i, h := range heads {
		c := cells[i]
		if c == nil {
			continue
		}
		c.mu.Lock()
		if c.state == nil || c.head.HeadSeq < h.HeadSeq {
			c.absorb(h, more[h.ID])
		}
		out[h.Joint] = c.run()
		c.mu.Unlock()
	}
	return out, nil
}

func (a *App) newestPlans(ctx context.Context) (map[uuid.UUID]store.Plan, error) {
	list, err := a.store.NewestPlans(ctx)
	out := map[uuid.UUID]store.Plan{}
	for _, p := range list {
		out[p.Joint] = p
	}
	return out, err
}

// NewEntry is an entry as it is asked for.
type NewEntry struct {
	Run     uuid.UUID
	ID      uuid.UUID
	At      time.Time
	Content run.Content
	Pin     string // for a signature
}

// AddEntry stores an entry and returns the run with it. The same entry sent
// again changes nothing and is answered as the first time.
func (a *App) AddEntry(ctx context.Context, who Who, n NewEntry) (Run, error) {
	if err := may(who, n.Content); err != nil {
		return Run{}, err
	}
	if err := a.checkTime(n.At); err != nil {
		return Run{}, err
	}
	c, err := a.cell(ctx, n.Run)
	if err != nil {
		return Run{}, err
	}
	if _, sign := n.Content.(run.Signature); sign {
		if err := a.confirm(ctx, who.ID, n.Pin); err != nil {
			return Run{}, err
		}
	}
	c.mu.Lock()
	defer c.mu.Unlock()
	e := run.Entry{ID: n.ID.String(), AtTool: n.At, Person: who.ID.String(), Content: n.Content}
	// The first try trusts the memory; when that is behind, it is brought up to
	// the database and everything is looked at anew.
	for try := 0; ; try++ {
		r, err := a.tryAppend(ctx, c, e)
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
func (a *App) tryAppend(ctx context.Context, c *cell, e run.Entry) (Run, error) {
	if c.ids[e.ID] {
		return c.again(e)
	}
	if c.head.Closed {
		return Run{}, store.ErrStale
	}
	if err := c.state.Accept(e); err != nil {
		return Run{}, err
	}
	e.AtServer = a.now()
	stored, head, err := a.append(ctx, c.head, e, toolsAt(c.state, e.Content))
	if err != nil {
		return Run{}, err
	}
	c.head, c.state = head, c.state.Then(stored)
	c.ids[e.ID] = true
	a.tell(store.Notice{Joint: c.plan.Joint, Entries: head.HeadSeq})
	return c.run(), nil
}

// again answers an entry that is stored already: as the first time when it is
// the same, refused when it is another under the same identity.
func (c *cell) again(e run.Entry) (Run, error) {
	for _, eff := range c.state.Effective {
		if eff.Entry.ID == e.ID && eff.Entry.Person == e.Person && fmt.Sprint(eff.Entry.Content) == fmt.Sprint(e.Content) {
			return c.run(), nil
		}
	}
	return Run{}, &Error{Kind: Conflict, Code: "entry-taken", Field: "id", Text: "Another entry with this identity is stored already.", Way: "Send it with a new identity."}
}

// toolsAt names the tools an entry was made with.
func toolsAt(s *run.State, c run.Content) string {
	pass := 0
	switch c := c.(type) {
	case run.Pull:
		pass = c.Pass
	case run.Check:
		pass = len(s.Tooling.Passes)
	}
	if pass < 1 || s.Tooling == nil || pass > len(s.Tooling.Passes) {
		return ""
	}
	return strings.Join(s.Tooling.Passes[pass-1].Tools, " + ")
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
func may(who Who, c run.Content) error {
	need := []string{Fitter}
	switch c := c.(type) {
	case run.Measurement:
		need = []string{Fitter, Inspector}
	case run.Decision:
		need = []string{Engineer}
	case run.Signature:
		if c.Part == run.Checked {
			need = []string{Inspector}
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
	for _, eff := range r.State.Effective {
		if eff.Entry.ID == entry {
			return eff.Entry.Content.Kind(), nil
		}
	}
	return "", refusal.New(refusal.Unknown, "of", "The entry to correct is not in this run.", "Choose it on the tape.")
}
