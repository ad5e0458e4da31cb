package e2e

import (
	"context"
	"fmt"
	"os"
	"slices"
	"sync"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/require"

	"dynacor/core/crib"
	"dynacor/core/person"
	"dynacor/core/record"
	"dynacor/core/tool"
	"dynacor/core/unit"
	"dynacor/internal/app"
	"dynacor/internal/simtool"
	"dynacor/internal/toollink"
)

// keyOf makes a key for a tool, as a crib keeper.
func (s *site) keyOf(tag string) string {
	s.t.Helper()
	ctx := s.t.Context()
	haro, err := s.store.PersonByLogin(ctx, "haro")
	require.NoError(s.t, err)
	key, err := s.look.MakeToolKey(ctx, app.Who{ID: haro.ID, Roles: []string{person.CribKeeper}}, tag)
	require.NoError(s.t, err)
	return key
}

// linkedTool adds an electronic wrench to the crib and makes it a key.
func (s *site) linkedTool(tag string) (key string) {
	s.t.Helper()
	haro, err := s.store.PersonByLogin(s.t.Context(), "haro")
	require.NoError(s.t, err)
	require.NoError(s.t, s.look.AddTool(s.t.Context(), app.Who{ID: haro.ID, Roles: []string{person.CribKeeper}}, app.NewTool{ID: uuid.New(),
		Bought: time.Now().AddDate(-1, 0, 0), Data: crib.Tool{Tag: tag, Kind: crib.Wrench, Name: "electronic wrench", Face: crib.Electronic,
			Unit: unit.NewtonMetre, Least: 20, Most: 260, Scale: tool.Scale{Minor: 0.1}, DriveOut: "1/2", Length: 500, Accuracy: 0.02}}))
	return s.keyOf(tag)
}

// looked opens the database of a site, to look at its runs.
func (s *site) looked() {
	s.store = s.opened()
	s.look = app.New(s.store, time.Now)
}

// linked is somebody at a flange with a wrench that speaks: they do all but pull.
func (d *device) linked(ctx context.Context, run uuid.UUID, tag string) error {
	for ctx.Err() == nil {
		r, err := d.look.Run(ctx, run)
		if err != nil {
			return err
		}
		a, ok := r.State.Next()
		if st, _ := r.State.Plan().Step(a.Step); !ok || st.Station > "tighten" && a.Bolt == 0 && len(r.State.Rounds("pull")) > 0 {
			return nil
		}
		if _, waits := r.State.Target(tag); waits {
			select {
			case <-ctx.Done():
			case <-time.After(20 * time.Millisecond):
			}
			continue
		}
		content, _, err := d.next(ctx, run)
		if err != nil {
			return err
		}
		if content["kind"] == "tooling" {
			content = sent{"kind": "tooling", "group": content["group"], "wrench": tag}
		}
		e := d.entry(content)
		e["at"] = time.Now().UTC().Format(time.RFC3339Nano)
		if err := d.ask("POST", "/api/runs/"+run.String()+"/entries", e, nil); err != nil {
			if refused, is := err.(*refusedError); is && refused.Status == 409 {
				continue // the tool was faster
			}
			return err
		}
	}
	return ctx.Err()
}

// pulls are what the tool made of a run, as the record has it.
func pulls(r app.Run) (taken, all int) {
	for _, l := range r.State.Lines() {
		d, ok := l.Content.(record.Done)
		if ok && d.Bolt > 0 && l.Tool != nil {
			all++
			if d.Taken != "" {
				taken++
			}
		}
	}
	return taken, all
}

