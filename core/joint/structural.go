package joint

import (
	"fmt"

	"dynacor/core/friction"
	"dynacor/core/preload"
	"dynacor/core/recipe"
	"dynacor/core/refusal"
	"dynacor/core/thread"
	"dynacor/core/unit"
)

// lotScatter is what the nut factors of one lot differ by at the most, relative and
// 2 sigma, where its test gives one figure: with a variation above 0.06 the test
// fails (EN 14399-1, class K2).
const lotScatter = 0.12

// OfLot is the condition of bolts whose nut factor their own lot's test gives.
const OfLot = "as delivered, by the test of this lot"

// auditShare is the torque that a nut is tried at after the torque method, as a
// share of M (EN 1090-2 section 12.5.2.5).
const auditShare = 1.05

// ruled works a value out by its rule. What it takes and is not given yet is open
// by itself.
func (c *computing) ruled(v *Value) error {
	r := v.Need.Rule
	v.Worked = basis[r.Name]
	if !c.in.Values[v.Need.Name].IsZero() {
		return refusal.New(refusal.Contradicts, "values."+v.Need.Name, fmt.Sprintf("%s is worked out, not given.", v.Need.Text),
			"Give what it is worked out from.")
	}
	b := c.in.Groups[r.Group]
	name, grade := first(b.Thread, c.sheet.Threads[r.Group]), first(b.Grade, c.sheet.Grades[r.Group])
	if name == "" || grade == "" {
		c.open("groups."+r.Group+".thread", "%s follows from thread and grade of the %s.", v.Need.Text, r.Group)
		return nil
	}
	t, err := thread.Parse(name)
	if err != nil {
		return refusal.At("groups."+r.Group+".thread", err)
	}
	if r.Name.Turns() {
		return c.ruledTurn(v, t)
	}
	k, ok, err := c.lot(r)
	if err != nil || !ok {
		return err
	}
	s, err := preload.StepsOf(t, grade, k.Nominal)
	if err != nil {
		return refusal.At("groups."+r.Group+".grade", err)
	}
	share := shareOfStep(r.Name)
	v.Given.Value = unit.Of(share*s.M, unit.NewtonMetre)
	v.Worked = fmt.Sprintf("%.2f · K %.4g · %.4g mm · %.4g kN, the least load of %s %s (EN 1090-2)", share, k.Nominal, t.Diameter,
		s.Load/1000, name, grade)
	return nil
}

// basis is what a value is worked out from, in words, before there are numbers.
var basis = map[recipe.RuleName]string{
	recipe.PartTurn:    "from the length of the bolts and their faces",
	recipe.SecondTurn:  "from what they grip",
	recipe.FirstStep:   "from K of the lot",
	recipe.SecondStep:  "from K of the lot",
	recipe.AuditTorque: "from K of the lot",
}

func (c *computing) ruledTurn(v *Value, t thread.Thread) error {
	r := v.Need.Rule
	long, err := c.length(r.Length)
	if err != nil || long == 0 {
		return err
	}
	var turn float64
	from := fmt.Sprintf("a grip of %.3g d (EN 1090-2)", long/t.Diameter)
	if r.Name == recipe.SecondTurn {
		turn, err = preload.CombinedTurn(t.Diameter, long)
	} else {
		sloped := c.sloped(r)
		if sloped < 0 {
			return nil // open by itself
		}
		turn, err = preload.PartTurn(t.Diameter, long, sloped)
		from = fmt.Sprintf("bolts %.3g d long, faces %s (RCSC); to %.0f° more, never less", long/t.Diameter,
			c.in.Choices[r.Faces], preload.PartTurnTolerance)
	}
	if err == nil {
		v.Given.Value, v.Worked = unit.Of(turn, unit.Degree), from
	}
	return refusal.At("values."+r.Length, err)
}

// lot returns the nut factors of the lot that r takes; ok is false where they are
// not given.
func (c *computing) lot(r *recipe.Rule) (k friction.Lubricant, ok bool, err error) {
	given := c.out.Value(r.K)
	if given.IsZero() {
		return k, false, nil
	}
	k = friction.Lubricant{Name: OfLot, Short: "this lot", Nominal: given.Aim().Value, Origin: friction.SiteTrial,
		Source: "the test of this lot of bolts"}
	k.Low, k.High = k.Nominal*(1-lotScatter), k.Nominal*(1+lotScatter)
	if !given.Max.IsZero() {
		k.Low, k.High = given.Value.Value, given.Max.Value
	}
	return k, true, refusal.At("values."+r.K, refusal.First(refusal.Within("K", k.Nominal, mostLotK, ""), k.Check()))
}

// mostLotK is the largest nut factor that a lot of structural bolts may have: the
// classes of EN 14399-1 end at 0.23.
const mostLotK = 0.5

// rule is what works the torque of a group out; nil where it is given.
func (c *computing) rule(g *Group) *recipe.Rule {
	for i := range c.r.Needs {
		if n := &c.r.Needs[i]; n.Name == g.Value {
			return n.Rule
		}
	}
	return nil
}

// byLot takes the nut factors of the lot for a group whose torque r works out of
// them.
func (c *computing) byLot(g *Group, r *recipe.Rule) error {
	k, ok, err := c.lot(r)
	if err == nil && ok {
		g.SpecifiedFor, g.Lubrication, g.Short, g.K = k.Name, k.Name, k.Short, k
	}
	return err
}

// pretension holds the load of a structural bolt that is torqued against the least
// it must have.
func (c *computing) pretension(g *Group) error {
	if r := c.rule(g); g.Load == 0 || r == nil || r.Name != recipe.SecondStep {
		return nil
	}
	t, s, err := c.bolt(g)
	if err != nil {
		return err
	}
	if g.Needed, err = preload.Pretension(t, s.Tensile); err != nil {
		return err
	}
	g.Checks = append([]preload.Check{preload.AtLeast("Reaches its pretension", g.Load, g.Needed, "N")}, g.Checks...)
	return nil
}
