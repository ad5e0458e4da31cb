package server

import (
	"context"
	"errors"
	"fmt"
	"math"
	"time"

	"github.com/oapi-codegen/runtime/types"

	"dynacor/core/plan"
	"dynacor/core/refusal"
	"dynacor/core/run"
	"dynacor/core/sequence"
	"dynacor/core/tool"
	"dynacor/core/unit"
	"dynacor/internal/app"
	"dynacor/internal/server/contract"
	"dynacor/internal/store"
)

func personView(p store.Person) contract.Person {
	v := contract.Person{ID: p.ID, Name: p.Name, Initials: p.Initials, Roles: []contract.Role{}}
	for _, r := range p.Roles {
		v.Roles = append(v.Roles, contract.Role(r))
	}
	return v
}

func siteView(s app.Site) contract.Site {
	v := contract.Site{Name: s.Name, Outage: s.Outage, Day: s.Day, Days: s.Days, Areas: []contract.SiteArea{}}
	for _, a := range s.Areas {
		v.Areas = append(v.Areas, contract.SiteArea{ID: a.ID, Name: a.Name})
	}
	return v
}

func wallView(w app.Wall) contract.Wall {
	v := contract.Wall{Site: siteView(w.Site), Areas: []contract.WallArea{}, Next: todos(w.Next), Decisions: todos(w.Decisions), Figures: map[string]contract.Figure{}}
	for _, c := range w.Cards {
		v.Counts.Total++
		switch c.State {
		case "signed":
			v.Counts.Signed++
		case "tighten", "check":
			v.Counts.InHand++
		case "prove", "sign":
			v.Counts.Waiting++
		case "stopped":
			v.Counts.Stopped++
		}
		if n := len(v.Areas); n == 0 || v.Areas[n-1].Name != c.Joint.AreaName {
			v.Areas = append(v.Areas, contract.WallArea{Name: c.Joint.AreaName, Joints: []contract.JointCard{}})
		}
		area := &v.Areas[len(v.Areas)-1]
		area.Joints = append(area.Joints, cardView(c, v.Figures))
	}
	return v
}

// cardView shows a card; its figure goes to figures, where cards of the same
// drawing share it.
func cardView(c app.Card, figures map[string]contract.Figure) contract.JointCard {
	v := contract.JointCard{ID: c.Joint.ID, Tag: c.Joint.Tag, Title: c.Joint.Title, Kind: "Gasketed pipe flange", Bolts: c.Bolts, Thread: c.Thread,
		State: contract.JointCardState(c.State), Text: c.Text, Station: c.Station, Levels: []float64{}, Marks: []contract.Mark{}}
	if c.Job != nil {
		leadView(c, &v)
	} else if c.Bolts > 0 {
		v.Figure = fmt.Sprintf("ring %d %t", c.Bolts, c.OnCentre)
	}
	if _, there := figures[v.Figure]; !there && v.Figure != "" {
		figures[v.Figure] = figureView(c.Figure())
	}
	if c.Run == nil || c.Run.Job != nil {
		return v
	}
	for _, b := range c.Run.State.Bolts {
		v.Levels = append(v.Levels, b.Level)
		v.Marks = append(v.Marks, contract.Mark(b.Mark()))
	}
	if n := c.Run.State.Next; n != nil {
		v.Next = &n.Bolt
	}
	return v
}

func todos(list []app.ToDo) []contract.ToDo {
	out := []contract.ToDo{}
	for _, t := range list {
		v := contract.ToDo{Title: t.Title, Text: t.Text, Detail: t.Detail, Grave: &t.Grave}
		if t.Station > 0 {
			v.Joint, v.Station = &t.Joint, &t.Station
		}
		out = append(out, v)
	}
	return out
}