// A ring is pulled by a linked wrench whose line breaks, that sends a reading twice and one in
// another unit, while its server is killed; another server takes it over. Nothing is lost,
// doubled or misread.
func TestALinkedWrenchMakesARing(t *testing.T) {
	s := open(t)
	s.looked()
	other := serve(t, s.database)
	run := soakRuns(t, s.store, 1, 16)[0]
	// marta is at the other server all along: a joint's server need not be its tool's
	marta := deviceOf(t, "http://"+other.address, "marta", "4711", s.look)
	ctx, stop := context.WithTimeout(t.Context(), 4*time.Minute)
	defer stop()
	var mu sync.Mutex
	heard := map[string]int{}
	w := &simtool.Tool{Server: "ws://" + s.address + toollink.Path, Tag: "LW-1", Key: s.linkedTool("LW-1"),
		Pace: 520 * time.Millisecond, Every: 4,
		Faults: []simtool.Fault{simtool.Drop, simtool.Double, simtool.Unit, simtool.Garbage}, Trace: 60, Heard: func(in toollink.Out) {
			mu.Lock()
			defer mu.Unlock()
			heard[in.Kind+" "+in.Verdict]++
		}}
	pulling, enough := context.WithCancel(ctx)
	var sim sync.WaitGroup
	sim.Add(1)
	go func() {
		defer sim.Done()
		_ = w.Run(pulling)
	}()
	killed := make(chan struct{})
	go func() {
		defer close(killed)
		for n, kills := 0, 0; kills < 2; {
			select {
			case <-pulling.Done():
				return
			case <-time.After(50 * time.Millisecond):
			}
			r, err := s.look.Run(ctx, run)
			if err != nil {
				continue
			}
			if n, _ = pulls(r); n > 12*(kills+1) {
				kills++
				s.kill()
				s.start()
			}
		}
	}()
	require.NoError(t, marta.linked(ctx, run, "LW-1"))
	<-killed
	enough()
	sim.Wait()

	r, err := s.look.Run(ctx, run)
	require.NoError(t, err)
	taken, all := pulls(r)
	require.Equal(t, taken, all, "every pull is the tool's own")
	stages := len(r.Plan.Result.Groups[0].Stages)
	require.Equal(t, 16*(stages+1), all, "each bolt once a stage and once round: nothing lost, nothing doubled")
	for _, l := range r.State.Lines() {
		if d, ok := l.Content.(record.Done); ok && d.Taken != "" {
			v, err := d.Reading.In(unit.NewtonMetre)
			require.NoError(t, err)
			require.InEpsilon(t, l.Tool.Setting.Value, v, 0.011, "%s", d.Reading)
			require.NotEmpty(t, d.Trace)
			require.Equal(t, marta.id, l.Entry.Person, "in the name of whoever has it in hand")
		}
	}
	require.Positive(t, heard["refused "], "the garbage was answered")
	require.Positive(t, heard["target "])
	inches := s.query("select count(*) from tool_readings where tool = 'LW-1' and unit = 'ft·lbf' and verdict = 'held'")
	require.NotEqual(t, []string{"0"}, inches, "some came in another unit")
	require.NotEmpty(t, s.query("select says from tool_lines where tool = 'LW-1'"), "what was none is kept for the crib keeper")
	require.Empty(t, s.query("select id from tool_readings where tool = 'LW-1' and verdict <> 'held'"), "nothing waits")
}

