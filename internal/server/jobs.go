package server

import (
	"bytes"
	"context"
	"fmt"
	"math"
	"net/http"
	"slices"
	"strings"
	"time"

	"dynacor/core/figure"
	"dynacor/core/job"
	"dynacor/core/kind"
	"dynacor/core/plan"
	"dynacor/core/recipe"
	"dynacor/core/run"
	"dynacor/core/sequence"
	"dynacor/core/unit"
	"dynacor/internal/app"
	"dynacor/internal/report"
	"dynacor/internal/server/contract"
)

// SaveJob stores the draft of a joint that a recipe leads.
func (s *Server) SaveJob(ctx context.Context, r contract.SaveJobRequestObject) (contract.SaveJobResponseObject, error) {
	if _, err := s.app.SaveJob(ctx, who(ctx), r.Joint, r.Body.Version, jobInput(r.Body.Input)); err != nil {
		return nil, err
	}
	j, err := s.app.Joint(ctx, r.Joint)
	if err != nil {
		return nil, err
	}
	return contract.SaveJob200JSONResponse{JointAnswerJSONResponse: contract.JointAnswerJSONResponse(s.jointView(ctx, j))}, nil
}

// AddAct stores an entry of a run that a recipe leads.
func (s *Server) AddAct(ctx context.Context, r contract.AddActRequestObject) (contract.AddActResponseObject, error) {
	n, stored, err := s.add(ctx, r.Run, *r.Body, true)
	if err != nil {
		return nil, err
	}
	e := near
	if _, correction := n.Content.(run.Correction); correction {
		e = far
	}
	return contract.AddAct200JSONResponse(s.jobRunView(ctx, stored, e)), nil
}

// JudgeReadings gives the verdict on readings that are not stored.
func (s *Server) JudgeReadings(ctx context.Context, r contract.JudgeReadingsRequestObject) (contract.JudgeReadingsResponseObject, error) {
	held := math.Inf(1)
	if r.Body.Held != nil {
		held = *r.Body.Held
	}
	outside, err := s.app.JudgeReadings(ctx, r.Run, r.Body.Step, r.Body.Readings, held)
	return contract.JudgeReadings200JSONResponse{Outside: outside}, err
}

// GetDrawing writes a joint's drawing as SVG.
func (s *Server) GetDrawing(ctx context.Context, r contract.GetDrawingRequestObject) (contract.GetDrawingResponseObject, error) {
	d, err := s.app.Drawing(ctx, r.Joint, r.Params.Labels != nil && string(*r.Params.Labels) == "order")
	if err != nil {
		return nil, err
	}
	var b bytes.Buffer
	err = report.SVG(&b, d)
	return file{name: strings.ReplaceAll(d.Tag, "/", "-") + ".svg", kind: "image/svg+xml", body: b.Bytes()}, err
}

func (f file) VisitGetDrawingResponse(w http.ResponseWriter) error {
	return f.VisitGetRecordResponse(w)
}

func given(g job.Given) *contract.Given {
	if g.IsZero() {
		return nil
	}
	return &contract.Given{Value: quantity(g.Value), Max: optional(g.Max)}
}

func jobInput(v contract.JobInput) job.Input {
	in := job.Input{Recipe: v.Recipe, Edition: v.Edition, Type: v.Type, Size: v.Size, Choices: v.Choices, Values: map[string]job.Given{}, Groups: map[string]job.Bolts{}}
	for name, g := range v.Values {
		in.Values[name] = job.Given{Value: fromQuantity(g.Value), Max: fromOptional(g.Max)}
	}
	for name, b := range v.Groups {
		in.Groups[name] = job.Bolts{Count: value(b.Count), Thread: text(b.Thread), Grade: text(b.Grade), SpecifiedFor: text(b.SpecifiedFor), Lubrication: text(b.Lubrication),
			Decision: plan.Decision(value(b.Decision)), Rows: value(b.Rows), Across: fromOptional(b.Across), Down: fromOptional(b.Down), Stages: text(b.Stages), Order: sequence.Pattern(text(b.Order)), OnCentre: value(b.OnCentre), Reason: text(b.Reason)}
	}
	return in
}

