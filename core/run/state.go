package run

import (
	"maps"
	"slices"

	"dynacor/core/proof"
)

// Plan is what a run follows: passes over bolts in an order, then check
// rounds at the full value.
type Plan struct {
	Bolts       int
	Shares      []float64 // percent, one a pass
	Torques     []float64 // exact, N·m, one a pass
	Order       []int
	CheckOrder  []int
	GapLimit    float64 // mm
	GapDiameter float64 // mm
}

// MostRounds is how many check rounds may be made before the run stops and
// asks an engineer.
const MostRounds = 5

// Phase of the whole run, in the order in which they come.
type Stage string

// The stages of a run.
const (
	StageLayOut  Stage = "lay out" // of a run that a recipe leads
	StageTool    Stage = "tool up"
	StageTighten Stage = "tighten"
	StageCheck   Stage = "check"
	StageStopped Stage = "stopped" // too many rounds moved; an engineer decides
	StageProve   Stage = "prove"
	StageSign    Stage = "sign"
	StageSigned  Stage = "signed"
)

// Act is one thing to do to one bolt. Round is zero in a pass, Pass is the
// last one in a check round. LevelAfter is the share of the target the bolt
// has once it is done.
type Act struct {
	Bolt       int
	Pass       int
	Round      int
	Share      float64
	LevelAfter float64
}

// Bolt is what is known of one bolt.
type Bolt struct {
	Position int
	Pass     int     // highest pass held, 0 for none
	Level    float64 // share of the target reached, 0 to 1
	Still    bool    // the last check round that tried it did not move it
	Moved    bool    // the last check round that tried it moved it
	Trouble  bool    // a trouble is open
	Left     bool    // left for the end of the pass

	round int // the last check round that tried it
}

// Round is one check round.
type Round struct {
	Number      int
	Done        int
	Moved       []int
	Complete    bool
	Interrupted bool // a bolt had to be made again; the round does not count
}

// Gaps is a measurement with its verdict.
type Gaps struct {
	Entry   string
	Values  []float64
	Verdict proof.Gap
	Person  string
}

// Signed is a signature that stands.
type Signed struct {
	Entry  Entry
	Part   Part
	Reason string
}

// State is a run at one moment.
type State struct {
	Stage      Stage
	Bolts      []Bolt
	Pass       int // the pass being made, the last one in check rounds
	PassDone   int // bolts held at it
	Rounds     []Round
	Next       *Act
	Tooling    *Tooling
	Cautioned  map[string]bool // people who acknowledged the cautions
	Paused     *Entry
	GapBefore  *Gaps
	GapAfter   *Gaps
	Signatures []Signed
	Allowed    int // further rounds an engineer allowed
	Pullers    map[string]bool
	Deviations []Deviation
	Effective  []Effective // every entry with what it counts for now

	plan Plan
}

// Effective is an entry with what it counts for now: its own content, what a
// correction put instead, or nothing where it was struck out.
type Effective struct {
	Entry     Entry
	Content   Content // nil when struck out
	Corrected *Entry  // the correction that changed it
}

// Deviation is something the record shows first. Outside marks one that is
// outside a limit, which the checker must answer with a reason.
type Deviation struct {
	Entry   string
	Bolt    int
	Outside bool
	Text    string
}

// Fold makes the state of a run from its entries, in their order.
func Fold(p Plan, entries []Entry) *State {
	s := newState(p)
	instead := map[string]*Entry{}
	for i := range entries {
		if c, ok := entries[i].Content.(Correction); ok {
			instead[c.Of] = &entries[i]
		}
	}
	for _, e := range entries {
		eff := Effective{Entry: e, Content: e.Content}
		if by := instead[e.ID]; by != nil {
			eff.Corrected = by
			eff.Content = by.Content.(Correction).Instead
		}
		s.Effective = append(s.Effective, eff)
		s.take(eff)
	}
	s.settle()
	return s
}

func newState(p Plan) *State {
	s := &State{plan: p, Bolts: make([]Bolt, p.Bolts), Cautioned: map[string]bool{}, Pullers: map[string]bool{}}
	for i := range s.Bolts {
		s.Bolts[i].Position = i + 1
	}
	return s
}

// Then returns the state after one more entry; s itself stays as it is. A
// correction folds anew, everything else is counted on top.
func (s *State) Then(e Entry) *State {
	if _, ok := e.Content.(Correction); ok {
		entries := make([]Entry, 0, len(s.Effective)+1)
		for _, eff := range s.Effective {
			entries = append(entries, eff.Entry)
		}
		return Fold(s.plan, append(entries, e))
	}
	n := s.clone()
	eff := Effective{Entry: e, Content: e.Content}
	n.Effective = append(n.Effective, eff)
	n.take(eff)
	n.settle()
	return n
}

