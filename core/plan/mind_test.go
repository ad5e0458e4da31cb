package plan_test

import (
	"testing"

	"github.com/stretchr/testify/require"

	"dynacor/core/plan"
	"dynacor/core/sequence"
	"dynacor/core/unit"
)

// What a plan asks to be kept in mind, and that it stays silent otherwise.
func TestMinds(t *testing.T) {
	codes := func(in plan.Input) []string {
		r, err := plan.Compute(in)
		require.NoError(t, err)
		out := []string{}
		for _, m := range r.Minds {
			require.NotEmpty(t, m.Text)
			out = append(out, m.Code)
		}
		return out
	}
	require.Empty(t, codes(plan.Starting()), "a plain flange has nothing special")
	for _, c := range []struct {
		name, code string
		edit       func(*plan.Input)
	}{
		{"another lubricant", "lubrication", func(in *plan.Input) { in.Lubrication = "molybdenum disulphide paste" }},
		{"equivalent taken", "equivalent", func(in *plan.Input) {
			in.Lubrication, in.Decision = "molybdenum disulphide paste", plan.TakeEquivalent
		}},
		{"near yield", "near-yield", func(in *plan.Input) { in.Target.Torque = unit.Of(425, unit.NewtonMetre) }},
		{"may yield", "limit-high", func(in *plan.Input) { in.Target.Torque = unit.Of(425, unit.NewtonMetre) }},
		{"does not seat", "seat", func(in *plan.Input) { in.Target.Torque = unit.Of(100, unit.NewtonMetre) }},
		{"may not seat", "seat-low", func(in *plan.Input) { in.Target.Torque = unit.Of(150, unit.NewtonMetre) }},
		{"computed", "computed", func(in *plan.Input) { in.Target.Mode = plan.Share }},
		{"no proof value", "no-proof", func(in *plan.Input) { in.Target.Mode, in.Target.Of, in.Grade = plan.Share, plan.OfProof, "A4-70" }},
		{"a range", "range", func(in *plan.Input) { in.Target.Max = unit.Of(300, unit.NewtonMetre) }},
		{"hard first pass on a soft gasket", "soft-gasket", func(in *plan.Input) { in.Shares = []float64{30, 60, 100} }},
		{"a hair above 20 % on a soft gasket", "soft-gasket", func(in *plan.Input) { in.Shares = []float64{21, 60, 100} }},
		{"circular", "circular", func(in *plan.Input) { in.Order = sequence.Circular }},
		{"dry", "dry", func(in *plan.Input) {
			in.SpecifiedFor, in.Lubrication = "dry, plain as received", "dry, plain as received"
		}},
	} {
		in := plan.Starting()
		c.edit(&in)
		require.Contains(t, codes(in), c.code, c.name)
	}
}

// The torque that is refused is the one beyond which the bolt yields.
func TestTheRefusedTorqueIsTheLimit(t *testing.T) {
	in := plan.Starting()
	r, err := plan.Compute(in)
	require.NoError(t, err)
	most := r.Torque / r.Utilisation
	in.Target.Torque.Value = most * (1 - 1e-6)
	_, err = plan.Compute(in)
	require.NoError(t, err)
	in.Target.Torque.Value = most * (1 + 1e-6)
	_, err = plan.Compute(in)
	require.ErrorContains(t, err, "reaches its yield")
}

// The same joint in inches and foot-pounds comes to the same answer.
func TestUnitsDoNotChangeTheAnswer(t *testing.T) {
	in := plan.Starting()
	a, err := plan.Compute(in)
	require.NoError(t, err)
	for _, q := range []*unit.Quantity{&in.BoltCircle, &in.Gasket.Outer, &in.Gasket.Inner, &in.GapLimit} {
		*q, err = q.To(unit.Inch)
		require.NoError(t, err)
	}
	in.Target.Torque, err = in.Target.Torque.To(unit.FootPound)
	require.NoError(t, err)
	b, err := plan.Compute(in)
	require.NoError(t, err)
	require.InEpsilon(t, a.Torque, b.Torque, 1e-12)
	require.InEpsilon(t, a.Needed, b.Needed, 1e-12)
	require.InEpsilon(t, a.GapLimit, b.GapLimit, 1e-12)
	require.Equal(t, a.Order, b.Order)
}