// What holds is a pull by itself; what does not waits for whoever is at the joint; what is of
// a tool that is held, or for a bolt that is done, is on no record.
func TestAReadingJudgesItself(t *testing.T) {
	s := open(t)
	s.looked()
	run := soakRuns(t, s.store, 1, 4)[0]
	marta := deviceOf(t, "http://"+s.address, "marta", "4711", s.look)
	key := s.linkedTool("LW-1")
	c, err := simtool.Dial(t.Context(), "ws://"+s.address+toollink.Path)
	require.NoError(t, err)
	defer c.Close()
	now := time.Now().UTC()
	say := func(in any) { require.NoError(t, c.Write(t.Context(), in)) }
	hear := func(kind string) toollink.Out {
		for range 50 {
			out, err := c.Read(t.Context())
			require.NoError(t, err)
			if out.Kind == kind {
				return out
			}
		}
		require.Fail(t, "never hears "+kind)
		return toollink.Out{}
	}
	say(toollink.In{Kind: toollink.Hello, Version: 1, Tool: "LW-1", Key: key, Clock: &now})
	require.Equal(t, "electronic wrench", hear(toollink.Welcome).Name)
	hear(toollink.Rest)
	reading := func(target string, value float64, u string) toollink.In {
		at := time.Now().UTC()
		return toollink.In{Kind: toollink.Reading, ID: uuid.NewString(), At: &at, Target: target, Peak: &toollink.Quantity{Value: value, Unit: u}}
	}
	nobody := reading("", 78, "N·m")
	say(nobody)
	require.Equal(t, app.ReadWaits, hear(toollink.Taken).Verdict, "nobody has it in hand")

	// marta comes to the first bolt, with the wrench set
	for {
		content, r, err := marta.next(t.Context(), run)
		require.NoError(t, err)
		if _, ok := r.State.Target("LW-1"); ok {
			break
		}
		if content["kind"] == "tooling" {
			content = sent{"kind": "tooling", "group": content["group"], "wrench": "LW-1"}
		}
		require.NoError(t, marta.ask("POST", "/api/runs/"+run.String()+"/entries", marta.entry(content), nil))
	}
	to := hear(toollink.Target)
	require.Equal(t, 1, to.Bolt)
	require.Equal(t, "N·m", to.Unit)
	say(reading(to.ID, to.Low-1, "N·m"))
	out := hear(toollink.Taken)
	require.Equal(t, app.ReadShort, out.Verdict)
	require.Contains(t, out.Says, "at least")
	say(reading(to.ID, to.Value, "bar"))
	require.Equal(t, "contradicts", hear(toollink.Refused).Code)
	say(reading(to.ID, to.Value, "furlong"))
	hear(toollink.Refused)
	say(reading(to.ID, 11*to.Value, "N·m"))
	require.Contains(t, hear(toollink.Refused).Says, "ten times")
	past := reading(to.ID, to.High+5, "N·m")
	say(past)
	require.Equal(t, app.ReadPast, hear(toollink.Taken).Verdict)
	say(past)
	require.Equal(t, app.ReadPast, hear(toollink.Taken).Verdict, "the same again is answered alike")
	other := past
	other.Peak = &toollink.Quantity{Value: to.Value, Unit: "N·m"}
	say(other)
	require.Equal(t, "reading-taken", hear(toollink.Refused).Code)
	r, err := s.look.Run(t.Context(), run)
	require.NoError(t, err)
	_, all := pulls(r)
	require.Zero(t, all, "none of this is on the record")

	// marta looks: one is none, the other is the pull
	var open struct {
		Readings []struct{ ID, Verdict string }
	}
	require.NoError(t, marta.ask("GET", "/api/runs/"+run.String()+"/readings/open", nil, &open))
	require.Len(t, open.Readings, 2)
	require.Error(t, marta.ask("POST", "/api/readings/"+nobody.ID, sent{"claim": false}, nil), "not without a reason")
	require.NoError(t, marta.ask("POST", "/api/readings/"+nobody.ID, sent{"claim": false, "reason": "tried on the bench"}, nil))
	require.NoError(t, marta.ask("POST", "/api/readings/"+past.ID, sent{"claim": true, "run": run}, nil))
	require.Error(t, marta.ask("POST", "/api/readings/"+past.ID, sent{"claim": true, "run": run}, nil), "once")
	s.exec("update tool_readings set verdict = 'past' where id::text = '" + past.ID + "'") // as after a crash between the two
	require.NoError(t, marta.ask("POST", "/api/readings/"+past.ID, sent{"claim": false, "reason": "tried on the bench"}, nil))
	require.Equal(t, []string{"claimed"}, s.query("select verdict from tool_readings where id::text = '"+past.ID+"'"),
		"what is on the record is not laid aside")
	r, err = s.look.Run(t.Context(), run)
	require.NoError(t, err)
	taken, _ := pulls(r)
	require.Equal(t, 1, taken)
	second := hear(toollink.Target)
	require.NotEqual(t, to.ID, second.ID, "the next bolt is armed")
	say(reading(to.ID, to.Value, "N·m"))
	require.Contains(t, hear(toollink.Taken).Says, "done")

	// held back, it makes nothing more
	s.exec("update tools set held_back = 'dropped' where tag = 'LW-1'")
	late := reading(second.ID, second.Value, "N·m")
	*late.At = late.At.Add(time.Second) // no hand pulls at once
	say(late)
	out = hear(toollink.Taken)
	require.Equal(t, app.ReadWaits, out.Verdict)
	require.Contains(t, out.Says, "held back")
	_, wrong := simtool.Dial(t.Context(), "ftp://x")
	require.Error(t, wrong)
}

// Ten thousand lines that are none leave the server as it was: each is answered, few are kept,
// and the tool is let go.
func TestNonsenseLeavesTheServerAsItWas(t *testing.T) {
	s := open(t)
	s.looked()
	key := s.linkedTool("LW-1")
	sent, refused := 0, 0
	for sent < 10_000 {
		c, err := simtool.Dial(t.Context(), "ws://"+s.address+toollink.Path)
		require.NoError(t, err)
		require.NoError(t, c.Write(t.Context(), toollink.In{Kind: toollink.Hello, Version: 1, Tool: "LW-1", Key: key}))
		done := make(chan int)
		go func() {
			n := 0
			for {
				out, err := c.Read(t.Context())
				if err != nil {
					done <- n
					return
				}
				if out.Kind == toollink.Refused {
					n++
				}
			}
		}()
		for range 200 {
			sent++
			if c.Write(t.Context(), fmt.Sprintf(`{"kind":"reading","%d":}`, sent)) != nil {
				break
			}
		}
		refused += <-done
		c.Close()
	}
	require.GreaterOrEqual(t, refused, 9000)
	require.LessOrEqual(t, len(s.query("select at from tool_lines where tool = 'LW-1'")), 110)
	require.Equal(t, []string{"0"}, s.query("select count(*) from tool_readings where tool = 'LW-1'"))
	for _, in := range []toollink.In{{Kind: toollink.Hello, Version: 1, Tool: "LW-1", Key: "wrong"},
		{Kind: toollink.Hello, Version: 1, Tool: "NO-1", Key: key}, {Kind: toollink.Hello, Version: 7, Tool: "LW-1", Key: key},
		{Kind: toollink.Ping}} {
		c, err := simtool.Dial(t.Context(), "ws://"+s.address+toollink.Path)
		require.NoError(t, err)
		require.NoError(t, c.Write(t.Context(), in))
		out, err := c.Read(t.Context())
		require.NoError(t, err)
		require.Equal(t, toollink.Refused, out.Kind)
		_, err = c.Read(t.Context())
		require.Error(t, err, "it is let go")
		c.Close()
	}
}

