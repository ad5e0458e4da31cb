package app

import (
	"context"
	"runtime"
	"slices"
	"sync"

	"github.com/google/uuid"
	"golang.org/x/sync/errgroup"

	"dynacor/core/record"
	"dynacor/core/work"
	"dynacor/internal/store"
)

// Run returns a run as the database has it now.
func (a *App) Run(ctx context.Context, id uuid.UUID) (Run, error) {
	head, err := a.store.RunByID(ctx, id)
	if err != nil {
		return Run{}, found(err, "run")
	}
	return a.runAt(ctx, head)
}

// JudgeReadings gives the verdict on readings as they are typed, taken after held
// minutes; nothing is stored.
func (a *App) JudgeReadings(ctx context.Context, runID uuid.UUID, step string, readings []float64, held float64) (work.Typed, error) {
	r, err := a.Run(ctx, runID)
	if err != nil {
		return work.Typed{}, err
	}
	return r.State.Judge(step, readings, held)
}

// JudgeRig refuses what a gauge may not read while a hydraulic wrench is rigged up; nothing
// is stored.
func (a *App) JudgeRig(ctx context.Context, runID uuid.UUID, c record.Setting) error {
	r, err := a.Run(ctx, runID)
	if err != nil {
		return err
	}
	return r.State.JudgeRig(c)
}

// runAt returns a run up to its head, which was read just now, and keeps in mind whether it
// holds.
func (a *App) runAt(ctx context.Context, head store.Run) (Run, error) {
	r, err := a.readTo(ctx, head)
	if what, is := faultOf(err); is {
		a.torn.Store(head.Joint, what)
	} else if err == nil && r.Fault != "" {
		a.torn.Store(head.Joint, r.Fault)
	} else if err == nil && !head.Closed {
		a.torn.Delete(head.Joint)
	}
	return r, err
}

func (a *App) readTo(ctx context.Context, head store.Run) (Run, error) {
	c, err := a.cellOf(ctx, head)
	if err != nil {
		return Run{}, err
	}
	c.mu.Lock()
	defer c.mu.Unlock()
	if err := a.catchUp(ctx, c, head); err != nil {
		return Run{}, err
	}
	return c.run(), nil
}

// runsAt returns runs by their joint, reading only what is new of them; and what does not
// hold of those of which nothing can be told.
func (a *App) runsAt(ctx context.Context, heads []store.Run) (out map[uuid.UUID]Run, broken map[uuid.UUID]string, err error) {
	cells, broken, err := a.readUp(ctx, heads)
	if err != nil {
		return nil, nil, err
	}
	out = map[uuid.UUID]Run{}
	for i, h := range heads {
		c := cells[i]
		if c == nil {
			continue
		}
		if c.at(h) == ahead {
			if out[h.Joint], err = a.runAt(ctx, h); err != nil {
				return nil, nil, err
			}
			continue
		}
		c.mu.Lock()
		out[h.Joint] = c.run()
		c.mu.Unlock()
	}
	return out, broken, nil
}

// at is to, for who does not hold c.mu.
func (c *cell) at(head store.Run) stands {
	c.mu.Lock()
	defer c.mu.Unlock()
	return c.to(head)
}

// atOnce is how many runs are read from the database in one go, at the most; leastAtOnce
// how many are worth one: while some are folded the next are on their way.
const (
	atOnce      = 250
	leastAtOnce = 20
)

