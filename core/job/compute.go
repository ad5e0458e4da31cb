package job

import (
	"fmt"
	"math"

	"dynacor/core/friction"
	"dynacor/core/kind"
	"dynacor/core/plan"
	"dynacor/core/preload"
	"dynacor/core/recipe"
	"dynacor/core/refusal"
	"dynacor/core/sequence"
	"dynacor/core/thread"
	"dynacor/core/tool"
	"dynacor/core/unit"
)

// Dry is the condition of bolts that are left dry.
const Dry = "dry, plain as received"

// Compute lays a joint out. What cannot be is refused, with the field, the
// number and the limit; what is only not given yet is listed in Open.
func Compute(in Input, r recipe.Recipe) (Result, error) {
	c := &computing{in: in, r: r}
	var err error
	if c.kind, err = kind.Named(r.Kind); err != nil {
		return Result{}, err
	}
	for _, step := range []func() error{c.choices, c.row, c.values, c.groups} {
		if err := step(); err != nil {
			return Result{}, err
		}
	}
	return c.out, nil
}

type computing struct {
	in    Input
	r     recipe.Recipe
	kind  kind.Kind
	sheet recipe.Row
	found bool
	out   Result
}

func (c *computing) open(field, format string, args ...any) {
	c.out.Open = append(c.out.Open, Open{field, fmt.Sprintf(format, args...)})
}

func (c *computing) mind(group, format string, args ...any) *Mind {
	c.out.Minds = append(c.out.Minds, Mind{Group: group, Text: fmt.Sprintf(format, args...)})
	return &c.out.Minds[len(c.out.Minds)-1]
}

func (c *computing) deviate(format string, args ...any) {
	c.out.Deviations = append(c.out.Deviations, fmt.Sprintf(format, args...))
}

func (c *computing) choices() error {
	for _, x := range c.r.Asked(c.in.Choices) {
		chosen, ok := c.in.Choices[x.Name]
		if !ok || chosen == "" {
			c.open("choices."+x.Name, "%s?", x.Text)
			continue
		}
		known := false
		for _, o := range x.Options {
			known = known || o == chosen
		}
		if !known {
			return refusal.New(refusal.Unknown, "choices."+x.Name, fmt.Sprintf("%q is no answer to: %s?", chosen, x.Text), "Choose one from the list.")
		}
	}
	return nil
}

// row finds what the sheet has for the nameplate.
func (c *computing) row() error {
	if c.r.Sheet == nil {
		return nil
	}
	if c.in.Type == "" || c.in.Size == "" {
		c.mind("", "Read type and size off the nameplate: the values come from the maker's sheet.")
		return nil
	}
	c.sheet, c.found = c.r.Sheet.Find(c.in.Type, c.in.Size, c.in.Choices)
	if !c.found {
		c.mind("", "%s %s is not on the sheet for this variant. Read the values off the maker's own.", c.in.Type, c.in.Size)
	}
	return nil
}

func (c *computing) values() error {
	for _, n := range c.r.Needs {
		if !n.When.Holds(c.in.Choices) {
			continue
		}
		v := Value{Need: n}
		if list := c.sheet.Values[n.Name]; len(list) > 0 {
			v.Sheet.Value = unit.Of(list[0], n.Unit)
			if len(list) == 2 {
				v.Sheet.Max = unit.Of(list[1], n.Unit)
			}
		}
		v.Given = v.Sheet
		if hand, ok := c.in.Values[n.Name]; ok && !hand.IsZero() {
			if err := fits(n, hand); err != nil {
				return err
			}
			v.Given, v.Hand = hand, true
		}
		if v.Given.IsZero() {
			c.open("values."+n.Name, "%s is missing.", n.Text)
		}
		if v.Hand && !v.Sheet.IsZero() && !same(n, v.Given, v.Sheet) {
			c.mind("", "%s: %s by hand, %s on the sheet. The record shows it.", n.Text, v.Given, v.Sheet)
			c.deviate("%s: %s where the maker's sheet has %s", n.Text, v.Given, v.Sheet)
		}
		c.out.Values = append(c.out.Values, v)
	}
	return nil
}

// fits refuses a value that cannot be the need's: another dimension, not above
// zero, a range that falls.
func fits(n recipe.Need, g Given) error {
	field := "values." + n.Name
	low, err := recipe.In(g.Value, n.Unit)
	if err != nil {
		return refusal.At(field, err)
	}
	if err := refusal.Positive(field, low, string(n.Unit)); err != nil {
		return err
	}
	if g.Max.IsZero() {
		return nil
	}
	high, err := recipe.In(g.Max, n.Unit)
	if err != nil {
		return refusal.At(field, err)
	}
	if err := refusal.Positive(field, high, string(n.Unit)); err != nil {
		return err
	}
	return refusal.Rising(field, low, high, string(n.Unit))
}

func same(n recipe.Need, a, b Given) bool {
	eq := func(x, y unit.Quantity) bool {
		if x.IsZero() || y.IsZero() {
			return x.IsZero() == y.IsZero()
		}
		v, err1 := recipe.In(x, n.Unit)
		w, err2 := recipe.In(y, n.Unit)
		return err1 == nil && err2 == nil && unit.AtMost(math.Abs(v-w), 1e-9*math.Abs(w)+1e-12)
	}
	return eq(a.Value, b.Value) && eq(a.Max, b.Max)
}

