package tool

import (
	"fmt"
	"math"
	"time"

	"dynacor/core/refusal"
	"dynacor/core/unit"
)

// MostTools is the most of one kind that the solver takes.
const MostTools = 10_000

// Parts are numbered as they stand in the crib.
const none = int16(-1)

// tail is what stands on the nut's side of a wrench, multiplier or offset end.
type tail struct{ second, socket int16 }

// group is all chains that share wrench, multiplier or offset end and number
// of parts. They rank alike, whichever adapters and sockets they take, so a
// crib with many of these has few groups.
type group struct {
	rank                       float64
	chains                     int
	wrench, multiplier, offset int16
	firsts                     []int16 // adapters on the wrench; none alone for no adapter
	tails                      []tail
}

// count returns how many chains the group holds: one adapter cannot stand in
// two places.
func (g group) count() int {
	n := len(g.firsts) * len(g.tails)
	if g.firsts[0] == none || g.tails[0].second == none {
		return n
	}
	for _, t := range g.tails {
		for _, f := range g.firsts {
			if f == t.second {
				n--
			}
		}
	}
	return n
}

// search is one run of the solver.
type search struct {
	Crib
	need     Need
	today    time.Time
	groups   []group
	free     []error // per wrench
	sockets  []int16 // that fit the nut and bear the torque
	adapters []int16 // free, with two different drives
	bridges  map[[2]string]bridge
	nothing  []int16 // no adapter

	used struct{ wrenches, multipliers, adapters, offsets, sockets []bool }
}

func (s *search) begin() error {
	if err := refusal.First(refusal.Positive("torque", s.need.Torque, string(unit.NewtonMetre)), refusal.NotNegative("size", s.need.Size,
		string(unit.Millimetre))); err != nil {
		return err
	}
	for _, n := range []int{len(s.Wrenches), len(s.Multipliers), len(s.Adapters), len(s.Offsets), len(s.Sockets)} {
		if n > MostTools {
			return refusal.Number(refusal.TooLarge, "crib", float64(n), MostTools, "tools",
				fmt.Sprintf("%d tools of one kind; at most %d are searched.", n, MostTools), "Leave out what is not at hand.")
		}
	}
	s.groups = make([]group, 0, 1024)
	s.bridges, s.nothing = map[[2]string]bridge{}, []int16{none}
	s.free = make([]error, len(s.Wrenches))
	for i, w := range s.Wrenches {
		s.free[i] = refusal.First(w.free(s.today), w.marked())
	}
	for i, k := range s.Sockets {
		if _, err := k.carry(s.need.Torque, k.Drive); err == nil && s.suits(k) {
			s.sockets = append(s.sockets, int16(i))
		}
	}
	for i, a := range s.Adapters {
		if a.HeldBack == "" && a.DriveIn != a.DriveOut && refusal.Positive("adapter", a.Limit, "") == nil {
			s.adapters = append(s.adapters, int16(i))
		}
	}
	s.used.wrenches, s.used.multipliers = make([]bool, len(s.Wrenches)), make([]bool, len(s.Multipliers))
	s.used.adapters, s.used.offsets, s.used.sockets = make([]bool, len(s.Adapters)), make([]bool, len(s.Offsets)), make([]bool,
		len(s.Sockets))
	return nil
}

func (s *search) suits(k Socket) bool {
	return s.need.Size > 0 && k.Inside == s.need.Inside && unit.AtMost(k.Size, s.need.Size) && unit.AtLeast(k.Size, s.need.Size)
}

// adaptersFrom returns the free adapters that take drive and bear torque.
func (s *search) adaptersFrom(drive string, torque float64) []int16 {
	var list []int16
	for _, a := range s.adapters {
		if fits(s.Adapters[a].DriveIn, drive) && unit.AtMost(torque, s.Adapters[a].Limit) {
			list = append(list, a)
		}
	}
	return list
}

// bridge is the adapters from one drive to another, and the least of their
// limits.
type bridge struct {
	adapters []int16
	least    float64
}

// between returns what brings one drive to another at torque: nothing when
// they fit, and the adapters that do otherwise.
func (s *search) between(from, to string, torque float64) []int16 {
	if fits(from, to) {
		return s.nothing
	}
	b, known := s.bridges[[2]string{from, to}]
	if !known {
		b.least = math.Inf(1)
		for _, a := range s.adaptersFrom(from, 0) {
			if fits(s.Adapters[a].DriveOut, to) {
				b.adapters = append(b.adapters, a)
				b.least = min(b.least, s.Adapters[a].Limit)
			}
		}
		s.bridges[[2]string{from, to}] = b
	}
	if unit.AtMost(torque, b.least) {
		return b.adapters
	}
	var list []int16
	for _, a := range b.adapters {
		if unit.AtMost(torque, s.Adapters[a].Limit) {
			list = append(list, a)
		}
	}
	return list
}

// bare returns the sockets that stand on drive; with no size asked for, the
// one tail of no socket at all.
func (s *search) bare(drive string) []tail {
	if s.need.Size == 0 {
		return []tail{{none, none}}
	}
	var list []tail
	for _, k := range s.sockets {
		if fits(s.Sockets[k].Drive, drive) {
			list = append(list, tail{none, k})
		}
	}
	return list
}

