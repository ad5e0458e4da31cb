package recipes_test

import (
	"os"
	"strconv"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"dynacor/core/record"
	"dynacor/core/refusal"
	"dynacor/core/work"
	"dynacor/core/work/worktest"
	"dynacor/internal/recipes"
)

// at begins the work of a recipe and follows it to a step.
func at(t *testing.T, id string, choices map[string]string, step string) *worktest.Hand {
	t.Helper()
	h := worktest.New(t, plan(t, named(t, id), choices))
	h.UpTo(step)
	return h
}

var (
	notNow   = &refusal.Error{Code: refusal.NotNow}
	notYours = &refusal.Error{Code: refusal.NotTheSame, Field: "person"}
	working  = map[string]string{"charge": "working"}
	inABlock = map[string]string{"way": "in a block first", "tube": "6 mm and more", "gap gauge": "yes", "line": "liquid"}
)

// What is not at the joint is said, and holds the start until it is there.
func TestTheKitHoldsTheStart(t *testing.T) {
	h := at(t, "gasketed-flange", nil, work.KitStep)
	a := h.Next()
	require.Positive(t, a.Item)
	h.Add(record.Done{Act: a, Tried: true})
	for len(h.State.Offered()) > 0 && h.Next().Step == work.KitStep && h.Next().Item != a.Item {
		h.Do(h.Next())
	}
	for _, o := range h.State.Offered() {
		require.Equal(t, work.KitStep, o.Step, "nothing else is offered while something is missing")
		if o.Item != a.Item {
			h.Do(o)
		}
	}
	require.Equal(t, []record.Act{a}, h.State.Offered())
	h.Do(a)
	require.NotEqual(t, work.KitStep, h.Next().Step)
}

// Marks that must be alike and are not stop with both; that they did not match can be
// noted, and the step stays open.
func TestMarksThatDoNotGoTogetherStop(t *testing.T) {
	h := at(t, "tube-fitting", inABlock, "parts")
	d := h.Done(h.Next())
	for i, m := range d.Marks {
		if strings.HasPrefix(m, "back ferrule: ") {
			d.Marks[i] = "back ferrule: another"
		}
	}
	err := h.Try(d)
	require.ErrorIs(t, err, &refusal.Error{Code: refusal.Contradicts, Field: "marks"})
	require.ErrorContains(t, err, "another")
	require.ErrorContains(t, err, "back ferrule")
	d.Tried = true
	h.Add(d)
	require.Equal(t, "parts", h.Next().Step, "still open")
	require.Len(t, h.State.Tries("parts"), 1)
	h.Do(h.Next())
	require.NotEqual(t, "parts", h.Next().Step)
}

// A second person is not who did it; a pressure person is one; and without a release
// nothing goes on.
func TestHoldPoints(t *testing.T) {
	h := at(t, "accumulator", working, "empty")
	for !h.Next().Release {
		h.Do(h.Next())
	}
	who, st, ok := h.State.Waits()
	require.True(t, ok)
	require.Equal(t, "pressure person", who)
	require.Equal(t, "empty", st.ID)
	a := h.Next()
	require.Equal(t, []record.Act{a}, h.State.Offered())
	h.Facts.Qualified = nil
	require.ErrorIs(t, h.Try(record.Done{Act: a}), notYours)
	h.Facts.Qualified = worktest.Everybody
	require.ErrorIs(t, h.Try(record.Done{Act: a, Skipped: true, Reason: "nobody is here"}), notNow)
	h.Do(a)
	require.Equal(t, "set", h.Next().Step)

	h = at(t, "closure", map[string]string{"tightened": "torque"}, "rods")
	for !h.Next().Release {
		h.Do(h.Next())
	}
	require.ErrorIs(t, h.Try(record.Done{Act: h.Next()}), notYours, "who did it does not release it")
	h.As("another", func() { h.Add(record.Done{Act: h.Next()}) })
	require.NotEqual(t, "rods", h.Next().Step)
}

