package work

import (
	"iter"

	"dynacor/core/record"
)

// Begun reports whether anybody has put a hand to a bolt of this run, also when
// that was struck out later.
func (s *State) Begun() bool { return len(s.pullers) > 0 }

// Pulled reports whether somebody had a tool on a bolt.
func (s *State) Pulled(person string) bool { return s.pullers[person] }

// Worked reports whether somebody had a hand in the joint: they do not check it.
func (s *State) Worked(person string) bool { return s.pullers[person] || s.workers[person] }

// People goes through everyone who is named in the run.
func (s *State) People() iter.Seq[string] {
	return func(yield func(string) bool) {
		for person := range s.people {
			if !yield(person) {
				return
			}
		}
	}
}

// Cautioned reports whether somebody read the cautions of a step, or it has
// none.
func (s *State) Cautioned(step, person string) bool {
	st, _ := s.plan.Step(step)
	return len(st.Cautions) == 0 || s.cautioned[step][person]
}

func (s *State) caution(e record.Entry, c record.Caution) {
	s.cautioned = mine(s, s.cautioned)
	m := mine(s, s.cautioned[c.Step])
	if m == nil {
		m = map[string]bool{}
	}
	m[e.Person] = true
	s.cautioned[c.Step] = m
}

func (s *State) meet(person string) {
	if person != "" && !s.people[person] {
		s.people = mine(s, s.people)
		s.people[person] = true
	}
}

func (s *State) pulledBy(person string) {
	if !s.pullers[person] {
		s.pullers = mine(s, s.pullers)
		s.pullers[person] = true
	}
}

func (s *State) workedBy(people ...string) {
	for _, person := range people {
		if person != "" && !s.workers[person] {
			s.workers = mine(s, s.workers)
			s.workers[person] = true
		}
	}
}
