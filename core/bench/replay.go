package bench

import (
	"fmt"

	"dynacor/core/elastic"
	"dynacor/core/refusal"
	"dynacor/core/sequence"
)

// Pull is one pull of a run as its record has it.
type Pull struct {
	Bolt  int
	Share float64 // percent
	Round int     // of the check rounds; 0 before them
	Moved bool    // in a round: the nut turned
	Angle float64 // that it turned by, from snug or in a round, degrees; 0 where it was not read
	Ratio float64 // of the torque that was read to the one that was aimed at; 0 where none was read
}

// Residual is a torque that was read afterwards, at which a nut went on turning,
// as a share of the one that it was made with.
type Residual struct {
	Bolt  int
	Ratio float64
}

// Replay asks for the pulls of a signed run to be put through the model.
type Replay struct {
	Subject  Subject
	Pulls    []Pull
	Residual []Residual
	Pitch    float64 // of the thread, mm
	Runs     int
	Seed     uint64
	Workers  int
}

// BoltAfter is a bolt as it likely stands at the end of a run.
type BoltAfter struct {
	elastic.Likely         // load, N
	Low            float64 // share of the joints in which it carries less than is needed, or likely of a pull
}

// often is the share of joints from which a bolt is marked as low.
const often = 0.1

// Marked reports whether a bolt is low in so many joints that it is to be looked
// at.
func (b BoltAfter) Marked() bool { return b.Low >= often }

// Gone is a joint after its passes, or after one of its check rounds.
type Gone struct {
	Round    int // 0: after the passes
	Made     bool
	Nuts     int     // that were tried in it
	Moved    int     // of these, by the record
	Expected float64 // that move, by the model, the mean
	Lowest   elastic.Likely
	Seats    Share
}

// Replayed is a run put through the model.
type Replayed struct {
	Picture
	Bolts   []BoltAfter
	Rounds  []Gone // the last of them is one more than was made
	Remarks []string
}

// mostPulls is how many pulls of a run are replayed.
const mostPulls = 20_000

func (r Replay) check() error {
	try := Try{Subject: r.Subject, Ways: []Way{{}}, Runs: r.Runs}
	if err := try.check(); err != nil {
		return err
	}
	if len(r.Pulls) == 0 {
		return refusal.New(refusal.Missing, "pulls", "No pull of these bolts is on record.", "Replay a run that was made.")
	}
	if len(r.Pulls) > mostPulls {
		return refusal.Number(refusal.TooLarge, "pulls", float64(len(r.Pulls)), mostPulls, "pulls",
			fmt.Sprintf("%d pulls; at most %d are replayed.", len(r.Pulls), mostPulls), "Look at its record instead.")
	}
	for _, p := range r.Pulls {
		if p.Bolt < 1 || p.Bolt > r.Subject.Bolts {
			return refusal.Number(refusal.OutOfRange, "pulls", float64(p.Bolt), float64(r.Subject.Bolts), "",
				fmt.Sprintf("Bolt %d is not on a ring of %d.", p.Bolt, r.Subject.Bolts), "Replay it on its own ring.")
		}
	}
	return nil
}

// goes divides pulls where the share or the round changes.
func (r Replay) goes() (out [][]Pull) {
	for _, p := range r.Pulls {
		last := len(out) - 1
		if last < 0 || out[last][0].Share != p.Share || out[last][0].Round != p.Round {
			out = append(out, nil)
			last++
		}
		out[last] = append(out[last], p)
	}
	return out
}

// schedule is goes as the model makes them, the loads factor times those that
// the torques mean.
func (r Replay) schedule(goes [][]Pull, factor float64) elastic.Schedule {
	s := elastic.Schedule{Name: "as it was made", Still: Seen}
	for _, g := range goes {
		target := factor * r.Subject.Load * g[0].Share / 100
		p := elastic.Pass{Target: target}
		for _, x := range g {
			load := target
			if x.Ratio > 0 {
				load *= x.Ratio
			}
			p.Order, p.Each = append(p.Order, x.Bolt), append(p.Each, load)
		}
		s.Passes = append(s.Passes, p)
	}
	return s
}

