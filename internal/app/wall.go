package app

import (
	"context"
	"fmt"
	"slices"
	"strings"
	"time"

	"github.com/google/uuid"

	"dynacor/core/figure"
	"dynacor/core/job"
	"dynacor/core/plan"
	"dynacor/core/recipe"
	"dynacor/core/run"
	"dynacor/internal/store"
)

// Card is a joint as the Wall shows it: where it stands, in a few words.
type Card struct {
	Joint    store.Joint
	Bolts    int
	Thread   string
	OnCentre bool
	Recipe   *recipe.Recipe // where one leads it
	Job      *job.Result
	State    string // new, draft, issued, tighten, check, stopped, prove, sign, signed
	Text     string
	Station  int
	Run      *Run
}

// ToDo is something that waits for somebody.
type ToDo struct {
	Joint   uuid.UUID
	Station int
	Title   string
	Text    string
	Detail  string
	Grave   bool
	urgency int // lower comes first
}

// Wall is every joint of the outage, what is next for whoever asks, and what
// wants a decision.
type Wall struct {
	Site      Site
	Cards     []Card
	Next      []ToDo
	Decisions []ToDo
}

// Site is the works, its outage and how far it is.
type Site struct {
	store.Site
	Day   int
	Areas []store.Area
}

// Site returns the site.
func (a *App) Site(ctx context.Context) (Site, error) {
	s, err := a.store.Site(ctx)
	if err != nil {
		return Site{}, found(err, "site")
	}
	areas, err := a.store.Areas(ctx)
	day := int(a.now().Sub(s.Begins).Hours()/24) + 1
	return Site{s, max(1, min(day, s.Days)), areas}, err
}

// Wall returns the Wall as who sees it.
func (a *App) Wall(ctx context.Context, who Who) (Wall, error) {
	site, err := a.Site(ctx)
	if err != nil {
		return Wall{}, err
	}
	joints, err := a.store.Joints(ctx)
	if err != nil {
		return Wall{}, err
	}
	drafts, err := a.store.UnissuedDrafts(ctx)
	if err != nil {
		return Wall{}, err
	}
	runs, err := a.allRuns(ctx)
	if err != nil {
		return Wall{}, err
	}
	newest, err := a.newestEditions(ctx)
	if err != nil {
		return Wall{}, err
	}
	laid := map[uuid.UUID]store.Draft{}
	for _, d := range drafts {
		laid[d.Joint] = d
	}
	w := Wall{Site: site}
	for _, j := range joints {
		c := Card{Joint: j, State: "new", Text: "not laid out", Station: 1}
		d, isLaid := laid[j.ID]
		r, isIssued := runs[j.ID]
		switch {
		case isIssued && r.Job != nil:
			c.Run, c.Recipe, c.Job = &r, &r.Job.Work.Recipe, &r.Plan.Job.Result
			c.leading(r)
		case j.Recipe != "":
			if err := a.unissued(ctx, &c, d, isLaid, newest); err != nil {
				return Wall{}, err
			}
		case isIssued:
			c.Run = &r
			c.sentence(r.Plan.Input)
			c.running(r)
		case isLaid:
			c.sentence(d.Input)
			c.State, c.Text = "draft", "laid out, not issued"
		default:
			c.sentence(plan.Starting())
			c.Bolts, c.Thread = 0, ""
		}
		w.Cards = append(w.Cards, c)
		if t, ok := a.next(c, who); ok {
			w.Next = append(w.Next, t)
		}
		if t, ok := decision(c); ok {
			w.Decisions = append(w.Decisions, t)
		}
	}
	w.Decisions = append(w.Decisions, a.calibrations(ctx)...)
	slices.SortStableFunc(w.Next, func(x, y ToDo) int { return x.urgency - y.urgency })
	return w, nil
}

