package drill

import (
	"fmt"
	"math"
	"math/rand/v2"

	"dynacor/core/crib"
	"dynacor/core/refusal"
	"dynacor/core/unit"
)

// Regulator is the regulator of a pump whose pressure drifts as its oil warms: it is brought up to a
// value from below and held there.
//
//	dp/dt = (q(t)·(1 + d(t)) − p)/τ,  d(t) = w·t + a·sin(2πt/T + φ)
//
// with q what the regulator stands at. The model is ours: no more than enough to make a hand look
// at the gauge.
type Regulator struct {
	Gauge crib.Tool
	To    float64 // what is to be held, in the gauge's unit
	Step  float64 // of the regulator, in the gauge's unit
	Off   float64 // as far from it as still counts, in the gauge's unit
	Most  float64 // that the tool on the hose bears, in the gauge's unit
	Warms float64 // w, 1/s
	Sways float64 // a
	Slow  float64 // T, s
	Phase float64 // φ, rad
}

// Move is a turn of the regulator: from At on it stands at so many steps.
type Move struct {
	At float64 // s
	To int     // steps from shut
}

// How long it is held, and how long somebody has for it, s.
const (
	HoldFor   = 5.0
	HoldTime  = 60.0
	lag       = 0.6  // τ, s
	tick      = 0.05 // of the model, s
	mostMoves = 2000
)

func newRegulator(r *rand.Rand, m Material) Regulator {
	list := m.where(func(t crib.Tool) bool {
		_, err := t.Shows(0)
		return err == nil && t.Kind == crib.Gauge && t.Scale.Minor <= t.Most/10
	})
	g := list[r.IntN(len(list))]
	out := Regulator{Gauge: g, Warms: (0.003 + 0.004*r.Float64()) * float64(1-2*r.IntN(2)), Sways: 0.01 + 0.015*r.Float64(),
		Slow: 9 + 5*r.Float64(), Phase: 2 * math.Pi * r.Float64()}
	mark := g.Scale.Minor
	if mark == 0 {
		mark = g.Most / 100
	}
	out.To = unit.Round(g.Most*(0.3+0.3*r.Float64()), mark)
	out.Step, out.Off = g.Most/200, math.Max(g.Most/50, mark/2)
	out.Most = out.To + math.Max(0.08*g.Most, 2*out.Off)
	return out
}

// Stood is how the pressure stands at a time.
type Stood struct {
	At       float64 // s
	Pressure float64 // in the gauge's unit
	Held     float64 // for how long it is within by now, s
	Over     bool    // it was above what the tool bears
	Done     bool    // it was held long enough, went over, or the time is up
}

// Stands is how the pressure stands when so much was turned. It ends where the task does.
func (g Regulator) Stands(moves []Move, until float64) (Stood, error) {
	if err := refusal.Finite("at", until); err != nil {
		return Stood{}, err
	}
	if len(moves) > mostMoves {
		return Stood{}, refusal.Number(refusal.TooLarge, "moves", float64(len(moves)), mostMoves, "turns",
			fmt.Sprintf("%d turns of a regulator; at most %d are taken.", len(moves), mostMoves), "Begin anew.")
	}
	for i, x := range moves {
		if err := refusal.Finite("moves", x.At); err != nil {
			return Stood{}, err
		}
		if x.To < 0 || i > 0 && x.At < moves[i-1].At {
			return Stood{}, refusal.New(refusal.Contradicts, "moves", "Turns are one after the other, from shut.", "Begin anew.")
		}
	}
	var s Stood
	next, to := 0, 0.0
	for n := 1; s.At < math.Min(until, HoldTime) && !s.Done; n++ {
		s.At = float64(n) * tick
		for next < len(moves) && moves[next].At <= s.At {
			to = float64(moves[next].To) * g.Step
			next++
		}
		drift := g.Warms*s.At + g.Sways*math.Sin(2*math.Pi*s.At/g.Slow+g.Phase)
		s.Pressure += (to*(1+drift) - s.Pressure) * tick / lag
		if s.Over = s.Pressure > g.Most; math.Abs(s.Pressure-g.To) <= g.Off {
			s.Held += tick
		} else {
			s.Held = 0
		}
		s.Done = s.Over || s.Held >= HoldFor-tick/2
	}
	s.Done = s.Done || s.At >= HoldTime-tick/2
	s.Pressure = math.Max(0, s.Pressure)
	return s, nil
}

func (g Regulator) judge(moves []Move) (Judged, error) {
	s, err := g.Stands(moves, HoldTime)
	out := Judged{Right: g.To, Holds: err == nil && !s.Over && s.Held >= HoldFor-tick/2}
	u := g.Gauge.Unit
	switch {
	case s.Over:
		out.Why = fmt.Sprintf("It went above %.4g %s, which is more than the tool bears. Come up to the value from below, in small turns.",
			g.Most, u)
	case out.Holds:
		out.Why = fmt.Sprintf("It was held within %.4g %s of %.4g %s for %g s.", g.Off, u, g.To, u, HoldFor)
	default:
		out.Why = fmt.Sprintf("It was never held within %.4g %s of %.4g %s for %g s. The pump drifts: look at the gauge, and follow.", g.Off, u,
			g.To, u, HoldFor)
	}
	return out, err
}
