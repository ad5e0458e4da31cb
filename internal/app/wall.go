package app

import (
	"context"
	"slices"
	"strings"

	"github.com/google/uuid"
	"golang.org/x/sync/errgroup"

	"dynacor/core/figure"
	"dynacor/core/person"
	"dynacor/internal/judge"
	"dynacor/internal/store"
)

// ToDo is something that waits for somebody.
type ToDo struct {
	Joint   uuid.UUID
	Station int
	Title   string
	Text    string
	Detail  string
	Grave   bool
	Tool    bool // it is about the tool of that tag, and no joint
	urgency int  // lower comes first
}

// JointCard is a joint with its card.
type JointCard struct {
	Joint store.Joint
	Card
}

// Wall is every joint of the outage, what is next for whoever asks, and what
// wants a decision.
type Wall struct {
	Site      Site
	Cards     []JointCard
	Figures   map[string]figure.Figure // by the key of the cards
	Next      []ToDo
	Decisions []ToDo
	Devices   []AtWork // with something of ours on them
}

// Site is the works, its outage and how far it is.
type Site struct {
	store.Site
	Day   int
	Areas []store.Area
	Shift string // of now; empty: the site has none
	Until string // when the next begins, 18:00
}

// Site returns the site.
func (a *App) Site(ctx context.Context) (Site, error) {
	s, err := a.store.Site(ctx)
	if err != nil {
		return Site{}, found(err, "site")
	}
	areas, err := a.store.Areas(ctx)
	day := int(a.now().Sub(s.Begins).Hours()/24) + 1
	out := Site{Site: s, Day: max(1, min(day, s.Days)), Areas: areas}
	out.Shift, out.Until = shiftAt(s.Shifts, a.now().In(a.zone))
	return out, err
}

// Wall returns the Wall as who sees it.
func (a *App) Wall(ctx context.Context, who Who) (Wall, error) {
	site, err := a.Site(ctx)
	if err != nil {
		return Wall{}, err
	}
	w := Wall{Site: site, Figures: map[string]figure.Figure{}}
	var joints []store.Joint
	var issued map[uuid.UUID]Card
	var drafts []store.Draft
	reads, together := errgroup.WithContext(ctx)
	reads.Go(func() (err error) {
		joints, err = a.store.Joints(together)
		return err
	})
	reads.Go(func() (err error) {
		issued, err = a.issuedCards(together)
		return err
	})
	reads.Go(func() (err error) {
		drafts, err = a.store.UnissuedDrafts(together)
		return err
	})
	if err := reads.Wait(); err != nil {
		return Wall{}, err
	}
	unissued, err := a.unissuedCards(ctx, joints, drafts, issued, w.Figures)
	if err != nil {
		return Wall{}, err
	}
	for _, j := range joints {
		c, ok := issued[j.ID]
		if !ok {
			c = unissued[j.ID]
		}
		if _, drawn := w.Figures[c.Figure]; !drawn && c.Figure != "" {
			if w.Figures[c.Figure], err = a.figureOf(ctx, c.Figure, j.ID); err != nil {
				return Wall{}, err
			}
		}
		card := JointCard{j, c}
		w.Cards = append(w.Cards, card)
		if t, ok := card.next(who); ok {
			w.Next = append(w.Next, t)
		}
		if c.Decision != "" {
			w.Decisions = append(w.Decisions, ToDo{Joint: j.ID, Station: c.Station, Title: j.Tag, Text: c.Decision, Detail: c.Detail,
				Grave: c.Grave})
		}
	}
	tools, err := a.calibrations(ctx)
	if err != nil {
		return w, err
	}
	w.Decisions = append(w.Decisions, tools...)
	w.Devices, err = a.devices(ctx, w.Cards)
	slices.SortStableFunc(w.Next, func(x, y ToDo) int { return x.urgency - y.urgency })
	return w, err
}

// shownCards are cards by their run, each as it was at so many entries.
type shownCards map[uuid.UUID]shownCard

type shownCard struct {
	seq  int
	card Card
}

// is reports whether the card is that of a run as it is.
func (c shownCard) is(head store.Run) bool {
	return c.seq == head.HeadSeq && c.card.Head == headOf(head)
}

