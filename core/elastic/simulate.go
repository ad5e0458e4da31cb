package elastic

import (
	"fmt"
	"math"
	"math/rand/v2"
	"sync"

	"gonum.org/v1/gonum/stat"

	"dynacor/core/refusal"
)

// Scatter is what no two pulls have alike, 2 sigma, as fractions: the nut
// factor, drawn once for each bolt, and the tool's error, drawn at each pull.
type Scatter struct{ Friction, Tool float64 }

// Trials says how often a joint is made on paper. The same Seed gives the same
// result, whatever the number of Workers (0 counts as 1).
type Trials struct {
	Runs    int
	Seed    uint64
	Workers int
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

// Simulate makes the joint many times, each with its own friction and tool
// errors. The nut factor is lognormal with a relative deviation of half
// Friction and so that the mean of 1/K is the nominal one: without interaction
// the mean load of a first pull is that of the torque's formula. The tool's
// error is normal with half Tool. A negative pull counts as none.
func (r Ring) Simulate(s Schedule, sc Scatter, t Trials) (Distribution, error) {
	md, err := newModel(r)
	if err != nil {
		return Distribution{}, err
	}
	w, err := md.prepare(s)
	if err != nil {
		return Distribution{}, err
	}
	if err := t.check(r.Bolts, sc); err != nil {
		return Distribution{}, err
	}
	all := newTally(t.Runs, r.Bolts)
	workers := min(max(t.Workers, 1), t.Runs, 64)
	var wg sync.WaitGroup
	for k := range workers {
		from, to := k*t.Runs/workers, (k+1)*t.Runs/workers
		wg.Go(func() {
			own := md
			if k > 0 { // states are not shared
				own, _ = newModel(r)
			}
			sim := simulation{state: own.begin(), work: w, scatter: sc, sigma: math.Sqrt(math.Log1p(sc.Friction * sc.Friction / 4)),
				factor: make([]float64, r.Bolts)}
			sim.random = rand.New(&sim.source)
			for run := from; run < to; run++ {
				sim.once(t.Seed, run)
				all.keep(run, &sim)
			}
		})
	}
	wg.Wait()
	return all.distribution(workers), nil
}

func (t Trials) check(bolts int, sc Scatter) error {
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
	random  *rand.Rand
	source  rand.PCG

	pulls, moves, rounds int
	quiet                bool
}

// once makes run number run. Each run has its own stream, so it does not
// matter which worker makes it, or when.
func (s *simulation) once(seed uint64, run int) {
	s.source.Seed(seed, mix(uint64(run)))
	s.reset()
	s.pulls, s.moves = 0, 0
	sigma := s.sigma
	for i := range s.factor {
		s.factor[i] = 1
		if sigma > 0 {
			s.factor[i] = math.Exp(-sigma*sigma/2 - sigma*s.random.NormFloat64())
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
		for _, bolts := range p.turns {
			most = max(most, s.group(bolts, p.target, tool))
		}
		return most > s.still*p.target
	}
	most := 0.0
	for _, i := range p.alone {
		load := p.target * s.factor[i]
		if tool > 0 {
			load *= 1 + tool*s.random.NormFloat64()
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
		most = max(most, rise)
	}
	return most > s.still*p.target
}

// group pulls several bolts at once, each by its own tool and friction.
func (s *simulation) group(bolts []int, target, tool float64) (rise float64) {
	load := make([]float64, len(bolts))
	for k, i := range bolts {
		load[k] = max(target*s.factor[i]*(1+tool*s.random.NormFloat64()), 0)
		if up := load[k] - s.load(i); up > 0 {
			rise = max(rise, up)
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

// tally keeps what each run came to, by its number.
type tally struct {
	bolts                int
	loads                []float64 // run by run
	spreads              []Spread
	pulls, moves, rounds []int32
	still                []bool
}

func newTally(runs, bolts int) *tally {
	return &tally{bolts, make([]float64, runs*bolts), make([]Spread, runs), make([]int32, runs), make([]int32, runs), make([]int32, runs),
		make([]bool, runs)}
}

func (t *tally) keep(run int, s *simulation) {
	loads := t.loads[run*t.bolts : (run+1)*t.bolts]
	s.loads(loads)
	t.spreads[run] = SpreadOf(loads)
	t.pulls[run], t.moves[run], t.rounds[run], t.still[run] = int32(s.pulls), int32(s.moves), int32(s.rounds), s.quiet
}

func (t *tally) distribution(workers int) Distribution {
	runs := len(t.pulls)
	n := float64(runs)
	d := Distribution{Runs: runs, Bolts: make([]Likely, t.bolts)}
	ranges := []struct {
		to *Likely
		of func(run int) float64
	}{{&d.Least, func(r int) float64 { return t.spreads[r].Least }}, {&d.Most, func(r int) float64 { return t.spreads[r].Most }},
		{&d.Spread, func(r int) float64 { return t.spreads[r].Deviation }}}
	for b := range d.Bolts {
		ranges = append(ranges, struct {
			to *Likely
			of func(run int) float64
		}{&d.Bolts[b], func(r int) float64 { return t.loads[r*t.bolts+b] }})
	}
	var wg sync.WaitGroup
	for k := range workers {
		wg.Go(func() {
			one := make([]float64, runs)
			for i := k; i < len(ranges); i += workers {
				for r := range one {
					one[r] = ranges[i].of(r)
				}
				*ranges[i].to = likely(one)
			}
		})
	}
	var variance float64
	d.Mean, variance = stat.PopMeanVariance(t.loads, nil)
	d.Error = math.Sqrt(variance / float64(len(t.loads)))
	if d.Mean > 0 {
		d.Deviation = math.Sqrt(variance) / d.Mean
	}
	for r := range runs {
		d.Pulls += float64(t.pulls[r]) / n
		d.Moves += float64(t.moves[r]) / n
		d.Rounds += float64(t.rounds[r]) / n
		if t.still[r] {
			d.Still += 1 / n
		}
		if t.spreads[r].Loose > 0 {
			d.Loose += 1 / n
		}
	}
	wg.Wait()
	return d
}

// likely reorders v. Its quantiles are empirical: the least value that as many
// of 100 do not pass.
func likely(v []float64) Likely {
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
