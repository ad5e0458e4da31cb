package joint

import (
	"fmt"

	"dynacor/core/friction"
	"dynacor/core/preload"
	"dynacor/core/refusal"
	"dynacor/core/stay"
	"dynacor/core/thread"
	"dynacor/core/unit"
)

// Stay is what is known of a group beyond the pull. What is empty is not judged.
type Stay struct {
	Engaged                  unit.Quantity // length of thread in the part
	PartTensile              unit.Quantity // strength of that part; empty: as its material has it
	Bears                    unit.Quantity // pressure that the parts take under a head; empty: as their material has it
	Finish                   stay.Finish   // of the faces; empty: settling is not counted
	Faces                    int           // between the parts
	Settles                  float64       // by so much, µm, as it was measured; zero: as its finish has it
	BoltsWarmer, PartsWarmer float64       // in service than when it was made, K; both zero: not judged
	BoltsStiff, PartsStiff   float64       // their moduli then, as shares of those when it was made; zero: the same
	Axial                    unit.Quantity // force that pulls at each bolt, along it
	Enters                   float64       // how far inside the parts it enters, a fraction; zero: 1, under the head
	Across                   unit.Quantity // force a bolt, across it
	Friction                 float64       // between the parts
	Planes                   int           // how many faces slide; zero: 1
}

// The rows of what becomes of the load, by key.
const (
	StayThread   = "thread"
	StayBearing  = "bearing"
	StayGrip     = "grip"
	StaySettled  = "settled"
	StayWarm     = "warm"
	StayWarmBolt = "warm bolt"
	StayPulled   = "pulled"
	StayClosed   = "closed"
	StayHeld     = "held"
)

// StayOfLimit reports whether it is the limit of a row that is worked out; else it is
// the value.
func StayOfLimit(key string) bool {
	return key == StayThread || key == StayGrip || key == StayClosed || key == StayHeld
}

// shortGrip is the clamped length, in diameters, below which a joint loses more than
// others as it settles (VDI 2230; 3 to 5).
const (
	shortGrip     = 5.0
	veryShortGrip = 3.0
)

// stays works out what becomes of the load: each row where its data is given.
type stays struct {
	c    *computing
	g    *Group
	b    *Bolts
	t    thread.Thread
	s    thread.Strength
	of   stay.Material
	face friction.Face
	lost float64 // as it settles, N
}

func (c *computing) stay(g *Group, b *Bolts) error {
	if g.Load == 0 || g.Grade == "" {
		return nil
	}
	if g.Springs.Bolt > 0 {
		g.FromSnug, g.Stretch = 360*g.Load*(g.Springs.Bolt+g.Springs.Parts)/c.thread.Pitch, g.Load*g.Springs.Bolt
	}
	if b.Stay == (Stay{}) && b.Clamp == (Clamp{}) {
		return nil
	}
	x := stays{c: c, g: g, b: b}
	var err error
	if x.t, x.s, err = c.bolt(g); err != nil {
		return err
	}
	if x.of, err = stay.MaterialNamed(b.Clamp.Parts); err != nil {
		return refusal.At("groups."+g.Name+".clamp", err)
	}
	x.face = c.face(g, x.t)
	if err := x.rows(); err != nil {
		return refusal.At("groups."+g.Name+".stay", err)
	}
	for _, row := range g.Stays {
		c.answered(g, row)
	}
	return nil
}

func (x *stays) rows() error {
	if err := x.engaged(); err != nil {
		return err
	}
	if err := x.bearing(); err != nil {
		return err
	}
	if err := x.grip(); err != nil {
		return err
	}
	if err := x.settled(); err != nil {
		return err
	}
	if err := x.warm(); err != nil {
		return err
	}
	return x.pulled()
}

func (x *stays) row(r preload.Check, key, format string, args ...any) {
	x.g.Stays = append(x.g.Stays, r.As(key, fmt.Sprintf(format, args...)))
}

// given returns a quantity in u; 0 where it is empty.
func given(field string, q unit.Quantity, u unit.Unit) (float64, error) {
	if q.IsZero() {
		return 0, nil
	}
	v, err := q.In(u)
	if err == nil {
		err = refusal.Positive(field, v, string(u))
	}
	return v, refusal.At(field, err)
}

