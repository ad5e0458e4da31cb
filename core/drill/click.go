package drill

import (
	"fmt"
	"math/rand/v2"

	"dynacor/core/unit"
)

// Stop is a pull that goes on until its tool clicks: the hand stops at once.
type Stop struct {
	Click float64 // s after the pull begins
	Pace  float64 // of the pull, degrees in a second
}

// How soon a hand stops: what it needs from hearing to standing still.
const (
	soon       = 0.35 // s
	leastClick = 1.5
	mostClick  = 4.5
)

func newStop(r *rand.Rand) Stop {
	return Stop{unit.Round(leastClick+r.Float64()*(mostClick-leastClick), 0.01), float64(10 + r.IntN(11))}
}

func (s Stop) judge(stopped float64) Judged {
	late := stopped - s.Click
	out := Judged{Holds: late >= 0 && late <= soon, Right: s.Click}
	switch {
	case late < 0:
		out.Why = fmt.Sprintf("Stopped %.2f s before the click: the bolt is short of its value. Pull on, evenly, until it clicks.", -late)
	case out.Holds:
		out.Why = fmt.Sprintf("Stopped %.2f s after the click.", late)
	default:
		out.Why = fmt.Sprintf("Stopped %.2f s after the click: %.0f° past it at this pace. A second click is a second pull.", late, late*s.Pace)
	}
	return out
}
