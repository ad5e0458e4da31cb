package demo

import (
	"maps"

	"dynacor/core/joint"
	"dynacor/core/stay"
	"dynacor/core/unit"
)

const ofFlanges = "gasketed-flange"

func mm(v float64) unit.Quantity { return unit.Of(v, unit.Millimetre) }
func nm(v float64) unit.Quantity { return unit.Of(v, unit.NewtonMetre) }

// edit changes what a draft has beside the sheet.
type edit = func(*joint.Input)

// flange is a ring as it is usually made; the rest is set by edits. Lengths are
// in mm.
func flange(n int, thread, grade string, circle, outer, inner float64, edits ...edit) edit {
	return func(in *joint.Input) {
		in.Choices = is{"work": "make", "gasket": "sheet", "faces": "raised", "bolts": "studs with two nuts"}
		maps.Copy(in.Values, map[string]joint.Given{"bolt circle": {Value: mm(circle)}, "gasket outer": {Value: mm(outer)},
			"gasket inner": {Value: mm(inner)}, "gasket thickness": {Value: mm(2)}, "gap limit": {Value: mm(0.8)},
			"test pressure": {Value: unit.Of(16, unit.Bar)}, "test time": {Value: unit.Of(10, "")},
			"test drop": {Value: unit.Of(0.2, unit.Bar)}})
		in.Groups["bolts"] = joint.Bolts{Count: n, Thread: thread, Grade: grade}
		for _, e := range edits {
			e(in)
		}
	}
}

func theBolts(change func(*joint.Bolts)) edit { return bolts("bolts", change) }

func torque(v float64, lubricant string) edit {
	return func(in *joint.Input) {
		in.Values["torque"] = joint.Given{Value: nm(v)}
		theBolts(func(b *joint.Bolts) { b.SpecifiedFor, b.Lubrication = lubricant, lubricant })(in)
	}
}

func footPounds(v float64, lubricant string) edit {
	return func(in *joint.Input) {
		torque(v, lubricant)(in)
		in.Values["torque"] = joint.Given{Value: unit.Of(v, unit.FootPound)}
	}
}

func between(low, high float64, lubricant string) edit {
	return func(in *joint.Input) {
		torque(low, lubricant)(in)
		in.Values["torque"] = joint.Given{Value: nm(low), Max: nm(high)}
	}
}

func share(p float64, of joint.Basis, lubricant string) edit {
	return theBolts(func(b *joint.Bolts) { b.Share, b.ShareOf, b.Lubrication = p, of, lubricant })
}

func lubricant(name string, d joint.Decision) edit {
	return theBolts(func(b *joint.Bolts) { b.Lubrication, b.Decision = name, d })
}

// bar is the pressure in service.
func bar(v float64) edit {
	return func(in *joint.Input) { in.Values["pressure"] = joint.Given{Value: unit.Of(v, unit.Bar)} }
}

// stays is what is known of the meter run beyond the pull.
func stays(in *joint.Input) {
	theBolts(func(b *joint.Bolts) {
		b.Clamp = joint.Clamp{Length: mm(78), TwoNuts: true, Parts: "steel"}
		b.Stay = joint.Stay{Finish: stay.Usual, Faces: 2, BoltsWarmer: 20, PartsWarmer: 35, Axial: unit.Of(12, unit.Kilonewton),
			Enters: 0.5}
	})(in)
}

func gasket(kind string) edit { return func(in *joint.Input) { in.Choices["gasket"] = kind } }

func stages(name string) edit { return theBolts(func(b *joint.Bolts) { b.Stages = name }) }

func machineBolts(in *joint.Input) { in.Choices["bolts"] = "machine bolts" }

func inches(circle, outer, inner float64) edit {
	return func(in *joint.Input) {
		for name, v := range map[string]float64{"bolt circle": circle, "gasket outer": outer, "gasket inner": inner} {
			in.Values[name] = joint.Given{Value: unit.Of(v, unit.Inch)}
		}
	}
}

const (
	moly   = "molybdenum disulphide paste"
	oil    = "light oil"
	nickel = "nickel anti-seize"
	copper = "copper anti-seize"
	dry    = "dry, plain as received"
)

