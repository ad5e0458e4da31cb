package trying_test

import (
	"encoding/json"
	"testing"

	"github.com/stretchr/testify/require"

	"dynacor/core/crib"
	"dynacor/core/drill"
	"dynacor/core/tool"
	"dynacor/core/unit"
	"dynacor/internal/contract"
	"dynacor/internal/trying"
)

// asks asks as the browser does: JSON in.
func asks[T any](t *testing.T, what string, a contract.DrillAsk) T {
	t.Helper()
	b, err := json.Marshal(a)
	require.NoError(t, err)
	is, err := trying.Ask(what, b)
	require.NoError(t, err)
	v, ok := is.(T)
	require.True(t, ok, "%T", is)
	return v
}

// site is what one site's tasks are drawn from, as it is sent.
func site() contract.DrillMaterial {
	tools := []crib.Tool{
		{Tag: "TW-1", Name: "click wrench", Kind: crib.Wrench, Face: crib.Ring, Unit: unit.NewtonMetre, Least: 40, Most: 200, DriveOut: "1/2",
			Scale: tool.Scale{First: 40, Major: 10, Minor: 1}, Falls: true},
		{Tag: "BI-8", Name: "bit", Kind: crib.Socket, Size: 8, DriveOut: "1/2", Most: 120, Inside: true},
		{Tag: "EX-1", Name: "extension", Kind: crib.Extension, DriveIn: "1/2", DriveOut: "1/2", Most: 600},
	}
	part := func(name string) contract.StackPart { return contract.StackPart{Name: name} }
	return contract.DrillMaterial{Tools: trying.ToolsView(tools), Stacks: []contract.DrillStack{{Recipe: "a", Title: "Coupling",
		Stack: contract.Stack{First: "driven end", Last: "driving end", Parts: []contract.StackPart{part("hub"), part("seal"), part("disc"),
			part("washer"), part("nut")}}}}}
}

// What is sent of a site is what tasks are drawn from here: the browser and the server ask the same.
func TestTasksAreTheSameOnBothSides(t *testing.T) {
	m := trying.Material(site())
	require.Equal(t, site().Tools, trying.ToolsView(m.Tools))
	require.Equal(t, []string{"hub", "seal", "disc", "washer", "nut"}, m.Stacks[0].Parts)
	for _, kind := range drill.Kinds() {
		for seed := range 40 {
			a := contract.DrillAsk{Kind: contract.DrillKind(kind), Seed: seed, Material: site()}
			says := asks[contract.DrillTask](t, "task", a)
			here, err := drill.New(kind, uint64(seed), m)
			require.NoError(t, err)
			require.Equal(t, drill.Tasks, says.Tasks)
			set := 0
			for _, is := range []bool{says.Face != nil, says.Next != nil, says.Parts != nil, says.Press != nil, says.Wrong != nil,
				says.Convert != nil, says.Click != nil} {
				if is {
					set++
				}
			}
			require.Equal(t, 1, set, "of its kinds one")
			right, err := here.Judge(drill.Answer{Value: -3})
			require.NoError(t, err)
			a.Given = contract.DrillGiven{Value: -3}
			require.Equal(t, right.Why, asks[contract.DrillJudged](t, "judged", a).Why)
			a.Given = contract.DrillGiven{Value: right.Right, Order: right.Order}
			if kind != drill.Pressure {
				require.True(t, asks[contract.DrillJudged](t, "judged", a).Holds, kind)
			}
		}
	}
}

// A face is turned by its steps and stops at the end of its marks; a pressure stands where its turns have brought it.
func TestAToolIsTurned(t *testing.T) {
	for seed := range 60 {
		a := contract.DrillAsk{Kind: "set it", Seed: seed, Material: site()}
		f := asks[contract.DrillTask](t, "task", a).Face
		if len(f.Steps) == 0 {
			continue
		}
		a.At, a.By = f.At, f.Steps[0]
		if to := asks[contract.Face](t, "shown", a); f.At < f.Shows.Most {
			require.InDelta(t, f.At+f.Steps[0], to.Value, 1e-6*f.Shows.Most, f.Tag)
		}
		a.By = 10 * f.Shows.Most
		require.InDelta(t, f.Shows.Most, asks[contract.Face](t, "shown", a).Value, f.Shows.Minor, f.Tag)
		a.By = -a.By
		require.InDelta(t, f.Shows.First, asks[contract.Face](t, "shown", a).Value, 1e-9, f.Tag)
	}
	a := contract.DrillAsk{Kind: "hold the pressure", Seed: 3, Material: site(), At: 8}
	require.Zero(t, asks[contract.DrillStood](t, "stood", a).Pressure, "it is shut")
	a.Given = contract.DrillGiven{Moves: []contract.DrillMove{{At: 1, To: 40}}}
	s := asks[contract.DrillStood](t, "stood", a)
	require.InDelta(t, 200, s.Pressure, 25)
	require.False(t, s.Done)
	a.Given.Moves[0].To = 400
	s = asks[contract.DrillStood](t, "stood", a)
	require.True(t, s.Over && s.Done)
}

// What cannot be asked is refused, and nothing is answered.
func TestWhatCannotBeAsked(t *testing.T) {
	for what, body := range map[string]string{"task": `{"kind":"juggling","seed":1,"material":{"tools":[],"stacks":[]}}`, "judged": `{`,
		"shown": `{"kind":"order the parts","seed":1,"material":{"tools":[],"stacks":[]}}`, "dance": `{}`} {
		_, err := trying.Ask(what, []byte(body))
		require.Error(t, err, what)
	}
}