func (s *Server) jointView(ctx context.Context, j app.Joint) contract.Joint {
	v := contract.Joint{ID: j.ID, Tag: j.Tag, Title: j.Title, Area: j.AreaName, Station: 1, Follows: orNone(j.Follows), Before: []contract.EarlierRun{}}
	for _, r := range j.Before {
		v.Before = append(v.Before, s.earlierView(ctx, r))
	}
	if j.Job != nil {
		v.Job = s.leading(ctx, j)
		if j.Run != nil {
			v.Station = station(j.Run.Stage())
		}
		return v
	}
	d := draftView(j.Draft)
	v.Draft = &d
	if j.Run == nil {
		return v
	}
	p := j.Run.Plan
	v.Plan = &contract.IssuedPlan{Revision: p.Revision, Input: inputView(p.Input), Result: resultView(p.Result), CoreVersion: p.CoreVersion,
		IssuedBy: s.app.Name(ctx, p.IssuedBy.String()), IssuedAt: p.IssuedAt, Reason: some(p.Reason)}
	r := s.runView(ctx, *j.Run, far)
	v.Run = &r
	v.Station = station(j.Run.State.Stage)
	return v
}

// earlierView shows a run on a plan before the newest.
func (s *Server) earlierView(ctx context.Context, r app.Run) contract.EarlierRun {
	v := contract.EarlierRun{Revision: r.Head.Revision, Words: r.Words(), IssuedBy: s.app.Name(ctx, r.Plan.IssuedBy.String()), IssuedAt: r.Plan.IssuedAt, Reason: some(r.Plan.Reason), Entries: r.Head.HeadSeq}
	if list := r.Signatures(); r.Stage() == run.StageSigned {
		v.SignedAt = &list[len(list)-1].Entry.AtServer
	}
	return v
}

func station(s run.Stage) int {
	switch s {
	case run.StageLayOut:
		return 1
	case run.StageTool:
		return 2
	case run.StageTighten, run.StageCheck, run.StageStopped:
		return 3
	case run.StageProve:
		return 4
	}
	return 5
}

func draftView(d app.Draft) contract.Draft {
	return contract.Draft{Version: d.Version, Input: inputView(d.Input), Result: resultView(d.Result)}
}

func quantity(q unit.Quantity) contract.Quantity {
	return contract.Quantity{Value: q.Value, Unit: string(q.Unit)}
}

func optional(q unit.Quantity) *contract.Quantity {
	if q.IsZero() {
		return nil
	}
	v := quantity(q)
	return &v
}

func fromQuantity(q contract.Quantity) unit.Quantity { return unit.Of(q.Value, unit.Unit(q.Unit)) }

func fromOptional(q *contract.Quantity) unit.Quantity {
	if q == nil {
		return unit.Quantity{}
	}
	return fromQuantity(*q)
}

func some(s string) *string {
	if s == "" {
		return nil
	}
	return &s
}

func text(s *string) string {
	if s == nil {
		return ""
	}
	return *s
}

func inputView(in plan.Input) contract.PlanInput {
	v := contract.PlanInput{Bolts: in.Bolts, Thread: in.Thread, Fastening: in.Fastening, Grade: in.Grade, BoltCircle: quantity(in.BoltCircle),
		SpecifiedFor: in.SpecifiedFor, Lubrication: in.Lubrication, Decision: contract.PlanInputDecision(in.Decision), Prevailing: optional(in.Prevailing),
		Passes: in.Shares, Order: string(in.Order), Start: in.Start, OnCentre: in.OnCentre, GapLimit: quantity(in.GapLimit)}
	v.Gasket = contract.GasketInput{Kind: in.Gasket.Kind, Outer: quantity(in.Gasket.Outer), Inner: quantity(in.Gasket.Inner), SeatingStress: optional(in.Gasket.SeatingStress)}
	v.Target = contract.TargetInput{Mode: contract.TargetInputMode(in.Target.Mode), Of: contract.TargetInputOf(in.Target.Of), Share: in.Target.Share,
		Torque: optional(in.Target.Torque), Max: optional(in.Target.Max)}
	return v
}

