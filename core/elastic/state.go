package elastic

import "math"

// state is the ring at one moment. z holds the load of each loaded bolt, N,
// and the gap between nut and flange of each loose one, mm; both are never
// below zero and pass through it together, so a change of contact is a change
// of at alone.
type state struct {
	*model
	at   *contact
	z    []float64
	then []float64 // where the next z is written
}

func (md *model) begin() *state {
	return &state{model: md, at: md.rest, z: make([]float64, md.n), then: make([]float64, md.n)}
}

// reset brings every nut back to finger tight.
func (s *state) reset() {
	s.at = s.rest
	clear(s.z)
}

// load returns the load of bolt i, N.
func (s *state) load(i int) float64 {
	if s.at.loaded[i] {
		return s.z[i]
	}
	return 0
}

// loads writes all loads to f, N.
func (s *state) loads(f []float64) {
	for i, l := range s.at.loaded {
		f[i] = 0
		if l {
			f[i] = s.z[i]
		}
	}
}

// bring turns nut i until its bolt carries load, and returns how far it went
// down, mm. A bolt that carries as much already does not turn.
//
// Along the way loads and gaps move in proportion to the pull until one of
// them reaches zero; there that bolt changes sides and the way goes on. This
// is the principal pivoting of the complementarity problem along one
// parameter; the least index goes first at a tie, which keeps it from circling.
func (s *state) bring(i int, load float64) float64 {
	switch {
	case s.at.loaded[i]:
		if s.z[i] >= load {
			return 0
		}
		rise := load - s.z[i]
		if s.move(s.pulling(s.at, i), rise) {
			s.z[i] = load
			return rise * s.at.advance[i]
		}
		return s.follow(i, load)
	case s.at == s.rest:
		return s.first(i, load)
	}
	gap := s.z[i] // the nut comes down to the flange first, which moves nothing
	s.z[i], s.at = 0, s.flip(s.at, i)
	return gap + s.follow(i, load)
}

// move goes by rise along a pull if nothing falls below zero on the way;
// else it stays and reports false. It is the inner loop of every simulation.
func (s *state) move(by []float64, rise float64) bool {
	z, then := s.z[:len(by)], s.then[:len(by)]
	var signs uint64 // of all that is below zero, without a branch for each
	for j, b := range by {
		v := z[j] + b*rise
		then[j] = v
		signs |= math.Float64bits(v)
	}
	if signs>>63 != 0 {
		return false
	}
	s.z, s.then = s.then, s.z
	return true
}

// follow goes along the pull at bolt i through every change of contact.
func (s *state) follow(i int, load float64) float64 {
	advance := 0.0
	for changes := 0; ; changes++ {
		if changes > 20+10*s.n {
			return advance + s.together([]int{i}, []float64{load}) // rounding made it circle
		}
		by := s.pulling(s.at, i)
		rise, stop := load-s.z[i], -1
		z := s.z[:len(by)]
		for _, j := range s.at.falling[i] {
			if z[j]+by[j]*rise < 0 {
				rise, stop = z[j]/-by[j], int(j)
			}
		}
		if rise > 0 {
			for j, b := range by {
				z[j] += b * rise
			}
			for _, j := range s.at.falling[i] {
				if z[j] < 0 {
					z[j] = 0
				}
			}
			advance += rise * s.at.advance[i]
		}
		if stop < 0 {
			s.z[i] = load
			return advance
		}
		s.z[stop] = 0
		s.at = s.flip(s.at, stop)
	}
}

// first pulls bolt i from rest, where everything is in proportion to load.
func (s *state) first(i int, load float64) float64 {
	if s.rest.fresh == nil {
		s.rest.fresh = make([]*outset, s.n)
	}
	to := s.rest.fresh[i]
	if to == nil {
		probe := s.model.begin()
		probe.at = s.flip(s.rest, i)
		probe.follow(i, 1)
		to = &outset{probe.at, probe.z}
		if s.rest.fresh == nil { // forgotten on the way
			s.rest.fresh = make([]*outset, s.n)
		}
		s.rest.fresh[i] = to
	}
	s.at = to.at
	for j, v := range to.z {
		s.z[j] = load * v
	}
	s.z[i] = load
	s.pulling(s.at, i)
	return load * s.at.advance[i]
}

