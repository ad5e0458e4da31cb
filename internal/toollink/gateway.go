package toollink

import (
	"context"
	"encoding/json"
	"errors"
	"log/slog"
	"sync"
	"time"

	"golang.org/x/time/rate"

	"dynacor/core/crib"
	"dynacor/core/refusal"
	"dynacor/core/unit"
	"dynacor/internal/app"
)

// Desk is what the gateway asks of the use cases.
type Desk interface {
	LinkTool(ctx context.Context, tag, key string) (crib.Tool, error)
	HeardTool(ctx context.Context, tag string) error
	ToolTarget(ctx context.Context, tag string) (app.ToolTarget, bool, error)
	TakeReading(ctx context.Context, tag string, r app.ToolReading) (app.TakenReading, error)
	KeepBadLine(ctx context.Context, tag, line, says string, more int) error
}

// News passes on which joints change; closed, the server stops.
type News interface {
	Join() (chan string, bool)
	Leave(chan string)
}

// Gateway speaks with tools, any number of them.
type Gateway struct {
	desk Desk
	news News
	now  func() time.Time
	open sync.WaitGroup
}

// New returns a gateway.
func New(desk Desk, news News, now func() time.Time) *Gateway {
	return &Gateway{desk: desk, news: news, now: now}
}

// The bounds of a connection. A tool that says hello within so long may then be silent; one
// that sends nothing but nonsense is let go.
const (
	helloWithin = 10 * time.Second
	answerTime  = 30 * time.Second
	silence     = 2 * time.Minute
	mostFaults  = 200
	linesASec   = 200
	burst       = 2000
	lookAgain   = 250 * time.Millisecond
)

// wire is a connection, line by line. ReadLine returns errTooLong for a line that is too long,
// and can be read on from.
type wire interface {
	ReadLine(ctx context.Context) ([]byte, error)
	WriteLine(ctx context.Context, line []byte) error
	Close()
}

var errTooLong = errors.New("the line is too long")

// session is a tool that is signed in.
type session struct {
	*Gateway
	wire   wire
	tag    string
	off    time.Duration // the server's clock is ahead of the tool's by
	write  sync.Mutex
	told   string // the target that it was told last
	faults int
	kept   bool // the first of its faults is kept
	last   string
	says   string
	heard  time.Time // it was noted that the tool is there
	reads  bool      // it is an instrument
}

// speak answers a tool's lines until it goes.
func (g *Gateway) speak(ctx context.Context, w wire) {
	g.open.Add(1)
	defer g.open.Done()
	defer w.Close()
	ctx, cancel := context.WithCancel(ctx)
	defer cancel()
	s := &session{Gateway: g, wire: w}
	if !s.hello(ctx) {
		return
	}
	changes, ok := g.news.Join()
	if !ok {
		return
	}
	defer g.news.Leave(changes)
	go func() {
		defer cancel()
		s.follow(ctx, changes)
	}()
	s.listen(ctx)
	s.keepFaults()
}

// hello waits for the first line and lets the tool in; false where it is not.
func (s *session) hello(ctx context.Context) bool {
	within, cancel := context.WithTimeout(ctx, helloWithin)
	defer cancel()
	line, err := s.wire.ReadLine(within)
	if err != nil {
		return false
	}
	in, err := read(line)
	if err == nil && in.Kind != Hello {
		err = malformed("Say hello first, with tool and key.", "A %s before hello.", in.Kind)
	}
	if err == nil && in.Version != Version {
		err = &fault{"version", "This server speaks version 1.", "Send version 1."}
	}
	var t crib.Tool
	if err == nil {
		t, err = s.desk.LinkTool(within, in.Tool, in.Key)
	}
	if err != nil {
		s.refuse(within, "", err)
		return false
	}
	now := s.now().UTC()
	s.heard, s.reads = now, t.Kind.Reads()
	if s.tag = in.Tool; in.Clock != nil {
		s.off = now.Sub(*in.Clock)
	}
	s.send(within, Out{Kind: Welcome, Version: Version, Tool: t.Tag, Name: t.Name, Clock: &now})
	return true
}

// listen takes line after line.
func (s *session) listen(ctx context.Context) {
	slow := rate.NewLimiter(linesASec, burst)
	for {
		if slow.Wait(ctx) != nil {
			return
		}
		within, cancel := context.WithTimeout(ctx, silence)
		line, err := s.wire.ReadLine(within)
		cancel()
		switch {
		case errors.Is(err, errTooLong):
			err = &fault{"too-long", "The line is too long: at most 128 KiB are taken.", "Send a shorter trace."}
			line = nil
		case err != nil:
			return
		default:
			err = s.answer(ctx, line)
		}
		if err == nil {
			continue
		}
		var in In
		_ = json.Unmarshal(line, &in) // whose identity it is, where it says
		if s.refuse(ctx, in.ID, err); s.fault(ctx, line, err) {
			return
		}
	}
}

// noteHeard is how often it is noted that a tool is there.
const noteHeard = time.Minute

