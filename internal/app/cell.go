package app

import (
	"context"
	"sync"

	"github.com/google/uuid"

	"dynacor/core/record"
	"dynacor/core/work"
	"dynacor/internal/store"
)

// cell keeps one run folded. It is a memory of what the database holds and is
// checked against the head of the run; losing it costs one reading.
type cell struct {
	mu    sync.Mutex
	head  store.Run
	plan  store.Plan
	acts  *work.Plan
	state *work.State // nil until its entries were read
	ids   map[string]int
}

func (c *cell) run() Run { return Run{Head: c.head, Plan: c.plan, State: c.state} }

// has reports whether c holds everything up to a head.
func (c *cell) has(head store.Run) bool {
	c.mu.Lock()
	defer c.mu.Unlock()
	return c.state != nil && c.head.HeadSeq >= head.HeadSeq
}

// then counts a stored entry in. c.mu is held.
func (c *cell) then(e record.Entry) {
	c.state = c.state.Then(e)
	c.ids[e.ID] = len(c.ids)
}

// newCell begins the memory of a run, with nothing of it read yet.
func (a *App) newCell(ctx context.Context, id uuid.UUID, p store.Plan) (*cell, error) {
	r, err := a.recipe(ctx, p.Input.Recipe, p.Input.Edition)
	if err != nil {
		return nil, err
	}
	p.Result = p.Result.With(r)
	acts, err := work.Lay(p.Input, r, p.Result)
	return &cell{plan: p, acts: acts, head: store.Run{ID: id}, ids: map[string]int{}}, err
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
	c, err := a.newCell(ctx, head.ID, p)
	if err != nil {
		return nil, err
	}
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
// was read are left for the next time. c.mu is held.
func (c *cell) absorb(head store.Run, entries []record.Entry) {
	var all []record.Entry
	for _, e := range entries {
		if e.Seq > c.head.HeadSeq && e.Seq <= head.HeadSeq {
			all = append(all, e)
		}
	}
	if c.state == nil {
		c.state = work.Fold(c.acts, all)
		for i, e := range all {
			c.ids[e.ID] = i
		}
	} else {
		for _, e := range all {
			c.then(e)
		}
	}
	c.head = head
}
