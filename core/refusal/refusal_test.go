package refusal_test

import (
	"errors"
	"fmt"
	"math"
	"testing"

	"github.com/stretchr/testify/require"

	"dynacor/core/refusal"
)

func TestRefusalsCompareByCodeAndField(t *testing.T) {
	err := fmt.Errorf("wrapped: %w", refusal.Positive("bolts", -1, "bolts"))
	require.ErrorIs(t, err, &refusal.Error{Code: refusal.NotPositive})
	require.ErrorIs(t, err, &refusal.Error{Code: refusal.NotPositive, Field: "bolts"})
	require.NotErrorIs(t, err, &refusal.Error{Code: refusal.NotPositive, Field: "thread"})
	require.NotErrorIs(t, err, &refusal.Error{Code: refusal.Negative})
}

func TestNumbersThatAreRefused(t *testing.T) {
	for _, c := range []struct {
		v                  float64
		positive, negative refusal.Code
	}{
		{1, "", ""}, {0, refusal.NotPositive, ""}, {-1, refusal.NotPositive, refusal.Negative}, {math.Inf(1), refusal.NotANumber,
			refusal.NotANumber},
		{math.Inf(-1), refusal.NotANumber, refusal.NotANumber}, {math.NaN(), refusal.NotANumber, refusal.NotANumber}, {1e-9, "", ""},
		{math.SmallestNonzeroFloat64, refusal.NotPositive, ""},
		{2e15, refusal.TooLarge, refusal.TooLarge},
	} {
		for _, x := range []struct {
			err  error
			want refusal.Code
		}{{refusal.Positive("x", c.v, "mm"), c.positive}, {refusal.NotNegative("x", c.v, "mm"), c.negative}} {
			if x.want == "" {
				require.NoError(t, x.err, "%v", c.v)
			} else {
				require.ErrorIs(t, x.err, &refusal.Error{Code: x.want, Field: "x"}, "%v", c.v)
			}
		}
	}
}

func TestSharesBoundsAndRanges(t *testing.T) {
	for _, c := range []struct {
		err  error
		want refusal.Code
	}{
		{refusal.Fraction("x", 1), ""}, {refusal.Fraction("x", 0.1), ""}, {refusal.Fraction("x", 10), refusal.TooLarge},
		{refusal.Fraction("x", 0), refusal.NotPositive},
		{refusal.Within("x", 5, 5, "mm"), ""}, {refusal.Within("x", 5.1, 5, "mm"), refusal.TooLarge}, {refusal.Within("x", -1, 5, "mm"),
			refusal.NotPositive},
		{refusal.Rising("x", 1, 2, "mm"), ""}, {refusal.Rising("x", 2, 2, "mm"), ""}, {refusal.Rising("x", 3, 2, "mm"),
			refusal.Contradicts},
	} {
		if c.want == "" {
			require.NoError(t, c.err)
		} else {
			require.ErrorIs(t, c.err, &refusal.Error{Code: c.want, Field: "x"})
		}
	}
}

func TestAtMovesARefusalToAnotherWord(t *testing.T) {
	was := refusal.Number(refusal.TooLarge, "share", 75, 1, "", "too much.", "Take less.")
	err := refusal.At("target.share", was)
	var r *refusal.Error
	require.True(t, errors.As(err, &r))
	require.Equal(t, "target.share", r.Field)
	require.Equal(t, "share", was.Field, "the refusal itself is not changed")
	require.Equal(t, "too much. Take less.", err.Error())
	plain := errors.New("plain")
	require.Equal(t, plain, refusal.At("x", plain))
	require.NoError(t, refusal.At("x", nil))
	require.Equal(t, plain, refusal.First(nil, plain, was))
	require.NoError(t, refusal.First(nil, nil))
}

func ExampleWithin() {
	err := refusal.Within("boltCircle", 95_000, 20_000, "mm")
	fmt.Println(err)
	// Output: boltCircle is 95000 mm; at most 20000 mm is taken. Check the number and its unit.
}
