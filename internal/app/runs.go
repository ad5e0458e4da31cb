package app

import (
	"context"
	"errors"
	"fmt"
	"runtime"
	"slices"
	"strings"
	"sync"
	"time"

	"github.com/google/uuid"
	"golang.org/x/sync/errgroup"

	"dynacor/core/job"
	"dynacor/core/refusal"
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

// Run is a run with the plan it follows and its state: that of a ring, or, where
// a recipe leads it, of its job.
type Run struct {
	Head   store.Run
	Plan   store.Plan
	Follow job.Plan
	State  *run.State
	Job    *job.State
}

func (c *cell) run() Run { return Run{c.head, c.plan, c.follow, c.state, c.job} }

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
		c.mu.Lock()
		if !c.folded() || c.head.HeadSeq < h.HeadSeq {
			behind = append(behind, i)
		}
		c.mu.Unlock()
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
