package bench

import (
	"cmp"
	"errors"
	"fmt"
	"slices"

	"dynacor/core/elastic"
	"dynacor/core/pass"
	"dynacor/core/refusal"
	"dynacor/core/sequence"
)

// Better asks for a better way: one that brings the highest load of the middle
// joint to no more than Even times the lowest, a number above 1.
type Better struct {
	Subject Subject
	Even    float64
	Rounds  int // check rounds at most
	Runs    int
	Seed    uint64
	Workers int
}

// Found is a way with the pulls that it takes to an even ring, and what it
// comes to on many joints: what it costs in robustness.
type Found struct {
	Tried
	Until int // pulls until the middle joint is even
	Ratio float64
}

// mostFound is how many ways are made many times.
const mostFound = 3

// Ways finds ways that a plan can carry, the fewest pulls first; one of each
// school at the most. Where none is even enough, it is
// refused with the best there is.
func (b Better) Ways() ([]Found, error) {
	if err := b.check(); err != nil {
		return nil, err
	}
	ring := b.Subject.Middle()
	var found []Found
	closest := 0.0
	for _, laid := range b.candidates() {
		at, err := ring.LeastPulls([]elastic.Schedule{laid.Schedule}, b.Even)
		if err != nil {
			r, is := errors.AsType[*refusal.Error](err)
			if !is || r.Field != "wanted" {
				return nil, err
			}
			if closest == 0 || r.Limit < closest {
				closest = r.Limit
			}
			continue
		}
		found = append(found, Found{Tried: Tried{Outcome: Outcome{Way: laid.Way}, Laid: laid}, Until: at.Pulls, Ratio: at.Spread.Ratio})
	}
	if len(found) == 0 {
		return nil, refusal.Number(refusal.OutOfRange, "even", b.Even, closest, "",
			fmt.Sprintf("No way comes to a ratio of %.4g of highest to lowest load; the best comes to %.4g.", b.Even, closest),
			"Ask for less, or allow more check rounds.")
	}
	slices.SortStableFunc(found, func(x, y Found) int {
		return cmp.Compare(x.Until, y.Until)
	})
	seen := map[string]bool{}
	found = slices.DeleteFunc(found, func(f Found) bool {
		was := seen[f.Way.School]
		seen[f.Way.School] = true
		return was
	})
	found = found[:min(len(found), mostFound)]
	for i := range found {
		made, err := Try{Subject: b.Subject, Runs: b.Runs, Seed: b.Seed, Workers: b.Workers}.make(found[i].Laid)
		if err != nil {
			return nil, err
		}
		found[i].Tried = made
	}
	return found, nil
}

func (b Better) check() error {
	if err := (Try{Subject: b.Subject, Ways: []Way{{}}, Runs: b.Runs}).check(); err != nil {
		return err
	}
	if b.Rounds < 0 || b.Rounds > MostRounds {
		return refusal.Number(refusal.OutOfRange, "rounds", float64(b.Rounds), MostRounds, "rounds",
			fmt.Sprintf("%d check rounds; 0 to %d are tried.", b.Rounds, MostRounds), "Usually up to 5.")
	}
	if !(b.Even > 1 && b.Even <= 3) {
		return refusal.Number(refusal.OutOfRange, "even", b.Even, 3, "",
			fmt.Sprintf("A ratio of highest to lowest load of %.4g; above 1 and up to 3 is looked for.", b.Even), "Enter 1.1 for 10 %.")
	}
	return nil
}

// candidates are the ways that are looked through: each school that a plan can
// carry, in each order that goes round this ring and does not go along it.
func (b Better) candidates() []Laid {
	var out []Laid
	for _, p := range pass.Presets() {
		for _, order := range sequence.Patterns() {
			if order == sequence.Circular || order == sequence.Backward {
				continue
			}
			w := Way{School: p.Name, Order: order, Start: 1, Tools: 1, Rounds: b.Rounds, Every: 1}
			if !b.Subject.Carries(w) {
				continue
			}
			if laid, err := w.On(b.Subject.Bolts, b.Subject.Load); err == nil { // else it does not fit
				out = append(out, laid)
			}
		}
	}
	return out
}

// Single is one pass in which each bolt has a load of its own, so that at its
// end all carry the same: the first more, for what the later take off them.
type Single struct {
	Order []int
	Loads []float64 // of each pull, N
	Share []float64 // of the load that is wanted, percent
	Most  float64   // of Loads, N
	Tried
}

// Single finds the loads of one pass in an order, and what becomes of them on
// joints that are not the middle one. It is the fewest pulls there are, and
// rests wholly on the figures: nothing checks it but the rounds that follow.
func (b Better) Single(order sequence.Pattern) (Single, error) {
	if err := b.check(); err != nil {
		return Single{}, err
	}
	s := b.Subject
	pulls, err := sequence.Ring(order, s.Bolts, 1)
	if err != nil {
		return Single{}, err
	}
	loads, err := s.Middle().OnePass(pulls, s.Load)
	if err != nil {
		return Single{}, err
	}
	out := Single{Order: pulls, Loads: make([]float64, len(pulls)), Share: make([]float64, len(pulls))}
	for i, bolt := range pulls {
		out.Loads[i] = loads[bolt-1]
		out.Share[i] = 100 * loads[bolt-1] / s.Load
		out.Most = max(out.Most, loads[bolt-1])
	}
	w := Way{School: "single pass", Order: order, Start: 1, Tools: 1, Every: 1}
	laid := Laid{Way: w, Shares: []float64{100}, Orders: [][]int{pulls}, Schedule: elastic.Schedule{Name: w.School,
		Passes: []elastic.Pass{{Target: s.Load, Order: pulls, Each: out.Loads}}}}
	out.Tried, err = Try{Subject: s, Runs: b.Runs, Seed: b.Seed, Workers: b.Workers}.make(laid)
	if err != nil {
		return Single{}, err
	}
	if s.Limit > 0 && out.Most > s.Limit {
		out.Remarks = append(out.Remarks, fmt.Sprintf("Its first bolts would be brought to %.3g kN; they yield at %.3g kN.",
			out.Most/1000, s.Limit/1000))
	}
	return out, nil
}
