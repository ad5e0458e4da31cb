package joint

import (
	"math"
	"slices"

	"dynacor/core/derive"
	"dynacor/core/preload"
	"dynacor/core/recipe"
	"dynacor/core/unit"
)

// ValueKey is the key of a value that a rule works out, among the numbers of the
// rule's group.
func ValueKey(need string) string { return "value/" + need }

// ruled says where the values are from that rules work out.
func (l *derivations) ruled(c *computing) error {
	for i := range c.out.Values {
		v := &c.out.Values[i]
		r := v.Need.Rule
		if r == nil || v.Given.IsZero() {
			continue
		}
		g := c.named(r.Group)
		if g == nil {
			continue // its thread is asked for
		}
		x := &deriving{c: c, g: g, list: l}
		if err := x.bolt(); err != nil {
			return err
		}
		if !r.Name.Turns() {
			if err := x.step(ValueKey(v.Need.Name), r); err != nil {
				return err
			}
			continue
		}
		long, err := c.length(r.Length)
		if err != nil {
			return err
		}
		d := is(x.t.Diameter, g.Thread)
		if r.Name == recipe.SecondTurn {
			x.add(ValueKey(v.Need.Name), formSecondTurn, "", is(long, asEntered), d)
			continue
		}
		x.add(ValueKey(v.Need.Name), formPartTurn, "", is(long, asEntered), d, is(float64(c.sloped(r)), "as it is chosen"))
	}
	return nil
}

// has reports whether a number of a group is there already.
func (l *derivations) has(of, key string) bool {
	for i := range l.at {
		if l.at[i].Of == of && l.at[i].Key == key {
			return true
		}
	}
	return false
}

// sloped is how many faces are sloped; -1 where that is not chosen.
func (c *computing) sloped(r *recipe.Rule) int {
	i := slices.IndexFunc(c.r.Choices, func(x recipe.Choice) bool { return x.Name == r.Faces })
	return slices.Index(c.r.Choices[i].Options, c.in.Choices[r.Faces])
}

// step says where a torque of a lot is from.
func (x *deriving) step(key string, r *recipe.Rule) error {
	k, _, err := x.c.lot(r)
	if err != nil {
		return err
	}
	load, err := preload.Pretension(x.t, x.s.Tensile)
	if err != nil {
		return err
	}
	x.add(key, formStep, "", is(shareOfStep(r.Name), "EN 1090-2"),
		derive.Input{Value: k.Nominal, Uncertain: k.Spread(), From: k.Source}, is(x.t.Diameter, x.g.Thread), by(load, "aimed"))
	if !x.list.has(x.g.Name, "aimed") {
		x.add("aimed", formPretension, "", is(x.s.Tensile, x.g.Grade), is(x.t.StressArea(), x.g.Thread))
	}
	return nil
}

// shareOfStep is the share of M that a rule takes.
func shareOfStep(r recipe.RuleName) float64 {
	switch r {
	case recipe.FirstStep:
		return preload.FirstStep
	case recipe.SecondStep:
		return preload.SecondStep
	}
	return auditShare
}

// The turns of structural bolting go in steps, by published tables.
var (
	formPartTurn = &derive.Formula{Name: "Part turn from snug", Sign: "θ", Unit: "°",
		Text:    "60°·(2 + {s}) where {L} ≤ 4·{d}, 60°·(3 + {s}) to 8·{d}, 60°·(4 + {s}) to 12·{d}",
		Source:  "RCSC table 8.2",
		Valid:   "To 60° more, never less; sloped is not more than 1:20, without a bevel washer. Longer: tested on the job.",
		Symbols: []derive.Symbol{sym("L", "length of the bolt", "mm"), symD, sym("s", "faces that are sloped", "")},
		Of: func(x []float64) float64 {
			switch {
			case unit.AtMost(x[0], 4*x[1]):
				return 60 * (2 + x[2])
			case unit.AtMost(x[0], 8*x[1]):
				return 60 * (3 + x[2])
			}
			return 60 * (4 + x[2])
		}}
	formSecondTurn = &derive.Formula{Name: "Turn of the second step", Sign: "θ", Unit: "°",
		Text:   "60° where {t} < 2·{d}, 90° below 6·{d}, 120° to 10·{d}",
		Source: "EN 1090-2 table 21", Valid: "After the first step's torque; square faces alone. A longer grip: tested on the job.",
		Symbols: []derive.Symbol{sym("t", "grip", "mm"), symD},
		Of: func(x []float64) float64 {
			switch {
			case !unit.AtLeast(x[0], 2*x[1]):
				return 60
			case !unit.AtLeast(x[0], 6*x[1]):
				return 90
			}
			return 120
		}}
)

// formBreakout is that of the package loosen, K in place of its two coefficients.
var formBreakout = &derive.Formula{Name: "Torque at which it lets go", Sign: "T'", Unit: "N·m",
	Text:   "({T} − {Tp})·{φ}·max({a}·({K}·{d} − {P}/(2π)) − {P}/(2π), 0)/({K}·{d}) + {Tp}",
	Source: "VDI 2230 for what undoing takes; the factor for age is a starting value of ours",
	Valid:  "Threads that are not galled or seized. Past the range: stop and look.",
	Symbols: []derive.Symbol{sym("T", "torque it was brought to", "N·m"), symTp, sym("φ", "share of its load that it kept", ""),
		sym("a", "friction since grown by, of age", ""), symK, symD, symP},
	Of: func(x []float64) float64 {
		pitch := x[6] / (2 * math.Pi)
		return (x[0]-x[1])*x[2]*math.Max(x[3]*(x[4]*x[5]-pitch)-pitch, 0)/(x[4]*x[5]) + x[1]
	}}

// breakout says where the torques are from at which a nut lets go.
func (x *deriving) breakout() error {
	t, err := x.c.threadOf(x.g)
	if err != nil {
		return err
	}
	h, err := x.c.held(x.g, x.b, t)
	if err != nil {
		return err
	}
	for i, end := range h.Ends() {
		x.add(breakoutKeys[i], formBreakout, "", is(h.Torque, "its record"), is(h.Prevailing, "its record"), is(end.Kept, asKept(end.Kept)),
			is(end.Factor, string(h.Age)), is(end.K, h.Lubricant.Name), is(t.Diameter, x.g.Thread), is(t.Pitch, x.g.Thread))
	}
	return nil
}

var breakoutKeys = [...]string{"breakout/low", "breakout/likely", "breakout/high"}

func asKept(share float64) string {
	if share == 1 {
		return "none lost"
	}
	return "what a gasket may have cost it"
}
