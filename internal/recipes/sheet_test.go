package recipes_test

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"dynacor/core/friction"
	"dynacor/core/joint"
	"dynacor/core/preload"
	"dynacor/core/thread"
	"dynacor/core/work"
)

// The part turns of the splices are those of the rules for any length in their
// span, and the lot's torque reaches the pretension, 0.7·fub·As (EN 1090-2).
func TestTheSplicesSheetIsTheRules(t *testing.T) {
	splice := named(t, "structural-splice")
	sloped := map[string]int{"both square": 0, "one sloped": 1, "both sloped": 2}
	for _, row := range splice.Sheet.Rows {
		var size string
		var from, to float64
		_, err := fmt.Sscanf(strings.NewReplacer(",", "", " mm", "").Replace(row.Size), "%s %f to %f", &size, &from, &to)
		require.NoError(t, err, row.Size)
		th, err := thread.Parse(size)
		require.NoError(t, err)
		wanted, err := preload.Pretension(th, 1000)
		require.NoError(t, err)
		switch row.When["method"] {
		case "part turn":
			for _, l := range []float64{from, to} {
				turn, err := preload.PartTurn(th.Diameter, l, sloped[row.When["faces"]])
				require.NoError(t, err)
				require.Equal(t, row.Values["part turn"], []float64{turn}, "%s, %s, %g mm", row.Size, row.When["faces"], l)
			}
		case "combined":
			for _, l := range []float64{from, to} {
				turn, err := preload.CombinedTurn(th.Diameter, l)
				require.NoError(t, err)
				require.Equal(t, row.Values["second turn"], []float64{turn}, "%s, %g mm", row.Size, l)
			}
			require.InDelta(t, 0.75*row.Values["inspection torque"][0], row.Values["first torque"][0], 1)
		case "calibrated torque":
			load, err := friction.LoadFromTorque(0.14, th.Diameter, row.Values["torque"][0], 0)
			require.NoError(t, err)
			require.GreaterOrEqual(t, load, wanted, row.Size)
		}
	}
}

// Every row of every sheet gives a plan that may be issued and whose run may be
// followed to its end, with no bolt past nine tenths of its yield.
func TestEveryRowOfEverySheetGivesAPlan(t *testing.T) {
	for _, r := range shipped(t) {
		rows := 0
		for _, choices := range r.Variants() {
			for _, row := range r.Sheet.Rows {
				if !row.When.Holds(choices) {
					continue
				}
				rows++
				in := laid(r, row, choices)
				res, err := joint.Compute(in, r)
				require.NoError(t, err, "%s %s %s", r.ID, row.Size, variant(choices))
				require.Empty(t, res.Open, "%s %s %s", r.ID, row.Size, variant(choices))
				require.Empty(t, res.Deviations)
				for _, g := range res.Groups {
					most := 0.9
					if r.Kind == "structural splice" { // its pretension is seven tenths of the strength
						most = 0.93
					}
					require.LessOrEqual(t, g.Utilisation, most, "%s %s %s %s", r.ID, row.Size, variant(choices), g.Name)
					require.Len(t, g.Order, g.Count)
				}
				p, err := work.Lay(in, r, res)
				require.NoError(t, err, "%s %s %s", r.ID, row.Size, variant(choices))
				require.NotEmpty(t, work.Begin(p).Open())
			}
		}
		require.Positive(t, rows, r.ID)
	}
}
