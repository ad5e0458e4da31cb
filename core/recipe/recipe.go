// Package recipe is how each kind of joint is made, as data: variants, parts
// and what must match, bolt groups with how each is tightened, and steps in
// order, each at one of the five stations. It checks that a recipe can be
// followed, and judges readings against its limits. Package joint lays one joint
// out by it, package work leads through it.
//
// Limits are in the units their recipe gives: fixed, windows, or shares of a
// named value (a rated torque, a pipe's diameter, a gasket's thickness). Recipes
// hold the craft's usual figures; what the maker's sheet for the nameplate says
// replaces them. A recipe supports and does not replace permits, local codes and
// qualified people: a step that needs one says so and asks for that person.
package recipe

import (
	"slices"
	"strings"

	"dynacor/core/sequence"
	"dynacor/core/thread"
	"dynacor/core/unit"
)

// Recipe is how one kind of joint is made.
type Recipe struct {
	ID        string // its file's name
	Title     string
	Kind      string // of the package kind
	Edition   int
	Choices   []Choice
	Undoes    When // the variants in which the joint is undone: nothing is proven of it
	Again     When // the variants in which a joint that stands is gone over: only that nothing moves is proven
	Needs     []Need
	Axis      *Axis  // along which its parts lie, first to last
	Parts     []Part // in that order
	Materials []string
	Tools     []string
	Kit       *Kit // what is laid out before anything else; it names materials and tools instead of those above
	Drawing   Drawing
	Groups    []Group
	Steps     []Step
	Repeats   []Repeat
	Mistakes  []string // the usual ones, and what comes of them
	Sheet     *Sheet

	// What Prose says in other languages, by language ("de") and then by the English. What is
	// not here is shown in English.
	Texts map[string]map[string]string
}

// Drawing is how the groups of a joint lie to one another. Empty: side by side.
type Drawing string

// The drawings: rings about one middle, the faces of one body, layers one over
// the other, straps round a pipe.
const (
	Beside Drawing = ""
	Rings  Drawing = "rings"
	Faces  Drawing = "faces"
	Layers Drawing = "layers"
	Straps Drawing = "straps"
)

// Drawings lists them.
func Drawings() []Drawing { return []Drawing{Beside, Rings, Faces, Layers, Straps} }

// Choice is where variants part: a shaft with or without a shoulder.
type Choice struct {
	Name    string
	Text    string
	Options []string
	Differ  string // where practitioners differ about it: the id of a kind.Difference
	When    When   // the variants, by choices before it, in which it is asked at all
	Plate   bool   // it follows from the nameplate: the sheet's row says which, and nobody is asked
}

// When says in which variants something is there: the option each named choice
// must have, or several with " or " between. Empty is always.
type When map[string]string

// Need is a value that the nameplate and the maker's sheet give.
type Need struct {
	Name string
	Text string
	Unit unit.Unit // empty: a count or a ratio
	Word string    // what a number without a unit counts: h, g, threads
	When When

	Optional bool  // the plan is issued without it; what follows from it is then left out
	Rule     *Rule // what works it out; it is then not given
}

// Rule works a need out of others, for the thread and grade of a group. What a
// rule does not take is empty.
type Rule struct {
	Name   RuleName
	Group  string // whose thread and grade it takes
	Length string // the need that holds the length of the bolt, or what it grips
	Faces  string // the choice of how many faces are sloped: none, one, both
	K      string // the need that holds the nut factor of the lot
}

// RuleName is what a rule works out.
type RuleName string

// The rules, of structural bolting.
const (
	PartTurn    RuleName = "part turn"    // from snug, by length and slope (RCSC)
	SecondTurn  RuleName = "second turn"  // of the combined method, by grip (EN 1090-2)
	FirstStep   RuleName = "first step"   // 0.75·M of the lot (EN 1090-2)
	SecondStep  RuleName = "second step"  // 1.10·M
	AuditTorque RuleName = "audit torque" // 1.05·M
)

// RuleNames lists them.
func RuleNames() []RuleName {
	return []RuleName{PartTurn, SecondTurn, FirstStep, SecondStep, AuditTorque}
}

