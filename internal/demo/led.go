package demo

import (
	"cmp"
	"context"
	"fmt"
	"maps"
	"math"
	"slices"
	"strings"
	"time"

	"github.com/google/uuid"

	"dynacor/core/job"
	"dynacor/core/recipe"
	"dynacor/core/run"
	"dynacor/core/unit"
	"dynacor/internal/app"
	"dynacor/internal/store"
)

// led is a joint that a recipe leads and how far it has come.
type led struct {
	area, tag, title   string
	recipe, kind, size string // kind is the type on the nameplate
	choices            map[string]string
	counts             map[string]int
	fitter, checker    string
	begun              float64
	upTo               stage
	share              float64
	tell               ledTale
}

// ledTale is what happened on the way.
type ledTale struct {
	edit    func(*job.Input)     // what the draft has beside the sheet
	skipped map[string]string    // steps left undone, with the reason
	outside map[string][]float64 // readings kept outside their limit
	tries   map[string][]float64 // of an adjust step, before the one that is kept
	moved   int                  // a bolt that moved in the first round of the first group that is gone round
	trouble int                  // a bolt that was replaced
	paused  bool
	then    *led // the work that followed once this was signed: its choices, stage and tale
	because string
}

// lead plays the story of a joint that a recipe leads.
func (l *loader) lead(ctx context.Context, j led) error {
	area, err := l.area(ctx, j.area)
	if err != nil {
		return err
	}
	l.begin(j.begun)
	fitter := l.people[j.fitter].ID
	v := store.Joint{ID: uuid.New(), Area: area, Tag: j.tag, Title: j.title, Assigned: &fitter, MadeAt: l.clock, Recipe: j.recipe}
	if err := l.store.AddJoint(ctx, v); err != nil || j.upTo == fresh {
		return err
	}
	version := 0
	for next := &j; next != nil; next = next.tell.then {
		if version, err = l.leadOnce(ctx, v.ID, *next, version); err != nil {
			return err
		}
	}
	return nil
}

// leadOnce lays the joint out, issues its plan and works along it up to its
// stage.
func (l *loader) leadOnce(ctx context.Context, joint uuid.UUID, j led, version int) (int, error) {
	l.pass(300, 900)
	j0, err := l.app.Joint(ctx, joint)
	if err != nil {
		return 0, err
	}
	in := job.Input{Recipe: j.recipe, Edition: j0.Job.Input.Edition, Type: j.kind, Size: j.size, Choices: j.choices, Groups: map[string]job.Bolts{}, Values: map[string]job.Given{}}
	for group, n := range j.counts {
		in.Groups[group] = job.Bolts{Count: n}
	}
	if j.tell.edit != nil {
		j.tell.edit(&in)
	}
	d, err := l.app.SaveJob(ctx, l.who(j.fitter), joint, version, in)
	if err != nil || j.upTo == draft {
		return 0, err
	}
	l.pass(600, 1500)
	issued, err := l.app.Issue(ctx, l.who("edda"), joint, d.Version, Pin, j.tell.because)
	if err != nil {
		return 0, err
	}
	if j.upTo <= issuedOnly {
		return d.Version, nil
	}
	return d.Version, l.along(ctx, j, issued)
}

// along works along an issued plan up to the story's stage.
func (l *loader) along(ctx context.Context, j led, issued app.Joint) error {
	w := &leader{loader: l, ctx: ctx, j: j, run: issued.Run.Head.ID, last: *issued.Run, tried: map[string]int{}}
	w.work()
	return w.err
}

// follow plays what followed on a signed flange.
func (l *loader) follow(ctx context.Context, joint uuid.UUID, work string, j led) error {
	l.pass(3600, 9000)
	issued, err := l.app.Follow(ctx, l.who("edda"), joint, work, Pin, j.tell.because)
	if err != nil {
		return err
	}
	if err := l.along(ctx, j, issued); err != nil {
		return err
	}
	version := issued.Job.Version
	for next := j.tell.then; next != nil; next = next.tell.then {
		if version, err = l.leadOnce(ctx, joint, *next, version); err != nil {
			return err
		}
	}
	return nil
}

