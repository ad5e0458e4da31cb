package work

import (
	"cmp"
	"errors"
	"fmt"
	"math"
	"slices"
	"strconv"
	"strings"

	"dynacor/core/reading"
	"dynacor/core/recipe"
	"dynacor/core/record"
	"dynacor/core/refusal"
	"dynacor/core/unit"
)

// read is something that a step of the plan reads, with its raw readings' places among
// all of the step.
type read struct {
	recipe.Read
	fields []reading.Field
	from   int // of its raw readings
	window recipe.Window
	later  bool // its limit follows from what is read on the way
}

// Units are those of the raw readings of a step, in their order; of a sample the one of all.
func (p *Plan) Units(step string) (out []unit.Unit) {
	st, _, _ := p.step(step)
	for k := range st.reads {
		for _, f := range st.reads[k].fields {
			out = append(out, unit.Unit(cmp.Or(f.Unit, st.reads[k].InUnit())))
		}
	}
	return out
}

// keeper is where something is kept: a step, and which of its reads.
type keeper struct{ step, read int }

// layReads lays out what a step reads.
func (p *Plan) layReads(l *step, at int) error {
	l.hold = l.Hold
	if q, ok := p.aims[l.HoldOf]; ok && l.HoldOf != "" {
		l.hold = q.Value
	}
	l.marks = p.Recipe.MarksOf(l.Step, p.Choices)
	for i := range l.marks {
		l.marks[i].Is = recipe.Told(l.marks[i].Is, func(need string) string { return told(p.Result, need) })
	}
	from := 0
	for _, r := range l.All() {
		if !r.When.Holds(p.Choices) {
			continue
		}
		x := read{Read: r, fields: r.Fields(), from: from}
		if r.Limit != nil {
			for _, name := range append(r.Limit.Names(), r.Over) {
				_, given := p.aims[name]
				_, drawn := p.draws[name]
				x.later = x.later || name != "" && !given && (drawn || len(p.keeps[name]) > 0)
			}
			if !x.later {
				var err error
				if x.window, err = r.Limit.Window(p.aims); err != nil {
					return err
				}
			}
			x.window.Round = r.Form == reading.Plain && len(r.Spots) == 0 && (r.Places == 4 || r.Places == 8)
		}
		x.window.Spots = x.spots()
		if r.Keep != "" {
			p.keeps[r.Keep] = append(p.keeps[r.Keep], keeper{at, len(l.reads)})
		}
		from += len(x.fields)
		l.reads = append(l.reads, x)
	}
	return nil
}

// places is how many raw readings a step asks for, of a sample apart.
func (st *step) places() int {
	if len(st.reads) == 0 {
		return 0
	}
	last := &st.reads[len(st.reads)-1]
	return last.from + len(last.fields)
}

// spots name the places of plain readings, for words.
func (r read) spots() []string {
	if r.Form != reading.Plain && r.Form != reading.Mean {
		return nil
	}
	if len(r.Spots) == 0 && len(r.fields) != 2 && len(r.fields) != 4 && len(r.fields) != 8 {
		return nil
	}
	out := make([]string, len(r.fields))
	for i, f := range r.fields {
		out[i] = f.Name
	}
	return out
}

// Answered is what one read of a step comes to.
type Answered struct {
	Read    recipe.Read
	Fields  []reading.Field
	Raw     []float64
	Given   reading.Given
	Window  recipe.Window
	Limited bool
	Result  reading.Result
	Outside string // why it is outside, or says nothing
	Never   bool   // no reason keeps it
}

// Comes says what raw readings come to, in words; empty for plain ones that say it
// themselves.
func (a Answered) Comes() string {
	if a.Read.Form == reading.Plain {
		return a.Window.Comes(a.Raw)
	}
	var out []string
	for _, x := range a.Result.Answers {
		says := x.Says
		if says == "" {
			says = a.Window.With(x.Value)
			if x.Unit != "" && !a.Limited {
				says = fmt.Sprintf("%.4g %s", x.Value, x.Unit)
			}
		}
		out = append(out, strings.TrimSpace(x.Name+" "+says))
	}
	return strings.Join(out, ", ")
}

// Held is the name of the one answer that is held against the limit; empty where there are
// several, or none has a name.
func (a Answered) Held() string {
	res, err := a.Read.Form.Answer(a.Read.Form.Example(len(a.Fields), 1, a.Given), a.Given)
	if err != nil {
		return ""
	}
	name, n := "", 0
	for _, x := range res.Answers {
		if x.Judged {
			name, n = x.Name, n+1
		}
	}
	if n != 1 {
		return ""
	}
	return name
}

// value is the answer that is kept for later steps: the first that is judged.
func (a Answered) value() (unit.Quantity, bool) {
	for _, x := range a.Result.Answers {
		if x.Judged {
			return unit.Of(x.Value, a.keptIn()), true
		}
	}
	return unit.Quantity{}, false
}

