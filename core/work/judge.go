package work

import (
	"fmt"
	"math"
	"slices"
	"strings"
	"time"

	"dynacor/core/reading"
	"dynacor/core/recipe"
	"dynacor/core/record"
	"dynacor/core/refusal"
	"dynacor/core/unit"
)

// verdict is what an act comes to, as it is said to have been done.
type verdict struct {
	readings []float64
	held     float64 // minutes
	outside  string
	tried    bool
}

// judge judges an act. It refuses readings that are missing or that cannot be, a
// limit that is passed without a reason, and what is never kept.
func (s *State) judge(st *step, c record.Done, at time.Time) (verdict, error) {
	v := verdict{readings: c.Readings}
	switch {
	case c.Skipped:
		return s.leave(st, c)
	case c.LetGo && (c.Round == 0 || st.group.Until != recipe.LetsGo):
		return v, refusal.New(refusal.Contradicts, "letGo", "Nothing is drawn off here.", "Leave it out.")
	case c.Item > 0:
		return s.ticked(st, c)
	case c.Photo:
		return v, refusal.New(refusal.Missing, "photo", fmt.Sprintf("%q asks for a photograph.", st.Text), "Take it, or say why there is none.")
	case c.Release:
		return v, nothingRead(st, c)
	case st.From == recipe.SinceMade:
		if len(c.Readings) > 0 {
			return v, refusal.New(refusal.Contradicts, "readings", "These hours are taken from the record itself.", "Leave them out.")
		}
		v.readings = []float64{unit.Round(at.Sub(s.plan.madeAt).Hours(), 0.01)}
		return v, s.read(st, c, &v)
	case len(st.reads) > 0:
		return v, refusal.First(s.read(st, c, &v), s.hold(st, c, &v, at))
	case st.hold > 0:
		return v, refusal.First(nothingRead(st, c), s.hold(st, c, &v, at))
	case st.Does == recipe.Lock:
		return v, s.count(c, &v)
	case c.Tried && len(st.marks) > 0:
		v.tried, v.outside = true, "does not match"
	case c.Tried:
		return v, refusal.New(refusal.Contradicts, "tried", fmt.Sprintf("%q is done or left; there is nothing to try.", st.Text), "Leave it out.")
	}
	return v, nothingRead(st, c)
}

func nothingRead(st *step, c record.Done) error {
	if len(c.Readings) == 0 {
		return nil
	}
	return refusal.New(refusal.Contradicts, "readings", fmt.Sprintf("%q asks for no reading.", st.Text), "Leave it out.")
}

// ticked judges a line of a list: what is not there is kept as a try, and holds what
// follows.
func (s *State) ticked(st *step, c record.Done) (verdict, error) {
	v := verdict{}
	if err := nothingRead(st, c); err != nil {
		return v, err
	}
	if c.Tried {
		v.tried, v.outside = true, "not so yet"
		if st.ID == KitStep {
			v.outside = "not at the joint"
		}
	}
	return v, nil
}

// leave says whether an act may be left undone: never a pull, a signature or
// what must be, the rest with a reason.
func (s *State) leave(st *step, c record.Done) (verdict, error) {
	what := s.Describe(c.Act)
	switch {
	case st.Must || st.Does == recipe.Sign || st.Does == recipe.Test || (st.Tightens() && !c.Lock) || c.Release:
		return verdict{}, refusal.New(refusal.NotNow, "skipped", fmt.Sprintf("%s cannot be left undone.", capital(what)),
			"Do it, or stop the work here.")
	case strings.TrimSpace(c.Reason) == "":
		return verdict{}, refusal.New(refusal.NeedsReason, "skipped", fmt.Sprintf("%s is left undone.", capital(what)),
			"Say why; it stands first on the record, and whoever checks it answers for it.")
	}
	return verdict{outside: "left undone"}, nil
}

func capital(text string) string {
	if text == "" {
		return text
	}
	return strings.ToUpper(text[:1]) + text[1:]
}

