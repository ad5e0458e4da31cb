package bench

import "dynacor/core/refusal"

// Kept is what was compared when a way was taken: it stays with the plan.
type Kept struct {
	Subject Subject
	Ways    []Outcome
	Taken   int // its place among Ways
	Runs    int
	Seed    uint64
}

// IsZero reports whether nothing was compared.
func (k Kept) IsZero() bool { return len(k.Ways) == 0 }

// Way is the one that was taken.
func (k Kept) Way() Way {
	if k.Taken < 0 || k.Taken >= len(k.Ways) {
		return Way{}
	}
	return k.Ways[k.Taken].Way
}

// Take makes the joints of a trial and keeps what they came to, with one of the
// ways taken. One that a plan cannot carry is refused.
func (t Try) Take(way int) (Kept, error) {
	if way < 0 || way >= len(t.Ways) {
		return Kept{}, refusal.Number(refusal.OutOfRange, "way", float64(way+1), float64(len(t.Ways)), "",
			"That way was not compared.", "Choose one of those that were.")
	}
	if !t.Ways[way].Fits() {
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
