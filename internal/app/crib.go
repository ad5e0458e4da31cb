package app

import (
	"cmp"
	"context"
	"slices"
	"time"

	"dynacor/core/crib"
	"dynacor/internal/judge"
	"dynacor/internal/report"
	"dynacor/internal/store"
)

// CribTool is a tool as the board shows it.
type CribTool struct {
	Tool  store.Tool
	Data  crib.Tool
	Reach crib.Reach
	Due   crib.Due
	Lent  string // the name of who has it; empty: it is in the crib
}

// Standing is where a tool stands: in, out, held, over, soon, scrapped.
func (t CribTool) Standing() string {
	switch {
	case t.Tool.Scrapped != "":
		return "scrapped"
	case t.Tool.HeldBack != "":
		return "held"
	case t.Due.Over:
		return "over"
	case t.Lent != "":
		return "out"
	case t.Due.Soon:
		return "soon"
	}
	return "in"
}

// Crib returns every tool, by kind and greatest reach.
func (a *App) Crib(ctx context.Context) ([]CribTool, error) {
	tools, err := a.store.Tools(ctx)
	if err != nil {
		return nil, err
	}
	out, err := a.cribTools(ctx, tools)
	slices.SortStableFunc(out, func(x, y CribTool) int {
		return cmp.Or(cmp.Compare(slices.Index(crib.Kinds(), x.Data.Kind), slices.Index(crib.Kinds(), y.Data.Kind)),
			cmp.Compare(x.Reach.High, y.Reach.High), cmp.Compare(x.Reach.Low, y.Reach.Low), cmp.Compare(x.Data.Size, y.Data.Size))
	})
	return out, err
}

func (a *App) cribTools(ctx context.Context, tools []store.Tool) ([]CribTool, error) {
	pulls, err := a.pullsOf(ctx, tools)
	if err != nil {
		return nil, err
	}
	names, err := a.Names(ctx)
	if err != nil {
		return nil, err
	}
	out := make([]CribTool, 0, len(tools))
	for _, t := range tools {
		x := CribTool{Tool: t, Data: t.Data()}
		x.Reach, x.Due = x.Data.Reach(), t.State().Comes(x.Data, pulls[t.Tag], a.now())
		if t.LentTo != nil {
			if x.Lent = names[t.LentTo.String()]; x.Lent == "" { // they came after the names were read
				p, err := a.store.PersonByID(ctx, *t.LentTo)
				if err != nil {
					return nil, err
				}
				x.Lent = p.Name
			}
		}
		out = append(out, x)
	}
	return out, nil
}

// Labels are what is stuck on tools: on one, or on all that are there.
func (a *App) Labels(ctx context.Context, tag string, link func(tag string) string) (list []report.Label, site Site, err error) {
	if site, err = a.Site(ctx); err != nil {
		return nil, site, err
	}
	tools, err := a.Crib(ctx)
	for _, t := range tools {
		if t.Tool.Scrapped == "" && (tag == "" || t.Tool.Tag == tag) {
			list = append(list, report.Label{Tag: t.Tool.Tag, Name: t.Tool.Name, Text: t.Reach.Words, Link: link(t.Tool.Tag)})
		}
	}
	if err == nil && len(list) == 0 {
		err = notFound("tool")
	}
	return list, site, err
}

// Working lists who works here: to whom a tool can be lent.
func (a *App) Working(ctx context.Context) ([]store.Person, error) {
	people, err := a.store.People(ctx)
	return slices.DeleteFunc(people, func(p store.Person) bool { return !p.Active }), err
}

// pullsOf counts the pulls of tools that have so many until they are due, since they were
// calibrated.
func (a *App) pullsOf(ctx context.Context, tools []store.Tool) (map[string]int, error) {
	since := map[string]time.Time{}
	for _, t := range tools {
		if d := t.Data(); d.Pulls > 0 {
			since[t.Tag] = t.State().Calibrated
		}
	}
	if len(since) == 0 {
		return nil, nil
	}
	if c := a.counted.Load(); c != nil && a.now().Sub(c.at) < countEvery && c.covers(since) {
		return c.pulls, nil
	}
	pulls, err := a.store.PullsSince(ctx, since)
	if err == nil {
		a.counted.Store(&counted{a.now(), since, pulls})
	}
	return pulls, err
}

