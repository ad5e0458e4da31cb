package app

import (
	"context"
	"fmt"
	"runtime"
	"slices"
	"strings"

	"github.com/google/uuid"
	"golang.org/x/sync/errgroup"

	"dynacor/core/job"
	"dynacor/core/run"
	"dynacor/internal/store"
)

// Run is a run with the plan it follows and its state: that of a ring, or, where
// a recipe leads it, of its job.
type Run struct {
	Head   store.Run
	Plan   store.Plan
	Follow job.Plan
	State  *run.State
	Job    *job.State
}

// standing is where the run stands, for the record: its stage, or that its plan
// was replaced before it was signed.
func (r Run) standing() string {
	if r.Head.Closed && r.Stage() != run.StageSigned {
		return "replaced by a newer plan"
	}
	return string(r.Stage())
}

// Words says what is done in the run: its kind of joint and its variant.
func (r Run) Words() string {
	if r.Job == nil {
		in := r.Plan.Input
		return fmt.Sprintf("Gasketed flange, %d × %s", in.Bolts, in.Thread)
	}
	w := r.Job.Work
	words := []string{w.Recipe.Title}
	for _, c := range w.Recipe.Asked(w.Joint.Choices) {
		words = append(words, w.Joint.Choices[c.Name])
	}
	return strings.Join(words, ", ")
}

// Stage is where the run stands.
func (r Run) Stage() run.Stage {
	if r.Job != nil {
		return r.Job.Stage
	}
	return r.State.Stage
}

// Begun reports whether anybody has put a wrench to a bolt of this run.
func (r Run) Begun() bool {
	if r.Job != nil {
		return r.Job.Begun()
	}
	return r.State.Begun()
}

// Paused returns the pause that the run is in, nil for none.
func (r Run) Paused() *run.Entry {
	if r.Job != nil {
		return r.Job.Paused
	}
	return r.State.Paused
}

// Pulled reports whether somebody pulled bolts in this run.
func (r Run) Pulled(person string) bool {
	if r.Job != nil {
		return r.Job.Pullers[person]
	}
	return r.State.Pullers[person]
}

// Signatures are those that stand.
func (r Run) Signatures() []run.Signed {
	if r.Job != nil {
		return r.Job.Signatures
	}
	return r.State.Signatures
}

func (r Run) effective() []run.Effective {
	if r.Job != nil {
		return r.Job.Effective
	}
	return r.State.Effective
}

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

func (a *App) remember(ctx context.Context, head store.Run, p store.Plan) (*cell, error) {
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
	if c.folded() && c.head.HeadSeq == head.HeadSeq && string(c.head.HeadHash) == string(head.HeadHash) {
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

// Run returns a run as the database has it now.
func (a *App) Run(ctx context.Context, id uuid.UUID) (Run, error) {
	head, err := a.store.RunByID(ctx, id)
	if err != nil {
		return Run{}, found(err, "run")
	}
	return a.runAt(ctx, head)
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

// allRuns returns the newest run of every joint, reading only what is new.
func (a *App) allRuns(ctx context.Context) (map[uuid.UUID]Run, error) {
	heads, err := a.store.NewestRuns(ctx)
	if err != nil {
		return nil, err
	}
	var plans map[uuid.UUID]store.Plan
	cells := make([]*cell, len(heads))
	var behind []int // of heads: what has to be read
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
			if c, err = a.newCell(ctx, h.ID, p); err != nil {
				return nil, err
			}
			if before, there, _ := a.runs.PeekOrAdd(h.ID, c); there {
				c = before
			}
		}
		cells[i] = c
		if !c.has(h) {
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

// atOnce is how many runs are read from the database in one go.
const atOnce = 250

// readUp brings cells up to their heads, some hundreds at a time and as many
// times at once as there are processors: after a start there may be thousands.
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
				if !c.folded() || c.head.HeadSeq < h.HeadSeq {
					c.absorb(h, more[h.ID])
				}
				c.mu.Unlock()
			}
			return nil
		})
	}
	return g.Wait()
}

// Warm reads every run once, so that the first look at the Wall after a start is
// as quick as the next.
func (a *App) Warm(ctx context.Context) error {
	_, err := a.allRuns(ctx)
	return err
}

func (a *App) newestPlans(ctx context.Context) (map[uuid.UUID]store.Plan, error) {
	list, err := a.store.NewestPlans(ctx)
	out := map[uuid.UUID]store.Plan{}
	for _, p := range list {
		out[p.Joint] = p
	}
	return out, err
}
