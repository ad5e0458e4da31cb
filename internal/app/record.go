package app

import (
	"context"
	"encoding/hex"
	"fmt"
	"slices"
	"strings"
	"time"

	"github.com/google/uuid"

	"dynacor/core/plan"
	"dynacor/core/run"
	"dynacor/core/unit"
	"dynacor/internal/report"
	"dynacor/internal/store"
)

// Record returns the record of one of a joint's runs: on a revision of its plan,
// or, where that is zero, on the newest.
func (a *App) Record(ctx context.Context, joint uuid.UUID, revision int) (report.Record, error) {
	j, err := a.store.Joint(ctx, joint)
	if err != nil {
		return report.Record{}, found(err, "joint")
	}
	heads, err := a.store.RunsOf(ctx, joint)
	if err != nil {
		return report.Record{}, err
	}
	if len(heads) == 0 {
		return report.Record{}, &Error{Kind: NotFound, Code: "no-record", Text: "No plan was issued for this joint, so there is no record.", Way: "Lay it out and issue the plan."}
	}
	i := slices.IndexFunc(heads, func(h store.Run) bool { return revision == 0 || h.Revision == revision })
	if i < 0 {
		return report.Record{}, notFound("plan of this joint")
	}
	of, err := a.runAt(ctx, heads[i])
	if err != nil {
		return report.Record{}, err
	}
	site, err := a.Site(ctx)
	if err != nil {
		return report.Record{}, err
	}
	if of.Job != nil {
		return a.jobRecord(ctx, j, of, site), nil
	}
	p, s := of.Plan, of.State
	r := report.Record{Site: site.Name, Outage: site.Outage, Tag: j.Tag, Title: j.Title, Area: j.AreaName, State: of.standing(),
		Revision: p.Revision, CoreVersion: p.CoreVersion, IssuedBy: a.Name(ctx, p.IssuedBy.String()), IssuedAt: p.IssuedAt, Reason: p.Reason,
		Sentence: Sentence(p.Input, p.Result), Torque: p.Result.Torque, Load: p.Result.Load, Open: s.Open(), OnCentre: p.Input.OnCentre,
		Hash: hex.EncodeToString(of.Head.HeadHash), Deviations: []string{}}
	if s.Stage == run.StageSigned {
		r.Open = nil
	}
	for _, d := range s.AllDeviations() {
		r.Deviations = append(r.Deviations, d.Text)
	}
	for i, ps := range p.Result.Passes {
		out := report.Pass{Number: ps.Number, Share: ps.Share, Torque: ps.Torque}
		if s.Tooling != nil {
			t := s.Tooling.Passes[i]
			out.Tools, out.Setting, out.Unit, out.Lands = strings.Join(t.Tools, " + "), t.Setting.Value, string(t.Setting.Unit), t.Lands
			out.Calibrated, out.Due = day(t.Calibrated), day(t.Due)
		}
		r.Passes = append(r.Passes, out)
	}
	for _, c := range s.Rounds {
		r.Rounds = append(r.Rounds, report.Round{Number: c.Number, Tried: c.Done, Moved: c.Moved, Counted: c.Complete && !c.Interrupted})
	}
	for _, g := range []struct {
		phase string
		gaps  *run.Gaps
	}{{"before", s.GapBefore}, {"after", s.GapAfter}} {
		if g.gaps != nil {
			v := g.gaps.Verdict
			r.Gaps = append(r.Gaps, report.Gap{Phase: g.phase, Values: g.gaps.Values, Spread: v.Spread, Limit: v.Limit, Parallel: v.Parallel,
				Open: run.Clock(v.OpenSide), By: a.Name(ctx, g.gaps.Person)})
		}
	}
	for _, sig := range s.Signatures {
		r.Signatures = append(r.Signatures, report.Signature{Part: string(sig.Part), By: a.Name(ctx, sig.Entry.Person), At: sig.Entry.AtServer, Reason: sig.Reason})
	}
	for _, b := range s.Bolts {
		r.Bolts = append(r.Bolts, report.Bolt{Position: b.Position, Level: b.Level, Mark: b.Mark()})
	}
	r.Figure = ringFigure(p.Input)
	r.Entries = entries(a.Tape(ctx, s, len(s.Effective)))
	return r, nil
}

// entries are the lines of a tape as the record has them.
func entries(tape []TapeLine) []report.Entry {
	var out []report.Entry
	for _, l := range tape {
		e := report.Entry{Number: l.Entry.Seq, ID: l.Entry.ID, Kind: string(l.Entry.Content.Kind()), AtTool: l.Entry.AtTool, AtServer: l.Entry.AtServer,
			Person: l.By, Bolt: l.Bolt, Pass: l.Pass, Round: l.Round, What: l.What, Outcome: l.Outcome, Struck: l.Struck, Note: l.Note, Tools: l.Tools}
		e.Setting, e.Reading = l.Setting.Value, l.Reading.Value
		e.Unit = string(l.Setting.Unit)
		out = append(out, e)
	}
	return out
}

func day(t time.Time) string {
	if t.IsZero() {
		return ""
	}
	return t.Format("2006-01-02")
}

