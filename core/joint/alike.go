package joint

import (
	"fmt"
	"slices"

	"dynacor/core/preload"
	"dynacor/core/recipe"
	"dynacor/core/thread"
)

// Same is a group's target said another way.
type Same struct {
	Aim   Aim
	Words string
	Key   string // of the number's derivation; empty where it has none
}

// Alike says the target of a group in the other ways that are known of it: as a torque,
// a share of its strength, a stress on the gasket, a turn, a stretch. Nil where no load
// is worked out.
func Alike(in Input, r recipe.Recipe, res Result, group string) []Same {
	c := &computing{in: in, r: r, out: res}
	g := c.named(group)
	if g == nil || g.Load == 0 {
		return nil
	}
	out := []Same{{AsGiven, fmt.Sprintf("%.4g N·m", g.Torque), "torque"}}
	add := func(aim Aim, key, format string, args ...any) {
		out = append(out, Same{aim, fmt.Sprintf(format, args...), key})
	}
	add("", "load", "%.4g kN", g.Load/1000)
	if g.Grade != "" {
		copied := *g
		t, s, err := c.bolt(&copied)
		if err != nil {
			return out
		}
		area := t.StressArea()
		add(ByShare, "", "%.3g %% of yield", 100*g.Load/(s.Yield*area))
		if s.HasProof() {
			add(ByShare, "", "%.3g %% of proof", 100*g.Load/(s.Proof*area))
		}
		if p, err := preload.Pretension(t, s.Tensile); err == nil && (thread.Structural(g.Grade) || g.Aim == ByPretension) {
			add(ByPretension, "", "%.3g of a structural pretension", g.Load/p)
		}
	}
	if g.Gasket != nil && g.GasketOuter > g.GasketInner && g.GasketInner > 0 {
		b := preload.Balance{Bolts: g.Count, Outside: g.GasketOuter, Inside: g.GasketInner}
		if t, err := c.threadOf(g); err == nil && c.fullFace(g) {
			b.Hole = t.FlangeHole()
		}
		if area, err := b.Area(); err == nil {
			add(ByGasket, "", "%.3g MPa on the gasket", g.Load*float64(g.Count)/area)
		}
	}
	if g.FromSnug > 0 {
		add(ByTurn, "fromSnug", "%.3g° from snug", g.FromSnug)
		add(ByStretch, "stretch", "%.3g mm longer", g.Stretch)
		if i := slices.IndexFunc(g.Stays, func(x preload.Check) bool { return x.Key == StayWarm }); i >= 0 {
			add(ByService, "stay/"+StayWarm, "%.4g kN in service", g.Stays[i].Value/1000)
		}
	}
	return out
}
