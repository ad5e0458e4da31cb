package joint

import (
	"math"

	"dynacor/core/derive"
)

// The formulas of a joint, as the trade writes them. Each is held to what Compute comes
// to by a test, on every recipe and on drawn inputs.

func sym(sign, name, unit string) derive.Symbol {
	return derive.Symbol{Sign: sign, Name: name, Unit: unit}
}

var (
	symT   = sym("T", "torque at the nut", "N·m")
	symTp  = sym("Tp", "torque that the nut takes for itself", "N·m")
	symK   = sym("K", "nut factor", "")
	symD   = sym("d", "diameter of the thread", "mm")
	symF   = sym("F", "load of a bolt", "N")
	symAs  = sym("As", "stress area of the thread", "mm²")
	symP   = sym("P", "pitch", "mm")
	symMu  = sym("µ", "friction, in thread and under the head alike", "")
	symD2  = sym("d2", "pitch diameter", "mm")
	symDK  = sym("DK", "mean diameter of the face that turns", "mm")
	symDS  = sym("dS", "diameter of the stress area", "mm")
	symRe  = sym("Re", "yield of the grade", "MPa")
	symMG  = sym("MG", "the thread's share of the torque", "N·m")
	symN   = sym("n", "bolts", "")
	symAg  = sym("Ag", "area of the gasket", "mm²")
	symA   = sym("a", "accuracy of the wrench, a fraction", "")
	symB   = sym("b", "scatter of the nut factor, a fraction", "")
	symDB  = sym("δB", "give of the bolt", "mm/N")
	symDP  = sym("δP", "give of the parts", "mm/N")
	symLen = sym("L", "clamped length", "mm")
)

const (
	elastic    = "Below yield; a bolt clamped square, thread and face as they were lubricated."
	sourceK    = "nut factor, ASME PCC-1 appendix K"
	sourceVDI  = "VDI 2230"
	sourcePCC  = "ASME PCC-1 appendix O"
	asGiven    = "As it is given."
	linearOnly = "Below yield, parts and bolt elastic; snug first."
)

var cos30 = math.Cos(math.Pi / 6)

