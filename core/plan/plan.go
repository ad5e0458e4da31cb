// Package plan works out one bolted ring joint from what is known of it: the
// torque, the load it gives with its likely band, the limits either side, the
// passes and the order.
//
// It puts together the packages thread, friction, preload, pass and sequence;
// their docs hold the formulas. A plan supports and does not replace the
// maker's instructions: a maker's value always wins over a computed one.
package plan

import (
	"dynacor/core/friction"
	"dynacor/core/preload"
	"dynacor/core/sequence"
	"dynacor/core/thread"
	"dynacor/core/unit"
)

// Version names the rules of this core. An issued plan keeps it, so that a
// later core can tell by which rules it was made.
const Version = "2"

// Gasket is what lies between the faces. SeatingStress may be left out; the
// kind's starting value is then used.
type Gasket struct {
	Kind          string
	Outer, Inner  unit.Quantity
	SeatingStress unit.Quantity
}

// GasketKind is a family of gaskets. SeatingStress (MPa) is a starting value,
// which the gasket maker's sheet replaces.
type GasketKind struct {
	Name          string
	SeatingStress float64
	Crushable     bool // first pass at most 30 %
	Soft          bool // first pass above 20 % wants a warning
}

// GasketKinds lists the families.
func GasketKinds() []GasketKind {
	return []GasketKind{
		{"spiral gasket", 60, true, false},
		{"fibre sheet gasket", 25, true, true},
		{"soft rubber gasket", 4, true, true},
		{"ring joint gasket", 120, false, false},
	}
}

// Target says where the torque comes from.
type Target struct {
	Mode   Mode
	Torque unit.Quantity // specified: the value, or the lower end of a range
	Max    unit.Quantity // specified: the upper end of a range, else empty
	Share  float64       // share of strength, a fraction
	Of     Basis
}

// Mode is the way a target is given.
type Mode string

// Basis is the strength a share is taken of.
type Basis string

// The ways and bases.
const (
	Specified Mode  = "specified"
	Share     Mode  = "share"
	OfYield   Basis = "yield"
	OfProof   Basis = "proof"
)

// Decision says what to do where the lubrication on the job is not the one
// the torque was specified for.
type Decision string

// The decisions; Undecided blocks issue when one is needed.
const (
	Undecided      Decision = ""
	KeepTorque     Decision = "keep"
	TakeEquivalent Decision = "equivalent"
)

// Input is the joint in one sentence.
type Input struct {
	Bolts        int
	Thread       string
	Fastening    string // "stud, two nuts", "bolt and nut", "screw"
	Grade        string
	BoltCircle   unit.Quantity
	Gasket       Gasket
	SpecifiedFor string // lubrication the torque was written for
	Lubrication  string // lubrication on the job
	Decision     Decision
	Target       Target
	Prevailing   unit.Quantity // of the nut; empty for none
	Shares       []float64     // passes, percent
	Order        sequence.Pattern
	Start        int
	OnCentre     bool // a bolt stands at top centre
	GapLimit     unit.Quantity
	ToolAccuracy float64          // expected of the wrench, fraction
	Own          friction.Library // figures of one's own; they win over the general ones
}

// Fastenings lists how a ring can be bolted.
func Fastenings() []string { return []string{"stud, two nuts", "bolt and nut", "screw"} }

// Pass is one stage of the plan at its exact torque, N·m. Shown is what to
// show before a tool is chosen, rounded to the plan's graduation.
type Pass struct {
	Number int
	Share  float64 // percent
	Torque float64
	Shown  float64
}

// Check is one comparison with a limit.
type Check = preload.Check

// Mind is something to keep in mind, in plain words. Offer, when it is set,
// is a decision that would settle it.
type Mind struct {
	Code  string
	Text  string
	Offer string
	Take  Decision
}

// Result is a joint worked out. Loads are in N, torques in N·m.
type Result struct {
	Thread      thread.Thread
	Strength    thread.Strength
	Lubricant   friction.Lubricant
	Torque      float64 // the target
	TorqueMin   float64 // of a specified range as it applies on the job, else Torque
	TorqueMax   float64
	Equivalent  float64 // what the specified torque becomes on the job's lubrication; 0 when they agree
	Load        float64
	Band        friction.Band
	Accuracy    float64 // of the wrench, that the band is worked out with
	LikelyLow   float64
	LikelyHigh  float64
	Needed      float64 // to seat the gasket
	Limit       float64 // at which the bolt reaches its yield while it is turned
	Utilisation float64
	Coefficient float64 // the one µ that K amounts to
	Passes      []Pass
	Order       []int
	CheckOrder  []int
	GapLimit    float64 // mm
	GapDiameter float64 // mm, the circle the gap is judged over
	Checks      []Check
	Minds       []Mind
	Undecided   bool // a decision is needed before it can be issued
}

// Starting returns the sentence a joint begins with before anyone has laid it
// out.
func Starting() Input {
	mm := func(v float64) unit.Quantity { return unit.Of(v, unit.Millimetre) }
	return Input{
		Bolts: 8, Thread: "M20", Fastening: "stud, two nuts", Grade: "8.8", BoltCircle: mm(240),
		Gasket:       Gasket{Kind: "fibre sheet gasket", Outer: mm(205), Inner: mm(160)},
		SpecifiedFor: "light oil", Lubrication: "light oil",
		Target: Target{Mode: Specified, Torque: unit.Of(260, unit.NewtonMetre), Of: OfYield, Share: 0.5},
		Shares: []float64{20, 60, 100}, Order: sequence.Cross4, Start: 1,
		GapLimit: mm(0.8), ToolAccuracy: 0.04,
	}
}

// Cautions lists what must be so before a wrench touches a gasketed flange.
// They support and do not replace the site's permits.
func Cautions() []string {
	return []string{
		"Isolated, locked out, drained, and zero pressure proven. The permit is at the joint.",
		"Faces cleaned without abrasive, gasket new and centred, threads run free by hand.",
		"The lubricant of the plan on threads and nut faces, and nowhere else; dry where the plan says dry.",
		"Hands out of the pinch and reaction zone. Nobody in line with a stud. Gloves, eyes, footing.",
	}
}
