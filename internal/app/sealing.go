package app

import (
	"context"
	"log/slog"
	"time"

	"dynacor/internal/seal"
	"dynacor/internal/store"
)

// sealer seals what is stored, and writes heads to a second place as they come.
type sealer struct {
	key     seal.Key
	journal *seal.Journal // nil: there is no second place
	lines   chan seal.Line
	now     chan struct{} // something was signed
}

const (
	// sealEvery is how often what nobody signed is sealed: what is cut off after that is
	// missed.
	sealEvery = 10 * time.Minute
	// sealAgain is how soon it is tried again after that failed.
	sealAgain = 5 * time.Second
	// mostLines wait for the second place at the most; what does not fit is sealed all the same.
	mostLines = 16_384
	// linesTogether are written to it at a time.
	linesTogether = 1024
)

// SealWith has what is stored sealed with a key, and heads written to a journal, where
// there is one. It is called before Start.
func (a *App) SealWith(ctx context.Context, key seal.Key, journal *seal.Journal) error {
	a.sealer = &sealer{key: key, journal: journal, lines: make(chan seal.Line, mostLines), now: make(chan struct{}, 1)}
	return a.store.AddKey(ctx, key.Public(), a.now())
}

// sealSoon has what was signed sealed.
func (a *App) sealSoon() {
	if a.sealer != nil {
		select {
		case a.sealer.now <- struct{}{}:
		default: // it is on its way
		}
	}
}

// sealRecords seals what was signed and is not sealed yet.
func (a *App) sealRecords(ctx context.Context) error {
	if a.sealer == nil {
		return nil
	}
	done, err := a.store.SealRecords(ctx, a.sealer.key, a.now())
	if err == nil {
		a.sealer.tell(done)
	}
	return err
}

// Seal seals all that moved since it was last sealed; once a day it counts all runs, too.
func (a *App) Seal(ctx context.Context) error {
	if a.sealer == nil {
		return nil
	}
	if err := a.sealRecords(ctx); err != nil {
		return err
	}
	last, err := a.store.LastDay(ctx)
	if err != nil {
		return err
	}
	now := a.now()
	done, err := a.store.SealHeads(ctx, a.sealer.key, now, last.UTC().Format(time.DateOnly) != now.UTC().Format(time.DateOnly))
	if err == nil {
		a.sealer.tell(done)
	}
	return err
}

// tell writes seals to the second place, once they are stored: of a commit that was cut off
// nobody knows whether they are.
func (s *sealer) tell(done []store.Seal) {
	for _, x := range done {
		s.line(seal.Line{At: time.Now(), Seal: x.Number, Body: x.Body, Signature: x.Signature})
	}
}

// head writes the head of a run to the second place.
func (s *sealer) head(r store.Run, at time.Time) {
	if s != nil {
		s.line(seal.Line{At: at, Run: r.ID.String(), Seq: r.HeadSeq, Hash: r.HeadHash})
	}
}

func (s *sealer) line(l seal.Line) {
	if s.journal == nil {
		return
	}
	select {
	case s.lines <- l:
	default:
		slog.Error("the second place does not keep up; a line is left out", "run", l.Run, "seal", l.Seal)
	}
}

// keepSealing seals, and writes to the second place, until ctx ends.
func (a *App) keepSealing(ctx context.Context) {
	if a.sealer == nil {
		return
	}
	if a.sealer.journal != nil {
		go a.sealer.write(ctx)
	}
	tick := time.NewTicker(sealEvery)
	defer tick.Stop()
	do := a.Seal
	for {
		var again <-chan time.Time
		if err := do(ctx); err != nil && ctx.Err() == nil {
			slog.Error("not sealed; tried again soon", "error", err)
			again = time.After(sealAgain)
		}
		select {
		case <-ctx.Done():
			return
		case <-again:
			do = a.Seal
		case <-a.sealer.now:
			do = a.sealRecords
		case <-tick.C:
			do = a.Seal
		}
	}
}

// write brings lines to the second place, until ctx ends and none is left.
func (s *sealer) write(ctx context.Context) {
	defer s.journal.Close()
	for {
		var lines []seal.Line
		select {
		case l := <-s.lines:
			lines = append(lines, l)
		case <-ctx.Done():
			select {
			case l := <-s.lines:
				lines = append(lines, l)
			default:
				return
			}
		}
	more:
		for len(lines) < linesTogether {
			select {
			case l := <-s.lines:
				lines = append(lines, l)
			default:
				break more
			}
		}
		if err := s.journal.Write(lines); err != nil {
			slog.Error("heads were not written to the second place", "error", err, "lines", len(lines))
		}
	}
}
