package work_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"dynacor/core/record"
	"dynacor/core/refusal"
	"dynacor/core/unit"
	"dynacor/core/work"
	"dynacor/core/work/worktest"
)

// several chooses as many wrenches at once as there are tags.
func several(h *worktest.Hand, tags ...string) record.Tooling {
	g, _ := h.State.Plan().Result.Group("bolts")
	t := worktest.Tooling(g, tags[0])
	for _, tag := range tags[1:] {
		t.Beside = append(t.Beside, worktest.Tooling(g, tag).Stages)
	}
	return t
}

// ready is a flange of so many bolts at its first bolt, with tools at once, of which
// everybody has read the cautions.
func ready(t *testing.T, bolts int, people []string, tags ...string) *worktest.Hand {
	t.Helper()
	h := worktest.New(t, worktest.Lay(t, worktest.Flanged(bolts), worktest.Flange()))
	h.UpTo("pull")
	h.Tool()
	h.Add(several(h, tags...))
	for _, who := range people {
		h.As(who, func() { h.Ready(record.Act{Step: "pull"}) })
	}
	return h
}

// take takes a hand's tool and sets it.
func take(h *worktest.Hand, who string, hand int) error {
	share := h.Next().Share
	var err error
	h.As(who, func() { err = h.Try(record.Setting{Group: "bolts", Share: share, Hand: hand}) })
	return err
}

func pull(h *worktest.Hand, who string, a record.Act) error {
	var err error
	h.As(who, func() { err = h.Try(h.Done(a)) })
	return err
}

// Two at a ring make opposite bolts together: each has one of the two, and nobody begins the
// next two before both are done.
func TestTwoToolsTakeOppositeBolts(t *testing.T) {
	h := ready(t, 8, []string{"ann", "ben"}, "TW-1", "TW-2")
	soon := func() time.Time { return h.Now.Add(h.Pace) }
	require.Equal(t, []int{1, 2, 4}, h.State.AtOnce("bolts"))
	offered := h.State.Offered()
	require.Len(t, offered, 2)
	require.Equal(t, 4, offered[1].Bolt-offered[0].Bolt, "they lie opposite")

	refused(t, pull(h, "ann", offered[0]), refusal.NotNow, "setting", "TW-1")
	require.NoError(t, take(h, "ann", 0))
	require.Len(t, h.State.Ahead("ann", soon(), 10), 1)
	want, unset := h.State.Unset("ben", soon())
	require.True(t, unset)
	require.Equal(t, 1, want.Hand, "the other's tool is what is left")
	require.NoError(t, take(h, "ben", 1))
	for i, who := range []string{"ann", "ben"} {
		a, ok := h.State.NextFor(who, soon())
		require.True(t, ok)
		require.Equal(t, offered[i], a)
	}
	refused(t, pull(h, "ben", offered[0]), refusal.NotNow, "setting", "TW-1")
	tool, _ := h.State.Tool(offered[1])
	require.Equal(t, []string{"TW-2"}, tool.Tools)

	// Each tool that sends its readings has its own target.
	for i, tag := range []string{"TW-1", "TW-2"} {
		to, ok := h.State.Target(tag)
		require.True(t, ok)
		require.Equal(t, offered[i], to.Act)
	}
	require.NoError(t, pull(h, "ben", offered[1]), "either may be first")
	_, ok := h.State.NextFor("ben", soon())
	require.False(t, ok, "the other is not done yet")
	_, ok = h.State.Target("TW-2")
	require.False(t, ok)
	require.Empty(t, h.State.Ahead("ben", soon(), 10))
	hands := h.State.Hands(soon())
	first, _ := h.State.StageTool("bolts", 20, 0)
	second, _ := h.State.StageTool("bolts", 20, 1)
	require.Equal(t, []work.Hand{{Number: 0, Tool: first, By: "ann", Act: offered[0], Open: true},
		{Number: 1, Tool: second, By: "ben", Act: offered[1]}}, hands)
	require.Error(t, pull(h, "ben", h.State.Offered()[0]))
	require.NoError(t, pull(h, "ann", offered[0]))

	// The next two.
	a, ok := h.State.NextFor("ben", soon())
	require.True(t, ok)
	require.NotContains(t, offered, a)
	require.Len(t, h.State.Ahead("ben", soon(), 10), 1)
	require.NoError(t, take(h, "ann", 1), "who is gone is stood in for")
	_, ok = h.State.NextFor("ben", soon())
	require.False(t, ok)
	require.Len(t, h.State.Ahead("ann", soon(), 10), 10, "with both in one hand it goes on as with one")
	require.Equal(t, h.State.Offered(), h.Fold().Offered())
}

// A check round is gone round by the first tool alone.
func TestOneToolGoesRound(t *testing.T) {
	h := ready(t, 8, []string{"ann", "ben"}, "TW-1", "TW-2", "TW-3", "TW-4")
	require.Len(t, h.State.Offered(), 4)
	for h.Next().Round == 0 {
		for _, hand := range h.State.Hands(h.Now) { // each has two of the four
			if who := []string{"ann", "ben"}[hand.Number/2]; hand.Open {
				if hand.By != who || h.Next().Share > 20 {
					_ = take(h, who, hand.Number)
				}
				require.NoError(t, pull(h, who, hand.Act))
			}
		}
	}
	require.Len(t, h.State.Offered(), 1)
	to, _ := h.State.Tool(h.Next())
	require.Equal(t, []string{"TW-1"}, to.Tools)
	require.Error(t, take(h, "ben", 2), "its tool has nothing to do")
	require.NoError(t, take(h, "ben", 0))
	require.NoError(t, pull(h, "ben", h.Next()))
}

