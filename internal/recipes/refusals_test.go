package recipes_test

import (
	"fmt"
	"slices"
	"testing"

	"github.com/stretchr/testify/require"

	"dynacor/core/recipe"
	"dynacor/core/refusal"
)

// upTo follows a recipe until a step is offered first.
func upTo(t *testing.T, w *recipe.Work, step string) *recipe.Work {
	for w.Offered()[0].Step != step {
		a := w.Offered()[0]
		s, _ := w.Step(a)
		next, err := w.Do(a, recipe.Done{Person: "fitter", Qualifications: everybody, Held: s.Hold, Bolts: w.Sample(s.ID), Readings: within(w, s)})
		require.NoError(t, err, "%+v", a)
		w = next
	}
	return w
}

// What each kind of joint is known to go wrong by is refused, and keeps the
// record from being signed.
func TestWhatEachKindRefuses(t *testing.T) {
	with := func(v ...float64) recipe.Done { return recipe.Done{Readings: v, Held: 60} }
	left := recipe.Done{Skipped: true, Reason: "no time"}
	for _, c := range []struct {
		recipe, step string
		choices      map[string]string
		done         recipe.Done
		code         refusal.Code
		says         string
	}{
		{"gasketed-flange", "high-low", map[string]string{"work": "make", "gasket": "spiral", "faces": "raised", "bolts": "machine bolts"}, with(1.6), refusal.NeedsReason, "1.6 mm; it must be at most 1.5 mm"},
		{"gasketed-flange", "since", map[string]string{"work": "re-torque"}, with(30), refusal.NeedsReason, "30 h; it must be at most 24 h"},
		{"gasketed-flange", "cold", map[string]string{"work": "re-torque"}, left, refusal.NotNow, "cannot be left undone"},
		{"gasketed-flange", "apart-first", map[string]string{"work": "loosen"}, left, refusal.NotNow, "cannot be left undone"},
		{"clamping-disc", "clearance", map[string]string{"work": "fit", "shaft": "with a shoulder", "material": "steel"}, with(0.4, 0.4, 0, 0.4), refusal.NeedsReason, "0 mm at 6 o’clock; it must be above 0 mm"},
		{"clamping-disc", "halves", map[string]string{"work": "fit", "shaft": "with a shoulder", "material": "steel"}, with(2, 2.4, 2, 2), refusal.NeedsReason, "differ by 0.4 mm, most at 3 o’clock"},
		{"taper-bush", "wobble", map[string]string{"work": "fit"}, with(21), refusal.NeedsReason, "at most 20 mm"},
		{"taper-bush", "support", map[string]string{"work": "draw off"}, left, refusal.NotNow, "cannot be left undone"},
		{"hose-clamp", "thread", map[string]string{"spigot": "male", "clamp": "small"}, with(2, 4), refusal.NeedsReason, "differ by 2 threads, most on the right"},
		{"split-clamp-outlet", "gap", nil, with(0, 1), refusal.NeedsReason, "0 mm on the left; it must be above 0 mm"},
		{"instrument-saddle", "up", nil, with(19), refusal.NeedsReason, "at least 20 diameters"},
		{"ball-valve", "test", map[string]string{"ports": "four"}, with(0, 0.3), refusal.NeedsReason, "0.3 bar at the test pressure"},
		{"fluid-coupling", "trued", map[string]string{"base": "steel", "floating ring": "no", "bolt heads": "toward the motor"}, with(21), refusal.NeedsReason, "at most 20 mm"},
		{"gear-reducer", "phase", nil, with(2), refusal.NeedsReason, "2 °; it must be at most 1 °"},
		{"accumulator", "warmth", map[string]string{"charge": "working"}, with(4), refusal.NeedsReason, "at least 15 °C"},
		{"accumulator", "gas", map[string]string{"charge": "working"}, left, refusal.NotNow, "cannot be left undone"},
		{"tube-fitting", "round", map[string]string{"way": "in a block first", "gap gauge": "no"}, with(20, 20, 20.1, 20), refusal.NeedsReason, "differ by 0.1 mm"},
		{"push-fit", "warm", map[string]string{"weather": "frost"}, with(2), refusal.NeedsReason, "at least 5"},
		{"bolted-frame", "area", map[string]string{"material": "steel"}, left, refusal.NotNow, "cannot be left undone"},
		{"anchors", "cure", map[string]string{"anchor": "bonded"}, with(5), refusal.NeedsReason, "at least 20 h"},
		{"structural-splice", "thread", map[string]string{"method": "combined", "faces": "both square"}, with(0), refusal.NeedsReason, "at least 1 threads"},
		{"transport-frame", "centre", nil, with(3200, 3215, 3200, 3200), refusal.NeedsReason, "differ by 15 mm, most at 3 o’clock"},
		{"closure", "test", map[string]string{"tightened": "torque"}, recipe.Done{Readings: []float64{0, 0}, Held: 5}, refusal.NeedsReason, "held 5 of 15 min"},
		{"large-nut", "stop", nil, left, refusal.NotNow, "cannot be left undone"},
		{"wheel-nuts", "ran", map[string]string{"work": "re-check"}, with(80), refusal.NeedsReason, "at most 50 h"},
		{"torque-wrench", "tester", nil, with(20, 20, 21), refusal.NeedsReason, "21 N·m third; it must be at most 20.8 N·m"},
		{"torque-wrench", "whole", nil, left, refusal.NotNow, "cannot be left undone"},
		{"hydraulic-wrench", "stall", map[string]string{"work": "tighten"}, with(20, 21), refusal.NeedsReason, "at most 20.2 bar"},
	} {
		all := shipped(t)
		i := slices.IndexFunc(all, func(r recipe.Recipe) bool { return r.ID == c.recipe })
		w, err := all[i].Begin(made(all[i], c.choices))
		require.NoError(t, err, c.recipe)
		w = upTo(t, w, c.step)
		c.done.Person, c.done.Qualifications = "fitter", everybody
		_, err = w.Do(w.Offered()[0], c.done)
		require.ErrorIs(t, err, &refusal.Error{Code: c.code}, "%s: %s", c.recipe, c.step)
		require.ErrorContains(t, err, c.says, "%s: %s", c.recipe, c.step)
		require.ErrorIs(t, w.MaySign(), &refusal.Error{Code: refusal.NotNow, Field: "open"})
	}
}

