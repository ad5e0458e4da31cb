package views

import (
	"errors"

	"dynacor/core/refusal"
	"dynacor/internal/contract"
	"dynacor/internal/judge"
)

// What a problem is answered with over HTTP. The library of HTTP has them too, but a device's
// judge has no use for the rest of it.
const (
	notSignedIn = 401
	forbidden   = 403
	notFound    = 404
	conflict    = 409
	unfit       = 422
	tooMany     = 429
)

var titles = map[int]string{notSignedIn: "Unauthorized", forbidden: "Forbidden", notFound: "Not Found", conflict: "Conflict",
	unfit: "Unprocessable Entity", tooMany: "Too Many Requests"}

// Refused is an error that is meant for whoever asked, as the contract says it; ok is false
// for any other.
func Refused(err error) (p contract.Problem, ok bool) {
	var refused *refusal.Error
	if errors.As(err, &refused) {
		return Refusal(refused), true
	}
	var use *judge.Error
	if errors.As(err, &use) {
		return problem(status(use.Kind), use.Code, use.Field, use.Text, use.Way), true
	}
	return p, false
}

// Refusal is a refusal of the core.
func Refusal(e *refusal.Error) contract.Problem {
	code := unfit
	switch e.Code {
	case refusal.NotNext, refusal.NotNow, refusal.Asked, refusal.Twice:
		code = conflict
	case refusal.NotTheSame:
		code = forbidden
	}
	p := problem(code, string(e.Code), e.Field, e.Text, e.Way)
	p.Unit = e.Unit
	if e.HasValue {
		p.Value = &e.Value
	}
	if e.HasLimit {
		p.Limit = &e.Limit
	}
	return p
}

func problem(status int, code, field, detail, way string) contract.Problem {
	return contract.Problem{Type: "about:blank", Title: titles[status], Status: status, Code: code, Detail: detail, Field: field, Way: way}
}

func status(k judge.ErrorKind) int {
	switch k {
	case judge.NotFound:
		return notFound
	case judge.NotSignedIn:
		return notSignedIn
	case judge.NotAllowed, judge.WrongPin:
		return forbidden
	case judge.Conflict:
		return conflict
	case judge.TooMany:
		return tooMany
	}
	return unfit
}