// What is wrong with tools at once is said, and changes nothing.
func TestToolsThatDoNotWorkAtOnce(t *testing.T) {
	h := worktest.New(t, worktest.Lay(t, worktest.Flanged(8), worktest.Flange()))
	h.UpTo("pull")
	for _, tags := range [][]string{{"TW-1", "TW-1"}, {"TW-1", "TW-2", "TW-3"}, {"A", "B", "C", "D", "E"}} {
		require.ErrorAs(t, h.Try(several(h, tags...)), new(*refusal.Error), "%v", tags)
	}
	short := several(h, "TW-1", "TW-2")
	short.Beside[0] = short.Beside[0][:1]
	require.ErrorContains(t, h.Try(short), "stages")
	mixed := several(h, "TW-1", "EW-1")
	for i := range mixed.Beside[0] {
		mixed.Beside[0][i].Chart = []record.ChartRow{{Pressure: 1, Torque: 1}, {Pressure: 700, Torque: 900}}
	}
	require.ErrorContains(t, h.Try(mixed), "hydraulic")
	for i := range mixed.Stages {
		mixed.Stages[i].Chart = mixed.Beside[0][i].Chart
		for _, x := range []*record.StageTool{&mixed.Stages[i], &mixed.Beside[0][i]} {
			x.Setting, x.Links = unit.Of(300, unit.Bar), []record.Link{{Kind: "pump", Tag: "PU-1"}}
		}
		mixed.Beside[0][i].Setting = unit.Of(310, unit.Bar)
	}
	require.ErrorContains(t, h.Try(mixed), "PU-1 gives one pressure")
	for i := range mixed.Stages {
		mixed.Beside[0][i].Setting = unit.Of(302, unit.Bar)
	}
	require.NoError(t, h.Try(mixed))
	odd := worktest.New(t, worktest.Lay(t, worktest.Flanged(6), worktest.Flange()))
	odd.UpTo("pull")
	require.NotContains(t, odd.State.AtOnce("bolts"), 4)
	require.Error(t, odd.Try(several(odd, "A", "B", "C", "D")))
	require.Error(t, h.Try(record.Setting{Group: "bolts", Share: h.Next().Share, Hand: 9}))
	require.Error(t, h.Try(record.Setting{Group: "bolts", Share: h.Next().Share, Hand: -1}))
}

// Whoever does what in whatever order: each turn is made whole before the next, every bolt
// is pulled by its own hand's tool, and the record read anew says the same.
func TestHandsNeverRunAhead(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		n := rapid.SampledFrom([]int{2, 4}).Draw(t, "tools")
		h := worktest.New(t, worktest.Lay(t, worktest.Flanged(rapid.SampledFrom([]int{4, 8, 12, 16}).Draw(t, "bolts")), worktest.Flange()))
		h.UpTo("pull")
		h.Add(several(h, []string{"TW-1", "TW-2", "TW-3", "TW-4"}[:n]...))
		people := []string{"ann", "ben", "cy"}
		for _, who := range people {
			h.As(who, func() { h.Ready(record.Act{Step: "pull"}) })
		}
		for steps := 0; h.Next().Round == 0 && h.Next().Bolt > 0 && steps < 200; steps++ {
			who := rapid.SampledFrom(people).Draw(t, "who")
			a, ok := h.State.NextFor(who, h.Now.Add(h.Pace))
			if !ok { // they wait, or take over what another left
				hands := h.State.Hands(h.Now)
				left := hands[rapid.IntRange(0, len(hands)-1).Draw(t, "left")]
				if left.Open && rapid.Bool().Draw(t, "over") {
					h.As(who, func() { h.Add(record.Setting{Group: "bolts", Share: h.Next().Share, Hand: left.Number}) })
				}
				continue
			}
			require.Contains(t, h.State.Offered(), a)
			h.As(who, func() {
				if set, unset := h.State.Unset(who, h.Now.Add(h.Pace)); unset {
					h.Add(set)
				}
				if rapid.IntRange(0, 59).Draw(t, "trouble") == 0 {
					h.Add(record.Trouble{Group: "bolts", Bolt: a.Bolt, What: record.Troubles()[0], Remedy: record.Replaced})
					return
				}
				h.Add(h.Done(a))
			})
			if d, pulled := h.Entries[len(h.Entries)-1].Content.(record.Done); pulled {
				used := h.State.Lines()[len(h.Entries)-1].Tool.Tools[0]
				by, _, there := h.State.InHand(used)
				require.True(t, there && by == who, "%s with %s", h.State.Describe(d.Act), used)
			}
		}
		again := h.Fold()
		require.Equal(t, h.State.Offered(), again.Offered())
		require.Equal(t, h.State.Hands(h.Now), again.Hands(h.Now))
	})
}
