package demo

import (
	"cmp"
	"context"
	"errors"
	"fmt"
	"maps"
	"math"
	"slices"
	"strings"
	"time"

	"github.com/google/uuid"

	"dynacor/core/person"
	"dynacor/core/reading"
	"dynacor/core/recipe"
	"dynacor/core/record"
	"dynacor/core/trace"
	"dynacor/core/unit"
	"dynacor/core/work"
	"dynacor/internal/app"
	"dynacor/internal/judge"
)

// worker adds the entries of one run.
type worker struct {
	*loader
	ctx                       context.Context
	j                         story
	run                       uuid.UUID
	last                      app.Run
	tried                     map[string]int
	moved, troubled, mistaken bool
	err                       error
}

func (w *worker) add(login string, n judge.NewEntry) uuid.UUID {
	n.ID = uuid.New()
	if w.err != nil {
		return n.ID
	}
	n.Run, n.At, n.Pin, n.Confirmed = w.run, w.clock, Pin, true
	r, err := w.app.AddEntry(w.ctx, w.who(login), n)
	if err != nil {
		w.err = fmt.Errorf("%+v: %w", n.Content, err)
		return n.ID
	}
	w.last = r
	w.pass(1, 3)
	return n.ID
}

// work does what is offered until the story's stage is reached.
func (w *worker) work() {
	pulls, prepared, rounds := 0, 0, 0
	for w.err == nil {
		s := w.last.State
		a, ok := s.Next()
		if !ok {
			break
		}
		st, _ := s.Plan().Step(a.Step)
		if w.j.before != "" && (a.Step == w.j.before || a.Release && a.Step+", its release" == w.j.before) {
			return
		}
		if w.j.upTo == preparing && prepared >= int(w.j.share*60) {
			return
		}
		if st.Station == recipe.ToolUp || (st.Station == recipe.AtBolts && len(s.Tooling) == 0) {
			w.tools()
			if w.j.upTo <= tooled && w.j.upTo != preparing {
				return
			}
		}
		if st.Station == recipe.AtBolts {
			if a.Round > 0 {
				rounds++
			}
			if (w.j.upTo == pulling && pulls >= w.pulls()) || (w.j.upTo == checking && rounds > w.checks()) {
				w.leave()
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

func (w *worker) leave() {
	if w.j.tell.paused {
		w.pass(30, 90)
		w.add(w.j.fitter, judge.NewEntry{Content: record.Pause{Note: "Called away."}})
	}
}

// pulls is how many acts at the bolts the story has: of the stages, or, where
// there are none, of one round.
func (w *worker) pulls() int {
	all, round := 0, 0
	for _, st := range w.last.State.Plan().Steps() {
		if st.Station != recipe.AtBolts {
			continue
		}
		all += len(w.last.State.Plan().Acts(st.ID))
		if g, ok := w.last.Plan.Result.Group(st.Group); ok {
			round += g.Count
		}
	}
	if all == 0 {
		all = round
	}
	return int(w.j.share * float64(all))
}

// checks is how many bolts are tried in rounds: one whole round and a part of
// the next.
func (w *worker) checks() int {
	n := w.last.Plan.Result.Groups[0].Count
	return n + int(w.j.share*float64(n))
}

func (w *worker) tools() {
	if w.j.with != "" && w.err == nil {
		if w.err = w.gives(w.ctx, w.j.with, w.j.fitter, w.j.tag); w.err != nil {
			return
		}
		defer func() {
			if w.err == nil {
				w.err = w.gives(w.ctx, w.j.with, "haro", "")
			}
		}()
	}
	for _, g := range w.last.Plan.Result.Groups {
		if _, has := w.last.State.Tooling[g.Name]; has || !g.How.Tooled() || w.err != nil {
			continue
		}
		ways, err := w.app.Ways(w.ctx, w.who(w.j.fitter), w.last.Head.Joint, g.Name, nil, judge.Place{})
		all := ways.All(g.Name)
		var best judge.Way
		if err == nil && len(all) == 0 {
			err = errors.New("no tool of the crib does it")
		}
		if err == nil {
			best = w.best(all)
			err = best.Refused
		}
		if err != nil {
			w.err = fmt.Errorf("%s: %w", g.Name, err)
			return
		}
		w.pass(30, 90)
		w.add(w.j.fitter, judge.NewEntry{Tools: &best.Choice})
	}
}

// best is the way that the story takes: with its own wrench, else the best there is.
func (w *worker) best(ways []judge.Way) judge.Way {
	for _, x := range ways {
		if takes := cmp.Or(w.j.with, w.j.linked); takes == "" || x.Choice.Wrench == takes {
			return x
		}
	}
	return ways[0]
}

// do is one act as the story has it.
func (w *worker) do(st recipe.Step, a record.Act) {
	fitter := w.j.fitter
	me := w.people[fitter].ID.String()
	if !w.last.State.Cautioned(st.ID, me) {
		w.add(fitter, judge.NewEntry{Content: record.Caution{Step: st.ID}})
	}
	if a.Photo {
		w.photo(st)
		return
	}
	if a.Item > 0 {
		w.pass(3, 11)
	} else {
		w.pass(20+int(a.Share/6), 50+int(a.Share/4))
	}
	if set, unset := w.last.State.Unset(me, w.clock); unset {
		w.add(fitter, judge.NewEntry{Content: w.last.State.Rigged(set)})
		w.pass(10, 30)
	}
	c := record.Done{Act: a}
	if a.Bolt > 0 {
		w.pull(st, c)
		return
	}
	s := w.last.State
	switch reason, skip := w.j.tell.skipped[st.ID]; {
	case skip && !a.Release:
		c.Skipped, c.Reason = true, reason
	case a.Item > 0 || a.Release:
	default:
		w.pass(60, 240)
		w.clock = w.clock.Add(time.Duration(s.Hold(st.ID)) * time.Minute)
		c.Bolts, c.Held = s.Sample(st.ID), s.Hold(st.ID)
		if st.From == recipe.AtJoint {
			c.Readings = w.readings(s, st)
		}
		if bad, out := w.j.tell.outside[st.ID]; out {
			c.Readings, c.Reason = bad, "Measured twice; the maker was asked and accepts it."
		}
		if tries := w.j.tell.tries[st.ID]; w.tried[st.ID] < len(tries) {
			c.Readings = []float64{tries[w.tried[st.ID]]}
			w.tried[st.ID]++
		}
		c.Marks = w.marks(st)
	}
	n := judge.NewEntry{Content: c}
	switch {
	case a.Release:
		n.As = w.qualified(st.Release)
	case st.By != "" && a.Item == 0:
		n.As = w.qualified(st.By)
	}
	w.add(fitter, n)
}

// marks are what is read on the parts: the nameplate's own, numbered.
func (w *worker) marks(st recipe.Step) []string {
	s := w.last.State
	out := s.Seen(st.ID)
	size, _, _ := strings.Cut(w.j.size, ",")
	mark := cmp.Or(strings.TrimSpace(w.last.Plan.Input.Type+" "+size), "OH")
	all := s.Marks(st.ID)
	for i, m := range all {
		if !m.Compared() && len(m.Answers(all)) == 0 {
			out[i] = fmt.Sprintf("%s: %s-%d%02d", m.Of, mark, 40+w.rand.IntN(50), i+1)
		}
	}
	return out
}

// pull is one bolt, with what the story has of it.
func (w *worker) pull(st recipe.Step, c record.Done) {
	fitter, tell := w.j.fitter, w.j.tell
	last := c.Share == 100 && c.Round == 0 && !c.Lock
	switch {
	case last && c.Bolt == tell.trouble && !w.troubled:
		w.troubled = true
		w.add(fitter, judge.NewEntry{Content: record.Trouble{Group: st.Group, Bolt: c.Bolt, What: record.ThreadDamaged,
			Remedy: record.Replaced, Note: "Burr on the thread; a new one fitted and lubricated alike."}})
		w.clock = w.clock.Add(14 * time.Minute)
		return
	case w.letsGo(st): // what is drawn off comes free in the fourth round
		c.Moved, c.LetGo = c.Round < 4, c.Round >= 4
	case c.Turn > 0 && c.Round > 0: // by portions: some hold a round before the others
		c.Moved = c.Round < 4 || (c.Round == 4 && c.Bolt%3 == 0)
	case c.Round == 1 && c.Bolt == tell.moved && !w.moved:
		w.moved, c.Moved = true, true
	case c.Round > 0 && w.j.upTo == stopped:
		c.Moved = c.Bolt == 1+(3*c.Round)%w.last.Plan.Result.Groups[0].Count
	}
	if t, ok := w.last.State.Tool(c.Act); ok && last {
		read := func(share float64) unit.Quantity {
			return unit.Of(unit.Round(t.Setting.Value*share, 1), t.Setting.Unit)
		}
		switch {
		case c.Bolt == tell.farReading:
			c.Reading = read(1.13)
		case c.Bolt == tell.correction && !w.mistaken:
			w.mistaken = true
			c.Reading = read(1.02)
			id := w.add(fitter, judge.NewEntry{Content: c})
			w.pass(20, 40)
			c.Reading = read(1.002)
			w.add(fitter, judge.NewEntry{Content: record.Correction{Of: id.String(), Reason: "Misread the thimble by one turn.", Instead: c}})
			return
		}
	}
	if t, ok := w.last.State.Tool(c.Act); ok && w.j.linked != "" && t.Tools[0] == w.j.linked {
		w.reads(c, t)
		return
	}
	w.add(fitter, judge.NewEntry{Content: c})
}

// reads is a pull that the tool sends itself, with its trace; the third of the last stage
// yields a little at its end.
func (w *worker) reads(c record.Done, t *record.StageTool) {
	if w.err != nil {
		return
	}
	peak := unit.Round(t.Setting.Value*(1+0.012*w.rand.Float64()), 0.1)
	angle := unit.Round(26+5*w.rand.Float64(), 0.1)
	if c.Round > 0 {
		angle = 1
	}
	gives := c.Share == 100 && c.Round == 0 && c.Bolt == 3
	points := make([]trace.Point, 90)
	for i := range points {
		x := float64(i) / float64(len(points)-1)
		y := 0.04 + 0.96*math.Max(0, (x-0.22)/0.78)
		if gives {
			y = min(0.04+1.25*math.Max(0, (x-0.2)/0.8), 0.93+0.07*x)
		}
		points[i] = trace.Point{Angle: unit.Round(x*angle, 0.01), Torque: unit.Round(y*peak, 0.1)}
	}
	taken, err := w.app.TakeReading(w.ctx, w.j.linked, app.ToolReading{ID: uuid.New(), At: w.clock, Peak: unit.Of(peak, t.Setting.Unit),
		Angle: &angle, Trace: points})
	if err == nil && taken.Verdict != app.ReadHeld {
		err = errors.New(taken.Says)
	}
	if w.err = err; err == nil {
		w.last, w.err = w.app.Run(w.ctx, w.run)
	}
	w.pass(1, 3)
}

// letsGo reports whether a step goes round until what it draws off lets go.
func (w *worker) letsGo(st recipe.Step) bool {
	g, _ := w.last.Plan.Result.Group(st.Group)
	return g.Until == recipe.LetsGo
}

// qualified is the login of somebody who may do what is asked for.
func (w *worker) qualified(what string) string {
	if what == work.Checker {
		what = w.last.State.Plan().Checker()
	}
	for _, login := range slices.Sorted(maps.Keys(w.people)) {
		if (what == work.SecondPerson && w.who(login).Is(person.Fitter) || w.who(login).May(what)) && login != w.j.checker &&
			login != w.j.fitter {
			return login
		}
	}
	return w.j.checker
}

// readings lie well within their limits, close to one another: those of a form in the
// middle of what they come to.
func (w *worker) readings(s *work.State, st recipe.Step) []float64 {
	out := s.Within(st.ID)
	at := 0
	for _, a := range s.Asks(st.ID) {
		if a.Read.Form == reading.Plain && a.Limited {
			copy(out[at:], w.about(a.Window, len(a.Fields)))
		}
		at += len(a.Fields)
	}
	return out
}

// about are plain readings within a window.
func (w *worker) about(win recipe.Window, n int) []float64 {
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
	if wide == 0 {
		return slices.Repeat([]float64{low}, n)
	}
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

func (w *worker) sign() {
	if w.err != nil || w.j.upTo < signing || w.last.State.Standing != record.Sign {
		return
	}
	w.pass(120, 600)
	w.add(w.j.fitter, judge.NewEntry{Content: record.Signature{Part: record.Made}})
	if w.j.upTo == signing {
		return
	}
	w.pass(1800, 5400)
	sig := record.Signature{Part: record.Checked}
	if w.last.State.Outside() {
		sig.Reason = "Seen and measured again; accepted, to be looked at after the first week of running."
	}
	w.add(w.j.checker, judge.NewEntry{Content: sig})
}
