// Package stay answers what a joint's load meets after the pull: will it stay?
//
//	thread        A = π·D1·(L/P)·(P/2 + (d2 − D1)/√3) of the bolt, π·d·(L/P)·(P/2 + (d − d2)/√3) of
//	              the part; each breaks at 0.6·Rm·A, the bolt at Rm·As
//	bearing       p = F/(π/4·(dw² − dh²))
//	embedding     F lost = fz/(δB + δP)
//	temperature   F' = (F·(δB + δP) + L·(αP·ΔTP − αB·ΔTB))/(δB/eB + δP/eP)
//	external      Φ = n·δP/(δB + δP); bolt F + Φ·FA, clamp left F − (1 − Φ)·FA
//
// Loads are in N, lengths in mm, fz in µm, compliances δ in mm/N, temperatures
// in K, expansions α in 1/K, stresses in MPa. Sources: VDI 2230, ISO 898-1
// annex, FED-STD-H28 for the shear areas at basic sizes. Valid below yield, for
// a bolt clamped concentrically, and parts of one temperature each.
package stay

import (
	"fmt"
	"math"

	"dynacor/core/refusal"
	"dynacor/core/thread"
	"dynacor/core/unit"
)

// shear is the shear strength as a share of the tensile strength.
const shear = 0.6

// Weakest is what breaks first.
type Weakest string

// What can break.
const (
	BoltItself Weakest = "bolt"
	BoltThread Weakest = "bolt thread"
	PartThread Weakest = "part thread"
)

// Engagement is what a length of engaged thread carries.
type Engagement struct {
	AreaBolt, AreaPart float64 // in shear, mm²
	LoadBolt, LoadPart float64 // at which each strips, N
	Breaks             float64 // the bolt itself, N
	Weakest            Weakest
	Least              float64 // length at which the bolt just breaks first, mm
}

// Engaged returns what length (mm) of t carries, of a bolt and a part of tensile
// strengths rmBolt and rmPart, MPa. The bolt should break first.
func Engaged(t thread.Thread, length, rmBolt, rmPart float64) (Engagement, error) {
	if err := refusal.First(refusal.Positive("length", length, "mm"), refusal.Positive("rmBolt", rmBolt, "MPa"),
		refusal.Positive("rmPart", rmPart, "MPa")); err != nil {
		return Engagement{}, err
	}
	d, d1, d2, p := t.Diameter, t.Diameter-1.082532*t.Pitch, t.PitchDiameter(), t.Pitch
	perBolt := math.Pi * d1 / p * (p/2 + (d2-d1)/math.Sqrt(3))
	perPart := math.Pi * d / p * (p/2 + (d-d2)/math.Sqrt(3))
	e := Engagement{AreaBolt: perBolt * length, AreaPart: perPart * length, Breaks: rmBolt * t.StressArea()}
	e.LoadBolt, e.LoadPart = shear*rmBolt*e.AreaBolt, shear*rmPart*e.AreaPart
	e.Least = e.Breaks / (shear * math.Min(rmBolt*perBolt, rmPart*perPart))
	e.Weakest = BoltItself
	if strips := math.Min(e.LoadBolt, e.LoadPart); strips < e.Breaks {
		e.Weakest = BoltThread
		if e.LoadPart < e.LoadBolt {
			e.Weakest = PartThread
		}
	}
	return e, nil
}

// Bearing is the pressure under a head or washer, against what the part takes.
type Bearing struct {
	Pressure float64 // MPa
	Share    float64 // of the limit
	Holds    bool
}

// Bears returns the pressure of load (N) on the ring from the hole dh to the
// outside dw, mm, against the base's limit, MPa.
func Bears(load, dw, dh, limit float64) (Bearing, error) {
	if err := refusal.First(refusal.NotNegative("F", load, "N"), refusal.Positive("dw", dw, "mm"), refusal.NotNegative("dh", dh, "mm"),
		refusal.Positive("limit", limit, "MPa")); err != nil {
		return Bearing{}, err
	}
	if dh >= dw {
		return Bearing{}, refusal.Number(refusal.Contradicts, "dh", dh, dw, "mm",
			fmt.Sprintf("The bearing face of %.4g mm must be wider than its hole of %.4g mm.", dw, dh), "Measure both.")
	}
	p := load / (math.Pi / 4 * (dw*dw - dh*dh))
	return Bearing{p, p / limit, unit.AtMost(p, limit)}, nil
}

// Springs are bolt and parts in one joint, mm/N each.
type Springs struct{ Bolt, Parts float64 }

func (s Springs) check() error {
	return refusal.First(refusal.Positive("deltaB", s.Bolt, "mm/N"), refusal.Positive("deltaP", s.Parts, "mm/N"))
}

