package job_test

import (
	"testing"

	"github.com/stretchr/testify/require"

	"dynacor/core/job"
	"dynacor/core/plan"
	"dynacor/core/recipe"
	"dynacor/core/refusal"
	"dynacor/core/sequence"
	"dynacor/core/unit"
)

// over is a small recipe of what follows on a flange.
func over() recipe.Recipe {
	nm := unit.NewtonMetre
	return recipe.Recipe{
		ID: "flange", Title: "Flange", Kind: "gasketed pipe flange", Edition: 4,
		Choices: []recipe.Choice{{Name: "work", Text: "What", Options: []string{"again", "off"}}},
		Undoes:  recipe.When{"work": "off"}, Again: recipe.When{"work": "again"},
		Needs: []recipe.Need{{Name: "torque", Text: "Torque", Unit: nm, When: recipe.When{"work": "again"}}},
		Groups: []recipe.Group{
			{Name: "studs", Layout: recipe.Ring, Least: 4, Most: 200, How: recipe.ByTorque, Value: "torque", Stands: true, Still: true, When: recipe.When{"work": "again"}},
			{Name: "tight studs", Layout: recipe.Ring, Least: 4, Most: 200, How: recipe.ByTurns, Turns: []float64{90}, When: recipe.When{"work": "off"}},
			{Name: "slack studs", Of: "tight studs", Layout: recipe.Ring, Least: 4, Most: 200, How: recipe.ByHand, When: recipe.When{"work": "off"}},
		},
		Steps: []recipe.Step{
			{ID: "round", Does: recipe.Tighten, Station: recipe.AtBolts, Text: "Round", Group: "studs", When: recipe.When{"work": "again"}, Proves: "a whole check round moved nothing"},
			{ID: "back", Does: recipe.Turn, Station: recipe.AtBolts, Text: "Back", Group: "tight studs", When: recipe.When{"work": "off"}},
			{ID: "off", Does: recipe.Tighten, Station: recipe.AtBolts, Text: "Off", Group: "slack studs", When: recipe.When{"work": "off"}},
			{ID: "made", Does: recipe.Sign, Station: recipe.AtRecord, Text: "Made"},
		},
	}
}

func TestWhatFollowsOnAFlange(t *testing.T) {
	r := over()
	require.NoError(t, r.Check())
	require.Equal(t, []string{"again", "off"}, job.Follows(r))
	in := plan.Starting()
	in.Bolts, in.Thread, in.Grade, in.SpecifiedFor, in.Lubrication = 8, "3/4-10 UNC", "B7", "light oil", "light oil"
	in.Target = plan.Target{Mode: plan.Specified, Torque: unit.Of(150, unit.FootPound), Of: plan.OfYield, Share: 0.5}
	res, err := plan.Compute(in)
	require.NoError(t, err)

	again, err := job.FromRing(in, res, r, "again")
	require.NoError(t, err)
	require.Equal(t, unit.Of(150, unit.FootPound), again.Values["torque"].Value, "as it was written")
	laid, err := job.Compute(again, r)
	require.NoError(t, err)
	require.Empty(t, laid.Open)
	require.Empty(t, laid.Deviations)
	require.InDelta(t, res.Torque, laid.Groups[0].Torque, 1e-9)
	require.InDelta(t, res.Load, laid.Groups[0].Load, 1e-6, "the same load as the plan gave")
	p, err := job.Follow(again, r, laid)
	require.NoError(t, err)
	bolts := job.Fold(p, nil).Bolts()
	require.Len(t, bolts, 8)
	require.InDelta(t, 1, bolts[0].Level, 0, "it stands")
	require.Equal(t, 1, p.Work.Offered()[0].Round)
	require.True(t, job.Fold(p, nil).Again())

	// Where the equivalent was taken, that is what the bolts hold.
	in.Lubrication, in.Decision = "molybdenum disulphide paste", plan.TakeEquivalent
	res, err = plan.Compute(in)
	require.NoError(t, err)
	again, err = job.FromRing(in, res, r, "again")
	require.NoError(t, err)
	require.InDelta(t, res.Torque, again.Values["torque"].Value.Value, 1e-9)
	laid, err = job.Compute(again, r)
	require.NoError(t, err)
	require.Empty(t, laid.Open, "nothing is converted twice")
	require.InDelta(t, res.Load, laid.Groups[0].Load, 1e-6)

	off, err := job.FromRing(in, res, r, "off")
	require.NoError(t, err)
	require.Empty(t, off.Values)
	require.Equal(t, 8, off.Groups["tight studs"].Count)
	require.NotContains(t, off.Groups, "slack studs", "those are the same bolts")
	require.Equal(t, in.Order, off.Groups["tight studs"].Order)
	in.Order = sequence.Circular
	off, err = job.FromRing(in, res, r, "off")
	require.NoError(t, err)
	laid, err = job.Compute(off, r)
	require.NoError(t, err)
	require.Empty(t, laid.Open)
	require.Contains(t, laid.Deviations[0], "Because: the order it was made in")
	in.Prevailing = unit.Of(12, unit.NewtonMetre)
	_, err = job.FromRing(in, res, r, "again")
	require.ErrorIs(t, err, &refusal.Error{Code: refusal.NotNow, Field: "work"})
	_, err = job.FromRing(in, res, r, "off")
	require.NoError(t, err, "loosening asks for no torque")
	_, err = job.FromRing(in, res, r, "paint")
	require.ErrorIs(t, err, &refusal.Error{Code: refusal.Unknown, Field: "work"})
}
