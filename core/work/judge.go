package work

import (
	"fmt"
	"math"
	"slices"
	"strings"
	"time"

	"dynacor/core/recipe"
	"dynacor/core/record"
	"dynacor/core/refusal"
	"dynacor/core/unit"
)

// verdict is what an act comes to, as it is said to have been done.
type verdict struct {
	readings []float64
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
	case st.From == recipe.SinceMade:
		if len(c.Readings) > 0 {
			return v, refusal.New(refusal.Contradicts, "readings", "These hours are taken from the record itself.", "Leave them out.")
		}
		v.readings = []float64{unit.Round(at.Sub(s.plan.madeAt).Hours(), 0.01)}
		return v, s.read(st, c, &v)
	case st.Reads():
		return v, refusal.First(s.read(st, c, &v), hold(st, c, &v))
	case st.Does == recipe.Lock:
		return v, s.count(c, &v)
	case len(c.Readings) > 0:
		return v, refusal.New(refusal.Contradicts, "readings", fmt.Sprintf("%q asks for no reading.", st.Text), "Leave it out.")
	}
	return v, nil
}

// leave says whether an act may be left undone: never a pull, a signature or
// what must be, the rest with a reason.
func (s *State) leave(st *step, c record.Done) (verdict, error) {
	what := s.Describe(c.Act)
	switch {
	case st.Must || st.Does == recipe.Sign || st.Does == recipe.Test || (st.Tightens() && !c.Lock):
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

// read judges an act's readings. What is outside in an adjust step, or in a
// sample that can still widen, is a try. A test that failed, and what is past a
// firm end, is never kept.
func (s *State) read(st *step, c record.Done, v *verdict) error {
	places := s.Places(st.ID)
	if len(v.readings) != places {
		return refusal.Number(refusal.Missing, "readings", float64(len(v.readings)), float64(places), "readings",
			fmt.Sprintf("%d readings; %q asks for %d.", len(v.readings), st.Text, places), "Measure at each place.")
	}
	if asked := s.Sample(st.ID); !slices.Equal(c.Bolts, asked) {
		return refusal.New(refusal.Contradicts, "bolts", fmt.Sprintf("The readings are of bolts %v; the sample is of bolts %v.", c.Bolts,
			asked), "Measure at those.")
	}
	win, _ := s.WindowAt(st.ID, c.Bolts)
	outside, never, err := win.Judge(v.readings)
	if err != nil {
		return err
	}
	if v.outside = outside; outside == "" {
		return nil
	}
	switch {
	case st.Does == recipe.Test:
		return refusal.New(refusal.OutOfRange, "readings", outside,
			"A failed test is not kept. Pressure off, zero proven; mend it and test anew.")
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

// hold refuses a reading that was taken before the time was over, but for a
// reason; of a test without one.
func hold(st *step, c record.Done, v *verdict) error {
	if err := refusal.NotNegative("held", c.Held, "min"); err != nil {
		return err
	}
	if v.tried || unit.AtLeast(c.Held, st.Hold) {
		return nil
	}
	short := fmt.Sprintf("held %.3g of %.3g min", c.Held, st.Hold)
	if st.Does == recipe.Test {
		return refusal.Number(refusal.TooSmall, "held", c.Held, st.Hold, "min", fmt.Sprintf("It was %s.", short),
			"Hold it until the time is over.")
	}
	if strings.TrimSpace(c.Reason) == "" {
		return refusal.Number(refusal.NeedsReason, "held", c.Held, st.Hold, "min", fmt.Sprintf("It was %s.", short),
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
	Comes   string // what readings round a circle come to
}

// Judge gives the verdict on readings of a step, taken after so many minutes;
// infinite: not asked about.
func (s *State) Judge(step string, readings []float64, held float64) (Typed, error) {
	st, _, ok := s.plan.step(step)
	win, reads := s.Window(step)
	if !ok || !reads {
		return Typed{}, refusal.New(refusal.Unknown, "step", "Nothing is read at this step.", "")
	}
	outside, never, err := win.Judge(readings)
	if err != nil {
		return Typed{}, err
	}
	out := Typed{Outside: outside, Never: outside != "" && (never || st.Does == recipe.Test), Comes: win.Comes(readings)}
	if held >= st.Hold || math.IsInf(held, 1) {
		return out, nil
	}
	if err := refusal.NotNegative("held", held, "min"); err != nil {
		return out, err
	}
	short := fmt.Sprintf("held %.3g of %.3g min", held, st.Hold)
	if out.Outside != "" {
		short = out.Outside + " It was " + short
	}
	out.Outside, out.Never = short, out.Never || st.Does == recipe.Test
	return out, nil
}

// Window returns what a step's readings may be, and where they are taken; ok is
// false where it asks for none.
func (s *State) Window(step string) (win recipe.Window, ok bool) {
	return s.WindowAt(step, s.Sample(step))
}

// WindowAt is Window for a sample that is taken at the given bolts; of a step
// that takes no sample there are none.
func (s *State) WindowAt(step string, bolts []int) (win recipe.Window, ok bool) {
	st, _, _ := s.plan.step(step)
	if win = st.window; len(bolts) == 0 {
		return win, st.Reads()
	}
	win.Spots = make([]string, len(bolts))
	for i, b := range bolts {
		win.Spots[i] = fmt.Sprintf("at bolt %d", b)
	}
	return win, st.Reads()
}

// Places is how many readings a step asks for; none where it asks for no
// reading.
func (s *State) Places(step string) int {
	st, _, _ := s.plan.step(step)
	switch {
	case !st.Reads():
		return 0
	case st.Sample != "":
		return len(s.Sample(step))
	}
	return max(st.Places, 1)
}
