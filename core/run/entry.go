// Package run folds the entries of a run into its state: which bolt is next,
// what is done, and what is still open.
//
// A run is an append-only list of entries. Nothing but the fold makes state;
// a correction is a new entry that says which one it stands for, and why.
package run

import (
	"time"

	"dynacor/core/unit"
)

// Kind is the kind of an entry.
type Kind string

// The kinds of entries.
const (
	KindCaution     Kind = "caution"     // cautions acknowledged
	KindTooling     Kind = "tooling"     // tools chosen
	KindPull        Kind = "pull"        // one bolt at one pass value
	KindCheck       Kind = "check"       // one bolt in a check round
	KindTrouble     Kind = "trouble"     // anything else that happened to a bolt
	KindCorrection  Kind = "correction"  // stands for an earlier entry
	KindPause       Kind = "pause"       // work laid down, perhaps handed over
	KindResume      Kind = "resume"      // work taken up
	KindMeasurement Kind = "measurement" // gaps
	KindDecision    Kind = "decision"    // an engineer lets a stopped run go on
	KindSignature   Kind = "signature"
	KindStep        Kind = "step" // an act of a recipe
)

// Entry is one thing that was done. AtTool is when it was done, AtServer when
// it was stored.
type Entry struct {
	ID       string
	Seq      int
	AtTool   time.Time
	AtServer time.Time
	Person   string
	Content  Content
}

// Content is what an entry says; its type is the entry's kind.
type Content interface{ Kind() Kind }

// Caution records that cautions were read and met: of the run, or of one step
// of its recipe.
type Caution struct {
	Points []string
	Step   string
}

// PassTool is what makes one pass: tools, setting and what the scale shows.
type PassTool struct {
	Pass       int
	Tools      []string // tags, wrench first
	Torque     float64  // asked for at the nut, N·m
	Lands      float64  // given by the setting, N·m
	Setting    unit.Quantity
	Main       float64
	Minors     int
	First      float64
	Major      float64
	Minor      float64
	Error      float64 // percent
	Accuracy   float64 // fraction
	Force      float64 // N
	Calibrated time.Time
	Due        time.Time
	ByHand     bool // entered by hand, not from the crib
}

// Tooling is the choice of tools for every pass, of the ring or of one group of
// a recipe.
type Tooling struct {
	Passes []PassTool
	Group  string
}

// Pull is one bolt brought to one pass value. NoTurn: the wrench clicked and
// the nut did not turn. Reading is what was read on the tool, empty when it
// clicked at its setting. Confirmed: a reading far from the setting was asked
// about and kept.
type Pull struct {
	Bolt      int
	Pass      int
	NoTurn    bool
	Reading   unit.Quantity
	Confirmed bool
}

// Check is one bolt tried in a check round.
type Check struct {
	Bolt      int
	Round     int
	Moved     bool
	Reading   unit.Quantity
	Confirmed bool
}

// TroubleKind says what went wrong with a bolt.
type TroubleKind string

// The troubles.
const (
	WouldNotTurn  TroubleKind = "would not turn"
	TurnedTooEasy TroubleKind = "turned too easily"
	ThreadDamaged TroubleKind = "thread damaged"
	Overshot      TroubleKind = "overshot"
	ToolProblem   TroubleKind = "tool problem"
	SomethingElse TroubleKind = "something else"
)

// Remedy says what was done about a trouble.
type Remedy string

// The remedies. TryAgain: the same pull again. Replaced: the bolt begins anew.
// Leave: the others first, this one at the end of the pass.
const (
	TryAgain Remedy = "try again"
	Replaced Remedy = "replaced"
	Leave    Remedy = "leave"
)

// Trouble is something that went wrong with a bolt and what was done.
type Trouble struct {
	Bolt   int
	What   TroubleKind
	Remedy Remedy
	Note   string
	Step   string // of a recipe, that pulls the bolt
}

// Step is an act of a recipe as it was done: the act, what was read at each
// place, or on the tool of a pull, and whether the nut moved in a round.
// Skipped: it was left undone. Qualified is who put their PIN to it where the
// step asks for such a person.
type Step struct {
	Step      string
	Bolt      int
	Share     float64 // percent
	Turn      float64 // degrees
	Stroke    int
	Lock      bool
	Round     int
	Readings  []float64
	Held      float64  // minutes waited before it was read
	Marks     []string // of a match: what was read on each part, "part: mark"
	Moved     bool
	Reading   unit.Quantity
	Confirmed bool
	Skipped   bool
	Reason    string
	Qualified string
	Bolts     []int // of a sample: the bolts that were measured, a reading each
}

// Correction stands for entry Of. Instead replaces what it said; nil strikes
// it out.
type Correction struct {
	Of      string
	Reason  string
	Instead Content
}

// Pause lays the work down; HandOverTo names who takes it up, if known.
type Pause struct{ Note, HandOverTo string }

// Resume takes the work up.
type Resume struct{ Note string }

// Phase is when something was measured.
type Phase string

// The phases.
const (
	Before Phase = "before"
	After  Phase = "after"
)

// Measurement is gaps in mm, clockwise from the top.
type Measurement struct {
	Phase Phase
	Gaps  []float64
}

// Decision lets a stopped run go on.
type Decision struct{ Reason string }

// Part is what a signature is for.
type Part string

// The parts of a record that are signed.
const (
	Made    Part = "made"
	Checked Part = "checked"
)

// Signature signs for a part of the record. Reason is asked for where the
// record has deviations that are outside a limit.
type Signature struct {
	Part   Part
	Reason string
}

func (Caution) Kind() Kind     { return KindCaution }
func (Tooling) Kind() Kind     { return KindTooling }
func (Pull) Kind() Kind        { return KindPull }
func (Check) Kind() Kind       { return KindCheck }
func (Trouble) Kind() Kind     { return KindTrouble }
func (Correction) Kind() Kind  { return KindCorrection }
func (Pause) Kind() Kind       { return KindPause }
func (Resume) Kind() Kind      { return KindResume }
func (Measurement) Kind() Kind { return KindMeasurement }
func (Decision) Kind() Kind    { return KindDecision }
func (Signature) Kind() Kind   { return KindSignature }
func (Step) Kind() Kind        { return KindStep }
