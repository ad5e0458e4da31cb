package vectors

import (
	"encoding/json"
	"fmt"
	"math"

	"dynacor/core/elastic"
	"dynacor/core/friction"
	"dynacor/core/pass"
	"dynacor/core/preload"
	"dynacor/core/proof"
	"dynacor/core/refusal"
	"dynacor/core/sequence"
	"dynacor/core/stay"
	"dynacor/core/thread"
	"dynacor/core/tool"
	"dynacor/core/uncertainty"
	"dynacor/core/unit"
)

type out = map[string]any

// on reads a case's input and runs f on it.
func on[T any](f func(T) (out, error)) func(json.RawMessage) (out, error) {
	return func(raw json.RawMessage) (out, error) {
		var in T
		if err := json.Unmarshal(raw, &in); err != nil {
			return nil, err
		}
		return f(in)
	}
}

type bolt struct {
	Grade                                string
	Thread                               string
	K, D, F, T, Prevailing               float64
	MuThread, MuHead, Dw, Dh, MG, Yield  float64
	ToolRel, KRel, KSpec, KJob, Strength float64
	Share                                float64
}

func (b bolt) face() friction.Face { return friction.Face{Outside: b.Dw, Hole: b.Dh} }

type setting struct {
	Setting, First, Major, Minor, T, L, E, Angle, Ratio, RatedMin, RatedMax float64
	WrenchRel, MultiplierRel                                                *float64
}

type window struct {
	Readings              []float64
	Rated, Target, Lo, Hi float64
}