func planInput(v contract.PlanInput) plan.Input {
	return plan.Input{Bolts: v.Bolts, Thread: v.Thread, Fastening: v.Fastening, Grade: v.Grade, BoltCircle: fromQuantity(v.BoltCircle),
		Gasket:       plan.Gasket{Kind: v.Gasket.Kind, Outer: fromQuantity(v.Gasket.Outer), Inner: fromQuantity(v.Gasket.Inner), SeatingStress: fromOptional(v.Gasket.SeatingStress)},
		SpecifiedFor: v.SpecifiedFor, Lubrication: v.Lubrication, Decision: plan.Decision(v.Decision),
		Target: plan.Target{Mode: plan.Mode(v.Target.Mode), Torque: fromOptional(v.Target.Torque), Max: fromOptional(v.Target.Max), Share: v.Target.Share, Of: plan.Basis(v.Target.Of)},
		Shares: v.Passes, Order: sequence.Pattern(v.Order), Start: v.Start, OnCentre: v.OnCentre, GapLimit: fromQuantity(v.GapLimit), Prevailing: fromOptional(v.Prevailing)}
}

func resultView(r plan.Result) contract.PlanResult {
	v := contract.PlanResult{Torque: r.Torque, TorqueMin: r.TorqueMin, TorqueMax: r.TorqueMax, Equivalent: r.Equivalent, Load: r.Load,
		K: r.Lubricant.Nominal, KLow: r.Lubricant.Low, KHigh: r.Lubricant.High, Mu: r.Coefficient, LikelyLow: r.LikelyLow, LikelyHigh: r.LikelyHigh,
		ToolAccuracy: r.Accuracy, WorstLow: r.Band.Min, WorstHigh: r.Band.Max, Needed: r.Needed, Limit: r.Limit, Utilisation: r.Utilisation, Order: r.Order, CheckOrder: r.CheckOrder,
		GapLimit: r.GapLimit, Across: r.Thread.AcrossFlats(), Undecided: r.Undecided,
		Passes: []contract.PlanPass{}, Checks: []contract.PlanCheck{}, Minds: []contract.PlanMind{}}
	for _, p := range r.Passes {
		v.Passes = append(v.Passes, contract.PlanPass{Number: p.Number, Share: p.Share, Torque: p.Shown})
	}
	for _, c := range r.Checks {
		v.Checks = append(v.Checks, contract.PlanCheck{Name: c.Name, Value: c.Value, Limit: c.Limit, Unit: c.Unit, Holds: c.Holds})
	}
	for _, m := range r.Minds {
		x := contract.PlanMind{Code: m.Code, Text: m.Text, Offer: some(m.Offer)}
		if m.Take != "" {
			t := contract.PlanMindTake(m.Take)
			x.Take = &t
		}
		v.Minds = append(v.Minds, x)
	}
	return v
}

func passToolView(p run.PassTool) contract.PassTool {
	v := contract.PassTool{Pass: p.Pass, Tools: p.Tools, Torque: p.Torque, Lands: p.Lands, Error: p.Error, Setting: quantity(p.Setting),
		Scale:    contract.Scale{First: p.First, Major: p.Major, Minor: p.Minor, Main: p.Main, Minors: p.Minors},
		Accuracy: p.Accuracy, Force: p.Force, Heavy: p.Force > tool.HeavyHandForce, ByHand: p.ByHand}
	if !p.Due.IsZero() {
		v.Due = &types.Date{Time: p.Due}
	}
	return v
}

