// Package friction turns torque into load and back, by both schools.
//
// Nut factor:              T = K·d·F/1000
// Friction coefficients:   T = F/1000·( P/(2π) + µG·d2/(2·cos 30°) + µK·DK/2 )
//
// with T in N·m, d, d2, P and the mean bearing diameter DK = (dw+dh)/2 in mm,
// F in N. MG, the thread's share, is the first two terms. Sources: VDI 2230,
// DIN EN ISO 16047, ASME PCC-1 appendix K. Valid for 60° threads, below yield.
package friction

import (
	"fmt"
	"math"

	"dynacor/core/refusal"
	"dynacor/core/thread"
)

// Beyond these no number is a nut factor, a coefficient of friction or a bolt.
const (
	mostK        = 5
	mostMu       = 3
	mostDiameter = 1000 // mm
)

// cos30 is the cosine of half the thread angle of 60°.
var cos30 = math.Cos(math.Pi / 6)

// TorqueFromLoad returns the setting in N·m that brings a bolt of diameter d
// (mm) to the load (N) at nut factor k. A prevailing-torque nut adds its own
// torque (N·m) to the setting, not to the load.
func TorqueFromLoad(k, d, load, prevailing float64) (float64, error) {
	if err := refusal.First(refusal.Within("K", k, mostK, ""), refusal.Within("d", d, mostDiameter, "mm"),
		refusal.Positive("F", load, "N"), refusal.NotNegative("prevailing", prevailing, "N·m")); err != nil {
		return 0, err
	}
	return k*d*load/1000 + prevailing, nil
}

// LoadFromTorque returns the load in N that a setting (N·m) gives; it is the
// inverse of TorqueFromLoad.
func LoadFromTorque(k, d, torque, prevailing float64) (float64, error) {
	if err := refusal.First(refusal.Within("K", k, mostK, ""), refusal.Within("d", d, mostDiameter, "mm"),
		refusal.Positive("T", torque, "N·m"), refusal.NotNegative("prevailing", prevailing, "N·m")); err != nil {
		return 0, err
	}
	if torque < prevailing {
		return 0, refusal.Number(refusal.TooSmall, "T", torque, prevailing, "N·m",
			fmt.Sprintf("%.4g N·m does not even overcome the nut's prevailing torque of %.4g N·m.", torque, prevailing),
			"Raise the torque or check the nut.")
	}
	return 1000 * (torque - prevailing) / (k * d), nil
}

// Face is the ring on which the turning part bears: outside and hole
// diameter, mm.
type Face struct{ Outside, Hole float64 }

// MeanDiameter returns DK, mm.
func (f Face) MeanDiameter() float64 { return (f.Outside + f.Hole) / 2 }

func (f Face) check() error {
	if err := refusal.First(refusal.Positive("dw", f.Outside, "mm"), refusal.Positive("dh", f.Hole, "mm")); err != nil {
		return err
	}
	if f.Hole >= f.Outside {
		return refusal.Number(refusal.Contradicts, "dh", f.Hole, f.Outside, "mm",
			fmt.Sprintf("The bearing face of %.4g mm must be wider than its hole of %.4g mm.", f.Outside, f.Hole), "")
	}
	return nil
}

// bears is how much of its width across flats a hexagon bears on.
const bears = 0.95

// FaceOf returns the bearing face of a head on t in its usual hole.
func FaceOf(t thread.Thread, h thread.Head) Face { return Face{bears * t.Flats(h), t.ClearanceHole()} }

// Split is a torque with the share that the thread takes, both N·m, and the
// nut factor it amounts to.
type Split struct{ Torque, Thread, K float64 }

// TorqueFromCoefficients returns the torque that brings t to load (N) with
// friction coefficients in the thread and under the head or nut.
func TorqueFromCoefficients(t thread.Thread, muThread, muHead float64, face Face, load float64) (Split, error) {
	if err := refusal.First(coefficient("muThread", muThread), coefficient("muHead", muHead),
		face.check(), refusal.Positive("F", load, "N")); err != nil {
		return Split{}, err
	}
	inThread := t.Pitch/(2*math.Pi) + muThread*t.PitchDiameter()/(2*cos30)
	total := inThread + muHead*face.MeanDiameter()/2
	return Split{load / 1000 * total, load / 1000 * inThread, total / t.Diameter}, nil
}

func coefficient(field string, mu float64) error {
	if err := refusal.NotNegative(field, mu, ""); err != nil || mu == 0 {
		return err
	}
	return refusal.Within(field, mu, mostMu, "")
}

