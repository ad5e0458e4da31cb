// Package record has the words in which a run is written down: entries, what
// they say, and what the record of a joint shows first.
//
// A run is a list of entries that is only ever added to. An act is one thing to
// do: a step of the recipe, or one bolt of it at one stage, or in one round. A
// correction is an entry of its own that says which one it stands for, and why.
// Package work folds the entries into the state of the run.
package record

import (
	"fmt"
	"math"
	"time"

	"dynacor/core/unit"
)

// Kind is the kind of an entry.
type Kind string

// The kinds of entries.
const (
	KindCaution    Kind = "caution"    // the cautions of a step were read
	KindTooling    Kind = "tooling"    // tools chosen for a group
	KindSetting    Kind = "setting"    // the tool of a stage taken in hand and set
	KindUpset      Kind = "upset"      // what gave the pressure of a stage was changed
	KindDone       Kind = "done"       // an act was done
	KindTwice      Kind = "twice"      // an act was done once more, apart from whoever had done it
	KindTrouble    Kind = "trouble"    // anything else that happened to a bolt
	KindCorrection Kind = "correction" // stands for an earlier entry
	KindReport     Kind = "report"     // a tool was dropped, or is doubtful
	KindAnswer     Kind = "answer"     // what is in doubt because of a tool is answered for
	KindRecheck    Kind = "re-check"   // bolts in doubt were tried with another tool
	KindDecision   Kind = "decision"   // an engineer lets a stopped run go on, or a tool be used past its date
	KindPause      Kind = "pause"      // work laid down, perhaps handed over
	KindResume     Kind = "resume"     // work taken up
	KindLubricant  Kind = "lubricant"  // the lubricant on the job is another than the plan's
	KindStarted    Kind = "started"    // the clock of a step that is held or waited for
	KindPhoto      Kind = "photo"      // a photograph was taken
	KindGap        Kind = "gap"        // a device is lost, with what it had not sent
	KindSignature  Kind = "signature"
)

// Entry is one thing that was said of a run. AtTool is when it was done,
// AtServer when it was stored. Confirmed: what was asked about it was answered
// with yes.
type Entry struct {
	ID        string
	Seq       int // from 1
	AtTool    time.Time
	AtServer  time.Time
	AtDevice  time.Time // when it was done by the device's own clock, where that was off; zero: AtTool is that
	Person    string
	Confirmed bool
	Content   Content
}

// Content is what an entry says; its type is the entry's kind.
type Content interface{ Kind() Kind }

// Act is one thing to do: a step, or one bolt of it.
type Act struct {
	Step    string
	Bolt    int     // from 1; 0 where the step has no bolts
	Share   float64 // of the group's value, percent
	Turn    float64 // degrees; in a round of portions the most that it is turned by
	Stroke  int     // which of several turns of one bolt, from 1
	Lock    bool    // the lock of this bolt, after it
	Round   int     // of going round until nothing moves, from 1; 0 in a stage
	Item    int     // which line of a list that is ticked, from 1
	Photo   bool    // the photograph that the step asks for
	Release bool    // the answer of whoever releases the step
}

// Done is an act as it was done.
type Done struct {
	Act
	Moved     bool          // in a round: the nut turned
	NoTurn    bool          // in a stage: the tool reached its value and the nut did not turn
	Reading   unit.Quantity // on the tool; empty when it clicked at its setting
	Angle     float64       // that the nut turned by, from snug or in a round, degrees; 0 where it was not read
	Readings  []float64     // of a step that is measured, in its limit's unit, one a place
	Bolts     []int         // of a sample: where they were taken, a reading each
	Held      float64       // minutes waited before it was read
	Marks     []string      // what was compared, each "what: mark"
	Tried     bool          // it did not hold, is not there, does not match: it is kept as a try, and stays to do
	LetGo     bool          // in a round of little portions: what is drawn off came free
	Skipped   bool          // left undone
	Reason    string        // why it was left, or kept outside its limit
	Qualified string        // whose PIN stands for it, where the step asks for such a person
	Taken     string        // the tool that sent the reading itself; empty: a hand said it
	Trace     string        // its trace, by its SHA-256, hex; empty: none
}

// Caution says that the cautions of a step were read and met.
type Caution struct {
	Step   string
	Points []string // as they were shown
}

// Tooling is the choice of tools for every stage of a group. Beside are those that work at
// the same time as the first, each with every stage.
type Tooling struct {
	Group  string
	Stages []StageTool
	Beside [][]StageTool
}

// Hands are the tools that work at once, of each every stage; the first first.
func (t Tooling) Hands() [][]StageTool { return append([][]StageTool{t.Stages}, t.Beside...) }

// OfHand names what a group's numbers come from with one of the tools that work at once.
func OfHand(group string, hand int) string {
	if hand == 0 {
		return group
	}
	return fmt.Sprintf("%s, tool %d", group, hand+1)
}

