package recipes_test

import (
	"maps"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"dynacor/core/recipe"
	"dynacor/core/refusal"
	"dynacor/core/unit"
)

// made is a joint of a variant, its values all in the middle of things.
func made(r recipe.Recipe, choices map[string]string) recipe.Joint {
	j := recipe.Joint{Choices: choices, Values: map[string]unit.Quantity{}, Bolts: map[string]int{}}
	for _, n := range r.Needs {
		j.Values[n.Name] = unit.Of(20, n.Unit)
	}
	for _, g := range r.Groups {
		j.Bolts[g.Name] = min(max(g.Least, 8), max(g.Most, 1))
	}
	return j
}

func variant(choices map[string]string) string {
	var out []string
	for _, k := range slices.Sorted(maps.Keys(choices)) {
		out = append(out, choices[k])
	}
	return strings.Join(out, ", ")
}

// The order of the steps of each recipe, in each variant that changes it; and
// one step that cannot be done at the start, being kept back by the first.
func TestTheOrderOfEveryRecipe(t *testing.T) {
	want := map[string]map[string]string{
		"accumulator":    {"working": "empty set film bladder tool valve nut vent gas slow closed warmth charge leak cap away made checked", "storage": "empty set film bladder tool valve nut vent gas slow closed store leak cap away made checked"},
		"anchors":        {"expansion": "set-out depth clean tool pull level audit away made", "bonded": "set-out depth clean cure tool pull level audit away made"},
		"ball-valve":     {"three": "isolate parts paste stem tool line-1 pull-1 line-2 pull-2 line-3 pull-3 pull-4 mandrel gland path test away made checked", "four": "isolate parts paste stem tool line-1 pull-1 line-2 pull-2 line-3 pull-3 line-4 pull-4 mandrel gland path test away made checked"},
		"bolted-frame":   {"steel": "area parts stand tool hand pull level plumb clear audit away made", "aluminium": "area parts stand no-gun hand pull level plumb clear audit away made"},
		"clamping-disc":  {"steel, with a shoulder, fit": "stop plate degrease dry paste build tool disc-pull clearance halves cover away made", "stainless, without a shoulder, fit": "stop plate degrease dry paste build-ring tool ring-pull disc-pull clearance halves cover away made", "take off": "stop plate held slack slack-all loose-all free made"},
		"closure":        {"torque": "isolate stamps bores flange paste tool retainers pull bleed function test away made checked", "tensioner": "isolate stamps bores flange paste tool retainers draw run-down again bleed function test off made checked"},
		"fluid-coupling": {"aluminium, toward the motor, yes": "stop parts warm build heads-motor ring tool runner spigot four trued rest plugs guard away made", "steel, toward the machine, no": "stop parts warm build heads-machine tool runner spigot four trued rest plugs guard away made"},
		"gasketed-flange": {"studs with two nuts, raised, spiral, make": "isolate parts faces threads high-low holes stand-off lubricate together rims before tool pull gap thread leak away made checked",
			"studs with two nuts, raised, soft, make": "isolate parts faces threads high-low holes stand-off lubricate together rims before tool pull gap thread leak later away made checked",
			"machine bolts, flat, metal ring, make":   "isolate parts faces threads high-low holes stand-off lubricate together-bolts full-face groove rims before tool pull gap thread leak away made checked",
			"re-torque":                               "isolate cold since tool-again again away made checked", "loosen": "isolate held spanner slack apart-first off looked-at away made checked"},
		"gear-reducer":       {"": "clean set grease build phase tool pull squeeze free away made"},
		"hose-clamp":         {"small, male": "cut range dry stop lettering even first tool pull thread test away made", "with fingers, female": "cut range dry swivel fingers even first tool pull thread turns test away made"},
		"hydraulic-wrench":   {"tighten": "zero roles hoses cycle stall arm pull gap down made", "loosen": "zero roles hoses cycle high arm slack slack-all take-off apart down made"},
		"instrument-saddle":  {"": "isolate up down clock hole together tool pull depth mark arrow leak away made"},
		"large-nut":          {"": "stop build reaction pull lock free away made"},
		"push-fit":           {"mild": "groove seal brush ring tool pull contact bend away made", "frost": "groove warm seal brush ring tool pull contact bend away made", "heat": "groove seal brush wet ring tool pull contact bend away made"},
		"split-clamp-outlet": {"": "isolate where drill band seal together tool pull gap leak away made"},
		"structural-splice": {"both square, part turn": "faces lot plates tool snug marked turn line thread sample away made checked", "one sloped, combined": "faces bevel lot plates tool snug first marked second line-2 thread sample away made checked",
			"both sloped, calibrated torque": "faces bevels lot plates tool snug marked pull thread sample away made checked", "both square, indicating washers": "faces lot plates tool snug marked close feeler thread sample away made checked"},
		"taper-bush":      {"fit": "stop nest clean loose tool pull face wobble spin away made", "draw off": "stop support slacken tool jack looked-at made"},
		"transport-frame": {"": "zone parts centre layer-1 tool pull-1 layer-2 pull-2 audit-1 audit-2 count lift away made checked"},
		"tube-fitting":    {"no, in a block first": "empty square round burr order depth finger block-turn cones body-turn turned hidden remade made", "yes, in the body at once": "empty square round burr order depth finger once-turn turned hidden gauge remade made"},
		"torque-wrench":   {"": "tag whole clean set worked tester grip back made"},
		"wheel-nuts":      {"fit": "up clean hand tool pull away made", "re-check": "ran cold tool again away made"},
	}
	for _, r := range shipped(t) {
		expected, ok := want[r.ID]
		require.True(t, ok, r.ID)
		seen := 0
		for _, choices := range r.Variants() {
			steps, asked := expected[variant(choices)]
			w, err := r.Begin(made(r, choices))
			require.NoError(t, err, "%s, %s", r.ID, variant(choices))
			first := w.Offered()[0]
			var order []string
			for !w.Signed() {
				a := w.Offered()[0]
				if len(order) == 0 || order[len(order)-1] != a.Step {
					order = append(order, a.Step)
				}
				if a != first && len(order) == 2 { // what comes later is kept back by what is first
					fresh, err := r.Begin(made(r, choices))
					require.NoError(t, err)
					_, err = fresh.Do(a, recipe.Done{Person: "fitter", Qualifications: everybody})
					require.ErrorIs(t, err, &refusal.Error{Code: refusal.NotNext}, r.ID)
					require.ErrorIs(t, fresh.MaySign(), &refusal.Error{Code: refusal.NotNow, Field: "open"})
				}
				s, _ := w.Step(a)
				w, err = w.Do(a, recipe.Done{Person: "fitter", Qualifications: everybody, Held: s.Hold, Bolts: w.Sample(s.ID), Readings: within(w, s)})
				require.NoError(t, err, "%s: %s", r.ID, a.Step)
			}
			if asked {
				seen++
				require.Equal(t, steps, strings.Join(order, " "), "%s, %s", r.ID, variant(choices))
			}
		}
		require.Equal(t, len(expected), seen, "%s: a variant of the table is none of the recipe", r.ID)
	}
}
