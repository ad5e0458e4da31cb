package recipes_test

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"dynacor/core/job"
	"dynacor/core/recipe"
	"dynacor/core/run"
	"dynacor/core/unit"
)

// anyJoint lays out a row of a recipe's sheet in a variant.
func anyJoint(t *rapid.T) (job.Plan, bool) {
	r := rapid.SampledFrom(shipped(t)).Draw(t, "recipe")
	choices := rapid.SampledFrom(r.Variants()).Draw(t, "variant")
	row := rapid.SampledFrom(r.Sheet.Rows).Draw(t, "row")
	if !row.When.Holds(choices) {
		return job.Plan{}, false
	}
	in := laid(r, row, choices)
	res, err := job.Compute(in, r)
	require.NoError(t, err)
	p, err := job.Follow(in, r, res)
	require.NoError(t, err)
	return p, true
}

// Whatever is done on a joint of any kind, in whatever order it is offered, with
// corrections, trouble, moved nuts and samples that widen: all entries folded at
// once give what one after the other gave, and nothing is signed while anything
// is open.
func TestAnyRunOfAnyKindFolds(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		p, ok := anyJoint(t)
		if !ok {
			return
		}
		s := job.Fold(p, nil)
		var entries []run.Entry
		try := func(c run.Content) error {
			e := run.Entry{ID: fmt.Sprint("e", len(entries)), Seq: len(entries) + 1, Person: "fitter", Content: c}
			if err := s.Accept(e, everybody); err != nil {
				return err
			}
			s, entries = s.Then(e), append(entries, e)
			return nil
		}
		for _, g := range p.Result.Groups {
			if g.How != recipe.ByTorque {
				continue
			}
			tool := run.Tooling{Group: g.Name}
			for i, torque := range g.Torques {
				tool.Passes = append(tool.Passes, run.PassTool{Pass: i + 1, Tools: []string{"TW"}, Torque: torque, Lands: torque, Setting: unit.Of(torque, unit.NewtonMetre)})
			}
			require.NoError(t, try(tool))
		}
		var steps []string
		for n := 0; n < 400 && s.Stage != run.StageSign; n++ {
			if s.Stage == run.StageStopped {
				require.NoError(t, try(run.Decision{Reason: "looked at"}))
				continue
			}
			a := rapid.SampledFrom(s.Work.Offered()).Draw(t, "act")
			st, _ := s.Work.Step(a)
			if len(st.Cautions) > 0 && !s.Cautioned[st.ID]["fitter"] {
				require.NoError(t, try(run.Caution{Step: st.ID}))
			}
			c := run.Step{Step: a.Step, Bolt: a.Bolt, Share: a.Share, Turn: a.Turn, Stroke: a.Stroke, Lock: a.Lock, Round: a.Round, Held: st.Hold, Bolts: s.Work.Sample(st.ID), Readings: within(s.Work, st)}
			if st.Does == recipe.Match {
				for _, part := range s.Work.Parts() {
					c.Marks = append(c.Marks, part.Name+": seen")
				}
			}
			switch k := rapid.IntRange(0, 40).Draw(t, "what"); {
			case k == 0 && len(steps) > 0:
				_ = try(run.Correction{Of: rapid.SampledFrom(steps).Draw(t, "of"), Reason: "it did not happen"})
				continue
			case k == 1 && a.Bolt > 0 && !a.Lock:
				_ = try(run.Trouble{Step: a.Step, Bolt: a.Bolt, What: run.Overshot, Remedy: run.Replaced})
				continue
			case k < 6 && a.Round > 0:
				c.Moved = true
			case k < 10 && len(c.Readings) > 0:
				c.Readings[0] += 1000
				if !s.Work.Widens(st.ID) && st.Does != recipe.Adjust {
					c.Reason = "the maker allows it"
				}
			}
			require.NoError(t, try(c), "%+v", c)
			steps = append(steps, entries[len(entries)-1].ID)
			require.Equal(t, s.Stage == run.StageSign, len(s.Open()) == 0, "%v", s.Open())
			if s.Stage != run.StageSign {
				require.Error(t, s.Accept(run.Entry{Person: "fitter", Content: run.Signature{Part: run.Made}}, everybody))
			}
		}
		again := job.Fold(p, entries)
		require.Equal(t, s.Stage, again.Stage)
		require.Equal(t, s.Work.Offered(), again.Work.Offered())
		require.Equal(t, s.Bolts(), again.Bolts())
		require.Equal(t, s.AllDeviations(), again.AllDeviations())
		for _, b := range s.Bolts() {
			require.False(t, b.Level < 0 || b.Level > 1)
		}
	})
}