func (a Answered) keptIn() unit.Unit {
	u := unit.Unit(a.Read.Form.Unit())
	if u == "" {
		u = unit.Unit(a.Read.InUnit())
	}
	if _, err := unit.DimensionOf(u); err != nil {
		return ""
	}
	return u
}

// Answers works out what a step's raw readings come to, and holds each answer to its
// limit as it is now. Readings that are missing, or cannot be, are refused.
func (s *State) Answers(step string, raw []float64) ([]Answered, error) {
	st, i, _ := s.plan.step(step)
	return s.answers(st, i, raw)
}

func (s *State) answers(st *step, at int, raw []float64) ([]Answered, error) {
	if n := st.places(); st.Sample == "" && len(raw) != n {
		return nil, refusal.Number(refusal.Missing, "readings", float64(len(raw)), float64(n), "readings",
			fmt.Sprintf("%d readings; %q asks for %d.", len(raw), st.Text, n), "Measure at each place.")
	}
	out := make([]Answered, 0, len(st.reads))
	here := map[string]unit.Quantity{} // kept by this very step
	known := s.knownAt(at, here)
	for k := range st.reads {
		r := &st.reads[k]
		a := Answered{Read: r.Read, Fields: r.fields, Raw: raw, Window: r.window, Limited: r.Limit != nil}
		if st.Sample == "" {
			a.Raw = raw[r.from : r.from+len(r.fields)]
		}
		if r.later {
			var missing string
			if a.Window, missing = s.windowOf(r, known); missing != "" {
				a.Outside = s.untold(missing, "may be")
			}
		}
		given, missing := s.given(r, known)
		var err error
		if missing != "" {
			a.Outside, a.Limited = s.untold(missing, "comes to"), false
		} else if a.Result, err = r.Form.Answer(a.Raw, given); err != nil {
			return nil, moved(err, r.from)
		}
		if err := a.judge(); err != nil {
			return nil, moved(err, r.from)
		}
		if q, ok := a.value(); ok && r.Keep != "" {
			here[r.Keep] = q
		}
		out = append(out, a)
	}
	return out, nil
}

// untold says why nothing tells what a reading may be.
func (s *State) untold(missing, what string) string {
	if d, ok := s.plan.draws[missing]; ok {
		return fmt.Sprintf("No tensioner is chosen for the %s, so nothing tells what this %s.", d.group, what)
	}
	return fmt.Sprintf("The %s was left undone, so nothing tells what this %s.", missing, what)
}

// judge holds the answers to the limit. It refuses an answer that is no number: that is
// within no limit.
func (a *Answered) judge() error {
	switch {
	case a.Result.Wrong != "":
		a.Outside, a.Never = a.Result.Wrong, true
		return nil
	case a.Outside != "" || !a.Limited:
		return nil
	}
	var values []float64
	for _, x := range a.Result.Answers {
		if x.Judged {
			values = append(values, x.Value)
		}
	}
	w := a.Window
	if a.Read.Form != reading.Plain && a.Read.Form != reading.Mean {
		w.Spots = nil
		for _, x := range a.Result.Answers {
			if x.Judged && x.Name != "" && len(values) > 1 {
				w.Spots = append(w.Spots, x.Name)
			}
		}
	}
	if a.Read.Form == reading.Mean { // and each for itself, and how far they differ
		values = append(values, a.Raw...)
		w.Spots = []string{"on average"}
		for i := range a.Raw {
			w.Spots = append(w.Spots, a.Fields[i].Name)
		}
	}
	outside, never, err := w.Judge(values)
	if err != nil {
		return err
	}
	a.Outside, a.Never = outside, never && outside != ""
	if outside != "" && a.Read.Name != "" {
		a.Outside = capital(a.Read.Name) + ": " + outside
	}
	return nil
}

// moved puts a refusal of a form's reading beside the step's own field.
func moved(err error, from int) error {
	var r *refusal.Error
	if !errors.As(err, &r) {
		return err
	}
	at, is := strings.CutPrefix(r.Field, "readings.")
	n, no := strconv.Atoi(at)
	if !is || no != nil {
		return err
	}
	return refusal.At(fmt.Sprintf("readings.%d", from+n), err)
}

// knownAt tells what a name comes to at a step, what the step itself has kept first.
func (s *State) knownAt(step int, here map[string]unit.Quantity) func(name string) (unit.Quantity, bool) {
	return func(name string) (unit.Quantity, bool) {
		if q, ok := here[name]; ok {
			return q, true
		}
		return s.known(name, step)
	}
}

