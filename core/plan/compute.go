package plan

import (
	"fmt"
	"math"

	"dynacor/core/friction"
	"dynacor/core/pass"
	"dynacor/core/preload"
	"dynacor/core/proof"
	"dynacor/core/refusal"
	"dynacor/core/sequence"
	"dynacor/core/thread"
	"dynacor/core/tool"
	"dynacor/core/unit"
)

// The bounds of a ring the planner takes.
const (
	LeastBolts   = 3
	MostBolts    = 200
	WarnYield    = 0.9 // share of yield while tightening
	mostCircleMM = 20_000
)

// Compute works a joint out. What cannot be is refused with the field, the
// number and the limit; the first refusal found is returned.
func Compute(in Input) (Result, error) {
	var r Result
	for _, step := range []func(Input, *Result) error{ring, fastener, gasket, conditions, target, limits, stages} {
		if err := step(in, &r); err != nil {
			return Result{}, err
		}
	}
	r.mind(in)
	return r, nil
}

func ring(in Input, r *Result) error {
	if in.Bolts < LeastBolts || in.Bolts > MostBolts {
		return refusal.Number(refusal.OutOfRange, "bolts", float64(in.Bolts), limitOf(in.Bolts), "bolts",
			fmt.Sprintf("%d bolts; a ring joint has %d to %d.", in.Bolts, LeastBolts, MostBolts), "Count the holes.")
	}
	t, err := thread.Parse(in.Thread)
	if err != nil {
		return err
	}
	r.Thread = t
	circle, err := millimetres("boltCircle", in.BoltCircle)
	if err != nil {
		return err
	}
	if circle > mostCircleMM {
		return refusal.Number(refusal.TooLarge, "boltCircle", circle, mostCircleMM, "mm",
			fmt.Sprintf("A bolt circle of %.6g mm; at most %d mm is taken.", circle, mostCircleMM), "Check the unit.")
	}
	corners := t.AcrossFlats() / math.Cos(math.Pi/6)
	least := corners / math.Sin(math.Pi/float64(in.Bolts))
	if !unit.AtLeast(circle, least) {
		return refusal.Number(refusal.TooSmall, "boltCircle", circle, least, "mm",
			fmt.Sprintf("%d nuts of %s, %.4g mm over the corners, do not fit on a %.5g mm circle; it needs %.5g mm.",
				in.Bolts, t.Name, corners, circle, least),
			"Check the circle, its unit and the bolt count.")
	}
	known := false
	for _, f := range Fastenings() {
		known = known || f == in.Fastening
	}
	if !known {
		return refusal.New(refusal.Unknown, "fastening", fmt.Sprintf("Unknown fastening %q.", in.Fastening), "Choose one from the list.")
	}
	return nil
}

func limitOf(n int) float64 {
	if n < LeastBolts {
		return LeastBolts
	}
	return MostBolts
}

func fastener(in Input, r *Result) (err error) {
	r.Strength, err = thread.StrengthOf(in.Grade, r.Thread.Diameter)
	return err
}

func gasket(in Input, r *Result) error {
	kind, err := gasketKind(in.Gasket.Kind)
	if err != nil {
		return err
	}
	outer, err := millimetres("gasket.outer", in.Gasket.Outer)
	if err != nil {
		return err
	}
	inner, err := millimetres("gasket.inner", in.Gasket.Inner)
	if err != nil {
		return err
	}
	circle, _ := in.BoltCircle.In(unit.Millimetre)
	if most := circle - r.Thread.Diameter; !unit.AtMost(outer, most) {
		return refusal.Number(refusal.TooLarge, "gasket.outer", outer, most, "mm",
			fmt.Sprintf("A gasket of %.5g mm does not lie inside the bolts: between them is %.5g mm.", outer, most),
			"Check the gasket's diameter and the bolt circle.")
	}
	area, err := preload.GasketArea(outer, inner)
	if err != nil {
		return err
	}
	stress := kind.SeatingStress
	if !in.Gasket.SeatingStress.IsZero() {
		if stress, err = in.Gasket.SeatingStress.In(unit.Megapascal); err != nil {
			return refusal.At("gasket.seatingStress", err)
		}
		if err = refusal.Positive("gasket.seatingStress", stress, "MPa"); err != nil {
			return err
		}
	}
	r.Needed = preload.Seating(stress, area, in.Bolts)
	r.GapDiameter = circle
	r.GapLimit = proof.UsualGapLimit
	if !in.GapLimit.IsZero() {
		if r.GapLimit, err = millimetres("gapLimit", in.GapLimit); err != nil {
			return err
		}
	}
	return nil
}

func gasketKind(name string) (GasketKind, error) {
	for _, k := range GasketKinds() {
		if k.Name == name {
			return k, nil
		}
	}
	return GasketKind{}, refusal.New(refusal.Unknown, "gasket.kind", fmt.Sprintf("Unknown gasket %q.", name), "Choose one from the list.")
}

