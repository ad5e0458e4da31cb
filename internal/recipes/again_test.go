package recipes_test

import (
	"testing"

	"github.com/stretchr/testify/require"

	"dynacor/core/joint"
	"dynacor/core/loosen"
	"dynacor/core/record"
	"dynacor/core/refusal"
	"dynacor/core/thread"
	"dynacor/core/work/worktest"
)

// A turned bolt that is short of its turn is brought up to it once, by its own mark: what
// was proven of it is measured again. A second time it is replaced.
func TestATurnedBoltIsBroughtUpOnce(t *testing.T) {
	r := named(t, "structural-splice")
	h := worktest.New(t, plan(t, r, map[string]string{"method": "part turn", "faces": "both square"}))
	h.UpTo("line")
	h.Do(h.Next())
	require.Equal(t, []record.Remedy{record.Replaced, record.Loosened, record.Upped}, h.State.Remedies("splice bolts", 3))
	short := record.Trouble{Group: "splice bolts", Bolt: 3, What: record.SomethingElse, Remedy: record.Upped}
	h.Add(short)
	require.Empty(t, h.State.Troubled(), "nothing of it stays open")
	require.Equal(t, "line", h.Next().Step, "its turn is measured again")
	_, _, turned := h.State.Count("turn")
	require.True(t, turned)
	require.ErrorIs(t, h.Try(short), &refusal.Error{Code: refusal.NotNow, Field: "remedy"})
	h.Finish()
	require.Contains(t, h.State.Deviations()[0].Text, "brought up to its turn, once")
	h.Add(record.Trouble{Group: "splice bolts", Bolt: 3, What: record.Overshot, Remedy: record.Replaced})
	require.Contains(t, h.State.Remedies("splice bolts", 3), record.TryAgain, "a new bolt is not turned yet")
}

// Loosening is planned from the record: the torque the bolts hold, how they stood, and
// the range they let go in; off they come from the bottom, the two at the top last.
func TestLooseningFromTheRecord(t *testing.T) {
	r := named(t, "gasketed-flange")
	further, res := loosened(t, r)
	at := func(age loosen.Age) loosen.Breakout {
		b := further.Groups["tight bolts"]
		b.Held.Age = age
		further.Groups["tight bolts"] = b
		res, err := joint.Compute(further, r)
		require.NoError(t, err)
		g, _ := res.Group("tight bolts")
		return g.Breakout
	}
	g, _ := res.Group("bolts")
	dry := at("")
	th, err := thread.Parse(g.Thread)
	require.NoError(t, err)
	want, err := loosen.Held{Thread: th, Lubricant: g.K, Torque: g.Torque, Kept: 0.7, Age: loosen.Settled}.Breakout()
	require.NoError(t, err)
	require.Equal(t, want, dry, "a gasket has kept seven tenths at the least")
	require.Less(t, dry.Low, g.Torque)
	require.Greater(t, dry.High, g.Torque)
	require.Greater(t, at(loosen.Hot).High, dry.High)
	require.Equal(t, dry, at(loosen.Settled))
	b := further.Groups["tight bolts"]
	b.Held.Age = "a while"
	further.Groups["tight bolts"] = b
	_, err = joint.Compute(further, r)
	require.ErrorIs(t, err, &refusal.Error{Code: refusal.Unknown})
	b.Held.Age = ""
	further.Groups["tight bolts"] = b
	res, err = joint.Compute(further, r)
	require.NoError(t, err)
	slack, _ := res.Group("slack bolts")
	require.Equal(t, []int{4, 5, 3, 6, 2, 7, 1, 8}, slack.Order, "bolt 1 is the first right of the top")
}
