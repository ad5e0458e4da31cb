package work_test

import (
	"testing"

	"github.com/stretchr/testify/require"

	"dynacor/core/record"
	"dynacor/core/refusal"
	"dynacor/core/unit"
	"dynacor/core/work"
	"dynacor/core/work/worktest"
)

// A linked tool is told what to reach while it is in a hand, and by nobody else's tool.
func TestATargetIsThatOfTheToolInHand(t *testing.T) {
	h := worktest.New(t, worktest.Lay(t, worktest.Flanged(8), worktest.Flange()))
	_, ok := h.State.Target("TW-1")
	require.False(t, ok, "nothing is set")
	h.UpTo("pull")
	h.Ready(h.Next())
	to, ok := h.State.Target("TW-1")
	require.True(t, ok)
	next := h.Next()
	st, _ := h.State.Tool(next)
	require.Equal(t, work.Target{Act: next, Value: st.Setting.Value, Low: 0.96 * st.Setting.Value, High: st.Setting.Value * 1.1,
		Unit: unit.NewtonMetre}, to)
	_, ok = h.State.Target("TW-2")
	require.False(t, ok)
	for _, c := range []struct {
		reading unit.Quantity
		told    work.Told
	}{{unit.Of(to.Value, unit.NewtonMetre), work.ToldHeld}, {unit.Of(to.Low, unit.NewtonMetre), work.ToldHeld},
		{unit.Of(to.Low-0.1, unit.NewtonMetre), work.ToldShort}, {unit.Of(to.High+0.1, unit.NewtonMetre), work.ToldPast},
		{unit.Of(to.Value/1.3558179483314004, unit.FootPound), work.ToldHeld}, {unit.Of(to.Value, unit.FootPound), work.ToldPast}} {
		told, says, err := to.Tell(c.reading)
		require.NoError(t, err)
		require.Equal(t, c.told, told, "%s", c.reading)
		require.NotEmpty(t, says)
	}
	for _, bad := range []unit.Quantity{unit.Of(100, unit.Bar), unit.Of(-1, unit.NewtonMetre), unit.Of(11*to.Value, unit.NewtonMetre),
		unit.Of(100, "furlong")} {
		_, _, err := to.Tell(bad)
		require.Error(t, err, "%s", bad)
	}
	h.Add(h.Done(next))
	lines := h.State.Lines()
	aimed, ok := h.State.Aimed(lines[len(lines)-1])
	require.True(t, ok)
	require.Equal(t, to, aimed, "what it was to reach stays what it was")
	feet, err := aimed.In(unit.FootPound)
	require.NoError(t, err)
	require.InDelta(t, to.Low/1.3558179483314004, feet.Low, 1e-9)
	_, err = aimed.In(unit.Bar)
	require.Error(t, err)
	_, ok = h.State.Aimed(lines[0])
	require.False(t, ok, "no pull")
	h.Add(record.Pause{Note: "phone"})
	_, ok = h.State.Target("TW-1")
	require.False(t, ok, "nobody is at it")
}

// What a tool counts twice is asked about; a reading a second is a tool's own pace.
func TestALinkedToolMayBeFasterThanAHand(t *testing.T) {
	h := worktest.New(t, worktest.Lay(t, worktest.Flanged(8), worktest.Flange()))
	h.UpTo("pull")
	h.Ready(h.Next())
	h.Pace = 1_000_000_000
	for range 7 {
		d := h.Done(h.Next())
		d.Taken = "TW-1"
		h.Add(d)
	}
	h.Pace = 200_000_000 // and again for the answer
	d := h.Done(h.Next())
	d.Taken = "TW-1"
	require.ErrorIs(t, h.Try(d), &refusal.Error{Code: refusal.Asked, Field: "confirmed"})
	require.NoError(t, h.Confirm(d))
	all := h.State.Deviations()
	require.Contains(t, all[len(all)-1].Text, "within 0.5 s of the pull before")
}