// What must be is left undone neither as a whole nor by a line; what may be, with a reason.
func TestMustAndMay(t *testing.T) {
	h := at(t, "gasketed-flange", nil, "isolate")
	h.Ready(h.Next())
	require.Positive(t, h.Next().Item)
	require.ErrorIs(t, h.Try(record.Done{Act: h.Next(), Skipped: true, Reason: "no lock"}), notNow)
	h.UpTo("threads")
	h.Ready(h.Next())
	require.ErrorIs(t, h.Try(record.Done{Act: h.Next(), Skipped: true}), &refusal.Error{Code: refusal.NeedsReason})
	h.Add(record.Done{Act: h.Next(), Skipped: true, Reason: "new, from the sealed box"})
	require.Len(t, h.State.Deviations(), 1)
}

// A limit follows from what was read before: the gap after against the gap before.
func TestALimitFromAReading(t *testing.T) {
	h := at(t, "push-fit", nil, "before")
	h.Ready(h.Next())
	h.Add(record.Done{Act: h.Next(), Readings: []float64{4}})
	h.UpTo("contact")
	h.Ready(h.Next())
	require.InDelta(t, 4, h.State.Asks("contact")[0].Window.High, 1e-9)
	require.ErrorContains(t, h.Try(record.Done{Act: h.Next(), Readings: []float64{4.5}}), "at most 4 mm")
	h.Add(record.Done{Act: h.Next(), Readings: []float64{3}})
	require.NotEqual(t, "contact", h.Next().Step)
}

// A layer is made once for each the sheet has; the next is not begun before the one before
// it is counted.
func TestOneDefinitionManyLayers(t *testing.T) {
	h := at(t, "transport-frame", map[string]string{"stand": "short"}, "counted, layer 1")
	var layers []string
	for _, st := range h.State.Plan().Steps() {
		if strings.HasPrefix(st.ID, "pull, layer") {
			layers = append(layers, st.Group)
		}
	}
	require.Equal(t, []string{"post bolts, layer 1", "post bolts, layer 2"}, layers)
	second := record.Act{Step: "pull, layer 2", Bolt: 1, Share: 50}
	require.ErrorIs(t, h.Try(record.Done{Act: second}), &refusal.Error{Code: refusal.NotNext})
	h.UpTo("pull, layer 2")
	require.Equal(t, second, h.Next())
}

// A step that asks for a photograph is done with one, of that step.
func TestAStepAsksForAPhotograph(t *testing.T) {
	h := at(t, "tube-fitting", inABlock, "depth")
	h.Do(h.Next())
	a := h.Next()
	require.True(t, a.Photo)
	hash := strings.Repeat("b", 64)
	require.ErrorIs(t, h.Try(record.Done{Act: a}), &refusal.Error{Code: refusal.Missing, Field: "photo"})
	require.ErrorIs(t, h.Try(record.Photo{Step: "depth", Hash: "none"}), &refusal.Error{Code: refusal.Missing, Field: "photo"})
	require.ErrorIs(t, h.Try(record.Photo{Step: "nowhere", Hash: hash}), &refusal.Error{Code: refusal.Unknown, Field: "step"})
	h.Add(record.Photo{Step: "square", Hash: hash})
	require.Equal(t, a, h.Next(), "it is of another step")
	h.Add(record.Photo{Step: "depth", Hash: hash})
	require.NotEqual(t, "depth", h.Next().Step)
}

// Jacking screws are turned a little each until it lets go, and nothing lets go elsewhere.
func TestLittleByLittleUntilItLetsGo(t *testing.T) {
	h := worktest.New(t, plan(t, named(t, "taper-bush"), map[string]string{"work": "draw off"}))
	for h.Next().Round == 0 {
		h.Ready(h.Next())
		require.ErrorIs(t, h.Try(record.Done{Act: h.Next(), LetGo: true}), &refusal.Error{Code: refusal.Contradicts, Field: "letGo"})
		h.Do(h.Next())
	}
	step := h.Next().Step
	for range 7 {
		h.Ready(h.Next())
		h.Add(record.Done{Act: h.Next(), Moved: true})
		require.Equal(t, step, h.Next().Step)
	}
	h.Ready(h.Next())
	h.Add(record.Done{Act: h.Next(), LetGo: true})
	require.NotEqual(t, step, h.Next().Step)
	require.Empty(t, h.State.Deviations(), "that it turns is what it is for")
}

