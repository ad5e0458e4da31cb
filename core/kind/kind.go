// Package kind knows what belongs to each kind of joint: the orders it is
// tightened in, what another order does to it, the school of staging that is
// usual, and what must be proven before it may be signed.
//
// The lists are the craft's, from practice and from ASME PCC-1 (gasketed
// flanges), EN 1090-2 (structural work) and EN 1591-4 (who may do it). They are
// where a joint begins: a maker's instruction for the type on the nameplate
// replaces them, and a site may ask for more.
package kind

import (
	"fmt"
	"slices"
	"sync"

	"dynacor/core/proof"
	"dynacor/core/refusal"
	"dynacor/core/sequence"
)

// Kind is a kind of joint.
type Kind struct {
	Name     string
	Orders   []sequence.Pattern  // its own, the usual one first; none: one bolt, or no order
	School   string              // name of the usual preset; empty where nothing is staged
	Against  string              // what an order that is not its own does
	Proofs   []proof.Requirement // in the order they are proven
	Optional []proof.Requirement // where the maker or the gasket asks for it
}

// All lists the kinds.
func All() []Kind { return slices.Clone(kinds()) }

// kinds is the list, made once: every plan looks its kind up several times.
var kinds = sync.OnceValue(func() []Kind {
	crosses := []sequence.Pattern{sequence.Cross4, sequence.Apart4, sequence.Cross8, sequence.Star}
	rounds := []sequence.Pattern{sequence.Circular, sequence.Backward}
	pair := []sequence.Pattern{sequence.Alternating}
	plates := []sequence.Pattern{sequence.CentreOut}
	return []Kind{
		{"gasketed pipe flange", crosses, "30-60-100", "Going round draws the ring in on one side first and crushes the gasket there.",
			[]proof.Requirement{proof.FitUp, proof.NothingMoved, proof.GapParallel, proof.Protruding, proof.PressureTest},
			[]proof.Requirement{proof.Retorqued}},
		{"clamping disc on a hollow shaft", rounds, "full value, round and round",
			"A cross tilts the disc, and a tilted disc does not clamp.",
			[]proof.Requirement{proof.PartsMatch, proof.NothingMoved, proof.ClearanceKept, proof.GapParallel, proof.LockedAndCovered}, nil},
		{"taper-bush hub", rounds, "little and often", "One side drawn in first makes the hub wobble.",
			[]proof.Requirement{proof.NothingMoved, proof.GapParallel, proof.RunOut, proof.FreeRotation}, nil},
		{"two-bolt hose clamp", pair, "even turns", "One side drawn up first leaves the clamp crooked on the hose.",
			[]proof.Requirement{proof.EqualThread, proof.PressureTest}, nil},
		{"drilled outlet with split clamp", pair, "even turns", "One side drawn up first lifts the seal on the other.",
			[]proof.Requirement{proof.ClearanceKept, proof.PressureTest}, nil},
		{"instrument saddle with strap clamps", pair, "even turns", "One strap drawn up first tips the saddle.",
			[]proof.Requirement{proof.InPosition, proof.PressureTest}, nil},
		{"multi-port ball valve", crosses, "20-60-100", "Going round pulls the end off the line of the ball.",
			[]proof.Requirement{proof.PartsMatch, proof.NothingMoved, proof.FunctionalTorque, proof.FreeRotation, proof.PressureTest}, nil},
		{"fluid coupling", crosses, "quarters first", "Going round pulls the casing out of true.",
			[]proof.Requirement{proof.PartsMatch, proof.NothingMoved, proof.RunOut, proof.LockedAndCovered}, nil},
		{"gear reducer", crosses, "50-100", "Going round squeezes the gasket out at one side.",
			[]proof.Requirement{proof.PartsMatch, proof.InPosition, proof.NothingMoved, proof.FreeRotation}, nil},
		{"bladder accumulator", nil, "", "", []proof.Requirement{proof.PartsMatch, proof.PressureTest}, nil},
		{"two-ferrule tube fitting", nil, "", "", []proof.Requirement{proof.TurnsMade, proof.InPosition},
			[]proof.Requirement{proof.PressureTest}},
		{"restrained push-fit pipe joint", nil, "", "", []proof.Requirement{proof.GapParallel, proof.InPosition},
			[]proof.Requirement{proof.PressureTest}},
		{"bolted frame, stair or platform", plates, "50-100", "From the edge inward the stiff middle never closes.",
			[]proof.Requirement{proof.PartsMatch, proof.LevelHeld, proof.ResidualSample}, nil},
		{"structural splice", plates, "50-100", "From the edge inward the stiff middle never closes.",
			// By turns or washers it is the turn that is measured; a torque audit says something after the torque method alone.
			[]proof.Requirement{proof.Protruding}, []proof.Requirement{proof.TurnsMade, proof.ResidualSample}},
		{"anchor bolts", crosses, "50-100", "Going round tips the base plate.", []proof.Requirement{proof.LevelHeld, proof.ResidualSample},
			nil},
		{"layered transport frame", pair, "50-100", "One bolt of a post drawn up first tips it.",
			[]proof.Requirement{proof.PartsMatch, proof.ResidualSample, proof.LockedAndCovered}, nil},
		{"high-pressure closure", crosses, "25-50-75-100", "Going round tips the bonnet and shears its seals.",
			[]proof.Requirement{proof.PartsMatch, proof.NothingMoved, proof.PressureTest}, []proof.Requirement{proof.Stretched}},
		{"single large nut", nil, "", "", []proof.Requirement{proof.FreeRotation, proof.LockedAndCovered}, nil},
		{"wheel or hub nuts", []sequence.Pattern{sequence.Star, sequence.Cross4}, "30-70-100",
			"Going round seats the wheel off its centre.", []proof.Requirement{proof.NothingMoved}, []proof.Requirement{proof.Retorqued}},
		{"joint by hydraulic wrench", crosses, "30-60-100", "Going round draws the ring in on one side first.",
			[]proof.Requirement{proof.NothingMoved, proof.GapParallel}, []proof.Requirement{proof.PressureTest}},
		{"torque wrench in use", nil, "", "", []proof.Requirement{proof.PartsMatch, proof.FunctionalTorque}, nil},
	}
})

