package plan

import (
	"fmt"
	"math"

	"dynacor/core/pass"
	"dynacor/core/sequence"
	"dynacor/core/unit"
)

// mind collects what the technician and the engineer should keep in mind.
func (r *Result) mind(in Input) {
	add := func(code, text string) { r.Minds = append(r.Minds, Mind{Code: code, Text: text}) }
	if r.Equivalent != 0 {
		r.mindLubrication(in)
	}
	if r.Utilisation > WarnYield {
		add("near-yield", fmt.Sprintf("The bolt is at %.0f %% of its yield while it is turned; above 90 %% leaves little room.", 100*r.Utilisation))
	}
	switch {
	case r.Load < r.Needed:
		add("seat", fmt.Sprintf("%s kN does not seat the gasket; it needs %s kN a bolt.", kilo(r.Load), kilo(r.Needed)))
	case r.LikelyLow < r.Needed:
		add("seat-low", fmt.Sprintf("At the low end of what is likely, %s kN, the gasket does not seat; it needs %s kN.", kilo(r.LikelyLow), kilo(r.Needed)))
	}
	if r.LikelyHigh > r.Limit {
		add("limit-high", fmt.Sprintf("At the high end of what is likely, %s kN, the bolt yields; its limit is %s kN.", kilo(r.LikelyHigh), kilo(r.Limit)))
	}
	if in.Target.Mode == Share && in.Target.Of == OfProof && !r.Strength.HasProof() {
		add("no-proof", fmt.Sprintf("No proof stress is published for %s; the share is taken of its yield.", in.Grade))
	}
	if in.Target.Mode == Specified && !in.Target.Max.IsZero() {
		add("range", "The maker gives a range; the plan aims at its middle.")
	}
	if in.Target.Mode == Share {
		add("computed", "This torque is computed. A maker's value for this joint wins over it.")
	}
	for _, k := range GasketKinds() {
		if k.Name == in.Gasket.Kind && k.Soft && in.Shares[0] > pass.WarnOnSoft {
			add("soft-gasket", fmt.Sprintf("A first pass of %g %% at one bolt can pinch a soft gasket there; 20 %% is gentler.", in.Shares[0]))
		}
	}
	if in.Order == sequence.Circular {
		add("circular", "Going round in a circle draws a gasketed ring in on one side first; a cross is usual here.")
	}
	if r.Lubricant.Dry {
		add("dry", "Threads and nut faces stay dry: no oil, no paste. A lubricated bolt would carry much more at this torque.")
	}
}

func (r *Result) mindLubrication(in Input) {
	switch in.Decision {
	case TakeEquivalent:
		r.Minds = append(r.Minds, Mind{Code: "equivalent",
			Text: fmt.Sprintf("The torque was written for %s. On %s it is taken as %s N·m, which gives the same load. The engineer who issues the plan approves this.",
				in.SpecifiedFor, in.Lubrication, number(r.Torque)),
			Offer: "Keep the written torque instead", Take: KeepTorque})
	default:
		change := 100 * ((in.loadRatio(r)) - 1)
		more := "more"
		if change < 0 {
			more = "less"
		}
		text := fmt.Sprintf("The torque was written for %s. With %s the same torque pulls %.0f %% %s.",
			in.SpecifiedFor, in.Lubrication, math.Abs(change), more)
		m := Mind{Code: "lubrication", Text: text, Offer: fmt.Sprintf("Use %s instead of %s N·m", number(r.Equivalent), number(r.Torque)), Take: TakeEquivalent}
		if in.Decision == KeepTorque {
			m.Text += " The written torque is kept; the engineer who issues the plan approves this."
		}
		r.Minds = append(r.Minds, m)
	}
}

// loadRatio is the load the written torque gives on the job against the load
// it was written for.
func (in Input) loadRatio(r *Result) float64 {
	p := 0.0
	if !in.Prevailing.IsZero() {
		p, _ = in.Prevailing.In(unit.NewtonMetre) // checked when the target was found
	}
	return (r.Torque - p) / (r.Equivalent - p)
}

func number(v float64) string { return fmt.Sprintf("%.4g", v) }

func kilo(newtons float64) string { return fmt.Sprintf("%.3g", newtons/1000) }
