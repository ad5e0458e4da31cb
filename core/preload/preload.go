// Package preload finds what a bolt shall carry, and the turn or stretch that
// brings it there, by what the joint is aimed at with; the package joint makes
// the target of them:
//
//	share         F = p·R·As                     R proof or yield, MPa; As mm²
//	chart         F of a share of proof, times the derate of the softer material
//	gasket        Sb = SgT·Ag/(n·Ab), held between its limits (ASME PCC-1, appendix O)
//	structural    F = 0.7·fub·As (EN 1090-2, RCSC), by torque, part turn, combined or washer
//	elongation    ΔL = F·δB                      δB mm/N (VDI 2230)
//
// Loads are in N, stresses in MPa, torques in N·m, lengths in mm, turns in
// degrees. What is judged stands in rows; Limiting names the one that
// decides. The formulas hold below yield, for one bolt of a thread that the
// package thread lists, clamped concentrically. A maker's value always wins
// over a computed one.
package preload

import (
	"fmt"

	"dynacor/core/friction"
	"dynacor/core/refusal"
	"dynacor/core/thread"
)

// Bolt is what carries the load: thread, strength, lubrication, and the torque
// that a prevailing-torque nut takes for itself (N·m).
type Bolt struct {
	Thread     thread.Thread
	Strength   thread.Strength
	Lubricant  friction.Lubricant
	Prevailing float64
	Face       friction.Face // that turns; zero: of the usual head in the usual hole
}

// face is the bearing face of b.
func (b Bolt) face() friction.Face {
	if b.Face == (friction.Face{}) {
		return friction.FaceOf(b.Thread, b.Thread.HeadOf(""))
	}
	return b.Face
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