// Fifty tools, each a reading a second for a minute: how long from a reading until the tool
// hears that the record has it. DYNACOR_BENCH=1 runs it.
func TestMeasureLinkedTools(t *testing.T) {
	if os.Getenv("DYNACOR_BENCH") == "" {
		t.Skip("set DYNACOR_BENCH=1")
	}
	const tools, screens = 50, 2
	s := open(t)
	s.looked()
	sent := map[string]time.Time{} // by reading, from the tools whose joint is looked at
	runs := soakRuns(t, s.store, tools, 24)
	ctx, stop := context.WithTimeout(t.Context(), 5*time.Minute)
	defer stop()
	var mu sync.Mutex
	var took []time.Duration
	var all sync.WaitGroup
	begin := make(chan struct{})
	for i := range tools {
		tag := fmt.Sprintf("LW-%02d", i+1)
		key := s.linkedTool(tag)
		d := deviceOf(t, "http://"+s.address, "marta", "4711", s.look)
		w := &simtool.Tool{Server: "ws://" + s.address + toollink.Path, Tag: tag, Key: key, Pace: 980 * time.Millisecond, Trace: 120,
			Seed: uint64(i), Taken: func(id string, d time.Duration) {
				mu.Lock()
				defer mu.Unlock()
				if took = append(took, d); i < screens {
					sent[id] = time.Now().Add(-d)
				}
			}}
		all.Add(2)
		go func() {
			defer all.Done()
			<-begin
			_ = w.Run(ctx)
		}()
		go func() {
			defer all.Done()
			_ = d.linked(ctx, runs[i], tag)
		}()
	}
	close(begin)
	var looks []*user
	for i := range screens {
		u := s.signIn([]string{"ines", "piet"}[i])
		u.opens(s.query("select j.tag from joints j join runs r on r.joint = j.id where r.id = $1", runs[i])[0], 3)
		u.MustEval(paintedTape)
		looks = append(looks, u)
	}
	time.Sleep(20 * time.Second) // until all are at their bolts
	mu.Lock()
	took = took[:0]
	clear(sent)
	mu.Unlock()
	time.Sleep(time.Minute)
	mu.Lock()
	n := slices.Clone(took)
	mu.Unlock()
	var painted []time.Duration
	for _, u := range looks {
		for id, at := range u.MustEval("() => window.painted").Map() {
			mu.Lock()
			from, there := sent[id]
			mu.Unlock()
			if there {
				painted = append(painted, time.UnixMicro(int64(1000*at.Num())).Sub(from))
			}
		}
	}
	stop()
	all.Wait()
	slices.Sort(painted)
	slices.Sort(n)
	at := func(p float64) time.Duration { return n[int(p*float64(len(n)-1))] }
	t.Logf("%d readings of %d tools acknowledged in a minute: median %s, p99 %s, slowest %s", len(n), tools, at(0.5), at(0.99), at(1))
	require.Greater(t, len(n), tools*45)
	shown := func(p float64) time.Duration { return painted[int(p*float64(len(painted)-1))] }
	t.Logf("%d of them painted on the tape of %d screens: median %s, p99 %s, slowest %s", len(painted), screens, shown(0.5), shown(0.99), shown(1))
	require.Greater(t, len(painted), screens*45)
}

// paintedTape notes of each line of the tape when it was painted, ms since 1970.
const paintedTape = `() => {
	window.painted = {};
	const look = () => {
		for (const l of document.querySelectorAll("[data-entry]")) {
			const id = l.dataset.entry;
			if (id in window.painted) continue;
			window.painted[id] = 0;
			requestAnimationFrame(() => requestAnimationFrame(() => { window.painted[id] = performance.timeOrigin + performance.now(); }));
		}
	};
	look();
	new MutationObserver(look).observe(document.body, { childList: true, subtree: true });
}`
