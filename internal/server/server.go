// Package server is Dynacor over HTTP: it checks who asks and whether the
// request fits the contract, calls one use case, and answers.
package server

import (
	"context"
	"io/fs"
	"log/slog"
	"net"
	"net/http"
	"runtime/debug"
	"strings"
	"time"

	"github.com/alexedwards/scs/v2"
	"github.com/gin-gonic/gin"

	"dynacor/internal/app"
	"dynacor/internal/contract"
	"dynacor/internal/report"
	"dynacor/internal/store"
)

// Options say how the server is reached.
type Options struct {
	SecureCookie bool  // the site is reached over HTTPS
	Front        fs.FS // the compiled front end; nil for none
	// Origins that may send changes besides the server's own, e.g. a proxy's
	// public address.
	Origins []string
	// Link speaks with tools at LinkPath; nil: none are spoken with.
	Link     http.Handler
	LinkPath string
	// Proxies are the addresses whose word for where a request comes from is taken.
	Proxies []string
}

// mostBody is the largest request body taken, in bytes.
const mostBody = 64 << 10

// mostFile is the largest for a file that joints come in from: 8 MiB in base64, and the rest.
const mostFile = 11<<20 + 1<<18

// Server answers requests.
type Server struct {
	app      *app.App
	sessions *scs.SessionManager
	kept     *store.Sessions
	routes   map[string]route // of the contract, by method and pattern as gin writes it
	hub      *Hub
	figures  *figures
	origins  []string
	handler  http.Handler
	trials   chan struct{} // that are made anew now
}

// New returns a server of a's use cases, whose sessions are kept in kept, and
// which passes on what hub hears.
func New(a *app.App, kept *store.Sessions, hub *Hub, o Options) (*Server, error) {
	routes, err := contractRoutes()
	if err != nil {
		return nil, err
	}
	sessions := scs.New()
	sessions.Store, sessions.Codec = kept, sessionForm{}
	sessions.Lifetime = 14 * time.Hour // a long shift
	sessions.IdleTimeout = 0           // gloves on for an hour is not gone
	sessions.Cookie.Name = "dynacor"
	sessions.Cookie.HttpOnly = true
	sessions.Cookie.SameSite = http.SameSiteStrictMode
	sessions.Cookie.Secure = o.SecureCookie
	sessions.ErrorFunc = func(w http.ResponseWriter, _ *http.Request, err error) { write(w, problemOf(err)) }
	s := &Server{app: a, sessions: sessions, kept: kept, routes: routes, hub: hub, figures: newFigures(a, hub), origins: o.Origins,
		trials: make(chan struct{}, mostTogether)}

	gin.SetMode(gin.ReleaseMode)
	g := gin.New()
	g.HandleMethodNotAllowed = true
	if err := g.SetTrustedProxies(o.Proxies); err != nil {
		return nil, err
	}
	g.ContextWithFallback = true // handlers get gin's context and find the request's values through it
	g.Use(gin.CustomRecoveryWithWriter(nil, func(c *gin.Context, what any) {
		slog.Error("a request panicked", "what", what, "stack", string(debug.Stack()))
		answer(c, problem(http.StatusInternalServerError, "internal", "", "Something went wrong on the server.", "Try again."))
	}))
	g.Use(logged, s.figures.counted)
	g.GET("/healthz", func(c *gin.Context) { c.String(http.StatusOK, "alive\n") })
	g.GET("/readyz", s.ready)
	api := g.Group("", s.access)
	strict := contract.NewStrictHandlerWithOptions(s, nil, contract.StrictGinServerOptions{
		RequestErrorHandlerFunc:  func(c *gin.Context, err error) { answer(c, invalid(err)) },
		HandlerErrorFunc:         answerError,
		ResponseErrorHandlerFunc: answerError,
	})
	contract.RegisterHandlersWithOptions(api, strict, contract.GinServerOptions{
		ErrorHandler: func(c *gin.Context, err error, _ int) { answer(c, invalid(err)) },
	})
	g.NoMethod(func(c *gin.Context) {
		answer(c, problem(http.StatusMethodNotAllowed, "no-such-method", "", "This address does not take "+c.Request.Method+".", ""))
	})
	g.NoRoute(front(o.Front))

	cross := http.NewCrossOriginProtection()
	for _, origin := range o.Origins {
		if err := cross.AddTrustedOrigin(origin); err != nil {
			return nil, err
		}
	}
	cross.SetDenyHandler(http.HandlerFunc(func(w http.ResponseWriter, _ *http.Request) {
		write(w, problem(http.StatusForbidden, "cross-origin", "", "This request came from another site.", ""))
	}))
	s.handler = headers(cross.Handler(limit(visible(s.remembered(g, sessions.LoadAndSave(g))))), o.SecureCookie)
	if pages := s.handler; o.Link != nil { // a tool has no session, and its line stays open
		s.handler = http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
			if r.URL.Path == o.LinkPath {
				o.Link.ServeHTTP(w, r)
				return
			}
			pages.ServeHTTP(w, r)
		})
	}
	return s, nil
}

