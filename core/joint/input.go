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

	"dynacor/core/friction"
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
	Values  map[string]Given // by need; they win over the sheet
	Groups  map[string]Bolts // by group
	MadeAt  time.Time        // when it was made, by its signed record; zero where none says so
	Own     friction.Library // figures of one's own; they win over the general ones
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
	Share        float64       // of its strength, a fraction: the torque is worked out; 0: the torque is given
	ShareOf      Basis         // the strength that share is taken of
	Prevailing   unit.Quantity // torque that the nut takes for itself; empty for none
	Rows         int           // of a plate: how many rows; zero: as square as its bolts can lie
	Across, Down unit.Quantity // of a plate: its pitches along a row and between rows
	Stages       string        // the name of a preset of the package pass
	Order        sequence.Pattern
	Start        int // of a ring: the bolt that comes first; zero: bolt 1
	OnCentre     bool
	Reason       string
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
