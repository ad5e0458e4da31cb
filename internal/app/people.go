package app

import (
	"context"
	"errors"
	"fmt"
	"runtime"
	"runtime/debug"
	"strings"
	"time"

	"github.com/alexedwards/argon2id"
	"github.com/google/uuid"

	"dynacor/core/person"
	"dynacor/internal/store"
)

// pinWindow is how far back wrong PINs count.
const pinWindow = 12 * time.Hour

// pinParams is the cost of guessing a PIN: RFC 9106's second recommended
// option, 64 MiB.
var pinParams = &argon2id.Params{Memory: 64 * 1024, Iterations: 3, Parallelism: uint8(min(4, runtime.NumCPU())), SaltLength: 16,
	KeyLength: 32}

// HashPin returns the PIN as it is stored.
func HashPin(pin string) (string, error) { return argon2id.CreateHash(pin, pinParams) }

// unknownHash is compared against where the login is unknown, so that both
// take as long.
const unknownHash = "$argon2id$v=19$m=65536,t=3,p=2$c29tZXNhbHRzb21lc2FsdA$F0VPL1fEpJQtsDKyDsNsGiUJCcYmHoBWiCSKzf7OYdA"

// SignIn returns the person with that login and PIN. address is where they come from;
// empty where that tells nobody apart.
func (a *App) SignIn(ctx context.Context, login, pin, address string) (store.Person, error) {
	login = strings.ToLower(strings.TrimSpace(login))
	p, err := a.store.PersonByLogin(ctx, login)
	hash := p.PinHash
	if errors.Is(err, store.ErrNotFound) {
		hash, err = unknownHash, nil
	}
	if err != nil {
		return store.Person{}, err
	}
	if err := a.checkPin(ctx, store.PinTry{Login: login, Address: address}, pin, hash); err != nil {
		return store.Person{}, err
	}
	a.Secure(ctx, SignedIn, p.ID, login, address, "")
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
	return WhoOf(x), err
}

// WhoOf is who a session is of, with what they may do.
func WhoOf(x store.Session) Who {
	return Who{ID: x.Person, Roles: x.Roles, Qualifications: x.Qualifications, Once: x.Once, Locale: x.Locale, Fact: x.Fact}
}

// confirm asks for the PIN of someone who is signed in, before a signature.
func (a *App) confirm(ctx context.Context, who uuid.UUID, pin string) error {
	p, err := a.store.PersonByID(ctx, who)
	if err != nil {
		return found(err, "person")
	}
	return a.checkPin(ctx, store.PinTry{Login: p.Login, Signing: true}, pin, p.PinHash)
}

// checkPin counts a try, then looks at the PIN: one who tries many at once has counted
// them all before the first is looked at.
func (a *App) checkPin(ctx context.Context, t store.PinTry, pin, hash string) error {
	t.At = a.now()
	n := 0
	// What others get wrong from the same address does not lengthen the pause of a name.
	wait, err := a.store.TryPin(ctx, t, t.At.Add(-pinWindow), func(login, address store.WrongPins) time.Duration {
		n = login.N
		mine, here := person.Pause(login.N)-t.At.Sub(login.Last), person.PauseHere(address.N)-t.At.Sub(address.Last)
		if here > mine {
			n = address.N
		}
		return max(mine, here)
	})
	if err != nil {
		return err
	}
	during := map[bool]string{true: "in signing", false: "at the sign-in"}[t.Signing]
	if wait > 0 {
		a.Secure(ctx, LockedOut, uuid.Nil, t.Login, t.Address, during)
		return &Error{Kind: TooMany, Code: "too-many-tries", Field: "pin", Wait: wait.Round(time.Second),
			Text: fmt.Sprintf("%d wrong PINs.", n),
			Way:  fmt.Sprintf("Try again in %d minutes, or have the administrator lift it.", int(wait.Minutes())+1)}
	}
	ok, err := matches(ctx, pin, hash)
	if err != nil {
		return err
	}
	if !ok {
		a.Secure(ctx, WrongPIN, uuid.Nil, t.Login, t.Address, during)
		return &Error{Kind: WrongPin, Code: "wrong-pin", Field: "pin", Text: "That name and PIN do not go together.",
			Way: "Check both and try again."}
	}
	return a.store.RightPin(ctx, t)
}

// hashing bounds how many PINs are hashed at a time: each takes 64 MiB.
var hashing = make(chan struct{}, 2)

// matches compares a PIN, when it is its turn, and gives the memory back.
func matches(ctx context.Context, pin, hash string) (bool, error) {
	select {
	case hashing <- struct{}{}:
	case <-ctx.Done():
		return false, ctx.Err()
	}
	defer func() { <-hashing }()
	defer handBack()
	return argon2id.ComparePasswordAndHash(pin, hash)
}

// idleHashing is how long nobody signs in before the memory goes back to the machine.
const idleHashing = 5 * time.Second

var idle = time.AfterFunc(time.Hour, debug.FreeOSMemory)

// handBack has what a hash took collected at once, so that many in a row take no more
// than those at one time, and given back to the machine once there are no more.
func handBack() {
	runtime.GC()
	idle.Reset(idleHashing)
}