func conditions(in Input, r *Result) (err error) {
	r.Lubricant, err = in.lubricant(in.Lubrication)
	return refusal.At("lubrication", err)
}

// lubricant returns the condition of that name: one of the joint's own, which
// wins, or a general one.
func (in Input) lubricant(name string) (friction.Lubricant, error) {
	if l, ok := in.Own.Find(name); ok {
		return l, l.Check()
	}
	return friction.LubricantNamed(name)
}

// target finds torque and load, and what the specified torque becomes where
// the lubrication differs.
func target(in Input, r *Result) error {
	prevailing := 0.0
	if !in.Prevailing.IsZero() {
		v, err := in.Prevailing.In(unit.NewtonMetre)
		if err != nil {
			return refusal.At("prevailing", err)
		}
		prevailing = v
	}
	var err error
	switch in.Target.Mode {
	case Specified:
		err = specified(in, r, prevailing)
	case Share:
		err = share(in, r, prevailing)
	default:
		return refusal.New(refusal.Unknown, "target.mode", fmt.Sprintf("Unknown kind of target %q.", string(in.Target.Mode)), "Choose a torque or a share of strength.")
	}
	if err != nil {
		return err
	}
	r.Accuracy = in.ToolAccuracy
	if r.Accuracy == 0 {
		r.Accuracy = tool.UsualAccuracy(r.Torque)
	}
	// What the nut itself takes never becomes load, so the band is over the rest.
	r.Band, err = friction.Scatter(r.Torque-prevailing, r.Lubricant.Nominal, r.Thread.Diameter, r.Accuracy, r.Lubricant.Spread())
	if err != nil {
		return refusal.At("target.torque", err)
	}
	// The expected spread is linear in the nut factor, the worst case is not: for
	// a wide one the first would reach past the second, which is the bound.
	r.LikelyLow, r.LikelyHigh = max(r.Load*(1-r.Band.Spread), r.Band.Min), min(r.Load*(1+r.Band.Spread), r.Band.Max)
	return nil
}

func specified(in Input, r *Result, prevailing float64) error {
	low, err := newtonMetres("target.torque", in.Target.Torque)
	if err != nil {
		return err
	}
	high := low
	if !in.Target.Max.IsZero() {
		if high, err = newtonMetres("target.max", in.Target.Max); err != nil {
			return err
		}
		if high < low {
			return refusal.Number(refusal.Contradicts, "target.max", high, low, "N·m",
				fmt.Sprintf("The range ends at %.5g N·m, below its start at %.5g N·m.", high, low), "Enter the smaller value first.")
		}
	}
	spec, err := in.lubricant(in.SpecifiedFor)
	if err != nil {
		return refusal.At("specifiedFor", err)
	}
	if spec.Name != r.Lubricant.Name {
		var eqLow, eqHigh float64
		if eqLow, err = equivalent(low, prevailing, spec.Nominal, r.Lubricant.Nominal); err != nil {
			return refusal.At("target.torque", err)
		}
		if eqHigh, err = equivalent(high, prevailing, spec.Nominal, r.Lubricant.Nominal); err != nil {
			return refusal.At("target.torque", err)
		}
		r.Equivalent = (eqLow + eqHigh) / 2
		switch in.Decision {
		case TakeEquivalent:
			low, high = eqLow, eqHigh
		case KeepTorque:
		case Undecided:
			r.Undecided = true
		default:
			return refusal.New(refusal.Unknown, "decision", fmt.Sprintf("Unknown decision %q.", string(in.Decision)), "")
		}
	}
	r.TorqueMin, r.TorqueMax, r.Torque = low, high, (low+high)/2
	r.Load, err = friction.LoadFromTorque(r.Lubricant.Nominal, r.Thread.Diameter, r.Torque, prevailing)
	return refusal.At("target.torque", err)
}

// equivalent converts only the part of a torque that becomes load; the nut's
// prevailing torque is the same whatever the lubrication.
func equivalent(torque, prevailing, kSpec, kJob float64) (float64, error) {
	if torque <= prevailing {
		return 0, refusal.Number(refusal.TooSmall, "target.torque", torque, prevailing, "N·m",
			fmt.Sprintf("%.4g N·m does not overcome the nut's prevailing torque of %.4g N·m.", torque, prevailing), "Check the nut.")
	}
	t, err := friction.EquivalentTorque(torque-prevailing, kSpec, kJob)
	return t + prevailing, err
}

func share(in Input, r *Result, prevailing float64) (err error) {
	strength := r.Strength.Yield
	switch in.Target.Of {
	case OfYield:
	case OfProof:
		if r.Strength.HasProof() {
			strength = r.Strength.Proof
		}
	default:
		return refusal.New(refusal.Unknown, "target.of", fmt.Sprintf("Unknown strength %q.", string(in.Target.Of)), "Choose yield or proof.")
	}
	if r.Load, err = preload.ShareOfStrength(r.Thread, strength, in.Target.Share); err != nil {
		return refusal.At("target.share", err)
	}
	r.Torque, err = friction.TorqueFromLoad(r.Lubricant.Nominal, r.Thread.Diameter, r.Load, prevailing)
	r.TorqueMin, r.TorqueMax = r.Torque, r.Torque
	return refusal.At("prevailing", err)
}

