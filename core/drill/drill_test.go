package drill_test

import (
	"math"
	"slices"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"dynacor/core/crib"
	"dynacor/core/drill"
	"dynacor/core/refusal"
	"dynacor/core/sequence"
	"dynacor/core/tool"
	"dynacor/core/unit"
)

// site is a site with a crib and recipes of its own.
func site() drill.Material {
	nm := unit.NewtonMetre
	return drill.Material{
		Tools: []crib.Tool{
			{Tag: "TW-1", Name: "click wrench", Kind: crib.Wrench, Face: crib.Ring, Unit: nm, Least: 40, Most: 200, DriveOut: "1/2",
				Scale: tool.Scale{First: 40, Major: 10, Minor: 1}},
			{Tag: "EW-1", Name: "electronic wrench", Kind: crib.Wrench, Face: crib.Electronic, Unit: nm, Least: 30, Most: 300, DriveOut: "1/2",
				Scale: tool.Scale{Minor: 0.1}},
			{Tag: "SO-24", Name: "socket", Kind: crib.Socket, Size: 24, DriveOut: "1/2", Most: 600},
		},
		Stacks: []drill.Stack{{Recipe: "a", Title: "Coupling", First: "driven end", Last: "driving end",
			Parts: []string{"hub", "seal", "disc", "back-up ring", "washer", "nut", "cover"}},
			{Recipe: "b", Title: "Clamp", Parts: []string{"nut", "clamp"}}},
	}
}

// followed are the turns of a hand that looks at the gauge and follows it.
func followed(t require.TestingT, task drill.Task) (moves []drill.Move) {
	g, to := task.Press, 0
	for at := 0.5; task.Kind == drill.Pressure && at < drill.HoldTime; at += 0.5 {
		s, err := g.Stands(moves, at)
		require.NoError(t, err)
		if s.Done {
			break
		}
		if steps := int(math.Round((g.To - s.Pressure) / g.Step)); steps != 0 {
			to = max(0, to+min(steps, 8))
			moves = append(moves, drill.Move{At: at, To: to})
		}
	}
	return moves
}

// The same seed asks the same; the right answer is right, and says why; no other is.
func TestEachDrillIsAnsweredRightAndWrong(t *testing.T) {
	for _, kind := range drill.Kinds() {
		t.Run(string(kind), func(t *testing.T) {
			rapid.Check(t, func(t *rapid.T) {
				seed := rapid.Uint64().Draw(t, "seed")
				task, err := drill.New(kind, seed, site())
				require.NoError(t, err)
				again, err := drill.New(kind, seed, site())
				require.NoError(t, err)
				require.Equal(t, task, again)

				wrong, err := task.Judge(drill.Answer{Value: -3})
				require.NoError(t, err)
				require.False(t, wrong.Holds)
				require.NotEmpty(t, wrong.Why)
				right, err := task.Judge(drill.Answer{Value: wrong.Right, Order: wrong.Order, Moves: followed(t, task)})
				require.NoError(t, err)
				require.True(t, right.Holds, "%+v", task)
				require.NotEmpty(t, right.Why)
				require.Equal(t, wrong.Right, right.Right)
				for _, no := range []float64{math.NaN(), math.Inf(1)} {
					_, err = task.Judge(drill.Answer{Value: no})
					require.Error(t, err)
				}
			})
		})
	}
	_, err := drill.New("juggling", 1, site())
	require.ErrorIs(t, err, &refusal.Error{Code: refusal.Unknown, Field: "drill"})
	_, err = drill.Task{}.Judge(drill.Answer{Value: 1})
	require.Error(t, err)
}

// On rings of 4 to 40, in every order, what is next is what the order says, and no bolt that was pulled.
func TestWhichBoltNext(t *testing.T) {
	orders, sizes := map[sequence.Pattern]bool{}, map[int]bool{}
	for seed := range uint64(2000) {
		task, err := drill.New(drill.NextBolt, seed, drill.Material{})
		require.NoError(t, err)
		n := task.Next
		orders[n.Order], sizes[n.Bolts] = true, true
		order, err := sequence.Ring(n.Order, n.Bolts, n.Start)
		require.NoError(t, err)
		k := len(n.Pulled)
		require.True(t, k >= 1 && k < n.Bolts)
		require.Equal(t, slices.Sorted(slices.Values(order[:k])), n.Pulled)
		require.Equal(t, order[k], n.Right())
		require.True(t, n.Stage >= 1 && n.Stage <= n.Stages && n.Share > 0 && n.Share <= 100)
		for b := 1; b <= n.Bolts; b++ {
			got, err := task.Judge(drill.Answer{Value: float64(b)})
			require.NoError(t, err)
			require.Equal(t, b == order[k], got.Holds)
		}
	}
	require.Len(t, orders, len(sequence.Patterns()))
	require.Len(t, sizes, 37)

	task := drill.Task{Kind: drill.NextBolt, Next: drill.Next{Bolts: 8, Order: sequence.Cross4, Start: 1, Pulled: []int{1, 5}}}
	for answer, why := range map[float64]string{3: "Bolt 3: it follows on bolt 5.", 5: "Bolt 5 was pulled in this pass already",
		2: "Bolt 2 is number 5 of this order. After bolt 5 comes bolt 3, number 3.", 9: "There is no such bolt on a ring of 8",
		2.5: "There is no such bolt"} {
		got, err := task.Judge(drill.Answer{Value: answer})
		require.NoError(t, err)
		require.Contains(t, got.Why, why)
	}
}

func TestConvertIt(t *testing.T) {
	task := drill.Task{Kind: drill.Convert, Convert: drill.Conversion{Value: 88, From: unit.FootPound, To: unit.NewtonMetre}}
	for answer, holds := range map[float64]bool{119.3: true, 119: true, 120: true, 121: false, 118: false, 64.9: false, 0: false} {
		got, err := task.Judge(drill.Answer{Value: answer})
		require.NoError(t, err)
		require.Equal(t, holds, got.Holds, "%g", answer)
		require.Contains(t, got.Why, "1 ft·lbf is 1.3558 N·m: 88 ft·lbf are 119.3 N·m.")
	}
	got, err := task.Judge(drill.Answer{Value: 64.9})
	require.NoError(t, err)
	require.Contains(t, got.Why, "That is the other way round")
	task.Convert.To = unit.Bar
	_, err = task.Judge(drill.Answer{Value: 1})
	require.Error(t, err, "no torque is a pressure")
}

func TestOneClickAndStop(t *testing.T) {
	task := drill.Task{Kind: drill.Click, Click: drill.Stop{Click: 2, Pace: 12}}
	for at, why := range map[float64]string{1.5: "0.50 s before the click", 2.2: "Stopped 0.20 s after the click.",
		3: "1.00 s after the click: 12° past it"} {
		got, err := task.Judge(drill.Answer{Value: at})
		require.NoError(t, err)
		require.Equal(t, at == 2.2, got.Holds)
		require.Contains(t, got.Why, why)
	}
}
