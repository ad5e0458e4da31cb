// Package elastic shows what tightening one bolt does to the others.
//
// A bolted ring is a beam, bent round the bolt circle, on an elastic
// foundation: the gasket and the flange under it. A unit load at one place
// closes the joint at the arc distance s from it by
//
//	w(s) = λ/(2k)·e^(−λs)·(cos λs + sin λs),  λ = (k/(4EI))^(1/4)
//
// summed over the ring's images s + jC, C = π·BCD (Hetényi, Beams on Elastic
// Foundation). k is the foundation per arc, N/mm per mm (MPa); EI the bending
// stiffness of the ring, N·mm²; λ in 1/mm; w in mm/N. With Cij = w(|si − sj|)
// and δB the bolt's own compliance, mm/N, the loads F (N) of nut advances a
// (mm) are those of
//
//	(δB·I + C)·F = a
//
// where contact is one-sided: a bolt is loaded and the equation holds, or it
// is loose, F = 0, and its advance does not reach the closure at it. This is a
// linear complementarity problem with a positive definite matrix, so it has
// one solution, and it is solved as one.
//
// A bolt brought to a load turns only itself, and does not turn when it
// already carries that load or more. Valid for bolts and joint that stay
// elastic, a ring of one section, and loads small against what bends the
// flange out of plane; creep comes in only as the share that Relaxation keeps.
package elastic

import (
	"fmt"
	"math"

	"dynacor/core/refusal"
)

// MostBolts is the largest ring that is simulated.
const MostBolts = 200

// Ring is a joint as the model sees it.
type Ring struct {
	Bolts      int
	BoltCircle float64 // mm
	Foundation float64 // k, N/mm per mm of arc
	Stiffness  float64 // EI, N·mm²
	Bolt       float64 // δB, mm/N
}

// Check refuses what is no ring.
func (r Ring) Check() error {
	if r.Bolts < 2 || r.Bolts > MostBolts {
		return refusal.Number(refusal.OutOfRange, "bolts", float64(r.Bolts), MostBolts, "bolts",
			fmt.Sprintf("%d bolts; a ring of 2 to %d is simulated.", r.Bolts, MostBolts), "Count the holes.")
	}
	return refusal.First(refusal.Within("boltCircle", r.BoltCircle, 100_000, "mm"), refusal.Positive("foundation", r.Foundation, "MPa"),
		refusal.Positive("stiffness", r.Stiffness, "N·mm²"), refusal.Within("bolt", r.Bolt, 1, "mm/N"))
}

// Lambda returns λ, 1/mm: its inverse is about as far as a bolt is felt.
func (r Ring) Lambda() float64 { return math.Sqrt(math.Sqrt(r.Foundation / (4 * r.Stiffness))) }

// Reach returns λ times the distance between two bolts: above about 3 they do
// not feel each other, below about 1 they do strongly.
func (r Ring) Reach() float64 { return r.Lambda() * math.Pi * r.BoltCircle / float64(r.Bolts) }

// Closure returns w, mm/N, at arc distance s (mm, 0 to C) from a unit load.
// The sum over all images is geometric, and taken in closed form: with
// q = (−1+i)·λ,
//
//	Σ e^(−λx)(cos λx + sin λx) = Re (1−i)·(e^(qs) + e^(q(C−s)))/(1 − e^(qC))
func (r Ring) Closure(s float64) float64 {
	l := r.Lambda()
	q, c := complex(-l, l), math.Pi*r.BoltCircle
	sum := (1 - 1i) * (cexp(q*complex(s, 0)) + cexp(q*complex(c-s, 0))) / -expm1(q*complex(c, 0))
	return l / (2 * r.Foundation) * real(sum)
}

// Around returns how far the joint closes under loads (N, by position), mm, at
// places evenly spaced round the ring from the first bolt on: the picture of a
// flange that is drawn down at its bolts and stands off between them.
func (r Ring) Around(loads []float64, places int) ([]float64, error) {
	if err := r.Check(); err != nil {
		return nil, err
	}
	if len(loads) != r.Bolts {
		return nil, refusal.Number(refusal.Contradicts, "loads", float64(len(loads)), float64(r.Bolts), "bolts",
			fmt.Sprintf("%d loads for %d bolts.", len(loads), r.Bolts), "Give one for each bolt.")
	}
	for i, f := range loads {
		if err := refusal.NotNegative(fmt.Sprintf("loads.%d", i), f, "N"); err != nil {
			return nil, err
		}
	}
	if places < 1 || places > 10_000 {
		return nil, refusal.Number(refusal.OutOfRange, "places", float64(places), 10_000, "",
			fmt.Sprintf("%d places; 1 to 10 000 are worked out.", places), "360 make a smooth line.")
	}
	// In the steps that places and bolts have in common, each closure is worked out once.
	steps := places / gcd(places, r.Bolts) * r.Bolts
	c, by, known := math.Pi*r.BoltCircle, make([]float64, steps/2+1), make([]bool, steps/2+1)
	out := make([]float64, places)
	for p := range out {
		for i, f := range loads {
			apart := p*(steps/places) - i*(steps/r.Bolts)
			apart = max(apart, -apart)
			apart = min(apart, steps-apart)
			if !known[apart] {
				by[apart], known[apart] = r.Closure(c*float64(apart)/float64(steps)), true
			}
			out[p] += f * by[apart]
		}
	}
	return out, nil
}

func gcd(a, b int) int {
	for b > 0 {
		a, b = b, a%b
	}
	return a
}

// cexp is e^z.
func cexp(z complex128) complex128 {
	size := exp(real(z))
	sin, cos := math.Sincos(imag(z))
	return complex(size*cos, size*sin)
}

// expm1 is e^z − 1 without loss near zero, where a stiff ring has it.
func expm1(z complex128) complex128 {
	a, b := real(z), imag(z)
	half := math.Sin(b / 2)
	return complex(math.Expm1(a)*math.Cos(b)-2*half*half, exp(a)*math.Sin(b))
}

// Compliance returns C, mm/N, row by row.
func (r Ring) Compliance() [][]float64 {
	n := r.Bolts
	step := math.Pi * r.BoltCircle / float64(n)
	w := make([]float64, n)
	for k := range w {
		w[k] = r.Closure(float64(min(k, n-k)) * step) // the shorter way: exactly symmetric
	}
	c := make([][]float64, n)
	for i := range c {
		c[i] = make([]float64, n)
		for j := range c[i] {
			c[i][j] = w[max(i-j, j-i)]
		}
	}
	return c
}
