package drill

import (
	"fmt"
	"math/rand/v2"
	"slices"

	"dynacor/core/refusal"
)

// Order asks in which order parts lie along the axis of a joint.
type Order struct {
	Recipe string
	Title  string
	First  string   // the end that is begun at
	Before string   // the part that lies before them; empty: they are the first
	Parts  []string // as they lie on the bench, mixed
	Right  []string // along the axis
}

// How many parts are ordered at once.
const (
	leastParts = 4
	mostParts  = 6
)

func newOrder(r *rand.Rand, m Material) (Order, error) {
	stacks := slices.DeleteFunc(slices.Clone(m.Stacks), func(s Stack) bool { return len(s.Parts) < leastParts })
	if len(stacks) == 0 {
		return Order{}, refusal.New(refusal.Missing, "material", "No recipe here has parts along an axis.", "Take another drill.")
	}
	s := stacks[r.IntN(len(stacks))]
	n := leastParts + r.IntN(min(mostParts, len(s.Parts))-leastParts+1)
	from := r.IntN(len(s.Parts) - n + 1)
	out := Order{Recipe: s.Recipe, Title: s.Title, First: s.First, Right: slices.Clone(s.Parts[from : from+n])}
	if from > 0 {
		out.Before = s.Parts[from-1]
	}
	out.Parts = slices.Clone(out.Right)
	for slices.Equal(out.Parts, out.Right) {
		r.Shuffle(n, func(i, j int) { out.Parts[i], out.Parts[j] = out.Parts[j], out.Parts[i] })
	}
	return out, nil
}

func (o Order) judge(laid []string) Judged {
	out := Judged{Holds: slices.Equal(laid, o.Right), Order: o.Right}
	if out.Holds {
		out.Why = "Every part lies in its place."
		return out
	}
	at := 0
	for at < len(laid) && at < len(o.Right) && laid[at] == o.Right[at] {
		at++
	}
	switch {
	case at >= len(o.Right) || at >= len(laid):
		out.Why = fmt.Sprintf("%d parts were laid; there are %d.", len(laid), len(o.Right))
	case at == 0:
		out.Why = fmt.Sprintf("First of these lies “%s”, and not “%s”.", o.Right[0], laid[0])
	default:
		out.Why = fmt.Sprintf("Behind “%s” lies “%s”, and not “%s”.", o.Right[at-1], o.Right[at], laid[at])
	}
	return out
}
