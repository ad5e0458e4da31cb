package app

import (
	"context"
	"crypto/rand"
	"crypto/sha256"
	"crypto/subtle"
	"encoding/hex"
	"encoding/json"
	"errors"
	"fmt"
	"time"

	"github.com/google/uuid"

	"dynacor/core/crib"
	"dynacor/core/person"
	"dynacor/core/record"
	"dynacor/core/refusal"
	"dynacor/core/trace"
	"dynacor/core/unit"
	"dynacor/core/work"
	"dynacor/internal/judge"
	"dynacor/internal/store"
)

// What became of a reading. Held: it is a pull of the record. Short: too little, the same
// bolt again. Past, waits: somebody says what it is. Claimed: somebody did. Dropped:
// somebody said that it was none. Offered: an instrument's, that whoever measures may take.
const (
	ReadHeld    = "held"
	ReadShort   = "short"
	ReadPast    = "past"
	ReadWaits   = "waits"
	ReadClaimed = "claimed"
	ReadDropped = "dropped"
	ReadOffered = "offered"
)

// errNoLink is the answer to a tool whose tag and key do not go together: which of the two is
// wrong is nobody's business.
var errNoLink = &Error{Kind: NotSignedIn, Code: "no-link", Field: "key", Text: "That tool and that key do not go together.",
	Way: "Make it a new key in the Crib."}

// MakeToolKey gives a tool a key of its own and returns it: it is shown once, and what it
// had before is worth nothing.
func (a *App) MakeToolKey(ctx context.Context, who Who, tag string) (string, error) {
	if !who.Is(person.CribKeeper) {
		return "", &Error{Kind: NotAllowed, Code: "not-yours", Text: "A crib keeper makes the keys of tools.", Way: "Ask one."}
	}
	t, err := a.store.ToolByTag(ctx, tag)
	if err != nil {
		return "", found(err, "tool")
	}
	if t.Scrapped != "" || !Speaks(t.Data()) {
		return "", refusal.New(refusal.Contradicts, "tool", fmt.Sprintf("%s has nothing to send.", tag), "")
	}
	secret := make([]byte, 20)
	if _, err := rand.Read(secret); err != nil {
		return "", err
	}
	key := hex.EncodeToString(secret)
	sum := sha256.Sum256([]byte(key))
	return key, a.store.SetToolKey(ctx, tag, sum[:], who.ID, a.now())
}

// DropToolKey lets a tool sign in no more.
func (a *App) DropToolKey(ctx context.Context, who Who, tag string) error {
	if !who.Is(person.CribKeeper) {
		return &Error{Kind: NotAllowed, Code: "not-yours", Text: "A crib keeper takes the keys of tools.", Way: "Ask one."}
	}
	return a.store.DropToolKey(ctx, tag)
}

// LinkTool lets a tool sign in with its key, and returns what it is.
func (a *App) LinkTool(ctx context.Context, tag, key string) (crib.Tool, error) {
	k, err := a.store.ToolKey(ctx, tag)
	sum := sha256.Sum256([]byte(key))
	if errors.Is(err, store.ErrNotFound) || err == nil && subtle.ConstantTimeCompare(k.Key, sum[:]) != 1 {
		return crib.Tool{}, errNoLink
	}
	if err != nil {
		return crib.Tool{}, err
	}
	t, err := a.store.ToolByTag(ctx, tag)
	if err != nil {
		return crib.Tool{}, found(err, "tool")
	}
	return t.Data(), a.store.HeardTool(ctx, tag, a.now())
}

// HeardTool notes that a linked tool is there.
func (a *App) HeardTool(ctx context.Context, tag string) error {
	return a.store.HeardTool(ctx, tag, a.now())
}

// ToolTarget is what a linked tool is to do next.
type ToolTarget struct {
	work.Target
	ID    string // of the act in its run: a reading for it says so
	Run   uuid.UUID
	Joint uuid.UUID
	Tag   string // of the joint
	Name  string // of the bolt
	Words string
}

// ToolTarget returns what a tool is to do next; ok is false where nobody has it in hand.
func (a *App) ToolTarget(ctx context.Context, tag string) (t ToolTarget, ok bool, err error) {
	run, err := a.store.ToolInHand(ctx, tag)
	if errors.Is(err, store.ErrNotFound) {
		return t, false, nil
	}
	if err != nil {
		return t, false, err
	}
	r, err := a.Run(ctx, run)
	if err != nil {
		return t, false, err
	}
	return a.targetIn(ctx, r, tag)
}

