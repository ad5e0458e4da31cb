package work

import (
	"fmt"
	"slices"
	"time"

	"dynacor/core/joint"
	"dynacor/core/recipe"
	"dynacor/core/record"
	"dynacor/core/refusal"
	"dynacor/core/sequence"
	"dynacor/core/tool"
	"dynacor/core/unit"
)

// MostHands is how many tools work on a ring at once, at the most.
const MostHands = 4

// Hand is one of the tools that work at once, at the turn that is made now.
type Hand struct {
	Number int               // from 0
	Tool   *record.StageTool // at the stage that is made
	By     string            // whose hand it is; empty: nobody took it, or not since the night
	Act    record.Act        // its bolt of this turn, or the lock of it
	Open   bool              // it is still to do
}

// hands is how many tools work at once on a step's bolts.
func (s *State) hands(st *step) int {
	if st.owner < 0 {
		return 1
	}
	return 1 + len(s.Tooling[st.group.Name].Beside)
}

// stage finds where the acts of a stage lie among all, from one of them.
func (p *Plan) stage(st *step, at int32) (first, end int32) {
	in := func(k int32) bool { return p.acts[k].Lock || p.acts[k].Share == p.acts[at].Share }
	if p.acts[at].Lock {
		at-- // behind the pull it locks
	}
	for first = at; first > st.first && in(first-1); {
		first--
	}
	for end = at + 1; end < st.last && in(end); {
		end++
	}
	return first, end
}

// pulled are the bolts of some acts in the order in which they are pulled.
func (p *Plan) pulled(first, end int32) (order []int) {
	for _, a := range p.acts[first:end] {
		if !a.Lock {
			order = append(order, a.Bolt)
		}
	}
	return order
}

// turn finds what is made together with an act of a stage: acts from first to before end,
// and which hand makes it. ok is false where one tool makes it alone.
func (s *State) turn(a record.Act) (first, end int32, hand int, ok bool) {
	st, _, there := s.plan.step(a.Step)
	if !there {
		return 0, 0, 0, false
	}
	n := s.hands(st)
	at, placed := s.plan.place[a]
	if n < 2 || !placed || a.Bolt == 0 || a.Round > 0 {
		return 0, 0, 0, false
	}
	from, upto := s.plan.stage(st, at)
	order := s.plan.pulled(from, upto)
	if !sequence.AtOnce(order, st.group.Count, n) {
		return 0, 0, 0, false
	}
	pulls := -1 // the pull that k is, or is the lock of
	place := slices.Index(order, a.Bolt)
	mine := place / n
	first, end = upto, upto
	for k := from; k < upto; k++ {
		if !s.plan.acts[k].Lock {
			pulls++
		}
		switch {
		case pulls/n == mine && first == upto:
			first = k
		case pulls/n > mine && end == upto:
			end = k
		}
	}
	return first, end, place % n, true
}

// HandOf is which of the tools that work at once makes an act: where they do not, the first
// alone.
func (s *State) HandOf(a record.Act) int {
	if st, _, ok := s.plan.step(a.Step); !ok || s.hands(st) < 2 {
		return 0
	}
	_, _, hand, _ := s.turn(a)
	return hand
}

// alsoTurned are the other acts of a turn that are open: of each bolt the first.
func (s *State) alsoTurned(a record.Act) (out []record.Act) {
	first, end, _, ok := s.turn(a)
	if !ok {
		return nil
	}
	st, _, _ := s.plan.step(a.Step)
	seen := map[int]bool{a.Bolt: true}
	for k := first; k < end; k++ {
		act := s.plan.acts[k]
		b := s.bolt(st.owner, act.Bolt)
		if s.done[k] != 0 || seen[act.Bolt] || b.spent || b.left != s.bolt(st.owner, a.Bolt).left {
			continue
		}
		seen[act.Bolt] = true
		out = append(out, act)
	}
	return out
}

// fresh reports whether a tool is in somebody's hand since the night.
func (h inHand) fresh(at time.Time) bool { return h.by != "" && at.Sub(h.at) < SetAgain }

// NextFor returns what somebody does next; ok is false where nothing is offered to them:
// where several tools work at once, others make what is open of the turn. Who has none in
// hand is offered one that nobody has; who has one takes another only if they say so.
func (s *State) NextFor(person string, at time.Time) (a record.Act, ok bool) {
	offered := s.Offered()
	if len(offered) == 0 {
		return a, false
	}
	if st, _, _ := s.plan.step(offered[0].Step); offered[0].Bolt == 0 || s.hands(st) < 2 {
		return offered[0], true
	}
	for _, x := range offered {
		if h := s.inHand[s.HandOf(x)]; h.by == person && h.fresh(at) {
			return x, true
		}
	}
	if slices.ContainsFunc(s.inHand[:], func(h inHand) bool { return h.by == person && h.fresh(at) }) {
		return a, false
	}
	for _, x := range offered {
		if h := s.inHand[s.HandOf(x)]; !h.fresh(at) {
			return x, true
		}
	}
	return a, false
}

// offeredTo is the bolt that is offered to one of the tools that work at once.
func (s *State) offeredTo(hand int) (record.Act, bool) {
	for _, a := range s.Offered() {
		if a.Bolt > 0 && s.HandOf(a) == hand {
			return a, true
		}
	}
	return record.Act{}, false
}

