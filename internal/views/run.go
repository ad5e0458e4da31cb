package views

import (
	"fmt"
	"math"
	"slices"
	"strings"
	"time"

	"dynacor/core/figure"
	"dynacor/core/joint"
	roles "dynacor/core/person"
	"dynacor/core/proof"
	"dynacor/core/reading"
	"dynacor/core/recipe"
	"dynacor/core/record"
	"dynacor/core/work"
	"dynacor/internal/contract"
	"dynacor/internal/judge"
)

// A run's answer goes out after every pull, so it carries the near end of the
// tape and of what lies ahead; the record has the whole.
type Extent struct{ tape, ahead int }

var (
	Far  = Extent{tape: 60, ahead: 120}
	Near = Extent{tape: 8, ahead: 24}
)

// Run shows a run to somebody.
func Run(me judge.Who, r judge.Run, names judge.Names, e Extent, now time.Time) contract.Run {
	st, res, person := r.State, r.Plan.Result, me.ID.String()
	deviations, bolts := st.Deviations(), st.Bolts()
	why, _ := st.Stop()
	doubted, _ := st.Doubted()
	next, _ := st.Next()
	v := contract.Run{ID: r.Head.ID, Revision: r.Head.Revision, Standing: contract.RunStanding(st.Standing),
		Station: st.Standing.Station(), Words: st.Standing.Words(), Entries: r.Head.HeadSeq, Undoes: st.Plan().Undoes(),
		Again: st.Plan().Again(), Figure: Figure(judge.Figure(st.Plan().Recipe, res)),
		Groups: Groups(st.Plan().Recipe, r.Plan.Input, res, st.Tooling), Ahead: []contract.Act{}, Steps: stepViews(r, names, person),
		Outside: record.AnyOutside(deviations), Tape: tapeView(r, names, e.tape), Checker: st.Plan().Checker(), Begun: st.Begun(),
		Stop: why, Doubted: OrNone(doubted), Doubts: Doubts(st), MayMake: me.Is(roles.Fitter) && (st.Pulled(person) || !st.Begun()),
		MayCheck: !st.Worked(person) && me.May(st.Plan().Checker()), Legend: Each(st.Legend(next), signView),
		Open:  Each(st.Open(), func(o work.Open) string { return o.Text }),
		Bolts: Each(bolts, func(b work.Bolt) contract.BoltState { return boltView(st, res, b) }),
		Deviations: Each(deviations, func(d record.Deviation) contract.Deviation {
			return contract.Deviation{Text: d.Text, Outside: d.Outside, Bolt: d.Bolt}
		}),
		Signatures: Each(st.Signatures, func(s work.Signed) contract.SignatureLine {
			return contract.SignatureLine{Part: string(s.Part), By: names[s.Entry.Person], At: s.Entry.AtServer, Reason: s.Reason}
		})}
	v.Locks, v.Lockable = st.Locks()
	if st.Standing.Station() > record.Tighten.Station() { // nobody looks at it between two pulls
		v.MadeWith = Each(st.MadeWith(), MadeWith)
	}
	v.Stack, v.Photos = Stack(st.Plan().Recipe, r.Plan.Input.Choices), Photos(st, names)
	v.Fault, v.RigUp = r.Fault, rigUpViews(st.Tooling)
	group, carries := st.Carries()
	for _, b := range carries {
		v.Carries = append(v.Carries, fmt.Sprintf("%s/%d", group, b))
	}
	for i, g := range v.Groups {
		v.Groups[i].Upsettable = st.Upsettable(g.Name)
		if g.Tooled {
			v.Groups[i].AtOnce = st.AtOnce(g.Name)
		}
	}
	at := func(group string, bolt int) (work.Bolt, bool) {
		i := slices.IndexFunc(bolts, func(b work.Bolt) bool { return b.Group == group && b.Position == bolt })
		if i < 0 {
			return work.Bolt{}, false
		}
		return bolts[i], true
	}
	v.Hands = Each(st.Hands(now), func(h work.Hand) contract.Hand { return handView(st, res, h, names, person) })
	ahead := st.Ahead(person, now, e.ahead+1)
	if r.Fault != "" {
		ahead = nil // nobody is led on by what does not hold
	}
	for i, a := range ahead {
		x := actView(st, res, a, at)
		if i == 0 {
			v.Next = &x
		} else {
			v.Ahead = append(v.Ahead, x)
		}
	}
	if p := st.Paused; p != nil {
		c, _ := p.Content.(record.Pause)
		v.Paused = &contract.Paused{By: names[p.Person], At: p.AtTool, Note: c.Note, HandOverTo: c.HandOverTo}
	}
	return v
}

