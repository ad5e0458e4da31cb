package recipe

import (
	"fmt"
	"slices"

	"dynacor/core/kind"
	"dynacor/core/refusal"
	"dynacor/core/run"
	"dynacor/core/sequence"
	"dynacor/core/unit"
)

// The bounds of a recipe.
const (
	MostBolts    = 200
	MostChoices  = 6
	MostVariants = 256
)

// MostRounds is how many check rounds may move a nut before the work stops and
// asks: as many as in a run.
const MostRounds = run.MostRounds

// MostPortions is how many rounds may move a nut where a group is tightened in
// portions of a turn: many do, but not without end.
const MostPortions = 24

// Joint is what Begin lays a recipe out for: the option of each choice, the
// value of each need, the bolts of each group that asks for a count, and the
// order of each group that does not take its kind's own, with the reason where
// it is against the kind.
type Joint struct {
	Choices map[string]string
	Values  map[string]unit.Quantity
	Bolts   map[string]int
	Shares  map[string][]float64 // of each group that is not staged as its recipe has it, percent
	Grids   map[string]Grid      // of each plate whose bolts are not as square as they can be
	Orders  map[string]sequence.Pattern
	Reasons map[string]string
}

// Act is one thing to do: a step, or one bolt of it.
type Act struct {
	Step   string
	Does   Does
	Bolt   int     // 0 where the step has no bolts
	Share  float64 // percent of the group's value
	Turn   float64 // degrees; in a round of portions the most that it is turned by
	Stroke int     // which of several turns of one bolt, from 1
	Lock   bool    // the lock of this bolt, after it
	Round  int     // of going round until nothing moves, from 1
}

// Work is a recipe laid out for a joint, with what has been done. It is never
// changed: Do returns the work after it.
type Work struct {
	Recipe  Recipe
	Joint   Joint
	windows map[string]Window
	blocks  [][]Act        // one after the other; within one in any order
	at      int            // the first block with something to do
	done    map[Act]int    // where in the log
	allowed map[string]int // rounds of a step beyond the most, that an engineer let be
	stopped bool           // too many rounds moved a nut
	private bool           // nobody else has it: it is changed in place
	Log     []Entry
}

// Entry is one act as it was done. Outside says why a reading is outside its
// limit, or that the act was left undone; Reason why it was kept so.
type Entry struct {
	Act      Act
	Person   string
	Readings []float64
	Bolts    []int // of a sample: where they were taken
	Moved    bool
	Outside  string
	Reason   string
	Tried    bool // measured, and to be adjusted and measured again
	Skipped  bool // left undone
}

// Begin lays a recipe out that Check has passed. It refuses a choice that was not made, a value that
// is missing or has the wrong unit, and a count the group cannot have.
func (r Recipe) Begin(j Joint) (*Work, error) {
	for _, c := range r.Asked(j.Choices) {
		if !slices.Contains(c.Options, j.Choices[c.Name]) {
			return nil, refusal.New(refusal.Missing, c.Name, fmt.Sprintf("%s: %q is none of its options.", c.Text, j.Choices[c.Name]), "Choose one.")
		}
	}
	for _, n := range r.Needs {
		if !n.When.Holds(j.Choices) {
			continue
		}
		q, ok := j.Values[n.Name]
		if !ok {
			return nil, refusal.New(refusal.Missing, n.Name, fmt.Sprintf("%s is missing.", n.Text), "Read it off the maker's sheet for the type and size.")
		}
		v, err := In(q, n.Unit)
		if err == nil {
			err = refusal.Positive(n.Name, v, string(n.Unit))
		}
		if err != nil {
			return nil, refusal.At(n.Name, err)
		}
	}
	w := &Work{Recipe: r, Joint: j, windows: map[string]Window{}, done: map[Act]int{}, allowed: map[string]int{}}
	for _, s := range r.Steps {
		if !s.When.Holds(j.Choices) {
			continue
		}
		if s.Limit != nil {
			win, err := s.Limit.Window(j.Values)
			if err != nil {
				return nil, err
			}
			win.Spots = s.Where()
			w.windows[s.ID] = win
		}
		acts, err := w.lay(s)
		if err != nil {
			return nil, err
		}
		together := s.Block != "" && len(w.blocks) > 0 && w.inBlock(s.Block)
		if together && len(acts) == 1 {
			last := len(w.blocks) - 1
			w.blocks[last] = append(w.blocks[last], acts[0])
			continue
		}
		for _, a := range acts {
			w.blocks = append(w.blocks, []Act{a})
		}
	}
	w.settle()
	return w, nil
}

