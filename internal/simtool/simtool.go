// Package simtool is a made-up tool that speaks the protocol of docs/tool-link.md: it pulls
// what it is told to, by itself or by hand, and has the faults that it is asked to have.
package simtool

import (
	"bufio"
	"context"
	"encoding/json"
	"fmt"
	"math"
	"math/rand/v2"
	"net"
	"net/url"
	"strings"
	"time"

	"github.com/coder/websocket"
	"github.com/google/uuid"

	"dynacor/core/unit"
	"dynacor/internal/toollink"
)

// Fault is what goes wrong with a tool, once every so many readings.
type Fault string

// The faults. Drop: the line breaks before the reading is acknowledged. Double: a reading is
// sent twice. Unit: it is sent in another unit of its kind. Clock: the tool's clock is slow
// by an hour. Battery: it goes silent and comes back. Garbage: lines that are none.
const (
	Drop    Fault = "drop"
	Double  Fault = "double"
	Unit    Fault = "unit"
	Clock   Fault = "clock"
	Battery Fault = "battery"
	Garbage Fault = "garbage"
)

// Faults lists them.
func Faults() []Fault { return []Fault{Drop, Double, Unit, Clock, Battery, Garbage} }

// Story is how a pull goes.
type Story string

// The stories that can be asked for.
const (
	Good         Story = ""
	StoppedEarly Story = "stopped early"
	Yielding     Story = "yielding"
	Galled       Story = "galled"
	Past         Story = "past"
)

// Tool is a made-up tool.
type Tool struct {
	Server string // tcp://host:port or ws://host:port/link
	Tag    string
	Key    string
	Is     string        // what it says that it is
	Pace   time.Duration // from a target to its reading
	Every  int           // a fault in every so many readings; 0: none
	Faults []Fault
	Story  func(t toollink.Out) Story // nil: all go well
	Trace  int                        // points of each trace; 0: none
	Reads  *toollink.Quantity         // of an instrument: about what it reads, again and again; nil: it pulls
	Hand   chan Pull                  // pulls that a hand makes; nil: it pulls by itself
	Seed   uint64
	Now    func() time.Time                 // its clock, before it is made wrong; nil: the machine's
	Heard  func(in toollink.Out)            // each line that it hears; nil: nobody wants to know
	Taken  func(id string, d time.Duration) // each reading that is acknowledged, after how long

	rand    *rand.Rand
	waiting []toollink.In // not acknowledged yet, the oldest first
	sent    map[string]time.Time
	due     map[string]Fault // of a reading that is to go wrong, once
	count   int
}

// Run pulls until ctx ends, connecting anew whenever the line breaks.
func (t *Tool) Run(ctx context.Context) error {
	t.rand, t.sent, t.due = rand.New(rand.NewPCG(t.Seed, 1)), map[string]time.Time{}, map[string]Fault{}
	if t.Now == nil {
		t.Now = time.Now
	}
	for ctx.Err() == nil {
		if err := t.session(ctx); err != nil && ctx.Err() == nil {
			if strings.Contains(err.Error(), "no-link") {
				return err
			}
			select {
			case <-ctx.Done():
			case <-time.After(100 * time.Millisecond):
			}
		}
	}
	return nil
}

// fault is what goes wrong with the reading that is made now: each in its turn.
func (t *Tool) fault() Fault {
	if t.Every == 0 || t.count%t.Every != 0 || len(t.Faults) == 0 {
		return ""
	}
	return t.Faults[(t.count/t.Every-1)%len(t.Faults)]
}

// once reports whether a reading is to go wrong so, and that it has.
func (t *Tool) once(id string, f Fault) bool {
	if t.due[id] != f {
		return false
	}
	delete(t.due, id)
	return true
}

// clock is what the tool's own clock shows.
func (t *Tool) clock() time.Time {
	now := t.Now()
	for _, f := range t.Faults {
		if f == Clock {
			now = now.Add(-time.Hour)
		}
	}
	return now.UTC()
}

// line is a connection of a tool.
type line interface {
	Read(ctx context.Context) (toollink.Out, error)
	Write(ctx context.Context, in any) error
	Close()
}

