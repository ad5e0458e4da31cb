package app

import (
	"context"
	"errors"
	"fmt"
	"runtime"
	"strings"
	"time"

	"github.com/alexedwards/argon2id"
	"github.com/google/uuid"

	"dynacor/internal/store"
)

// After MostWrongPins within PinWindow a login waits.
const (
	MostWrongPins = 5
	PinWindow     = 5 * time.Minute
)

// pinParams is the cost of guessing a PIN: RFC 9106's second recommended
// option, 64 MiB.
var pinParams = &argon2id.Params{Memory: 64 * 1024, Iterations: 3, Parallelism: uint8(min(4, runtime.NumCPU())), SaltLength: 16,
	KeyLength: 32}

// HashPin returns the PIN as it is stored.
func HashPin(pin string) (string, error) { return argon2id.CreateHash(pin, pinParams) }

// unknownHash is compared against where the login is unknown, so that both
// take as long.
const unknownHash = "$argon2id$v=19$m=65536,t=3,p=2$c29tZXNhbHRzb21lc2FsdA$F0VPL1fEpJQtsDKyDsNsGiUJCcYmHoBWiCSKzf7OYdA"

// SignIn returns the person with that login and PIN.
func (a *App) SignIn(ctx context.Context, login, pin string) (store.Person, error) {
	login = strings.ToLower(strings.TrimSpace(login))
	p, err := a.store.PersonByLogin(ctx, login)
	hash := p.PinHash
	if errors.Is(err, store.ErrNotFound) {
		hash, err = unknownHash, nil
	}
	if err != nil {
		return store.Person{}, err
	}
	if err := a.checkPin(ctx, login, pin, hash); err != nil {
		return store.Person{}, err
	}
	return p, nil
}

// Person returns who has that id and may still sign in.
func (a *App) Person(ctx context.Context, id uuid.UUID) (store.Person, error) {
	p, err := a.store.PersonByID(ctx, id)
	return p, found(err, "person")
}

// ErrNotSignedIn is what somebody is answered who is not, or no longer.
var ErrNotSignedIn = &Error{Kind: NotSignedIn, Code: "not-signed-in", Text: "You are not signed in.", Way: "Sign in."}

// Look returns who is signed in with a session, and what they may do now.
func (a *App) Look(ctx context.Context, session string) (Who, error) {
	x, err := a.store.Session(ctx, session)
	if errors.Is(err, store.ErrNotFound) {
		err = ErrNotSignedIn
	}
	return Who{ID: x.Person, Roles: x.Roles, Qualifications: x.Qualifications, Once: x.Once}, err
}

// confirm asks for the PIN of someone who is signed in, before a signature.
func (a *App) confirm(ctx context.Context, who uuid.UUID, pin string) error {
	p, err := a.store.PersonByID(ctx, who)
	if err != nil {
		return found(err, "person")
	}
	return a.checkPin(ctx, p.Login, pin, p.PinHash)
}

func (a *App) checkPin(ctx context.Context, login, pin, hash string) error {
	now := a.now()
	n, first, err := a.store.FailedPins(ctx, login, now.Add(-PinWindow))
	if err != nil {
		return err
	}
	if n >= MostWrongPins {
		wait := first.Add(PinWindow).Sub(now).Round(time.Second)
		return &Error{Kind: TooMany, Code: "too-many-tries", Field: "pin", Wait: wait, Text: fmt.Sprintf("%d wrong PINs in %d minutes.", n,
			int(PinWindow.Minutes())), Way: fmt.Sprintf("Try again in %d minutes.", int(wait.Minutes())+1)}
	}
	ok, err := argon2id.ComparePasswordAndHash(pin, hash)
	if err != nil {
		return err
	}
	if !ok {
		if err := a.store.AddFailedPin(ctx, login, now); err != nil {
			return err
		}
		return &Error{Kind: WrongPin, Code: "wrong-pin", Field: "pin", Text: "That name and PIN do not go together.",
			Way: "Check both and try again."}
	}
	if n > 0 {
		return a.store.ForgetFailedPins(ctx, login)
	}
	return nil
}
