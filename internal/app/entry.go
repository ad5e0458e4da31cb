package app

import (
	"context"
	"errors"
	"fmt"
	"reflect"
	"strings"
	"time"

	"github.com/google/uuid"

	"dynacor/core/person"
	"dynacor/core/record"
	"dynacor/core/refusal"
	"dynacor/core/work"
	"dynacor/internal/store"
)

// NewEntry is an entry as it is asked for. Tools is set instead of Content where
// tools are chosen.
type NewEntry struct {
	Run       uuid.UUID
	ID        uuid.UUID
	At        time.Time
	Off       time.Duration // what the device's clock is behind the server's, as far as it knows
	Confirmed bool
	Content   record.Content
	Tools     *ToolChoice
	From      []uuid.UUID // readings of instruments that are among what was read
	Pin       string      // for a signature, and for a step that asks for a qualified person
	As        string      // who put that PIN to a step: their login; empty: whoever is signed in
}

// AddEntry stores an entry and returns the run with it. The same entry sent
// again changes nothing and is answered as the first time.
//
// Who somebody is may be remembered for a plain act: the commit that stores it
// looks whether that still holds. Whatever else comes of it, they are looked up.
func (a *App) AddEntry(ctx context.Context, who Who, n NewEntry) (Run, error) {
	if who.Remembered == "" {
		return a.addEntry(ctx, who, n)
	}
	if n.plain() {
		if r, err := a.addEntry(ctx, who, n); err == nil && r.Before != nil {
			return r, nil
		}
	}
	who, err := a.Look(ctx, who.Remembered)
	if err != nil {
		return Run{}, err
	}
	return a.addEntry(ctx, who, n)
}

// errNotPlain is what an act comes to that asks for a PIN, where who does it is
// remembered.
var errNotPlain = errors.New("not a plain act")

// plain reports whether an entry does nothing but say what was done.
func (n NewEntry) plain() bool {
	switch n.Content.(type) {
	case record.Done, record.Setting:
		return n.Pin == ""
	}
	return false
}

func (a *App) addEntry(ctx context.Context, who Who, n NewEntry) (Run, error) {
	if err := may(who, n); err != nil {
		return Run{}, err
	}
	n.Content = tidyContent(n.Content)
	c, err := a.cell(ctx, n.Run)
	if err != nil {
		return Run{}, err
	}
	if r, stored, err := a.again(ctx, c, who, n); stored || err != nil {
		return r, err
	}
	if err := a.checkTime(n.at()); err != nil {
		return Run{}, err
	}
	facts, err := a.complete(ctx, who, c, &n)
	if err != nil {
		return Run{}, err
	}
	r, err := a.put(ctx, who, c, n, facts)
	if err == nil {
		err = a.claimed(ctx, n, r)
	}
	if report, is := n.Content.(record.Report); is && err == nil {
		a.recall(ctx, report.Tool)
	}
	return r, err
}

// put stores an entry of which all is known.
func (a *App) put(ctx context.Context, who Who, c *cell, n NewEntry, facts work.Facts) (Run, error) {
	made, err := a.restsOn(ctx, who, n.Content)
	if err != nil {
		return Run{}, err
	}
	c.mu.Lock()
	defer c.mu.Unlock()
	facts.Now = a.now()
	e := record.Entry{ID: n.ID.String(), AtTool: n.at(), AtDevice: n.atDevice(), Person: who.ID.String(), Confirmed: n.Confirmed,
		Content: n.Content}
	// The first try trusts the memory; when that is behind, it is brought up to
	// the database and everything is looked at anew.
	for try := 0; ; try++ {
		r, err := a.tryAppend(ctx, c, e, facts, made)
		if err == nil || try == mostTries || ctx.Err() != nil || who.Remembered != "" {
			return r, err
		}
		again, err := a.catchUpAfter(ctx, c, err, try)
		if err != nil || !again {
			return Run{}, err
		}
		if _, there := c.ids[e.ID]; there {
			return c.same(who, n)
		}
		if facts.Held, err = a.store.HeldTools(ctx); err != nil {
			return Run{}, err
		}
	}
}

