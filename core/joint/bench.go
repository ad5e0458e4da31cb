package joint

import (
	"fmt"
	"math"
	"slices"

	"dynacor/core/bench"
	"dynacor/core/friction"
	"dynacor/core/pass"
	"dynacor/core/recipe"
	"dynacor/core/refusal"
	"dynacor/core/unit"
)

// Bench returns a group of a joint as it is tried: what the plan says, and what
// is supposed where it says nothing. What is no ring of four bolts or more that
// are brought to a load is refused.
func Bench(in Input, r recipe.Recipe, res Result, group string) (bench.Subject, error) {
	c := &computing{in: in, r: r, out: res, asked: true}
	g := c.named(group)
	if g == nil {
		return bench.Subject{}, refusal.New(refusal.Unknown, "group", fmt.Sprintf("There is no group %q.", group), "Choose one from the list.")
	}
	if err := tried(*g); err != nil {
		return bench.Subject{}, err
	}
	t, err := c.threadOf(g)
	if err != nil {
		return bench.Subject{}, err
	}
	s := bench.Subject{Bolts: g.Count, Load: g.Load, LikelyLow: g.LikelyLow, LikelyHigh: g.LikelyHigh, Needed: g.Needed, Limit: g.Limit,
		Tool:     bench.Certain(g.Accuracy, bench.ByPlan, "The wrench that the plan's likely band is worked out with."),
		Friction: bench.FrictionOf(g.K.Spread(), g.K.Name, g.K.Origin == friction.SiteTrial), Flange: bench.FlangeOf(t.Diameter),
		Pull: bench.PullOf(t.Diameter), Pass: bench.PassOf()}
	if s.Circle = bench.CircleOf(g.Count, t.Diameter); g.Diameter > 0 {
		s.Circle = bench.Certain(g.Diameter, bench.ByPlan, "The plan's bolt circle.")
	}
	if s.Bolt, err = c.boltGives(g); err != nil {
		return s, err
	}
	return s, c.pressed(g, &s)
}

// tried refuses a group that the model says nothing of.
func tried(g Group) error {
	switch {
	case g.Layout != recipe.Ring:
		return refusal.New(refusal.Contradicts, "group", fmt.Sprintf("The %s are no ring.", g.Name), "Rings of bolts are tried.")
	case g.Count == 0:
		return refusal.New(refusal.Missing, "group", fmt.Sprintf("How many %s there are is not said.", g.Name), "Lay the joint out first.")
	case g.Load == 0:
		return refusal.New(refusal.Missing, "group", fmt.Sprintf("No load of the %s is worked out.", g.Name),
			"Give the torque, the thread and the lubrication at Lay out.")
	case len(g.Strokes) > 0:
		return refusal.New(refusal.Contradicts, "group", fmt.Sprintf("The %s are made by turns.", g.Name),
			"Rings that are made by torque are tried.")
	}
	return nil
}

// boltGives is δB of a group: of its clamped length, or of the one that such
// bolts usually have.
func (c *computing) boltGives(g *Group) (bench.Figure, error) {
	if g.Springs.Bolt > 0 {
		return bench.Certain(g.Springs.Bolt, bench.ByPlan, "The plan's clamped length."), nil
	}
	t, err := c.threadOf(g)
	if err != nil {
		return bench.Figure{}, err
	}
	length := bench.ClampedBy(t.Diameter)
	clamp := Clamp{Length: unit.Of(length, unit.Millimetre), TwoNuts: true}
	of, err := clamp.of(t, g.Grade)
	if err != nil {
		return bench.Figure{}, err
	}
	gives, err := of.Compliance()
	if err != nil {
		return bench.Figure{}, err
	}
	return bench.About(gives.Bolt, 0.75, 1.4, bench.Supposing,
		fmt.Sprintf("Our guess: %.3g mm between two nuts. The clamped length at Lay out makes it sure.", length)), nil
}

// narrow is the share of its bolt circle that a gasket is wide where nobody says.
const narrow = 0.05

// pressed says what lies between the faces: how much it gives, what it takes to
// seat it and to crush it.
func (c *computing) pressed(g *Group, s *bench.Subject) error {
	family := ""
	if g.Gasket != nil {
		family = c.in.Choices[g.Gasket.Choice]
	}
	if family != "" {
		k, err := c.family(g)
		if err != nil {
			return err
		}
		if k.Crushable {
			s.First = pass.FirstOnGasket
		}
	}
	p := bench.PressedBy(family)
	s.Kept = p.KeptBy()
	area := math.Pi * s.Circle.Middle * s.Circle.Middle * narrow
	b, known, err := c.balance(g)
	if err != nil {
		return err
	}
	if known {
		if area, err = b.Area(); err != nil {
			return err
		}
		if b.GasketMost > 0 {
			s.Crushes = b.GasketMost * area / float64(g.Count)
		}
	}
	s.Gasket = p.Foundation(area, s.Circle.Middle)
	return nil
}

// Takes writes a way that was taken into the bolts of a group of the recipe: the
// stages and the order that its own are not, and the start; and keeps what it
// was compared with.
func (b Bolts) Takes(k bench.Kept, own recipe.Group) (Bolts, error) {
	w := k.Way()
	if w.School == "" && !slices.Equal(w.Shares, own.Shares) {
		return b, refusal.New(refusal.Contradicts, "way", fmt.Sprintf("A plan has no stages of %s.", w.Words()),
			"Choose stages from the list.")
	}
	b.Stages, b.Order, b.Start, b.Compared = w.School, w.Order, max(w.Start, 1), &k
	return b, nil
}

// StandsBy reports whether a group is laid out by the way that was taken for it.
func StandsBy(g Group, k bench.Kept) bool {
	now, then := WayOf(g), k.Way()
	return now.School == then.School && slices.Equal(now.Shares, then.Shares) && now.Order == then.Order &&
		now.Start == max(then.Start, 1) && g.Load == k.Subject.Load && g.Count == k.Subject.Bolts
}

// usualRounds is when the work stops and asks, too.
const usualRounds = 5

// WayOf is the way that a group is laid out to be made.
func WayOf(g Group) bench.Way {
	w := bench.Way{Shares: g.Stages, Order: g.Pattern, Start: max(g.Start, 1), Tools: 1, Rounds: usualRounds, Every: 1}
	if len(w.Shares) == 0 {
		w.Shares = []float64{100}
	}
	for _, p := range pass.Presets() {
		if slices.Equal(p.Shares, w.Shares) {
			w.School, w.Shares = p.Name, nil
		}
	}
	return w
}
