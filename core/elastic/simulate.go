package elastic

import (
	"errors"
	"fmt"
	"math"
	"math/rand/v2"
	"sync"

	"dynacor/core/refusal"
)

// Scatter is what no two pulls have alike, 2 sigma, as fractions: the nut
// factor, drawn once for each bolt, and the tool's error, drawn at each pull.
type Scatter struct{ Friction, Tool float64 }

// Trials says how often a joint is made on paper. The same Seed gives the same
// result, whatever the number of Workers (0 counts as 1). Where Done is closed
// before all are made, the call ends with ErrStopped.
type Trials struct {
	Runs    int
	Seed    uint64
	Workers int
	Done    <-chan struct{}
	Closed  bool // Made.Slackest is wanted, too
}

// ErrStopped says that a simulation was stopped before its end.
var ErrStopped = errors.New("elastic: stopped before all joints were made")

func (t Trials) stopped() bool {
	select {
	case <-t.Done:
		return true
	default:
		return false
	}
}

// The most that one call simulates.
const (
	MostRuns  = 1_000_000
	mostLoads = 50_000_000 // runs times bolts
)

// Likely is the middle of a quantity over all runs, and the range in which 90
// of 100 lie.
type Likely struct{ Low, Middle, High float64 }

// Distribution is a joint made many times.
type Distribution struct {
	Runs      int
	Mean      float64 // load of all bolts of all runs, N
	Error     float64 // standard error of Mean, bolts taken as independent, N
	Deviation float64 // standard deviation of all loads over Mean
	Bolts     []Likely
	Least     Likely  // lowest load of a run, N
	Most      Likely  // highest, N
	Spread    Likely  // standard deviation over mean within a run
	Rounds    float64 // mean number of check rounds
	Pulls     float64 // mean number of pulls
	Moves     float64 // mean number of pulls that turned the nut
	Still     float64 // share of runs whose last round moved nothing
	Loose     float64 // share of runs with a loose bolt at the end
}

// Supposed is a joint as it may be, where what is known of it is a range.
type Supposed struct {
	Ring
	Scatter
	Relaxation float64 // the share that is kept from one pass or round to the next; zero: the schedule's
}

// Made is what one run came to.
type Made struct {
	Spread
	Peak                 float64 // the highest load that any bolt was brought to on the way, N
	Slackest             float64 // the load of all alike that closes the joint as far as it is where it is least, N; zero: not asked for
	Pulls, Moves, Rounds int
	Seen                 int  // pulls that raised their bolt by more than the schedule's Still: the nut was seen to move
	Still                bool // its last round moved nothing
}

// Simulate makes the joint many times, each with its own friction and tool
// errors. The nut factor is lognormal with a relative deviation of half
// Friction and so that the mean of 1/K is the nominal one: without interaction
// the mean load of a first pull is that of the torque's formula. The tool's
// error is normal with half Tool. A negative pull counts as none.
func (r Ring) Simulate(s Schedule, sc Scatter, t Trials) (Distribution, error) {
	made, loads, err := Simulate([]Supposed{{Ring: r, Scatter: sc}}, s, t)
	if err != nil {
		return Distribution{}, err
	}
	return distribution(made, loads, min(max(t.Workers, 1), 64)), nil
}

