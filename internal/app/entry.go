package app

import (
	"context"
	"errors"
	"strings"

	"dynacor/core/record"
	"dynacor/core/refusal"
	"dynacor/core/work"
	"dynacor/internal/judge"
	"dynacor/internal/store"
)

// AddEntry stores an entry and returns the run with it. The same entry sent
// again changes nothing and is answered as the first time.
//
// Who somebody is may be remembered for a plain act: the commit that stores it
// looks whether that still holds. Whatever else comes of it, they are looked up.
func (a *App) AddEntry(ctx context.Context, who Who, n judge.NewEntry) (Run, error) {
	if who.Remembered == "" {
		return a.addEntry(ctx, who, n)
	}
	if n.Plain() {
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

// errNotPlain is what an act comes to that asks for a PIN, or for a drill that was passed,
// where who does it is remembered.
var errNotPlain = errors.New("not a plain act")

func (a *App) addEntry(ctx context.Context, who Who, n judge.NewEntry) (Run, error) {
	if err := judge.May(who, n); err != nil {
		return Run{}, err
	}
	n.Content = judge.Tidy(n.Content)
	c, err := a.cell(ctx, n.Run)
	if err != nil {
		return Run{}, err
	}
	if r, stored, err := a.again(ctx, c, who, n); stored || err != nil {
		return r, err
	}
	if err := a.checkTime(n.When()); err != nil {
		return Run{}, err
	}
	if err := a.drilled(ctx, who, c.plan.Input.Recipe, n); err != nil {
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
func (a *App) put(ctx context.Context, who Who, c *cell, n judge.NewEntry, facts work.Facts) (Run, error) {
	made, err := a.restsOn(ctx, who, n.Content)
	if err != nil {
		return Run{}, err
	}
	c.mu.Lock()
	defer c.mu.Unlock()
	facts.Now = a.now()
	e := record.Entry{ID: n.ID.String(), AtTool: n.When(), AtDevice: n.ByDevice(), Person: who.ID.String(), Confirmed: n.Confirmed,
		Content: n.Content}
	// The first try trusts the memory; when that is behind, it is brought up to
	// the database and everything is looked at anew.
	for try := 0; ; try++ {
		if err := a.stillOnto(ctx, c, n); err != nil {
			return Run{}, err
		}
		r, err := a.tryAppend(ctx, c, n, e, facts, made)
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

// stillOnto refuses what was prepared over another run than there is. c.mu is held.
func (a *App) stillOnto(ctx context.Context, c *cell, n judge.NewEntry) error {
	if n.Onto == nil {
		return nil
	}
	head, err := a.store.RunByID(ctx, c.head.ID)
	if err != nil {
		return found(err, "run")
	}
	if err := a.catchUp(ctx, c, head); err != nil {
		return err
	}
	return n.StillOnto(c.head.HeadSeq)
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
		return false, judge.Replaced()
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
func (a *App) tryAppend(ctx context.Context, c *cell, n judge.NewEntry, e record.Entry, f work.Facts, m store.Made) (Run, error) {
	if c.head.Closed {
		return Run{}, store.ErrStale
	}
	if c.fault != "" {
		return Run{}, doesNotHold(c.fault)
	}
	e, err := n.Accepted(c.state, e, f)
	if err != nil {
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
func (a *App) again(ctx context.Context, c *cell, who Who, n judge.NewEntry) (r Run, stored bool, err error) {
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
func (c *cell) same(who Who, n judge.NewEntry) (Run, error) {
	e := c.state.Lines()[c.ids[n.ID.String()]].Entry
	if e.Person == who.ID.String() && n.Says(e.Content) {
		return c.run(), nil
	}
	return Run{}, judge.Taken()
}

// complete fills in what the server knows of an entry, asks for the PIN where it
// is signed for, and holds a tool back that was reported.
func (a *App) complete(ctx context.Context, who Who, c *cell, n *judge.NewEntry) (f work.Facts, err error) {
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

// says is what an entry of the run says; nil where it has none of that identity.
func (c *cell) says(id string) record.Content {
	c.mu.Lock()
	defer c.mu.Unlock()
	i, ok := c.ids[id]
	if !ok {
		return nil
	}
	return c.state.Lines()[i].Entry.Content
}

// qualify asks for the PIN where an entry is signed for, and returns what
// whoever entered it may sign for. A step that asks for a qualified person may
// have another's PIN than of whoever is signed in; the entry then names them.
func (a *App) qualify(ctx context.Context, who Who, c *cell, n *judge.NewEntry) ([]string, error) {
	_, signs := n.Content.(record.Signature)
	asks := judge.Asks(c.acts, n.Content, n.Pin != "", c.says) != ""
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
			return nil, judge.NotTogether()
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