// leader adds the entries of one run that a recipe leads.
type leader struct {
	*loader
	ctx     context.Context
	j       led
	run     uuid.UUID
	last    app.Run
	tried   map[string]int
	moved   bool
	trouble bool
	err     error
}

func (w *leader) add(login string, n app.NewEntry) {
	if w.err != nil {
		return
	}
	n.Run, n.ID, n.At, n.Pin, n.Led = w.run, uuid.New(), w.clock, Pin, true
	r, err := w.app.AddEntry(w.ctx, w.who(login), n)
	if err != nil {
		w.err = fmt.Errorf("%s %+v: %w", n.Content.Kind(), n.Content, err)
		return
	}
	w.last = r
	w.pass(1, 3)
}

// work does what is offered until the story's stage is reached.
func (w *leader) work() {
	pulls, prepared := 0, 0
	for w.err == nil {
		s := w.last.Job
		a, ok := s.Next()
		if !ok {
			break
		}
		st, _ := s.Work.Step(a)
		switch {
		case w.j.upTo == preparing && prepared >= int(w.j.share*10):
			return
		case st.Station == recipe.ToolUp || (st.Station == recipe.AtBolts && len(s.Tooling) == 0):
			if w.j.upTo <= tooled && w.j.upTo != preparing {
				return
			}
			w.tools()
		}
		if st.Station == recipe.AtBolts {
			if w.j.upTo == pulling && pulls >= w.pulls() {
				if w.j.tell.paused {
					w.add(w.j.fitter, app.NewEntry{Content: run.Pause{Note: "Called away."}})
				}
				return
			}
			pulls++
		}
		if st.Station == recipe.Prove && w.j.upTo == proving {
			return
		}
		w.do(st, a)
		prepared++
	}
	w.sign()
}

// pulls is how many acts at the bolts the story has.
func (w *leader) pulls() int {
	all := 0
	for _, st := range w.last.Job.Work.Steps() {
		if st.Station == recipe.AtBolts {
			for _, a := range w.last.Job.Work.Acts(st.ID) {
				if a.Round <= 1 { // how many rounds there are shows on the way
					all++
				}
			}
		}
	}
	return int(w.j.share * float64(all))
}

func (w *leader) tools() {
	for _, g := range w.last.Plan.Job.Result.Groups {
		if _, has := w.last.Job.Tooling[g.Name]; has || g.How != recipe.ByTorque || w.err != nil {
			continue
		}
		ways, err := w.app.Ways(w.ctx, w.last.Head.Joint, g.Name, nil)
		if err == nil && ways[0].Refused != nil {
			err = ways[0].Refused
		}
		if err != nil {
			w.err = fmt.Errorf("%s: %w", g.Name, err)
			return
		}
		multiplier := ""
		if m := ways[0].Chain.Multiplier; m != nil {
			multiplier = m.Tag
		}
		choice, err := w.app.Choose(w.ctx, w.run, g.Name, ways[0].Chain.Wrench.Tag, multiplier, nil)
		if err != nil {
			w.err = err
			return
		}
		w.pass(30, 90)
		w.add(w.j.fitter, app.NewEntry{Content: choice})
	}
}

