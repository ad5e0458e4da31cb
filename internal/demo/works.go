package demo

import (
	"dynacor/core/job"
	"dynacor/core/plan"
	"dynacor/core/sequence"
	"dynacor/core/unit"
)

// bolts changes what is known of one group.
func bolts(group string, edit func(*job.Bolts)) func(*job.Input) {
	return func(in *job.Input) {
		b := in.Groups[group]
		edit(&b)
		in.Groups[group] = b
	}
}

type is = map[string]string
type count = map[string]int

// works are the joints of the outage that are no gasketed flanges.
func works() []led {
	const gallery, pit, governor, deck, ways = "Penstock gallery", "Turbine pit", "Governor platform", "Rake deck", "Access ways"
	steel, shoulder := is{"work": "fit", "shaft": "with a shoulder", "material": "steel"}, is{"work": "fit", "shaft": "without a shoulder", "material": "steel"}
	stainless := is{"work": "fit", "shaft": "with a shoulder", "material": "stainless"}
	fit, off := is{"work": "fit"}, is{"work": "draw off"}
	return []led{
		{deck, "RK / GEARBOX DISC", "Rake drive gearbox, clamping disc", "clamping-disc", "HD", "75", shoulder, nil, "marta", "ines", 5.1, pulling, 3.5, ledTale{}},
		{deck, "RK / WINCH DISC", "Rake winch, clamping disc", "clamping-disc", "HD", "110", steel, nil, "jonas", "haro", 2.4, signed, 1, ledTale{}},
		{deck, "RK / CONVEYOR DISC", "Trash conveyor drive, clamping disc", "clamping-disc", "HD", "50", stainless, nil, "piet", "ines", 4.4, proving, 1, ledTale{}},
		{pit, "U2 / JACKING DISC", "Rotor jacking drive, clamping disc", "clamping-disc", "HD", "75", steel, nil, "marta", "", 5.6, draft, 1,
			ledTale{edit: bolts("disc screws", func(b *job.Bolts) { b.Order = sequence.Star })}},

		{deck, "RK / HEAD PULLEY", "Rake belt, head pulley hub", "taper-bush", "TB", "40", fit, nil, "marta", "ines", 1.1, signed, 1, ledTale{moved: 2}},
		{deck, "RK / TAIL PULLEY", "Rake belt, tail pulley hub", "taper-bush", "TB", "40", fit, nil, "jonas", "haro", 1.4, signed, 1,
			ledTale{then: &led{recipe: "taper-bush", kind: "TB", size: "40", choices: off, fitter: "jonas", checker: "haro", upTo: signed,
				tell: ledTale{because: "The bearing behind it is changed.", then: &led{recipe: "taper-bush", kind: "TB", size: "40", choices: fit, fitter: "jonas", checker: "haro", upTo: signed, tell: ledTale{because: "Made anew on the new bearing.", moved: 1}}}}}},
		{pit, "U2 / FAN HUB", "Cooling fan, taper hub", "taper-bush", "TB", "28", off, nil, "sefa", "", 5.4, pulling, 0.5, ledTale{}},
		{governor, "GOV / OIL PUMP HUB", "Governor oil pump, coupling hub", "taper-bush", "TB", "60", fit, nil, "piet", "ines", 4.9, pulling, 0.7, ledTale{paused: true}},

		{deck, "RK / WASH HOSE 1", "Screen wash hose, male spigot", "hose-clamp", "HC", "50", is{"spigot": "male", "clamp": "small"}, nil, "marta", "ines", 0.8, signed, 1, ledTale{}},
		{deck, "RK / WASH HOSE 2", "Screen wash hose, swivel", "hose-clamp", "HC", "50", is{"spigot": "female", "clamp": "small"}, nil, "marta", "haro", 1.0, signed, 1, ledTale{}},
		{gallery, "PS-1 / DEWATER HOSE", "Dewatering hose", "hose-clamp", "HC", "75", is{"spigot": "male", "clamp": "with fingers"}, nil, "jonas", "ines", 5.0, pulling, 1.5, ledTale{}},
		{pit, "U2 / SUMP HOSE", "Sump pump hose", "hose-clamp", "HC", "75", is{"spigot": "male", "clamp": "with fingers"}, nil, "sefa", "", 5.5, draft, 1,
			ledTale{edit: bolts("nuts", func(b *job.Bolts) { b.Lubrication = moly })}},

		{gallery, "CW / OUTLET 1", "Cooling water, drilled outlet", "split-clamp-outlet", "OC", "114 x 33", nil, nil, "sefa", "haro", 1.2, signed, 1, ledTale{}},
		{gallery, "CW / OUTLET 2", "Cooling water, drilled outlet", "split-clamp-outlet", "OC", "168 x 60", nil, nil, "sefa", "ines", 4.7, proving, 1, ledTale{}},
		{gallery, "PS-1 / METER SADDLE", "Penstock flow sensor saddle", "instrument-saddle", "IS", "200", nil, nil, "jonas", "ines", 3.6, signed, 1, ledTale{}},
		{gallery, "CW / TEMP SADDLE", "Cooling water temperature saddle", "instrument-saddle", "IS", "100", nil, nil, "jonas", "", 5.2, issuedOnly, 1, ledTale{}},

		{governor, "GOV / SELECTOR VALVE", "Governor oil, selector valve", "ball-valve", "BV", "50", is{"ports": "four"}, nil, "marta", "ines", 4.8, pulling, 0.45, ledTale{}},
		{governor, "GOV / DRAIN VALVE", "Governor tank, three-way valve", "ball-valve", "BV", "25", is{"ports": "three"}, nil, "piet", "haro", 2.2, signed, 1, ledTale{tries: map[string][]float64{"gland": {9.6, 18.4}}}},
		{pit, "CW / THREE-WAY", "Cooling water, three-way valve", "ball-valve", "BV", "80", is{"ports": "three"}, nil, "sefa", "", 5.6, issuedOnly, 1, ledTale{}},

		{deck, "RK / FLUID COUPLING", "Rake drive, fluid coupling", "fluid-coupling", "FC", "420", is{"base": "aluminium", "floating ring": "no", "bolt heads": "toward the motor"}, nil, "piet", "haro", 4.3, pulling, 0.55, ledTale{}},
		{deck, "RK / CONVEYOR COUPLING", "Trash conveyor, fluid coupling", "fluid-coupling", "FC", "560", is{"base": "steel", "floating ring": "yes", "bolt heads": "toward the machine"}, nil, "jonas", "ines", 1.9, signed, 1, ledTale{trouble: 3}},

		{deck, "RK / SLEW REDUCER", "Rake slew drive, reducer cover", "gear-reducer", "GR", "40", nil, nil, "sefa", "haro", 2.8, signed, 1, ledTale{}},
		{governor, "GOV / GATE REDUCER", "Gate drive reducer", "gear-reducer", "GR", "25", nil, nil, "marta", "ines", 5.3, preparing, 0.3, ledTale{}},

		{governor, "GOV / ACCUMULATOR 1", "Governor accumulator, left", "accumulator", "BA", "50", is{"charge": "working"}, nil, "piet", "tomas", 3.0, signed, 1, ledTale{}},
		{governor, "GOV / ACCUMULATOR 2", "Governor accumulator, right", "accumulator", "BA", "50", is{"charge": "working"}, nil, "piet", "ines", 5.1, proving, 1, ledTale{}},
		{deck, "RK / ACCUMULATOR", "Rake hydraulics, accumulator", "accumulator", "BA", "10", is{"charge": "working"}, nil, "jonas", "", 5.5, issuedOnly, 1, ledTale{}},

		{governor, "GOV / TUBE 12-1", "Pilot oil line, first fitting", "tube-fitting", "TF", "12", is{"way": "in a block first", "gap gauge": "no"}, nil, "marta", "ines", 0.9, signed, 1, ledTale{}},
		{governor, "GOV / TUBE 12-2", "Pilot oil line, second fitting", "tube-fitting", "TF", "12", is{"way": "in a block first", "gap gauge": "no"}, nil, "marta", "ines", 0.95, signed, 1, ledTale{}},
		{governor, "GOV / TUBE 6-1", "Gauge line, fitting", "tube-fitting", "TF", "6", is{"way": "in the body at once", "gap gauge": "no"}, nil, "sefa", "haro", 5.4, pulling, 0.5, ledTale{}},
		{pit, "U2 / TUBE 10-1", "Bearing drain line, fitting", "tube-fitting", "TF", "10", is{"way": "in a block first", "gap gauge": "no"}, nil, "piet", "haro", 3.9, signing, 1, ledTale{}},

		{gallery, "FW / JOINT 14", "Fire water main, joint 14", "push-fit", "PF", "200", is{"weather": "mild"}, nil, "sefa", "ines", 1.6, signed, 1, ledTale{}},
		{gallery, "FW / JOINT 15", "Fire water main, joint 15", "push-fit", "PF", "200", is{"weather": "frost"}, nil, "sefa", "ines", 1.8, signed, 1, ledTale{outside: map[string][]float64{"bend": {0.6}}}},
		{gallery, "FW / JOINT 16", "Fire water main, joint 16", "push-fit", "PF", "300", is{"weather": "frost"}, nil, "sefa", "", 5.3, preparing, 0.4, ledTale{}},

		{ways, "AW / STAIR 3", "Stair 3, frame bolts", "bolted-frame", "BF", "M12", is{"material": "steel"}, count{"frame bolts": 24}, "jonas", "haro", 2.1, signed, 1, ledTale{}},
		{ways, "AW / PLATFORM 5", "Inspection platform 5", "bolted-frame", "BF", "M10", is{"material": "aluminium"}, count{"frame bolts": 30}, "jonas", "ines", 4.6, proving, 1, ledTale{}},
		{ways, "AW / CRANE SPLICE", "Crane rail splice", "structural-splice", "SP", "M20, 40 to 80 mm", is{"method": "part turn", "faces": "both square"}, count{"splice bolts": 12}, "tomas", "haro", 4.1, pulling, 0.65,
			ledTale{edit: bolts("splice bolts", func(b *job.Bolts) { b.Rows, b.Across, b.Down = 2, mm(70), mm(110) })}},
		{ways, "AW / BEAM SPLICE", "Monorail beam splice", "structural-splice", "SP", "M20, 81 to 119 mm", is{"method": "calibrated torque", "faces": "both square"}, count{"splice bolts": 16}, "marta", "haro", 2.9, signed, 1, ledTale{}},
		{ways, "AW / FOOT ANCHORS", "Stair 3, foot anchors", "anchors", "AB", "M16", is{"anchor": "bonded"}, count{"anchors": 6}, "jonas", "ines", 0.6, signed, 1, ledTale{}},
		{ways, "AW / DAVIT ANCHORS", "Davit base, anchors", "anchors", "AB", "M16", is{"anchor": "expansion"}, count{"anchors": 8}, "marta", "", 5.2, tooled, 1, ledTale{}},
		{ways, "AW / RAIL ANCHORS", "Handrail posts, anchors", "anchors", "AB", "M12", is{"anchor": "expansion"}, count{"anchors": 4}, "sefa", "haro", 1.3, signed, 1, ledTale{skipped: map[string]string{"level": "The post is set level after grouting; see AW / STAIR 3."}}},

		{deck, "RK / PIPE FRAME 1", "Rake guide pipes, transport frame 1", "transport-frame", "TR", "8", nil, nil, "jonas", "haro", 3.3, signed, 1, ledTale{}},
		{deck, "RK / PIPE FRAME 2", "Rake guide pipes, transport frame 2", "transport-frame", "TR", "12", nil, nil, "piet", "haro", 4.9, pulling, 0.6, ledTale{}},
		{deck, "RK / PIPE FRAME 3", "Rake guide pipes, transport frame 3", "transport-frame", "TR", "8", nil, nil, "jonas", "", 5.6, issuedOnly, 1, ledTale{}},

		{pit, "U2 / SERVO BONNET", "Servomotor bonnet", "closure", "HP", "180", is{"tightened": "torque"}, nil, "piet", "ines", 4.5, pulling, 0.4, ledTale{}},
		{pit, "U2 / SERVO END", "Servomotor end closure", "closure", "HP", "180", is{"tightened": "tensioner"}, nil, "piet", "ines", 3.2, signed, 1, ledTale{}},

		{deck, "RK / CUTTER NUT", "Trash cutter, rotor nut", "large-nut", "LN", "M48", nil, nil, "marta", "haro", 2.7, signed, 1, ledTale{}},
		{pit, "U2 / FAN NUT", "Generator fan, rotor nut", "large-nut", "LN", "M36", nil, nil, "sefa", "", 5.5, tooled, 1, ledTale{}},
		{ways, "AW / TRAILER WHEEL L", "Rake trailer, left wheel", "wheel-nuts", "WH", "5", fit, nil, "jonas", "ines", 0.7, signed, 1, ledTale{moved: 2}},
		{ways, "AW / TRAILER WHEEL R", "Rake trailer, right wheel", "wheel-nuts", "WH", "5", fit, nil, "jonas", "ines", 0.75, signed, 1,
			ledTale{then: &led{recipe: "wheel-nuts", kind: "WH", size: "5", choices: is{"work": "re-check"}, fitter: "jonas", checker: "ines", upTo: signed, tell: ledTale{because: "Gone over after its first 50 km.", moved: 3}}}},
		{ways, "AW / HOIST WHEEL", "Mobile hoist, wheel", "wheel-nuts", "WH", "10", fit, nil, "marta", "haro", 5.0, pulling, 0.6, ledTale{}},

		{pit, "U2 / HEAD COVER NUTS", "Turbine head cover, main nuts", "hydraulic-wrench", "HW", "M36", is{"work": "loosen"}, nil, "piet", "haro", 3.7, pulling, 0.45, ledTale{}},
		{gallery, "PS-1 / VALVE FLANGE", "Penstock valve, main flange", "hydraulic-wrench", "HW", "M36", is{"work": "loosen"}, nil, "piet", "haro", 0.5, signed, 1,
			ledTale{then: &led{recipe: "hydraulic-wrench", kind: "HW", size: "M36", choices: is{"work": "tighten"}, fitter: "piet", checker: "haro", upTo: pulling, share: 0.5, tell: ledTale{because: "Made anew with a new gasket."}}}},
		{governor, "GOV / PIPE HANGER", "Governor pipe hanger, anchors", "anchors", "AB", "M12", is{"anchor": "bonded"}, count{"anchors": 4}, "sefa", "", 5.8, draft, 1,
			ledTale{edit: bolts("anchors", func(b *job.Bolts) { b.SpecifiedFor, b.Lubrication, b.Decision = oil, dry, plan.Undecided })}},
		{pit, "TW-04 / TRIAL", "Click wrench 60 to 340, tried before use", "torque-wrench", "TW", "60 to 340", nil, nil, "sefa", "ines", 2.3, signed, 1, ledTale{}},
		{governor, "GOV / SIGHT GLASS", "Governor tank, sight glass tube", "tube-fitting", "", "", nil, nil, "marta", "", 5.9, fresh, 0, ledTale{}},
	}
}

// remade is the vent flange made anew on its recipe, with a new gasket.
func remade(in *job.Input) {
	in.Choices = is{"work": "make", "gasket": "sheet", "faces": "raised", "bolts": "machine bolts"}
	in.Groups["bolts"] = job.Bolts{Count: 4, Thread: "5/8-11 UNC", Grade: "grade 5", SpecifiedFor: oil, Lubrication: oil}
	in.Values = map[string]job.Given{"torque": {Value: unit.Of(88, unit.FootPound)}, "gasket thickness": {Value: mm(2)}, "gap limit": {Value: mm(0.8)}}
}
