// Package rehearsal goes dry through a recipe before anybody is led by it: a made-up joint
// of its sheet, a careful hand with made-up readings, a minute for each act. It is the one
// engine, package work, that leads and judges; what it would refuse at the bolts it refuses
// here. A rehearsal shows that a recipe can be followed to its signatures, not that its
// figures are right.
package rehearsal

import (
	"errors"
	"fmt"
	"slices"
	"strings"
	"time"

	"dynacor/core/joint"
	"dynacor/core/recipe"
	"dynacor/core/record"
	"dynacor/core/refusal"
	"dynacor/core/work"
)

// Walked is a recipe as it was gone through in one variant.
type Walked struct {
	Joint   joint.Input // made up of the sheet, and of what is usual
	MadeUp  []string    // the values that no sheet gives, as they were taken
	Lines   []Line
	Presses int    // acts, tools and cautions apart
	Signed  bool   // all the way to its signatures
	Stuck   string // why it went no further
	At      string // the step at which
}

// Line is one step as it was gone through.
type Line struct {
	Step     recipe.Step
	Presses  int
	Ticks    []string
	Marks    []string
	Pulls    int    // acts at bolts, rounds too
	Rounds   int    // of going round, the last one still
	Limit    string // what a reading may be, as it was at its turn
	Readings string
	Comes    string
	Held     float64 // minutes waited
	Released string  // by whom
	Outside  string  // what readings just outside say
	Then     string  // and what comes of them
}

// MostActs is how many acts are gone through before a recipe counts as without end.
const MostActs = 20_000

const (
	fitter  = "fitter"
	another = "another"
)

// walker is the run as it grows.
type walker struct {
	out   Walked
	state *work.State
	now   time.Time
	facts work.Facts
	lines map[string]int // step to its line
	n     int            // entries so far
}

// Walk goes through a recipe in a variant; what is not chosen is the first option. It
// refuses a recipe that cannot be laid out at all; where it stops on the way, Stuck says
// why.
func Walk(r recipe.Recipe, choices map[string]string) (Walked, error) {
	in, madeUp, err := Joint(r, choices)
	if err != nil {
		return Walked{}, err
	}
	w := walker{out: Walked{Joint: in, MadeUp: madeUp}, now: start, lines: map[string]int{}}
	res, err := joint.Compute(in, r)
	if err != nil {
		return w.out, err
	}
	p, err := work.Lay(in, r, res)
	if err != nil {
		w.stuck("", err)
		return w.out, nil
	}
	w.state, w.facts.Qualified = work.Begin(p), everybody(r, p)
	for _, s := range p.Steps() {
		if s.Does != recipe.Sign {
			w.lines[s.ID] = len(w.out.Lines)
			w.out.Lines = append(w.out.Lines, Line{Step: s})
		}
	}
	w.walk()
	return w.out, nil
}

// everybody is every qualification that a recipe asks for.
func everybody(r recipe.Recipe, p *work.Plan) []string {
	out := []string{p.Checker()}
	for _, s := range r.Steps {
		out = append(out, s.By, s.Release, s.Beyond)
	}
	slices.Sort(out)
	return slices.DeleteFunc(slices.Compact(out), func(s string) bool { return s == "" })
}

func (w *walker) stuck(step string, err error) { w.out.At, w.out.Stuck = step, err.Error() }

// add puts an entry to the run, a minute after the one before.
func (w *walker) add(who string, c record.Content) error {
	w.n++
	w.now = w.now.Add(time.Minute)
	e := record.Entry{ID: fmt.Sprint("e", w.n), Seq: w.n, Person: who, AtTool: w.now, AtServer: w.now, Content: c}
	if err := w.state.Accept(e, w.facts); err != nil {
		return err
	}
	w.state = w.state.Then(e)
	return nil
}

