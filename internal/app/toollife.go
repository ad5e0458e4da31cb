package app

import (
	"context"
	"errors"
	"fmt"
	"strings"
	"time"

	"github.com/google/uuid"

	"dynacor/core/crib"
	"dynacor/core/person"
	"dynacor/core/refusal"
	"dynacor/core/unit"
	"dynacor/internal/store"
)

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
	if _, there := byTag(have)[strings.ToLower(t.Tag)]; there {
		faults = append(faults, tagTaken(t.Tag))
	}
	return t, faults, err
}

// byTag finds tools by their tags in small letters: aw-1 and AW-1 are one tool.
func byTag(tools []store.Tool) map[string]store.Tool {
	out := make(map[string]store.Tool, len(tools))
	for _, t := range tools {
		out[strings.ToLower(t.Tag)] = t
	}
	return out
}

func tagTaken(tag string) error {
	return refusal.New(refusal.Contradicts, "tag", fmt.Sprintf("There is a %s in the crib already.", tag),
		"Give it another tag, or change the one that is there.")
}

// AddTool brings a tool into the crib.
func (a *App) AddTool(ctx context.Context, who Who, n NewTool) error {
	n.Data = n.Data.Only()
	life, err := a.begun(who, n)
	if err != nil {
		return err
	}
	return a.enter(ctx, who, []store.NewTool{{Data: n.Data, Life: life}})
}

// enter brings tools into the crib, all of them or none: one by hand, or those of a list.
func (a *App) enter(ctx context.Context, who Who, new []store.NewTool) error {
	have, err := a.store.Tools(ctx)
	if err != nil {
		return err
	}
	if n := len(have) + len(new); n > mostTools {
		return refusal.Number(refusal.TooLarge, "tag", float64(n), mostTools, "tools",
			fmt.Sprintf("The crib would have %d tools; %d are the most.", n, mostTools), "Scrap what is not used.")
	}
	known := byTag(have)
	for _, n := range new {
		if _, there := known[strings.ToLower(n.Data.Tag)]; there {
			return tagTaken(n.Data.Tag)
		}
	}
	rests, err := a.restsOnPerson(ctx, who)
	if err != nil {
		return err
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
	Data    *crib.Tool  // with Changed: what it is from now on
	From    []uuid.UUID // with Checked: readings that a tester sent
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
	if c, checked := n.Content.(crib.Checked); checked && len(n.From) > 0 {
		var all []unit.Quantity
		for _, m := range c.Marks {
			all = append(all, within(m.Readings, func(int) unit.Unit { return c.Unit })...)
		}
		var err error
		if c.Tester, err = a.sent(ctx, n.ID, n.From, all); err != nil {
			return err
		}
		n.Content = c
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
	if len(n.From) > 0 {
		if err := a.store.ClaimReadings(ctx, n.From, nil, n.ID, ReadClaimed, "taken for the check of "+tag); err != nil {
			return err
		}
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