// Named returns the kind of that name.
func Named(name string) (Kind, error) {
	for _, k := range kinds() {
		if k.Name == name {
			return k, nil
		}
	}
	return Kind{}, refusal.New(refusal.Unknown, "kind", fmt.Sprintf("Unknown kind of joint %q.", name), "Choose one from the list.")
}

// A cross over this many bolts or more takes each foursome far from the last.
const apartFrom = 16

// Order returns the kind's own order for n bolts: the first of its orders that
// n allows, a large ring's cross with its foursomes apart. ok is false where it
// has none.
func (k Kind) Order(n int) (p sequence.Pattern, ok bool) {
	for _, p := range k.Orders {
		switch p {
		case sequence.Alternating:
			if n == 2 {
				return p, true
			}
		case sequence.CentreOut:
			return p, n >= 1
		default:
			if p.Fits(n) != nil {
				continue
			}
			if p == sequence.Cross4 && n >= apartFrom && slices.Contains(k.Orders, sequence.Apart4) {
				p = sequence.Apart4
			}
			return p, true
		}
	}
	return "", false
}

// Warn returns what an order does to this kind where it is not its own. Such
// an order may be chosen, with a reason; CheckReason wants it.
func (k Kind) Warn(p sequence.Pattern) (warning string, against bool) {
	if len(k.Orders) == 0 || slices.Contains(k.Orders, p) {
		return "", false
	}
	return k.Against, true
}

// CheckReason refuses an order against the kind without a reason.
func (k Kind) CheckReason(p sequence.Pattern, reason string) error {
	warning, against := k.Warn(p)
	if !against || reason != "" {
		return nil
	}
	return refusal.New(refusal.NeedsReason, "order", warning, fmt.Sprintf("Take %s, or say why not.", k.Orders[0]))
}