var (
	formGiven = &derive.Formula{Name: "Torque", Sign: "T", Unit: "N·m", Text: "{Tm}", Source: "the maker's table for this joint",
		Valid:   asGiven,
		Symbols: []derive.Symbol{sym("Tm", "torque as it is given", "N·m")}, Of: func(x []float64) float64 { return x[0] }}
	formMiddle = &derive.Formula{Name: "Torque", Sign: "T", Unit: "N·m", Text: "({T1} + {T2})/2", Source: "the middle of the maker's range",
		Valid: asGiven, Symbols: []derive.Symbol{sym("T1", "least of the range", "N·m"), sym("T2", "most of the range", "N·m")},
		Of: func(x []float64) float64 { return (x[0] + x[1]) / 2 }}
	formEquivalent = &derive.Formula{Name: "Equivalent torque", Sign: "T'", Unit: "N·m", Text: "({T} − {Tp})·{K'}/{K} + {Tp}",
		Source: sourceK, Valid: "The same bolt, the same load: only the lubrication differs. An engineer approves it.",
		Symbols: []derive.Symbol{sym("T", "torque as it was written", "N·m"), symTp, sym("K'", "nut factor on the job", ""),
			sym("K", "nut factor it was written for", "")},
		Of: func(x []float64) float64 { return (x[0]-x[1])*x[2]/x[3] + x[1] }}
	formTorque = &derive.Formula{Name: "Torque", Sign: "T", Unit: "N·m", Text: "{K}·{d}·{F}/1000 + {Tp}", Source: sourceK, Valid: elastic,
		Symbols: []derive.Symbol{symK, symD, symF, symTp}, Of: func(x []float64) float64 { return x[0]*x[1]*x[2]/1000 + x[3] }}
	formLoad = &derive.Formula{Name: "Load of a bolt", Sign: "F", Unit: "N", Text: "1000·({T} − {Tp})/({K}·{d})", Source: sourceK,
		Valid:   elastic,
		Symbols: []derive.Symbol{symT, symTp, symK, symD}, Of: func(x []float64) float64 { return 1000 * (x[0] - x[1]) / (x[2] * x[3]) }}
	formLikelyLow = &derive.Formula{Name: "Low end of what is likely", Sign: "F", Unit: "N", Text: "{F}·(1 − √({a}² + {b}²))",
		Source: "root sum of squares, GUM (JCGM 100)", Valid: "Nineteen bolts of twenty; tool and friction independent of one another.",
		Symbols: []derive.Symbol{symF, symA, symB}, Of: func(x []float64) float64 { return x[0] * (1 - math.Hypot(x[1], x[2])) }}
	formLikelyHigh = &derive.Formula{Name: "High end of what is likely", Sign: "F", Unit: "N", Text: "{F}·(1 + √({a}² + {b}²))",
		Source: "root sum of squares, GUM (JCGM 100)", Valid: "Nineteen bolts of twenty; tool and friction independent of one another.",
		Symbols: []derive.Symbol{symF, symA, symB}, Of: func(x []float64) float64 { return x[0] * (1 + math.Hypot(x[1], x[2])) }}
	formWorstLow = &derive.Formula{Name: "Least at the worst", Sign: "F", Unit: "N",
		Text:   "1000·({T} − {Tp})·(1 − {a})/({K}·(1 + {b})·{d})",
		Source: sourceK, Valid: "Tool and friction both at their worst end.", Symbols: []derive.Symbol{symT, symTp, symA, symK, symB, symD},
		Of: func(x []float64) float64 { return 1000 * (x[0] - x[1]) * (1 - x[2]) / (x[3] * (1 + x[4]) * x[5]) }}
	formWorstHigh = &derive.Formula{Name: "Most at the worst", Sign: "F", Unit: "N",
		Text:   "1000·({T} − {Tp})·(1 + {a})/({K}·(1 − {b})·{d})",
		Source: sourceK, Valid: "Tool and friction both at their worst end.", Symbols: []derive.Symbol{symT, symTp, symA, symK, symB, symD},
		Of: func(x []float64) float64 { return 1000 * (x[0] - x[1]) * (1 + x[2]) / (x[3] * (1 - x[4]) * x[5]) }}
	formMu = &derive.Formula{Name: "Friction", Sign: "µ", Text: "({K}·{d} − {P}/(2π))/({d2}/(2·cos 30°) + {DK}/2)", Source: sourceVDI,
		Valid: "One friction for thread and face; a thread of 60°.", Symbols: []derive.Symbol{symK, symD, symP, symD2, symDK},
		Of: func(x []float64) float64 { return (x[0]*x[1] - x[2]/(2*math.Pi)) / (x[3]/(2*cos30) + x[4]/2) }}
	formMG = &derive.Formula{Name: "The thread's share of the torque", Sign: "MG", Unit: "N·m",
		Text:   "{F}/1000·({P}/(2π) + {µ}·{d2}/(2·cos 30°))",
		Source: sourceVDI, Valid: "A thread of 60°.", Symbols: []derive.Symbol{symF, symP, symMu, symD2},
		Of: func(x []float64) float64 { return x[0] / 1000 * (x[1]/(2*math.Pi) + x[2]*x[3]/(2*cos30)) }}
	formUtilisation = &derive.Formula{Name: "Share of yield while it is turned", Sign: "σred/Re",
		Text:    "√(({F}/{As})² + 3·(12000·({MG} + {Tp})/(π·{dS}³))²)/{Re}",
		Source:  sourceVDI,
		Valid:   "While it is turned; the shank's edge may yield, so the plastic modulus. Afterwards the twist springs back.",
		Symbols: []derive.Symbol{symF, symAs, symMG, symTp, symDS, symRe},
		Of: func(x []float64) float64 {
			tau := 12000 * (x[2] + x[3]) / (math.Pi * x[4] * x[4] * x[4])
			return math.Sqrt(x[0]*x[0]/(x[1]*x[1])+3*tau*tau) / x[5]
		}}
	formLimit = &derive.Formula{Name: "Load at which it yields while it is turned", Sign: "F", Unit: "N",
		Text:   "the F at which √((F/{As})² + 3·(12000·(F·({P}/(2π) + {µ}·{d2}/(2·cos 30°))/1000 + {Tp})/(π·{dS}³))²) = {Re}",
		Source: sourceVDI, Valid: "While it is turned, at the nominal friction.", Symbols: []derive.Symbol{symAs, symP, symMu, symD2,
			symTp, symDS, symRe},
		Of: func(x []float64) float64 {
			w := math.Pi * x[5] * x[5] * x[5] / 12000
			a, b, c := 1/x[0], (x[1]/(2*math.Pi)+x[2]*x[3]/(2*cos30))/1000/w, x[4]/w
			p := a*a + 3*b*b
			return (math.Sqrt(9*b*b*c*c+p*(x[6]*x[6]-3*c*c)) - 3*b*c) / p
		}}
	formStage = &derive.Formula{Name: "Torque of a stage", Sign: "T", Unit: "N·m", Text: "{Tn}·{p}/100", Source: "the stages of the plan",
		Valid:   "Cross order, each bolt once a stage; the load of a stage is no share of the last one's.",
		Symbols: []derive.Symbol{sym("Tn", "torque of the last stage", "N·m"), sym("p", "share of the stage", "%")},
		Of:      func(x []float64) float64 { return x[0] * x[1] / 100 }}
)
