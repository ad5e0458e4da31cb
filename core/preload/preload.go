// Package preload finds what a bolt shall carry, and the torque, turn or
// stretch that brings it there, in the seven ways a joint's target is given:
//
//	specified     T, or the middle of a range, from the maker's table
//	share         F = p·R·As                     R proof or yield, MPa; As mm²
//	chart         T of a share of proof, times the derate of the softer material
//	gasket        Sb = SgT·Ag/(n·Ab), held between its limits (ASME PCC-1, appendix O)
//	structural    F = 0.7·fub·As (EN 1090-2, RCSC), by torque, part turn, combined or washer
//	turns         no torque at all: two-ferrule tube fittings
//	elongation    ΔL = F·δB                      δB mm/N (VDI 2230)
//
// Loads are in N, stresses in MPa, torques in N·m, lengths in mm, turns in
// degrees. Every way gives its checks as rows; Limiting names the one that
// decides. The formulas hold below yield, for one bolt of a thread that the
// package thread lists, clamped concentrically. A maker's value always wins
// over a computed one.
package preload

import (
	"fmt"
	"math"

	"dynacor/core/friction"
	"dynacor/core/refusal"
	"dynacor/core/thread"
)

// Bolt is what carries the load: thread, strength, lubrication, the torque
// that a prevailing-torque nut takes for itself (N·m) and the accuracy of the
// tool (fraction, 2 sigma; zero counts as exact).
type Bolt struct {
	Thread     thread.Thread
	Strength   thread.Strength
	Lubricant  friction.Lubricant
	Prevailing float64
	Accuracy   float64
	Face       friction.Face // that turns; zero: of the usual head in the usual hole
}

// face is the bearing face of b.
func (b Bolt) face() friction.Face {
	if b.Face == (friction.Face{}) {
		return friction.FaceOf(b.Thread, b.Thread.HeadOf(""))
	}
	return b.Face
}

// Target is what is aimed at. What a way does not give is zero: a fitting
// that is made by turns has no load and no torque.
type Target struct {
	Load    float64 // N
	Torque  float64 // N·m
	Turn    float64 // degrees from snug, or from finger tight
	Stretch float64 // mm
	Checks  []Check
}

// Holds reports whether every check holds.
func (t Target) Holds() bool {
	for _, c := range t.Checks {
		if !c.Holds {
			return false
		}
	}
	return true
}

// Limiting returns the check that decides; ok is false when there is none.
func (t Target) Limiting() (least Check, ok bool) { return Limiting(t.Checks) }

// Specified returns the target of a maker's torque from low to high (equal
// where one value is given), N·m: aim where it is set, else the middle.
func Specified(b Bolt, low, high, aim float64) (Target, error) {
	if err := refusal.First(refusal.Positive("torque", low, "N·m"), refusal.Positive("torqueMax", high, "N·m"),
		refusal.Rising("torque", low, high, "N·m"), refusal.NotNegative("aim", aim, "N·m")); err != nil {
		return Target{}, err
	}
	if aim == 0 {
		aim = (low + high) / 2
	}
	if aim < low || aim > high {
		return Target{}, refusal.Number(refusal.Contradicts, "aim", aim, low, "N·m",
			fmt.Sprintf("%.4g N·m is outside the maker's range, %.4g to %.4g N·m.", aim, low, high), "Aim inside the range.")
	}
	load, err := friction.LoadFromTorque(b.Lubricant.Nominal, b.Thread.Diameter, aim, b.Prevailing)
	if err != nil {
		return Target{}, err
	}
	return b.carrying(load, aim)
}

// ShareOfStrength returns F = p·R·As in N for a share p of strength r (proof
// or yield, MPa). Usual shares: 0.75 of proof for reused bolts, 0.9 for
// permanent ones, 0.4 to 0.6 of yield for gasketed flange studs.
func ShareOfStrength(t thread.Thread, r, p float64) (float64, error) {
	if err := refusal.First(refusal.Positive("strength", r, "MPa"), refusal.Positive("share", p, "")); err != nil {
		return 0, err
	}
	if p > 1 {
		return 0, refusal.Number(refusal.TooLarge, "share", p, 1, "",
			fmt.Sprintf("A share of %.4g is more than the whole strength.", p), "Enter a share of at most 100 %.")
	}
	return p * r * t.StressArea(), nil
}