// Simulate makes joints that may be any of those supposed: run i is of
// supposed[i mod len], all of as many bolts. Runs of the same number have the
// same luck, whatever the schedule and whichever joint they are of. The loads,
// N, of all runs follow one another.
func Simulate(supposed []Supposed, s Schedule, t Trials) (made []Made, loads []float64, err error) {
	if len(supposed) == 0 {
		return nil, nil, refusal.New(refusal.Missing, "supposed", "No joint is supposed.", "Say what it is like.")
	}
	bolts := supposed[0].Bolts
	for _, x := range supposed {
		if x.Bolts != bolts {
			return nil, nil, refusal.Number(refusal.Contradicts, "supposed", float64(x.Bolts), float64(bolts), "bolts",
				fmt.Sprintf("One joint is supposed with %d bolts and with %d.", bolts, x.Bolts), "Count the holes.")
		}
		if err := t.check(bolts, x.Scatter); err != nil {
			return nil, nil, err
		}
	}
	if _, err := begun(supposed, s); err != nil { // refused before anything is made
		return nil, nil, err
	}
	made, loads = make([]Made, t.Runs), make([]float64, t.Runs*bolts)
	workers := min(max(t.Workers, 1), t.Runs, 64)
	var wg sync.WaitGroup
	for k := range workers {
		from, to := k*t.Runs/workers, (k+1)*t.Runs/workers
		wg.Go(func() {
			sims, _ := begun(supposed, s) // states are not shared
			for run := from; run < to && !t.stopped(); run++ {
				sim := sims[run%len(sims)]
				sim.once(t.Seed, run)
				own := loads[run*bolts : (run+1)*bolts]
				sim.loads(own)
				made[run] = Made{SpreadOf(own), sim.peak, 0, sim.pulls, sim.moves, sim.rounds, sim.seen, sim.quiet}
				if t.Closed {
					made[run].Slackest = sim.slackest(own)
				}
			}
		})
	}
	wg.Wait()
	if t.stopped() {
		return nil, nil, ErrStopped
	}
	return made, loads, nil
}

// begun makes ready what is supposed; rings that are alike share what is
// learnt of their contact.
func begun(supposed []Supposed, s Schedule) ([]*simulation, error) {
	models := map[Ring]*model{}
	out := make([]*simulation, len(supposed))
	for i, x := range supposed {
		md := models[x.Ring]
		if md == nil {
			var err error
			if md, err = newModel(x.Ring); err != nil {
				return nil, err
			}
			models[x.Ring] = md
		}
		own := s
		if x.Relaxation > 0 {
			own.Relaxation = x.Relaxation
		}
		w, err := md.prepare(own)
		if err != nil {
			return nil, err
		}
		out[i] = &simulation{state: md.begin(), work: w, scatter: x.Scatter,
			sigma: math.Sqrt(math.Log1p(x.Friction * x.Friction / 4)), factor: make([]float64, x.Bolts)}
	}
	return out, nil
}

func (t Trials) check(bolts int, sc Scatter) error {
	if bolts < 1 || bolts > MostBolts {
		return nil // refused with the ring
	}
	if t.Runs < 1 || t.Runs > MostRuns || t.Runs*bolts > mostLoads {
		most := min(MostRuns, mostLoads/bolts)
		return refusal.Number(refusal.OutOfRange, "runs", float64(t.Runs), float64(most), "runs",
			fmt.Sprintf("%d runs; 1 to %d are made of %d bolts.", t.Runs, most, bolts), "10 000 runs show the likely range.")
	}
	return refusal.First(refusal.Scatter("friction", sc.Friction), refusal.Scatter("tool", sc.Tool))
}

// simulation makes one run after another.
type simulation struct {
	*state
	work
	scatter Scatter
	factor  []float64 // load of each bolt for the load of a nominal one
	sigma   float64   // of ln K
	source  rand.PCG

	pulls, moves, rounds int
	seen                 int
	peak                 float64
	quiet                bool
}

// once makes run number run. Each run has its own stream, so it does not
// matter which worker makes it, or when.
func (s *simulation) once(seed uint64, run int) {
	s.source.Seed(seed, mix(uint64(run)))
	s.reset()
	s.pulls, s.moves, s.seen, s.peak = 0, 0, 0, 0
	sigma := s.sigma
	for i := range s.factor {
		s.factor[i] = 1
		if sigma > 0 {
			s.factor[i] = exp(-sigma*sigma/2 - sigma*normal(&s.source))
		}
	}
	s.rounds, s.quiet = s.through(s.state, s.pass)
}

// pass goes over the bolts once and reports whether a nut was seen to move.
func (s *simulation) pass(p *step) (moved bool) {
	s.pulls += p.pulls
	tool := s.scatter.Tool / 2
	if p.alone == nil {
		most := 0.0
		for k, bolts := range p.turns {
			most = max(most, s.group(bolts, p.targets[k], tool))
		}
		return most > s.still*p.target
	}
	most, still := 0.0, s.still*p.target
	for k, i := range p.alone {
		load := p.targets[k] * s.factor[i]
		if tool > 0 {
			load *= 1 + tool*normal(&s.source)
		}
		rise := load - s.load(i)
		if rise <= 0 {
			continue
		}
		// A loaded bolt in a contact met before is the common case.
		if by := s.at.by[i]; by != nil && s.at.loaded[i] && s.move(by, rise) {
			s.z[i] = load
		} else {
			s.bring(i, load)
		}
		s.moves++
		if rise > still {
			s.seen++
		}
		most, s.peak = max(most, rise), max(s.peak, load)
	}
	return most > still
}

