package recipes_test

import (
	"fmt"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dynacor/core/joint"
	"dynacor/core/record"
	"dynacor/core/refusal"
	"dynacor/core/work/worktest"
)

// What each kind of joint is known to go wrong by is refused, and keeps the
// record from being signed.
func TestWhatEachKindRefuses(t *testing.T) {
	with := func(v ...float64) record.Done { return record.Done{Readings: v, Held: 400} }
	left := record.Done{Skipped: true, Reason: "no time"}
	flange := map[string]string{"work": "make", "gasket": "spiral", "faces": "raised", "bolts": "machine bolts"}
	disc := map[string]string{"work": "fit", "shaft": "with a shoulder", "material": "steel"}
	fit := map[string]string{"work": "fit"}
	for _, c := range []struct {
		recipe, step string
		choices      map[string]string
		done         record.Done
		code         refusal.Code
		says         string
	}{
		{"gasketed-flange", "fit-up", flange, with(1.6, 0, 2, 2, 2, 2), refusal.NeedsReason, "1.6 mm; it must be at most 1.5 mm"},
		{"gasketed-flange", "fit-up", flange, with(0, 0, 2, 2, 2.9, 2), refusal.NeedsReason, "Gap: The readings differ by 0.9 mm"},
		{"gasketed-flange", "rims", flange, with(0, 0, 1.6, 0), refusal.NeedsReason, "1.6 mm 12 o’clock and across; it must be at most 1.5 mm"},
		{"gasketed-flange", "gap", flange, with(2, 2, 4, 2), refusal.NeedsReason, "2 mm; it must be at most 0.8 mm"},
		{"gasketed-flange", "gap", flange, with(0, 0, 0, 0), refusal.OutOfRange, "Every gap reads 0"},
		{"gasketed-flange", "cold", map[string]string{"work": "re-torque"}, left, refusal.NotNow, "cannot be left undone"},
		{"gasketed-flange", "apart-first", map[string]string{"work": "loosen"}, left, refusal.NotNow, "cannot be left undone"},
		{"clamping-disc", "clearance", disc, with(0.4, 0.4, 0, 0.4), refusal.OutOfRange, "0 mm at 6 o’clock; it must be above 0 mm"},
		{"clamping-disc", "halves", disc, with(2, 2.4, 2, 2), refusal.NeedsReason, "differ by 0.4 mm, most at 3 o’clock"},
		{"taper-bush", "wobble", fit, with(0, 0.05, 0.12, 0.05, 0, 0, 0, 0, 0), refusal.NeedsReason, "at most 0.1 mm"},
		{"taper-bush", "wobble", fit, with(0, 0.05, 0.06, 0.05, 0, 0, 0, 0, 0.03), refusal.OutOfRange, "the base has moved"},
		{"taper-bush", "travelled", fit, with(45), refusal.NeedsReason, "Travel: 15 mm; it must be at most 8 mm"},
		{"taper-bush", "line", fit, with(2, -1, 500), refusal.NeedsReason, "6 mm/m; it must be at most 4 mm/m"},
		{"taper-bush", "support", map[string]string{"work": "draw off"}, left, refusal.NotNow, "cannot be left undone"},
		{"hose-clamp", "thread", map[string]string{"spigot": "male"}, with(2, 4), refusal.NeedsReason, "differ by 2 threads, most nut 2"},
		{"hose-clamp", "swivel", map[string]string{"spigot": "female"}, with(0), refusal.NeedsReason, "at least 3 mm"},
		{"split-clamp-outlet", "gap", nil, with(0, 1), refusal.OutOfRange, "0 mm on the left; it must be above 0 mm"},
		{"split-clamp-outlet", "where", nil, with(1200, 3, 20), refusal.NeedsReason, "20 mm; it must be at least 50 mm"},
		{"instrument-saddle", "straight", nil, with(114, 1500, 900), refusal.NeedsReason, "13.16 pipe diameters; it must be at least 18"},
		{"instrument-saddle", "measured", nil, with(60, 62), refusal.NeedsReason, "differ by 2 mm"},
		{"instrument-saddle", "mark", nil, with(90), refusal.NeedsReason, "Length marked: 90 mm; it must be at most"},
		{"ball-valve", "test", map[string]string{"ports": "four"}, with(16, 15, 20, 20), refusal.OutOfRange, "1 bar; it must be at most 0.2 bar"},
		{"ball-valve", "test", map[string]string{"ports": "four"}, with(15, 15, 20, 20), refusal.OutOfRange, "Not reached: 15 bar"},
		{"fluid-coupling", "trued", map[string]string{"base": "steel"}, with(0, 0.1, 0.3, 0.1, 0, 0, 0, 0, 0), refusal.NeedsReason,
			"at most 0.25 mm"},
		{"gear-reducer", "grease", nil, with(1000), refusal.NeedsReason, "at most"},
		{"accumulator", "at-20", map[string]string{"charge": "working"}, with(80, 40, 40), refusal.NeedsReason, "at least 78.4 bar"},
		{"accumulator", "at-20", map[string]string{"charge": "working"}, with(80, 20, 24), refusal.OutOfRange, "4 °C warmer"},
		{"accumulator", "slow", map[string]string{"charge": "working"}, with(4, 2), refusal.NeedsReason, "2 bar/min; it must be at most 0.5"},
		{"accumulator", "gas", map[string]string{"charge": "working"}, left, refusal.NotNow, "cannot be left undone"},
		{"tube-fitting", "square", map[string]string{"way": "in a block first", "gap gauge": "no"}, with(0, 5.95, 6, 6.06, 6),
			refusal.NeedsReason, "Diameter: "},
		{"push-fit", "warm", map[string]string{"weather": "frost"}, with(2), refusal.NeedsReason, "at least 10"},
		{"push-fit", "contact", nil, with(100), refusal.OutOfRange, "at most 1 mm"},
		{"push-fit", "bend", nil, with(150, 6000), refusal.NeedsReason, "at most 1.2 °"},
		{"bolted-frame", "briefing", map[string]string{"material": "steel"}, left, refusal.NotNow, "cannot be left undone"},
		{"bolted-frame", "level", map[string]string{"material": "steel"}, with(2, 1000, -5, 1000), refusal.NeedsReason, "5 mm/m across"},
		{"bolted-frame", "lines", map[string]string{"material": "steel"}, with(4000, 4005, 900, 900), refusal.NeedsReason, "at most 4 mm"},
		{"anchors", "cure", map[string]string{"anchor": "bonded"}, record.Done{Held: 300}, refusal.NeedsReason, "held 300 of 360 min"},
		{"structural-splice", "thread", map[string]string{"method": "combined"}, with(0), refusal.NeedsReason, "at least 1 threads"},
		{"transport-frame", "centre", nil, with(3200, 3216), refusal.NeedsReason, "differ by 16 mm, most on the right"},
		{"transport-frame", "counted, layer 2", nil, with(8, 7), refusal.NeedsReason, "Sleeves over: 7 sleeves; it must be at least 8"},
		{"closure", "test", map[string]string{"tightened": "torque"}, record.Done{Readings: []float64{345, 345, 20, 20}, Held: 5},
			refusal.TooSmall, "held 5 of 15 min"},
		{"large-nut", "stop", nil, left, refusal.NotNow, "cannot be left undone"},
		{"wheel-nuts", "ran", map[string]string{"work": "re-check"}, with(80, 10), refusal.NeedsReason, "at most 50 h"},
		{"torque-wrench", "tester", nil, with(6, 6, 6, 15, 15, 16, 24, 24, 24), refusal.NeedsReason, "16 N·m third; it must be at most 15.6 N·m"},
		{"torque-wrench", "whole", nil, left, refusal.NotNow, "cannot be left undone"},
		{"hydraulic-wrench", "gap", map[string]string{"work": "tighten"}, with(2, 2, 3, 2), refusal.NeedsReason, "at most 0.8 mm"},
	} {
		h := worktest.New(t, plan(t, named(t, c.recipe), c.choices))
		h.UpTo(c.step)
		for !c.done.Skipped && h.Next().Item > 0 {
			h.Do(h.Next())
		}
		h.Ready(h.Next())
		c.done.Act, c.done.Marks = h.Next(), h.State.Seen(c.step)
		err := h.Try(c.done)
		assert.ErrorIs(t, err, &refusal.Error{Code: c.code}, "%s: %s: %v", c.recipe, c.step, err)
		assert.ErrorContains(t, err, c.says, "%s: %s", c.recipe, c.step)
		require.ErrorIs(t, h.Try(record.Signature{Part: record.Made}), &refusal.Error{Code: refusal.NotNow, Field: "open"})
	}
}