func (c *computing) value(need string) Given {
	for _, v := range c.out.Values {
		if v.Need.Name == need {
			return v.Given
		}
	}
	return Given{}
}

func (c *computing) group(name string) *Group {
	for i := range c.out.Groups {
		if c.out.Groups[i].Name == name {
			return &c.out.Groups[i]
		}
	}
	return nil
}

func (c *computing) groups() error {
	for _, g := range c.r.Groups {
		if !g.When.Holds(c.in.Choices) {
			continue
		}
		b := c.in.Groups[g.Name]
		out := Group{Group: g, Count: g.Bolts, OnCentre: b.OnCentre,
			Thread: first(b.Thread, c.sheet.Threads[g.Name]), Grade: first(b.Grade, c.sheet.Grades[g.Name])}
		if of := c.group(g.Of); of != nil {
			out.Count, out.OnCentre = of.Count, of.OnCentre
		} else if g.Bolts == 0 {
			out.Count = max(b.Count, 0)
			if out.Count == 0 {
				out.Count = c.sheet.Bolts[g.Name]
			}
		}
		if err := c.order(&out, b); err != nil {
			return err
		}
		if g.How == recipe.ByPressure {
			out.Stages = stages(g)
		}
		if g.How == recipe.ByTorque {
			if err := c.torque(&out, b); err != nil {
				return err
			}
		}
		c.out.Groups = append(c.out.Groups, out)
	}
	return nil
}

func first(list ...string) string {
	for _, s := range list {
		if s != "" {
			return s
		}
	}
	return ""
}

// order finds the order of a group, and says what another than its kind's does.
func (c *computing) order(g *Group, b Bolts) error {
	field := "groups." + g.Name
	if g.Count == 0 && g.Of != "" {
		return nil // asked for there
	}
	if g.Count == 0 {
		c.open(field+".count", "How many %s?", g.Name)
		return nil
	}
	g.Pattern = c.r.Usual(g.Group, g.Count)
	reason := b.Reason
	if b.Order != "" && b.Order != g.Pattern {
		if warning, against := c.kind.Warn(b.Order); against {
			c.mind(g.Name, "%s", warning)
			if reason == "" {
				c.open(field+".reason", "The %s: an order against the kind needs the engineer's reason.", g.Name)
				reason = "-" // it is drawn all the same; it is not issued so
			} else {
				c.deviate("%s in an order against the kind. %s Because: %s", g.Name, warning, b.Reason)
			}
		}
		g.Pattern = b.Order
	}
	var err error
	g.Order, err = c.r.Order(g.Group, g.Count, b.Order, reason)
	return refusal.At(field, err)
}

// stages are the shares a group is pulled in, percent.
func stages(g recipe.Group) []float64 {
	if len(g.Shares) == 0 {
		return []float64{100}
	}
	return g.Shares
}

// torque works out what a group is pulled to, and the load that is.
func (c *computing) torque(g *Group, b Bolts) error {
	g.Stages = stages(g.Group)
	usual := ""
	if g.Dry {
		usual = Dry
	} else if _, err := friction.LubricantNamed(g.Lubricant); err == nil {
		usual = g.Lubricant
	}
	g.SpecifiedFor = first(b.SpecifiedFor, c.sheet.For[g.Name], usual)
	g.Lubrication = first(b.Lubrication, g.SpecifiedFor)
	if g.SpecifiedFor == "" {
		c.open("groups."+g.Name+".specifiedFor", "Which condition was the torque of the %s written for?", g.Name)
	}
	given := c.value(g.Value)
	if given.IsZero() {
		return nil
	}
	low, err := given.Value.In(unit.NewtonMetre)
	if err != nil {
		return err
	}
	high := low
	if !given.Max.IsZero() {
		if high, err = given.Max.In(unit.NewtonMetre); err != nil {
			return err
		}
	}
	if low, high, err = c.condition(g, b, low, high); err != nil {
		return err
	}
	g.TorqueMin, g.TorqueMax, g.Torque = low, high, (low+high)/2
	for _, share := range g.Stages {
		g.Torques = append(g.Torques, g.Torque*share/100)
	}
	return c.load(g)
}

