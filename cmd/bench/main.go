//go:build js

// Command bench is what the Bench tries joints with: internal/trying as a WebAssembly module, for
// the worker of a page. It sets one function, dynacorBench(what, body), which takes and returns
// JSON.
package main

import (
	"encoding/json"
	"errors"
	"runtime/debug"
	"syscall/js"

	"dynacor/core/refusal"
	"dynacor/internal/contract"
	"dynacor/internal/trying"
)

// answer is what came of a question: one of the two.
type answer struct {
	Is      any               `json:"is,omitempty"`
	Problem *contract.Problem `json:"problem,omitempty"`
}

func main() {
	debug.SetGCPercent(400) // a person waits
	js.Global().Set("dynacorBench", js.FuncOf(func(_ js.Value, args []js.Value) any {
		is, err := trying.Ask(args[0].String(), []byte(args[1].String()))
		out := answer{Is: is}
		if err != nil {
			out = answer{Problem: problem(err)}
		}
		b, err := json.Marshal(out)
		if err != nil {
			return err.Error()
		}
		return string(b)
	}))
	select {}
}

func problem(err error) *contract.Problem {
	if r, is := errors.AsType[*refusal.Error](err); is {
		p := contract.Refused(r)
		return &p
	}
	return &contract.Problem{Type: "about:blank", Title: "Bench", Status: 500, Code: "internal", Detail: err.Error()}
}
