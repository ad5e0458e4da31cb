package app

import (
	"cmp"
	"context"
	"errors"
	"fmt"
	"slices"
	"strings"
	"time"

	"github.com/google/uuid"

	"dynacor/core/crib"
	"dynacor/core/person"
	"dynacor/core/refusal"
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
	out.Since = out.State.Good
	if out.State.Held != nil && out.State.Held.Doubt {
		out.Since = out.State.Held.Since
	}
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
		l.What, l.Note = "came into the crib", join(c.From, c.Place)
	case crib.Checked:
		l.What, l.Paper, l.Note = "checked by "+c.Lab, c.Paper, c.Note
		if c.Renews {
			l.What = "calibrated by " + c.Lab
		}
		if c.Certificate != "" {
			l.Note = join("certificate "+c.Certificate, l.Note)
		}
		if f, err := c.Found(); err == nil {
			l.Found = &f
		}
	case crib.Adjusted:
		l.What, l.Note = "adjusted", c.What
	case crib.Lent:
		l.What, l.Note = "lent to "+names[c.To], join(c.Joint, c.Note)
	case crib.Returned:
		l.What, l.Note = "came back", join(c.Place, c.Note)
	case crib.Hurt:
		l.What, l.Note = string(c.What), join(c.Joint, c.Note)
	case crib.Held:
		l.What, l.Note = "held back", c.Why
	case crib.Back:
		l.What, l.Note = "in service again", c.Why
	case crib.Scrapped:
		l.What, l.Note = "scrapped", c.Why
	case crib.Changed:
		l.What, l.Note = "data changed", join(c.What, c.Why)
	case crib.Filed:
		l.What, l.Paper = "paper: "+c.Title, c.Paper
	}
	return l
}

// NewTool is a tool that comes into the crib, and the calibration it comes with.
type NewTool struct {
	Data   crib.Tool
	ID     uuid.UUID // of its first entry
	Bought time.Time
	From   string
	Place  string
	Check  *crib.Checked
	On     time.Time // of the check
}

// mostTools is how many tools a crib has at the most: the solver takes no more of a kind.
const mostTools = 5000

// DraftTool says what is wrong with a tool's data so far; of a new one also where its tag is
// another's.
func (a *App) DraftTool(ctx context.Context, t crib.Tool, new bool) (crib.Tool, []error, error) {
	t = t.Only()
	faults := t.Faults()
	if !new {
		return t, faults, nil
	}
	have, err := a.store.Tools(ctx)
	if slices.ContainsFunc(have, func(x store.Tool) bool { return strings.EqualFold(x.Tag, t.Tag) }) {
		faults = append(faults, tagTaken(t.Tag))
	}
	return t, faults, err
}

func tagTaken(tag string) error {
	return refusal.New(refusal.Contradicts, "tag", fmt.Sprintf("There is a %s in the crib already.", tag),
		"Give it another tag, or change the one that is there.")
}

// AddTool brings a tool into the crib.
func (a *App) AddTool(ctx context.Context, who Who, n NewTool) error {
	return a.addTools(ctx, who, []NewTool{n})
}

func (a *App) addTools(ctx context.Context, who Who, list []NewTool) error {
	have, err := a.store.Tools(ctx)
	if err != nil {
		return err
	}
	if len(have)+len(list) > mostTools {
		return refusal.Number(refusal.TooLarge, "tag", float64(len(have)+len(list)), mostTools, "tools",
			fmt.Sprintf("The crib would have %d tools; %d are the most.", len(have)+len(list), mostTools), "Scrap what is not used.")
	}
	rests, err := a.restsOnPerson(ctx, who)
	if err != nil {
		return err
	}
	var new []store.NewTool
	for _, n := range list {
		n.Data = n.Data.Only()
		if slices.ContainsFunc(have, func(t store.Tool) bool { return strings.EqualFold(t.Tag, n.Data.Tag) }) {
			return tagTaken(n.Data.Tag)
		}
		life, err := a.begun(who, n)
		if err != nil {
			return err
		}
		new = append(new, store.NewTool{Data: n.Data, Life: life})
	}
	err = a.store.NewTools(ctx, new, rests)
	if errors.Is(err, store.ErrTaken) {
		return refusal.New(refusal.Contradicts, "tag", "One of these tags is in the crib already.", "Look at the crib again.")
	}
	return err
}

// begun is the life that a new tool comes with.
func (a *App) begun(who Who, n NewTool) ([]crib.Entry, error) {
	if err := n.Data.Check(); err != nil {
		return nil, err
	}
	now := a.now()
	if n.Bought.IsZero() {
		n.Bought = now
	}
	first := crib.Entry{ID: n.ID.String(), On: n.Bought, AtServer: now, Person: who.ID.String(),
		Content: crib.Bought{From: strings.TrimSpace(n.From), Place: strings.TrimSpace(n.Place)}}
	if err := (crib.State{}).Accept(n.Data, first, now); err != nil {
		return nil, refusal.At("bought", err)
	}
	life := []crib.Entry{first}
	if n.Check != nil {
		e := crib.Entry{ID: uuid.NewSHA1(n.ID, []byte("check")).String(), On: n.On, AtServer: now, Person: who.ID.String(),
			Content: n.Data.Judged(*n.Check)}
		if err := crib.Fold(n.Data, life).Accept(n.Data, e, now); err != nil {
			return nil, err
		}
		life = append(life, e)
	}
	return life, nil
}