// read judges an act's readings. What is outside in an adjust step, or in a sample that
// can still widen, is a try; so is whatever is said to be one. A test that failed, and
// what is past a firm end, is never kept as it is.
func (s *State) read(st *step, c record.Done, v *verdict) error {
	_, at, _ := s.plan.step(st.ID)
	if n := s.Places(st.ID); len(v.readings) != n {
		return refusal.Number(refusal.Missing, "readings", float64(len(v.readings)), float64(n), "readings",
			fmt.Sprintf("%d readings; %q asks for %d.", len(v.readings), st.Text, n), "Measure at each place.")
	}
	if asked := s.Sample(st.ID); !slices.Equal(c.Bolts, asked) {
		return refusal.New(refusal.Contradicts, "bolts", fmt.Sprintf("The readings are of bolts %v; the sample is of bolts %v.", c.Bolts,
			asked), "Measure at those.")
	}
	outside, never, err := s.outside(st, at, v.readings, c.Bolts)
	if err != nil {
		return err
	}
	if v.outside = outside; outside == "" {
		return nil
	}
	switch {
	case c.Tried:
		v.tried = true
	case st.Does == recipe.Test:
		return refusal.New(refusal.OutOfRange, "readings", outside,
			"A failed test is not kept. Pressure off, zero proven; mend it and test anew. It can be noted as a try.")
	case never && st.From != recipe.AtJoint:
		return refusal.New(refusal.OutOfRange, "readings", outside,
			"No reason keeps this. An engineer decides what is done instead, and plans it.")
	case never:
		return refusal.New(refusal.OutOfRange, "readings", outside, "No reason keeps this. Put it right and measure again.")
	case st.Does == recipe.Adjust || s.Widens(st.ID):
		v.tried = strings.TrimSpace(c.Reason) == ""
	case strings.TrimSpace(c.Reason) == "":
		return refusal.New(refusal.NeedsReason, "readings", outside,
			"Put it right and measure again, or keep it as a deviation and say why.")
	}
	return nil
}

// outside says why readings are outside what a step asks; never: no reason keeps them.
func (s *State) outside(st *step, at int, readings []float64, bolts []int) (why string, never bool, err error) {
	if len(bolts) > 0 {
		win, _ := s.WindowAt(st.ID, bolts)
		return win.Judge(readings)
	}
	all, err := s.answers(st, at, readings)
	if err != nil {
		return "", false, err
	}
	why, never = gravest(all)
	return why, never, nil
}

// gravest says why answers are outside: of what no reason keeps first.
func gravest(all []Answered) (why string, never bool) {
	for _, a := range all {
		if a.Outside == "" {
			continue
		}
		if why == "" || a.Never && !never {
			why = a.Outside
		}
		never = never || a.Never
	}
	return why, never
}

// hold refuses a reading that was taken before the time was over, but for a
// reason; of a test without one.
func (s *State) hold(st *step, c record.Done, v *verdict, at time.Time) error {
	if err := refusal.NotNegative("held", c.Held, "min"); err != nil {
		return err
	}
	if c.Held == 0 { // by the clock that was started
		if since, ok := s.started[st.ID]; ok {
			c.Held = max(0, at.Sub(since).Minutes())
		}
	}
	v.held = c.Held
	if v.tried || unit.AtLeast(c.Held, st.hold) {
		return nil
	}
	short := fmt.Sprintf("held %.3g of %.3g min", c.Held, st.hold)
	if st.Does == recipe.Test && c.Tried {
		v.tried, v.outside = true, short
		return nil
	}
	if st.Does == recipe.Test {
		return refusal.Number(refusal.TooSmall, "held", c.Held, st.hold, "min", fmt.Sprintf("It was %s.", short),
			"Hold it until the time is over.")
	}
	if strings.TrimSpace(c.Reason) == "" {
		return refusal.Number(refusal.NeedsReason, "held", c.Held, st.hold, "min", fmt.Sprintf("It was %s.", short),
			"Wait until the time is over, or keep it as a deviation and say why.")
	}
	if v.outside != "" {
		short = v.outside + " It was " + short
	}
	v.outside = short
	return nil
}

// count refuses to say that all locks are on where one of a bolt was left, but
// for a reason.
func (s *State) count(c record.Done, v *verdict) error {
	if len(c.Readings) > 0 {
		return refusal.New(refusal.Contradicts, "readings", "A lock asks for no reading.", "Leave it out.")
	}
	on, all := s.Locks()
	if c.Lock || on == all {
		return nil
	}
	v.outside = fmt.Sprintf("%d of %d locks are on", on, all)
	if strings.TrimSpace(c.Reason) == "" {
		return refusal.Number(refusal.NeedsReason, "locks", float64(on), float64(all), "locks", fmt.Sprintf("%d of %d locks are on.", on,
			all), "Lock the others, or say why they are not.")
	}
	return nil
}