func jobInputView(in job.Input) contract.JobInput {
	v := contract.JobInput{Recipe: in.Recipe, Edition: in.Edition, Type: in.Type, Size: in.Size, Choices: map[string]string{}, Values: map[string]contract.Given{}, Groups: map[string]contract.JobBolts{}}
	for name, option := range in.Choices {
		v.Choices[name] = option
	}
	for name, g := range in.Values {
		v.Values[name] = *given(g)
	}
	for name, b := range in.Groups {
		one := contract.JobBolts{Thread: some(b.Thread), Grade: some(b.Grade), SpecifiedFor: some(b.SpecifiedFor), Lubrication: some(b.Lubrication), Across: optional(b.Across), Down: optional(b.Down), Stages: some(b.Stages), Order: some(string(b.Order)), Reason: some(b.Reason)}
		if b.Count != 0 {
			one.Count = &b.Count
		}
		if b.Rows != 0 {
			one.Rows = &b.Rows
		}
		if b.OnCentre {
			one.OnCentre = &b.OnCentre
		}
		if b.Decision != "" {
			d := contract.JobBoltsDecision(b.Decision)
			one.Decision = &d
		}
		v.Groups[name] = one
	}
	return v
}

// leading shows a joint that a recipe leads.
func (s *Server) leading(ctx context.Context, j app.Joint) *contract.Job {
	d := j.Job
	v := &contract.Job{Version: d.Version, Input: jobInputView(d.Input), Values: []contract.JobValue{}, Minds: []contract.JobMind{}, Open: []contract.JobOpen{},
		Groups: groupViews(d.Recipe, d.Result, nil), Figure: figureView(app.Figure(d.Recipe, d.Result)), Recipe: jobRecipe(d)}
	for _, x := range d.Result.Values {
		v.Values = append(v.Values, contract.JobValue{Name: x.Need.Name, Text: x.Need.Text, Unit: string(x.Need.Unit), Word: x.Need.Word, Given: given(x.Given), Sheet: given(x.Sheet), Hand: x.Hand})
	}
	for _, m := range d.Result.Minds {
		x := contract.JobMind{Group: m.Group, Text: m.Text, Offer: some(m.Offer)}
		if m.Take != "" {
			t := contract.JobMindTake(m.Take)
			x.Take = &t
		}
		v.Minds = append(v.Minds, x)
	}
	for _, o := range d.Result.Open {
		v.Open = append(v.Open, contract.JobOpen{Field: o.Field, Text: o.Text})
	}
	if j.Run == nil {
		return v
	}
	p := j.Run.Plan
	v.Plan = &contract.JobPlan{Revision: p.Revision, IssuedBy: s.app.Name(ctx, p.IssuedBy.String()), IssuedAt: p.IssuedAt, CoreVersion: p.CoreVersion, Reason: some(p.Reason),
		Changed: !same(p.Job.Input, d.Input), Deviations: orNone(p.Job.Result.Deviations)}
	r := s.jobRunView(ctx, *j.Run, far)
	v.Run = &r
	return v
}

// same compares two inputs as they are written.
func same(a, b job.Input) bool { return fmt.Sprint(a) == fmt.Sprint(b) }

func jobRecipe(d *app.JobDraft) contract.JobRecipe {
	r := d.Recipe
	v := contract.JobRecipe{ID: r.ID, Title: r.Title, Kind: r.Kind, Edition: r.Edition, Choices: choiceViews(r.Asked(d.Input.Choices)), Types: []contract.JobType{}, Parts: []contract.RecipeItem{},
		Materials: orNone(r.Materials), Tools: orNone(r.Tools)}
	if k, err := kind.Named(r.Kind); err == nil {
		v.Against = k.Against
	}
	if d.Newer > 0 {
		v.Newer = &d.Newer
	}
	if r.Sheet != nil {
		v.Sheet = r.Sheet.Title
	}
	for _, t := range r.Sheet.Types() {
		v.Types = append(v.Types, contract.JobType{Type: t, Sizes: r.Sheet.Sizes(t)})
	}
	for _, p := range r.Parts {
		if p.When.Holds(d.Input.Choices) {
			v.Parts = append(v.Parts, partView(p))
		}
	}
	return v
}