// inBlock reports whether the block laid last belongs to the named one.
func (w *Work) inBlock(name string) bool {
	last := w.blocks[len(w.blocks)-1][0]
	s, _ := w.step(last.Step)
	return s.Block == name && last.Bolt == 0
}

func (w *Work) step(id string) (Step, bool) {
	i := slices.IndexFunc(w.Recipe.Steps, func(s Step) bool { return s.ID == id })
	if i < 0 {
		return Step{}, false
	}
	return w.Recipe.Steps[i], true
}

// group returns the group of that name, an empty one where there is none.
func (w *Work) group(name string) Group {
	i := slices.IndexFunc(w.Recipe.Groups, func(g Group) bool { return g.Name == name })
	if i < 0 {
		return Group{}
	}
	return w.Recipe.Groups[i]
}

// lay spells a step out in its acts, in order.
func (w *Work) lay(s Step) ([]Act, error) {
	if s.Group == "" {
		return []Act{{Step: s.ID, Does: s.Does}}, nil
	}
	g := w.group(s.Group)
	if !g.When.Holds(w.Joint.Choices) {
		return nil, nil
	}
	order, err := w.order(g, s.Some)
	if err != nil {
		return nil, err
	}
	var acts []Act
	switch g.How {
	case ByTurns:
		turns := g.Turns
		if len(turns) == 0 {
			v, err := In(w.Joint.Values[g.Value], unit.Degree)
			if err != nil {
				return nil, refusal.At(g.Value, err)
			}
			turns = []float64{v}
		}
		for _, bolt := range order {
			for i, turn := range turns {
				acts = append(acts, Act{Step: s.ID, Does: s.Does, Bolt: bolt, Turn: turn, Stroke: i + 1})
			}
		}
	case ByHand, NotTorqued:
		for _, bolt := range order {
			acts = append(acts, Act{Step: s.ID, Does: s.Does, Bolt: bolt})
		}
	default:
		if g.Portion > 0 || g.Stands {
			break // rounds alone
		}
		shares := w.shares(g)
		for _, share := range shares {
			for _, bolt := range order {
				acts = append(acts, Act{Step: s.ID, Does: s.Does, Bolt: bolt, Share: share})
			}
		}
	}
	acts = w.lock(g, acts)
	if g.Still && s.Some != Quarters {
		round, err := w.round(s, 1)
		if err != nil {
			return nil, err
		}
		acts = append(acts, round...)
	}
	return acts, nil
}

// shares are the stages of a group, percent: the joint's, the recipe's, or in
// full at once.
func (w *Work) shares(g Group) []float64 {
	if chosen := w.Joint.Shares[g.Name]; len(chosen) > 0 {
		return chosen
	}
	if len(g.Shares) > 0 {
		return g.Shares
	}
	return []float64{100}
}

// lock puts each bolt's lock right after its last pull, before the next bolt.
func (w *Work) lock(g Group, acts []Act) []Act {
	if g.Lock == "" {
		return acts
	}
	var out []Act
	for i, a := range acts {
		out = append(out, a)
		last := !slices.ContainsFunc(acts[i+1:], func(b Act) bool { return b.Bolt == a.Bolt })
		if last {
			out = append(out, Act{Step: a.Step, Does: a.Does, Bolt: a.Bolt, Lock: true})
		}
	}
	return out
}