// readyWithin is how long the database is waited for when somebody asks whether it is there.
const readyWithin = 2 * time.Second

// ready says whether requests can be answered: to a proxy, which sends them elsewhere
// where they cannot.
func (s *Server) ready(c *gin.Context) {
	ctx, cancel := context.WithTimeout(c.Request.Context(), readyWithin)
	defer cancel()
	if err := s.app.Ready(ctx); err != nil {
		answer(c, problem(http.StatusServiceUnavailable, "unavailable", "", "The database does not answer.", "Look at the database."))
		return
	}
	c.String(http.StatusOK, "ready\n")
}

// ServeHTTP answers a request.
func (s *Server) ServeHTTP(w http.ResponseWriter, r *http.Request) { s.handler.ServeHTTP(w, r) }

// headers keeps browsers from doing with our pages what they need not do.
func headers(next http.Handler, secure bool) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		h := w.Header()
		// Mantine writes style elements and attributes; scripts come from us alone, and so does the module that judges on a
		// device, which no script could make up.
		h.Set("Content-Security-Policy",
			"default-src 'self'; script-src 'self' 'wasm-unsafe-eval'; style-src 'self' 'unsafe-inline'; img-src 'self' data:; object-src 'none'; "+
				"base-uri 'none'; form-action 'self'; frame-ancestors 'none'")
		h.Set("X-Content-Type-Options", "nosniff")
		h.Set("X-Frame-Options", "DENY")
		h.Set("Referrer-Policy", "same-origin")
		h.Set("Permissions-Policy", "camera=(self), geolocation=(), microphone=()")
		h.Set("Cross-Origin-Opener-Policy", "same-origin")
		if strings.HasPrefix(r.URL.Path, "/api/") {
			h.Set("Cache-Control", "no-store") // a shared tablet shows nobody's pages to the next
		}
		if secure {
			h.Set("Strict-Transport-Security", "max-age=31536000")
		}
		next.ServeHTTP(w, r)
	})
}

func limit(next http.Handler) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		most := int64(mostBody)
		switch {
		case strings.HasPrefix(r.URL.Path, "/api/imports"), r.URL.Path == "/api/crib/import":
			most = mostFile
		case strings.HasPrefix(r.URL.Path, "/api/photos"), strings.HasPrefix(r.URL.Path, "/api/papers"),
			r.URL.Path == "/api/crib/papers":
			most = mostPhoto
		case strings.HasPrefix(r.URL.Path, "/api/library"):
			most = mostRecipe
		}
		r.Body = http.MaxBytesReader(w, r.Body, most)
		next.ServeHTTP(w, r)
	})
}

// mostPhoto is the largest for a photograph or a maker's sheet: 12 MiB in base64, and what tells that one is
// over; mostRecipe for a recipe file, and what JSON adds to it.
const (
	mostPhoto  = 17 << 20
	mostRecipe = 768 << 10
)

// address is where a request comes from; empty from this very machine, as a proxy on it
// hides who is behind it.
func address(ctx context.Context) string {
	c, ok := ctx.(*gin.Context)
	if !ok {
		return ""
	}
	if ip := net.ParseIP(c.ClientIP()); ip != nil && !ip.IsLoopback() {
		return ip.String()
	}
	return ""
}

// who returns who is signed in, from the request's context.
func who(ctx context.Context) app.Who {
	w, _ := ctx.Value(whoKey{}).(app.Who)
	return w
}

// pageLocale is the cookie by which a page says in which locale it is drawn.
const pageLocale = "dynacor-locale"

// reader is whom a card or a list is printed for.
func (s *Server) reader(ctx context.Context) (report.Reader, error) {
	return s.app.ReaderOfAll(ctx, reads(ctx))
}

// reads is the locale that something is printed in: that of the page which asks, as print says
// what the screen says; without a page, the one that whoever asks has chosen. Empty: as it was said.
func reads(ctx context.Context) string {
	if c, ok := ctx.(*gin.Context); ok {
		if asked, err := c.Cookie(pageLocale); err == nil && contract.Locale(asked).Valid() {
			return asked
		}
	}
	return who(ctx).Locale
}

type whoKey struct{}
