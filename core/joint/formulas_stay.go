package joint

import (
	"math"

	"dynacor/core/derive"
	"dynacor/core/preload"
)

// symsWarm are the symbols of what warmth does.
var symsWarm = []derive.Symbol{symDB, symDP, symLen, sym("αP", "growth of the parts", "1/K"), sym("ΔTP", "parts warmer by", "K"),
	sym("αB", "growth of the bolt", "1/K"), sym("ΔTB", "bolts warmer by", "K"), sym("eB", "modulus of the bolt then, as a share", ""),
	sym("eP", "modulus of the parts then, as a share", "")}

// What bounds a gasket's load, and what becomes of it.
var (
	formOnGasket = &derive.Formula{Name: "Load a bolt for a stress on the gasket", Sign: "F", Unit: "N", Text: "{Sg}·{Ag}/{n}",
		Source: sourcePCC,
		Valid:  "The whole gasket pressed alike.", Symbols: []derive.Symbol{sym("Sg", "stress on the gasket", "MPa"), symAg, symN},
		Of: func(x []float64) float64 { return x[0] * x[1] / x[2] }}
	formService = &derive.Formula{Name: "Load a bolt that service asks for", Sign: "F", Unit: "N",
		Text:   "({Sg}·{Ag} + π/4·{p}·{ID}²)/({φ}·{n})",
		Source: sourcePCC, Valid: "Pressure on the bore of the gasket; no force from the pipe.",
		Symbols: []derive.Symbol{sym("Sg", "least stress in service", "MPa"), symAg, sym("p", "pressure in service", "MPa"),
			sym("ID", "inside of the gasket", "mm"), sym("φ", "share of the load that is left, a fraction", ""), symN},
		Of: func(x []float64) float64 { return (x[0]*x[1] + math.Pi/4*x[2]*x[3]*x[3]) / (x[4] * x[5]) }}
	formInBolt = &derive.Formula{Name: "Load of a stress in the bolt", Sign: "F", Unit: "N", Text: "{S}·{As}", Source: sourcePCC,
		Valid: "Tension alone.", Symbols: []derive.Symbol{sym("S", "stress in the bolt", "MPa"), symAs},
		Of: func(x []float64) float64 { return x[0] * x[1] }}
	formArea = &derive.Formula{Name: "Area of the gasket", Sign: "Ag", Unit: "mm²", Text: "π/4·({OD}² − {ID}² − {n}·{dh}²)",
		Source: sourcePCC,
		Valid:  "What the faces press; of a full-face gasket without its bolt holes.",
		Symbols: []derive.Symbol{sym("OD", "outside of the gasket", "mm"), sym("ID", "inside of the gasket", "mm"), symN,
			sym("dh", "bolt hole through it; 0 where it lies inside the bolts", "mm")},
		Of: func(x []float64) float64 { return math.Pi / 4 * (x[0]*x[0] - x[1]*x[1] - x[2]*x[3]*x[3]) }}
	formEngaged = &derive.Formula{Name: "Least length of thread", Sign: "L", Unit: "mm", Text: "{Rm}·{As}/(0.6·min({Rm}·{aB}, {Rp}·{aP}))",
		Source: "FED-STD-H28 and VDI 2230, at basic sizes", Valid: "So much that the bolt breaks before a thread strips.",
		Symbols: []derive.Symbol{sym("Rm", "tensile strength of the bolt", "MPa"), symAs, sym("aB",
			"shear area of the bolt's thread, a mm", "mm"),
			sym("Rp", "tensile strength of the part", "MPa"), sym("aP", "shear area of the part's thread, a mm", "mm")},
		Of: func(x []float64) float64 { return x[0] * x[1] / (0.6 * math.Min(x[0]*x[2], x[3]*x[4])) }}
	formBearing = &derive.Formula{Name: "Pressure under the head", Sign: "p", Unit: "MPa", Text: "{F}/(π/4·({dw}² − {dh}²))",
		Source: sourceVDI,
		Valid:  "Head or washer flat on the part.", Symbols: []derive.Symbol{symF, sym("dw", "outside of the face", "mm"), sym("dh",
			"hole", "mm")},
		Of: func(x []float64) float64 { return x[0] / (math.Pi / 4 * (x[1]*x[1] - x[2]*x[2])) }}
	formGrip = &derive.Formula{Name: "Grip that holds its load", Sign: "L", Unit: "mm", Text: "5·{d}", Source: sourceVDI,
		Valid: "Below 3 to 5 diameters what settles takes more of the load.", Symbols: []derive.Symbol{symD},
		Of: func(x []float64) float64 { return 5 * x[0] }}
	formSettled = &derive.Formula{Name: "Left once its faces have settled", Sign: "F'", Unit: "N",
		Text: "{F} − {fz}/1000/({δB} + {δP})", Source: sourceVDI,
		Valid: "Guide values for steel faces; a gasket creeps besides.", Symbols: []derive.Symbol{symF, sym("fz", "what settles",
			"µm"), symDB, symDP},
		Of: func(x []float64) float64 { return math.Max(x[0]-x[1]/1000/(x[2]+x[3]), 0) }}
	formWarm = &derive.Formula{Name: "Load at that temperature", Sign: "F'", Unit: "N",
		Text: "({F}·({δB} + {δP}) + {L}·({αP}·{ΔTP} − {αB}·{ΔTB}))/({δB}/{eB} + {δP}/{eP})", Source: sourceVDI,
		Valid:   "Bolt and parts of one temperature each.",
		Symbols: append([]derive.Symbol{symF}, symsWarm...),
		Of: func(x []float64) float64 {
			return math.Max(x[0]*(x[1]+x[2])+x[3]*(x[4]*x[5]-x[6]*x[7]), 0) / (x[1]/x[8] + x[2]/x[9])
		}}
	formByService = &derive.Formula{Name: "Load aimed at", Sign: "F", Unit: "N",
		Text: "({F'}·({δB}/{eB} + {δP}/{eP}) − {L}·({αP}·{ΔTP} − {αB}·{ΔTB}))/({δB} + {δP})", Source: sourceVDI,
		Valid:   "Bolt and parts of one temperature each; what settles comes off besides.",
		Symbols: append([]derive.Symbol{sym("F'", "load that is there in service", "N")}, symsWarm...),
		Of: func(x []float64) float64 {
			return (x[0]*(x[1]/x[8]+x[2]/x[9]) - x[3]*(x[4]*x[5]-x[6]*x[7])) / (x[1] + x[2])
		}}
	formPulled = &derive.Formula{Name: "Bolt under that pull", Sign: "FB", Unit: "N", Text: "{F} + {n}·{δP}/({δB} + {δP})·{FA}",
		Source: sourceVDI,
		Valid:  "Concentric pull; parts still in contact.", Symbols: []derive.Symbol{sym("F", "load at the high end of what is likely",
			"N"),
			sym("n", "where the pull enters, a fraction", ""), symDB, symDP, sym("FA", "pull along the bolt", "N")},
		Of: func(x []float64) float64 { return x[0] + x[1]*x[3]/(x[2]+x[3])*x[4] }}
	formOpens = &derive.Formula{Name: "Pull that opens it", Sign: "FA", Unit: "N",
		Text: "max({F} − {Fz}, 0)/(1 − {n}·{δP}/({δB} + {δP}))", Source: sourceVDI,
		Valid: "Concentric pull.", Symbols: []derive.Symbol{sym("F", "load at the low end of what is likely", "N"), sym("Fz",
			"lost as it settles", "N"),
			sym("n", "where the pull enters, a fraction", ""), symDB, symDP},
		Of: func(x []float64) float64 { return math.Max(x[0]-x[1], 0) / (1 - x[2]*x[4]/(x[3]+x[4])) }}
	formHolds = &derive.Formula{Name: "Force across that it holds", Sign: "FQ", Unit: "N",
		Text:   "max({F} − {Fz} − (1 − {n}·{δP}/({δB} + {δP}))·{FA}, 0)·{µ}·{i}",
		Source: sourceVDI, Valid: "By friction alone; no bolt bears in its hole.",
		Symbols: []derive.Symbol{sym("F", "load at the low end of what is likely", "N"), sym("Fz", "lost as it settles", "N"),
			sym("n", "where the pull enters, a fraction", ""), symDB, symDP, sym("FA", "pull along the bolt", "N"), sym("µ",
				"friction between the parts", ""),
			sym("i", "faces that slide", "")},
		Of: func(x []float64) float64 {
			return math.Max(x[0]-x[1]-(1-x[2]*x[4]/(x[3]+x[4]))*x[5], 0) * x[6] * x[7]
		}}
	formStep = &derive.Formula{Name: "Torque of a step", Sign: "T", Unit: "N·m", Text: "{s}·{K}·{d}·{Fp}/1000",
		Source:  "EN 1090-2 section 8.5",
		Valid:   "For this lot alone, as delivered, within its test.",
		Symbols: []derive.Symbol{sym("s", "share of M", ""), symK, symD, sym("Fp", "pretension", "N")},
		Of:      func(x []float64) float64 { return x[0] * x[1] * x[2] * x[3] / 1000 }}
)

// onWindow is the formula of a row of the gasket's window.
func onWindow(key string) *derive.Formula {
	switch key {
	case preload.Seats, preload.Crushes:
		return formOnGasket
	case preload.Operates:
		return formService
	}
	return formInBolt
}