// readUp returns the memories of runs, up to their heads; nil where a newer plan was issued
// meanwhile, and where nothing can be told: then broken says why, by joint. What is not
// known yet is read some hundreds at a time, and one more at once than there are
// processors: it waits for the database.
func (a *App) readUp(ctx context.Context, heads []store.Run) (cells []*cell, broken map[uuid.UUID]string, err error) {
	cells, broken = make([]*cell, len(heads)), map[uuid.UUID]string{}
	unread := a.unread(heads, cells)
	if len(unread) > atOnce {
		// Two who look at once after a start would each read everything: the
		// second waits for the first.
		a.reading.Lock()
		defer a.reading.Unlock()
		unread = a.unread(heads, cells)
	}
	var mu sync.Mutex // of broken
	g, ctx := errgroup.WithContext(ctx)
	g.SetLimit(runtime.GOMAXPROCS(0) + 1)
	for chunk := range slices.Chunk(unread, min(atOnce, max(leastAtOnce, len(unread)/8))) {
		g.Go(func() error {
			err := a.lay(ctx, heads, cells, chunk, func(joint uuid.UUID, what string) {
				mu.Lock()
				defer mu.Unlock()
				broken[joint] = what
			})
			if err != nil {
				return err
			}
			return a.follow(ctx, heads, cells, chunk)
		})
	}
	return cells, broken, g.Wait()
}

// unread fills in the memories that are there, and returns the places of those that are
// not, or are behind their heads.
func (a *App) unread(heads []store.Run, cells []*cell) (out []int) {
	for i, h := range heads {
		c, ok := a.runs.Get(h.ID)
		if cells[i] = c; !ok || c.at(h) == behind {
			out = append(out, i)
		}
	}
	return out
}

// lay begins the memories that are not there yet of some runs, by their plans.
func (a *App) lay(ctx context.Context, heads []store.Run, cells []*cell, which []int, broken func(joint uuid.UUID, what string)) error {
	var missing []uuid.UUID
	for _, i := range which {
		if cells[i] == nil {
			missing = append(missing, heads[i].Joint)
		}
	}
	if len(missing) == 0 {
		return nil
	}
	list, err := a.store.NewestPlans(ctx, missing...)
	if err != nil {
		return err
	}
	plans := map[uuid.UUID]store.Plan{}
	for _, p := range list {
		plans[p.Joint] = p
	}
	for _, i := range which {
		h := heads[i]
		p, ok := plans[h.Joint]
		switch {
		case cells[i] != nil || ok && p.Revision != h.Revision:
			continue
		case !ok:
			broken(h.Joint, "the plan is gone")
			continue
		}
		c, err := a.newCell(ctx, h.ID, p)
		if what, is := faultOf(err); is {
			broken(h.Joint, what)
			continue
		}
		if err != nil {
			return err
		}
		cells[i] = c
		if before, there, _ := a.runs.PeekOrAdd(h.ID, c); there {
			cells[i] = before
		}
	}
	return nil
}

// follow brings the memories of some runs up to their heads.
func (a *App) follow(ctx context.Context, heads []store.Run, cells []*cell, which []int) error {
	var spans []store.Span
	var places []int
	for _, i := range which {
		c, h := cells[i], heads[i]
		if c == nil || c.at(h) != behind {
			continue
		}
		c.mu.Lock()
		known := store.Run{ID: h.ID, HeadHash: c.plan.Hash}
		if c.state != nil && c.fault == "" && c.head.HeadSeq <= h.HeadSeq {
			known = c.head
		}
		c.mu.Unlock()
		spans, places = append(spans, store.Span{Known: known, Upto: h}), append(places, i)
	}
	if len(spans) == 0 {
		return nil
	}
	tails, err := a.store.Entries(ctx, spans)
	if err != nil {
		return err
	}
	for n, i := range places {
		c, h := cells[i], heads[i]
		if !c.take(spans[n].Known, h, tails[h.ID]) {
			if _, err := a.runAt(ctx, h); err != nil {
				return err
			}
		}
	}
	return nil
}

// take adds what was read behind a head that was known then, and reports whether that is
// what goes behind what is known now, and holds.
func (c *cell) take(known, head store.Run, t store.Tail) bool {
	c.mu.Lock()
	defer c.mu.Unlock()
	switch {
	case c.to(head) != behind:
		return true
	case c.state == nil || c.fault != "":
		if known.HeadSeq > 0 {
			return false
		}
		c.forget()
	case t.Fault != "" || c.head.HeadSeq != known.HeadSeq:
		return false
	}
	c.absorb(head, t)
	return true
}
