//go:build js

// Command pocket is the judge of a device: internal/pocket as a WebAssembly module, for the
// worker of a page. It sets one function, dynacor(what, body, at), which takes and returns JSON; at
// is when it is asked, as in RFC 3339.
package main

import (
	"encoding/json"
	"errors"
	"fmt"
	"runtime/debug"
	"syscall/js"
	"time"

	"dynacor/internal/contract"
	"dynacor/internal/pocket"
	"dynacor/internal/views"
)

// answer is what came of a question: one of the two.
type answer struct {
	Is      any               `json:"is,omitempty"`
	Problem *contract.Problem `json:"problem,omitempty"`
}

// added is an entry to be counted in.
type added struct {
	Entry contract.NewEntry `json:"entry"`
	Photo pocket.Photo      `json:"photo"`
}

// here is the joint that the device is at.
var here *pocket.Pocket

var errNothing = errors.New("nothing was taken along")

// ask answers a question about the joint that is here.
func ask(what string, body []byte, now time.Time) (any, error) {
	if what == "open" {
		var b pocket.Bundle
		if err := json.Unmarshal(body, &b); err != nil {
			return nil, err
		}
		p, err := pocket.Open(b)
		if err == nil {
			here = p
		}
		return nil, err
	}
	if here == nil {
		return nil, errNothing
	}
	switch what {
	case "run":
		return here.Run(now), nil
	case "add":
		return asked(body, func(a added) (any, error) { return here.Add(a.Entry, a.Photo, now) })
	case "try":
		return asked(body, func(a added) (any, error) { return nil, here.Try(a.Entry, a.Photo, now) })
	case "readings":
		return asked(body, func(b contract.JudgeReadingsJSONRequestBody) (any, error) { return here.Readings(b) })
	case "rig":
		return asked(body, func(b contract.JudgeRigJSONRequestBody) (any, error) { return nil, here.Rig(b) })
	case "ways":
		return asked(body, func(b contract.FindWaysJSONRequestBody) (any, error) { return here.Ways(b, now) })
	}
	return nil, fmt.Errorf("nobody knows how to %s", what)
}

func asked[B any](body []byte, by func(B) (any, error)) (any, error) {
	var b B
	if err := json.Unmarshal(body, &b); err != nil {
		return nil, err
	}
	return by(b)
}

func main() {
	debug.SetGCPercent(400) // a joint is small, and a hand waits
	js.Global().Set("dynacor", js.FuncOf(func(_ js.Value, args []js.Value) any {
		now, err := time.Parse(time.RFC3339Nano, args[2].String())
		var is any
		if err == nil {
			is, err = ask(args[0].String(), []byte(args[1].String()), now)
		}
		out := answer{Is: is}
		if err != nil {
			p, ok := views.Refused(err)
			if !ok {
				p = contract.Problem{Type: "about:blank", Title: "Device", Status: 500, Code: "internal", Detail: err.Error()}
			}
			out = answer{Problem: &p}
		}
		b, err := json.Marshal(out)
		if err != nil {
			return err.Error()
		}
		return string(b)
	}))
	select {}
}
