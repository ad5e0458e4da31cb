package bench

import (
	"fmt"
	"strings"

	"dynacor/core/elastic"
	"dynacor/core/pass"
	"dynacor/core/refusal"
	"dynacor/core/sequence"
)

// Way is how a ring might be made. Its school is one of the package pass, or
// stages of its own, percent; of a staged one the order, the start and the
// tools are its own.
type Way struct {
	School string
	Shares []float64 // where School is empty
	Order  sequence.Pattern
	Start  int
	Tools  int // at once: 1, 2 or 4
	Rounds int // check rounds at most; 0: none
	Every  int // a check round takes every bolt (1), every second (2), every fourth (4)
}

// MostRounds is how many check rounds a way has at the most; a joint that
// still moves then is asked about in the work, too.
const MostRounds = 20

// Seen is the rise of load, a share, from which a nut is seen to move in a check
// round: two degrees of the some forty that it takes from snug. A tool's own
// scatter moves nuts by less, in every round, for ever.
const Seen = 0.05

// Words says the stages of a way in short.
func (w Way) Words() string {
	if w.School != "" {
		return w.School
	}
	words := make([]string, len(w.Shares))
	for i, s := range w.Shares {
		words[i] = fmt.Sprintf("%g", s)
	}
	return strings.Join(words, "-")
}

// OrderWords says the order of a way; of a school that has its own it says
// nothing.
func (w Way) OrderWords() string {
	if school, err := w.school(); err != nil || school.Scheme != pass.Staged {
		return ""
	}
	return w.Order.Words()
}

func (w Way) school() (pass.Preset, error) {
	if w.School != "" {
		return pass.SchoolNamed(w.School)
	}
	return pass.Preset{Name: w.Words(), Scheme: pass.Staged, Shares: w.Shares}, pass.CheckShares(w.Shares)
}

// Laid is a way laid out on a ring: the shares of its passes, percent, and the
// order of each.
type Laid struct {
	Way
	Shares   []float64
	Orders   [][]int
	Schedule elastic.Schedule
}

// On lays a way out on n bolts of a load, N.
func (w Way) On(n int, load float64) (Laid, error) {
	school, err := w.school()
	if err != nil {
		return Laid{}, err
	}
	if school.Scheme == pass.EvenTurns {
		return Laid{}, refusal.New(refusal.Contradicts, "school", "A pass by turns has no load to simulate.",
			"Compare schools that go by torque.")
	}
	if w.Rounds < 0 || w.Rounds > MostRounds {
		return Laid{}, refusal.Number(refusal.OutOfRange, "rounds", float64(w.Rounds), MostRounds, "rounds",
			fmt.Sprintf("%d check rounds; 0 to %d are tried.", w.Rounds, MostRounds), "Usually up to 5.")
	}
	every := max(w.Every, 1)
	if every != 1 && every != 2 && every != 4 {
		return Laid{}, refusal.Number(refusal.OutOfRange, "every", float64(every), 4, "bolts",
			fmt.Sprintf("A check round of every %d bolts; every one, every second or every fourth is tried.", every), "Choose one of them.")
	}
	start := max(w.Start, 1)
	order := w.Order
	if school.Scheme == pass.Staged && w.Tools > 1 {
		if order, err = w.together(n); err != nil {
			return Laid{}, err
		}
		w.Order = order // which is what is made, and what a plan would have
	}
	laid, err := school.Schedule(n, order, start, 1)
	if err != nil {
		return Laid{}, err
	}
	out := Laid{Way: w}
	if out.Schedule, err = elastic.Of(laid, load, w.Rounds); err != nil {
		return Laid{}, err
	}
	for i, g := range laid.Passes {
		out.Shares, out.Orders = append(out.Shares, g.Share), append(out.Orders, g.Order)
		if w.Tools > 1 && school.Scheme == pass.Staged {
			out.Schedule.Passes[i].Together = w.Tools
		}
	}
	round := make([]int, 0, n)
	for i := 0; i < n; i += every {
		round = append(round, laid.CheckOrder[i])
	}
	out.Schedule.CheckOrder, out.Schedule.Still = round, Seen
	return out, nil
}

// together finds the order in which several tools stand evenly round the ring
// at each pull: the way's own where it has them so, else the cross.
func (w Way) together(n int) (sequence.Pattern, error) {
	if w.Tools != 2 && w.Tools != 4 {
		return "", refusal.Number(refusal.OutOfRange, "tools", float64(w.Tools), 4, "tools",
			fmt.Sprintf("%d tools at once; 1, 2 or 4 are tried.", w.Tools), "Choose one of them.")
	}
	for _, p := range []sequence.Pattern{w.Order, sequence.Cross4, sequence.Star} {
		order, err := sequence.Ring(p, n, max(w.Start, 1))
		if err == nil && sequence.AtOnce(order, n, w.Tools) {
			return p, nil
		}
	}
	return "", refusal.Number(refusal.Contradicts, "tools", float64(w.Tools), float64(n), "tools",
		fmt.Sprintf("%d tools do not stand evenly round %d bolts.", w.Tools, n), "Use fewer tools.")
}
