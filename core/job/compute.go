package job

import (
	"fmt"
	"math"

	"dynacor/core/kind"
	"dynacor/core/recipe"
	"dynacor/core/refusal"
	"dynacor/core/sequence"
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
		if err := c.grid(&out, b); err != nil {
			return err
		}
		if err := c.stages(&out, b); err != nil {
			return err
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

// Joint is what the recipe is begun with.
func (r Result) Joint(in Input) recipe.Joint {
	j := recipe.Joint{Choices: in.Choices, Values: map[string]unit.Quantity{}, Bolts: map[string]int{}}
	for _, v := range r.Values {
		j.Values[v.Need.Name] = v.Given.Aim()
	}
	for _, g := range r.Groups {
		j.Bolts[g.Name] = g.Count
		if g.Grid != (recipe.Grid{}) {
			if j.Grids == nil {
				j.Grids = map[string]recipe.Grid{}
			}
			j.Grids[g.Name] = g.Grid
		}
		if in.Groups[g.Name].Stages != "" {
			if j.Shares == nil {
				j.Shares = map[string][]float64{}
			}
			j.Shares[g.Name] = g.Shares
		}
		if b := in.Groups[g.Name]; b.Order != "" {
			if j.Orders == nil {
				j.Orders, j.Reasons = map[string]sequence.Pattern{}, map[string]string{}
			}
			j.Orders[g.Name], j.Reasons[g.Name] = b.Order, b.Reason
		}
	}
	return j
}
