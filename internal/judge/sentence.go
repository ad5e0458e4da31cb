package judge

import (
	"fmt"
	"math"
	"strings"

	"dynacor/core/figure"
	"dynacor/core/joint"
	"dynacor/core/recipe"
	"dynacor/core/unit"
)

// GroupSentence says what a group is pulled to and what that gives: the torque as
// it was written, too, where that is in another unit.
func GroupSentence(res joint.Result, g joint.Group) string {
	what := fmt.Sprintf("%d × %s", g.Count, strings.TrimSpace(g.Thread+" "+g.Grade))
	parts := []string{strings.TrimSuffix(strings.TrimSpace(what), " ×")}
	switch {
	case g.How == recipe.ByTorque && g.TorqueMax > g.TorqueMin:
		parts = append(parts, fmt.Sprintf("to %.5g to %.5g N·m, aiming at %.5g N·m", g.TorqueMin, g.TorqueMax, g.Torque))
	case g.How == recipe.ByTorque && g.Share > 0:
		parts = append(parts, fmt.Sprintf("to %.5g N·m, for %.3g %% of %s", g.Torque, 100*g.Share, g.ShareOf))
	case g.How == recipe.ByTorque:
		parts = append(parts, fmt.Sprintf("to %s%.5g N·m", written(res, g), g.Torque))
	case g.How == recipe.ByTension:
		parts = append(parts, fmt.Sprintf("drawn to leave %.4g kN in each, over %.4g mm clamped", g.Drawn.Load/1000, g.Drawn.Length))
		if g.Drawn.Halves {
			parts = append(parts, fmt.Sprintf("every other bolt first, which loses %.3g %% to the others", 100*g.Drawn.Lost))
		}
	case g.How == recipe.ByTurns:
		parts = append(parts, "by turns, no torque")
	case g.How == recipe.ByHand:
		parts = append(parts, "by hand")
	case g.How == recipe.NotTorqued:
		parts = append(parts, "must not be torqued")
	}
	if g.Short != "" {
		parts = append(parts, g.Short)
	}
	if g.Load > 0 {
		parts = append(parts, fmt.Sprintf("which is %.4g kN a bolt, likely %.4g to %.4g kN", g.Load/1000, g.LikelyLow/1000,
			g.LikelyHigh/1000))
	}
	if g.Needed > 0 {
		parts = append(parts, fmt.Sprintf("at least %.4g kN are asked for", g.Needed/1000))
	}
	return strings.Join(parts, ", ") + "."
}

// written is a group's torque as it was entered, where that is the torque it is
// pulled to and in another unit: "88 ft·lbf, ".
func written(res joint.Result, g joint.Group) string {
	v := res.Value(g.Value)
	if v.IsZero() || v.Value.Unit == unit.NewtonMetre {
		return ""
	}
	if nm, err := v.Value.In(unit.NewtonMetre); err == nil && unit.AtMost(math.Abs(nm-g.Torque), 1e-9*nm) {
		return v.String() + ", "
	}
	return ""
}

// Figure draws a joint of a recipe.
func Figure(r recipe.Recipe, res joint.Result) figure.Figure {
	var groups []figure.Group
	for _, g := range res.Own() {
		x := figure.Group{Name: g.Name, Layout: g.Layout, Bolts: g.Count, OnCentre: g.OnCentre, Holes: g.Holes, Grid: g.Lie}
		if g.Diameter > 0 {
			x.GasketOuter, x.GasketInner = g.GasketOuter/g.Diameter, g.GasketInner/g.Diameter
		}
		groups = append(groups, x)
	}
	return figure.Of(r.Drawing, groups)
}
