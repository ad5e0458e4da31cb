package bench

import (
	"fmt"
	"slices"

	"dynacor/core/elastic"
	"dynacor/core/refusal"
)

// Try asks for a ring to be made by some ways: Runs joints each, all with the
// same luck.
type Try struct {
	Subject Subject
	Ways    []Way
	Runs    int
	Seed    uint64
	Workers int
	Done    <-chan struct{} // closed where nobody waits any longer: elastic.ErrStopped
}

// How much is tried at once.
const (
	MostWays  = 3
	LeastRuns = 100
	MostRuns  = 20_000
	UsualRuns = 2_000
)

// Moment is the middle joint after a pull. Its closure is by places evenly
// round the ring, from the first bolt on; Pass counts check rounds on, of which
// Round is the number.
type Moment struct {
	Pass, Round int
	Share       float64 // percent
	Bolts       []int
	Loads       []float64 // N
	Standing    []Standing
	Lowest      int // bolt
	Highest     int
	Around      []float64 // mm
}

// Standing is what is to be seen of a bolt's load at once.
type Standing string

// The standings.
const (
	Coming Standing = "coming" // not yet brought to the whole load
	Low    Standing = "low"    // below what is needed, or likely of a pull
	Within Standing = "within"
	High   Standing = "high" // above what is likely of a pull
)

// Share is how many of a trial's joints something is true of, a fraction, and
// the least and the most that it is where one figure is held.
type Share struct {
	Low, All, High float64
	Mostly         Varied // the figure that moves it most; empty where none does
}

// Finding is what a share is taken for, by all joints.
type Finding string

// The findings.
const (
	Good     Finding = "good"
	Doubtful Finding = "doubtful"
	Bad      Finding = "bad"
)

// What is good of a hundred joints, and what is bad: ours, to sort by and not to
// decide by.
const (
	goodShare = 0.99
	badShare  = 0.9
)

// Wanted is what a share is found to be that all joints should have.
func (s Share) Wanted() Finding {
	switch {
	case s.All >= goodShare:
		return Good
	case s.All >= badShare:
		return Doubtful
	}
	return Bad
}

// Unwanted is what a share is found to be that no joint should have.
func (s Share) Unwanted() Finding { return Share{All: 1 - s.All}.Wanted() }

// Outcome is what a way comes to on many joints.
type Outcome struct {
	Way     Way
	Pulls   elastic.Likely
	Minutes elastic.Likely // by the pulls, and by how long each takes
	Lowest  elastic.Likely // bolt of a joint, N
	Highest elastic.Likely // N
	Spread  elastic.Likely // within a joint, 2 sigma over mean
	Rounds  elastic.Likely
	Still   Share
	Seats   Share // zero where nothing is needed
	Crushed Share // zero where it is not known what crushes
	Loose   Share
	Remarks []string
}

// Tried is a way that was tried, with the middle joint pull by pull.
type Tried struct {
	Outcome
	Laid   Laid
	Middle elastic.Outcome // of that joint
	Picture
}

// Picture is the middle joint pull by pull, and what a drawing of it needs.
type Picture struct {
	Moments []Moment
	Most    float64 // the highest load of all moments, N
	Closed  float64 // the most that the joint closes anywhere, mm
	Scale   float64 // the load that a drawing has room for, N
	Low     float64 // below it a bolt is low, N
	High    float64 // above it a bolt is high, N
}

// pictured draws up moments.
func (s Subject) pictured(moments []Moment) Picture {
	out := Picture{Moments: moments}
	out.Low, out.High = s.band()
	for _, m := range moments {
		out.Most, out.Closed = max(out.Most, slices.Max(m.Loads)), max(out.Closed, slices.Max(m.Around))
	}
	out.Scale = 1.05 * max(out.Most, out.High)
	return out
}

// Run makes the joints of a trial.
func (t Try) Run() ([]Tried, error) {
	if err := t.check(); err != nil {
		return nil, err
	}
	out := make([]Tried, len(t.Ways))
	for i, w := range t.Ways {
		laid, err := w.On(t.Subject.Bolts, t.Subject.Load)
		if err == nil {
			out[i], err = t.make(laid)
		}
		if err != nil {
			return nil, refusal.At(fmt.Sprintf("ways.%d", i), err)
		}
	}
	return out, nil
}