// mostTries is how often an entry is tried while other servers store entries of the same
// run; the request's own end comes before.
const mostTries = 1000

// catchUpAfter brings c up to the database after an entry was not taken, and
// reports whether that changes anything; else it returns why it was not taken.
func (a *App) catchUpAfter(ctx context.Context, c *cell, why error, try int) (again bool, err error) {
	var refused *refusal.Error
	behind := errors.Is(why, store.ErrStale) || errors.Is(why, store.ErrTaken)
	if !behind && (!errors.As(why, &refused) || try > 0) {
		return false, why
	}
	head, err := a.store.RunByID(ctx, c.head.ID)
	if err != nil {
		return false, found(err, "run")
	}
	if head.Closed {
		return false, &Error{Kind: Conflict, Code: "plan-replaced", Text: "A newer revision of this plan was issued; this run is closed.",
			Way: "Open the joint again."}
	}
	moved := c.to(head) != same
	switch {
	case refused != nil && !moved, !moved && try >= 3: // nobody else is at it: trying on changes nothing
		return false, why
	case errors.Is(why, store.ErrTaken) && !moved:
		return false, &Error{Kind: Conflict, Code: "entry-taken", Field: "id", Text: "An entry with this identity belongs to another run.",
			Way: "Send it with a new identity."}
	}
	return true, a.catchUp(ctx, c, head)
}

// tryAppend adds e to c as it is remembered. c.mu is held.
func (a *App) tryAppend(ctx context.Context, c *cell, e record.Entry, f work.Facts, m store.Made) (Run, error) {
	if c.head.Closed {
		return Run{}, store.ErrStale
	}
	if c.fault != "" {
		return Run{}, doesNotHold(c.fault)
	}
	if err := c.state.Accept(e, f); err != nil {
		return Run{}, err
	}
	e.AtServer = a.now()
	m.Tools = c.tools(e.Content)
	stored, head, err := a.append(ctx, c.head, e, m)
	if err != nil {
		return Run{}, err
	}
	before := c.state
	c.head = head
	c.then(stored)
	a.tell(store.Notice{Joint: c.plan.Joint, Entries: head.HeadSeq})
	a.stale.add(head.ID)
	a.sealer.head(head, stored.AtServer)
	if _, signed := e.Content.(record.Signature); signed {
		a.sealSoon()
	}
	r := c.run()
	r.Before = before
	return r, nil
}

// again answers an entry that is stored already: as the first time when it is
// the same, refused when it is another under the same identity. That it is stored is
// looked up, not remembered: the database may have gone back since.
func (a *App) again(ctx context.Context, c *cell, who Who, n NewEntry) (r Run, stored bool, err error) {
	c.mu.Lock()
	defer c.mu.Unlock()
	if _, there := c.ids[n.ID.String()]; !there {
		return Run{}, false, nil
	}
	head, err := a.store.RunByID(ctx, c.head.ID)
	if err != nil {
		return Run{}, false, found(err, "run")
	}
	if err := a.catchUp(ctx, c, head); err != nil {
		return Run{}, false, err
	}
	if _, there := c.ids[n.ID.String()]; !there {
		return Run{}, false, nil
	}
	r, err = c.same(who, n)
	return r, true, err
}

// same returns the run where it holds just this entry. c.mu is held.
func (c *cell) same(who Who, n NewEntry) (Run, error) {
	e := c.state.Lines()[c.ids[n.ID.String()]].Entry
	if e.Person == who.ID.String() && n.says(e.Content) {
		return c.run(), nil
	}
	return Run{}, &Error{Kind: Conflict, Code: "entry-taken", Field: "id", Text: "Another entry with this identity is stored already.",
		Way: "Send it with a new identity."}
}

