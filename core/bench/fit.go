package bench

import (
	"fmt"
	"math"

	"dynacor/core/elastic"
	"dynacor/core/refusal"
)

// Fitted is what readings of a run say of its gasket and its friction: least
// squares over turns and residual torques, in which what was supposed before
// counts as one more reading of each.
type Fitted struct {
	Gasket   Figure  // k, with two standard uncertainties to each side
	Stiffer  float64 // the middle of Gasket over what was supposed
	Friction Figure  // load for a torque, over what the plan's nut factor means
	Offset   float64 // of a turn from snug: what the nuts went before it, mm
	Readings int
	Misfit   float64 // root mean square of what is left, in standard uncertainties of a reading
	Says     bool    // the readings make the gasket's range at least a fifth narrower
}

// How well readings are read, standard uncertainties: ours.
const (
	readsAngle = 1.0  // degrees
	readsRatio = 0.03 // of the torque
	snugs      = 0.15 // mm that nuts may go before snug
	// LeastReadings is how few are not worth fitting to.
	LeastReadings = 4
)

// observed is what was read of one pull, or of one bolt at the end.
type observed struct {
	pull  int // its place among the pulls; −1: at the end
	bolt  int
	value float64 // mm, or a ratio
	total bool    // of a stage: from snug on
	error float64
}

func (r Replay) observed() (out []observed) {
	turn := r.Pitch / 360
	for i, p := range r.Pulls {
		if p.Angle > 0 {
			out = append(out, observed{i, p.Bolt, p.Angle * turn, p.Round == 0, readsAngle * turn})
		}
	}
	for _, x := range r.Residual {
		out = append(out, observed{-1, x.Bolt, x.Ratio, false, readsRatio})
	}
	return out
}

// unknowns are ln of the gasket's stiffness over the supposed, ln of the load
// over that of the plan's nut factor, and the offset, mm.
type unknowns [3]float64

// Fit finds what the readings of a run say. Fewer than LeastReadings are
// refused.
func (r Replay) Fit() (Fitted, error) {
	if err := r.check(); err != nil {
		return Fitted{}, err
	}
	read := r.observed()
	if len(read) < LeastReadings {
		return Fitted{}, refusal.Number(refusal.Missing, "readings", float64(len(read)), LeastReadings, "readings",
			fmt.Sprintf("%d turns or residual torques were read; %d are needed to fit to.", len(read), LeastReadings),
			"Read the angle of pulls, or the residual torque of a sample.")
	}
	if err := refusal.Within("pitch", r.Pitch, 20, "mm"); err != nil {
		return Fitted{}, err
	}
	prior := unknowns{supposedOf(r.Subject.Gasket), math.Log1p(r.Subject.Friction.Middle / 2), snugs}
	x, left, normal, err := r.leastSquares(read, prior)
	if err != nil {
		return Fitted{}, err
	}
	out := Fitted{Readings: len(read), Offset: x[2], Misfit: left}
	spread := max(left, 1) // readings that lie farther from the model than they should say less
	u := inverse(normal)
	k := 2 * spread * math.Sqrt(u[0][0])
	out.Gasket = Figure{r.Subject.Gasket.Middle * math.Exp(x[0]-k), r.Subject.Gasket.Middle * math.Exp(x[0]),
		r.Subject.Gasket.Middle * math.Exp(x[0]+k), ByFit, fmt.Sprintf("Fitted to %d readings of a signed joint.", len(read))}
	out.Stiffer = math.Exp(x[0])
	f := 2 * spread * math.Sqrt(u[1][1])
	out.Friction = Figure{math.Exp(x[1] - f), math.Exp(x[1]), math.Exp(x[1] + f), ByFit,
		fmt.Sprintf("Fitted to %d readings of a signed joint.", len(read))}
	out.Says = k < 0.8*2*prior[0]
	return out, nil
}

// supposedOf is the standard uncertainty of ln of a figure: its range is two of
// them to each side.
func supposedOf(f Figure) float64 { return max(math.Log(f.High/f.Low)/4, 0.01) }

// The bounds of the search.
const (
	mostSteps = 40
	farthest  = 5.0 // of ln k
	enough    = 1e-9
)