// Sentence writes a plan out as it was issued.
func Sentence(in plan.Input, r plan.Result) []string {
	target := fmt.Sprintf("%.0f %% of %s", 100*in.Target.Share, in.Target.Of)
	if in.Target.Mode == plan.Specified {
		target = in.Target.Torque.String()
		if !in.Target.Max.IsZero() {
			target = fmt.Sprintf("%.6g to %s", in.Target.Torque.Value, in.Target.Max)
		}
		target += ", written for " + in.SpecifiedFor
	}
	var shares []string
	for _, s := range in.Shares {
		shares = append(shares, fmt.Sprintf("%g", s))
	}
	out := []string{
		fmt.Sprintf("A gasketed flange with %d × %s, %s, %s, on a %s circle, over a %s %.5g / %s.",
			in.Bolts, r.Thread.Name, in.Fastening, in.Grade, in.BoltCircle, in.Gasket.Kind, in.Gasket.Outer.Value, in.Gasket.Inner),
		fmt.Sprintf("Lubrication: %s. Target: %s. Passes %s, %s order, then check rounds until nothing moves.",
			in.Lubrication, target, strings.Join(shares, "-"), in.Order),
		fmt.Sprintf("Torque %.5g N·m. Load %.4g kN a bolt, likely %.4g to %.4g kN; seats the gasket at %.4g kN; bolt limit %.4g kN.",
			r.Torque, r.Load/1000, r.LikelyLow/1000, r.LikelyHigh/1000, r.Needed/1000, r.Limit/1000),
	}
	if r.Equivalent != 0 {
		how := "The written torque was kept."
		if in.Decision == plan.TakeEquivalent {
			how = "The equivalent torque was taken."
		}
		out = append(out, fmt.Sprintf("The lubrication on the job is not the one the torque was written for. %s Approved by the engineer who issued the plan.", how))
	}
	return out
}

// TapeLine is an entry in words, with what it counts for now.
type TapeLine struct {
	Entry   run.Entry
	Content run.Content // nil when struck out
	By      string
	Bolt    int
	Pass    int
	Round   int
	What    string
	Outcome string
	Setting unit.Quantity
	Reading unit.Quantity
	Tools   string
	Struck  bool
	Note    string
}

// Tape writes out the last entries of a run, at most so many, oldest first.
func (a *App) Tape(ctx context.Context, s *run.State, most int) []TapeLine {
	first := max(0, len(s.Effective)-most)
	out := make([]TapeLine, 0, len(s.Effective)-first)
	var tooling *run.Tooling
	for i, eff := range s.Effective {
		if i < first {
			if t, ok := eff.Content.(run.Tooling); ok {
				tooling = &t
			}
			continue
		}
		l := TapeLine{Entry: eff.Entry, Content: eff.Content, By: a.Name(ctx, eff.Entry.Person), What: run.Describe(eff.Entry.Content), Struck: eff.Content == nil}
		if eff.Corrected != nil {
			l.Note = "corrected: " + eff.Corrected.Content.(run.Correction).Reason
		}
		c := eff.Content
		if c == nil {
			c = eff.Entry.Content
		}
		at := func(pass int) {
			if tooling != nil && pass >= 1 && pass <= len(tooling.Passes) {
				t := tooling.Passes[pass-1]
				l.Setting, l.Tools = t.Setting, strings.Join(t.Tools, " + ")
			}
		}
		switch c := c.(type) {
		case run.Tooling:
			tooling = &c
			last := c.Passes[len(c.Passes)-1]
			l.What, l.Outcome = "tool chosen", strings.Join(last.Tools, " + ")
		case run.Pull:
			l.Bolt, l.Pass, l.Reading, l.Outcome = c.Bolt, c.Pass, c.Reading, "held"
			if c.NoTurn {
				l.Outcome = "held, no turn"
			}
			at(c.Pass)
		case run.Check:
			l.Bolt, l.Round, l.Reading, l.Outcome = c.Bolt, c.Round, c.Reading, "no turn"
			if c.Moved {
				l.Outcome = "moved"
			}
			if tooling != nil {
				at(len(tooling.Passes))
			}
		case run.Trouble:
			l.Bolt, l.What, l.Outcome = c.Bolt, fmt.Sprintf("bolt %d, trouble", c.Bolt), string(c.What)+", "+string(c.Remedy)
			l.Note = join(l.Note, c.Note)
		case run.Measurement:
			var v []string
			for _, g := range c.Gaps {
				v = append(v, fmt.Sprintf("%.2f", g))
			}
			l.Outcome = strings.Join(v, ", ") + " mm"
		default:
			plainLine(c, &l)
		}
		out = append(out, l)
	}
	return out
}

func join(a, b string) string {
	if a == "" || b == "" {
		return a + b
	}
	return a + "; " + b
}

// plainLine writes out what is said alike in every run.
func plainLine(c run.Content, l *TapeLine) {
	switch c := c.(type) {
	case run.Correction:
		l.What, l.Outcome, l.Note = "correction", "put right", c.Reason
		if c.Instead == nil {
			l.Outcome = "struck out"
		}
	case run.Pause:
		l.What, l.Note = "paused", join(c.Note, c.HandOverTo)
	case run.Resume:
		l.What, l.Note = "taken up", c.Note
	case run.Decision:
		l.What, l.Note = "another round allowed", c.Reason
	case run.Signature:
		l.What, l.Note = "signed: "+string(c.Part), c.Reason
	case run.Caution:
		l.What = "cautions read"
	}
}
