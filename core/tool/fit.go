package tool

import (
	"errors"
	"fmt"
	"math"
	"sort"
	"time"

	"dynacor/core/refusal"
	"dynacor/core/unit"
)

// Setup is a way to make every pass of a plan: the chain of the last pass and
// a setting for each.
type Setup struct {
	Chain    Chain
	Settings []Setting
	Refused  error // why this chain cannot do it; Settings are then empty
}

// Fit sets chain for each pass of torques (N·m). The last pass must be within
// the chain's rating. A pass too low for it takes the chain's wrench alone,
// else the best of helpers; when none reaches it, the setup is refused.
func Fit(c Chain, torques []float64, helpers []Wrench, today time.Time) Setup {
	out := Setup{Chain: c}
	if len(torques) == 0 {
		out.Refused = refusal.New(refusal.Missing, "passes", "The plan has no passes.", "Lay the joint out first.")
		return out
	}
	settings := make([]Setting, len(torques))
	last := len(torques) - 1
	for i := last; i >= 0; i-- {
		s, err := c.Set(i+1, torques[i], today)
		if err != nil && i < last && errors.Is(err, &refusal.Error{Code: refusal.OutOfRange}) {
			s, err = lower(c, i+1, torques[i], helpers, today, err)
		}
		if err != nil {
			out.Refused = err
			return out
		}
		settings[i] = s
	}
	out.Settings = settings
	return out
}

// errorWeight is what a percent that a scale cannot show weighs against the middle of a range.
const errorWeight = 0.2

// lower finds another tool for a pass that c cannot be set for: its wrench
// without the multiplier, or a helper with the offset end and the socket that
// the place asks for.
func lower(c Chain, pass int, torque float64, helpers []Wrench, today time.Time, because error) (Setting, error) {
	with := func(w Wrench) (Setting, error) {
		return Chain{Wrench: w, Offset: c.Offset, Socket: c.Socket}.Set(pass, torque, today)
	}
	if c.Multiplier != nil {
		if s, err := with(c.Wrench); err == nil {
			return s, nil
		}
	}
	var best Setting
	found, nearest := false, 0.0
	for _, w := range helpers {
		s, err := with(w)
		if err != nil {
			continue
		}
		if off := offMiddle(w, s.Reading.Shown) + errorWeight*math.Abs(s.Error); !found || off < nearest {
			best, found, nearest = s, true, off
		}
	}
	if !found {
		var r *refusal.Error
		if errors.As(because, &r) {
			e := *r
			e.Text = fmt.Sprintf("Pass %d: %s", pass, r.Text)
			return Setting{}, &e
		}
		return Setting{}, because
	}
	return best, nil
}

// Ways lists every way of a crib to make the passes (N·m), best first: each
// wrench alone, and every longer chain that the solver finds for the last
// pass. A multiplier that is not needed is left out. Wrenches that cannot do
// it alone come last, each with its reason. Reading one unit and setting
// another wrecks joints, so a wrench not marked in prefer ranks lower.
func Ways(crib Crib, torques []float64, prefer unit.Unit, today time.Time) []Setup {
	var ways []Setup
	light := map[string]bool{}
	for _, w := range crib.Wrenches {
		alone := Fit(Chain{Wrench: w}, torques, crib.Wrenches, today)
		ways = append(ways, alone)
		light[w.Tag] = alone.Refused == nil && alone.force() <= HeavyHandForce
	}
	if len(torques) > 0 {
		found := crib.Solve(Need{Torque: torques[len(torques)-1], Prefer: prefer}, 0, today)
		for _, s := range found.Settings {
			if s.Chain.Parts() == 1 || (s.Chain.Multiplier != nil && light[s.Chain.Wrench.Tag]) {
				continue
			}
			if way := Fit(s.Chain, torques, crib.Wrenches, today); way.Refused == nil {
				ways = append(ways, way)
			}
		}
	}
	sort.SliceStable(ways, func(i, j int) bool { return ways[i].rank(prefer) < ways[j].rank(prefer) })
	return ways
}

func (s Setup) force() float64 {
	if len(s.Settings) == 0 {
		return 0
	}
	return s.Settings[len(s.Settings)-1].Force
}

func (s Setup) rank(prefer unit.Unit) float64 {
	if s.Refused != nil {
		return 1e6
	}
	last := s.Settings[len(s.Settings)-1]
	r := burden{offMiddle(s.Chain.Wrench, last.Reading.Shown), last.Accuracy, last.Force, s.Chain.Parts(), s.Chain.Multiplier != nil,
		s.Chain.Wrench.Unit == prefer}.rank()
	for _, t := range s.Settings {
		if t.Chain.Wrench.Tag != s.Chain.Wrench.Tag {
			return r + 0.5 // another wrench for a lower pass
		}
	}
	return r
}

// burden is what speaks against a chain.
type burden struct {
	offMiddle  float64
	accuracy   float64
	force      float64
	parts      int
	multiplier bool
	sameUnit   bool
}

// rank weighs the burden, least first: the middle of the range, then accuracy,
// then fewer parts and a lighter hand. Too much force for one hand and a scale
// in another unit outweigh them all.
func (b burden) rank() float64 {
	r := b.offMiddle + 10*b.accuracy + 0.5*float64(b.parts-1) + 0.2*b.force/HeavyHandForce
	if b.force > HeavyHandForce {
		r += 10
	}
	if b.multiplier {
		r += 1.5 // and a reaction to find a place for
	}
	if !b.sameUnit {
		r += 3
	}
	return r
}

// offMiddle is how far a setting, in the wrench's unit, lies from the middle
// of its range, 0 in the middle, 1 at either end.
func offMiddle(w Wrench, setting float64) float64 {
	low, err := Lowest(w.RatedMin, w.RatedMax)
	if err != nil || w.RatedMax <= low {
		return 1
	}
	return math.Abs(2*(setting-low)/(w.RatedMax-low) - 1)
}