// Figure draws a card's joint.
func (c Card) Figure() figure.Figure {
	if c.Job != nil {
		return Figure(*c.Recipe, *c.Job)
	}
	return ringFigure(plan.Input{Bolts: c.Bolts, OnCentre: c.OnCentre})
}

// unissued shows a joint that a recipe leads before its plan is issued.
func (a *App) unissued(ctx context.Context, c *Card, d store.Draft, laid bool, newest map[string]int) error {
	jd, err := a.jobDraft(ctx, c.Joint, d, newest[c.Joint.Recipe])
	if err != nil {
		return err
	}
	c.Recipe, c.Job = &jd.Recipe, &jd.Result
	if laid {
		c.State, c.Text = "draft", "laid out, not issued"
	}
	return nil
}

// leading says where a run stands that a recipe leads.
func (c *Card) leading(r Run) {
	s := r.Job
	next, _ := s.Next()
	st, _ := s.Work.Step(next)
	switch s.Stage {
	case run.StageLayOut:
		c.State, c.Text, c.Station = "issued", "prepare: "+short(st.Text), 1
		if len(s.Effective) == 0 {
			c.Text = "ready to prepare"
		}
	case run.StageTool:
		c.State, c.Text, c.Station = "issued", "needs its tool", 2
	case run.StageTighten:
		c.State, c.Station = "tighten", 3
		c.Text = short(st.Text)
		if next.Bolt > 0 {
			c.Text = s.Describe(run.Step{Step: next.Step, Bolt: next.Bolt, Share: next.Share, Turn: next.Turn, Lock: next.Lock, Round: next.Round}) + " next"
		}
		if next.Round > 0 {
			c.State = "check"
		}
	case run.StageStopped:
		c.State, c.Text, c.Station = "stopped", "rounds, still moving", 3
	case run.StageProve:
		c.State, c.Text, c.Station = "prove", "prove: "+short(st.Text), 4
	case run.StageSign:
		c.State, c.Text, c.Station = "sign", "waits for a signature", 5
	case run.StageSigned:
		last := s.Signatures[len(s.Signatures)-1].Entry
		word := "signed "
		if s.Undoes() {
			word = "undone, signed "
		}
		c.State, c.Text, c.Station = "signed", word+last.AtServer.Local().Format("2 Jan, 15:04"), 5
	}
	if s.Paused != nil {
		c.Text = "paused; " + c.Text
	}
}

// short is the first part of a step's text.
func short(text string) string {
	cut := strings.IndexAny(text, ",;:.")
	if cut > 8 {
		return lower(text[:cut])
	}
	return lower(strings.TrimSuffix(text, "."))
}

func lower(s string) string {
	if s == "" {
		return s
	}
	return strings.ToLower(s[:1]) + s[1:]
}

func (c *Card) sentence(in plan.Input) {
	c.Bolts, c.Thread, c.OnCentre = in.Bolts, in.Thread, in.OnCentre
}

func (c *Card) running(r Run) {
	s := r.State
	passes := len(r.Plan.Result.Passes)
	switch s.Stage {
	case run.StageTool:
		c.State, c.Text, c.Station = "issued", "needs its tool", 2
	case run.StageTighten:
		c.State, c.Station = "tighten", 3
		if !s.Begun() {
			c.State, c.Text = "issued", "ready to tighten"
			break
		}
		c.Text = fmt.Sprintf("pass %d of %d, bolt %d next", s.Pass, passes, s.Next.Bolt)
	case run.StageCheck:
		c.State, c.Station = "check", 3
		c.Text = fmt.Sprintf("check round %d, bolt %d next", s.Next.Round, s.Next.Bolt)
	case run.StageStopped:
		c.State, c.Station = "stopped", 3
		c.Text = fmt.Sprintf("%d rounds, still moving", len(s.Rounds))
	case run.StageProve:
		c.State, c.Text, c.Station = "prove", "waits for proof", 4
	case run.StageSign:
		c.State, c.Text, c.Station = "sign", "waits for a signature", 5
	case run.StageSigned:
		last := s.Signatures[len(s.Signatures)-1].Entry
		c.State, c.Text, c.Station = "signed", "signed "+last.AtServer.Local().Format("2 Jan, 15:04"), 5
	}
	if s.Paused != nil {
		c.Text = "paused; " + c.Text
	}
}