// Turns reports whether r works out a turn; else it is a torque.
func (r RuleName) Turns() bool { return r == PartTurn || r == SecondTurn }

// Staged reports whether a group can be brought to its value in stages.
func (g Group) Staged() bool {
	return (g.How == ByTorque || g.How == ByPressure) && g.Portion == 0 && !g.Stands
}

// Until is what ends going round a group in little portions.
type Until string

// The ends. LetsGo: when what is drawn off comes free, which one says who does it.
const (
	AllHold Until = ""
	LetsGo  Until = "it lets go"
)

// Untils lists them.
func Untils() []Until { return []Until{AllHold, LetsGo} }

// Layout is how the bolts of a group lie.
type Layout string

// The layouts.
const (
	Ring   Layout = "ring"
	Pair   Layout = "pair"
	Line   Layout = "line"
	Plate  Layout = "grid"
	Cover  Layout = "cover" // along the edge of a rectangle
	Single Layout = "single"
)

// Layouts lists them.
func Layouts() []Layout { return []Layout{Ring, Pair, Line, Plate, Cover, Single} }

// How is what a group is tightened to.
type How string

// The ways. A group by hand has no tool; one that is not torqued must not see
// one.
const (
	ByTorque   How = "torque"
	ByTurns    How = "turns"
	ByPressure How = "pressure" // of a pump that is named by its gauge alone, until it stalls
	ByTension  How = "tension"  // drawn by a tensioner, the nut run down meanwhile
	ByHand     How = "hand"
	NotTorqued How = "not torqued"
)

// Hows lists the ways.
func Hows() []How { return []How{ByTorque, ByTurns, ByPressure, ByTension, ByHand, NotTorqued} }

// Tooled reports whether a tool is chosen from the crib for it.
func (h How) Tooled() bool { return h == ByTorque || h == ByTension }

// Group is a set of bolts that are tightened alike.
type Group struct {
	Name      string
	Layout    Layout
	Bolts     int // zero: asked for
	Least     int // where it is asked for
	Most      int
	How       How
	Of        string           // the group whose bolts these are: snugged before they are turned
	Value     string           // the need that holds its torque, pressure, load or turn
	With      With             // what alone it is pulled with
	Tension   *Tension         // of one that is drawn
	Turns     []float64        // degrees each bolt is turned by, in order; empty: Value
	Shares    []float64        // percent; empty: in full at once
	Order     sequence.Pattern // empty: the kind's own
	Holes     int              // of a ring: holes between its bolts that stay empty in this variant, for jacking or left by it
	Still     bool             // gone round until a whole round moves nothing
	Portion   float64          // degrees at a time: round and round in such steps until each holds, with no pass before
	Until     Until            // what ends going round; empty: a whole round that moves nothing
	Head      thread.Head      // what a tool takes hold of; empty: the usual of its thread and grade
	Stands    bool             // tight already: gone round with no pass before
	Lock      string           // what is locked after each bolt, at once
	Dry       bool             // nothing on thread and face
	Lubricant string           // the usual one where it is not dry
	UpperLast bool             // of a ring that is taken off: the lower bolts first, the two at the top last
	Replaced  Replaced         // what a replaced bolt takes with it
	Was       string           // the group of another variant whose bolts these are: made, and now gone over or loosened
	Circle    string           // of a ring: the need that holds the diameter of its bolt circle
	Gasket    *Gasket          // what lies between the faces; it wants a load of its own
	When      When
}

// With is what alone a group is pulled with; empty: whatever the crib has.
type With string

// What a group is pulled with.
const (
	AnyTool   With = ""
	Hydraulic With = "hydraulic wrench"
)

// Withs lists them.
func Withs() []With { return []With{AnyTool, Hydraulic} }

// Tension says of a group that is drawn by tensioners which needs hold the length that is
// clamped and the share, percent, that the first half loses to the second, and in which
// variants every other bolt is drawn first. First, Second and Free name, for limits, what
// follows from the tensioner that is chosen: the pressure of the first draw, that of the
// second, and that at which a nut comes free that holds its load.
type Tension struct {
	Length, Lost        string
	Halves              When
	First, Second, Free string
}

