package app

import (
	"context"
	"fmt"
	"strings"
	"sync"

	"github.com/google/uuid"

	"dynacor/core/job"
	"dynacor/core/run"
	"dynacor/internal/store"
)

// cell keeps one run folded. It is a memory of what the database holds and is
// checked against the head of the run; losing it costs one reading.
type cell struct {
	mu     sync.Mutex
	head   store.Run
	plan   store.Plan
	follow job.Plan   // where a recipe leads the run
	state  *run.State // of a ring
	job    *job.State // of a run that a recipe leads
	ids    map[string]bool
}

func (c *cell) run() Run { return Run{c.head, c.plan, c.follow, c.state, c.job} }

// has reports whether c holds everything up to a head.
func (c *cell) has(head store.Run) bool {
	c.mu.Lock()
	defer c.mu.Unlock()
	return c.folded() && c.head.HeadSeq >= head.HeadSeq
}

func (c *cell) folded() bool { return c.state != nil || c.job != nil }

func (c *cell) accept(e run.Entry, qualified []string) error {
	if c.job != nil {
		return c.job.Accept(e, qualified)
	}
	return c.state.Accept(e)
}

func (c *cell) then(e run.Entry) {
	if c.job != nil {
		c.job = c.job.Then(e)
		return
	}
	c.state = c.state.Then(e)
}

// newCell begins the memory of a run, with nothing of it read yet.
func (a *App) newCell(ctx context.Context, id uuid.UUID, p store.Plan) (*cell, error) {
	c := &cell{plan: p, head: store.Run{ID: id}}
	if p.Job == nil {
		return c, nil
	}
	r, err := a.recipe(ctx, p.Job.Input.Recipe, p.Job.Input.Edition)
	if err != nil {
		return nil, err
	}
	c.follow, err = job.Follow(p.Job.Input, r, p.Job.Result)
	return c, err
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
	return a.cellOf(ctx, head)
}

// cellOf is cell for a run whose head was read.
func (a *App) cellOf(ctx context.Context, head store.Run) (*cell, error) {
	if c, ok := a.runs.Get(head.ID); ok {
		return c, nil
	}
	p, err := a.store.PlanOf(ctx, head.Joint, head.Revision)
	if err != nil {
		return nil, err
	}
	return a.remember(ctx, head, p)
}

// absorb adds entries read from the database. Entries that came after head
// was read are left for the next time.
func (c *cell) absorb(head store.Run, entries []run.Entry) {
	if !c.folded() {
		c.ids = map[string]bool{}
	}
	var all []run.Entry
	for _, e := range entries {
		if e.Seq > c.head.HeadSeq && e.Seq <= head.HeadSeq {
			all = append(all, e)
			c.ids[e.ID] = true
		}
	}
	switch {
	case c.plan.Job != nil && c.job == nil:
		c.job = job.Fold(c.follow, all)
	case c.plan.Job == nil && (c.state == nil || len(c.state.Effective) == 0):
		c.state = run.Fold(Follow(c.plan), all)
	default:
		for _, e := range all {
			c.then(e)
		}
	}
	c.head = head
}

// again answers an entry that is stored already: as the first time when it is
// the same, refused when it is another under the same identity.
func (c *cell) again(e run.Entry) (Run, error) {
	for _, eff := range c.run().effective() {
		if eff.Entry.ID == e.ID && eff.Entry.Person == e.Person && fmt.Sprint(eff.Entry.Content) == fmt.Sprint(e.Content) {
			return c.run(), nil
		}
	}
	return Run{}, &Error{Kind: Conflict, Code: "entry-taken", Field: "id", Text: "Another entry with this identity is stored already.", Way: "Send it with a new identity."}
}

// tools names the tools an entry was made with.
func (c *cell) tools(what run.Content) string {
	if step, ok := what.(run.Step); ok && c.job != nil {
		if at, ok := c.job.Tool(step); ok {
			return strings.Join(at.Tools, " + ")
		}
		return ""
	}
	if c.state == nil {
		return ""
	}
	pass := 0
	switch c2 := what.(type) {
	case run.Pull:
		pass = c2.Pass
	case run.Check:
		pass = len(c.state.Tooling.Passes)
	}
	if pass < 1 || c.state.Tooling == nil || pass > len(c.state.Tooling.Passes) {
		return ""
	}
	return strings.Join(c.state.Tooling.Passes[pass-1].Tools, " + ")
}
