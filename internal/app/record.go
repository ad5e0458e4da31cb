package app

import (
	"context"
	"encoding/hex"
	"encoding/json"
	"errors"
	"fmt"
	"log/slog"
	"slices"
	"strings"
	"time"

	"github.com/google/uuid"

	"dynacor/core/joint"
	"dynacor/core/recipe"
	"dynacor/core/record"
	"dynacor/core/uncertainty"
	"dynacor/core/work"
	"dynacor/internal/judge"
	"dynacor/internal/recipes"
	"dynacor/internal/report"
	"dynacor/internal/store"
	"dynacor/internal/words"
)

// Record returns the record of one of a joint's runs: on a revision of its plan,
// or, where that is zero, on the newest.
func (a *App) Record(ctx context.Context, id uuid.UUID, revision int) (report.Record, error) {
	j, err := a.store.Joint(ctx, id)
	if err != nil {
		return report.Record{}, found(err, "joint")
	}
	a.sealBefore(ctx)
	return a.recordOn(ctx, j, revision)
}

// sealBefore seals what was signed just now before it goes out; where that fails, the
// record says that it is not sealed.
func (a *App) sealBefore(ctx context.Context) {
	if err := a.sealRecords(ctx); err != nil {
		slog.Error("what was signed was not sealed", "error", err)
	}
}

func (a *App) recordOn(ctx context.Context, j store.Joint, revision int) (report.Record, error) {
	heads, err := a.store.RunsOf(ctx, j.ID)
	if err != nil {
		return report.Record{}, err
	}
	if len(heads) == 0 {
		return report.Record{}, &Error{Kind: NotFound, Code: "no-record",
			Text: "No plan was issued for this joint, so there is no record.", Way: "Lay it out and issue the plan."}
	}
	i := slices.IndexFunc(heads, func(h store.Run) bool { return revision == 0 || h.Revision == revision })
	if i < 0 {
		return report.Record{}, notFound("plan of this joint")
	}
	e, err := a.store.Evidence(ctx, heads[i])
	if errors.Is(err, store.ErrNotFound) {
		return brokenRecord("the plan is gone", j), nil
	}
	if err != nil {
		return report.Record{}, err
	}
	out, err := RecordOf(e, a.zone, Version())
	if what, is := faultOf(err); is {
		return brokenRecord(what, j), nil
	}
	return out, err
}

// brokenRecord is the record of a run of which nothing can be told.
func brokenRecord(what string, j store.Joint) report.Record {
	return report.Record{Tag: j.Tag, Title: j.Title, Area: j.AreaName, State: "does not hold", Faults: []string{what},
		Deviations: []string{},
		Open:       []string{}}
}

// RecordOf writes out what follows from evidence, and from nothing else: so the record of
// a server is the record of whoever looks at the evidence later. zone is that of its
// times, program what writes it.
func RecordOf(e store.Evidence, zone *time.Location, program string) (report.Record, error) {
	m, err := e.Meaning()
	if err != nil {
		return report.Record{}, doesNotHold(err.Error())
	}
	p := e.Planned()
	if p.Unreadable {
		return report.Record{}, doesNotHold(p.Fault)
	}
	of, err := recipes.Read([]byte(e.Recipe))
	if err != nil {
		return report.Record{}, doesNotHold("its recipe cannot be read")
	}
	p.Input, of = joint.Whole(p.Input, of)
	p.IssuedAt, p.Result = p.IssuedAt.In(zone), p.Result.With(of)
	acts, err := work.Lay(p.Input, of, p.Result)
	if err != nil {
		return report.Record{}, doesNotHold("the plan cannot be laid out: " + err.Error())
	}
	acts.IssuedAt = p.IssuedAt
	faults, _, _ := e.Check()
	r := Run{Head: e.Head, Plan: p, State: work.Fold(acts, e.Told(zone)), Fault: strings.Join(faults, "; ")}
	out := recordOf(r, Names(m.People))
	if out.Numbers, err = runNumbers(r); err != nil {
		return report.Record{}, err
	}
	out.Site, out.Outage, out.Tag, out.Title, out.Area = m.Site, m.Outage, m.Joint.Tag, m.Joint.Title, m.Areas[m.Joint.Area]
	for language := range of.Texts {
		if out.Texts == nil {
			out.Texts = map[string]map[string]string{}
		}
		out.Texts[language] = words.Texts(of, language)
	}
	out.Zone, out.Program, out.Faults = zone.String(), program, append([]string{}, faults...)
	if e.Seal != nil {
		if says, err := e.Seal.Says(); err == nil && says.Record != nil {
			out.Seal = &report.Seal{Number: e.Seal.Number, At: says.At.In(zone), Entry: says.Record.Seq, Head: says.Record.Head,
				Key:       says.Key,
				Signature: e.Seal.Signature}
		}
	}
	for _, l := range r.State.Lines() {
		c, ok := l.Content.(record.Photo)
		i := slices.IndexFunc(e.Photos, func(p store.Photo) bool { return p.Hash == c.Hash })
		if !ok || i < 0 {
			continue
		}
		st, _ := r.State.Plan().Step(c.Step)
		out.Photos = append(out.Photos, report.Photo{Step: st.Text, What: c.What, By: m.People[l.Entry.Person], At: l.Entry.AtTool, Hash: c.Hash,
			Type: e.Photos[i].Type, Width: c.Width, Height: c.Height, Bytes: e.Photos[i].Bytes})
	}
	out.Proof, err = json.Marshal(e)
	return out, err
}