// Onward shows what one act more has changed.
func Onward(me judge.Who, r judge.Run, names judge.Names, now time.Time) contract.Onward {
	st, res := r.State, r.Plan.Result
	lines := st.Lines()
	newest := lines[len(lines)-1]
	was, _ := r.Before.Next()
	next, _ := st.Next()
	_, set := st.Unset(me.ID.String(), now)
	act := actView(st, res, work.Coming{Act: next, Set: set}, st.Bolt)
	step, _ := st.Plan().Step(was.Step)
	v := contract.Onward{After: r.Head.HeadSeq - 1, Line: tapeView(r, names, 1)[0], Next: act, Bolts: []contract.BoltState{}}
	if _, ok := newest.Content.(record.Done); ok {
		count, _, _ := st.Count(step.ID)
		v.Step = contract.StepCount{ID: step.ID, Count: count, Rounds: OrNone(judge.Rounds(st, step.ID)),
			DoneBy: names[newest.Entry.Person], DoneAt: newest.Entry.AtTool}
	}
	if now := st.Legend(next); !slices.Equal(now, r.Before.Legend(was)) {
		signs := Each(now, signView)
		v.Legend = &signs
	}
	touched, ok := st.Bolt(ownerOf(res, step.Group), was.Bolt)
	if ok {
		v.Bolts = append(v.Bolts, boltView(st, res, touched))
	}
	if b, ok := st.Bolt(act.Owner, next.Bolt); ok && b != touched {
		v.Bolts = append(v.Bolts, boltView(st, res, b))
	}
	return v
}

func signView(s work.Sign) contract.LegendSign {
	return contract.LegendSign{Text: s.Text, Level: s.Level, Mark: contract.Mark(s.Mark)}
}

// ownerOf is the group that has the bolts of a group.
func ownerOf(res joint.Result, group string) string {
	if g, _ := res.Group(group); g.Of != "" {
		return g.Of
	}
	return group
}

func boltView(st *work.State, res joint.Result, b work.Bolt) contract.BoltState {
	g, _ := res.Group(b.Group)
	return contract.BoltState{Group: b.Group, Position: b.Position, Level: b.Level, Mark: contract.Mark(b.Mark), Locked: b.Locked,
		Left: b.Left, Doubt: b.Doubt, Place: place(res, g, b.Position), Name: g.BoltName(b.Position),
		Remedies: Each(st.Remedies(b.Group, b.Position), func(r record.Remedy) contract.Remedy { return contract.Remedy(r) })}
}

// place is where a bolt is on the clock face, where the joint is one ring.
func place(res joint.Result, g joint.Group, bolt int) string {
	if g.Layout != recipe.Ring {
		return ""
	}
	for i := range res.Groups {
		if o := &res.Groups[i]; o.Of == "" && o.Name != g.Name {
			return ""
		}
	}
	at := float64(bolt) - 0.5
	if g.OnCentre {
		at = float64(bolt) - 1
	}
	half := math.Round(12*at/float64(g.Count)*2) / 2
	if half < 0.5 {
		half += 12
	}
	return proof.Clock(half)
}

// actView shows what comes; bolt tells how a bolt stands.
func actView(st *work.State, res joint.Result, a work.Coming, bolt func(group string, bolt int) (work.Bolt, bool)) contract.Act {
	step, _ := st.Plan().Step(a.Step)
	g, _ := res.Group(step.Group)
	owner := g
	if g.Of != "" {
		owner, _ = res.Group(g.Of)
	}
	v := contract.Act{Hand: st.HandOf(a.Act), Step: a.Step, Group: g.Name, Owner: owner.Name, Bolt: a.Bolt, Share: a.Share,
		Turn: a.Turn, Stroke: a.Stroke,
		Lock: a.Lock, Round: a.Round, Words: st.Describe(a.Act), Spoken: st.Spoken(a), Name: g.BoltName(a.Bolt), Place: place(res, owner, a.Bolt),
		Kind: actKind(st, g, a.Act), Set: a.Set, Aim: Quantity(st.Aim(a.Act)), Stage: slices.Index(g.Stages, a.Share) + 1,
		Stages: len(g.Stages)}
	if b, ok := bolt(owner.Name, a.Bolt); ok {
		v.After, v.Moved = shown(st.Preview(b, a.Act, false)), shown(st.Preview(b, a.Act, true))
	}
	return v
}

