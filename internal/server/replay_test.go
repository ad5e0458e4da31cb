package server_test

import (
	"testing"

	"github.com/stretchr/testify/require"

	"dynacor/internal/contract"
)

// A signed joint has its own pulls with it, as its record has them, and the model says what it makes of them.
func TestASignedRunIsReplayed(t *testing.T) {
	marta := open(t).as("marta")
	j := decode[contract.BenchJoint](t, marta.do("GET", "/api/joints/"+marta.joint("PS-1 / MANWAY")+"/bench", nil))
	made := j.Rings[0].Made
	require.NotNil(t, made)
	require.Len(t, made.Pulls, 80, "three stages and a round of 20")
	require.Equal(t, contract.BenchPull{Bolt: 1, Share: 30}, made.Pulls[0])
	require.Equal(t, 1, made.Pulls[79].Round)
	require.Equal(t, 3.5, made.Pitch)
	got := asked[contract.BenchReplayed](t, "replay", contract.BenchReplay{Made: *made, Runs: 200, Seed: 1})
	require.Len(t, got.Tried.Moments, 80)
	require.Len(t, got.Bolts, 20)
	require.Len(t, got.Rounds, 3)
	require.NotNil(t, got.NotFitted, "no angle was read of it")
	require.Nil(t, got.Fitted)

	// Read with angles, it is fitted to, whatever they say.
	for i := range made.Pulls {
		if made.Pulls[i].Share == 100 && made.Pulls[i].Round == 0 {
			made.Pulls[i].Angle = 40 + float64(i%5)
		}
	}
	got = asked[contract.BenchReplayed](t, "replay", contract.BenchReplay{Made: *made, Runs: 200, Seed: 1})
	require.NotNil(t, got.Fitted)
	require.Equal(t, 20, got.Fitted.Readings)
	require.Less(t, got.Fitted.Gasket.Low, got.Fitted.Gasket.Middle)

	// A joint that is not signed has none.
	j = decode[contract.BenchJoint](t, marta.do("GET", "/api/joints/"+marta.joint("IV-2 / BONNET")+"/bench", nil))
	require.Nil(t, j.Rings[0].Made)
}

// What moved in check rounds is told by kind and lubricant, as the entries have it.
func TestWhatMovedHere(t *testing.T) {
	s := open(t)
	marta := s.as("marta")
	got := decode[contract.BenchMoved](t, marta.do("GET", "/api/bench/moved", nil))
	require.NotEmpty(t, got.Rounds)
	kinds := map[string]bool{}
	for _, r := range got.Rounds {
		kinds[r.Kind] = true
		require.True(t, r.Moved <= r.Nuts && r.Nuts > 0 && r.Joints > 0 && r.Round >= 1 && r.Round <= 4, "%v", r)
		require.NotEmpty(t, r.Lubricant)
	}
	require.True(t, kinds["Gasketed pipe flange"] && kinds["Clamping disc on a hollow shaft"], "%v", kinds)
}
