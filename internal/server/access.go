package server

import (
	"context"
	"net/http"
	"slices"
	"strings"
	"time"

	"github.com/getkin/kin-openapi/openapi3"
	"github.com/getkin/kin-openapi/openapi3filter"
	"github.com/getkin/kin-openapi/routers"
	"github.com/gin-gonic/gin"

	"dynacor/internal/app"
	"dynacor/internal/contract"
)

// The words of x-who that are no roles.
const (
	anyone   = "anyone"
	everyone = "everyone"
)

func init() {
	// A time is checked by what will read it anyhow, and not by a pattern first: each
	// entry has one.
	openapi3.DefineStringFormatValidator("date-time", openapi3.NewCallbackValidator(func(s string) error {
		_, err := time.Parse(time.RFC3339Nano, s)
		return err
	}))
}

// believedPerson is the header in which a screen says whom it believes to be signed in:
// what one tab does is not stored under the name that another signed in with.
const believedPerson = "X-Dynacor-Person"

// longestRequest is how long a request may take, streams apart.
const longestRequest = 25 * time.Second

// route is what the contract says of a route.
type route struct {
	*routers.Route
	who  []string // x-who: roles, or a word for more than those
	once bool     // x-once: open also with a PIN for one time
}

// contractRoutes returns the routes by method and pattern. Which of them a request
// takes, gin has found already.
func contractRoutes() (map[string]route, error) {
	spec, err := contract.GetSpec()
	if err != nil {
		return nil, err
	}
	bound(spec)
	routes, pattern := map[string]route{}, strings.NewReplacer("{", ":", "}", "")
	for path, item := range spec.Paths.Map() {
		for method, op := range item.Operations() {
			once, _ := op.Extensions["x-once"].(bool)
			routes[method+" "+pattern.Replace(path)] = route{&routers.Route{Spec: spec, Path: path, PathItem: item, Method: method,
				Operation: op}, names(op.Extensions["x-who"]), once}
		}
	}
	return routes, nil
}

// access lets through who the contract's x-who names for the route, with a request
// that fits the contract. A route that names nobody lets nobody through.
func (s *Server) access(c *gin.Context) {
	route := s.routes[c.Request.Method+" "+c.FullPath()]
	ctx, allowed := c.Request.Context(), route.who
	if !slices.Contains(allowed, anyone) {
		w, err := s.signedIn(ctx)
		mayUse := func() bool {
			return (slices.Contains(allowed, everyone) || w.Is(allowed...)) && (route.once || !w.Once)
		}
		if err == nil && w.Remembered != "" && !mayUse() {
			w, err = s.app.Look(ctx, w.Remembered)
		}
		if err != nil {
			answerError(c, err)
			return
		}
		if w.Once && !route.once {
			answer(c, problem(http.StatusForbidden, "pin-once", "", "Your PIN was for one time.", "Choose one of your own first."))
			return
		}
		if !mayUse() {
			s.app.Secure(ctx, app.Refused, w.ID, "", address(c), route.Method+" "+route.Path)
			answer(c, problem(http.StatusForbidden, "not-yours", "", "This is for a "+strings.Join(allowed, " or ")+" to do.", "Ask one."))
			return
		}
		asks := route.Path == "/api/session" && route.Method == http.MethodGet // who it is
		if believed := c.GetHeader(believedPerson); !asks && believed != "" && believed != w.ID.String() {
			s.app.Secure(ctx, app.Refused, w.ID, "", address(c), "another tab believed in "+believed)
			answer(c, problem(http.StatusConflict, "another-person", "", "Somebody else is signed in on this device now.",
				"See who it is; sign in again if that is not you."))
			return
		}
		ctx = context.WithValue(ctx, whoKey{}, w)
	}
	if c.FullPath() != "/api/stream" {
		var cancel context.CancelFunc
		ctx, cancel = context.WithTimeout(ctx, longestRequest)
		defer cancel()
	}
	c.Request = c.Request.WithContext(ctx)
	in := &openapi3filter.RequestValidationInput{Request: c.Request, Route: route.Route, PathParams: map[string]string{},
		Options: &openapi3filter.Options{AuthenticationFunc: openapi3filter.NoopAuthenticationFunc, SkipSettingDefaults: true}}
	for _, p := range c.Params {
		in.PathParams[p.Key] = p.Value
	}
	if err := openapi3filter.ValidateRequest(ctx, in); err != nil {
		answer(c, invalid(err))
		return
	}
	c.Next()
}

func names(v any) []string {
	list, _ := v.([]any)
	var out []string
	for _, x := range list {
		if s, ok := x.(string); ok {
			out = append(out, s)
		}
	}
	return out
}