func (t *Tool) session(ctx context.Context) error {
	c, err := Dial(ctx, t.Server)
	if err != nil {
		return err
	}
	defer c.Close()
	now := t.clock()
	if err := c.Write(ctx, toollink.In{Kind: toollink.Hello, Version: toollink.Version, Tool: t.Tag, Key: t.Key, Is: t.Is, Clock: &now}); err != nil {
		return err
	}
	ctx, cancel := context.WithCancel(ctx)
	defer cancel()
	heard, broke := make(chan toollink.Out, 16), make(chan error, 1)
	go func() {
		for {
			out, err := c.Read(ctx)
			if err != nil {
				broke <- err
				return
			}
			heard <- out
		}
	}()
	pull := time.NewTimer(time.Hour)
	pull.Stop()
	resend := time.NewTimer(time.Hour)
	resend.Stop()
	alive := time.NewTicker(time.Minute)
	defer alive.Stop()
	var target toollink.Out
	due := false // a pull's time came while a reading waited
	next := func() {
		if due = false; t.Hand == nil && (t.Reads != nil || target.ID != "") {
			pull.Reset(t.Pace)
		}
	}
	for {
		select {
		case <-ctx.Done():
			return nil
		case err := <-broke:
			return err
		case p := <-t.Hand:
			t.byHand(target, p)
			if err := t.flush(ctx, c); err != nil {
				return err
			}
		case <-resend.C:
			if err := t.flush(ctx, c); err != nil {
				return err
			}
		case <-alive.C:
			if err := c.Write(ctx, toollink.In{Kind: toollink.Ping}); err != nil {
				return err
			}
		case <-pull.C:
			switch {
			case len(t.waiting) > 0:
				due = true // when that is acknowledged
			case t.Reads != nil:
				t.count++
				t.read(toollink.Out{Unit: t.Reads.Unit}, t.Reads.Value*(1+0.01*t.rand.Float64()), 0, Good, t.fault())
				pull.Reset(t.Pace)
			default:
				t.pull(target)
			}
			if err := t.flush(ctx, c); err != nil {
				return err
			}
		case out := <-heard:
			if t.Heard != nil {
				t.Heard(out)
			}
			switch out.Kind {
			case toollink.Welcome:
				if err := t.flush(ctx, c); err != nil {
					return err
				}
				if t.Reads != nil && t.Hand == nil {
					pull.Reset(t.Pace)
				}
			case toollink.Target:
				if target = out; t.Hand == nil {
					pull.Reset(t.Pace)
				}
			case toollink.Rest:
				if target = (toollink.Out{}); t.Reads == nil {
					pull.Stop()
				}
			case toollink.Taken:
				t.acknowledged(out.ID)
				if out.Verdict == "short" || due {
					next() // the same bolt again, or what came due meanwhile
				}
			case toollink.Refused:
				if out.Code == "no-link" || out.Code == "version" {
					return fmt.Errorf("%s: %s", out.Code, out.Says)
				}
				if out.Code == "unavailable" { // its server could not store it just now
					resend.Reset(t.Pace)
				}
				if out.ID != "" && out.Code != "unavailable" {
					t.acknowledged(out.ID) // it will never be taken
					if due {
						next()
					}
				}
			}
		}
	}
}

func (t *Tool) acknowledged(id string) {
	for i, in := range t.waiting {
		if in.ID == id {
			t.waiting = append(t.waiting[:i:i], t.waiting[i+1:]...)
			if at, ok := t.sent[id]; ok && t.Taken != nil {
				t.Taken(id, time.Since(at))
			}
			delete(t.sent, id)
			return
		}
	}
}

// byHand makes the reading that a hand asks for.
func (t *Tool) byHand(to toollink.Out, p Pull) {
	if to.Unit == "" {
		if to.Unit = string(unit.NewtonMetre); t.Reads != nil {
			to.Unit = t.Reads.Unit
		}
	}
	t.read(to, p.Peak, p.Angle, p.Story, p.Fault)
}

// pull makes a reading for a target.
func (t *Tool) pull(to toollink.Out) {
	t.count++
	story := Good
	if t.Story != nil {
		story = t.Story(to)
	}
	peak := to.Value * (1 + 0.01*t.rand.Float64())
	switch story {
	case StoppedEarly:
		peak = to.Value * 0.8
	case Past:
		peak = to.Value * 1.3
	case Good, Yielding, Galled:
	}
	angle := 30 + 4*t.rand.Float64()
	if to.Round > 0 {
		angle = 1
	}
	t.read(to, peak, angle, story, t.fault())
}

// read keeps a reading until it is acknowledged.
func (t *Tool) read(to toollink.Out, peak, angle float64, story Story, goesWrong Fault) {
	now := t.clock()
	in := toollink.In{Kind: toollink.Reading, ID: uuid.NewString(), At: &now, Target: to.ID, Peak: &toollink.Quantity{Value: round(peak),
		Unit: to.Unit}}
	if t.Reads == nil {
		in.Angle, in.Trace = &angle, t.trace(peak, angle, story)
	}
	if t.due[in.ID] = goesWrong; t.once(in.ID, Unit) {
		if u, ok := another[to.Unit]; ok {
			if v, err := unit.Convert(round(peak), unit.Unit(to.Unit), unit.Unit(u)); err == nil {
				in.Peak = &toollink.Quantity{Value: v, Unit: u}
			}
		}
	}
	t.waiting = append(t.waiting, in)
}

