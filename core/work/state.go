package work

import (
	"maps"
	"slices"
	"time"

	"dynacor/core/recipe"
	"dynacor/core/record"
	"dynacor/core/unit"
)

// State is a run at one moment. It is never changed from outside: Then returns
// the next.
type State struct {
	Standing   record.Standing
	Paused     *record.Entry
	Signatures []Signed
	Tooling    map[string]record.Tooling // by group

	plan  *Plan
	lines shared[Line]
	noted shared[int32] // lines that the record may show first

	done   []int32 // by act: 1 + the line that did it; 0 where it is open
	open   []int32 // by step: acts of it that are open, rounds apart
	cursor []int32 // by step: the first act that may be open
	going  []going // by step: its rounds
	bolts  []bolt  // of all owners, one after the other
	at     int     // the first step with something to do

	people    map[string]bool            // everyone who is named
	cautioned map[string]map[string]bool // by step: who read its cautions
	pullers   map[string]bool            // who had a tool on a bolt, also where it was struck out
	workers   map[string]bool            // who else had a hand in the joint
	failed    map[string]bool            // steps whose sample had a reading outside
	worst     []worst                    // by owner
	inHand    [MostHands]inHand          // of the tools that work at once; of one alone the first
	doubts    []doubt
	waived    map[string]bool // tools that may be used past their date
	others    []other         // lubricants that were found to be another
	dry       string          // the step that a whole stage without a turn has stopped; empty: none
	pace      pace
	started   map[string]time.Time // by step: since when its clock runs
	private   bool                 // nobody else has it: it is changed in place
}

// Line is an entry with what it counts for now.
type Line struct {
	Entry     record.Entry
	Content   record.Content    // nil where it was struck out
	Corrected *record.Entry     // the correction that stands for it
	Readings  []float64         // of a step: as they were taken, or as the record gives them
	Held      float64           // minutes it was held, by the clock that was started or by a watch
	Outside   string            // why it is outside its limit, or that it was left undone
	Tried     bool              // measured, and to be adjusted or measured again
	Early     bool              // its time lies before that of the entry before it
	Fast      bool              // at a pace that no hand can make
	Tool      *record.StageTool // what a pull was made with
	counted   bool              // it did something when it was taken
	hand      int               // which of the tools that work at once made a pull
	noted     bool              // it is among those that the record may show first
}

// Signed is a signature that stands.
type Signed struct {
	Entry  record.Entry
	Part   record.Part
	Reason string
}

// bolt is what is known of one bolt.
type bolt struct {
	trouble bool  // something is open about it
	left    bool  // the others of its stage come first
	spent   bool  // it was turned, and nobody knows how far: it begins anew
	turned  bool  // it was turned by its angle
	upped   bool  // it was brought up to its turn, which is done once
	anew    bool  // it begins from nothing, and nothing of that is done yet
	still   bool  // the last round that tried it did not move it
	moved   bool  // it did
	since   int32 // the line before which nothing done to it counts
}

// shared is a list that only grows, of which several states share the beginning:
// only the longest of them adds to it in place, so that an entry costs the same
// however long the run is.
type shared[T any] struct {
	list []T
	end  *int
}

func (s *shared[T]) add(x T) {
	if s.end == nil || *s.end != len(s.list) {
		s.own()
	}
	s.list = append(s.list, x)
	*s.end = len(s.list)
}

// own makes the list one that nobody else has.
func (s *shared[T]) own() {
	n := len(s.list)
	s.list, s.end = slices.Clone(s.list), &n
}

// inHand is the tool that is set, and in whose hand.
type inHand struct {
	tools   string
	setting unit.Quantity
	by      string
	at      time.Time
}

// Fold makes the state of a run from its entries, in their order.
func Fold(p *Plan, entries []record.Entry) *State {
	s := Begin(p)
	s.private = true
	s.lines.list, s.lines.end = make([]Line, 0, len(entries)+8), new(int)
	for _, e := range entries {
		s.take(e)
	}
	s.private = false
	return s
}

// Begin is the state of a run without entries.
func Begin(p *Plan) *State {
	s := &State{plan: p, Tooling: map[string]record.Tooling{}, done: make([]int32, len(p.acts)), open: make([]int32, len(p.steps)),
		cursor: make([]int32, len(p.steps)), going: make([]going, len(p.steps)), bolts: make([]bolt, p.bolts()),
		worst: make([]worst, len(p.owners)), cautioned: map[string]map[string]bool{}, people: map[string]bool{}, pullers: map[string]bool{},
		workers: map[string]bool{}, failed: map[string]bool{}, waived: map[string]bool{}, started: map[string]time.Time{}}
	for i := range p.steps {
		s.open[i], s.cursor[i] = p.steps[i].last-p.steps[i].first, p.steps[i].first
		s.going[i].until = p.steps[i].group.Until
	}
	s.settle()
	return s
}