// CoefficientFromK returns the one coefficient µ, the same in the thread and
// under the head, that amounts to nut factor k:
// µ = (K·d − P/(2π)) / ( d2/(2·cos 30°) + DK/2 ).
func CoefficientFromK(t thread.Thread, k float64, face Face) (float64, error) {
	if err := refusal.First(refusal.Within("K", k, mostK, ""), face.check()); err != nil {
		return 0, err
	}
	free := t.Pitch / (2 * math.Pi)
	if k*t.Diameter < free {
		return 0, refusal.Number(refusal.TooSmall, "K", k, free/t.Diameter, "",
			fmt.Sprintf("K %.4g is below %.4g, what the pitch alone needs: friction would be negative.", k, free/t.Diameter), "")
	}
	return (k*t.Diameter - free) / (t.PitchDiameter()/(2*cos30) + face.MeanDiameter()/2), nil
}

// Stress is what a bolt feels while it is tightened, MPa, and its share of
// the yield stress.
type Stress struct{ Tension, Torsion, Combined, Utilisation float64 }

// WhileTightening returns the stress of t under load (N) with threadTorque
// (N·m, MG) still in it, and the torque that a prevailing nut twists the shank
// with besides (N·m): σ = F/As, τ = 12·1000·(MG + prevailing)/(π·dS³),
// σred = √(σ²+3τ²) (VDI 2230; the fully plastic modulus, as the shank's edge may
// yield). Above yield the number is still given.
func WhileTightening(t thread.Thread, load, threadTorque, prevailing, yield float64) (Stress, error) {
	if err := refusal.First(refusal.Positive("F", load, "N"), refusal.NotNegative("MG", threadTorque, "N·m"),
		refusal.NotNegative("prevailing", prevailing, "N·m"), refusal.Positive("yield", yield, "MPa")); err != nil {
		return Stress{}, err
	}
	sigma := load / t.StressArea()
	tau := (threadTorque + prevailing) / twistModulus(t)
	combined := math.Sqrt(sigma*sigma + 3*tau*tau)
	return Stress{sigma, tau, combined, combined / yield}, nil
}

// twistModulus is the torque (N·m) that twists the shank of t, fully plastic, by 1 MPa.
func twistModulus(t thread.Thread) float64 {
	return math.Pi * math.Pow(t.StressDiameter(), 3) / (12 * 1000)
}

// LoadAtYield returns the load (N) at which t yields while it is turned, where
// its thread takes threadShare of torque for each newton (N·m/N) and a nut its
// prevailing torque besides (N·m): the F whose σred is yield. A nut whose own
// torque twists the bolt past yield leaves nothing to load it with: refused.
func LoadAtYield(t thread.Thread, threadShare, prevailing, yield float64) (float64, error) {
	if err := refusal.First(refusal.NotNegative("MG", threadShare, "N·m/N"), refusal.NotNegative("prevailing", prevailing, "N·m"),
		refusal.Positive("yield", yield, "MPa")); err != nil {
		return 0, err
	}
	// (a·F)² + 3·(b·F + c)² = yield², in F.
	w := twistModulus(t)
	a, b, c := 1/t.StressArea(), threadShare/w, prevailing/w
	left := yield*yield - 3*c*c
	if left <= 0 {
		most := yield / math.Sqrt(3) * w
		return 0, refusal.Number(refusal.TooLarge, "prevailing", prevailing, most, "N·m",
			fmt.Sprintf("A nut that takes %.4g N·m for itself twists %s past its yield, which is at %.4g N·m.", prevailing, t.Name, most),
			"Check the nut's torque and its unit.")
	}
	p := a*a + 3*b*b
	return (math.Sqrt(9*b*b*c*c+p*left) - 3*b*c) / p, nil
}

// Band is the load a torque gives: nominal, the worst cases either way, N,
// and the expected relative spread √(a²+b²).
type Band struct{ Nominal, Min, Max, Spread float64 }

// Scatter returns the band of load for a torque (N·m) with a tool accurate to
// ±toolRel and a nut factor known to ±kRel, both 2 sigma and as fractions.
func Scatter(torque, k, d, toolRel, kRel float64) (Band, error) {
	if err := refusal.First(refusal.Positive("T", torque, "N·m"), refusal.Within("K", k, mostK, ""), refusal.Within("d", d, mostDiameter,
		"mm"),
		refusal.Scatter("toolRel", toolRel), refusal.Scatter("kRel", kRel)); err != nil {
		return Band{}, err
	}
	at := func(t, k float64) float64 { return 1000 * t / (k * d) }
	return Band{at(torque, k), at(torque*(1-toolRel), k*(1+kRel)), at(torque*(1+toolRel), k*(1-kRel)), math.Hypot(toolRel, kRel)}, nil
}

// EquivalentTorque returns the torque (N·m) that gives on the job, at kJob,
// the load that torque gives at the condition it was specified for, kSpec.
func EquivalentTorque(torque, kSpec, kJob float64) (float64, error) {
	if err := refusal.First(refusal.Positive("T", torque, "N·m"), refusal.Within("kSpec", kSpec, mostK, ""),
		refusal.Within("kJob", kJob, mostK, "")); err != nil {
		return 0, err
	}
	return torque * kJob / kSpec, nil
}