// Hands tells of the tools that work at once, at the turn that is made now; nil where one
// works alone.
func (s *State) Hands(at time.Time) (out []Hand) {
	next, ok := s.Next()
	st, _, there := s.plan.step(next.Step)
	if !ok || !there || next.Bolt == 0 || s.hands(st) < 2 {
		return nil
	}
	t := s.Tooling[st.group.Name]
	share := slices.Index(st.group.Stages, next.Share)
	if next.Lock {
		share = len(st.group.Stages) - 1
	}
	for i, stages := range t.Hands() {
		h := Hand{Number: i, Tool: &stages[max(share, 0)]}
		if s.inHand[i].fresh(at) {
			h.By = s.inHand[i].by
		}
		if h.Act, h.Open = s.offeredTo(i); !h.Open {
			h.Act = s.turned(next, i)
		}
		out = append(out, h)
	}
	return out
}

// turned is the bolt that a hand has made of the turn of an act; zero where it has none.
func (s *State) turned(a record.Act, hand int) (out record.Act) {
	first, end, _, ok := s.turn(a)
	for k := first; ok && k < end; k++ {
		if x := s.plan.acts[k]; !x.Lock && s.HandOf(x) == hand {
			return x
		}
	}
	return out
}

// AtOnce lists how many tools may work on a group at once: two or four on a ring whose order
// takes bolts that lie opposite one another, beside one alone.
func (s *State) AtOnce(group string) []int {
	out := []int{1}
	for _, n := range []int{2, MostHands} {
		if slices.ContainsFunc(s.plan.steps, func(st step) bool { return st.owner >= 0 && st.group.Name == group && s.plan.shared(&st, n) }) {
			out = append(out, n)
		}
	}
	return out
}

// shared reports whether so many tools can take a stage of a step at once.
func (p *Plan) shared(st *step, n int) bool {
	if st.group.How != recipe.ByTorque || st.group.Layout != recipe.Ring || st.group.Portion > 0 {
		return false
	}
	for k := st.first; k < st.last; {
		first, end := p.stage(st, k)
		if sequence.AtOnce(p.pulled(first, end), st.group.Count, n) {
			return true
		}
		k = end
	}
	return false
}

// acceptBeside refuses tools that cannot work at once: too many for the ring, one in two
// hands, a hydraulic one beside another, and one pump that is to give two pressures.
func (s *State) acceptBeside(g joint.Group, c record.Tooling) error {
	hands := c.Hands()
	if n := len(hands); !slices.Contains(s.AtOnce(g.Name), n) {
		may := s.AtOnce(g.Name)
		return refusal.Number(refusal.TooLarge, "beside", float64(n), float64(may[len(may)-1]), "tools",
			fmt.Sprintf("%d tools at once on the %s: its order does not take bolts evenly spaced round the ring.", n, g.Name),
			"Take one tool, or an order that takes opposite bolts.")
	}
	used := map[string]int{}
	for i, stages := range hands {
		if stages[0].Pressed() != c.Stages[0].Pressed() {
			return refusal.New(refusal.Contradicts, "beside", "A hydraulic wrench and one by hand do not work at once.", "Take tools of one kind.")
		}
		for _, t := range stages {
			for _, tag := range t.Own() {
				if other, taken := used[tag]; taken && other != i {
					return refusal.New(refusal.Contradicts, "beside", fmt.Sprintf("%s is in two hands at once.", tag), "Take another tool.")
				}
				used[tag] = i
			}
		}
	}
	for _, stages := range c.Beside {
		for k := range stages {
			if err := onePump(&c.Stages[k], &stages[k]); err != nil {
				return err
			}
		}
	}
	return nil
}

// onePump refuses two tools on one pump that are set to different pressures.
func onePump(a, b *record.StageTool) error {
	pump := func(t *record.StageTool) string {
		for _, l := range t.Links {
			if l.Kind == string(tool.LinkPump) {
				return l.Tag
			}
		}
		return ""
	}
	to, err := b.Setting.In(a.Setting.Unit)
	if p := pump(a); p == "" || p != pump(b) || err != nil ||
		unit.AtMost(max(a.Setting.Value, to)-min(a.Setting.Value, to), tool.AlikeShare*a.Setting.Value) {
		return nil
	}
	return refusal.Number(refusal.Contradicts, "beside", to, a.Setting.Value, string(a.Setting.Unit),
		fmt.Sprintf("%s gives one pressure: %s asks for %s, %s for %s.", pump(a), a.Tools[0], a.Setting, b.Tools[0], b.Setting),
		"Take wrenches of one chart, or a pump for each.")
}

// alone reports whether somebody makes what comes from an act on by themselves: with the one
// tool, or with all that work at once in their hand.
func (s *State) alone(a record.Act, person string, at time.Time) bool {
	st, _, _ := s.plan.step(a.Step)
	n := s.hands(st)
	return n < 2 || !slices.ContainsFunc(s.inHand[:n], func(h inHand) bool { return h.by != person || !h.fresh(at) })
}

// aheadOfTurn is the bolt that somebody makes of a turn: what comes then hangs on others.
func (s *State) aheadOfTurn(a record.Act, person string, at time.Time) []Coming {
	_, unset := s.unset(a, person, at)
	return []Coming{{Act: a, Set: unset}}
}

// offeredOn is what is offered on a bolt.
func (s *State) offeredOn(owner, position int) (record.Act, bool) {
	for _, a := range s.Offered() {
		if st, _, _ := s.plan.step(a.Step); a.Bolt == position && st.owner == owner {
			return a, true
		}
	}
	return record.Act{}, false
}
