package judge

import (
	"slices"

	"dynacor/internal/id"
)

// Who is someone who is signed in, and what they may do.
type Who struct {
	ID             id.UUID
	Roles          []string
	Qualifications []string
	Once           bool   // their PIN is to be replaced before they do anything else
	Locale         string // that they read, as "de-AT"; empty: nobody has said
	Remembered     string // the token of their session, where all this is remembered and was not looked up
	Fact           []byte // of who they are and may do; nil: it is to be looked up
}

// Is reports whether w has one of the roles.
func (w Who) Is(roles ...string) bool {
	return slices.ContainsFunc(roles, func(r string) bool { return slices.Contains(w.Roles, r) })
}

// May reports whether w has a role or a qualification.
func (w Who) May(what string) bool {
	return w.Is(what) || slices.Contains(w.Qualifications, what)
}
