package app_test

import (
	"slices"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/require"

	"dynacor/core/job"
	"dynacor/core/refusal"
	"dynacor/core/run"
	"dynacor/core/tool"
	"dynacor/core/unit"
	"dynacor/internal/app"
	"dynacor/internal/demo"
	"dynacor/internal/pgdev/pgtest"
)

// Each of the demo's joints of every kind has its recipe, its drawing with every
// bolt, and a record that names what is open.
func TestEveryKindHasItsJoint(t *testing.T) {
	s := pgtest.Store(t)
	a := app.New(s, time.Now)
	w, err := a.Wall(ctx, who(t, s, "marta"))
	require.NoError(t, err)
	kinds := map[string]int{}
	for _, c := range w.Cards {
		if c.Recipe == nil {
			continue
		}
		kinds[c.Recipe.ID]++
		bolts := 0
		for _, g := range c.Job.Groups {
			if g.Of == "" {
				bolts += g.Count
			}
		}
		require.Len(t, c.Figure().Bolts, bolts, c.Joint.Tag)
		if c.Run != nil {
			require.Len(t, c.Run.Job.Bolts(), bolts, c.Joint.Tag)
			again := job.Fold(c.Run.Follow, entriesOf(c.Run.Job))
			require.Equal(t, c.Run.Job.Stage, again.Stage, c.Joint.Tag)
		}
	}
	all, err := a.Library(ctx)
	require.NoError(t, err)
	for _, r := range all {
		if r.ID != "gasketed-flange" { // the ring planner lays those out
			require.Positive(t, kinds[r.ID], r.ID)
		}
	}
	faults, _, _, err := s.Audit(ctx)
	require.NoError(t, err)
	require.Empty(t, faults, "plans of either form are chained")
}

func entriesOf(s *job.State) []run.Entry {
	var out []run.Entry
	for _, x := range s.Effective {
		out = append(out, x.Entry)
	}
	return out
}

// A value below a wrench's range is refused, from the crib and by hand.
func TestATorqueBelowTheWrenchsRange(t *testing.T) {
	s := pgtest.Store(t)
	a := app.New(s, time.Now)
	joint := tagged(t, s, "CW / TEMP SADDLE")
	ways, err := a.Ways(ctx, joint, "straps", nil)
	require.NoError(t, err)
	require.NoError(t, ways[0].Refused)
	for _, w := range ways {
		if w.Chain.Wrench.Tag == "TW-04" {
			require.ErrorIs(t, w.Refused, &refusal.Error{Code: refusal.OutOfRange})
			require.ErrorContains(t, w.Refused, "5 N·m")
		}
	}
	j, err := a.Joint(ctx, joint)
	require.NoError(t, err)
	_, err = a.Choose(ctx, j.Run.Head.ID, "straps", "TW-04", "", nil)
	require.ErrorIs(t, err, &refusal.Error{Code: refusal.OutOfRange})
	hand := &app.HandTool{Tag: "MINE", Min: 10, Max: 100, Unit: unit.NewtonMetre, Scale: tool.Scale{First: 10, Major: 10, Minor: 0.5}, Accuracy: 0.04}
	_, err = a.Choose(ctx, j.Run.Head.ID, "straps", "", "", hand)
	require.Error(t, err)
	_, err = a.Ways(ctx, joint, "no such group", nil)
	require.ErrorIs(t, err, &refusal.Error{Code: refusal.Unknown, Field: "group"})
}

// A draft that cannot be changes nothing; two who change it at once see it; one
// with something open is not issued.
func TestDraftsOfAJointThatARecipeLeads(t *testing.T) {
	s := pgtest.Store(t)
	a := app.New(s, time.Now)
	marta, edda := who(t, s, "marta"), who(t, s, "edda")
	areas, err := s.Areas(ctx)
	require.NoError(t, err)
	j, err := a.AddJoint(ctx, marta, areas[0].ID, "RK / X DISC", "A disc", "clamping-disc")
	require.NoError(t, err)
	in := j.Job.Input
	in.Type, in.Size = "HD", "75"
	in.Choices = map[string]string{"work": "fit", "shaft": "with a shoulder", "material": "steel"}
	d, err := a.SaveJob(ctx, marta, j.ID, 0, in)
	require.NoError(t, err)
	_, err = a.SaveJob(ctx, marta, j.ID, 0, in)
	var stale *app.Error
	require.ErrorAs(t, err, &stale)
	require.Equal(t, "changed-meanwhile", stale.Code)
	bad := in
	bad.Values = map[string]job.Given{"disc torque": {Value: unit.Of(300, unit.NewtonMetre)}}
	_, err = a.SaveJob(ctx, marta, j.ID, d.Version, bad)
	require.ErrorIs(t, err, &refusal.Error{Code: refusal.TooLarge})
	j, err = a.Joint(ctx, j.ID)
	require.NoError(t, err)
	require.Empty(t, j.Job.Input.Values)
	_, err = a.SaveDraft(ctx, marta, j.ID, 0, j.Draft.Input)
	require.ErrorAs(t, err, &stale)

	in.Choices = map[string]string{"work": "fit", "shaft": "with a shoulder"}
	d, err = a.SaveJob(ctx, marta, j.ID, j.Job.Version, in)
	require.NoError(t, err)
	_, err = a.Issue(ctx, edda, j.ID, d.Version, demo.Pin, "")
	require.ErrorIs(t, err, &refusal.Error{Code: refusal.NeedsDecision, Field: "choices.material"})
	_, err = a.AddJoint(ctx, marta, areas[0].ID, "RK / Y DISC", "A disc", "no-such-recipe")
	require.ErrorIs(t, err, &refusal.Error{Code: refusal.Unknown, Field: "recipe"})
}

