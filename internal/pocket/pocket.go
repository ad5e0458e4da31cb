package pocket

import (
	"fmt"
	"slices"
	"strings"
	"time"

	"dynacor/core/crib"
	"dynacor/core/joint"
	"dynacor/core/record"
	"dynacor/core/refusal"
	"dynacor/core/work"
	"dynacor/internal/contract"
	"dynacor/internal/form"
	"dynacor/internal/judge"
	"dynacor/internal/views"
)

// Pocket is a joint on a device.
type Pocket struct {
	bundle Bundle
	run    judge.Run
	ids    map[string]int    // where each entry is in the run
	held   map[string]string // tools that are held back, with why
}

// Photo is what is known of a photograph besides its hash.
type Photo struct{ Width, Height, Size int }

// Open lays the plan out and counts its entries in. A bundle of another form is refused.
func Open(b Bundle) (*Pocket, error) {
	if b.Form != Form || b.Core != joint.Version {
		return nil, refusal.New(refusal.Contradicts, "form", fmt.Sprintf(
			"This was taken along with form %d of core %s; this program has form %d of core %s.",
			b.Form, b.Core, Form, joint.Version), "Open the joint with a network once.")
	}
	in, err := form.ReadInput(b.Plan.Input)
	if err != nil {
		return nil, err
	}
	res, err := form.ReadResult(b.Plan.Result)
	if err != nil {
		return nil, err
	}
	of := b.Plan.Recipe
	in, of = joint.Whole(in, of)
	res = res.With(of)
	acts, err := work.Lay(in, of, res)
	if err != nil {
		return nil, err
	}
	acts.IssuedAt = b.Plan.IssuedAt
	p := &Pocket{bundle: b, ids: map[string]int{}, held: map[string]string{}}
	var list []record.Entry
	for i, e := range b.Entries {
		x, err := e.read()
		if err != nil {
			return nil, fmt.Errorf("entry %d: %w", e.Seq, err)
		}
		list, p.ids[x.ID] = append(list, x), i
	}
	p.run = judge.Run{Head: judge.Head{ID: b.Plan.Run, Joint: b.Joint.ID, Revision: b.Plan.Revision, HeadSeq: len(list),
		Closed: b.Plan.Closed},
		Plan: judge.Plan{Joint: b.Joint.ID, Revision: b.Plan.Revision, Input: in, Result: res, IssuedBy: b.Plan.IssuedBy,
			IssuedAt: b.Plan.IssuedAt}, State: work.Fold(acts, list), Fault: b.Plan.Fault}
	for _, t := range b.Tools {
		if t.HeldBack != "" {
			p.held[t.Tag] = t.HeldBack
		}
	}
	return p, nil
}

// Run shows the run as it is here.
func (p *Pocket) Run(now time.Time) contract.Run {
	return views.Run(p.bundle.Me.who(), p.run, p.bundle.Names, views.Far, now)
}

// Judged is the run as it is here.
func (p *Pocket) Judged() judge.Run { return p.run }

// Readings gives the verdict on readings as they are typed.
func (p *Pocket) Readings(b contract.JudgeReadingsJSONRequestBody) (contract.Verdict, error) {
	v, err := p.run.State.Judge(b.Step, b.Readings, views.Held(b.Held))
	return views.Verdict(v), err
}

// Rig refuses what a gauge may not read while a hydraulic wrench is rigged up.
func (p *Pocket) Rig(b contract.JudgeRigJSONRequestBody) error {
	return p.run.State.JudgeRig(views.Rig(b))
}

// Ways are how the stages of a group can be reached.
func (p *Pocket) Ways(b contract.FindWaysJSONRequestBody, now time.Time) (contract.Ways, error) {
	ways, err := judge.FindWays(p.run.Plan.Result, b.Group, p.bundle.Tools, views.HandTool(b.ByHand), views.Place(b), now)
	return views.Ways(ways, b.Group), err
}

// Try refuses an entry that Add would refuse, and counts none in: one that is only prepared here,
// until the server has its PIN.
func (p *Pocket) Try(b contract.NewEntry, photo Photo, now time.Time) error {
	_, _, _, err := p.accept(b, photo, now)
	return err
}

// Add counts an entry in, or refuses it: then nothing has changed. The same one again changes
// nothing.
func (p *Pocket) Add(b contract.NewEntry, photo Photo, now time.Time) (contract.Stored, error) {
	n, e, there, err := p.accept(b, photo, now)
	if err != nil {
		return contract.Stored{}, err
	}
	before := p.run.State
	if there {
		return p.stored(n, nil, b.Known, now), nil
	}
	p.run.Head.HeadSeq++
	e.Seq, e.AtServer = p.run.Head.HeadSeq, now
	p.run.State = before.Then(e)
	p.ids[e.ID] = len(p.ids)
	if r, ok := e.Content.(record.Report); ok {
		p.hold(r, e)
	}
	return p.stored(n, before, b.Known, now), nil
}

