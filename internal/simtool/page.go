package simtool

import (
	"context"
	_ "embed"
	"encoding/json"
	"net"
	"net/http"
	"slices"
	"sync"
	"time"

	"dynacor/internal/toollink"
)

//go:embed page.html
var page []byte

// Pull is what a hand does to a made-up tool: to which value it pulls, how far the nut turns,
// and what is to go wrong.
type Pull struct {
	Peak  float64 `json:"peak"`
	Angle float64 `json:"angle"`
	Story Story   `json:"story"`
	Fault Fault   `json:"fault"`
}

// Page moves a tool by hand: a small page shows its target and pulls.
type Page struct {
	tool  *Tool
	mu    sync.Mutex
	state pageState
}

type pageState struct {
	Tag    string             `json:"tag"`
	Target toollink.Out       `json:"target"`
	Heard  []string           `json:"heard"`           // newest first
	Reads  *toollink.Quantity `json:"reads,omitempty"` // of an instrument
}

// mostHeard is how many lines the page shows.
const mostHeard = 12

// ByHand has a tool moved by a page; it pulls nothing by itself any more.
func ByHand(t *Tool) *Page {
	p := &Page{tool: t, state: pageState{Tag: t.Tag, Reads: t.Reads}}
	t.Hand = make(chan Pull)
	heard := t.Heard
	t.Heard = func(in toollink.Out) {
		p.mu.Lock()
		switch in.Kind {
		case toollink.Target, toollink.Rest:
			p.state.Target = in
		}
		text := in.Kind
		for _, more := range []string{in.Words, in.Verdict, in.Says, in.Way} {
			if more != "" {
				text += " · " + more
			}
		}
		p.state.Heard = append([]string{time.Now().Format("15:04:05") + " " + text}, p.state.Heard[:min(len(p.state.Heard), mostHeard-1)]...)
		p.mu.Unlock()
		if heard != nil {
			heard(in)
		}
	}
	return p
}

// Serve shows the page at l until ctx ends.
func (p *Page) Serve(ctx context.Context, l net.Listener) error {
	s := &http.Server{Handler: p, ReadHeaderTimeout: 10 * time.Second}
	stop := context.AfterFunc(ctx, func() { _ = s.Close() })
	defer stop()
	if err := s.Serve(l); ctx.Err() == nil {
		return err
	}
	return nil
}

// ServeHTTP shows the page, says how it stands, and pulls.
func (p *Page) ServeHTTP(w http.ResponseWriter, r *http.Request) {
	switch {
	case r.Method == http.MethodGet && r.URL.Path == "/":
		w.Header().Set("Content-Type", "text/html; charset=utf-8")
		_, _ = w.Write(page)
	case r.Method == http.MethodGet && r.URL.Path == "/state":
		p.mu.Lock()
		defer p.mu.Unlock()
		w.Header().Set("Content-Type", "application/json")
		_ = json.NewEncoder(w).Encode(p.state)
	case r.Method == http.MethodPost && r.URL.Path == "/pull":
		var pull Pull
		if err := json.NewDecoder(http.MaxBytesReader(w, r.Body, 1<<10)).Decode(&pull); err != nil || !(pull.Peak > 0) && p.tool.Reads == nil ||
			pull.Fault != "" && !slices.Contains(Faults(), pull.Fault) {
			http.Error(w, "say to which value it is pulled", http.StatusUnprocessableEntity)
			return
		}
		select {
		case p.tool.Hand <- pull:
			w.WriteHeader(http.StatusNoContent)
		case <-time.After(5 * time.Second):
			http.Error(w, "the tool has no line", http.StatusServiceUnavailable)
		case <-r.Context().Done():
		}
	default:
		http.NotFound(w, r)
	}
}