// clone copies what take and settle write to. Lists that only grow are capped
// so that appending to the copy does not reach into s.
func (s *State) clone() *State {
	n := *s
	n.Bolts = slices.Clone(s.Bolts)
	n.Rounds = slices.Clone(s.Rounds)
	for i := range n.Rounds {
		n.Rounds[i].Moved = slices.Clip(n.Rounds[i].Moved)
	}
	n.Cautioned, n.Pullers = maps.Clone(s.Cautioned), maps.Clone(s.Pullers)
	n.Signatures, n.Deviations, n.Effective = slices.Clip(s.Signatures), slices.Clip(s.Deviations), slices.Clip(s.Effective)
	return &n
}

// Begun reports whether anybody has put a wrench to a bolt of this run, also
// when that was struck out later.
func (s *State) Begun() bool { return len(s.Pullers) > 0 }

func (s *State) bolt(position int) *Bolt {
	if position < 1 || position > len(s.Bolts) {
		return nil
	}
	return &s.Bolts[position-1]
}

// take counts one entry in.
func (s *State) take(eff Effective) {
	switch eff.Entry.Content.(type) {
	case Pull, Check: // also when it was struck out: they had the wrench in hand
		s.Pullers[eff.Entry.Person] = true
	}
	switch c := eff.Content.(type) {
	case Caution:
		s.Cautioned[eff.Entry.Person] = true
	case Tooling:
		s.Tooling = &c
	case Pull:
		s.pull(c)
	case Check:
		s.check(c)
	case Trouble:
		s.trouble(c)
	case Pause:
		e := eff.Entry
		s.Paused = &e
	case Resume:
		s.Paused = nil
	case Measurement:
		s.measure(eff.Entry, c)
	case Decision:
		s.Allowed++
	case Signature:
		s.Signatures = append(s.Signatures, Signed{eff.Entry, c.Part, c.Reason})
	}
	s.deviate(eff)
}

func (s *State) pull(p Pull) {
	b := s.bolt(p.Bolt)
	if b == nil {
		return
	}
	s.interrupt()
	b.Pass = max(b.Pass, p.Pass)
	b.Trouble, b.Left = false, false
	b.Level = s.plan.share(b.Pass)
}

// interrupt voids check rounds when a bolt has to be pulled after they began.
func (s *State) interrupt() {
	if n := len(s.Rounds); n > 0 {
		s.Rounds[n-1].Interrupted = true
	}
}

func (s *State) check(c Check) {
	b := s.bolt(c.Bolt)
	if b == nil {
		return
	}
	r := s.round(c.Round)
	if r.Done == 0 { // a new round starts without the dots of the last
		for i := range s.Bolts {
			s.Bolts[i].Still = false
		}
	}
	b.round = c.Round
	r.Done++
	r.Complete = r.Done >= s.plan.Bolts
	b.Still, b.Moved, b.Trouble, b.Left = !c.Moved, c.Moved, false, false
	if c.Moved {
		r.Moved = append(r.Moved, c.Bolt)
	}
}

func (s *State) round(number int) *Round {
	for i := range s.Rounds {
		if s.Rounds[i].Number == number {
			return &s.Rounds[i]
		}
	}
	s.Rounds = append(s.Rounds, Round{Number: number})
	return &s.Rounds[len(s.Rounds)-1]
}

func (s *State) trouble(t Trouble) {
	b := s.bolt(t.Bolt)
	if b == nil {
		return
	}
	b.Trouble = true
	switch t.Remedy {
	case Replaced:
		b.Pass, b.Level, b.Still, b.Moved, b.Left = 0, 0, false, false, false
		s.interrupt()
	case Leave:
		b.Left = true
	}
}

func (s *State) measure(e Entry, m Measurement) {
	v, err := proof.JudgeGap(m.Gaps, s.plan.GapDiameter, s.plan.GapLimit)
	if err != nil {
		return // refused before it was stored; a damaged entry shows nothing
	}
	g := &Gaps{e.ID, m.Gaps, v, e.Person}
	if m.Phase == Before {
		s.GapBefore = g
	} else {
		s.GapAfter = g
	}
}

// share returns the share of the target that pass n reaches, 0 to 1.
func (p Plan) share(n int) float64 {
	if n < 1 || len(p.Shares) == 0 {
		return 0
	}
	return p.Shares[min(n, len(p.Shares))-1] / 100
}

// Mark is the sign a bolt carries on the drawing: trouble, moved, still or
// none.
func (b Bolt) Mark() string {
	switch {
	case b.Trouble:
		return "trouble"
	case b.Moved:
		return "moved"
	case b.Still:
		return "still"
	}
	return "none"
}