func wayView(s tool.Setup) contract.Way {
	w := s.Chain.Wrench
	v := contract.Way{Passes: []contract.PassTool{}, Links: []contract.Link{{Kind: contract.Wrench, Tag: w.Tag, Name: w.Name,
		Note: fmt.Sprintf("%g to %g %s%s", w.RatedMin, w.RatedMax, w.Unit, drive(w.Drive))}}}
	if m := s.Chain.Multiplier; m != nil {
		v.Links = append(v.Links, contract.Link{Kind: contract.Multiplier, Tag: m.Tag, Name: m.Name, Ratio: &m.Ratio,
			Note: fmt.Sprintf("ratio %g, out %g N·m at most", m.Ratio, m.OutputMax)})
	}
	if s.Refused != nil {
		v.Refused = some(s.Refused.Error())
		var r *refusal.Error
		if errors.As(s.Refused, &r) {
			p := refusalProblem(r)
			v.Refusal = &p
		}
		return v
	}
	for _, p := range app.Tooling(s, nil).Passes {
		v.Passes = append(v.Passes, passToolView(p))
		v.Helpers = v.Helpers || p.Tools[0] != w.Tag
	}
	return v
}

func drive(d string) string {
	if d == "" {
		return ""
	}
	return ", " + d + " in drive"
}

func handTool(h *contract.HandTool) *app.HandTool {
	if h == nil {
		return nil
	}
	out := &app.HandTool{Tag: h.Tag, Min: h.Min, Max: h.Max, Unit: unit.Unit(h.Unit), Scale: tool.Scale{First: h.First, Major: h.Major, Minor: h.Minor}, Accuracy: h.Accuracy}
	if h.Ratio != nil {
		out.Ratio = *h.Ratio
	}
	return out
}

// across says where on the clock face a bolt is.
func across(bolt, n int, onCentre bool) string {
	place := float64(bolt) - 0.5
	if onCentre {
		place = float64(bolt) - 1
	}
	hour := 12 * place / float64(n)
	half := math.Round(hour*2) / 2
	if half < 0.5 {
		half += 12
	}
	return run.Clock(half)
}

func (s *Server) runView(ctx context.Context, r app.Run, e extent) contract.Run {
	st, in := r.State, r.Plan.Input
	v := contract.Run{ID: r.Head.ID, Revision: r.Head.Revision, Stage: contract.RunStage(st.Stage), Entries: r.Head.HeadSeq,
		Pass: min(st.Pass, len(r.Plan.Result.Passes)), Passes: len(r.Plan.Result.Passes), PassDone: st.PassDone,
		Bolts: []contract.BoltState{}, Rounds: []contract.CheckRound{}, Ahead: []contract.Act{},
		Open: st.Open(), Tape: tapeView(s.app.Tape(ctx, st, e.tape), len(st.Signatures) == 0), Cautions: plan.Cautions(),
		Cautioned: st.Cautioned[who(ctx).ID.String()], Outside: st.Outside(), AllowedRounds: run.MostRounds + st.Allowed,
		MayCheck: who(ctx).Is(app.Inspector) && !st.Pullers[who(ctx).ID.String()]}
	_, v.NothingMoves = st.NothingMoved()
	v.Begun = st.Begun()
	if v.Open == nil {
		v.Open = []string{}
	}
	for _, b := range st.Bolts {
		v.Bolts = append(v.Bolts, contract.BoltState{Position: b.Position, Level: b.Level, Mark: contract.Mark(b.Mark()), Left: b.Left, Pass: b.Pass, Place: across(b.Position, in.Bolts, in.OnCentre)})
	}
	for _, c := range st.Rounds {
		moved := c.Moved
		if moved == nil {
			moved = []int{}
		}
		v.Rounds = append(v.Rounds, contract.CheckRound{Number: c.Number, Done: c.Done, Moved: moved, Complete: c.Complete, Interrupted: c.Interrupted})
	}
	act := func(a run.Act) contract.Act {
		return contract.Act{Bolt: a.Bolt, Pass: a.Pass, Round: a.Round}
	}
	if st.Next != nil {
		n := act(*st.Next)
		v.Next = &n
	}
	for i, a := range st.Ahead() {
		if i == e.ahead {
			break
		}
		v.Ahead = append(v.Ahead, act(a))
	}
	if st.Tooling != nil {
		list := []contract.PassTool{}
		for _, p := range st.Tooling.Passes {
			list = append(list, passToolView(p))
		}
		v.Tooling = &list
	}
	v.Paused = s.pausedView(ctx, st.Paused)
	v.GapBefore, v.GapAfter = s.gapsView(ctx, st.GapBefore), s.gapsView(ctx, st.GapAfter)
	v.Signatures, v.Deviations = s.signatureViews(ctx, st.Signatures), deviationViews(st.AllDeviations())
	return v
}

