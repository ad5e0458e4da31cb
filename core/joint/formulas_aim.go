package joint

import (
	"math"

	"dynacor/core/derive"
)

// What is aimed at.
var (
	formShare = &derive.Formula{Name: "Load aimed at", Sign: "F", Unit: "N", Text: "{p}·{R}·{As}",
		Source:  "share of strength; the usual ones are in ASME PCC-1 and ISO 898-1",
		Valid:   "A share of tension alone; the twist comes on top, see the share of yield.",
		Symbols: []derive.Symbol{sym("p", "share, a fraction", ""), sym("R", "proof or yield of the grade", "MPa"), symAs},
		Of:      func(x []float64) float64 { return x[0] * x[1] * x[2] }}
	formChart = &derive.Formula{Name: "Load aimed at", Sign: "F", Unit: "N", Text: "{p}·{R}·{As}·{m}", Source: "chart by size and base",
		Valid: "The derate is a starting value of ours for the softer of what the thread engages and the head bears on; a maker's replaces it.",
		Symbols: []derive.Symbol{sym("p", "share, a fraction", ""), sym("R", "proof of the grade", "MPa"), symAs,
			sym("m", "derate of the softer part, a fraction", "")},
		Of: func(x []float64) float64 { return x[0] * x[1] * x[2] * x[3] }}
	formGasketAim = &derive.Formula{Name: "Load aimed at", Sign: "F", Unit: "N", Text: "{SgT}·{Ag}/{n}", Source: sourcePCC,
		Valid: "Held between the limits of bolts and flange.", Symbols: []derive.Symbol{sym("SgT", "stress to aim at on the gasket",
			"MPa"), symAg, symN},
		Of: func(x []float64) float64 { return x[0] * x[1] / x[2] }}
	formHeldAim = &derive.Formula{Name: "Load aimed at, held at a limit", Sign: "F", Unit: "N", Text: "{Sb}·{As}", Source: sourcePCC,
		Valid: "The gasket would have another stress; the limit of bolts or flange wins.", Symbols: []derive.Symbol{sym("Sb",
			"stress that the limit is, in the bolt", "MPa"), symAs},
		Of: func(x []float64) float64 { return x[0] * x[1] }}
	formPretension = &derive.Formula{Name: "Pretension", Sign: "Fp", Unit: "N", Text: "0.7·{fub}·{As}",
		Source: "EN 1090-2 section 8.5, RCSC table 8.1",
		Valid:  "Structural bolting sets.", Symbols: []derive.Symbol{sym("fub", "tensile strength of the grade", "MPa"), symAs},
		Of: func(x []float64) float64 { return 0.7 * x[0] * x[1] }}
	formByTurn = &derive.Formula{Name: "Load aimed at", Sign: "F", Unit: "N", Text: "{θ}·{P}/(360·({δB} + {δP}))", Source: sourceVDI,
		Valid:   linearOnly,
		Symbols: []derive.Symbol{sym("θ", "turn from snug", "°"), symP, symDB, symDP},
		Of:      func(x []float64) float64 { return x[0] * x[1] / (360 * (x[2] + x[3])) }}
	formByStretch = &derive.Formula{Name: "Load aimed at", Sign: "F", Unit: "N", Text: "{ΔL}/{δB}", Source: sourceVDI, Valid: linearOnly,
		Symbols: []derive.Symbol{sym("ΔL", "stretch of the bolt", "mm"), symDB}, Of: func(x []float64) float64 { return x[0] / x[1] }}
	formTurn = &derive.Formula{Name: "Turn from snug", Sign: "θ", Unit: "°", Text: "360·{F}·({δB} + {δP})/{P}", Source: sourceVDI,
		Valid:   linearOnly,
		Symbols: []derive.Symbol{symF, symDB, symDP, symP}, Of: func(x []float64) float64 { return 360 * x[0] * (x[1] + x[2]) / x[3] }}
	formStretch = &derive.Formula{Name: "Stretch of the bolt", Sign: "ΔL", Unit: "mm", Text: "{F}·{δB}", Source: sourceVDI,
		Valid:   linearOnly,
		Symbols: []derive.Symbol{symF, symDB}, Of: func(x []float64) float64 { return x[0] * x[1] }}
	formBolt = &derive.Formula{Name: "Give of the bolt", Sign: "δB", Unit: "mm/N",
		Text:   "({h}·0.5·{d}/{AN} + {Ls}/{AN} + ({L} − {Ls})/{Ar} + {m}·(0.4·{d}/{AN} + 0.5·{d}/{Ar}))/{E}",
		Source: sourceVDI, Valid: "Head and nut as parts of the bolt's length.",
		Symbols: []derive.Symbol{sym("h", "heads", ""), symD, sym("AN", "area of the shank", "mm²"), sym("Ls", "plain shank", "mm"), symLen,
			sym("Ar", "root area of the thread", "mm²"), sym("m", "nuts", ""), sym("E", "modulus", "MPa")},
		Of: func(x []float64) float64 {
			return (x[0]*0.5*x[1]/x[2] + x[3]/x[2] + (x[4]-x[3])/x[5] + x[6]*(0.4*x[1]/x[2]+0.5*x[1]/x[5])) / x[7]
		}}
	formParts = &derive.Formula{Name: "Give of the parts", Sign: "δP", Unit: "mm/N",
		Text:   "2·ln(5·(0.57735·{L} + 0.5·{d})/(0.57735·{L} + 2.5·{d}))/(0.57735·π·{E}·{d})",
		Source: "a cone of 30° from a face of 1.5 d, as in Shigley", Valid: "Parts wide enough for the cone; of one modulus.",
		Symbols: []derive.Symbol{symLen, symD, sym("E", "modulus", "MPa")},
		Of: func(x []float64) float64 {
			cone := 0.57735 * x[0]
			return 2 * math.Log(5*(cone+0.5*x[1])/(cone+2.5*x[1])) / (0.57735 * math.Pi * x[2] * x[1])
		}}
)