func groupViews(r recipe.Recipe, res job.Result, tooling map[string]run.Tooling) []contract.JobGroup {
	out := []contract.JobGroup{}
	for _, g := range res.Groups {
		words, _ := orderWords(g.Pattern)
		v := contract.JobGroup{Name: g.Name, One: job.One(g.Name), Of: g.Of, How: contract.JobGroupHow(g.How), Count: g.Count, Asked: g.Bolts == 0 && g.Of == "", Least: g.Least, Most: g.Most,
			Thread: g.Thread, Grade: g.Grade, SpecifiedFor: g.SpecifiedFor, Lubrication: g.Lubrication, Short: g.Short, OnCentre: g.OnCentre, Dry: g.Dry, Lock: g.Lock, Still: g.Still, Rows: g.Grid.Rows, Cols: g.Grid.Cols, Staged: g.Staged(), Portion: g.Portion, Stands: g.Stands,
			Torque: g.Torque, TorqueMin: g.TorqueMin, TorqueMax: g.TorqueMax, Equivalent: g.Equivalent, Load: g.Load, LikelyLow: g.LikelyLow, LikelyHigh: g.LikelyHigh,
			Limit: g.Limit, Utilisation: g.Utilisation, Stages: orNone(g.Stages), Torques: orNone(g.Torques), Order: g.Order, Pattern: string(g.Pattern), PatternWords: words,
			Orders: orderChoices(r, g), Words: app.GroupSentence(res, g), Value: g.Value}
		v.Order = orNone(v.Order)
		if t, ok := tooling[g.Name]; ok {
			list := []contract.PassTool{}
			for _, p := range t.Passes {
				list = append(list, passToolView(p))
			}
			v.Tooling = &list
		}
		out = append(out, v)
	}
	return out
}

// orderChoices lists the orders a group can be tightened in, its kind's own
// first, with what another does to it.
func orderChoices(r recipe.Recipe, g job.Group) []contract.JobOrder {
	out := []contract.JobOrder{}
	k, err := kind.Named(r.Kind)
	if err != nil || g.Count < 3 || (g.Layout != recipe.Ring && g.Layout != recipe.Cover) || len(k.Orders) == 0 {
		return out
	}
	list := slices.Clone(k.Orders)
	for _, p := range []sequence.Pattern{sequence.Cross4, sequence.Cross8, sequence.Star, sequence.Circular} {
		if !slices.Contains(list, p) {
			list = append(list, p)
		}
	}
	for _, p := range list {
		if _, err := sequence.Ring(p, g.Count, 1); err != nil {
			continue
		}
		words, _ := orderWords(p)
		against, _ := k.Warn(p)
		out = append(out, contract.JobOrder{Name: string(p), Words: words, Against: against})
	}
	return out
}

