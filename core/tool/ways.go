package tool

import (
	"cmp"
	"errors"
	"fmt"
	"math"
	"slices"
	"time"

	"dynacor/core/refusal"
	"dynacor/core/unit"
)

// Request is what a joint asks of a crib: the torques of its stages, N·m, the last the
// greatest, what the socket or bit must fit, and what the place asks for.
type Request struct {
	Torques []float64
	Prefer  unit.Unit // the unit the joint's torque was given in
	Size    float64   // of the fastener, mm; 0: not known, sockets are left out
	Inside  bool
	Offset  bool    // a wrench does not stand over it: an offset end is wanted
	Angle   float64 // of the offset end, degrees from straight ahead
	Reach   float64 // that an extension bridges, mm; 0: none
	Pressed bool    // by a hydraulic wrench alone
}

// need is what one stage asks of a chain.
func (r Request) need(stage int) Need {
	return Need{Torque: r.Torques[stage], Prefer: r.Prefer, Size: r.Size, Inside: r.Inside}
}

// Possible are the ways of a crib to make every stage, best first, and why each tool that
// is in none of them is out. Fetch is the size, mm, of a socket or bit that the crib has
// none of, or none that goes with a wrench: the ways are then without one. Count is how many chains there are in all,
// also those that differ in an adapter or a socket alone. Rigs are the hydraulic wrenches
// that do it.
type Possible struct {
	Setups []Setup
	Rigs   []Rigging
	Left   []Left
	Fetch  float64
	Count  int
}

// Possible lists the ways of a crib to make every stage that is asked for: of the chains
// that differ in adapters and sockets alone the best. A multiplier that is not needed is
// left out.
func (c Crib) Possible(r Request, today time.Time) Possible {
	out := Possible{}
	if len(r.Torques) == 0 {
		out.Setups = []Setup{{Refused: noStages()}}
		return out
	}
	var off []Left
	out.Rigs, off = c.Rigs(r, today)
	if r.Pressed {
		if out.Count, out.Left = len(out.Rigs), off; len(out.Rigs) > 0 && out.Rigs[0].Rig.Socket == nil {
			out.Fetch = r.Size
		}
		return out
	}
	c, r, out.Fetch = c.fitted(r)
	last := len(r.Torques) - 1
	settings, solved := c.distinct(r, last, today)
	if len(settings) == 0 && solved.Refused == nil && r.Size > 0 { // it has one, but none that goes with a wrench
		why := solved.Left
		out.Fetch, r.Size = r.Size, 0
		settings, solved = c.distinct(r, last, today)
		for i, l := range solved.Left {
			if k := slices.IndexFunc(why, func(x Left) bool { return x.Tag == l.Tag }); k >= 0 {
				solved.Left[i] = why[k]
			}
		}
	}
	if out.Count = solved.Count; solved.Refused != nil {
		out.Setups = []Setup{{Refused: solved.Refused}}
		return out
	}
	light := map[string]bool{}
	for _, s := range settings {
		if s.Chain.Multiplier == nil && s.Force <= HeavyHandForce {
			light[s.Chain.Wrench.Tag] = true
		}
	}
	lower := c.lowered(r, today)
	out.Left = solved.Left
	for _, s := range settings {
		if s.Chain.Multiplier != nil && light[s.Chain.Wrench.Tag] {
			continue
		}
		way := fit(s.Chain, r.Torques, lower, today)
		if way.Refused != nil {
			if !slices.ContainsFunc(out.Left, func(l Left) bool { return l.Tag == s.Chain.Wrench.Tag }) {
				out.Left = append(out.Left, Left{s.Chain.Wrench.Tag, way.Refused})
			}
			continue
		}
		out.Setups = append(out.Setups, way)
	}
	slices.SortStableFunc(out.Setups, func(x, y Setup) int { return cmp.Compare(x.rank(r.Prefer), y.rank(r.Prefer)) })
	// Who is in a way after all has no reason to be out.
	used := map[string]bool{}
	for _, w := range out.Setups {
		for _, s := range w.Settings {
			for _, tag := range s.Chain.Tags() {
				used[tag] = true
			}
		}
	}
	out.Left = append(out.Left, off...)
	for _, x := range out.Rigs {
		for _, tag := range x.Rig.Tags() {
			used[tag] = true
		}
	}
	out.Left = slices.DeleteFunc(out.Left, func(l Left) bool { return used[l.Tag] })
	out.Count += len(out.Rigs)
	return out
}

func noStages() error {
	return refusal.New(refusal.Missing, "passes", "The plan has no passes.", "Lay the joint out first.")
}

// Take sets a chain that was chosen for each stage that is asked for, as Possible does.
func (c Crib) Take(chain Chain, r Request, today time.Time) Setup {
	c, r, _ = c.fitted(r)
	return fit(chain, r.Torques, c.lowered(r, today), today)
}