var operations = map[string]func(json.RawMessage) (out, error){
	"units.convert": on(func(in struct {
		Value    float64
		From, To string
	}) (out, error) {
		v, err := unit.Convert(in.Value, unit.Unit(in.From), unit.Unit(in.To))
		return out{"value": v}, err
	}),
	"thread.geometry": on(func(in bolt) (out, error) {
		t, err := thread.Parse(in.Thread)
		return out{"d": t.Diameter, "pitch": t.Pitch, "d2": t.PitchDiameter(), "d3": t.MinorDiameter(), "As": t.StressArea(),
			"Ar": t.RootArea(), "dS": t.StressDiameter()}, err
	}),
	"strength": on(func(in struct {
		Grade string
		D     float64
	}) (out, error) {
		s, err := thread.StrengthOf(in.Grade, in.D)
		o := out{"proof": nil, "yield": s.Yield, "tensile": s.Tensile}
		if s.HasProof() {
			o["proof"] = s.Proof
		}
		return o, err
	}),
	"torque.fromLoadK": on(func(in bolt) (out, error) {
		t, err := friction.TorqueFromLoad(in.K, in.D, in.F, in.Prevailing)
		return out{"T": t}, err
	}),
	"load.fromTorqueK": on(func(in bolt) (out, error) {
		f, err := friction.LoadFromTorque(in.K, in.D, in.T, in.Prevailing)
		return out{"F": f}, err
	}),
	"torque.fromLoadMu": on(func(in bolt) (out, error) {
		t, err := thread.Parse(in.Thread)
		if err != nil {
			return nil, err
		}
		s, err := friction.TorqueFromCoefficients(t, in.MuThread, in.MuHead, in.face(), in.F)
		return out{"T": s.Torque, "MG": s.Thread, "K": s.K}, err
	}),
	"mu.fromK": on(func(in bolt) (out, error) {
		t, err := thread.Parse(in.Thread)
		if err != nil {
			return nil, err
		}
		mu, err := friction.CoefficientFromK(t, in.K, in.face())
		return out{"mu": mu}, err
	}),
	"tightening.stress": on(func(in bolt) (out, error) {
		t, err := thread.Parse(in.Thread)
		if err != nil {
			return nil, err
		}
		s, err := friction.WhileTightening(t, in.F, in.MG, in.Prevailing, in.Yield)
		return out{"sigma": s.Tension, "tau": s.Torsion, "sigmaRed": s.Combined, "utilisation": s.Utilisation}, err
	}),
	"load.scatter": on(func(in bolt) (out, error) {
		b, err := friction.Scatter(in.T, in.K, in.D, in.ToolRel, in.KRel)
		return out{"Fnominal": b.Nominal, "Fmin": b.Min, "Fmax": b.Max, "rel": b.Spread}, err
	}),
	"torque.equivalent": on(func(in bolt) (out, error) {
		t, err := friction.EquivalentTorque(in.T, in.KSpec, in.KJob)
		return out{"T": t}, err
	}),
	"target.share": on(func(in bolt) (out, error) {
		t, err := thread.Parse(in.Thread)
		if err != nil {
			return nil, err
		}
		f, err := preload.ShareOfStrength(t, in.Strength, in.Share)
		return out{"F": f}, err
	}),
	"sequence": on(func(in struct {
		Pattern    string
		N          int
		Rows, Cols int
		Start      *int
	}) (out, error) {
		if in.Pattern == "grid" {
			o, err := sequence.Grid(in.Rows, in.Cols, 1, 1)
			return out{"order": o}, err
		}
		start := 1
		if in.Start != nil {
			start = *in.Start
		}
		o, err := sequence.Ring(sequence.Pattern(in.Pattern), in.N, start)
		return out{"order": o}, err
	}),
	"sequence.simultaneous": on(func(in struct{ N, Tools int }) (out, error) {
		s, err := sequence.Together(in.N, in.Tools)
		return out{"steps": s}, err
	}),
	"passes": on(func(in struct {
		T          float64
		Shares     []float64
		Graduation float64
	}) (out, error) {
		v, err := pass.Values(in.T, in.Shares, in.Graduation)
		values, errs := []float64{}, []float64{}
		for _, x := range v {
			values, errs = append(values, x.Torque), append(errs, x.ErrorPercent)
		}
		return out{"values": values, "errors": errs}, err
	}),
	"setting.scale": on(func(in setting) (out, error) {
		r, err := tool.Scale{First: in.First, Major: in.Major, Minor: in.Minor}.Read(in.Setting)
		return out{"main": r.Main, "minors": r.Minors, "shown": r.Shown}, err
	}),
	"setting.multiplier": on(func(in setting) (out, error) {
		s, err := tool.Behind(in.T, in.Ratio)
		o := out{"setting": s}
		if in.WrenchRel != nil && in.MultiplierRel != nil {
			o["rel"] = tool.Together(*in.WrenchRel, *in.MultiplierRel)
		}
		return o, err
	}),
	"setting.offset": on(func(in setting) (out, error) {
		s, err := tool.Offset(in.T, in.L, in.E, in.Angle)
		return out{"setting": s}, err
	}),
	"setting.hydraulic": on(func(in struct {
		T, Graduation float64
		Chart         [][2]float64
	}) (out, error) {
		var c tool.Chart
		for _, r := range in.Chart {
			c = append(c, tool.Row{Pressure: r[0], Torque: r[1]})
		}
		s, err := c.At(in.T, in.Graduation)
		return out{"pressure": s.Pressure, "torqueAtPressure": s.Torque}, err
	}),
	"tensioner": on(func(in struct {
		F, D, ClampLength, RamArea, Yield float64
		Thread                            string
	}) (out, error) {
		t, err := thread.Parse(in.Thread)
		if err != nil {
			return nil, err
		}
		if math.Abs(t.Diameter-in.D) > 1e-6 {
			return nil, fmt.Errorf("%s is %v mm, not %v", t.Name, t.Diameter, in.D)
		}
		p, err := tool.Tension(t, in.F, in.ClampLength, in.RamArea, in.Yield)
		return out{"llf": p.LossFactor, "applied": p.Applied, "pressure": p.Pressure, "stressShare": p.StressShare}, err
	}),
	"tool.usable": on(func(in setting) (out, error) {
		low, ok, err := tool.Usable(in.RatedMin, in.RatedMax, in.Setting)
		return out{"low": low, "inRange": ok}, err
	}),
	"gasket.balance": on(func(in struct {
		Thread, AreaBasis                                                                           string
		N                                                                                           int
		GasketOD, GasketID, SgTarget, SgMinSeat, SgMinOp, SgMax, SbMin, SbMax, SfMax, Pressure, Phi float64
	}) (out, error) {
		t, err := thread.Parse(in.Thread)
		if err != nil {
			return nil, err
		}
		b, err := preload.Balance{Thread: t, Bolts: in.N, Outside: in.GasketOD, Inside: in.GasketID, Basis: preload.AreaBasis(in.AreaBasis),
			Aim: in.SgTarget, LeastSeat: in.SgMinSeat, LeastOperate: in.SgMinOp, GasketMost: in.SgMax,
			BoltLeast: in.SbMin, BoltMost: in.SbMax, FlangeMost: in.SfMax, Pressure: in.Pressure, Kept: in.Phi}.Solve()
		return out{"Sb": b.Stress, "F": b.Load, "limitedBy": string(b.LimitedBy), "seatOK": b.Seats, "operateOK": b.Operates,
			"crushOK": b.Whole}, err
	}),
	"structural.pretension": on(func(in struct{ Grade, Thread string }) (out, error) {
		t, err := thread.Parse(in.Thread)
		if err != nil {
			return nil, err
		}
		s, err := thread.StrengthOf(in.Grade, t.Diameter)
		if err != nil {
			return nil, err
		}
		f, err := preload.Pretension(t, s.Tensile)
		return out{"F": f}, err
	}),
	"structural.partTurn": on(func(in struct {
		D, Length   float64
		SlopedFaces int
	}) (out, error) {
		v, err := preload.PartTurn(in.D, in.Length, in.SlopedFaces)
		return out{"degrees": v}, err
	}),
	"structural.combinedTurn": on(func(in struct{ D, Grip float64 }) (out, error) {
		v, err := preload.CombinedTurn(in.D, in.Grip)
		return out{"degrees": v}, err
	}),
	"stiffness": on(func(in struct {
		Thread                             string
		Shank, Threaded, ClampLength, F, E float64
		TwoNuts                            bool
	}) (out, error) {
		t, err := thread.Parse(in.Thread)
		if err != nil {
			return nil, err
		}
		c := preload.Clamped{Thread: t, Shank: in.Shank, Threaded: in.Threaded, TwoNuts: in.TwoNuts, Length: in.ClampLength, Modulus: in.E}
		k, err := c.Compliance()
		if err != nil {
			return nil, err
		}
		turn, err := c.Turn(in.F)
		if err != nil {
			return nil, err
		}
		stretch, err := c.Stretch(in.F)
		return out{"deltaB": k.Bolt, "deltaP": k.Parts, "turn": turn, "elongation": stretch}, err
	}),
	"elastic.run": on(func(in struct {
		N                  int
		Bcd, K, EI, DeltaB float64
		Passes             []elastic.Pass
		Relaxation         *float64
	}) (out, error) {
		kept := 1.0
		if in.Relaxation != nil {
			kept = *in.Relaxation
			if err := refusal.Fraction("relaxation", kept); err != nil {
				return nil, err
			}
		}
		o, err := elastic.Ring{Bolts: in.N, BoltCircle: in.Bcd, Foundation: in.K, Stiffness: in.EI, Bolt: in.DeltaB}.
			Run(elastic.Schedule{Passes: in.Passes, Relaxation: kept}, nil)
		return out{"loads": o.Loads, "closures": o.Closures}, err
	}),
	"structural.torque": on(func(in bolt) (out, error) {
		t, err := thread.Parse(in.Thread)
		if err != nil {
			return nil, err
		}
		s, err := preload.StepsOf(t, in.Grade, in.K)
		return out{"F": s.Load, "M": s.M, "first": s.First, "second": s.Second}, err
	}),
	"thread.stripping": on(func(in struct {
		Thread                 string
		Length, RmBolt, RmPart float64
	}) (out, error) {
		t, err := thread.Parse(in.Thread)
		if err != nil {
			return nil, err
		}
		e, err := stay.Engaged(t, in.Length, in.RmBolt, in.RmPart)
		return out{"areaBolt": e.AreaBolt, "areaPart": e.AreaPart, "loadBolt": e.LoadBolt, "loadPart": e.LoadPart, "breaks": e.Breaks,
			"weakest": string(e.Weakest), "least": e.Least}, err
	}),
	"bearing.pressure": on(func(in struct{ F, Dw, Dh, Limit float64 }) (out, error) {
		b, err := stay.Bears(in.F, in.Dw, in.Dh, in.Limit)
		return out{"pressure": b.Pressure, "share": b.Share, "ok": b.Holds}, err
	}),
	"embedding.loss": on(func(in struct{ Fz, DeltaB, DeltaP float64 }) (out, error) {
		f, err := stay.Springs{Bolt: in.DeltaB, Parts: in.DeltaP}.Embedding(in.Fz)
		return out{"loss": f}, err
	}),
	"temperature.load": on(func(in struct {
		F, DeltaB, DeltaP, Length, AlphaB, AlphaP, DTB, DTP, EB, EP float64
	}) (out, error) {
		f, loose, err := stay.Springs{Bolt: in.DeltaB, Parts: in.DeltaP}.At(in.F, stay.Warm{Length: in.Length, ExpandsBolt: in.AlphaB,
			ExpandsParts: in.AlphaP, WarmerBolt: in.DTB, WarmerParts: in.DTP, ModulusBolt: in.EB, ModulusParts: in.EP})
		return out{"F": f, "loose": loose}, err
	}),
	"joint.external": on(func(in struct {
		F, DeltaB, DeltaP, N, FA, FQ, Mu float64
		Planes                           int
	}) (out, error) {
		o, err := stay.Springs{Bolt: in.DeltaB, Parts: in.DeltaP}.Under(in.F, stay.Pulled{Factor: in.N, Axial: in.FA, Across: in.FQ,
			Mu: in.Mu, Planes: in.Planes})
		return out{"phi": o.Phi, "bolt": o.Bolt, "clamp": o.Clamp, "opens": o.Opens, "slipLoad": o.Slip, "slips": o.Slips}, err
	}),
	"uncertainty": on(func(in struct {
		Parts []struct {
			Kind  string
			Value float64
			C     *float64
		}
	}) (out, error) {
		var parts []uncertainty.Part
		for _, p := range in.Parts {
			c := 1.0
			if p.C != nil {
				c = *p.C
			}
			parts = append(parts, uncertainty.Part{Kind: uncertainty.Kind(p.Kind), Value: p.Value, C: c})
		}
		b, err := uncertainty.Of(parts)
		return out{"u": b.Standard, "U": b.Expanded, "largest": b.Largest}, err
	}),
	"harmonic": on(func(in window) (out, error) {
		c, err := proof.ReadCircle(in.Readings)
		return out{"mean": c.Mean, "total": c.Total, "amplitude": c.Amplitude, "angle": c.Angle}, err
	}),
	"charge.at": on(func(in struct{ P, From, To float64 }) (out, error) {
		p, err := proof.ChargeAt(in.P, in.From, in.To)
		return out{"p": p}, err
	}),
	"verify.pressure": on(func(in proof.Test) (out, error) {
		drop, held, err := in.Judge()
		return out{"drop": drop, "verdict": string(held)}, err
	}),
	"verify.functional": on(func(in window) (out, error) {
		f, err := proof.JudgeFunctional(in.Readings, in.Rated, in.Lo, in.Hi)
		return out{"accepted": f.Holds, "failedTries": f.FailedTries}, err
	}),
	"verify.residual": on(func(in window) (out, error) {
		r, err := proof.JudgeResidual(in.Readings, in.Target, in.Lo, in.Hi)
		return out{"accepted": r.Holds, "failed": r.Failed}, err
	}),
	"verify.sample": on(func(in struct {
		N       int
		Share   float64
		AtLeast int
	}) (out, error) {
		n, err := proof.SampleCount(in.N, in.Share, in.AtLeast)
		return out{"count": n}, err
	}),
	"verify.gap": on(func(in struct {
		Gaps            []float64
		Diameter, Limit float64
	}) (out, error) {
		g, err := proof.JudgeGap(in.Gaps, in.Diameter, in.Limit)
		return out{"spread": g.Spread, "tilt": g.Tilt, "parallel": g.Parallel, "openSide": g.OpenSide}, err
	}),
}
