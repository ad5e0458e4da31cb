package app

import (
	"context"
	"encoding/hex"
	"encoding/json"
	"fmt"
	"log/slog"
	"slices"
	"strings"
	"sync"
	"time"

	"github.com/google/uuid"

	"dynacor/core/figure"
	"dynacor/core/joint"
	"dynacor/core/recipe"
	"dynacor/core/record"
	"dynacor/core/work"
	"dynacor/internal/judge"
	"dynacor/internal/store"
)

// Card is a joint as the Wall shows it: where it stands, in a few words, and what
// its bolts hold. It follows from the run alone; the database keeps it beside
// the run's head, so that the Wall need not fold thousands of runs.
type Card struct {
	Kind     string    `json:"kind"` // the title of its recipe
	Figure   string    `json:"figure,omitzero"`
	Thread   string    `json:"thread,omitzero"`
	State    string    `json:"state"` // new, draft, issued, tighten, check, stopped, prove, sign, signed
	Text     string    `json:"text"`
	Now      string    `json:"now,omitzero"` // what the hand does next: a bolt at its setting
	Station  int       `json:"station"`
	Levels   []float64 `json:"levels,omitempty"`
	Marks    []string  `json:"marks,omitempty"`
	Paused   bool      `json:"paused,omitzero"`
	Begun    bool      `json:"begun,omitzero"`
	Made     bool      `json:"made,omitzero"` // the first signature stands
	Hands    []string  `json:"hands,omitempty"`
	Checker  string    `json:"checker,omitzero"`
	Waits    string    `json:"waits,omitzero"`    // who releases the step that the work waits at
	Decision string    `json:"decision,omitzero"` // what wants a decision
	Detail   string    `json:"detail,omitzero"`
	Grave    bool      `json:"grave,omitzero"`
	Head     string    `json:"head,omitzero"` // of the run it was made of: the first digits of its hash
}

// headOf is the Head of a card of a run.
func headOf(r store.Run) string { return hex.EncodeToString(r.HeadHash[:min(8, len(r.HeadHash))]) }

// broken is the card of a joint whose run tells nothing.
func broken(what string) Card {
	c := Card{Kind: "record", Station: 5}
	c.breaks(what)
	return c
}

// breaks has a card say that its record does not hold.
func (c *Card) breaks(what string) {
	c.State, c.Text, c.Now = "stopped", "its record does not hold", ""
	c.Decision, c.Detail, c.Grave = c.Text, what, true
}

// cardForm names the form of stored cards: one of another form is made anew.
const cardForm = "4 "

// drawing is the part of a card that follows from the plan.
func drawing(r recipe.Recipe, res joint.Result) Card {
	c := Card{Kind: r.Title}
	var key, names []string
	for _, g := range res.Own() {
		if g.Count == 0 {
			continue
		}
		key = append(key, fmt.Sprintf("%s %d %t %d %s", g.Layout, g.Count, g.OnCentre, g.Holes, g.Name))
		if g.Lie != (recipe.Grid{}) {
			key = append(key, fmt.Sprint(g.Lie))
		}
		if name := fmt.Sprintf("%d × %s", g.Count, g.Thread); g.Thread != "" && !slices.Contains(names, name) {
			names = append(names, name)
		}
	}
	if len(names) > 0 {
		c.Thread = names[0]
		if len(names) > 1 {
			c.Thread += " …"
		}
	}
	if len(key) > 0 {
		c.Figure = string(r.Drawing) + " " + strings.Join(key, ", ")
	}
	return c
}

// cardOf is a run as the Wall shows it.
func cardOf(r Run) Card {
	s := r.State
	c := drawing(s.Plan().Recipe, r.Plan.Result)
	c.Begun, c.Paused, c.Checker, c.Made = s.Begun(), s.Paused != nil, s.Plan().Checker(), len(s.Signatures) > 0
	for person := range s.People() {
		if s.Worked(person) {
			c.Hands = append(c.Hands, person)
		}
	}
	slices.Sort(c.Hands)
	next, _ := s.Next()
	st, _ := s.Plan().Step(next.Step)
	for _, b := range s.Bolts() {
		c.Levels, c.Marks = append(c.Levels, b.Level), append(c.Marks, b.Mark)
	}
	c.stands(r, st, next)
	c.Head = headOf(r.Head)
	if r.Fault != "" {
		c.breaks(r.Fault)
	}
	return c
}