// Share returns the target of a share p of strength r, MPa.
func Share(b Bolt, r, p float64) (Target, error) {
	load, err := ShareOfStrength(b.Thread, r, p)
	if err != nil {
		return Target{}, err
	}
	return b.loaded(load)
}

// loaded returns the target of a load, with the torque that gives it.
func (b Bolt) loaded(load float64) (Target, error) {
	torque, err := friction.TorqueFromLoad(b.Lubricant.Nominal, b.Thread.Diameter, load, b.Prevailing)
	if err != nil {
		return Target{}, err
	}
	return b.carrying(load, torque)
}

// carrying returns the target of a load at its torque, with the rows that
// every torque has: yield while it is turned, at the nominal load and at the
// worst case of tool and friction.
func (b Bolt) carrying(load, torque float64) (Target, error) {
	u, err := b.Utilisation(load)
	if err != nil {
		return Target{}, err
	}
	limit, err := b.AtYield()
	if err != nil {
		return Target{}, err
	}
	out := Target{Load: load, Torque: torque, Checks: []Check{AtMost("Below yield while it is turned", u, 1, "")}}
	if torque <= b.Prevailing {
		return out, nil
	}
	band, err := friction.Scatter(torque-b.Prevailing, b.Lubricant.Nominal, b.Thread.Diameter, b.Accuracy, b.Lubricant.Spread())
	if err != nil {
		return Target{}, err
	}
	out.Checks = append(out.Checks, AtMost("Below yield at the worst case of tool and friction", band.Max, limit, "N"))
	return out, nil
}

// Utilisation returns the share of yield that b is at under load (N) while it
// is turned at its nominal nut factor, taking one coefficient of friction for
// thread and head: σred/yield, its nut's own torque included.
func (b Bolt) Utilisation(load float64) (float64, error) {
	split, err := b.split(load)
	if err != nil {
		return 0, err
	}
	s, err := friction.WhileTightening(b.Thread, load, split.Thread, b.Prevailing, b.Strength.Yield)
	return s.Utilisation, err
}

// AtYield returns the load (N) at which b yields while it is turned.
func (b Bolt) AtYield() (float64, error) {
	split, err := b.split(1)
	if err != nil {
		return 0, err
	}
	return friction.LoadAtYield(b.Thread, split.Thread, b.Prevailing, b.Strength.Yield)
}

func (b Bolt) split(load float64) (friction.Split, error) {
	mu, err := friction.CoefficientFromK(b.Thread, b.Lubricant.Nominal, b.face())
	if err != nil {
		return friction.Split{}, err
	}
	return friction.TorqueFromCoefficients(b.Thread, mu, mu, b.face(), load)
}

// Material is what the thread engages or the head bears on, with the share of
// the full torque it takes. The shares are starting values of ours; the
// maker's replace them.
type Material struct {
	Name   string
	Derate float64
}

// Materials lists the starting values.
func Materials() []Material {
	return []Material{{"steel", 1.0}, {"cast iron", 0.9}, {"aluminium", 0.7}}
}

// Chart returns the target of a chart by size and base material: the torque
// that gives share of the proof stress (yield where none is published), times
// the derate of the softer of what the thread engages and the head bears on.
func Chart(b Bolt, share float64, engaged, bearing Material) (Target, error) {
	for _, m := range []struct {
		field string
		of    Material
	}{{"engaged", engaged}, {"bearing", bearing}} {
		if err := refusal.Fraction(m.field, m.of.Derate); err != nil {
			return Target{}, err
		}
	}
	r := b.Strength.Yield
	if b.Strength.HasProof() {
		r = b.Strength.Proof
	}
	load, err := ShareOfStrength(b.Thread, r, share)
	if err != nil {
		return Target{}, err
	}
	return b.loaded(load * math.Min(engaged.Derate, bearing.Derate))
}
