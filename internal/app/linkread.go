package app

import (
	"context"
	"errors"
	"slices"
	"strings"
	"time"

	"github.com/google/uuid"

	"dynacor/core/crib"
	"dynacor/core/refusal"
	"dynacor/core/trace"
	"dynacor/core/unit"
	"dynacor/core/work"
	"dynacor/internal/judge"
	"dynacor/internal/store"
)

// LinkedReading is a reading as it is shown: with its trace, what it was to reach, in its own
// unit, and what the trace tells.
type LinkedReading struct {
	store.Reading
	Trace []trace.Point
	Aim   work.Target // zero: nothing
	Story trace.Story // empty: it has none
}

// ToolLink is how a tool speaks with the server.
type ToolLink struct {
	Since    time.Time
	Seen     *time.Time
	Readings []store.Reading // the newest, newest first
	Lines    []store.BadLine
}

// Speaks reports whether a tool of a kind can be given a key.
func Speaks(t crib.Tool) bool { return t.Kind.Measures() || t.Kind == crib.Pump }

// ToolLink returns it; ok is false where the tool has no key.
func (a *App) ToolLink(ctx context.Context, tag string) (l ToolLink, ok bool, err error) {
	k, err := a.store.ToolKey(ctx, tag)
	if errors.Is(err, store.ErrNotFound) {
		return l, false, nil
	}
	if err != nil {
		return l, false, err
	}
	const most = 20
	l.Since, l.Seen = k.MadeAt, k.Seen
	if l.Readings, err = a.store.ReadingsOf(ctx, tag, most); err != nil {
		return l, false, err
	}
	l.Lines, err = a.store.BadLines(ctx, tag, most)
	return l, true, err
}

// OpenReadings are what linked tools read for a run that somebody has to say something of;
// linked are those of its tools that were heard lately.
func (a *App) OpenReadings(ctx context.Context, run uuid.UUID) (out []LinkedReading, linked []string, err error) {
	r, err := a.Run(ctx, run)
	if err != nil {
		return nil, nil, err
	}
	var tools []string
	for _, t := range r.State.Tooling {
		for _, stages := range t.Hands() {
			for _, s := range stages {
				if !slices.Contains(tools, s.Tools[0]) {
					tools = append(tools, s.Tools[0])
				}
			}
		}
	}
	list, err := a.store.OpenReadings(ctx, run, tools)
	if err != nil {
		return nil, nil, err
	}
	// Asked after the readings: a tool of which there is one was heard.
	heard, err := a.store.HeardSince(ctx, a.now().Add(-HeardLately))
	if err != nil {
		return nil, nil, err
	}
	linked = slices.DeleteFunc(heard, func(tag string) bool { return !slices.Contains(tools, tag) })
	out = make([]LinkedReading, len(list))
	for i, x := range list {
		out[i] = a.told(r, x)
	}
	return out, linked, nil
}

// Reading returns a reading with its trace and what that tells.
func (a *App) Reading(ctx context.Context, id uuid.UUID) (LinkedReading, error) {
	x, err := a.store.Reading(ctx, id)
	if err != nil {
		return LinkedReading{}, found(err, "reading")
	}
	if x.Run == nil {
		return LinkedReading{Reading: x, Trace: readTrace(x.Trace)}, nil
	}
	r, err := a.Run(ctx, *x.Run)
	if err != nil {
		return LinkedReading{}, err
	}
	return a.told(r, x), nil
}

// told tells the story of a reading's trace by what its pull was to reach: of one that is a
// pull, with the tool it was made with; else by what is next.
func (a *App) told(r Run, x store.Reading) LinkedReading {
	out := LinkedReading{Reading: x, Trace: readTrace(x.Trace)}
	aim, ok := r.State.Target(x.Tool)
	if l, there := lineOfEntry(r, x.ID); there {
		aim, ok = r.State.Aimed(l)
	}
	aim, err := aim.In(unit.Unit(x.Unit))
	if !ok || err != nil || len(out.Trace) == 0 {
		return out
	}
	out.Aim = aim
	if s, err := trace.Tell(out.Trace, aim.Value, aim.Low, aim.Unit); err == nil {
		out.Story = s
	}
	return out
}

// SettleReading says what a reading is that nothing became of by itself: the pull that is
// next in a run, or none, for a reason.
func (a *App) SettleReading(ctx context.Context, who Who, id, run uuid.UUID, claim bool, reason string) error {
	x, err := a.store.Reading(ctx, id)
	if err != nil {
		return found(err, "reading")
	}
	if x.Verdict != ReadWaits && x.Verdict != ReadPast {
		return &Error{Kind: Conflict, Code: "settled", Text: "Something became of this reading already: " + x.Verdict + ".", Way: "Look again."}
	}
	if x.Run != nil && claim && *x.Run != run {
		return refusal.New(refusal.Contradicts, "run", "It was read for another joint.", "Claim it there.")
	}
	if x.Run != nil {
		run = *x.Run
	}
	var r Run
	if claim || run != uuid.Nil {
		if r, err = a.Run(ctx, run); err != nil {
			return err
		}
		if l, there := lineOfEntry(r, id); there { // it is on the record, and that was not noted here
			x.Run, x.Verdict, x.Says = &run, ReadClaimed, heldWords(l)
			return a.settled(ctx, x)
		}
	}
	if !claim {
		if strings.TrimSpace(reason) == "" {
			return refusal.New(refusal.NeedsReason, "reason", "A reading is laid aside.", "Say why it is no pull.")
		}
		x.Verdict, x.Says = ReadDropped, strings.TrimSpace(reason)
		return a.settled(ctx, x)
	}
	t, ok, err := a.targetIn(ctx, r, x.Tool)
	if err != nil {
		return err
	}
	if !ok {
		return refusal.New(refusal.NotNow, "reading", x.Tool+" is not set and in hand for the bolt that is next.", "Take it in hand and set it first.")
	}
	d := pullOf(t, &x, ToolReading{Peak: unit.Of(x.Value, unit.Unit(x.Unit)), Angle: x.Angle})
	if _, err := a.AddEntry(ctx, who, judge.NewEntry{Run: run, ID: x.ID, At: a.now(), Confirmed: true, Content: d}); err != nil {
		return err
	}
	x.Run, x.Verdict, x.Says = &run, ReadClaimed, "claimed for "+t.Words
	return a.settled(ctx, x)
}

// settled keeps what became of a reading, and tells whoever is at its joint.
func (a *App) settled(ctx context.Context, x store.Reading) error {
	if err := a.store.KeepReading(ctx, x); err != nil {
		return err
	}
	if x.Run != nil {
		if head, err := a.store.RunByID(ctx, *x.Run); err == nil {
			a.tell(store.Notice{Joint: head.Joint, Entries: store.Otherwise})
		}
	}
	return nil
}
