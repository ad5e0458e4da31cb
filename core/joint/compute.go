package joint

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"dynacor/core/kind"
	"dynacor/core/recipe"
	"dynacor/core/refusal"
	"dynacor/core/thread"
	"dynacor/core/unit"
)

// Dry is the condition of bolts that are left dry.
const Dry = "dry, plain as received"

// Compute lays a joint out. What cannot be is refused, with the field, the
// number and the limit; what is only not given yet is listed in Open.
func Compute(in Input, r recipe.Recipe) (Result, error) {
	in, r = Whole(in, r)
	c := &computing{in: in, r: r}
	var err error
	if c.kind, err = kind.Named(r.Kind); err != nil {
		return Result{}, err
	}
	if err := c.all(); err != nil {
		return Result{}, err
	}
	return c.out, nil
}

// all calls each step by its name: through a list of them what they work with would
// have to be on the heap, a third of the time of a plan.
func (c *computing) all() error {
	if err := c.choices(); err != nil {
		return err
	}
	c.row()
	if err := c.values(); err != nil {
		return err
	}
	return c.groups()
}

type computing struct {
	in    Input
	r     recipe.Recipe
	kind  kind.Kind
	sheet recipe.Row
	out   Result
	asked bool // only where numbers come from: out is another's, and stays as it is

	parsed string // the name of the thread below
	thread thread.Thread

	strongOf string // the group whose strength is below
	strong   thread.Strength
}

// threadOf returns the thread of a group. Its name is read once, as several
// steps ask for it.
func (c *computing) threadOf(g *Group) (thread.Thread, error) {
	if c.parsed != g.Thread {
		t, err := thread.Parse(g.Thread)
		if err != nil {
			return t, refusal.At("groups."+g.Name+".thread", err)
		}
		c.parsed, c.thread = g.Thread, t
	}
	return c.thread, nil
}

func (c *computing) open(field, format string, args ...any) {
	c.out.Open = append(c.out.Open, Open{field, fmt.Sprintf(format, args...)})
}

func (c *computing) mind(group, format string, args ...any) *Mind {
	return c.say(group, fmt.Sprintf(format, args...))
}

func (c *computing) say(group, text string) *Mind {
	if c.out.Minds == nil {
		c.out.Minds = make([]Mind, 0, usualMinds)
	}
	c.out.Minds = append(c.out.Minds, Mind{Group: group, Text: text})
	return &c.out.Minds[len(c.out.Minds)-1]
}

// usualMinds is how much is to be kept in mind of a joint, most often.
const usualMinds = 4

func (c *computing) deviate(format string, args ...any) {
	c.out.Deviations = append(c.out.Deviations, fmt.Sprintf(format, args...))
}

func (c *computing) choices() error {
	for _, x := range c.r.Asked(c.in.Choices) {
		chosen := c.in.Choices[x.Name]
		if chosen == "" {
			c.open("choices."+x.Name, "%s?", x.Text)
			continue
		}
		if !slices.Contains(x.Options, chosen) {
			return refusal.New(refusal.Unknown, "choices."+x.Name, fmt.Sprintf("%q is no answer to: %s?", chosen, x.Text),
				"Choose one from the list.")
		}
	}
	if c.in.MadeAt.IsZero() && slices.ContainsFunc(c.r.Steps, func(s recipe.Step) bool {
		return s.From == recipe.SinceMade && s.When.Holds(c.in.Choices)
	}) {
		c.open("choices", "When was it made? Only its signed record tells; this work is planned from that.")
	}
	return nil
}

// row finds what the sheet has for the nameplate.
func (c *computing) row() {
	if c.r.Sheet == nil {
		return
	}
	if c.in.Type == "" || c.in.Size == "" {
		c.mind("", "Read type and size off the nameplate: the values come from the maker's sheet.")
		return
	}
	row, found := c.r.Sheet.Find(c.in.Type, c.in.Size, c.in.Choices)
	if !found {
		c.mind("", "%s %s is not on the sheet for this variant. Read the values off the maker's own.", c.in.Type, c.in.Size)
	}
	c.sheet = row
}

func (c *computing) values() error {
	c.out.Values = make([]Value, 0, len(c.r.Needs))
	for i := range c.r.Needs {
		n := &c.r.Needs[i]
		if !n.When.Holds(c.in.Choices) {
			continue
		}
		c.out.Values = append(c.out.Values, Value{Need: *n})
		v := &c.out.Values[len(c.out.Values)-1]
		if n.Rule != nil {
			if err := c.ruled(v); err != nil {
				return err
			}
			continue
		}
		if list := c.sheet.Values[n.Name]; len(list) > 0 {
			v.Sheet.Value = unit.Of(list[0], n.Unit)
			if len(list) == 2 {
				v.Sheet.Max = unit.Of(list[1], n.Unit)
			}
		}
		v.Given = v.Sheet
		if hand, ok := c.in.Values[n.Name]; ok && !hand.IsZero() {
			if err := fits(n, hand); err != nil {
				return refusal.At("values."+n.Name, err)
			}
			v.Given, v.Hand = hand, true
		}
		if v.Given.IsZero() && !n.Optional && !c.aimed(n.Name) {
			c.open("values."+n.Name, "%s is missing.", n.Text)
		}
		if v.Hand && !v.Sheet.IsZero() && !same(n, v.Given, v.Sheet) {
			c.mind("", "%s: %s by hand, %s on the sheet. The record shows it.", n.Text, v.Given, v.Sheet)
			c.deviate("%s: %s where the maker's sheet has %s", n.Text, v.Given, v.Sheet)
		}
	}
	return nil
}