// handView shows one of the tools that work at once to somebody.
func handView(st *work.State, res joint.Result, h work.Hand, names judge.Names, me string) contract.Hand {
	v := contract.Hand{Number: h.Number, Tool: strings.Join(named(*h.Tool), " + "), By: names[h.By], Mine: h.By == me, Open: h.Open}
	if h.Act.Bolt == 0 {
		return v
	}
	act := actView(st, res, work.Coming{Act: h.Act, Set: true}, st.Bolt)
	v.Name, v.Bolt = act.Name, fmt.Sprintf("%s/%d", act.Owner, h.Act.Bolt)
	if h.Open {
		v.Act = &act
	}
	return v
}

func shown(b work.Bolt) contract.Shown {
	return contract.Shown{Level: b.Level, Mark: contract.Mark(b.Mark), Locked: b.Locked}
}

// actKind is what the hand does.
func actKind(st *work.State, g joint.Group, a record.Act) contract.ActKind {
	t, with := st.Tool(a)
	switch {
	case a.Lock:
		return contract.ActKindLock
	case a.Round > 0 && g.Until == recipe.LetsGo:
		return contract.ActKindDraw
	case a.Round > 0 && a.Turn > 0:
		return contract.ActKindPortion
	case a.Round > 0:
		return contract.ActKindRound
	}
	undoes := st.Plan().Undoes()
	if with && t.Pressed() {
		return contract.ActKindStall
	}
	switch g.How {
	case recipe.ByTurns:
		if undoes {
			return contract.ActKindBack
		}
		return contract.ActKindTurn
	case recipe.ByPressure:
		return contract.ActKindStall
	case recipe.ByTension:
		return contract.ActKindNut
	case recipe.ByHand:
		if undoes {
			return contract.ActKindOff
		}
		return contract.ActKindHand
	case recipe.NotTorqued:
		return contract.ActKindHome
	}
	return contract.ActKindPull
}

func stepViews(r judge.Run, names judge.Names, me string) []contract.Step {
	st := r.State
	var kit []work.Thing
	return Each(r.Steps(names), func(l judge.StepLine) contract.Step {
		x := l.Step
		v := contract.Step{ID: x.ID, Does: string(x.Does), Station: slices.Index(recipe.Stations(), x.Station) + 1, Text: x.Text,
			Items: OrNone(x.Items), Cautions: Each(x.Cautions, Caution), Cautioned: st.Cautioned(x.ID, me), By: x.By,
			Must: x.Must || x.Does == recipe.Test, Hold: st.Hold(x.ID), Group: x.Group, Offered: l.Offered, Done: l.Done, Count: l.Count,
			All: l.All, Why: x.Why, Release: x.Release, Beyond: x.Beyond, Photo: x.Photo, Now: nowOf(l), Back: backWords(st, x),
			DoneBy: l.By, Readings: l.Readings, Comes: l.Comes, Outside: l.Outside, Reason: l.Reason, Skipped: l.Skipped,
			Rounds: OrNone(l.Rounds), Shows: contract.StepShows(x.Shows), At: x.At, Marks: OrNone(l.Marks), Reads: []contract.ReadAsk{},
			Spots:  []contract.FigureLabel{},
			Sample: OrNone(l.Sample), SampleOf: x.Sample, Widens: st.Widens(x.ID), FromRecord: x.From != recipe.AtJoint,
			Firm:  x.Does == recipe.Test || x.Limit != nil && x.Limit.Firm,
			Entry: ParseID(l.Entry), Tries: Each(l.Tries, func(t judge.Try) contract.Try {
				return contract.Try{Readings: t.Readings, Outside: t.Outside, By: t.By, At: t.At.Truncate(time.Second)}
			})}
		v.Word, v.Act = StepWords(x.Does)
		if t, ok := st.BroughtTo(x.ID); ok {
			face := StageFace(*t)
			v.Face = &face
		}
		if x.ID == work.KitStep && kit == nil {
			kit = work.Kit(r.Plan.Input, st.Plan().Recipe, r.Plan.Result)
		}
		v.Ticks = tickViews(l, kit)
		v.Compares = compareViews(st, x)
		if l.By != "" {
			v.DoneAt = l.At
		}
		if at, runs := st.Started(x.ID); runs {
			v.Started = at
		}
		if v.FromRecord {
			return v
		}
		for k, a := range l.Asks {
			ask := readView(a, k)
			ask.From = len(v.Spots)
			v.Reads = append(v.Reads, ask)
			for _, f := range a.Fields {
				v.Spots = append(v.Spots, contract.FigureLabel{Text: f.Name})
			}
		}
		if places := figure.Spots(readsOf(l.Asks)); x.Sample == "" && len(places) == len(v.Spots) {
			for i, p := range places {
				v.Spots[i] = contract.FigureLabel(p)
			}
		}
		v.Places = len(v.Spots)
		return v
	})
}

