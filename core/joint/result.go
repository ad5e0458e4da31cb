package joint

import (
	"fmt"
	"slices"
	"strings"

	"dynacor/core/friction"
	"dynacor/core/loosen"
	"dynacor/core/preload"
	"dynacor/core/recipe"
	"dynacor/core/sequence"
	"dynacor/core/uncertainty"
	"dynacor/core/unit"
)

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
	Usual Given // what is counted with where nothing is given; empty where that is nothing
	Hand  bool  // entered by hand

	Worked string // how a rule worked it out, with its source; empty where it is given
}

// Words says what is given, or what a rule comes to, to four digits.
func (v Value) Words() string {
	if v.Worked != "" {
		if v.Given.Value.Unit == unit.Degree {
			return fmt.Sprintf("%.4g°", v.Given.Value.Value)
		}
		return fmt.Sprintf("%.4g %s", v.Given.Value.Value, v.Given.Value.Unit)
	}
	return strings.TrimSpace(v.Given.String() + " " + v.Need.Word)
}

// Group is a group of this variant. Loads are in N, torques in N·m, lengths in
// mm; they are zero where no torque is given, or no thread.
type Group struct {
	recipe.Group
	Count        int
	Thread       string
	AcrossFlats  float64 // mm
	Grade        string
	SpecifiedFor string
	Lubrication  string
	Short        string // of the lubrication, in a word or two
	IsDry        bool   // nothing is put on thread and face on the job
	OnCentre     bool
	Start        int         // of a ring: the bolt that comes first
	Lie          recipe.Grid // of a plate
	Diameter     float64     // of the bolt circle, mm; 0 where it is not known
	GasketOuter  float64     // mm; 0 where it is not known
	GasketInner  float64     // mm
	Torque       float64     // aimed at
	TorqueMin    float64
	TorqueMax    float64
	Equivalent   float64 // of the written torque on the job's lubrication; 0 where they agree
	Aim          Aim     // what the torque was worked out from; empty where it is given
	Share        float64 // of its strength, where the torque was worked out from it; a fraction
	ShareOf      Basis
	Base         string             // of a chart: the softer part
	Derate       float64            // of a chart: the share it takes, a fraction
	Breakout     loosen.Breakout    // at which they are expected to let go, N·m; zero where that is not known
	Springs      preload.Compliance // of bolt and parts, mm/N; zero where the clamped length is not known
	FromSnug     float64            // turn that gives the load, degrees; zero where it is not known
	Stretch      float64            // of the bolt under the load, mm
	Prevailing   float64            // of the nut, N·m
	Load         float64
	K            friction.Lubricant // the nut factors that were counted with
	Coefficient  float64            // the one µ that K amounts to
	Accuracy     float64            // of the wrench, that the band is worked out with; a fraction
	LikelyLow    float64
	LikelyHigh   float64
	WorstLow     float64
	WorstHigh    float64
	Needed       float64 // the least it must be, for the gasket or by rule; 0 where nothing is known to ask for it
	Limit        float64 // at which the bolt yields while it is turned
	Utilisation  float64
	Checks       []preload.Check
	Window       []preload.Check // of a gasket: what bounds the load, N a bolt
	Stays        []preload.Check // what becomes of the load afterwards
	Stages       []float64       // percent; empty where it is not brought up in stages
	Torques      []float64       // of each stage
	Strokes      []float64       // degrees that each bolt is turned by, in order
	Drawn        Drawn           // of one that is drawn by tensioners
	Pattern      sequence.Pattern
	Order        []int
	Rounds       []int // the order in which it is gone round
}

// Budget is what the likely band of a group's load is made of: what is not known of
// its nut factor, and of the wrench (relative, expanded). Zero where no load is
// worked out.
func (g Group) Budget() uncertainty.Budget {
	if g.Load == 0 {
		return uncertainty.Budget{}
	}
	b, err := uncertainty.Of([]uncertainty.Part{{Name: "nut factor", Kind: uncertainty.Expanded, Value: g.K.Spread(), C: 1},
		{Name: "wrench", Kind: uncertainty.Expanded, Value: g.Accuracy, C: 1}})
	if err != nil {
		return uncertainty.Budget{} // a plan of figures that are refused today
	}
	return b
}

// Mind is something to keep in mind about a group, or about the joint. Offer,
// where it is set, is a decision that would settle it.
type Mind struct {
	Group string
	Text  string
	Offer string
	Take  Decision
}

// Open is what keeps a plan from being issued.
type Open struct{ Field, Text string }

// Group returns the group of that name.
func (r Result) Group(name string) (Group, bool) {
	i := slices.IndexFunc(r.Groups, func(g Group) bool { return g.Name == name })
	if i < 0 {
		return Group{}, false
	}
	return r.Groups[i], true
}

// Value returns what is given for a need.
func (r Result) Value(need string) Given {
	for i := range r.Values {
		if r.Values[i].Need.Name == need {
			return r.Values[i].Given
		}
	}
	return Given{}
}

// Aims are what the needs of the joint come to, by name.
func (r Result) Aims() map[string]unit.Quantity {
	out := map[string]unit.Quantity{}
	for _, v := range r.Values {
		if !v.Given.IsZero() {
			out[v.Need.Name] = v.Given.Aim()
		}
	}
	return out
}

// With gives a result that was stored the data of its recipe back: what its
// groups and needs are, beside what was worked out for them.
func (r Result) With(of recipe.Recipe) Result {
	r.Groups, r.Values = slices.Clone(r.Groups), slices.Clone(r.Values)
	for i := range r.Groups {
		r.Groups[i].Group, _ = of.Group(r.Groups[i].Name)
	}
	for i, v := range r.Values {
		for _, n := range of.Needs {
			if n.Name == v.Need.Name {
				r.Values[i].Need = n
			}
		}
	}
	return r
}

// Own lists the groups that have bolts of their own; the others work on those.
func (r Result) Own() []Group {
	return slices.DeleteFunc(slices.Clone(r.Groups), func(g Group) bool { return g.Of != "" })
}
