package drill

import (
	"fmt"
	"math"
	"math/rand/v2"
	"slices"

	"dynacor/core/bench"
	"dynacor/core/pass"
	"dynacor/core/sequence"
)

// The rings of a drill.
const (
	LeastBolts = 4
	MostBolts  = 40
)

// Next is a ring in the middle of a pass, as somebody finds it who was called
// away: which bolts were pulled at this share is marked on them, and no more.
type Next struct {
	Bolts  int
	Order  sequence.Pattern
	Start  int
	Stage  int     // from 1
	Stages int     // of so many
	Share  float64 // percent
	Pulled []int   // by position
}

func newNext(r *rand.Rand) Next {
	out := Next{Bolts: LeastBolts + r.IntN(MostBolts-LeastBolts+1)}
	orders := bench.Orders(out.Bolts)
	out.Order = orders[r.IntN(len(orders))]
	out.Start = 1 + r.IntN(out.Bolts)
	stages := pass.Presets()[r.IntN(len(pass.Presets()))].Shares
	at := r.IntN(len(stages))
	out.Stage, out.Stages, out.Share = at+1, len(stages), stages[at]
	out.Pulled = slices.Sorted(slices.Values(out.order()[:1+r.IntN(out.Bolts-1)]))
	return out
}

func (n Next) order() []int {
	order, err := sequence.Ring(n.Order, n.Bolts, n.Start)
	if err != nil {
		return nil // none is drawn that does not fit
	}
	return order
}

// Right is the bolt that is next.
func (n Next) Right() int {
	order := n.order()
	if len(n.Pulled) >= len(order) {
		return 0
	}
	return order[len(n.Pulled)]
}

func (n Next) judge(answer float64) Judged {
	right, order := n.Right(), n.order()
	out := Judged{Holds: answer == float64(right), Right: float64(right)}
	last := 0
	if k := len(n.Pulled); k > 0 && k <= len(order) {
		last = order[k-1]
	}
	bolt := int(answer)
	switch {
	case answer != math.Trunc(answer) || bolt < 1 || bolt > n.Bolts:
		out.Why = fmt.Sprintf("There is no such bolt on a ring of %d: bolt %d is next.", n.Bolts, right)
	case out.Holds:
		out.Why = fmt.Sprintf("Bolt %d: it follows on bolt %d.", right, last)
	case slices.Contains(n.Pulled, bolt):
		out.Why = fmt.Sprintf("Bolt %d was pulled in this pass already. After bolt %d comes bolt %d.", bolt, last, right)
	default:
		turn := slices.Index(order, bolt) + 1
		out.Why = fmt.Sprintf("Bolt %d is number %d of this order. After bolt %d comes bolt %d, number %d.", bolt, turn, last, right,
			len(n.Pulled)+1)
	}
	return out
}
