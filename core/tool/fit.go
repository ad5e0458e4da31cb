package tool

import (
	"math"

	"dynacor/core/unit"
)

// Setup is a way to make every pass of a plan: the chain of the last pass and
// a setting for each.
type Setup struct {
	Chain    Chain
	Settings []Setting
	Refused  error // why this chain cannot do it; Settings are then empty
}

// errorWeight is what a percent that a scale cannot show weighs against the middle of a range.
const errorWeight = 0.2

func (s Setup) rank(prefer unit.Unit) float64 {
	if s.Refused != nil {
		return 1e6
	}
	last := s.Settings[len(s.Settings)-1]
	r := burden{offMiddle(s.Chain.Wrench, last.Reading.Shown), last.Accuracy, last.Force, s.Chain.Parts(), s.Chain.Multiplier != nil,
		s.Chain.Wrench.Unit == prefer}.rank() + errorWeight*math.Abs(last.Error)
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