// slackest returns the load of all bolts alike, N, that would close the joint
// as loads close it at the bolt where they close it least.
func (md *model) slackest(loads []float64) float64 {
	alike := 0.0 // closure of all bolts at 1 N
	for _, w := range md.c[0] {
		alike += w
	}
	least := math.Inf(1)
	for _, row := range md.c {
		w := 0.0
		for j, f := range loads {
			w += row[j] * f
		}
		least = min(least, w)
	}
	return least / alike
}

// closures returns the closure at each bolt, C·F, mm.
func (s *state) closures() []float64 {
	f := make([]float64, s.n)
	s.loads(f)
	w := make([]float64, s.n)
	for i := range w {
		for j, v := range f {
			w[i] += s.c[i][j] * v
		}
	}
	return w
}

// advances returns how far each nut is down, mm.
func (s *state) advances() []float64 {
	a := s.closures()
	for i := range a {
		if s.at.loaded[i] {
			a[i] += s.bolt * s.z[i]
		} else {
			a[i] -= s.z[i]
		}
	}
	return a
}

// together turns several nuts at once until each of their bolts carries its
// load, those that carry more already excepted, and returns the greatest
// advance, mm.
func (s *state) together(bolts []int, load []float64) float64 {
	before := s.advances()
	least := make([]float64, s.n)
	for k, i := range bolts {
		least[i] = load[k]
	}
	s.settle(before, least)
	after, most := s.advances(), 0.0
	for _, i := range bolts {
		most = max(most, after[i]-before[i])
	}
	return most
}

// relax multiplies every load by kept, the advances of the loaded bolts with
// it; a loose bolt keeps its own, and carries if the joint comes back to it.
func (s *state) relax(kept float64) {
	if len(s.at.members) == s.n { // all of a loaded joint goes down in proportion
		for i := range s.z {
			s.z[i] *= kept
		}
		return
	}
	a, w := s.advances(), s.closures()
	for i := range a {
		if s.at.loaded[i] {
			a[i] = kept * (w[i] + s.bolt*s.z[i])
		}
	}
	s.settle(a, make([]float64, s.n))
}

// settle solves the complementarity problem F ≥ least, M·F − a ≥ 0, one of
// both zero at each bolt: block principal pivoting, falling back to one bolt
// at a time where blocks do not get on (Júdice and Pires, 1994), which ends
// for every positive definite M.
func (s *state) settle(a, least []float64) {
	free := make([]bool, s.n)
	for i, l := range s.at.loaded {
		free[i] = l && least[i] == 0
	}
	scale := 0.0
	for i := range a {
		scale = max(scale, a[i], -a[i], s.m[0][0]*least[i])
	}
	slackGap, slackLoad := 1e-13*scale, 1e-13*scale/s.m[0][0]
	best, patience := s.n+1, 8
	var f, w []float64
	for range 20 * (s.n + 10) {
		f, w = s.solve(free, a, least)
		var wrong []int
		for i := range free {
			if (free[i] && f[i] < least[i]-slackLoad) || (!free[i] && w[i] < -slackGap) {
				wrong = append(wrong, i)
			}
		}
		if len(wrong) == 0 {
			break
		}
		switch {
		case len(wrong) < best:
			best, patience = len(wrong), 8
		case patience > 0:
			patience--
		default:
			wrong = wrong[len(wrong)-1:]
		}
		for _, i := range wrong {
			free[i] = !free[i]
		}
	}
	loaded := make([]bool, s.n)
	for i := range loaded {
		loaded[i] = f[i] > 0
		s.z[i] = max(f[i], 0)
		if !loaded[i] {
			s.z[i] = max(w[i], 0)
		}
	}
	s.at = s.state(loaded)
}

// solve holds the bolts that are not free at their least load and returns the
// loads of all, N, and how far each nut would stand off, mm: M·F − a.
func (s *state) solve(free []bool, a, least []float64) (f, w []float64) {
	f, w = make([]float64, s.n), make([]float64, s.n)
	copy(f, least)
	set := s.state(append([]bool(nil), free...))
	if k := len(set.members); k > 0 {
		s.factorise(set)
		right := make([]float64, k)
		for x, i := range set.members {
			v := a[i]
			for j, l := range least {
				if !free[j] {
					v -= s.m[i][j] * l
				}
			}
			right[x] = v
		}
		set.factor.solve(right)
		for x, i := range set.members {
			f[i] = right[x]
		}
	}
	for i := range w {
		if free[i] {
			continue
		}
		for j, v := range f {
			w[i] += s.m[i][j] * v
		}
		w[i] -= a[i]
	}
	return f, w
}
