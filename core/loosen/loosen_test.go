package loosen_test

import (
	"fmt"
	"math"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"dynacor/core/friction"
	"dynacor/core/loosen"
	"dynacor/core/refusal"
	"dynacor/core/sequence"
	"dynacor/core/thread"
)

func held(t require.TestingT, age loosen.Age) loosen.Held {
	th, err := thread.Parse("M20")
	require.NoError(t, err)
	l, err := friction.LubricantNamed("light oil")
	require.NoError(t, err)
	return loosen.Held{Thread: th, Lubricant: l, Torque: 260, Kept: 0.7, Age: age}
}

// By hand, M20 with light oil the same shift: K 0.17, p = 2.5/2π = 0.3979 mm,
// K·d = 3.4 mm, so friction's part is 3.0021 mm; at 1.1 of it and a load of
// 0.85: 260·0.85·(1.1·3.0021 − 0.3979)/3.4.
func TestBreakoutByHand(t *testing.T) {
	b, err := held(t, loosen.Fresh).Breakout()
	require.NoError(t, err)
	p := 2.5 / (2 * math.Pi)
	require.InDelta(t, 260*0.85*(1.1*(3.4-p)-p)/3.4, b.Likely, 1e-9)
	require.InDelta(t, 260*0.7*(2.8-2*p)/2.8, b.Low, 1e-9)
	require.InDelta(t, 260*(1.3*(4.2-p)-p)/4.2, b.High, 1e-9)
}

// With age the range rises and widens; it always encloses the likely value,
// rises with what was held, and a fresh joint lets go below what made it.
func TestRangesAreInOrder(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		h := held(t, loosen.Fresh)
		h.Thread = rapid.SampledFrom(thread.All()).Draw(t, "thread")
		h.Lubricant = rapid.SampledFrom(friction.Lubricants()).Draw(t, "lubricant")
		h.Torque = rapid.Float64Range(1, 5000).Draw(t, "torque")
		h.Kept = rapid.Float64Range(0.3, 1).Draw(t, "kept")
		last := loosen.Breakout{}
		for _, h.Age = range loosen.Ages() {
			b, err := h.Breakout()
			require.NoError(t, err)
			require.LessOrEqual(t, b.Low, b.Likely)
			require.LessOrEqual(t, b.Likely, b.High)
			require.GreaterOrEqual(t, b.Low, 0.0)
			require.GreaterOrEqual(t, b.High, last.High)
			require.GreaterOrEqual(t, b.Likely, last.Likely)
			last = b
			h.Prevailing = 0.5 * h.Torque
			half, err := h.Breakout()
			require.NoError(t, err)
			require.InEpsilon(t, h.Prevailing+b.High/2, half.High, 1e-9, "what the nut takes, it takes both ways")
			h.Prevailing = 0
		}
		h.Age = loosen.Fresh
		b, err := h.Breakout()
		require.NoError(t, err)
		require.Less(t, b.Low, h.Torque)
	})
}

func TestWhatCannotBeHeld(t *testing.T) {
	for _, c := range []struct {
		name  string
		edit  func(*loosen.Held)
		field string
	}{
		{"no torque", func(h *loosen.Held) { h.Torque = 0 }, "torque"}, {"NaN", func(h *loosen.Held) { h.Torque = math.NaN() }, "torque"},
		{"nut alone", func(h *loosen.Held) { h.Prevailing = 260 }, "torque"}, {"in percent", func(h *loosen.Held) { h.Kept = 70 }, "kept"},
		{"nothing kept", func(h *loosen.Held) { h.Kept = 0 }, "kept"}, {"unknown age", func(h *loosen.Held) { h.Age = "old" }, "age"},
		{"no lubricant", func(h *loosen.Held) { h.Lubricant = friction.Lubricant{} }, "name"},
	} {
		h := held(t, loosen.Settled)
		c.edit(&h)
		_, err := h.Breakout()
		var r *refusal.Error
		require.ErrorAs(t, err, &r, c.name)
		require.Equal(t, c.field, r.Field, c.name)
	}
}

func TestReleaseTurnsAllBeforeAnyGoesFurther(t *testing.T) {
	order, err := sequence.Ring(sequence.Cross4, 8, 1)
	require.NoError(t, err)
	stages, err := loosen.Release(order)
	require.NoError(t, err)
	require.Equal(t, 90.0, stages[0].Turn)
	require.Equal(t, order, stages[0].Order)
	for _, s := range stages[:2] {
		require.Equal(t, loosen.QuarterTurn, s.Turn)
		require.Len(t, s.Order, 8)
	}
	require.Zero(t, stages[len(stages)-1].Turn, "off by hand only at the end")
	for _, bad := range [][]int{nil, {1, 1}, {1, 3}, {0, 1}} {
		_, err := loosen.Release(bad)
		require.Error(t, err, "%v", bad)
	}
	require.ErrorIs(t, loosen.TakeOut(1, []bool{false, true}), &refusal.Error{Code: refusal.NotNow, Field: "bolt"})
	require.NoError(t, loosen.TakeOut(1, []bool{false, false}))
	require.Error(t, loosen.TakeOut(3, []bool{false, false}))
}

func FuzzBreakout(f *testing.F) {
	f.Add(260.0, 0.0, 0.7, 0.14, 0.17, 0.21)
	f.Add(math.Inf(1), -1.0, 1e300, 0.0, math.NaN(), 5.0)
	f.Fuzz(func(t *testing.T, torque, prevailing, kept, low, nominal, high float64) {
		h := held(t, loosen.Hot)
		h.Torque, h.Prevailing, h.Kept = torque, prevailing, kept
		h.Lubricant = friction.Lubricant{Name: "x", Low: low, Nominal: nominal, High: high}
		b, err := h.Breakout()
		if err == nil && !(b.Low >= 0 && b.Low <= b.Likely && b.Likely <= b.High && !math.IsInf(b.High, 0)) {
			t.Fatalf("%+v gave %+v", h, b)
		}
	})
}

func ExampleHeld_Breakout() {
	th, _ := thread.Parse("M30")
	l, _ := friction.LubricantNamed("molybdenum disulphide paste")
	b, _ := loosen.Held{Thread: th, Lubricant: l, Torque: 749, Kept: 0.7, Age: loosen.Weathered}.Breakout()
	fmt.Printf("%.0f to %.0f N·m, likely %.0f\n", b.Low, b.High, b.Likely)
	// Output: 372 to 1568 N·m, likely 782
}