// record writes a run out.
func recordOf(r Run, names Names) report.Record {
	s, p := r.State, r.Plan
	of := s.Plan().Recipe
	out := report.Record{State: r.Standing(), Revision: p.Revision, CoreVersion: p.CoreVersion, IssuedBy: names[p.IssuedBy.String()],
		IssuedAt: p.IssuedAt,
		Reason:   p.Reason, Kind: of.Title, Recipe: fmt.Sprintf("%s, edition %d", of.ID, of.Edition), Sentence: Sentence(of, p.Input),
		Hash: hex.EncodeToString(r.Head.HeadHash), Figure: judge.Figure(of, p.Result), Deviations: []string{}, Open: []string{}}
	for _, o := range s.Open() {
		out.Open = append(out.Open, o.Text)
	}
	for _, d := range s.Deviations() {
		out.Deviations = append(out.Deviations, d.Text)
	}
	for _, v := range p.Result.Values {
		if v.Given.IsZero() {
			continue
		}
		source := "by hand"
		switch {
		case v.Worked != "":
			source = "worked out: " + v.Worked
		case !v.Hand:
			source = "maker’s sheet"
		}
		out.Values = append(out.Values, report.Value{Name: v.Need.Text, Value: v.Words(), Source: source})
	}
	for _, g := range p.Result.Groups {
		out.Groups = append(out.Groups, groupRecord(r, g))
	}
	for _, m := range s.MadeWith() {
		out.Tools = append(out.Tools, report.Tool{Tag: m.Tool, Made: work.Words(m.Made), Calibrated: day(m.Calibrated), Due: day(m.Due)})
	}
	for _, b := range s.Bolts() {
		out.Bolts = append(out.Bolts, report.Bolt{Group: b.Group, Position: b.Position, Level: b.Level, Mark: b.Mark})
	}
	for _, l := range r.Steps(names) {
		if l.Step.Does != recipe.Sign {
			out.Steps = append(out.Steps, stepRecord(l))
		}
	}
	for _, sig := range s.Signatures {
		out.Signatures = append(out.Signatures, report.Signature{Part: string(sig.Part), By: names[sig.Entry.Person],
			At: sig.Entry.AtServer, Reason: sig.Reason})
	}
	for _, l := range r.Tape(names, len(s.Lines())) {
		out.Entries = append(out.Entries, entryRecord(l))
	}
	return out
}

func stepRecord(l judge.StepLine) report.Step {
	r := report.Step{Station: string(l.Step.Station), Text: l.Step.Text, Done: l.Done, By: l.By, At: l.At, Readings: l.Readings,
		Comes: l.Comes, Limit: l.Limit, Marks: l.Marks, Outside: l.Outside, Reason: l.Reason, Released: l.Released}
	if l.Held > 0 {
		r.Held = fmt.Sprintf("%.4g min", l.Held)
	}
	for _, t := range l.Ticks {
		if t.Done && !t.Left {
			r.Ticks = append(r.Ticks, strings.Trim(t.Part+": "+t.Text, ": "))
		}
	}
	if len(l.Tries) > 1 || len(l.Tries) == 1 && l.Tries[0].Outside != "" {
		for _, t := range l.Tries {
			r.Tries = append(r.Tries, t.Readings)
		}
	}
	return r
}

