package job

import (
	"maps"
	"slices"

	"dynacor/core/recipe"
	"dynacor/core/refusal"
	"dynacor/core/run"
	"dynacor/core/unit"
)

// Plan is what a run follows: the joint as it was laid out, and its recipe with
// nothing done yet.
type Plan struct {
	Result Result
	Work   *recipe.Work
}

// Follow begins the recipe for a joint. It refuses what Compute lists as open.
func Follow(in Input, r recipe.Recipe, res Result) (Plan, error) {
	if len(res.Open) > 0 {
		return Plan{}, refusal.New(refusal.NeedsDecision, res.Open[0].Field, res.Open[0].Text, "Settle it, then issue the plan.")
	}
	w, err := r.Begin(res.Joint(in))
	return Plan{res, w}, err
}

// Group returns the group of that name.
func (p Plan) Group(name string) (Group, bool) {
	i := slices.IndexFunc(p.Result.Groups, func(g Group) bool { return g.Name == name })
	if i < 0 {
		return Group{}, false
	}
	return p.Result.Groups[i], true
}

// State is a run at one moment. It is never changed: Then returns the next.
type State struct {
	Stage      run.Stage
	Work       *recipe.Work
	Tooling    map[string]run.Tooling     // by group
	Cautioned  map[string]map[string]bool // by step: who read its cautions
	Troubled   map[string]map[int]bool    // by group: bolts whose trouble is open
	Paused     *run.Entry
	Pullers    map[string]bool
	Signatures []run.Signed
	Effective  []run.Effective

	notes []run.Deviation
	plan  Plan
}

// Fold makes the state of a run from its entries, in their order.
func Fold(p Plan, entries []run.Entry) *State {
	s := &State{Work: p.Work.Private(), Tooling: map[string]run.Tooling{}, Cautioned: map[string]map[string]bool{},
		Troubled: map[string]map[int]bool{}, Pullers: map[string]bool{}, plan: p}
	for _, e := range entries {
		s.Effective = append(s.Effective, run.Effective{Entry: e, Content: e.Content})
		s.take(e)
	}
	s.Work = s.Work.Shared()
	s.settle()
	return s
}

// Then returns the state after one more entry; s itself stays as it is.
func (s *State) Then(e run.Entry) *State {
	n := *s
	n.Tooling, n.Cautioned, n.Troubled, n.Pullers = maps.Clone(s.Tooling), maps.Clone(s.Cautioned), maps.Clone(s.Troubled), maps.Clone(s.Pullers)
	n.Signatures, n.notes = slices.Clip(s.Signatures), slices.Clip(s.notes)
	n.Effective = append(slices.Clip(s.Effective), run.Effective{Entry: e, Content: e.Content})
	n.take(e)
	n.settle()
	return &n
}

func (s *State) take(e run.Entry) {
	switch c := e.Content.(type) {
	case run.Caution:
		m := maps.Clone(s.Cautioned[c.Step])
		if m == nil {
			m = map[string]bool{}
		}
		m[e.Person] = true
		s.Cautioned[c.Step] = m
	case run.Tooling:
		s.Tooling[c.Group] = c
	case run.Step:
		s.step(e, c)
	case run.Trouble:
		s.trouble(c)
	case run.Pause:
		s.Paused = &e
	case run.Resume:
		s.Paused = nil
	case run.Correction:
		s.correct(e, c)
	case run.Decision:
		if w, err := s.Work.GoOn(e.Person, c.Reason); err == nil {
			s.Work = w
		}
	case run.Signature:
		s.Signatures = append(s.Signatures, run.Signed{Entry: e, Part: c.Part, Reason: c.Reason})
	}
	s.note(e)
}

// ActOf is the act of the recipe that a step says was done.
func ActOf(w *recipe.Work, c run.Step) recipe.Act {
	a := recipe.Act{Step: c.Step, Bolt: c.Bolt, Share: c.Share, Turn: c.Turn, Stroke: c.Stroke, Lock: c.Lock, Round: c.Round}
	st, _ := w.Step(a)
	a.Does = st.Does
	return a
}

func done(w *recipe.Work, person string, c run.Step, qualified []string) recipe.Done {
	return recipe.Done{Person: person, Qualifications: qualified, Readings: c.Readings, Bolts: c.Bolts, Held: c.Held, Moved: c.Moved, Skipped: c.Skipped, Reason: c.Reason}
}

