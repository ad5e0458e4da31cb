package joint

import (
	"math"

	"dynacor/core/derive"
	"dynacor/core/preload"
	"dynacor/core/recipe"
	"dynacor/core/stay"
	"dynacor/core/unit"
)

// window says where the limits of a gasket's window are from.
func (x *deriving) window() error {
	g := x.g
	if len(g.Window) == 0 {
		return nil
	}
	b, ok, err := x.c.balance(g)
	if err != nil || !ok {
		return err
	}
	ag, err := b.Area()
	if err != nil {
		return err
	}
	n, area := is(float64(b.Bolts), "counted"), by(ag, "area")
	x.add("area", formArea, "", is(b.Outside, "off the gasket"), is(b.Inside, "off the gasket"), n, is(b.Hole, g.Thread))
	for _, row := range g.Window {
		form := onWindow(row.Key)
		need := needOf(g.Gasket, row.Key)
		from := x.stress(row.Stress, need)
		if row.Key == preload.Most && x.c.out.Value(need).IsZero() {
			from.From = "0.7 of the yield of the grade, ASME PCC-1 appendix O"
		}
		switch form {
		case formOnGasket:
			x.add(windowKeys[row.Key], form, "", from, area, n)
		case formService:
			x.add(windowKeys[row.Key], form, "", from, area, is(b.Pressure, asEntered), is(b.Inside, "off the gasket"),
				is(b.Kept, "as it is given, or of the family"), n)
		default:
			x.add(windowKeys[row.Key], form, "", from, is(x.t.StressArea(), g.Thread))
		}
	}
	return nil
}

// needOf is the need that holds what is behind a row of the window.
func needOf(x *recipe.Gasket, row string) string {
	switch row {
	case preload.Seats:
		return x.Stress
	case preload.Crushes:
		return x.Most
	case preload.Least:
		return x.BoltLeast
	case preload.Most:
		return x.BoltMost
	case preload.Flange:
		return x.Flange
	}
	return x.Service
}

var windowKeys = map[string]string{preload.Seats: "window/seats", preload.Operates: "window/service", preload.Crushes: "window/crush",
	preload.Least: "window/boltLeast", preload.Most: "window/boltMost", preload.Flange: "window/flange"}

// stays says where the rows of what becomes of the load are from.
func (x *deriving) stays() error {
	g := x.g
	if len(g.Stays) == 0 && g.Springs.Bolt == 0 {
		return nil
	}
	bolt, parts := by(g.Springs.Bolt, "give"), by(g.Springs.Parts, "parts")
	if g.Springs.Bolt > 0 {
		of, err := x.b.Clamp.of(x.t, g.Grade)
		if err != nil {
			return err
		}
		x.give(of)
	}
	at, err := x.pulls()
	if err != nil {
		return err
	}
	of, err := stay.MaterialNamed(x.b.Clamp.Parts)
	if err != nil {
		return err
	}
	face := x.c.face(g, x.t)
	for _, row := range g.Stays {
		key := "stay/" + row.Key
		switch row.Key {
		case StayThread:
			if err := x.engaged(key, of); err != nil {
				return err
			}
		case StayBearing:
			x.add(key, formBearing, "", x.loadIn(), is(face.Outside, "head of "+g.Thread), is(face.Hole, "hole of "+g.Thread))
		case StayGrip:
			x.add(key, formGrip, "", is(x.t.Diameter, g.Thread))
		case StaySettled:
			x.add(key, formSettled, "", x.loadIn(), is(at.fz, at.settled), bolt, parts)
		case StayWarm, StayWarmBolt:
			warm, err := x.warm()
			if err != nil {
				return err
			}
			x.add(key, formWarm, "", append([]derive.Input{x.loadIn()}, warm[:]...)...)
		case StayPulled:
			x.add(key, formPulled, "", by(g.LikelyHigh, "likelyHigh"), at.enters, bolt, parts, is(at.axial, asEntered))
		case StayClosed:
			x.add(key, formOpens, "", by(g.LikelyLow, "likelyLow"), is(at.lost, "as it settles"), at.enters, bolt, parts)
		case StayHeld:
			x.add(key, formHolds, "", by(g.LikelyLow, "likelyLow"), is(at.lost, "as it settles"), at.enters, bolt, parts,
				is(at.axial, asEntered), is(x.b.Stay.Friction, asEntered), is(float64(max(x.b.Stay.Planes, 1)), "counted"))
		}
	}
	return nil
}

// pulls are the numbers that several rows take.
type pulls struct {
	fz, lost, axial float64
	settled         string
	enters          derive.Input
}

func (x *deriving) pulls() (p pulls, err error) {
	s := x.b.Stay
	p.enters = is(s.Enters, asEntered)
	if s.Enters == 0 {
		p.enters = is(1, "under the head, where nothing better is known")
	}
	if p.fz, p.settled, err = s.settles(); err != nil {
		return p, err
	}
	if p.fz > 0 && x.g.Springs.Bolt > 0 {
		if p.lost, err = stay.Springs(x.g.Springs).Embedding(p.fz); err != nil {
			return p, err
		}
	}
	p.axial, err = given("axial", s.Axial, unit.Newton)
	return p, err
}

// warm are the inputs of what warmth does: give, length, growth, moduli.
func (x *deriving) warm() (in [9]derive.Input, err error) {
	w, err := warm(x.b, x.g.Grade)
	eB, eP := w.Moduli()
	parts := x.b.Clamp.Parts
	if parts == "" {
		parts = stay.Materials()[0].Name
	}
	return [9]derive.Input{by(x.g.Springs.Bolt, "give"), by(x.g.Springs.Parts, "parts"), is(w.Length, asEntered), is(w.ExpandsParts, parts),
		is(w.WarmerParts, asEntered), is(w.ExpandsBolt, x.g.Grade), is(w.WarmerBolt, asEntered), is(eB, asEntered), is(eP, asEntered)}, err
}

// give says where the give of bolt and parts is from.
func (x *deriving) give(of preload.Clamped) {
	shank, root := math.Pi/4*x.t.Diameter*x.t.Diameter, x.t.RootArea()
	heads, nuts := 1.0, 1.0
	if of.TwoNuts {
		heads, nuts = 0, 2
	}
	parts := of.PartsModulus
	if parts == 0 {
		parts = of.Modulus
	}
	d, long := is(x.t.Diameter, x.g.Thread), is(of.Length, asEntered)
	x.add("give", formBolt, "", is(heads, "counted"), d, is(shank, x.g.Thread), is(of.Shank, asEntered), long, is(root, x.g.Thread),
		is(nuts, "counted"), is(of.Modulus, x.g.Grade))
	x.add("parts", formParts, "", long, d, is(parts, "what the parts are of"))
}

func (x *deriving) engaged(key string, of stay.Material) error {
	rm, err := given("partTensile", x.b.Stay.PartTensile, unit.Megapascal)
	if err != nil {
		return err
	}
	from := asEntered
	if rm == 0 {
		rm, from = of.Tensile, of.Name
	}
	e, err := stay.Engaged(x.t, 1, x.s.Tensile, rm)
	if err != nil {
		return err
	}
	x.add(key, formEngaged, "", is(x.s.Tensile, x.g.Grade), is(x.t.StressArea(), x.g.Thread), is(e.AreaBolt, x.g.Thread), is(rm, from),
		is(e.AreaPart, x.g.Thread))
	return nil
}
