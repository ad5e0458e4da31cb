package app

import (
	"context"
	"encoding/hex"
	"fmt"
	"math"
	"slices"
	"strings"

	"github.com/google/uuid"

	"dynacor/core/figure"
	"dynacor/core/job"
	"dynacor/core/plan"
	"dynacor/core/recipe"
	"dynacor/core/run"
	"dynacor/core/unit"
	"dynacor/internal/report"
	"dynacor/internal/store"
)

// Figure draws a joint that a recipe leads.
func Figure(r recipe.Recipe, res job.Result) figure.Figure {
	var groups []figure.Group
	for _, g := range res.Groups {
		if g.Of == "" {
			groups = append(groups, figure.Group{Name: g.Name, Layout: g.Layout, Bolts: g.Count, OnCentre: g.OnCentre, Holes: g.Holes, Grid: g.Grid})
		}
	}
	return figure.Of(r.Drawing, groups)
}

// Drawing returns a joint's drawing with what its bolts hold; byOrder labels
// them by the order they are tightened in.
func (a *App) Drawing(ctx context.Context, joint uuid.UUID, byOrder bool) (report.Drawing, error) {
	j, err := a.Joint(ctx, joint)
	if err != nil {
		return report.Drawing{}, err
	}
	d := report.Drawing{Tag: j.Tag, Title: j.Title}
	orders := map[string][]int{}
	if j.Job != nil {
		d.Figure = Figure(j.Job.Recipe, j.Job.Result)
		for _, g := range j.Job.Result.Groups {
			orders[g.Name] = g.Order
		}
		if j.Run != nil {
			for _, b := range j.Run.Job.Bolts() {
				d.Levels = append(d.Levels, b.Level)
			}
		}
	} else {
		d.Figure = ringFigure(j.Draft.Input)
		orders[""] = j.Draft.Result.Order
		if j.Run != nil {
			for _, b := range j.Run.State.Bolts {
				d.Levels = append(d.Levels, b.Level)
			}
		}
	}
	if byOrder {
		for _, b := range d.Figure.Bolts {
			d.Labels = append(d.Labels, slices.Index(orders[b.Group], b.Bolt)+1)
		}
	}
	return d, nil
}

func ringFigure(in plan.Input) figure.Figure {
	return figure.Of(recipe.Beside, []figure.Group{{Layout: recipe.Ring, Bolts: in.Bolts, OnCentre: in.OnCentre}})
}

// jobRecord is the record of a run that a recipe leads.
func (a *App) jobRecord(ctx context.Context, j store.Joint, of Run, site Site) report.Record {
	p, s := of.Plan, of.Job
	r := s.Work.Recipe
	out := report.Record{Site: site.Name, Outage: site.Outage, Tag: j.Tag, Title: j.Title, Area: j.AreaName, State: of.standing(),
		Revision: p.Revision, CoreVersion: p.CoreVersion, IssuedBy: a.Name(ctx, p.IssuedBy.String()), IssuedAt: p.IssuedAt, Reason: p.Reason,
		Kind: r.Kind, Recipe: fmt.Sprintf("%s, edition %d", r.Title, p.Job.Input.Edition), Open: s.Open(), Deviations: []string{},
		Hash: hex.EncodeToString(of.Head.HeadHash), Figure: Figure(r, p.Job.Result)}
	if s.Stage == run.StageSigned {
		out.Open = nil
	}
	out.Sentence = JobSentence(r, p.Job.Input)
	for _, d := range s.AllDeviations() {
		out.Deviations = append(out.Deviations, d.Text)
	}
	for _, v := range p.Job.Result.Values {
		source := "by hand"
		if !v.Hand {
			source = "maker’s sheet"
		}
		out.Values = append(out.Values, report.Value{Name: v.Need.Text, Value: strings.TrimSpace(v.Given.String() + " " + v.Need.Word), Source: source})
	}
	for _, g := range p.Job.Result.Groups {
		out.Groups = append(out.Groups, groupRecord(p.Job.Result, g, s))
	}
	for _, b := range s.Bolts() {
		out.Bolts = append(out.Bolts, report.Bolt{Group: b.Group, Position: b.Position, Level: b.Level, Mark: b.Mark})
	}
	out.Steps = a.stepRecords(ctx, s)
	for _, sig := range s.Signatures {
		out.Signatures = append(out.Signatures, report.Signature{Part: string(sig.Part), By: a.Name(ctx, sig.Entry.Person), At: sig.Entry.AtServer, Reason: sig.Reason})
	}
	out.Entries = entries(a.JobTape(ctx, s, len(s.Effective)))
	return out
}