// Run puts the pulls through the model: what the middle joint would have carried
// after each, what each bolt likely carries at the end, and what each check
// round brought, with one more than was made.
func (r Replay) Run() (Replayed, error) {
	if err := r.check(); err != nil {
		return Replayed{}, err
	}
	goes := r.goes()
	laid := Laid{Schedule: r.schedule(goes, 1)}
	for _, g := range goes {
		laid.Shares = append(laid.Shares, g[0].Share)
	}
	s := r.Subject
	var out Replayed
	moments, _, err := s.moments(laid)
	if err != nil {
		return out, err
	}
	for i := range moments { // rounds are passes here: their numbers are the record's
		moments[i].Round = goes[moments[i].Pass-1][0].Round
	}
	out.Picture = s.pictured(moments)
	if err := r.after(goes, &out); err != nil {
		return out, err
	}
	out.Remarks = out.says()
	return out, nil
}

// after makes the joint many times: up to each round, and with one more.
func (r Replay) after(goes [][]Pull, out *Replayed) error {
	ends := r.ends(goes)
	var before []elastic.Made
	for i, end := range ends {
		g := Gone{Made: end <= len(goes)}
		made := goes[:min(end, len(goes))]
		schedule := r.schedule(made, 1)
		if g.Made && end > 0 {
			g.Round = goes[end-1][0].Round
		}
		if !g.Made {
			g.Round = out.Rounds[len(out.Rounds)-1].Round + 1
			order, err := sequence.Ring(sequence.Circular, r.Subject.Bolts, 1)
			if err != nil {
				return err
			}
			schedule.Passes = append(schedule.Passes, elastic.Pass{Target: r.Subject.Load, Order: order})
			g.Nuts = r.Subject.Bolts
		}
		if i > 0 && g.Made {
			for _, go1 := range goes[ends[i-1]:end] {
				for _, p := range go1 {
					g.Nuts++
					if p.Moved {
						g.Moved++
					}
				}
			}
		}
		now, loads, of, err := r.make(schedule)
		if err != nil {
			return err
		}
		g.Lowest = of.likely(func(m elastic.Made) float64 { return m.Least })
		if r.Subject.Needed > 0 {
			g.Seats = of.share(func(m elastic.Made) bool { return m.Slackest >= r.Subject.Needed })
		}
		for k := range before { // the same luck: what moves more is what moved in this round
			g.Expected += float64(now[k].Seen-before[k].Seen) / float64(len(now))
		}
		if g.Made && end == len(goes) {
			out.Bolts = r.bolts(loads, out.Low)
		}
		out.Rounds, before = append(out.Rounds, g), now
	}
	return nil
}

// ends says after how many goes the passes and each of the rounds were made, and
// one beyond the last.
func (r Replay) ends(goes [][]Pull) (out []int) {
	for i, g := range goes {
		if i+1 == len(goes) || goes[i+1][0].Round != g[0].Round && goes[i+1][0].Round > 0 {
			out = append(out, i+1)
		}
	}
	return append(out, len(goes)+1)
}

func (r Replay) make(s elastic.Schedule) ([]elastic.Made, []float64, sample, error) {
	joints, levels := r.Subject.supposed()
	made, loads, err := elastic.Simulate(joints, s, elastic.Trials{Runs: r.Runs, Seed: r.Seed, Workers: r.Workers, Closed: true})
	return made, loads, sample{made, levels}, err
}

func (r Replay) bolts(loads []float64, low float64) []BoltAfter {
	n := r.Subject.Bolts
	out := make([]BoltAfter, n)
	one := make([]float64, len(loads)/n)
	for b := range out {
		below := 0
		for i := range one {
			one[i] = loads[i*n+b]
			if one[i] < low {
				below++
			}
		}
		out[b] = BoltAfter{elastic.LikelyOf(one), float64(below) / float64(len(one))}
	}
	return out
}

// worth is how much a round must bring, as a share of the lowest load, to have
// been worth it.
const worth = 0.03

// says what the figures come to.
func (x Replayed) says() []string {
	last, next := x.Rounds[len(x.Rounds)-2], x.Rounds[len(x.Rounds)-1]
	var out []string
	if next.Lowest.Middle > last.Lowest.Middle*(1+worth) {
		out = append(out, fmt.Sprintf("One more check round would likely have brought the lowest bolt from %.3g to %.3g kN.",
			last.Lowest.Middle/1000, next.Lowest.Middle/1000))
	} else {
		out = append(out, "One more check round would have brought little.")
	}
	worst, share := 0, 0.0
	for b, a := range x.Bolts {
		if a.Low > share {
			worst, share = b+1, a.Low
		}
	}
	if share > 0.01 {
		out = append(out, fmt.Sprintf("Bolt %d is the likeliest to be low: in %.0f of 100 joints.", worst, 100*share))
	}
	return out
}
