// Package work is the engine: it leads through a joint that was laid out, bolt
// by bolt and step by step, and folds the entries of its run into what is done,
// what is next, what is open and what the record shows first.
//
// A plan is a joint laid out as acts: each step once, each bolt of a group at
// each of its stages, then rounds until one of them moves nothing. Steps of one
// block may be done in any order, all else one after the other.
//
// One law holds whatever happens: any work or change on a bolt voids the rounds
// of its group, what was proven after it, and every signature; nothing is signed
// with anything open; a replaced bolt begins its whole chain anew; a bolt that
// was turned by its angle is not simply turned again. It is derived from what an
// entry touches, in void.go, and from two rules in the recipe: what a step is
// voided by, and what a replaced bolt takes with it.
//
// The state is never changed from outside: Then returns the next one and leaves
// the one before as it was.
package work

import (
	"slices"
	"time"

	"dynacor/core/friction"
	"dynacor/core/joint"
	"dynacor/core/recipe"
	"dynacor/core/record"
	"dynacor/core/refusal"
	"dynacor/core/sequence"
	"dynacor/core/unit"
)

// Plan is a joint laid out as acts, with nothing done yet. It never changes.
type Plan struct {
	Recipe  recipe.Recipe
	Choices map[string]string
	Result  joint.Result

	IssuedAt time.Time // what is dated before is asked about; zero: nobody knows

	madeAt time.Time
	own    friction.Library // the joint's own lubricants
	aims   map[string]unit.Quantity
	steps  []step
	index  map[string]int // step's id to its place in steps
	acts   []record.Act   // of all steps, rounds apart
	place  map[record.Act]int32
	owners []owner
	owner  map[string]int // group to the place of its owner in owners
	parts  []recipe.Part
	keeps  map[string][]keeper // where what is kept under a name is read
	draws  map[string]draws    // what follows from a tensioner, by its name
}

// draws is a pressure that follows from the tensioner of a group.
type draws struct {
	group string
	of    int // its draw, from 0; -1: at which a nut comes free
}

// step is a step of this variant as it is laid out.
type step struct {
	recipe.Step
	group  joint.Group
	owner  int   // of its group; -1 where it has none
	first  int32 // its acts lie in acts from first to last
	last   int32
	rounds []int // the bolts in the order of going round; nil where it is not
	reads  []read
	marks  []recipe.Comparison
	hold   float64 // minutes
	block  [2]int  // its block in steps, from the first to behind the last
	voided []bool  // by owner: whether work on its bolts voids the step
	named  bool    // the recipe names the groups that void it
	voids  []int   // the later steps that doing it again voids
	byTool bool    // another tool voids it
}

// owner is a group that has bolts of its own.
type owner struct {
	group joint.Group
	first int   // of its bolts among all
	steps []int // that work on them, in order
}

// Lay lays a joint out as acts. It refuses what Compute lists as open.
func Lay(in joint.Input, r recipe.Recipe, res joint.Result) (*Plan, error) {
	in, r = joint.Whole(in, r)
	if len(res.Open) > 0 {
		return nil, refusal.New(refusal.NeedsDecision, res.Open[0].Field, res.Open[0].Text, "Settle it, then issue the plan.")
	}
	p := &Plan{Recipe: r, Choices: in.Choices, Result: res, madeAt: in.MadeAt, own: in.Own, aims: res.Aims(),
		index: map[string]int{}, place: make(map[record.Act]int32, acts(res)), owner: map[string]int{}, keeps: map[string][]keeper{}}
	p.owned()
	p.drawn()
	steps := slices.DeleteFunc(slices.Clone(r.Steps), func(s recipe.Step) bool { return !s.When.Holds(in.Choices) })
	steps = kitted(conditioned(steps, res), in, r, res)
	p.steps, p.acts = make([]step, 0, len(steps)), make([]record.Act, 0, acts(res))
	for _, s := range steps {
		p.tell(&s, in)
		if err := p.lay(s); err != nil {
			return nil, err
		}
	}
	for _, x := range r.Parts {
		if x.When.Holds(in.Choices) {
			p.parts = append(p.parts, x)
		}
	}
	p.blocks()
	p.voids()
	return p, nil
}

// acts is about how many acts a plan comes to.
func acts(res joint.Result) int {
	n := 64
	for i := range res.Groups {
		g := &res.Groups[i]
		n += g.Count * (1 + max(len(g.Stages), len(g.Strokes)))
	}
	return n
}

