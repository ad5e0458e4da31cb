// Package job lays a joint of any kind out by its recipe and folds the entries
// of its run.
//
// The maker's sheet in the recipe gives the values for the type and size on the
// nameplate; a value by hand wins and is said to differ. For each group of bolts
// the package works out the torque on the job's lubrication, the load it
// implies (nut factor, package friction), the stages and the order, and what is
// still open before the plan may be issued. State then says what is next, what
// blocks the signature, and what the record must show first.
package job

import (
	"fmt"
	"strings"

	"dynacor/core/plan"
	"dynacor/core/recipe"
	"dynacor/core/sequence"
	"dynacor/core/unit"
)

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
	Grade        string
	SpecifiedFor string // the condition its torque was written for
	Lubrication  string // on the job
	Decision     plan.Decision
	Rows         int           // of a plate: how many rows; zero: as square as its bolts can lie
	Across, Down unit.Quantity // of a plate: its pitches along a row and between rows
	Stages       string        // the name of a preset of the package pass
	Order        sequence.Pattern
	OnCentre     bool
	Reason       string
}

// Result is a joint laid out.
type Result struct {
	Values     []Value
	Groups     []Group
	Minds      []Mind
	Open       []Open
	Deviations []string // what the record shows first, from the plan
}

// Value is a need of this variant with what is given for it.
type Value struct {
	Need  recipe.Need
	Given Given
	Sheet Given // the sheet's, empty where it has none
	Hand  bool  // entered by hand
}

// Group is a group of this variant. Loads are in N, torques in N·m; they are
// zero where no torque is given, or no thread.
type Group struct {
	recipe.Group
	Count        int
	Thread       string
	Grade        string
	SpecifiedFor string
	Lubrication  string
	Short        string // of the lubrication, in a word or two
	OnCentre     bool
	Grid         recipe.Grid // of a plate
	Torque       float64
	TorqueMin    float64
	TorqueMax    float64
	Equivalent   float64 // of the written torque on the job's lubrication; 0 where they agree
	Load         float64
	LikelyLow    float64
	LikelyHigh   float64
	Limit        float64 // at which the bolt yields while it is turned
	Utilisation  float64
	Stages       []float64 // percent
	Torques      []float64 // of each stage
	Pattern      sequence.Pattern
	Order        []int
}

// Mind is something to keep in mind about a group, or about the joint. Offer,
// where it is set, is a decision that would settle it.
type Mind struct {
	Group string
	Text  string
	Offer string
	Take  plan.Decision
}

// Open is what keeps a plan from being issued.
type Open struct{ Field, Text string }