// says reports whether an entry asks for what is stored; what the server fills
// in apart.
func (n NewEntry) says(stored record.Content) bool {
	switch s := stored.(type) {
	case record.Tooling:
		return n.Tools != nil && n.Tools.Group == s.Group && n.Tools.are(s.Hands())
	case record.Caution:
		c, ok := n.Content.(record.Caution)
		return ok && c.Step == s.Step
	case record.Report:
		c, ok := n.Content.(record.Report)
		return ok && c.Tool == s.Tool && c.What == s.What && c.Note == s.Note
	case record.Photo:
		c, ok := n.Content.(record.Photo)
		return ok && c.Hash == s.Hash && c.Step == s.Step && c.What == s.What
	case record.Done:
		c, ok := n.Content.(record.Done)
		c.Qualified = s.Qualified
		if len(n.From) > 0 {
			c.Taken = s.Taken
		}
		return ok && reflect.DeepEqual(c, s)
	case record.Setting:
		c, ok := n.Content.(record.Setting)
		if len(n.From) > 0 {
			c.Taken = s.Taken
		}
		return ok && reflect.DeepEqual(c, s)
	}
	return reflect.DeepEqual(n.Content, stored)
}

// tidyContent drops what says nothing, so that an entry is the same however it
// was written.
func tidyContent(c record.Content) record.Content {
	switch c := c.(type) {
	case record.Done:
		return tidyDone(c)
	case record.Correction:
		if d, ok := c.Instead.(record.Done); ok {
			c.Instead = tidyDone(d)
		}
		return record.Correction{Of: c.Of, Instead: c.Instead, Reason: strings.TrimSpace(c.Reason)}
	case record.Decision:
		return record.Decision{Tool: c.Tool, Reason: strings.TrimSpace(c.Reason)}
	case record.Lubricant:
		return record.Lubricant{Group: c.Group, Is: strings.TrimSpace(c.Is), Note: strings.TrimSpace(c.Note)}
	case record.Answer:
		return record.Answer{Tool: c.Tool, How: c.How, Reason: strings.TrimSpace(c.Reason)}
	case record.Recheck:
		c.With = strings.TrimSpace(c.With)
		return c
	case record.Photo:
		return record.Photo{Step: c.Step, Hash: c.Hash, What: strings.TrimSpace(c.What)}
	case record.Signature:
		return record.Signature{Part: c.Part, Reason: strings.TrimSpace(c.Reason)}
	}
	return c
}

func tidyDone(c record.Done) record.Done {
	c = work.ByAngle(c)
	c.Reason = strings.TrimSpace(c.Reason)
	if len(c.Readings) == 0 {
		c.Readings = nil
	}
	if len(c.Bolts) == 0 {
		c.Bolts = nil
	}
	if len(c.Marks) == 0 {
		c.Marks = nil
	}
	return c
}

// complete fills in what the server knows of an entry, asks for the PIN where it
// is signed for, and holds a tool back that was reported.
func (a *App) complete(ctx context.Context, who Who, c *cell, n *NewEntry) (f work.Facts, err error) {
	if n.Tools != nil {
		if n.Content, err = a.choose(ctx, who, c, *n.Tools); err != nil {
			return f, err
		}
	}
	if err := a.takes(ctx, c, n); err != nil {
		return f, err
	}
	switch x := n.Content.(type) {
	case record.Caution:
		x.Points = c.acts.Cautions(x.Step)
		n.Content = x
	case record.Photo:
		n.Content, err = a.photographed(ctx, x)
	case record.Report:
		n.Content, err = a.reported(ctx, who, c, n.ID, x)
	case record.Recheck:
		f.Held, err = a.triedWith(ctx, x.With)
	case record.Tooling, record.Setting:
		f.Held, err = a.store.HeldTools(ctx)
	case record.Done, record.Signature, record.Correction:
		if sig, ok := x.(record.Signature); ok {
			if err := a.saysWhy(ctx, sig.Reason); err != nil {
				return f, err
			}
		}
		f.Qualified, err = a.qualify(ctx, who, c, n)
	}
	return f, err
}

