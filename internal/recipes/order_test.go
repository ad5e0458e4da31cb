package recipes_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"dynacor/core/record"
	"dynacor/core/refusal"
	"dynacor/core/work/worktest"
)

// The order of the steps of each recipe, in each variant that changes it; and
// one step that cannot be done at the start, being kept back by the first.
func TestTheOrderOfEveryRecipe(t *testing.T) {
	want := map[string]map[string]string{
		"accumulator": {"working": "empty set film bladder tool valve nut vent gas slow closed warmth charge leak cap away",
			"storage": "empty set film bladder tool valve nut vent gas slow closed store leak cap away"},
		"anchors": {"expansion": "set-out depth clean tool pull level audit away",
			"bonded": "set-out depth clean cure tool pull level audit away"},
		"ball-valve": {"three": "isolate parts paste stem tool line-1 pull-1 line-2 pull-2 line-3 pull-3 pull-4 mandrel gland path " +
			"test away", "four": "isolate parts paste stem tool line-1 pull-1 line-2 pull-2 line-3 pull-3 line-4 pull-4 mandrel gland " +
			"path test away"},
		"bolted-frame": {"steel": "area parts stand tool hand pull level plumb clear audit away",
			"aluminium": "area parts stand no-gun hand pull level plumb clear audit away"},
		"clamping-disc": {"steel, with a shoulder, fit": "stop plate degrease dry paste build tool disc-pull clearance halves cover away",
			"stainless, without a shoulder, fit": "stop plate degrease dry paste build-ring tool ring-pull disc-pull clearance halves " +
				"cover away", "take off": "stop plate held slack slack-all loose-all free"},
		"closure": {"torque": "isolate stamps bores flange paste tool retainers pull bleed function test away",
			"tensioner": "isolate stamps bores flange paste tool retainers draw run-down again bleed function test off"},
		"fluid-coupling": {"aluminium, toward the motor, yes": "stop parts warm build heads-motor ring tool runner spigot four trued " +
			"rest plugs guard away", "steel, toward the machine, no": "stop parts warm build heads-machine tool runner spigot four trued " +
			"rest plugs guard away"},
		"gasketed-flange": {"studs with two nuts, raised, spiral, make": "isolate parts faces threads high-low holes stand-off lubricate " +
			"together rims before tool pull gap thread leak away",
			"studs with two nuts, raised, soft, make": "isolate parts faces threads high-low holes stand-off lubricate together rims " +
				"before tool pull gap thread leak later away",
			"machine bolts, flat, metal ring, make": "isolate parts faces threads high-low holes stand-off lubricate together-bolts " +
				"full-face groove rims before tool pull gap thread leak away",
			"re-torque": "isolate cold binder since tool-again again away",
			"loosen":    "isolate held spanner slack apart-first off looked-at away"},
		"gear-reducer": {"": "clean set grease build phase tool pull squeeze free away"},
		"hose-clamp": {"small, male": "cut range dry stop lettering even first tool pull thread test away",
			"with fingers, female": "cut range dry swivel fingers even first tool pull thread turns test away"},
		"hydraulic-wrench": {"tighten": "zero roles hoses cycle stall arm pull gap down",
			"loosen": "zero roles hoses cycle high arm slack slack-all take-off apart down"},
		"instrument-saddle": {"": "isolate up down clock hole together tool pull depth mark arrow leak away"},
		"large-nut":         {"": "stop build reaction pull lock free away"},
		"push-fit": {"mild": "groove seal brush ring tool pull contact bend away",
			"frost": "groove warm seal brush ring tool pull contact bend away",
			"heat":  "groove seal brush wet ring tool pull contact bend away"},
		"split-clamp-outlet": {"": "isolate where drill band seal together tool pull gap leak away"},
		"structural-splice": {"both square, part turn": "held faying lot plies plates tool snug contact marked turn line thread away",
			"combined":                        "held faying lot tested plies plates tool snug contact first marked second line-2 thread away",
			"both sloped, calibrated torque":  "held faying slope bevels lot tested plies plates tool snug contact first marked pull thread sample away",
			"both square, indicating washers": "held faying lot plies plates tool snug contact marked close feeler thread away"},
		"taper-bush": {"fit": "stop nest clean loose tool pull face wobble spin away",
			"draw off": "stop support slacken tool jack looked-at"},
		"transport-frame": {"": "zone parts centre layer-1 tool pull-1 layer-2 pull-2 audit-1 audit-2 count lift away"},
		"tube-fitting": {"no, in a block first": "empty square round burr order depth finger block-turn cones body-turn turned hidden " +
			"remade", "yes, in the body at once": "empty square round burr order depth finger once-turn turned hidden gauge remade"},
		"torque-wrench": {"": "tag whole clean set worked tester grip back"},
		"wheel-nuts":    {"fit": "up clean hand tool pull away", "re-check": "ran cold tool again away"},
	}
	for _, r := range shipped(t) {
		expected, ok := want[r.ID]
		require.True(t, ok, r.ID)
		seen := 0
		for _, choices := range r.Variants() {
			steps, asked := expected[variant(choices)]
			p := plan(t, r, choices)
			h := worktest.New(t, p)
			first := h.Next()
			var order []string
			for h.State.Standing != record.Sign {
				a := h.Next()
				if added := strings.HasPrefix(a.Step, "condition-"); !added && (len(order) == 0 || order[len(order)-1] != a.Step) {
					order = append(order, a.Step)
				}
				if a != first && len(order) == 2 { // what comes later is kept back by what is first
					fresh := worktest.New(t, p)
					require.ErrorIs(t, fresh.Try(fresh.Done(a)), &refusal.Error{Code: refusal.NotNext}, r.ID)
					require.ErrorIs(t, fresh.Try(record.Signature{Part: record.Made}), &refusal.Error{Code: refusal.NotNow, Field: "open"})
				}
				h.Do(a)
			}
			if asked {
				seen++
				require.Equal(t, steps, strings.Join(order, " "), "%s, %s", r.ID, variant(choices))
			}
		}
		require.Equal(t, len(expected), seen, "%s: a variant of the table is none of the recipe", r.ID)
	}
}