// next says whether a joint waits for who, and for what.
func (a *App) next(c Card, who Who) (ToDo, bool) {
	t := ToDo{Joint: c.Joint.ID, Station: c.Station, Title: c.Joint.Tag, Detail: c.Joint.Title}
	t.urgency = urgency(c)
	mine := c.Joint.Assigned != nil && *c.Joint.Assigned == who.ID
	switch c.State {
	case "new":
		t.Text = "lay it out"
		return t, mine
	case "draft":
		t.Text = "issue the plan"
		return t, who.Is(Engineer)
	case "issued":
		t.Text = c.Text
		return t, mine && who.Is(Fitter)
	case "tighten", "check":
		if c.Run.Job != nil {
			t.Text, t.Detail = c.Text, c.Joint.Title
			return t, mine && who.Is(Fitter)
		}
		s := c.Run.State
		set := s.Tooling.Passes[s.Next.Pass-1].Setting
		t.Text = fmt.Sprintf("bolt %d at %.5g %s", s.Next.Bolt, set.Value, set.Unit)
		t.Detail = c.Text
		return t, mine && who.Is(Fitter)
	case "prove":
		t.Text = "gap at four quarters"
		if c.Run.Job != nil {
			t.Text = strings.TrimPrefix(c.Text, "prove: ")
		}
		return t, who.Is(Inspector) || mine
	case "sign":
		t.Text = "sign the record"
		made, pulled := len(c.Run.Signatures()) > 0, c.Run.Pulled(who.ID.String())
		return t, (who.Is(Inspector) && made && !pulled) || (mine && !made && (pulled || !c.Run.Begun()))
	}
	return t, false
}

// urgency puts what is in hand before what waits, and that before what has
// not begun.
func urgency(c Card) int {
	switch {
	case c.Run != nil && c.Run.Paused() != nil:
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

func decision(c Card) (ToDo, bool) {
	t := ToDo{Joint: c.Joint.ID, Station: c.Station, Title: c.Joint.Tag}
	if c.State == "stopped" {
		t.Text, t.Detail, t.Grave = c.Text, "an engineer decides on another round", true
		return t, true
	}
	if c.State == "check" && c.Run.State != nil && len(c.Run.State.Rounds) > 0 {
		for _, r := range c.Run.State.Rounds {
			if len(r.Moved) > 0 && !r.Interrupted {
				t.Text, t.Detail = fmt.Sprintf("bolt %d moved in round %d", r.Moved[0], r.Number), "another round follows"
				return t, true
			}
		}
	}
	return t, false
}

// soon is how long before its end a calibration is pointed out.
const soon = 3 * 24 * time.Hour

func (a *App) calibrations(ctx context.Context) []ToDo {
	tools, err := a.store.Tools(ctx)
	if err != nil {
		return nil // the Wall stands without it; the crib shows it too
	}
	var out []ToDo
	now := a.now()
	for _, t := range tools {
		switch {
		case t.HeldBack != "":
			out = append(out, ToDo{Title: t.Tag, Text: "held back", Detail: t.HeldBack, Grave: true})
		case t.Due == nil:
		case !now.Before(t.Due.AddDate(0, 0, 1)):
			out = append(out, ToDo{Title: t.Tag, Text: "out of calibration", Detail: "since " + t.Due.Format("2 January"), Grave: true})
		case now.Add(soon).After(*t.Due):
			out = append(out, ToDo{Title: t.Tag, Text: "calibration ends soon", Detail: t.Due.Format("2 January")})
		}
	}
	return out
}