// aimed reports whether a torque is worked out, so that its need is not asked for.
func (c *computing) aimed(need string) bool {
	return slices.ContainsFunc(c.r.Groups, func(g recipe.Group) bool {
		return g.Value == need && g.How == recipe.ByTorque && g.When.Holds(c.in.Choices) && c.aimOf(g.Name) != AsGiven
	})
}

func (c *computing) aimOf(group string) Aim {
	b := c.in.Groups[group]
	return b.aim()
}

// fits refuses a value that cannot be the need's: another dimension, not above
// zero, a range that falls.
func fits(n *recipe.Need, g Given) error {
	low, err := recipe.In(g.Value, n.Unit)
	if err == nil {
		err = refusal.Positive(n.Text, low, string(n.Unit))
	}
	if err != nil || g.Max.IsZero() {
		return err
	}
	high, err := recipe.In(g.Max, n.Unit)
	if err == nil {
		err = refusal.First(refusal.Positive(n.Text, high, string(n.Unit)), refusal.Rising(n.Text, low, high, string(n.Unit)))
	}
	return err
}

func same(n *recipe.Need, a, b Given) bool {
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

// length is a need's value in mm; 0 where it is not given.
func (c *computing) length(need string) (float64, error) {
	v := c.out.Value(need)
	if v.IsZero() {
		return 0, nil
	}
	mm, err := v.Aim().In(unit.Millimetre)
	if err != nil {
		return 0, refusal.At("values."+need, err)
	}
	return mm, nil
}

func (c *computing) named(name string) *Group {
	for i := range c.out.Groups {
		if c.out.Groups[i].Name == name {
			return &c.out.Groups[i]
		}
	}
	return nil
}

func (c *computing) groups() error {
	c.out.Groups = make([]Group, 0, len(c.r.Groups))
	for i := range c.r.Groups {
		if !c.r.Groups[i].When.Holds(c.in.Choices) {
			continue
		}
		c.out.Groups = append(c.out.Groups, Group{Group: c.r.Groups[i]})
		g := &c.out.Groups[len(c.out.Groups)-1]
		given := c.in.Groups[g.Name]
		b := &given
		c.count(g, b)
		if err := c.group(g, b); err != nil {
			return err
		}
	}
	return nil
}

// group works one group out.
func (c *computing) group(g *Group, b *Bolts) error {
	if err := c.lie(g, b); err != nil {
		return err
	}
	if err := c.circle(g); err != nil {
		return err
	}
	if err := c.stages(g, b); err != nil {
		return err
	}
	if err := c.order(g, b); err != nil {
		return err
	}
	if err := c.turns(g); err != nil {
		return err
	}
	if err := c.pulled(g, b); err != nil {
		return err
	}
	return c.breakout(g, b)
}

// count takes what is known of a group's bolts: by hand, from the sheet, or from
// the group whose bolts they are.
func (c *computing) count(g *Group, b *Bolts) {
	g.Count, g.OnCentre, g.Start = g.Bolts, b.OnCentre, max(b.Start, 1)
	g.Thread, g.Grade = first(b.Thread, c.sheet.Threads[g.Name]), first(b.Grade, c.sheet.Grades[g.Name])
	if of := c.named(g.Of); of != nil {
		g.Thread, g.Grade = first(g.Thread, of.Thread), first(g.Grade, of.Grade)
		g.Count, g.OnCentre, g.Start = of.Count, of.OnCentre, of.Start
		return
	}
	if g.Bolts == 0 {
		g.Count = max(b.Count, 0)
		if g.Count == 0 {
			g.Count = c.sheet.Bolts[g.Name]
		}
	}
}

func (c *computing) pulled(g *Group, b *Bolts) error {
	switch g.How {
	case recipe.ByPressure:
		g.Stages = c.shares(g)
	case recipe.ByTension:
		return c.tension(g)
	case recipe.ByTorque:
		return c.torque(g, b)
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

// Variant says which variant a joint is, in words: what was chosen.
func Variant(r recipe.Recipe, choices map[string]string) string {
	var words []string
	for _, x := range r.Asked(choices) {
		words = append(words, choices[x.Name])
	}
	return strings.Join(words, ", ")
}
