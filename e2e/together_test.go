package e2e

import (
	"context"
	"testing"
	"time"

	"github.com/go-rod/rod/lib/input"
	"github.com/stretchr/testify/require"

	"dynacor/core/recipe"
	"dynacor/core/record"
	"dynacor/core/work"
	"dynacor/internal/simtool"
	"dynacor/internal/toollink"
)

// Two at a ring, each with a wrench, on a screen of their own: opposite bolts at once, nobody
// ahead of the other, one of the two wrenches speaking; to the signed record, which says who
// made which bolt with what.
func TestTwoAtARing(t *testing.T) {
	s := open(t)
	s.looked()
	key := s.linkedTool("LW-2")
	s.linkedTool("LW-1")
	soakRuns(t, s.store, 1, 8)
	tag := s.query("select tag from joints where tag like 'SOAK%'")[0]
	marta, piet := s.signIn("marta"), s.signIn("piet")
	marta.opens(tag, 1)
	marta.fast(tag, func(st *work.State, a record.Act) bool {
		x, _ := st.Plan().Step(a.Step)
		return x.Station == recipe.ToolUp
	})
	marta.opens(tag, 2)
	marta.sees("[data-at-once] label", "^2 at once$").MustClick()
	marta.sees("[data-at-once='2']", "Tool 1 of 2")
	for _, wrench := range []string{"LW-1", "LW-2"} {
		if there, _, _ := marta.Has("[data-choose=" + wrench + "]"); !there {
			marta.sees("button.pick", wrench).MustClick()
		}
		marta.el("[data-choose=" + wrench + "]").MustClick()
	}
	marta.sees("h2", "LW-1[^]*at once with LW-2")
	marta.fast(tag, func(_ *work.State, a record.Act) bool { return a.Step == "pull" })

	piet.opens(tag, 3)
	piet.cautioned("in line with a stud")
	piet.el("[data-hand='0']")
	piet.el("[data-act=set]")
	marta.opens(tag, 3)
	marta.cautioned("in line with a stud")
	marta.next(1, 1, 0)
	piet.sees("[data-hand='0']", "M. T.|Marta")
	piet.sees("[data-setting]", "LW-2") // what is left for him
	piet.next(5, 1, 0)
	marta.el("[data-other='5']")

	// Piet is done first, and waits.
	piet.pull(5, 1, 0, input.Space)
	piet.sees("[data-waits-for='0']", "bolt 1")
	marta.sees("[data-hand='1']", "bolt 5 ✓ done")
	marta.pull(1, 1, 0, input.Space)
	marta.next(3, 1, 0)
	piet.next(7, 1, 0)

	// His wrench speaks: it makes his bolts by itself while she goes on by hand.
	w := &simtool.Tool{Server: "ws://" + s.address + toollink.Path, Tag: "LW-2", Key: key, Pace: 600 * time.Millisecond}
	ctx, stop := context.WithCancel(t.Context())
	defer stop()
	go func() { _ = w.Run(ctx) }()
	piet.sees("[data-waits-for='0']", "bolt 3")
	for _, bolt := range []int{3, 2, 4} {
		marta.pull(bolt, 1, 0, input.Space)
	}

	// The next stage: both set anew. Then Piet is called away, and she takes his over.
	marta.el("[data-act=set]")
	piet.el("[data-act=set]")
	piet.press(input.KeyS)
	piet.sees("[data-waits-for='0']", "bolt 1")
	marta.pull(1, 2, 0, input.Space)
	piet.sees("[data-waits-for='0']", "bolt 3")
	stop()
	marta.pull(3, 2, 0, input.Space)
	marta.pull(2, 2, 0, input.Space)
	marta.el("[data-take-over='1']").MustClick()
	marta.sees("[data-setting]", "LW-2")
	marta.next(6, 2, 0)
	piet.sees("[data-waits-for]", "bolt 6")
	marta.pull(6, 2, 0, input.Space)

	marta.fast(tag, func(_ *work.State, a record.Act) bool { return a.Bolt == 0 && a.Step != "pull" })
	marta.toTheEnd(tag)
	marta.signsMade()
	haro := s.signIn("haro")
	haro.signsChecked(tag, "")
	r := marta.run(tag)
	made := map[string]int{}
	for _, l := range r.State.Lines() {
		if d, ok := l.Content.(record.Done); ok && d.Bolt > 0 && l.Tool != nil {
			require.Equal(t, d.Round == 0 && d.Bolt > 4, l.Tool.Tools[0] == "LW-2", "%+v", d.Act)
			made[l.Entry.Person+" "+l.Tool.Tools[0]+" "+d.Taken]++
		}
	}
	who := s.query("select id::text from people where login = 'piet'")[0]
	require.Equal(t, 1, made[who+" LW-2 "], "%v", made)
	require.Equal(t, 5, made[who+" LW-2 LW-2"], "%v", made)
	text := haro.record(tag)
	require.Contains(t, text, "LW-2 + SO-30B")
}
