// Package toollink lets tools speak: a plain protocol of JSON lines over TCP and WebSocket,
// written down in docs/tool-link.md. A tool signs in with its key, is told what to reach, and
// sends what it read; each line is answered, and a reading only once the record has it.
package toollink

import (
	"bytes"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"time"

	"github.com/google/uuid"

	"dynacor/core/trace"
)

// Version is that of the protocol.
const Version = 1

// Path is where tools connect over WebSocket.
const Path = "/link"

// MostLine is the most bytes of a line: a trace of 2,000 points fits well.
const MostLine = 128 << 10

// The kinds of lines. From a tool: hello, reading, ping. To it: welcome, target, rest, taken,
// refused, pong.
const (
	Hello   = "hello"
	Reading = "reading"
	Ping    = "ping"
	Welcome = "welcome"
	Target  = "target"
	Rest    = "rest"
	Taken   = "taken"
	Refused = "refused"
	Pong    = "pong"
)

// In is a line of a tool: what its kind does not have is left out.
type In struct {
	Kind    string      `json:"kind"`
	Version int         `json:"version,omitzero"`
	Tool    string      `json:"tool,omitzero"`
	Key     string      `json:"key,omitzero"`
	Is      string      `json:"is,omitzero"`
	Clock   *time.Time  `json:"clock,omitempty"`
	Battery *float64    `json:"battery,omitempty"`
	ID      string      `json:"id,omitzero"`
	At      *time.Time  `json:"at,omitempty"`
	Target  string      `json:"target,omitzero"`
	Peak    *Quantity   `json:"peak,omitempty"`
	Angle   *float64    `json:"angle,omitempty"`
	Trace   [][]float64 `json:"trace,omitempty"`
}

// Quantity is a value with its unit, as the tool writes it.
type Quantity struct {
	Value float64 `json:"value"`
	Unit  string  `json:"unit"`
}

// Out is a line to a tool.
type Out struct {
	Kind    string     `json:"kind"`
	Version int        `json:"version,omitzero"`
	Tool    string     `json:"tool,omitzero"`
	Name    string     `json:"name,omitzero"`
	Clock   *time.Time `json:"clock,omitempty"`
	ID      string     `json:"id,omitzero"`
	Joint   string     `json:"joint,omitzero"`
	Bolt    int        `json:"bolt,omitzero"`
	Words   string     `json:"words,omitzero"`
	Stage   float64    `json:"stage,omitzero"` // percent
	Round   int        `json:"round,omitzero"`
	Value   float64    `json:"value,omitzero"`
	Low     float64    `json:"low,omitzero"`
	High    float64    `json:"high,omitzero"`
	Unit    string     `json:"unit,omitzero"`
	Verdict string     `json:"verdict,omitzero"`
	Says    string     `json:"says,omitzero"`
	Way     string     `json:"way,omitzero"`
	Code    string     `json:"code,omitzero"`
}

// fault is why a line is none.
type fault struct{ code, says, way string }

func (f *fault) Error() string { return f.says }

func malformed(way, says string, args ...any) error {
	return &fault{"malformed", fmt.Sprintf(says, args...), way}
}

// read reads a line: one JSON object, with fields that are known and nothing behind it.
func read(line []byte) (in In, err error) {
	d := json.NewDecoder(bytes.NewReader(line))
	d.DisallowUnknownFields()
	if err := d.Decode(&in); err != nil {
		return in, malformed("Send one JSON object a line.", "That is no line: %s.", short(err))
	}
	if _, err := d.Token(); !errors.Is(err, io.EOF) {
		return in, malformed("Send one JSON object a line.", "There is more behind the object.")
	}
	switch in.Kind {
	case Hello, Reading, Ping:
		return in, nil
	}
	return in, malformed("Send hello, reading or ping.", "%q is no kind of line.", in.Kind)
}

func short(err error) string {
	const most = 120
	text := err.Error()
	if len(text) > most {
		text = text[:most]
	}
	return text
}

// reading takes a line for a reading; it refuses one that lacks what a reading is.
func (in In) reading() (id uuid.UUID, points []trace.Point, err error) {
	if id, err = uuid.Parse(in.ID); err != nil {
		return id, nil, malformed("Give each reading a UUID of its own, and keep it when you send it again.", "The reading has no identity.")
	}
	switch {
	case in.At == nil:
		return id, nil, malformed("Send at, by the tool's own clock.", "The reading does not say when it was.")
	case in.Peak == nil:
		return id, nil, malformed("Send peak, with its unit.", "The reading has no peak.")
	}
	for i, p := range in.Trace {
		if len(p) != 2 {
			return id, nil, malformed("Send pairs of angle and torque.", "Point %d of the trace has %d numbers.", i+1, len(p))
		}
		points = append(points, trace.Point{Angle: p[0], Torque: p[1]})
	}
	return id, points, nil
}