// jobRunView shows a run that a recipe leads.
func (s *Server) jobRunView(ctx context.Context, r app.Run, e extent) contract.JobRun {
	st, res := r.Job, r.Plan.Job.Result
	me := who(ctx)
	pulled := st.Pullers[me.ID.String()]
	v := contract.JobRun{ID: r.Head.ID, Revision: r.Head.Revision, Stage: contract.JobRunStage(st.Stage), Entries: r.Head.HeadSeq, Undoes: st.Undoes(), Again: st.Again(),
		Figure: figureView(app.Figure(st.Work.Recipe, res)), Groups: groupViews(st.Work.Recipe, res, st.Tooling), Bolts: []contract.JobBolt{}, Ahead: []contract.JobAct{},
		Steps: s.stepViews(ctx, st, me.ID.String()), Outside: st.Outside(), Open: orNone(st.Open()),
		Tape: tapeView(s.app.JobTape(ctx, st, e.tape), len(st.Signatures) == 0), Checker: st.Checker(), Begun: st.Begun(), Rounds: st.Work.Moving(),
		MayMake: me.Is(app.Fitter) && (pulled || !st.Begun()), MayCheck: !pulled && s.app.Qualified(ctx, me, st.Checker())}
	v.Locks, v.Lockable = st.Work.Locks()
	for _, b := range st.Bolts() {
		g, _ := r.Follow.Group(b.Group)
		place := ""
		if g.Layout == recipe.Ring && len(res.Groups) == 1 {
			place = across(b.Position, g.Count, g.OnCentre)
		}
		v.Bolts = append(v.Bolts, contract.JobBolt{Group: b.Group, Position: b.Position, Level: b.Level, Mark: contract.Mark(b.Mark), Locked: b.Locked, Place: place})
	}
	if next, ok := st.Next(); ok && next.Bolt > 0 {
		a := actView(st, next)
		v.Next = &a
	}
	for i, a := range st.Ahead() {
		if i == e.ahead {
			break
		}
		v.Ahead = append(v.Ahead, actView(st, a))
	}
	v.Paused = s.pausedView(ctx, st.Paused)
	v.Signatures, v.Deviations = s.signatureViews(ctx, st.Signatures), deviationViews(st.AllDeviations())
	return v
}

func actView(st *job.State, a recipe.Act) contract.JobAct {
	step, _ := st.Work.Step(a)
	return contract.JobAct{Aim: optional(st.Aim(a)), Step: a.Step, Group: step.Group, Bolt: a.Bolt, Share: a.Share, Turn: a.Turn, Stroke: a.Stroke, Lock: a.Lock, Round: a.Round,
		Words: st.Describe(run.Step{Step: a.Step, Bolt: a.Bolt, Share: a.Share, Turn: a.Turn, Stroke: a.Stroke, Lock: a.Lock, Round: a.Round})}
}

func (s *Server) stepViews(ctx context.Context, st *job.State, me string) []contract.JobStep {
	out := []contract.JobStep{}
	for _, l := range s.app.Steps(ctx, st) {
		x := l.Step
		v := contract.JobStep{ID: x.ID, Does: string(x.Does), Station: slices.Index(recipe.Stations(), x.Station) + 1, Text: x.Text, Items: orNone(x.Items), Cautions: cautionViews(x.Cautions),
			Cautioned: len(x.Cautions) == 0 || st.Cautioned[x.ID][me], By: x.By, Must: x.Must, Hold: x.Hold, Group: x.Group, Offered: len(l.Acts) > 0, Done: l.Done, Count: l.Count, All: l.All,
			DoneBy: some(l.By), Readings: l.Readings, Outside: l.Outside, Reason: l.Reason, Skipped: l.Skipped, Tries: []contract.JobTry{}, Parts: []contract.RecipeItem{}, Marks: orNone(l.Marks), Spots: []contract.FigureLabel{}, Sample: []int{}}
		if x.Does == recipe.Match {
			for _, p := range st.Work.Parts() {
				v.Parts = append(v.Parts, partView(p))
			}
		}
		if l.By != "" {
			v.DoneAt = &l.At
		}
		bolts := st.Work.Sample(x.ID)
		if w, ok := st.Work.WindowAt(x.ID, bolts); ok {
			v.Limit, v.Unit, v.Places = w.Words(), string(w.Unit)+w.Word, max(x.Places, len(bolts), 1)
			v.Spots, v.Sample, v.SampleOf, v.Widens = spots(x, w, v.Places), orNone(bolts), x.Sample, st.Work.Widens(x.ID)
		}
		for _, t := range l.Tries {
			v.Tries = append(v.Tries, contract.JobTry{Readings: t.Readings, Outside: t.Outside, By: t.By, At: t.At.Truncate(time.Second)})
		}
		if l.Entry != "" {
			id := parseID(l.Entry)
			v.Entry = &id
		}
		out = append(out, v)
	}
	return out
}

