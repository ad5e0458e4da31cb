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
	with := func(v ...float64) record.Done { return record.Done{Readings: v, Held: 60} }
	left := record.Done{Skipped: true, Reason: "no time"}
	for _, c := range []struct {
		recipe, step string
		choices      map[string]string
		done         record.Done
		code         refusal.Code
		says         string
	}{
		{"gasketed-flange", "high-low", map[string]string{"work": "make", "gasket": "spiral", "faces": "raised", "bolts": "machine bolts"},
			with(1.6), refusal.NeedsReason, "1.6 mm; it must be at most 1.5 mm"},
		{"gasketed-flange", "cold", map[string]string{"work": "re-torque"}, left, refusal.NotNow, "cannot be left undone"},
		{"gasketed-flange", "apart-first", map[string]string{"work": "loosen"}, left, refusal.NotNow, "cannot be left undone"},
		{"clamping-disc", "clearance", map[string]string{"work": "fit", "shaft": "with a shoulder", "material": "steel"},
			with(0.4, 0.4, 0, 0.4), refusal.OutOfRange, "0 mm at 6 o’clock; it must be above 0 mm"},
		{"clamping-disc", "halves", map[string]string{"work": "fit", "shaft": "with a shoulder", "material": "steel"}, with(2, 2.4, 2, 2),
			refusal.NeedsReason, "differ by 0.4 mm, most at 3 o’clock"},
		{"taper-bush", "wobble", map[string]string{"work": "fit"}, with(21), refusal.NeedsReason, "at most 0.1 mm"},
		{"taper-bush", "support", map[string]string{"work": "draw off"}, left, refusal.NotNow, "cannot be left undone"},
		{"hose-clamp", "thread", map[string]string{"spigot": "male", "clamp": "small"}, with(2, 4), refusal.NeedsReason,
			"differ by 2 threads, most on the right"},
		{"split-clamp-outlet", "gap", nil, with(0, 1), refusal.OutOfRange, "0 mm on the left; it must be above 0 mm"},
		{"instrument-saddle", "up", nil, with(9), refusal.NeedsReason, "at least 10 diameters"},
		{"ball-valve", "test", map[string]string{"ports": "four"}, with(0, 0.3), refusal.OutOfRange, "0.3 bar at the test pressure"},
		{"fluid-coupling", "trued", map[string]string{"base": "steel", "floating ring": "no", "bolt heads": "toward the motor"}, with(21),
			refusal.NeedsReason, "at most 0.2 mm"},
		{"gear-reducer", "phase", nil, with(2), refusal.NeedsReason, "2 °; it must be at most 1 °"},
		{"accumulator", "warmth", map[string]string{"charge": "working"}, with(4), refusal.NeedsReason, "at least 15 °C"},
		{"accumulator", "gas", map[string]string{"charge": "working"}, left, refusal.NotNow, "cannot be left undone"},
		{"tube-fitting", "round", map[string]string{"way": "in a block first", "gap gauge": "no"}, with(5.95, 6, 6.06, 6),
			refusal.NeedsReason, "differ by 0.11 mm"},
		{"push-fit", "warm", map[string]string{"weather": "frost"}, with(2), refusal.NeedsReason, "at least 5"},
		{"bolted-frame", "area", map[string]string{"material": "steel"}, left, refusal.NotNow, "cannot be left undone"},
		{"anchors", "cure", map[string]string{"anchor": "bonded"}, with(5), refusal.NeedsReason, "at least 6 h"},
		{"structural-splice", "thread", map[string]string{"method": "combined"}, with(0), refusal.NeedsReason,
			"at least 1 threads"},
		{"transport-frame", "centre", nil, with(3200, 3215, 3200, 3200), refusal.NeedsReason, "differ by 15 mm, most at 3 o’clock"},
		{"closure", "test", map[string]string{"tightened": "torque"}, record.Done{Readings: []float64{0, 0}, Held: 5}, refusal.TooSmall,
			"held 5 of 15 min"},
		{"large-nut", "stop", nil, left, refusal.NotNow, "cannot be left undone"},
		{"wheel-nuts", "ran", map[string]string{"work": "re-check"}, with(80), refusal.NeedsReason, "at most 50 h"},
		{"torque-wrench", "tester", nil, with(15, 15, 16), refusal.NeedsReason, "16 N·m third; it must be at most 15.6 N·m"},
		{"torque-wrench", "whole", nil, left, refusal.NotNow, "cannot be left undone"},
		{"hydraulic-wrench", "stall", map[string]string{"work": "tighten"}, with(310, 320), refusal.NeedsReason, "at most 313.1 bar"},
	} {
		h := worktest.New(t, plan(t, named(t, c.recipe), c.choices))
		h.UpTo(c.step)
		h.Ready(h.Next())
		c.done.Act = h.Next()
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
		h.Now = made.Add(time.Duration(hours) * time.Hour)
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
	in.Groups["frame bolts"] = joint.Bolts{Count: 24}
	h := worktest.New(t, worktest.Lay(t, in, r))
	h.UpTo("pull")
	var last int
	for h.Next().Step == "pull" {
		last = h.Next().Bolt
		h.Do(h.Next())
	}
	h.UpTo("audit")
	sample := h.State.Sample("audit")
	require.Len(t, sample, 3)
	require.Contains(t, sample, last, "the last one turned is among the worst")
	require.True(t, h.State.Widens("audit"))
	audit := h.Next()
	win, _ := h.State.Window("audit")
	good := (win.Low + win.High) / 2
	err := h.Try(record.Done{Act: audit, Bolts: []int{1, 2, 3}, Readings: []float64{good, good, good}})
	require.ErrorIs(t, err, &refusal.Error{Code: refusal.Contradicts, Field: "bolts"}, "those are not the ones that were asked for")
	h.Add(record.Done{Act: audit, Bolts: sample, Readings: []float64{good, win.Low - 1, good}})
	require.Equal(t, audit, h.Next(), "still open")
	require.NotEmpty(t, h.State.Open())
	require.Equal(t, 24, h.State.Places("audit"))
	require.False(t, h.State.Widens("audit"))
	bad := h.Done(audit)
	bad.Readings[6] = win.Low - 1
	err = h.Try(bad)
	require.ErrorIs(t, err, &refusal.Error{Code: refusal.NeedsReason, Field: "readings"})
	require.ErrorContains(t, err, "at bolt 7; it must be at least")
	h.Do(audit)
	require.Empty(t, h.State.Deviations())
	require.Len(t, h.State.Tries("audit"), 2, "the sample that failed stays on the record")
	h.Add(record.Trouble{Group: "frame bolts", Bolt: 8, What: record.ThreadDamaged, Remedy: record.Replaced})
	tries := h.State.Tries("audit")
	require.Equal(t, sample, tries[0].Content.(record.Done).Bolts, "as it was measured, whatever is begun anew later")
	at, _ := h.State.WindowAt("audit", sample)
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
