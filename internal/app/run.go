package app

import (
	"context"
	"runtime"
	"slices"

	"github.com/google/uuid"
	"golang.org/x/sync/errgroup"

	"dynacor/core/joint"
	"dynacor/core/record"
	"dynacor/core/work"
	"dynacor/internal/store"
)

// Run is a run with the plan it follows and its state.
type Run struct {
	Head   store.Run
	Plan   store.Plan
	State  *work.State
	Before *work.State // the state without the entry that was stored just now; nil: none was
}

// standing is where the run stands, for the record: or that its plan was
// replaced before it was signed.
func (r Run) standing() string {
	if r.Head.Closed && r.State.Standing != record.Signed {
		return "replaced by a newer plan"
	}
	return r.State.Standing.Words()
}

// Words says what is done in the run: its kind of joint and its variant.
func (r Run) Words() string {
	p := r.State.Plan()
	if v := joint.Variant(p.Recipe, p.Choices); v != "" {
		return p.Recipe.Title + ", " + v
	}
	return p.Recipe.Title
}

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

// runAt returns a run up to its head, which was read just now.
func (a *App) runAt(ctx context.Context, head store.Run) (Run, error) {
	c, err := a.cellOf(ctx, head)
	if err != nil {
		return Run{}, err
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

// runsAt returns runs by their joint, reading only what is new of them.
func (a *App) runsAt(ctx context.Context, heads []store.Run) (map[uuid.UUID]Run, error) {
	cells, err := a.cellsOf(ctx, heads)
	if err != nil {
		return nil, err
	}
	var behind []int
	for i, c := range cells {
		if c != nil && !c.has(heads[i]) {
			behind = append(behind, i)
		}
	}
	if err := a.readUp(ctx, heads, cells, behind); err != nil {
		return nil, err
	}
	out := map[uuid.UUID]Run{}
	for i, h := range heads {
		if c := cells[i]; c != nil {
			c.mu.Lock()
			out[h.Joint] = c.run()
			c.mu.Unlock()
		}
	}
	return out, nil
}

// cellsOf returns the memories of runs; nil where a newer plan was issued
// meanwhile.
func (a *App) cellsOf(ctx context.Context, heads []store.Run) ([]*cell, error) {
	cells := make([]*cell, len(heads))
	var missing []uuid.UUID
	for i, h := range heads {
		c, ok := a.runs.Get(h.ID)
		if cells[i] = c; !ok {
			missing = append(missing, h.Joint)
		}
	}
	if len(missing) == 0 {
		return cells, nil
	}
	list, err := a.store.NewestPlans(ctx, missing...)
	if err != nil {
		return nil, err
	}
	plans := map[uuid.UUID]store.Plan{}
	for _, p := range list {
		plans[p.Joint] = p
	}
	for i, h := range heads {
		p, ok := plans[h.Joint]
		if cells[i] != nil || !ok || p.Revision != h.Revision {
			continue
		}
		if cells[i], err = a.newCell(ctx, h.ID, p); err != nil {
			return nil, err
		}
		if before, there, _ := a.runs.PeekOrAdd(h.ID, cells[i]); there {
			cells[i] = before
		}
	}
	return cells, nil
}

// atOnce is how many runs are read from the database in one go.
const atOnce = 250

// readUp brings cells up to their heads, some hundreds at a time and as many
// times at once as there are processors.
func (a *App) readUp(ctx context.Context, heads []store.Run, cells []*cell, behind []int) error {
	if len(behind) > atOnce {
		// Two who look at once after a start would each read everything: the
		// second waits for the first.
		a.reading.Lock()
		defer a.reading.Unlock()
		behind = slices.DeleteFunc(behind, func(i int) bool { return cells[i].has(heads[i]) })
	}
	g, ctx := errgroup.WithContext(ctx)
	g.SetLimit(runtime.GOMAXPROCS(0))
	for chunk := range slices.Chunk(behind, atOnce) {
		g.Go(func() error {
			after := map[uuid.UUID]int{}
			for _, i := range chunk {
				cells[i].mu.Lock()
				after[heads[i].ID] = cells[i].head.HeadSeq
				cells[i].mu.Unlock()
			}
			more, err := a.store.Entries(ctx, after)
			if err != nil {
				return err
			}
			for _, i := range chunk {
				c, h := cells[i], heads[i]
				c.mu.Lock()
				if c.state == nil || c.head.HeadSeq < h.HeadSeq {
					c.absorb(h, more[h.ID])
				}
				c.mu.Unlock()
			}
			return nil
		})
	}
	return g.Wait()
}
