package views

import (
	"errors"

	"dynacor/core/refusal"
	"dynacor/internal/contract"
	"dynacor/internal/judge"
)

// Refused is an error that is meant for whoever asked, as the contract says it; ok is false
// for any other.
func Refused(err error) (p contract.Problem, ok bool) {
	var refused *refusal.Error
	if errors.As(err, &refused) {
		return contract.Refused(refused), true
	}
	var use *judge.Error
	if errors.As(err, &use) {
		return contract.ProblemOf(status(use.Kind), use.Code, use.Field, use.Text, use.Way), true
	}
	return p, false
}

func status(k judge.ErrorKind) int {
	switch k {
	case judge.NotFound:
		return contract.IsNotFound
	case judge.NotSignedIn:
		return contract.IsNotSignedIn
	case judge.NotAllowed, judge.WrongPin:
		return contract.IsForbidden
	case judge.Conflict:
		return contract.IsConflict
	case judge.TooMany:
		return contract.IsTooMany
	}
	return contract.IsUnfit
}