// Typed is the verdict on readings as they are typed.
type Typed struct {
	Outside string // why they are outside; empty where they are not
	Never   bool   // no reason keeps them
	Comes   string // what they come to
	Answers []Found
}

// Found is one thing that readings come to, as it is shown while they are typed.
type Found struct {
	Read string // what was read
	reading.Answer
	Outside bool // what was read is outside its limit
}

// Judge gives the verdict on readings of a step, taken after so many minutes;
// infinite: not asked about.
func (s *State) Judge(step string, readings []float64, held float64) (Typed, error) {
	st, at, ok := s.plan.step(step)
	if !ok || len(st.reads) == 0 {
		return Typed{}, refusal.New(refusal.Unknown, "step", "Nothing is read at this step.", "")
	}
	out := Typed{}
	var err error
	var never bool
	if st.Sample != "" {
		if out.Outside, never, err = s.outside(st, at, readings, s.Sample(step)); err != nil {
			return Typed{}, err
		}
	} else {
		all, err := s.answers(st, at, readings)
		if err != nil {
			return Typed{}, err
		}
		out.Outside, never = gravest(all)
		out.Comes = comes(all)
		for _, a := range all {
			for _, x := range a.Result.Answers {
				if a.Read.Form != reading.Plain {
					out.Answers = append(out.Answers, Found{a.Read.Name, x, a.Outside != ""})
				}
			}
		}
	}
	out.Never = out.Outside != "" && (never || st.Does == recipe.Test)
	if held >= st.hold || math.IsInf(held, 1) {
		return out, nil
	}
	if err := refusal.NotNegative("held", held, "min"); err != nil {
		return out, err
	}
	short := fmt.Sprintf("held %.3g of %.3g min", held, st.hold)
	if out.Outside != "" {
		short = out.Outside + " It was " + short
	}
	out.Outside, out.Never = short, out.Never || st.Does == recipe.Test
	return out, nil
}

// Comes says what readings of a step come to, in words.
func (s *State) Comes(step string, readings []float64) string {
	st, at, _ := s.plan.step(step)
	all, err := s.answers(st, at, readings)
	if err != nil || st.Sample != "" {
		return ""
	}
	return comes(all)
}

func comes(all []Answered) string {
	var out []string
	for _, a := range all {
		text := a.Comes()
		if text != "" && len(all) > 1 && a.Read.Name != "" {
			text = a.Read.Name + " " + text
		}
		if text != "" {
			out = append(out, text)
		}
	}
	return strings.Join(out, "; ")
}

// Window returns what the first of a step's readings may be, and where it is taken; ok is
// false where it asks for none.
func (s *State) Window(step string) (win recipe.Window, ok bool) {
	return s.WindowAt(step, s.Sample(step))
}

// WindowAt is Window for a sample that is taken at the given bolts; of a step
// that takes no sample there are none.
func (s *State) WindowAt(step string, bolts []int) (win recipe.Window, ok bool) {
	st, at, _ := s.plan.step(step)
	if len(st.reads) == 0 {
		return recipe.Window{}, false
	}
	if win = st.reads[0].window; st.reads[0].later {
		win, _ = s.windowOf(&st.reads[0], s.knownAt(at, nil))
	}
	if len(bolts) == 0 {
		return win, true
	}
	win.Spots = make([]string, len(bolts))
	for i, b := range bolts {
		win.Spots[i] = fmt.Sprintf("at bolt %d", b)
	}
	return win, true
}

// Places is how many raw readings a step asks for; none where it asks for none.
func (s *State) Places(step string) int {
	st, _, _ := s.plan.step(step)
	if len(st.reads) > 0 && st.Sample != "" {
		return len(s.Sample(step))
	}
	return st.places()
}

// Hold is how many minutes a step is held or waited for.
func (s *State) Hold(step string) float64 {
	st, _, _ := s.plan.step(step)
	return st.hold
}

// Started is when the clock of a step was started; ok is false where it does not run.
func (s *State) Started(step string) (at time.Time, ok bool) {
	at, ok = s.started[step]
	return at, ok
}
