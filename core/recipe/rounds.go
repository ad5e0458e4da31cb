package recipe

import (
	"slices"
)

// advance moves on past what is done. Where an act ends a round, or is none of
// the open block, everything is looked at anew.
func (w *Work) advance(a Act) {
	if w.at >= len(w.blocks) || !slices.Contains(w.blocks[w.at], a) {
		w.settle()
		return
	}
	ends := a.Round > 0 && (w.at+1 == len(w.blocks) || w.blocks[w.at+1][0].Step != a.Step)
	if ends {
		w.settle()
		return
	}
	for w.at < len(w.blocks) && !slices.ContainsFunc(w.blocks[w.at], func(b Act) bool { return !w.isDone(b) }) {
		w.at++
	}
}

// rounds lets a step go round from the start: those made or begun are void, and
// the next number is a new one.
func (w *Work) rounds(step string) {
	first, last := -1, 0
	for i, b := range w.blocks {
		if a := b[0]; a.Step == step && a.Round > 0 {
			if first < 0 {
				first = i
			}
			last = max(last, a.Round)
		}
	}
	if first < 0 {
		return
	}
	begun := false
	kept := slices.DeleteFunc(slices.Clone(w.blocks), func(b []Act) bool {
		void := b[0].Step == step && b[0].Round > 0
		if void {
			_, did := w.done[b[0]]
			begun = begun || did
			delete(w.done, b[0])
		}
		return void
	})
	if begun {
		last++
	}
	w.blocks = slices.Insert(kept, first, w.anotherRound(step, last)...)
}

// anotherRound is one more going round of a step, each act by itself. Its order
// could be laid once, so it can be laid again.
func (w *Work) anotherRound(step string, number int) [][]Act {
	s, _ := w.step(step)
	acts, _ := w.round(s, number)
	return alone(acts)
}

func alone(acts []Act) [][]Act {
	out := make([][]Act, len(acts))
	for i, a := range acts {
		out[i] = []Act{a}
	}
	return out
}

// settle finds the first block with something to do. A step whose last round
// is made and moved a nut gets another, up to MostRounds or MostPortions.
func (w *Work) settle() {
	w.stopped = false
	for i := 0; i < len(w.blocks); i++ {
		a := w.blocks[i][0]
		ends := a.Round > 0 && (i+1 == len(w.blocks) || w.blocks[i+1][0].Step != a.Step)
		if !ends || !w.moved(a.Step, a.Round) {
			continue
		}
		if w.movedRounds(a.Step) >= w.mostRounds(a.Step) {
			w.stopped = true
			w.at = i + 1
			return
		}
		w.blocks = slices.Insert(slices.Clone(w.blocks), i+1, w.anotherRound(a.Step, a.Round+1)...)
	}
	w.at = slices.IndexFunc(w.blocks, func(b []Act) bool {
		return slices.ContainsFunc(b, func(a Act) bool { return !w.isDone(a) })
	})
	if w.at < 0 {
		w.at = len(w.blocks)
	}
}

// moved reports whether a round is made and has moved a nut.
func (w *Work) moved(step string, round int) bool {
	moved := false
	for _, b := range w.blocks {
		if a := b[0]; a.Step == step && a.Round == round {
			e, ok := w.Last(a)
			if !ok {
				return false
			}
			moved = moved || e.Moved
		}
	}
	return moved
}

// Still returns the round of a step that moved nothing, where its last one is
// made and did not.
func (w *Work) Still(step string) (round int, ok bool) {
	for _, b := range w.blocks {
		if a := b[0]; a.Step == step && a.Round > 0 {
			e, did := w.Last(a)
			ok = did && !e.Moved && (ok || a.Round > round)
			round = max(round, a.Round)
		}
	}
	return round, ok
}

func (w *Work) movedRounds(step string) int {
	n, last := 0, 0
	for _, b := range w.blocks {
		if a := b[0]; a.Step == step && a.Round > last {
			last = a.Round
			if w.moved(step, a.Round) {
				n++
			}
		}
	}
	return n
}