// by is the qualification a step asks for, as a list; an entry that is stored
// was held against it when it came.
func by(st recipe.Step) []string { return []string{st.By} }

// By is the qualification that a step asks for, empty for none.
func By(w *recipe.Work, step string) string {
	st, _ := w.Step(recipe.Act{Step: step})
	return st.By
}

// Cautions are those of a step, as the record has them.
func Cautions(w *recipe.Work, step string) []string {
	st, _ := w.Step(recipe.Act{Step: step})
	out := make([]string, len(st.Cautions))
	for i, c := range st.Cautions {
		out[i] = c.String()
	}
	return out
}

func (s *State) step(e run.Entry, c run.Step) {
	a := ActOf(s.Work, c)
	st, _ := s.Work.Step(a)
	w, err := s.Work.Do(a, done(s.Work, e.Person, c, by(st)))
	if err != nil {
		return // refused before it was stored; a damaged entry counts nothing
	}
	s.Work = w
	if st.Group == "" {
		return
	}
	s.Pullers[e.Person] = true
	if s.Troubled[st.Group][c.Bolt] {
		m := maps.Clone(s.Troubled[st.Group])
		delete(m, c.Bolt)
		s.Troubled[st.Group] = m
	}
}

func (s *State) trouble(t run.Trouble) {
	st, _ := s.Work.Step(recipe.Act{Step: t.Step})
	m := maps.Clone(s.Troubled[st.Group])
	if m == nil {
		m = map[int]bool{}
	}
	m[t.Bolt] = true
	s.Troubled[st.Group] = m
	if t.Remedy == run.Replaced {
		s.Work = s.Work.Anew(t.Step, t.Bolt)
	}
}

func (s *State) correct(e run.Entry, c run.Correction) {
	s.Effective = slices.Clone(s.Effective)
	i := slices.IndexFunc(s.Effective, func(x run.Effective) bool { return x.Entry.ID == c.Of })
	if i < 0 {
		return
	}
	was, ok := s.Effective[i].Content.(run.Step)
	if !ok {
		return
	}
	a := ActOf(s.Work, was)
	s.Effective[i].Corrected, s.Effective[i].Content = &e, c.Instead
	if instead, ok := c.Instead.(run.Step); ok {
		st, _ := s.Work.Step(a)
		if w, err := s.Work.Correct(a, done(s.Work, s.Effective[i].Entry.Person, instead, by(st))); err == nil {
			s.Work = w
		}
		return
	}
	s.Work = s.Work.Undo(a)
}

// settle finds the station the work stands at.
func (s *State) settle() {
	switch {
	case s.signedFor(run.Made) && s.signedFor(run.Checked):
		s.Stage = run.StageSigned
		return
	case s.Work.Stopped():
		s.Stage = run.StageStopped
		return
	case s.Work.MaySign() == nil:
		s.Stage = run.StageSign
		return
	}
	st, _ := s.Work.Step(s.Work.Offered()[0])
	switch st.Station {
	case recipe.LayOut:
		s.Stage = run.StageLayOut
	case recipe.ToolUp:
		s.Stage = run.StageTool
	case recipe.AtBolts:
		s.Stage = run.StageTighten
		if s.wantsTool(st) {
			s.Stage = run.StageTool
		}
	default:
		s.Stage = run.StageProve
	}
}

// wantsTool reports whether a step pulls to a torque and no tool is chosen for
// its group.
func (s *State) wantsTool(st recipe.Step) bool {
	g, ok := s.plan.Group(st.Group)
	return ok && g.How == recipe.ByTorque && len(s.Tooling[g.Name].Passes) == 0
}

func (s *State) signedFor(p run.Part) bool {
	return slices.ContainsFunc(s.Signatures, func(sig run.Signed) bool { return sig.Part == p })
}

// Tool returns the tool that a pull is made with, where one is.
func (s *State) Tool(c run.Step) (run.PassTool, bool) {
	st, _ := s.Work.Step(recipe.Act{Step: c.Step})
	at, _, ok := s.setting(st.Group, c)
	return at, ok
}

// Aim is what a pull by pressure goes to: its share of the group's value; zero
// for every other act.
func (s *State) Aim(a recipe.Act) unit.Quantity {
	st, _ := s.Work.Step(a)
	g, ok := s.plan.Group(st.Group)
	if !ok || g.How != recipe.ByPressure {
		return unit.Quantity{}
	}
	share := a.Share
	if share == 0 {
		share = 100
	}
	q := s.Work.Joint.Values[g.Value]
	return unit.Of(q.Value*share/100, q.Unit)
}