// do is one act as the story has it.
func (w *leader) do(st recipe.Step, a recipe.Act) {
	s := w.last.Job
	person := w.j.fitter
	if len(st.Cautions) > 0 && !s.Cautioned[st.ID][w.people[person].ID.String()] {
		w.add(person, app.NewEntry{Content: run.Caution{Step: st.ID}})
	}
	w.pass(20, 70)
	c := run.Step{Step: a.Step, Bolt: a.Bolt, Share: a.Share, Turn: a.Turn, Stroke: a.Stroke, Lock: a.Lock, Round: a.Round}
	if a.Bolt > 0 && a.Bolt == w.j.tell.trouble && !w.trouble && a.Share == 100 && a.Round == 0 {
		w.trouble = true
		w.add(person, app.NewEntry{Content: run.Trouble{Step: a.Step, Bolt: a.Bolt, What: run.ThreadDamaged, Remedy: run.Replaced, Note: "Thread torn; a new one fitted."}})
		return
	}
	switch {
	case a.Turn > 0 && a.Round > 0: // by portions: some hold a round before the others
		c.Moved = a.Round < 4 || (a.Round == 4 && a.Bolt%3 == 0)
	case a.Round == 1 && a.Bolt == w.j.tell.moved && !w.moved:
		w.moved, c.Moved = true, true
	}
	if reason, skip := w.j.tell.skipped[st.ID]; skip {
		c.Skipped, c.Reason = true, reason
	} else if win, ok := s.Work.Window(st.ID); ok {
		w.pass(60, 240)
		w.clock = w.clock.Add(time.Duration(st.Hold) * time.Minute)
		c.Readings, c.Bolts, c.Held = w.readings(win, s.Work.Places(st.ID)), s.Work.Sample(st.ID), st.Hold
		if bad, out := w.j.tell.outside[st.ID]; out {
			c.Readings, c.Reason = bad, "Measured twice; the maker was asked and accepts it."
		}
		if tries := w.j.tell.tries[st.ID]; w.tried[st.ID] < len(tries) {
			c.Readings = []float64{tries[w.tried[st.ID]]}
			w.tried[st.ID]++
		}
	}
	if st.Does == recipe.Match {
		size, _, _ := strings.Cut(w.j.size, ",")
		for i, p := range s.Work.Parts() {
			c.Marks = append(c.Marks, fmt.Sprintf("%s: %s-%d%02d", p.Name, cmp.Or(strings.TrimSpace(w.j.kind+" "+size), "OH"), 40+w.rand.IntN(50), i+1))
		}
	}
	n := app.NewEntry{Content: c}
	if st.By != "" {
		n.As = w.qualified(st.By)
	}
	w.add(person, n)
}

// qualified is the login of somebody who may do what is asked for.
func (w *leader) qualified(what string) string {
	for _, login := range slices.Sorted(maps.Keys(w.people)) {
		p := w.people[login]
		if slices.Contains(p.Roles, what) || slices.Contains(p.Qualifications, what) {
			return login
		}
	}
	return ""
}

// readings lie well within a window, close to one another.
func (w *leader) readings(win recipe.Window, n int) []float64 {
	low, high := win.Low, win.High
	switch {
	case math.IsInf(low, 0) && math.IsInf(high, 0):
		low, high = 1, 2
	case math.IsInf(low, 0):
		low = high / 2
	case math.IsInf(high, 0):
		high = low + max(1, 0.4*math.Abs(low))
	}
	wide := high - low
	if !math.IsInf(win.Even, 0) {
		wide = min(wide, win.Even)
	}
	if high-low > 50 { // a limit that only keeps out nonsense
		high = low + 2 + wide
	}
	middle := (low + high) / 2
	step := math.Pow(10, math.Floor(math.Log10(wide))-1)
	out := make([]float64, n)
	for i := range out {
		out[i] = unit.Round(middle+(w.rand.Float64()-0.5)*0.4*wide, step)
		out[i] = unit.Round(out[i], 1e-9)
	}
	return out
}

func (w *leader) sign() {
	if w.err != nil || w.j.upTo < signing {
		return
	}
	w.pass(120, 600)
	w.add(w.j.fitter, app.NewEntry{Content: run.Signature{Part: run.Made}})
	if w.j.upTo == signing {
		return
	}
	w.pass(1800, 5400)
	sig := run.Signature{Part: run.Checked}
	if w.last.Job.Outside() {
		sig.Reason = "Seen at the joint; accepted until the next stop."
	}
	w.add(w.j.checker, app.NewEntry{Content: sig})
}
