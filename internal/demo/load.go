package demo

import (
	"context"
	"fmt"
	"math/rand/v2"
	"time"

	"github.com/google/uuid"

	"dynacor/core/run"
	"dynacor/core/unit"
	"dynacor/internal/app"
	"dynacor/internal/store"
)

// Site is the name of the demo's works.
const Site = "Ottermere Hydro"

// begun is how many days ago the outage began when the demo is loaded.
const begun = 5

// Load fills an empty, migrated database. Every history goes through the same use cases as real work does, with the
// clock set to when it happened.
func Load(ctx context.Context, s *store.Store, now time.Time) error {
	start := now.Truncate(24*time.Hour).AddDate(0, 0, -begun)
	if err := s.SetSite(ctx, store.Site{Name: Site, Outage: "Unit 2 autumn outage", Begins: start, Days: 14}); err != nil {
		return err
	}
	who, err := addPeople(ctx, s)
	if err != nil {
		return err
	}
	if err := addTools(ctx, s, now); err != nil {
		return err
	}
	l := &loader{store: s, people: who, rand: rand.New(rand.NewPCG(2, 26)), areas: map[string]uuid.UUID{}, start: start, now: now}
	l.app = app.New(s, func() time.Time { return l.clock })
	for _, j := range outage() {
		if err := l.tell(ctx, j); err != nil {
			return fmt.Errorf("%s: %w", j.tag, err)
		}
	}
	for _, j := range works() {
		if err := l.lead(ctx, j); err != nil {
			return fmt.Errorf("%s: %w", j.tag, err)
		}
	}
	return lockPins(ctx, s, who)
}

type loader struct {
	store  *store.Store
	app    *app.App
	people map[string]store.Person
	areas  map[string]uuid.UUID
	rand   *rand.Rand
	start  time.Time
	now    time.Time
	clock  time.Time
}

func (l *loader) who(login string) app.Who {
	p := l.people[login]
	return app.Who{ID: p.ID, Roles: p.Roles}
}

// begin sets the clock to so many days after the outage began.
func (l *loader) begin(days float64) {
	l.clock = l.start.Add(time.Duration(days * 24 * float64(time.Hour)))
	if latest := l.now.Add(-90 * time.Minute); l.clock.After(latest) {
		l.clock = latest
	}
}

// pass lets between least and most seconds go by, never past now.
func (l *loader) pass(least, most int) {
	l.clock = l.clock.Add(time.Duration(least*1000+l.rand.IntN((most-least)*1000)) * time.Millisecond)
	if l.clock.After(l.now) {
		l.clock = l.now
	}
}

func (l *loader) area(ctx context.Context, name string) (uuid.UUID, error) {
	if id, ok := l.areas[name]; ok {
		return id, nil
	}
	id := uuid.New()
	l.areas[name] = id
	return id, l.store.AddArea(ctx, store.Area{ID: id, Name: name, Position: len(l.areas)})
}

// tell plays a joint's story up to its stage.
func (l *loader) tell(ctx context.Context, j joint) error {
	area, err := l.area(ctx, j.area)
	if err != nil {
		return err
	}
	l.begin(j.begun)
	fitter := l.people[j.fitter].ID
	v := store.Joint{ID: uuid.New(), Area: area, Tag: j.tag, Title: j.title, Assigned: &fitter, MadeAt: l.clock}
	if err := l.store.AddJoint(ctx, v); err != nil || j.upTo == fresh {
		return err
	}
	l.pass(300, 900)
	d, err := l.app.SaveDraft(ctx, l.who(j.fitter), v.ID, 0, j.in)
	if err != nil || j.upTo == draft {
		return err
	}
	l.pass(600, 1500)
	issuedJoint, err := l.app.Issue(ctx, l.who("edda"), v.ID, d.Version, Pin, "")
	if err != nil || j.upTo == issued {
		return err
	}
	if err := l.work(ctx, j, issuedJoint); err != nil || j.tell.then == nil {
		return err
	}
	return l.follow(ctx, v.ID, j.tell.work, *j.tell.then)
}

// worker adds the entries of one run.
type worker struct {
	*loader
	ctx  context.Context
	j    joint
	run  uuid.UUID
	last app.Run
	err  error
}

func (l *loader) work(ctx context.Context, j joint, issued app.Joint) error {
	w := &worker{loader: l, ctx: ctx, j: j, run: issued.Run.Head.ID, last: *issued.Run}
	ways, err := l.app.Ways(ctx, issued.ID, "", nil)
	if err != nil {
		return err
	}
	best := ways[0]
	if best.Refused != nil {
		return fmt.Errorf("no tool of the crib reaches it: %w", best.Refused)
	}
	multiplier := ""
	if best.Chain.Multiplier != nil {
		multiplier = best.Chain.Multiplier.Tag
	}
	choice, err := l.app.Choose(ctx, w.run, "", best.Chain.Wrench.Tag, multiplier, nil)
	if err != nil {
		return err
	}
	w.add(j.fitter, choice)
	if j.upTo == tooled {
		return w.err
	}
	w.pass(200, 500)
	w.add(j.fitter, run.Caution{Points: []string{"read at the joint"}})
	w.pass(60, 200)
	w.add(j.fitter, run.Measurement{Phase: run.Before, Gaps: w.gaps(3.1, 0.35)})
	w.passes()
	if j.upTo >= checking {
		w.rounds()
	}
	if j.upTo >= signing {
		w.prove()
	}
	return w.err
}