func (w *walker) walk() {
	for w.state.Standing != record.Sign {
		a, ok := w.state.Next()
		switch {
		case !ok:
			open := "Nothing is offered, and it is not done."
			if o := w.state.Open(); len(o) > 0 {
				open = o[0].Text
			}
			w.stuck("", errors.New(open))
			return
		case w.out.Presses > MostActs:
			w.stuck(a.Step, refusal.Number(refusal.TooLarge, "acts", float64(w.out.Presses), MostActs, "acts",
				fmt.Sprintf("After %d acts it is still not done.", MostActs), "Look for rounds without end."))
			return
		}
		if err := w.act(a); err != nil {
			w.stuck(a.Step, err)
			return
		}
		w.out.Presses++
	}
	if err := refusal.First(w.add(fitter, record.Signature{Part: record.Made}),
		w.add(another, record.Signature{Part: record.Checked, Reason: "dry run"})); err != nil {
		w.stuck("", err)
		return
	}
	w.out.Signed = w.state.Standing == record.Signed
}

// act does one act and writes it down on its step's line.
func (w *walker) act(a record.Act) error {
	st, _ := w.state.Plan().Step(a.Step)
	l := &w.out.Lines[w.lines[a.Step]]
	if err := w.ready(a, st); err != nil {
		return err
	}
	if st.IsRead() && a.Bolt == 0 && a.Item == 0 && !a.Photo && !a.Release {
		w.outside(a, l)
	}
	done := w.state.Careful(a)
	l.Presses++
	switch {
	case a.Photo:
		return w.add(fitter, record.Photo{Step: a.Step, Hash: strings.Repeat("0", 64), Width: 1, Height: 1, Size: 1})
	case a.Release:
		l.Released = st.Release
		return w.add(another, done)
	case a.Item > 0:
		l.Ticks = append(l.Ticks, w.state.Describe(a))
	case a.Bolt > 0:
		l.Pulls++
		l.Rounds = max(l.Rounds, a.Round)
	default:
		l.Marks, l.Held = done.Marks, done.Held
		if len(done.Readings) > 0 {
			l.Readings, l.Comes = w.state.Says(a.Step, done.Readings, done.Bolts), w.state.Comes(a.Step, done.Readings)
		}
	}
	return w.add(fitter, done)
}

// ready chooses tools, reads the cautions and sets the tool, where the act wants that.
func (w *walker) ready(a record.Act, st recipe.Step) error {
	if st.Tightens() || st.Station == recipe.ToolUp {
		for _, g := range w.state.Plan().Result.Groups {
			if g.How.Tooled() && len(w.state.Tooling[g.Name].Stages) == 0 {
				if err := w.add(fitter, work.OneTool(g, "made up")); err != nil {
					return err
				}
			}
		}
	}
	if len(st.Cautions) > 0 && !w.state.Cautioned(st.ID, fitter) {
		if err := w.add(fitter, record.Caution{Step: st.ID}); err != nil {
			return err
		}
	}
	if a.Bolt == 0 || a.Lock {
		return nil
	}
	if c, unset := w.state.Unset(fitter, w.now.Add(2*time.Minute)); unset && c.Group == st.Group {
		return w.add(fitter, w.state.Rigged(c))
	}
	return nil
}

// outside says what would come of readings just outside what the step asks.
func (w *walker) outside(a record.Act, l *Line) {
	l.Limit = work.Limits(w.state.Asks(a.Step))
	raw, ok := w.state.Beyond(a.Step)
	if !ok {
		return
	}
	bad := w.state.Careful(a)
	bad.Readings = raw
	typed, err := w.state.Judge(a.Step, raw, bad.Held)
	if err != nil {
		return
	}
	l.Outside = typed.Outside
	err = w.state.Accept(record.Entry{ID: "try", Seq: w.n + 1, Person: fitter, AtTool: w.now, AtServer: w.now, Content: bad}, w.facts)
	var no *refusal.Error
	switch {
	case errors.As(err, &no):
		l.Then = no.Way
	case l.Step.Back != "":
		l.Then = fmt.Sprintf("It is noted as a try, and the work goes back to %q.", l.Step.Back)
	default:
		l.Then = "It is noted as a try, and measured again."
	}
}
