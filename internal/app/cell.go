package app

import (
	"context"
	"errors"
	"fmt"
	"log/slog"
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
	fault string // where what is stored is not what was stored: what; the state is what holds of it
}

func (c *cell) run() Run { return Run{Head: c.head, Plan: c.plan, State: c.state, Fault: c.fault} }

// stands is how a memory stands to a head of its run.
type stands int

const (
	same   stands = iota
	behind        // or nothing was read yet, or what was read did not hold
	ahead         // of it: something was stored since the head was read, or the database went back
)

func (c *cell) to(head store.Run) stands {
	switch {
	case c.state == nil || c.fault != "" || c.head.HeadSeq < head.HeadSeq:
		return behind
	case c.head.HeadSeq > head.HeadSeq || string(c.head.HeadHash) != string(head.HeadHash):
		return ahead
	}
	return same
}

// forget drops what was read. c.mu is held.
func (c *cell) forget() {
	c.head = store.Run{ID: c.head.ID, HeadHash: c.plan.Hash}
	c.state, c.ids, c.fault = nil, map[string]int{}, ""
}

// then counts a stored entry in. c.mu is held.
func (c *cell) then(e record.Entry) {
	c.state = c.state.Then(e)
	c.ids[e.ID] = len(c.ids)
}

// newCell begins the memory of a run, with nothing of it read yet.
func (a *App) newCell(ctx context.Context, id uuid.UUID, p store.Plan) (*cell, error) {
	if p.Unreadable {
		return nil, doesNotHold(p.Fault)
	}
	in, r, err := a.recipeOf(ctx, p.Input)
	if err != nil {
		return nil, err
	}
	p.Input = in
	p.Result = p.Result.With(r)
	acts, err := work.Lay(p.Input, r, p.Result)
	if err != nil {
		return nil, doesNotHold("the plan cannot be laid out: " + err.Error())
	}
	acts.IssuedAt = p.IssuedAt
	return &cell{plan: p, acts: acts, head: store.Run{ID: id, HeadHash: p.Hash}, ids: map[string]int{}}, nil
}

const notHolding = "does-not-hold"

// doesNotHold is what is answered where what is stored is not what was stored.
func doesNotHold(what string) error {
	return &Error{Kind: Conflict, Code: notHolding, Text: "This is not what was stored: " + what + ".",
		Way: "Leave the joint as it is and tell the administrator; “dynacor audit” says what was changed."}
}

// faultOf returns what does not hold, where that is why something failed.
func faultOf(err error) (what string, is bool) {
	var e *Error
	if errors.As(err, &e) && e.Code == notHolding {
		return e.Text, true
	}
	return "", false
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
	if errors.Is(err, store.ErrNotFound) {
		return nil, doesNotHold("the plan is gone")
	}
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

// catchUp brings c to head, which was read while c.mu was held or before. Where the memory
// is ahead of the database, the database went back, to a backup or a server that was
// behind: then what is remembered is dropped, and screens look anew.
func (a *App) catchUp(ctx context.Context, c *cell, head store.Run) error {
	stand := c.to(head)
	if stand == ahead {
		// What came before us under the lock may have been stored after head was read.
		var err error
		if head, err = a.store.RunByID(ctx, head.ID); err != nil {
			return found(err, "run")
		}
		stand = c.to(head)
	}
	switch stand {
	case same:
		c.head = head
		return nil
	case ahead:
		slog.Warn("the database went back; what is remembered of a run is dropped", "run", head.ID, "remembered", c.head.HeadSeq,
			"stored", head.HeadSeq)
		c.forget()
		defer a.changed(head.Joint)
	}
	if c.fault != "" {
		c.forget()
	}
	for {
		tails, err := a.store.Entries(ctx, []store.Span{{Known: c.head, Upto: head}})
		if err != nil {
			return err
		}
		if t := tails[head.ID]; t.Fault == "" || c.state == nil {
			c.absorb(head, t)
			return nil
		}
		c.forget() // it does not follow what is remembered: perhaps that is what is wrong
	}
}

// absorb adds what was read from the database. c.mu is held.
func (c *cell) absorb(head store.Run, t store.Tail) {
	if c.state == nil {
		c.state = work.Fold(c.acts, t.Entries)
		for i, e := range t.Entries {
			c.ids[e.ID] = i
		}
	} else {
		for _, e := range t.Entries {
			c.then(e)
		}
	}
	c.head, c.fault = head, c.plan.Fault
	if t.Fault != "" {
		c.fault = fmt.Sprintf("entry %d: %s", t.Seq, t.Fault)
	}
}