// known is what a name comes to at a step: a value of the plan, or what was kept before
// it, the newest of several.
func (s *State) known(name string, before int) (unit.Quantity, bool) {
	if q, ok := s.plan.aims[name]; ok {
		return q, true
	}
	if d, ok := s.plan.draws[name]; ok {
		return s.drawn(d)
	}
	list := s.plan.keeps[name]
	for k := len(list) - 1; k >= 0; k-- {
		at := list[k]
		if at.step >= before {
			continue
		}
		st := &s.plan.steps[at.step]
		l, ok := s.Done(record.Act{Step: st.ID})
		if !ok || len(l.Readings) == 0 {
			continue
		}
		all, err := s.answers(st, at.step, l.Readings)
		if err != nil || at.read >= len(all) {
			continue
		}
		return all[at.read].value()
	}
	return unit.Quantity{}, false
}

// drawn is a pressure that follows from the tensioner that was chosen.
func (s *State) drawn(d draws) (unit.Quantity, bool) {
	stages := s.Tooling[d.group].Stages
	switch {
	case len(stages) == 0 || d.of >= len(stages):
		return unit.Quantity{}, false
	case d.of < 0:
		last := stages[len(stages)-1]
		return unit.Of(last.Draw.Residual, last.Setting.Unit), true
	}
	return stages[d.of].Setting, true
}

// windowOf works out a limit that follows from what was read; missing names what was
// not.
func (s *State) windowOf(r *read, known func(string) (unit.Quantity, bool)) (w recipe.Window, missing string) {
	values := map[string]unit.Quantity{}
	for _, name := range r.Limit.Names() {
		q, ok := known(name)
		if !ok {
			missing = name
			continue
		}
		values[name] = q
	}
	if missing != "" {
		return recipe.Window{Low: math.Inf(-1), High: math.Inf(1), Even: math.Inf(1), Unit: r.Limit.Unit, Word: r.Limit.Word}, missing
	}
	w, err := r.Limit.Window(values)
	if err != nil {
		return w, r.Limit.Of
	}
	w.Spots, w.Round = r.window.Spots, r.window.Round
	return w, ""
}

// given is what an answer is worked out with; missing names what was not read.
func (s *State) given(r *read, known func(string) (unit.Quantity, bool)) (g reading.Given, missing string) {
	g.Gas = r.Gas
	if r.Over != "" {
		q, ok := known(r.Over)
		if !ok && r.Form == reading.Diameters {
			return g, r.Over
		}
		g.Over, _ = q.In(unit.Millimetre)
	}
	if q, ok := known(r.Target); ok && r.Target != "" {
		g.Target, _ = q.In(unit.Bar)
	}
	for _, name := range r.From {
		q, ok := known(name)
		if !ok {
			return g, name
		}
		g.Before = append(g.Before, q.Value)
	}
	if group, ok := s.plan.Result.Group(r.Group); ok && r.Group != "" {
		g.Bolts, g.OnCentre = group.Count, group.OnCentre
	}
	return g, ""
}

// Asks lists what a step asks to be read, with the limits as they are now; for a sample
// the readings are at its bolts.
func (s *State) Asks(step string) []Answered {
	st, i, ok := s.plan.step(step)
	if !ok {
		return nil
	}
	out := make([]Answered, len(st.reads))
	known := s.knownAt(i, nil)
	for k := range st.reads {
		r := &st.reads[k]
		a := Answered{Read: r.Read, Fields: r.fields, Window: r.window, Limited: r.Limit != nil}
		a.Given, _ = s.given(r, known)
		if r.later {
			var missing string
			a.Window, missing = s.windowOf(r, known)
			a.Limited = missing == ""
		}
		out[k] = a
	}
	if bolts := s.Sample(step); len(bolts) > 0 && len(out) > 0 {
		u := out[0].Read.InUnit()
		out[0].Fields = make([]reading.Field, len(bolts))
		out[0].Window, _ = s.WindowAt(step, bolts)
		for k, b := range bolts {
			out[0].Fields[k] = reading.Field{Name: fmt.Sprintf("at bolt %d", b), Unit: u}
		}
	}
	return out
}

// Limits says what a step's readings must be, each by its name where there are several.
func Limits(asks []Answered) string {
	var out []string
	for _, a := range asks {
		words := a.Window.Words()
		if !a.Limited || words == "" {
			continue
		}
		if len(asks) > 1 && a.Read.Name != "" {
			words = a.Read.Name + " " + words
		}
		out = append(out, words)
	}
	return strings.Join(out, "; ")
}

// Marks lists what is compared at a step.
func (s *State) Marks(step string) []recipe.Comparison {
	st, _, _ := s.plan.step(step)
	return st.marks
}

// said splits marks into what they are of and what they say.
func said(marks []string) map[string]string {
	out := map[string]string{}
	for _, m := range marks {
		if of, says, ok := strings.Cut(m, ": "); ok && says != "" {
			out[of] = says
		}
	}
	return out
}

// sayAll reports the first mark that nothing was said of.
func sayAll(marks []recipe.Comparison, found map[string]string) (recipe.Comparison, bool) {
	i := slices.IndexFunc(marks, func(m recipe.Comparison) bool { return found[m.Of] == "" })
	if i < 0 {
		return recipe.Comparison{}, false
	}
	return marks[i], true
}
