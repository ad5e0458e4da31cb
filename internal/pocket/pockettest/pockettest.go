// Package pockettest runs the judge of a device as a device does: as WebAssembly, in a machine of
// the kind that browsers have.
package pockettest

import (
	"bufio"
	_ "embed"
	"encoding/json"
	"fmt"
	"io"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"sync"
	"time"

	"dynacor/internal/contract"
)

//go:embed node.mjs
var script string

// Machine runs any number of judges, each at a joint of its own.
type Machine struct {
	mu      sync.Mutex
	in      io.WriteCloser
	answers map[int]chan line
	asked   int
	cmd     *exec.Cmd
}

type line struct {
	No      int               `json:"no"`
	Is      json.RawMessage   `json:"is"`
	Problem *contract.Problem `json:"problem"`
	Failed  string            `json:"failed"`
}

// Start starts one on the module that make builds.
func Start() (*Machine, error) {
	root, err := exec.Command("go", "list", "-m", "-f", "{{.Dir}}").Output()
	if err != nil {
		return nil, err
	}
	from := filepath.Join(strings.TrimSpace(string(root)), "web", "src", "pocket")
	if _, err := os.Stat(filepath.Join(from, "pocket.wasm")); err != nil {
		return nil, fmt.Errorf("there is no judge to run: make it with make build: %w", err)
	}
	cmd := exec.Command("node", "--input-type=module", "-e", script, from)
	cmd.Stderr = os.Stderr
	m := &Machine{answers: map[int]chan line{}, cmd: cmd}
	if m.in, err = cmd.StdinPipe(); err != nil {
		return nil, err
	}
	out, err := cmd.StdoutPipe()
	if err != nil {
		return nil, err
	}
	if err := cmd.Start(); err != nil {
		return nil, err
	}
	go m.read(out)
	return m, nil
}

// Stop ends it.
func (m *Machine) Stop() error {
	if err := m.in.Close(); err != nil {
		return err
	}
	return m.cmd.Wait()
}

func (m *Machine) read(out io.Reader) {
	lines := bufio.NewReader(out)
	for {
		text, err := lines.ReadBytes('\n')
		if err != nil {
			break
		}
		var l line
		if err := json.Unmarshal(text, &l); err != nil {
			l.Failed = err.Error()
		}
		m.mu.Lock()
		to := m.answers[l.No]
		delete(m.answers, l.No)
		m.mu.Unlock()
		if to != nil {
			to <- l
		}
	}
	m.mu.Lock()
	defer m.mu.Unlock()
	for no, to := range m.answers {
		to <- line{No: no, Failed: "the machine stopped"}
	}
	m.answers = nil
}

// Ask asks a judge about the joint it is at; each name is a judge of its own. problem is what it
// refuses.
func (m *Machine) Ask(judge, what string, body any, at time.Time) (is json.RawMessage, problem *contract.Problem, err error) {
	b, err := json.Marshal(body)
	if err != nil {
		return nil, nil, err
	}
	to := make(chan line, 1)
	m.mu.Lock()
	m.asked++
	no := m.asked
	if m.answers == nil {
		m.mu.Unlock()
		return nil, nil, fmt.Errorf("the machine stopped")
	}
	m.answers[no] = to
	q, err := json.Marshal(map[string]any{"no": no, "judge": judge, "what": what, "body": string(b), "at": at.Format(time.RFC3339Nano)})
	if err == nil {
		_, err = m.in.Write(append(q, '\n'))
	}
	m.mu.Unlock()
	if err != nil {
		return nil, nil, err
	}
	l := <-to
	if l.Failed != "" {
		return nil, nil, fmt.Errorf("%s: %s", what, l.Failed)
	}
	return l.Is, l.Problem, nil
}