// StageTool is what makes one stage: tools, setting and what the scale shows.
type StageTool struct {
	Tools      []string      // tags, wrench first
	Torque     float64       // asked for at the nut, N·m
	Lands      float64       // given by the setting, N·m
	Setting    unit.Quantity // as the scale has it
	Main       float64       // main mark, in the setting's unit
	Minors     int           // minor marks past it
	First      float64       // first mark of the scale, in the setting's unit
	Major      float64       // from main mark to main mark, in the setting's unit
	Minor      float64       // from minor mark to minor mark, in the setting's unit
	Error      float64       // of what it gives, percent
	Accuracy   float64       // of the chain, a fraction
	Multiplier float64       // of its multiplier, a fraction; 0 without one
	Force      float64       // on the handle, N; 0 where its length is not known
	Calibrated time.Time     // zero where it is not known
	Due        time.Time     // last day it may be used; zero where it is not known
	ByHand     bool          // entered by hand, not from the crib
	Face       string        // how it shows its setting; empty: ring and thimble
	Falls      bool          // its main marks rise toward the hand
	Least      float64       // from which it is used, in the setting's unit; 0 where it is not known
	Most       float64       // to which it goes
	Links      []Link        // the chain from the hand to the nut, Tools in more words; nil: only the tags were kept
	Chart      []ChartRow    // of a hydraulic wrench, in the setting's unit; nil: it is none
	Draw       Draw          // of a tensioner; zero: it is none
	DueOf      string        // the tool that Due is of, where it is not the first
	Full       float64       // of the gauge of a hydraulic tool, its full scale, in the setting's unit
}

// ChartRow is one line of a hydraulic wrench's chart: pressure in the setting's unit, torque in N·m.
type ChartRow struct{ Pressure, Torque float64 }

// Draw is what a tensioner does at a stage.
type Draw struct {
	Load      float64 // that it leaves in the stud at first, N
	Factor    float64 // applied over left
	Applied   float64 // N
	Area      float64 // of the ram, mm²
	Length    float64 // that is clamped, mm
	Yield     float64 // share of it that the stud sees meanwhile, a fraction
	Lengthens float64 // the stud, meanwhile, mm
	Stroke    float64 // of the tensioner, mm
	Residual  float64 // pressure at which a nut comes free that holds the planned load, in the setting's unit
}

// Pressed reports whether a tool is brought up to a pressure until it stalls.
func (t StageTool) Pressed() bool { return t.Chart != nil }

// Draws reports whether a tool draws the stud, and the nut is run down meanwhile.
func (t StageTool) Draws() bool { return t.Draw.Area > 0 }

// Own are the tags that no other tool can have at the same time: all but a pump and its gauge.
func (t StageTool) Own() []string {
	if t.Links == nil {
		return t.Tools
	}
	var out []string
	for _, l := range t.Links {
		if l.Tag != "" && l.Kind != "pump" && l.Kind != "gauge" {
			out = append(out, l.Tag)
		}
	}
	return out
}

// Link is a link of a chain, as it was when it was chosen.
type Link struct {
	Kind   string  // wrench, adapter, multiplier, offset end, extension, socket
	Tag    string  // empty: it is fetched, and in no crib
	Drive  string  // square at its far end, in; empty: none, or not known
	Limit  float64 // what it bears, N·m; 0: not known
	Torque float64 // that goes on from it, N·m
	Ratio  float64 // of a multiplier
	Length float64 // mm: of the wrench to its grip, of an offset end or an extension
	Angle  float64 // of an offset end, from straight ahead, degrees
	Size   float64 // of a socket or bit, mm
	Inside bool    // a bit
}

// Wrench is the accuracy of the wrench alone, a fraction.
func (t StageTool) Wrench() float64 {
	return math.Sqrt(max(0, t.Accuracy*t.Accuracy-t.Multiplier*t.Multiplier))
}

// Setting says that the tool of a stage is in the hand and set. It is an act of
// its own whenever tool, setting or hand changes. A hydraulic wrench is rigged up for it: Rig
// is what was done, in order, Readings the gauge's, in the setting's unit.
type Setting struct {
	Group    string
	Share    float64 // of the stage, percent
	Rig      []string
	Readings []float64
	Hand     int    // which of the tools that work at once, from 0
	Taken    string // the gauge that sent its readings itself; empty: they were typed
}

// UpsetKind says what was changed of a rig.
type UpsetKind string

// What upsets a rig. Where the regulator was moved nobody knows what pressure the pulls
// since then had.
const (
	RegulatorMoved UpsetKind = "regulator moved"
	HoseChanged    UpsetKind = "hose changed"
	PumpStopped    UpsetKind = "pump stopped"
)

// Upsets lists them.
func Upsets() []UpsetKind { return []UpsetKind{RegulatorMoved, HoseChanged, PumpStopped} }

// Upset says that what gives the pressure of a group was changed: it is rigged up again
// before the next pull.
type Upset struct {
	Group string
	What  UpsetKind
	Note  string
}

// Twice says that an act was done that somebody else had done meanwhile: two devices went on
// apart, without a network. The first counts; that the second happened is kept.
type Twice struct{ Done }

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

