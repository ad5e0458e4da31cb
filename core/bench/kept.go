package bench

import (
	"fmt"

	"dynacor/core/refusal"
)

// Kept is what was compared when a way was taken: it stays with the plan.
type Kept struct {
	Subject Subject
	Ways    []Outcome
	Taken   int // its place among Ways
	Runs    int
	Seed    uint64
}

// Way is the one that was taken.
func (k Kept) Way() Way {
	if k.Taken < 0 || k.Taken >= len(k.Ways) {
		return Way{}
	}
	return k.Ways[k.Taken].Way
}

// Lines says what was compared, two lines a way, the taken one first.
func (k Kept) Lines() []string {
	if k.Taken < 0 || k.Taken >= len(k.Ways) {
		return nil
	}
	out := []string{fmt.Sprintf("Compared on the Bench, on %d joints each: a help, and no permission.", k.Runs),
		fmt.Sprintf("Taken: %s", k.Way().Words()), k.figures(k.Ways[k.Taken])}
	for i, o := range k.Ways {
		if i != k.Taken {
			out = append(out, fmt.Sprintf("Beside it: %s", o.Way.Words()), k.figures(o))
		}
	}
	return out
}

func (k Kept) figures(o Outcome) string {
	pulls, minutes, lowest := o.Pulls.Middle, o.Minutes.Middle, o.Lowest
	if k.Subject.Needed == 0 {
		return fmt.Sprintf("%.0f pulls, %.0f min, lowest bolt %.3g kN, %.3g to %.3g kN", pulls, minutes, lowest.Middle/1000, lowest.Low/1000,
			lowest.High/1000)
	}
	return fmt.Sprintf("%.0f pulls, %.0f min, lowest bolt %.3g kN, %.3g to %.3g kN; seats in %.3g of 100 joints", pulls, minutes,
		lowest.Middle/1000, lowest.Low/1000, lowest.High/1000, 100*o.Seats.All)
}

// Take makes the joints of a trial and keeps what they came to, with one of the
// ways taken. One that a plan cannot carry is refused.
func (t Try) Take(way int) (Kept, error) {
	if way < 0 || way >= len(t.Ways) {
		return Kept{}, refusal.Number(refusal.OutOfRange, "way", float64(way+1), float64(len(t.Ways)), "",
			"That way was not compared.", "Choose one of those that were.")
	}
	if !t.Subject.Carries(t.Ways[way]) {
		return Kept{}, refusal.New(refusal.Contradicts, "way", "A plan takes all bolts through each of its stages: this way does not.",
			"Take a staged one, or make the joint so by a maker's instruction.")
	}
	tried, err := t.Run()
	if err != nil {
		return Kept{}, err
	}
	out := Kept{Subject: t.Subject, Taken: way, Runs: t.Runs, Seed: t.Seed}
	for _, x := range tried {
		out.Ways = append(out.Ways, x.Outcome)
	}
	return out, nil
}
