// Package app holds the use cases: each loads what it needs, asks the core,
// and stores what came of it.
package app

import (
	"context"
	"errors"
	"fmt"
	"maps"
	"slices"
	"sync"
	"sync/atomic"
	"time"

	"github.com/google/uuid"
	lru "github.com/hashicorp/golang-lru/v2"
	"github.com/jackc/pgx/v5/pgxpool"
	"golang.org/x/sync/singleflight"

	"dynacor/core/record"
	"dynacor/internal/judge"
	"dynacor/internal/store"
)

// App is the use cases over one database. Any number of them can share it.
type App struct {
	store *store.Store
	now   func() time.Time
	runs  *lru.Cache[uuid.UUID, *cell]

	zone     *time.Location  // of the times on a record
	sealer   *sealer         // nil: nothing is sealed
	together *store.Together // nil: each entry is stored by itself
	notices  chan store.Notice

	reading  sync.Mutex         // held while a whole outage is read
	editions sync.Map           // recipes that were read, by id and edition
	reads    singleflight.Group // of recipes
	bookMu   sync.Mutex
	bookKept bool

	rules   atomic.Pointer[siteRules]   // what the site goes by, as it was last read
	asked   atomic.Pointer[drillsAsked] // drills that are passed before a kind of joint is made, as they were last read
	people  atomic.Pointer[Names]       // names by id, as they were last read
	figures sync.Map                    // drawings by their key
	fits    sync.Map                    // what readings say of signed runs' gaskets, by run, last entry and group
	torn    sync.Map                    // what does not hold of a joint, by its id, as it was last found
	audited atomic.Pointer[store.Audited]
	counted atomic.Pointer[counted]    // pulls of tools, as they were last counted
	stale   stale                      // runs whose cards are behind
	shown   atomic.Pointer[shownCards] // the cards that the Wall showed last
}

// mostRuns is how many runs are kept folded: those of the largest outage, and
// to spare.
const mostRuns = 16_000

// New returns the use cases over s. now is the clock.
func New(s *store.Store, now func() time.Time) *App {
	runs, err := lru.New[uuid.UUID, *cell](mostRuns)
	if err != nil {
		panic(err) // only for a size below one
	}
	return &App{store: s, now: now, runs: runs, zone: localZone(), notices: make(chan store.Notice, 1024)}
}

// What the use cases share with the judge of a device.
type (
	Run       = judge.Run
	Names     = judge.Names
	Who       = judge.Who
	Error     = judge.Error
	ErrorKind = judge.ErrorKind
)

// The kinds of errors.
const (
	NotFound    = judge.NotFound
	NotAllowed  = judge.NotAllowed
	NotSignedIn = judge.NotSignedIn
	Conflict    = judge.Conflict
	WrongPin    = judge.WrongPin
	TooMany     = judge.TooMany
	Invalid     = judge.Invalid
)

func notFound(what string) error {
	return &Error{Kind: NotFound, Code: "not-found", Text: fmt.Sprintf("There is no such %s.", what), Way: "Go back to the Wall."}
}

func found(err error, what string) error {
	if errors.Is(err, store.ErrNotFound) {
		return notFound(what)
	}
	return err
}

// Ready reports whether the database answers.
func (a *App) Ready(ctx context.Context) error { return a.store.Ping(ctx) }

// Connections returns how the connections to the database are used.
func (a *App) Connections() *pgxpool.Stat { return a.store.Pool().Stat() }

// Start begins what goes on beside the requests, until ctx ends: entries that
// arrive at the same time are stored in one commit, and changes are told. It
// is called before the first request and ended after the last.
func (a *App) Start(ctx context.Context) {
	a.together = store.NewTogether(a.store)
	go a.together.Work(ctx)
	go a.announce(ctx)
	go a.keepCards(ctx)
	go a.keepSealing(ctx)
	go a.keepRecalling(ctx)
}

// append stores an entry at the head of a run.
func (a *App) append(ctx context.Context, head store.Run, e record.Entry, m store.Made) (record.Entry, store.Run, error) {
	if a.together != nil {
		return a.together.Append(ctx, head, e, m)
	}
	return a.store.Append(ctx, head, e, m)
}

// announce sends out, until ctx ends, word of the joints that changed. Many
// changes are sent together, so that telling does not slow down storing.
func (a *App) announce(ctx context.Context) {
	for {
		news := map[uuid.UUID]store.Notice{}
		hear := func(n store.Notice) {
			if before, ok := news[n.Joint]; ok && before.Entries == store.Otherwise {
				n.Entries = store.Otherwise
			}
			news[n.Joint] = n
		}
		select {
		case <-ctx.Done():
			return
		case n := <-a.notices:
			hear(n)
		}
	more:
		for len(news) < 256 {
			select {
			case n := <-a.notices:
				hear(n)
			default:
				break more
			}
		}
		// Lost word costs a second screen some seconds, never an entry.
		_ = a.store.Notify(ctx, slices.Collect(maps.Values(news)))
		select {
		case <-ctx.Done():
		case <-time.After(tellEvery):
		}
	}
}

// tellEvery is the least time between two tellings: each is a commit of its own.
const tellEvery = 20 * time.Millisecond

// changed tells that something other than a run's entries changed.
func (a *App) changed(joint uuid.UUID) { a.tell(store.Notice{Joint: joint, Entries: store.Otherwise}) }

func (a *App) tell(n store.Notice) {
	select {
	case a.notices <- n:
	default: // the queue is full of other news; screens look again by themselves
	}
}
