package server

import (
	"context"
	"errors"
	"fmt"
	"log/slog"
	"net/http"
	"sync"
	"time"

	"dynacor/internal/app"
	"dynacor/internal/contract"
	"dynacor/internal/store"
)

// Hub passes on to every open screen which joints changed, as the database
// says so.
type Hub struct {
	mu      sync.Mutex
	screens map[chan string]struct{}
	closed  bool
}

// NewHub returns a hub without screens.
func NewHub() *Hub { return &Hub{screens: map[chan string]struct{}{}} }

// Follow listens to the database until ctx ends, beginning anew when the
// connection breaks.
func (h *Hub) Follow(ctx context.Context, s *store.Store) {
	for ctx.Err() == nil {
		// Whatever was missed while not listening, each screen asks for again.
		err := s.Listen(ctx, func() { h.send("all") }, h.send)
		if err != nil && ctx.Err() == nil {
			slog.Warn("listening to the database broke off", "error", err)
			select {
			case <-ctx.Done():
			case <-time.After(time.Second):
			}
		}
	}
	h.close()
}

func (h *Hub) send(joint string) {
	h.mu.Lock()
	defer h.mu.Unlock()
	for c := range h.screens {
		select {
		case c <- joint:
		default: // a screen too slow to follow asks for everything
			select {
			case <-c:
			default:
			}
			select {
			case c <- "all":
			default:
			}
		}
	}
}

// Join returns a channel of the joints that change; ok is false where the server stops.
func (h *Hub) Join() (chan string, bool) {
	h.mu.Lock()
	defer h.mu.Unlock()
	if h.closed {
		return nil, false
	}
	c := make(chan string, 64)
	h.screens[c] = struct{}{}
	return c, true
}

// size is how many screens there are.
func (h *Hub) size() int {
	h.mu.Lock()
	defer h.mu.Unlock()
	return len(h.screens)
}

// Leave ends what Join began.
func (h *Hub) Leave(c chan string) {
	h.mu.Lock()
	defer h.mu.Unlock()
	delete(h.screens, c)
}

// close lets every open stream end, so that the server can stop.
func (h *Hub) close() {
	h.mu.Lock()
	defer h.mu.Unlock()
	h.closed = true
	for c := range h.screens {
		close(c)
		delete(h.screens, c)
	}
}

// ping is how often a silent stream shows that it is alive.
const ping = 10 * time.Second

// Watch opens a stream of joints that change.
func (s *Server) Watch(ctx context.Context, _ contract.WatchRequestObject) (contract.WatchResponseObject, error) {
	token := s.sessions.Token(ctx)
	over := func() bool {
		_, err := s.app.Look(ctx, token)
		return errors.Is(err, app.ErrNotSignedIn)
	}
	return stream{ctx, s.hub, over}, nil
}

type stream struct {
	ctx  context.Context
	hub  *Hub
	over func() bool // its session is over
}

func (s stream) VisitWatchResponse(w http.ResponseWriter) error {
	changes, ok := s.hub.Join()
	if !ok {
		w.WriteHeader(http.StatusServiceUnavailable)
		return nil
	}
	defer s.hub.Leave(changes)
	rc := http.NewResponseController(w)
	_ = rc.SetWriteDeadline(time.Time{}) // a stream has no end
	w.Header().Set("Content-Type", "text/event-stream")
	w.Header().Set("Cache-Control", "no-store")
	w.Header().Set("X-Accel-Buffering", "no")
	tick := time.NewTicker(ping)
	defer tick.Stop()
	message := ": here\n\n"
	for {
		if _, err := fmt.Fprint(w, message); err != nil {
			return nil // the screen has gone
		}
		if err := rc.Flush(); err != nil {
			return nil
		}
		select {
		case <-s.ctx.Done():
			return nil
		case <-tick.C:
			if s.over() {
				return nil
			}
			message = "event: ping\ndata: \n\n"
		case j, open := <-changes:
			if !open {
				return nil
			}
			message = "event: joint\ndata: " + j + "\n\n"
		}
	}
}
