package preload

import (
	"math"

	"dynacor/core/refusal"
	"dynacor/core/thread"
)

// Young's moduli where no better is known, MPa.
const (
	CarbonSteel    = 205_000.0
	StainlessSteel = 195_000.0
)

// Clamped is a bolt in its joint: lengths of plain shank and of loaded thread
// within the clamp, the clamped length, mm; moduli of bolt and parts, MPa.
type Clamped struct {
	Thread          thread.Thread
	Shank, Threaded float64
	TwoNuts         bool // a stud; else a head and a nut
	Length          float64
	Modulus         float64
	PartsModulus    float64 // zero: the bolt's
}

// Compliance is how much bolt and parts give, mm/N.
type Compliance struct{ Bolt, Parts float64 }

// Compliance returns, with AN = π/4·d² and Ar the root area,
//
//	δB = (0.5d/AN + Lshank/AN + Lthread/Ar + 0.4d/AN + 0.5d/Ar)/E
//	δP = 2·ln( 5(0.57735·L + 0.5d)/(0.57735·L + 2.5d) )/(0.57735·π·E·d)
//
// (VDI 2230 for the bolt; a pressure cone of 30° from a face of 1.5d for the
// parts, as in Shigley). With two nuts the nut's terms count twice and the
// head's not at all.
func (c Clamped) Compliance() (Compliance, error) {
	if c.PartsModulus == 0 {
		c.PartsModulus = c.Modulus
	}
	if err := refusal.First(refusal.Within("d", c.Thread.Diameter, thread.LargestDiameter, "mm"),
		refusal.NotNegative("shank", c.Shank, "mm"), refusal.NotNegative("threaded", c.Threaded, "mm"),
		refusal.Within("clampLength", c.Length, 100_000, "mm"), refusal.Positive("E", c.Modulus, "MPa"), refusal.Positive("partsE",
			c.PartsModulus, "MPa")); err != nil {
		return Compliance{}, err
	}
	d, an, ar := c.Thread.Diameter, math.Pi/4*c.Thread.Diameter*c.Thread.Diameter, c.Thread.RootArea()
	head, nut := 0.5*d/an, 0.4*d/an+0.5*d/ar
	if c.TwoNuts {
		head, nut = 0, 2*nut
	}
	cone := 0.57735 * c.Length
	return Compliance{
		Bolt:  (head + c.Shank/an + c.Threaded/ar + nut) / c.Modulus,
		Parts: 2 * math.Log(5*(cone+0.5*d)/(cone+2.5*d)) / (0.57735 * math.Pi * c.PartsModulus * d),
	}, nil
}

// Turn returns the nut's turn from snug, degrees, that gives load (N):
// θ = 360·F·(δB + δP)/P.
func (c Clamped) Turn(load float64) (float64, error) {
	k, err := c.giving(load)
	return 360 * load * (k.Bolt + k.Parts) / c.Thread.Pitch, err
}

// Stretch returns how much longer the bolt gets under load (N), mm:
// ΔL = F·δB. It is what a micrometer on the stud's end or ultrasound reads.
func (c Clamped) Stretch(load float64) (float64, error) {
	k, err := c.giving(load)
	return load * k.Bolt, err
}

// LoadAt returns the load, N, of a measured stretch in mm.
func (c Clamped) LoadAt(stretch float64) (float64, error) {
	if err := refusal.Positive("stretch", stretch, "mm"); err != nil {
		return 0, err
	}
	k, err := c.Compliance()
	if err != nil {
		return 0, err
	}
	return stretch / k.Bolt, nil
}

func (c Clamped) giving(load float64) (Compliance, error) {
	if err := refusal.Positive("F", load, "N"); err != nil {
		return Compliance{}, err
	}
	return c.Compliance()
}