// fitted leaves out of a crib what the place has no room for, and out of the request the
// size of a socket that the crib has none of: that is then fetched.
func (c Crib) fitted(r Request) (Crib, Request, float64) {
	if !r.Offset {
		c.Offsets = nil
	} else {
		c.Offsets, c.Multipliers = slices.Clone(c.Offsets), nil // it works on the wrench's own lever
		for i := range c.Offsets {
			c.Offsets[i].Angle = r.Angle
		}
	}
	if r.Size > 0 && !slices.ContainsFunc(c.Sockets, func(k Socket) bool {
		return k.Inside == r.Inside && unit.AtMost(k.Size, r.Size) && unit.AtLeast(k.Size, r.Size)
	}) {
		size := r.Size
		r.Size, c.Sockets = 0, nil
		return c, r, size
	}
	return c, r, 0
}

// distinct solves a stage and returns the best of the chains that share wrench, multiplier
// and offset end, best first by what their scales can show, too.
func (c Crib) distinct(r Request, stage int, today time.Time) ([]Setting, Solution) {
	need := r.need(stage)
	s := search{Crib: c, need: need, today: today}
	if err := s.begin(); err != nil {
		return nil, Solution{Refused: err}
	}
	if !r.Offset {
		s.byHand()
		s.byMultiplier()
	}
	s.byOffset()
	type key struct{ wrench, multiplier, offset int16 }
	seen := map[key]bool{}
	var out []Setting
	ranks, little := map[string]float64{}, map[string]error{}
	solved := Solution{}
	for _, g := range s.groups {
		solved.Count += g.chains
	}
	for _, i := range s.ranked() {
		g := s.groups[i]
		k := key{g.wrench, g.multiplier, g.offset}
		if seen[k] {
			continue
		}
		for _, set := range s.settings(g, nil, 1) {
			if m := set.Chain.Multiplier; m != nil && !unit.AtLeast(need.Torque, LeastShare*m.OutputMax) {
				little[m.Tag] = m.tooLittle(need.Torque)
				continue
			}
			reached, ok := c.reaching(set, r, today)
			if !ok {
				continue
			}
			seen[k] = true
			ranks[fmt.Sprint(reached.Chain.Tags())] = g.rank + errorWeight*math.Abs(reached.Error)
			out = append(out, reached)
		}
	}
	slices.SortStableFunc(out, func(x, y Setting) int {
		return cmp.Compare(ranks[fmt.Sprint(x.Chain.Tags())], ranks[fmt.Sprint(y.Chain.Tags())])
	})
	solved.Left = s.left()
	for _, m := range s.Multipliers {
		if why := little[m.Tag]; why != nil {
			solved.Left = append(solved.Left, Left{m.Tag, why})
		}
	}
	return out, solved
}

// tooLittle says that a torque is too little for a multiplier: its gears take a share of it
// that nobody knows.
func (m Multiplier) tooLittle(torque float64) error {
	return refusal.Number(refusal.OutOfRange, "multiplier", torque, LeastShare*m.OutputMax, string(unit.NewtonMetre),
		fmt.Sprintf("%s gives up to %.4g N·m; below %.4g N·m it is not used, and here are %.4g N·m.", m.Tag, m.OutputMax, LeastShare*m.OutputMax,
			torque), "Take a wrench alone.")
}

// reaching puts the shortest extension that bridges what is asked into a chain, where one
// is asked for; ok is false where none fits.
func (c Crib) reaching(s Setting, r Request, today time.Time) (Setting, bool) {
	if r.Reach == 0 {
		return s, true
	}
	best := -1
	for i, x := range c.Extensions {
		if x.HeldBack != "" || x.Length < r.Reach || !fits(x.Drive, s.Chain.end()) || !unit.AtMost(s.Torque, x.Limit) {
			continue
		}
		if best < 0 || x.Length < c.Extensions[best].Length {
			best = i
		}
	}
	if best < 0 {
		return s, false
	}
	chain := s.Chain
	chain.Extension = &c.Extensions[best]
	set, err := chain.Set(s.Pass, s.Torque, today)
	return set, err == nil
}

// lowered finds another tool for a stage that a chain is too great for: its own wrench
// without the multiplier, else the best there is.
func (c Crib) lowered(r Request, today time.Time) func(chain Chain, pass int, because error) (Setting, error) {
	known := map[int][]Setting{}
	return func(chain Chain, pass int, because error) (Setting, error) {
		list, ok := known[pass]
		if !ok {
			list, _ = c.distinct(r, pass-1, today)
			if bare := r; len(list) == 0 && r.Size > 0 {
				bare.Size = 0
				list, _ = c.distinct(bare, pass-1, today)
			}
			known[pass] = list
		}
		i := slices.IndexFunc(list, func(s Setting) bool {
			return s.Chain.Wrench.Tag == chain.Wrench.Tag && s.Chain.Multiplier == nil
		})
		if i < 0 {
			i = slices.IndexFunc(list, func(s Setting) bool { return s.Chain.Multiplier == nil })
		}
		if i < 0 && len(list) > 0 {
			i = 0
		}
		if i < 0 {
			return Setting{}, ofPass(pass, because)
		}
		return list[i].Chain.Set(pass, r.Torques[pass-1], today)
	}
}

