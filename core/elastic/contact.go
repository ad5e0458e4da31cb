package elastic

import (
	"fmt"
	"math"
	"slices"

	"dynacor/core/refusal"
)

// softest is the most a joint may give against a bolt. Beyond it the matrix
// loses more digits than the result has.
const softest = 1e9

// model is a ring with its matrices and the contact states met so far. It is
// not shared between goroutines.
type model struct {
	n      int
	c, m   [][]float64 // C and δB·I + C
	bolt   float64
	states map[string]*contact
	rest   *contact // nobody loaded
	most   int      // states kept
}

func newModel(r Ring) (*model, error) {
	if err := r.Check(); err != nil {
		return nil, err
	}
	md := &model{n: r.Bolts, c: r.Compliance(), m: make([][]float64, r.Bolts), bolt: r.Bolt, states: map[string]*contact{}}
	giving := 0.0 // of the joint, all bolts pulling as one
	for _, w := range md.c[0] {
		giving += math.Abs(w)
	}
	if most := softest * r.Bolt; !(giving <= most) {
		return nil, refusal.Number(refusal.Contradicts, "foundation", giving, most, "mm/N",
			fmt.Sprintf("The joint gives %.3g mm/N, more than a billion times what a bolt does: nothing can be said of its loads.",
				giving), "Check the gasket's stiffness and the units.")
	}
	for i := range md.m {
		md.m[i] = slices.Clone(md.c[i])
		md.m[i][i] += r.Bolt
	}
	// Each contact's matrix is a part of this one, and a part of a matrix that is
	// positive definite is so too, and no worse conditioned (Cauchy's interlacing).
	everything := make([]int, md.n)
	for i := range everything {
		everything[i] = i
	}
	if _, ok := factorised(md.m, everything); !ok {
		return nil, refusal.New(refusal.Contradicts, "foundation",
			"The loads of this ring cannot be found: its matrix is not positive definite.", "Check the gasket's stiffness and the units.")
	}
	const kept = 64 << 20 // bytes of states, about
	md.most = max(64, kept/(16*r.Bolts*r.Bolts))
	md.rest = md.state(make([]bool, md.n))
	return md, nil
}

// contact is which bolts are loaded, the rest being loose, with what a pull
// does there. Everything in it is worked out from the set alone, never from
// the way that led to it, so results are the same on any number of workers.
type contact struct {
	loaded  []bool
	members []int // that are loaded
	factor  *triangle
	// by the bolt that is turned: how everything moves while its load rises by 1 N,
	// loaded bolts by their loads, loose ones by the gaps at their nuts, mm/N
	by      [][]float64
	falling [][]int32  // where by is below zero
	advance []float64  // how far that nut turns down meanwhile, mm/N
	next    []*contact // by the bolt that changes sides
	fresh   []*outset  // rest only: where a first pull leads
}

// outset is the state after a first pull to 1 N from rest. Everything there
// is in proportion to that load.
type outset struct {
	at *contact
	z  []float64
}

// state returns the contact of a set. It keeps loaded.
func (md *model) state(loaded []bool) *contact {
	key := make([]byte, (md.n+7)/8)
	for i, l := range loaded {
		if l {
			key[i/8] |= 1 << (i % 8)
		}
	}
	if at, ok := md.states[string(key)]; ok {
		return at
	}
	if len(md.states) >= md.most {
		md.forget()
	}
	at := &contact{loaded: loaded, by: make([][]float64, md.n), falling: make([][]int32, md.n), advance: make([]float64, md.n),
		next: make([]*contact, md.n)}
	for i, l := range loaded {
		if l {
			at.members = append(at.members, i)
		}
	}
	md.states[string(key)] = at
	return at
}

// forget drops all states but rest, and the links through which they would
// live on.
func (md *model) forget() {
	for _, at := range md.states {
		at.next = make([]*contact, md.n)
	}
	clear(md.states)
	if md.rest != nil {
		md.rest.fresh = nil
		md.states[string(make([]byte, (md.n+7)/8))] = md.rest
	}
}

// flip returns the contact with bolt i on the other side.
func (md *model) flip(at *contact, i int) *contact {
	if to := at.next[i]; to != nil {
		return to
	}
	set := make([]bool, md.n)
	copy(set, at.loaded)
	set[i] = !set[i]
	to := md.state(set)
	at.next[i] = to
	return to
}

// pulling returns what a pull at the loaded bolt i does in a contact.
func (md *model) pulling(at *contact, i int) []float64 {
	if by := at.by[i]; by != nil {
		return by
	}
	return md.pullAt(at, i)
}

// pullAt works it out: with G = (M of the loaded)⁻¹ it is G's column i over its
// own element, and for the loose what that closes at them.
func (md *model) pullAt(at *contact, i int) []float64 {
	md.factorise(at)
	unit := make([]float64, len(at.members))
	for a, j := range at.members {
		if j == i {
			unit[a] = 1
		}
	}
	at.factor.solve(unit)
	by := make([]float64, md.n)
	for a, j := range at.members {
		by[j] = unit[a]
	}
	own := by[i]
	for _, j := range at.members {
		by[j] /= own
	}
	by[i] = 1
	for j := range by {
		if at.loaded[j] {
			continue
		}
		for _, k := range at.members {
			by[j] += md.c[j][k] * by[k]
		}
	}
	for j, b := range by {
		if b < 0 {
			at.falling[i] = append(at.falling[i], int32(j))
		}
	}
	at.by[i], at.advance[i] = by, 1/own
	return by
}

func (md *model) factorise(at *contact) {
	if at.factor != nil {
		return
	}
	var ok bool
	if at.factor, ok = factorised(md.m, at.members); !ok {
		panic(fmt.Sprintf("elastic: the part of bolts %v is not positive definite, though the whole is", at.members))
	}
}