// A sample is a tenth of its group, at least two, the worst first; one outside,
// and all are measured.
func TestASampleWidens(t *testing.T) {
	all := shipped(t)
	i := slices.IndexFunc(all, func(r recipe.Recipe) bool { return r.ID == "bolted-frame" })
	j := made(all[i], map[string]string{"material": "steel"})
	j.Bolts["frame bolts"] = 24
	w, err := all[i].Begin(j)
	require.NoError(t, err)
	w = upTo(t, w, "pull")
	var last int
	for w.Offered()[0].Step == "pull" {
		last = w.Offered()[0].Bolt
		if w, err = w.Do(w.Offered()[0], recipe.Done{Person: "fitter"}); err != nil {
			require.NoError(t, err)
		}
	}
	w = upTo(t, w, "audit")
	sample := w.Sample("audit")
	require.Len(t, sample, 3)
	require.Contains(t, sample, last, "the last one turned is among the worst")
	require.True(t, w.Widens("audit"))
	audit := w.Offered()[0]
	_, err = w.Do(audit, recipe.Done{Person: "fitter", Bolts: []int{1, 2, 3}, Readings: []float64{20, 20, 20}})
	require.ErrorIs(t, err, &refusal.Error{Code: refusal.Contradicts, Field: "bolts"}, "those are not the ones that were asked for")
	w, err = w.Do(audit, recipe.Done{Person: "fitter", Bolts: sample, Readings: []float64{20, 16, 20}})
	require.NoError(t, err)
	require.Equal(t, audit, w.Offered()[0], "still open")
	require.Error(t, w.MaySign())
	require.Equal(t, 24, w.Places("audit"))
	require.False(t, w.Widens("audit"))
	bad := make([]float64, 24)
	for i := range bad {
		bad[i] = 20
	}
	bad[6] = 16
	_, err = w.Do(audit, recipe.Done{Person: "fitter", Bolts: w.Sample("audit"), Readings: bad})
	require.ErrorIs(t, err, &refusal.Error{Code: refusal.NeedsReason, Field: "readings"})
	require.ErrorContains(t, err, "16 N·m at bolt 7; it must be at least 17 N·m")
	bad[6] = 19
	w, err = w.Do(audit, recipe.Done{Person: "fitter", Bolts: w.Sample("audit"), Readings: bad})
	require.NoError(t, err)
	require.Empty(t, w.Deviations())
	require.Len(t, w.Tries("audit"), 2, "the sample that failed stays on the record")
	w = w.Anew("pull", 8)
	require.Equal(t, sample, w.Tries("audit")[0].Bolts, "as it was measured, whatever is begun anew later")
	win, _ := w.WindowAt("audit", sample)
	require.Equal(t, fmt.Sprintf("at bolt %d", sample[1]), win.Spots[1])
}

// A bolt begun anew is measured first.
func TestASampleTakesTheWorst(t *testing.T) {
	all := shipped(t)
	i := slices.IndexFunc(all, func(r recipe.Recipe) bool { return r.ID == "anchors" })
	j := made(all[i], map[string]string{"anchor": "expansion"})
	j.Bolts["anchors"] = 12
	w, err := all[i].Begin(j)
	require.NoError(t, err)
	w = upTo(t, w, "level")
	require.NotContains(t, w.Sample("audit"), 8)
	w = w.Anew("pull", 8)
	w = upTo(t, w, "level")
	require.Contains(t, w.Sample("audit"), 8)
}
