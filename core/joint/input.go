// Package joint lays one joint out by its recipe: from what is known of it to
// what its bolts are pulled to, and the load that gives.
//
// The maker's sheet in the recipe gives the values for the type and size on the
// nameplate; a value by hand wins and is said to differ. For each group of bolts
// the package works out the torque on the job's lubrication, the load it implies
// (nut factor, packages friction and preload), what that load must do (seat a
// gasket, stay below yield), the stages and the order, and what is still open
// before the plan may be issued. Loads are in N, torques in N·m, lengths in mm.
// A plan supports and does not replace the maker's instructions: a maker's value
// always wins over a computed one.
package joint

import (
	"fmt"
	"strings"
	"time"

	"dynacor/core/bench"
	"dynacor/core/friction"
	"dynacor/core/preload"
	"dynacor/core/sequence"
	"dynacor/core/unit"
)

// Version names the rules of this core. An issued plan keeps it, so that a
// later core can tell by which rules it was made.
const Version = "4"

// Input is what is known of a joint: what its nameplate says, which variant of
// its recipe it is, the values that are not the sheet's, and its bolts.
type Input struct {
	Recipe  string // its id
	Edition int
	Type    string
	Size    string
	Choices map[string]string
	Values  map[string]Given    // by need; they win over the sheet
	Groups  map[string]Bolts    // by group
	MadeAt  time.Time           // when it was made, by its signed record; zero where none says so
	Own     friction.Library    // figures of one's own; they win over the general ones
	Gaskets []preload.OwnGasket // by their makers' sheets, as they are used by name
	Reasons map[string]string   // the engineer's, for rows that do not hold, by group and row: "bolts/seats"
}

// Given is a value, or a range from Value to Max.
type Given struct{ Value, Max unit.Quantity }

// IsZero reports whether nothing is given.
func (g Given) IsZero() bool { return g.Value.IsZero() }

// Aim returns what is aimed at: the value, or the middle of its range.
func (g Given) Aim() unit.Quantity {
	if g.Max.IsZero() {
		return g.Value
	}
	high, err := g.Max.In(g.Value.Unit)
	if g.Value.Unit == g.Max.Unit {
		high, err = g.Max.Value, nil
	}
	if err != nil {
		return g.Value
	}
	return unit.Of((g.Value.Value+high)/2, g.Value.Unit)
}

func (g Given) String() string {
	if g.Max.IsZero() {
		return strings.TrimSpace(g.Value.String())
	}
	return strings.TrimSpace(fmt.Sprintf("%.6g to %s", g.Value.Value, g.Max))
}

// Bolts is what is known of one group. What is empty is the sheet's or the
// recipe's. Reason says why the order is against the kind or why the bolts are
// not left as the recipe has them.
type Bolts struct {
	Count        int
	Thread       string
	Grade        string // ByCertificate: the certificate's
	Certificate  Certificate
	SpecifiedFor string // the condition its torque was written for
	Lubrication  string // on the job
	Decision     Decision
	Aim          Aim           // what the torque is worked out from; empty: it is given, or Share is
	Share        float64       // of its strength, a fraction: the torque is worked out; 0: the torque is given
	ShareOf      Basis         // the strength that share is taken of
	Base         string        // of a chart: the softer of what the thread engages and the head bears on
	Derate       float64       // of a chart: the share that base takes, a fraction; 0: as listed
	Turn         unit.Quantity // from snug, where that is aimed at
	Stretch      unit.Quantity // of the bolt, where that is aimed at
	Service      unit.Quantity // load of a bolt at its temperature in service, where that is aimed at
	Gasket       string        // one of the joint's own, by name; empty: its family's figures
	Held         Held          // what they were last brought to, where they are undone
	Clamp        Clamp
	Stay         Stay
	Prevailing   unit.Quantity // torque that the nut takes for itself; empty for none
	Rows         int           // of a plate: how many rows; zero: as square as its bolts can lie
	Across, Down unit.Quantity // of a plate: its pitches along a row and between rows
	Stages       string        // the name of a preset of the package pass
	Order        sequence.Pattern
	Start        int // of a ring: the bolt that comes first; zero: bolt 1
	OnCentre     bool
	Reason       string
	Compared     *bench.Kept // the ways that were tried when one was taken; nil where none was
}

// Aim is where the target comes from. An aim that is worked out gives the load, and
// the torque follows from it; a maker's torque wins over each.
type Aim string

// The aims.
const (
	AsGiven      Aim = ""           // the maker's torque, or its range
	ByShare      Aim = "share"      // of proof or yield
	ByChart      Aim = "chart"      // by size and base: a share of proof, times the derate of the softer part
	ByGasket     Aim = "gasket"     // the stress to aim at on it, held between the limits of bolts and flange
	ByPretension Aim = "pretension" // 0.7·fub·As of structural bolting
	ByTurn       Aim = "turn"       // from snug
	ByStretch    Aim = "stretch"    // of the bolt
	ByService    Aim = "service"    // the load that is there at the temperature in service
)

// Aims lists the aims.
func Aims() []Aim {
	return []Aim{AsGiven, ByShare, ByChart, ByGasket, ByPretension, ByTurn, ByStretch, ByService}
}

// aim is what the torque of b is worked out from: a share where one is given and
// nothing else is said.
func (b *Bolts) aim() Aim {
	if b.Aim == AsGiven && b.Share != 0 {
		return ByShare
	}
	return b.Aim
}

// Clamp is a bolt in its parts: the length between head and nut, or between two nuts,
// that of its plain shank in it, and what the parts are of.
type Clamp struct {
	Length, Shank unit.Quantity
	TwoNuts       bool
	Parts         string // a material of the package stay; empty: steel
}

// Decision says what to do where the lubrication on the job is not the one a
// torque was written for.
type Decision string

// The decisions; Undecided keeps a plan from being issued when one is needed.
const (
	Undecided      Decision = ""
	KeepTorque     Decision = "keep"
	TakeEquivalent Decision = "equivalent"
)

// Basis is the strength a share is taken of.
type Basis string

// The bases.
const (
	OfYield Basis = "yield"
	OfProof Basis = "proof"
)