// tell writes the plan's values into a step's words, and leaves out of its lists what
// other variants have. A part that is placed says how it lies.
func (p *Plan) tell(s *recipe.Step, in joint.Input) {
	with := func(text string) string {
		return recipe.Told(text, func(need string) string { return told(p.Result, need) })
	}
	s.Text = with(s.Text)
	var ticks []recipe.Tick
	for _, t := range s.Ticks {
		part, there := p.Recipe.Part(t.Part, in.Choices)
		if !t.When.Holds(in.Choices) || t.Part != "" && !there {
			continue
		}
		if t.Text = with(t.Text); t.Part != "" && t.Text == "" {
			t.Text = part.Facing()
		}
		ticks = append(ticks, t)
	}
	s.Ticks = ticks
}

// told is what a value of the plan comes to, in words.
func told(res joint.Result, need string) string {
	for _, v := range res.Values {
		if v.Need.Name == need && !v.Given.IsZero() {
			return v.Words()
		}
	}
	return "a value that is not given"
}

// owned finds the groups that have bolts of their own.
func (p *Plan) owned() {
	n := 0
	for _, g := range p.Result.Groups {
		if g.Of != "" {
			p.owner[g.Name] = p.owner[g.Of]
			continue
		}
		p.owner[g.Name] = len(p.owners)
		p.owners = append(p.owners, owner{group: g, first: n})
		n += g.Count
	}
}

// drawn finds what follows from tensioners.
func (p *Plan) drawn() {
	p.draws = map[string]draws{}
	for _, g := range p.Result.Groups {
		if g.Tension == nil {
			continue
		}
		last := len(g.Stages) - 1
		for name, of := range map[string]int{g.Tension.First: 0, g.Tension.Second: last, g.Tension.Free: -1} {
			if name != "" {
				p.draws[name] = draws{g.Name, of}
			}
		}
	}
}

// bolts is how many bolts there are.
func (p *Plan) bolts() int {
	if len(p.owners) == 0 {
		return 0
	}
	last := p.owners[len(p.owners)-1]
	return last.first + last.group.Count
}

// lay spells a step out in its acts, in order.
func (p *Plan) lay(s recipe.Step) error {
	l := step{Step: s, owner: -1, first: int32(len(p.acts))}
	at := len(p.steps)
	if err := p.layReads(&l, at); err != nil {
		return err
	}
	if s.Group == "" {
		p.listed(&l)
	} else {
		g, there := p.Result.Group(s.Group)
		if !there {
			return nil // of another variant
		}
		l.group, l.owner = g, p.owner[g.Name]
		order, err := some(g, s.Some)
		if err != nil {
			return err
		}
		p.pulls(s, g, order)
		if g.Still && s.Some != recipe.Quarters {
			l.rounds = g.Rounds
		}
		p.owners[l.owner].steps = append(p.owners[l.owner].steps, at)
	}
	l.last = int32(len(p.acts))
	p.index[s.ID] = at
	p.steps = append(p.steps, l)
	return nil
}

// listed lays a step without bolts: its list, line by line, then what is read or said of
// it as a whole, the photograph it asks for, and whoever releases it.
func (p *Plan) listed(l *step) {
	for i := range l.Ticks {
		p.act(record.Act{Step: l.ID, Item: i + 1})
	}
	if len(l.Ticks) == 0 || len(l.reads) > 0 || len(l.marks) > 0 || l.hold > 0 || l.By != "" || l.Does == recipe.Sign {
		p.act(record.Act{Step: l.ID})
	}
	if l.Photo != "" {
		p.act(record.Act{Step: l.ID, Photo: true})
	}
	if l.Release != "" {
		p.act(record.Act{Step: l.ID, Release: true})
	}
}

func (p *Plan) act(a record.Act) {
	p.place[a] = int32(len(p.acts))
	p.acts = append(p.acts, a)
}

func (p *Plan) pulls(s recipe.Step, g joint.Group, order []int) {
	stages := []record.Act{{Step: s.ID}}
	switch {
	case g.Portion > 0 || g.Stands:
		stages = nil // rounds alone
	case g.How == recipe.ByTorque || g.How == recipe.ByPressure:
		stages = nil
		for _, share := range g.Stages {
			stages = append(stages, record.Act{Step: s.ID, Share: share})
		}
	case g.How == recipe.ByTurns:
		p.turns(s, g, order)
		return
	}
	if g.How == recipe.ByTension && len(g.Stages) > 0 { // the halves, each at its own pressure
		stages[0].Share = g.Stages[len(g.Stages)-1]
		if s.Some == recipe.FirstHalf {
			stages[0].Share = g.Stages[0]
		}
	}
	for i, a := range stages {
		for _, bolt := range order {
			a.Bolt = bolt
			p.act(a)
			if g.Lock != "" && i == len(stages)-1 { // at once, before the next bolt
				p.act(record.Act{Step: s.ID, Bolt: bolt, Lock: true})
			}
		}
	}
}