// ofPass says of a refusal which stage it is about.
func ofPass(pass int, because error) error {
	var r *refusal.Error
	if !errors.As(because, &r) {
		return because
	}
	e := *r
	e.Text = fmt.Sprintf("Pass %d: %s", pass, r.Text)
	return &e
}

// fit sets a chain for each stage; one that is too low for it is made with what lower finds.
func fit(c Chain, torques []float64, lower func(Chain, int, error) (Setting, error), today time.Time) Setup {
	out := Setup{Chain: c}
	if len(torques) == 0 {
		out.Refused = noStages()
		return out
	}
	settings := make([]Setting, len(torques))
	last := len(torques) - 1
	for i := last; i >= 0; i-- {
		s, err := c.Set(i+1, torques[i], today)
		if err != nil && i < last && errors.Is(err, &refusal.Error{Code: refusal.OutOfRange}) {
			s, err = lower(c, i+1, err)
		}
		if err != nil {
			out.Refused = err
			return out
		}
		settings[i] = s
	}
	out.Settings = settings
	return out
}

// Tags names a chain's links, the wrench first.
func (c Chain) Tags() []string {
	out := []string{c.Wrench.Tag}
	for _, l := range c.Links()[1:] {
		out = append(out, l.Tag)
	}
	return out
}

// LinkKind is what a link of a chain is.
type LinkKind string

// The links.
const (
	LinkWrench     LinkKind = "wrench"
	LinkAdapter    LinkKind = "adapter"
	LinkMultiplier LinkKind = "multiplier"
	LinkOffset     LinkKind = "offset end"
	LinkExtension  LinkKind = "extension"
	LinkSocket     LinkKind = "socket"
	LinkHydraulic  LinkKind = "hydraulic wrench"
	LinkTensioner  LinkKind = "tensioner"
	LinkPump       LinkKind = "pump"
	LinkGauge      LinkKind = "gauge"
)

// Link is one link of a chain in line: what goes on from it to the next.
type Link struct {
	Kind      LinkKind
	Tag, Name string
	Drive     string  // square at its far end, in; empty for the socket, and where it is not known
	Limit     float64 // what it bears, N·m; 0 where none is stated
	Ratio     float64 // of a multiplier
	Length    float64 // mm: of an offset end or an extension, and of the wrench; 0 where it is not known
	Angle     float64 // of an offset end, degrees
	Size      float64 // of a socket, mm
	Inside    bool
	Geared    bool // the nut's torque goes through it, no longer the wrench's
}

// Links lists a chain's links from the hand to the nut.
func (c Chain) Links() []Link {
	w := c.Wrench
	top, _ := unit.Convert(w.RatedMax, w.Unit, unit.NewtonMetre) // a unit that is unknown is refused where it is set
	out := []Link{{Kind: LinkWrench, Tag: w.Tag, Name: w.Name, Drive: w.Drive, Limit: top, Length: w.Length}}
	adapter := func(a *Adapter, geared bool) {
		if a != nil {
			out = append(out, Link{Kind: LinkAdapter, Tag: a.Tag, Name: a.Name, Drive: a.DriveOut, Limit: a.Limit, Geared: geared})
		}
	}
	adapter(c.First, c.Multiplier == nil && c.Offset == nil)
	if m := c.Multiplier; m != nil {
		out = append(out, Link{Kind: LinkMultiplier, Tag: m.Tag, Name: m.Name, Drive: m.DriveOut, Limit: m.OutputMax, Ratio: m.Ratio, Geared: true})
	}
	adapter(c.Second, true)
	if o := c.Offset; o != nil {
		out = append(out, Link{Kind: LinkOffset, Tag: o.Tag, Name: o.Name, Drive: o.DriveOut, Limit: o.Limit, Length: o.Length, Angle: o.Angle,
			Geared: true})
	}
	if x := c.Extension; x != nil {
		out = append(out, Link{Kind: LinkExtension, Tag: x.Tag, Name: x.Name, Drive: x.Drive, Limit: x.Limit, Length: x.Length, Geared: true})
	}
	if k := c.Socket; k != nil {
		out = append(out, Link{Kind: LinkSocket, Tag: k.Tag, Name: k.Name, Limit: k.Limit, Size: k.Size, Inside: k.Inside, Geared: true})
	}
	return out
}

// end is the drive that the socket stands on; empty where it is not known.
func (c Chain) end() string {
	links := c.Links()
	for i := len(links) - 1; i >= 0; i-- {
		if links[i].Kind != LinkSocket {
			return links[i].Drive
		}
	}
	return ""
}