// nowOf is what of a step comes next.
func nowOf(l judge.StepLine) contract.StepNow {
	switch {
	case !l.Offered || l.Step.Group != "":
		return ""
	case l.Now.Item > 0:
		return contract.StepNowTick
	case l.Now.Photo:
		return contract.StepNowPhoto
	case l.Now.Release:
		return contract.StepNowRelease
	}
	return contract.StepNowWhole
}

func backWords(st *work.State, x recipe.Step) string {
	back, ok := st.Plan().Step(x.Back)
	if !ok {
		return ""
	}
	return record.Trim(back.Text)
}

func tickViews(l judge.StepLine, kit []work.Thing) []contract.Tick {
	out := make([]contract.Tick, len(l.Ticks))
	for i, t := range l.Ticks {
		out[i] = contract.Tick{Item: i + 1, Text: t.Text, Part: t.Part, Done: t.Done, Offered: t.Offered, Missing: t.Missing, Left: t.Left}
		if l.Step.ID == work.KitStep && i < len(kit) {
			out[i].Kind = contract.TickKind(kit[i].Kind)
		}
	}
	return out
}

func compareViews(st *work.State, x recipe.Step) []contract.Compared {
	marks := st.Marks(x.ID)
	return Each(marks, func(m recipe.Comparison) contract.Compared {
		v := contract.Compared{Of: m.Of, Compared: m.Compared(), Answers: OrNone(m.Answers(marks))}
		for _, p := range st.Plan().Parts() {
			if p.Name == m.Of {
				v.Note = p.Match
			}
		}
		switch {
		case m.Is != "":
			v.Note = "must read " + m.Is
		case m.Opposite != "":
			v.Note = "across from the " + m.Opposite
		case m.Unlike != "":
			v.Note = "other than the " + m.Unlike
		case m.Alike != "" && v.Note == "":
			v.Note = "alike: " + m.Alike
		}
		return v
	})
}

func readsOf(asks []work.Answered) []recipe.Read {
	return Each(asks, func(a work.Answered) recipe.Read { return a.Read })
}

func readView(a work.Answered, k int) contract.ReadAsk {
	v := contract.ReadAsk{Name: a.Read.Name, Form: string(a.Read.Form), Limit: []contract.LimitPiece{},
		Fields: Each(a.Fields, func(f reading.Field) contract.ReadField {
			return contract.ReadField{Name: f.Name, Unit: f.Unit, Signed: f.Signed}
		})}
	if a.Given.Target > 0 {
		v.Target = fmt.Sprintf("at least %.5g bar at the start", a.Given.Target)
	}
	if l := a.Read.Limit; l != nil {
		v.Why, v.Source = l.Why, l.From()
		if a.Limited {
			v.Limit, v.Of = limitPieces(l, a.Window, work.NumberOf(k)), a.Held()
		}
	}
	return v
}

// limitPieces says what a window asks for; its ends that are shares of a value can say
// where they come from.
func limitPieces(l *recipe.Limit, w recipe.Window, behind string) []contract.LimitPiece {
	return Each(w.Pieces(), func(p recipe.Piece) contract.LimitPiece {
		out := contract.LimitPiece{Text: p.Text}
		if l.Shares(p.End) {
			out.Number = string(p.End) + behind
		}
		return out
	})
}

// Caution is one of a step.
func Caution(c recipe.Caution) contract.Caution {
	return contract.Caution{Kind: contract.CautionKind(c.Kind), Text: c.Text, Why: c.Why}
}

// tapeView is the newest of the tape, newest first.
func tapeView(r judge.Run, names judge.Names, most int) []contract.TapeLine {
	lines := r.Tape(names, most)
	slices.Reverse(lines)
	return Each(lines, func(l judge.TapeLine) contract.TapeLine {
		v := contract.TapeLine{ID: ParseID(l.Entry.ID), Seq: l.Entry.Seq, Kind: string(l.Entry.Content.Kind()), By: l.By, What: l.What,
			At: l.Entry.AtTool.Truncate(time.Second), Stored: l.Entry.AtServer.Truncate(time.Second), Group: l.Group, Bolt: l.Act.Bolt,
			Outcome: l.Outcome, Struck: l.Struck, Note: l.Note, Value: Quantity(l.Setting), Reading: Quantity(l.Reading),
			Correctable: l.Correctable}
		if c, ok := l.Content.(record.Done); ok {
			v.Done, v.Taken, v.Traced = doneView(c), c.Taken, c.Trace != ""
			st, _ := r.State.Plan().Step(c.Step)
			v.Asks = st.By
		}
		return v
	})
}