func (s *Server) pausedView(ctx context.Context, p *run.Entry) *contract.Paused {
	if p == nil {
		return nil
	}
	c := p.Content.(run.Pause)
	return &contract.Paused{By: s.app.Name(ctx, p.Person), At: p.AtTool, Note: c.Note, HandOverTo: some(c.HandOverTo)}
}

func (s *Server) signatureViews(ctx context.Context, list []run.Signed) []contract.SignatureLine {
	out := []contract.SignatureLine{}
	for _, sig := range list {
		out = append(out, contract.SignatureLine{Part: string(sig.Part), By: s.app.Name(ctx, sig.Entry.Person), At: sig.Entry.AtServer, Reason: some(sig.Reason)})
	}
	return out
}

func deviationViews(list []run.Deviation) []contract.Deviation {
	out := []contract.Deviation{}
	for _, d := range list {
		x := contract.Deviation{Text: d.Text, Outside: d.Outside}
		if d.Bolt > 0 {
			x.Bolt = &d.Bolt
		}
		out = append(out, x)
	}
	return out
}

func (s *Server) gapsView(ctx context.Context, g *run.Gaps) *contract.Gaps {
	if g == nil {
		return nil
	}
	return &contract.Gaps{Entry: parseID(g.Entry), Values: g.Values, Spread: g.Verdict.Spread, Limit: g.Verdict.Limit, Tilt: g.Verdict.Tilt,
		Parallel: g.Verdict.Parallel, OpenSide: run.Clock(g.Verdict.OpenSide), By: s.app.Name(ctx, g.Person)}
}

// A run's answer goes out after every pull, so it carries the near end of the
// tape and of what lies ahead; the record has the whole.
type extent struct{ tape, ahead int }

var (
	far  = extent{tape: 60, ahead: 120}
	near = extent{tape: 8, ahead: 24}
)

// tapeView is the newest of the tape, newest first.
// open: it may still be corrected.
func tapeView(lines []app.TapeLine, open bool) []contract.TapeLine {
	out := make([]contract.TapeLine, 0, len(lines))
	for i := len(lines) - 1; i >= 0; i-- {
		l := lines[i]
		v := contract.TapeLine{ID: parseID(l.Entry.ID), Seq: l.Entry.Seq, Kind: string(l.Entry.Content.Kind()), At: l.Entry.AtTool.Truncate(time.Second),
			By: l.By, What: l.What, Outcome: l.Outcome, Struck: l.Struck, Note: some(l.Note), Value: optional(l.Setting), Reading: optional(l.Reading)}
		if l.Bolt > 0 {
			v.Bolt = &l.Bolt
		}
		switch c := l.Content.(type) {
		case run.Pull:
			v.Entry = &contract.EntryContent{Bolt: &c.Bolt, Pass: &c.Pass, NoTurn: &c.NoTurn, Reading: optional(c.Reading)}
		case run.Check:
			v.Entry = &contract.EntryContent{Bolt: &c.Bolt, Round: &c.Round, Moved: &c.Moved, Reading: optional(c.Reading)}
		case run.Measurement:
			p := contract.EntryContentPhase(c.Phase)
			v.Entry = &contract.EntryContent{Phase: &p, Gaps: &c.Gaps}
		case run.Trouble:
			v.Entry = &contract.EntryContent{Bolt: &c.Bolt}
		case run.Step:
			v.Entry = stepContent(c)
		}
		if yes := v.Entry != nil && open; yes {
			v.Correctable = &yes
		}
		out = append(out, v)
	}
	return out
}