// flanges are the gasketed flanges of the outage.
func flanges() []story {
	const gallery, pit, deck = "Penstock gallery", "Turbine pit", "Rake deck"
	spiral, sheet, soft := gasket("spiral"), gasket("sheet"), gasket("soft")
	return []story{
		{area: gallery, tag: "PS-1 / MANWAY", title: "Penstock manway cover", fitter: "jonas", checker: "ines", begun: 0.4, upTo: signed,
			edit: flange(20, "M30", "8.8", 760, 690, 650, torque(820, moly), spiral, bar(12), stages("30-70-100")),
			tell: tale{correction: 7}},
		{area: gallery, tag: "PS-1 / DRAIN", title: "Penstock drain flange", fitter: "marta", checker: "ines", begun: 1.3, upTo: proving,
			edit: flange(8, "M20", "8.8", 240, 205, 160, torque(240, oil), bar(12))},
		{area: gallery, tag: "IV-2 / BONNET", title: "Inlet valve bonnet", fitter: "marta", checker: "ines", begun: 5.2, upTo: pulling,
			share: 0.675, edit: flange(16, "M30", "8.8", 560, 475, 420, torque(980, oil), lubricant(moly, joint.TakeEquivalent), spiral,
				bar(5),
				stages("30-60-100"))},
		{area: gallery, tag: "IV-2 / BYPASS", title: "Inlet valve bypass", fitter: "marta", begun: 5.3, upTo: tooled,
			edit: flange(4, "M16", "8.8", 125, 102, 61, torque(125, oil), bar(12))},
		{area: gallery, tag: "IV-2 / VENT", title: "Air vent flange", fitter: "piet", checker: "haro", begun: 2.2, upTo: signed,
			edit: flange(4, "5/8-11 UNC", "grade 5", 120.65, 100, 60, footPounds(88, oil), inches(4.75, 3.9, 2.4), machineBolts),
			tell: tale{then: &story{work: "loosen", fitter: "piet", checker: "haro", upTo: signed,
				tell: tale{because: "The vent valve behind it is changed.", then: &story{work: "make", fitter: "piet", checker: "haro",
					upTo: signed, tell: tale{because: "Made anew, new gasket."}}}}}},
		{area: gallery, tag: "PS-1 / METER RUN", title: "Flow meter run, upstream", fitter: "sefa", begun: 5.6, upTo: draft,
			edit: flange(12, "7/8-9 UNC", "B7", 362, 318, 262, footPounds(300, nickel), inches(14.25, 12.4, 10.2), bar(6), stays)},

		{area: pit, tag: "U2 / HEAD COVER", title: "Turbine head cover, sector drain ring", fitter: "sefa", checker: "haro", begun: 3.1,
			upTo: pulling, share: 0.38, edit: flange(40, "M24", "8.8", 1980, 1890, 1840, share(0.55, joint.OfYield, moly), sheet, bar(1)),
			tell: tale{trouble: 9}},
		{area: pit, tag: "U2 / SHAFT SEAL", title: "Shaft seal housing", fitter: "jonas", begun: 5.7, upTo: issuedOnly,
			edit: flange(12, "M16", "A4-70", 420, 380, 330, torque(80, "stainless, anti-seize"), machineBolts, soft)},
		{area: pit, tag: "U2 / DRAFT HATCH", title: "Draft tube inspection hatch", fitter: "piet", checker: "ines", begun: 4.2,
			upTo: checking, share: 0.4, edit: flange(24, "M24", "8.8", 980, 905, 850, torque(470, moly), sheet, bar(2)),
			tell: tale{moved: 14}},
		{area: pit, tag: "U2 / GUIDE BEARING", title: "Guide bearing oil pot", with: droppedTool, fitter: "sefa", checker: "ines",
			begun: 2.0, upTo: signed,
			edit: flange(14, "M12", "8.8", 610, 580, 548, between(48, 60, oil), machineBolts, soft), tell: tale{trouble: 5,
				farReading: 11}},
		{area: pit, tag: "U2 / COOLER IN", title: "Bearing cooler inlet", fitter: "piet", checker: "haro", begun: 3.4, upTo: signing,
			edit: flange(8, "3/4-10 UNC", "B7", 241.3, 212, 168, footPounds(150, copper), inches(9.5, 8.4, 6.6))},
		{area: pit, tag: "U2 / COOLER OUT", title: "Bearing cooler outlet", fitter: "piet", checker: "haro", begun: 3.5, upTo: signed,
			edit: flange(8, "3/4-10 UNC", "B7", 241.3, 212, 168, footPounds(150, copper), inches(9.5, 8.4, 6.6)),
			tell: tale{outside: map[string][]float64{"gap": {2.1, 3.2, 2.1, 2.2}}, then: &story{work: "re-torque", fitter: "piet",
				checker: "haro", upTo: signed, tell: tale{because: "Turned to its torque again, 20 h after it was made.", moved: 3}}}},

		{area: deck, tag: "RK / HYD TANK", title: "Rake hydraulic tank cover", fitter: "jonas", checker: "ines", begun: 2.6, upTo: signed,
			edit: flange(18, "M10", "8.8", 520, 490, 455, torque(32, oil), machineBolts, soft), tell: tale{then: &story{work: "re-torque",
				fitter: "jonas", checker: "ines", upTo: pulling, share: 0.5,
				tell: tale{because: "The soft gasket creeps: turned to its torque again.", moved: 4}}}},
		{area: deck, tag: "RK / COOLER", title: "Rake oil cooler, blank end", fitter: "jonas", begun: 5.5, upTo: draft,
			edit: flange(8, "M16", "8.8", 210, 180, 140, torque(140, dry), lubricant(oil, joint.Undecided))},
		{area: deck, tag: "RK / WASH HEADER", title: "Screen wash header", fitter: "marta", checker: "ines", begun: 4.6, upTo: pulling,
			share: 0.7, edit: flange(8, "M16", "8.8", 180, 158, 115, between(110, 130, oil), sheet), tell: tale{paused: true}},
		{area: deck, tag: "RK / FEED HEADER", title: "Screen feed header", linked: "EW-1", fitter: "tomas", checker: "ines", begun: 4.9,
			upTo: pulling, share: 0.88, edit: flange(8, "M20", "8.8", 240, 205, 160, torque(240, oil), bar(6))},
		{area: deck, tag: "RK / GATE JACK", title: "Gate jack flange", fitter: "jonas", checker: "haro", begun: 3.8, upTo: stopped,
			edit: flange(9, "M20", "10.9", 300, 262, 220, share(0.6, joint.OfProof, moly), sheet)},
		{area: deck, tag: "RK / WASH PUMP", title: "Screen wash pump, discharge", fitter: "marta", begun: 5.9, upTo: fresh},
		{area: deck, tag: "RK / WASH STRAINER", title: "Screen wash strainer", fitter: "marta", begun: 5.9, upTo: fresh},
	}
}