func (a *App) targetIn(ctx context.Context, r Run, tag string) (t ToolTarget, ok bool, err error) {
	t.Run, t.Joint = r.Head.ID, r.Plan.Joint
	if t.Target, ok = r.State.Target(tag); !ok || r.Fault != "" || r.Head.Closed {
		return t, false, nil
	}
	j, err := a.store.Joint(ctx, r.Plan.Joint)
	if err != nil {
		return t, false, err
	}
	act := t.Act
	sum := sha256.Sum256(fmt.Appendf(nil, "%s %s %d %g %d %d", r.Head.ID, act.Step, act.Bolt, act.Share, act.Stroke, act.Round))
	st, _ := r.State.Plan().Step(act.Step)
	g, _ := r.Plan.Result.Group(st.Group)
	t.ID, t.Tag, t.Name, t.Words = hex.EncodeToString(sum[:8]), j.Tag, g.BoltName(act.Bolt), r.State.Describe(act)
	return t, true, nil
}

// ToolReading is what a linked tool read.
type ToolReading struct {
	ID     uuid.UUID
	At     time.Time     // by the tool's own clock
	Off    time.Duration // the server's clock is ahead of it by
	Peak   unit.Quantity
	Angle  *float64 // degrees; nil: it does not read it
	Trace  []trace.Point
	Target string // the target it is for; empty: whatever is next
	// Of a tool that reads, and pulls nothing: it is offered to whoever measures.
	Instrument bool
}

// TakenReading is what became of one.
type TakenReading struct {
	Verdict string
	Says    string
}

// TakeReading keeps what a linked tool read, and what it is a pull of: by itself where it
// held, for somebody to say where it did not. The same reading again is answered as before.
func (a *App) TakeReading(ctx context.Context, tag string, r ToolReading) (TakenReading, error) {
	if r.Angle != nil {
		if err := refusal.NotNegative("angle", *r.Angle, string(unit.Degree)); err != nil {
			return TakenReading{}, err
		}
	}
	if err := trace.Check(r.Trace); err != nil {
		return TakenReading{}, err
	}
	if !r.Instrument { // what an instrument reads may be none, or below it
		if err := refusal.Positive("peak", r.Peak.Value, string(r.Peak.Unit)); err != nil {
			return TakenReading{}, err
		}
	}
	if _, err := unit.DimensionOf(r.Peak.Unit); err != nil {
		return TakenReading{}, refusal.At("peak", err)
	}
	row := store.Reading{ID: r.ID, Tool: tag, AtTool: r.At.UTC(), Got: a.now(), Value: r.Peak.Value, Unit: string(r.Peak.Unit), Angle: r.Angle,
		Trace: traceForm(r.Trace), Target: r.Target, Verdict: ReadWaits}
	switch before, err := a.store.Reading(ctx, r.ID); {
	case err == nil && (before.Tool != tag || before.Value != row.Value || before.Unit != row.Unit || before.Trace != row.Trace):
		return TakenReading{}, &Error{Kind: Conflict, Code: "reading-taken", Field: "id",
			Text: "Another reading with this identity is kept already.", Way: "Send it with a new identity."}
	case err == nil && before.Verdict != ReadWaits:
		return TakenReading{before.Verdict, before.Says}, nil
	case err != nil && !errors.Is(err, store.ErrNotFound):
		return TakenReading{}, err
	}
	if r.Instrument {
		row.Verdict, row.Says = ReadOffered, "Offered to whoever measures."
		return TakenReading{row.Verdict, row.Says}, a.store.KeepReading(ctx, row)
	}
	out, err := a.pullBy(ctx, &row, r)
	if err != nil {
		return out, err
	}
	row.Verdict, row.Says = out.Verdict, out.Says
	if out.Verdict == ReadHeld { // its entry tells
		return out, a.store.KeepReading(ctx, row)
	}
	return out, a.settled(ctx, row)
}

// pullBy makes a reading a pull of the run in which its tool is in hand, where it held.
func (a *App) pullBy(ctx context.Context, row *store.Reading, r ToolReading) (TakenReading, error) {
	id, err := a.store.ToolInHand(ctx, row.Tool)
	if errors.Is(err, store.ErrNotFound) {
		return TakenReading{ReadWaits, "Nobody has this tool in hand at a joint."}, nil
	}
	if err != nil {
		return TakenReading{}, err
	}
	row.Run = &id
	run, err := a.Run(ctx, id)
	if err != nil {
		return TakenReading{}, err
	}
	if l, there := lineOfEntry(run, r.ID); there { // it was stored, and its answer was lost
		return TakenReading{ReadHeld, heldWords(l)}, nil
	}
	t, ok, err := a.targetIn(ctx, run, row.Tool)
	switch {
	case err != nil:
		return TakenReading{}, err
	case !ok:
		return TakenReading{ReadWaits, "It is not this tool's turn at " + jointWords(t) + "."}, nil
	case r.Target != "" && r.Target != t.ID:
		return TakenReading{ReadWaits, fmt.Sprintf("That bolt is done, or another is next: %s.", t.Words)}, nil
	}
	told, says, err := t.Tell(r.Peak)
	if err != nil {
		return TakenReading{}, err
	}
	if told != work.ToldHeld {
		verdict := ReadShort
		if told == work.ToldPast {
			verdict = ReadPast
		}
		return TakenReading{verdict, fmt.Sprintf("%s: %s", t.Name, says)}, nil
	}
	if t.Act.Round > 0 && r.Angle == nil {
		return TakenReading{ReadWaits, t.Name + " reached it; this tool does not say whether the nut moved."}, nil
	}
	return a.storePull(ctx, run, t, row, r)
}