// condition compares what the torque was written for with what is on the job.
func (c *computing) condition(g *Group, b Bolts, low, high float64) (float64, float64, error) {
	field := "groups." + g.Name
	if g.SpecifiedFor == "" {
		return low, high, nil
	}
	spec, err := friction.LubricantNamed(g.SpecifiedFor)
	if err != nil {
		return 0, 0, refusal.At("groups."+g.Name+".specifiedFor", err)
	}
	job, err := friction.LubricantNamed(g.Lubrication)
	if err != nil {
		return 0, 0, refusal.At("groups."+g.Name+".lubrication", err)
	}
	g.Short = job.Short
	if g.Dry && !job.Dry {
		c.mind(g.Name, "The %s must stay dry: on %s the same torque loads them %.0f %% more, or the seat slips.", g.Name, job.Short, 100*(spec.Nominal/job.Nominal-1))
		if b.Reason == "" {
			c.open(field+".reason", "The %s must stay dry; %s there needs the engineer's reason.", g.Name, job.Short)
		} else {
			c.deviate("%s on %s where they must stay dry: %s", g.Name, job.Short, b.Reason)
		}
	}
	if spec.Name == job.Name {
		return low, high, nil
	}
	eqLow, err := friction.EquivalentTorque(low, spec.Nominal, job.Nominal)
	if err != nil {
		return 0, 0, err
	}
	eqHigh, err := friction.EquivalentTorque(high, spec.Nominal, job.Nominal)
	if err != nil {
		return 0, 0, err
	}
	g.Equivalent = (eqLow + eqHigh) / 2
	change := 100 * (spec.Nominal/job.Nominal - 1)
	word := "more"
	if change < 0 {
		word = "less"
	}
	m := c.mind(g.Name, "The torque of the %s was written for %s; on %s it gives %.0f %% %s load. The equivalent is %.4g N·m.", g.Name, spec.Short, job.Short, math.Abs(change), word, g.Equivalent)
	switch b.Decision {
	case plan.TakeEquivalent:
		m.Offer, m.Take = "Keep the written torque", plan.KeepTorque
		c.deviate("%s: written for %s, on %s; the equivalent torque was taken, approved by the engineer who issued the plan", g.Name, spec.Short, job.Short)
		return eqLow, eqHigh, nil
	case plan.KeepTorque:
		m.Offer, m.Take = "Take the equivalent torque", plan.TakeEquivalent
		c.deviate("%s: written for %s, on %s; the written torque was kept and gives %.0f %% %s load", g.Name, spec.Short, job.Short, math.Abs(change), word)
	case plan.Undecided:
		m.Offer, m.Take = "Take the equivalent torque", plan.TakeEquivalent
		c.open(field+".decision", "The %s: take the equivalent torque or keep the written one?", g.Name)
	default:
		return 0, 0, refusal.New(refusal.Unknown, "groups."+g.Name+".decision", fmt.Sprintf("Unknown decision %q.", string(b.Decision)), "")
	}
	return low, high, nil
}

// load works out what the torque gives, where the thread is known, and holds it
// against the grade's yield.
func (c *computing) load(g *Group) error {
	if g.Thread == "" || g.Lubrication == "" {
		return nil
	}
	t, err := thread.Parse(g.Thread)
	if err != nil {
		return refusal.At("groups."+g.Name+".thread", err)
	}
	l, err := friction.LubricantNamed(g.Lubrication)
	if err != nil {
		return refusal.At("groups."+g.Name+".lubrication", err)
	}
	if g.Load, err = friction.LoadFromTorque(l.Nominal, t.Diameter, g.Torque, 0); err != nil {
		return err
	}
	band, err := friction.Scatter(g.Torque, l.Nominal, t.Diameter, tool.UsualAccuracy(g.Torque), l.Spread())
	if err != nil {
		return err
	}
	g.LikelyLow, g.LikelyHigh = max(g.Load*(1-band.Spread), band.Min), min(g.Load*(1+band.Spread), band.Max)
	if g.Grade == "" {
		return nil
	}
	s, err := thread.StrengthOf(g.Grade, t.Diameter)
	if err != nil {
		return refusal.At("groups."+g.Name+".grade", err)
	}
	if g.Utilisation, err = preload.Utilisation(t, g.Load, l.Nominal, s.Yield); err != nil {
		return err
	}
	g.Limit = g.Load / g.Utilisation
	if !unit.AtMost(g.Utilisation, 1) {
		most := g.Torque / g.Utilisation
		return refusal.Number(refusal.TooLarge, "groups."+g.Name+".torque", g.Torque, most, "N·m",
			fmt.Sprintf("%.4g N·m on %s with %s would load the %s to %.4g kN; %s reaches its yield at %.4g kN, which is %.4g N·m.", g.Torque, t.Name, l.Short, g.Name, g.Load/1000, g.Grade, g.Limit/1000, most),
			"Check the torque, its unit, the thread and the lubrication.")
	}
	if g.Utilisation > plan.WarnYield {
		c.mind(g.Name, "The %s are at %.0f %% of their yield while they are turned.", g.Name, 100*g.Utilisation)
	}
	return nil
}

// Joint is what the recipe is begun with.
func (r Result) Joint(in Input) recipe.Joint {
	j := recipe.Joint{Choices: in.Choices, Values: map[string]unit.Quantity{}, Bolts: map[string]int{}}
	for _, v := range r.Values {
		j.Values[v.Need.Name] = v.Given.Aim()
	}
	for _, g := range r.Groups {
		j.Bolts[g.Name] = g.Count
		if b := in.Groups[g.Name]; b.Order != "" {
			if j.Orders == nil {
				j.Orders, j.Reasons = map[string]sequence.Pattern{}, map[string]string{}
			}
			j.Orders[g.Name], j.Reasons[g.Name] = b.Order, b.Reason
		}
	}
	return j
}
