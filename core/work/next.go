package work

import (
	"slices"
	"time"

	"dynacor/core/recipe"
	"dynacor/core/record"
)

// Offered returns what may be done now, in the recipe's order; none when only
// signatures are open, or the work has stopped.
func (s *State) Offered() []record.Act {
	if s.Standing == record.Stopped || s.at >= len(s.plan.steps) || s.plan.steps[s.at].Does == recipe.Sign {
		return nil
	}
	var out []record.Act
	block := s.plan.steps[s.at].block
	for i := block[0]; i < block[1]; i++ {
		if a, ok := s.nextOf(i); ok {
			out = append(out, a)
			if a.Item > 0 {
				out = append(out, s.alsoListed(i)...)
			}
			out = append(out, s.alsoTurned(a)...)
		}
	}
	return out
}

// alsoListed are the other lines of a list that are open: they are ticked in any order,
// but for parts, which are placed one on the other.
func (s *State) alsoListed(i int) (out []record.Act) {
	st := &s.plan.steps[i]
	if st.Does == recipe.Place {
		return nil
	}
	for a := s.cursor[i] + 1; a < st.last && s.plan.acts[a].Item > 0; a++ {
		if s.done[a] == 0 {
			out = append(out, s.plan.acts[a])
		}
	}
	return out
}

// Waits reports whether the work waits for somebody to release a step: for whom, and which.
func (s *State) Waits() (who string, st recipe.Step, ok bool) {
	next, there := s.Next()
	if !there || !next.Release {
		return "", recipe.Step{}, false
	}
	st, ok = s.plan.Step(next.Step)
	return s.releaser(&st), st, ok
}

// releaser is who releases a step: what they are qualified as, or a second person.
func (s *State) releaser(st *recipe.Step) string {
	if st.Release == Checker {
		return s.plan.Checker()
	}
	return st.Release
}

// offers reports whether an act may be done now.
func (s *State) offers(a record.Act) bool { return slices.Contains(s.Offered(), a) }

// Next returns the first act that is offered; ok is false where none is.
func (s *State) Next() (a record.Act, ok bool) {
	offered := s.Offered()
	if len(offered) == 0 {
		return record.Act{}, false
	}
	return offered[0], true
}

// nextOf returns the next act of a step. Bolts that were left come after the
// others of their stage; those that begin anew only after somebody said so.
func (s *State) nextOf(i int) (record.Act, bool) {
	st := &s.plan.steps[i]
	if s.open[i] > 0 {
		left, has := record.Act{}, false
		for a := s.cursor[i]; a < st.last; a++ {
			act := s.plan.acts[a]
			if s.done[a] != 0 {
				continue
			}
			if has && !act.Lock && act.Share != left.Share {
				return left, true
			}
			if act.Bolt == 0 {
				return act, true
			}
			switch b := s.bolt(st.owner, act.Bolt); {
			case b.spent:
			case b.left && !has:
				left, has = act, true
			case !b.left:
				return act, true
			}
		}
		return left, has
	}
	if st.rounds == nil || s.going[i].still() {
		return record.Act{}, false
	}
	g := &s.going[i]
	return st.round(g.number(), st.rounds[g.place()]), true
}

// round is one bolt of a round.
func (st *step) round(number, bolt int) record.Act {
	return record.Act{Step: st.ID, Bolt: bolt, Share: 100, Turn: st.group.Portion, Round: number}
}

// Coming is an act that comes; Set: its tool has to be taken in hand and set
// first.
type Coming struct {
	record.Act
	Set bool
}

// Ahead returns what comes from at on if each act goes as it should, at most so many: the
// rest of the stages and of the next round, and on to the next group where
// nothing lies between. Whoever is cut off from the server can go on along it.
func (s *State) Ahead(person string, at time.Time, most int) []Coming {
	next, ok := s.NextFor(person, at)
	if !ok || next.Bolt == 0 {
		return nil
	}
	if !s.alone(next, person, at) {
		return s.aheadOfTurn(next, person, at)[:min(most, 1)]
	}
	var out []Coming
	hands := s.inHand
	for i := range hands {
		if hands[i].by != person || !hands[i].fresh(at) {
			hands[i] = inHand{}
		}
	}
	add := func(st *step, a record.Act) {
		c := Coming{Act: a}
		if t, ok := s.toolOf(st, a); ok && !t.Draws() {
			if h := &hands[s.HandOf(a)]; !h.holds(t) {
				c.Set, *h = true, inHand{tools: tags(t), setting: t.Setting}
			}
		}
		out = append(out, c)
	}
	for i := s.at; i < len(s.plan.steps) && len(out) < most; i++ {
		st := &s.plan.steps[i]
		if st.owner < 0 || (i > s.at && (s.wantsTool(st) || !s.Cautioned(st.ID, person))) {
			break
		}
		s.along(i, func(a record.Act) { add(st, a) })
		if s.going[i].moves() {
			break
		}
	}
	return out[:min(len(out), most)]
}

// along goes through the open acts of a step in the order in which they come,
// and once round where it is gone round.
func (s *State) along(i int, each func(record.Act)) {
	st := &s.plan.steps[i]
	var came map[int]bool // bolts that were left and have come: in later stages they are like others
	for a := st.first; a < st.last; {
		share := s.plan.acts[a].Share
		end := a
		for end < st.last && s.plan.acts[end].Share == share || end < st.last && s.plan.acts[end].Lock {
			end++
		}
		for _, afterwards := range []bool{false, true} {
			for k := a; k < end; k++ {
				act := s.plan.acts[k]
				b := s.bolt(st.owner, act.Bolt)
				if s.done[k] != 0 || b.spent || (b.left && !came[act.Bolt]) != afterwards {
					continue
				}
				each(act)
			}
		}
		for k := a; k < end; k++ {
			if b := s.plan.acts[k].Bolt; s.done[k] == 0 && s.bolt(st.owner, b).left {
				if came == nil {
					came = map[int]bool{}
				}
				came[b] = true
			}
		}
		a = end
	}
	if st.rounds == nil || s.going[i].still() {
		return
	}
	g := &s.going[i]
	for k := g.place(); k < len(st.rounds); k++ {
		each(st.round(g.number(), st.rounds[k]))
	}
}
