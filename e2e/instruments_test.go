package e2e

import (
	"context"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/require"

	"dynacor/core/record"
	"dynacor/core/work"
	"dynacor/internal/simtool"
	"dynacor/internal/toollink"
)

// sends is an instrument that is moved by hand: what it is told to read it sends.
func (s *site) sends(tag, in string) func(float64) {
	s.t.Helper()
	t := &simtool.Tool{Server: "ws://" + s.address + toollink.Path, Tag: tag, Key: s.keyOf(tag), Hand: make(chan simtool.Pull),
		Reads: &toollink.Quantity{Unit: in}, Pace: time.Millisecond}
	taken := make(chan struct{}, 100)
	t.Taken = func(string, time.Duration) { taken <- struct{}{} }
	ctx, stop := context.WithCancel(context.Background())
	s.t.Cleanup(stop)
	go func() { _ = t.Run(ctx) }()
	return func(v float64) {
		t.Hand <- simtool.Pull{Peak: v}
		<-taken
	}
}

// What a tester and a dial gauge read goes into a check and a step by a touch, each reading
// once, and both say who sent it.
func TestWhatInstrumentsReadIsTaken(t *testing.T) {
	s := open(t)
	s.looked()
	tester := s.sends("TT-1", "N·m")
	bo := s.signIn("bo")
	bo.MustNavigate(s.url("/crib/TW-02"))
	tester(20.05)
	bo.more("check")
	for i, v := range []float64{20.05, 20.1, 19.9, 60.2, 59.8, 60, 100.5, 99.5, 100} {
		if i > 0 {
			tester(v)
		}
		bo.sees("[data-offered=TT-1]", "^Take").MustClick()
	}
	bo.sees("[role=dialog] [role=status]", "So far good")
	bo.sees("[role=dialog] button:not([disabled])", "^Keep the check$").MustClick()
	bo.alone()
	bo.sees("main", "readings sent by TT-1")
	require.Equal(t, []string{"9"}, s.query("select count(*)::text from tool_readings where tool = 'TT-1' and verdict = 'claimed' and "+
		"says = 'taken for the check of TW-02'"))

	gauge := s.sends("DG-1", "mm")
	run := soakRuns(t, s.store, 1, 8)[0]
	tag := s.query("select tag from joints where tag like 'SOAK%'")[0]
	marta := s.signIn("marta")
	marta.opens(tag, 1)
	marta.fast(tag, func(_ *work.State, a record.Act) bool { return a.Step == "before" })
	for _, v := range []float64{2.4, 2, 2.1, 2.2} {
		gauge(v)
	}
	marta.opens(tag, 3)
	for range 4 {
		marta.el("[data-offered=DG-1]").MustClick()
	}
	before := marta.run(tag)
	marta.el("[data-act=main]:not([disabled])").MustClick()
	marta.stored(tag, before)
	r := marta.run(tag)
	lines := r.State.Lines()
	done := lines[len(lines)-1].Content.(record.Done)
	require.Equal(t, "DG-1", done.Taken)
	require.Equal(t, []float64{2.2, 2.1, 2, 2.4}, done.Readings, "the newest first")
	require.Equal(t, []string{"claimed"}, s.query("select distinct verdict from tool_readings where tool = 'DG-1' and run = $1", run))

	// A reading is taken once, by an act that measures, and as it was.
	gauge(-0.02)
	id := s.query("select id::text from tool_readings where tool = 'DG-1' and verdict = 'offered'")
	require.Len(t, id, 1)
	old := s.query("select id::text from tool_readings where tool = 'DG-1' and verdict = 'claimed' limit 1")[0]
	d := deviceOf(t, s.url(""), "marta", "4711", s.look)
	d.at = time.Now()
	for _, c := range []struct {
		content sent
		from    string
	}{{sent{"kind": "done", "step": "before", "readings": []float64{2.2, 2.1, 2, 2.4}}, old},
		{sent{"kind": "done", "step": "before", "readings": []float64{2.2, 2.1, 2, 2.4}}, id[0]},
		{sent{"kind": "done", "step": "before", "readings": []float64{-0.02 / 25.4, 2.1, 2, 2.4}}, id[0]}, // it is inches
		{sent{"kind": "done", "step": "pull", "bolt": 1, "share": 20}, id[0]},
		{sent{"kind": "pause"}, id[0]},
		{sent{"kind": "done", "step": "before", "readings": []float64{2.2, 2.1, 2, 2.4}}, uuid.NewString()}} {
		e := d.entry(c.content)
		e["from"] = []string{c.from}
		err := d.ask("POST", "/api/runs/"+run.String()+"/entries", e, nil)
		var no *refusedError
		require.ErrorAs(t, err, &no, "%v", c.content)
		require.Equal(t, 422, no.Status, "%v", no)
		require.Regexp(t, "DG-1|not known|Nothing is measured", no.Detail)
	}
	twice := d.entry(sent{"kind": "done", "step": "before", "readings": []float64{-0.02, -0.02, 2, 2.4}})
	twice["from"] = []string{id[0], id[0]}
	require.ErrorContains(t, d.ask("POST", "/api/runs/"+run.String()+"/entries", twice, nil), "named twice")
	require.Len(t, marta.run(tag).State.Lines(), len(lines), "nothing of that is stored")
}