// The hours since a flange was made are the record's own, and past their limit no
// reason keeps them.
func TestTheHoursSinceItWasMade(t *testing.T) {
	r := named(t, "gasketed-flange")
	in := anyOf(t, r, map[string]string{"work": "re-torque"})
	for _, hours := range []int{2, 30} {
		h := worktest.New(t, worktest.Lay(t, in, r))
		h.UpTo("since")
		h.Now = in.MadeAt.Add(time.Duration(hours) * time.Hour)
		err := h.Try(record.Done{Act: h.Next(), Reason: "there was no time"})
		require.ErrorIs(t, err, &refusal.Error{Code: refusal.OutOfRange, Field: "readings"}, "%d h", hours)
		require.ErrorIs(t, h.Try(record.Done{Act: h.Next(), Readings: []float64{10}}), &refusal.Error{Code: refusal.Contradicts})
	}
}

// A sample is a tenth of its group, at least two, the worst first; one outside,
// and all are measured.
func TestASampleWidens(t *testing.T) {
	r := named(t, "bolted-frame")
	in := anyOf(t, r, map[string]string{"material": "steel"})
	in.Groups["frame bolts, M8"] = joint.Bolts{Count: 24}
	h := worktest.New(t, worktest.Lay(t, in, r))
	h.UpTo("pull, M8")
	var last int
	for h.Next().Step == "pull, M8" {
		last = h.Next().Bolt
		h.Do(h.Next())
	}
	h.UpTo("audit, M8")
	sample := h.State.Sample("audit, M8")
	require.Len(t, sample, 3)
	require.Contains(t, sample, last, "the last one turned is among the worst")
	require.True(t, h.State.Widens("audit, M8"))
	audit := h.Next()
	win, _ := h.State.Window("audit, M8")
	good := (win.Low + win.High) / 2
	err := h.Try(record.Done{Act: audit, Bolts: []int{1, 2, 3}, Readings: []float64{good, good, good}})
	require.ErrorIs(t, err, &refusal.Error{Code: refusal.Contradicts, Field: "bolts"}, "those are not the ones that were asked for")
	h.Add(record.Done{Act: audit, Bolts: sample, Readings: []float64{good, win.Low - 1, good}})
	require.Equal(t, audit, h.Next(), "still open")
	require.NotEmpty(t, h.State.Open())
	require.Equal(t, 24, h.State.Places("audit, M8"))
	require.False(t, h.State.Widens("audit, M8"))
	bad := h.Done(audit)
	bad.Readings[6] = win.Low - 1
	err = h.Try(bad)
	require.ErrorIs(t, err, &refusal.Error{Code: refusal.NeedsReason, Field: "readings"})
	require.ErrorContains(t, err, "at bolt 7; it must be at least")
	h.Do(audit)
	require.Empty(t, h.State.Deviations())
	require.Len(t, h.State.Tries("audit, M8"), 2, "the sample that failed stays on the record")
	h.Add(record.Trouble{Group: "frame bolts, M8", Bolt: 8, What: record.ThreadDamaged, Remedy: record.Replaced})
	tries := h.State.Tries("audit, M8")
	require.Equal(t, sample, tries[0].Content.(record.Done).Bolts, "as it was measured, whatever is begun anew later")
	at, _ := h.State.WindowAt("audit, M8", sample)
	require.Equal(t, fmt.Sprintf("at bolt %d", sample[1]), at.Spots[1])
}

// A bolt begun anew is measured first.
func TestASampleTakesTheWorst(t *testing.T) {
	r := named(t, "anchors")
	in := anyOf(t, r, map[string]string{"anchor": "expansion"})
	in.Groups["anchors"] = joint.Bolts{Count: 12}
	h := worktest.New(t, worktest.Lay(t, in, r))
	h.UpTo("level")
	require.NotContains(t, h.State.Sample("audit"), 8)
	h.Add(record.Trouble{Group: "anchors", Bolt: 8, What: record.ThreadDamaged, Remedy: record.Replaced})
	h.UpTo("level")
	require.Contains(t, h.State.Sample("audit"), 8)
}