func (x *stays) engaged() error {
	long, err := given("engaged", x.b.Stay.Engaged, unit.Millimetre)
	if err != nil || long == 0 {
		return err
	}
	rm, err := given("partTensile", x.b.Stay.PartTensile, unit.Megapascal)
	if err != nil {
		return err
	}
	from := "typed"
	if rm == 0 {
		rm, from = x.of.Tensile, "of "+x.of.Name+", a starting value of ours"
	}
	if err := refusal.Within("engaged", long, mostClamped, "mm"); err != nil {
		return err
	}
	e, err := stay.Engaged(x.t, long, x.s.Tensile, rm)
	if err != nil {
		return err
	}
	x.row(preload.AtLeast("Thread engaged", long, e.Least, "mm"), StayThread,
		"the %s gives first: bolt %.4g kN, its thread %.4g kN, the part's %.4g kN at %.4g MPa, %s", e.Weakest, e.Breaks/1000,
		e.LoadBolt/1000, e.LoadPart/1000, rm, from)
	return nil
}

func (x *stays) bearing() error {
	limit, err := given("bears", x.b.Stay.Bears, unit.Megapascal)
	if err != nil {
		return err
	}
	from := "typed"
	if limit == 0 && x.b.Clamp.Parts != "" {
		limit, from = x.of.Bears, "of "+x.of.Name+", a starting value of ours"
	}
	if limit == 0 {
		return nil
	}
	p, err := stay.Bears(x.g.Load, x.face.Outside, x.face.Hole, limit)
	if err != nil {
		return err
	}
	x.row(preload.AtMost("Pressure under the head", p.Pressure, limit, "MPa"), StayBearing, "on a ring of %.4g by %.4g mm; limit %s",
		x.face.Outside, x.face.Hole, from)
	return nil
}

// grip warns of a short one.
func (x *stays) grip() error {
	if x.g.Springs.Bolt == 0 {
		return nil
	}
	long, err := x.b.Clamp.Length.In(unit.Millimetre)
	if err != nil {
		return err
	}
	r := preload.AtLeast("Grip", long, shortGrip*x.t.Diameter, "mm")
	r.Informs = true
	x.row(r, StayGrip, "%.3g diameters; a short one loses more as it settles", long/x.t.Diameter)
	if d := long / x.t.Diameter; d < veryShortGrip {
		x.c.mind(x.g.Name,
			"The %s clamp only %.3g diameters: what settles by a few µm takes much of the load. Turn them to it again, or make the grip longer.",
			x.g.Name, d)
	}
	return nil
}

func (x *stays) springs() stay.Springs {
	return stay.Springs(x.g.Springs)
}

func (x *stays) settled() error {
	fz, from, err := x.b.Stay.settles()
	if err != nil || fz == 0 || !x.long("settles") {
		return err
	}
	if x.lost, err = x.springs().Embedding(fz); err != nil {
		return err
	}
	x.row(x.left("Left once its faces have settled", max(x.g.Load-x.lost, 0)), StaySettled,
		"%.3g µm, %s, take %.3g kN", fz, from, x.lost/1000)
	return nil
}

// mostSettled is the most that faces settle by, µm; more is a gap.
const mostSettled = 500

// settles is by how much a joint settles, µm, and where that is from; zero where
// nothing is said of it.
func (s Stay) settles() (fz float64, from string, err error) {
	switch {
	case s.Settles != 0:
		return s.Settles, "measured", refusal.Within("settles", s.Settles, mostSettled, "µm")
	case s.Finish != "":
		fz, err = stay.Settles(s.Finish, s.Faces)
		return fz, "guide values of VDI 2230", err
	}
	return 0, "", nil
}

// left is the row of a load that is left, against what the gasket asks for; where
// nothing is known to ask for a load it informs, against what the joint was made to.
func (x *stays) left(name string, load float64) preload.Check {
	if x.g.Needed > 0 {
		return preload.AtLeast(name, load, x.g.Needed, "N")
	}
	r := preload.AtLeast(name, load, x.g.Load, "N")
	r.Informs = true
	return r
}

// long asks for the clamped length where a row needs it.
func (x *stays) long(what string) bool {
	if x.g.Springs.Bolt > 0 {
		return true
	}
	x.c.mind(x.g.Name, "How much the %s lose as the joint %s follows from the length they clamp; it is not given.", x.g.Name, what)
	return false
}

func (x *stays) warm() error {
	if !x.b.Stay.warms() || !x.long("warms") {
		return nil
	}
	w, err := warm(x.b, x.g.Grade)
	if err != nil {
		return err
	}
	at, _, err := x.springs().At(x.g.Load, w)
	if err != nil {
		return err
	}
	note := fmt.Sprintf("bolts %+.4g K, parts %+.4g K, growing by %.3g and %.3g µm/m a kelvin", w.WarmerBolt, w.WarmerParts,
		1e6*w.ExpandsBolt, 1e6*w.ExpandsParts)
	if eB, eP := w.Moduli(); eB != 1 || eP != 1 {
		note += fmt.Sprintf("; then %.3g %% and %.3g %% as stiff", 100*eB, 100*eP)
	}
	x.g.Stays = append(x.g.Stays, x.left("Left at that temperature", at).As(StayWarm, note),
		preload.AtMost("Bolt at that temperature, below yield", at, x.s.Yield*x.t.StressArea(), "N").As(StayWarmBolt, note))
	return nil
}

