package recipe

import (
	"slices"

	"dynacor/core/proof"
)

// Sample returns the bolts that a step measures: a tenth of its group, at least
// two, the worst positions first (begun anew, moved in a round, last turned), and
// all of them once one of a sample lay outside (package proof), in the order of
// their numbers. None for a step that takes no sample.
func (w *Work) Sample(step string) []int {
	s, _ := w.step(step)
	if s.Sample == "" {
		return nil
	}
	n := w.bolts(w.group(s.Sample))
	count, err := proof.SampleCount(n, proof.SampleShare, proof.SampleAtLeast)
	if err != nil || w.failed(step) {
		return oneByOne(n)
	}
	out, err := proof.SampleOf(n, count, w.worst(s.Sample))
	if err != nil {
		return oneByOne(n)
	}
	slices.Sort(out)
	return out
}

// Widens reports whether a step measures a sample that is not yet the whole
// group: a reading outside is kept, and then all are measured.
func (w *Work) Widens(step string) bool {
	s, _ := w.step(step)
	return s.Sample != "" && len(w.Sample(step)) < w.bolts(w.group(s.Sample))
}

// failed reports whether a sample of a step had a reading outside.
func (w *Work) failed(step string) bool {
	return slices.ContainsFunc(w.Log, func(e Entry) bool { return e.Act.Step == step && e.Tried })
}

// worst lists the bolts of a group that are measured first: those begun anew,
// those that moved in a round, the last one turned.
func (w *Work) worst(group string) []int {
	var anew, moved, last []int
	made := map[Act]bool{}
	for _, e := range w.Log {
		s, _ := w.step(e.Act.Step)
		if e.Act.Bolt == 0 || e.Act.Lock || (s.Group != group && w.group(s.Group).Of != group) {
			continue
		}
		if made[e.Act] {
			anew = append(anew, e.Act.Bolt)
		}
		made[e.Act] = true
		if e.Moved && e.Act.Turn == 0 {
			moved = append(moved, e.Act.Bolt)
		}
		last = []int{e.Act.Bolt}
	}
	return slices.Concat(anew, moved, last)
}
