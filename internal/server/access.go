package server

import (
	"context"
	"net/http"
	"slices"
	"strings"

	"github.com/getkin/kin-openapi/openapi3filter"
	"github.com/gin-gonic/gin"
)

// The words of x-who that are no roles.
const (
	anyone   = "anyone"
	everyone = "everyone"
)

type routeKey struct{}

// access lets through who the contract's x-who names for the route. A route
// that names nobody lets nobody through.
func (s *Server) access(c *gin.Context) {
	route, params, err := s.router.FindRoute(c.Request)
	if err != nil {
		answer(c, problem(http.StatusNotFound, "not-found", "", "There is no such address.", ""))
		return
	}
	allowed := names(route.Operation.Extensions["x-who"])
	ctx := context.WithValue(c.Request.Context(), routeKey{}, &openapi3filter.RequestValidationInput{
		Request: c.Request, PathParams: params, Route: route,
		Options: &openapi3filter.Options{AuthenticationFunc: openapi3filter.NoopAuthenticationFunc},
	})
	if !slices.Contains(allowed, anyone) {
		w, in := s.signedIn(ctx)
		if !in {
			answer(c, problem(http.StatusUnauthorized, "not-signed-in", "", "You are not signed in.", "Sign in."))
			return
		}
		if !slices.Contains(allowed, everyone) && !w.Is(allowed...) {
			answer(c, problem(http.StatusForbidden, "not-yours", "", "This is for a "+strings.Join(allowed, " or ")+" to do.", "Ask one."))
			return
		}
		ctx = context.WithValue(ctx, whoKey{}, w)
	}
	c.Request = c.Request.WithContext(ctx)
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

// fits checks a request against the contract.
func (s *Server) fits(c *gin.Context) {
	in, ok := c.Request.Context().Value(routeKey{}).(*openapi3filter.RequestValidationInput)
	if !ok {
		answer(c, problem(http.StatusNotFound, "not-found", "", "There is no such address.", ""))
		return
	}
	in.Request = c.Request
	if err := openapi3filter.ValidateRequest(c.Request.Context(), in); err != nil {
		answer(c, invalid(err))
		return
	}
	c.Next()
}