// Then returns the state after one more entry; s itself stays as it is.
func (s *State) Then(e record.Entry) *State {
	n := *s
	n.done, n.open, n.cursor = slices.Clone(s.done), slices.Clone(s.open), slices.Clone(s.cursor)
	n.going, n.bolts = slices.Clone(s.going), slices.Clone(s.bolts)
	n.Signatures, n.doubts, n.worst = slices.Clip(s.Signatures), slices.Clone(s.doubts), slices.Clone(s.worst)
	n.take(e)
	return &n
}

// Plan is what the run follows.
func (s *State) Plan() *Plan { return s.plan }

// Lines are the entries with what each counts for now, in their order.
func (s *State) Lines() []Line { return s.lines.list }

// LastPull is when the last bolt was worked on, by the clock at the tool; zero
// where none was.
func (s *State) LastPull() time.Time {
	for i := len(s.lines.list) - 1; i >= 0; i-- {
		if c, ok := s.lines.list[i].Content.(record.Done); ok && c.Bolt > 0 {
			return s.lines.list[i].Entry.AtTool
		}
	}
	return time.Time{}
}

// line returns a line that may be changed: the lines of other states stay as
// they are.
func (s *State) line(i int) *Line {
	if !s.private {
		s.lines.own()
	}
	return &s.lines.list[i]
}

// note keeps a line, one that may be changed, among those that the record may
// show first.
func (s *State) note(i int) {
	if l := &s.lines.list[i]; !l.noted {
		l.noted = true
		s.noted.add(int32(i))
	}
}

// mine returns a map that may be written to.
func mine[M ~map[K]V, K comparable, V any](s *State, m M) M {
	if s.private {
		return m
	}
	return maps.Clone(m)
}

// take counts one entry in.
func (s *State) take(e record.Entry) {
	at := len(s.lines.list)
	s.lines.add(Line{Entry: e, Content: e.Content, Early: s.early(e)})
	if s.lines.list[at].Early || s.plan.dated(e, e.AtServer) != "" {
		s.note(at)
	}
	s.meet(e.Person)
	if stands(e.Content) && !(s.Standing == record.Signed && afterSigning(e.Content)) {
		s.Signatures = nil
	}
	switch c := e.Content.(type) {
	case record.Caution:
		s.caution(e, c)
	case record.Tooling:
		s.tool(at, c)
	case record.Setting:
		s.set(e, c)
	case record.Upset:
		s.upset(at, c)
	case record.Done:
		s.do(at, c)
	case record.Twice:
		s.doneTwice(at, c)
	case record.Trouble:
		s.trouble(at, c)
	case record.Correction:
		s.correct(at, c)
	case record.Started:
		s.started = mine(s, s.started)
		s.started[c.Step] = e.AtTool
		s.lines.list[at].counted = true
	case record.Photo:
		s.photo(at, c)
	case record.Report:
		s.report(at, c)
	case record.Gap:
		s.note(at)
	case record.Lubricant:
		s.lubricant(at, c)
	case record.Answer:
		s.answer(at, c)
	case record.Recheck:
		s.recheck(at, c)
	case record.Decision:
		s.decide(at, c)
	case record.Pause:
		s.Paused, s.inHand = &e, [MostHands]inHand{}
	case record.Resume:
		s.Paused, s.inHand = nil, [MostHands]inHand{}
	case record.Signature:
		s.Signatures = append(s.Signatures, Signed{e, c.Part, c.Reason})
	}
	s.pace.last = e.AtTool
	s.settle()
}

// stands reports whether what was signed before an entry stands no longer:
// after anything but reading, laying down and signing itself.
func stands(c record.Content) bool {
	switch c.(type) {
	case record.Signature, record.Pause, record.Resume, record.Caution, record.Photo:
		return false
	}
	return true
}

// do counts an act as done.
func (s *State) do(at int, c record.Done) {
	st, i, ok := s.plan.step(c.Step)
	if !ok {
		return // refused before it was stored; a damaged entry counts nothing
	}
	l := &s.lines.list[at]
	v, err := s.judge(st, c, l.Entry.AtTool)
	if err != nil {
		return
	}
	l.Readings, l.Held, l.Outside, l.Tried, l.counted = v.readings, v.held, v.outside, v.tried, true
	if tool, ok := s.toolOf(st, c.Act); ok {
		l.Tool, l.hand = tool, s.HandOf(c.Act)
		s.inHand[l.hand].at = l.Entry.AtTool
	}
	if c.Bolt > 0 {
		s.pulledBy(l.Entry.Person)
		if !c.Lock {
			l.Fast = s.pace.pull(c, l.hand, l.Entry.AtTool)
		}
	} else if st.Works() && !c.Release {
		s.workedBy(l.Entry.Person, c.Qualified)
	}
	s.meet(c.Qualified)
	if l.Outside != "" || l.Fast || c.Moved || c.NoTurn || c.Angle > 0 || !c.Reading.IsZero() {
		s.note(at)
	}
	switch {
	case l.Tried:
		if st.Sample != "" {
			s.failed = mine(s, s.failed)
			s.failed[st.ID] = true
		}
		s.stopClock(st.ID)
		s.goBack(at, i)
	case c.Round > 0:
		s.tried(i, at, c)
	default:
		s.mark(i, at, c)
	}
}