// leastSquares searches by Gauss and Newton's steps, damped after Levenberg and
// Marquardt. It returns the unknowns, the root mean square of what is left, and
// the normal matrix there.
func (r Replay) leastSquares(read []observed, prior unknowns) (x unknowns, left float64, normal [3][3]float64, err error) {
	f, err := r.misfits(read, x, prior)
	if err != nil {
		return x, 0, normal, err
	}
	damp := 1e-3
	for range mostSteps {
		j, err := r.slopes(read, x, prior, f)
		if err != nil {
			return x, 0, normal, err
		}
		var gradient unknowns
		normal = [3][3]float64{}
		for i, row := range j {
			for a := range row {
				gradient[a] += row[a] * f[i]
				for b := range row {
					normal[a][b] += row[a] * row[b]
				}
			}
		}
		better := false
		for range 12 {
			m := normal
			for a := range m {
				m[a][a] *= 1 + damp
			}
			step := inverse(m)
			next := x
			for a := range next {
				for b := range next {
					next[a] -= step[a][b] * gradient[b]
				}
			}
			next[0] = min(max(next[0], -farthest), farthest)
			to, err := r.misfits(read, next, prior)
			if err == nil && squares(to) < squares(f) {
				better = squares(f)-squares(to) > enough*squares(f)
				x, f, damp = next, to, damp/5
				break
			}
			damp *= 4
		}
		if !better {
			break
		}
	}
	sum := squares(f[:len(read)])
	return x, math.Sqrt(sum / float64(max(len(read)-len(x), 1))), normal, nil
}

func squares(v []float64) (sum float64) {
	for _, x := range v {
		sum += x * x
	}
	return sum
}

// slopes are the misfits' changes with each unknown.
func (r Replay) slopes(read []observed, x, prior unknowns, f []float64) ([]unknowns, error) {
	const h = 1e-4
	out := make([]unknowns, len(f))
	for a := range x {
		moved := x
		moved[a] += h
		to, err := r.misfits(read, moved, prior)
		if err != nil {
			return nil, err
		}
		for i := range out {
			out[i][a] = (to[i] - f[i]) / h
		}
	}
	return out, nil
}

// misfits are what the model says less what was read, in standard uncertainties,
// and the unknowns against what was supposed of them.
func (r Replay) misfits(read []observed, x, prior unknowns) ([]float64, error) {
	turned, total, end, err := r.turned(math.Exp(x[0]), math.Exp(x[1]))
	if err != nil {
		return nil, err
	}
	out := make([]float64, 0, len(read)+len(x))
	for _, o := range read {
		says := 0.0
		switch {
		case o.pull < 0:
			says = end[o.bolt-1] / (math.Exp(x[1]) * r.Subject.Load)
		case o.total:
			says = total[o.pull] - x[2]
		default:
			says = turned[o.pull]
		}
		out = append(out, (says-o.value)/o.error)
	}
	for a := range x {
		out = append(out, x[a]/prior[a])
	}
	return out, nil
}

// turned is how far each pull turned its nut on a gasket stiffer by a factor,
// with loads higher by another, mm; how far that nut was down in all; and the
// loads at the end, N.
func (r Replay) turned(stiffer, higher float64) (each, total, end []float64, err error) {
	ring := r.Subject.Middle()
	ring.Foundation *= stiffer
	s := r.schedule(r.goes(), higher)
	s.Relaxation = r.Subject.Kept.Middle
	down := make([]float64, r.Subject.Bolts)
	made, err := ring.Run(s, func(p elastic.Pulled) {
		b := p.Bolts[0] - 1
		down[b] += p.Advance
		each, total = append(each, p.Advance), append(total, down[b])
	})
	if err != nil {
		return nil, nil, nil, err
	}
	return each, total, made.Loads[len(made.Loads)-1], nil
}

// inverse of a symmetric positive definite matrix of three, by its cofactors.
func inverse(m [3][3]float64) (out [3][3]float64) {
	det := 0.0
	for a := range 3 {
		for b := range 3 {
			p, q := (a+1)%3, (a+2)%3
			s, t := (b+1)%3, (b+2)%3
			out[b][a] = m[p][s]*m[q][t] - m[p][t]*m[q][s]
		}
		det += m[0][a] * out[a][0]
	}
	for a := range out {
		for b := range out[a] {
			out[a][b] /= det
		}
	}
	return out
}