// turns gives each bolt all its turns before the next.
func (p *Plan) turns(s recipe.Step, g joint.Group, order []int) {
	for _, bolt := range order {
		for i, turn := range g.Strokes {
			p.act(record.Act{Step: s.ID, Bolt: bolt, Turn: turn, Stroke: i + 1})
		}
		if g.Lock != "" {
			p.act(record.Act{Step: s.ID, Bolt: bolt, Lock: true})
		}
	}
}

// some returns the bolts of a group that a step takes, in order.
func some(g joint.Group, which recipe.Some) ([]int, error) {
	switch which {
	case recipe.Whole:
		return g.Order, nil
	case recipe.FirstHalf, recipe.SecondHalf:
		return half(g, which), nil
	}
	four, others, err := sequence.Quarters(g.Count, g.Start)
	if err != nil {
		return nil, refusal.At(g.Name, err)
	}
	if which == recipe.Quarters {
		return four, nil
	}
	return others, nil
}

// half returns every other bolt of a group, or those between them, going round.
func half(g joint.Group, which recipe.Some) (out []int) {
	for _, bolt := range g.Order {
		if first := (bolt-g.Start+g.Count)%g.Count%2 == 0; first == (which == recipe.FirstHalf) {
			out = append(out, bolt)
		}
	}
	return out
}

// blocks finds which steps may be done in any order: those without bolts that
// follow one another in the same block.
func (p *Plan) blocks() {
	for i := 0; i < len(p.steps); {
		end := i + 1
		for p.steps[i].Block != "" && p.steps[i].owner < 0 && end < len(p.steps) && p.steps[end].Block == p.steps[i].Block &&
			p.steps[end].owner < 0 {
			end++
		}
		for j := i; j < end; j++ {
			p.steps[j].block = [2]int{i, end}
		}
		i = end
	}
}

// voids finds by which owners' bolts each step is voided: by those the recipe
// names, else by every one that is made before it.
func (p *Plan) voids() {
	for i := range p.steps {
		s := &p.steps[i]
		s.voided, s.named = make([]bool, len(p.owners)), len(s.Voided) > 0
		for o, own := range p.owners {
			if !s.named {
				s.voided[o] = len(own.steps) > 0 && own.steps[0] < i
				continue
			}
			s.voided[o] = slices.ContainsFunc(s.Voided, func(name string) bool { at, ok := p.owner[name]; return ok && at == o })
		}
		for _, name := range s.Voided {
			if k, ok := p.index[name]; ok {
				p.steps[k].voids = append(p.steps[k].voids, i)
			}
			s.byTool = s.byTool || name == recipe.AnotherTool
		}
	}
}

// step returns the step of that id.
func (p *Plan) step(id string) (*step, int, bool) {
	i, ok := p.index[id]
	if !ok {
		return &step{owner: -1}, 0, false
	}
	return &p.steps[i], i, true
}

// Undoes reports whether the joint is undone.
func (p *Plan) Undoes() bool { return p.Recipe.Undoes.Is(p.Choices) }

// Again reports whether a joint that stands is gone over.
func (p *Plan) Again() bool { return p.Recipe.Again.Is(p.Choices) }

// Steps returns the steps of this variant, in order.
func (p *Plan) Steps() []recipe.Step {
	out := make([]recipe.Step, len(p.steps))
	for i, s := range p.steps {
		out[i] = s.Step
	}
	return out
}

// Step returns a step of this variant.
func (p *Plan) Step(id string) (s recipe.Step, ok bool) {
	l, _, ok := p.step(id)
	return l.Step, ok
}

// Parts returns the parts of this variant.
func (p *Plan) Parts() []recipe.Part { return p.parts }

// Cautions are those of a step, as the record has them.
func (p *Plan) Cautions(step string) []string {
	s, _ := p.Step(step)
	out := make([]string, len(s.Cautions))
	for i, c := range s.Cautions {
		out[i] = c.String()
	}
	return out
}

// Checker is who checks the joint: whom the recipe names, else an inspector.
func (p *Plan) Checker() string {
	for _, s := range p.steps {
		if s.Does == recipe.Sign && s.By != "" {
			return s.By
		}
	}
	return "inspector"
}

// turned reports whether a step turns bolts by their angle, which is not done
// twice; backwards it may be.
func (p *Plan) turned(s *step) bool {
	return s.owner >= 0 && s.group.How == recipe.ByTurns && !p.Undoes()
}

// Acts returns every act of a step in its order, rounds apart.
func (p *Plan) Acts(step string) []record.Act {
	s, _, ok := p.step(step)
	if !ok {
		return nil
	}
	return p.acts[s.first:s.last:s.last]
}