// answer answers one line; what it returns is refused.
func (s *session) answer(ctx context.Context, line []byte) error {
	in, err := read(line)
	if err != nil {
		return err
	}
	if now := s.now(); now.Sub(s.heard) >= noteHeard {
		s.heard = now
		within, cancel := context.WithTimeout(ctx, answerTime)
		defer cancel()
		if err := s.desk.HeardTool(within, s.tag); err != nil {
			return err
		}
	}
	switch in.Kind {
	case Ping:
		now := s.now().UTC()
		s.send(ctx, Out{Kind: Pong, Clock: &now})
		return nil
	case Hello:
		return malformed("Open another connection.", "This tool is signed in already.")
	}
	id, points, err := in.reading()
	if err != nil {
		return err
	}
	within, cancel := context.WithTimeout(ctx, answerTime)
	defer cancel()
	taken, err := s.desk.TakeReading(within, s.tag, app.ToolReading{ID: id, At: *in.At, Off: s.off,
		Peak: unit.Of(in.Peak.Value, unit.Unit(in.Peak.Unit)), Angle: in.Angle, Trace: points, Target: in.Target, Instrument: s.reads})
	if err != nil {
		return err
	}
	s.send(ctx, Out{Kind: Taken, ID: in.ID, Verdict: taken.Verdict, Says: taken.Says})
	s.tell(ctx)
	return nil
}

// follow tells the tool its target, and again whenever that changes.
func (s *session) follow(ctx context.Context, changes <-chan string) {
	s.tell(ctx)
	due := time.NewTimer(time.Hour)
	due.Stop()
	waiting := false
	for {
		select {
		case <-ctx.Done():
			return
		case _, open := <-changes:
			if !open {
				return
			}
			if !waiting { // of many changes at once one look
				waiting = true
				due.Reset(lookAgain)
			}
		case <-due.C:
			waiting = false
			s.tell(ctx)
		}
	}
}

// tell tells the tool its target, where that is another than it knows.
func (s *session) tell(ctx context.Context) {
	within, cancel := context.WithTimeout(ctx, answerTime)
	defer cancel()
	t, ok, err := s.desk.ToolTarget(within, s.tag)
	if err != nil {
		if ctx.Err() == nil {
			slog.Warn("a tool's target was not found", "tool", s.tag, "error", err)
		}
		return
	}
	s.write.Lock()
	defer s.write.Unlock()
	switch {
	case ok && s.told != t.ID:
		s.told = t.ID
		s.put(ctx, Out{Kind: Target, ID: t.ID, Joint: t.Tag, Bolt: t.Act.Bolt, Words: t.Words, Stage: t.Act.Share, Round: t.Act.Round,
			Value: t.Value, Low: t.Low, High: t.High, Unit: string(t.Unit)})
	case !ok && s.told != Rest:
		s.told = Rest
		s.put(ctx, Out{Kind: Rest, Says: "Nobody has this tool in hand at a bolt now."})
	}
}

// refuse says why a line was not taken, and the way out. What went wrong here is none of the
// tool's fault: it sends the line again.
func (s *session) refuse(ctx context.Context, id string, why error) {
	out := Out{Kind: Refused, ID: id, Code: "unavailable", Says: "The server could not keep it.", Way: "Send it again."}
	var f *fault
	var r *refusal.Error
	var e *app.Error
	switch {
	case errors.As(why, &f):
		out.Code, out.Says, out.Way = f.code, f.says, f.way
	case errors.As(why, &r):
		out.Code, out.Says, out.Way = string(r.Code), r.Text, r.Way
	case errors.As(why, &e):
		out.Code, out.Says, out.Way = e.Code, e.Text, e.Way
	default:
		slog.Error("a tool's line failed", "tool", s.tag, "error", why)
	}
	s.send(ctx, out)
}

// fault keeps in mind that a line was none, or says what cannot be; true where the tool is
// let go.
func (s *session) fault(ctx context.Context, line []byte, why error) bool {
	var f *fault
	var r *refusal.Error
	switch {
	case errors.As(why, &f):
		s.says = f.says
	case errors.As(why, &r):
		s.says = r.Text
	default:
		return false
	}
	s.faults++
	s.last = string(line)
	if !s.kept {
		s.kept = true
		s.keep(ctx, 0)
	}
	return s.faults >= mostFaults
}

// keepFaults keeps how many lines were none, once, however many there were.
func (s *session) keepFaults() {
	if s.faults > 1 {
		ctx, cancel := context.WithTimeout(context.Background(), answerTime)
		defer cancel()
		s.keep(ctx, s.faults-1)
	}
}

func (s *session) keep(ctx context.Context, more int) {
	if err := s.desk.KeepBadLine(ctx, s.tag, s.last, s.says, more); err != nil && ctx.Err() == nil {
		slog.Warn("a tool's bad line was not kept", "tool", s.tag, "error", err)
	}
}

func (s *session) send(ctx context.Context, out Out) {
	s.write.Lock()
	defer s.write.Unlock()
	s.put(ctx, out)
}

// put writes a line; write is held. One that does not arrive is found by the reading end.
func (s *session) put(ctx context.Context, out Out) {
	line, err := json.Marshal(out)
	if err != nil {
		slog.Error("a line to a tool could not be written", "error", err)
		return
	}
	within, cancel := context.WithTimeout(ctx, answerTime)
	defer cancel()
	_ = s.wire.WriteLine(within, line)
}