// NewLife is something that happened to a tool, as it is asked for.
type NewLife struct {
	ID      uuid.UUID
	On      time.Time // zero: now
	Content crib.Content
	Data    *crib.Tool // with Changed: what it is from now on
}

// LiveTool adds to the life of a tool: it is checked, lent, dropped, held. What it made is
// recalled where that follows.
func (a *App) LiveTool(ctx context.Context, who Who, tag string, n NewLife) error {
	if err := mayLive(who, n.Content); err != nil {
		return err
	}
	if err := a.knows(ctx, n.Content); err != nil {
		return err
	}
	rests, err := a.restsOnPerson(ctx, who)
	if err != nil {
		return err
	}
	now := a.now()
	if n.On.IsZero() {
		n.On = now
	}
	_, err = a.store.AddLife(ctx, tag, n.ID, rests, func(t store.Tool, s crib.State) (crib.Tool, crib.Entry, error) {
		data, e := t.Data(), crib.Entry{ID: n.ID.String(), On: n.On, AtServer: now, Person: who.ID.String(), Content: n.Content}
		switch c := n.Content.(type) {
		case crib.Checked:
			e.Content = data.Judged(c)
		case crib.Changed:
			if n.Data == nil {
				return data, e, refusal.New(refusal.Missing, "data", "Nothing is changed.", "Change something, or leave it.")
			}
			next := *n.Data
			next.Tag, next.Kind = data.Tag, data.Kind
			next = next.Only()
			if err := next.Check(); err != nil {
				return data, e, err
			}
			if c.What = dataDiffer(data, next); c.What == "" {
				return data, e, refusal.New(refusal.NotNow, "data", "Nothing is changed.", "Change something, or leave it.")
			}
			data, e.Content = next, c
		}
		return data, e, s.Accept(data, e, now)
	})
	if err != nil {
		return found(err, "tool")
	}
	a.recall(ctx, tag)
	return nil
}

// dataDiffer says what of a tool's data is another.
func dataDiffer(was, is crib.Tool) string {
	var out []string
	for _, column := range crib.Columns() {
		if x, y := was.Cell(column), is.Cell(column); x != y {
			out = append(out, fmt.Sprintf("%s %q, was %q", column, y, x))
		}
	}
	return strings.Join(out, "; ")
}

// knows refuses what names a paper or a person that is not there.
func (a *App) knows(ctx context.Context, c crib.Content) error {
	paper := ""
	switch c := c.(type) {
	case crib.Checked:
		paper = c.Paper
	case crib.Filed:
		paper = c.Paper
	case crib.Lent:
		id, err := uuid.Parse(c.To)
		if err == nil {
			_, err = a.store.PersonByID(ctx, id)
		}
		if err != nil {
			return refusal.New(refusal.Unknown, "to", "Nobody is known by that name.", "Choose one of the list.")
		}
	}
	if paper == "" {
		return nil
	}
	if _, err := a.store.Sheet(ctx, paper); err != nil {
		return refusal.New(refusal.Unknown, "file", "That file is not here.", "Send it first.")
	}
	return nil
}

// mayLive says who may say what of a tool: whoever works with one may say what befell it;
// the crib keeper all of it.
func mayLive(who Who, c crib.Content) error {
	need := []string{person.CribKeeper}
	switch c.(type) {
	case crib.Hurt:
		need = []string{person.CribKeeper, person.Fitter, person.Inspector, person.Engineer}
	case crib.Held:
		need = []string{person.CribKeeper, person.Engineer, person.Inspector}
	case crib.Checked:
		need = []string{person.CribKeeper, person.Inspector}
	}
	if who.Is(need...) {
		return nil
	}
	return &Error{Kind: NotAllowed, Code: "not-yours", Text: fmt.Sprintf("This is for a %s to do.", strings.Join(need, " or ")), Way: "Ask one."}
}

// restsOnPerson is the fact of who does something in the crib.
func (a *App) restsOnPerson(ctx context.Context, who Who) ([]byte, error) {
	return a.store.FactOf(ctx, store.PersonFact, who.ID.String())
}

// KeepPaper keeps a paper of a tool, a PDF or a picture, and returns its hash.
func (a *App) KeepPaper(ctx context.Context, who Who, file []byte) (store.Sheet, error) {
	f := store.Sheet{Bytes: file, Hash: store.HashOf(file), Person: who.ID, At: a.now()}
	var err error
	if f.Type, err = sheetType(file); err != nil {
		return f, err
	}
	return f, a.store.KeepPaper(ctx, f)
}
