package server

import (
	"maps"
	"net/http"
	"strconv"
	"strings"
	"sync"
	"time"

	"github.com/gin-gonic/gin"
	"github.com/prometheus/client_golang/prometheus"
	"github.com/prometheus/client_golang/prometheus/promhttp"

	"dynacor/internal/app"
)

// figures are what is counted of the server's work.
type figures struct {
	registry *prometheus.Registry
	requests *prometheus.HistogramVec
	entries  prometheus.Counter
	outboxes outboxes
}

func newFigures(a *app.App, hub *Hub) *figures {
	f := &figures{registry: prometheus.NewRegistry(),
		requests: prometheus.NewHistogramVec(prometheus.HistogramOpts{Name: "dynacor_request_seconds", Help: "How long requests took.",
			Buckets: []float64{.001, .0025, .005, .01, .025, .05, .1, .25, .5, 1, 2.5, 5, 10, 25}}, []string{"method", "route", "status"}),
		entries: prometheus.NewCounter(prometheus.CounterOpts{Name: "dynacor_entries_total", Help: "Entries that this server stored."})}
	gauge := func(name, help string, value func() float64) {
		f.registry.MustRegister(prometheus.NewGaugeFunc(prometheus.GaugeOpts{Name: name, Help: help}, value))
	}
	f.registry.MustRegister(f.requests, f.entries)
	gauge("dynacor_streams", "Screens that follow changes.", func() float64 { return float64(hub.size()) })
	gauge("dynacor_connections_used", "Connections to the database that are in use.",
		func() float64 { return float64(a.Connections().AcquiredConns()) })
	gauge("dynacor_connections_most", "Connections to the database that there may be.",
		func() float64 { return float64(a.Connections().MaxConns()) })
	gauge("dynacor_connection_waits_total", "How often a connection was waited for.",
		func() float64 { return float64(a.Connections().EmptyAcquireCount()) })
	gauge("dynacor_outbox_acts", "Acts that wait on devices, as those said that were heard of in the last ten minutes.",
		func() float64 { acts, _ := f.outboxes.sum(time.Now()); return float64(acts) })
	gauge("dynacor_outbox_oldest_seconds", "Age of the oldest of them.",
		func() float64 { _, oldest := f.outboxes.sum(time.Now()); return oldest.Seconds() })
	gauge("dynacor_audit_age_seconds", "Since this server last audited; -1 where it never did.", func() float64 {
		if found := a.Audited(); found != nil {
			return time.Since(found.Ended).Seconds()
		}
		return -1
	})
	gauge("dynacor_audit_faults", "What that found that does not hold; -1 where it never did.", func() float64 {
		if found := a.Audited(); found != nil {
			return float64(len(found.Faults) + found.More)
		}
		return -1
	})
	return f
}

// Metrics writes the figures, as Prometheus reads them.
func (s *Server) Metrics() http.Handler {
	return promhttp.HandlerFor(s.figures.registry, promhttp.HandlerOpts{})
}

// counted counts a request.
func (f *figures) counted(c *gin.Context) {
	begun := time.Now()
	f.outboxes.hear(c.Request, begun)
	c.Next()
	route := c.FullPath()
	if route == "" {
		route = "other" // whatever is asked for makes no figure of its own
	}
	status := c.Writer.Status()
	if route == "/api/stream" {
		return // as long as somebody looks
	}
	f.requests.WithLabelValues(c.Request.Method, route, strconv.Itoa(status)).Observe(time.Since(begun).Seconds())
	if route == "/api/runs/:run/entries" && status == http.StatusOK {
		f.entries.Inc()
	}
}

// waitingActs is the header in which a device says how many acts wait on it, and for how
// many seconds the oldest has.
const waitingActs = "X-Dynacor-Waiting"

// outboxes are what devices said of their outboxes, by their session.
type outboxes struct {
	mu   sync.Mutex
	said map[string]waitingOn
}

type waitingOn struct {
	acts   int
	oldest time.Time
	heard  time.Time
}

// forgotten is how long what a device said counts.
const forgotten = 10 * time.Minute

// mostDevices are remembered at the most.
const mostDevices = 10_000

func (o *outboxes) hear(r *http.Request, now time.Time) {
	acts, seconds, ok := strings.Cut(r.Header.Get(waitingActs), " ")
	if !ok {
		return
	}
	n, err := strconv.Atoi(acts)
	age, wrong := strconv.Atoi(seconds)
	cookie, none := r.Cookie("dynacor")
	if err != nil || wrong != nil || none != nil || n < 0 || n > 1e6 || age < 0 || age > 1e9 {
		return
	}
	o.mu.Lock()
	defer o.mu.Unlock()
	if o.said == nil {
		o.said = map[string]waitingOn{}
	}
	if len(o.said) >= mostDevices {
		o.forget(now)
	}
	if _, known := o.said[cookie.Value]; known || len(o.said) < mostDevices {
		o.said[cookie.Value] = waitingOn{n, now.Add(-time.Duration(age) * time.Second), now}
	}
}

// forget drops those not heard of for a while. o.mu is held.
func (o *outboxes) forget(now time.Time) {
	maps.DeleteFunc(o.said, func(_ string, w waitingOn) bool { return now.Sub(w.heard) > forgotten })
}

func (o *outboxes) sum(now time.Time) (acts int, oldest time.Duration) {
	o.mu.Lock()
	defer o.mu.Unlock()
	o.forget(now)
	for _, w := range o.said {
		acts += w.acts
		if w.acts > 0 {
			oldest = max(oldest, now.Sub(w.oldest))
		}
	}
	return acts, oldest
}
