package joint

import (
	"fmt"

	"dynacor/core/derive"
	"dynacor/core/preload"
	"dynacor/core/refusal"
	"dynacor/core/thread"
	"dynacor/core/tool"
	"dynacor/core/unit"
)

// Drawn is what a group that is drawn by tensioners is drawn to.
type Drawn struct {
	Load    float64 // that stays in a stud, N
	Length  float64 // that is clamped, mm
	Lost    float64 // share of its load that the first half loses to the second, a fraction
	Halves  bool    // every other bolt is drawn first
	Yield   float64 // of the stud, MPa
	Modulus float64 // MPa
}

// tension takes the load that stays, and holds what the stud sees meanwhile against its
// yield: that does not depend on whose ram draws it.
func (c *computing) tension(g *Group) error {
	x := g.Tension
	g.Drawn.Halves = x.Halves.Is(c.in.Choices)
	g.Stages = []float64{100}
	for _, v := range []struct {
		need string
		u    unit.Unit
		to   *float64
	}{{g.Value, unit.Newton, &g.Drawn.Load}, {x.Length, unit.Millimetre, &g.Drawn.Length}, {x.Lost, "", &g.Drawn.Lost}} {
		given := c.out.Value(v.need)
		if given.IsZero() {
			continue // asked for as every need is
		}
		if *v.to = given.Aim().Value; v.u != "" {
			at, err := given.Aim().In(v.u)
			if err != nil {
				return refusal.At("values."+v.need, err)
			}
			*v.to = at
		}
	}
	if g.Drawn.Lost /= 100; g.Drawn.Halves {
		g.Stages = []float64{100 / (1 - g.Drawn.Lost), 100}
		if g.Drawn.Lost <= 0 { // both halves alike: they are told apart all the same
			g.Stages[0] = 100 + 1e-6
		}
	}
	if g.Thread == "" || g.Grade == "" {
		c.open("groups."+g.Name+".thread", "The %s are drawn: thread and grade must be known.", g.Name)
		return nil
	}
	t, s, err := c.bolt(g)
	if err != nil {
		return err
	}
	g.AcrossFlats = t.Flats(t.HeadOf(g.Grade))
	g.Drawn.Yield, g.Drawn.Modulus = s.Yield, preload.CarbonSteel
	if thread.Stainless(g.Grade) {
		g.Drawn.Modulus = preload.StainlessSteel
	}
	if g.Drawn.Load == 0 || g.Drawn.Length == 0 {
		return nil
	}
	h, err := tool.TensionHalves(t, g.Drawn.Load, g.Drawn.Length, 1, s.Yield, g.lost())
	if err != nil {
		return refusal.At("values."+g.Value, err)
	}
	g.Checks = []preload.Check{preload.AtMost("Below 95 % of yield while it is drawn", h.First.StressShare, tool.MostTension, "")}
	if !h.First.Holds {
		return refusal.Number(refusal.TooLarge, "values."+g.Value, h.First.StressShare, tool.MostTension, "",
			fmt.Sprintf("Drawn, the %s are at %.0f %% of their yield; they must stay below 95 %%.", g.Name, 100*h.First.StressShare),
			"Give a smaller load, or a stronger stud.")
	}
	return nil
}

// lost is the share that the first half loses, where there are halves.
func (g *Group) lost() float64 {
	if g.Drawn.Halves {
		return g.Drawn.Lost
	}
	return 0
}

// Draft is what a group asks of a tensioner.
func (g Group) Draft() (tool.Draft, error) {
	t, err := thread.Parse(g.Thread)
	d := g.Drawn
	return tool.Draft{Thread: t, Load: d.Load, Length: d.Length, Yield: d.Yield, Modulus: d.Modulus, Halves: d.Halves, Lost: d.Lost},
		refusal.At("groups."+g.Name+".thread", err)
}

var (
	formFactor = &derive.Formula{Name: "Load loss factor", Sign: "LLF", Text: "1.01 + {d}/{L}", Source: "ASME PCC-1",
		Valid: "The nut run down firmly by hand while the stud is drawn.", Symbols: []derive.Symbol{symD, symLen},
		Of: func(x []float64) float64 { return 1.01 + x[0]/x[1] }}
	formApplied = &derive.Formula{Name: "Load while it is drawn", Sign: "Fa", Unit: "N", Text: "{F}·{LLF}/(1 − {x})", Source: "ASME PCC-1",
		Valid: "Part of it is lost as the nut takes over, part of the first half's to the second.",
		Symbols: []derive.Symbol{symF, sym("LLF", "load loss factor", ""),
			sym("x", "share that is lost to the second half, a fraction", "")},
		Of: func(x []float64) float64 { return x[0] * x[1] / (1 - x[2]) }}
	formDrawnShare = &derive.Formula{Name: "Share of yield while it is drawn", Sign: "u", Text: "{Fa}/({As}·{Re})", Source: "ASME PCC-1",
		Valid: "It must stay below 0.95.", Symbols: []derive.Symbol{sym("Fa", "load while it is drawn", "N"), symAs, symRe},
		Of: func(x []float64) float64 { return x[0] / (x[1] * x[2]) }}
)

// tensioned says where the loads of a group that is drawn are from: "factor", "applied/1",
// "drawnShare/1".
func (x *deriving) tensioned() {
	g := x.g
	d := g.Drawn
	if d.Load == 0 || d.Length == 0 || x.s.Yield == 0 {
		return
	}
	x.add("factor", formFactor, "", is(x.t.Diameter, g.Thread), is(d.Length, asEntered))
	factor := x.list.at[len(x.list.at)-1].Result()
	lost := []float64{0}
	if d.Halves {
		lost = []float64{d.Lost, 0}
	}
	for i, share := range lost {
		applied := appliedKeys[i]
		x.add(applied, formApplied, "", is(d.Load, asEntered), by(factor, "factor"), is(share, asEntered))
		load := x.list.at[len(x.list.at)-1].Result()
		x.add(drawnKeys[i], formDrawnShare, "", by(load, applied), is(x.t.StressArea(), g.Thread), is(d.Yield, g.Grade))
	}
}

var (
	appliedKeys = [...]string{"applied/1", "applied/2"}
	drawnKeys   = [...]string{"drawnShare/1", "drawnShare/2"}
)