// stands says where a run stands.
func (c *Card) stands(r Run, st recipe.Step, next record.Act) {
	s := r.State
	c.Station = s.Standing.Station()
	switch s.Standing {
	case record.LayOut:
		c.State, c.Text = "issued", "prepare: "+short(st.Text)
		if len(s.Lines()) == 0 {
			c.Text = "ready to prepare"
		}
	case record.ToolUp:
		c.State, c.Text = "issued", "needs its tool"
	case record.Tighten:
		c.tighten(r, st, next)
	case record.Stopped:
		why, rounds := s.Stop()
		c.State, c.Text = "stopped", record.Trim(lower(why))
		if rounds > 0 {
			c.Text = fmt.Sprintf("%d rounds, still moving", rounds)
		}
		c.Decision, c.Detail, c.Grave = c.Text, "an engineer decides before it goes on", true
	case record.Prove:
		c.State, c.Text = "prove", "prove: "+short(st.Text)
		if next == (record.Act{}) {
			c.Text = "trouble or doubt is open"
		}
	case record.Sign:
		c.State, c.Text = "sign", "waits for a signature"
	case record.Signed:
		at, _ := r.SignedAt()
		word := "signed "
		if s.Plan().Undoes() {
			word = "undone, signed "
		}
		c.State, c.Text = "signed", word+at.Local().Format("2 Jan, 15:04")
	}
	tools, _ := s.Doubted()
	if len(tools) > 0 && c.State == "signed" {
		c.Text = "signed; " + tools[0] + " in doubt"
	}
	if len(tools) > 0 && c.Decision == "" {
		c.Decision, c.Detail, c.Grave = "pulls with "+tools[0]+" in doubt", "an engineer answers for them", true
		for _, d := range s.Doubts() {
			if d.Tool == tools[0] && d.State == work.DoubtSample {
				c.Detail, c.Grave = d.Says(), false // the engineer answered; what is asked for is not tried yet
			}
		}
	}
	if who, at, ok := s.Waits(); ok && c.Decision == "" {
		c.Waits, c.Text = who, "waits for "+work.Article(who)
		c.Decision, c.Detail = c.Text, "before it goes on: "+short(at.Text)
	}
	if c.Paused {
		c.Text = "paused; " + c.Text
	}
}

func (c *Card) tighten(r Run, st recipe.Step, next record.Act) {
	s := r.State
	c.State, c.Text = "tighten", short(st.Text)
	if next == (record.Act{}) {
		c.Text = "trouble is open"
	}
	if next.Bolt == 0 {
		return
	}
	c.Text = s.Describe(next) + " next"
	if t, ok := s.Tool(next); ok {
		g, _ := r.Plan.Result.Group(st.Group)
		c.Now = fmt.Sprintf("%s at %s", g.BoltName(next.Bolt), t.Setting)
	}
	if next.Round == 0 {
		return
	}
	c.State = "check"
	for _, x := range s.Rounds(st.ID) {
		if len(x.Moved) > 0 && !x.Void && next.Turn == 0 {
			c.Decision, c.Detail = fmt.Sprintf("bolt %d moved in round %d", x.Moved[0], x.Number), "another round follows"
		}
	}
}

// short is the first part of a step's text.
func short(text string) string {
	cut := strings.IndexAny(text, ",;:.")
	if cut > 8 {
		return lower(text[:cut])
	}
	return lower(record.Trim(text))
}

func lower(s string) string {
	if s == "" {
		return s
	}
	return strings.ToLower(s[:1]) + s[1:]
}

// stored returns a card as it is kept.
func (c Card) stored() (string, error) {
	b, err := json.Marshal(c)
	return cardForm + string(b), err
}

// readCard reads a card that was kept; ok is false where it is of another form.
func readCard(text string) (c Card, ok bool) {
	body, ok := strings.CutPrefix(text, cardForm)
	return c, ok && json.Unmarshal([]byte(body), &c) == nil
}

// stale names the runs whose cards are behind.
type stale struct {
	mu  sync.Mutex
	ids map[uuid.UUID]bool
}

func (s *stale) add(id uuid.UUID) {
	s.mu.Lock()
	defer s.mu.Unlock()
	if s.ids == nil {
		s.ids = map[uuid.UUID]bool{}
	}
	s.ids[id] = true
}

func (s *stale) take() map[uuid.UUID]bool {
	s.mu.Lock()
	defer s.mu.Unlock()
	ids := s.ids
	s.ids = nil
	return ids
}

// keepEvery is how often cards of runs that changed are kept.
const keepEvery = 2 * time.Second

// keepCards keeps the cards of runs that changed, until ctx ends.
func (a *App) keepCards(ctx context.Context) {
	tick := time.NewTicker(keepEvery)
	defer tick.Stop()
	for {
		select {
		case <-ctx.Done():
			return
		case <-tick.C:
			if err := a.KeepCards(ctx); err != nil && ctx.Err() == nil {
				slog.Warn("cards of the Wall were not kept; it makes them anew", "error", err)
			}
		}
	}
}

// KeepCards keeps the cards of all runs that changed since it was last called.
func (a *App) KeepCards(ctx context.Context) error {
	var cards []store.KeptCard
	for id := range a.stale.take() {
		c, ok := a.runs.Get(id)
		if !ok {
			continue
		}
		c.mu.Lock()
		r := c.run()
		c.mu.Unlock()
		text, err := cardOf(r).stored()
		if err != nil {
			return err
		}
		cards = append(cards, store.KeptCard{Run: r.Head.ID, Seq: r.Head.HeadSeq, Card: text})
	}
	if len(cards) == 0 {
		return nil
	}
	return a.store.SaveCards(ctx, cards)
}

// figureOf returns the drawing of a card, by its key; it is worked out once.
func (a *App) figureOf(ctx context.Context, key string, of uuid.UUID) (figure.Figure, error) {
	if f, ok := a.figures.Load(key); ok {
		return f.(figure.Figure), nil
	}
	plans, err := a.store.NewestPlans(ctx, of)
	if err != nil || len(plans) == 0 || plans[0].Unreadable {
		return figure.Figure{}, err
	}
	_, r, err := a.recipeOf(ctx, plans[0].Input)
	if _, torn := faultOf(err); torn {
		return figure.Figure{}, nil // the card is there all the same
	}
	if err != nil {
		return figure.Figure{}, err
	}
	f := judge.Figure(r, plans[0].Result.With(r))
	a.figures.Store(key, f)
	return f, nil
}
