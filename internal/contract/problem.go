package contract

import "dynacor/core/refusal"

// What a problem is answered with over HTTP. The library of HTTP has them too, but a device's
// judge has no use for the rest of it.
const (
	IsNotSignedIn = 401
	IsForbidden   = 403
	IsNotFound    = 404
	IsConflict    = 409
	IsUnfit       = 422
	IsTooMany     = 429
)

var titles = map[int]string{IsNotSignedIn: "Unauthorized", IsForbidden: "IsForbidden", IsNotFound: "Not Found", IsConflict: "IsConflict",
	IsUnfit: "Unprocessable Entity", IsTooMany: "Too Many Requests"}

// Refused is a refusal of the core, to be answered with.
func Refused(e *refusal.Error) Problem {
	code := IsUnfit
	switch e.Code {
	case refusal.NotNext, refusal.NotNow, refusal.Asked, refusal.Twice:
		code = IsConflict
	case refusal.NotTheSame:
		code = IsForbidden
	}
	p := ProblemOf(code, string(e.Code), e.Field, e.Text, e.Way)
	p.Unit = e.Unit
	if e.HasValue {
		p.Value = &e.Value
	}
	if e.HasLimit {
		p.Limit = &e.Limit
	}
	return p
}

// ProblemOf is a problem in words, beside the field it is about.
func ProblemOf(status int, code, field, detail, way string) Problem {
	return Problem{Type: "about:blank", Title: titles[status], Status: status, Code: code, Detail: detail, Field: field, Way: way}
}
