package work

import (
	"slices"

	"dynacor/core/proof"
	"dynacor/core/recipe"
)

// worst are the bolts of an owner that a sample measures first: those begun
// anew, those that moved in a round, the last one turned.
type worst struct {
	anew, moved []int
	last        int
}

func (w *worst) add(list *[]int, bolt int) {
	if !slices.Contains(*list, bolt) {
		*list = append(slices.Clip(*list), bolt)
	}
}

// Sample returns the bolts that a step measures: a tenth of its group, at least
// two, the worst positions first, and all of them once one of a sample lay
// outside (package proof), in the order of their numbers. None for a step that
// takes no sample.
func (s *State) Sample(step string) []int {
	st, _, _ := s.plan.step(step)
	if st.Sample == "" {
		return nil
	}
	o := s.plan.owner[st.Sample]
	n := s.plan.owners[o].group.Count
	count, err := proof.SampleCount(n, proof.SampleShare, proof.SampleAtLeast)
	if err != nil || s.failed[step] {
		return recipe.OneByOne(n, 1)
	}
	first := slices.Concat(s.worst[o].anew, s.worst[o].moved)
	if s.worst[o].last > 0 {
		first = append(first, s.worst[o].last)
	}
	out, err := proof.SampleOf(n, count, first)
	if err != nil {
		return recipe.OneByOne(n, 1)
	}
	slices.Sort(out)
	return out
}

// Widens reports whether a step measures a sample that is not yet the whole
// group: a reading outside is kept, and then all are measured.
func (s *State) Widens(step string) bool {
	st, _, _ := s.plan.step(step)
	return st.Sample != "" && len(s.Sample(step)) < s.plan.owners[s.plan.owner[st.Sample]].group.Count
}