func (t Try) check() error {
	if err := t.Subject.Check(); err != nil {
		return err
	}
	if len(t.Ways) == 0 || len(t.Ways) > MostWays {
		return refusal.Number(refusal.OutOfRange, "ways", float64(len(t.Ways)), MostWays, "ways",
			fmt.Sprintf("%d ways; 1 to %d are tried side by side.", len(t.Ways), MostWays), "Choose two or three.")
	}
	if t.Runs < LeastRuns || t.Runs > MostRuns {
		return refusal.Number(refusal.OutOfRange, "runs", float64(t.Runs), MostRuns, "joints",
			fmt.Sprintf("%d joints; %d to %d are made.", t.Runs, LeastRuns, MostRuns), fmt.Sprintf("Usually %d.", UsualRuns))
	}
	return nil
}

func (t Try) make(laid Laid) (Tried, error) {
	out := Tried{Outcome: Outcome{Way: laid.Way}, Laid: laid}
	moments, middle, err := t.Subject.moments(laid)
	if err != nil {
		return out, err
	}
	out.Middle, out.Picture = middle, t.Subject.pictured(moments)
	joints, levels := t.Subject.supposed()
	made, _, err := elastic.Simulate(joints, laid.Schedule,
		elastic.Trials{Runs: t.Runs, Seed: t.Seed, Workers: t.Workers, Done: t.Done, Closed: true})
	if err != nil {
		return out, err
	}
	of := sample{made, levels}
	out.Pulls = of.likely(func(m elastic.Made) float64 { return float64(m.Pulls) })
	out.Rounds = of.likely(func(m elastic.Made) float64 { return float64(m.Rounds) })
	out.Lowest = of.likely(func(m elastic.Made) float64 { return m.Least })
	out.Highest = of.likely(func(m elastic.Made) float64 { return m.Most })
	out.Spread = of.likely(func(m elastic.Made) float64 { return 2 * m.Deviation })
	out.Minutes = t.Subject.minutes(out)
	out.Still = of.share(func(m elastic.Made) bool { return m.Still })
	out.Loose = of.share(func(m elastic.Made) bool { return m.Loose > 0 })
	if t.Subject.Needed > 0 {
		out.Seats = of.share(func(m elastic.Made) bool { return m.Slackest >= t.Subject.Needed })
	}
	if t.Subject.Crushes > 0 {
		out.Crushed = of.share(func(m elastic.Made) bool { return max(m.Peak, m.Most) > t.Subject.Crushes })
	}
	out.Remarks = t.Subject.remarks(out)
	return out, nil
}

// placesARing is about how many places the closure is shown at.
const placesARing = 72

// moments makes the middle joint once, without scatter.
func (s Subject) moments(laid Laid) ([]Moment, elastic.Outcome, error) {
	ring, schedule := s.Middle(), laid.Schedule
	schedule.Relaxation = s.Kept.Middle
	places := s.Bolts * max(1, (placesARing+s.Bolts-1)/s.Bolts)
	var out []Moment
	var failed error
	brought := make([]bool, s.Bolts)
	made, err := ring.Run(schedule, func(p elastic.Pulled) {
		m := Moment{Pass: p.Pass, Share: 100, Bolts: p.Bolts, Loads: p.Loads}
		if p.Pass > len(laid.Shares) {
			m.Round = p.Pass - len(laid.Shares)
		} else {
			m.Share = laid.Shares[p.Pass-1]
		}
		if m.Share >= 100 {
			for _, b := range p.Bolts {
				brought[b-1] = true
			}
		}
		m.Standing = s.standing(p.Loads, brought)
		m.Lowest = 1 + slices.Index(p.Loads, slices.Min(p.Loads))
		m.Highest = 1 + slices.Index(p.Loads, slices.Max(p.Loads))
		var err error
		if m.Around, err = ring.Around(p.Loads, places); err != nil {
			failed = err
		}
		out = append(out, m)
	})
	if err == nil {
		err = failed
	}
	return out, made, err
}

