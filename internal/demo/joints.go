package demo

import (
	"dynacor/core/plan"
	"dynacor/core/sequence"
	"dynacor/core/unit"
)

// stage is how far a joint's story goes.
type stage int

const (
	fresh stage = iota
	draft
	issued
	issuedOnly // of a joint that a recipe leads: as issued
	preparing  // part of the steps before a tool is chosen
	tooled
	pulling  // part of the passes
	checking // part of a check round
	stopped  // five rounds moved
	proving
	signing
	signed
)

// joint is one joint of the outage and how far it has come.
type joint struct {
	area, tag, title  string
	fitter, inspector string
	begun             float64 // days after the outage began
	upTo              stage
	share             float64 // of the pulls or checks of that stage
	in                plan.Input
	tell              tale
}

// tale is what happened on the way.
type tale struct {
	movedBolt   int // moved in the first check round
	trouble     int // a bolt that gave trouble in pass 2
	correction  int // a bolt whose first reading was corrected
	farReading  int
	openGap     bool // the gap after is not parallel
	onlyMade    bool // the fitter signed, the checker has not
	handTool    bool
	pausedAtEnd bool
	work        string // what followed once it was signed
	then        *led   // how far that came
}

func mm(v float64) unit.Quantity { return unit.Of(v, unit.Millimetre) }
func nm(v float64) unit.Quantity { return unit.Of(v, unit.NewtonMetre) }

// flange is the usual sentence; the rest is set by edits.
func flange(n int, thread, grade string, circle, outer, inner float64, edits ...func(*plan.Input)) plan.Input {
	in := plan.Starting()
	in.Bolts, in.Thread, in.Grade, in.BoltCircle = n, thread, grade, mm(circle)
	in.Gasket = plan.Gasket{Kind: "fibre sheet gasket", Outer: mm(outer), Inner: mm(inner)}
	in.Order = sequence.Usual(n)
	for _, e := range edits {
		e(&in)
	}
	return in
}

func torque(v float64, lubricant string) func(*plan.Input) {
	return func(in *plan.Input) {
		in.Target = plan.Target{Mode: plan.Specified, Torque: nm(v), Of: plan.OfYield, Share: 0.5}
		in.SpecifiedFor, in.Lubrication = lubricant, lubricant
	}
}

func footPounds(v float64, lubricant string) func(*plan.Input) {
	return func(in *plan.Input) {
		torque(v, lubricant)(in)
		in.Target.Torque = unit.Of(v, unit.FootPound)
	}
}

func between(low, high float64, lubricant string) func(*plan.Input) {
	return func(in *plan.Input) {
		torque(low, lubricant)(in)
		in.Target.Max = nm(high)
	}
}

func share(p float64, of plan.Basis, lubricant string) func(*plan.Input) {
	return func(in *plan.Input) {
		in.Target = plan.Target{Mode: plan.Share, Share: p, Of: of}
		in.SpecifiedFor, in.Lubrication = lubricant, lubricant
	}
}

func lubricant(name string, d plan.Decision) func(*plan.Input) {
	return func(in *plan.Input) { in.Lubrication, in.Decision = name, d }
}

func gasket(kind string) func(*plan.Input) {
	return func(in *plan.Input) { in.Gasket.Kind = kind }
}

func passes(shares ...float64) func(*plan.Input) {
	return func(in *plan.Input) { in.Shares = shares }
}

func order(p sequence.Pattern) func(*plan.Input) {
	return func(in *plan.Input) { in.Order = p }
}

func fastening(f string) func(*plan.Input) {
	return func(in *plan.Input) { in.Fastening = f }
}

func inches(circle, outer, inner float64) func(*plan.Input) {
	return func(in *plan.Input) {
		in.BoltCircle = unit.Of(circle, unit.Inch)
		in.Gasket.Outer, in.Gasket.Inner = unit.Of(outer, unit.Inch), unit.Of(inner, unit.Inch)
	}
}

const (
	moly   = "molybdenum disulphide paste"
	oil    = "light oil"
	nickel = "nickel anti-seize"
	copper = "copper anti-seize"
	dry    = "dry, plain as received"
)