func entryRecord(l judge.TapeLine) report.Entry {
	e := report.Entry{Number: l.Entry.Seq, ID: l.Entry.ID, Kind: string(l.Entry.Content.Kind()), AtTool: l.Entry.AtTool,
		AtDevice: l.Entry.AtDevice,
		AtServer: l.Entry.AtServer, Person: l.By, Group: l.Group, Bolt: l.Act.Bolt, Share: l.Act.Share, Round: l.Act.Round, What: l.What,
		Outcome: l.Outcome, Struck: l.Struck, Note: l.Note, Tools: l.Tools}
	e.Setting, e.Unit, e.Reading, e.ReadIn = l.Setting.Value, string(l.Setting.Unit), l.Reading.Value, string(l.Reading.Unit)
	return e
}

// Sentence says what a joint is: its recipe, its nameplate, its variant.
func Sentence(r recipe.Recipe, in joint.Input) []string {
	out := []string{fmt.Sprintf("%s, by the recipe %s, edition %d.", r.Title, r.ID, in.Edition)}
	if in.Type != "" {
		out = append(out, fmt.Sprintf("Nameplate: %s %s.", in.Type, in.Size))
	}
	for _, c := range r.Asked(in.Choices) {
		out = append(out, fmt.Sprintf("%s: %s.", c.Text, in.Choices[c.Name]))
	}
	return out
}

func groupRecord(r Run, g joint.Group) report.Group {
	s := r.State
	out := report.Group{Name: g.Name, Lubrication: g.Lubrication, Words: judge.GroupSentence(r.Plan.Result, g)}
	stages := s.Tooling[g.Name].Stages
	for i, torque := range g.Torques {
		for _, of := range s.Tooling[g.Name].Hands() { // those that work at once, one below the other
			st := report.Stage{Number: i + 1, Share: g.Stages[i], Torque: torque}
			if i < len(of) {
				at := of[i]
				st.Tools, st.Setting, st.Unit, st.Lands = strings.Join(at.Tools, " + "), at.Setting.Value, string(at.Setting.Unit), at.Lands
				st.Calibrated, st.Due = day(at.Calibrated), day(at.Due)
			}
			out.Stages = append(out.Stages, st)
		}
	}
	if len(stages) > 0 {
		out.Band = bandWords(g, stages[len(stages)-1])
	}
	if k := r.Plan.Input.Groups[g.Name].Compared; k != nil {
		out.Compared = k.Lines()
	}
	for _, st := range s.Plan().Steps() {
		if st.Group != g.Name {
			continue
		}
		for _, x := range s.Rounds(st.ID) {
			out.Rounds = append(out.Rounds, report.Round{Number: x.Number, Tried: x.Tried, Moved: x.Moved, Counted: x.Whole && !x.Void,
				Text: x.String()})
		}
	}
	return out
}

// bandWords says what a group's bolts are likely to carry with the tool that was taken,
// and what that is uncertain by, the largest part first; empty where no load is known.
func bandWords(g joint.Group, t record.StageTool) string {
	b, ok := work.BandOf(g, t)
	if !ok {
		return ""
	}
	return fmt.Sprintf("With %s a bolt carries %.4g kN, likely %.4g to %.4g kN: ± %.3g %% of %s.", strings.Join(t.Tools, " + "),
		b.Load/1000,
		b.Low/1000, b.High/1000, 100*b.Budget.Expanded, partWords(b.Budget))
}

func partWords(b uncertainty.Budget) string {
	var parts []string
	for _, i := range b.Order() {
		if share := 100 * b.Share(i); share >= 0.5 {
			parts = append(parts, fmt.Sprintf("%s %.0f %%", b.Parts[i].Name, share))
		}
	}
	return strings.Join(parts, ", ")
}

func day(t time.Time) string {
	if t.IsZero() {
		return ""
	}
	return t.Format("2006-01-02")
}
