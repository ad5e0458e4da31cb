package elastic

import (
	"fmt"

	"dynacor/core/refusal"
	"dynacor/core/unit"
)

// Compared is a schedule with what it comes to on one joint: made once
// without scatter, and many times with it.
type Compared struct {
	Schedule Schedule
	Once     Outcome
	Minutes  float64 // of Once
	Many     Distribution
}

// Compare makes the same joint by several schedules, in the order given.
func (r Ring) Compare(schedules []Schedule, sc Scatter, t Trials, e Effort) ([]Compared, error) {
	if len(schedules) == 0 {
		return nil, refusal.New(refusal.Missing, "schedules", "There is nothing to compare.", "Choose two schools.")
	}
	if err := refusal.First(refusal.NotNegative("effort.pull", e.Pull, "s"), refusal.NotNegative("effort.pass", e.Pass, "s")); err != nil {
		return nil, err
	}
	out := make([]Compared, len(schedules))
	for i, s := range schedules {
		once, err := r.Run(s, nil)
		if err != nil {
			return nil, refusal.At(fmt.Sprintf("schedules.%d", i), err)
		}
		many, err := r.Simulate(s, sc, t)
		if err != nil {
			return nil, refusal.At(fmt.Sprintf("schedules.%d", i), err)
		}
		out[i] = Compared{s, once, once.Minutes(e), many}
	}
	return out, nil
}

// Reached is how a schedule first brought the spread within a wanted ratio.
type Reached struct {
	Schedule int // its place among those tried
	Pulls    int // until then
	Spread   Spread
}

// LeastPulls tries schedules, without scatter or creep, and returns the one
// that brings the ratio of highest to lowest load to wanted with the fewest
// pulls. A school's last target must have been reached: only pulls of its
// passes at that target and of its check rounds count as the end, and every
// bolt must have been pulled. Where none gets there within its rounds, it is
// refused with the best ratio found.
func (r Ring) LeastPulls(schedules []Schedule, wanted float64) (Reached, error) {
	if err := refusal.Positive("wanted", wanted, ""); err != nil {
		return Reached{}, err
	}
	if wanted < 1 {
		return Reached{}, refusal.Number(refusal.TooSmall, "wanted", wanted, 1, "",
			fmt.Sprintf("A ratio of highest to lowest of %.4g is below 1.", wanted), "Enter 1.1 for 10 %.")
	}
	if len(schedules) == 0 {
		return Reached{}, refusal.New(refusal.Missing, "schedules", "There is nothing to try.", "Choose one school at least.")
	}
	var best Reached
	closest := 0.0
	for i, s := range schedules {
		at, found, nearest, err := r.reach(s, wanted)
		if err != nil {
			return Reached{}, refusal.At(fmt.Sprintf("schedules.%d", i), err)
		}
		if nearest > 0 && (closest == 0 || nearest < closest) {
			closest = nearest
		}
		if found && (best.Pulls == 0 || at.Pulls < best.Pulls) {
			best, best.Schedule = at, i
		}
	}
	if best.Pulls == 0 {
		return Reached{}, refusal.Number(refusal.OutOfRange, "wanted", wanted, closest, "",
			fmt.Sprintf("None of these reaches a ratio of %.4g; the best comes to %.4g.", wanted,
				closest), "Allow more check rounds, or use several tools at once.")
	}
	return best, nil
}

// reach makes the joint and stops looking at the first pull that will do.
func (r Ring) reach(s Schedule, wanted float64) (at Reached, found bool, nearest float64, err error) {
	s.Relaxation, s.Still = 1, 1e-9 // to the end of its rounds, not only until a hand sees nothing
	last := 0.0
	if len(s.Passes) > 0 {
		last = s.Passes[len(s.Passes)-1].Target
	}
	pulled := map[int]bool{}
	pulls := 0
	_, err = r.Run(s, func(p Pulled) {
		pulls += len(p.Bolts)
		full := p.Pass > len(s.Passes) || s.Passes[p.Pass-1].Target == last
		if full {
			for _, b := range p.Bolts {
				pulled[b] = true
			}
		}
		if found || len(pulled) < r.Bolts {
			return
		}
		sp := SpreadOf(p.Loads)
		if sp.Loose > 0 {
			return
		}
		if nearest == 0 || sp.Ratio < nearest {
			nearest = sp.Ratio
		}
		if unit.AtMost(sp.Ratio, wanted) {
			at, found = Reached{Pulls: pulls, Spread: sp}, true
		}
	})
	return at, found, nearest, err
}

// OnePass returns the load, N, to which each bolt of an order must be brought
// so that after that one pass all carry target: the first ones higher, for
// what the later ones will take off them. It is the fewest pulls there can be,
// and needs bolts and gasket that bear the highest of them; without scatter.
// Loads are in the order of the positions. It is refused where a bolt would
// have to be brought below nothing.
func (r Ring) OnePass(order []int, target float64) ([]float64, error) {
	md, err := newModel(r)
	if err != nil {
		return nil, err
	}
	made, err := md.ready("order", Pass{Target: target, Order: order})
	if err != nil {
		return nil, err
	}
	if len(order) != r.Bolts {
		return nil, refusal.Number(refusal.Contradicts, "order", float64(len(order)), float64(r.Bolts), "bolts",
			fmt.Sprintf("%d pulls on %d bolts; one pass takes each bolt once.", len(order), r.Bolts), "Name each bolt once.")
	}
	// All at target: the advances that belong to it. Bolt by bolt these are
	// reached, the rest still finger tight.
	final := make([]float64, r.Bolts)
	for i := range final {
		for j := range final {
			final[i] += md.m[i][j] * target
		}
	}
	st := md.begin()
	now, bare, out := make([]float64, r.Bolts), make([]float64, r.Bolts), make([]float64, r.Bolts)
	for _, turn := range made.turns {
		i := turn[0]
		if now[i] != 0 {
			return nil, refusal.Number(refusal.Contradicts, "order", float64(i+1), float64(r.Bolts), "",
				fmt.Sprintf("Bolt %d is named twice.", i+1), "Name each bolt once.")
		}
		now[i] = final[i]
		st.settle(now, bare)
		if out[i] = st.load(i); out[i] <= 0 {
			return nil, refusal.Number(refusal.OutOfRange, "order", out[i], 0, "N",
				fmt.Sprintf("Bolt %d would carry nothing when its turn comes.", i+1), "Take another order, or several passes.")
		}
	}
	return out, nil
}