// JobSentence says what a joint is: its recipe, its nameplate, its variant.
func JobSentence(r recipe.Recipe, in job.Input) []string {
	out := []string{fmt.Sprintf("%s, by the recipe %s, edition %d.", r.Title, r.ID, in.Edition)}
	if in.Type != "" {
		out = append(out, fmt.Sprintf("Nameplate: %s %s.", in.Type, in.Size))
	}
	for _, c := range r.Asked(in.Choices) {
		out = append(out, fmt.Sprintf("%s: %s.", c.Text, in.Choices[c.Name]))
	}
	return out
}

func groupRecord(res job.Result, g job.Group, s *job.State) report.Group {
	t := s.Tooling[g.Name]
	out := report.Group{Name: g.Name, Lubrication: g.Lubrication, Words: GroupSentence(res, g)}
	for _, st := range s.Work.Steps() {
		if round, ok := s.Work.Still(st.ID); ok && st.Group == g.Name {
			out.Words += fmt.Sprintf(" Round %d moved nothing.", round)
		}
	}
	for i, torque := range g.Torques {
		ps := report.Pass{Number: i + 1, Share: g.Stages[i], Torque: torque}
		if i < len(t.Passes) {
			at := t.Passes[i]
			ps.Tools, ps.Setting, ps.Unit, ps.Lands = strings.Join(at.Tools, " + "), at.Setting.Value, string(at.Setting.Unit), at.Lands
			ps.Calibrated, ps.Due = day(at.Calibrated), day(at.Due)
		}
		out.Passes = append(out.Passes, ps)
	}
	return out
}

// GroupSentence says what a group is pulled to and what that gives: the torque as
// it was written, too, where that is in another unit.
func GroupSentence(res job.Result, g job.Group) string {
	var parts []string
	what := fmt.Sprintf("%d × %s", g.Count, strings.TrimSpace(g.Thread+" "+g.Grade))
	parts = append(parts, strings.TrimSuffix(strings.TrimSpace(what), " ×"))
	switch {
	case g.How == recipe.ByTorque && g.TorqueMax > g.TorqueMin:
		parts = append(parts, fmt.Sprintf("to %.5g to %.5g N·m, aiming at %.5g N·m", g.TorqueMin, g.TorqueMax, g.Torque))
	case g.How == recipe.ByTorque:
		parts = append(parts, fmt.Sprintf("to %s%.5g N·m", written(res, g), g.Torque))
	case g.How == recipe.ByTurns:
		parts = append(parts, "by turns, no torque")
	case g.How == recipe.ByHand:
		parts = append(parts, "by hand")
	case g.How == recipe.NotTorqued:
		parts = append(parts, "must not be torqued")
	}
	if g.Short != "" {
		parts = append(parts, g.Short)
	}
	if g.Load > 0 {
		parts = append(parts, fmt.Sprintf("which is %.4g kN a bolt, likely %.4g to %.4g kN", g.Load/1000, g.LikelyLow/1000, g.LikelyHigh/1000))
	}
	return strings.Join(parts, ", ") + "."
}

// written is a group's torque as it was entered, where that is the torque it is
// pulled to and in another unit: "88 ft·lbf, ".
func written(res job.Result, g job.Group) string {
	for _, v := range res.Values {
		if v.Need.Name != g.Value || v.Given.Value.Unit == unit.NewtonMetre {
			continue
		}
		if nm, err := v.Given.Value.In(unit.NewtonMetre); err == nil && unit.AtMost(math.Abs(nm-g.Torque), 1e-9*nm) {
			return v.Given.String() + ", "
		}
	}
	return ""
}