// another is another unit of the same kind.
var another = map[string]string{"N·m": "ft·lbf", "ft·lbf": "N·m", "bar": "MPa", "MPa": "bar"}

func round(v float64) float64 { return math.Round(100*v) / 100 }

// trace is how torque rises over the angle.
func (t *Tool) trace(peak, angle float64, s Story) [][]float64 {
	if t.Trace < 2 {
		return nil
	}
	out := make([][]float64, t.Trace)
	for i := range out {
		x := float64(i) / float64(t.Trace-1)
		y := 0.05 + 0.95*math.Max(0, (x-0.25)/0.75)
		switch s {
		case Yielding:
			y = math.Min(0.05+1.3*math.Max(0, (x-0.2)/0.8), 0.96+0.04*x)
		case Galled:
			y -= 0.35 * math.Max(0, math.Sin(18*x)) * x
		case Good, StoppedEarly, Past:
		}
		out[i] = []float64{math.Round(1000*x*angle) / 1000, math.Round(100*y*peak) / 100}
	}
	out[t.Trace-1][1] = round(peak)
	return out
}

// flush sends what is not acknowledged, the oldest first, with the fault of its turn.
func (t *Tool) flush(ctx context.Context, c line) error {
	for _, in := range t.waiting {
		if _, again := t.sent[in.ID]; !again {
			t.sent[in.ID] = time.Now()
		}
		if t.once(in.ID, Garbage) {
			if err := c.Write(ctx, "}{"); err != nil {
				return err
			}
		}
		if t.once(in.ID, Battery) {
			select {
			case <-ctx.Done():
				return nil
			case <-time.After(300 * time.Millisecond):
			}
			return fmt.Errorf("the battery is empty")
		}
		if err := c.Write(ctx, in); err != nil {
			return err
		}
		if t.once(in.ID, Double) {
			if err := c.Write(ctx, in); err != nil {
				return err
			}
		}
		if t.once(in.ID, Drop) {
			return fmt.Errorf("the line broke")
		}
	}
	return nil
}

// Dial connects to a server: tcp://host:port, or ws:// and wss:// with the path of the link.
func Dial(ctx context.Context, server string) (line, error) {
	u, err := url.Parse(server)
	if err != nil {
		return nil, err
	}
	switch u.Scheme {
	case "tcp":
		var d net.Dialer
		c, err := d.DialContext(ctx, "tcp", u.Host)
		if err != nil {
			return nil, err
		}
		return &tcpLine{c, bufio.NewReaderSize(c, 1<<16)}, nil
	case "ws", "wss":
		c, _, err := websocket.Dial(ctx, server, nil)
		if err != nil {
			return nil, err
		}
		return &wsLine{c}, nil
	}
	return nil, fmt.Errorf("%q: say tcp://host:port or ws://host:port/link", server)
}

type tcpLine struct {
	net.Conn
	in *bufio.Reader
}

func (l *tcpLine) Read(ctx context.Context) (out toollink.Out, err error) {
	stop := context.AfterFunc(ctx, func() { _ = l.SetReadDeadline(time.Unix(1, 0)) })
	defer stop()
	b, err := l.in.ReadBytes('\n')
	if err != nil {
		return out, err
	}
	return out, json.Unmarshal(b, &out)
}

func (l *tcpLine) Write(_ context.Context, in any) error {
	b, err := lineOf(in)
	if err == nil {
		_, err = l.Conn.Write(append(b, '\n'))
	}
	return err
}

func (l *tcpLine) Close() { _ = l.Conn.Close() }

type wsLine struct{ c *websocket.Conn }

func (l *wsLine) Read(ctx context.Context) (out toollink.Out, err error) {
	_, b, err := l.c.Read(ctx)
	if err != nil {
		return out, err
	}
	return out, json.Unmarshal(b, &out)
}

func (l *wsLine) Write(ctx context.Context, in any) error {
	b, err := lineOf(in)
	if err != nil {
		return err
	}
	return l.c.Write(ctx, websocket.MessageText, b)
}

func (l *wsLine) Close() { _ = l.c.CloseNow() }

// lineOf is what is sent: text as it is, else as JSON.
func lineOf(in any) ([]byte, error) {
	if text, is := in.(string); is {
		return []byte(text), nil
	}
	return json.Marshal(in)
}