// group pulls several bolts at once, each by its own tool and friction.
func (s *simulation) group(bolts []int, target, tool float64) (rise float64) {
	load := make([]float64, len(bolts))
	for k, i := range bolts {
		load[k] = max(target*s.factor[i]*(1+tool*normal(&s.source)), 0)
		if up := load[k] - s.load(i); up > 0 {
			if up > s.still*target {
				s.seen++
			}
			rise, s.peak = max(rise, up), max(s.peak, load[k])
			s.moves++
		}
	}
	if rise > 0 {
		s.together(bolts, load)
	}
	return rise
}

// mix spreads run numbers over all of a seed's bits (the finaliser of
// SplitMix64; Steele, Lea and Flood, 2014).
func mix(x uint64) uint64 {
	x += 0x9e3779b97f4a7c15
	x = (x ^ x>>30) * 0xbf58476d1ce4e5b9
	x = (x ^ x>>27) * 0x94d049bb133111eb
	return x ^ x>>31
}

func distribution(made []Made, loads []float64, workers int) Distribution {
	runs := len(made)
	bolts := len(loads) / runs
	n := float64(runs)
	d := Distribution{Runs: runs, Bolts: make([]Likely, bolts)}
	type ranged struct {
		to *Likely
		of func(run int) float64
	}
	ranges := []ranged{{&d.Least, func(r int) float64 { return made[r].Least }}, {&d.Most, func(r int) float64 { return made[r].Most }},
		{&d.Spread, func(r int) float64 { return made[r].Deviation }}}
	for b := range d.Bolts {
		ranges = append(ranges, ranged{&d.Bolts[b], func(r int) float64 { return loads[r*bolts+b] }})
	}
	var wg sync.WaitGroup
	for k := range workers {
		wg.Go(func() {
			one := make([]float64, runs)
			for i := k; i < len(ranges); i += workers {
				for r := range one {
					one[r] = ranges[i].of(r)
				}
				*ranges[i].to = LikelyOf(one)
			}
		})
	}
	var variance float64
	d.Mean, variance = MeanVariance(loads)
	d.Error = math.Sqrt(variance / float64(len(loads)))
	if d.Mean > 0 {
		d.Deviation = math.Sqrt(variance) / d.Mean
	}
	for _, m := range made {
		d.Pulls += float64(m.Pulls) / n
		d.Moves += float64(m.Moves) / n
		d.Rounds += float64(m.Rounds) / n
		if m.Still {
			d.Still += 1 / n
		}
		if m.Loose > 0 {
			d.Loose += 1 / n
		}
	}
	wg.Wait()
	return d
}

// LikelyOf returns the likely range of v, which it reorders. Its quantiles are
// empirical: the least value that as many of 100 do not pass. Zero of nothing.
func LikelyOf(v []float64) Likely {
	if len(v) == 0 {
		return Likely{}
	}
	at := func(share float64) int { return max(int(math.Ceil(share*float64(len(v))))-1, 0) }
	return Likely{ranked(v, at(0.05)), ranked(v, at(0.5)), ranked(v, at(0.95))}
}

// ranked returns the value that would be v[k] if v were sorted, and brings it
// there (Hoare's FIND): three ranks cost less than a sort.
func ranked(v []float64, k int) float64 {
	for lo, hi := 0, len(v)-1; lo < hi; {
		pivot, i, j := v[lo+(hi-lo)/2], lo, hi
		for i <= j {
			for v[i] < pivot {
				i++
			}
			for pivot < v[j] {
				j--
			}
			if i <= j {
				v[i], v[j] = v[j], v[i]
				i++
				j--
			}
		}
		if j < k {
			lo = i
		}
		if k < i {
			hi = j
		}
	}
	return v[k]
}