// round is one going round all bolts of a step's group: in circular order, or,
// where they are turned by portions, in the group's own.
func (w *Work) round(s Step, number int) ([]Act, error) {
	g := w.group(s.Group)
	order := oneByOne(w.bolts(g))
	if g.Portion > 0 {
		var err error
		if order, err = w.order(g, Whole); err != nil {
			return nil, err
		}
	}
	acts := make([]Act, len(order))
	for i, bolt := range order {
		acts[i] = Act{Step: s.ID, Does: s.Does, Bolt: bolt, Share: 100, Turn: g.Portion, Round: number}
	}
	return acts, nil
}

// mostRounds is how many rounds of a step may move a nut.
func (w *Work) mostRounds(step string) int {
	s, _ := w.step(step)
	most := MostRounds
	if w.group(s.Group).Portion > 0 {
		most = MostPortions
	}
	return most + w.allowed[step]
}

func (w *Work) bolts(g Group) int {
	if g.Bolts > 0 {
		return g.Bolts
	}
	if g.Of != "" {
		return w.Joint.Bolts[g.Of]
	}
	return w.Joint.Bolts[g.Name]
}

// order returns the bolts of a group in the order they are tightened in.
func (w *Work) order(g Group, some Some) ([]int, error) {
	n := w.bolts(g)
	if some != Whole {
		four, others, err := sequence.Quarters(n, 1)
		if err != nil {
			return nil, refusal.At(g.Name, err)
		}
		if some == Quarters {
			return four, nil
		}
		return others, nil
	}
	return w.Recipe.Order(g, n, w.Joint.Grids[g.Name], w.Joint.Orders[g.Name], w.Joint.Reasons[g.Name])
}

// Order returns the bolts of a group of n in the order they are tightened in. at
// is how they lie, of a plate; zero: as square as they can. chosen is the order
// where it is not the group's own; against its kind it needs a reason.
func (r Recipe) Order(g Group, n int, at Grid, chosen sequence.Pattern, reason string) ([]int, error) {
	if g.Bolts == 0 && (n < g.Least || n > g.Most) {
		return nil, refusal.Number(refusal.OutOfRange, g.Name, float64(n), float64(g.Most), "bolts",
			fmt.Sprintf("%d bolts in %s; it has %d to %d.", n, g.Name, g.Least, g.Most), "Count them.")
	}
	k, err := kind.Named(r.Kind)
	if err != nil {
		return nil, err
	}
	p := r.Usual(g, n)
	if chosen != "" {
		if err := k.CheckReason(chosen, reason); err != nil {
			return nil, refusal.At(g.Name, err)
		}
		p = chosen
	}
	switch {
	case n == 2 || g.Layout == Pair:
		return sequence.Pair(1)
	case g.Layout == Plate && (p == sequence.CentreOut || p == ""):
		if at == (Grid{}) {
			if at, err = GridOf(n, 0, 0, 0); err != nil {
				return nil, err
			}
		}
		return sequence.Grid(at.Rows, at.Cols, at.Across, at.Down)
	case n < 3 || p == "" || p == sequence.CentreOut || p == sequence.Alternating:
		return oneByOne(n), nil
	}
	return sequence.Ring(p, n, 1)
}

// oneByOne is 1 to n: for a line, and for what has no order of its own.
func oneByOne(n int) []int {
	out := make([]int, n)
	for i := range out {
		out[i] = i + 1
	}
	return out
}

// Usual returns the order that a group of n is tightened in unless another is
// chosen; empty where it has none.
func (r Recipe) Usual(g Group, n int) sequence.Pattern {
	if g.Order != "" {
		return g.Order
	}
	if g.Layout == Line || g.Layout == Single {
		return ""
	}
	k, err := kind.Named(r.Kind)
	if err != nil {
		return ""
	}
	p, _ := k.Order(n)
	return p
}
