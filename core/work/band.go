package work

import (
	"dynacor/core/joint"
	"dynacor/core/record"
	"dynacor/core/uncertainty"
)

// Band is the load of a group's bolts as the tool that was taken gives it, N: what the
// setting lands on, and between what it is likely to lie.
type Band struct {
	Load, Low, High float64
	Budget          uncertainty.Budget // relative: K, wrench, multiplier, resolution of the scale
}

// BandOf returns the band of a stage in full; ok is false where no load is worked out.
// The parts add as the root sum of their squares (GUM), never past the worst case of K
// and tool.
func BandOf(g joint.Group, t record.StageTool) (b Band, ok bool) {
	if g.Load == 0 || g.Torque <= g.Prevailing || t.Setting.Value <= 0 {
		return b, false
	}
	parts := []uncertainty.Part{{Name: "nut factor", Kind: uncertainty.Expanded, Value: g.K.Spread(), C: 1},
		{Name: "wrench", Kind: uncertainty.Expanded, Value: t.Wrench(), C: 1},
		{Name: "resolution", Kind: uncertainty.Rectangular, Value: t.Minor / 2 / t.Setting.Value, C: 1}}
	if t.Multiplier > 0 {
		parts = append(parts, uncertainty.Part{Name: "multiplier", Kind: uncertainty.Expanded, Value: t.Multiplier, C: 1})
	}
	budget, err := uncertainty.Of(parts)
	if err != nil {
		return b, false
	}
	b.Budget = budget
	b.Load = g.Load * (t.Lands - g.Prevailing) / (g.Torque - g.Prevailing)
	u, tool, k := budget.Expanded, t.Accuracy+t.Minor/2/t.Setting.Value, g.K.Spread()
	b.Low = b.Load * max(1-u, (1-tool)/(1+k))
	b.High = b.Load * (1 + u)
	if k < 1 {
		b.High = min(b.High, b.Load*(1+tool)/(1-k))
	}
	return b, true
}