// mark counts an act of a stage, or a step, as done.
func (s *State) mark(i, at int, c record.Done) {
	a, ok := s.plan.place[c.Act]
	if !ok {
		return
	}
	st := &s.plan.steps[i]
	if s.done[a] == 0 {
		s.open[i]--
	}
	s.done[a] = int32(at) + 1
	for s.cursor[i] < st.last && s.done[s.cursor[i]] != 0 {
		s.cursor[i]++
	}
	if c.Bolt == 0 {
		if s.open[i] == 0 {
			s.voidLater(i)
		}
		return
	}
	b := s.bolt(st.owner, c.Bolt)
	b.anew = false
	if c.Lock {
		return
	}
	b.trouble, b.left = false, false
	b.turned = b.turned || s.plan.turned(st)
	s.worst[st.owner].last = c.Bolt
	if c.NoTurn && s.unturned(i, c.Share) {
		s.dry = c.Step
	}
}

// unturned reports whether the whole stage of a step is done and no nut of it
// has turned.
func (s *State) unturned(i int, share float64) bool {
	st := &s.plan.steps[i]
	n := 0
	for a := st.first; a < st.last; a++ {
		if act := s.plan.acts[a]; act.Share != share || act.Lock {
			continue
		}
		d, ok := s.lineOf(a)
		if !ok {
			return false
		}
		if c, is := d.Content.(record.Done); !is || !c.NoTurn {
			return false
		}
		n++
	}
	return n > 1
}

// lineOf returns the line that did an act.
func (s *State) lineOf(a int32) (Line, bool) {
	if s.done[a] == 0 {
		return Line{}, false
	}
	return s.lines.list[s.done[a]-1], true
}

// bolt returns a bolt of an owner.
func (s *State) bolt(owner, position int) *bolt {
	return &s.bolts[s.plan.owners[owner].first+position-1]
}

func (s *State) decide(at int, c record.Decision) {
	s.note(at)
	switch {
	case c.Tool != "":
		s.waived = mine(s, s.waived)
		s.waived[c.Tool] = true
	case s.another() != nil:
		s.others = slices.Clone(s.others)
		s.another().decided = true
	case s.dry != "":
		s.dry = ""
	default:
		if i, ok := s.stoppedAt(); ok {
			s.going[i].allowed++
		}
	}
}

// settle finds the first step with something to do, and where the run stands.
func (s *State) settle() {
	for s.at < len(s.plan.steps) && s.complete(s.at) {
		s.at++
	}
	s.Standing = s.standing()
}

// complete reports whether a step is done: its acts, and a round that moved
// nothing. Signatures are not steps that are done.
func (s *State) complete(i int) bool {
	st := &s.plan.steps[i]
	return st.Does != recipe.Sign && s.open[i] == 0 && (st.rounds == nil || s.going[i].still())
}

func (s *State) standing() record.Standing {
	if s.signed(record.Made) && s.signed(record.Checked) {
		return record.Signed
	}
	if _, stopped := s.stoppedAt(); stopped || s.dry != "" || s.another() != nil {
		return record.Stopped
	}
	if s.at == len(s.plan.steps) || s.plan.steps[s.at].Does == recipe.Sign {
		if s.settled() {
			return record.Sign
		}
		return record.Prove
	}
	st := &s.plan.steps[s.at]
	switch st.Station {
	case recipe.LayOut:
		return record.LayOut
	case recipe.ToolUp:
		return record.ToolUp
	case recipe.AtBolts:
		if s.wantsTool(st) {
			return record.ToolUp
		}
		return record.Tighten
	}
	return record.Prove
}

func (s *State) signed(p record.Part) bool {
	return slices.ContainsFunc(s.Signatures, func(sig Signed) bool { return sig.Part == p })
}

// photo counts a photograph: as the one its step asks for, where that is open. One more of
// what was photographed is one more, and touches nothing.
func (s *State) photo(at int, c record.Photo) {
	s.lines.list[at].counted = true
	act := record.Act{Step: c.Step, Photo: true}
	if a, asked := s.plan.place[act]; asked && s.done[a] == 0 {
		_, i, _ := s.plan.step(c.Step)
		s.mark(i, at, record.Done{Act: act})
	}
}

// stopClock stops the clock of a step: what is tried again is held anew.
func (s *State) stopClock(step string) {
	if _, runs := s.started[step]; runs {
		s.started = mine(s, s.started)
		delete(s.started, step)
	}
}