// Begun reports whether anybody has put a hand to a bolt of this run.
func (s *State) Begun() bool { return len(s.Pullers) > 0 }

// Next returns the first act that is offered; ok is false where none is.
func (s *State) Next() (a recipe.Act, ok bool) {
	offered := s.Work.Offered()
	if len(offered) == 0 || s.Stage == run.StageSign || s.Stage == run.StageSigned {
		return recipe.Act{}, false
	}
	return offered[0], true
}

// Ahead returns the acts after the next one, as long as they are of its step:
// what comes if each goes as it should.
func (s *State) Ahead() []recipe.Act {
	next, ok := s.Next()
	if !ok || next.Bolt == 0 {
		return nil
	}
	var out []recipe.Act
	for _, a := range s.Work.Acts(next.Step) {
		if _, did := s.Work.Last(a); !did && a != next {
			out = append(out, a)
		}
	}
	return out
}

// Bolt is what is known of one bolt.
type Bolt struct {
	Group    string
	Position int
	Level    float64 // share of its target reached, 0 to 1
	Mark     string  // none, still, moved or trouble
	Locked   bool
	Last     float64 // the share of the last stage that it holds, percent
}

// Bolts returns every bolt of every group that has bolts of its own, in order.
// Where the variant undoes the joint they begin full and are emptied.
func (s *State) Bolts() []Bolt {
	var out []Bolt
	at := map[string]int{}
	for _, g := range s.plan.Result.Groups {
		if g.Of != "" {
			at[g.Name] = at[g.Of]
			continue
		}
		at[g.Name] = len(out)
		for i := range g.Count {
			b := Bolt{Group: g.Name, Position: i + 1, Mark: "none"}
			if g.Stands {
				b.Level = 1
			}
			out = append(out, b)
		}
	}
	for _, st := range s.Work.Steps() {
		g, ok := s.plan.Group(st.Group)
		if !ok {
			continue
		}
		for _, a := range s.Work.Acts(st.ID) {
			if e, did := s.Work.Last(a); did {
				out[at[g.Name]+a.Bolt-1].count(g, a, e, s.full(g))
			}
		}
	}
	for name, bolts := range s.Troubled {
		for b := range bolts {
			out[at[name]+b-1].Mark = "trouble"
		}
	}
	if s.Undoes() {
		for i := range out {
			out[i].Level = 1 - out[i].Level
		}
	}
	return out
}

// Undoes reports whether the joint is undone by this run.
func (s *State) Undoes() bool {
	return s.Work.Recipe.Undoes.Is(s.Work.Joint.Choices)
}

// Again reports whether a joint that stands is gone over by this run.
func (s *State) Again() bool {
	return s.Work.Recipe.Again.Is(s.Work.Joint.Choices)
}

// full is how far a group fills its bolts: not all the way where another works
// on them after it.
func (s *State) full(g Group) float64 {
	switch {
	case !slices.ContainsFunc(s.plan.Result.Groups, func(o Group) bool { return o.Of == g.Name }):
		return 1
	case s.Undoes():
		return 0.85 // slackened, and not off yet
	}
	return 0.3 // snug
}

// underWay is how far a bolt is drawn full that is turned by portions and does
// not hold yet: nobody knows its share.
const underWay = 0.5

func (b *Bolt) count(g Group, a recipe.Act, e recipe.Entry, full float64) {
	switch {
	case a.Lock:
		b.Locked = !e.Skipped
	case a.Turn > 0 && a.Round > 0 && e.Moved:
		b.Level = max(b.Level, underWay)
	case a.Turn > 0 && a.Round > 0:
		b.Level, b.Mark = 1, "still"
	case a.Round > 0:
		b.Mark = "still"
		if e.Moved {
			b.Mark = "moved"
		}
	case g.How == recipe.ByTurns:
		b.Level = max(b.Level, full*float64(a.Stroke)/float64(max(len(g.Turns), 1)))
	case g.How == recipe.ByTorque, g.How == recipe.ByPressure:
		b.Level, b.Last = max(b.Level, a.Share/100), max(b.Last, a.Share)
	default:
		b.Level = max(b.Level, full)
	}
}