// limits compares the load with what the gasket needs and the bolt bears.
func limits(in Input, r *Result) error {
	mu, err := friction.CoefficientFromK(r.Thread, r.Lubricant.Nominal, friction.FaceOf(r.Thread))
	if err != nil {
		return refusal.At("lubrication", err)
	}
	r.Coefficient = mu
	if r.Utilisation, err = preload.Utilisation(r.Thread, r.Load, r.Lubricant.Nominal, r.Strength.Yield); err != nil {
		return refusal.At("target.torque", err)
	}
	r.Limit = r.Load / r.Utilisation // the stress rises in proportion to the load
	if !unit.AtMost(r.Utilisation, 1) {
		return r.tooMuch(in)
	}
	r.Checks = []Check{
		preload.AtLeast("Seats the gasket", r.Load, r.Needed, "N"),
		preload.AtLeast("Seats it at the low end of what is likely", r.LikelyLow, r.Needed, "N"),
		preload.AtMost("Below yield while it is turned", r.Utilisation, 1, ""),
		preload.AtMost("Below yield at the high end of what is likely", r.LikelyHigh, r.Limit, "N"),
	}
	return nil
}

func (r *Result) tooMuch(in Input) error {
	if in.Target.Mode == Share {
		most := in.Target.Share / r.Utilisation
		return refusal.Number(refusal.TooLarge, "target.share", in.Target.Share, most, "",
			fmt.Sprintf("At %.3g %% the bolt is at %.3g %% of its yield while it is turned; %.3g %% is the most.",
				100*in.Target.Share, 100*r.Utilisation, math.Floor(1000*most)/10), "Take a smaller share, or a stronger grade.")
	}
	most := r.Torque / r.Utilisation
	if r.Equivalent != 0 && in.Decision != TakeEquivalent {
		return refusal.Number(refusal.TooLarge, "lubrication", r.Torque, most, "N·m",
			fmt.Sprintf("The torque was written for %s; with %s, %.4g N·m would load the bolt to %.4g kN, past its yield at %.4g kN.",
				in.SpecifiedFor, in.Lubrication, r.Torque, r.Load/1000, r.Limit/1000),
			fmt.Sprintf("Take the equivalent, %.4g N·m, or use the lubrication it was written for.", r.Equivalent))
	}
	return refusal.Number(refusal.TooLarge, "target.torque", r.Torque, most, "N·m",
		fmt.Sprintf("%.4g N·m on %s with %s would load the bolt to %.4g kN; %s reaches its yield at %.4g kN, which is %.4g N·m.",
			r.Torque, r.Thread.Name, r.Lubricant.Short, r.Load/1000, in.Grade, r.Limit/1000, most),
		"Check the torque, its unit and the lubrication.")
}

func stages(in Input, r *Result) error {
	if err := pass.CheckShares(in.Shares); err != nil {
		return err
	}
	kind, err := gasketKind(in.Gasket.Kind)
	if err != nil {
		return err
	}
	if kind.Crushable {
		if err := pass.CheckFirst(in.Shares[0], kind.Name); err != nil {
			return err
		}
	}
	values, err := pass.Values(r.Torque, in.Shares, Graduation(r.Torque))
	if err != nil {
		return refusal.At("target.torque", err)
	}
	for i, v := range values {
		r.Passes = append(r.Passes, Pass{i + 1, in.Shares[i], r.Torque * in.Shares[i] / 100, v.Torque})
	}
	start := in.Start
	if start == 0 {
		start = 1
	}
	if r.Order, err = sequence.Ring(in.Order, in.Bolts, start); err != nil {
		return err
	}
	r.CheckOrder, err = sequence.Ring(sequence.Circular, in.Bolts, start)
	return err
}

// Graduation returns the step to which a torque in N·m is shown before a tool
// is chosen: a power of ten, between a hundredth and a thousandth of it.
func Graduation(torque float64) float64 {
	return math.Pow(10, math.Floor(math.Log10(torque))-2)
}

func millimetres(field string, q unit.Quantity) (float64, error) {
	return inUnit(field, q, unit.Millimetre)
}

func newtonMetres(field string, q unit.Quantity) (float64, error) {
	return inUnit(field, q, unit.NewtonMetre)
}

func inUnit(field string, q unit.Quantity, u unit.Unit) (float64, error) {
	if q.IsZero() {
		return 0, refusal.New(refusal.Missing, field, "This value is missing.", "Enter a number with its unit.")
	}
	v, err := q.In(u)
	if err != nil {
		return 0, refusal.At(field, err)
	}
	return v, refusal.Positive(field, v, string(u))
}