// accept completes an entry and looks whether it is taken; there is true for one that the run
// has already.
func (p *Pocket) accept(b contract.NewEntry, photo Photo, now time.Time) (n judge.NewEntry, e record.Entry, there bool, err error) {
	me := p.bundle.Me.who()
	if n, err = views.NewEntry(p.run.Head.ID, b); err != nil {
		return n, e, false, err
	}
	if err := judge.May(me, n); err != nil {
		return n, e, false, err
	}
	if p.run.Head.Closed {
		return n, e, false, judge.Replaced()
	}
	n.Content = judge.Tidy(n.Content)
	if i, there := p.ids[n.ID.String()]; there {
		if e = p.run.State.Lines()[i].Entry; e.Person != me.ID.String() || !n.Says(e.Content) {
			return n, e, true, judge.Taken()
		}
		return n, e, true, nil
	}
	if err := n.StillOnto(p.run.Head.HeadSeq); err != nil {
		return n, e, false, err
	}
	if err := judge.Drilled(me, p.bundle.Drills, n); err != nil {
		return n, e, false, err
	}
	facts, err := p.complete(&n, photo, now)
	if err != nil {
		return n, e, false, err
	}
	e = record.Entry{ID: n.ID.String(), AtTool: n.When(), AtDevice: n.ByDevice(), Person: me.ID.String(), Confirmed: n.Confirmed,
		Content: n.Content}
	e, err = n.Accepted(p.run.State, e, facts)
	return n, e, false, err
}

func (p *Pocket) stored(n judge.NewEntry, before *work.State, known *int, now time.Time) contract.Stored {
	r := p.run
	r.Before = before
	return views.Stored(p.bundle.Me.who(), r, p.bundle.Names, n, known, now)
}

// complete fills in what is known here of an entry.
func (p *Pocket) complete(n *judge.NewEntry, photo Photo, now time.Time) (f work.Facts, err error) {
	f.Now = now
	plan := p.run.State.Plan()
	if n.Tools != nil {
		if n.Content, err = judge.Choose(p.run.Plan.Result, *n.Tools, p.bundle.Tools, now); err != nil {
			return f, err
		}
	}
	switch x := n.Content.(type) {
	case record.Caution:
		x.Points = plan.Cautions(x.Step)
		n.Content = x
	case record.Photo:
		x.Width, x.Height, x.Size = photo.Width, photo.Height, photo.Size
		n.Content = x
	case record.Report:
		x.Tool = strings.TrimSpace(x.Tool)
		if t, ok := p.tool(x.Tool); ok {
			x.Since = t.Since
		}
		n.Content = x
	case record.Recheck:
		t, ok := p.tool(x.With)
		if err := judge.TriedWith(x.With, ok, t.Due, now); err != nil {
			return f, err
		}
		f.Held = p.held
	case record.Tooling, record.Setting:
		f.Held = p.held
	case record.Done, record.Signature, record.Correction:
		if sig, ok := x.(record.Signature); ok && p.bundle.SayWhy && sig.Reason == "" {
			return f, judge.SayWhy()
		}
		f.Qualified, err = p.qualify(n)
	}
	return f, err
}

func (p *Pocket) tool(tag string) (judge.Tool, bool) {
	i := slices.IndexFunc(p.bundle.Tools, func(t judge.Tool) bool { return t.Tag == tag })
	if i < 0 {
		return judge.Tool{}, false
	}
	return p.bundle.Tools[i], true
}

// qualify returns what whoever puts their PIN to an entry may sign for, as if it were right.
func (p *Pocket) qualify(n *judge.NewEntry) ([]string, error) {
	_, signs := n.Content.(record.Signature)
	asks := judge.Asks(p.run.State.Plan(), n.Content, n.Pin != "", func(id string) record.Content {
		if i, ok := p.ids[id]; ok {
			return p.run.State.Lines()[i].Entry.Content
		}
		return nil
	}) != ""
	if !signs && !asks {
		return nil, nil
	}
	who := p.bundle.Me
	if asks && n.As != "" {
		login := strings.ToLower(strings.TrimSpace(n.As))
		i := slices.IndexFunc(p.bundle.People, func(x Person) bool { return x.Login == login })
		if i < 0 {
			return nil, judge.NotTogether()
		}
		who = p.bundle.People[i]
	}
	if d, ok := n.Content.(record.Done); ok {
		d.Qualified = who.ID.String()
		n.Content = d
	}
	return who.may(), nil
}

// hold holds a tool back that was reported.
func (p *Pocket) hold(r record.Report, e record.Entry) {
	t, ok := p.tool(r.Tool)
	if !ok {
		return // entered by hand, it is in no crib
	}
	s := crib.Begun(crib.Entered{Held: t.HeldBack})
	hurt := crib.Hurt{What: crib.Harm(r.What), Joint: p.bundle.Joint.Tag, Note: r.Note}
	s = s.Then(t.Tool, crib.Entry{ID: e.ID, On: e.AtServer, Content: hurt})
	p.held[r.Tool] = s.Held.Why
	for i := range p.bundle.Tools {
		if p.bundle.Tools[i].Tag == r.Tool {
			p.bundle.Tools[i].HeldBack, p.bundle.Tools[i].NotFree = s.Held.Why, s.Held.Why
		}
	}
}
