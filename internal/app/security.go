package app

import (
	"context"
	"encoding/json"
	"io"
	"log/slog"

	"github.com/google/uuid"
	"golang.org/x/time/rate"

	"dynacor/internal/store"
)

// SecurityKind is what a line of the security log is about.
type SecurityKind string

// The kinds of lines.
const (
	SignedIn  SecurityKind = "signed in"
	SignedOut SecurityKind = "signed out"
	WrongPIN  SecurityKind = "wrong PIN"
	LockedOut SecurityKind = "waits after wrong PINs"
	Refused   SecurityKind = "refused"
	Rights    SecurityKind = "rights changed"
	Exported  SecurityKind = "exported"
)

// refusals bounds how fast refusals are written down: who is refused a thousand times a
// second fills no disk.
var refusals = rate.NewLimiter(5, 100)

// Secure writes a line of the security log. What it tells of goes on where that fails; the
// server's own log says so then.
func (a *App) Secure(ctx context.Context, kind SecurityKind, by uuid.UUID, login, address, words string) {
	if kind == Refused && !refusals.Allow() {
		return
	}
	e := store.SecurityEvent{At: a.now(), Kind: string(kind), Login: login, Address: address, Words: words}
	if by != uuid.Nil {
		e.Person = &by
	}
	if err := a.store.AddSecurityEvent(context.WithoutCancel(ctx), e); err != nil {
		slog.Error("a line of the security log was not stored", "error", err, "kind", kind)
	}
}

// SecurityPage is how many lines are shown at a time.
const SecurityPage = 200

// SecurityLog returns lines of the security log, the newest first, with the names of who
// is in them.
func (a *App) SecurityLog(ctx context.Context, before int64) ([]store.SecurityEvent, Names, error) {
	list, err := a.store.SecurityEvents(ctx, before, SecurityPage)
	if err != nil {
		return nil, nil, err
	}
	names, err := a.Names(ctx)
	return list, names, err
}

// WriteSecurityLog writes all of it as JSON lines, the newest first.
func (a *App) WriteSecurityLog(ctx context.Context, w io.Writer) error {
	out := json.NewEncoder(w)
	for before := int64(0); ; {
		list, err := a.store.SecurityEvents(ctx, before, SecurityPage)
		if err != nil || len(list) == 0 {
			return err
		}
		for _, e := range list {
			if err := out.Encode(e); err != nil {
				return err
			}
			before = e.ID
		}
	}
}