// Troubles lists them.
func Troubles() []TroubleKind {
	return []TroubleKind{WouldNotTurn, TurnedTooEasy, ThreadDamaged, Overshot, ToolProblem, SomethingElse}
}

// Remedy says what is done about a trouble.
type Remedy string

// The remedies. TryAgain: made good, the same pull again. Replaced: the bolt is
// a new one, its whole chain begins anew. Leave: the others first, this one at
// the end of the stage. Loosened: a bolt that was turned by its angle is
// slackened and begins anew.
const (
	TryAgain Remedy = "try again"
	Replaced Remedy = "replaced"
	Leave    Remedy = "leave"
	Loosened Remedy = "loosened"
	Upped    Remedy = "brought up" // of a turned bolt that is short of its turn by its own mark: once
)

// Trouble is something that went wrong with a bolt and what is done about it.
type Trouble struct {
	Group  string
	Bolt   int
	What   TroubleKind
	Remedy Remedy
	Note   string
}

// Correction stands for entry Of. Instead replaces what it said; nil strikes
// it out.
type Correction struct {
	Of      string
	Reason  string
	Instead Content
}

// ReportKind says what is wrong with a tool.
type ReportKind string

// What a tool is reported for.
const (
	Dropped    ReportKind = "dropped"
	Doubtful   ReportKind = "doubtful"
	Overloaded ReportKind = "overloaded"
	FoundOff   ReportKind = "found off" // at its check
)

// Reports lists them.
func Reports() []ReportKind { return []ReportKind{Dropped, Doubtful, Overloaded, FoundOff} }

// Report says that a tool was dropped or is doubtful. What it made since its
// last good check is in doubt until somebody answers for it.
type Report struct {
	Tool  string // tag
	What  ReportKind
	Note  string
	Since time.Time // its last good check; zero where none is known
}

// AnswerHow is how a doubt is answered.
type AnswerHow string

// The answers. Stands: the pulls are kept, for a reason. Good: the tool was found good as
// it was; only a check of it says so. Sample: some of the bolts are tried with another
// tool first. Again: they are made again with another tool.
const (
	Stands AnswerHow = ""
	Good   AnswerHow = "good"
	Sample AnswerHow = "sample"
	Again  AnswerHow = "again"
)

// Answer answers for what is in doubt because of a tool.
type Answer struct {
	Tool   string
	How    AnswerHow
	Reason string
}

// Recheck says what bolts gave that were in doubt because of Tool, tried on in the
// tightening direction to the first movement with another tool.
type Recheck struct {
	Tool     string // whose pulls are in doubt
	With     string // the tag of the one that tried them
	Group    string
	Bolts    []int
	Readings []float64 // N·m, one a bolt
}

// Decision lets a stopped run go on, or, where Tool is set, that tool be used
// past its date.
type Decision struct{ Reason, Tool string }

// Pause lays the work down; HandOverTo names who takes it up, if known.
type Pause struct{ Note, HandOverTo string }

// Resume takes the work up.
type Resume struct{ Note string }

// Lubricant says that what is on the bolts of a group is another condition than the
// plan has: Is is its name. The work stops until an engineer decides.
type Lubricant struct{ Group, Is, Note string }

// Started says that the clock of a step runs: its pressure is on, its gas settles.
type Started struct{ Step string }

// Photo is a photograph, by the hash of its bytes; those are kept beside the run. Step
// is empty where it is of the joint as a whole.
type Photo struct {
	Step   string
	Hash   string // SHA-256, hex
	What   string // what it shows
	Width  int    // pixels
	Height int
	Size   int // bytes
}

// Gap says that a device is lost or was wiped that had taken the joint along, or had something to
// send of it: what was done there and not sent is missing.
type Gap struct {
	Device string    // what was written on it; empty: nothing
	By     string    // whose it was last, by name
	Why    string    // what became of it
	Seen   time.Time // when it was last heard of
	Acts   int       // of this joint that waited on it then
	Since  time.Time // when the oldest of them was done; zero where none waited
}

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

// Kind names the kind of entry that each content makes.
func (Caution) Kind() Kind    { return KindCaution }
func (Tooling) Kind() Kind    { return KindTooling }
func (Setting) Kind() Kind    { return KindSetting }
func (Upset) Kind() Kind      { return KindUpset }
func (Done) Kind() Kind       { return KindDone }
func (Trouble) Kind() Kind    { return KindTrouble }
func (Correction) Kind() Kind { return KindCorrection }
func (Report) Kind() Kind     { return KindReport }
func (Lubricant) Kind() Kind  { return KindLubricant }
func (Started) Kind() Kind    { return KindStarted }
func (Photo) Kind() Kind      { return KindPhoto }
func (Gap) Kind() Kind        { return KindGap }
func (Answer) Kind() Kind     { return KindAnswer }
func (Recheck) Kind() Kind    { return KindRecheck }
func (Twice) Kind() Kind      { return KindTwice }
func (Decision) Kind() Kind   { return KindDecision }
func (Pause) Kind() Kind      { return KindPause }
func (Resume) Kind() Kind     { return KindResume }
func (Signature) Kind() Kind  { return KindSignature }