func jointWords(t ToolTarget) string {
	if t.Tag == "" {
		return "its joint"
	}
	return t.Tag
}

// storePull adds the pull to the record, in the name of whoever has the tool in hand.
func (a *App) storePull(ctx context.Context, run Run, t ToolTarget, row *store.Reading, r ToolReading) (TakenReading, error) {
	by, _, _ := run.State.InHand(row.Tool)
	who, err := a.whoIs(ctx, by)
	var said *Error
	if errors.As(err, &said) {
		return TakenReading{ReadWaits, said.Text}, nil
	}
	if err != nil {
		return TakenReading{}, err
	}
	row.Verdict = ReadWaits // kept before the entry names it
	if err := a.store.KeepReading(ctx, *row); err != nil {
		return TakenReading{}, err
	}
	n := judge.NewEntry{Run: run.Head.ID, ID: r.ID, At: r.At, Off: r.Off, Content: pullOf(t, row, r)}
	if r.Off.Abs() < judge.LeastOff { // a clock that is off by little is mended without a word
		n.At, n.Off = r.At.Add(r.Off), 0
	}
	_, err = a.AddEntry(ctx, who, n)
	var refused *refusal.Error
	switch {
	case errors.As(err, &refused):
		return TakenReading{ReadWaits, refused.Text}, nil
	case errors.As(err, &said):
		return TakenReading{ReadWaits, said.Text}, nil
	case err != nil:
		return TakenReading{}, err
	}
	return TakenReading{ReadHeld, fmt.Sprintf("%s held: %.4g %s.", t.Name, r.Peak.Value, r.Peak.Unit)}, nil
}

// pullOf is the pull that a reading is of.
func pullOf(t ToolTarget, row *store.Reading, r ToolReading) record.Done {
	d := record.Done{Act: t.Act, Reading: r.Peak, Taken: row.Tool}
	if r.Angle != nil {
		d.Angle = *r.Angle
	}
	if row.Trace != "" {
		d.Trace = store.HashOf([]byte(row.Trace))
	}
	return d
}

// whoIs is somebody by their identity, as they are now.
func (a *App) whoIs(ctx context.Context, id string) (Who, error) {
	at, err := uuid.Parse(id)
	if err != nil {
		return Who{}, err
	}
	p, err := a.store.PersonByID(ctx, at)
	if err != nil {
		return Who{}, found(err, "person")
	}
	if !p.Active {
		return Who{}, &Error{Kind: NotAllowed, Code: "not-active", Text: p.Name + " does not work here any more.",
			Way: "Somebody else takes the tool in hand and sets it."}
	}
	return Who{ID: p.ID, Roles: p.Roles, Qualifications: p.Qualifications}, nil
}

func lineOfEntry(r Run, id uuid.UUID) (work.Line, bool) {
	for _, l := range r.State.Lines() {
		if l.Entry.ID == id.String() {
			return l, true
		}
	}
	return work.Line{}, false
}

func heldWords(l work.Line) string {
	d, _ := l.Entry.Content.(record.Done)
	return fmt.Sprintf("bolt %d held: %s.", d.Bolt, d.Reading)
}

// traceForm is how a trace is kept, and hashed.
func traceForm(points []trace.Point) string {
	if len(points) == 0 {
		return ""
	}
	rows := make([][2]float64, len(points))
	for i, p := range points {
		rows[i] = [2]float64{p.Angle, p.Torque}
	}
	b, _ := json.Marshal(rows) // finite, as it was checked
	return string(b)
}

func readTrace(text string) []trace.Point {
	var rows [][2]float64
	if text == "" || json.Unmarshal([]byte(text), &rows) != nil {
		return nil
	}
	out := make([]trace.Point, len(rows))
	for i, r := range rows {
		out[i] = trace.Point{Angle: r[0], Torque: r[1]}
	}
	return out
}

// KeepBadLine keeps a line of a tool that was none, for whoever keeps the crib.
func (a *App) KeepBadLine(ctx context.Context, tag, line, says string, more int) error {
	const most = 300
	if len(line) > most {
		line = line[:most]
	}
	return a.store.KeepLine(ctx, tag, store.BadLine{At: a.now(), Says: says, Line: fmt.Sprintf("%q", line), More: more})
}