// Embedding returns the load lost (N) where the surfaces settle by fz, µm.
func (s Springs) Embedding(fz float64) (float64, error) {
	if err := refusal.First(refusal.NotNegative("fz", fz, "µm"), s.check()); err != nil {
		return 0, err
	}
	return fz / 1000 / (s.Bolt + s.Parts), nil
}

// Warm is a joint at another temperature than it was made at.
type Warm struct {
	Length                  float64 // clamped, mm
	ExpandsBolt             float64 // 1/K
	ExpandsParts            float64
	WarmerBolt, WarmerParts float64 // than when it was made, K
	ModulusBolt             float64 // as a share of that when it was made; zero: the same
	ModulusParts            float64
}

// Moduli are those of bolt and parts as shares of what they were when it was made.
func (w Warm) Moduli() (bolt, parts float64) {
	bolt, parts = w.ModulusBolt, w.ModulusParts
	if bolt == 0 {
		bolt = 1
	}
	if parts == 0 {
		parts = 1
	}
	return bolt, parts
}

// grown is by how much more the parts grow than the bolt, mm, and give the give of
// both, mm/N, in w.
func (s Springs) grown(load float64, w Warm) (grown, give float64, err error) {
	eB, eP := w.Moduli()
	if err := refusal.First(refusal.NotNegative("F", load, "N"), s.check(), refusal.Positive("length", w.Length, "mm"),
		refusal.NotNegative("alphaB", w.ExpandsBolt, "1/K"), refusal.NotNegative("alphaP", w.ExpandsParts, "1/K"),
		refusal.Finite("dTB", w.WarmerBolt), refusal.Finite("dTP", w.WarmerParts),
		refusal.Within("eB", eB, 2, ""), refusal.Within("eP", eP, 2, "")); err != nil {
		return 0, 0, err
	}
	return w.Length * (w.ExpandsParts*w.WarmerParts - w.ExpandsBolt*w.WarmerBolt), s.Bolt/eB + s.Parts/eP, nil
}

// At returns the load (N) that load comes to in w; it is zero, and loose true,
// where the bolt has grown off its joint.
func (s Springs) At(load float64, w Warm) (at float64, loose bool, err error) {
	grown, give, err := s.grown(load, w)
	if err != nil {
		return 0, false, err
	}
	drawn := load*(s.Bolt+s.Parts) + grown
	if drawn <= 0 {
		return 0, true, nil
	}
	return drawn / give, false, nil
}

// For returns the load (N) to make a joint to, so that it has load in w: At, solved
// for F. It refuses a load that the joint passes by itself as it warms.
func (s Springs) For(load float64, w Warm) (float64, error) {
	grown, give, err := s.grown(load, w)
	if err != nil {
		return 0, err
	}
	made := (load*give - grown) / (s.Bolt + s.Parts)
	if made <= 0 {
		return 0, refusal.Number(refusal.TooSmall, "service", load, grown/give, "N",
			fmt.Sprintf("As it warms the joint comes to %.4g kN by itself; %.4g kN cannot be aimed at.", grown/give/1000, load/1000),
			"Aim at more, or check the temperatures.")
	}
	return made, nil
}

// Pulled is what acts on a joint from outside.
type Pulled struct {
	Factor float64 // n, where the load enters: a fraction
	Axial  float64 // FA, N
	Across float64 // FQ, N
	Mu     float64 // between the parts
	Planes int     // how many planes slide
}

// Outside is what a load from outside leaves.
type Outside struct {
	Phi   float64
	Bolt  float64 // N
	Clamp float64 // left between the parts, N
	Opens bool
	Slip  float64 // across, at which it slips, N
	Slips bool
}

// Under returns what a joint made to load (N) comes to under p.
func (s Springs) Under(load float64, p Pulled) (Outside, error) {
	if err := refusal.First(refusal.NotNegative("F", load, "N"), s.check(), refusal.Fraction("n", p.Factor),
		refusal.NotNegative("FA", p.Axial, "N"), refusal.NotNegative("FQ", p.Across, "N"),
		refusal.NotNegative("mu", p.Mu, "")); err != nil {
		return Outside{}, err
	}
	if p.Planes < 1 {
		return Outside{}, refusal.Number(refusal.TooSmall, "planes", float64(p.Planes), 1, "planes",
			fmt.Sprintf("%d planes slide; a joint has at least 1.", p.Planes), "Count the faces between the parts.")
	}
	o := Outside{Phi: p.Factor * s.Parts / (s.Bolt + s.Parts)}
	o.Bolt = load + o.Phi*p.Axial
	o.Clamp = load - (1-o.Phi)*p.Axial
	if o.Clamp <= 0 {
		o.Clamp, o.Opens = 0, true
	}
	o.Slip = o.Clamp * p.Mu * float64(p.Planes)
	o.Slips = !unit.AtMost(p.Across, o.Slip)
	return o, nil
}