// Names are those that follow from the tensioner.
func (t Tension) Names() []string {
	return slices.DeleteFunc([]string{t.First, t.Second, t.Free}, func(name string) bool { return name == "" })
}

// Gasket says which choice names the gasket of a group, and which needs hold its
// diameters and what else bounds the load on it. A limit that no need holds, or that
// is not given, is the family's, or is not counted with.
type Gasket struct {
	Choice, Outer, Inner string
	Stress               string // least that seats it, MPa
	Service              string // least that keeps it tight in service, MPa
	Most                 string // at which it is crushed, MPa
	Aim                  string // to aim at, MPa
	Kept                 string // percent of the load that is left once it has settled
	Pressure             string // inside, in service
	BoltLeast, BoltMost  string // stress in the bolts, MPa
	Flange               string // most that the flange bears, as a stress in the bolts, MPa
	Full                 When   // the variants in which it covers the whole face and the bolts pass through it
}

// Stresses lists the needs that hold a stress or a pressure.
func (g Gasket) Stresses() []string {
	return []string{g.Stress, g.Service, g.Most, g.Aim, g.Pressure, g.BoltLeast, g.BoltMost, g.Flange}
}

// Needs lists all of its needs.
func (g Gasket) Needs() []string { return append([]string{g.Outer, g.Inner, g.Kept}, g.Stresses()...) }

// Replaced is what begins anew with a bolt that is replaced.
type Replaced string

// What a replaced bolt takes with it: nothing but its own chain, or all bolts of
// its group.
const (
	Alone   Replaced = ""
	WithAll Replaced = "all"
)

// Does is the kind of a step.
type Does string

// The kinds of step.
const (
	Check     Does = "check"
	Match     Does = "match"
	Measure   Does = "measure"
	Lubricate Does = "lubricate"
	KeepDry   Does = "keep dry"
	Place     Does = "place"
	Tighten   Does = "tighten"
	Turn      Does = "turn"
	Adjust    Does = "adjust"
	Charge    Does = "charge"
	Test      Does = "test"
	Lock      Does = "lock"
	Wait      Does = "wait"
	Mark      Does = "mark"
	Sign      Does = "sign"
)

// Kinds lists the kinds of step.
func Kinds() []Does {
	return []Does{Check, Match, Measure, Lubricate, KeepDry, Place, Tighten, Turn, Adjust, Charge, Test, Lock, Wait, Mark, Sign}
}

// Station is where a step is done.
type Station string

// The five stations.
const (
	LayOut   Station = "lay out"
	ToolUp   Station = "tool up"
	AtBolts  Station = "tighten"
	Prove    Station = "prove"
	AtRecord Station = "sign"
)

// Stations lists them in order.
func Stations() []Station { return []Station{LayOut, ToolUp, AtBolts, Prove, AtRecord} }

// Step is one step. Steps that follow one another with the same Block may be
// done in any order.
type Step struct {
	ID       string
	Does     Does
	Station  Station
	Text     string
	When     When
	Block    string
	Group    string   // of a step that tightens or turns
	Some     Some     // which of the group, or of those that At names
	At       string   // of a charge: the group whose bolts carry a tensioner meanwhile
	Shows    Shows    // what is drawn beside it
	Limit    *Limit   // of what is read
	Places   int      // how many readings; zero counts as one where there is a limit
	Spots    []string // what they are read at; empty: by clock, or numbered
	Reads    []Read   // what else is read, each with a form and a limit of its own
	Marks    []Comparison
	Ticks    []Tick   // a list that is ticked one by one, each an act
	Hold     float64  // minutes that are waited before it is read
	HoldOf   string   // the need that holds those minutes, where they are not the recipe's
	Items    []string // of a placing: what, in order, with its direction; all of it one act
	Cautions []Caution
	Why      string   // the reason, in one sentence
	Sample   string   // the group that a sample is measured of: how many readings, and of which bolts, follows from its count
	By       string   // who must do it; empty: anybody at the joint
	Release  string   // who answers for it, by name, before the work goes on: another than did it
	Beyond   string   // who alone keeps a reading that is outside its limit, or leaves a line undone
	Photo    string   // what is photographed
	Back     string   // the step from which all is done again when a try fails
	Must     bool     // it cannot be left undone, whatever the reason
	Proves   string   // the requirement of the package proof that it fulfils
	From     From     // where its reading comes from, if it is not taken at the joint
	For      []string // of a lubricating or a keeping dry: the groups whose condition it makes true

	// The groups whose bolts void it when one is begun anew, struck out or found
	// to have moved; empty: every group that is made before it. Nothing: none. Beside
	// groups it names steps: when one of those is done again; and AnotherTool.
	Voided []string
}

