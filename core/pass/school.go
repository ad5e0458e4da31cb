package pass

import (
	"fmt"
	"slices"
	"sync"

	"dynacor/core/refusal"
	"dynacor/core/sequence"
)

// Scheme is how a school goes about its shares.
type Scheme string

// The schemes.
const (
	Staged        Scheme = "staged"          // every bolt at each share
	QuartersFirst Scheme = "quarters first"  // four bolts through all shares, then all the others once in full
	RoundAndRound Scheme = "round and round" // every bolt in full, in circular order, until a round moves nothing
	EvenTurns     Scheme = "even turns"      // two bolts turned about by whole turns, then to torque
	LittleOften   Scheme = "little and often"
)

// Preset is a named way of staging, to be edited where the work asks for it.
// Shares are percent of the target.
type Preset struct {
	Name   string
	Scheme Scheme
	Shares []float64
	Usual  string // where it is usual
	Risk   string // what it risks
}

// Presets lists the staged ones. Their shares are not to be written to.
func Presets() []Preset { return slices.Clone(presets()) }

// PresetNamed returns the staged one of that name.
func PresetNamed(name string) (p Preset, ok bool) {
	i := slices.IndexFunc(presets(), func(p Preset) bool { return p.Name == name })
	if i < 0 {
		return p, false
	}
	return presets()[i], true
}

// presets is the list, made once: many a plan looks its own up.
var presets = sync.OnceValue(func() []Preset {
	return []Preset{
		{"20-60-100", Staged, []float64{20, 60, 100}, "soft and fibre gaskets", "three full goes over the bolts"},
		{"30-60-100", Staged, []float64{30, 60, 100}, "spiral gaskets and raised faces", "a first stage of 30 % tilts a soft gasket"},
		{"30-70-100", Staged, []float64{30, 70, 100}, "spiral gaskets and ring joints", "a first stage of 30 % tilts a soft gasket"},
		{"25-50-75-100", Staged, []float64{25, 50, 75, 100}, "large rings, uneven faces", "slow: four goes over the bolts"},
		{"50-100", Staged, []float64{50, 100}, "rigid metal to metal", "a gasket is pinched on the first side"},
	}
})

// Schools lists every preset, those that are not staged after those that are.
func Schools() []Preset {
	return append(Presets(),
		Preset{"quarters first", QuartersFirst, []float64{25, 60, 100}, "casings that are trued on four bolts, large rings",
			"the four lose much of their load when the others come"},
		Preset{"full value, round and round", RoundAndRound, []float64{100}, "clamping discs",
			"a gasket is drawn in on one side; many rounds"},
		Preset{"even turns", EvenTurns, []float64{100}, "two-bolt clamps", "the first side leads by a whole turn"},
		Preset{"little and often", LittleOften, []float64{10, 20, 30, 40, 50, 60, 70, 80, 90, 100}, "taper bushes",
			"slow; a hurried increment lets the hub wobble"},
	)
}

// SchoolNamed returns the preset of that name.
func SchoolNamed(name string) (Preset, error) {
	for _, p := range Schools() {
		if p.Name == name {
			return p, nil
		}
	}
	return Preset{}, refusal.New(refusal.Unknown, "school", fmt.Sprintf("Unknown preset %q.", name), "Choose one from the list.")
}

// Go is one go over some or all of the bolts: at a share of the target,
// percent, or by a turn of each nut, degrees, done in strokes. Repeated, it is
// gone over until a whole go moves nothing, or the turned nut carries.
type Go struct {
	Share   float64
	Turn    float64
	Strokes int
	Order   []int
	Repeat  bool
}

// Schedule is the passes of a joint with their orders, and the order of the
// check rounds that follow.
type Schedule struct {
	Name       string
	Passes     []Go
	CheckOrder []int
}

// FullTurn is what a side of a two-bolt clamp is turned by before the other.
const FullTurn = 360.0

// Schedule lays a preset over n bolts. Pattern and start count for the staged
// ones; the others have an order of their own. strokes is how a full turn is
// made where one is: 1, or 4 quarters.
func (p Preset) Schedule(n int, pattern sequence.Pattern, start, strokes int) (Schedule, error) {
	if err := CheckShares(p.Shares); err != nil {
		return Schedule{}, err
	}
	s := Schedule{Name: p.Name}
	var err error
	if s.CheckOrder, err = sequence.Ring(sequence.Circular, n, start); err != nil {
		return Schedule{}, err
	}
	switch p.Scheme {
	case Staged:
		err = s.staged(p.Shares, pattern, n, start)
	case LittleOften:
		err = s.staged(p.Shares, sequence.Circular, n, start)
	case RoundAndRound:
		s.Passes = []Go{{Share: 100, Order: s.CheckOrder, Repeat: true}}
	case QuartersFirst:
		err = s.quarters(p.Shares, n, start)
	case EvenTurns:
		err = s.turns(n, strokes)
	default:
		err = refusal.New(refusal.Unknown, "scheme", fmt.Sprintf("Unknown scheme %q.", string(p.Scheme)), "Choose one from the list.")
	}
	if err != nil {
		return Schedule{}, err
	}
	return s, nil
}

func (s *Schedule) staged(shares []float64, pattern sequence.Pattern, n, start int) error {
	order, err := sequence.Ring(pattern, n, start)
	if err != nil {
		return err
	}
	for _, share := range shares {
		s.Passes = append(s.Passes, Go{Share: share, Order: order})
	}
	return nil
}

func (s *Schedule) quarters(shares []float64, n, start int) error {
	four, others, err := sequence.Quarters(n, start)
	if err != nil {
		return err
	}
	for _, share := range shares {
		s.Passes = append(s.Passes, Go{Share: share, Order: four})
	}
	if len(others) > 0 {
		s.Passes = append(s.Passes, Go{Share: 100, Order: others})
	}
	return nil
}

func (s *Schedule) turns(n, strokes int) error {
	if n != 2 {
		return refusal.Number(refusal.Contradicts, "bolts", float64(n), 2, "bolts",
			fmt.Sprintf("Even turns are for two bolts; this joint has %d.", n), "Choose a staged preset.")
	}
	if strokes != 1 && strokes != 4 {
		return refusal.Number(refusal.OutOfRange, "strokes", float64(strokes), 4, "strokes",
			fmt.Sprintf("A full turn in %d strokes; it is made in one, or in four quarters.", strokes), "Enter 1 or 4.")
	}
	s.Passes = []Go{{Turn: FullTurn, Strokes: strokes, Order: s.CheckOrder, Repeat: true}, {Share: 100, Order: s.CheckOrder}}
	return nil
}