// adapted returns the adapters on drive with the sockets that stand on them.
// With no size asked for an adapter there changes nothing and is left out.
func (s *search) adapted(drive string) []tail {
	if s.need.Size == 0 {
		return nil
	}
	var list []tail
	for _, a := range s.adaptersFrom(drive, s.need.Torque) {
		for _, t := range s.bare(s.Adapters[a].DriveOut) {
			list = append(list, tail{a, t.socket})
		}
	}
	return list
}

// inRange returns the exact setting of wrench i for torque at its drive, and
// whether it is used there.
func (s *search) inRange(i int, torque float64) (float64, bool) {
	w := &s.Wrenches[i]
	if s.free[i] != nil {
		return 0, false
	}
	exact, err := unit.Convert(torque, unit.NewtonMetre, w.Unit)
	if err != nil {
		return 0, false
	}
	_, ok, err := Usable(w.RatedMin, w.RatedMax, exact)
	return exact, ok && err == nil && unit.AtLeast(exact, w.Scale.First)
}

// add keeps a group if it holds a chain, weighed by its wrench at torque.
func (s *search) add(g group, exact, torque float64) {
	if len(g.firsts) == 0 || len(g.tails) == 0 {
		return
	}
	if g.chains = g.count(); g.chains == 0 {
		return
	}
	w := &s.Wrenches[g.wrench]
	b := burden{offMiddle: offMiddle(*w, exact), accuracy: w.accuracy(), parts: 1, multiplier: g.multiplier != none,
		sameUnit: w.Unit == s.need.Prefer}
	if w.Length > 0 {
		b.force = torque / (w.Length / 1000)
	}
	if b.multiplier {
		b.accuracy = Together(b.accuracy, s.Multipliers[g.multiplier].Accuracy)
	}
	for _, part := range [...]int16{g.firsts[0], g.multiplier, g.offset, g.tails[0].second, g.tails[0].socket} {
		if part != none {
			b.parts++
		}
	}
	g.rank = b.rank()
	s.groups = append(s.groups, g)
	s.mark(g)
}

func (s *search) mark(g group) {
	set := func(list []bool, i int16) {
		if i != none {
			list[i] = true
		}
	}
	set(s.used.wrenches, g.wrench)
	set(s.used.multipliers, g.multiplier)
	set(s.used.offsets, g.offset)
	for _, f := range g.firsts {
		set(s.used.adapters, f)
	}
	for _, t := range g.tails {
		set(s.used.adapters, t.second)
		set(s.used.sockets, t.socket)
	}
}

// byHand takes each wrench with a socket, or an adapter and a socket.
func (s *search) byHand() {
	for i, w := range s.Wrenches {
		exact, ok := s.inRange(i, s.need.Torque)
		if !ok {
			continue
		}
		s.add(group{wrench: int16(i), multiplier: none, offset: none, firsts: s.nothing, tails: s.bare(w.Drive)}, exact, s.need.Torque)
		for _, t := range s.adapted(w.Drive) {
			s.add(group{wrench: int16(i), multiplier: none, offset: none, firsts: []int16{t.second}, tails: []tail{{none, t.socket}}},
				exact, s.need.Torque)
		}
	}
}

// byMultiplier puts every multiplier before every wrench that can drive it.
func (s *search) byMultiplier() {
	for m, x := range s.Multipliers {
		at, err := Behind(s.need.Torque, x.Ratio)
		if err != nil {
			continue
		}
		if _, err := x.carry(s.need.Torque, "", x.DriveIn); err != nil {
			continue
		}
		bare, adapted := s.bare(x.DriveOut), s.adapted(x.DriveOut)
		if len(bare)+len(adapted) == 0 {
			continue
		}
		firsts := map[string][]int16{}
		for i, w := range s.Wrenches {
			exact, ok := s.inRange(i, at)
			if !ok {
				continue
			}
			list, known := firsts[w.Drive]
			if !known {
				list = s.between(w.Drive, x.DriveIn, at)
				firsts[w.Drive] = list
			}
			g := group{wrench: int16(i), multiplier: int16(m), offset: none, firsts: list, tails: bare}
			s.add(g, exact, at)
			g.tails = adapted
			s.add(g, exact, at)
		}
	}
}

// byOffset puts every offset end on every wrench whose lever is known.
func (s *search) byOffset() {
	for o, x := range s.Offsets {
		if _, err := x.carry(s.need.Torque, x.DriveIn); err != nil {
			continue
		}
		tails := s.bare(x.DriveOut)
		for i, w := range s.Wrenches {
			if w.Length <= 0 || len(tails) == 0 {
				continue
			}
			at, err := Offset(s.need.Torque, w.Length, x.Length, x.Angle)
			if err != nil {
				continue
			}
			if exact, ok := s.inRange(i, at); ok {
				s.add(group{wrench: int16(i), multiplier: none, offset: int16(o), firsts: s.between(w.Drive, x.DriveIn, at), tails: tails},
					exact, at)
			}
		}
	}
}
