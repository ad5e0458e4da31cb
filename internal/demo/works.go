package demo

import (
	"dynacor/core/joint"
	"dynacor/core/sequence"
	"dynacor/core/unit"
)

// bolts changes what is known of one group.
func bolts(group string, edit func(*joint.Bolts)) func(*joint.Input) {
	return func(in *joint.Input) {
		b := in.Groups[group]
		edit(&b)
		in.Groups[group] = b
	}
}

type is = map[string]string
type count = map[string]int

// works are the joints of the outage that are no gasketed flanges.
func works() []story {
	const gallery, pit, governor, deck, ways = "Penstock gallery", "Turbine pit", "Governor platform", "Rake deck", "Access ways"
	steel, shoulder := is{"work": "fit", "shaft": "with a shoulder", "material": "steel"}, is{"work": "fit", "shaft": "without a shoulder",
		"material": "steel"}
	stainless := is{"work": "fit", "shaft": "with a shoulder", "material": "stainless"}
	fit, off := is{"work": "fit"}, is{"work": "draw off"}
	return []story{
		{area: deck, tag: "RK / GEARBOX DISC", title: "Rake drive gearbox, clamping disc", recipe: "clamping-disc", size: "75",
			choices: shoulder, fitter: "marta", checker: "ines", begun: 5.1, upTo: pulling, share: 3.5},
		{area: deck, tag: "RK / WINCH DISC", title: "Rake winch, clamping disc", recipe: "clamping-disc", size: "110", choices: steel,
			fitter: "jonas", checker: "haro", begun: 2.4, upTo: signed},
		{area: deck, tag: "RK / CONVEYOR DISC", title: "Trash conveyor drive, clamping disc", recipe: "clamping-disc", size: "50",
			choices: stainless, fitter: "piet", checker: "ines", begun: 4.4, upTo: proving},
		{area: pit, tag: "U2 / JACKING DISC", title: "Rotor jacking drive, clamping disc", recipe: "clamping-disc", size: "75",
			choices: steel, fitter: "marta", begun: 5.6, upTo: draft, tell: tale{edit: bolts("disc screws",
				func(b *joint.Bolts) { b.Order = sequence.Star })}},

		{area: deck, tag: "RK / HEAD PULLEY", title: "Rake belt, head pulley hub", recipe: "taper-bush", size: "40", choices: fit,
			fitter: "marta", checker: "ines", begun: 1.1, upTo: signed, tell: tale{moved: 2}},
		{area: deck, tag: "RK / TAIL PULLEY", title: "Rake belt, tail pulley hub", recipe: "taper-bush", size: "40", choices: fit,
			fitter: "jonas", checker: "haro", begun: 1.4, upTo: signed, tell: tale{then: &story{recipe: "taper-bush", size: "40",
				choices: off, fitter: "jonas", checker: "haro", upTo: signed, tell: tale{because: "The bearing behind it is changed.",
					then: &story{recipe: "taper-bush", size: "40", choices: fit, fitter: "jonas", checker: "haro", upTo: signed,
						tell: tale{because: "Made anew on the new bearing.", moved: 1}}}}}},
		{area: pit, tag: "U2 / FAN HUB", title: "Cooling fan, taper hub", recipe: "taper-bush", size: "28", choices: off, fitter: "sefa",
			begun: 5.4, upTo: pulling, share: 0.5},
		{area: governor, tag: "GOV / OIL PUMP HUB", title: "Governor oil pump, coupling hub", recipe: "taper-bush", size: "60",
			choices: fit, fitter: "piet", checker: "ines", begun: 4.9, upTo: pulling, share: 0.7, tell: tale{paused: true}},

		{area: deck, tag: "RK / WASH HOSE 1", title: "Screen wash hose, male spigot", recipe: "hose-clamp", size: "50",
			choices: is{"spigot": "male", "clamp": "small"}, fitter: "marta", checker: "ines", begun: 0.8, upTo: signed},
		{area: deck, tag: "RK / WASH HOSE 2", title: "Screen wash hose, swivel", recipe: "hose-clamp", size: "50",
			choices: is{"spigot": "female", "clamp": "small"}, fitter: "marta", checker: "haro", begun: 1.0, upTo: signed},
		{area: gallery, tag: "PS-1 / DEWATER HOSE", title: "Dewatering hose", recipe: "hose-clamp", size: "75",
			choices: is{"spigot": "male", "clamp": "with fingers"}, fitter: "jonas", checker: "ines", begun: 5.0, upTo: pulling,
			share: 1.5},
		{area: pit, tag: "U2 / SUMP HOSE", title: "Sump pump hose", recipe: "hose-clamp", size: "75",
			choices: is{"spigot": "male", "clamp": "with fingers"}, fitter: "sefa", begun: 5.5, upTo: draft,
			tell: tale{edit: bolts("nuts", func(b *joint.Bolts) { b.Lubrication = moly })}},

		{area: gallery, tag: "CW / OUTLET 1", title: "Cooling water, drilled outlet", recipe: "split-clamp-outlet", size: "114 x 33",
			with:   droppedTool,
			fitter: "sefa", checker: "haro", begun: 1.2, upTo: signed},
		{area: gallery, tag: "CW / OUTLET 2", title: "Cooling water, drilled outlet", recipe: "split-clamp-outlet", size: "168 x 60",
			fitter: "sefa", checker: "ines", begun: 4.7, upTo: signing, before: "leak"},
		{area: gallery, tag: "PS-1 / METER SADDLE", title: "Penstock flow sensor saddle", recipe: "instrument-saddle", size: "200",
			fitter: "jonas", checker: "ines", begun: 3.6, upTo: signed},
		{area: gallery, tag: "CW / TEMP SADDLE", title: "Cooling water temperature saddle", recipe: "instrument-saddle", size: "100",
			fitter: "jonas", begun: 5.2, upTo: issuedOnly},

		{area: governor, tag: "GOV / SELECTOR VALVE", title: "Governor oil, selector valve", recipe: "ball-valve", size: "50",
			choices: is{"ports": "four"}, fitter: "marta", checker: "ines", begun: 4.8, upTo: pulling, share: 0.45},
		{area: governor, tag: "GOV / DRAIN VALVE", title: "Governor tank, three-way valve", recipe: "ball-valve", size: "25",
			choices: is{"ports": "three"}, fitter: "piet", checker: "haro", begun: 2.2, upTo: signed,
			tell: tale{tries: map[string][]float64{"gland": {9.6, 18.4}}}},
		{area: pit, tag: "CW / THREE-WAY", title: "Cooling water, three-way valve", recipe: "ball-valve", size: "80",
			choices: is{"ports": "three"}, fitter: "sefa", begun: 5.6, upTo: issuedOnly},

		{area: deck, tag: "RK / FLUID COUPLING", title: "Rake drive, fluid coupling", recipe: "fluid-coupling", size: "420",
			choices: is{"base": "aluminium", "floating ring": "no", "bolt heads": "toward the motor"}, fitter: "piet", checker: "haro",
			begun: 4.3, upTo: signing, before: "trued"},
		{area: deck, tag: "RK / CONVEYOR COUPLING", title: "Trash conveyor, fluid coupling", recipe: "fluid-coupling", size: "560",
			choices: is{"base": "steel", "floating ring": "yes", "bolt heads": "toward the machine"}, fitter: "jonas", checker: "ines",
			begun: 1.9, upTo: signed, tell: tale{trouble: 3}},

		{area: deck, tag: "RK / SLEW REDUCER", title: "Rake slew drive, reducer cover", recipe: "gear-reducer", size: "40", fitter: "sefa",
			checker: "haro", begun: 2.8, upTo: signed},
		{area: governor, tag: "GOV / GATE REDUCER", title: "Gate drive reducer", recipe: "gear-reducer", size: "25", fitter: "marta",
			checker: "ines", begun: 5.3, upTo: preparing, share: 0.3},

		{area: governor, tag: "GOV / ACCUMULATOR 1", title: "Governor accumulator, left", recipe: "accumulator", size: "50",
			choices: is{"charge": "working"}, fitter: "piet", checker: "tomas", begun: 3.0, upTo: signed},
		{area: governor, tag: "GOV / ACCUMULATOR 2", title: "Governor accumulator, right", recipe: "accumulator", size: "50",
			choices: is{"charge": "working"}, fitter: "piet", checker: "ines", begun: 5.1, upTo: signing, before: "seals"},
		{area: deck, tag: "RK / ACCUMULATOR", title: "Rake hydraulics, accumulator", recipe: "accumulator", size: "10",
			choices: is{"charge": "working"}, fitter: "jonas", begun: 5.5, upTo: issuedOnly},

		{area: governor, tag: "GOV / TUBE 12-1", title: "Pilot oil line, first fitting", recipe: "tube-fitting", size: "12",
			choices: is{"way": "in a block first", "gap gauge": "no"}, fitter: "marta", checker: "ines", begun: 0.9, upTo: signed},
		{area: governor, tag: "GOV / TUBE 12-2", title: "Pilot oil line, second fitting", recipe: "tube-fitting", size: "12",
			choices: is{"way": "in a block first", "gap gauge": "no"}, fitter: "marta", checker: "ines", begun: 0.95, upTo: signed},
		{area: governor, tag: "GOV / TUBE 6-1", title: "Gauge line, fitting", recipe: "tube-fitting", size: "6",
			choices: is{"way": "in the body at once", "gap gauge": "no"}, fitter: "sefa", checker: "haro", begun: 5.4, upTo: pulling,
			share: 0.5},
		{area: pit, tag: "U2 / TUBE 10-1", title: "Bearing drain line, fitting", recipe: "tube-fitting", size: "10",
			choices: is{"way": "in a block first", "gap gauge": "no"}, fitter: "piet", checker: "haro", begun: 3.9, upTo: signing},

		{area: gallery, tag: "FW / JOINT 14", title: "Fire water main, joint 14", recipe: "push-fit", size: "200",
			choices: is{"weather": "mild"}, fitter: "sefa", checker: "ines", begun: 1.6, upTo: signed},
		{area: gallery, tag: "FW / JOINT 15", title: "Fire water main, joint 15", recipe: "push-fit", size: "200",
			choices: is{"weather": "frost"}, fitter: "sefa", checker: "ines", begun: 1.8, upTo: signed,
			tell: tale{outside: map[string][]float64{"bend": {150, 6000}}}},
		{area: gallery, tag: "FW / JOINT 16", title: "Fire water main, joint 16", recipe: "push-fit", size: "300",
			choices: is{"weather": "frost"}, fitter: "sefa", begun: 5.3, upTo: preparing, share: 0.4},

		{area: ways, tag: "AW / STAIR 3", title: "Stair 3, frame bolts", recipe: "bolted-frame", size: "S",
			choices: is{"material": "steel"}, counts: count{"frame bolts, M10": 16}, fitter: "jonas", checker: "haro", begun: 2.1, upTo: signed},
		{area: ways, tag: "AW / PLATFORM 5", title: "Inspection platform 5", recipe: "bolted-frame", size: "S",
			choices: is{"material": "aluminium"}, counts: count{"frame bolts, M8": 20}, fitter: "jonas", checker: "ines", begun: 4.6,
			upTo: proving},
		{area: ways, tag: "AW / CRANE SPLICE", title: "Crane rail splice", recipe: "structural-splice", size: "M20",
			choices: is{"method": "part turn", "faces": "both square"}, counts: count{"splice bolts": 12}, fitter: "tomas", checker: "haro",
			begun: 4.1, upTo: pulling, share: 0.65, tell: tale{edit: func(in *joint.Input) {
				in.Values["bolt length"] = joint.Given{Value: mm(75)}
				bolts("splice bolts", func(b *joint.Bolts) { b.Rows, b.Across, b.Down = 2, mm(70), mm(110) })(in)
			}}},
		{area: ways, tag: "AW / BEAM SPLICE", title: "Monorail beam splice", recipe: "structural-splice", size: "M20",
			choices: is{"method": "calibrated torque", "faces": "both square"}, counts: count{"splice bolts": 16}, fitter: "marta",
			checker: "haro", begun: 2.9, upTo: signed, tell: tale{edit: func(in *joint.Input) {
				in.Values["lot K"] = joint.Given{Value: unit.Of(0.124, ""), Max: unit.Of(0.138, "")}
			}}},
		{area: ways, tag: "AW / FOOT ANCHORS", title: "Stair 3, foot anchors", with: droppedTool, recipe: "anchors", size: "M16",
			choices: is{"anchor": "bonded"}, counts: count{"anchors": 6}, fitter: "jonas", checker: "ines", begun: 0.6, upTo: signed},
		{area: ways, tag: "AW / DAVIT ANCHORS", title: "Davit base, anchors", recipe: "anchors", size: "M16",
			choices: is{"anchor": "expansion"}, counts: count{"anchors": 8}, fitter: "marta", begun: 5.2, upTo: tooled},
		{area: ways, tag: "AW / RAIL ANCHORS", title: "Handrail posts, anchors", recipe: "anchors", size: "M12",
			choices: is{"anchor": "expansion"}, counts: count{"anchors": 4}, fitter: "sefa", checker: "haro", begun: 1.3, upTo: signed,
			tell: tale{skipped: map[string]string{"level": "The post is set level after grouting; see AW / STAIR 3."}}},

		{area: deck, tag: "RK / PIPE FRAME 1", title: "Rake guide pipes, transport frame 1", recipe: "transport-frame", size: "8",
			fitter: "jonas", checker: "haro", begun: 3.3, upTo: signed},
		{area: deck, tag: "RK / PIPE FRAME 2", title: "Rake guide pipes, transport frame 2", recipe: "transport-frame", size: "12",
			fitter: "piet", checker: "haro", begun: 4.9, upTo: pulling, share: 0.6},
		{area: deck, tag: "RK / PIPE FRAME 3", title: "Rake guide pipes, transport frame 3", recipe: "transport-frame", size: "8",
			fitter: "jonas", begun: 5.6, upTo: issuedOnly},

		{area: pit, tag: "U2 / SERVO BONNET", title: "Servomotor bonnet", recipe: "closure", size: "180",
			choices: is{"tightened": "torque"}, fitter: "piet", checker: "ines", begun: 4.5, upTo: signing,
			before: "function, its release"},
		{area: pit, tag: "U2 / SERVO END", title: "Servomotor end closure", recipe: "closure", size: "180",
			choices: is{"tightened": "tensioner"}, fitter: "piet", checker: "ines", begun: 3.2, upTo: signed},
		{area: pit, tag: "U2 / SERVO TOP", title: "Servomotor top closure", recipe: "closure", size: "180",
			choices: is{"tightened": "tensioner"}, fitter: "piet", checker: "ines", begun: 4.7, upTo: signing, before: "draw-second"},

		{area: deck, tag: "RK / CUTTER NUT", title: "Trash cutter, rotor nut", recipe: "large-nut", size: "M48", fitter: "marta",
			checker: "haro", begun: 2.7, upTo: signed},
		{area: pit, tag: "U2 / FAN NUT", title: "Generator fan, rotor nut", recipe: "large-nut", size: "M36", fitter: "sefa", begun: 5.5,
			upTo: tooled},
		{area: ways, tag: "AW / TRAILER WHEEL L", title: "Rake trailer, left wheel", recipe: "wheel-nuts", size: "5", choices: fit,
			fitter: "jonas", checker: "ines", begun: 0.7, upTo: signed, tell: tale{moved: 2}},
		{area: ways, tag: "AW / TRAILER WHEEL R", title: "Rake trailer, right wheel", recipe: "wheel-nuts", size: "5", choices: fit,
			fitter: "jonas", checker: "ines", begun: 0.75, upTo: signed, tell: tale{then: &story{recipe: "wheel-nuts", size: "5",
				choices: is{"work": "re-check"}, fitter: "jonas", checker: "ines", upTo: signed,
				tell: tale{because: "Gone over after its first 50 km.", moved: 3}}}},
		{area: ways, tag: "AW / HOIST WHEEL", title: "Mobile hoist, wheel", recipe: "wheel-nuts", size: "10", choices: fit, fitter: "marta",
			checker: "haro", begun: 5.0, upTo: pulling, share: 0.6},

		{area: pit, tag: "U2 / HEAD COVER NUTS", title: "Turbine head cover, main nuts", recipe: "hydraulic-wrench", size: "M36",
			choices: is{"work": "loosen"}, fitter: "piet", checker: "haro", begun: 3.7, upTo: pulling, share: 0.45},
		{area: gallery, tag: "PS-1 / VALVE FLANGE", title: "Penstock valve, main flange", recipe: "hydraulic-wrench", size: "M36",
			choices: is{"work": "loosen"}, fitter: "piet", checker: "haro", begun: 0.5, upTo: signed,
			tell: tale{then: &story{recipe: "hydraulic-wrench", size: "M36", choices: is{"work": "tighten"}, fitter: "piet",
				checker: "haro", upTo: pulling, share: 0.5, tell: tale{because: "Made anew with a new gasket."}}}},
		{area: governor, tag: "GOV / PIPE HANGER", title: "Governor pipe hanger, anchors", recipe: "anchors", size: "M12",
			choices: is{"anchor": "bonded"}, counts: count{"anchors": 4}, fitter: "sefa", begun: 5.8, upTo: draft,
			tell: tale{edit: bolts("anchors", func(b *joint.Bolts) {
				b.SpecifiedFor, b.Lubrication, b.Decision = oil, dry,
					joint.Undecided
			})}},
		{area: pit, tag: "TW-04 / TRIAL", title: "Click wrench 60 to 340, tried before use", recipe: "torque-wrench", size: "60 to 340",
			fitter: "sefa", checker: "ines", begun: 2.3, upTo: signed},
		{area: governor, tag: "GOV / SIGHT GLASS", title: "Governor tank, sight glass tube", recipe: "tube-fitting", fitter: "marta",
			begun: 5.9, upTo: fresh},
	}
}
