package run

// settle finds the stage and what is next.
func (s *State) settle() {
	s.Next, s.Pass, s.PassDone = nil, 0, 0
	last := len(s.plan.Shares)
	s.Pass = s.openPass()
	for i := range s.Bolts {
		if s.Bolts[i].Pass >= min(s.Pass, last) {
			s.PassDone++
		}
	}
	switch {
	case s.signedFor(Made) && s.signedFor(Checked):
		s.Stage, s.Pass = StageSigned, last
	case s.Tooling == nil:
		s.Stage = StageTool
	case s.Pass <= last:
		s.Stage = StageTighten
		s.Next = s.nextPull()
	default:
		s.Pass = last
		s.settleRounds()
	}
}

// openPass returns the lowest pass that some bolt does not hold yet; one more
// than there are when all are held.
func (s *State) openPass() int {
	lowest := len(s.plan.Shares)
	for i := range s.Bolts {
		lowest = min(lowest, s.Bolts[i].Pass)
	}
	return lowest + 1
}

// nextPull returns the first bolt of the order that does not hold the open
// pass; those left come last.
func (s *State) nextPull() *Act {
	var left *Act
	for _, n := range s.plan.Order {
		b := s.Bolts[n-1]
		if b.Pass >= s.Pass {
			continue
		}
		act := &Act{Bolt: n, Pass: s.Pass, Share: s.plan.Shares[s.Pass-1], LevelAfter: s.plan.share(s.Pass)}
		if !b.Left {
			return act
		}
		if left == nil {
			left = act
		}
	}
	return left
}

func (s *State) settleRounds() {
	number, started := 1, false
	if n := len(s.Rounds); n > 0 {
		r := s.Rounds[n-1]
		number, started = r.Number, !r.Interrupted && !r.Complete
		switch {
		case r.Interrupted:
			number++
		case r.Complete && len(r.Moved) == 0:
			s.settleProof()
			return
		case r.Complete:
			number++
		}
	}
	if !started && s.movedRounds() >= MostRounds+s.Allowed {
		s.Stage = StageStopped
		return
	}
	s.Stage = StageCheck
	s.Next = s.nextCheck(number)
}

// movedRounds counts the rounds that were gone through and moved a nut.
func (s *State) movedRounds() int {
	n := 0
	for _, r := range s.Rounds {
		if r.Complete && len(r.Moved) > 0 {
			n++
		}
	}
	return n
}

func (s *State) nextCheck(round int) *Act {
	last := len(s.plan.Shares)
	var left *Act
	for _, n := range s.plan.CheckOrder {
		if s.Bolts[n-1].round == round {
			continue
		}
		act := &Act{Bolt: n, Pass: last, Round: round, Share: 100, LevelAfter: 1}
		if !s.Bolts[n-1].Left {
			return act
		}
		if left == nil {
			left = act
		}
	}
	return left
}

func (s *State) settleProof() {
	s.Stage = StageProve
	if s.GapAfter != nil {
		s.Stage = StageSign
	}
}

func (s *State) signedFor(p Part) bool {
	for _, sig := range s.Signatures {
		if sig.Part == p {
			return true
		}
	}
	return false
}

// Ahead returns what comes next if each act goes as it should: the rest of
// the passes and of the first check round after them. Whoever is cut off from
// the server can go on along it.
func (s *State) Ahead() []Act {
	if s.Next == nil {
		return nil
	}
	var out []Act
	last := len(s.plan.Shares)
	if s.Next.Round == 0 {
		held := make([]int, len(s.Bolts))
		for i, b := range s.Bolts {
			held[i] = b.Pass
		}
		for p := s.Pass; p <= last; p++ {
			for _, afterwards := range []bool{false, true} {
				for _, n := range s.plan.Order {
					if b := s.Bolts[n-1]; held[n-1] >= p || (b.Left && b.Pass == p-1) != afterwards {
						continue
					}
					out = append(out, Act{n, p, 0, s.plan.Shares[p-1], s.plan.share(p)})
				}
			}
		}
	}
	round := s.Next.Round
	if round == 0 {
		round = 1
		if n := len(s.Rounds); n > 0 {
			round = s.Rounds[n-1].Number + 1
		}
	}
	for _, afterwards := range []bool{false, true} {
		for _, n := range s.plan.CheckOrder {
			b := s.Bolts[n-1]
			if b.round != round && (b.Left && b.Pass == last) == afterwards {
				out = append(out, Act{n, last, round, 100, 1})
			}
		}
	}
	return out
}