// band is what a load is seen to lie in: from what is needed, or else likely of a
// pull alone, up to what is likely.
func (s Subject) band() (low, high float64) {
	low, high = s.Needed, s.LikelyHigh
	if low == 0 {
		low = s.LikelyLow
	}
	if low == 0 {
		low = usualLow * s.Load
	}
	if high == 0 {
		high = (2 - usualLow) * s.Load
	}
	return low, max(high, s.Load)
}

// usualLow is the share of its load below which a bolt is low where nothing
// says it better.
const usualLow = 0.8

func (s Subject) standing(loads []float64, brought []bool) []Standing {
	low, high := s.band()
	out := make([]Standing, len(loads))
	for i, f := range loads {
		switch {
		case f > high:
			out[i] = High
		case !brought[i]:
			out[i] = Coming
		case f < low:
			out[i] = Low
		default:
			out[i] = Within
		}
	}
	return out
}

// minutes says how long a way takes: its likely pulls at the likely pace, the
// fewest at the quickest, the most at the slowest.
func (s Subject) minutes(t Tried) elastic.Likely {
	of := func(pulls, rounds, pull, ready float64) float64 {
		goes := float64(len(t.Laid.Shares)) + rounds
		return (pulls*pull/float64(max(t.Way.Tools, 1)) + goes*ready) / 60
	}
	return elastic.Likely{Low: of(t.Pulls.Low, t.Rounds.Low, s.Pull.Low, s.Pass.Low),
		Middle: of(t.Pulls.Middle, t.Rounds.Middle, s.Pull.Middle, s.Pass.Middle),
		High:   of(t.Pulls.High, t.Rounds.High, s.Pull.High, s.Pass.High)}
}

// remarks says what the figures of a way do not.
func (s Subject) remarks(t Tried) []string {
	var out []string
	if s.Crushes > 0 {
		for i, m := range t.Moments {
			for _, b := range m.Bolts {
				if m.Loads[b-1] > s.Crushes {
					return append(out, fmt.Sprintf("The middle joint crushes its gasket at bolt %d, in pull %d.", b, i+1))
				}
			}
		}
	}
	last := t.Middle.Final
	switch {
	case last.Loose > 0:
		out = append(out, fmt.Sprintf("In the middle joint %d bolts are loose at the end.", last.Loose))
	case s.Needed > 0 && last.Least < s.Needed:
		out = append(out, fmt.Sprintf("Already in the middle joint a bolt ends below what is needed, at %.3g kN.", last.Least/1000))
	}
	switch {
	case t.Way.Rounds == 0:
		out = append(out, "No check round: nobody sees what moved.")
	case !t.Middle.Still:
		out = append(out, fmt.Sprintf("Nuts still move in round %d.", t.Middle.Rounds))
	case t.Middle.Rounds == 1:
		out = append(out, "Nothing moves in the first round.")
	default:
		out = append(out, fmt.Sprintf("%d rounds until nothing moves.", t.Middle.Rounds))
	}
	return out
}

// sample is the joints of a trial.
type sample struct {
	made   []elastic.Made
	levels []level
}

func (s sample) likely(of func(elastic.Made) float64) elastic.Likely {
	v := make([]float64, len(s.made))
	for i, m := range s.made {
		v[i] = of(m)
	}
	return elastic.LikelyOf(v)
}

// share counts the joints that something is true of; all of them, and those
// with each value of each figure.
func (s sample) share(is func(elastic.Made) bool) Share {
	type count struct{ true, all int }
	var whole count
	var by [len(varied)][3]count
	for i, m := range s.made {
		yes := 0
		if is(m) {
			yes = 1
		}
		whole.true, whole.all = whole.true+yes, whole.all+1
		for v, at := range s.levels[i%len(s.levels)] {
			c := &by[v][at]
			c.true, c.all = c.true+yes, c.all+1
		}
	}
	of := func(c count) float64 { return float64(c.true) / float64(c.all) }
	out := Share{Low: of(whole), All: of(whole), High: of(whole)}
	widest := 0.0
	for v := range by {
		low, high := out.All, out.All
		for _, c := range by[v] {
			if c.all > 0 {
				low, high = min(low, of(c)), max(high, of(c))
			}
		}
		if high-low > widest {
			widest, out.Mostly = high-low, varied[v]
		}
		out.Low, out.High = min(out.Low, low), max(out.High, high)
	}
	return out
}