func cautionViews(list []recipe.Caution) []contract.Caution {
	out := []contract.Caution{}
	for _, c := range list {
		out = append(out, contract.Caution{Kind: contract.CautionKind(c.Kind), Text: c.Text})
	}
	return out
}

// spots are where a step's readings are taken.
func spots(s recipe.Step, w recipe.Window, n int) []contract.FigureLabel {
	places := figure.Spots(s)
	out := []contract.FigureLabel{}
	for i := range n {
		var l contract.FigureLabel
		switch {
		case places != nil:
			l = contract.FigureLabel(places[i])
		case i < len(w.Spots):
			l.Text = w.Spots[i]
		case n > 1:
			l.Text = fmt.Sprintf("at %d", i+1)
		}
		out = append(out, l)
	}
	return out
}

func stepContent(c run.Step) *contract.EntryContent {
	c.Readings, c.Bolts = orNone(c.Readings), orNone(c.Bolts)
	return &contract.EntryContent{Step: &c.Step, Bolt: &c.Bolt, Share: &c.Share, Turn: &c.Turn, Stroke: &c.Stroke, Lock: &c.Lock, Round: &c.Round, Readings: &c.Readings, Bolts: &c.Bolts, Held: &c.Held,
		Moved: &c.Moved, Reading: optional(c.Reading), Skipped: &c.Skipped, Reason: some(c.Reason)}
}

// leadView shows the card of a joint that a recipe leads.
func leadView(c app.Card, v *contract.JointCard) {
	v.Kind = c.Recipe.Title
	var key []string
	var names []string
	for _, g := range c.Job.Groups {
		if g.Of != "" || g.Count == 0 {
			continue
		}
		v.Bolts += g.Count
		key = append(key, fmt.Sprintf("%s %d %t %s", g.Layout, g.Count, g.OnCentre, g.Name))
		if name := fmt.Sprintf("%d × %s", g.Count, g.Thread); g.Thread != "" && !slices.Contains(names, name) {
			names = append(names, name)
		}
	}
	if len(names) > 0 {
		v.Thread = names[0]
		if len(names) > 1 {
			v.Thread += " …"
		}
	}
	if v.Bolts > 0 {
		v.Figure = string(c.Recipe.Drawing) + " " + strings.Join(key, ", ")
	}
	if c.Run == nil {
		return
	}
	next, _ := c.Run.Job.Next()
	st, _ := c.Run.Job.Work.Step(next)
	for i, b := range c.Run.Job.Bolts() {
		v.Levels = append(v.Levels, b.Level)
		v.Marks = append(v.Marks, contract.Mark(b.Mark))
		if next.Bolt == b.Position && st.Group == b.Group {
			at := i + 1
			v.Next = &at
		}
	}
}

func figureView(f figure.Figure) contract.Figure {
	v := contract.Figure{Shapes: []contract.FigureShape{}, Bolts: []contract.FigureBolt{}, Labels: []contract.FigureLabel{}, Clock: f.Clock}
	for _, x := range f.Shapes {
		v.Shapes = append(v.Shapes, contract.FigureShape{Role: contract.FigureShapeRole(x.Role), X: tenth(x.X), Y: tenth(x.Y), R: tenth(x.R), W: tenth(x.W), H: tenth(x.H)})
	}
	for _, b := range f.Bolts {
		v.Bolts = append(v.Bolts, contract.FigureBolt{Group: b.Group, Bolt: b.Bolt, X: tenth(b.X), Y: tenth(b.Y), R: tenth(b.R)})
	}
	for _, l := range f.Labels {
		v.Labels = append(v.Labels, contract.FigureLabel{Text: l.Text, X: tenth(l.X), Y: tenth(l.Y)})
	}
	return v
}

// tenth rounds a coordinate; a drawing shows no more.
func tenth(v float64) float64 { return unit.Round(v, 0.1) }
