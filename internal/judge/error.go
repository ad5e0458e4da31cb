package judge

import "time"

// Error is what a use case refuses besides the core's own refusals.
type Error struct {
	Kind  ErrorKind
	Code  string
	Field string
	Text  string
	Way   string
	Wait  time.Duration // for TooMany: how long to wait
}

func (e *Error) Error() string { return e.Text }

// ErrorKind is how an Error is answered.
type ErrorKind int

// The kinds of errors.
const (
	NotFound ErrorKind = iota
	NotAllowed
	NotSignedIn
	Conflict
	WrongPin
	TooMany
	Invalid
)