// issuedCards returns the card of the newest run of every joint that has one: as
// it was shown last or as it is kept, where nothing has come since, else from the
// run.
func (a *App) issuedCards(ctx context.Context) (map[uuid.UUID]Card, error) {
	heads, err := a.store.NewestRuns(ctx)
	if err != nil {
		return nil, err
	}
	var known shownCards
	if last := a.shown.Load(); last != nil {
		known = *last
	}
	shown := make(shownCards, len(heads))
	var unknown []uuid.UUID
	for _, h := range heads {
		if c, ok := known[h.ID]; ok && c.is(h) {
			shown[h.ID] = c
		} else {
			unknown = append(unknown, h.ID)
		}
	}
	if len(unknown) > 0 {
		kept, err := a.store.Cards(ctx, unknown)
		if err != nil {
			return nil, err
		}
		for _, k := range kept {
			if c, ok := readCard(k.Card); ok {
				shown[k.Run] = shownCard{k.Seq, c}
			}
		}
	}
	out := make(map[uuid.UUID]Card, len(heads))
	var behind []store.Run
	for _, h := range heads {
		if s, ok := shown[h.ID]; ok && s.is(h) {
			out[h.Joint] = s.card
		} else {
			behind = append(behind, h)
		}
	}
	runs, torn, err := a.runsAt(ctx, behind)
	if err != nil {
		return nil, err
	}
	for joint, what := range torn {
		out[joint] = broken(what)
	}
	for joint, r := range runs {
		out[joint] = cardOf(r)
		if r.Fault != "" {
			continue // looked at anew each time
		}
		shown[r.Head.ID] = shownCard{r.Head.HeadSeq, out[joint]}
		a.stale.add(r.Head.ID)
	}
	a.shown.Store(&shown)
	a.torn.Range(func(joint, what any) bool {
		if c, there := out[joint.(uuid.UUID)]; there {
			c.breaks(what.(string))
			out[joint.(uuid.UUID)] = c
		}
		return true
	})
	return out, nil
}

// unissuedCards returns the cards of joints without a plan.
func (a *App) unissuedCards(ctx context.Context, joints []store.Joint, drafts []store.Draft, issued map[uuid.UUID]Card,
	figures map[string]figure.Figure) (map[uuid.UUID]Card, error) {
	newest, err := a.newestEditions(ctx)
	if err != nil {
		return nil, err
	}
	laid := map[uuid.UUID]store.Draft{}
	for _, d := range drafts {
		laid[d.Joint] = d
	}
	out := map[uuid.UUID]Card{}
	for _, j := range joints {
		if _, ok := issued[j.ID]; ok {
			continue
		}
		stored, isLaid := laid[j.ID]
		d, err := a.draft(ctx, j, stored, newest[j.Recipe])
		if what, is := faultOf(err); is {
			out[j.ID] = broken(what)
			continue
		}
		if err != nil {
			return nil, err
		}
		c := drawing(d.Recipe, d.Result)
		c.State, c.Text, c.Station = "new", "not laid out", 1
		if isLaid {
			c.State, c.Text = "draft", "laid out, not issued"
		}
		if c.Figure != "" {
			figures[c.Figure] = judge.Figure(d.Recipe, d.Result)
		}
		out[j.ID] = c
	}
	return out, nil
}

// next says whether a joint waits for who, and for what.
func (c JointCard) next(who Who) (ToDo, bool) {
	t := ToDo{Joint: c.Joint.ID, Station: c.Station, Title: c.Joint.Tag, Detail: c.Joint.Title, urgency: c.urgency()}
	mine := c.Joint.Assigned != nil && *c.Joint.Assigned == who.ID
	t.Text = c.Text
	if c.Waits != "" {
		t.Text, t.Detail = "look, and release it", strings.TrimPrefix(c.Detail, "before it goes on: ")
		if mine {
			t.Text = c.Text
		}
		return t, mine || who.May(c.Waits)
	}
	switch c.State {
	case "new":
		t.Text = "lay it out"
		return t, mine
	case "draft":
		t.Text = "issue the plan"
		return t, who.Is(person.Engineer)
	case "issued":
		return t, mine && who.Is(person.Fitter)
	case "tighten", "check":
		if c.Now != "" {
			t.Text, t.Detail = c.Now, c.Text
		}
		return t, mine && who.Is(person.Fitter)
	case "prove":
		t.Text = strings.TrimPrefix(c.Text, "prove: ")
		return t, who.Is(person.Inspector) || mine
	case "sign":
		t.Text = "sign the record"
		worked := slices.Contains(c.Hands, who.ID.String())
		return t, (who.May(c.Checker) && c.Made && !worked) || (mine && !c.Made && (worked || !c.Begun))
	}
	return t, false
}

// urgency puts what is in hand before what waits, and that before what has
// not begun.
func (c JointCard) urgency() int {
	switch {
	case c.Paused:
		return 3
	case c.State == "tighten" || c.State == "check":
		return 0
	case c.State == "prove" || c.State == "sign":
		return 1
	case c.State == "issued":
		return 2
	}
	return 4
}

// pointedOut is how many days before its date a tool stands on the Wall.
const pointedOut = 3

// calibrations lists what of the crib wants a decision: what is held, what is past its date
// or its pulls, what is due in days.
func (a *App) calibrations(ctx context.Context) ([]ToDo, error) {
	tools, err := a.Crib(ctx)
	if err != nil {
		return nil, err
	}
	var out []ToDo
	for _, t := range tools {
		switch x := (ToDo{Title: t.Tool.Tag, Tool: true}); t.Standing() {
		case "held":
			x.Text, x.Detail, x.Grave = "held back", t.Tool.HeldBack, true
			out = append(out, x)
		case "over":
			x.Text, x.Detail, x.Grave = "out of calibration", t.Due.Overdue, true
			out = append(out, x)
		case "soon", "out":
			if !t.Due.Soon || !t.Due.ByPulls && t.Due.Days > pointedOut {
				continue
			}
			x.Text, x.Detail = "calibration ends soon", t.Due.Words
			out = append(out, x)
		}
	}
	return out, nil
}