// What stands in a step's Voided beside groups and steps. Nothing: no bolt's work
// voids it. AnotherTool: a tool that was reported, or taken instead.
const (
	Nothing     = "nothing"
	AnotherTool = "another tool"
)

// From is where a step's reading comes from.
type From string

// The origins. SinceMade: the hours since the joint was made, from its record.
const (
	AtJoint   From = ""
	SinceMade From = "hours since made"
)

// Shows is what is drawn beside a step.
type Shows string

// What can be drawn: drive and arm of a hydraulic wrench on the side to tighten, or to
// loosen.
const (
	ShowsNothing   Shows = ""
	DriveToTighten Shows = "drive to tighten"
	DriveToLoosen  Shows = "drive to loosen"
)

// ShowsAll lists what can be drawn.
func ShowsAll() []Shows { return []Shows{DriveToTighten, DriveToLoosen} }

// Tightens reports whether a step works on the bolts of a group.
func (s Step) Tightens() bool { return s.Does == Tighten || s.Does == Turn }

// All lists everything that is read at a step, in order: the one reading of its own
// first.
func (s Step) All() []Read {
	if s.Limit == nil {
		return s.Reads
	}
	return append([]Read{{Limit: s.Limit, Places: s.Places, Spots: s.Spots}}, s.Reads...)
}

// IsRead reports whether something is read at a step.
func (s Step) IsRead() bool { return s.Limit != nil || len(s.Reads) > 0 }

// Works reports whether whoever does a step has had a hand in the joint: they
// do not check it afterwards. Whoever looks, holds against the paper or measures
// has not.
func (s Step) Works() bool {
	switch s.Does {
	case Check, Match, Measure, Wait, Sign:
		return false
	}
	return true
}

// Conditions reports whether the pulls after a step rest on it: what they were
// lubricated with or kept free of, and how the parts were put together.
func (s Step) Conditions() bool { return s.Does == Lubricate || s.Does == KeepDry || s.Does == Place }

// Some is which bolts of a group a step takes.
type Some string

// The parts of a group.
const (
	Whole      Some = ""
	Quarters   Some = "four at 90°"
	Rest       Some = "all but the four"
	FirstHalf  Some = "every other bolt"
	SecondHalf Some = "the bolts between"
)

// Somes lists the parts of a group.
func Somes() []Some { return []Some{Whole, Quarters, Rest, FirstHalf, SecondHalf} }

// Halves reports whether it is one of two halves.
func (s Some) Halves() bool { return s == FirstHalf || s == SecondHalf }

// Is reports whether w names any choice and is met.
func (w When) Is(choices map[string]string) bool { return len(w) > 0 && w.Holds(choices) }

// Holds reports whether w is met by choices.
func (w When) Holds(choices map[string]string) bool {
	for name, option := range w {
		if choices[name] == option {
			continue
		}
		if !strings.Contains(option, or) || !slices.Contains(w.Options(name), choices[name]) {
			return false
		}
	}
	return true
}

// or stands between options.
const or = " or "

// Options lists the options of a choice that w names.
func (w When) Options(choice string) []string { return strings.Split(w[choice], or) }

// Step returns the step of that id.
func (r Recipe) Step(id string) (s Step, ok bool) {
	for _, s := range r.Steps {
		if s.ID == id {
			return s, true
		}
	}
	return Step{}, false
}

// Group returns the group of that name, an empty one where there is none.
func (r Recipe) Group(name string) (g Group, ok bool) {
	for _, g := range r.Groups {
		if g.Name == name {
			return g, true
		}
	}
	return Group{}, false
}

// The bounds of a recipe.
const (
	MostBolts    = 200
	MostChoices  = 6
	MostVariants = 256
)