// The clock that was started holds the time; before it is over nothing is kept, unless as
// it was.
func TestTheClockThatWasStarted(t *testing.T) {
	h := at(t, "gasketed-flange", nil, "leak")
	for h.Next().Item > 0 {
		h.Do(h.Next())
	}
	require.ErrorIs(t, h.Try(record.Started{Step: "thread"}), &refusal.Error{Code: refusal.Unknown, Field: "step"})
	h.Add(record.Started{Step: "leak"})
	d := h.Done(h.Next())
	d.Held = 0
	require.ErrorIs(t, h.Try(d), &refusal.Error{Code: refusal.TooSmall, Field: "held"})
	h.Now = h.Now.Add(time.Duration(h.State.Hold("leak")) * time.Minute)
	h.Add(d)
	require.NotEqual(t, "leak", h.Next().Step)
}

// A charge that is not right at 20 °C sends the work back to where it settles; the try stays.
func TestATrySendsTheWorkBack(t *testing.T) {
	h := at(t, "accumulator", working, "at-20")
	good := h.Done(h.Next())
	h.Add(record.Done{Act: h.Next(), Readings: []float64{good.Readings[0] - 20, 20, 20}, Tried: true})
	require.NotEqual(t, "at-20", h.Next().Step, "it is filled, and settles, again")
	require.Len(t, h.State.Tries("at-20"), 1)
	h.Finish()
	require.Empty(t, h.State.Deviations())
}

// A recipe that contradicts itself is refused with its line.
func TestARecipeThatContradictsItself(t *testing.T) {
	for _, c := range []struct{ name, file, from, to, at, says string }{
		{"a limit from a reading that comes later", "push-fit", "keep: gap before, limit: {low: 0, above: true,",
			"keep: gap before, limit: {low: 0, of: gap after, above: true,", "keep: gap before", `"gap after"`},
		{"a part facing one that is not there", "tube-fitting", "face: cone, toward: tube", "face: cone, toward: pipe", "toward: pipe",
			`looks toward "pipe", which is not there`},
		{"a repeat without end", "transport-frame", "count: layers", "count: heaps", "count: heaps", "is repeated without end"},
		{"a lubricated torque that nothing lubricates", "ball-valve", "does: lubricate, station: lay out, when: {work: make}, text: Paste on the stem thread and on all body bolts.,\n" +
			"      for: [end 1, end 2, end 3, end 4],", "does: check, station: lay out, text: Paste on nothing.,", "", "lubricat"},
		{"a form that is none", "accumulator", "form: charge at 20 °C", "form: guess", "form: guess", "Unknown form"},
		{"a tick of no part", "accumulator", "{part: bladder, text:", "{part: balloon, text:", "part: balloon", `No part is named "balloon"`},
		{"back to what comes later", "accumulator", "back: settle", "back: leak", "back: leak", "no step before it"},
		{"until it lets go, and by no portions", "taper-bush", "portion: 90, still: true, until: it lets go", "until: it lets go",
			"until: it lets go", "by no portions"},
	} {
		b, err := os.ReadFile("book/" + c.file + ".yaml")
		require.NoError(t, err)
		text := string(b)
		require.Contains(t, text, c.from, c.name)
		text = strings.Replace(text, c.from, c.to, 1)
		_, err = recipes.Read([]byte(text))
		var r *refusal.Error
		require.ErrorAs(t, err, &r, c.name)
		require.Contains(t, r.Error(), c.says, c.name)
		require.NotEmpty(t, r.Field, c.name)
		require.Contains(t, r.Error(), "Line ", c.name)
		if c.at == "" {
			continue
		}
		line := 1 + strings.Count(text[:strings.Index(text, c.at)], "\n")
		said := r.Error()
		require.True(t, near(said, line), "%s: line %d is wrong: %s", c.name, line, said)
	}
}

// near reports whether a refusal names a line, or one of the few above it that its entry
// begins on.
func near(said string, line int) bool {
	for l := max(1, line-3); l <= line; l++ {
		if strings.Contains(said, "Line "+strconv.Itoa(l)+":") {
			return true
		}
	}
	return false
}