// warms reports whether anything is said of the temperature in service.
func (s Stay) warms() bool {
	return s.BoltsWarmer != 0 || s.PartsWarmer != 0 || s.BoltsStiff != 0 || s.PartsStiff != 0
}

// warm is the joint at its temperature in service.
func warm(b *Bolts, grade string) (stay.Warm, error) {
	s := b.Stay
	w := stay.Warm{ExpandsBolt: stay.Materials()[0].Expands, WarmerBolt: s.BoltsWarmer, WarmerParts: s.PartsWarmer,
		ModulusBolt: s.BoltsStiff, ModulusParts: s.PartsStiff}
	if thread.Stainless(grade) {
		w.ExpandsBolt = stay.Materials()[1].Expands
	}
	of, err := stay.MaterialNamed(b.Clamp.Parts)
	if err != nil {
		return w, err
	}
	w.ExpandsParts = of.Expands
	if w.Length, err = b.Clamp.Length.In(unit.Millimetre); err != nil {
		return w, err
	}
	return w, refusal.First(warmth("boltsWarmer", w.WarmerBolt), warmth("partsWarmer", w.WarmerParts), stiff("boltsStiff", s.BoltsStiff),
		stiff("partsStiff", s.PartsStiff))
}

// stiff refuses a share of the modulus that no metal keeps in service: below a fifth, or
// above 1.2, as in the cold.
func stiff(field string, share float64) error {
	const least, most = 0.2, 1.2
	if share == 0 {
		return nil
	}
	if err := refusal.Positive(field, share, ""); err != nil {
		return err
	}
	if share < least || share > most {
		return refusal.Number(refusal.OutOfRange, field, share, least, "",
			fmt.Sprintf("%.3g %% of its modulus; %.0f to %.0f %% are counted.", 100*share, 100*least, 100*most),
			"Give the modulus in service as a share of the one at 20 °C.")
	}
	return nil
}

// warmth refuses a difference in temperature that no bolted joint sees.
func warmth(field string, dt float64) error {
	const most = 800
	if err := refusal.Finite(field, dt); err != nil {
		return err
	}
	if dt < -most || dt > most {
		return refusal.Number(refusal.OutOfRange, field, dt, most, "K", fmt.Sprintf("%.4g K; up to %d K either way are counted.", dt, most),
			"Give the difference, not the temperature.")
	}
	return nil
}

func (x *stays) pulled() error {
	s := x.b.Stay
	axial, err := given("axial", s.Axial, unit.Newton)
	if err != nil {
		return err
	}
	across, err := given("across", s.Across, unit.Newton)
	if err != nil {
		return err
	}
	if axial == 0 && across == 0 || !x.long("is pulled") {
		return nil
	}
	p := stay.Pulled{Factor: s.Enters, Axial: axial, Across: across, Mu: s.Friction, Planes: max(s.Planes, 1)}
	if p.Factor == 0 {
		p.Factor = 1
	}
	// The clamp is judged by the least that is likely to be left, the bolt by the most.
	low, err := x.springs().Under(max(x.g.LikelyLow-x.lost, 0), p)
	if err != nil {
		return err
	}
	high, err := x.springs().Under(x.g.LikelyHigh, p)
	if err != nil {
		return err
	}
	if axial > 0 {
		x.row(preload.AtMost("Bolt under that pull, below yield", high.Bolt, x.s.Yield*x.t.StressArea(), "N"), StayPulled,
			"%.3g of the pull goes through the bolt, at the high end of what is likely", high.Phi)
		r := preload.AtMost("Pull that opens it", axial, max(x.g.LikelyLow-x.lost, 0)/(1-low.Phi), "N")
		x.row(r, StayClosed, "%.4g kN hold it together, at the low end of what is likely", low.Clamp/1000)
	}
	if across > 0 {
		if s.Friction == 0 {
			return refusal.New(refusal.Missing, "friction", "What holds against a force across is friction; no coefficient is given.",
				"Give it, 0.15 for dry steel where nothing better is known.")
		}
		x.row(preload.AtMost("Force across that it holds", across, low.Slip, "N"), StayHeld, "%d × %.3g of the %.4g kN that are left",
			p.Planes, p.Mu, low.Clamp/1000)
	}
	return nil
}
