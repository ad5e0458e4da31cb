package server

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"log/slog"
	"net/http"
	"strings"
	"sync"
	"time"

	"github.com/getkin/kin-openapi/openapi3"
	"github.com/getkin/kin-openapi/openapi3filter"
	"github.com/gin-gonic/gin"

	"dynacor/internal/app"
	"dynacor/internal/contract"
	"dynacor/internal/store"
	"dynacor/internal/views"
)

// givenUp is what the log says of a request that nobody waits for any more, as a proxy
// says it, too; it is no failure of the server's.
const givenUp = 499

// problemOf turns any error into what the contract calls a problem. What is
// not meant for users is logged and said in general words.
func problemOf(err error) contract.Problem {
	if p, ok := views.Refused(err); ok {
		return p
	}
	var tooLarge *http.MaxBytesError
	if errors.As(err, &tooLarge) {
		p := problem(http.StatusRequestEntityTooLarge, "too-large", "", fmt.Sprintf("What was sent is larger than %d bytes.",
			tooLarge.Limit), "Send less at once.")
		limit := float64(tooLarge.Limit)
		p.Limit = &limit
		return p
	}
	if errors.Is(err, context.Canceled) {
		return problem(givenUp, "given-up", "", "Whoever asked for this did not wait for it.", "Ask again; nothing is stored twice.")
	}
	seldom(err)
	if store.Unavailable(err) {
		return problem(http.StatusServiceUnavailable, "unavailable", "", "The database does not answer.",
			"What was sent may be stored or not; send it again, nothing is stored twice.")
	}
	return problem(http.StatusInternalServerError, "internal", "", "Something went wrong on the server.",
		"Try again, nothing is stored twice; if it goes on, tell whoever runs the server.")
}

// told is when an error was last logged, and how many were not since.
var told struct {
	sync.Mutex
	at     time.Time
	silent int
}

// seldom logs an error, but not more than one a second: where the database is gone every
// request fails alike.
func seldom(err error) {
	told.Lock()
	defer told.Unlock()
	if now := time.Now(); now.Sub(told.at) >= time.Second {
		slog.Error("request failed", "error", err, "others since the last", told.silent)
		told.at, told.silent = now, 0
		return
	}
	told.silent++
}

func problem(status int, code, field, detail, way string) contract.Problem {
	return contract.Problem{Type: "about:blank", Title: http.StatusText(status), Status: status, Code: code, Detail: detail, Field: field,
		Way: way}
}

// answer writes a problem and ends the request.
func answer(c *gin.Context, p contract.Problem) {
	c.Abort()
	write(c.Writer, p)
}

func write(w http.ResponseWriter, p contract.Problem) {
	w.Header().Set("Content-Type", "application/problem+json")
	if p.Status == http.StatusServiceUnavailable {
		w.Header().Set("Retry-After", "2")
	}
	w.WriteHeader(p.Status)
	_ = json.NewEncoder(w).Encode(p)
}

func answerError(c *gin.Context, err error) {
	var use *app.Error
	if errors.As(err, &use) && use.Kind == app.TooMany {
		c.Header("Retry-After", fmt.Sprint(int(use.Wait.Seconds())))
	}
	answer(c, problemOf(err))
}

// invalid says which part of a request does not fit the contract.
func invalid(err error) contract.Problem {
	var tooLarge *http.MaxBytesError
	if errors.As(err, &tooLarge) {
		return problemOf(err)
	}
	field, detail := "", "What was sent does not fit the contract."
	var req *openapi3filter.RequestError
	if errors.As(err, &req) {
		if req.Parameter != nil {
			field = req.Parameter.Name
		}
		detail = fmt.Sprintf("What was sent does not fit the contract: %s.", req.Reason)
		err = req.Err
	}
	if at, s := schemaError(err); s != nil {
		field = strings.Join(at, ".")
		detail = fmt.Sprintf("%s: %s.", field, s.Reason)
		if field == "" {
			detail = s.Reason + "."
		}
	}
	return problem(http.StatusBadRequest, "invalid", field, detail, "Correct it and send it again.")
}

// schemaError finds the first schema error, which may lie in nested lists, and
// where in the request it is. Of what is one of several kinds it is what is wrong
// with the kind that was named.
func schemaError(err error) (at []string, s *openapi3.SchemaError) {
	if errors.As(err, &s) {
		at = s.JSONPointer()
		if s.Origin != nil {
			if below, inner := schemaError(s.Origin); inner != nil {
				return below, inner
			}
		}
		return at, s
	}
	var many openapi3.MultiError
	if errors.As(err, &many) {
		for _, e := range many {
			if at, s := schemaError(e); s != nil {
				return at, s
			}
		}
	}
	return nil, nil
}
