package recipes_test

import (
	"testing"

	"github.com/stretchr/testify/require"

	"dynacor/core/joint"
	"dynacor/core/refusal"
	"dynacor/core/sequence"
	"dynacor/core/unit"
	"dynacor/core/work"
	"dynacor/core/work/worktest"
)

// What follows on a flange that was made is planned from that plan: its bolts,
// their order, and the torque they hold.
func TestWhatFollowsOnAFlange(t *testing.T) {
	r := named(t, "gasketed-flange")
	require.Equal(t, []string{"re-torque", "loosen"}, joint.Follows(r))
	in := anyOf(t, r, map[string]string{"work": "make", "gasket": "sheet", "faces": "raised", "bolts": "machine bolts"})
	b := joint.Bolts{Count: 8, Thread: "3/4-10 UNC", Grade: "B7", SpecifiedFor: "light oil", Lubrication: "light oil", Start: 3}
	in.Groups["bolts"], in.Values["torque"] = b, joint.Given{Value: unit.Of(100, unit.FootPound)}
	compute := func() joint.Result {
		in.Groups["bolts"] = b
		res, err := joint.Compute(in, r)
		require.NoError(t, err)
		require.Empty(t, res.Open)
		return res
	}
	res := compute()
	again, err := joint.Further(in, res, r, "re-torque", in.MadeAt)
	require.NoError(t, err)
	require.Equal(t, map[string]string{"work": "re-torque"}, again.Choices)
	require.Equal(t, unit.Of(100, unit.FootPound), again.Values["stage torque"].Value, "as it was written")
	laid, err := joint.Compute(again, r)
	require.NoError(t, err)
	require.Empty(t, laid.Open)
	require.InDelta(t, res.Groups[0].Torque, laid.Groups[0].Torque, 1e-9)
	require.InDelta(t, res.Groups[0].Load, laid.Groups[0].Load, 1e-6, "the same load as the plan gave")
	require.Equal(t, 3, laid.Groups[0].Start)
	h := worktest.New(t, worktest.Lay(t, again, r))
	require.InDelta(t, 1, h.State.Bolts()[0].Level, 0, "it stands")
	require.True(t, h.State.Plan().Again())
	h.UpTo("again")
	require.Equal(t, 1, h.Next().Round)

	// Where the equivalent was taken, that is what the bolts hold.
	b.Lubrication, b.Decision = "molybdenum disulphide paste", joint.TakeEquivalent
	res = compute()
	again, err = joint.Further(in, res, r, "re-torque", in.MadeAt)
	require.NoError(t, err)
	require.InDelta(t, res.Groups[0].Torque, again.Values["stage torque"].Value.Value, 1e-9)
	laid, err = joint.Compute(again, r)
	require.NoError(t, err)
	require.Empty(t, laid.Open, "nothing is converted twice")
	require.InDelta(t, res.Groups[0].Load, laid.Groups[0].Load, 1e-6)

	off, err := joint.Further(in, res, r, "loosen", in.MadeAt)
	require.NoError(t, err)
	require.Equal(t, 8, off.Groups["tight bolts"].Count)
	require.NotContains(t, off.Groups, "slack bolts", "those are the same bolts")
	b.Order, b.Reason = sequence.Circular, "the maker's letter"
	off, err = joint.Further(in, compute(), r, "loosen", in.MadeAt)
	require.NoError(t, err)
	require.Equal(t, sequence.Circular, off.Groups["tight bolts"].Order, "in the order it was made in")

	b.Prevailing = unit.Of(12, unit.NewtonMetre)
	_, err = joint.Further(in, compute(), r, "re-torque", in.MadeAt)
	require.ErrorIs(t, err, &refusal.Error{Code: refusal.NotNow, Field: "work"})
	_, err = joint.Further(in, compute(), r, "loosen", in.MadeAt)
	require.NoError(t, err, "loosening asks for no torque")
	_, err = joint.Further(in, res, r, "paint", in.MadeAt)
	require.ErrorIs(t, err, &refusal.Error{Code: refusal.Unknown, Field: "work"})
}

// BenchmarkLay lays a joint of every recipe out once: what the Wall does for each
// run after a start.
func BenchmarkLay(b *testing.B) {
	all := shipped(b)
	for i := 0; b.Loop(); i++ {
		r := all[i%len(all)]
		in := anyOf(b, r, r.Variants()[0])
		res, err := joint.Compute(in, r)
		require.NoError(b, err)
		if _, err := work.Lay(in, r, res); err != nil {
			b.Fatal(err)
		}
	}
}