// A plan keeps the edition it was issued by, whatever comes after.
func TestAPlanKeepsItsEdition(t *testing.T) {
	s := pgtest.Store(t)
	a := app.New(s, time.Now)
	edda := who(t, s, "edda")
	joint := tagged(t, s, "RK / GEARBOX DISC")
	before, err := a.Joint(ctx, joint)
	require.NoError(t, err)
	file, r, err := a.RecipeFile(ctx, "clamping-disc", "yaml")
	require.NoError(t, err)
	require.Equal(t, 1, r.Edition)
	file = append(file, "\n# the same\n"...)
	e, err := a.AddRecipe(ctx, edda, file)
	require.NoError(t, err)
	require.Equal(t, 2, e.Edition)
	after, err := a.Joint(ctx, joint)
	require.NoError(t, err)
	require.Equal(t, before.Run.Plan.Job.Input.Edition, after.Run.Plan.Job.Input.Edition)
	require.Equal(t, before.Run.Job.Work.Offered(), after.Run.Job.Work.Offered())
	require.Equal(t, 2, after.Job.Newer)

	_, err = a.AddRecipe(ctx, edda, []byte("id: clamping-disc\ntitle: x\nkind: taper-bush hub\n"))
	require.Error(t, err)
	require.Error(t, a.Retire(ctx, edda, "clamping-disc", " "))
	require.NoError(t, a.Retire(ctx, edda, "clamping-disc", "no longer bought"))
	areas, err := s.Areas(ctx)
	require.NoError(t, err)
	_, err = a.AddJoint(ctx, edda, areas[0].ID, "RK / Z DISC", "A disc", "clamping-disc")
	require.ErrorContains(t, err, "retired: no longer bought")
	require.NoError(t, a.Return(ctx, "clamping-disc"))
	_, err = a.AddJoint(ctx, edda, areas[0].ID, "RK / Z DISC", "A disc", "clamping-disc")
	require.NoError(t, err)
	_, err = s.Pool().Exec(ctx, "update recipes set body = ''")
	require.Error(t, err, "editions are only added to")
}

// A step for a qualified person takes that person's PIN, on anybody's device;
// another's, or a wrong one, is refused and nothing is stored.
func TestAStepForAQualifiedPerson(t *testing.T) {
	s := pgtest.Store(t)
	a := app.New(s, time.Now)
	jonas := who(t, s, "jonas")
	j, err := a.Joint(ctx, tagged(t, s, "RK / ACCUMULATOR"))
	require.NoError(t, err)
	add := func(c run.Content, as, pin string) (app.Run, error) {
		return a.AddEntry(ctx, jonas, app.NewEntry{Run: j.Run.Head.ID, ID: uuid.New(), At: time.Now(), Content: c, Led: true, As: as, Pin: pin})
	}
	_, err = add(run.Caution{Step: "empty"}, "", "")
	require.NoError(t, err)
	for _, c := range []struct{ as, pin string }{{"", demo.Pin}, {"marta", demo.Pin}, {"piet", "0000"}, {"nobody", demo.Pin}} {
		_, err = add(run.Step{Step: "empty"}, c.as, c.pin)
		require.Error(t, err, "%+v", c)
	}
	r, err := add(run.Step{Step: "empty"}, "Piet ", demo.Pin)
	require.NoError(t, err)
	require.Equal(t, 2, r.Head.HeadSeq)
	last := r.Job.Effective[1]
	require.Equal(t, jonas.ID.String(), last.Entry.Person)
	require.Equal(t, who(t, s, "piet").ID.String(), last.Content.(run.Step).Qualified)
	i := slices.IndexFunc(a.Steps(ctx, r.Job), func(l app.StepLine) bool { return l.Step.ID == "empty" })
	require.Contains(t, a.Steps(ctx, r.Job)[i].By, "with the PIN of Piet Vanderhale")

	// An entry of the other form does not belong here.
	_, err = a.AddEntry(ctx, jonas, app.NewEntry{Run: j.Run.Head.ID, ID: uuid.New(), At: time.Now(), Content: run.Pause{}})
	require.ErrorContains(t, err, "laid out another way")
}

// After a signed run an engineer may issue the work that follows, with the
// reason; the signed run stays as it was.
func TestTheWorkThatFollows(t *testing.T) {
	s := pgtest.Store(t)
	a := app.New(s, time.Now)
	edda := who(t, s, "edda")
	joint := tagged(t, s, "RK / HEAD PULLEY")
	j, err := a.Joint(ctx, joint)
	require.NoError(t, err)
	require.Equal(t, run.StageSigned, j.Run.Stage())
	in := j.Job.Input
	in.Choices = map[string]string{"work": "draw off"}
	d, err := a.SaveJob(ctx, edda, joint, j.Job.Version, in)
	require.NoError(t, err)
	_, err = a.Issue(ctx, edda, joint, d.Version, demo.Pin, "")
	require.ErrorIs(t, err, &refusal.Error{Code: refusal.NeedsReason})
	after, err := a.Issue(ctx, edda, joint, d.Version, demo.Pin, "the bearing is changed")
	require.NoError(t, err)
	require.Equal(t, 2, after.Run.Plan.Revision)
	require.True(t, after.Run.Job.Undoes())
	for _, b := range after.Run.Job.Bolts() {
		require.Equal(t, "jacking screws", b.Group)
		require.InDelta(t, 1, b.Level, 0, "they hold until they are undone")
	}
	old, err := a.Run(ctx, j.Run.Head.ID)
	require.NoError(t, err)
	require.Equal(t, run.StageSigned, old.Stage())
}