// counted is how often each tool was pulled, as it was last counted: the Wall asks each
// time it is looked at, and a pull more or less is nothing to it.
type counted struct {
	at    time.Time
	since map[string]time.Time
	pulls map[string]int
}

// countEvery is how old that may be.
const countEvery = 30 * time.Second

func (c *counted) covers(since map[string]time.Time) bool {
	for tag, at := range since {
		if was, there := c.since[tag]; !there || !was.Equal(at) {
			return false
		}
	}
	return true
}

// ToolCard is a tool with its life, how it is checked, and what it touched.
type ToolCard struct {
	CribTool
	State   crib.State
	Life    []LifeLine
	Marks   []float64
	Since   time.Time // what is listed was made since
	Touched []Touch
	Count   int // of joints it touched since, also those that are not listed
}

// LifeLine is an entry of a tool's life in words.
type LifeLine struct {
	Entry crib.Entry
	By    string
	What  string
	Note  string
	Found *crib.Found // of a check
	Paper string      // hash of a file it names
}

// mostTouched is how many joints of one tool a screen lists.
const mostTouched = 200

// ToolCard returns one tool.
func (a *App) ToolCard(ctx context.Context, tag string) (ToolCard, error) {
	t, life, err := a.store.Life(ctx, tag)
	if err != nil {
		return ToolCard{}, found(err, "tool")
	}
	list, err := a.cribTools(ctx, []store.Tool{t})
	if err != nil {
		return ToolCard{}, err
	}
	out := ToolCard{CribTool: list[0], State: crib.Fold(t.Data(), life)}
	out.Marks, _ = out.Data.Marks()
	out.Since = out.State.InQuestion()
	if h, _, ok := crib.Cleared(out.Data, life); ok { // what its last check answered for
		out.Since = h.Since
	}
	if out.Data.Kind.Sets() {
		if out.Touched, out.Count, err = a.Touched(ctx, tag, out.Since, mostTouched); err != nil {
			return out, err
		}
	}
	names, err := a.Names(ctx)
	if err != nil {
		return out, err
	}
	for _, e := range life {
		out.Life = append(out.Life, lifeLine(e, names))
	}
	slices.Reverse(out.Life)
	return out, nil
}

// JudgeCheck judges what was read so far of a check of a tool; nothing is kept.
func (a *App) JudgeCheck(ctx context.Context, tag string, c crib.Checked) (crib.Checked, crib.Found, error) {
	t, err := a.store.ToolByTag(ctx, tag)
	if err != nil {
		return c, crib.Found{}, found(err, "tool")
	}
	c = t.Data().Judged(c)
	f, err := c.Found()
	return c, f, err
}

func lifeLine(e crib.Entry, names Names) LifeLine {
	l := LifeLine{Entry: e, By: names[e.Person]}
	switch c := e.Content.(type) {
	case crib.Entered:
		l.What = "was in the crib"
		if !c.Calibrated.IsZero() {
			l.Note = "calibrated on " + c.Calibrated.Format("2 January 2006")
		}
	case crib.Bought:
		l.What, l.Note = "came into the crib", judge.Join(c.From, c.Place)
	case crib.Checked:
		l.What, l.Paper, l.Note = "checked by "+c.Lab, c.Paper, c.Note
		if c.Renews {
			l.What = "calibrated by " + c.Lab
		}
		if c.Certificate != "" {
			l.Note = judge.Join("certificate "+c.Certificate, l.Note)
		}
		if c.Tester != "" {
			l.Note = judge.Join("readings sent by "+c.Tester, l.Note)
		}
		if f, err := c.Found(); err == nil {
			l.Found = &f
		}
	case crib.Adjusted:
		l.What, l.Note = "adjusted", c.What
	case crib.Lent:
		l.What, l.Note = "lent to "+names[c.To], judge.Join(c.Joint, c.Note)
	case crib.Returned:
		l.What, l.Note = "came back", judge.Join(c.Place, c.Note)
	case crib.Hurt:
		l.What, l.Note = string(c.What), judge.Join(c.Joint, c.Note)
	case crib.Held:
		l.What, l.Note = "held back", c.Why
	case crib.Back:
		l.What, l.Note = "in service again", c.Why
	case crib.Scrapped:
		l.What, l.Note = "scrapped", c.Why
	case crib.Changed:
		l.What, l.Note = "data changed", judge.Join(c.What, c.Why)
	case crib.Filed:
		l.What, l.Paper = "paper: "+c.Title, c.Paper
	}
	return l
}