func (a *App) stepRecords(ctx context.Context, s *job.State) []report.Step {
	var out []report.Step
	for _, l := range a.Steps(ctx, s) {
		if l.Step.Does == recipe.Sign {
			continue
		}
		r := report.Step{Station: string(l.Step.Station), Text: l.Step.Text, Done: l.Done, By: l.By, At: l.At, Readings: l.Readings, Marks: l.Marks, Outside: l.Outside, Reason: l.Reason}
		if len(l.Tries) > 1 {
			r.Tries = len(l.Tries)
		}
		if l.Step.Limit != nil {
			r.Limit = l.Step.Limit.Words()
		}
		out = append(out, r)
	}
	return out
}

// JobTape writes out the last entries of a run that a recipe leads, oldest
// first.
func (a *App) JobTape(ctx context.Context, s *job.State, most int) []TapeLine {
	from := max(0, len(s.Effective)-most)
	out := make([]TapeLine, 0, len(s.Effective)-from)
	for _, eff := range s.Effective[from:] {
		l := TapeLine{Entry: eff.Entry, Content: eff.Content, By: a.Name(ctx, eff.Entry.Person), What: run.Describe(eff.Entry.Content), Struck: eff.Content == nil}
		if eff.Corrected != nil {
			l.Note = "corrected: " + eff.Corrected.Content.(run.Correction).Reason
		}
		c := eff.Content
		if c == nil {
			c = eff.Entry.Content
		}
		switch c := c.(type) {
		case run.Step:
			a.stepLine(ctx, s, c, &l)
		case run.Tooling:
			l.What, l.Outcome = "tool for "+c.Group, strings.Join(c.Passes[len(c.Passes)-1].Tools, " + ")
		case run.Trouble:
			l.Bolt, l.What, l.Outcome = c.Bolt, fmt.Sprintf("bolt %d, trouble", c.Bolt), string(c.What)+", "+c.Remedy.Done()
			l.Note = join(l.Note, c.Note)
		default:
			plainLine(c, &l)
		}
		out = append(out, l)
	}
	return out
}

func (a *App) stepLine(ctx context.Context, s *job.State, c run.Step, l *TapeLine) {
	l.What, l.Bolt, l.Round, l.Reading, l.Outcome = s.Describe(c), c.Bolt, c.Round, c.Reading, "done"
	if at, ok := s.Tool(c); ok {
		l.Setting, l.Tools, l.Outcome = at.Setting, strings.Join(at.Tools, " + "), "held"
	}
	switch {
	case c.Skipped:
		l.Outcome = "left undone"
	case c.Round > 0 && c.Turn > 0 && c.Moved:
		l.Outcome = "turned"
	case c.Round > 0 && c.Turn > 0:
		l.Outcome = "held"
	case c.Round > 0 && c.Moved:
		l.Outcome = "moved"
	case c.Round > 0:
		l.Outcome = "no turn"
	case c.Lock:
		l.Outcome = "locked"
	case len(c.Readings) > 0:
		l.Outcome = readings(s.Work, c.Step, c.Readings, c.Bolts)
	}
	l.Note = join(l.Note, c.Reason)
	if c.Qualified != "" && c.Qualified != l.Entry.Person {
		l.Note = join(l.Note, "with the PIN of "+a.Name(ctx, c.Qualified))
	}
}

// readings writes readings out, those of a sample with their bolts.
func readings(w *recipe.Work, step string, list []float64, bolts []int) string {
	win, _ := w.Window(step)
	var v []string
	for i, x := range list {
		s := fmt.Sprintf("%.6g", x)
		if i < len(bolts) {
			s = fmt.Sprintf("bolt %d: %s", bolts[i], s)
		}
		v = append(v, s)
	}
	return strings.TrimSpace(strings.Join(v, ", ") + " " + string(win.Unit) + win.Word)
}