func (w *worker) add(login string, c run.Content) uuid.UUID {
	id := uuid.New()
	if w.err != nil {
		return id
	}
	r, err := w.app.AddEntry(w.ctx, w.who(login), app.NewEntry{Run: w.run, ID: id, At: w.clock, Content: c, Pin: Pin})
	if err != nil {
		w.err = fmt.Errorf("%s: %w", c.Kind(), err)
		return id
	}
	w.last = r
	w.pass(1, 3)
	return id
}

// gaps are four gaps about mean, differing by at most spread, mm.
func (w *worker) gaps(mean, spread float64) []float64 {
	out := make([]float64, 4)
	for i := range out {
		out[i] = unit.Round(unit.Round(mean+(w.rand.Float64()-0.5)*spread, 0.05), 1e-9)
	}
	return out
}

// passes pulls every bolt through the passes, or part of them.
func (w *worker) passes() {
	pulls := len(w.last.State.Bolts) * len(w.last.Plan.Result.Passes)
	if w.j.upTo == pulling {
		pulls = int(float64(pulls) * w.j.share)
	} else {
		pulls *= 2 // a replaced bolt is pulled again; the loop ends at the first check round
	}
	troubled, corrected := false, false
	for i := 0; i < pulls && w.err == nil; i++ {
		n := w.last.State.Next
		if n == nil || n.Round > 0 {
			return
		}
		w.passTime(n)
		if n.Bolt == w.j.tell.trouble && n.Pass == 2 && !troubled {
			troubled = true
			w.add(w.j.fitter, run.Trouble{Bolt: n.Bolt, What: run.ThreadDamaged, Remedy: run.Replaced, Note: "Burr on the thread, new stud fitted and greased."})
			w.clock = w.clock.Add(14 * time.Minute)
			i--
			continue
		}
		p := run.Pull{Bolt: n.Bolt, Pass: n.Pass}
		set := w.last.State.Tooling.Passes[n.Pass-1].Setting
		last := n.Pass == len(w.last.Plan.Result.Passes)
		if last && w.j.tell.farReading == n.Bolt {
			p.Reading, p.Confirmed = unit.Of(unit.Round(set.Value*1.13, 1), set.Unit), true
		}
		if last && w.j.tell.correction == n.Bolt && !corrected {
			corrected = true
			p.Reading = unit.Of(unit.Round(set.Value*1.02, 1), set.Unit)
			id := w.add(w.j.fitter, p)
			w.pass(20, 40)
			p.Reading = unit.Of(unit.Round(set.Value*1.002, 1), set.Unit)
			w.add(w.j.fitter, run.Correction{Of: id.String(), Reason: "Misread the thimble by one turn.", Instead: p})
			continue
		}
		w.add(w.j.fitter, p)
	}
	if w.j.tell.pausedAtEnd {
		w.pass(30, 90)
		w.add(w.j.fitter, run.Pause{Note: "Called to the gallery."})
	}
}

// passTime lets the time of one pull go by: longer when the pass is high.
func (w *worker) passTime(n *run.Act) {
	w.pass(18+int(n.Share/6), 40+int(n.Share/4))
	if w.rand.IntN(30) == 0 {
		w.clock = w.clock.Add(3 * time.Minute) // somebody asked something
	}
	if w.clock.After(w.now) {
		w.clock = w.now
	}
}

func (w *worker) rounds() {
	first := len(w.last.State.Bolts)
	limit := 0
	if w.j.upTo == checking {
		limit = first + int(w.j.share*float64(first)) // into the second round
	}
	for done := 0; w.err == nil; done++ {
		n := w.last.State.Next
		if n == nil || (limit > 0 && done == limit) {
			return
		}
		w.pass(12, 30)
		moved := (n.Round == 1 && n.Bolt == w.j.tell.movedBolt) || (w.j.upTo == stopped && n.Bolt == 1+(3*n.Round)%first)
		w.add(w.j.fitter, run.Check{Bolt: n.Bolt, Round: n.Round, Moved: moved})
	}
}

func (w *worker) prove() {
	w.pass(300, 900)
	gaps := w.gaps(2.2, 0.3)
	if w.j.tell.openGap {
		gaps[1] = gaps[0] + 1.1
	}
	w.add(w.j.fitter, run.Measurement{Phase: run.After, Gaps: gaps})
	w.pass(120, 600)
	w.add(w.j.fitter, run.Signature{Part: run.Made})
	if w.j.tell.onlyMade {
		return
	}
	w.pass(1800, 5400)
	sig := run.Signature{Part: run.Checked}
	if w.last.State.Outside() {
		sig.Reason = "Seen and measured again; accepted, to be looked at after the first week of running."
	}
	w.add(w.j.inspector, sig)
}