func outage() []joint {
	const gallery, pit, deck = "Penstock gallery", "Turbine pit", "Rake deck"
	spiral, sheet, soft := gasket("spiral gasket"), gasket("fibre sheet gasket"), gasket("soft rubber gasket")
	return []joint{
		{gallery, "PS-1 / MANWAY", "Penstock manway cover", "jonas", "ines", 0.4, signed, 1,
			flange(20, "M30", "8.8", 760, 690, 640, torque(820, moly), spiral, passes(30, 70, 100)), tale{correction: 7}},
		{gallery, "PS-1 / DRAIN", "Penstock drain flange", "marta", "ines", 1.3, proving, 1,
			flange(8, "M20", "8.8", 240, 205, 160, torque(240, oil)), tale{}},
		{gallery, "IV-2 / BONNET", "Inlet valve bonnet", "marta", "ines", 5.2, pulling, 0.56,
			flange(16, "M30", "8.8", 560, 475, 420, torque(980, oil), lubricant(moly, plan.TakeEquivalent), spiral, passes(30, 60, 100)), tale{}},
		{gallery, "IV-2 / BYPASS", "Inlet valve bypass", "marta", "", 5.3, tooled, 0,
			flange(4, "M16", "8.8", 125, 102, 61, torque(125, oil)), tale{}},
		{gallery, "IV-2 / VENT", "Air vent flange", "piet", "haro", 2.2, signed, 1,
			flange(4, "5/8-11 UNC", "grade 5", 120.65, 100, 60, footPounds(88, oil), inches(4.75, 3.9, 2.4), fastening("bolt and nut")), tale{work: "loosen",
				then: &led{fitter: "piet", checker: "haro", upTo: signed, tell: ledTale{because: "The vent valve behind it is changed.",
					then: &led{recipe: "gasketed-flange", fitter: "piet", checker: "haro", upTo: signed, tell: ledTale{because: "Made anew, new gasket.", edit: remade}}}}}},
		{gallery, "PS-1 / METER RUN", "Flow meter run, upstream", "sefa", "", 5.6, draft, 0,
			flange(12, "7/8-9 UNC", "B7", 362, 318, 262, footPounds(300, nickel), inches(14.25, 12.4, 10.2)), tale{}},

		{pit, "U2 / HEAD COVER", "Turbine head cover, sector drain ring", "sefa", "haro", 3.1, pulling, 0.38,
			flange(40, "M24", "8.8", 1980, 1890, 1840, share(0.55, plan.OfYield, moly), sheet), tale{trouble: 9}},
		{pit, "U2 / SHAFT SEAL", "Shaft seal housing", "jonas", "", 5.7, issued, 0,
			flange(12, "M16", "A4-70", 420, 380, 340, torque(80, "stainless, anti-seize"), fastening("screw"), soft), tale{}},
		{pit, "U2 / DRAFT HATCH", "Draft tube inspection hatch", "piet", "ines", 4.2, checking, 0.4,
			flange(24, "M24", "8.8", 980, 905, 850, torque(470, moly), sheet), tale{movedBolt: 14}},
		{pit, "U2 / GUIDE BEARING", "Guide bearing oil pot", "sefa", "ines", 2.0, signed, 1,
			flange(14, "M12", "8.8", 610, 580, 548, between(48, 60, oil), fastening("screw"), soft), tale{trouble: 5, farReading: 11}},
		{pit, "U2 / COOLER IN", "Bearing cooler inlet", "piet", "haro", 3.4, signing, 1,
			flange(8, "3/4-10 UNC", "B7", 241.3, 212, 168, footPounds(150, copper), inches(9.5, 8.4, 6.6)), tale{onlyMade: true}},
		{pit, "U2 / COOLER OUT", "Bearing cooler outlet", "piet", "haro", 3.5, signed, 1,
			flange(8, "3/4-10 UNC", "B7", 241.3, 212, 168, footPounds(150, copper), inches(9.5, 8.4, 6.6)), tale{openGap: true, work: "re-torque", then: &led{fitter: "piet", checker: "haro", upTo: signed, tell: ledTale{because: "Turned to its torque again, 20 h after it was made.", moved: 3}}}},

		{deck, "RK / HYD TANK", "Rake hydraulic tank cover", "jonas", "ines", 2.6, signed, 1,
			flange(18, "M10", "8.8", 520, 490, 455, torque(38, oil), fastening("screw"), soft), tale{work: "re-torque", then: &led{fitter: "jonas", checker: "ines", upTo: pulling, share: 0.5, tell: ledTale{because: "The soft gasket creeps: turned to its torque again.", moved: 4}}}},
		{deck, "RK / COOLER", "Rake oil cooler, blank end", "jonas", "", 5.5, draft, 0,
			flange(8, "M16", "8.8", 210, 180, 140, torque(140, dry), lubricant(oil, plan.Undecided)), tale{}},
		{deck, "RK / WASH HEADER", "Screen wash header", "marta", "ines", 4.6, pulling, 0.7,
			flange(8, "M16", "8.8", 180, 158, 115, between(110, 130, oil), soft), tale{pausedAtEnd: true}},
		{deck, "RK / GATE JACK", "Gate jack flange", "jonas", "haro", 3.8, stopped, 1,
			flange(9, "M20", "10.9", 300, 262, 220, share(0.6, plan.OfProof, moly), sheet), tale{}},
		{deck, "RK / WASH PUMP", "Screen wash pump, discharge", "marta", "", 5.9, fresh, 0, plan.Input{}, tale{}},
		{deck, "RK / WASH STRAINER", "Screen wash strainer", "marta", "", 5.9, fresh, 0, plan.Input{}, tale{}},
	}
}