// by is the qualification an entry asks for; empty for none. Whoever keeps a reading that
// is outside puts their PIN to it where the step says who that is.
func (c *cell) by(what record.Content, pin bool) string {
	step := ""
	switch what := what.(type) {
	case record.Done:
		st, _ := c.acts.Step(what.Step)
		switch {
		case what.Release:
			return st.Release
		case pin && what.Reason != "" && (st.By == "" || what.Item > 0):
			return st.Beyond
		case what.Item > 0:
			return ""
		}
		step = what.Step
	case record.Correction:
		c.mu.Lock()
		defer c.mu.Unlock()
		if i, ok := c.ids[what.Of]; ok {
			if was, ok := c.state.Lines()[i].Entry.Content.(record.Done); ok {
				step = was.Step
			}
		}
	}
	s, _ := c.acts.Step(step)
	return s.By
}

// qualify asks for the PIN where an entry is signed for, and returns what
// whoever entered it may sign for. A step that asks for a qualified person may
// have another's PIN than of whoever is signed in; the entry then names them.
func (a *App) qualify(ctx context.Context, who Who, c *cell, n *NewEntry) ([]string, error) {
	_, signs := n.Content.(record.Signature)
	asks := c.by(n.Content, n.Pin != "") != ""
	if !signs && !asks {
		return nil, nil
	}
	if who.Remembered != "" {
		return nil, errNotPlain
	}
	p, err := a.store.PersonByID(ctx, who.ID)
	if asks && n.As != "" {
		p, err = a.store.PersonByLogin(ctx, strings.ToLower(strings.TrimSpace(n.As)))
		if errors.Is(err, store.ErrNotFound) {
			return nil, &Error{Kind: WrongPin, Code: "wrong-pin", Field: "pin", Text: "That name and PIN do not go together.",
				Way: "Check both and try again."}
		}
	}
	if err != nil {
		return nil, found(err, "person")
	}
	if err := a.checkPin(ctx, store.PinTry{Login: p.Login, Signing: true}, n.Pin, p.PinHash); err != nil {
		return nil, err
	}
	if p.PinOnce { // of another: whoever gave it knows it
		return nil, &Error{Kind: NotAllowed, Code: "pin-once", Field: "pin", Text: "That PIN was for one time.",
			Way: "Let them sign in and choose their own first."}
	}
	if d, ok := n.Content.(record.Done); ok {
		d.Qualified = p.ID.String()
		n.Content = d
	}
	return append(append([]string{}, p.Roles...), p.Qualifications...), nil
}

// may says whether who has the role for what the entry is. Who checks a joint
// is the run's to say.
func may(who Who, n NewEntry) error {
	need := []string{person.Fitter}
	switch c := n.Content.(type) {
	case record.Done:
		if c.Release { // whose PIN it is says whether they may
			return nil
		}
		if c.Bolt == 0 {
			need = []string{person.Fitter, person.Inspector}
		}
	case record.Caution, record.Report, record.Lubricant, record.Correction, record.Pause, record.Resume, record.Trouble, record.Started,
		record.Photo, record.Recheck:
		need = []string{person.Fitter, person.Inspector}
	case record.Decision:
		need = []string{person.Engineer}
	case record.Answer:
		need = []string{person.Engineer}
		if c.How == record.Good {
			return refusal.New(refusal.NotNow, "how", "Only a check of the tool says that it was good.", "Have the tool checked in the Crib.")
		}
	case record.Signature:
		if c.Part == record.Checked {
			return nil
		}
	}
	if who.Is(need...) {
		return nil
	}
	return &Error{Kind: NotAllowed, Code: "not-yours", Text: fmt.Sprintf("This is for a %s to do.", strings.Join(need, " or ")),
		Way: "Ask one."}
}
